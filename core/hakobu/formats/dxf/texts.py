"""Text in DXF files: where it stands and how large. Source: the DXF reference, TEXT and MTEXT."""

from __future__ import annotations

import numpy as np

from ...model.texts import FoundText

#: What of a TEXT lies at its second point (group 72), and of an MTEXT at its first (group 71, by columns).
_ALIGNED = {0: "start", 1: "centre", 2: "end", 3: "start", 4: "centre", 5: "start"}
_COLUMNS = ("start", "centre", "end")
#: From line to line of an MTEXT, as a share of the height of its letters: its usual factor of 5/3.
_LINE = 5 / 3


def found_text(entity, words: str, family: str) -> FoundText:
    """A TEXT, MTEXT or attribute in the file's units, y up; heights are those of capitals."""
    return _mtext(entity, words, family) if entity.dxftype() == "MTEXT" else _text(entity, words, family)


def _text(entity, words: str, family: str) -> FoundText:
    dxf = entity.dxf
    first = _point(dxf.get("insert", (0, 0)))
    last = _point(dxf.get("align_point", first))
    across, down = int(dxf.get("halign", 0)), int(dxf.get("valign", 0))
    turn, height = float(dxf.get("rotation", 0.0)), float(dxf.get("height", 1.0))
    between = across in (3, 5)
    if between:
        # Its letters reach from the one point to the other.
        turn = float(np.degrees(np.arctan2(*(last - first)[::-1])))
    at = last if (across or down) and not between else first
    # Over its place it stands with its middle or its top there; letters then reach so far below it.
    below = {2: height / 2, 3: height}.get(down, height / 2 if across == 4 else 0.0)
    wide = float(np.hypot(*(last - first))) if between else 0.0
    return _placed(words, at, below, turn, height, _ALIGNED.get(across, "start"), family, wide)


def _mtext(entity, words: str, family: str) -> FoundText:
    dxf = entity.dxf
    height, point = float(dxf.get("char_height", 1.0)), int(dxf.get("attachment_point", 1))
    way = dxf.get("text_direction", None)
    turn = float(np.degrees(np.arctan2(way[1], way[0]))) if way is not None else float(dxf.get("rotation", 0.0))
    rest = words.count("\n") * height * _LINE * float(dxf.get("line_spacing_factor", 1.0))
    below = (height, (height - rest) / 2, -rest)[min((point - 1) // 3, 2)]
    at = _point(dxf.get("insert", (0, 0)))
    return _placed(words, at, below, turn, height, _COLUMNS[(point - 1) % 3], family, 0.0)


def _placed(words, at, below, turn, height, anchor, family, wide) -> FoundText:
    angle = np.radians(turn)
    x, y = at + below * np.array([np.sin(angle), -np.cos(angle)])
    return FoundText(words, (float(x), float(y)), height, "capitals", anchor, turn, family, wide)


def _point(value) -> np.ndarray:
    return np.array([float(value[0]), float(value[1])])
