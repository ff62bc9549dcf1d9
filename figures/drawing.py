"""How the pictures of the documents are put together."""

from __future__ import annotations

import sys
from pathlib import Path as File

import numpy as np

from hakobu.geometry import Path
from hakobu.geometry.path_text import path_data

sys.path.insert(0, str(File(__file__).resolve().parents[1] / "core"))

FOLDER = File(__file__).resolve().parents[1] / "docs" / "pictures"
INK, ROSE, SEA, STRAW, PALE = "#1b2a4e", "#b23a55", "#2c6e73", "#c9973b", "#8892a6"
FILLS = ("#e8dcc3", "#bfd6d3", "#e6c3c8", "#9dbdbd", "#d4a5ac", "#b7a88f", "#7f9fa5")


def line(path: Path, colour: str, width: float = 0.3, more: str = "") -> str:
    return f'<path d="{path_data(path)}" fill="none" stroke="{colour}" stroke-width="{width}" {more}/>'


def painted(path: Path, colour: str) -> str:
    return f'<path d="{path_data(path)}" fill="{colour}" fill-rule="evenodd"/>'


def dots(points: np.ndarray, colour: str, radius: float) -> str:
    return "".join(f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{radius}" fill="{colour}"/>' for x, y in points)


def word(x: float, y: float, text: str, size: float = 2.2, colour: str = INK) -> str:
    return f'<text x="{x:.2f}" y="{y:.2f}" font-size="{size}" fill="{colour}" text-anchor="middle">{text}</text>'


def save(name: str, title: str, box: tuple[float, float, float, float], *parts: str) -> None:
    x, y, width, height = box
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{x} {y} {width} {height}" width="{8 * width:.0f}"'
        f' height="{8 * height:.0f}" font-family="sans-serif" role="img"><title>{title}</title>'
        f'<rect x="{x}" y="{y}" width="{width}" height="{height}" fill="#fbfaf6"/>'
    )
    FOLDER.mkdir(exist_ok=True)
    (FOLDER / f"{name}.svg").write_text(head + "\n".join(parts) + "</svg>\n")
