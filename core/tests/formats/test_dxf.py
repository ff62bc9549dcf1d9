"""DXF out, read back by ezdxf. Source: the DXF reference for AutoCAD 2000 (AC1015)."""

import io
import unittest
from collections import Counter

import ezdxf
import numpy as np

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import Path, PathBuilder, SegmentIndex, flatten
from hakobu.model import Document, Layer, Page, Piece, Treatment

from ..shapes import blob, circle, document, square

ARC_OPEN = PathBuilder()
ARC_OPEN.move_to((20.0, 30.0))
ARC_OPEN.bulge_to(-0.4, (50.0, 35.0))
ROUNDED = PathBuilder()
ROUNDED.move_to((10.0, 0.0))
ROUNDED.line_to((40.0, 0.0))
ROUNDED.bulge_to(0.41421356, (50.0, 10.0))
ROUNDED.line_to((50.0, 30.0))
ROUNDED.close()
DESIGN = document(circle(60, 50, 20), blob(), ARC_OPEN.path(), ROUNDED.path(), square(100, 20, 30))


def written(made: Document):
    data = by_id("dxf").write(made, WriteOptions()).data
    return ezdxf.read(io.StringIO(data.decode())), data


def points(drawing, height: float) -> np.ndarray:
    """Points along all entities, y down again."""
    found = []
    for entity in drawing.modelspace():
        # A polyline's arcs as arcs: turned into cubics by the reader they would be off by its own error.
        for part in entity.virtual_entities() if entity.dxftype() == "LWPOLYLINE" else (entity,):
            if part.dxftype() == "POINT":
                found.append([tuple(part.dxf.location)[:2]])
            elif part.dxftype() == "LINE":
                found.append([tuple(part.dxf.start)[:2], tuple(part.dxf.end)[:2]])
            else:
                found.append([(v.x, v.y) for v in part.flattening(0.0002)])
    flat = np.vstack(found)
    return np.column_stack([flat[:, 0], height - flat[:, 1]])


class Written(unittest.TestCase):
    def test_ezdxf_finds_nothing_to_complain_of(self):
        drawing, _ = written(DESIGN)
        audit = drawing.audit()
        self.assertEqual((audit.errors, audit.fixes), ([], []))
        self.assertEqual((drawing.dxfversion, drawing.units), ("AC1015", 4))

    def test_curves_are_what_they_were(self):
        kinds = Counter(entity.dxftype() for entity in written(DESIGN)[0].modelspace())
        self.assertEqual(kinds, {"CIRCLE": 1, "SPLINE": 1, "LWPOLYLINE": 3, "ARC": 1, "POINT": 1})

    def test_a_line_and_a_curve_in_one_outline_are_each_their_own(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.line_to((10.0, 0.0))
        builder.cubic_to((20.0, 0.0), (20.0, 20.0), (10.0, 20.0))
        builder.close()
        kinds = sorted(entity.dxftype() for entity in written(document(builder.path()))[0].modelspace())
        self.assertEqual(kinds, ["LWPOLYLINE", "SPLINE"])

    def test_every_line_lies_where_it_was(self):
        drawing, _ = written(DESIGN)
        path = Path.concatenate(p.path for p in DESIGN.pieces)
        back = points(drawing, DESIGN.frame[1])
        self.assertLess(SegmentIndex(flatten(path, 1e-4), 0.2).nearest(back)[0].max(), 0.001)
        ours = flatten(path, 1e-4, 0.1).points
        gaps = np.sqrt(((ours[:, None] - back[None]) ** 2).sum(axis=2)).min(axis=1)
        self.assertLess(gaps.max(), 16)  # Straight lines have points at their ends only.

    def test_agrees_with_hpgl_within_the_grids(self):
        drawing, _ = written(DESIGN)
        hpgl = by_id("hpgl")
        made = hpgl.write(DESIGN, WriteOptions()).data
        machine = hpgl.read(made, ReadOptions(page_height_mm=DESIGN.frame[1])).document
        strokes = Path.concatenate(p.path for p in machine.pieces)
        back = points(drawing, DESIGN.frame[1])
        self.assertLess(SegmentIndex(flatten(strokes, 1e-4), 0.2).nearest(back)[0].max(), 0.025)

    def test_layers_keep_names_that_dxf_can_hold(self):
        layers = (
            Layer("a", "Ink/1", "#ff0000"),
            Layer("b", "ink_1", "#00ff00", Treatment.SCORE),
            Layer("c", "0", "#0000ff"),
        )
        gone = Layer("d", "Gone", "#000000", Treatment.LEAVE_OUT)
        pieces = tuple(Piece(f"t:/{x.id}", square(i * 20), x.id) for i, x in enumerate((*layers, gone)))
        drawing, _ = written(Document(Page(100, 50), (*layers, gone), pieces))
        used = [entity.dxf.layer for entity in drawing.modelspace()]
        self.assertEqual(used, ["Ink_1", "ink_1 - score", "0 2"])
        self.assertEqual([drawing.layers.get(name).color for name in used], [1, 3, 5])
        self.assertNotIn("Gone", drawing.layers)

    def test_the_same_design_gives_the_same_bytes(self):
        self.assertEqual(written(DESIGN)[1], written(DESIGN)[1])

    def test_nothing_is_a_file_too(self):
        self.assertEqual(len(written(document())[0].modelspace()), 0)
