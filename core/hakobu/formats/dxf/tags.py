"""The tags of an ASCII DXF file: pairs of a group code and a value, with coordinates put together.

ezdxf has a loader of its own, which makes each tag twice; making them once, from many lines at a time, takes a
third less of a large file's time. What is wrong raises what ezdxf's loader raises, so that its recovery can be tried.
Source: the DXF reference, "Group code value types".
"""

from __future__ import annotations

from collections.abc import Iterator

COMMENT, NO_CODE = 999, -2
#: Characters that are taken apart at once: the strings of a whole file take many times its size.
PART = 1 << 18


def tags_of(text: str) -> Iterator:
    """Compiled tags of a text with plain line ends, up to its end mark. Raises DXFStructureError."""
    from ezdxf.lldxf.const import DXFStructureError
    from ezdxf.lldxf.types import BINARY_DATA, POINT_CODES, TYPE_TABLE, DXFBinaryTag, DXFTag, DXFVertex

    codes: list[int] = []
    values: list[str] = []
    line = 1
    for more_codes, more_values, ends in _parts(text):
        codes, values = codes + more_codes, values + more_values
        # What follows a point's first number is looked at with it, so the last two wait for the next part.
        count, at = (len(codes) if ends else len(codes) - 2), 0
        codes += [-1, -1] if ends else []
        while at < count:
            code, value = codes[at], values[at]
            if code == NO_CODE:
                raise DXFStructureError(f"Invalid group code at line {line + 2 * at}.")
            convert = TYPE_TABLE.get(code, str)
            try:
                if code in POINT_CODES:
                    if codes[at + 1] != code + 10:
                        raise DXFStructureError(f"Missing required y coordinate near line: {line + 2 * at}.")
                    if codes[at + 2] == code + 20:
                        made = DXFVertex(code, (float(value), float(values[at + 1]), float(values[at + 2])))
                        at += 2
                    else:
                        made = DXFVertex(code, (float(value), float(values[at + 1])))
                        at += 1
                elif code in BINARY_DATA:
                    made = DXFBinaryTag.from_string(code, value)
                elif convert is str:
                    made = DXFTag(code, value.strip() if code == 0 else value)
                else:
                    made = DXFTag(code, convert(value))
            except ValueError as error:
                made = _whole(code, value, convert, DXFTag)
                if made is None:
                    where = line + 2 * at + 1
                    raise DXFStructureError(f'Invalid value "{value[:40]}" near line: {where}.') from error
            yield made
            if code == 0 and made.value == "EOF":
                return
            at += 1
        codes, values, line = codes[at:], values[at:], line + 2 * at


def _parts(text: str) -> Iterator[tuple[list[int], list[str], bool]]:
    """Codes and values of part after part, without comments, and whether it is the last."""
    at, size = 0, len(text)
    while True:
        end = text.find("\n", at + PART) + 1 or size
        lines = text[at:end].split("\n")
        if not lines[-1]:
            # What stands behind the last line end is no line.
            lines.pop()
        if len(lines) % 2 and end < size:
            end = text.find("\n", end) + 1 or size
            lines = text[at:end].removesuffix("\n").split("\n")
        values = lines[1::2]
        codes = _codes(lines[: 2 * len(values) : 2])
        if COMMENT in codes:
            kept = [(code, value) for code, value in zip(codes, values, strict=True) if code != COMMENT]
            codes, values = [code for code, _ in kept], [value for _, value in kept]
        yield codes, values, end >= size
        if end >= size:
            return
        at = end


def _codes(words: list[str]) -> list[int]:
    """The group codes, NO_CODE for what is none: behind a file's end mark anything may stand."""
    try:
        return list(map(int, words))
    except ValueError:
        return [_code(word) for word in words]


def _code(word: str) -> int:
    try:
        return int(word)
    except ValueError:
        return NO_CODE


def _whole(code: int, value: str, convert, kind):
    """Some programs write whole numbers with a point."""
    try:
        return kind(code, int(float(value))) if convert is int else None
    except (ValueError, OverflowError):
        return None
