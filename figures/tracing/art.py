"""Real art in colours: emoji with shading and flat ones, as icons are used, and photographs; each traced, and held
against a palette of as many colours.

Pictures: Noto Emoji (Apache 2.0) and Fluent Emoji flat (MIT), as npm's packages of icons carry them; the photographs of
scikit-image's data (public domain or CC0: astronaut by NASA, coffee by Pikolo Espresso Bar, chelsea by Stefan van der
Walt, rocket by SpaceX).
"""

from __future__ import annotations

import io
import json
import subprocess
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image

from hakobu.formats import WriteOptions, by_id
from hakobu.model import Page
from hakobu.model.lab import to_lab
from hakobu.operations.trace import document_of
from hakobu.tracing import TraceOptions, View, find

ART = Path(__file__).resolve().parents[2] / ".run" / "art"
PACKAGES = {"noto": "@iconify-json/noto@1.2.9", "fluent-emoji-flat": "@iconify-json/fluent-emoji-flat@1.2.6"}
#: Of which package, how large in pixels, and how many.
ICONS = (("noto", 128, 18), ("noto", 64, 10), ("noto", 32, 10), ("fluent-emoji-flat", 96, 10))
ICONS += (("fluent-emoji-flat", 32, 6),)
PHOTOS, PHOTO_PX = ("astronaut", "coffee", "chelsea", "rocket"), (200, 400)
PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def art() -> Iterator[str]:
    _install()
    apart, beside = [], []
    for rgba in (*_icons(), *_photos()):
        shown = _over_white(rgba)
        found = find(View(np.ascontiguousarray(rgba), PIXELS), "colour", TraceOptions(background=False))
        apart.append(_distance(shown, _drawn(found, *rgba.shape[1::-1])))
        beside.append(_distance(shown, _median_cut(shown, int(found.chosen["colours"]))))
    ours, theirs = np.array(apart), np.array(beside)
    within = np.mean(ours <= 1.3 * theirs)
    yield (
        f"{len(ours)} pictures of real art (emoji of 32 to 128 px, photographs) traced in colours: mean CIELAB "
        f"distance {ours.mean():.1f}, at most {ours.max():.1f}; Pillow's median-cut palettes of as many colours "
        f"{theirs.mean():.1f}; {100 * within:.0f} % within 1.3 times that."
    )


def _install() -> None:
    """The packages of icons, once; they are for this figure only."""
    if not all((ART / "node_modules" / name.rpartition("@")[0]).exists() for name in PACKAGES.values()):
        ART.mkdir(parents=True, exist_ok=True)
        command = ["npm", "install", "--prefix", str(ART), "--no-audit", "--no-fund", "--silent", *PACKAGES.values()]
        subprocess.run(command, check=True)


def _icons() -> Iterator[np.ndarray]:
    import resvg_py

    for pack, px, count in ICONS:
        data = json.loads((ART / "node_modules" / "@iconify-json" / pack / "icons.json").read_text())
        names = sorted(data["icons"])
        for name in names[px % 7 :: len(names) // count][:count]:
            icon = data["icons"][name]
            width, height = (icon.get(side, data.get(side, 16)) for side in ("width", "height"))
            text = (
                '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
                f'viewBox="0 0 {width} {height}" width="{width}" height="{height}">{icon["body"]}</svg>'
            )
            png = resvg_py.svg_to_bytes(svg_string=text, width=px, height=px, skip_system_fonts=True)
            yield np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGBA"))


def _photos() -> Iterator[np.ndarray]:
    import skimage.data

    for name in PHOTOS:
        for px in PHOTO_PX:
            image = Image.fromarray(getattr(skimage.data, name)()).convert("RGBA")
            image.thumbnail((px, px))
            yield np.asarray(image)


def _over_white(rgba: np.ndarray) -> np.ndarray:
    alpha = rgba[..., 3:] / 255
    return rgba[..., :3] / 255 * alpha + 1 - alpha


def _drawn(found, width: int, height: int) -> np.ndarray:
    """What was traced, drawn by resvg, (H, W, 3) from 0 to 1."""
    import resvg_py

    document = replace(document_of(found), page=Page(width, height))
    text = by_id("svg").write(document, WriteOptions()).data.decode()
    png = resvg_py.svg_to_bytes(svg_string=text, width=width, dpi=96.0, skip_system_fonts=True)
    return _over_white(np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGBA").resize((width, height))))


def _median_cut(shown: np.ndarray, count: int) -> np.ndarray:
    image = Image.fromarray((shown * 255 + 0.5).astype(np.uint8))
    return np.asarray(image.quantize(count, Image.Quantize.MEDIANCUT, dither=0).convert("RGB")) / 255


def _distance(one: np.ndarray, other: np.ndarray) -> float:
    return float(np.linalg.norm(to_lab(one) - to_lab(other), axis=-1).mean())
