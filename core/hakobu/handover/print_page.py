"""The print of a sheet: its pictures and registration marks at true size, in the coordinates of its cut file."""

from __future__ import annotations

from ..errors import CannotDo
from ..model import Document, Fill, Layer, Machine, Page, Piece, Treatment
from ..model.sheet import Sheet
from ..sheets.marks import marks_of
from ..sheets.placed import finished

MARK_INK = "#000000"


def print_page(document: Document, sheet: Sheet, machine: Machine | None, marks_only: bool = False) -> Document:
    """A page as large as the sheet. marks_only: to try whether the machine finds them. Raises CannotDo where nothing is
    to be printed."""
    front = finished(document, sheet)
    pictures = () if marks_only else front.pictures
    marks = marks_of(sheet, machine)
    if not pictures and not len(marks):
        raise CannotDo(
            "Nothing is printed on this sheet: give a picture's layer the treatment print, or the machine marks."
        )
    layers = (*front.layers, Layer("marks", "Marks", MARK_INK, Treatment.PRINT))
    pieces = (Piece("marks:1", marks, "marks", "Marks", fill=Fill(MARK_INK)),) if len(marks) else ()
    return Document(Page(sheet.width_mm, sheet.height_mm, fixed=True), layers, pieces, pictures=pictures)
