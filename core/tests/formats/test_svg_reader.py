"""The SVG reader against hand-worked places; sources: the W3C's SVG 2 recommendation, by chapter."""

import gzip
import unittest

import numpy as np

from hakobu.formats import ReadOptions, svg
from hakobu.geometry import ARC, area, bounds
from hakobu.model import Treatment

MM = 25.4 / 96


def read(body: str, head: str = 'width="100mm" height="100mm" viewBox="0 0 100 100"', unit=None):
    text = f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {head}>{body}</svg>'
    return svg.FORMAT.read(text.encode(), ReadOptions(unit=unit))


def box_of(body: str, **kw) -> tuple:
    return tuple(round(v, 6) for v in read(body, **kw).document.box)


class Places(unittest.TestCase):
    """Each row: what is drawn, and the box of its outlines in mm."""

    TABLE = (
        # Chapter 10, basic shapes.
        ('<rect x="10" y="20" width="30" height="40"/>', (10, 20, 40, 60)),
        ('<rect x="10" y="20" width="30" height="40" rx="5"/>', (10, 20, 40, 60)),
        ('<rect width="30" height="40" rx="99" ry="3"/>', (0, 0, 30, 40)),
        ('<circle cx="50" cy="40" r="10"/>', (40, 30, 60, 50)),
        ('<ellipse cx="50" cy="40" rx="20" ry="10"/>', (30, 30, 70, 50)),
        ('<ellipse cx="50" cy="40" rx="20"/>', (30, 20, 70, 60)),
        ('<line x1="1" y1="2" x2="3" y2="9" stroke="red"/>', (1, 2, 3, 9)),
        ('<polyline points="1,2 3,9 5 4" />', (1, 2, 5, 9)),
        ('<polygon points="1,2,3,9,5,4"/>', (1, 2, 5, 9)),
        ('<rect x="10%" y="50%" width="5cm" height="1in"/>', (10, 50, 10 + 50 / MM, 50 + 96)),
        # Chapter 9, path data: every command, absolute and relative, and the compact ways to write it.
        ('<path d="M10 10h20v20h-20z"/>', (10, 10, 30, 30)),
        ('<path d="m10,10 20,0 0,20z"/>', (10, 10, 30, 30)),
        ('<path d="M10 10L30 10 30 30H5V12"/>', (5, 10, 30, 30)),
        ('<path d="M0 0C0 40 30 40 30 0"/>', (0, 0, 30, 30)),
        ('<path d="M0 0c0 40 30 40 30 0s30-40 30 0"/>', (0, -30, 60, 30)),
        ('<path d="M0 0Q15 40 30 0T60 0"/>', (0, -20, 60, 20)),
        ('<path d="M0 0q15 40 30 0t30 0"/>', (0, -20, 60, 20)),
        ('<path d="M10 20A10 10 0 0 1 30 20"/>', (10, 10, 30, 20)),
        ('<path d="M10 20a10 10 0 0020 0"/>', (10, 20, 30, 30)),
        ('<path d="M.5.5.5 9e0-1-1"/>', (-1, -1, 0.5, 9)),
        ('<path d="M10 10 20 20zL5 5"/>', (5, 5, 20, 20)),
        # Chapter 8, coordinates: transforms, viewports, preserveAspectRatio, percentages.
        ('<g transform="translate(10 20)scale(2)"><rect width="5" height="6"/></g>', (10, 20, 20, 32)),
        ('<rect transform="rotate(90)" width="5" height="6"/>', (-6, 0, 0, 5)),
        ('<rect transform="rotate(90 10 10)" width="5" height="6"/>', (14, 0, 20, 5)),
        ('<rect transform="skewX(45)" width="5" height="6"/>', (0, 0, 11, 6)),
        ('<rect transform="skewY(45)" width="5" height="6"/>', (0, 0, 5, 11)),
        ('<rect transform="matrix(0 1 -1 0 9 0)" width="5" height="6"/>', (3, 0, 9, 5)),
        (
            '<svg x="10" y="10" width="20" height="20" viewBox="0 0 10 5"><rect width="10" height="5"/></svg>',
            (10, 15, 30, 25),
        ),
        # Chapter 5, structure: use, symbol, switch.
        ('<defs><rect id="a" width="5" height="6"/></defs><use href="#a" x="7" y="8"/>', (7, 8, 12, 14)),
        ('<defs><rect id="a" width="5" height="6"/></defs><use xlink:href="#a" transform="scale(2)"/>', (0, 0, 10, 12)),
        (
            '<symbol id="a" viewBox="0 0 1 1"><rect width="1" height="1"/></symbol><use href="#a" width="8" height="8"/>',
            (0, 0, 8, 8),
        ),
        ('<switch><g systemLanguage="xx"><rect width="9"/></g><rect width="5" height="6"/></switch>', (0, 0, 5, 6)),
        ('<a href="#x"><rect width="5" height="6"/></a>', (0, 0, 5, 6)),
    )

    def test_table(self):
        for body, box in self.TABLE:
            with self.subTest(body):
                np.testing.assert_allclose(box_of(body), box, atol=2e-4)

    def test_sizes_of_the_page(self):
        rect = '<rect width="10" height="10"/>'
        for head, page in (
            ('width="2in" height="1in"', (50.8, 25.4)),
            ('width="96" height="48"', (25.4, 12.7)),
            ('viewBox="0 0 96 48"', (25.4, 12.7)),
            ('width="50mm" viewBox="0 0 100 40"', (50, 20)),
            ('width="100%" height="100%" viewBox="0 0 96 96"', (25.4, 25.4)),
        ):
            with self.subTest(head):
                made = read(rect, head).document.page
                np.testing.assert_allclose((made.width_mm, made.height_mm), page)

    def test_how_a_viewbox_fits(self):
        for aspect, left in (("xMinYMid", 0), ("xMidYMid meet", 25), ("xMaxYMin", 50), ("none", 0)):
            head = f'width="100mm" height="50mm" viewBox="0 0 10 10" preserveAspectRatio="{aspect}"'
            self.assertAlmostEqual(read('<rect width="10" height="10"/>', head).document.box[0], left)

    def test_what_a_number_means_where_no_unit_stands(self):
        for unit, width in ((None, 10 * MM), ("px", 10 * MM), ("mm", 10), ("in", 254)):
            made = read('<rect width="10" height="10"/>', 'width="20" height="20"', unit)
            self.assertAlmostEqual(made.document.size_mm[0], width)
            self.assertEqual([f.rule for f in made.findings], [] if unit else ["no-unit"])
        # A file that states its unit is not overruled.
        self.assertAlmostEqual(read('<rect width="10" height="10"/>', unit="in").document.size_mm[0], 10)


class Kept(unittest.TestCase):
    """A reader keeps every outline as drawn."""

    def test_circles_stay_arcs_under_similarities(self):
        made = read('<circle r="5" transform="translate(20 20) rotate(30) scale(2)"/>').document
        self.assertEqual(set(made.pieces[0].path.kind.tolist()), {ARC})
        self.assertAlmostEqual(area(made.pieces[0].path), np.pi * 100)

    def test_overlapping_outlines_open_ends_and_lone_nodes_are_all_there(self):
        path = read('<path d="M0 0H9V9H0ZM0 0H9V9H0ZM3 3L5 5M7 7"/>').document.pieces[0].path
        self.assertEqual(path.closed.tolist(), [True, True, False, False])

    def test_ids_are_the_elements_place_in_the_file(self):
        body = '<g><rect width="1" height="1"/><path d="M0 0H9"/></g><path d="M0 0H9"/>'
        ids = [p.id for p in read(body).document.pieces]
        self.assertEqual(ids, ["file:/g[1]/rect[1]", "file:/g[1]/path[1]", "file:/path[1]"])

    def test_packed_files_and_other_encodings(self):
        text = '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><title>é</title><rect id="é" width="9" height="9"/></svg>'
        for data in (
            gzip.compress(text.encode()),
            text.encode("utf-16"),
            b'<?xml version="1.0" encoding="latin-1"?>' + text.encode("latin-1"),
        ):
            self.assertEqual(svg.FORMAT.read(data, ReadOptions()).document.pieces[0].name, "é")

    def test_internal_entities_are_followed(self):
        text = '<!DOCTYPE svg [<!ENTITY w "30"><!ENTITY r "<rect width=\'&w;\' height=\'5\'/>">]><svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90">&r;</svg>'
        self.assertEqual(svg.FORMAT.read(text.encode(), ReadOptions()).document.size_mm, (30, 5))

    def test_a_prefix_for_svg_itself(self):
        text = '<s:svg xmlns:s="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><s:rect width="3" height="4"/></s:svg>'
        self.assertEqual(svg.FORMAT.read(text.encode(), ReadOptions()).document.size_mm, (3, 4))


class Looks(unittest.TestCase):
    """Chapter 6, styling, and 13, painting."""

    def fill(self, body: str):
        piece = read(body).document.pieces[-1]
        return piece.fill and piece.fill.color

    def test_where_a_colour_comes_from(self):
        rect = '<rect {} width="5" height="5"/>'
        for given, color in (
            ("", "#000000"),
            ('fill="red"', "#ff0000"),
            ('fill="#0f0"', "#00ff00"),
            ('fill="rgb(10, 20, 30)"', "#0a141e"),
            ('fill="hsl(240, 100%, 50%)"', "#0000ff"),
            ('fill="red" style="fill:blue"', "#0000ff"),
            ('color="lime" fill="currentColor"', "#00ff00"),
            ('fill="none" stroke="red"', None),
        ):
            self.assertEqual(self.fill(rect.format(given)), color, given)

    def test_style_sheets_by_type_class_and_id(self):
        sheet = "<style>rect{fill:red} .a{fill:lime} #b{fill:blue} path.a{fill:aqua}</style>"
        for given, color in (("", "#ff0000"), ('class="x a"', "#00ff00"), ('class="a" id="b"', "#0000ff")):
            self.assertEqual(self.fill(f'{sheet}<rect {given} width="5" height="5"/>'), color)
        self.assertEqual(self.fill(f'{sheet}<path class="a" d="M0 0H5V5"/>'), "#00ffff")

    def test_selectors_that_are_not_followed_are_said(self):
        made = read('<style>rect::banana(2){fill:red}</style><rect width="5" height="5"/>')
        self.assertTrue(any("rect::banana(2)" in f.message for f in made.findings))

    def test_strokes_scale_with_their_shape(self):
        made = read(
            '<g transform="scale(2)"><path d="M0 0H5" stroke="red" stroke-width=".5" stroke-dasharray="1 2"/></g>'
        )
        stroke = made.document.pieces[0].stroke
        self.assertEqual((round(stroke.width_mm, 9), stroke.dashes), (1.0, (2.0, 4.0)))

    def test_a_gradient_is_taken_plainly_and_said(self):
        body = '<linearGradient id="g"><stop stop-color="teal"/></linearGradient><rect fill="url(#g)" width="5" height="5"/>'
        made = read(body)
        self.assertEqual(
            (made.document.pieces[0].fill.color, [f.rule for f in made.findings]), ("#008080", ["taken-plainly"])
        )


class LayersAndGroups(unittest.TestCase):
    def test_titled_groups_are_layers_with_treatment_and_colour(self):
        body = '<g color="#112233" data-treatment="score"><title>Folds</title><path d="M0 0H5" stroke="red"/></g><g><title>Cuts</title><path d="M0 0H5"/></g>'
        layers = read(body).document.layers
        self.assertEqual([(x.name, x.treatment) for x in layers], [("Folds", Treatment.SCORE), ("Cuts", Treatment.CUT)])
        self.assertEqual(layers[0].color, "#112233")

    def test_without_them_colours_are(self):
        layers = read(
            '<path d="M0 0H5V5" fill="red"/><path d="M0 0H5" fill="none" stroke="blue"/><path d="M0 0V5H5" fill="red"/>'
        ).document.layers
        self.assertEqual([x.color for x in layers], ["#ff0000", "#0000ff"])

    def test_hidden_things_lie_on_a_layer_that_is_left_out_and_are_said(self):
        for hidden in ('display="none"', 'visibility="hidden"', 'fill="none"', 'opacity="0"', 'style="display:none"'):
            made = read(f'<rect width="5" height="5"/><rect {hidden} width="50" height="50"/>')
            self.assertEqual(made.document.size_mm, (5, 5), hidden)
            self.assertEqual([f.rule for f in made.findings], ["hidden-thing"])

    def test_inner_groups_are_kept_outermost_last(self):
        body = '<g id="x"><g id="word"><path d="M0 0H5V5"/><path d="M9 0H12V5"/></g><path d="M9 9H12V5"/></g><g id="y"><path d="M0 9H5V5"/></g>'
        groups = read(body).document.groups
        self.assertEqual([(g.name, len(g.members)) for g in groups], [("word", 2)])
        self.assertEqual(read(f"<g>{body}</g>").document.groups[0].name, "word")


class Said(unittest.TestCase):
    """What is not understood is reported, never dropped in silence."""

    def test_table(self):
        for body, rule, words in (
            ("<text>Lantern <tspan>Lane</tspan></text>", "live-text", "Lantern Lane"),
            ('<image href="data:image/png;base64,AAAA"/>', "not-understood", "picture"),
            ('<image href="http://elsewhere/x.png"/>', "external-reference", "elsewhere"),
            ('<use href="other.svg#a"/>', "external-reference", "other.svg"),
            ('<use href="#nowhere"/>', "damaged", "nowhere"),
            ('<use id="me" href="#me"/>', "damaged", "contains itself"),
            ("<foreignObject/>", "not-understood", "foreignObject"),
            ("<banana/>", "not-understood", "banana"),
            ('<rect clip-path="url(#c)" width="5" height="5"/>', "damaged", "clipping"),
            ('<rect clip-path="inset(1px)" width="5" height="5"/>', "not-understood", "CSS shape"),
            ('<rect mask="url(#c)" width="5" height="5"/>', "not-understood", "mask"),
            ('<rect filter="url(#c)" width="5" height="5"/>', "taken-plainly", "filter"),
            ('<path d="M0 0H5" marker-end="url(#c)" stroke="red"/>', "damaged", "marker"),
            ('<rect transform="spin(4)" width="5" height="5"/>', "damaged", "spin"),
            ('<path d="M0 0L5 5 L6"/>', "damaged", "not a multiple of 2"),
            ('<path d="L5 5"/>', "damaged", "not with a move"),
            ('<path d="M0 0 L5 x5"/>', "damaged", "x5"),
            ('<path d="M0 0A5 5 0 2 0 9 9"/>', "damaged", "arc"),
            ('<rect width="-5" height="5"/>', "damaged", "below nothing"),
            ('<path d="M0 0H1e999"/>', "damaged", "too large"),
            ('<path d="M0 0H1e12"/>', "damaged", "ten kilometres"),
            ("<script>alert(1)</script>", "taken-plainly", "script"),
            ('<rect width="5" height="5"><animate/></rect>', None, ""),
            ('<rect fill="no-colour" width="5" height="5"/>', "taken-plainly", "no-colour"),
        ):  # fmt: skip
            with self.subTest(body):
                found = read(body).findings
                self.assertEqual([f.rule for f in found], [rule] if rule else [])
                self.assertTrue(not rule or words in found[0].message, found)

    def test_up_to_its_fault_a_path_is_drawn(self):
        self.assertEqual(bounds(read('<path d="M0 0H5V7 Q1"/>').document.pieces[0].path), (0, 0, 5, 7))

    def test_one_sentence_for_many_of_a_kind_with_its_number_and_first_line(self):
        found = read("\n<banana/>\n<banana/><banana/>").findings
        self.assertEqual(len(found), 1)
        self.assertIn("3 times, first in line 2", found[0].message)
