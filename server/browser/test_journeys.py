"""Journeys: whole pieces of work with the demo's files, from Intake on, within so many actions, to the written file.

An action is a click, a drag, a key chord, or a value typed and confirmed; going to another station is one. Writing the
file is not counted.
"""

import re
from pathlib import Path as File

import shapely
from playwright.sync_api import expect

from hakobu import formats
from hakobu.geometry import Path, bounds, flatten, length, signed_areas
from hakobu.model import Document, Treatment
from jobs import history
from jobs.management.commands.load_demo import JOBS
from jobs.models import Job
from jobs.store import load_document

from .test_ways import Ways


def outlines_of(paths) -> list:
    """The outlines of paths that have an inside, as chords; open ones are painted closed."""
    chords = flatten(Path.concatenate(paths), 0.001)
    return [chords.outline(k) for k in range(len(chords)) if len(chords.outline(k)) > 3]


class JourneyCase(Ways):
    """How journeys are begun, counted and ended."""

    def start(self, file: str) -> None:
        """The demo's job of a file, open at Intake."""
        _, name, settings = next(entry for entry in JOBS if entry[0] == file)
        job = history.create_job(name)
        begun = history.add_revision(job, job.head_id, [], settings)
        for each in file.split("+"):
            begun = history.bring_in(job, begun.pk, each, self.file(each))
        self.page.goto(f"{self.live_server_url}/jobs/{job.pk}/intake")
        expect(self.page.get_by_role("region", name="Intake", exact=True)).to_be_visible()
        expect(self.page.locator(".work")).to_be_visible()
        self.actions = 0

    def to_trace(self) -> None:
        self.go("Trace")
        self.did()
        self.traced()

    def written(self, format_id: str, within: int) -> Document:
        """The file that is written at Handover, read back, once the work took no more than so many actions."""
        self.assertLessEqual(self.actions, within)
        self.go("Handover")
        kind = formats.by_id(format_id)
        self.page.locator("label", has_text=kind.suffixes[0]).first.click()
        with self.page.expect_download() as coming:
            self.page.get_by_role("link", name=f"Write {kind.name}").click()
        file = File(coming.value.path())
        return formats.read(f"written{kind.suffixes[0]}", file.read_bytes()).document

    def build(self, phrase: str) -> None:
        self.go("Build")
        self.did()
        self.page.get_by_role("button", name=re.compile(f"^{phrase}")).click()
        self.did()
        expect(self.page.locator(".sentence")).to_be_visible()

    def keep_step(self, done: str) -> None:
        self.page.keyboard.press("Enter")
        self.did()
        expect(self.page.get_by_role("navigation")).to_contain_text(done)


class Journeys(JourneyCase):
    def test_journey_04(self):
        """A sticker gets a line round its outside only, and keeps its print."""
        self.start("programme-sticker.png")
        self.to_trace()
        expect(self.page.locator(".judged")).to_contain_text("Art on a transparent ground")
        self.keep()
        made = self.written("svg", within=2)
        self.assertEqual([len(p.path) for p in made.pieces], [1])
        self.assertEqual({layer.treatment.value for layer in made.layers}, {"print", "cut"})
        (picture,) = made.pictures
        left, _, right, bottom = made.box
        across, down = picture.size_px
        self.assertTrue(left >= 0 and right <= across * picture.matrix[0] and bottom <= down * picture.matrix[3])

    def test_journey_05(self):
        """A limb comes true to the square beside it, and mirrored."""
        self.start("puppet-limb.jpg")
        self.to_trace()
        self.type("its side", "60 mm")
        expect(self.page.locator(".reference")).to_contain_text("True to 0.0")
        self.shows("1 piece")
        self.page.get_by_label("Mirrored: the thing lay face down").check()
        self.did()
        self.keep()
        made = self.written("svg", within=5)
        (piece,) = made.pieces
        left, top, right, bottom = made.box
        self.assertAlmostEqual(right - left, 45.258, delta=0.09)
        self.assertAlmostEqual(bottom - top, 101.199, delta=0.2)
        self.assertEqual(int((signed_areas(piece.path) < 0).sum() + (signed_areas(piece.path) > 0).sum()), 3)
        self.assertTrue(left >= 0 and top >= 0 and right <= made.page.width_mm and bottom <= made.page.height_mm)
        self.assertLess(made.page.width_mm, 70, "the page is the limb's, not the photo's")

    def test_journey_06(self):
        """A title gets a backing 3 mm out without a hollow, on a layer of its own."""
        self.start("van-title.svg")
        before = load_document(Job.objects.latest("changed").head.document_id)
        self.build("lay a backing behind")
        self.keep_step("Backing laid 3 mm out")
        made = self.written("svg", within=3)
        layer = next(layer for layer in made.layers if layer.name.endswith(", backing"))
        backing = Path.concatenate(p.path for p in made.pieces if p.layer == layer.id)
        self.assertEqual(int((signed_areas(backing) < 0).sum()), 0, "every hollow is filled")
        within = shapely.union_all([shapely.Polygon(c) for c in outlines_of(p.path for p in before.pieces_in_use())])
        around = shapely.union_all([shapely.Polygon(c) for c in outlines_of([backing])])
        # Hausdorff by shapely: the farthest of the backing's edge from what it lies behind.
        edge = shapely.segmentize(around.boundary, 0.2)
        away = [within.distance(shapely.Point(p)) for p in shapely.get_coordinates(edge)]
        self.assertAlmostEqual(max(away), 3.0, delta=0.01)

    def test_journey_18(self):
        """A window of two loose rectangles and a branch is welded, its opening becomes a hole, and it holds as one."""
        self.start("window-branch.svg")
        self.build("make them one")
        self.keep_step("3 pieces made one")
        self.go("Check and mend")
        self.did()
        expect(self.page.get_by_role("region", name="Check and mend")).to_contain_text("It stays in one piece")
        made = self.written("svg", within=4)
        self.assertEqual([len(piece.path) for piece in made.pieces], [3])

    def test_journey_21_backing(self):
        """The title's backing 1.5 mm out: typed and kept in one."""
        self.start("van-title.svg")
        self.build("lay a backing behind")
        self.page.get_by_role("spinbutton", name="distance").fill("1.5 mm")
        self.keep_step("Backing laid 1.5 mm out")
        made = self.written("svg", within=3)
        layer = next(layer for layer in made.layers if layer.name.endswith(", backing"))
        whole = Path.concatenate(p.path for p in made.pieces_in_use() if p.layer == layer.id)
        letters = Path.concatenate(p.path for p in made.pieces_in_use() if p.layer != layer.id)
        self.assertAlmostEqual(bounds(letters)[1] - bounds(whole)[1], 1.5, delta=0.01)

    def test_journey_07(self):
        """A word loses its ground, its counters' and its shadow, and is one layer of its size in copper."""
        self.start("word-kettle.png")
        self.to_trace()
        self.page.get_by_label("Leave Colour 2 out").click()
        self.did()
        self.settled()
        self.type("What is found is wide", "180 mm")
        self.keep()
        made = self.written("svg", within=4)
        left, _, right, _ = made.box
        self.assertAlmostEqual(right - left, 180.0, places=2)
        self.assertEqual([layer.color for layer in made.layers], ["#b4673e"])
        self.assertEqual([len(p.path) for p in made.pieces], [1] * 6, "letters of KETTLE without a counter")
        self.assertLess(made.page.width_mm, 220)

    def test_journey_08(self):
        """The ink is one piece, each field another that goes on under it; what is too thin for the card is told."""
        self.start("kettle.png")
        self.to_trace()
        self.shows("8 pieces")
        plain = self.page.locator(".found").get_attribute("d")
        self.type("Overlap under neighbouring colours", "0.5 mm")
        expect(self.page.locator(".found")).not_to_have_attribute("d", plain)
        self.keep()
        made = self.written("svg", within=4)
        self.assertEqual(len({p.layer for p in made.pieces}), 7)
        self.assertEqual(len({layer.color for layer in made.layers}), 7)

    def test_journey_10(self):
        """A lattice becomes single cut lines, each once."""
        self.start("window-lattice.png")
        self.to_trace()
        self.keep()
        made = self.written("svg", within=2)
        self.assertEqual({made.treatment_of(piece) for piece in made.pieces}, {Treatment.CUT})
        self.assertAlmostEqual(length(Path.concatenate(p.path for p in made.pieces)), 1116.0, delta=5.0)

    def test_journey_13(self):
        """Every hole is right, and one piece goes to another colour."""
        self.start("first-night.png")
        self.to_trace()
        self.shows("10 pieces")
        work, box = self.page.locator(".work"), self.page.locator(".pictures image").first.bounding_box()
        own = work.bounding_box()
        # The moon, at the upper right.
        at = {"x": box["x"] + 0.89 * box["width"] - own["x"], "y": box["y"] + 0.417 * box["height"] - own["y"]}
        self.page.get_by_label("Give pieces to #1f3c88").drag_to(work, target_position=at)
        self.did()
        expect(self.page.locator(".fill")).to_have_count(2)
        self.keep()
        made = self.written("svg", within=3)
        self.assertEqual(sum(len(p.path) for p in made.pieces), 10 + 6)
        moved = [p for p in made.pieces if made.layer_by_id[p.layer].color == "#1f3c88"]
        self.assertEqual(len(moved), 1)
        self.assertGreater(bounds(moved[0].path)[0], 60)

    def test_journey_17(self):
        """The middle of a drawing's lines, smoothed, and wide, for a pen."""
        self.start("cast-drawing.jpg")
        self.to_trace()
        self.type("Smoothness, typed", "0.2 mm")
        self.type("What is found is wide", "250 mm")
        self.keep()
        made = self.written("svg", within=5)
        left, _, right, _ = made.box
        self.assertAlmostEqual(right - left, 250.0, places=2)
        self.assertEqual({made.treatment_of(piece) for piece in made.pieces}, {Treatment.DRAW})
        self.assertGreaterEqual(made.page.width_mm, 250)
