"""Draws all demo files again, byte for byte: python demo."""

from __future__ import annotations

import sys
from pathlib import Path

HERE = Path(__file__).resolve().parent
sys.path[:0] = [str(HERE), str(HERE.parent / "core")]

import bought  # noqa: E402
import cast  # noqa: E402
import crate  # noqa: E402
import emblem  # noqa: E402
import frame  # noqa: E402
import heron  # noqa: E402
import kettle  # noqa: E402
import ladder  # noqa: E402
import lattice  # noqa: E402
import limb  # noqa: E402
import moon  # noqa: E402
import moth  # noqa: E402
import nameplate  # noqa: E402
import night  # noqa: E402
import plate  # noqa: E402
import puppeteer  # noqa: E402
import reed  # noqa: E402
import silhouette  # noqa: E402
import sticker  # noqa: E402
import title  # noqa: E402
import window  # noqa: E402
import word_art  # noqa: E402

FILES = {
    "van-title.svg": title.draw,
    "stencil-moon.svg": moon.draw,
    "lantern-frame.svg": frame.draw,
    "tree-bought.svg": bought.draw,
    "window-branch.svg": window.draw,
    "heron-scan.jpg": heron.draw,
    "kettle.png": kettle.draw,
    "lamp-plate.dxf": plate.draw,
    "programme-sticker.png": sticker.draw,
    "word-kettle.png": word_art.draw,
    "window-lattice.png": lattice.draw,
    "emblem.png": emblem.draw,
    "first-night.png": night.draw,
    "puppet-limb.jpg": limb.draw,
    "cast-drawing.jpg": cast.draw,
    "reed-sketch.jpg": reed.draw_sketch,
    "reed-pattern.png": reed.draw_pattern,
    "moth-scan.jpg": moth.draw,
    "capital-h.svg": crate.draw,
    "heron-silhouette.svg": silhouette.draw,
    "ladder.svg": ladder.draw,
    "name-frame.svg": nameplate.draw,
    "letter-bought.svg": puppeteer.draw,
}


def main(folder: Path = HERE / "files") -> None:
    folder.mkdir(exist_ok=True)
    for name, draw in FILES.items():
        made = draw()
        (folder / name).write_bytes(made if isinstance(made, bytes) else made.encode())


if __name__ == "__main__":
    main(*map(Path, sys.argv[1:2]))
