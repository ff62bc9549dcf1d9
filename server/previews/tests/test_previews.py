"""Previews: what they show is what the trace would give, the newest alone is finished, and pictures are kept at hand."""

import io
import json
import struct
import threading
from unittest import mock

import numpy as np
from django.test import TestCase, override_settings
from PIL import Image, ImageDraw

from hakobu import pipeline
from hakobu.geometry import Path, flatten
from hakobu.model import Step
from jobs import history
from jobs.models import Job
from jobs.store import load_document
from previews import forward, pictures
from previews.answers import answer
from previews.newest import FOUND, NEWEST, Superseded


def picture(side: int = 300, per_inch: float = 254.0) -> bytes:
    image = Image.new("L", (side, side), 240)
    ImageDraw.Draw(image).ellipse((side * 0.2, side * 0.2, side * 0.8, side * 0.7), fill=20)
    out = io.BytesIO()
    image.save(out, "PNG", dpi=(per_inch, per_inch))
    return out.getvalue()


def unpacked(body: bytes) -> tuple[dict, np.ndarray, np.ndarray]:
    """As the browser reads it."""
    (size,) = struct.unpack_from("<I", body)
    head = json.loads(body[4 : 4 + size])
    at = 4 + size
    points = np.frombuffer(body, "<f4", 2 * head["points"], at).reshape(-1, 2)
    return head, points, np.frombuffer(body, "<u4", head["outlines"] + 1, at + points.nbytes)


#: What black card bears.
LIMITS = {"strip_mm": 1.0, "gap_mm": 0.4, "piece_mm2": 2.0}


class Case(TestCase):
    def setUp(self):
        pictures.PICTURES._kept.clear()
        NEWEST._numbers.clear()

    def begin(self, data: bytes | None = None) -> Job:
        job = history.create_job("Scan")
        history.bring_in(job, job.head_id, "scan.png", data or picture())
        job.refresh_from_db()
        return job

    def values(self, job: Job, number: int = 1, **more) -> dict:
        return {
            "document": job.head.document_id,
            "picture": "",
            "threshold": 0.5,
            "smoothness_mm": 0.05,
            "smallest_mm2": 0.3,
            "coarse": False,
            "tab": "tab",
            "number": number,
            **more,
        }


class Preview(Case):
    def test_shows_what_the_trace_would_give(self):
        job = self.begin()
        status, _, body = answer("preview", str(job.pk), self.values(job))
        self.assertEqual(status, 200)
        head, points, start = unpacked(body)
        step = Step("t", "trace", 1, {"threshold": 0.5, "smoothness_mm": 0.05, "smallest_mm2": 0.3})
        data = bytes(job.sources.get().blob.data)
        made = pipeline.run_step(
            load_document(job.head.document_id), step, picture=lambda _: pipeline.picture("a.png", data)
        )
        chords = flatten(Path.concatenate(p.path for p in made.document.pieces), 0.02)
        np.testing.assert_allclose(points, chords.points, atol=1e-5)
        np.testing.assert_array_equal(start, chords.start)
        self.assertEqual((head["pieces"], head["number"], head["coarse"]), (1, 1, False))
        self.assertEqual(head["mean_mm"], made.outcome.statistics["mean_mm"])

    def test_shows_every_way_of_tracing_as_its_step_would(self):
        job = self.begin()
        data = bytes(job.sources.get().blob.data)
        for number, (mode, options) in enumerate(
            (
                ("shades", {"shades": 2}),
                ("colour", {"background": False}),
                ("outside", {"distance_mm": 1.0}),
                ("centre", {}),
            ),
            20,
        ):
            with self.subTest(mode):
                asked = self.values(job, number, mode=mode, options=options)
                head, points, _ = unpacked(answer("preview", str(job.pk), asked)[2])
                given = {name: asked[name] for name in ("mode", "threshold", "smoothness_mm", "smallest_mm2")}
                made = pipeline.run_step(
                    load_document(job.head.document_id),
                    Step("t", "trace", 1, given | options),
                    picture=lambda _: pipeline.picture("a.png", data),
                )
                self.assertEqual(head["pieces"], len(made.document.pieces))
                chords = flatten(Path.concatenate(p.path for p in made.document.pieces), 0.02)
                np.testing.assert_allclose(points.min(axis=0), chords.points.min(axis=0), atol=1e-4)
                self.assertEqual(any(layer["lines"] for layer in head["layers"]), not chords.closed.all())
                self.assertEqual(sum(count for _, _, count in head["parts"]), head["outlines"])
        status, _, body = answer("preview", str(job.pk), self.values(job, 30, mode="nonsense"))
        self.assertEqual((status, json.loads(body)["code"]), (400, "bad-request"))

    def test_is_coarse_on_a_large_picture_while_something_is_dragged(self):
        with mock.patch.object(pictures, "COARSE_PX", 30_000):
            job = self.begin()
            boxes = []
            for number, coarse in ((1, True), (3, False)):
                head, points, _ = unpacked(answer("preview", str(job.pk), self.values(job, number, coarse=coarse))[2])
                self.assertEqual(head["coarse"], coarse)
                boxes.append(np.concatenate([points.min(axis=0), points.max(axis=0)]))
                # A place is named by the picture's own pixels, however many are looked at.
                gone = {"options": {"dropped": [[150, 130]]}}
                status, _, body = answer("preview", str(job.pk), self.values(job, number + 1, coarse=coarse, **gone))
                self.assertEqual((status, json.loads(body)["code"]), (422, "cannot-do"))
        # Half the pixels, the same place: within a coarse pixel of 0.2 mm.
        self.assertLess(np.abs(boxes[0] - boxes[1]).max(), 0.2)

    def test_an_older_question_than_the_newest_is_not_finished(self):
        job = self.begin()
        self.assertEqual(answer("preview", str(job.pk), self.values(job, 5))[0], 200)
        self.assertEqual(answer("preview", str(job.pk), self.values(job, 4))[0], 204)
        self.assertEqual(answer("preview", str(job.pk), self.values(job, 4, tab="another"))[0], 200)

    def test_what_cannot_be_traced_is_said(self):
        job = self.begin()
        status, kind, body = answer("preview", str(job.pk), self.values(job, 9, threshold=0.0))
        self.assertEqual((status, kind), (422, "application/json"))
        self.assertIn("Nothing in this picture", json.loads(body)["sentence"])

    def test_a_picture_of_another_job_is_not_reached(self):
        mine, other = self.begin(), self.begin(picture(200))
        status, _, body = answer("preview", str(other.pk), self.values(mine, 10))
        self.assertEqual((status, json.loads(body)["code"]), (404, "not-there"))


class Proposal(Case):
    def test_says_what_the_picture_suggests(self):
        job = self.begin()
        status, _, body = answer("proposal", str(job.pk), {"document": job.head.document_id, "picture": ""})
        data = json.loads(body)
        self.assertEqual((status, len(data["levels"]), max(data["levels"])), (200, 64, 1.0))
        self.assertEqual((data["kind"], data["ways"][0]["mode"], data["warning"]), ("drawing", "dark", ""))
        nothing = dict.fromkeys(("threshold", "smoothness_mm", "smallest_mm2"))
        head, _, _ = unpacked(answer("preview", str(job.pk), self.values(job, 40, **nothing))[2])
        self.assertTrue(20 / 255 < head["proposed"]["threshold"] < 240 / 255)
        self.assertEqual(head["chosen"]["threshold"], head["proposed"]["threshold"])


class Tiles(Case):
    def test_every_way_is_a_small_picture_or_says_why_not(self):
        job = self.begin()
        asked = {"document": job.head.document_id, "picture": "", "told": {"shades": {"shades": 2}}}
        status, _, body = answer("tiles", str(job.pk), asked)
        made = json.loads(body)
        self.assertEqual((status, max(made["size"]) <= 240, len(made["tiles"])), (200, True, 6))
        for mode, tile in made["tiles"].items():
            with self.subTest(mode):
                self.assertNotEqual(bool(tile["layers"]), bool(tile["sentence"]))
        self.assertTrue(made["tiles"]["dark"]["layers"][0]["d"].startswith("M"))
        self.assertIn("no field", made["tiles"]["ink-fields"]["sentence"])


class Measured(Case):
    def ring(self) -> bytes:
        """A ring that is 0.6 mm thin."""
        image = Image.new("L", (300, 300), 255)
        ImageDraw.Draw(image).ellipse((50, 50, 250, 250), outline=0, width=6)
        out = io.BytesIO()
        image.save(out, "PNG", dpi=(254, 254))
        return out.getvalue()

    def test_what_a_tab_was_shown_last_is_measured_once_it_is_exact(self):
        job = self.begin(self.ring())
        self.assertEqual(answer("measure", "", {"tab": "tab", "number": 50, **LIMITS})[0], 204)
        answer("preview", str(job.pk), self.values(job, 50))
        status, _, body = answer("measure", "", {"tab": "tab", "number": 50, **LIMITS})
        told = json.loads(body)
        self.assertEqual((status, told["gap_count"], len(told["slivers"])), (200, 0, 0))
        # What is kept for it holds no picture.
        self.assertIsNone(FOUND.of("tab", 50).view)
        self.assertAlmostEqual(told["strips"][0][4], 0.6, delta=0.1)
        self.assertEqual(
            json.loads(answer("measure", "", {"tab": "tab", "number": 50, **LIMITS, "strip_mm": 0.3})[2])["strips"], []
        )
        self.assertEqual(answer("measure", "", {"tab": "tab", "number": 49, **LIMITS})[0], 204)


class Pictures(Case):
    def test_are_decoded_once_however_many_ask(self):
        source = self.begin().sources.select_related("blob").get()
        with mock.patch.object(pictures, "_decoded", side_effect=pictures._decoded) as decoded:
            threads = [threading.Thread(target=pictures.PICTURES.grey, args=(source,)) for _ in range(6)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual(decoded.call_count, 1)

    def test_the_one_not_used_for_longest_goes_first(self):
        sources = [self.begin(picture(side)).sources.select_related("blob").get() for side in (100, 110, 120)]
        # Grey as four bytes a pixel, and its colours as four more.
        room = sum(8 * side * side for side in (100, 120)) + 100
        with mock.patch.object(pictures, "MOST_BYTES", room):
            for i in (0, 1, 0, 2):
                pictures.PICTURES.grey(sources[i])
        self.assertEqual(list(pictures.PICTURES._kept), [sources[0].blob_id, sources[2].blob_id])


class Newest(TestCase):
    def test_is_told_for_each_tab(self):
        NEWEST.arrive("x", 3)
        NEWEST.arrive("x", 2)
        NEWEST.check("x", 3)
        NEWEST.check("never seen", 1)
        with self.assertRaises(Superseded):
            NEWEST.check("x", 2)


class Forwarding(Case):
    @override_settings(PREVIEWS="127.0.0.1:9")
    def test_a_process_that_does_not_answer_is_told_in_a_sentence(self):
        job = self.begin()
        address = f"/api/jobs/{job.pk}/trace/preview"
        with self.assertLogs("django.request", "ERROR"):
            response = self.client.post(address, json.dumps(self.values(job)), content_type="application/json")
        self.assertEqual((response.status_code, response.json()["code"]), (503, "no-preview"))

    def test_the_process_answers_those_alone_who_know_its_password(self):
        from previews.wsgi import application

        job = self.begin()
        body = json.dumps({"kind": "preview", "job": str(job.pk), "values": self.values(job, 20)}).encode()
        for given, expected in (("", "403 Forbidden"), ("x" * 64, "403 Forbidden"), (forward.password(), "200 OK")):
            said = []
            environ = {"HTTP_X_HAKOBU_INSIDE": given, "CONTENT_LENGTH": str(len(body)), "wsgi.input": io.BytesIO(body)}
            with mock.patch("previews.wsgi.close_old_connections"):
                application(environ, lambda status, headers, said=said: said.append(status))
            self.assertEqual(said, [expected])
