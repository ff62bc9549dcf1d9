"""Pixels asked for before they are needed: where a line is followed through a picture that is larger than the
processor's caches, waiting for memory takes most of the time."""

from __future__ import annotations

from ....compiled import kernel, prefetch

#: What lies across an edge is asked for so many pixels to each side of it.
NEAR = 5


@kernel("void(Array(f4, 1, 'C', readonly=True), i8, i8, i8, i8)")
def ask_for(flat, width, r, c, way):
    """Asks for the pixels across a crack, of a way, of pixel r, c in a picture so wide, whose pixels lie row by row."""
    place = r * width + c
    if way & 1:
        prefetch(flat, place - NEAR)
        prefetch(flat, place + NEAR)
        return
    for k in range(-NEAR, NEAR + 1):
        prefetch(flat, place + k * width)
