"""Files that nobody should be able to hurt us with: each ends within the budget, and in a sentence or a document.

Every case is read as an uploaded file is, in the limited child process. The budget itself is the reader's, 10 seconds
of processor and 1 GiB; a case that needs more would be killed, which `ends_well` takes for an answer only where the
table says so.
"""

import base64
import gzip
import io
import struct
import unittest
import zlib

import ezdxf
import numpy as np
from PIL import Image

from hakobu import formats
from hakobu.errors import HakobuError, TooMuch, UnknownFormat, UnreadableFile
from hakobu.formats import WriteOptions, by_id

from ..shapes import blob, circle, document, square

DESIGN = document(blob(), circle(60, 50, 20), square(100, 20, 30))
HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="50mm" height="50mm">'


def svg(body: str, before: str = "") -> bytes:
    return f"{before}{HEAD}{body}</svg>".encode()


def picture(kind: str, size: tuple[int, int] = (64, 48)) -> bytes:
    pixels = np.random.default_rng(1).integers(0, 255, (size[1], size[0], 3), dtype=np.uint8)
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, kind)
    return out.getvalue()


def png_of(width: int, height: int) -> bytes:
    """A PNG that declares a size and holds a few bytes."""

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(bytes(100))) + chunk(b"IEND", b"")


def dxf(*entities: str, blocks: str = "", header: str = "") -> bytes:
    text = f"0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n{header}0\nENDSEC\n"
    text += f"0\nSECTION\n2\nBLOCKS\n{blocks}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" + "".join(entities)
    return (text + "0\nENDSEC\n0\nEOF\n").encode()


def dxf_circle(radius: str, x: str = "0") -> str:
    return f"0\nCIRCLE\n8\n0\n10\n{x}\n20\n0\n40\n{radius}\n"


LAUGHS = (
    '<!DOCTYPE svg [<!ENTITY a "ha">'
    + "".join(f'<!ENTITY {chr(98 + i)} "{f"&{chr(97 + i)};" * 10}">' for i in range(12))
    + "]>"
)
USES = {i: f'<use href="#u{i}"/>' * 10 for i in range(1, 10)}
NESTED_USES = "".join(f'<g id="u{i}">{USES[i + 1]}</g>' for i in range(9)) + '<rect id="u9" width="1"/>'
BLOCK = "0\nBLOCK\n8\n0\n2\n{0}\n70\n0\n10\n0\n20\n0\n{1}0\nENDBLK\n8\n0\n"
INSERT = "0\nINSERT\n8\n0\n2\n{0}\n10\n0\n20\n0\n{1}"

#: name: bytes, what the file is called, and what comes of it: "read", or the kind of refusal.
CASES = {
    # XML
    "entities that grow": (svg("<text>&m;</text>", LAUGHS), "a.svg", TooMuch),
    "an entity from a file": (svg("<text>&x;</text>", '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>'), "a.svg", "read"),
    "a parameter entity from the net": (svg("", '<!DOCTYPE svg [<!ENTITY % x SYSTEM "http://127.0.0.1:9/x">%x;]>'), "a.svg", "read"),
    "a document type from the net": (svg("", '<!DOCTYPE svg SYSTEM "http://127.0.0.1:9/x.dtd">'), "a.svg", "read"),
    "a million elements": (svg("<g/>" * 1_000_000), "a.svg", TooMuch),
    "deep nesting": (svg("<g>" * 5000 + "</g>" * 5000), "a.svg", TooMuch),
    "a style sheet from the net": (svg('<style>@import "http://127.0.0.1:9/a.css";</style><rect width="1" height="1"/>'), "a.svg", "read"),
    "a packed bomb": (gzip.compress(svg("<g/>" + " " * 200_000_000)), "a.svgz", TooMuch),
    "packed nonsense": (b"\x1f\x8b" + bytes(100), "a.svgz", UnreadableFile),
    "UTF-16 cut in a character": (svg("<rect/>").decode().encode("utf-16")[:-1], "a.svg", UnreadableFile),
    "an unknown encoding": (b'<?xml version="1.0" encoding="x-none"?>' + svg(""), "a.svg", UnreadableFile),
    "NUL in the middle": (svg("<rect/>\0<rect/>"), "a.svg", UnreadableFile),
    "no SVG": (b"<html><body/></html>", "a.svg", UnreadableFile),
    # what SVG refers to
    "copies of copies": (svg(NESTED_USES), "a.svg", TooMuch),
    "a copy of itself": (svg('<g id="a"><use href="#a"/></g>'), "a.svg", "read"),
    "copies in a ring": (svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'), "a.svg", "read"),
    "a marker in its own marker": (svg('<marker id="m"><path d="M0 0H5" marker-start="url(#m)"/></marker><path d="M0 0H9" stroke="red" marker-start="url(#m)"/>'), "a.svg", "read"),
    "a clipping of itself": (svg('<clipPath id="c" clip-path="url(#c)"><rect width="9" height="9"/></clipPath><rect clip-path="url(#c)" width="5" height="5"/>'), "a.svg", "read"),
    "a clipping of a flat box": (svg('<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width="1" height="1"/></clipPath><g transform="scale(0 1)"><rect width="5" height="5" clip-path="url(#c)"/></g>'), "a.svg", "read"),
    "a clipping by what it clips": (svg('<clipPath id="c"><use href="#r"/></clipPath><rect id="r" clip-path="url(#c)" width="5" height="5"/>'), "a.svg", "read"),
    "gradients in a ring": (svg('<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/><rect fill="url(#a)" width="5" height="5"/>'), "a.svg", "read"),
    "a picture elsewhere": (svg('<image href="file:///etc/passwd" width="5" height="5"/>'), "a.svg", "read"),
    "a picture that is a bomb": (svg(f'<image href="data:image/png;base64,{base64.b64encode(png_of(60_000, 60_000)).decode()}"/>'), "a.svg", "read"),
    "a picture that is nonsense": (svg('<image href="data:image/png;base64,!!!!"/>'), "a.svg", "read"),
    "a drawing in the drawing": (svg('<image href="data:image/svg+xml,%3Csvg/%3E" width="5" height="5"/>'), "a.svg", "read"),
    "a script": (svg("<script>while(1){}</script>"), "a.svg", "read"),
    # numbers
    "not a number": (svg('<path d="MNaN 0L5 5"/><rect width="NaN" height="5"/>'), "a.svg", "read"),
    "numbers beyond measure": (svg('<path d="M1e308 1e308L-1e308-1e308"/><rect width="1e308" height="1e308"/>'), "a.svg", "read"),
    "scales beyond measure": (svg('<g transform="scale(1e200)"><g transform="scale(1e200)"><rect width="5" height="5"/></g></g>'), "a.svg", "read"),
    "scales of nothing": (svg('<g transform="scale(0)"><path d="M0 0C1 1 2 2 3 3" stroke="red"/></g>'), "a.svg", "read"),
    "a page of nothing": (f'{HEAD.replace("50mm", "0mm")}</svg>'.encode(), "a.svg", "read"),
    "a page beyond measure": (f'{HEAD.replace("50mm", "1e30mm")}</svg>'.encode(), "a.svg", UnreadableFile),
    "a number of a million digits": (svg(f'<path d="M0 0L{"9" * 1_000_000} 5"/>'), "a.svg", "read"),
    "a path of a million commands": (svg(f'<path d="M0 0{"l1 1" * 1_000_000}"/>'), "a.svg", None),
    "a selector of ten thousand parts": (svg(f'<style>{"g > " * 10_000}rect{{fill:red}}</style><rect width="5" height="5"/>'), "a.svg", TooMuch),
    "ten thousand rules": (svg(f'<style>{"".join(f".c{i} rect:hover{{fill:red}}" for i in range(10_000))}</style>{"<rect/>" * 100}'), "a.svg", "read"),
    # DXF
    "a block of itself": (dxf(INSERT.format("A", ""), blocks=BLOCK.format("A", INSERT.format("A", "") + dxf_circle("1"))), "a.dxf", "read"),
    "blocks of blocks of blocks": (dxf(INSERT.format("B0", ""), blocks="".join(BLOCK.format(f"B{i}", INSERT.format(f"B{i + 1}", "") * 12) for i in range(8)) + BLOCK.format("B8", dxf_circle("1"))), "a.dxf", TooMuch),
    "an array of a million": (dxf(INSERT.format("A", "70\n1000\n71\n1000\n44\n1\n45\n1\n"), blocks=BLOCK.format("A", dxf_circle("1"))), "a.dxf", TooMuch),
    "a block that is not there": (dxf(INSERT.format("GONE", "")), "a.dxf", "read"),
    "a circle of no radius": (dxf(dxf_circle("0"), dxf_circle("-5"), dxf_circle("nan")), "a.dxf", "read"),
    "a circle beyond measure": (dxf(dxf_circle("1e308")), "a.dxf", None),
    "a place beyond measure": (dxf(dxf_circle("1", "1e300")), "a.dxf", None),
    "words for numbers": (dxf("0\nLINE\n8\n0\n10\nfoo\n20\nbar\n11\n1\n21\n1\n"), "a.dxf", UnreadableFile),
    "half a tag": (dxf(dxf_circle("1"))[:-9], "a.dxf", None),
    "no sections": (b"0\nSECTION\n2\nENTITIES\n", "a.dxf", None),
    "a binary file of nothing": (b"AutoCAD Binary DXF\r\n\x1a\0" + bytes(50), "a.dxf", None),
    "a spline that does not fit": (dxf("0\nSPLINE\n8\n0\n71\n3\n72\n4\n73\n9\n40\n0\n40\n0\n10\n1\n20\n1\n"), "a.dxf", None),
    # machine files
    "HP-GL without end": (b"IN;PU0,0;PD" + b"9,9," * 300_000, "a.plt", "read"),
    "HP-GL beyond measure": (b"IN;PU0,0;PD1e308,1e308;SC1e-300,2e-300,0,1;PD5,5;PU;", "a.plt", None),
    "HP-GL of nothing": (b"IN;SP1;PU;", "a.plt", "read"),
    "encoded nonsense": (b"IN;PE" + bytes(range(60, 127)) + b";", "a.plt", "read"),
    "a scale of nothing": (b"IN;IP0,0,0,0;SC0,0,0,0;PU0,0;PD5,5;PU;", "a.plt", "read"),
    "a label without end": (b"IN;LB" + b"x" * 1_000_000, "a.plt", "read"),
    "a polygon that never ends": (b"IN;PM0;PD" + b"1,1," * 1000, "a.plt", "read"),
    "G-code beyond measure": (b"G0 X1e9\nG1 X" + b"9" * 400 + b"\nG2 X5 I" + b"9" * 300 + b"\n", "a.nc", None),
    "G-code of a line without end": (b"G1 X1" + b"Y1" * 1_000_000, "a.nc", "read"),
    "arcs of nothing": (b"G0 X0 Y0\nG2 X0 Y0 I0 J0\nG2 X0 Y0 R0\nG3 X1 R1e-300\n", "a.nc", "read"),
    "an arc of a huge circle": (b"G0 X0 Y0\nG2 X1 Y0 I0.5 J1e9\n", "a.nc", "read"),
    # pictures
    "a picture of a billion pixels": (png_of(40_000, 40_000), "a.png", TooMuch),
    "a picture of no pixels": (png_of(0, 5), "a.png", UnreadableFile),
    "a picture that holds less": (png_of(500, 500), "a.png", UnreadableFile),
    "a GIF of nothing": (b"GIF89a" + bytes(20), "a.gif", UnreadableFile),
    "a TIFF that points at itself": (b"II*\0\x08\0\0\0\x01\0" + struct.pack("<HHII", 330, 4, 1, 8) + struct.pack("<I", 8), "a.tif", UnreadableFile),
    "a BMP that claims too much": (b"BM" + struct.pack("<IHHIIiiHHIIiiII", 54, 0, 0, 54, 40, 2**30, 2**30, 1, 24, 0, 0, 0, 0, 0, 0), "a.bmp", TooMuch),
    "a WebP of nothing": (b"RIFF\x10\0\0\0WEBPVP8 " + bytes(20), "a.webp", UnreadableFile),
    # names and kinds
    "nothing": (b"", "a.svg", UnreadableFile),
    "blanks": (b" \n\t", "a.dxf", UnreadableFile),
    "noise": (np.random.default_rng(3).bytes(200_000), "a.svg", UnreadableFile),
    "noise without a name": (np.random.default_rng(4).bytes(200_000), "thing", UnknownFormat),
    "a picture called a drawing": (picture("PNG"), "a.svg", "read"),
    "a drawing called a picture": (svg('<rect width="5" height="5"/>'), "a.png", "read"),
    "a name with parts of a path": (svg('<rect width="5" height="5"/>'), "../../../etc/a.svg", "read"),
    "a name of control characters": (svg('<rect width="5" height="5"/>'), "a\n\x1b[31m.svg", "read"),
}  # fmt: skip


def ezdxf_file() -> bytes:
    drawing = ezdxf.new("R2010", units=4)
    drawing.modelspace().add_circle((5, 5), 3)
    drawing.modelspace().add_lwpolyline([(0, 0), (9, 0), (9, 9)], close=True)
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


WHOLE = {
    "svg": by_id("svg").write(DESIGN, WriteOptions()).data,
    "svgz": gzip.compress(by_id("svg").write(DESIGN, WriteOptions()).data),
    "dxf": ezdxf_file(),
    "plt": by_id("hpgl").write(DESIGN, WriteOptions()).data,
    "nc": by_id("gcode").write(DESIGN, WriteOptions()).data,
    "png": picture("PNG"),
    "jpg": picture("JPEG"),
    "tif": picture("TIFF"),
}


class Hostile(unittest.TestCase):
    def ends_well(self, data: bytes, name: str, outcome) -> None:
        """A document, or a sentence that names the file and breaks over no line."""
        try:
            formats.read(name, data)
        except HakobuError as error:
            self.assertNotIn("broke", error.sentence)
            self.assertGreater(len(error.sentence), 20)
            self.assertNotIn("Traceback", error.sentence)
            self.assertNotEqual(outcome, "read", error.sentence)
            if outcome is not None:
                self.assertIsInstance(error, outcome, error.sentence)
        else:
            self.assertIn(outcome, ("read", None))

    def test_cases(self):
        self.assertGreaterEqual(len(CASES), 70)
        for name, (data, called, outcome) in CASES.items():
            with self.subTest(name):
                self.ends_well(data, called, outcome)

    def test_files_cut_at_every_tenth(self):
        for suffix, data in WHOLE.items():
            for tenth in range(1, 10):
                with self.subTest(suffix, tenth=tenth):
                    self.ends_well(data[: len(data) * tenth // 10], f"a.{suffix}", None)

    def test_files_with_bytes_changed(self):
        random = np.random.default_rng(8)
        for suffix, data in WHOLE.items():
            for turn in range(3):
                changed = bytearray(data)
                for at in random.integers(len(data) // 20, len(data), 20):
                    changed[at] = int(random.integers(0, 256))
                with self.subTest(suffix, turn=turn):
                    self.ends_well(bytes(changed), f"a.{suffix}", None)
