"""Planted faults: every kind in eight forms is found, mended where it can be, and not found again; alone, piled up, in
SVG and in DXF, whatever the order of pieces and however turned. `./hakobu figures check` goes through all sizes and two
seeds."""

import unittest
from dataclasses import replace

from hakobu import formats
from hakobu.checks import check, rule_of
from hakobu.checks.applier import mend_where
from hakobu.formats import ReadOptions, WriteOptions
from hakobu.geometry import compose, rotation, transform, translation
from hakobu.model import Conditions, Document, Page

from ..planted import FORMS, KINDS, planted

#: The sizes that take turns with the forms, in mm.
SIZES = (10.0, 40.0, 300.0, 3000.0)
#: A file keeps no ids of pieces, so faults that depend on ids are lost in it.
BY_IDS = {"not-one", "dimension-off"}


def found(document: Document, conditions: Conditions = Conditions()) -> set[str]:
    return {f.rule for f in check(document, conditions)}


def found_in_file(document: Document, format_id: str, conditions: Conditions) -> set[str]:
    """What is found in a design written and read back; what is hidden in a file the reader tells."""
    format_ = formats.by_id(format_id)
    read = format_.read(format_.write(document, WriteOptions()).data, ReadOptions())
    said = {"invisible-object"} if any(f.rule == "hidden-thing" for f in read.findings) else set()
    return found(read.document, conditions) | said


class Planted(unittest.TestCase):
    def test_all_are_found_and_mended_and_not_found_again(self):
        for kind in KINDS:
            rule = rule_of(kind)
            for form in range(FORMS):
                with self.subTest(kind, form=form):
                    made = planted(kind, form, SIZES[form % 4], seed=2)
                    self.assertIn(kind, found(made.document, made.conditions))
                    if rule.mend and form < 4:
                        done = mend_where(made.document, lambda f, kind=kind: f.rule == kind, made.conditions).document
                        again = check(done, made.conditions, [rule])
                        self.assertEqual([f for f in again if f.mendable], [])

    def test_in_svg_and_dxf(self):
        for kind in sorted(set(KINDS) - BY_IDS - {"picture-without-line"}):
            for form in (0, 3, 6):
                made = planted(kind, form)
                for format_id in ("svg", "dxf") if made.in_dxf else ("svg",):
                    with self.subTest(kind, form=form, format=format_id):
                        self.assertIn(kind, found_in_file(made.document, format_id, made.conditions))

    def test_piled_up(self):
        """One of each kind that needs no more than lines, side by side on one sheet."""
        kinds = ("duplicate-line", "open-path", "self-crossing", "spike", "stray-node", "jagged-line", "speck")
        kinds += ("overlapping-shape", "thin-strip", "leftover-hollow", "double-outline", "tiny-segment", "stroke-only")
        pieces = []
        for n, kind in enumerate(kinds):
            for piece in planted(kind, 0, 30.0).document.pieces:
                path = transform(piece.path, translation(100.0 * (n % 4), 100.0 * (n // 4)))
                pieces.append(replace(piece, id=f"{kind}:{piece.id}", path=path))
        whole = replace(planted("speck").document, page=Page(500, 500), pieces=tuple(pieces))
        self.assertLessEqual(set(kinds), found(whole))

    def test_the_order_of_pieces_and_a_turn_change_nothing(self):
        turn = compose(translation(200, 200), rotation(0.6457718))
        for kind in sorted(set(KINDS) - ON_A_PAGE):
            made = planted(kind, 1)
            whole, conditions = replace(made.document, page=None), made.conditions
            backwards = found(replace(whole, pieces=whole.pieces[::-1]), conditions)
            self.assertEqual(kind in backwards, kind not in NEEDS_ORDER, kind)
            turned = tuple(replace(piece, path=transform(piece.path, turn)) for piece in whole.pieces)
            self.assertIn(kind, found(replace(whole, pieces=turned), conditions), kind)

    def test_mending_does_not_depend_on_the_order(self):
        for kind in ("duplicate-line", "open-path", "overlapping-shape", "overlapping-line", "speck"):
            made = planted(kind, 2).document
            results = [
                sorted(p.path.digest for p in mend_where(each, lambda f: f.safe, Conditions()).document.pieces)
                for each in (made, replace(made, pieces=made.pieces[::-1]))
            ]
            self.assertEqual(*results, kind)


#: What the page, or what lies under it, makes a fault.
ON_A_PAGE = {"background-rectangle", "outside-sheet", "picture-without-line", "invisible-object"}
#: What lies on or under what is the fault.
NEEDS_ORDER = {"painted-hole"}
