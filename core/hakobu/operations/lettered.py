"""What a step of words makes: letters set, made ready, welded, placed, and as pieces that keep their ids."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import Path, bounds, figures, transform, translation
from ..geometry.boolean import Combined, union
from ..geometry.nesting import shapes_of
from ..geometry.offset import offset
from ..lettering import baseline as on
from ..lettering.cut_ready import bridged, filled, parts_joined
from ..lettering.face import Face
from ..lettering.faces import face_of
from ..lettering.layout import Laid, Moved, Set, Spacing, em_of, laid_out, set_at
from ..lettering.setting import Line, plain_text, set_line
from ..model import Document, Fill, Group, Layer, Piece, Stroke, Treatment
from ..model.declare import MOST_MM
from ..model.ids import LASTING, piece_id
from .grown import band
from .operation import Context
from .shape import LINE_MM

if TYPE_CHECKING:
    from .words import Words

INK = "#1b2a4e"
MOST_NAME = 80


@dataclass(frozen=True)
class Lettered:
    """pieces and groups that are new, all layers, and what is to be told: size of the ink, the height of capitals, how
    many letters, the name of the face and what it lacks."""

    pieces: tuple[Piece, ...]
    groups: tuple[Group, ...]
    layers: tuple[Layer, ...]
    size_mm: tuple[float, float]
    capitals_mm: float
    letters: int
    face: str
    lacking: tuple[str, ...]


@dataclass(frozen=True)
class _Made:
    """A path that becomes a piece: name, and anchor for its id."""

    path: Path
    name: str
    anchor: str


def plain_lines(text: str) -> list[str]:
    """The lines of a text. Raises BadRequest where there is nothing to set."""
    return plain_text(text).strip("\n").split("\n")


def lettered(document: Document, wish: Words, context: Context, along: Sequence[Piece]) -> Lettered:
    """Raises BadRequest and CannotDo, saying what to change."""
    face = face_of(wish.face, context.font, _axes(wish))
    texts = plain_lines(wish.text)
    features = dict.fromkeys(wish.forms, True)
    features |= {tag: False for tag, wanted in (("liga", wish.ligatures), ("kern", wish.kerning)) if not wanted}
    lines = [set_line(face, each, features) for each in texts]
    lacking = tuple(dict.fromkeys(sign for one in lines for sign in one.lacking))
    if not any(one.inked for one in lines):
        raise CannotDo(_nothing(face, lacking))
    work = _Work(document, wish, context, face, along)
    made, shown = (_names if wish.each else _one_text)(work, lines)
    layers, layer, outlines = _layers(document, wish, context.key, face)
    pieces = [_piece(context.key, one, layer) for one in made]
    copies = [_piece(context.key, one, outlines) for one in _copies(wish, face, made)] if wish.copies else []
    groups = _groups(context.key, wish, made, [*copies, *pieces])
    box = bounds(Path.concatenate(one.path for one in made))
    return Lettered(
        (*copies, *pieces),
        groups,
        layers,
        (box[2] - box[0], box[3] - box[1]),
        shown.em_mm * face.capitals / 100.0,
        sum(len(one.inked) for one in lines),
        face.told.name,
        lacking,
    )


def _axes(wish: Words) -> dict[str, float]:
    axes = wish.axes or {}
    if any(not isinstance(value, int | float) or isinstance(value, bool) for value in axes.values()):
        raise BadRequest('"axes" must name a number for each axis.')
    return {str(tag): float(value) for tag, value in axes.items()}


def _nothing(face: Face, lacking: Sequence[str]) -> str:
    signs = " ".join(lacking)
    if not lacking:
        return "There is nothing to set: type a letter."
    return f"{face.told.name} has none of these letters ({signs}): choose another face."


@dataclass(frozen=True)
class _Work:
    """One step's work, with what its parts have in common."""

    document: Document
    wish: Words
    context: Context
    face: Face
    along: Sequence[Piece]

    @cached_property
    def spacing(self) -> Spacing:
        wish = self.wish
        if wish.weld == "closed":
            return Spacing(-wish.overlap_mm, True, wish.line_spacing)
        return Spacing(wish.apart_mm, wish.spacing == "outlines", wish.line_spacing)

    @cached_property
    def moved(self) -> dict[tuple[str, int], Moved]:
        return _moved(self.wish.letters or {})

    @cached_property
    def ready(self) -> Callable[[Path], Path]:
        """What is done to each letter."""
        wish, steps = self.wish, []
        if self.face.single_line:
            return lambda path: path
        if wish.counters == "fill":
            steps.append(filled)
        if wish.dots:
            steps.append(lambda path: parts_joined(path, wish.strip_mm))
        if wish.counters == "bridge":
            steps.append(lambda path: bridged(path, wish.bridges, wish.bridge_mm, np.radians(wish.bridge_turn)))

        def run(path: Path) -> Path:
            for step in steps:
                path = step(path)
            return path

        return run

    def set(self, lines: Sequence[Line]) -> Set:
        """Lines at the size that is wished for."""
        wish, by = self.wish, self.wish.size_by
        if by == "box":
            ems = [em_of(self.face, lines, "width", wish.width_mm, self.spacing)]
            ems.append(em_of(self.face, lines, "whole", wish.height_mm, self.spacing))
            return set_at(lines, min(ems), self.spacing, wish.align)
        size = {"width": wish.width_mm, "points": self.reach[1]}.get(by, wish.size_mm)
        em = em_of(self.face, lines, "width" if by == "points" else by, size, self.spacing)
        return set_at(lines, em, self.spacing, wish.align)

    @cached_property
    def reach(self) -> tuple[tuple[float, float], float, float]:
        """The middle between the two points, how far apart they are, and the angle in radians."""
        if self.wish.size_by != "points":
            return (0.0, 0.0), 0.0, 0.0
        if self.wish.points is None:
            raise BadRequest("Say from which point to which point the words reach.")
        x0, y0, x1, y1 = self.wish.points
        far = float(np.hypot(x1 - x0, y1 - y0))
        if far < 0.1:
            raise BadRequest("The two points lie on each other: take them farther apart.")
        return ((x0 + x1) / 2, (y0 + y1) / 2), far, float(np.arctan2(y1 - y0, x1 - x0))

    def place(self) -> tuple[float, float]:
        width, height = self.document.frame
        there = self.document.page or self.document.pieces
        return self.wish.at or ((width / 2, height / 2) if there else (0.0, 0.0))

    def laid(self, made: Set) -> list[Laid]:
        """The letters of one text where they stand."""
        line, shift = self._baseline(made)
        return laid_out(made, line, shift, self.moved, self.ready)

    def _baseline(self, made: Set) -> tuple[on.Baseline, tuple[float, float]]:
        wish, turn = self.wish, np.radians(self.wish.turn)
        at = self.place()
        if wish.size_by == "points":
            middle, _, turn = self.reach
            return on.Straight(middle, turn), (0.0, 0.0)
        if wish.on == "outline":
            if not self.along:
                raise CannotDo("Pick the outline that the letters are to stand on.")
            return on.OnOutline(self.along[0].path, wish.out_mm, wish.start, wish.backwards), (0.0, 0.0)
        if wish.on in ("outside", "inside"):
            inside = wish.on == "inside"
            # Inside a circle letters read the right way up at the bottom.
            middle = turn + 2 * np.pi * wish.start + (np.pi if inside else 0.0)
            return on.Round(at, wish.radius_mm, middle, inside), (0.0, 0.0)
        if wish.on in ("arc", "bowl"):
            side = 1 if wish.on == "arc" else -1
            centre = (at[0] - side * wish.radius_mm * np.sin(turn), at[1] + side * wish.radius_mm * np.cos(turn))
            bowl = wish.on == "bowl"
            return on.Round(centre, wish.radius_mm, turn + (np.pi if bowl else 0.0), bowl), (0.0, 0.0)
        if wish.anchor == "middle":
            top, bottom = made.top_bottom
            return on.Straight(at, turn), (0.0, -(top + bottom) / 2)
        side = {"start": 1, "centre": 0, "end": -1}[wish.anchor]
        return on.Straight(at, turn), (side * made.width / 2, 0.0)


def _is_moved(values: object) -> bool:
    known = isinstance(values, dict) and set(values) <= {f.name for f in fields(Moved)}
    return known and all(isinstance(v, int | float) and abs(v) <= MOST_MM for v in values.values())


def _moved(letters: dict) -> dict[tuple[str, int], Moved]:
    made = {}
    for name, values in letters.items():
        said, _, nth = name.rpartition(" ")
        if not nth.isdecimal() or not _is_moved(values):
            raise BadRequest(
                f'"letters" does not say what is meant by "{name[:20]}": '
                'name letters as "K 1", each with along, up, turn, shear, wide or high.'
            )
        angles = {key: np.radians(values[key]) for key in ("turn", "shear") if key in values}
        made[said, int(nth)] = Moved(**(values | angles))
    return made


def _one_text(work: _Work, lines: Sequence[Line]) -> tuple[list[_Made], Set]:
    made = work.set(lines)
    return _welded(work, made, work.laid(made), " ".join(line.text.strip() for line in lines), ""), made


def _names(work: _Work, lines: Sequence[Line]) -> tuple[list[_Made], Set]:
    """Each line a text of its own, in rows from the top left of the page on; sized alike, or each fitted alike."""
    wish = work.wish
    if wish.on != "line" or wish.size_by == "points":
        raise CannotDo("A name on each line goes with a straight line only: set other words one by one.")
    lines = [line for line in lines if line.inked]
    fitted = wish.size_by in ("width", "box")
    alike = None if fitted else work.set(lines)
    sets = [work.set([line]) if fitted else set_at([line], alike.em_mm, work.spacing, wish.align) for line in lines]
    wide = max(made.width for made in sets) + wish.gap_mm
    tops, bottoms = zip(*(made.top_bottom for made in sets), strict=True)
    high = max(bottoms) - min(tops) + wish.gap_mm
    left, top = wish.at or (wish.gap_mm, wish.gap_mm)
    all_made: list[_Made] = []
    seen: dict[str, int] = {}
    for number, (line, made) in enumerate(zip(lines, sets, strict=True)):
        work.context.progress(number / len(lines), "Setting names")
        row, column = divmod(number, wish.columns)
        side = {
            "left": made.width / 2,
            "centre": (wide - wish.gap_mm) / 2,
            "right": wide - wish.gap_mm - made.width / 2,
        }
        at = (left + column * wide + side[wish.align], top + row * high - min(tops))
        laid = laid_out(made, on.Straight(at), (0.0, 0.0), work.moved, work.ready)
        name = line.text.strip()
        seen[name] = seen.get(name, 0) + 1
        all_made += _welded(work, made, laid, name, f"{_codes(name)}.{seen[name]}/")
    return all_made, sets[0]


def _welded(work: _Work, made: Set, laid: Sequence[Laid], name: str, begin: str) -> list[_Made]:
    """The letters of a text as they come off the sheet. begin: what the anchors of this text begin with."""
    weld = work.wish.weld
    if weld == "apart" or work.face.single_line:
        seen: dict[str, int] = {}
        apart = []
        for each in laid:
            said = each.letter.text
            seen[said] = seen.get(said, 0) + 1
            apart.append(_Made(each.path, said, f"{LASTING}{begin}{_codes(said)}.{seen[said]}"))
        return apart
    made_of = union(*(each.path for each in laid), *(_bars(work, made) if weld == "bar" else ()))
    parts = _parts(made_of, laid)
    if len(parts) > 1 and weld == "bar":
        # What stands over a letter without touching it stays with the word.
        parts = [(made_of.path, name)]
    elif len(parts) == 1:
        parts = [(parts[0][0], name)]
    return [_Made(path, said, f"{LASTING}{begin}word.{nth + 1}") for nth, (path, said) in enumerate(parts)]


def _parts(made: Combined, laid: Sequence[Laid]) -> list[tuple[Path, str]]:
    """The shapes of a union of letters in reading order, each with the letters that it is of."""
    found = []
    for rows in shapes_of(made.path):
        starts = made.path.start
        of = np.unique(np.concatenate([made.operand[starts[row] : starts[row + 1]] for row in rows]))
        letters = [int(each) for each in of if each < len(laid)]
        found.append((letters, made.path.take(rows), "".join(laid[each].letter.text for each in letters)))
    return [(path, said) for letters, path, said in sorted(found, key=lambda each: each[0])]


def _bars(work: _Work, made: Set) -> list[Path]:
    """A bar under each line, from its first letter to its last, that letters sink into."""
    wish = work.wish
    if wish.on != "line" and wish.size_by != "points":
        raise CannotDo("A bar is straight: set the words on a straight line, or choose another way to weld them.")
    if wish.each:
        raise CannotDo("Names in rows have no bar yet: set them one by one, or choose another way to weld them.")
    line, shift = work._baseline(made)
    frame = line.frames(np.array([shift[0]]), shift[1])[0]
    step = made.spacing.line * made.em_mm
    return [
        transform(
            figures.rectangle(
                each.left + made.starts(each), n * step - wish.sink_mm, each.right - each.left, wish.bar_mm
            ),
            frame,
        )
        for n, each in enumerate(made.lines)
        if each.line.inked
    ]


def _codes(said: str) -> str:
    """A text as an id can hold it."""
    return "-".join(f"{ord(sign):x}" for sign in said[:40])


def _copies(wish: Words, face: Face, made: Sequence[_Made]) -> list[_Made]:
    """Outlines of a line's width round all letters, each copy shifted once more; the farthest lies lowest."""
    if face.single_line:
        raise CannotDo("A single-line face has no outline to be copied: choose another face.")
    whole = union(*(one.path for one in made)).path
    ring = band(offset(whole, distance_mm=wish.copy_mm).path, whole)
    x, y = wish.copy_by
    return [
        _Made(transform(ring, translation(nth * x, nth * y)), f"outline {nth}", f"{LASTING}outline.{nth}")
        for nth in range(wish.copies, 0, -1)
    ]


def _layers(document: Document, wish: Words, key: str, face: Face) -> tuple[tuple[Layer, ...], Layer, Layer]:
    """All layers, the one that the words lie on, and the one that outline copies lie on, below it."""
    known = document.layer_by_id.get(wish.layer)
    name = " ".join(wish.text.split())[:40]
    treatment = Treatment(wish.treatment or ("draw" if face.single_line else "cut"))
    layer = known or Layer(f"{key}:layer", name, wish.colour or INK, treatment, wish.material)
    outlines = Layer(f"{key}:outlines", f"{name}, outlines"[:MOST_NAME], layer.color, layer.treatment, layer.material)
    layers = document.layers if known else (*document.layers, layer)
    if wish.copies:
        at = layers.index(layer)
        layers = (*layers[:at], outlines, *layers[at:])
    return layers, layer, outlines


def _piece(key: str, made: _Made, layer: Layer) -> Piece:
    lines = len(made.path) and not made.path.closed.all()
    looks = {"stroke": Stroke(layer.color, LINE_MM)} if lines else {"fill": Fill(layer.color)}
    return Piece(piece_id(key, made.anchor), made.path, layer.id, made.name[:MOST_NAME], **looks)


def _groups(key: str, wish: Words, made: Sequence[_Made], pieces: Sequence[Piece]) -> tuple[Group, ...]:
    """What stays together: all of a text with its copies; in a list, each name that is more than one piece."""
    if not wish.each:
        name = " ".join(wish.text.split())[:MOST_NAME]
        return (Group(piece_id(key, f"{LASTING}words"), name, tuple(p.id for p in pieces)),) if len(pieces) > 1 else ()
    of_name: dict[str, list[_Made]] = {}
    for one in made:
        of_name.setdefault(one.anchor.partition("/")[0], []).append(one)
    return tuple(
        Group(piece_id(key, begin), many[0].name, tuple(piece_id(key, one.anchor) for one in many))
        for begin, many in of_name.items()
        if len(many) > 1
    )
