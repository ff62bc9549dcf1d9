"""Ids that survive change, and fingerprints that notice when they no longer mean the same thing.

An id is the key of the step that made the piece, a colon, and an anchor: for a source, the element's path in the file.
"""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Iterable
from dataclasses import dataclass

from ..geometry import box_of, signed_areas
from .document import Piece

#: Anchors that begin so mean the same thing whatever it looks like: the third letter of a word that is typed anew.
LASTING = "="
#: Where box, area or centre differ by more than this share of the box's diagonal, a selection stops its step.
CHANGED_SHARE = 0.25


def new_key() -> str:
    """A step's key: random, made once, kept in recipes."""
    return secrets.token_hex(5)


def piece_id(key: str, anchor: str) -> str:
    return f"{key}:{anchor}"


def made_id(key: str, parents: Iterable[str], rank: int) -> str:
    """The id of a piece that a step makes of others: the same for the same parents, whatever their order. rank: its
    number among all that the step makes of just these. What is made of lasting things lasts."""
    parents = sorted(parents)
    digest = hashlib.sha256("\n".join(parents).encode()).hexdigest()[:10]
    begin = LASTING if parents and all(map(is_lasting, parents)) else ""
    return piece_id(key, f"{begin}{digest}.{rank}")


def is_lasting(identity: str) -> bool:
    """Whether an id says by itself what is meant, so that what it means may change its looks."""
    return anchor_of(identity).startswith(LASTING)


def key_of(identity: str) -> str:
    """The key of the step that made a piece."""
    return identity.partition(":")[0]


def anchor_of(identity: str) -> str:
    return identity.partition(":")[2]


@dataclass(frozen=True, slots=True)
class Fingerprint:
    """What a piece looked like when it was picked: box (left, top, right, bottom), area in mm2, centre of the box."""

    box: tuple[float, float, float, float]
    area: float
    centre: tuple[float, float]


def fingerprint(piece: Piece) -> Fingerprint:
    box = box_of(piece.path)
    left, top, right, bottom = box
    size = float(abs(signed_areas(piece.path)).sum())
    return Fingerprint(box, size, ((left + right) / 2, (top + bottom) / 2))


def share_changed(before: Fingerprint, after: Fingerprint) -> float:
    """How far two fingerprints differ: the largest move of a side or the centre as a share of the first diagonal, or
    the change of area as a share of the larger area."""
    left, top, right, bottom = before.box
    diagonal = max(((right - left) ** 2 + (bottom - top) ** 2) ** 0.5, 1e-9)
    pairs = (*zip(before.box, after.box, strict=True), *zip(before.centre, after.centre, strict=True))
    moved = max(abs(a - b) for a, b in pairs) / diagonal
    grown = abs(before.area - after.area) / max(before.area, after.area, 1e-9)
    return max(moved, grown)


def same_thing(before: Fingerprint, after: Fingerprint) -> bool:
    return share_changed(before, after) <= CHANGED_SHARE
