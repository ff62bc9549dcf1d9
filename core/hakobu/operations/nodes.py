"""nodes: outlines changed by hand, node by node: as many gestures in a row as one likes, as one step."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import CUBIC, Path, node_edit, outline_edit
from ..model import Document
from ..model.declare import data
from ..model.step import ON
from ..model.words import counted, number_of
from .operation import Context, Operation, Outcome, Role, Spot

#: So many gestures are one step, and so many nodes can be taken hold of at once.
MOST_EDITS, MOST_SPOTS = 5000, 6000


@dataclass(frozen=True)
class Nodes:
    edits: Mapping[str, Any] | None = data(
        None, label="changes", help='{"edits": [...]}: each with "do", "piece", and nodes or places', group=""
    )


def run(document: Document, parameters: Nodes, context: Context) -> Outcome:
    """Each change is made to the outlines as the ones before have left them."""
    edits = _edits(parameters)
    pieces = {piece.id: piece for piece in context.pieces(document)}
    paths: dict[str, Path] = {}
    for number, edit in enumerate(edits):
        identity = edit.get("piece")
        if not isinstance(identity, str) or identity not in pieces:
            raise BadRequest(f"Change {number + 1} is for a piece that this step is not for.")
        try:
            paths[identity] = _DO[edit["do"]](paths.get(identity, pieces[identity].path), edit)
        except (IndexError, TypeError, ValueError, KeyError, OverflowError) as error:
            raise CannotDo(f"Change {number + 1} cannot be made to this outline: {_why(edit, error)}.") from error
    gone = {identity for identity, path in paths.items() if not len(path)}
    after = replace(
        document,
        pieces=tuple(
            replace(p, path=paths[p.id]) if p.id in paths and p.id not in gone else p for p in document.pieces
        ),
    )
    after = after.with_paths(dict.fromkeys(gone))
    note = number_of(len(edits), "change") if edits else "nothing changed yet"
    title = f"Nodes of {counted(len(pieces), 'piece')} moved by hand"
    shown = [(identity, paths.get(identity, piece.path)) for identity, piece in pieces.items() if identity not in gone]
    return Outcome(after, title, note, {"edits": len(edits)}, spots=_spots(shown))


def _why(edit: Mapping[str, Any], error: Exception) -> str:
    if edit.get("do") == "join":
        return "pick two loose ends"
    return "it names a node that is not there" if isinstance(error, IndexError) else "it is not complete"


def _edits(parameters: Nodes) -> list[dict[str, Any]]:
    edits = (parameters.edits or {}).get("edits", [])
    if not isinstance(edits, list) or len(edits) > MOST_EDITS:
        raise BadRequest(f'"edits" must be a list of no more than {MOST_EDITS:,} changes.')
    for edit in edits:
        if not isinstance(edit, dict) or not isinstance(edit.get("do"), str) or edit["do"] not in _DO:
            raise BadRequest(f"A change must be one of {', '.join(_DO)}.")
    return edits


def _nodes(path: Path, edit: Mapping[str, Any]) -> list[int]:
    nodes = [int(node) for node in edit["nodes"]]
    if not nodes or min(nodes) < 0 or max(nodes) >= node_edit.node_count(path):
        raise IndexError("no such node")
    return nodes


def _place(values: Any) -> tuple[float, float]:
    x, y = (float(value) for value in values)
    if not np.isfinite([x, y]).all() or max(abs(x), abs(y)) > 1e5:
        raise ValueError("no place")
    return x, y


def _handle(path: Path, edit: Mapping[str, Any]) -> Path:
    segment, end = int(edit["segment"]), int(edit["end"])
    if not 0 <= segment < path.segment_count or end not in (0, 1):
        raise IndexError("no such handle")
    return node_edit.handle_moved(path, segment, end, _place(edit["to"]), bool(edit.get("even")))


def _join(path: Path, edit: Mapping[str, Any]) -> Path:
    one, other = _nodes(path, edit)
    return outline_edit.joined(path, one, other)


def _reverse(path: Path, edit: Mapping[str, Any]) -> Path:
    ends = np.flatnonzero(~path.closed)
    rows = {
        int(path.outline_of[n] if n < path.segment_count else ends[n - path.segment_count]) for n in _nodes(path, edit)
    }
    return Path.concatenate([o.reversed() if k in rows else o for k, o in enumerate(path.outlines())])


_DO: dict[str, Callable[[Path, Mapping[str, Any]], Path]] = {
    "move": lambda path, edit: node_edit.moved(path, _nodes(path, edit), _place(edit["by"])),
    "handle": _handle,
    "add": lambda path, edit: node_edit.added(path, _place(edit["near"])),
    "delete": lambda path, edit: node_edit.deleted(path, _nodes(path, edit)),
    "smooth": lambda path, edit: node_edit.smooth(path, _nodes(path, edit)),
    "corner": lambda path, edit: node_edit.corner(path, _nodes(path, edit)),
    "straight": lambda path, edit: node_edit.straight(path, node_edit.segments_between(path, _nodes(path, edit))),
    "arc": lambda path, edit: node_edit.as_arcs(path, node_edit.segments_between(path, _nodes(path, edit))),
    "open": lambda path, edit: outline_edit.opened(path, _nodes(path, edit)),
    "join": _join,
    "reverse": _reverse,
    "start": lambda path, edit: outline_edit.started(path, _nodes(path, edit)[0]),
}


def _spots(shown: list[tuple[str, Path]]) -> tuple[Spot, ...]:
    """Nodes as "id n4", and handles as "id h7.0.4": of a segment, at its start or its end, and of which node."""
    found: list[Spot] = []
    for identity, path in shown:
        ends = path.ctrl[path.start[1:] - 1, 3][~path.closed]
        for node, (x, y) in enumerate(np.vstack([path.ctrl[:, 0], ends]).tolist()):
            found.append(Spot(f"{identity} n{node}", (x, y)))
        for segment in np.flatnonzero(path.kind == CUBIC).tolist():
            for end, node in enumerate((segment, node_edit.node_after(path, segment))):
                found.append(Spot(f"{identity} h{segment}.{end}.{node}", tuple(path.ctrl[segment, 1 + end].tolist())))
        if len(found) > MOST_SPOTS:
            break
    return tuple(found[:MOST_SPOTS])


def scaled(values: dict[str, Any], factor: float, off: tuple[float, float]) -> dict[str, Any]:
    """The same changes to outlines so many times as large, and moved."""
    edits = []
    for edit in (values.get("edits") or {}).get("edits", []):
        moved = {"by": (0.0, 0.0), "to": off, "near": off}
        places = {
            key: [factor * v + o for v, o in zip(edit[key], by, strict=True)]
            for key, by in moved.items()
            if key in edit
        }
        edits.append({**edit, **places})
    return {**values, "edits": {"edits": edits}}


OPERATION = Operation(
    id="nodes",
    version=1,
    station="build",
    title="Nodes by hand",
    parameters=Nodes,
    run=run,
    scale=scaled,
    sentence="Move nodes and handles on the work",
    roles=(Role(ON, "whose nodes are moved", everything=True),),
)
