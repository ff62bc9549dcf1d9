"""FACES: the faces that ship, a line each; and any face by its id."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path as File

from ..errors import BadRequest, NotThere
from .face import Face

#: Gives the bytes of a face that a person brought, by their hash.
FontReader = Callable[[str], bytes]
_FOLDER = File(__file__).parent / "faces"
#: So many faces are kept ready.
_READY = 64


@dataclass(frozen=True)
class Shipped:
    """A face that ships. suits: what it is for, in words. joins: whether its letters run into each other. file: of the
    folder `faces`, or the name of a single-line face in the package hershey-fonts."""

    id: str
    name: str
    suits: str
    file: str
    joins: bool = False
    single_line: bool = False


FACES: tuple[Shipped, ...] = (
    Shipped("pacifico", "Pacifico", "joining script, heavy", "Pacifico_400Regular.ttf", joins=True),
    Shipped("dancing-script", "Dancing Script", "joining script, light", "DancingScript_700Bold.ttf", joins=True),
    Shipped("archivo-black", "Archivo Black", "bold sans", "ArchivoBlack_400Regular.ttf"),
    Shipped("anton", "Anton", "bold sans, narrow", "Anton_400Regular.ttf"),
    Shipped("alfa-slab", "Alfa Slab One", "slab, heavy", "AlfaSlabOne_400Regular.ttf"),
    Shipped("libre-baskerville", "Libre Baskerville", "serif, bold", "LibreBaskerville_700Bold.ttf"),
    Shipped("allerta-stencil", "Allerta Stencil", "stencil: nothing drops out", "AllertaStencil_400Regular.ttf"),
    Shipped("varela-round", "Varela Round", "rounded", "VarelaRound_400Regular.ttf"),
    Shipped("fredoka", "Fredoka", "rounded, bold", "Fredoka_600SemiBold.ttf"),
    Shipped("patrick-hand", "Patrick Hand", "hand", "PatrickHand_400Regular.ttf"),
    Shipped("righteous", "Righteous", "display", "Righteous_400Regular.ttf"),
    Shipped("share-tech-mono", "Share Tech Mono", "figures that line up", "ShareTechMono_400Regular.ttf"),
    Shipped("secular", "Secular One", "Hebrew and Latin, bold", "SecularOne_400Regular.ttf"),
    Shipped("lalezar", "Lalezar", "Arabic and Latin, heavy", "Lalezar_400Regular.ttf"),
    Shipped("line-plain", "Plain line", "single line, for a pen or a score", "futural", single_line=True),
    Shipped("line-roman", "Roman line", "single line, for a pen or a score", "rowmans", single_line=True),
    Shipped("line-script", "Script line", "single line, joining", "scripts", joins=True, single_line=True),
    Shipped("line-double", "Double line", "two lines a stroke, for a pen or a score", "futuram", single_line=True),
)
_BY_ID = {face.id: face for face in FACES}
#: The one that is proposed.
USUAL = "archivo-black"


def shipped(identity: str) -> Shipped | None:
    """The face of that id, or of that name, among those that ship."""
    return _BY_ID.get(identity) or next((f for f in FACES if f.name.casefold() == identity.casefold()), None)


def is_brought(identity: str) -> bool:
    """Whether an id is that of a face that a person brought: the SHA-256 of its bytes."""
    return len(identity) == 64 and all(c in "0123456789abcdef" for c in identity)


def face_of(identity: str, font: FontReader | None = None, axes: Mapping[str, float] | None = None) -> Face:
    """A face by its id: one that ships, or one that `font` has the bytes of. axes: values of a variable face, by their
    tags. Raises BadRequest for an id that is neither, NotThere where its bytes are not at hand."""
    found = shipped(identity)
    place = tuple(sorted((axes or {}).items()))
    if found:
        return _shipped_face(found.id, place)
    if not is_brought(identity):
        raise BadRequest(f'"{identity}" is no face that is known here: use one of {", ".join(_BY_ID)}.')
    if font is None:
        raise NotThere("The face of these letters is not at hand: bring it in again.")
    # Asked for each time: who may read it is the reader's to say.
    return _brought_face(identity, place, _Bytes(font(identity)))


class _Bytes:
    """Bytes that are all one to the cache, since the hash beside them says which they are."""

    def __init__(self, data: bytes) -> None:
        self.data = data

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Bytes)

    def __hash__(self) -> int:
        return 0


@lru_cache(_READY)
def _shipped_face(identity: str, place: tuple[tuple[str, float], ...]) -> Face:
    found = _BY_ID[identity]
    if found.single_line:
        from .line_face import LineFace

        return LineFace(found.file, found.name)
    from .outline_face import OutlineFace

    return OutlineFace((_FOLDER / found.file).read_bytes(), dict(place))


@lru_cache(_READY)
def _brought_face(identity: str, place: tuple[tuple[str, float], ...], data: _Bytes) -> Face:
    from .outline_face import OutlineFace

    return OutlineFace(data.data, dict(place))
