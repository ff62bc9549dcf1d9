"""XML as a small tree, with line numbers, within a budget, and without ever following a reference out of the file.

Internal entities are expanded (real drawings use them); expat itself stops their amplification. External entities and
document types are never fetched; those that the drawing refers to are named in the tree's `outside`.
"""

from __future__ import annotations

import zlib
from dataclasses import dataclass, field
from xml.parsers import expat

from ...errors import TooMuch, UnreadableFile
from ..budget import Budget

SVG_NAMESPACE = "http://www.w3.org/2000/svg"


@dataclass(eq=False)
class Node:
    """tag: the local name, or prefix:name of a foreign vocabulary. attributes: by local name, xlink's too. number: of
    the element in the file, which its copies keep."""

    tag: str
    attributes: dict[str, str]
    line: int
    number: int = 0
    children: list[Node] = field(default_factory=list)
    text: str = ""


@dataclass
class Tree:
    root: Node
    outside: list[str]


def unpack(data: bytes, budget: Budget) -> bytes:
    """The XML of a plain or gzip-packed file, bounded in size."""
    if data[:2] != b"\x1f\x8b":
        return data
    try:
        unpacked = zlib.decompressobj(wbits=31).decompress(data, budget.file_bytes + 1)
    except zlib.error as error:
        raise UnreadableFile("It looks packed, but does not unpack: it is damaged; fetch it again.") from error
    budget.check_size(len(unpacked))
    return unpacked


def parse(data: bytes, budget: Budget) -> Tree:
    """The tree of an SVG file. Raises UnreadableFile or TooMuch with a sentence that names the line."""
    collector = _Collector(budget)
    try:
        collector.parser.Parse(data, True)
    except expat.ExpatError as error:
        raise _refusal(error) from error
    except LookupError as error:
        raise UnreadableFile(
            f"Its letters are in a code that is not known here ({error}); save it as UTF-8."
        ) from error
    if collector.root is None or collector.root.tag != "svg":
        raise UnreadableFile("It is XML, but no SVG drawing.")
    return Tree(collector.root, collector.outside)


def _refusal(error: expat.ExpatError) -> Exception:
    codes = expat.errors.codes
    if error.code == codes[expat.errors.XML_ERROR_NO_MEMORY]:
        return MemoryError()
    reason = expat.ErrorString(error.code)
    if reason and "amplification" in reason:
        return TooMuch("Its entities would grow beyond measure: such a file is not read.")
    cut_short = {codes[expat.errors.XML_ERROR_NO_ELEMENTS], codes[expat.errors.XML_ERROR_UNCLOSED_TOKEN]}
    cut_short.add(codes[expat.errors.XML_ERROR_UNCLOSED_CDATA_SECTION])
    if error.code in cut_short or error.code == codes[expat.errors.XML_ERROR_PARTIAL_CHAR]:
        return UnreadableFile(
            f"It ends in the middle, at line {error.lineno}: it is not whole; fetch or save it again."
        )
    return UnreadableFile(
        f"It is damaged at line {error.lineno}: {reason}. Open it where it was made and save it again."
    )


class _Collector:
    def __init__(self, budget: Budget) -> None:
        self.budget = budget
        self.root: Node | None = None
        self.outside: list[str] = []
        self.stack: list[Node] = []
        self.prefixes = {"svg"}
        self.elements = 0
        parser = self.parser = expat.ParserCreate()
        parser.buffer_text = True
        parser.StartElementHandler = self._start
        parser.EndElementHandler = self._end
        parser.CharacterDataHandler = self._text
        parser.ExternalEntityRefHandler = self._external
        parser.SkippedEntityHandler = lambda name, is_parameter: self.outside.append(f"&{name};")

    def _start(self, tag: str, attributes: dict[str, str]) -> None:
        self.elements += 1
        if self.elements > self.budget.elements:
            raise TooMuch(f"It holds more than {self.budget.elements:,} elements, the most that are read; split it.")
        if len(self.stack) >= self.budget.depth:
            raise TooMuch(f"It is nested more than {self.budget.depth} deep at line {self.parser.CurrentLineNumber}.")
        for name, value in attributes.items():
            if name.startswith("xmlns:") and value == SVG_NAMESPACE:
                self.prefixes.add(name[6:])
        node = Node(self._local(tag), {_attribute(k): v for k, v in attributes.items()}, self.parser.CurrentLineNumber)
        node.number = self.elements
        if self.stack:
            self.stack[-1].children.append(node)
        else:
            self.root = node
        self.stack.append(node)

    def _end(self, tag: str) -> None:
        self.stack.pop()

    def _text(self, text: str) -> None:
        node = self.stack[-1]
        if node.tag in ("style", "title", "text", "tspan", "textPath"):
            node.text += text

    def _external(self, context, base, system_id, public_id) -> int:
        self.outside.append(system_id or public_id or "?")
        return 1

    def _local(self, tag: str) -> str:
        prefix, colon, name = tag.partition(":")
        return name if colon and prefix in self.prefixes else tag


def _attribute(name: str) -> str:
    return name[6:] if name.startswith("xlink:") else name
