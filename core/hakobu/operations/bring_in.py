"""bring-in: a source becomes part of the document."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..model import Document, Page
from ..model.declare import flag, number, text
from ..model.document import px_per_inch
from ..model.likely import LikelySize, doubt, likely_sizes
from ..model.notices import NO_UNIT
from ..model.pages import picture_box
from ..model.scaling import scaled, shifted
from ..model.statistics import statistics_of
from ..model.units import FileUnit, size_text
from .operation import Context, Operation, Outcome, SourceCost

#: Room between what is there and what comes in beside it.
BESIDE_MM = 10.0


@dataclass(frozen=True)
class BringIn:
    source: str = text(label="source", help="the source's hash", group="")
    name: str = text("", label="name", help="what the file is called", group="")
    unit: str | None = text(
        None, label="unit", help="what a number means in a file that states no unit: mm, in or px", group="more"
    )
    scale: float = number(1.0, label="scale", help="times the size that was read", unit="times", low=0.0001, high=10000)
    notes: bool = flag(False, label="notes", help="take in dimensions, leaders and tables as lines", group="more")
    reading: str = text("", label="reading", help="why it is scaled: what its numbers were taken to mean", group="")


def run(document: Document, parameters: BringIn, context: Context) -> Outcome:
    """The first source brings its page; a later one is laid to the right of what is there, and the page holds both
    unless a person has set it."""
    assert context.source is not None, "bringing in needs the sources of a job"
    result = context.source(parameters.source, parameters.unit, context.key, parameters.notes)
    coming = scaled(result.document, parameters.scale)
    joined = _beside(document, coming) if document.pieces or document.pictures else coming
    width, height = coming.extent_mm
    of_lines = statistics_of(coming)
    note = f"{size_text(width, height)}, {_what(coming, of_lines.pieces)}"
    if parameters.reading:
        note += f", read as {parameters.reading}"
    statistics = {
        "width_mm": width,
        "height_mm": height,
        "pieces": of_lines.pieces,
        "nodes": of_lines.nodes,
        "layers": len(coming.layers),
        "pictures": len(coming.pictures),
        "scale": parameters.scale,
    }
    if result.left_out:
        statistics["left_out"] = ", ".join(_counted(what, count) for what, count in result.left_out.items())
    if result.unit:
        unit = result.unit
        statistics |= {"unit": unit.name, "unit_mm": unit.mm, "unit_stated": int(unit.stated)}
    # Whoever says how large it is has answered what its numbers mean.
    said = tuple(f for f in result.findings if parameters.scale == 1.0 or f.rule != NO_UNIT.id)
    return Outcome(joined, f"{parameters.name or 'A file'} brought in", note, statistics, said)


def sizes_for(statistics: Mapping[str, float | int | str]) -> tuple[str, tuple[LikelySize, ...]]:
    """From the statistics of a step: why its size may be wrong, if so, and other sizes that its file may be meant
    to have, each with the scale that gives it."""
    if "unit" not in statistics:
        return "", ()
    scale = float(statistics["scale"])
    size = float(statistics["width_mm"]) / scale, float(statistics["height_mm"]) / scale
    unit = FileUnit(str(statistics["unit"]), float(statistics["unit_mm"]), bool(statistics["unit_stated"]))
    return "" if scale != 1.0 else doubt(*size, unit), likely_sizes(*size, unit)


def _counted(kind: str, count: int) -> str:
    """Kinds are named by more than one of them: "3 dimensions", "1 view of a sheet"."""
    if count > 1:
        return f"{count:,} {kind}"
    first, *rest = kind.split(" ")
    return " ".join((f"1 {first.removesuffix('s')}", *rest))


def _what(coming: Document, pieces: int) -> str:
    if not coming.pictures:
        return f"{pieces} {'piece' if pieces == 1 else 'pieces'}"
    across, down = coming.pictures[0].size_px
    return f"{across} \u00d7 {down} pixels, {px_per_inch(coming.pictures[0]):.4g} an inch"


def _beside(document: Document, coming: Document) -> Document:
    width, height = document.frame
    fixed = document.page if document.page and document.page.fixed else None
    sides = [picture_box(picture)[2] for picture in document.pictures] + ([document.box[2]] if document.box else [])
    right = max([0.0 if fixed else width, *sides])
    moved = shifted(coming, right + BESIDE_MM, 0.0)
    layers = {layer.id: layer for layer in (*document.layers, *coming.layers)}
    more_width, more_height = coming.frame
    return replace(
        document,
        page=fixed or Page(right + BESIDE_MM + more_width, max(height, more_height)),
        layers=tuple(layers.values()),
        pieces=(*document.pieces, *moved.pieces),
        groups=(*document.groups, *coming.groups),
        pictures=(*document.pictures, *moved.pictures),
    )


def cost(document: Document, parameters: BringIn, source: SourceCost) -> float:
    return source(parameters.source)


OPERATION = Operation(
    id="bring-in",
    version=3,
    station="intake",
    title="Bring in a file",
    parameters=BringIn,
    run=run,
    sentence="Bring in {name} at {scale} times its size",
    cost=cost,
)
