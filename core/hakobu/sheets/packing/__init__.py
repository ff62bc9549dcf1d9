"""Packing: items laid on stock close together, none nearer to another or to the rim than asked."""

from .pack import Packed, Wish, pack

__all__ = ["Packed", "Wish", "pack"]
