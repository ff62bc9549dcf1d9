"""Archives (ZIP) as shops sell them: many files, of which some are wanted.

Nothing is ever written to a disk under the names that stand in an archive; they are only shown, without what could be
taken for a way to another place. Source: PKWARE's APPNOTE, sections 4.3 (structure) and 4.4 (fields).
"""

from __future__ import annotations

import io
import zlib
from dataclasses import dataclass
from typing import TYPE_CHECKING

from ..errors import TooMuch, UnreadableFile
from .budget import MIB, Budget

if TYPE_CHECKING:
    from zipfile import ZipFile, ZipInfo

#: A local file header, or the end of an archive of nothing.
SIGNATURES = (b"PK\x03\x04", b"PK\x05\x06")
#: What systems add beside the files that people put in.
ADDED = ("__MACOSX", ".DS_Store", "Thumbs.db", "desktop.ini")
MOST_NAME = 120
DAMAGED = "It is damaged or breaks off before its end; fetch it again."


@dataclass(frozen=True, slots=True)
class Entry:
    """A file in an archive: what it is called, the folder it lies in (for people only), and its bytes."""

    name: str
    folder: str
    data: bytes


def is_archive(data: bytes) -> bool:
    return data.startswith(SIGNATURES)


def unpack(data: bytes, budget: Budget) -> tuple[list[Entry], list[str]]:
    """The files by folder and name, and in sentences what could not be unpacked. Raises UnreadableFile or TooMuch."""
    import zipfile  # not loaded where there is no archive

    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            wanted = [info for info in archive.infolist() if not info.is_dir() and not _added(info.filename)]
            if len(wanted) > budget.entries:
                raise TooMuch(
                    f"It holds {len(wanted):,} files, and {budget.entries:,} are the most; unpack it yourself."
                )
            return _unpacked(archive, wanted, budget)
    except (zipfile.BadZipFile, zlib.error, EOFError, ValueError, OverflowError) as error:
        raise UnreadableFile(DAMAGED) from error


def _unpacked(archive: ZipFile, wanted: list[ZipInfo], budget: Budget) -> tuple[list[Entry], list[str]]:
    from zipfile import BadZipFile

    entries, notes, left = [], [], budget.file_bytes
    for info in wanted:
        folder, name = place_of(info.filename)
        if info.flag_bits & 1:
            notes.append(f"{name} is locked with a password; unpack it yourself.")
            continue
        try:
            with archive.open(info) as file:
                # What an archive claims of its sizes is not believed.
                content = file.read(left + 1)
        except (NotImplementedError, RuntimeError):
            notes.append(f"{name} is packed in a way that is not known here; unpack it yourself.")
            continue
        except (BadZipFile, zlib.error, EOFError):
            notes.append(f"{name} is damaged.")
            continue
        left -= len(content)
        if left < 0:
            raise TooMuch(f"It unpacks to more than {budget.file_bytes // MIB} MB; unpack it yourself.")
        entries.append(Entry(name, folder, content))
    entries.sort(key=lambda entry: (entry.folder.lower(), entry.name.lower()))
    return entries, notes


def place_of(path: str) -> tuple[str, str]:
    """The folder and the name in an archive's path, to be read by people: no steps upwards, no drives, no controls."""
    plain = "".join(c for c in path.replace("\\", "/") if c.isprintable())
    parts = [part for part in plain.split("/") if part not in ("", ".", "..") and not part.endswith(":")]
    name = parts[-1] if parts else "file"
    return "/".join(parts[:-1])[-MOST_NAME:], name[-MOST_NAME:]


def _added(path: str) -> bool:
    parts = path.replace("\\", "/").split("/")
    return any(part in ADDED or part.startswith("._") for part in parts)
