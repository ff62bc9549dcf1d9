"""Machine files whose strokes are changed at random: removed, doubled, or moved by a tenth of a millimetre or more."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import Path
from hakobu.machines import options_for
from hakobu.machines.proof import Proof, compare_lines, followed_path
from hakobu.model import Document, Layer, Page, Piece, Treatment
from hakobu.toolpaths import Plan, lines_of, make
from tests.shapes import blob, circle, square

from .worked import KNIFE, LASER

LAYERS = (
    Layer("a", "Cuts", "#26272b"),
    Layer("b", "Folds", "#8a5a2b", Treatment.SCORE),
    Layer("c", "Notes", "#1b2a4e", Treatment.DRAW),
)
FOLD = Path.from_points(np.array([(30.0, 50.0), (70.0, 50.0)]), closed=False)
#: Cut, scored and drawn, with curves.
DESIGN = Document(
    Page(300.0, 200.0),
    LAYERS,
    (
        Piece("ring", Path.concatenate([square(30, 30, 40), circle(45, 60, 6).reversed()]), "a"),
        Piece("blob", blob().take([0]), "a"),
        Piece("fold", FOLD, "b"),
        Piece("note", circle(120, 60, 20), "c"),
    ),
)
#: Machines that work it, by what differs.
WAYS = (
    {},
    {"kerf_mm": 0.2, "overcut_mm": 0.5, "lead_in_mm": 1.0, "lead_out_mm": 1.0},
    {"passes": 3, "pass_depth_mm": 0.3, "tabs": 2, "perforate_mm": 3.0},
    {"blade_offset_mm": 0.25, "overcut_mm": 0.5, "corner_percent": 50.0},
    {"origin": "centre", "mirror_x": True, "swap_axes": True, "start": "smooth", "direction": "climb"},
    {"unit": "in", "steps": "100", "arcs": True, "dwell_s": 0.2, "beam": "speed"},
    {"blade_offset_mm": 0.3, "lift_angle_deg": 60.0, "passes": 2, "pass_depth_mm": 0.2, "overcut_mm": 1.0},
    {"tangential": True, "lift_angle_deg": 30.0, "words_before": "M8|(begin)", "words_after": "M9"},
)


def strokes(data: bytes, name: str) -> tuple[list[str], list[tuple[int, int]]]:
    """The lines of a file, and from which to which of them each stroke goes."""
    rows = data.decode().splitlines()
    if name == "hpgl":
        return rows, [(k, k + 1) for k, row in enumerate(rows) if row.startswith("PU") and "PD" in row]
    begins = [k for k, row in enumerate(rows) if row.startswith("G0 X")]
    ends = [next(k for k in range(b, len(rows)) if rows[k] in ("M5", "G0 Z5")) + 1 for b in begins]
    return rows, list(zip(begins, ends, strict=True))


def moved(row: str, name: str, by: tuple[float, float]) -> str:
    """A line of a file with its places moved, in mm."""
    if name == "hpgl":
        dx, dy = (round(40 * v) for v in by)
        return re.sub(r"(-?\d+),(-?\d+)", lambda m: f"{int(m[1]) + dx},{int(m[2]) + dy}", row)
    row = re.sub(r"X(-?[\d.]+)", lambda m: f"X{float(m[1]) + by[0]:.4f}", row)
    return re.sub(r"Y(-?[\d.]+)", lambda m: f"Y{float(m[1]) + by[1]:.4f}", row)


class Case:
    """A file that holds, with its strokes."""

    def __init__(self, name: str, way: dict) -> None:
        machine = replace(KNIFE if "blade_offset_mm" in way else LASER, format=name, **way)
        program = make(DESIGN, Plan(machine)).program
        write = by_id(name).write_program
        assert write, "machine formats hold programs"
        data = write(program, options_for(machine)).data
        self.name, self.expected = name, lines_of(program)
        self.rows, self.strokes = strokes(data, name)
        self.read = ReadOptions(page_height_mm=DESIGN.frame[1], as_run=True)
        assert self.proof(self.rows).holds, "only what holds can be spoilt"

    def proof(self, rows: list[str]) -> Proof:
        format_ = by_id(self.name)
        assert format_.read, "machine formats are read back"
        document = format_.read("\n".join(rows).encode(), self.read).document
        return compare_lines(followed_path(document), self.expected, format_.precision_mm)


def cases() -> Iterator[Case]:
    for name, way in (("hpgl", 3), ("hpgl", 1), ("gcode", 1), ("gcode", 2), ("gcode", 6)):
        yield Case(name, WAYS[way])


def unseen(count: int, seed: int = 8) -> list[tuple[int, str, str, str]]:
    """Of so many changed files those whose proof holds all the same, or shows nothing of it."""
    random, known = np.random.default_rng(seed), list(cases())
    made = []
    for n in range(count):
        case = known[n % len(known)]
        a, b = case.strokes[int(random.integers(len(case.strokes)))]
        what = ("removed", "doubled", "moved")[int(random.integers(3))]
        own = {"removed": [], "doubled": case.rows[a:b] * 2, "moved": case.rows[a:b]}[what]
        if what == "moved":
            angle, far = random.uniform(0, 2 * np.pi), random.uniform(0.1, 3.0)
            own = [moved(row, case.name, (far * np.cos(angle), far * np.sin(angle))) for row in own]
        proof = case.proof([*case.rows[:a], *own, *case.rows[b:]])
        shown = proof.missing_outlines or proof.extra_strokes or (proof.max_deviation_mm or 0.0) > proof.limit_mm
        if proof.holds or not shown:
            made.append((n, case.name, what, case.rows[a]))
    return made
