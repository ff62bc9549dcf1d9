"""page: the page that the design lies on: a sheet of the material at hand, or cut close round the design."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import BadRequest, CannotDo
from ..model import Document, Page
from ..model.declare import flag, length, text
from ..model.pages import on_roll
from ..model.scaling import shifted
from ..model.statistics import on_page
from ..model.units import as_mm, size_text
from .operation import Context, Operation, Outcome, at_once


@dataclass(frozen=True)
class SetPage:
    width_mm: float | None = length(None, label="width", help="the width of the page", low=1)
    height_mm: float | None = length(None, label="height", help="the height of the page", low=1)
    margin_mm: float = length(
        5.0, label="margin", help="room round the design, where no size is given", high=500, group="more"
    )
    roll: bool = flag(False, label="a roll", help="only its width is set: it is as long as the design", group="more")
    name: str = text("", label="name", help="what sheet it is, for the log", group="")


def run(document: Document, parameters: SetPage, context: Context) -> Outcome:
    """With a width and a height: a design that does not lie on such a page is centred on it; what lay outside of the
    page before does not count for that, but moves along. Without: the page ends a margin away from all there is."""
    width, height = parameters.width_mm, parameters.height_mm
    if parameters.roll:
        return _roll(document, parameters)
    if (width is None) != (height is None):
        raise BadRequest("Give the page's width and its height, or neither to have it close round the design.")
    if width is None or height is None:
        margin, box = parameters.margin_mm, _box(document)
        page = Page(box[2] - box[0] + 2 * margin, box[3] - box[1] + 2 * margin)
        made = shifted(document, margin - box[0], margin - box[1])
    else:
        page = Page(width, height, fixed=True)
        made = centred(document, page)
    title = f"Page set to {parameters.name}" if parameters.name else "Page set"
    statistics = {"width_mm": page.width_mm, "height_mm": page.height_mm}
    return Outcome(replace(made, page=page), title, size_text(page.width_mm, page.height_mm), statistics)


def _roll(document: Document, parameters: SetPage) -> Outcome:
    if parameters.width_mm is None:
        raise BadRequest("Give the width of the roll.")
    made = on_roll(document, Page(parameters.width_mm, 1.0, fixed=True, roll=True))
    width, height = made.frame
    statistics = {"width_mm": width, "height_mm": height}
    return Outcome(made, f"Page set to {parameters.name or 'a roll'}", f"{as_mm(width)} wide", statistics)


def without_strays(document: Document) -> Document:
    """The document without what lies nowhere on its page, unless that is all there is."""
    here = on_page(document)
    gone = {piece.id: None for piece, lies in zip(document.pieces_in_use(), here, strict=True) if not lies}
    return document.with_paths(gone) if here.any() else document


def _box(document: Document) -> tuple[float, float, float, float]:
    """Of all outlines in use, or of the page where there is nothing but a picture. Raises CannotDo."""
    if document.box:
        return document.box
    if not document.pictures:
        raise CannotDo("There is nothing here yet for a page: bring in a file first.")
    return (0.0, 0.0, *document.frame)


def centred(document: Document, page: Page) -> Document:
    """The document in the middle of a page, where it does not lie on that; on a roll that is as long as it needs."""
    if page.roll:
        return on_roll(document, page)
    return shifted(document, *_centring(_box(without_strays(document)), page))


def _centring(box: tuple[float, float, float, float], page: Page) -> tuple[float, float]:
    left, top, right, bottom = box
    if left >= 0 and top >= 0 and right <= page.width_mm and bottom <= page.height_mm:
        return 0.0, 0.0
    return (page.width_mm - left - right) / 2, (page.height_mm - top - bottom) / 2


OPERATION = Operation(
    id="page",
    version=2,
    station="intake",
    title="Set the page",
    parameters=SetPage,
    run=run,
    sentence="Set the page to {width_mm} by {height_mm}",
    cost=at_once,
)
