"""Tool paths: a program of 100,000 segments made, written and proven; its travel beside a general solver's; blades that
follow their axes; and machine files changed at random."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from shapes import blobs
from tests.toolpaths.mutations import unseen
from tour_solver import tour_mm

from hakobu import pipeline
from hakobu.formats import WriteOptions, by_id
from hakobu.geometry import primitives
from hakobu.machines.compensation import compensation_of
from hakobu.model import Document, Fill, Layer, Machine, Piece
from hakobu.toolpaths import Plan, Program, estimate, make, program_of, shortened, travel_mm
from hakobu.toolpaths.order import holders_of

#: Segments, nodes of a shape, and how far shapes stand from each other, in mm.
SEGMENTS, EACH, PITCH_MM = 100_000, 100, 10.0
#: Strokes of the sets whose travel is measured, the seconds that the solver has for one, and how many sets of each.
BUDGETS, SETS = ((200, 1.0), (1000, 5.0)), 10
#: Files that are changed at random.
CHANGED = 1000
#: Tools that the large design is worked with.
WAYS = (
    ("kerf of 0.15 mm", {"tool": "laser", "kerf_mm": 0.15}),
    ("a blade dragged 0.25 mm behind and overcut", {"blade_offset_mm": 0.25, "overcut_mm": 0.5}),
    ("leads of 1 mm", {"lead_in_mm": 1.0, "lead_out_mm": 1.0}),
)


def toolpaths() -> Iterator[str]:
    document = _large()
    made, took = _timed(lambda: shortened(program_of(document)))
    drawn = travel_mm(program_of(document))
    yield (
        f"A program of {made.path.segment_count:,} segments in {len(made):,} runs: made in {took:.2f} s, travel "
        f"{travel_mm(made) / 1000:.2f} m (in the order of the design {drawn / 1000:.2f} m)."
    )
    for name in ("hpgl", "gcode"):
        file, took = _timed(lambda name=name: by_id(name).write(document, WriteOptions()))
        made_proof, proven = _timed(lambda name=name, file=file: pipeline.prove(f"a.{name}", file.data, document))
        proof = made_proof.proof
        said = f"{by_id(name).name}: written in {took:.2f} s with its program, proven in {proven:.2f} s"
        yield f"{said}, {'holds' if proof.holds else 'does NOT hold'}."
    yield from _compensated(document)
    yield from _travel()
    changed, took = _timed(lambda: unseen(CHANGED))
    yield f"{CHANGED:,} machine files with a stroke removed, doubled or moved: {len(changed)} unseen, in {took:.0f} s."


def _travel() -> Iterator[str]:
    """Our tours, and what a general solver makes of them when it goes on from there."""
    for count, seconds in BUDGETS:
        shares, took = [], []
        for seed in range(SETS):
            program = program_of(_nested(count, seed))
            found, once = _timed(lambda program=program: shortened(program))
            number = {row: k for k, row in enumerate(_rows(program))}
            begun = np.array([number[row] for row in _rows(found)])
            best = tour_mm(program.ends[0], holders_of(program.path), begun, seconds)
            shares.append(travel_mm(found) / best)
            took.append(once)
        said = f"{count} strokes with nesting: travel {np.mean(shares):.3f} times what OR-Tools makes of it"
        yield f"{said} in {seconds:g} s (worst {max(shares):.3f}), found in {np.mean(took):.2f} s."


def _rows(program: Program) -> list[tuple[int, int]]:
    return list(zip(program.piece.tolist(), program.outline.tolist(), strict=True))


def _compensated(document: Document) -> Iterator[str]:
    """What each kind of tool costs and keeps."""
    base = Machine("any", "any", 5000.0, 5000.0, "hpgl", 0.007, 1, tool="knife")
    for said, values in WAYS:
        machine = replace(base, **values)
        made, took = _timed(lambda machine=machine: make(document, Plan(machine)))
        back = compensation_of(made, document)
        kept = [
            *([f"half the kerf within {back.kerf_off_mm:.4f} mm"] if back.kerf_off_mm is not None else []),
            *([f"the blade's tip within {back.tip_off_mm:.4f} mm of its line"] if back.tip_off_mm is not None else []),
        ]
        found, reckoned = _timed(lambda made=made: estimate(made.program))
        yield (
            f"The same with {said}: made in {took:.2f} s, {', '.join(kept) or 'as drawn'}; "
            f"{found.seconds / 60:.0f} min of work, reckoned in {reckoned:.2f} s."
        )


def _timed(work: Callable[[], Any]) -> tuple[Any, float]:
    begun = time.perf_counter()
    made = work()
    return made, time.perf_counter() - begun


def _large() -> Document:
    layer = Layer("art", "Art", "#1b2a4e")
    # Shuffled: a design has no order that a machine would like.
    outlines = list(blobs(SEGMENTS // EACH, EACH, PITCH_MM).outlines())
    order = np.random.default_rng(4).permutation(len(outlines)).tolist()
    pieces = tuple(Piece(f"p{n}", outlines[k], "art", fill=Fill("#1b2a4e")) for n, k in enumerate(order))
    return Document(layers=(layer,), pieces=pieces)


def _nested(count: int, seed: int) -> Document:
    """Squares all over a sheet, each with two small ones in it that have to come first."""
    random = np.random.default_rng(seed)
    side = int(np.ceil(np.sqrt(count / 3)))
    paths = []
    for cell in random.permutation(side * side)[: count // 3].tolist():
        x, y = cell % side * 20.0, cell // side * 20.0
        paths.append(primitives.rectangle(x, y, 15.0, 15.0))
        paths += [primitives.rectangle(x + 1 + 5 * k, y + float(random.uniform(1, 10)), 3.0, 3.0) for k in range(2)]
    order = random.permutation(len(paths)).tolist()
    pieces = tuple(Piece(f"p{n}", paths[k], "art") for n, k in enumerate(order))
    return Document(layers=(Layer("art", "Art", "#1b2a4e"),), pieces=pieces)
