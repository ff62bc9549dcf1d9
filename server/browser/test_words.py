"""Words at Build: typed live, in faces shown by the words themselves, typed anew after later steps."""

import re
from pathlib import Path as File

import numpy as np
from playwright.sync_api import expect

from hakobu import formats
from hakobu.geometry import Path, bounds, signed_areas, transform
from hakobu.geometry.boolean import intersection
from hakobu.model import Treatment
from hakobu.sheets.placed import as_cut, finished
from jobs import history
from jobs.management.commands.load_demo import WORDS
from jobs.models import Job
from jobs.store import load_document

from .test_journeys import JourneyCase


class Lettering(JourneyCase):
    def begin_job(self, name: str = "Word", **settings) -> None:
        """An empty job, open at Build: one of the demo's that begin with words, or another."""
        settings = dict(WORDS).get(name, settings)
        job = history.create_job(name)
        history.add_revision(job, job.head_id, [], settings)
        self.page.goto(f"{self.live_server_url}/jobs/{job.pk}/build")
        expect(self.page.get_by_role("region", name="Build")).to_be_visible()
        self.actions = 0

    def offer(self, phrase: str) -> None:
        self.page.locator(".offer", has=self.page.get_by_text(phrase, exact=True)).click()
        self.did()
        expect(self.page.locator(".sentence")).to_be_visible()

    def words(self, text: str) -> None:
        """Words typed, and kept by Enter."""
        self.page.get_by_label("words", exact=True).fill(text)

    def choose(self, label: str, value: str) -> None:
        self.page.get_by_label(label, exact=True).select_option(value)
        self.did()

    def to_sheets(self, said: str) -> None:
        """The sheets that are proposed, taken as they stand."""
        self.page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        self.did()
        expect(self.page.get_by_role("list", name="Sheets")).to_contain_text(said)
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("Laid on")
        expect(self.page.get_by_role("link", name="Placing page")).to_be_visible()

    def sheet_file(self, nth: int):
        """The SVG file of a sheet, read back, which the station says to be proven."""
        self.page.get_by_role("list", name="Sheets").locator("button[aria-pressed]").nth(nth - 1).click()
        self.page.get_by_label("Format", exact=True).select_option("svg")
        link = self.page.get_by_role("link", name="Write SVG")
        expect(link).to_have_attribute("href", re.compile(rf"/sheets/{nth}/files/svg$"))
        expect(self.page.locator(".files")).to_contain_text("The file lies on the sheet.")
        with self.page.expect_download() as coming:
            link.click()
        return formats.read("sheet.svg", File(coming.value.path()).read_bytes()).document

    def document(self):
        return load_document(Job.objects.latest("changed").head.document_id)


class Words(Lettering):
    def test_what_is_typed_shows_at_every_letter_and_the_job_takes_its_name(self):
        page = self.page
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Begin with words").click()
        expect(page.locator(".sentence")).to_be_visible()
        panel = page.locator(".panel").last
        expect(panel).to_contain_text("Type the words")
        expect(page.get_by_role("button", name="Keep it")).to_be_disabled()
        page.keyboard.type("Ket")
        expect(panel).to_contain_text('"Ket" set in Archivo Black')
        page.keyboard.type("tle")
        expect(panel).to_contain_text('"Kettle" set in Archivo Black')
        expect(page.locator(".draft")).not_to_have_attribute("data-number", "0")
        page.keyboard.press("Shift+Enter")
        page.keyboard.type("& Moth")
        page.keyboard.press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text('"Kettle & Moth" set in Archivo Black')
        expect(page.get_by_role("banner")).to_contain_text("Kettle")
        self.assertEqual(len(self.document().pieces), 11, "t and h touch in this face")

    def test_faces_are_shown_by_the_words_and_say_what_they_mean_for_the_cut(self):
        self.begin_job(material="felt")
        self.offer("set words")
        self.words("Kettle")
        page = self.page
        page.get_by_role("button", name=re.compile("^face:")).click()
        rows = page.get_by_role("group", name="Faces").get_by_role("button", pressed=False)
        pacifico = rows.filter(has_text="Pacifico")
        expect(pacifico).to_contain_text("1 piece")
        expect(rows.filter(has_text="Dancing")).to_contain_text("felt 1.5 mm wants 3 mm")
        expect(rows.filter(has_text="Plain line").locator("path")).to_have_attribute("d", re.compile("^M"))
        pacifico.click()
        expect(page.locator(".panel").last).to_contain_text('"Kettle" set in Pacifico')
        self.words("שלום")
        expect(page.locator(".panel").last).to_contain_text("has none of these letters")

    def test_a_face_is_brought_and_a_broken_one_is_said(self):
        from api.tests.test_faces import named

        self.begin_job()
        self.offer("set words")
        self.words("Moth")
        page = self.page
        page.get_by_role("button", name=re.compile("^face:")).click()
        chooser = page.get_by_label("Bring a face ...")
        chooser.last.set_input_files({"name": "own.ttf", "mimeType": "font/ttf", "buffer": b"no font"})
        expect(page.get_by_role("group", name="Faces")).to_contain_text("no font file")
        chooser.last.set_input_files({"name": "own.woff2", "mimeType": "font/woff2", "buffer": named("Of the theatre")})
        expect(page.locator(".panel").last).to_contain_text('"Moth" set in Of the theatre')
        page.get_by_label("words", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text("set in Of the theatre")

    def test_a_letter_is_moved_by_hand_and_stays_so_when_the_word_is_typed_anew(self):
        self.begin_job()
        self.offer("set words")
        self.words("KETTEL")
        page = self.page
        page.locator("summary", has_text="Single letters").click()
        page.get_by_role("group", name="Single letters").get_by_role("button").nth(3).click()
        page.get_by_label("up, mm").fill("4")
        page.get_by_label("up, mm").press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text('"KETTEL"')
        page.get_by_role("button", name=re.compile('^Change the step: "KETTEL"')).click()
        page.get_by_role("button", name="Edit", exact=True).click()
        self.words("KETTLE")
        page.get_by_label("words", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text('"KETTLE"')
        feet = [bounds(piece.path)[3] for piece in self.document().pieces]
        self.assertEqual([round(max(feet) - foot, 3) for foot in feet], [0, 0, 0, 4, 0, 0])

    def test_a_letter_is_taken_hold_of_on_the_work(self):
        self.begin_job()
        self.offer("set words")
        self.words("HERON")
        page = self.page
        letter = page.get_by_role("button", name="Letter N 1", exact=True)
        expect(letter).to_be_visible()
        box = letter.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x, y - 20, steps=4)
        page.mouse.move(x, y - 60, steps=4)
        page.mouse.up()
        letter.press("ArrowRight")
        page.get_by_label("words", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text('"HERON"')
        moved = Job.objects.latest("changed").head.steps.get().step.parameters["letters"]["N 1"]
        self.assertGreater(moved["up"], 4)
        self.assertEqual(moved["along"], 0.5)

    def test_names_come_from_a_column_of_a_file(self):
        self.begin_job()
        self.offer("set a list of names")
        page = self.page
        table = b'seat;name\n1;"Ada; the elder"\n2;Bo\n'
        page.get_by_label("Names from a file (text or CSV)").last.set_input_files(
            {"name": "guests.csv", "mimeType": "text/csv", "buffer": table}
        )
        page.get_by_label("Which column").select_option("name")
        expect(page.get_by_label("words", exact=True)).to_have_value("Ada; the elder\nBo")
        page.get_by_label("words", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text("Ada; the elder Bo")

    def test_text_that_came_in_a_file_is_set_where_it_stood(self):
        svg = '<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="60mm" viewBox="0 0 120 60">'
        svg += '<rect x="2" y="2" width="20" height="20"/><text x="60" y="40" font-size="14" font-family="Anton" '
        svg += 'text-anchor="middle">HERON</text></svg>'
        self.begin("sign.svg", svg.encode())
        self.go("Check and mend")
        panel = self.page.get_by_role("region", name="Check and mend")
        panel.get_by_role("button", name=re.compile("Text that is not outlines")).click()
        panel.get_by_role("button", name="Set these words").click()
        expect(self.page.locator(".panel").last).to_contain_text('"HERON" set in Anton')
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text('"HERON" set in Anton')
        word = [p.path for p in self.document().pieces if ":=" in p.id]
        left, _, right, bottom = bounds(Path.concatenate(word))
        self.assertAlmostEqual((left + right) / 2, 60.0, delta=0.01)
        self.assertAlmostEqual(bottom, 40.0, delta=0.3)
        self.go("Check and mend")
        expect(panel).not_to_contain_text("Text that is not outlines")


class WordJourneys(Lettering):
    def test_journey_11(self):
        """A word 120 mm wide, cut through a backing 2.5 mm out, its counters as inlays: three sheets, and a page."""
        self.begin_job("Moth for the curtain")
        self.offer("set words")
        self.words("MOTH")
        self.choose("size", "width")
        self.page.get_by_label("width", exact=True).fill("120 mm")
        self.did()
        self.keep_step('"MOTH" set in Archivo Black')
        self.page.get_by_role("button", name=re.compile("^cut it through a backing, in layers")).click()
        self.did()
        self.page.get_by_label("backing", exact=True).fill("2.5")
        self.keep_step("Letters cut through a backing 2.5 mm out")
        self.to_sheets(", inlays")
        self.assertLessEqual(self.actions, 7)
        made = self.document()
        self.assertEqual([sheet.name.rpartition(", ")[2] for sheet in made.sheets], ["backing", "inlays", "MOTH"])
        letters, backing = (
            bounds(Path.concatenate(p.path for p in made.pieces if p.layer in sheet.layers))
            for sheet in (made.sheets[2], made.sheets[0])
        )
        self.assertAlmostEqual(letters[2] - letters[0], 120.0, delta=0.01)
        self.assertAlmostEqual(letters[0] - backing[0], 2.5, delta=0.01)
        for nth, sheet in enumerate(made.sheets, 1):
            np.testing.assert_allclose(
                bounds(self.sheet_file(nth).whole_path), bounds(as_cut(made, sheet).whole_path), atol=0.01
            )
        self.go("Handover")
        with self.page.expect_download() as coming:
            self.page.get_by_role("link", name="as PDF").click()
        self.assertTrue(File(coming.value.path()).read_bytes().startswith(b"%PDF"))

    def test_journey_15(self):
        """A name to be one cut: letters overlap on their baseline, are welded, and keep their counters."""
        self.begin_job("Name for a chair")
        self.offer("set a name in one piece")
        self.words("BRODA")
        self.keep_step('"BRODA" set in Archivo Black')
        made = self.written("svg", within=3)
        (piece,) = made.pieces
        self.assertEqual(int((signed_areas(piece.path) < 0).sum()), 6, "B has two counters; R, O, D and A one each")

    def test_journey_20(self):
        """A word in a bold face: solid, with two outline copies of 1 mm, shifted, on a layer that is mirrored."""
        self.begin_job("Word on a shirt")
        self.offer("set words with outlines beside")
        self.words("HAKE")
        self.keep_step('"HAKE" set in Archivo Black')
        self.to_sheets("mirrored, cut from the back")
        made = self.document()
        layers = {layer.name: layer for layer in made.layers}
        self.assertEqual(set(layers), {"HAKE", "HAKE, outlines"})
        copies = [p for p in made.pieces if p.layer == layers["HAKE, outlines"].id]
        solid = Path.concatenate(p.path for p in made.pieces if p.layer == layers["HAKE"].id)
        self.assertEqual(len(copies), 2)
        for nth, copy in zip((2, 1), copies, strict=True):
            box, own = bounds(copy.path), bounds(solid)
            self.assertAlmostEqual(box[0], own[0] - 1.0 + 2.0 * nth, delta=0.01)
        self.assertEqual(len(made.groups), 1)
        # The file of each sheet is mirrored, and reads the right way round once it is turned back.
        self.assertLessEqual(self.actions, 5)
        self.assertTrue(all(sheet.mirrored for sheet in made.sheets))
        for nth, sheet in enumerate(made.sheets, 1):
            file = self.sheet_file(nth)
            flip = np.array([[-1.0, 0.0, sheet.width_mm], [0.0, 1.0, 0.0]])
            turned = transform(file.whole_path, flip)
            np.testing.assert_allclose(bounds(turned), bounds(finished(made, sheet).whole_path), atol=0.01)
            self.assertEqual({layer.treatment for layer in file.layers}, {Treatment.CUT})
        # The finished look stands beside what the tool sees.
        expect(self.page.locator("figcaption")).to_have_text(["As the tool sees it", "As it looks"])

    def test_journey_21(self):
        """A title of two words with a welded backing 1.5 mm out, in two colours."""
        self.begin_job("Title of the play")
        self.offer("set words on a backing")
        self.words("LANTERN LANE")
        self.keep_step('"LANTERN LANE" set in Archivo Black')
        self.page.get_by_label("distance", exact=True).fill("1.5")
        self.keep_step("Backing laid 1.5 mm out")
        self.to_sheets(", backing")
        self.assertLessEqual(self.actions, 4)
        made = self.document()
        self.assertEqual([sheet.layers for sheet in made.sheets], [(layer.id,) for layer in made.layers])
        for nth, sheet in enumerate(made.sheets, 1):
            np.testing.assert_allclose(
                bounds(self.sheet_file(nth).whole_path), bounds(as_cut(made, sheet).whole_path), atol=0.01
            )
        self.assertEqual(len(made.layers), 2)
        self.assertEqual(len({layer.color for layer in made.layers}), 2)
        letters = Path.concatenate(p.path for p in made.pieces if p.layer == made.layers[-1].id)
        backing = Path.concatenate(p.path for p in made.pieces if p.layer == made.layers[0].id)
        own, around = bounds(letters), bounds(backing)
        for k, sign in enumerate((-1, -1, 1, 1)):
            self.assertAlmostEqual(around[k] - own[k], sign * 1.5, delta=0.01)

    def test_caption_of_journey_09(self):
        """A caption on an arc above a traced reed, as outlines."""
        self.start("reed-sketch.jpg")
        self.to_trace()
        self.keep()
        before = self.document().box
        self.actions = 0
        self.go("Build")
        self.did()
        self.offer("set words on an arc")
        self.words("Reeds")
        self.keep_step('"Reeds" set in Archivo Black')
        self.assertLessEqual(self.actions, 4)
        words = [p.path for p in self.document().pieces if ":=" in p.id]
        self.assertGreaterEqual(len(words), 5)
        self.assertTrue(all(path.closed.all() for path in words))
        self.assertLess(bounds(Path.concatenate(words))[1], before[1])

    def test_word_of_journey_11(self):
        """MOTH 120 mm wide with a backing 2.5 mm out at that size; the word lies within it."""
        self.begin_job("Moth for the curtain")
        self.offer("set words")
        self.choose("size", "width")
        self.page.get_by_label("width", exact=True).fill("120")
        self.page.get_by_label("width", exact=True).press("Tab")
        self.did()
        self.words("MOTH")
        self.keep_step('"MOTH" set in Archivo Black')
        self.page.get_by_role("button", name=re.compile("^lay a backing behind")).click()
        self.did()
        self.page.get_by_label("distance", exact=True).fill("2.5")
        self.keep_step("Backing laid 2.5 mm out")
        made = self.written("svg", within=7)
        word = Path.concatenate(p.path for p in made.pieces if p.layer == made.layers[-1].id)
        backing = Path.concatenate(p.path for p in made.pieces if p.layer == made.layers[0].id)
        left, _, right, _ = bounds(word)
        self.assertAlmostEqual(right - left, 120.0, delta=0.01)
        self.assertAlmostEqual(bounds(backing)[2] - right, 2.5, delta=0.01)
        common = intersection(word, backing).path
        self.assertAlmostEqual(abs(float(signed_areas(common).sum())), abs(float(signed_areas(word).sum())), delta=0.01)

    def test_a_word_is_typed_anew_after_three_later_steps(self):
        self.begin_job("Title")
        self.offer("set a name in one piece")
        self.words("KETTEL")
        self.keep_step('"KETTEL" set in Archivo Black')
        page = self.page
        for phrase, done in (
            ("lay a backing behind", "Backing laid 3 mm out"),
            ("lay a rim round", "Rim of 3 mm round"),
        ):
            page.get_by_role("button", name=re.compile(f"^{phrase}")).click()
            expect(page.locator(".sentence")).to_be_visible()
            self.keep_step(done)
        page.get_by_role("button", name=re.compile("^turn by a quarter")).click()
        expect(page.locator(".sentence")).to_be_visible()
        self.keep_step("turned by 90")
        page.get_by_role("button", name=re.compile('^Change the step: "KETTEL"')).click()
        page.get_by_role("button", name="Edit", exact=True).click()
        self.words("KETTLES")
        page.get_by_label("words", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text('"KETTLES" set in Archivo Black')
        expect(page.locator(".knot.stopped")).to_have_count(0)
        self.assertEqual(len(self.document().pieces), 3)
