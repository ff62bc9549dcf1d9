"""Tool paths: a program of 100,000 segments made, written and proven, and its travel beside the order of the design."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from shapes import blobs

from hakobu import pipeline
from hakobu.formats import WriteOptions, by_id
from hakobu.geometry import primitives
from hakobu.model import Document, Fill, Layer, Piece
from hakobu.toolpaths import program_of, shortened, travel_mm

#: Segments, nodes of a shape, and how far shapes stand from each other, in mm.
SEGMENTS, EACH, PITCH_MM = 100_000, 100, 10.0
#: Runs of the sets whose travel is measured, and how many sets of each.
COUNTS, SETS = (200, 1000), 10
#: What the shortest tour through n places over an area A takes of sqrt(n A) (Johnson and McGeoch 1996, from memory).
TOUR = 0.7124


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
        (proof, _), proven = _timed(lambda name=name, file=file: pipeline.prove(f"a.{name}", file.data, document))
        said = f"{by_id(name).name}: written in {took:.2f} s with its program, proven in {proven:.2f} s"
        yield f"{said}, {'holds' if proof.holds else 'does NOT hold'}."
    for count in COUNTS:
        shares, seconds = [], []
        for seed in range(SETS):
            program = program_of(_scattered(count, seed))
            found, took = _timed(lambda program=program: shortened(program))
            shares.append(travel_mm(found) / (TOUR * np.sqrt(len(program) * 1000.0 * 1000.0)))
            seconds.append(took)
        yield (
            f"{count} circles spread evenly: travel {np.mean(shares):.2f} times the expected shortest tour "
            f"(worst {max(shares):.2f}), in {np.mean(seconds):.2f} s."
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


def _scattered(count: int, seed: int) -> Document:
    places = np.random.default_rng(seed).uniform(0, 1000, (count, 2)).tolist()
    pieces = tuple(Piece(f"p{n}", primitives.circle(x, y, 0.01), "art") for n, (x, y) in enumerate(places))
    return Document(layers=(Layer("art", "Art", "#1b2a4e"),), pieces=pieces)
