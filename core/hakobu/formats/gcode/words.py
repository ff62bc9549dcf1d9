"""Lines of G-code as words. Source: NISTIR 6556, section 3.3: the format of a line."""

from __future__ import annotations

import re
from collections.abc import Iterator

_COMMENT = re.compile(r"\([^()]*\)|;.*$")
_WORD = re.compile(r"([A-Z])([-+]?(?:\d+\.?\d*|\.\d+))")


def lines(text: str) -> Iterator[tuple[int, list[tuple[str, float]], str]]:
    """(number, words, what is left over) of each line that holds anything; comments, % and N words are none. A line
    that begins with / is one that may be left out: it is taken."""
    for number, line in enumerate(text.splitlines(), 1):
        plain = _COMMENT.sub("", line).upper()
        plain = "".join(plain.split()).strip("%").removeprefix("/")
        if not plain:
            continue
        words = [(letter, float(value)) for letter, value in _WORD.findall(plain)]
        rest = _WORD.sub("", plain)
        if words or rest:
            yield number, [word for word in words if word[0] not in "NO"], rest


def comments(text: str) -> Iterator[str]:
    for match in re.finditer(r"\(([^()]*)\)|;(.*)", text):
        yield (match[1] or match[2] or "").strip()
