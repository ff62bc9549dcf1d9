"""Faces: brought into a job, shown by a person's own words, used by steps of that job only."""

import io

from django.core.files.uploadedfile import SimpleUploadedFile
from fontTools.ttLib import TTFont

from hakobu.lettering.faces import _FOLDER, FACES
from jobs.models import Job, Source

from .test_api import Case

SHIPPED = (_FOLDER / "Righteous_400Regular.ttf").read_bytes()


def named(name: str) -> bytes:
    """A whole font under another name."""
    font = TTFont(io.BytesIO(SHIPPED), recalcTimestamp=False)
    for record in font["name"].names:
        if record.nameID in (1, 4):
            record.string = name
    font.flavor = "woff2"
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


class Lettering(Case):
    def setUp(self):
        self.job = self.client.post("/api/jobs/empty", {"name": "New job"}, content_type="application/json").json()

    def bring(self, data: bytes, name: str = "own.woff2", job: dict | None = None):
        address = f"/api/jobs/{(job or self.job)['id']}/faces"
        return self.client.post(address, {"file": SimpleUploadedFile(name, data)})

    def shown(self, text: str = "Kettle", **more) -> dict:
        body = {"text": text, "capitals_mm": 20.0, **more}
        answer = self.client.post(f"/api/jobs/{self.job['id']}/faces/shown", body, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def step(self, job: dict, **parameters):
        step = {"operation": "words", "parameters": {"text": "Kettle", **parameters}}
        body = {"based_on": job["head"]["id"], "steps": [step], "token": "x"}
        return self.client.post(f"/api/jobs/{job['id']}/revisions", body, content_type="application/json")


class Shown(Lettering):
    def test_an_empty_job_is_made_by_name(self):
        self.assertEqual((self.job["name"], self.job["head"]["steps"]), ("New job", []))
        listed = self.client.get("/api/jobs").json()["jobs"]
        self.assertIn(self.job["id"], [job["id"] for job in listed])

    def test_all_faces_are_shown_by_the_words_and_judged_where_asked(self):
        told = self.shown(judged=["pacifico", "anton"])
        self.assertEqual([face["id"] for face in told["faces"]], [face.id for face in FACES])
        rows = {face["id"]: face for face in told["faces"]}
        self.assertTrue(all(face["d"] and face["box"] for face in rows.values()))
        self.assertEqual(rows["pacifico"]["judged"]["pieces"], 1)
        self.assertGreater(rows["anton"]["judged"]["thinnest_mm"], told["least_mm"])
        self.assertIsNone(rows["fredoka"]["judged"])

    def test_letters_that_a_face_lacks_are_named(self):
        rows = {face["id"]: face for face in self.shown("שלום")["faces"]}
        self.assertEqual((rows["secular"]["lacking"], len(rows["anton"]["lacking"])), ([], 4))

    def test_nothing_typed_and_much_typed_are_shown(self):
        self.assertTrue(self.shown("")["faces"][0]["d"])
        self.assertTrue(self.shown("long words " * 900)["faces"][0]["d"])

    def test_what_is_wrong_is_a_sentence(self):
        for body in ({}, {"text": "x"}, {"text": "x", "capitals_mm": 0}, {"text": "x" * 10_001, "capitals_mm": 5}):
            answer = self.client.post(f"/api/jobs/{self.job['id']}/faces/shown", body, content_type="application/json")
            self.assertEqual(answer.status_code, 400, answer.content)
            self.assertTrue(answer.json()["sentence"])


class Brought(Lettering):
    def test_a_face_is_brought_once_and_shown_first(self):
        first, again = (self.bring(named("Of the theatre")).json() for _ in range(2))
        self.assertEqual(first["id"], again["id"])
        self.assertEqual(Source.objects.filter(job=self.job["id"], format=Source.FACE).count(), 1)
        top = self.shown()["faces"][0]
        self.assertEqual((top["id"], top["brought"]), (first["id"], "own.woff2"))

    def test_words_are_set_in_it_and_a_copy_of_the_job_keeps_it(self):
        face = self.bring(named("Of the theatre")).json()["id"]
        made = self.step(self.job, face=face)
        self.assertEqual(made.status_code, 201, made.content)
        copy = self.client.post(f"/api/jobs/{self.job['id']}/copies", {}, content_type="application/json").json()
        kept = {**copy["head"]["steps"][0]["parameters"], "text": "Kettles"}
        step = {"key": copy["head"]["steps"][0]["key"], "parameters": kept, "selection": {}}
        body = {"based_on": copy["head"]["id"], "steps": [step], "token": "y"}
        anew = self.client.post(f"/api/jobs/{copy['id']}/revisions", body, content_type="application/json")
        self.assertEqual(anew.status_code, 201, anew.content)
        self.assertIn("Kettles", anew.json()["head"]["steps"][0]["title"])

    def test_a_face_of_another_job_is_not_there(self):
        face = self.bring(named("Of the theatre")).json()["id"]
        other = self.client.post("/api/jobs/empty", {"name": "Other"}, content_type="application/json").json()
        answer = self.step(other, face=face)
        self.assertEqual(answer.status_code, 404, answer.content)
        self.assertIn("does not belong to this job", answer.json()["sentence"])

    def test_what_is_no_font_is_refused_and_nothing_is_kept(self):
        for data in (b"no font", named("x")[:300], b""):
            answer = self.bring(data)
            self.assertIn(answer.status_code, (400, 422), answer.content)
            self.assertTrue(answer.json()["sentence"])
        self.assertFalse(Job.objects.get(pk=self.job["id"]).sources.exists())


class Texts(Lettering):
    def test_a_text_that_is_set_anew_is_no_longer_missing(self):
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="40mm" viewBox="0 0 90 40">'
        svg += b'<text x="10" y="30" font-size="12" textLength="30">Kettle</text></svg>'
        job = self.upload(svg, "t.svg").json()
        address = f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings"
        (found,) = [f for f in self.client.get(address).json() if f["id"] == "live-text"]
        told = found["measure"]
        given = {
            "size_by": told["by"],
            "size_mm": told["size_mm"],
            "at": [told["x"], told["y"]],
            "anchor": told["anchor"],
        }
        step = {
            "operation": "words",
            "parameters": {"text": told["text"], **given, "instead": found["key"], "was_mm": 30.0},
        }
        body = {"based_on": job["head"]["id"], "steps": [{"key": job["head"]["steps"][0]["key"]}, step], "token": "t"}
        made = self.client.post(f"/api/jobs/{job['id']}/revisions", body, content_type="application/json").json()
        now = self.client.get(f"/api/jobs/{made['id']}/revisions/{made['head']['id']}/findings").json()
        self.assertNotIn("live-text", [f["id"] for f in now])
        self.assertRegex(made["head"]["steps"][1]["note"], r"% (wider|narrower) than in its file")
