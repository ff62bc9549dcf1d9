"""How axes move: speed rises and falls with the acceleration, and what comes next is looked at before it is come to."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

#: So many moves are looked ahead, and corners are rounded by so much, in mm.
AHEAD, ROUND_MM = 64, 0.02

Place = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Move:
    """Straight to a place, in mm, from where the one before ended; down: whether the tool works; speed in mm/s."""

    x: float
    y: float
    down: bool
    speed: float


@dataclass
class Axes:
    """Where the tool is, and how fast, at the end of the last move. acceleration in mm/s2."""

    acceleration: float
    x: float = 0.0
    y: float = 0.0
    way: tuple[float, float] | None = None
    speed: float = 0.0

    def seconds(self, move: Move, following: Iterable[Move]) -> float:
        """Makes a move; what it takes. following: the moves that are known to come after it without a stop."""
        dx, dy = move.x - self.x, move.y - self.y
        long = math.hypot(dx, dy)
        leave = self._leaving(move, following)
        took = self._over(long, self.speed, leave, move.speed)
        self.x, self.y, self.speed = move.x, move.y, min(leave, math.sqrt(self.speed**2 + 2 * self.acceleration * long))
        return took

    def rest(self) -> None:
        self.speed = 0.0

    def _leaving(self, move: Move, following: Iterable[Move]) -> float:
        """The speed at the end of a move from which all that is known can be stopped for."""
        places, tops = [(self.x, self.y), (move.x, move.y)], [move.speed]
        for each in following:
            places.append((each.x, each.y))
            tops.append(each.speed)
        speed = 0.0
        for k in range(len(places) - 2, 0, -1):
            long = math.dist(places[k], places[k + 1])
            most = math.sqrt(speed * speed + 2 * self.acceleration * long)
            speed = min(most, tops[k - 1], tops[k], self._round(places[k - 1], places[k], places[k + 1]))
        return speed

    def _round(self, a: Place, b: Place, c: Place) -> float:
        """The speed round a corner: that of a circle that touches both sides and cuts the corner off by ROUND_MM."""
        p, q = math.dist(a, b), math.dist(b, c)
        if p == 0 or q == 0:
            return 0.0
        dot = ((b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])) / (p * q)
        half = math.sqrt(max((1 + dot) / 2, 0.0))
        return math.sqrt(self.acceleration * ROUND_MM * half / max(1 - half, 1e-12))

    def _over(self, long: float, first: float, last: float, top: float) -> float:
        a = self.acceleration
        top = max(top, first, last)
        peak = math.sqrt((2 * a * long + first * first + last * last) / 2)
        if peak <= top:
            return max(2 * peak - first - last, 0.0) / a
        ramps = (2 * top * top - first * first - last * last) / (2 * a)
        return (2 * top - first - last) / a + max(long - ramps, 0.0) / top
