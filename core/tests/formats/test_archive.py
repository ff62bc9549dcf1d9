"""Archives in: PKWARE's APPNOTE is the format; every file is unpacked within the budget, none by its path."""

import io
import unittest
import zipfile

from hakobu import formats
from hakobu.errors import TooMuch, UnknownFormat, UnreadableFile
from hakobu.formats.archive import place_of, unpack
from hakobu.formats.budget import Budget
from hakobu.formats.limited import unpack as unpack_limited


def zipped(files: dict[str, bytes], kind: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", kind) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


SHOP = {
    "Heron/SVG/heron.svg": b"<svg xmlns='http://www.w3.org/2000/svg'/>",
    "Heron/DXF/heron.dxf": b"0\nEOF\n",
    "Heron/licence.txt": b"yours",
    "__MACOSX/Heron/._heron.svg": b"xx",
    "Heron/.DS_Store": b"xx",
    "Heron/Thumbs.db": b"xx",
}


class Unpacking(unittest.TestCase):
    def test_all_files_by_folder_without_what_systems_add(self):
        for kind in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA):
            entries, notes = unpack(zipped(SHOP, kind), Budget())
            self.assertEqual(
                [(e.folder, e.name) for e in entries],
                [("Heron", "licence.txt"), ("Heron/DXF", "heron.dxf"), ("Heron/SVG", "heron.svg")],
            )
            self.assertEqual((entries[2].data, notes), (SHOP["Heron/SVG/heron.svg"], []))

    def test_in_the_child_it_is_the_same(self):
        data = zipped(SHOP)
        self.assertEqual(unpack_limited("shop.zip", data), unpack(data, Budget()))

    def test_paths_are_only_read_by_people(self):
        for path, place in (
            ("../../etc/passwd", ("etc", "passwd")),
            ("/etc/passwd", ("etc", "passwd")),
            ("C:\\Users\\x\\a.svg", ("Users/x", "a.svg")),
            ("a/./b/../c.svg", ("a/b", "c.svg")),
            ("a\n\x1b[31m.svg", ("", "a[31m.svg")),
            ("..", ("", "file")),
            ("x" * 500, ("", "x" * 120)),
        ):
            self.assertEqual(place_of(path), place)
        entries, _ = unpack(zipped({"../../a.svg": b"1"}), Budget())
        self.assertEqual((entries[0].folder, entries[0].name), ("", "a.svg"))

    def test_what_is_too_much(self):
        bomb = zipped({"a.svg": bytes(3_000_000)})
        self.assertLess(len(bomb), 10_000)
        with self.assertRaisesRegex(TooMuch, "unpacks to more than 2 MB"):
            unpack(bomb, Budget(file_bytes=2 * 2**20))
        # Each is small, all are not.
        with self.assertRaises(TooMuch):
            unpack(zipped({f"{i}.svg": bytes(900_000) for i in range(3)}), Budget(file_bytes=2 * 2**20))
        with self.assertRaisesRegex(TooMuch, "11 files"):
            unpack(zipped({f"{i}.svg": b"" for i in range(11)}), Budget(entries=10))

    def test_a_size_that_is_a_lie_is_not_believed(self):
        data = bytearray(zipped({"a.svg": bytes(3_000_000)}))
        at = data.index(b"PK\x01\x02") + 24
        data[at : at + 4] = (100).to_bytes(4, "little")
        entries, _ = unpack(bytes(data), Budget(file_bytes=2 * 2**20))
        self.assertLessEqual(sum(len(e.data) for e in entries), 100)

    def test_what_cannot_be_unpacked_is_said_and_the_rest_is_there(self):
        data = bytearray(zipped({"a.svg": b"1" * 50, "b.svg": b"2" * 50}))
        for signature, flags in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
            data[data.index(signature) + flags] |= 1
        entries, notes = unpack(bytes(data), Budget())
        self.assertEqual([e.name for e in entries], ["b.svg"])
        self.assertIn("locked with a password", notes[0])
        damaged = bytearray(zipped({"a.svg": b"1" * 50, "b.svg": b"2" * 50}, zipfile.ZIP_STORED))
        damaged[damaged.index(b"1" * 50)] = ord("7")
        entries, notes = unpack(bytes(damaged), Budget())
        self.assertEqual(([e.name for e in entries], notes), (["b.svg"], ["a.svg is damaged."]))

    def test_cut_at_every_tenth_it_ends_in_a_sentence(self):
        data = zipped(SHOP)
        for tenth in range(1, 10):
            with self.assertRaisesRegex(UnreadableFile, "fetch it again"):
                unpack(data[: len(data) * tenth // 10], Budget())

    def test_an_archive_is_no_design(self):
        with self.assertRaisesRegex(UnknownFormat, "shop.svg is an archive"):
            formats.recognise("shop.svg", zipped(SHOP))
