"""MODES: the ways lines are found in a picture, a line each."""

from __future__ import annotations

from ..model.errors import BadRequest

#: id, and what it does in a few words.
MODES: tuple[tuple[str, str], ...] = (("dark", "everything darker than a threshold is ink"),)


def check_mode(identity: str) -> str:
    """Raises BadRequest for a mode that does not exist."""
    known = [mode for mode, _ in MODES]
    if identity not in known:
        raise BadRequest(f'"{identity}" is not a way of tracing that is known here: use one of {", ".join(known)}.')
    return identity


__all__ = ["MODES", "check_mode"]
