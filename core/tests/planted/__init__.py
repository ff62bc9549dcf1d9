"""Designs with one fault each, of every kind in eight forms and more, made by a seed: what the rules must find."""

from __future__ import annotations

import numpy as np

from . import in_documents, in_lines, in_shapes
from .host import Planted

KINDS = {**in_lines.KINDS, **in_shapes.KINDS, **in_documents.KINDS}
#: How many forms of each kind there are at least.
FORMS = 8


def planted(kind: str, form: int = 0, size: float = 40.0, seed: int = 1) -> Planted:
    """A design about so large, in mm, with a fault of a kind in it."""
    random = np.random.default_rng([seed, *kind.encode(), form, int(size)])
    return KINDS[kind](form, random, size)


__all__ = ["FORMS", "KINDS", "Planted", "planted"]
