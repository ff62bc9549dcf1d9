"""Faults of shapes, each in at least eight forms."""

from __future__ import annotations

import numpy as np

from hakobu.geometry import Path
from hakobu.model import Fill, Layer
from hakobu.model.materials import material_of
from hakobu.model.purposes import purpose_of

from .host import INK, Planted, box, design, moved, pebble, ring, star, with_conditions

BARE = {"fill": None}
CARD = material_of("black-card")


def overlapping_shape(form: int, random, size: float) -> Planted:
    r = size / 2
    forms = [
        [star(random, size), moved(star(random, size), r)],
        [pebble(random, size), moved(pebble(random, size), r * 0.8)],
        [ring(r / 2, -r / 3), ring(r / 2, r / 3)],
        [box(size, r / 2), box(r / 2, size)],
        [Path.concatenate([box(size, r / 2), box(r / 2, size)])],
        [ring(r / 3, k * r / 2 - r, 0) for k in range(5)],
        [box(size, r / 3), box(size, r / 3, turn=1.0), box(size, r / 3, turn=2.0)],
        [ring(r / 2), box(r, r / 4, r / 2)],
    ]
    return Planted(design(forms[form % 8], size * 1.5), in_dxf=False)


def loose_hole(form: int, random, size: float) -> Planted:
    r = size / 2
    forms = [
        ([ring(r), ring(r / 2)], BARE),
        ([box(size, size), box(r, r)], BARE),
        ([star(random, size), pebble(random, r / 2)], BARE),
        ([ring(r), ring(r / 2)], {}),
        ([Path.concatenate([box(size, size), box(r, r)])], {}),
        ([box(size, size), ring(r / 4, -r / 2), ring(r / 4, r / 2)], BARE),
        ([Path.concatenate([ring(r), ring(r / 3, -r / 3), ring(r / 3, r / 2.5)])], {}),
        ([box(size, size), star(random, r)], {}),
    ]
    paths, looks = forms[form % 8]
    return Planted(design(paths, size, **looks), in_dxf=bool(looks))


WHITE, INK_FILL = {"fill": Fill("#ffffff")}, {"fill": Fill(INK)}
GROUND = {"fill": Fill("#f2e8d0")}


def painted_hole(form: int, random, size: float) -> Planted:
    """As most bought designs have their holes: a white shape on a dark one."""
    r, side = size / 2, size * 1.5
    paper = (Layer("ink", "Ink", INK), Layer("white", "White", "#ffffff"), Layer("red", "Red", "#c2361f"))
    on_paper = {**WHITE, "layer": "white"}
    letter = Path.concatenate([box(size, size), box(r, r).reversed()])
    forms = [
        [box(size, size), (ring(r / 4, -r / 2), WHITE), (ring(r / 4, r / 2), WHITE)],
        [box(size, r), (pebble(random, r / 2), on_paper)],
        [pebble(random, size), (star(random, r / 2), {"fill": Fill("#fefefe")}), (ring(r / 9), INK_FILL)],
        [box(size, size, k * 1.1 * size) for k in (-0.3, 0.9)] + [(ring(r / 3, k * size), on_paper) for k in (-0.3, 1)],
        [(box(side, side), WHITE), star(random, size), (ring(r / 4), WHITE)],
        [(box(side, side), GROUND), star(random, size), (ring(r / 4), GROUND)],
        [box(size, size), (ring(r / 1.5), {"fill": Fill("#c2361f"), "layer": "red"}), (ring(r / 3), WHITE)],
        [box(side * 0.9, side * 0.9), (letter, WHITE)],
    ]
    return Planted(design(forms[form % 8], size, paper), in_dxf=False)


def hole_direction(form: int, random, size: float) -> Planted:
    r = size / 2
    hole = [ring(r / 3), box(r, r / 2), star(random, r), pebble(random, r)][form % 4]
    outer = box(size, size) if form < 4 else box(size, size * 0.8, turn=0.1)
    same = np.sign(_area(outer)) == np.sign(_area(hole))
    path = Path.concatenate([outer, hole if same else hole.reversed()])
    return Planted(design([path], size, fill_rule="evenodd"), in_dxf=False)


def _area(path: Path) -> float:
    from hakobu.geometry import signed_areas

    return float(signed_areas(path)[0])


def speck(form: int, random, size: float) -> Planted:
    base = star(random, size)
    x, y = size * 0.6, size * random.uniform(-0.5, 0.5)
    dust = [
        ring(0.12, x, y),
        box(0.3, 0.3, x, y, 0.3),
        moved(star(random, 0.3), x, y),
        moved(pebble(random, 0.3), x, y),
    ][form % 4]
    paths = [base, dust] if form < 4 else [Path.concatenate([base, dust])]
    return Planted(design(paths, size))


def leftover_hollow(form: int, random, size: float) -> Planted:
    base = pebble(random, size)
    hollow = [ring(0.12), box(0.3, 0.3, turn=0.5), star(random, 0.3), pebble(random, 0.3)][form % 4]
    if np.sign(_area(hollow)) == np.sign(_area(base)):
        hollow = hollow.reversed()
    hollow = moved(hollow, *random.uniform(-size / 8, size / 8, 2))
    return Planted(
        design([Path.concatenate([base, hollow])], size, fill_rule="evenodd" if form % 2 else "nonzero"), in_dxf=False
    )


def thin_strip(form: int, random, size: float) -> Planted:
    width = 0.14 if form < 4 else 0.45
    r = size / 2
    turn = random.uniform(0, np.pi)
    from hakobu.geometry import rotation, transform

    kind = form % 4
    if kind == 0:
        half = width / 2
        waist = np.array(
            [
                [-r, -r / 2],
                [-r / 4, -half],
                [r / 4, -half],
                [r, -r / 2],
                [r, r / 2],
                [r / 4, half],
                [-r / 4, half],
                [-r, r / 2],
            ]
        )
        path = Path.from_points(waist, closed=True)
    elif kind == 1:
        path = Path.concatenate([box(size, r), box(r, r / 4, 0, r / 2 - width - r / 8).reversed()])
    elif kind == 2:
        path = Path.concatenate(
            [
                ring(r),
                ring(r / 2 - width, -r / 2 + width).reversed(),
                ring(r / 2 - width / 2 - width, r / 2 - width).reversed(),
            ]
        )
        gap = (r / 2 - width) - (r / 2 - width / 2 - width)
        path = Path.concatenate(
            [ring(r), ring(r / 4, -r / 4 - width / 2).reversed(), ring(r / 4, r / 4 + width / 2).reversed()]
        )
        assert gap > 0
    else:
        path = Path.concatenate([box(size, r), ring(r / 4, 0, r / 4 - width).reversed()])
    path = transform(path, rotation(turn))
    material = None if form < 4 else CARD
    return with_conditions(design([path], size, fill_rule="evenodd"), in_dxf=False, material=material)


def thin_gap(form: int, random, size: float) -> Planted:
    gap = 0.045 if form < 4 else 0.18
    r = size / 2
    kind = form % 4
    pair = [
        lambda: [box(r, size, -r / 2 - gap / 2), box(r, size, r / 2 + gap / 2)],
        lambda: [ring(r / 2, -r / 2 - gap / 2), ring(r / 2, r / 2 + gap / 2)],
        lambda: [box(size, r, 0, -r / 2 - gap), ring(r / 3, 0, r / 3)],
        lambda: [
            Path.from_points(
                np.array([[-r, -r], [r, -r], [r, r], [gap, r], [gap, -r / 2], [0, -r / 2], [0, r], [-r, r]]), True
            )
        ],
    ][kind]()
    material = None if form < 4 else CARD
    return with_conditions(design(pair, size), material=material)


def sliver(form: int, random, size: float) -> Planted:
    length = max(min(size, 200.0) * 0.5, 6.0)
    width = 0.08 if form % 2 else 0.12
    crescent = _lens(length, width * 1.5)
    thin = [box(length, width, turn=0.3), crescent, box(length, width), moved(crescent, 0.0, 1.0)][form // 2 % 4]
    return Planted(design([moved(star(random, size), 0, 0), moved(thin, 0, size * 0.7)], size * 1.5))


def _lens(length: float, width: float) -> Path:
    x = np.linspace(-1, 1, 21)
    top = np.column_stack([x * length / 2, (1 - x**2) * width])
    low = np.column_stack([x[::-1][1:-1] * length / 2, np.zeros(19)])
    return Path.from_points(np.vstack([top, low]), closed=True)


def drop_out(form: int, random, size: float) -> Planted:
    r = size / 2
    if form % 2:
        hole = [ring(r / 2), box(r, r / 2), star(random, r), pebble(random, r * 0.8)][form // 2 % 4]
        path = Path.concatenate([box(size, size), hole])
        return with_conditions(design([path], size, fill_rule="evenodd"), False, purpose=purpose_of("stencil"))
    dot = [
        ring(r / 4, 0, -r),
        box(r / 3, r / 3, 0, -r),
        moved(star(random, r / 2), 0, -r),
        moved(pebble(random, r / 2), 0, -r),
    ]
    stem = box(r / 2, size * 0.8, 0, r / 2)
    paths = [stem, dot[form // 2 % 4]] if form < 4 else [Path.concatenate([stem, dot[form // 2 % 4]])]
    return with_conditions(design(paths, size * 1.5), True, purpose=purpose_of("one"))


def not_one(form: int, random, size: float) -> Planted:
    r = size / 2
    parts = [
        [ring(r / 2, -r / 2 - 1), ring(r / 2, r / 2 + 1)],
        [box(r, size, -r), box(r, size, r)],
        [star(random, r), moved(star(random, r / 2), r)],
        [ring(r / 4, k * r * 0.7) for k in (-1, 0, 1)],
    ][form % 4]
    rule = "evenodd" if form >= 4 else "nonzero"
    return with_conditions(design([Path.concatenate(parts)], size * 1.5, fill_rule=rule), False, one=frozenset(["p:0"]))


KINDS = {
    "overlapping-shape": overlapping_shape,
    "loose-hole": loose_hole,
    "painted-hole": painted_hole,
    "hole-direction": hole_direction,
    "speck": speck,
    "leftover-hollow": leftover_hollow,
    "thin-strip": thin_strip,
    "thin-gap": thin_gap,
    "sliver": sliver,
    "drop-out": drop_out,
    "not-one": not_one,
}
