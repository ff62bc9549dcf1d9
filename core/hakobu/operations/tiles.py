"""tiles: a design that is larger than a sheet cut into parts, with marks by which they are joined again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Box, Path, bounds, box_of, primitives
from ..geometry.boolean import cut_lines, union
from ..lettering.text_path import number_path
from ..model import Conditions, Document, Group, Layer, Piece, Stroke, Treatment
from ..model.declare import choice, flag, length
from ..model.ids import piece_id
from ..model.materials import MOST_SHEET_MM
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm, size_text
from ..model.words import number_of
from ..sheets.proposal import STOCK_MM
from ..sheets.tiling import Joint, Tile, cuts_along, joints_of, tiles_of
from .making import part_in
from .operation import Context, Operation, Outcome, Role

#: What stays free along the rim of a sheet that parts are cut for, in mm.
RIM_MM = 5.0
#: Half the length of a joint's mark, how high its number is, and how far off the joint that stands, in mm (common
#: practice: large enough to be read on a scrap, small enough for narrow strips).
MARK_MM, NUMBER_MM, NUMBER_OFF_MM = 4.0, 3.0, 7.0
#: A joint shorter than this has no mark, in mm.
SHORTEST_JOINT_MM = 3.0
LINE_MM = 0.2
#: Marks end so far before the joint, so that a part with them is no larger than it is.
SHORT_MM = 0.2
MOST_PARTS = 400


@dataclass(frozen=True)
class Tiles:
    width_mm: float | None = length(
        None, label="parts wide", help="at most; without it, as wide as a sheet", low=10, high=MOST_SHEET_MM
    )
    height_mm: float | None = length(
        None, label="parts high", help="at most; without it, as high as a sheet", low=10, high=MOST_SHEET_MM
    )
    joint: str = choice(
        "butt", label="joints", help="how parts meet", choices=[("butt", "butt joints"), ("overlap", "overlapping")]
    )
    overlap_mm: float = length(
        10.0, label="overlap", help="how far parts lie on each other", low=0.5, high=200, when=("joint", ("overlap",))
    )
    searched: bool = flag(True, label="cut where it crosses least", help="else parts are even", group="more")
    marks: bool = flag(True, label="joint marks", help="lines and numbers that are drawn across joints", group="more")


def run(document: Document, parameters: Tiles, context: Context) -> Outcome:
    """Each part is a group of its own, so that it is laid on a sheet as one. The design stays where it lies."""
    pieces = [piece for piece in context.pieces(document) if len(piece.path)]
    box = bounds(Path.concatenate(piece.path for piece in pieces))
    if box is None:
        raise CannotDo("There is nothing to cut into parts yet: bring in a design, or make one.")
    width, height = _part_size(document, parameters, context.conditions)
    overlap = parameters.overlap_mm if parameters.joint == "overlap" else 0.0
    if min(width, height) <= overlap + RIM_MM:
        raise CannotDo(f"Parts of {size_text(width, height)} are too small for an overlap of {as_mm(overlap)}.")
    if (box[2] - box[0]) * (box[3] - box[1]) > MOST_PARTS * (width - overlap) * (height - overlap):
        raise CannotDo(f"That would be more than {MOST_PARTS} parts: make them larger.")
    shapes = union(*(operand_of(piece) for piece in pieces if has_inside(piece))).path
    upright = cuts_along(shapes, box, 0, width, overlap, parameters.searched)
    level = cuts_along(shapes, box, 1, height, overlap, parameters.searched)
    if not upright and not level:
        raise CannotDo(f"It goes into one part of {size_text(width, height)} as it is: type smaller parts.")
    tiles = tiles_of(box, upright, level, overlap)
    joints = joints_of(shapes, box, 0, upright) + joints_of(shapes, box, 1, level)
    made, cut = _cut(pieces, tiles, context.key)
    layers, marks = _marked(document, made, tiles, joints, context.key) if parameters.marks else (document.layers, [])
    after = replace(_with_parts(document, made, cut, marks, context.key), layers=layers)
    parts = sum(1 for own in made.values() if own)
    crossed = sum(joint.length_mm for joint in joints)
    columns, rows = len(upright) + 1, len(level) + 1
    note = f"{columns} beside each other, {rows} below each other; joints cross {as_mm(round(crossed, 1))} of material"
    return Outcome(after, f"Cut into {number_of(parts, 'part')}", note, {"parts": parts, "crossed_mm": crossed})


def _part_size(document: Document, parameters: Tiles, conditions: Conditions) -> tuple[float, float]:
    """What is typed, or what of a sheet of the material the machine reaches, less its rim."""
    material = next((m for layer in document.layers if (m := conditions.named_material(layer))), None)
    width, height = (material.sheet_width_mm, material.sheet_height_mm) if material else STOCK_MM
    machine = conditions.machine
    if machine:
        width, height = min(width, machine.reach_width_mm), min(height, machine.reach_height_mm)
    return parameters.width_mm or width - 2 * RIM_MM, parameters.height_mm or height - 2 * RIM_MM


def _cut(
    pieces: Sequence[Piece], tiles: Sequence[Tile], key: str
) -> tuple[dict[str, list[Piece]], dict[str, list[Piece]]]:
    """The pieces of each part, by its name, and what each piece became, by its id; what lies in one part whole
    stays as it is."""
    made: dict[str, list[Piece]] = {tile.name: [] for tile in tiles}
    cut: dict[str, list[Piece]] = {}
    for piece in pieces:
        box = box_of(piece.path)
        whole = next((tile for tile in tiles if _holds(tile.box, box)), None)
        if whole:
            made[whole.name].append(piece)
            continue
        for tile in tiles:
            path = part_in(piece, tile.path)
            if len(path):
                identity = piece_id(key, f"{piece.id.replace(':', '.')}.{tile.name}")
                name = f"{piece.name} {tile.name}".strip()
                rule = "nonzero" if has_inside(piece) else piece.fill_rule
                part = replace(piece, id=identity, path=path, name=name, fill_rule=rule)
                made[tile.name].append(part)
                cut.setdefault(piece.id, []).append(part)
    return made, cut


def _holds(outer: Box, inner: Box) -> bool:
    return outer[0] <= inner[0] and outer[1] <= inner[1] and outer[2] >= inner[2] and outer[3] >= inner[3]


def _marked(
    document: Document, made: dict[str, list[Piece]], tiles: Sequence[Tile], joints: Sequence[Joint], key: str
) -> tuple[tuple[Layer, ...], list[Piece]]:
    """Puts marks into the parts, on a layer above each that is cut; all layers, and the marks."""
    layers: list[Layer] = []
    all_marks: list[Piece] = []
    for layer in document.layers:
        layers.append(layer)
        marks = Layer(
            piece_id(key, f"marks.{layer.id}"), f"Joints of {layer.name}", layer.color, Treatment.DRAW, layer.material
        )
        before = len(all_marks)
        for tile in tiles:
            own = [piece for piece in made[tile.name] if piece.layer == layer.id and has_inside(piece)]
            path = _marks_in(own, tile, joints) if layer.treatment is Treatment.CUT and own else Path.concatenate([])
            if len(path):
                identity = piece_id(key, f"marks.{layer.id.replace(':', '.')}.{tile.name}")
                stroke = Stroke(layer.color, LINE_MM)
                all_marks.append(Piece(identity, path, marks.id, f"joints {tile.name}", stroke=stroke))
                made[tile.name].append(all_marks[-1])
        if len(all_marks) > before:
            layers.append(marks)
    return tuple(layers), all_marks


def _marks_in(pieces: Sequence[Piece], tile: Tile, joints: Sequence[Joint]) -> Path:
    """The lines and numbers of the joints of a part that lie on its material."""
    shape = union(*(operand_of(piece) for piece in pieces)).path
    if not len(shape):
        return shape
    left, top, right, bottom = tile.box
    inner = primitives.rectangle(
        left + SHORT_MM, top + SHORT_MM, right - left - 2 * SHORT_MM, bottom - top - 2 * SHORT_MM
    )
    found: list[Path] = []
    for number, joint in enumerate(joints, 1):
        middle, reach = np.array(joint.at), MARK_MM + NUMBER_OFF_MM
        x, y = joint.at
        near = left - reach < x < right + reach and top - reach < y < bottom + reach
        if not near or joint.length_mm < SHORTEST_JOINT_MM:
            continue
        way = np.array([1.0, 0.0] if joint.upright else [0.0, 1.0])
        tick = Path.from_points(np.array([middle - MARK_MM * way, middle + MARK_MM * way]), closed=False)
        found.append(cut_lines(cut_lines(tick, shape).path, inner).path)
        for side in (-1.0, 1.0):
            x, y = (middle + side * NUMBER_OFF_MM * way).tolist()
            text = number_path(number, (x, y), NUMBER_MM)
            # A number that would hang over is left out: the line is there.
            if not len(cut_lines(text, shape, keep="outside").path):
                found.append(text)
    return Path.concatenate(path for path in found if len(path))


def _with_parts(
    document: Document, made: dict[str, list[Piece]], cut: dict[str, list[Piece]], marks: list[Piece], key: str
) -> Document:
    """The document with what each piece became in its place of the paint order, marks on top; of the groups before only
    what was not cut into parts is left, since each part is one."""
    pieces = [part for piece in document.pieces for part in cut.get(piece.id, [piece])]
    gone = set(cut) | {piece.id for own in made.values() for piece in own}
    groups = []
    for group in document.groups:
        members = tuple(member for member in group.members if member not in gone)
        if members:
            groups.append(replace(group, members=members))
        else:
            gone.add(group.id)
    groups += [
        Group(piece_id(key, f"part.{name}"), f"Part {name}", tuple(piece.id for piece in own))
        for name, own in made.items()
        if len(own) > 1
    ]
    return replace(document, pieces=(*pieces, *marks), groups=tuple(groups))


def _cost(document: Document, parameters: Tiles, source) -> float:
    return 0.2 + 2e-4 * sum(piece.path.segment_count for piece in document.pieces)


OPERATION = Operation(
    id="tiles",
    version=1,
    station="build",
    title="Cut into parts",
    parameters=Tiles,
    run=run,
    sizes=("width_mm", "height_mm", "overlap_mm"),
    sentence="Cut into parts[ {width_mm} wide][ {height_mm} high], with {joint}[ of {overlap_mm}]",
    roles=(Role(ON, "what is cut into parts", everything=True),),
    cost=_cost,
    reads_conditions=True,
)
