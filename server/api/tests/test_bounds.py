"""What a request may hold, and what of it reaches headers and files."""

import json

from django.core.files.uploadedfile import SimpleUploadedFile

from jobs.models import Job

from .test_api import Case

#: A layer whose name holds a sign that no text of the database may hold.
NUL_LAYER = b"0\nSECTION\n2\nENTITIES\n0\nLINE\n8\na\0b\n10\n0\n20\n0\n11\n50\n21\n10\n0\nENDSEC\n0\nEOF\n"


class Bounds(Case):
    def test_a_step_stands_in_a_revision_once(self):
        job = self.begin()
        key = {"key": job["head"]["steps"][0]["key"]}
        body = {"based_on": job["head"]["id"], "steps": [key, key]}
        self.refused(self.send(f"/api/jobs/{job['id']}/revisions", body), 400, "bad-request", "twice")

    def test_steps_keys_pixels_and_picks_have_limits(self):
        job = self.begin()
        resize = {"operation": "resize", "parameters": {"factor": 1.0}}
        self.refused(self.revise(job, *[resize] * 301), 400, "bad-request", "300")
        many = {"operation": "mend", "parameters": {"keys": [f"k{n}" for n in range(1001)]}}
        self.refused(self.revise(job, many), 400, "bad-request", "1,000")
        pixels = {"operation": "trace", "parameters": {"dropped": [[1, 1]] * 1001}}
        self.refused(self.revise(job, pixels), 400, "bad-request", "1,000")
        picks = {"picks": [{"piece": "x"}] * 20_001}
        self.refused(
            self.send(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/reading", picks), 400, "bad-request"
        )

    def test_many_keys_are_taken_in_few_looks(self):
        job = self.begin()
        keys = [f["key"] for f in self.findings(job) if f["mendable"]] + [f"gone-{n}" for n in range(990)]
        made = self.revise(job, {"operation": "mend", "parameters": {"keys": keys}})
        self.assertEqual(made.status_code, 201, made.content)

    def test_what_a_mend_is_held_against_says_what_a_layer_is_for(self):
        job = self.begin()
        held = {"layers": {"x": {"treatment": "zz"}}}
        mend = {"operation": "mend", "parameters": {"keys": [], "conditions": held}}
        self.refused(self.revise(job, mend), 400, "bad-request", "conditions")

    def test_answers_about_jobs_are_not_kept_and_refusals_are_logged(self):
        job = self.begin()
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}")["Cache-Control"], "no-store")
        self.assertIn(
            "immutable",
            self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing")["Cache-Control"],
        )
        with self.assertLogs("api.door", "INFO") as logged:
            self.client.get("/api/jobs/a%0Ab")
        self.assertEqual(logged.output, ["INFO:api.door:GET '/api/jobs/a\\nb': 404"])

    def test_forms_with_too_many_parts_are_refused(self):
        fields = {f"f{n}": "x" for n in range(1500)}
        self.refused(self.upload(**fields), 400, "bad-request", "more than")
        files = {f"f{n}": SimpleUploadedFile("a.svg", b"x") for n in range(200)}
        self.refused(self.client.post("/api/jobs", files), 400, "bad-request", "more than")

    def test_names_of_files_and_layers_without_unseen_signs(self):
        job = self.upload(NUL_LAYER, "nul.dxf").json()
        layers = self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing").json()["layers"]
        self.assertEqual([layer["name"] for layer in layers], ["ab"])

    def test_a_name_with_unseen_signs_is_kept_without_them(self):
        job = self.begin()
        sent = json.dumps({"name": "a\u0008b\u202ec"})
        made = self.client.patch(f"/api/jobs/{job['id']}", sent, content_type="application/json")
        self.assertEqual(made.json()["name"], "abc")
        sent = json.dumps({"name": "\u0008"})
        self.refused(
            self.client.patch(f"/api/jobs/{job['id']}", sent, content_type="application/json"), 400, "bad-request"
        )

    def test_a_name_of_any_letters_is_saved_as_a_file(self):
        job = self.begin()
        Job.objects.filter(pk=job["id"]).update(name="日本の灯")
        answer = self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/svg")
        # RFC 8187: the name in UTF-8, and an attachment whatever it is.
        self.assertEqual(
            answer["Content-Disposition"],
            "attachment; filename*=utf-8''%E6%97%A5%E6%9C%AC%E3%81%AE%E7%81%AF.svg",
        )

    def test_an_upload_that_fails_leaves_no_job(self):
        self.upload(b"no design at all", "broken.svg")
        self.assertEqual(Job.objects.count(), 0)
