"""The program of a machine: the strokes of its tools, in the order in which they run."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..geometry import Path, compose, scaling, transform, translation
from ..model import Document, Layer, Machine, Treatment
from .sides import sides_of

#: Drawn and scored before anything is cut loose (common practice).
ORDER = (Treatment.DRAW, Treatment.SCORE, Treatment.CUT)


@dataclass(frozen=True, slots=True)
class Tool:
    """What follows a layer. number: by which a machine is told, from 1; layer: the layer's name; machine: what it is
    worked with there, where that is known."""

    number: int
    layer: str
    treatment: Treatment
    machine: Machine | None = None
    color: str = "#000000"


@dataclass(frozen=True)
class Program:
    """The runs of a machine's tools. Outline k of `path` is run k, in mm, y up from the lower left corner of what it is
    cut from. Of each run (N,): tool, which of `tools` follows it; piece, which of `pieces`, ids of the design, it
    belongs to; outline, which of that piece's outlines it is; side, 1 where what it encloses is kept, -1 where that is
    waste, 0 where neither; nth_pass, from 1. pace (M,): the share of its speed at which each segment is run. lifted
    (M,): whether a knife only turns there, raised. lead, tail (N,): how much of a run's beginning and of its end, in
    mm, is no line of the design. begin (N, 2): the place near which a person wants it to begin, not a number without
    one. off_mm: how far its arcs may be from the curves that they stand for."""

    path: Path
    tool: np.ndarray
    piece: np.ndarray
    outline: np.ndarray
    side: np.ndarray
    nth_pass: np.ndarray
    lead: np.ndarray
    tail: np.ndarray
    begin: np.ndarray
    pace: np.ndarray
    lifted: np.ndarray
    tools: tuple[Tool, ...]
    pieces: tuple[str, ...]
    page_height_mm: float = 0.0
    off_mm: float = 0.0

    def __len__(self) -> int:
        return len(self.path)

    def taken(self, rows: np.ndarray) -> Program:
        """The runs of these numbers, in this order; some may be there again."""
        segments = segments_of_runs(self.path, rows)
        return replace(self, path=self.path.take(rows), pace=self.pace[segments], lifted=self.lifted[segments],
                       **{name: getattr(self, name)[rows] for name in OF_RUNS})  # fmt: skip

    def with_paths(
        self,
        path: Path,
        rows: np.ndarray | None = None,
        pace: np.ndarray | None = None,
        lifted: np.ndarray | None = None,
    ) -> Program:
        """The same runs along other lines: run k of the new ones is of what run rows[k] was of. Without pace and lifted
        they run at full speed, and lowered."""
        made = self if rows is None else replace(self, **{name: getattr(self, name)[rows] for name in OF_RUNS})
        count = path.segment_count
        pace = np.ones(count) if pace is None else pace
        return replace(made, path=path, pace=pace, lifted=np.zeros(count, bool) if lifted is None else lifted)

    def with_turned(self, rows: np.ndarray) -> Program:
        """The same with some runs, (N,) bool, the other way round; before segments have a pace of their own."""
        if not rows.any():
            return self
        outlines = (each.reversed() if back else each for each, back in zip(self.path.outlines(), rows, strict=True))
        return replace(self, path=Path.concatenate(outlines))

    def machine(self, run: int) -> Machine | None:
        return self.tools[self.tool[run]].machine

    def value(self, name: str, otherwise: float | str) -> np.ndarray:
        """A value of each run's machine, (N,), and the other one where that has none."""
        of = [getattr(tool.machine, name) if tool.machine else otherwise for tool in self.tools]
        return np.array([otherwise if value is None else value for value in of] or [otherwise])[self.tool]

    def treated(self, treatment: Treatment) -> np.ndarray:
        """Which runs are, (N,) bool."""
        return np.array([tool.treatment is treatment for tool in self.tools] or [False])[self.tool]

    @property
    def ends(self) -> tuple[np.ndarray, np.ndarray]:
        """Where each run begins and where it ends, both (N, 2)."""
        first, last = self.path.start[:-1], self.path.start[1:] - 1
        return self.path.ctrl[first, 0], self.path.ctrl[last, 3]


#: The arrays that have a value for each run.
OF_RUNS = ("tool", "piece", "outline", "side", "nth_pass", "lead", "tail", "begin")


def segments_of_runs(path: Path, rows: np.ndarray) -> np.ndarray:
    """The segments of some outlines, in their order."""
    rows = np.asarray(rows, np.int64)
    count = np.diff(path.start)[rows]
    begin = np.cumsum(count) - count
    return np.arange(count.sum()) - np.repeat(begin, count) + np.repeat(path.start[rows], count)


def layers_in_order(document: Document) -> list[Layer]:
    """The layers that a tool follows, as they are worked one after the other."""
    followed = (layer for layer in document.layers if layer.treatment.follows_lines)
    return sorted(followed, key=lambda layer: ORDER.index(layer.treatment))


def program_of(document: Document, machine_of: Callable[[str], Machine | None] = lambda _: None) -> Program:
    """The strokes of all layers that are cut, scored or drawn, a tool for each layer, in the order of the design.
    machine_of: what a layer is worked with, by its id; then a tool for each treatment and colour has a number of its
    own, up to those that the machine can change between."""
    up = compose(translation(0.0, document.frame[1]), scaling(1.0, -1.0))
    tools: list[Tool] = []
    rows: list[tuple[int, int, int]] = []
    paths: list[Path] = []
    pieces: list[str] = []
    kept = []
    numbers: dict[tuple[Treatment, str], int] = {}
    for layer in layers_in_order(document):
        own = [piece for piece in document.pieces if piece.layer == layer.id and len(piece.path)]
        if not own:
            continue
        machine = machine_of(layer.id)
        number = len(tools) + 1
        if machine:
            number = min(numbers.setdefault((layer.treatment, layer.color), len(numbers) + 1), machine.pens)
        tools.append(Tool(number, layer.name, layer.treatment, machine, layer.color))
        kept.append(sides_of(own))
        for piece in own:
            rows += [(len(tools) - 1, len(pieces), k) for k in range(len(piece.path))]
            paths.append(piece.path)
            pieces.append(piece.id)
    table = np.array(rows, np.int64).reshape(-1, 3)
    path = transform(Path.concatenate(paths), up) if paths else Path.concatenate([])
    count, segments = len(table), path.segment_count
    side = np.concatenate(kept) if kept else np.zeros(0, np.int64)
    return Program(path, table[:, 0], table[:, 1], table[:, 2], side, np.ones(count, np.int64), np.zeros(count),
                   np.zeros(count), np.full((count, 2), np.nan), np.ones(segments), np.zeros(segments, bool),
                   tuple(tools), tuple(pieces), document.frame[1])  # fmt: skip


def travel_mm(program: Program, at: tuple[float, float] = (0.0, 0.0)) -> float:
    """Length of rapid travel: from a place to the first run, and from run to run."""
    if not len(program):
        return 0.0
    begin, end = program.ends
    steps = begin - np.vstack([[at], end[:-1]])
    return float(np.hypot(*steps.T).sum())
