"""Reading untrusted bytes in a child process with limits on memory, processor time and wall clock.

A child serves one file and ends; it is forked from a process that has the readers loaded (children.py). It answers
with the codec's bytes, never with pickled objects: a reader gone wrong cannot hand code to its parent.
"""

from __future__ import annotations

import hashlib
import json
import signal
import struct
from dataclasses import asdict, dataclass
from pathlib import PurePath

import numpy as np

from .. import errors
from ..children import CHILDREN
from ..model import Finding, codec
from ..model.units import FileUnit
from .archive import Entry
from .budget import READING, Budget
from .format import Format, ReadOptions, ReadResult


def read_limited(name: str, format_: Format, data: bytes, options: ReadOptions) -> ReadResult:
    """The result of format_.read, or its error; see ask."""
    head, rest = ask(name, {"work": "read", "format": format_.id, "options": asdict(options)}, data)
    paths, at = {}, 0
    for digest, count in head["paths"]:
        paths[digest] = codec.path_from_bytes(bytes(rest[at : at + count]))
        at += count
    document = codec.from_manifest(head["manifest"], paths.__getitem__)
    blobs = {}
    for digest, count in head["blobs"]:
        blobs[digest] = bytes(rest[at : at + count])
        at += count
    unit = FileUnit(**head["unit"]) if head["unit"] else None
    findings = tuple(Finding.from_json(f) for f in head["findings"])
    return ReadResult(document, findings, blobs, unit, head["left_out"])


def decode_picture(name: str, data: bytes, budget: Budget = READING) -> np.ndarray:
    """The pixels of a picture, (H, W, 4) uint8, sRGB with straight alpha, upright; see ask."""
    head, rest = ask(name, {"work": "pixels", "options": asdict(ReadOptions(budget=budget))}, data)
    return np.frombuffer(rest, np.uint8).reshape(head["shape"])


#: For a screen, and for print: with all its pixels.
SCREEN_QUALITY, PRINT_QUALITY = 88, 96


def shown_picture(name: str, data: bytes, most_px: int, budget: Budget = READING) -> tuple[bytes, str]:
    """A picture written anew for a browser, its longer side at most so long, and its media type; see ask."""
    return _anew(name, data, most_px, SCREEN_QUALITY, budget)


def printed_picture(name: str, data: bytes, budget: Budget = READING) -> bytes:
    """A picture written anew for a file that is printed; see ask."""
    return _anew(name, data, budget.pixels, PRINT_QUALITY, budget)[0]


def _anew(name: str, data: bytes, most_px: int, quality: int, budget: Budget) -> tuple[bytes, str]:
    question = {"work": "shown", "most_px": most_px, "quality": quality, "options": asdict(ReadOptions(budget=budget))}
    head, rest = ask(name, question, data)
    return bytes(rest), head["media_type"]


@dataclass(frozen=True)
class ReadFace:
    """A font file made plain, and the SHA-256 of it: the id of its face."""

    data: bytes
    sha256: str


def read_face(name: str, data: bytes, budget: Budget = READING) -> ReadFace:
    """A font from untrusted bytes; see ask."""
    _, rest = ask(name, {"work": "face", "options": asdict(ReadOptions(budget=budget))}, data)
    plain = bytes(rest)
    return ReadFace(plain, hashlib.sha256(plain).hexdigest())


def unpack(name: str, data: bytes, budget: Budget = READING) -> tuple[list[Entry], list[str]]:
    """The files in an archive, and what is to be said of it; see ask."""
    head, rest = ask(name, {"work": "unpack", "options": asdict(ReadOptions(budget=budget))}, data)
    entries, at = [], 0
    for called, folder, count in head["entries"]:
        entries.append(Entry(called, folder, bytes(rest[at : at + count])))
        at += count
    return entries, head["notes"]


def ask(name: str, question: dict, data: bytes) -> tuple[dict, memoryview]:
    """What a child answers to a question about bytes: a head, and what follows it.

    Raises what the reader raised, TooMuch where a limit ended it, UnreadableFile where it broke.
    """
    label = PurePath(name).name or "The file"
    head = json.dumps(question).encode()
    seconds = question["options"]["budget"]["wall_seconds"]
    try:
        end = CHILDREN.take().communicate(struct.pack("<I", len(head)) + head + data, seconds)
    except TimeoutError as error:
        raise errors.TooMuch(
            f"This machine is too busy to read {label}: after {seconds:g} seconds it was not done; try again later."
        ) from error
    answer = end.answer
    if end.code == -signal.SIGXCPU:
        most = question["options"]["budget"]["cpu_seconds"]
        raise errors.TooMuch(
            f"{label} was not read within {most} seconds of work: it is too large or too nested; split it."
        )
    if end.code < 0:
        raise errors.TooMuch(f"{label} needs more memory than reading a file may take; split it.")
    if end.code > 0 or len(answer) < 4:
        reason = end.complaint.decode("utf-8", "replace").strip().splitlines()[-1:] or ["no answer"]
        raise errors.UnreadableFile(f"{label} could not be read: the reader broke ({reason[0][:200]}).")
    (size,) = struct.unpack_from("<I", answer)
    found = json.loads(answer[4 : 4 + size])
    if "error" in found:
        kinds = {kind.code: kind for kind in errors.HakobuError.__subclasses__()}
        raise kinds.get(found["error"], errors.UnreadableFile)(f"{label}: {found['sentence']}")
    return found, memoryview(answer)[4 + size :]
