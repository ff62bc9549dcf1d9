"""Draws all demo files again, byte for byte: python demo."""

from __future__ import annotations

import sys
from pathlib import Path

HERE = Path(__file__).resolve().parent
sys.path[:0] = [str(HERE), str(HERE.parent / "core")]

import frame  # noqa: E402
import heron  # noqa: E402
import kettle  # noqa: E402
import moon  # noqa: E402
import plate  # noqa: E402
import title  # noqa: E402

FILES = {
    "van-title.svg": title.draw,
    "stencil-moon.svg": moon.draw,
    "lantern-frame.svg": frame.draw,
    "heron-scan.jpg": heron.draw,
    "kettle.png": kettle.draw,
    "lamp-plate.dxf": plate.draw,
}


def main(folder: Path = HERE / "files") -> None:
    folder.mkdir(exist_ok=True)
    for name, draw in FILES.items():
        made = draw()
        (folder / name).write_bytes(made if isinstance(made, bytes) else made.encode())


if __name__ == "__main__":
    main(*map(Path, sys.argv[1:2]))
