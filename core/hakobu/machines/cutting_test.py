"""A test cut: a grid of squares with a triangle in each, that differ in speed across and in force or power down.

A square that lifts out clean, whose triangle stays, is cut right (common practice).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import BadRequest
from ..geometry import Path, primitives
from ..lettering.text_path import number_path
from ..model import Document, Layer, Machine, Page, Piece, Stroke, Treatment
from ..toolpaths import Plan

#: The side of a square, from square to square, the height of figures, and what they take at the rim, in mm.
SIDE_MM, PITCH_MM, FIGURE_MM, RIM_MM = 10.0, 14.0, 2.5, 14.0
#: More speeds or strengths are no test.
MOST = 10
COLOR = "#1b2a4e"


@dataclass(frozen=True)
class CuttingTest:
    """document: what is cut; plan: how each square is; strength: what differs down, force_g or power_percent."""

    document: Document
    plan: Plan
    strength: str


def cutting_test(machine: Machine, speeds: Sequence[float], strengths: Sequence[float]) -> CuttingTest:
    """A square for each speed, in mm/s, and each strength: the force in grams of a knife or pen, the power in percent
    of a laser. Figures beside the rows and above the columns are drawn at the first of both. Raises BadRequest where
    there are too many, a value is beyond what the machine can do, or the grid is beyond its reach."""
    if not 1 <= len(speeds) <= MOST or not 1 <= len(strengths) <= MOST:
        raise BadRequest(f"A test cut has from 1 to {MOST} speeds and as many forces or powers.")
    _check(machine, speeds, strengths)
    strength = "power_percent" if machine.tool == "laser" else "force_g"
    width, height = (RIM_MM + PITCH_MM * len(values) for values in (speeds, strengths))
    if width > machine.reach_width_mm or height > machine.reach_height_mm:
        reach = f"{machine.reach_width_mm:g} x {machine.reach_height_mm:g} mm"
        raise BadRequest(f"The grid is {width:g} x {height:g} mm and the machine reaches {reach}: take fewer steps.")
    plain = replace(machine, tabs=0, lead_in_mm=0.0, lead_out_mm=0.0, order="layers")
    layers, pieces, own = [], [], {}
    for down, strong in enumerate(strengths):
        for across, speed in enumerate(speeds):
            key = f"cell-{down + 1}-{across + 1}"
            layers.append(Layer(key, f"{speed:g} mm/s, {strong:g} {_unit(machine)}", COLOR, Treatment.CUT))
            own[key] = replace(plain, speed_mm_s=speed, **{strength: strong})
            path = _cell(RIM_MM + across * PITCH_MM, RIM_MM + down * PITCH_MM)
            pieces.append(Piece(key, path, key, stroke=Stroke(COLOR, 0.1)))
    layers.append(Layer("figures", "Figures", COLOR, Treatment.DRAW))
    own["figures"] = replace(plain, speed_mm_s=min(speeds), **{strength: min(strengths)})
    pieces.append(Piece("figures", _figures(speeds, strengths), "figures", stroke=Stroke(COLOR, 0.1)))
    page = Page(width, height, fixed=True)
    return CuttingTest(Document(page, tuple(layers), tuple(pieces)), Plan(plain, own), strength)


def _unit(machine: Machine) -> str:
    return "%" if machine.tool == "laser" else "g"


def _check(machine: Machine, speeds: Sequence[float], strengths: Sequence[float]) -> None:
    for speed in speeds:
        if not machine.least_speed_mm_s <= speed <= machine.most_speed_mm_s:
            span = f"{machine.least_speed_mm_s:g} and {machine.most_speed_mm_s:g} mm/s"
            raise BadRequest(f"The {machine.name} goes between {span}, not at {speed:g} mm/s.")
    low, high = (0.0, 100.0) if machine.tool == "laser" else (1.0, 10_000.0)
    for strong in strengths:
        if not low <= strong <= high:
            raise BadRequest(f"{strong:g} {_unit(machine)} is not between {low:g} and {high:g}.")


def _cell(x: float, y: float) -> Path:
    square = primitives.rectangle(x, y, SIDE_MM, SIDE_MM)
    corners = np.array([(0.3, 0.7), (0.7, 0.7), (0.5, 0.3)]) * SIDE_MM + (x, y)
    return Path.concatenate([Path.from_points(corners, closed=True), square])


def _figures(speeds: Sequence[float], strengths: Sequence[float]) -> Path:
    above = [
        number_path(f"{speed:g}", (RIM_MM + n * PITCH_MM + SIDE_MM / 2, RIM_MM - 2 * FIGURE_MM), FIGURE_MM)
        for n, speed in enumerate(speeds)
    ]
    beside = [
        number_path(f"{strong:g}", (RIM_MM / 2, RIM_MM + n * PITCH_MM + SIDE_MM / 2), FIGURE_MM)
        for n, strong in enumerate(strengths)
    ]
    return Path.concatenate([*above, *beside])
