"""What a plotter does with instructions: the strokes of its pens, in plotter units, y up.

Source: the HP-GL/2 and HP RTL reference guide; DO lists the instructions that draw or place.
"""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import replace

import numpy as np

from ...errors import TooMuch
from ...geometry import IDENTITY, Path, PathBuilder, compose, rotation, scaling, transform, translation
from ..budget import Budget
from . import encoded
from .arcs import through

Point = tuple[float, float]
#: Instructions that change speed, force, looks or the plotter's ways, not where the lines run.
HARMLESS = frozenset("VS FS AS PW WU CO PG BP PS NP PC TR SV AC LA MC PP QL SM SB SI SR DI DR DV ES LO SD AD".split())  # noqa: SIM905
HARMLESS |= set("FI FN CF SA SS CA CP CR RF TD UC UL OP OE OS OI OH OA OC OF OG OK OL OW ID IM TL XT YT VN GM".split())  # noqa: SIM905
#: Instructions that fill: their outline is taken.
FILLS = {"RA", "RR", "WG", "FP"}
#: So many numbers of one instruction are worth following together.
MANY = 16


class Plotter:
    """done: the strokes (pen, path). said: what is to be said of placing. broken: what could not be followed."""

    def __init__(self, budget: Budget) -> None:
        self.budget = budget
        self.done: list[tuple[int, Path]] = []
        self.said: Counter[str] = Counter()
        self.broken: list[str] = []
        self._stroke = PathBuilder()
        self._first = self.at = (0.0, 0.0)
        self.pen, self.down, self.relative = 1, False, False
        self._p1, self._p2 = (0.0, 0.0), None
        self._scale: list[float] = []
        self._turn = 0
        self._polygon: list[Path] | None = None
        self._buffer: list[Path] = []
        self._count = 0

    def do(self, word: str, numbers: list[float]) -> bool:
        """Follows an instruction; False where it is not known."""
        method = getattr(self, f"do_{word.lower()}", None)
        if method is None:
            return False
        method(numbers)
        return True

    # -- pens and moves ----------------------------------------------------------------------------------------------
    def do_pu(self, n: list[float]) -> None:
        self._lift()
        self._travel(n)

    def do_pd(self, n: list[float]) -> None:
        self._lower()
        self._travel(n)

    def do_pa(self, n: list[float]) -> None:
        self.relative = False
        self._travel(n)

    def do_pr(self, n: list[float]) -> None:
        self.relative = True
        self._travel(n)

    def do_sp(self, n: list[float]) -> None:
        self._lift()
        self.pen = int(n[0]) if n else 0

    def do_in(self, n: list[float]) -> None:
        self._lift()
        self.relative, self.at, self._scale, self._turn = False, (0.0, 0.0), [], 0
        self._p1, self._p2 = (0.0, 0.0), None

    def do_df(self, n: list[float]) -> None:
        self._restart()
        self.relative, self._scale = False, []

    # -- arcs and curves ---------------------------------------------------------------------------------------------
    def do_ci(self, n: list[float]) -> None:
        """A circle about the pen, which is put down for it and stays where it was."""
        if not n or n[0] == 0:
            return self.broken.append("CI")
        self._apart(lambda draw: draw.circle(*self.at, abs(n[0])))

    def do_aa(self, n: list[float]) -> None:
        self._arc(n, (0.0, 0.0))

    def do_ar(self, n: list[float]) -> None:
        self._arc(n, self.at)

    def do_at(self, n: list[float]) -> None:
        self._three_points(n, (0.0, 0.0))

    def do_rt(self, n: list[float]) -> None:
        self._three_points(n, self.at)

    def do_bz(self, n: list[float]) -> None:
        self._curves(n, relative=False)

    def do_br(self, n: list[float]) -> None:
        self._curves(n, relative=True)

    # -- rectangles, wedges, polygons --------------------------------------------------------------------------------
    def do_ea(self, n: list[float]) -> None:
        self._rectangle(n, (0.0, 0.0))

    def do_er(self, n: list[float]) -> None:
        self._rectangle(n, self.at)

    do_ra, do_rr = do_ea, do_er

    def do_ew(self, n: list[float]) -> None:
        if len(n) < 3:
            return self.broken.append("EW")
        radius, start, sweep = n[0], math.radians(n[1]), math.radians(n[2])
        start += math.pi if radius < 0 else 0.0
        x, y = self.at
        first = (x + abs(radius) * math.cos(start), y + abs(radius) * math.sin(start))

        def wedge(draw: PathBuilder) -> None:
            draw.move_to((x, y))
            draw.line_to(first)
            _swept(draw, (x, y), first, sweep)
            draw.close()

        self._apart(wedge)
        return None

    do_wg = do_ew

    def do_pm(self, n: list[float]) -> None:
        """Polygon mode: what is drawn is kept, and drawn by EP or FP."""
        mode = int(n[0]) if n else 0
        if mode and self.down:
            self._to(self._first)
        self._lift()
        if mode == 0:
            self._polygon = self._buffer = []
        elif mode == 2:
            self._polygon = None

    def do_ep(self, n: list[float]) -> None:
        self.done += [(self.pen, path) for path in self._buffer]

    do_fp = do_ep

    # -- places ------------------------------------------------------------------------------------------------------
    def do_ip(self, n: list[float]) -> None:
        self._restart()
        if len(n) >= 4:
            self._p1, self._p2 = (n[0], n[1]), (n[2], n[3])
        elif len(n) == 2:
            # The second corner follows the first.
            shift = (n[0] - self._p1[0], n[1] - self._p1[1])
            self._p1 = (n[0], n[1])
            self._p2 = (self._p2[0] + shift[0], self._p2[1] + shift[1]) if self._p2 else None
        else:
            self._p1, self._p2 = (0.0, 0.0), None

    def do_sc(self, n: list[float]) -> None:
        self._restart()
        self._scale = n if len(n) >= 4 else []
        if self._scale and self._p2 is None and not (len(n) > 4 and n[4] == 2):
            self.said["unplaced"] += 1

    def do_ro(self, n: list[float]) -> None:
        self._restart()
        self._turn = int(n[0]) if n else 0
        if self._turn:
            self.said["RO"] += 1

    def placed(self) -> np.ndarray:
        """The matrix from user units to plotter units."""
        matrix = rotation(math.radians(self._turn)) if self._turn else IDENTITY
        n = self._scale
        if not n:
            return matrix
        kind = int(n[4]) if len(n) > 4 else 0
        if kind == 2:
            factors = n[1] or 1.0, n[3] or 1.0
            own = compose(translation(*self._p1), compose(scaling(*factors), translation(-n[0], -n[2])))
            return compose(matrix, own)
        if self._p2 is None or n[1] == n[0] or n[3] == n[2]:
            return matrix
        width, height = self._p2[0] - self._p1[0], self._p2[1] - self._p1[1]
        sx, sy = width / (n[1] - n[0]), height / (n[3] - n[2])
        x, y = self._p1
        if kind == 1:
            size = min(abs(sx), abs(sy))
            left, bottom = n[5:7] if len(n) >= 7 else (50.0, 50.0)
            x += (width - math.copysign(size, sx) * (n[1] - n[0])) * left / 100
            y += (height - math.copysign(size, sy) * (n[3] - n[2])) * bottom / 100
            sx, sy = math.copysign(size, sx), math.copysign(size, sy)
        return compose(matrix, compose(translation(x, y), compose(scaling(sx, sy), translation(-n[0], -n[2]))))

    # -- encoded polylines -------------------------------------------------------------------------------------------
    def follow_encoded(self, text: str) -> None:
        try:
            for what, x, y in encoded.moves(text):
                if what == "pen":
                    self.do_sp([x])
                    continue
                self._lift() if what.startswith("up") else self._lower()
                self._to((x, y) if what.endswith("absolute") else (self.at[0] + x, self.at[1] + y))
        except encoded.Broken as error:
            self.broken.append(f"PE: {error}")

    # ----------------------------------------------------------------------------------------------------------------
    def _arc(self, n: list[float], origin: Point) -> None:
        if len(n) < 3:
            return self.broken.append("AA/AR")
        centre = (n[0] + origin[0], n[1] + origin[1])
        if self.down:
            self._counted(4)
            end = _swept(self._stroke, centre, self.at, math.radians(n[2]))
        else:
            silent = PathBuilder()
            silent.move_to(self.at)
            end = _swept(silent, centre, self.at, math.radians(n[2]))
        self.at = end

    def _three_points(self, n: list[float], origin: Point) -> None:
        if len(n) < 4:
            return self.broken.append("AT/RT")
        middle, end = (n[0] + origin[0], n[1] + origin[1]), (n[2] + origin[0], n[3] + origin[1])
        found = through(self.at, middle, end)
        if found is None or not self.down:
            self._to(end)
            return None
        self._counted(4)
        _swept(self._stroke, found[0], self.at, found[1])
        self.at = end
        return None

    def _curves(self, n: list[float], relative: bool) -> None:
        if len(n) % 6 or not n:
            self.broken.append(f"BZ/BR with {len(n)} numbers")
        for i in range(0, len(n) - 5, 6):
            ox, oy = self.at if relative else (0.0, 0.0)
            points = [(n[i + k] + ox, n[i + k + 1] + oy) for k in (0, 2, 4)]
            if self.down:
                self._counted(1)
                self._stroke.cubic_to(*points)
            self.at = points[2]

    def _rectangle(self, n: list[float], origin: Point) -> None:
        if len(n) < 2:
            return self.broken.append("EA/ER/RA/RR")
        (x0, y0), (x1, y1) = self.at, (n[0] + origin[0], n[1] + origin[1])

        def corners(draw: PathBuilder) -> None:
            draw.move_to((x0, y0))
            for point in ((x1, y0), (x1, y1), (x0, y1)):
                draw.line_to(point)
            draw.close()

        self._apart(corners)
        return None

    def _apart(self, drawing) -> None:
        """A figure of its own; the pen is afterwards as it was."""
        self._counted(4)
        draw = PathBuilder()
        drawing(draw)
        self._keep(draw.path())

    def _travel(self, n: list[float]) -> None:
        if len(n) % 2:
            self.broken.append(f"{len(n)} coordinates")
        if self.down and len(n) >= MANY:
            return self._lines(np.array(n[: len(n) // 2 * 2]).reshape(-1, 2))
        for x, y in zip(n[::2], n[1::2], strict=False):
            self._to((self.at[0] + x, self.at[1] + y) if self.relative else (x, y))

    def _lines(self, points: np.ndarray) -> None:
        if self.relative:
            points = np.cumsum(np.vstack([self.at, points]), axis=0)[1:]
        self._counted(len(points))
        self._stroke.lines_to(points)
        self.at = (float(points[-1, 0]), float(points[-1, 1]))

    def _to(self, to: Point) -> None:
        if self.down:
            self._counted(1)
            self._stroke.line_to(to)
        self.at = to

    def _lower(self) -> None:
        if not self.down:
            self.down, self._first = True, self.at
            self._stroke = PathBuilder()
            self._stroke.move_to(self.at)

    def _lift(self) -> None:
        if self.down:
            self.down = False
            path = self._stroke.path()
            # A stroke back to its very start is a closed outline; a lone dot is not.
            if path.segment_count > 1 and self.at == self._first:
                path = replace(path, closed=np.array([True]))
            self._keep(path)

    def _restart(self) -> None:
        """Ends a stroke before the units change under it, and begins the next where the pen is."""
        down = self.down
        self._lift()
        if down:
            self._lower()

    def _keep(self, path: Path) -> None:
        path = transform(path, self.placed())
        if self._polygon is None:
            self.done.append((self.pen, path))
        else:
            self._polygon.append(path)

    def _counted(self, many: int) -> None:
        self._count += many
        if self._count > self.budget.segments:
            raise TooMuch("It holds more strokes than are read at once; split it.")

    def finish(self) -> list[tuple[int, Path]]:
        self._lift()
        return self.done


def _swept(builder: PathBuilder, centre: Point, start: Point, sweep: float) -> Point:
    """Arcs about a centre from where the builder is; where they end, a full circle where it began."""
    if sweep and math.dist(start, centre) > 0:
        builder.arc_about(centre, sweep, start if abs(abs(sweep) - 2 * math.pi) < 1e-9 else None)
    return builder.here
