"""Formats: large files read and written, beside svgelements and ezdxf doing their raw part; growth, memory, and the
whole process for a small icon."""

from __future__ import annotations

import io
import os
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path as FilePath

import ezdxf
import numpy as np
from shapes import blobs
from svgelements import SVG as Elements

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import Path
from hakobu.model import Document, Fill, Layer, Page, Piece

ROOT = FilePath(__file__).resolve().parents[1]


def design(segments: int, each: int = 20) -> Document:
    """A document of shapes, so many segments in all, so many in each: of four shapes three are polygons."""
    path = blobs(segments // each, each, 12.0)
    outlines = [o if i % 4 == 0 else Path.from_points(o.ctrl[:, 0], closed=True) for i, o in enumerate(path.outlines())]
    pieces = tuple(Piece(f"k:{i}", o, "a", fill=Fill("#223344")) for i, o in enumerate(outlines))
    side = float(np.ceil((segments / each) ** 0.5)) * 12 + 12
    return Document(Page(side, side), (Layer("a", "Plate", "#223344"),), pieces)


def exchange() -> Iterator:
    svg, dxf = by_id("svg"), by_id("dxf")
    large = design(200_000)
    text = svg.write(large, WriteOptions(precision_mm=1e-3)).data
    name = f"SVG of {len(text) / 1e6:.1f} MB, 200,000 segments"
    yield (
        f"read {name}",
        lambda: svg.read(text, ReadOptions()),
        lambda: Elements.parse(io.BytesIO(text)),
        "svgelements parses",
    )
    yield f"write {name}", lambda: svg.write(large, WriteOptions()), None, ""
    drawn = dxf.write(design(160_000), WriteOptions(precision_mm=1e-3)).data
    for what, data in (("160,000 segments", drawn), ("60,000 loose lines", many_lines(60_000))):
        load = lambda plain=data.decode(): ezdxf.read(io.StringIO(plain))  # noqa: E731
        name = f"read DXF of {len(data) / 1e6:.1f} MB, {what}"
        yield name, lambda data=data: dxf.read(data, ReadOptions()), load, "ezdxf loads"
    yield from growth(svg)
    yield from memory(text, drawn)
    yield from processes()


def many_lines(count: int) -> bytes:
    """Loose lines that make closed shapes of six, in an order of their own."""
    drawing = ezdxf.new("R2000", units=4)
    space = drawing.modelspace()
    random = np.random.default_rng(1)
    angle = np.arange(7) * np.pi / 3
    shapes = [(x, y) for x, y in random.uniform(0, 2000, (count // 6, 2))]
    lines = [(x, y, k) for x, y in shapes for k in range(6)]
    for i in random.permutation(len(lines)).tolist():
        x, y, k = lines[i]
        a, b = angle[k], angle[k + 1]
        space.add_line((x + 3 * np.cos(a), y + 3 * np.sin(a)), (x + 3 * np.cos(b), y + 3 * np.sin(b)))
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


def growth(svg) -> Iterator[str]:
    """The power of the size that time goes with, from 20,000 to 400,000 segments."""
    times, sizes = [], (20_000, 400_000)
    for size in sizes:
        text = svg.write(design(size), WriteOptions()).data
        best = min(_timed(lambda t=text: svg.read(t, ReadOptions())) for _ in range(3))
        times.append(best)
    power = np.log(times[1] / times[0]) / np.log(sizes[1] / sizes[0])
    yield f"Reading SVG grows with the {power:.2f} power of the size, from 20,000 to 400,000 segments."


def _timed(work) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def memory(text: bytes, drawn: bytes) -> Iterator[str]:
    """What reading adds to the process at most, over the size of the file."""
    for name, data in (("svg", text), ("dxf", drawn)):
        code = f"""
import re, sys
sys.path.insert(0, "core")
from hakobu.formats import ReadOptions, by_id
# The peak of this program alone: what getrusage tells is never less than its parent's.
used = lambda: int(re.search(r"VmHWM:\\s+(\\d+)", open("/proc/self/status").read())[1])
reader, data = by_id({name!r}), open(sys.argv[1], "rb").read()
reader.read(SMALL, ReadOptions())
before = used()
reader.read(data, ReadOptions())
print((used() - before) * 1024 / len(data))
"""
        small = by_id(name).write(design(40), WriteOptions()).data
        with tempfile.NamedTemporaryFile() as file:
            file.write(data)
            file.flush()
            run = subprocess.run(
                [sys.executable, "-c", code.replace("SMALL", repr(small)), file.name],
                cwd=ROOT,
                capture_output=True,
                text=True,
                check=True,
            )
        times = float(run.stdout)
        yield f"Reading {name.upper()} of {len(data) / 1e6:.1f} MB takes {times:.1f} times its size in memory."


def processes() -> Iterator:
    icon = FilePath(__file__).parents[1] / "demo" / "files" / "stencil-moon.svg"
    with tempfile.TemporaryDirectory() as folder:
        for suffix in ("svg", "plt", "dxf"):
            out = FilePath(folder) / f"moon.{suffix}"
            words = [str(ROOT / "hakobu"), "convert", str(icon), str(out)]
            run = lambda w=words: subprocess.run(w, check=True, capture_output=True, env=os.environ)  # noqa: E731
            yield f"hakobu convert of an icon to {suffix}, whole process", run, None, ""
    peak = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    yield f"The largest child of all took {peak:.0f} MB."
