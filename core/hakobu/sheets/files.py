"""The files of sheets: what is written for each, proven on its sheet, and the page that says where a scrap lies."""

from __future__ import annotations

import re

from ..model.sheet import Sheet
from ..model.units import as_mm


def sheet_stem(sheet: Sheet, nth: int) -> str:
    """The file name of a sheet without its ending: "1-copper", "2-black-card"."""
    name = re.sub(r"[^\w-]+", "-", sheet.name).strip("-").lower() or "sheet"
    return f"{nth}-{name[:40]}"


def corner_words(sheet: Sheet, carrier_mm: tuple[float, float], carrier: str) -> str:
    """Where a sheet lies on its carrier, in words: its lower left corner from that of the carrier."""
    x, y = sheet.at[0], carrier_mm[1] - sheet.at[1] - sheet.height_mm
    return (
        f"Lower left corner at {as_mm(round(x, 2))}, {as_mm(round(y, 2))} from the lower left corner of the {carrier}"
    )


def sheet_note(sheet: Sheet) -> str:
    """What a file of a sheet says of itself."""
    what = "mirrored: cut from the back" if sheet.mirrored else "as seen from the front"
    return f"Sheet {sheet.name}, {sheet.width_mm:g} x {sheet.height_mm:g} mm, {what}"
