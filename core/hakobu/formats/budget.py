"""What reading one file may cost."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import TooMuch

MIB = 1024 * 1024


@dataclass(frozen=True)
class Budget:
    """file_bytes: of the file and of what it unpacks to. memory_bytes, cpu_seconds, wall_seconds: of the child process
    that reads; picture_bytes: its memory where it decodes a picture. elements, depth, copies: of an XML tree and of
    what its references repeat. segments: of all outlines. pixels: of a picture, as it declares them. entries: of an
    archive."""

    file_bytes: int = 64 * MIB
    memory_bytes: int = 1024 * MIB
    picture_bytes: int = 2048 * MIB
    cpu_seconds: int = 20
    wall_seconds: float = 200.0
    elements: int = 100_000
    depth: int = 256
    copies: int = 20_000
    segments: int = 4_000_000
    pixels: int = 80_000_000
    entries: int = 2000

    def check_size(self, count: int) -> None:
        if count > self.file_bytes:
            raise TooMuch(
                f"This file is larger than {self.file_bytes // MIB} MB, the most that is read; "
                "save it without embedded pictures, coarser, or in parts."
            )


READING = Budget()
