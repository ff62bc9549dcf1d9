"""Which request of a tab is the newest: older ones stop where they are."""

from __future__ import annotations

import threading
from collections import OrderedDict

#: Tabs that are remembered.
MOST_TABS = 200


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


NEWEST = _Newest()
