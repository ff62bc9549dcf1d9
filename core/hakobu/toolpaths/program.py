"""The program of a machine: the strokes of its tools, in the order in which they run."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..geometry import Path, compose, scaling, transform, translation
from ..model import Document, Layer, Treatment

#: Drawn and scored before anything is cut loose (common practice).
ORDER = (Treatment.DRAW, Treatment.SCORE, Treatment.CUT)


@dataclass(frozen=True, slots=True)
class Tool:
    """What follows a layer. number: by which a machine is told, from 1; layer: the layer's name."""

    number: int
    layer: str
    treatment: Treatment


@dataclass(frozen=True)
class Program:
    """The runs of a machine's tools. Outline k of `path` is run k, in mm, y up from the lower left corner of what it is
    cut from; tool (N,): which of `tools` follows it; piece (N,): which of `pieces`, ids of the design, it belongs to;
    outline (N,): which of that piece's outlines it is."""

    path: Path
    tool: np.ndarray
    piece: np.ndarray
    outline: np.ndarray
    tools: tuple[Tool, ...]
    pieces: tuple[str, ...]

    def __len__(self) -> int:
        return len(self.path)

    def taken(self, rows: np.ndarray) -> Program:
        """The runs of these numbers, in this order."""
        return replace(
            self, path=self.path.take(rows), tool=self.tool[rows], piece=self.piece[rows], outline=self.outline[rows]
        )

    def with_turned(self, rows: np.ndarray) -> Program:
        """The same with some runs, (N,) bool, the other way round."""
        if not rows.any():
            return self
        outlines = (each.reversed() if back else each for each, back in zip(self.path.outlines(), rows, strict=True))
        return replace(self, path=Path.concatenate(outlines))

    @property
    def ends(self) -> tuple[np.ndarray, np.ndarray]:
        """Where each run begins and where it ends, both (N, 2)."""
        first, last = self.path.start[:-1], self.path.start[1:] - 1
        return self.path.ctrl[first, 0], self.path.ctrl[last, 3]


def layers_in_order(document: Document) -> list[Layer]:
    """The layers that a tool follows, as they are worked one after the other."""
    followed = (layer for layer in document.layers if layer.treatment.follows_lines)
    return sorted(followed, key=lambda layer: ORDER.index(layer.treatment))


def program_of(document: Document) -> Program:
    """The strokes of all layers that are cut, scored or drawn, a tool for each layer, in the order of the design."""
    up = compose(translation(0.0, document.frame[1]), scaling(1.0, -1.0))
    tools: list[Tool] = []
    rows: list[tuple[int, int, int]] = []
    paths: list[Path] = []
    pieces: list[str] = []
    for layer in layers_in_order(document):
        own = [piece for piece in document.pieces if piece.layer == layer.id and len(piece.path)]
        if not own:
            continue
        tools.append(Tool(len(tools) + 1, layer.name, layer.treatment))
        for piece in own:
            rows += [(len(tools) - 1, len(pieces), k) for k in range(len(piece.path))]
            paths.append(piece.path)
            pieces.append(piece.id)
    table = np.array(rows, np.int64).reshape(-1, 3)
    path = transform(Path.concatenate(paths), up) if paths else Path.concatenate([])
    return Program(path, table[:, 0], table[:, 1], table[:, 2], tuple(tools), tuple(pieces))


def travel_mm(program: Program, at: tuple[float, float] = (0.0, 0.0)) -> float:
    """Length of rapid travel: from a place to the first run, and from run to run."""
    if not len(program):
        return 0.0
    begin, end = program.ends
    steps = begin - np.vstack([[at], end[:-1]])
    return float(np.hypot(*steps.T).sum())
