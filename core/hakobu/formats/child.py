"""The child process of limited.py: reads one file from standard input, answers on standard output, ends."""

from __future__ import annotations

import json
import os
import re
import resource
import struct
import sys
from dataclasses import asdict

import numpy as np

from ..model import HakobuError, codec
from ..model.names import with_plain_names
from . import by_id
from .budget import Budget
from .format import ReadOptions


def main() -> None:
    answers = os.fdopen(os.dup(1), "wb")
    # Whatever a library prints must not get between the bytes of the answer.
    os.dup2(2, 1)
    size = sys.stdin.buffer.read(4)
    if len(size) < 4:
        return  # The parent ended without a file to read.
    head = json.loads(sys.stdin.buffer.read(struct.unpack("<I", size)[0]))
    data = sys.stdin.buffer.read()
    options = ReadOptions(**{**head["options"], "budget": Budget(**head["options"]["budget"])})
    is_picture = head["work"] in ("pixels", "shown")
    _limit(options.budget, options.budget.picture_bytes if is_picture else options.budget.memory_bytes)
    try:
        answer = WORK[head["work"]](data, options, head)
    except HakobuError as error:
        answer = _packed({"error": error.code, "sentence": error.sentence})
    except (MemoryError, RecursionError):
        way = "save it smaller" if is_picture else "split it"
        sentence = f"It needs more memory or nests deeper than reading a file may; {way}."
        answer = _packed({"error": "too-much", "sentence": sentence})
    for part in answer:
        answers.write(part)
    answers.close()


def _limit(budget: Budget, most_bytes: int) -> None:
    _at_most(resource.RLIMIT_AS, most_bytes, most_bytes)
    _at_most(resource.RLIMIT_CPU, budget.cpu_seconds, budget.cpu_seconds + 1)
    _at_most(resource.RLIMIT_FSIZE, 0, 0)
    _at_most(resource.RLIMIT_CORE, 0, 0)


def _at_most(kind: int, soft: int, hard: int) -> None:
    """A limit, or the lower one that whoever began us has already."""
    there = resource.getrlimit(kind)[1]
    if there != resource.RLIM_INFINITY:
        soft, hard = min(soft, there), min(hard, there)
    resource.setrlimit(kind, (soft, hard))


def _read(data: bytes, options: ReadOptions, question: dict) -> list:
    """The document: each path's bytes in the order the head names them."""
    read = by_id(question["format"]).read
    assert read is not None, "only formats that can be read are asked for"
    result = read(data, options)
    manifest, paths = codec.to_manifest(with_plain_names(result.document))
    blobs = [codec.path_to_bytes(path) for path in paths.values()]
    head = {
        "manifest": manifest,
        "paths": [[digest, len(blob)] for digest, blob in zip(paths, blobs, strict=True)],
        "findings": [finding.to_json() for finding in result.findings],
        "blobs": [[digest, len(blob)] for digest, blob in result.blobs.items()],
        "unit": asdict(result.unit) if result.unit else None,
        "left_out": dict(result.left_out),
    }
    return _packed(head, *blobs, *result.blobs.values())


def _pixels(data: bytes, options: ReadOptions, question: dict) -> list:
    from .image.decode import decode

    array = decode(data, options.budget)
    return _packed({"shape": array.shape}, np.ascontiguousarray(array).data.cast("B"))


def _shown(data: bytes, options: ReadOptions, question: dict) -> list:
    from .image.decode import shown

    picture, media_type = shown(data, options.budget, question["most_px"], question["quality"])
    return _packed({"media_type": media_type}, picture)


def _unpack(data: bytes, options: ReadOptions, question: dict) -> list:
    from .archive import unpack

    entries, notes = unpack(data, options.budget)
    head = {"entries": [[e.name, e.folder, len(e.data)] for e in entries], "notes": notes}
    return _packed(head, *(e.data for e in entries))


def _face(data: bytes, options: ReadOptions, question: dict) -> list:
    from .font import plain_font

    return _packed({}, plain_font(data))


#: What a child can be asked to do with the bytes of a file.
WORK = {"read": _read, "pixels": _pixels, "shown": _shown, "unpack": _unpack, "face": _face}


#: As JSON writes them: the sign that ends a text, and halves of signs. Two halves that belong together are one sign.
NO_TEXT = re.compile(rb"\\u(?:0000|[dD][89a-fA-F])")


def _sound(value):
    """Plain data whose words hold no signs that no database keeps: each becomes the sign for what cannot be read."""
    if isinstance(value, str):
        return value.replace("\0", "\ufffd").encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    if isinstance(value, dict):
        return {_sound(name): _sound(each) for name, each in value.items()}
    if isinstance(value, list | tuple):
        return [_sound(each) for each in value]
    return value


def _packed(head: dict, *rest) -> list:
    """The parts of an answer: written one after the other, never put together."""
    text = json.dumps(head).encode()
    if NO_TEXT.search(text):
        text = json.dumps(_sound(head)).encode()
    return [struct.pack("<I", len(text)) + text, *rest]
