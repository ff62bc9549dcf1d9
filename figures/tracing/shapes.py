"""Shapes of known geometry for the measures of tracing: drawn once from a seed, and not changed to suit the tracing.

Every shape is an SVG path in pixels of a picture of 300 dots an inch, some 300 pixels wide; what has holes has them by
the even-odd rule. Seed 1 is what the tracing was tuned on, seed 2 what it is reported on as well.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path as File

import numpy as np

sys.path.insert(0, str(File(__file__).resolve().parents[2] / "core"))

from tests.fonts import glyph

from hakobu.geometry import Path, rotation, scaling, transform, translation
from hakobu.geometry.path import line_controls

SIDE = 320


@dataclass(frozen=True)
class Shape:
    """A path in pixels within a square picture."""

    name: str
    path: Path
    side: int = SIDE


def by(x: float, y: float) -> np.ndarray:
    return np.array([x, y], float)


def polygon(points: np.ndarray) -> Path:
    return Path.from_points(np.asarray(points, float), True)


def smooth(points: np.ndarray, tension: float = 1 / 6) -> Path:
    """A closed curve through points with cubics that join without a corner."""
    points = np.asarray(points, float)
    along = (np.roll(points, -1, axis=0) - np.roll(points, 1, axis=0)) * tension
    last = np.roll(points, -1, axis=0)
    ctrl = np.stack([points, points + along, last - np.roll(along, -1, axis=0), last], axis=1)
    return cubics(ctrl)


def cubics(ctrl: np.ndarray) -> Path:
    ctrl = np.asarray(ctrl, float)
    return Path(ctrl, np.ones(len(ctrl)), np.zeros(len(ctrl)), [0, len(ctrl)], [True])


def ellipse(x: float, y: float, a: float, b: float) -> Path:
    """Four cubics; the constant is the usual one, within 0.03 % of the radius."""
    k = 0.5522847498
    points = np.array([[1, 0], [1, k], [k, 1], [0, 1], [-k, 1], [-1, k], [-1, 0], [-1, -k], [-k, -1], [0, -1]])
    points = np.vstack([points, [[k, -1], [1, -k], [1, 0]]]) * (a, b) + (x, y)
    return cubics(np.stack([points[i : i + 4] for i in range(0, 12, 3)]))


def placed(path: Path, random, side: int = SIDE) -> Path:
    """Turned by any angle about its middle, which comes near the picture's, between pixels."""
    low, high = path.ctrl.reshape(-1, 2).min(axis=0), path.ctrl.reshape(-1, 2).max(axis=0)
    x, y = -(low + high) / 2
    x1, y1 = side / 2 + random.uniform(-2, 2, 2)
    turn = rotation(np.radians(random.uniform(0, 360)))
    return transform(transform(transform(path, translation(x, y)), turn), translation(x1, y1))


def star(random) -> Path:
    n = random.integers(5, 9)
    inner = random.uniform(55, 75)
    reach = np.where(np.arange(2 * n) % 2, inner, random.uniform(125, 145))
    angle = np.arange(2 * n) * np.pi / n
    return polygon(reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)]))


def polygon_of(random) -> Path:
    n = random.integers(5, 10)
    angle = (np.arange(n) + random.uniform(-0.25, 0.25, n)) * 2 * np.pi / n
    reach = random.uniform(70, 145, n)
    return polygon(reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)]))


def frame(random) -> Path:
    a, b, w = random.uniform(150, 240), random.uniform(90, 200), random.uniform(12, 40)
    outer = np.array([[0, 0], [a, 0], [a, b], [0, b]])
    inner = np.array([[w, w], [w, b - w], [a - w, b - w], [a - w, w]])
    return Path.concatenate([polygon(outer), polygon(inner)])


def gear(random) -> Path:
    n = random.integers(10, 15)
    step = 2 * np.pi / n
    angle = (np.arange(n)[:, None] * step + step * np.array([0, 0.3, 0.42, 0.88])).ravel()
    reach = np.tile([140.0, 140.0, 112.0, 112.0], n)
    return Path.concatenate(
        [polygon(reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])), ellipse(0, 0, 40, 40).reversed()]
    )


def stairs(random) -> Path:
    wide = random.uniform(18, 40, 5)
    high = random.uniform(18, 40, 5)
    points = [(0.0, 0.0)]
    for w, h in zip(wide, high, strict=True):
        x, y = points[-1]
        points += [(x + w, y), (x + w, y + h)]
    return polygon([*points, (0.0, points[-1][1])])


def blob(random) -> Path:
    n = random.integers(5, 9)
    angle = np.arange(n) * 2 * np.pi / n
    reach = random.uniform(80, 140, n)
    return smooth(reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)]))


def leaf(random) -> Path:
    a, b = random.uniform(60, 130, 2)
    p, q = np.array([0.0, 0.0]), np.array([240.0, random.uniform(-40, 40)])
    return cubics([[p, p + by(40, -a), q + by(-60, -a), q], [q, q + by(-40, b), p + by(60, b), p]])


def moon(random) -> Path:
    """A crescent whose two tips are sharp."""
    p, q = np.array([0.0, -120.0]), np.array([0.0, 120.0])
    deep = random.uniform(60, 90)
    return cubics([[p, p + by(160, -10), q + by(160, 10), q], [q, q + by(deep, -30), p + by(deep, 30), p]])


def heart(random) -> Path:
    dip, tip = np.array([0.0, -60.0]), np.array([0.0, 110.0])
    left, right = np.array([-115.0, -60.0 + random.uniform(-10, 10)]), np.array([115.0, -60.0])
    return cubics(
        [
            [dip, dip + by(35, -70), right + by(0, -75), right],
            [right, right + by(0, 70), tip + by(30, -40), tip],
            [tip, tip + by(-30, -40), left + by(0, 70), left],
            [left, left + by(0, -75), dip + by(-35, -70), dip],
        ]
    )


def drop(random) -> Path:
    tip, low = np.array([0.0, -135.0]), np.array([0.0, 110.0])
    w = random.uniform(70, 100)
    side = np.array([w, 30.0])
    mirror = np.array([-1.0, 1.0])
    return cubics(
        [
            [tip, tip + by(20, 60), side - by(0, 60), side],
            [side, side + by(0, 50), low + by(w * 0.6, 0), low],
            [low, low - by(w * 0.6, 0), side * mirror + by(0, 50), side * mirror],
            [side * mirror, side * mirror - by(0, 60), tip + by(-20, 60), tip],
        ]
    )


def rounded(random) -> Path:
    """A rectangle whose sides run into quarter circles without a corner."""
    a, b, r = random.uniform(180, 240), random.uniform(110, 200), random.uniform(14, 45)
    k = r * 0.4477152502
    parts = []
    corners = np.array([[0, 0], [a, 0], [a, b], [0, b]], float)
    for i in range(4):
        corner, after, before = corners[i], corners[(i + 1) % 4], corners[i - 1]
        u, v = (before - corner) / np.hypot(*(before - corner)), (after - corner) / np.hypot(*(after - corner))
        parts.append((1, [corner + r * u, corner + k * u, corner + k * v, corner + r * v]))
        parts.append((0, line_controls((corner + r * v)[None], (after - r * v)[None])[0]))
    return Path(np.array([p[1] for p in parts]), [p[0] for p in parts], np.zeros(8), [0, 8], [True])


def ring(random) -> Path:
    outer, inner = random.uniform(90, 140), random.uniform(20, 60)
    x, y = random.uniform(-20, 20, 2)
    return Path.concatenate([ellipse(0, 0, outer, outer), ellipse(x, y, inner, inner).reversed()])


def letter(font: str, name: str, size: float) -> Callable:
    return lambda random: transform(glyph(font, name), scaling(size / 1000))


#: What is drawn from each seed, in this order.
KINDS: tuple[tuple[str, Callable], ...] = (
    ("star", star),
    ("polygon", polygon_of),
    ("second polygon", polygon_of),
    ("frame", frame),
    ("gear", gear),
    ("stairs", stairs),
    ("blob", blob),
    ("second blob", blob),
    ("leaf", leaf),
    ("moon", moon),
    ("heart", heart),
    ("drop", drop),
    ("rounded rectangle", rounded),
    ("ring", ring),
    ("circle", lambda random: (lambda r: ellipse(0, 0, r, r))(random.uniform(60, 140))),
    ("small circle", lambda random: (lambda r: ellipse(0, 0, r, r))(random.uniform(4, 9))),
    ("ellipse", lambda random: ellipse(0, 0, random.uniform(100, 140), random.uniform(40, 80))),
    ("serif R", letter("serif", "R", 300)),
    ("serif a", letter("serif", "a", 380)),
    ("serif ampersand", letter("serif", "ampersand", 300)),
    ("sans g", letter("sans", "g", 330)),
    ("sans K", letter("sans", "K", 340)),
)


def shapes(seed: int) -> list[Shape]:
    random = np.random.default_rng(seed)
    return [Shape(name, placed(make(random), random)) for name, make in KINDS]
