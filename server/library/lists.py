"""Which lists hold: the newest ones for what is chosen now, older ones for what was held against them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from django.db import IntegrityError, transaction

from hakobu.errors import BadRequest, Changed, NotThere
from hakobu.lists import ONE, Lists

from .models import KeptLists

#: The number of the lists that ship.
SHIPPED = 0


def newest() -> int:
    """The number of the lists that hold now."""
    return KeptLists.objects.order_by("-pk").values_list("pk", flat=True).first() or SHIPPED


def lists_at(number: int | None) -> Lists:
    """The lists of a number. Raises NotThere."""
    if not number:
        return Lists()
    kept = KeptLists.objects.filter(pk=number).first()
    if kept is None:
        raise NotThere("These lists are not there; load the page again.")
    return Lists.from_json(kept.values)


def keep(based_on: int, kind: str, entries: list[Mapping[str, Any]], what: str) -> int:
    """Keeps one list anew, the others as they are, and gives the number of them all. Raises BadRequest where an entry
    does not fit, Changed where they are no longer what the change was based on."""
    before = lists_at(based_on)
    made = Lists.from_json({**before.to_json(), kind: entries})
    changed = Changed("The lists were changed in another window meanwhile; look at what is there now.")
    if based_on != newest():
        raise changed
    if made == before:
        return based_on
    try:
        with transaction.atomic():
            values = {"values": made.to_json(), "what": what[:200], "based_on_id": based_on or None}
            return KeptLists.objects.create(**values).pk
    except IntegrityError as error:
        raise changed from error


def differing(settings: Mapping[str, Any], materials: Iterable[str] = ()) -> list[str]:
    """The names of what settings, and the materials of layers, were made with and that is another now, or gone."""
    now = newest()
    if now == (settings.get("lists") or SHIPPED):
        return []
    old, new = lists_at(settings.get("lists")), lists_at(now)
    found = {}
    for kind, identity in _named(settings, materials):
        entry = next((e for e in getattr(old, kind) if e.id == identity), None)
        if entry is not None and entry not in getattr(new, kind):
            found[entry.name] = True
    return list(found)


def refuse_unknown(settings: Mapping[str, Any], materials: Iterable[str] = ()) -> None:
    """Raises BadRequest where settings or layers name what the lists do not have, NotThere where there are none."""
    lists = lists_at(settings.get("lists"))
    for kind, identity in _named(settings, materials):
        if all(entry.id != identity for entry in getattr(lists, kind)):
            gone = f'The {ONE[kind]} "{identity}" is not on the lists (any more)'
            raise BadRequest(f"{gone}: choose another one first, or put it back on the list.")


def _named(settings: Mapping[str, Any], materials: Iterable[str]):
    """What is chosen: the list and the id of each."""
    for kind, name in ONE.items():
        if settings.get(name):
            yield kind, settings[name]
    for material in materials:
        yield "materials", material
