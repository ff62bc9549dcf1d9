"""GROUP objects: what belongs to one piece, and which pieces belong together."""

from __future__ import annotations

from collections.abc import Mapping

from ...model import Group
from ...model.ids import piece_id

#: Groups of a piece's entities begin with this, so that they are told from groups of pieces.
PIECE = "HAKOBU_PIECE_"


class Grouping:
    """piece_of: the group of each entity that is part of a piece, by handles; names: what those groups are called."""

    def __init__(self, drawing) -> None:
        self.piece_of: dict[str, str] = {}
        self.names: dict[str, str] = {}
        self._others: list[tuple[str, str, list[str]]] = []
        for name, group in drawing.groups:
            handles = [entity.dxf.handle for entity in group]
            label = group.dxf.get("description", "")
            if name.upper().startswith(PIECE):
                self.names[name] = label
                for handle in handles:
                    self.piece_of.setdefault(handle, name)
            elif handles:
                self._others.append((name, label or ("" if name.startswith(("*", "GROUP_")) else name), handles))

    def groups(self, piece_of: Mapping[str, str], key: str) -> tuple[Group, ...]:
        """The other groups by their pieces, inner ones first; what is in several belongs to the smallest."""
        found: list[tuple[str, str, set[str]]] = []
        for name, label, handles in self._others:
            pieces = {piece_of[handle] for handle in handles if handle in piece_of}
            if len(pieces) > 1:
                found.append((piece_id(key, f"group[{name}]"), label, pieces))
        found.sort(key=lambda each: len(each[2]))
        pieces_of = {identity: pieces for identity, _, pieces in found}
        taken: dict[str, str] = {}
        made = []
        for identity, label, pieces in found:
            members: dict[str, None] = {}
            for piece in sorted(pieces):
                at = piece
                while at in taken:
                    at = taken[at]
                if pieces_of.get(at, {piece}) <= pieces:
                    members[at] = None
            if len(members) > 1:
                taken.update(dict.fromkeys(members, identity))
                made.append(Group(identity, label, tuple(members)))
        return tuple(made)
