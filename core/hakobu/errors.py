"""The one tree of errors. Each has a code for programs and a sentence for people: what, where, and what to do."""

from __future__ import annotations


class HakobuError(Exception):
    """The root. http_status and exit_code say how the error leaves the core, here and nowhere else."""

    code = "failed"
    http_status = 500
    exit_code = 2

    def __init__(self, sentence: str) -> None:
        super().__init__(sentence)
        self.sentence = sentence


class UnreadableFile(HakobuError):
    """The file cannot be read at all, or is not what its name says."""

    code = "unreadable-file"
    http_status = 422


class TooMuch(HakobuError):
    """Reading would pass the budget of size, time, memory or elements."""

    code = "too-much"
    http_status = 413


class UnknownFormat(HakobuError):
    """No format goes by that name or suffix, or it cannot be read or written."""

    code = "unknown-format"
    http_status = 415


class BadRequest(HakobuError):
    """A value that was typed or sent cannot be used."""

    code = "bad-request"
    http_status = 400


class CannotDo(HakobuError):
    """The request is understood, but the design does not allow it."""

    code = "cannot-do"
    http_status = 422


class NotThere(HakobuError):
    """What was asked for does not exist (any more)."""

    code = "not-there"
    http_status = 404


class Changed(HakobuError):
    """Somebody else changed the job in between."""

    code = "changed-meanwhile"
    http_status = 409


class NotCompiled(HakobuError):
    """The kernels are not compiled, or not yet."""

    code = "not-compiled"
    http_status = 503


class MachineTrouble(HakobuError):
    """A machine refuses, is out of order, or does not answer."""

    code = "machine-trouble"
    http_status = 502
