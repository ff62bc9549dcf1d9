"""Empty, truncated, wrongly named, huge or hostile files: one sentence each, within the reader's budget."""

import gzip
import unittest

from hakobu import formats
from hakobu.errors import HakobuError, TooMuch, UnknownFormat, UnreadableFile
from hakobu.formats import ReadOptions
from hakobu.formats.budget import Budget

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm">'


def bomb() -> bytes:
    """Ten thousand million letters out of ten entities."""
    names = "abcdefghij"
    entities = f'<!ENTITY a "{"ha" * 50}">'
    entities += "".join(f'<!ENTITY {y} "{f"&{x};" * 10}">' for x, y in zip(names, names[1:], strict=False))
    return f"<!DOCTYPE svg [{entities}]>{HEAD}<title>&j;</title></svg>".encode()


def endless_use() -> bytes:
    """Each level repeats the one below ten times; six levels are a million rectangles."""
    groups = '<g id="l0"><rect width="1" height="1"/></g>'
    for i in range(1, 8):
        groups += f'<g id="l{i}">' + f'<use href="#l{i - 1}"/>' * 10 + "</g>"
    return f'{HEAD}<defs>{groups}</defs><use href="#l7"/></svg>'.encode()


class Refused(unittest.TestCase):
    def refused(self, name: str, data: bytes, kind: type, words: str, options=None) -> None:
        with self.assertRaises(HakobuError) as caught:
            formats.read(name, data, options)
        self.assertIsInstance(caught.exception, kind, caught.exception.sentence)
        self.assertIn(words, caught.exception.sentence)
        self.assertNotIn("Traceback", caught.exception.sentence)
        self.assertNotIn("\n", caught.exception.sentence)

    def test_nothing_in_it(self):
        for data in (b"", b"  \n\t "):
            self.refused("a.svg", data, UnreadableFile, "a.svg is empty")

    def test_ends_in_the_middle(self):
        whole = f'{HEAD}<g><rect width="5" height="5"/></g></svg>'.encode()
        for cut in (len(whole) - 1, len(whole) - 8, len(whole) - 20, len(HEAD) + 2):
            self.refused("a.svg", whole[:cut], UnreadableFile, "ends in the middle")

    def test_not_what_its_name_says(self):
        self.refused("a.svg", b"hello there", UnreadableFile, "called SVG, but")
        self.refused("a.hpgl", b"hello there", UnreadableFile, "called HP-GL, but")
        self.refused("a.doc", b"hello there", UnknownFormat, "SVG, DXF, HP-GL")
        self.refused("a.svg", b"\x1f\x8bnonsense", UnreadableFile, "damaged")
        self.refused("a.svg", b"<?xml version='1.0'?><html><svg/></html>", UnreadableFile, "no SVG")

    def test_a_wrong_name_does_not_hide_a_readable_file(self):
        made = formats.read("a.hpgl", f'{HEAD}<rect width="5" height="5"/></svg>'.encode())
        self.assertEqual(len(made.document.pieces), 1)

    def test_broken_inside(self):
        self.refused("a.svg", f"{HEAD}<g></svg>".encode(), UnreadableFile, "damaged at line 1")
        self.refused("a.svg", b'<svg width="1e30" height="5"/>', UnreadableFile, "cannot be meant")

    def test_entities_that_grow(self):
        self.refused("a.svg", bomb(), TooMuch, "entities")

    def test_references_that_repeat_without_end(self):
        self.refused("a.svg", endless_use(), TooMuch, "repeats its parts")

    def test_a_million_elements(self):
        data = f"{HEAD}{'<g/>' * 1_000_000}</svg>".encode()
        self.refused("a.svg", data, TooMuch, "100,000 elements")

    def test_nested_without_end(self):
        self.refused("a.svg", f"{HEAD}{'<g>' * 5000}{'</g>' * 5000}</svg>".encode(), TooMuch, "nested")

    def test_larger_than_is_read_packed_or_not(self):
        small = ReadOptions(budget=Budget(file_bytes=1000))
        self.refused("a.svg", HEAD.encode() + b" " * 2000, TooMuch, "larger than", small)
        self.refused("a.svg", gzip.compress(HEAD.encode() + b" " * 5000), TooMuch, "larger than", small)

    def test_external_things_are_named_and_never_fetched(self):
        data = f'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>{HEAD}<rect width="5" height="5"/><title>&x;</title></svg>'
        made = formats.read("a.svg", data.encode())
        self.assertEqual([f.rule for f in made.findings], ["external-reference"])
        self.assertIn("/etc/passwd", made.findings[0].message)
        self.assertNotIn("root:", str(made.document.pieces))


class Limits(unittest.TestCase):
    """The child process ends where its budget does, and the next file is read as ever."""

    DATA = (HEAD + '<path d="M0 0' + "L1 2" * 60000 + '"/></svg>').encode()

    def test_time(self):
        """Work decides; the clock only where the machine does nothing for long, which is not the file's fault."""
        with self.assertRaisesRegex(TooMuch, "too busy to read a.svg"):
            formats.read("a.svg", self.DATA, ReadOptions(budget=Budget(wall_seconds=0.01)))
        slow = (HEAD + "".join(f'<path d="M{n} 0L1 2"/>' for n in range(60000)) + "</svg>").encode()
        with self.assertRaisesRegex(TooMuch, "within 1 seconds of work"):
            formats.read("a.svg", slow, ReadOptions(budget=Budget(cpu_seconds=1)))
        self.assertEqual(len(formats.read("a.svg", self.DATA).document.pieces), 1)

    def test_memory(self):
        with self.assertRaisesRegex(TooMuch, "more memory"):
            formats.read("a.svg", self.DATA, ReadOptions(budget=Budget(memory_bytes=64 * 2**20)))

    def test_curves(self):
        with self.assertRaisesRegex(TooMuch, "more than 5,000 curves"):
            formats.read("a.svg", self.DATA, ReadOptions(budget=Budget(segments=5000)))
