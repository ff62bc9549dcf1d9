"""What letters come to on the sheet: each alone, welded, on a bar, in rows of names, and as outline copies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, primitives, transform, translation
from ..geometry.boolean import Combined, union
from ..geometry.nesting import shapes_of
from ..geometry.offset import offset
from ..lettering import baseline as on
from ..lettering.face import Face
from ..lettering.layout import Laid, Set, laid_out, set_at
from ..lettering.setting import Line
from ..model.ids import LASTING
from .grown import band
from .wished import Wished

if TYPE_CHECKING:
    from .words import Words


@dataclass(frozen=True)
class Part:
    """A path that becomes a piece: name, and anchor for its id."""

    path: Path
    name: str
    anchor: str


def one_text(wished: Wished, lines: Sequence[Line]) -> tuple[list[Part], Set, list[Laid]]:
    """What comes off the sheet, at which size, and the letters that can be moved."""
    made = wished.set(lines)
    laid = wished.laid(made)
    return _welded(wished, made, laid, " ".join(line.text.strip() for line in lines), ""), made, laid


def names_in_rows(wished: Wished, lines: Sequence[Line]) -> tuple[list[Part], Set, list[Laid]]:
    """Each line a text of its own, in rows from the top left of the page on; sized alike, or each fitted alike."""
    wish = wished.wish
    if wish.on != "line" or wish.size_by in ("points", "gap"):
        raise CannotDo("A name on each line goes with a straight line only: set other words one by one.")
    lines = [line for line in lines if line.inked]
    fitted = wish.size_by in ("width", "box")
    if fitted:
        sets = [wished.set([line]) for line in lines]
    else:
        em_mm = wished.set(lines).em_mm
        sets = [set_at([line], em_mm, wished.spacing, wish.align) for line in lines]
    wide = max(made.width for made in sets) + wish.gap_mm
    tops, bottoms = zip(*(made.top_bottom for made in sets), strict=True)
    high = max(bottoms) - min(tops) + wish.gap_mm
    left, top = wish.at or (wish.gap_mm, wish.gap_mm)
    all_made: list[Part] = []
    seen: dict[str, int] = {}
    for number, (line, made) in enumerate(zip(lines, sets, strict=True)):
        wished.context.progress(number / len(lines), "Setting names")
        row, column = divmod(number, wish.columns)
        side = {
            "left": made.width / 2,
            "centre": (wide - wish.gap_mm) / 2,
            "right": wide - wish.gap_mm - made.width / 2,
        }
        at = (left + column * wide + side[wish.align], top + row * high - min(tops))
        laid = laid_out(made, on.Straight(at), (0.0, 0.0), wished.moved, wished.ready)
        name = line.text.strip()
        seen[name] = seen.get(name, 0) + 1
        all_made += _welded(wished, made, laid, name, f"{_codes(name)}.{seen[name]}/")
    return all_made, sets[0], []


def _welded(wished: Wished, made: Set, laid: Sequence[Laid], name: str, begin: str) -> list[Part]:
    """The letters of a text as they come off the sheet. begin: what the anchors of this text begin with."""
    weld = wished.wish.weld
    if weld == "apart" or wished.face.single_line:
        said = [(each.letter.text, each.nth, each.path) for each in laid]
        return [Part(path, letter, f"{LASTING}{begin}{_codes(letter)}.{nth}") for letter, nth, path in said]
    made_of = union(*(each.path for each in laid), *(_bars(wished, made) if weld == "bar" else ()))
    parts = _parts(made_of, laid)
    if len(parts) > 1 and weld == "bar":
        # What stands over a letter without touching it stays with the word.
        parts = [(made_of.path, name)]
    elif len(parts) == 1:
        parts = [(parts[0][0], name)]
    return [Part(path, said, f"{LASTING}{begin}word.{nth + 1}") for nth, (path, said) in enumerate(parts)]


def _parts(made: Combined, laid: Sequence[Laid]) -> list[tuple[Path, str]]:
    """The shapes of a union of letters in reading order, each with the letters that it is of."""
    found = []
    for rows in shapes_of(made.path):
        starts = made.path.start
        of = np.unique(np.concatenate([made.operand[starts[row] : starts[row + 1]] for row in rows]))
        letters = [int(each) for each in of if each < len(laid)]
        found.append((letters, made.path.take(rows), "".join(laid[each].letter.text for each in letters)))
    return [(path, said) for letters, path, said in sorted(found, key=lambda each: each[0])]


def _bars(wished: Wished, made: Set) -> list[Path]:
    """A bar under each line, from its first letter to its last, that letters sink into."""
    wish = wished.wish
    if wish.on != "line" and wish.size_by not in ("points", "gap"):
        raise CannotDo("A bar is straight: set the words on a straight line, or choose another way to weld them.")
    if wish.each:
        raise CannotDo("Names in rows have no bar yet: set them one by one, or choose another way to weld them.")
    line, shift = wished.baseline(made)
    frame = line.frames(np.array([shift[0]]), shift[1])[0]
    step = made.spacing.line * made.em_mm
    return [
        transform(
            primitives.rectangle(
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


def outline_copies(wish: Words, face: Face, made: Sequence[Part]) -> list[Part]:
    """Outlines of a line's width round all letters, each copy shifted once more; the farthest lies lowest."""
    if face.single_line:
        raise CannotDo("A single-line face has no outline to be copied: choose another face.")
    whole = union(*(one.path for one in made)).path
    ring = band(offset(whole, distance_mm=wish.copy_mm).path, whole)
    x, y = wish.copy_by
    return [
        Part(transform(ring, translation(nth * x, nth * y)), f"outline {nth}", f"{LASTING}outline.{nth}")
        for nth in range(wish.copies, 0, -1)
    ]
