"""Which pieces a step is for: picked ones that are still what they were, or those that a query means."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from ..errors import BadRequest, CannotDo
from ..model import Document, Step
from ..model.ids import fingerprint, is_lasting, same_thing
from ..model.query import parse_query
from ..model.step import ON, Selection
from .operation import Operation, Role, parameters_from


def chosen_for(document: Document, operation: Operation, step: Step) -> dict[str, tuple[str, ...]]:
    """The ids of the pieces of each role, in paint order. Raises CannotDo where a picked piece is gone or no longer
    what it was, or where there are too few, and BadRequest for a role or a query that makes no sense."""
    known = {role.id for role in operation.roles} | ({ON} if operation.picks else set())
    for role in step.selection:
        if role not in known:
            raise BadRequest(f'"{operation.id}" takes no pieces as "{role}"; it takes {", ".join(known) or "none"}.')
    chosen = {role: _ids(document, selection) for role, selection in step.selection.items()}
    for role in operation.roles:
        if role.id not in chosen:
            chosen[role.id] = tuple(p.id for p in document.pieces_in_use()) if role.everything else ()
        _refuse_few(role, chosen[role.id], step.selection.get(role.id))
    return chosen


def _ids(document: Document, selection: Selection) -> tuple[str, ...]:
    if selection.query:
        return parse_query(selection.query).pieces(document)
    for identity, before in selection.ids.items():
        piece = document.by_id.get(identity)
        if piece is None:
            raise CannotDo("A piece that this step was for is no longer there.")
        if before and not is_lasting(identity) and not same_thing(before, fingerprint(piece)):
            raise CannotDo("A piece that this step was for is no longer what it was.")
    if len(selection.ids) < 2:
        return tuple(selection.ids)
    return tuple(piece.id for piece in document.pieces if piece.id in selection.ids)


def _refuse_few(role: Role, ids: tuple[str, ...], selection: Selection | None) -> None:
    if len(ids) < role.least:
        if selection and selection.query:
            what = "no piece" if not ids else f"only {len(ids)} of the pieces"
            raise CannotDo(f"The query {selection.query} means {what} of this design.")
        many = "a piece" if role.least == 1 else f"{role.least} pieces at least"
        raise CannotDo(f"Pick {many} first: {role.label}.")


def picked(document: Document, ids: Mapping[str, tuple[str, ...]]) -> dict[str, Selection]:
    """The selection of pieces by their ids in each role, with what they are now. Raises CannotDo where one is gone."""
    return {role: _marked(document, each) for role, each in ids.items()}


def _marked(document: Document, ids: tuple[str, ...]) -> Selection:
    for identity in ids:
        if identity not in document.by_id:
            raise CannotDo("A piece that this step is for is no longer there: pick again.")
    return Selection({identity: fingerprint(document.by_id[identity]) for identity in ids})


def with_selection(document: Document, operation: Operation, step: Step) -> Step:
    """The step with its pieces as they are now in the document it is to run on; those that its parameters are about,
    where they say so."""
    if operation.picks:
        ids = operation.picks(document, parameters_from(operation, step.parameters, step.version))
        return replace(step, selection=picked(document, {ON: ids}) if ids else {})
    fresh = {
        role: chosen if chosen.query else _marked(document, tuple(chosen.ids))
        for role, chosen in step.selection.items()
    }
    return replace(step, selection=fresh)


def repaired(document: Document, operation: Operation, step: Step) -> Step:
    """The step for what is still there of its pieces, as they are now. Raises CannotDo where nothing is."""
    there = tuple(identity for identity in step.picked if identity in document.by_id)
    if step.picked and not there:
        raise CannotDo("Nothing that this step was for is there any more: take the step out.")
    parameters = parameters_from(operation, step.parameters, step.version)
    if operation.repair is not None:
        parameters = operation.repair(document, parameters, there)
    given = {name: getattr(parameters, name) for name in step.parameters if hasattr(parameters, name)}
    plain = {name: list(value) if isinstance(value, tuple) else value for name, value in given.items()}
    selection = {
        role: chosen if chosen.query else _marked(document, tuple(i for i in chosen.ids if i in document.by_id))
        for role, chosen in step.selection.items()
    }
    kept = {role: chosen for role, chosen in selection.items() if chosen.query or chosen.ids}
    return replace(step, parameters=plain, version=operation.version, selection=kept)
