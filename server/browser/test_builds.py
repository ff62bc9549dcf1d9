"""Journeys that build: opened, filled, interlocked, made symmetric, hung, as people do it; and what is read back."""

import re
import time

import numpy as np
import shapely
from playwright.sync_api import expect

from hakobu.geometry import Path, bounds, signed_areas
from hakobu.geometry.narrow import thin_places
from hakobu.model import Document, Treatment
from jobs.models import Job

from .test_journeys import outlines_of
from .test_words import Lettering


def region(paths) -> shapely.Geometry:
    """The area of paths by turns of their outlines, as shapely has it."""
    made = shapely.Polygon()
    for outline in outlines_of(paths):
        made = made.symmetric_difference(shapely.Polygon(outline))
    return made


class Built(Lettering):
    def build_of(self, phrase: str) -> None:
        """An offer of Build, where one is already."""
        self.page.locator(".offer", has=self.page.get_by_text(phrase, exact=True)).click()
        self.did()
        expect(self.page.locator(".sentence")).to_be_visible()

    def type_in(self, label: str, value: str) -> None:
        """Typed; the Enter that follows keeps it with the step."""
        self.page.get_by_label(label, exact=True).fill(value)

    def to_build(self) -> None:
        self.go("Build")
        self.did()

    def screen(self, x: float, y: float) -> tuple[float, float]:
        """Where a place of the work is in the window, once the work stands still."""
        at = "([x, y]) => { const m = document.querySelector('.work svg g').getScreenCTM(); "
        at += "return [m.a * x + m.e, m.d * y + m.f] }"
        found = [self.page.evaluate(at, [x, y])]

        def stands() -> bool:
            time.sleep(0.06)
            found.append(self.page.evaluate(at, [x, y]))
            return found[-1] == found[-2]

        self.until(stands)
        return tuple(found[-1])

    def pick_at(self, x: float, y: float) -> None:
        """A click on the work at a place, in mm."""
        self.page.mouse.click(*self.screen(x, y))
        self.did()

    def of(self, document: Document, word: str) -> list[Path]:
        """The paths of the layers whose names hold a word."""
        layers = {layer.id for layer in document.layers if word in layer.name}
        return [piece.path for piece in document.pieces if piece.layer in layers]


class ByHand(Built):
    def hands(self):
        return self.page.locator("canvas.hands")

    def drag(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        """From one place to another, in mm; nothing snaps."""
        mouse = self.page.mouse
        mouse.move(*self.screen(*start))
        mouse.down()
        self.page.keyboard.down("Alt")
        mouse.move(*self.screen(*((a + b) / 2 for a, b in zip(start, end, strict=True))), steps=3)
        mouse.move(*self.screen(*end), steps=3)
        mouse.up()
        self.page.keyboard.up("Alt")

    def test_nodes_are_dragged_moved_by_keys_added_and_gone_back_on(self):
        self.start("capital-h.svg")
        self.to_build()
        self.build_of("move nodes by hand")
        expect(self.hands()).to_have_attribute("data-nodes", "54")
        self.drag((15, 20), (10, 16))
        expect(self.page.locator(".said")).to_contain_text("1 change")
        expect(self.hands()).to_have_attribute("data-picked", "1")
        self.page.keyboard.press("ArrowUp")
        self.page.mouse.dblclick(*self.screen(36, 18.6))
        expect(self.hands()).to_have_attribute("data-nodes", "55")
        self.page.keyboard.press("Control+z")
        expect(self.hands()).to_have_attribute("data-nodes", "54")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("moved by hand")
        left, top, _, _ = bounds(self.document().pieces[0].path)
        self.assertAlmostEqual(left, 10.0, delta=0.3)
        self.assertAlmostEqual(top, 15.5, delta=0.3)
        self.assertEqual(self.job_steps()[-1].parameters["edits"]["edits"][0]["nodes"], [0])
        # Gestures that follow are the same step.
        self.build_of("move nodes by hand")
        expect(self.hands()).to_have_attribute("data-nodes", "54")
        self.drag((125, 20), (130, 20))
        expect(self.page.locator(".said")).to_contain_text("2 changes")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("2 changes")
        self.assertEqual([step.operation for step in self.job_steps()], ["bring-in", "nodes"])

    def job_steps(self):
        return [row.step for row in Job.objects.latest("changed").head.steps.all()]

    def test_several_nodes_are_picked_by_a_band_and_taken_away(self):
        self.start("capital-h.svg")
        self.to_build()
        self.build_of("move nodes by hand")
        expect(self.hands()).to_have_attribute("data-nodes", "54")
        self.page.keyboard.down("Shift")
        self.page.mouse.move(*self.screen(23, 34))
        self.page.mouse.down()
        self.page.mouse.move(*self.screen(40, 64), steps=4)
        self.page.mouse.up()
        self.page.keyboard.up("Shift")
        expect(self.hands()).to_have_attribute("data-picked", "6")
        self.page.get_by_role("button", name="Take away").click()
        expect(self.hands()).to_have_attribute("data-nodes", "48")

    def test_a_line_is_drawn_on_the_work_and_cuts(self):
        self.start("capital-h.svg")
        self.to_build()
        self.build_of("cut along a line that you draw")
        expect(self.page.locator(".said")).to_contain_text("set the places")
        for place in ((5, 60), (70, 73), (135, 60)):
            self.page.mouse.click(*self.screen(*place))
        expect(self.page.locator(".said")).to_contain_text("One piece cut along a line: 2 pieces")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("cut along a line")
        self.assertEqual(len(self.document().pieces), 2)

    def test_spots_are_pressed_on_the_work(self):
        self.start("capital-h.svg")
        self.to_build()
        self.build_of("round the corners")
        spots = self.page.get_by_role("checkbox", name="left as they are")
        expect(spots.first).to_be_visible()
        before = self.page.locator(".said b").inner_text()
        spots.first.click()
        expect(self.page.locator(".said b")).not_to_have_text(before)
        expect(spots.first).to_have_attribute("aria-checked", "true")


class Journeys(Built):
    def test_journey_01(self):
        """A capital is opened by 18 mm with a word in the gap; halves and holes stay whole."""
        self.start("capital-h.svg")
        before = self.document().pieces[0].path
        self.to_build()
        self.build_of("open along a line")
        self.type_in("gap", "18 mm")
        self.keep_step("Opened by 18 mm")
        self.build_of("set words in the gap")
        self.words("KETTLE")
        self.keep_step('"KETTLE" set in')
        made = self.written("svg", within=7)
        upper, lower = sorted(self.of(made, "Crate"), key=lambda path: bounds(path)[1])
        self.assertEqual([int((signed_areas(half) < 0).sum()) for half in (upper, lower)], [4, 4])
        self.assertAlmostEqual(bounds(lower)[1] - bounds(upper)[3], 18.0, delta=0.01)
        word = bounds(Path.concatenate(self.of(made, "KETTLE")))
        self.assertAlmostEqual(word[1] - bounds(upper)[3], 2.0, delta=0.02)
        self.assertAlmostEqual(bounds(lower)[1] - word[3], 2.0, delta=0.02)
        self.assertLessEqual(word[2] - word[0], 100.0)
        # Strictly across the line: what lies above it keeps its place along it.
        ends = np.sort(before.ctrl[before.ctrl[:, 0, 1] < 70, 0, 0])
        there = np.sort(upper.ctrl[upper.ctrl[:, 0, 1] < 60.9, 0, 0])
        np.testing.assert_allclose(there, ends, atol=1e-3)

    def test_journey_12(self):
        """Two initials with a rim each, interlocked with an even gap where they cross."""
        self.begin_job("Initials of the maker")
        self.build_of("set initials that cross")
        self.words("HK")
        self.keep_step('"HK" set in')
        self.build_of("interlock them")
        expect(self.page.locator(".said")).to_contain_text("crossings")
        self.keep_step("Interlocked with a gap of 0.4 mm")
        made = self.written("svg", within=5)
        feet = {round(bounds(path)[3], 2) for path in self.of(made, "HK") if len(path)}
        letters = [piece for piece in made.pieces if piece.name in ("H", "K")]
        self.assertEqual(len(letters), 2, feet)
        self.assertAlmostEqual(*(bounds(piece.path)[3] for piece in letters), delta=0.01)
        rims = [piece for piece in made.pieces if piece not in letters]
        h, k = (region([letter.path, rim.path]) for letter, rim in zip(letters, rims, strict=True))
        self.assertAlmostEqual(h.distance(k), 0.4, delta=0.01)

    def test_journey_16(self):
        """A moth is symmetric from its better half, its pinholes gone; a ladder is let in with clearance all round."""
        self.start("moth-scan.jpg+ladder.svg")
        self.to_trace()
        self.keep()
        self.to_build()
        self.pick_at(30, 18)
        self.build_of("make it symmetric from one half")
        self.type_in("bits below", "1 mm2")
        self.keep_step("Mirrored from one half")
        self.pick_at(139.5, 60)
        self.build_of("let it into what it lies on")
        self.type_in("clearance", "0.8 mm")
        self.keep_step("let in")
        made = self.written("svg", within=9)
        ladder = region([p.path for p in made.pieces if p.name == "ladder"])
        moth = region([p.path for p in made.pieces if p.name != "ladder" and made.treatment_of(p) is Treatment.CUT])
        self.assertAlmostEqual(moth.distance(ladder), 0.8, delta=0.01)
        self.assertEqual(len({p.layer for p in made.pieces if made.treatment_of(p) is Treatment.CUT}), 2)
        parts = list(moth.geoms) if hasattr(moth, "geoms") else [moth]
        self.assertGreater(min(part.area for part in parts), 9.0, "no slivers: felt bears 9 mm2")

    def test_journey_19(self):
        """A name hangs from the upper bar of a frame in one piece, its dots joined, its thin places widened."""
        self.start("name-frame.svg")
        self.to_build()
        self.build_of("set words")
        self.words("Kittiwake")
        self.keep_step('"Kittiwake" set in')
        self.build_of("hang the others from the largest")
        self.keep_step("welded to a bar")
        self.go("Check and mend")
        self.did()
        panel = self.page.get_by_role("region", name="Check and mend")
        panel.get_by_role("button", name=re.compile("A strip that tears")).click()
        self.did()
        panel.get_by_role("button", name=re.compile("Take (all|this mend)")).first.click()
        self.did()
        expect(panel.get_by_role("button", name=re.compile("A strip that tears"))).to_have_count(0)
        expect(panel).to_contain_text("one piece")
        made = self.written("svg", within=10)
        (piece,) = made.pieces
        whole = region([piece.path])
        self.assertEqual(whole.geom_type, "Polygon")
        left, top, right, bottom = bounds(piece.path)
        self.assertAlmostEqual(right - left, 177.8, delta=0.01)
        self.assertAlmostEqual(bottom - top, 127.0, delta=0.01)
        self.assertEqual(len(thin_places(piece.path, below_mm=2.99)), 0, "felt bears 3 mm")

    def test_journey_02(self):
        """A heron is filled with reeds that hang on its rim: 180 mm high, in one piece, its wing scored."""
        self.start("heron-silhouette.svg+reed-pattern.png")
        self.type_in("Height", "180 mm")
        self.page.keyboard.press("Enter")
        self.did()
        expect(self.page.get_by_role("navigation")).to_contain_text("180 mm")
        outline = next(p.path for p in self.document().pieces if p.name == "heron")
        self.to_trace()
        self.keep()
        self.to_build()
        left, top, _, _ = bounds(outline)
        self.pick_at(left + 60, top + 90)
        self.build_of("fill it with other pieces")
        expect(self.page.locator(".said")).to_contain_text("in one piece")
        self.keep_step("Filled with other pieces")
        self.build_of("take needless nodes away")
        self.keep_step("Simplified")
        self.go("Check and mend")
        self.did()
        expect(self.page.get_by_role("region", name="Check and mend")).to_contain_text("It stays in one piece")
        made = self.written("svg", within=10)
        self.assertEqual(
            sorted(layer.treatment.value for layer in made.layers if self.of(made, layer.name)), ["cut", "score"]
        )
        bird = region(self.of(made, "Bird"))
        self.assertEqual(bird.geom_type, "Polygon", "one piece")
        self.assertGreater(len(bird.interiors), 20)
        box = bird.bounds
        self.assertAlmostEqual(box[3] - box[1], 180.0, delta=0.15)
        # The rim is 4 mm wide: nothing of the silhouette is open nearer to its edge.
        whole = shapely.Polygon(bird.exterior)
        self.assertGreater(min(whole.exterior.distance(shapely.Polygon(hole)) for hole in bird.interiors), 3.85)
