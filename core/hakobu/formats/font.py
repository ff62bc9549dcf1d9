"""Font files as they are brought: TrueType, OpenType, collections, WOFF and WOFF2, made plain and whole.

What is kept is an OpenType file of the tables that letters need, so that nothing of the rest is ever read again.
"""

from __future__ import annotations

import io
from contextlib import suppress

from fontTools.ttLib import TTFont

from ..errors import TooMuch, UnreadableFile

#: Tables that letters need (OpenType 1.9.1): outlines, their measures, and what places and varies them.
OF_OUTLINES = ("cmap", "glyf", "loca", "head", "hhea", "hmtx", "maxp", "OS/2", "name", "post", "CFF ", "CFF2")
OF_PLACES = ("kern", "GSUB", "GPOS", "GDEF", "fvar", "gvar", "avar", "HVAR", "MVAR", "STAT")
KEPT = frozenset({*OF_OUTLINES, *OF_PLACES})
NEEDED = ("cmap", "head", "hhea", "hmtx", "maxp")
DRAWN = ("glyf", "CFF ", "CFF2")
#: Tables of letters that are pictures.
PICTURES = ("CBDT", "sbix", "SVG ", "EBDT")
#: The largest font file, and the largest once it is unpacked, in bytes.
MOST_BYTES, MOST_PLAIN = 32 << 20, 96 << 20
#: What font files begin with: TrueType, OpenType with CFF, collections, WOFF, WOFF2.
BEGINNINGS = (b"\0\1\0\0", b"true", b"OTTO", b"ttcf", b"wOFF", b"wOF2")


def is_font(data: bytes) -> bool:
    """Whether bytes begin as a font file does."""
    return data[:4] in BEGINNINGS


def plain_font(data: bytes) -> bytes:
    """The font as a plain OpenType file of the tables that letters need; of a collection, the first. Raises
    UnreadableFile where it is none or lacks what letters need, TooMuch where it is too large."""
    if not is_font(data):
        raise UnreadableFile("this is no font file: bring a TTF, OTF, TTC, WOFF or WOFF2.")
    if len(data) > MOST_BYTES:
        raise TooMuch(f"this font has {len(data) >> 20} MB, and {MOST_BYTES >> 20} MB are the most.")
    try:
        return _rewritten(TTFont(io.BytesIO(data), fontNumber=0, lazy=True, recalcTimestamp=False))
    except (UnreadableFile, TooMuch, MemoryError):
        raise
    except Exception as error:
        # Readers of fonts break on broken ones in many ways; each means that the file cannot be used.
        raise UnreadableFile(
            f"this font is broken ({type(error).__name__}): get it anew from where it came."
        ) from error


def _rewritten(font: TTFont) -> bytes:
    tables = font.keys()
    if not any(tag in tables for tag in DRAWN):
        held = any(tag in tables for tag in PICTURES)
        why = "holds pictures of letters, and no outlines" if held else "holds no outlines"
        raise UnreadableFile(f"this font {why}, so nothing can be cut of it: choose another one.")
    missing = [tag for tag in NEEDED if tag not in tables]
    if missing:
        raise UnreadableFile(f"this font lacks its table {missing[0]}: get it anew from where it came.")
    _refuse_large(font)
    for tag in tables:
        if tag not in KEPT and tag != "GlyphOrder":
            del font[tag]
    # Read now, so that what is broken is found here and not when a word is set.
    for tag in ("head", "hhea", "maxp", "hmtx", "cmap", "OS/2", "fvar"):
        if tag in font:
            _ = font[tag]
    if not font.getBestCmap():
        raise UnreadableFile("this font names no letters (no Unicode cmap): choose another one.")
    if not 16 <= font["head"].unitsPerEm <= 16_384:  # pyright: ignore[reportAttributeAccessIssue]
        raise UnreadableFile("this font has an em that is no em (unitsPerEm): get it anew from where it came.")
    font.flavor = None
    plain = io.BytesIO()
    font.save(plain, reorderTables=False)
    return plain.getvalue()


def _refuse_large(font: TTFont) -> None:
    """Tables say how long they are once unpacked; WOFF2 does so for all."""
    entries = getattr(font.reader, "tables", {}).values()
    size = 0
    for entry in entries:
        with suppress(TypeError):
            size += max(getattr(entry, "origLength", 0) or 0, getattr(entry, "length", 0) or 0)
    if size > MOST_PLAIN:
        raise TooMuch(f"this font unpacks to {size >> 20} MB, and {MOST_PLAIN >> 20} MB are the most.")
