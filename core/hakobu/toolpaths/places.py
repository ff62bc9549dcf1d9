"""Where something of a program is on the page of its design, and of which piece."""

from __future__ import annotations

from .program import Program


def on_page(program: Program, run: int, at: tuple[float, float] | None = None) -> tuple[float, float]:
    """x, y in mm from the page's top left, y down; of where a run begins unless a place of the program is given."""
    x, y = at if at is not None else program.path.ctrl[program.path.start[run], 0].tolist()
    return float(x), float(program.page_height_mm - y)


def piece_ids(program: Program, run: int) -> tuple[str, ...]:
    return (program.pieces[program.piece[run]],)
