"""Faults of whole documents, each in at least eight forms."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from hakobu.geometry import Path, scaling, transform
from hakobu.lists import Lists
from hakobu.model import Fill, Layer, Page, Picture, Stroke, Treatment
from hakobu.model.dimension import Dimension
from hakobu.model.materials import material_of
from hakobu.model.targets import Target

from .host import INK, Planted, box, design, line, moved, pebble, ring, star, with_conditions


def background_rectangle(form: int, random, size: float) -> Planted:
    side = size * 1.5
    off = [0.0, 0.002, 0.004, 0.001][form % 4] * side
    page = box(side - 2 * off, side - 2 * off)
    looks = {} if form < 4 else {"fill": None, "stroke": Stroke(INK, 0.1)}
    return Planted(design([(page, {**looks}), star(random, size * 0.6)], size, **looks), in_dxf=False)


def invisible_object(form: int, random, size: float) -> Planted:
    base, small = star(random, size), moved(pebble(random, size / 4), size * 0.55, size * 0.4)
    hidden = pebble(random, size / 4)
    forms = [
        [base, (small, {"fill": None, "stroke": Stroke(INK, 0.1, opacity=0.0)})],
        [base, (small, {"opacity": 0.0})],
        [base, (small, {"fill": Fill(INK, 0.0)})],
        [base, (small, {"fill": Fill("#ffffff")})],
        [(hidden, {"fill": Fill("#c2361f")}), base],
        [(hidden, {}), base],
        [(box(size / 4, size / 4), {}), base],
        [base, (moved(ring(size / 8), size * 0.55, size * 0.4), {"fill": Fill("#fefefe")})],
    ]
    return Planted(design(forms[form % 8], size, margin=0.5), in_dxf=False)


def outside_sheet(form: int, random, size: float) -> Planted:
    far = size * [0.75, -0.75, 1.5, -1.5][form % 4]
    stray = moved(pebble(random, size / 4), far, 0) if form < 4 else moved(star(random, size / 4), 0, far)
    return Planted(design([star(random, size), stray], size), in_dxf=False)


def out_of_reach(form: int, random, size: float) -> Planted:
    machine = Lists().machine(["desk-cutter", "roll-cutter", "pen-plotter", "laser-bed"][form % 4])
    shape = star(random, 1.0) if form < 4 else pebble(random, 1.0)
    wide = max(machine.reach_width_mm, machine.reach_height_mm) * 1.5
    return with_conditions(design([transform(shape, scaling(wide))], wide), machine=machine)


def stroke_only(form: int, random, size: float) -> Planted:
    width = min(size / 12, 4.0)
    path = [star(random, size * 0.8), line((-size / 3, 0), (size / 3, 0)), pebble(random, size * 0.7), ring(size / 3)][
        form % 4
    ]
    stroke = Stroke(INK, max(width, 0.8), cap="round" if form >= 4 else "butt", join="round" if form >= 4 else "miter")
    return Planted(design([path], size, fill=None, stroke=stroke), in_dxf=False)


def picture_without_line(form: int, random, size: float) -> Planted:
    matrix = [(0.1, 0, 0, 0.1, 0, 0), (0.0, 0.1, -0.1, 0.0, 30, 0), (0.2, 0, 0, 0.2, 5, 5), (0.05, 0, 0, 0.05, 0, 0)]
    picture = Picture("p:picture", "0" * 64, (200, 100), matrix[form % 4], "ink")
    made = design([moved(star(random, size), size * 5, size * 5)] if form >= 4 else [], size)
    return Planted(replace(made, page=Page(size * 8, size * 8), pictures=(picture,)), in_dxf=False)


def near_colours(form: int, random, size: float) -> Planted:
    first = ["#1b2a4e", "#c2361f", "#777777", "#2f8f4e"][form % 4]
    rgb = np.array([int(first[k : k + 2], 16) for k in (1, 3, 5)])
    rgb = rgb + (2 if form < 4 else -3)
    second = "#" + "".join(f"{int(v):02x}" for v in rgb)
    layers = (Layer("a", "A", first), Layer("b", "B", second))
    pair = [
        (ring(size / 5, -size / 4), {"fill": Fill(first)}),
        (ring(size / 5, size / 4), {"fill": Fill(second), "layer": "b"}),
    ]
    return Planted(design(pair, size, layers), in_dxf=False)


def implausible_size(form: int, random, size: float) -> Planted:
    scale = [1.5, 1.0, 2.0, 0.5, 2500.0, 3000.0, 5000.0, 9000.0][form % 8]
    return Planted(design([star(random, scale)], scale))


def too_many_nodes(form: int, random, size: float) -> Planted:
    count = [2400, 3000, 4000, 6000][form % 4]
    angle = np.linspace(0, 2 * np.pi, count, endpoint=False)
    radius = count / 8 / (2 * np.pi)
    wave = 1 + 0.05 * np.sin((5 + form) * angle)
    points = np.column_stack([np.cos(angle), np.sin(angle)]) * (radius * wave)[:, None]
    return Planted(design([Path.from_points(points, closed=True)], 2 * radius))


def finer_than_the_tool(form: int, random, size: float) -> Planted:
    machine = Lists().machine(["desk-cutter", "laser-bed", "pen-plotter", "roll-cutter"][form % 4])
    across = machine.finest_mm * 0.45
    side = min(size, 200.0)
    if form < 4:
        hole = ring(across / 2).reversed()
        base = pebble(random, side)
    else:
        hole, base = box(across * 0.7, across * 0.7, turn=0.4), box(side, side)
    return with_conditions(design([Path.concatenate([base, hole])], side, fill_rule="evenodd"), False, machine=machine)


def not_mirrored(form: int, random, size: float) -> Planted:
    vinyl = material_of("heat-vinyl")
    shape = [star(random, size), pebble(random, size), ring(size / 3), box(size, size / 2)][form % 4]
    if form < 4:
        return with_conditions(design([shape], size), material=vinyl)
    layers = (Layer("a", "A", INK, Treatment.CUT, "heat-vinyl"),)
    return with_conditions(design([shape], size, layers), in_dxf=False, material=vinyl)


def dimension_off(form: int, random, size: float) -> Planted:
    kind = ["circle", "radius", "distance", "hole"][form % 4]
    hole = ring(size / 5)
    base = design([(Path.concatenate([box(size, size / 2), hole.reversed()]), {"fill_rule": "evenodd"})], size)
    middle = base.page.width_mm / 2
    side = middle - size / 5
    places = {
        "distance": ((middle - size / 2, middle - size / 4), (middle + size / 2, middle - size / 4)),
        "hole": ((middle, middle),),
    }.get(kind, ((side, middle),))
    true = {"circle": size * 0.4, "radius": size / 5, "distance": size, "hole": size * 0.4}[kind]
    dimension = Dimension("d", kind, places, ("p:0",) * len(places), "Slot", true * 1.02, lost=form >= 4)
    return Planted(replace(base, dimensions=(dimension,)), in_dxf=False)


def beyond_target(form: int, random, size: float) -> Planted:
    shape = [star(random, size), pebble(random, size), ring(size / 2), box(size, size / 3)][form % 4]
    room = {"width_mm": size * 0.9, "height_mm": size * 0.9}
    if form < 4:
        target = Target("t", "the tile", **room, shape=["rectangle", "ellipse"][form % 2])
    else:
        target = Target("t", "the window", **room, shape="outline", outline="M0 9V3A3 3 0 0 1 6 3V9Z")
    return with_conditions(design([shape], size), in_dxf=False, target=target)


KINDS = {
    "dimension-off": dimension_off,
    "beyond-target": beyond_target,
    "background-rectangle": background_rectangle,
    "invisible-object": invisible_object,
    "outside-sheet": outside_sheet,
    "out-of-reach": out_of_reach,
    "stroke-only": stroke_only,
    "picture-without-line": picture_without_line,
    "near-colours": near_colours,
    "implausible-size": implausible_size,
    "too-many-nodes": too_many_nodes,
    "finer-than-the-tool": finer_than_the_tool,
    "not-mirrored": not_mirrored,
}
