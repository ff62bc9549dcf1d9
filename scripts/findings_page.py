"""Draws docs/findings.md and its pictures anew from the rules' metadata and planted faults; run as it stands."""

from __future__ import annotations

import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core")]

from tests.planted import planted  # noqa: E402

from hakobu.checks import RULES, check  # noqa: E402
from hakobu.checks.applier import apply_edit, edit_for  # noqa: E402
from hakobu.checks.rule import DOCUMENT, LINES, SHAPES  # noqa: E402
from hakobu.geometry import Path as Outlines  # noqa: E402
from hakobu.geometry import bounds  # noqa: E402
from hakobu.geometry.path_text import path_data  # noqa: E402
from hakobu.model.notices import NOTICES  # noqa: E402

PICTURES = ROOT / "docs" / "pictures" / "findings"
#: The form, and the size in mm, in which a fault is best seen.
SHOWN = {"tiny-segment": (3, 10.0), "stray-node": (1, 10.0), "speck": (1, 10.0), "leftover-hollow": (0, 10.0)}
SHOWN |= {"spike": (2, 20.0), "double-outline": (0, 10.0), "thin-strip": (4, 10.0), "thin-gap": (4, 10.0)}
SHOWN |= {"jagged-line": (0, 10.0), "sliver": (1, 10.0), "open-path": (5, 10.0), "out-of-reach": (0, 10.0)}
#: Seen only close up: so far to either side of the place, in mm.
NEAR = {
    "tiny-segment": 0.3,
    "speck": 1.5,
    "leftover-hollow": 1.5,
    "double-outline": 1.2,
    "open-path": 1.0,
    "thin-gap": 1.0,
}
NEAR |= {"stray-node": 1.5, "finer-than-the-tool": 1.5, "jagged-line": 2.0, "spike": 6.0}
TITLES = {LINES: "Lines", SHAPES: "Shapes", DOCUMENT: "The whole document"}
INK, FLAG, PAPER = "#1b2a4e", "#c2361f", "#fffdf7"
SIDE = 180


def tile(document, x: int, box, finding=None) -> str:
    """A document's lines in a square tile, the place of a finding marked."""
    left, top, right, bottom = box
    size = max(right - left, bottom - top) * 1.16
    scale = SIDE / size
    dx, dy = x + SIDE / 2 - (left + right) / 2 * scale, SIDE / 2 - (top + bottom) / 2 * scale
    parts = [f'<rect x="{x}" y="0" width="{SIDE}" height="{SIDE}" fill="{PAPER}"/>']
    for piece in document.pieces:
        data = path_data(piece.path)
        fill = f"{piece.fill.color}" if piece.fill else "none"
        faint = ' fill-opacity="0.14"' if piece.fill else ""
        rule = ' fill-rule="evenodd"' if piece.fill_rule == "evenodd" else ""
        parts.append(
            f'<path d="{data}" transform="translate({dx:.3f} {dy:.3f}) scale({scale:.5f})" fill="{fill}"{faint}{rule}'
            f' stroke="{INK}" stroke-width="1.2" vector-effect="non-scaling-stroke"/>'
        )
        nodes = piece.path.ctrl[:, (0, 3)].reshape(-1, 2) * scale + (dx, dy)
        seen = nodes[((nodes > (x, 0)) & (nodes < (x + SIDE, SIDE))).all(axis=1)]
        if len(seen) <= 120:
            parts += [
                f'<circle cx="{u:.1f}" cy="{v:.1f}" r="2.2" fill="{INK}"/>'
                for u, v in dict.fromkeys(map(tuple, seen.round(1)))
            ]
    if finding is not None and finding.place:
        cx, cy = finding.place[0] * scale + dx, finding.place[1] * scale + dy
        parts.append(f'<circle cx="{cx:.1f}" cy="{cy:.1f}" r="9" fill="none" stroke="{FLAG}" stroke-width="2"/>')
    clip = f'<svg x="{x}" y="0" width="{SIDE}" height="{SIDE}" viewBox="{x} 0 {SIDE} {SIDE}">'
    return f"{clip}{''.join(parts)}</svg>"


def picture_of(rule) -> tuple[str, str]:
    """The picture before and after, and what is said there."""
    form, size = SHOWN.get(rule.id, (0, 40.0))
    made = planted(rule.id, form, size)
    finding = next(f for f in check(made.document, made.conditions, [rule]))
    whole = Outlines.concatenate(piece.path for piece in made.document.pieces)
    box = bounds(whole) or (0.0, 0.0, 10.0, 10.0)
    if rule.id in NEAR and finding.place:
        (u, v), far = finding.place, NEAR[rule.id]
        box = (u - far, v - far, u + far, v + far)
    edit = edit_for(made.document, finding, made.conditions) if finding.mendable else None
    tiles = tile(made.document, 0, box, finding)
    wide = SIDE
    if edit is not None:
        tiles += tile(apply_edit(made.document, edit), SIDE + 12, box)
        wide = 2 * SIDE + 12
    clip = f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide}" height="{SIDE}" viewBox="0 0 {wide} {SIDE}">'
    return f"{clip}{tiles}</svg>\n", finding.message


def page() -> str:
    lines = ["# Findings", ""]
    lines += [
        "Made from the rules' own metadata by `scripts/findings_page.py`; the pictures are planted faults, before and,",
        "where there is a mend, after it. *Safe* mends are taken by one press; the others are shown first. Thresholds",
        "marked as common practice have no published source. Those of strips, gaps and parts are the material's.",
        "",
    ]
    for about, title in TITLES.items():
        lines += [f"## {title}", ""]
        for rule in (r for r in RULES if r.about == about):
            drawn, message = picture_of(rule)
            (PICTURES / f"{rule.id}.svg").write_text(drawn)
            lines += [f"### `{rule.id}`: {rule.title}", "", f"![{rule.id}](pictures/findings/{rule.id}.svg)", ""]
            lines += [f"*{rule.level.value}.* {rule.effect}", "", f"> {message}", ""]
            lines += [f"- {threshold}" for threshold in rule.thresholds]
            ways = ", ".join(label for _, label in rule.choices)
            lines += [f"- mended in one of several ways: {ways}"] if ways else []
            doc = " ".join((rule.mend.__doc__ or "").split()) if rule.mend else "There is no mend by itself."
            lines += [f"- {doc[0].lower()}{doc[1:]}", ""]
    lines += ["## What readers say of a file", "", "| finding | level | what it means |", "|---|---|---|"]
    lines += [f"| `{n.id}`: {n.title} | {n.level.value} | {n.effect} |" for n in NOTICES]
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    PICTURES.mkdir(parents=True, exist_ok=True)
    (ROOT / "docs" / "findings.md").write_text(page())
