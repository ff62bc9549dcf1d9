"""Designs, machines, and an independent blade that several tests of tool paths use."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from hakobu.geometry import Path, flatten
from hakobu.model import Document, Layer, Machine, Page, Piece, Treatment
from hakobu.toolpaths import Made, Plan, make
from tests.shapes import circle, square

KNIFE = Machine("k", "knife", 600.0, 400.0, "hpgl", 0.007, 4, tool="knife")
LASER = Machine("l", "laser", 600.0, 400.0, "gcode", 0.01, 1, tool="laser")


def design(*paths: Path, treatment: Treatment = Treatment.CUT) -> Document:
    layer = Layer("cut", "Cut", "#26272b", treatment)
    pieces = tuple(Piece(f"p{n}", path, "cut") for n, path in enumerate(paths))
    return Document(Page(300.0, 200.0), (layer,), pieces)


#: A frame with a square hole, and a disc.
RING = Path.concatenate([square(30, 30, 40), square(40, 40, 15).reversed()])
PLAIN = design(RING, circle(120, 60, 20))


def made(document: Document, machine: Machine, **values) -> Made:
    return make(document, Plan(replace(machine, **values)))


def dragged(path: Path, offset: float, towards: np.ndarray, step_mm: float = 0.005) -> list[np.ndarray]:
    """The way of a tip on a string of a length behind an axis that goes in small steps: after each the tip is pulled
    straight towards the axis. By outlines; the direction goes on from one to the next."""
    chords = flatten(path, 1e-4, step_mm)
    way, ways = np.asarray(towards, float) / np.hypot(*towards), []
    for k in range(len(path)):
        points = chords.outline(k)
        tip = points[0] - offset * way
        tips = [tip]
        for axis in points[1:]:
            way = (axis - tip) / np.hypot(*(axis - tip))
            tip = axis - offset * way
            tips.append(tip)
        ways.append(np.array(tips))
    return ways
