"""A sheet in the coordinates of a machine: where they begin, and how their axes lie."""

from __future__ import annotations

import numpy as np

from ..geometry import IDENTITY, compose, translation
from ..model import Machine


def frame_of(machine: Machine | None) -> np.ndarray:
    """The affine map (2, 3), in mm, from places y up from the lower left corner, which lies in that of the reach, to
    those of the machine."""
    if machine is None:
        return IDENTITY
    width, height = machine.reach_width_mm, machine.reach_height_mm
    matrix = IDENTITY
    if machine.mirror_x:
        matrix = compose(np.array([[-1.0, 0.0, width], [0.0, 1.0, 0.0]]), matrix)
    if machine.mirror_y:
        matrix = compose(np.array([[1.0, 0.0, 0.0], [0.0, -1.0, height]]), matrix)
    if machine.swap_axes:
        matrix = compose(np.array([[0.0, 1.0, 0.0], [1.0, 0.0, 0.0]]), matrix)
        width, height = height, width
    if machine.origin == "centre":
        matrix = compose(translation(-width / 2, -height / 2), matrix)
    return matrix


def inverse(matrix: np.ndarray) -> np.ndarray:
    """The affine map back."""
    turn = np.linalg.inv(matrix[:, :2])
    return np.column_stack([turn, -turn @ matrix[:, 2]])
