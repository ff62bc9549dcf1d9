"""Drawings that other libraries make, read and written again, drawn by resvg beside them.

Sources: matplotlib's SVG (clippings, markers by `use`, letters as paths, style attributes), reportlab's SVG graphics,
and ezdxf's drawing of the same DXF file that we read.
"""

import io
import unittest

import ezdxf
import matplotlib
import numpy as np
from ezdxf.addons.drawing import Frontend, RenderContext, layout, svg
from ezdxf.addons.drawing.config import BackgroundPolicy, ColorPolicy, Configuration, LineweightPolicy
from matplotlib.figure import Figure
from reportlab.graphics import renderSVG, shapes

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.model import Stroke

from .coverage import overlap

SVG, DXF = by_id("svg"), by_id("dxf")


def bars(axes) -> None:
    axes.bar(range(8), [3, 7, 2, 5, 8, 1, 4, 6], color="tab:blue", edgecolor="black", linewidth=2)
    axes.set_title("Kettle, reed & heron")


def lines(axes) -> None:
    x = np.linspace(0, 12, 300)
    axes.plot(x, np.sin(x), "-", x, np.cos(x) * 3, "--", lw=3)
    axes.set_ylim(-1, 1)
    axes.grid(True)


def markers(axes) -> None:
    random = np.random.default_rng(2)
    axes.scatter(*random.random((2, 60)), s=200 * random.random(60), c=random.random(60), marker="*", alpha=0.6)
    axes.plot([0, 1], [1, 0], "o-", ms=14)


def fields(axes) -> None:
    x, y = np.meshgrid(np.linspace(-2, 2, 40), np.linspace(-2, 2, 40))
    axes.contourf(x, y, np.sin(3 * x) * np.cos(2 * y) + x, levels=6)


def pie(axes) -> None:
    axes.pie([3, 4, 2, 6], labels=["a", "b", "c", "d"], explode=[0, 0.1, 0, 0], shadow=False)


def between(axes) -> None:
    x = np.linspace(0, 5, 50)
    axes.fill_between(x, np.sin(x), x / 5, alpha=0.4)
    axes.step(x, np.cos(x), where="mid")


class Matplotlib(unittest.TestCase):
    def test_painted_area_is_what_it_was(self):
        matplotlib.rcParams["svg.fonttype"] = "path"
        for draw in (bars, lines, markers, fields, pie, between):
            with self.subTest(draw.__name__):
                figure = Figure(figsize=(5, 4))
                draw(figure.subplots())
                out = io.StringIO()
                figure.patch.set_visible(False)
                figure.savefig(out, format="svg", transparent=True)
                before = out.getvalue()
                # Lines that a clipping cuts are exact only as the areas that they cover.
                made = SVG.read(before.encode(), ReadOptions(strokes="outlines"))
                self.assertAlmostEqual(made.document.page.width_mm, 5 * 25.4, places=3)
                self.assertAlmostEqual(made.document.page.height_mm, 4 * 25.4, places=3)
                after = SVG.write(made.document, WriteOptions()).data.decode()
                self.assertGreaterEqual(overlap(before, after), 0.999)


class Reportlab(unittest.TestCase):
    def test_painted_area_is_what_it_was(self):
        drawing = shapes.Drawing(300, 200)
        drawing.add(shapes.Rect(20, 20, 100, 60, rx=10, ry=10, fillColor=shapes.colors.red, strokeWidth=4))
        drawing.add(shapes.Circle(200, 100, 50, fillColor=shapes.colors.green, strokeColor=None))
        drawing.add(shapes.Wedge(100, 130, 50, 20, 140, fillColor=shapes.colors.blue))
        turned = shapes.Group(shapes.PolyLine([0, 0, 40, 10, 60, -20], strokeWidth=6, strokeLineJoin=1))
        turned.translate(200, 40)
        turned.rotate(25)
        drawing.add(turned)
        before = renderSVG.drawToString(drawing)
        before = before.decode() if isinstance(before, bytes) else before
        made = SVG.read(before.encode(), ReadOptions())
        after = SVG.write(made.document, WriteOptions()).data.decode()
        self.assertGreaterEqual(overlap(before, after), 0.999)


class Ezdxf(unittest.TestCase):
    """The same DXF, drawn by ezdxf, and read by us and written as SVG: lines of one width, coverage beside coverage."""

    def drawing(self):
        made = ezdxf.new("R2010", units=4)
        space = made.modelspace()
        space.add_line((0, 0), (100, 0))
        space.add_lwpolyline([(0, 0, 0.3), (0, 80, -0.5), (100, 80, 0), (100, 0, 0)], format="xyb")
        space.add_circle((30, 40), 15)
        space.add_ellipse((70, 40), (20, 8), 0.5)
        space.add_spline([(5, 5), (20, 30), (50, 10), (90, 70)])
        space.add_arc((50, 60), 12, 200, 80)
        block = made.blocks.new("B")
        block.add_lwpolyline([(0, 0), (8, 0), (4, 7)], close=True)
        for k in range(4):
            space.add_blockref("B", (10 + 20 * k, 65), dxfattribs={"xscale": 1 + k / 2, "rotation": 30 * k})
        return made

    def test_painted_area_is_what_ezdxf_draws(self):
        drawing = self.drawing()
        backend = svg.SVGBackend()
        config = Configuration(
            background_policy=BackgroundPolicy.OFF,
            color_policy=ColorPolicy.BLACK,
            lineweight_policy=LineweightPolicy.RELATIVE_FIXED,
            max_flattening_distance=0.001,
        )
        Frontend(RenderContext(drawing), backend, config=config).draw_layout(drawing.modelspace())
        page = layout.Page(120, 100, layout.Units.mm, layout.Margins.all(5))
        before = backend.get_string(page, settings=layout.Settings(scale=1, fit_page=False, fixed_stroke_width=0.005))
        # Its lines are five millionths of the page; broader ones tell more.
        before = before.replace("stroke-width: 5;", "stroke-width: 5000;")
        out = io.StringIO()
        drawing.write(out)
        made = DXF.read(out.getvalue().encode(), ReadOptions()).document
        width = _width_in(before)
        self.assertEqual(sum(len(piece.path) for piece in made.pieces), 9)
        pieces = tuple(
            type(p)(p.id, p.path, p.layer, p.name, stroke=Stroke("#000000", width, cap="round", join="round"))
            for p in made.pieces
        )
        ours = SVG.write(type(made)(None, made.layers, pieces), WriteOptions()).data.decode()
        theirs = _framed_alike(before, made.box)
        # Its arcs are cubics, off by up to 0.03 % of their radius: a hundredth of a millimetre, of lines half of one.
        self.assertGreaterEqual(overlap(theirs, ours), 0.998)


def _width_in(text: str) -> float:
    """The width of ezdxf's lines in mm: its SVG has a million units to the page's longer side, a style for lines."""
    import re

    units = float(re.search(r"stroke-width: ?([\d.]+)", text)[1])
    width_mm = float(re.search(r'width="([\d.]+)mm"', text)[1])
    box = float(re.search(r'viewBox="0 0 ([\d.]+)', text)[1])
    return units * width_mm / box


def _framed_alike(text: str, box) -> str:
    """The other drawing, cut to the lines' own box as ours is."""
    import re

    left, top, right, bottom = box
    width_mm = float(re.search(r'width="([\d.]+)mm"', text)[1])
    height_mm = float(re.search(r'height="([\d.]+)mm"', text)[1])
    w, _ = (float(v) for v in re.search(r'viewBox="0 0 ([\d.]+) ([\d.]+)"', text).groups())
    x, y = (width_mm - (right - left)) / 2, (height_mm - (bottom - top)) / 2
    scale = w / width_mm
    view = f'viewBox="{x * scale} {y * scale} {(right - left) * scale} {(bottom - top) * scale}"'
    text = re.sub(r'viewBox="[^"]*"', view, text, count=1)
    text = re.sub(r'width="[\d.]+mm"', f'width="{right - left}mm"', text, count=1)
    return re.sub(r'height="[\d.]+mm"', f'height="{bottom - top}mm"', text, count=1)
