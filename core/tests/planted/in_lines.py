"""Faults of lines, each in at least eight forms."""

from __future__ import annotations

import numpy as np

from hakobu.geometry import Path, transform, translation
from hakobu.model.materials import material_of

from .host import (
    Planted,
    begun_at,
    box,
    design,
    halved,
    line,
    moved,
    opened,
    pebble,
    ring,
    sides,
    star,
    with_conditions,
)

BARE = {"fill": None}


def duplicate_line(form: int, random, size: float) -> Planted:
    base = star(random, size)
    smooth = pebble(random, size)
    off = 0.1 if size > 8 else 0.05
    copies = [
        (base, base),
        (base, base.reversed()),
        (base, begun_at(base, 3)),
        (base, halved(base)),
        (base, moved(base, off)),
        (smooth, smooth.reversed()),
        (smooth, begun_at(smooth, 2)),
        (base, *sides(base)),
        (ring(size / 2), ring(size / 2).reversed()),
    ][form % 9]
    return Planted(design(copies, size, **BARE))


def overlapping_line(form: int, random, size: float) -> Planted:
    r = size / 2
    way = random.uniform(0, np.pi)
    u, v = np.array([np.cos(way), np.sin(way)]), np.array([-np.sin(way), np.cos(way)])
    a, b = -0.8 * r * u, 0.8 * r * u
    long = line(a, b)
    middle = (a + b) / 2
    forms = [
        [long, line(middle, b + 0.3 * r * u)],
        [long, line(b + 0.3 * r * u, middle)],
        [long, line(middle - 0.2 * r * u, middle, middle + 0.5 * r * v)],
        [line(a, middle, b), line(middle, b + 0.3 * r * u, b + 0.3 * r * u + 0.3 * r * v)],
        [box(size, size / 2), line((-r, -r / 2), (0, -r / 2), (0, -r))],
        [box(size, size / 2), box(size, size / 2, 0, size / 2)],
        [long, line(a - 0.2 * r * u, middle), line(middle + 0.3 * r * u, b + 0.4 * r * u)],
        [line(a, middle, middle + r * v), line(middle + 0.3 * r * u, middle, middle + 0.4 * r * v)],
    ]
    return Planted(design(forms[form % 8], size, **BARE))


def double_outline(form: int, random, size: float) -> Planted:
    width = 0.15
    shapes = [
        lambda k: ring(size / 2 - k),
        lambda k: box(size - 2 * k, size * 0.6 - 2 * k),
        lambda k: box(size - 2 * k, size * 0.3 - 2 * k, turn=0.4),
        lambda k: ring(size / 3 - k, size / 9, 0),
    ]
    outer, inner = shapes[form % 4](0.0), shapes[form % 4](width)
    pair = [outer, inner.reversed()]
    if form % 8 in (3, 7):
        # Two open lines, one or both of them drawn the other way.
        r, turn = size / 2, random.uniform(0, np.pi)
        bends = np.array([(-r, 0.0), (-r / 4, r / 4), (r / 4, -r / 5), (r, 0.0)]) @ [
            [np.cos(turn), np.sin(turn)],
            [-np.sin(turn), np.cos(turn)],
        ]
        one = line(*bends)
        other = transform(one, translation(0.35 * np.sin(-turn), 0.35 * np.cos(turn)))
        paths = [one, other.reversed() if form % 8 == 3 else other]
        return with_conditions(design(paths, size, **BARE), material=material_of("black-card"))
    if form % 8 >= 4:
        return Planted(design([Path.concatenate(pair)], size, fill_rule="evenodd"), in_dxf=False)
    return Planted(
        design([Path.concatenate(pair), box(size / 4, size / 4, size * 0.7, size * 0.7)], size), in_dxf=False
    )


def open_path(form: int, random, size: float) -> Planted:
    base = star(random, size)
    parts = sides(base)
    mixed = [part.reversed() if k % 2 else part for k, part in enumerate(parts)]
    order = random.permutation(len(mixed)).tolist()
    apart = [moved(part, *random.uniform(-0.04, 0.04, 2)) for part in mixed]
    r = size / 2
    over = 0.1
    forms = [
        [opened(base, 0.12)],
        ([opened(base, 0.12)], BARE),
        ([mixed[k] for k in order], BARE),
        ([apart[k] for k in order], BARE),
        ([line((-r, 0), (r, 0), (r, r)), line((r, r + 0.1), (-r, r + 0.1), (-r, 0.1))], BARE),
        ([line((-r - over, -r), (r + over, -r)), line((r, -r - over), (r, r), (-r, r), (-r, -r - over))], BARE),
        ([line((-r, -r - over), (-r, r), (r, r), (r, -r), (-r - over, -r))], BARE),
        [opened(begun_at(base, 4), 0.05)],
    ]
    made = forms[form % 8]
    paths, looks = made if isinstance(made, tuple) else (made, {})
    return Planted(design(paths, size, **looks))


def self_crossing(form: int, random, size: float) -> Planted:
    r = size / 2
    bow = np.array([[-r, -r], [r, r], [r, -r], [-r, r]]) * random.uniform(0.8, 1.0)
    turn = random.uniform(0, np.pi)
    matrix = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    pentagram = np.array([[np.sin(k * 4 * np.pi / 5), -np.cos(k * 4 * np.pi / 5)] for k in range(5)]) * r
    loop = np.array([[-r, -r], [r, -r], [r, r], [0, r], [0, r / 2], [r / 3, r / 2], [r / 3, r * 0.75], [-r, r * 0.75]])
    shape = [bow, bow @ matrix, pentagram, loop][form % 4]
    looks = [{}, {"fill_rule": "evenodd"}][form // 4 % 2]
    return Planted(design([line(*shape, closed=True)], size, **looks))


def spike(form: int, random, size: float) -> Planted:
    base = star(random, size).ctrl[:, 0]
    k = int(random.integers(0, len(base)))
    start, end = base[k], base[(k + 1) % len(base)]
    along = (end - start) / np.hypot(*(end - start))
    out = np.array([along[1], -along[0]]) * size * random.uniform(0.1, 0.3)
    if form % 2:
        out = -out * 0.5
    middle = (start + end) / 2
    width = [0.0, 0.01, 0.03, 0.05][form // 2 % 4]
    foot = [middle - along * width / 2, middle + along * width / 2]
    points = np.vstack([base[: k + 1], foot[0], middle + out, foot[1], base[k + 1 :]])
    return Planted(design([line(*points, closed=True)], size))


def stray_node(form: int, random, size: float) -> Planted:
    base = star(random, size)
    x, y = random.uniform(-size / 2, size / 2, 2)
    dots = [
        line((x, y)),
        line((x, y), (x, y)),
        line((x, y), (x + 0.004, y)),
        line((x, y), (x, y), (x, y), closed=True),
        line((x, y), (x + 0.003, y), (x, y + 0.003), closed=True),
    ]
    dot = dots[form % 5]
    paths = [base, dot] if form % 2 else [Path.concatenate([base, dot])]
    return Planted(design(paths, size, **(BARE if form >= 4 else {})))


def redundant_node(form: int, random, size: float) -> Planted:
    base = star(random, size)
    points = base.ctrl[:, 0]
    angle = np.linspace(0, 2 * np.pi, 200, endpoint=False)
    round_ = np.column_stack([np.cos(angle), np.sin(angle)]) * min(size / 2, 40.0)
    forms = [
        halved(base),
        line(*np.repeat(points, 2, axis=0), closed=True),
        halved(halved(base)),
        line(*round_, closed=True),
        line(*(round_ * (1, 0.7)), closed=True),
        line(*points[:3], points[2], *points[3:], closed=True),
        line(*halved(base).ctrl[:, 0], *base.ctrl[:1, 0], closed=False),
        line(*np.vstack([round_[:100], points[:3] * 0.1]), closed=True),
    ]
    return Planted(design([forms[form % 8]], size, **(BARE if form % 8 == 6 else {})))


def jagged_line(form: int, random, size: float) -> Planted:
    reach = min(size, 60.0)
    count = int(max(reach / 0.3, 24))
    step = 0.28
    kind = form % 4
    if kind == 0:
        # Steps of a coarse picture along a slope.
        at = np.arange(count)
        xy = np.column_stack([np.repeat(at, 2)[1:] * step, np.repeat(at, 2)[:-1] * step * 1.0])
    elif kind == 1:
        at = np.arange(2 * count)
        xy = np.column_stack([at * step, np.where(at % 2, 0.14, -0.14)])
    elif kind == 2:
        xy = np.column_stack(
            [np.repeat(np.arange(count), 2)[1:] * 2 * step, np.repeat(np.arange(count), 2)[:-1] * step]
        )
    else:
        at = np.arange(2 * count)
        xy = np.column_stack([at * step, random.uniform(0.1, 0.14, len(at)) * np.where(at % 2, 1, -1)])
    xy = xy - xy.mean(axis=0)
    far = np.array([[xy[-1, 0], xy[:, 1].max() + size / 3], [xy[0, 0], xy[:, 1].max() + size / 3]])
    whole = np.vstack([xy, far])
    whole = whole - (whole.max(axis=0) + whole.min(axis=0)) / 2
    turn = random.uniform(0, np.pi) if form >= 4 else 0.0
    matrix = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    return Planted(design([line(*(whole @ matrix), closed=True)], float(np.ptp(whole, axis=0).max()) * 1.3))


def tiny_segment(form: int, random, size: float) -> Planted:
    points = star(random, size).ctrl[:, 0]
    k = int(random.integers(0, len(points)))
    way = random.uniform(0, 2 * np.pi)
    length = [0.004, 0.01, 0.02, 0.025][form % 4]
    near = points[k] + length * np.array([np.cos(way), np.sin(way)])
    made = np.vstack([points[: k + 1], near, points[k + 1 :]])
    return Planted(design([line(*made, closed=True)], size, **(BARE if form >= 4 else {})))


def crowded_place(form: int, random, size: float) -> Planted:
    """More crossings than can be counted: lines to and fro, many of them, or copies a little beside each other."""
    points = random.uniform(-size / 2, size / 2, (1800, 2))
    if form % 4 == 3:
        base = star(random, size)
        return Planted(design([moved(base, 0.01 * n) for n in range(450)], size, **BARE))
    if form % 4 == 2:
        return Planted(design([line(a, b) for a, b in zip(points[::2], points[1::2], strict=True)] * 2, size, **BARE))
    return Planted(design([line(*points, closed=form % 4 == 1)], size, **({} if form == 1 else BARE)))


KINDS = {
    "crowded-place": crowded_place,
    "duplicate-line": duplicate_line,
    "overlapping-line": overlapping_line,
    "double-outline": double_outline,
    "open-path": open_path,
    "self-crossing": self_crossing,
    "spike": spike,
    "stray-node": stray_node,
    "redundant-node": redundant_node,
    "jagged-line": jagged_line,
    "tiny-segment": tiny_segment,
}
