"""Lines of G-code as words. Source: NISTIR 6556, section 3.3: the format of a line."""

from __future__ import annotations

import re
from collections.abc import Iterator

_COMMENT = re.compile(r"\([^()]*\)|;.*$")
_WORD = re.compile(r"([A-Z])([-+]?(?:\d+\.?\d*|\.\d+))")


#: A move as most programs write it: nothing else in its line.
_NUMBER = r"(-?\d{1,12}\.?\d*)"
_PLAIN = re.compile(rf"G0?([0-3]) ?X{_NUMBER} ?Y{_NUMBER}(?: ?I{_NUMBER} ?J{_NUMBER})?(?: ?F\d+\.?\d*)?")


def plain_move(line: str) -> tuple[int, float, float, float | None, float | None] | None:
    """The code, both places and, where they are there, both ways to the centre, of a line that holds no more than a
    move and its feed; None of others."""
    match = _PLAIN.fullmatch(line)
    if match is None:
        return None
    code, x, y, i, j = match.groups()
    return int(code), float(x), float(y), float(i) if i else None, float(j) if j else None


def line_of(line: str) -> tuple[list[tuple[str, float]], str]:
    """The words of a line, and what is left over; comments, % and N words are none. A line that begins with / is one
    that may be left out: it is taken."""
    plain = _COMMENT.sub("", line).upper()
    plain = "".join(plain.split()).strip("%").removeprefix("/")
    words = [(letter, float(value)) for letter, value in _WORD.findall(plain)]
    return [word for word in words if word[0] not in "NO"], _WORD.sub("", plain)


def comments(text: str) -> Iterator[str]:
    for match in re.finditer(r"\(([^()]*)\)|;(.*)", text):
        yield (match[1] or match[2] or "").strip()
