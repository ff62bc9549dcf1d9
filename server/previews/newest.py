"""Which request of a tab is the newest: older ones stop where they are."""

from __future__ import annotations

import threading
from collections import OrderedDict
from typing import Any

#: Tabs that are remembered.
MOST_TABS = 200
#: Tabs whose last trace is kept.
MOST_FOUND = 20


class Superseded(Exception):
    """A newer request of the same tab has come."""


class _Newest:
    def __init__(self) -> None:
        self._numbers: OrderedDict[str, int] = OrderedDict()
        self._lock = threading.Lock()

    def arrive(self, tab: str, number: int) -> None:
        with self._lock:
            self._numbers[tab] = max(number, self._numbers.pop(tab, number))
            while len(self._numbers) > MOST_TABS:
                self._numbers.popitem(last=False)

    def check(self, tab: str, number: int) -> None:
        """Raises Superseded."""
        if self._numbers.get(tab, number) > number:
            raise Superseded


class _Found:
    """What each tab was shown last, to be measured."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, tuple[int, Any]] = OrderedDict()
        self._lock = threading.Lock()

    def keep(self, tab: str, number: int, found: Any) -> None:
        with self._lock:
            self._kept.pop(tab, None)
            self._kept[tab] = number, found
            while len(self._kept) > MOST_FOUND:
                self._kept.popitem(last=False)

    def of(self, tab: str, number: int) -> Any:
        """None where the tab was shown another since, or nothing."""
        kept = self._kept.get(tab)
        return kept[1] if kept and kept[0] == number else None


NEWEST, FOUND = _Newest(), _Found()
