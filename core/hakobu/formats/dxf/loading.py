"""The bytes of a DXF file as ezdxf's drawing, through its recovery where the file is damaged."""

from __future__ import annotations

import gc
import io
import struct
from collections.abc import Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING

from ...errors import UnreadableFile
from . import BINARY
from .tags import tags_of

if TYPE_CHECKING:
    from ezdxf.document import Drawing

#: What we write before a release that cannot say its unit.
IN_MM = "999\nunits: millimetres\n"


@contextmanager
def uncollected() -> Iterator[None]:
    """Without looking for garbage: a drawing is millions of objects that all stay, and looking through them again and
    again takes as long as reading it."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()


def load(data: bytes) -> tuple[Drawing, list[str]]:
    """The drawing, and what had to be put right to read it. Raises UnreadableFile."""
    from ezdxf import recover
    from ezdxf.document import Drawing
    from ezdxf.lldxf.const import DXFError
    from ezdxf.lldxf.tagger import binary_tags_loader

    broken = (DXFError, struct.error, ValueError, KeyError, IndexError, TypeError, AttributeError, OverflowError)
    try:
        if data.startswith(BINARY):
            return Drawing.load(binary_tags_loader(data)), []
        return Drawing.from_tags(tags_of(_text(data))), []
    except broken as error:
        reason = str(error).splitlines()[0][:120] if str(error) else type(error).__name__
    if data.startswith(BINARY):
        raise UnreadableFile(f"It is a binary DXF that breaks off or is damaged ({reason}); save it as ASCII DXF.")
    try:
        drawing, auditor = recover.read(io.BytesIO(data))
    except broken as error:
        raise UnreadableFile(
            f"It is damaged beyond what can be put right ({reason}); open it where it was made and save it again."
        ) from error
    found = [entry.message for entry in (*auditor.errors, *auditor.fixes)]
    return drawing, [reason, *found]


def _text(data: bytes) -> str:
    """The text in the encoding that the file states: UTF-8 from release 2007 on, else its code page."""
    from ezdxf.filemanagement import dxf_stream_info
    from ezdxf.lldxf.const import DXFError

    head = data[:200_000].decode("latin-1").replace("\r\n", "\n")
    try:
        encoding = dxf_stream_info(io.StringIO(head)).encoding
    except (DXFError, ValueError, LookupError, StopIteration):
        # A head that cannot be read, or that breaks off, is for the recovery.
        encoding = "utf-8"
    return data.decode(encoding, "surrogateescape").replace("\r\n", "\n").replace("\r", "\n")
