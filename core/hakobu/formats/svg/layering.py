"""What a drawing's groups and colours mean as layers and groups.

Groups at the top that carry a title, or that stand beside each other with ids, are layers; what is left goes by
colour, a layer each. What cannot be seen goes onto a layer of its own that is left out.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence

from ...geometry import Path
from ...model import Group, Layer, Picture, Piece, Treatment
from ...model.ids import piece_id
from ...model.notices import DAMAGED, HIDDEN
from ..color_words import color_words
from ..outlines import paths_of
from .clipping import Clipper
from .images import Embedded
from .state import Drawn
from .style import color_of
from .walk import Walk

HIDDEN_LAYER = "hidden"
#: More named groups than this side by side are parts of a drawing, not its layers (common practice).
MOST_LAYERS = 24


def arrange(walk: Walk) -> tuple[tuple[Layer, ...], tuple[Piece, ...], tuple[Group, ...]]:
    """Layers, pieces in paint order and groups of all that was drawn."""
    depth, containers = _layer_groups(walk)
    layers: dict[str, Layer] = {}
    pieces: list[Piece] = []
    unseen: list[str] = []
    paths = paths_of(walk.drawn)
    clipper = Clipper(walk, walk.drawn, paths)
    for drawn, path in _parts(walk, paths):
        identity = piece_id(walk.options.key, drawn.anchor)
        layer = _layer_of(walk, drawn, depth, containers)
        rule, gone = drawn.looks.fill_rule, False
        if drawn.clips and not drawn.hidden:
            cut, rule = clipper.clipped(drawn, path)
            path, gone = (cut, False) if len(cut) else (path, True)
        if drawn.hidden or drawn.looks.invisible or gone:
            unseen.append(identity)
            layer = layer if layer.treatment is Treatment.LEAVE_OUT else _hidden_layer()
        layers.setdefault(layer.id, layer)
        looks = drawn.looks
        name = drawn.name
        pieces.append(Piece(identity, path, layer.id, name, rule, looks.fill, looks.stroke, looks.opacity))
    if unseen:
        many = f"{len(unseen)} shapes are" if len(unseen) > 1 else "One shape is"
        walk.notices.append(
            HIDDEN.at(f"{many} hidden, clipped away or without any paint.", "hidden", tuple(unseen), count=len(unseen))
        )
    return tuple(layers.values()), tuple(pieces), _groups(walk, depth, containers)


def _parts(walk: Walk, paths: Sequence[Path | None]) -> Iterator[tuple[Drawn, Path]]:
    """All that was drawn with its path; lines as areas where that is asked for, or where they are stretched."""
    for drawn, path in zip(walk.drawn, paths, strict=True):
        if path is None:
            walk.say(DAMAGED, "A shape lies farther out than ten kilometres", drawn.line)
        elif walk.options.strokes == "outlines" or drawn.stretched_broadly:
            from .strokes import as_areas

            yield from as_areas(walk, drawn, path)
        else:
            yield drawn, path


def placed(
    found: Sequence[Embedded], layers: tuple[Layer, ...], key: str
) -> tuple[tuple[Layer, ...], tuple[Picture, ...]]:
    """The layers with more for pictures, printed ones apart from others, where there are any; and the pictures."""
    more: dict[str | None, Layer] = {}
    pictures = []
    for e in found:
        name, on = e.printed_on, Treatment.LEAVE_OUT if e.printed_on is None else Treatment.PRINT
        anchor = "picture-layer" if name is None else f"print-layer-{name}"
        more.setdefault(name, Layer(piece_id(key, anchor), name or "Pictures in the file", "#fffdf7", on))
        pictures.append(Picture(piece_id(key, e.anchor), e.sha256, e.size_px, e.matrix, more[name].id))
    return (*layers, *more.values()), tuple(pictures)


def _layer_groups(walk: Walk) -> tuple[int, set[str]]:
    """How deep the groups are that count as layers, and which they are."""
    depth = 0
    while True:
        here = dict.fromkeys(d.groups[depth] for d in walk.drawn if len(d.groups) > depth)
        loose = any(len(d.groups) <= depth for d in walk.drawn)
        titled = {anchor for anchor in here if walk.group_names[anchor][1]}
        if titled:
            return depth, titled
        if len(here) != 1 or loose:
            break
        depth += 1
    named = {anchor for anchor in here if walk.group_names[anchor][0]}
    return depth, named if 2 <= len(named) <= MOST_LAYERS else set()


def _layer_of(walk: Walk, drawn: Drawn, depth: int, containers: set[str]) -> Layer:
    seen = None if drawn.looks.invisible else drawn.looks.fill or drawn.looks.stroke
    color = seen.color if seen else "#808080"
    anchor = drawn.groups[depth] if len(drawn.groups) > depth else None
    if anchor not in containers:
        return Layer(f"color-{color[1:]}", color_words(color), color)
    name, _, _, attributes = walk.group_names[anchor]
    own = color_of(attributes["color"], "black") if "color" in attributes else None
    word = attributes.get("data-treatment", "cut")
    treatment = Treatment(word) if word in list(Treatment) else Treatment.CUT
    identity = HIDDEN_LAYER if treatment is Treatment.LEAVE_OUT and name == _hidden_layer().name else f"group-{name}"
    return Layer(identity, name, own[0] if own else color, treatment)


def _hidden_layer() -> Layer:
    return Layer(HIDDEN_LAYER, "Hidden in the file", "#808080", Treatment.LEAVE_OUT)


def _groups(walk: Walk, depth: int, containers: set[str]) -> tuple[Group, ...]:
    """Groups below the layers that hold at least two things, inner ones before those that hold them."""
    members: dict[str, list[str]] = defaultdict(list)
    for drawn in walk.drawn:
        inside = [a for i, a in enumerate(drawn.groups) if not (i < depth or (i == depth and a in containers))]
        chain = [piece_id(walk.options.key, a) for a in inside] + [piece_id(walk.options.key, drawn.anchor)]
        for outer, inner in zip(chain, chain[1:], strict=False):
            if inner not in members[outer]:
                members[outer].append(inner)
    prefix = len(walk.options.key) + 1
    found = [Group(i, walk.group_names[i[prefix:]][0], tuple(m)) for i, m in members.items() if len(m) > 1]
    # A group that holds a single group is passed over: its member takes its place.
    single = {i: m[0] for i, m in members.items() if len(m) == 1}

    def through(identity: str) -> str:
        while identity in single:
            identity = single[identity]
        return identity

    flat = [Group(g.id, g.name, tuple(through(m) for m in g.members)) for g in found]
    return tuple(sorted(flat, key=lambda g: -g.id.count("/")))
