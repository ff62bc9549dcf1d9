"""The instructions of an HP-GL file, one by one. Source: the HP-GL/2 and HP RTL reference guide, "Syntax"."""

from __future__ import annotations

import re
from collections.abc import Iterator

#: Device control (ESC . letter), a change of language (ESC % number letter), reset (ESC E).
ESCAPE = r"\x1b(?:\.[@()A-Z](?:[\d;]*:)?|%-?\d*[A-Z]|[A-Z0-9])"
_NEXT = re.compile(rf"(?P<escape>{ESCAPE})|(?P<word>[A-Za-z]{{2}})|(?P<nothing>[\s;,\x03]+)|(?P<odd>.)", re.S)
_ARGUMENTS = re.compile(r"[^A-Za-z;\x1b]*")
_PEN_ENCODED, _COMMENT = re.compile(r"[^;]*;?", re.S), re.compile(r'\s*"[^"]*"?')
#: What ends a label until DT says something else.
END_OF_TEXT = "\x03"


def instructions(text: str) -> Iterator[tuple[str, str]]:
    """(mnemonic, what follows it); what is no instruction comes with an empty mnemonic."""
    at, terminator = 0, END_OF_TEXT
    while at < len(text):
        match = _NEXT.match(text, at)
        assert match is not None, "any character is odd at least"
        at = match.end()
        if match["odd"]:
            yield "", match["odd"]
        if not match["word"]:
            continue
        word = match["word"].upper()
        if word == "LB":
            end = text.find(terminator, at)
            end = len(text) if end < 0 else end
            yield word, text[at:end]
            at = end + len(terminator)
            continue
        if word == "DT":
            terminator, at = (text[at : at + 1] or END_OF_TEXT), at + 1
            terminator = END_OF_TEXT if terminator == ";" else terminator
            continue
        pattern = {"PE": _PEN_ENCODED, "CO": _COMMENT}.get(word, _ARGUMENTS)
        rest = pattern.match(text, at)
        yield word, rest[0] if rest else ""
        at = rest.end() if rest else at
