"""DXF in: R12 to R2018, ascii and binary. Source: the DXF reference; ezdxf reads the tags.

Entities whose ends meet are chained into outlines, layer by layer and colour by colour; closed outlines inside others
are their holes. Where the file has groups (our own does), what stands in one is one piece.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from ...errors import UnreadableFile
from ...geometry import Path, box_of, compose, scaling, transform, translation
from ...geometry.chaining import chain
from ...geometry.nesting import shapes_of
from ...model import Document, Fill, Layer, Page, Piece, Stroke, Treatment
from ...model.ids import piece_id
from ...model.notices import DAMAGED, HIDDEN, NO_UNIT
from ...model.units import MM_PER_UNIT, FileUnit
from ..color_words import color_words
from ..format import ReadOptions, ReadResult
from ..outlines import far_origin, moved_by, path_of_all
from ..treatment_words import told_by
from .grouping import Grouping
from .loading import IN_MM, load, uncollected
from .walk import Drawn, Walk

#: $INSUNITS as millimetres. Source: the DXF reference, header variables.
MM_OF_INSUNITS = {1: 25.4, 2: 304.8, 3: 1_609_344.0, 4: 1.0, 5: 10.0, 6: 1000.0, 7: 1e6, 8: 25.4e-6, 9: 0.0254}
MM_OF_INSUNITS |= {10: 914.4, 13: 1e-3, 14: 100.0, 15: 1e4, 16: 1e5, 21: 1200e3 / 3937}
#: What is looked for in the header.
HEADER = ("$LIMMAX", "$MEASUREMENT")
#: Ends nearer than this, in mm, are one: numbers are often written with three decimals of a millimetre or four of an
#: inch (common practice).
MEET_MM = 3e-3
#: The same of the edges of one hatch.
EDGES_MEET_MM = 1e-3
#: Ten kilometres: a drawing larger than that is a mistake.
MOST_MM = 1e7
#: How broad a line is shown that has no width of its own.
SHOWN_MM = 0.2


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """The lines of a DXF file. Raises UnreadableFile or TooMuch."""
    with uncollected():
        return _read(data, options)


def _read(data: bytes, options: ReadOptions) -> ReadResult:
    drawing, damages = load(data)
    unit = _unit(drawing, data, options)
    scale = unit.mm
    stated = {name for name in HEADER if name.encode() in data}
    walk = Walk(drawing, scale, options.budget, options.notes)
    for what in damages[:50]:
        walk.say(DAMAGED, f"Put right while reading: {what}"[:160])
    grouping = Grouping(drawing)
    drawn: Sequence[Drawn] = list(walk.all(drawing.modelspace()))
    if not drawn:
        drawn = [d for layout in drawing.layouts if layout.name != "Model" for d in walk.all(layout)]
    far = far_origin(drawn) if drawn else np.zeros(2)
    if far.any():
        drawn = moved_by(drawn, -far)
    whole, owner = path_of_all(drawn)
    for number in np.setdiff1d(np.arange(len(drawn)), owner).tolist():
        walk.say(DAMAGED, "Something lies farther out than ten kilometres", drawn[number].handle)
    walk.say_moved(far)
    ours = bool(grouping.names) or data.startswith(IN_MM.encode())
    page, to_page = _page(drawing, whole, scale, ours, "$LIMMAX" in stated)
    whole = transform(whole, to_page)
    document = _arranged(drawing, drawn, whole, owner, grouping, page, options)
    findings = [*walk.text_findings(compose(to_page, translation(*-far))), *walk.findings()]
    hidden = tuple(p.id for p in document.pieces if document.treatment_of(p) is Treatment.LEAVE_OUT)
    if hidden:
        many = f"{len(hidden)} shapes are" if len(hidden) > 1 else "One shape is"
        findings.append(HIDDEN.at(f"{many} invisible, or on a layer that is off or frozen.", "hidden", hidden))
    if not unit.stated:
        english = "$MEASUREMENT" in stated and drawing.header.get("$MEASUREMENT") == 0
        findings.append(_no_unit(document, scale, english))
    return ReadResult(document, tuple(findings), unit=unit, left_out=walk.left_out)


def _unit(drawing, data: bytes, options: ReadOptions) -> FileUnit:
    """What the file's numbers are, by what it says or the person does."""
    # What a file does not say, the drawing has by default.
    stated = MM_OF_INSUNITS.get(drawing.header.get("$INSUNITS", 0)) if b"$INSUNITS" in data else None
    if data[:100].replace(b"\r\n", b"\n").startswith(IN_MM.encode()):
        stated = 1.0
    if stated is not None:
        name = next((name for name, mm in MM_PER_UNIT.items() if mm == stated), "unit")
        return FileUnit(name, stated, True)
    name = options.unit or "mm"
    return FileUnit(name, MM_PER_UNIT[name], options.unit is not None)


def _no_unit(document: Document, scale: float, english: bool):
    width, height = (side / scale for side in document.size_mm)
    hint = "only that it is not metric" if english else "no unit"
    return NO_UNIT.at(
        f"The file says {hint}. A unit was taken as a millimetre: {width:.1f} x {height:.1f} mm; "
        f"as inches it would be {width * 25.4:.0f} x {height * 25.4:.0f} mm.",
        "size",
        width_units=width,
        height_units=height,
    )


def _page(drawing, whole: Path, scale: float, ours: bool, stated: bool) -> tuple[Page | None, np.ndarray]:
    """The page, and the matrix that turns y down on it: the drawing's limits where all lies within them, or where we
    wrote it; else none, and the lines' own box lies at the top left."""
    if not len(whole):
        return None, scaling(1, -1)
    low, high = whole.ctrl.reshape(-1, 2).min(axis=0), whole.ctrl.reshape(-1, 2).max(axis=0)
    if not np.isfinite([low, high]).all() or (high - low).max() > MOST_MM:
        raise UnreadableFile(f"Its size of {high[0] - low[0]:g} x {high[1] - low[1]:g} mm cannot be meant.")
    limits = [drawing.header.get(name, (0.0, 0.0)) for name in ("$LIMMIN", "$LIMMAX")]
    first, last = (np.array([float(v) for v in limit[:2]]) * scale for limit in limits)
    within = (low >= first - 1e-6).all() and (high <= last + 1e-6).all()
    if stated and (last > first).all() and (within or ours):
        page = Page(float(last[0] - first[0]), float(last[1] - first[1]))
        return page, compose(translation(-first[0], last[1]), scaling(1, -1))
    left, _, _, top = box_of(whole)
    return None, compose(translation(-left, top), scaling(1, -1))


def _arranged(
    drawing, drawn: Sequence[Drawn], whole: Path, owner: np.ndarray, grouping: Grouping, page, options
) -> Document:
    """Layers in the order of the file's own; pieces in the order of their first entities. owner (K,): the number of the
    entity that each outline is of."""
    colors = defaultdict(dict)
    sets: dict[tuple, list[int]] = {}
    for outline, number in enumerate(owner.tolist()):
        d = drawn[number]
        colors[d.layer.lower()].setdefault(d.color, None)
        key = (d.layer.lower(), d.color, d.hidden, d.filled, grouping.piece_of.get(d.handle, ""))
        sets.setdefault(key, []).append(outline)
    layers: dict[str, Layer] = {}
    made: list[tuple[int, Piece]] = []
    piece_of: dict[str, str] = {}
    for (layer_name, color, hidden, filled, group), outlines in sets.items():
        own = owner[outlines]
        layer = _layer(drawn[own[0]].layer, color, hidden, only=len(colors[layer_name]) == 1)
        layers.setdefault(layer.id, layer)
        looks = (Fill(color), None) if filled else (None, Stroke(color, SHOWN_MM))
        name = grouping.names.get(group, "")
        for path, parts in _pieces(_part(whole, outlines), own, filled, bool(group)):
            identity = piece_id(options.key, f"entity[{drawn[parts[0]].handle}]")
            piece_of.update((drawn[part].handle, identity) for part in parts)
            made.append((parts[0], Piece(identity, path, layer.id, name, "evenodd", *looks)))
    pieces = _named_apart([piece for _, piece in sorted(made, key=lambda pair: pair[0])])
    rank = {layer.dxf.name.lower(): i for i, layer in enumerate(drawing.layers)}
    ordered = sorted(layers.values(), key=lambda layer: rank.get(_file_name(layer), len(rank)))
    return Document(page, tuple(ordered), pieces, grouping.groups(piece_of, options.key))


def _part(whole: Path, outlines: list[int]) -> Path:
    """The named outlines; where that is all of them, nothing is copied."""
    return whole if len(outlines) == len(whole) else whole.take(outlines)


def _pieces(whole: Path, owner: np.ndarray, filled: bool, one: bool) -> Iterator[tuple[Path, list[int]]]:
    """The path of each piece and the numbers of the entities that it is made of, in the order of the file."""
    if filled and not one:
        numbers, counts = np.unique(owner, return_counts=True)
        for number, path in zip(numbers.tolist(), whole.split(counts.tolist()), strict=True):
            yield path if path.closed.all() else chain(path, EDGES_MEET_MM).path, [number]
        return
    sources = [[k] for k in range(len(whole))]
    if not whole.closed.all():
        chained = chain(whole, MEET_MM)
        whole, sources = chained.path, [[source for source, _ in run] for run in chained.sources]
    shapes = [list(range(len(whole)))] if one else shapes_of(whole)
    paths = whole.take([k for shape in shapes for k in shape]).split([len(shape) for shape in shapes])
    for shape, path in zip(shapes, paths, strict=True):
        yield path, sorted({int(owner[i]) for k in shape for i in sources[k]})


def _file_name(layer: Layer) -> str:
    return layer.id.removeprefix("layer-").rpartition(":")[0] or layer.id.removeprefix("layer-")


def _layer(name: str, color: str, hidden: bool, only: bool) -> Layer:
    plain, treatment = told_by(name)
    if hidden:
        return Layer(f"layer-{name.lower()}:hidden", f"{plain} (hidden in the file)", color, Treatment.LEAVE_OUT)
    if only and name != "0":
        return Layer(f"layer-{name.lower()}", plain, color, treatment)
    words = color_words(color)
    return Layer(f"layer-{name.lower()}:{color}", words if name == "0" else f"{plain}, {words}", color, treatment)


def _named_apart(pieces: list[Piece]) -> tuple[Piece, ...]:
    """Ids are unique: a closed entity twice in one place of a block keeps its number."""
    seen: dict[str, int] = {}
    made = []
    for piece in pieces:
        seen[piece.id] = number = seen.get(piece.id, 0) + 1
        made.append(piece if number == 1 else replace(piece, id=f"{piece.id}[{number}]"))
    return tuple(made)
