"""What of SVG is drawn, and how: each read and written again, beside resvg's picture of the file as it came.

Sources: the SVG 2 and SVG 1.1 recommendations, CSS Transforms 1, CSS Masking 1; sections beside each.
"""

import unittest

from hakobu.formats import ReadOptions, WriteOptions, by_id

from .coverage import overlap

SVG = by_id("svg")
#: Many small drawings: half the usual width tells as much of each.
WIDTH = 1024
HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="80mm" height="60mm" '
BOX = 'viewBox="0 0 80 60">'
STAR = "M40 5L52 40L20 18H60L28 40Z"
ARROW = '<marker id="m" markerWidth="4" markerHeight="3" refX="1" refY="1.5" orient="auto"><path d="M0 0L4 1.5L0 3Z"/>'

SAME = {
    # SVG 2, 9.3: the grammar of path data
    "numbers without a space": '<path d="M10-5.5.5L30,5.5.5 50-.5 70 40z"/>',
    "flags without a space": '<path d="M10 30a20 15 30 0120-10 20 15 30 1140 10z"/>',
    "moves that go on as lines": '<path d="m10 10 20 5-5 20zm30 0l20 5-5 20z"/>',
    "smooth curves": '<path d="M5 30C10 5 20 5 25 30S40 55 45 30T55 30 65 30L65 55H5Z"/>',
    "smooth after something else": '<path d="M5 30L20 10S40 55 45 30L45 50T60 10 75 50Z"/>',
    "a stroke broader one way": '<g transform="scale(3 1)">'
    '<circle cx="14" cy="30" r="10" fill="none" stroke="red" stroke-width="7"/></g>',
    "exponents and signs": '<path d="M1e1+5L+7.5e+1.05e2 4E1,5.5e1Z"/>',
    "drawn up to the error": '<path d="M10 10H50V40H10Zx M60 10H70V20H60Z"/>',
    "an arc that is too small": '<path d="M10 30A5 5 0 0 1 70 30L40 55Z"/>',
    "an arc of no radius is a line": '<path d="M10 30A0 5 0 0 1 70 30L40 55Z"/>',
    "closed and gone on": '<path d="M10 10h10v10h-10zl20 20v10z"/>',
    # 8: coordinate systems
    "transform list": '<g transform="translate(40 30) rotate(30),scale(.5 .8)"><path d="M-40-20H40V20H-40Z"/></g>',
    "rotate about a place": '<rect x="20" y="20" width="30" height="10" transform="rotate(45 35 25)"/>',
    "skews": '<rect x="20" y="10" width="20" height="20" transform="skewX(20) skewY(-10)"/>',
    "transform-origin": '<rect x="20" y="20" width="30" height="10" transform="rotate(30)" transform-origin="35 25"/>',
    "nested viewports": '<svg x="10" y="10" width="50%" height="30" viewBox="0 0 10 10"><circle cx="5" cy="5" r="4"/></svg>',
    "slice cuts off": '<svg x="10" y="10" width="40" height="20" viewBox="0 0 10 10" preserveAspectRatio="xMidYMin slice">'
    '<circle cx="5" cy="5" r="5"/></svg>',
    "no aspect": '<svg width="80" height="20" viewBox="0 0 10 10" preserveAspectRatio="none"><circle cx="5" cy="5" r="4"/>'
    "</svg>",
    "overflow shows": '<svg x="10" y="10" width="20" height="20" overflow="visible"><circle cx="20" cy="10" r="9"/></svg>',
    # 10: basic shapes
    "rounded rectangle by one radius": '<rect x="10" y="10" width="50" height="30" ry="9"/>',
    "radii that are too large": '<rect x="10" y="10" width="50" height="30" rx="90" ry="4"/>',
    "percentages": '<ellipse cx="50%" cy="50%" rx="30%" ry="20%"/><circle cx="10%" cy="10%" r="5%"/>',
    "units": '<rect x="1cm" y=".5in" width="20pt" height="3pc"/><rect x="60" y="5" width="1em" height="2ex"/>',
    "em by font size": '<g font-size="5"><rect x="1em" y="2em" width="4em" height="3em"/></g>',
    "em in em": '<g font-size="5"><g font-size="2em"><rect x="1em" y="1em" width="4em" height="3em"/></g></g>',
    "polygon and polyline": '<polygon points="10,10 30 10,20 30"/><polyline points="40 10 60 10 50 30" fill="red"/>',
    # 5: structure
    "use with a place": '<defs><rect id="a" width="20" height="10"/></defs><use href="#a" x="5" y="5"/>'
    '<use xlink:href="#a" x="40" y="30" transform="rotate(10)"/>',
    "symbol with its own size": '<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5"/></symbol>'
    '<use href="#s" width="30" height="20"/><use href="#s" x="40" y="10" width="10" height="40"/>',
    "links are groups": '<a href="https://example.org"><rect x="3" y="3" width="9" height="9"/></a>',
    # 6: styling
    "selectors that look around": "<style>g > rect.a + rect { fill: none } rect:first-child { fill: red }"
    ' g rect[width="5"] { display: none }</style><g><rect class="a" width="20" height="10"/>'
    '<rect x="30" width="20" height="10"/><rect x="60" width="5" height="9"/></g>',
    "important wins": "<style>rect { fill: red !important; display: inline }</style>"
    '<rect width="20" height="10" style="fill:none"/>',
    "display by class": '<style>.off { display: none }</style><rect class="off" width="50" height="50"/>'
    '<rect class="on" x="60" width="9" height="9"/>',
    "shown again": '<g visibility="hidden"><rect width="9" height="9"/><rect visibility="visible" x="20" width="9" '
    'height="9"/></g>',
    "current colour": '<g color="red"><path d="M10 10H40V40Z" fill="currentColor"/></g>',
    "opacity of nothing": '<rect opacity="0" width="50" height="50"/><rect x="60" fill-opacity="50%" width="9" height="9"/>',
    # 13: painting
    "even and odd": f'<path d="{STAR}" fill-rule="evenodd"/>',
    "never nothing": f'<path d="{STAR}"/>',
    "a stroke with all its words": '<path d="M10 50L30 10L50 50L60 45" fill="none" stroke="#000" stroke-width="5" '
    'stroke-linejoin="round" stroke-linecap="square"/>',
    "dashes": '<path d="M10 10H70V50H10Z" fill="none" stroke="#000" stroke-width="3" stroke-dasharray="9 3 2" '
    'stroke-dashoffset="4"/>',
    "a stroke of percentages": '<path d="M10 10H70" stroke="#000" stroke-width="5%"/>',
    "a mitre's limit": '<path d="M10 50L20 10L30 50" fill="none" stroke="#000" stroke-width="4" stroke-miterlimit="2"/>',
    "markers": f"<defs>{ARROW}</marker></defs>"
    '<path d="M10 50L30 10L60 20" fill="none" stroke="#000" stroke-width="2" marker-end="url(#m)" marker-mid="url(#m)"/>',
    "markers of a size of their own": '<defs><marker id="d" markerUnits="userSpaceOnUse" markerWidth="8" markerHeight="8" '
    'viewBox="0 0 10 10" refX="5" refY="5"><circle cx="5" cy="5" r="5"/></marker></defs>'
    '<polyline points="10 10 40 40 70 10" fill="none" stroke="#000" marker-start="url(#d)" marker-end="url(#d)"/>',
    # CSS Masking 1, 5: clip paths
    "clipped by a circle": '<clipPath id="c"><circle cx="30" cy="30" r="15"/></clipPath>'
    '<rect x="10" y="20" width="60" height="30" clip-path="url(#c)"/>',
    "clipped by the box": '<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".5"/></clipPath>'
    '<rect x="10" y="20" width="60" height="30" clip-path="url(#c)"/>',
    "a clipped group": '<clipPath id="c"><path d="M0 0H40V60Z"/></clipPath><g clip-path="url(#c)" transform="scale(1.5)">'
    '<rect x="5" y="5" width="20" height="30"/><circle cx="40" cy="20" r="10" transform="translate(-9)"/></g>',
    "a clip's own rule": f'<clipPath id="c"><path clip-rule="evenodd" d="{STAR}"/></clipPath>'
    '<rect width="80" height="60" clip-path="url(#c)"/>',
    "a clipped clip": '<clipPath id="a"><rect width="40" height="60"/></clipPath><clipPath id="c" clip-path="url(#a)">'
    '<circle cx="40" cy="30" r="20"/><rect width="9" height="9" x="20"/></clipPath>'
    '<rect width="80" height="60" clip-path="url(#c)"/>',
    "a clip by use": '<defs><circle id="o" cx="40" cy="30" r="20"/></defs><clipPath id="c"><use href="#o"/></clipPath>'
    '<rect width="80" height="60" clip-path="url(#c)"/>',
    "clipped away": '<clipPath id="c"><rect width="5" height="5"/></clipPath>'
    '<rect x="50" width="9" height="9" clip-path="url(#c)"/><rect x="20" y="20" width="9" height="9"/>',
}


#: What resvg leaves out, beside the same drawn plainly.
EQUAL = {
    "css transform": (
        '<rect x="20" y="20" width="30" height="10" style="transform:translate(3px,2px) rotate(.05turn)"/>',
        '<rect x="20" y="20" width="30" height="10" transform="translate(3 2) rotate(18)"/>',
    ),
    "css transform about the middle of the page": (
        '<rect x="20" y="20" width="30" height="10" style="transform:rotate(30deg);transform-origin:center"/>',
        '<rect x="20" y="20" width="30" height="10" transform="rotate(30 40 30)"/>',
    ),
    # SVG 1.1, 5.8.5: a preference that is a prefix of a language given, up to its dash, matches.
    "switch takes what applies": (
        '<switch><rect systemLanguage="xx" width="80" height="60"/><rect systemLanguage="fr, en-GB" width="20" '
        'height="10"/><rect width="9" height="60"/></switch>',
        '<rect width="20" height="10"/>',
    ),
    "geometry by css": (
        '<rect style="x:5px;y:1cm;width:50%;height:9px"/>',
        '<rect x="5" y="37.795" width="40" height="9"/>',
    ),
}


class Features(unittest.TestCase):
    def test_painted_area_is_what_it_was(self):
        for name, text in SAME.items():
            with self.subTest(name):
                before = HEAD + BOX + text + "</svg>"
                made = SVG.read(before.encode(), ReadOptions())
                after = SVG.write(made.document, WriteOptions()).data.decode()
                self.assertGreaterEqual(overlap(before, after, WIDTH), 0.999)

    def test_lines_as_areas_are_painted_the_same(self):
        clip = '<clipPath id="c"><circle cx="30" cy="30" r="15"/></clipPath>'
        line = '<path d="M0 10L60 50" stroke="#000" stroke-width="6" stroke-dasharray="9 4" clip-path="url(#c)"/>'
        strokes = {name: text for name, text in SAME.items() if "stroke" in name or "dash" in name or "mitre" in name}
        self.assertGreaterEqual(len(strokes), 4)
        for name, text in (strokes | {"clipped": clip + line}).items():
            with self.subTest(name):
                before = HEAD + BOX + text + "</svg>"
                made = SVG.read(before.encode(), ReadOptions(strokes="outlines"))
                self.assertTrue(all(piece.stroke is None for piece in made.document.pieces))
                after = SVG.write(made.document, WriteOptions()).data.decode()
                self.assertGreaterEqual(overlap(before, after), 0.999)

    def test_what_the_other_leaves_out_is_as_drawn_plainly(self):
        for name, (text, plain) in EQUAL.items():
            with self.subTest(name):
                made = SVG.read((HEAD + BOX + text + "</svg>").encode(), ReadOptions())
                self.assertEqual([f.rule for f in made.findings], [])
                after = SVG.write(made.document, WriteOptions()).data.decode()
                self.assertGreaterEqual(overlap(HEAD + BOX + plain + "</svg>", after, WIDTH), 0.999)

    def test_encodings(self):
        text = f'<?xml version="1.0" encoding="%s"?>{HEAD}{BOX}<g><title>Käfig</title><rect width="9" height="9"/></g></svg>'
        for encoding, codec in (
            ("UTF-8", "utf-8"),
            ("UTF-8", "utf-8-sig"),
            ("UTF-16", "utf-16"),
            ("ISO-8859-1", "latin-1"),
            ("windows-1252", "cp1252"),
        ):
            with self.subTest(codec):
                made = SVG.read((text % encoding).encode(codec), ReadOptions())
                self.assertEqual(made.document.layers[0].name, "Käfig")
