"""Packing: items laid on stock close together, none nearer to another or to the rim than asked."""

from .pack import Packed, Told, Wish, pack, untold

__all__ = ["Packed", "Told", "Wish", "pack", "untold"]
