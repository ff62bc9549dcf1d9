"""The API as the browser uses it: what it answers, what it refuses, and that it refuses in sentences."""

import base64
import json
from pathlib import Path
from typing import NamedTuple
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase, override_settings

from jobs import cost
from jobs.models import Job, Run

TWICE = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">
<path id="a" d="M10 10H40V40H10Z"/><path id="b" d="M10 10H40V40H10Z"/><circle cx="70" cy="70" r="9"/><text>Hi</text></svg>"""


KETTLE = Path(__file__).parents[3] / "demo" / "files" / "kettle.png"


class Unpacked(NamedTuple):
    points: np.ndarray
    counts: np.ndarray
    nodes: np.ndarray
    closed: bytes
    corners: bytes


def unpacked(data: bytes) -> dict[str, Unpacked]:
    """Paths by their hashes, as api/drawing.py packs them."""
    size = int.from_bytes(data[:4], "little")
    table, at = json.loads(data[4 : 4 + size]), 4 + size
    points, outlines, nodes = (sum(row[k] for row in table) for k in (1, 2, 3))
    arrays = []
    for count, kind in ((2 * points, "<f4"), (outlines, "<u4"), (2 * nodes, "<f4"), (outlines, "u1"), (nodes, "u1")):
        arrays.append(np.frombuffer(data, kind, count, at))
        at += arrays[-1].nbytes
    assert at == len(data)
    made, (p, k, n) = {}, (0, 0, 0)
    for digest, own_points, own_outlines, own_nodes in table:
        made[digest] = Unpacked(
            arrays[0][2 * p : 2 * (p + own_points)].reshape(-1, 2),
            arrays[1][k : k + own_outlines],
            arrays[2][2 * n : 2 * (n + own_nodes)].reshape(-1, 2),
            arrays[3][k : k + own_outlines].tobytes(),
            arrays[4][n : n + own_nodes].tobytes(),
        )
        p, k, n = p + own_points, k + own_outlines, n + own_nodes
    return made


class Case(TestCase):
    def upload(self, data: bytes = TWICE, name: str = "twice-title.svg", address: str = "/api/jobs", **more):
        return self.client.post(address, {"file": SimpleUploadedFile(name, data), **more})

    def begin(self) -> dict:
        response = self.upload()
        self.assertEqual(response.status_code, 201, response.content)
        return response.json()

    def send(self, address: str, body: dict):
        return self.client.post(address, json.dumps(body), content_type="application/json")

    def revise(self, job: dict, *steps: dict, **more):
        kept = [{"key": step["key"]} for step in job["head"]["steps"]]
        body = {"based_on": job["head"]["id"], "steps": [*kept, *steps], **more}
        return self.send(f"/api/jobs/{job['id']}/revisions", body)

    def paths(self, job: str, document: str, **query) -> dict[str, "Unpacked"]:
        return unpacked(self.client.get(f"/api/jobs/{job}/documents/{document}/paths", query).content)

    def findings(self, job: dict) -> list[dict]:
        return self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings").json()

    def refused(self, response, status: int, code: str, words: str = "") -> None:
        self.assertEqual(response.status_code, status, response.content)
        data = response.json()
        self.assertEqual((set(data), data["code"]), ({"code", "sentence"}, code))
        self.assertIn(words, data["sentence"])


class Road(Case):
    """The whole road: bring in, see, mend, go back, come forward, hand over."""

    def test_there_and_back(self):
        job = self.begin()
        self.assertEqual(job["name"], "Twice title")
        self.assertEqual((job["head"]["statistics"]["pieces"], job["head"]["statistics"]["width_mm"]), (3, 69))
        found = self.findings(job)
        self.assertEqual(
            [(f["number"], f["id"], f["level"]) for f in found],
            [(1, "live-text", "stops"), (2, "duplicate-line", "spoils")],
        )
        mended = self.revise(job, {"operation": "mend", "parameters": {"keys": [found[1]["key"]]}}).json()
        self.assertEqual((mended["head"]["statistics"]["pieces"], mended["undo_what"]), (2, "Mended: b is cut twice"))
        self.assertEqual([f["id"] for f in self.findings(mended)], ["live-text"])
        head = f"/api/jobs/{job['id']}/head"
        back = self.send(head, {"based_on": mended["head"]["id"], "to": "undo"}).json()
        self.assertEqual(
            (back["head"]["id"], back["can_redo"], back["redo_what"]), (job["head"]["id"], True, mended["undo_what"])
        )
        again = self.send(head, {"based_on": back["head"]["id"], "to": "redo"}).json()
        self.assertEqual(again["head"]["id"], mended["head"]["id"])
        listed = self.client.get("/api/jobs").json()
        self.assertEqual([(j["pieces"], j["waiting"]) for j in listed["jobs"]], [(2, 1)])

    def test_the_list_comes_in_pages_and_reads_nothing_but_rows(self):
        for _ in range(3):
            self.begin()
        with self.assertNumQueries(3):
            page = self.client.get("/api/jobs", {"size": 2, "page": 2, "sort": "name"}).json()
        self.assertEqual((page["total"], len(page["jobs"])), (3, 1))
        self.refused(self.client.get("/api/jobs", {"sort": "colour"}), 400, "bad-request")

    def test_deleted_jobs_are_not_there_until_they_come_back(self):
        job = self.begin()
        away = {"jobs": [job["id"]], "deleted": True}
        self.assertEqual(self.send("/api/jobs/deleted", away).json(), {"jobs": 1})
        self.refused(self.client.get(f"/api/jobs/{job['id']}"), 404, "not-there", "brought back from the list")
        self.assertEqual(self.client.get("/api/jobs").json(), {"total": 0, "deleted": 1, "jobs": []})
        (gone,) = self.client.get("/api/jobs", {"deleted": True}).json()["jobs"]
        self.assertEqual((gone["id"], gone["deleted"] is not None), (job["id"], True))
        self.send("/api/jobs/deleted", {**away, "deleted": False})
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}").status_code, 200)

    def test_the_other_writer_is_told(self):
        job = self.begin()
        self.assertEqual(self.revise(job, {"operation": "mend"}).status_code, 201)
        self.refused(self.revise(job, {"operation": "mend"}), 409, "changed-meanwhile", "another window")

    def test_set_aside_and_renamed(self):
        job = self.begin()
        key = self.findings(job)[0]["key"]
        job = self.revise(job, settings={"set_aside": [key], "machine": "desk-cutter"}).json()
        self.assertEqual([f["set_aside"] for f in self.findings(job)], [True, False])
        self.assertEqual(job["head"]["settings"]["machine"], "desk-cutter")
        named = self.client.patch(
            f"/api/jobs/{job['id']}", json.dumps({"name": " New "}), content_type="application/json"
        ).json()
        self.assertEqual(named["name"], "New")

    def test_a_second_file_comes_in_beside_the_first(self):
        job = self.begin()
        more = self.upload(address=f"/api/jobs/{job['id']}/sources", based_on=job["head"]["id"]).json()
        self.assertEqual((more["head"]["statistics"]["pieces"], len(more["head"]["steps"])), (6, 2))


class Drawn(Case):
    def test_polylines_nodes_and_only_what_is_new(self):
        job = self.begin()
        drawing = self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing").json()
        paths = self.paths(job["id"], job["head"]["document"])
        square = paths[drawing["pieces"][0]["path"]]
        self.assertEqual(square.points.tolist(), [[10, 10], [40, 10], [40, 40], [10, 40], [10, 10]])
        self.assertEqual((square.counts.tolist(), square.closed, square.corners), ([5], b"\x01", b"\x01" * 4))
        self.assertEqual(square.nodes.tolist(), square.points[:-1].tolist())
        self.assertEqual((len(drawing["pieces"]), len(paths)), (3, 2))
        bigger = self.revise(job, {"operation": "mend"}).json()["head"]["document"]
        again = self.client.get(f"/api/jobs/{job['id']}/documents/{bigger}/drawing").json()
        self.assertEqual((len(again["pieces"]), self.paths(job["id"], bigger, since=job["head"]["document"])), (2, {}))

    def test_documents_never_change_under_their_address(self):
        job = self.begin()
        for address in (
            f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing",
            f"/api/jobs/{job['id']}/documents/{job['head']['document']}/sketch",
        ):
            self.assertIn("immutable", self.client.get(address)["Cache-Control"])

    def test_a_mend_before_it_is_taken(self):
        job = self.begin()
        found = self.findings(job)
        base = f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings"
        preview = self.client.get(f"{base}/{found[1]['key']}/mend").json()
        counts = [len(preview[name]["closed"]) for name in ("now", "goes", "mended")]
        self.assertEqual((counts, preview["nodes_before"], preview["nodes_after"]), ([2, 1, 1], 9, 5))
        self.refused(self.client.get(f"{base}/{found[0]['key']}/mend"), 422, "cannot-do", "no mend")
        self.refused(self.client.get(f"{base}/gone/mend"), 404, "not-there")


class HandedOver(Case):
    def test_files_are_downloads_never_pages(self):
        job = self.begin()
        for format_, kind, start in (("svg", "image/svg+xml", b"<?xml"), ("hpgl", "application/vnd.hp-hpgl", b"IN;")):
            response = self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/{format_}")
            self.assertTrue(response.content.startswith(start))
            self.assertEqual(response["Content-Type"], kind)
            self.assertEqual(response["Content-Disposition"], f'attachment; filename="twice-title.{format_}"')
            self.assertEqual(
                (response["X-Content-Type-Options"], response["Content-Security-Policy"]), ("nosniff", "sandbox")
            )

    def test_the_proof_is_made_from_the_files_bytes(self):
        job = self.begin()
        base = f"/api/jobs/{job['id']}/revisions/{job['head']['id']}"
        proof = self.client.get(f"{base}/proof/hpgl").json()
        self.assertTrue(proof["holds"])
        self.assertLessEqual(proof["max_deviation_mm"], 0.025)
        self.assertEqual(len(proof["strokes"]["closed"]), 3)
        rows = self.client.get(f"{base}/files/hpgl").content.splitlines(keepends=True)
        less = b"".join(row for row in rows if not row.startswith(b"PU") or b"PU400,3600" not in row)
        response = self.upload(less, "mine.plt", f"{base}/proof").json()
        self.assertEqual((response["missing"], response["holds"], len(response["strokes"]["closed"])), (2, False, 1))
        self.assertEqual(len(response["missing_lines"]["closed"]), 2)

    def test_nothing_is_not_handed_over(self):
        job = self.begin()
        empty = self.send(f"/api/jobs/{job['id']}/head", {"based_on": job["head"]["id"], "to": "undo"}).json()
        for what in ("files", "proof"):
            self.refused(
                self.client.get(f"/api/jobs/{empty['id']}/revisions/{empty['head']['id']}/{what}/hpgl"),
                422,
                "cannot-do",
                "nothing to cut",
            )
        self.refused(
            self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/nonsense"),
            415,
            "unknown-format",
        )


class Reference(Case):
    def test_a_sheet_with_a_shape_of_known_size_is_a_download(self):
        answer = self.client.get("/api/reference-sheet", {"shape": "circle", "size": "2 in"})
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/pdf"))
        self.assertIn("attachment", answer["Content-Disposition"])
        self.assertTrue(answer.content.startswith(b"%PDF"))

    def test_a_size_that_is_none_is_said(self):
        answer = self.client.get("/api/reference-sheet", {"shape": "rectangle", "size": "wide"})
        self.assertEqual(answer.status_code, 400)
        self.assertIn("rectangle:60x40mm", answer.json()["sentence"])


class Refused(Case):
    def test_files_in_a_sentence_and_without_a_trace(self):
        for data, name, status, code, words in (
            (b" ", "a.svg", 422, "unreadable-file", "a.svg is empty"),
            (TWICE[:-9], "a.svg", 422, "unreadable-file", "ends in the middle"),
            (b"\x89PNG\r\n", "a.svg", 422, "unreadable-file", "something else"),
            (b"hello", "a.doc", 415, "unknown-format", "these can: SVG, DXF, HP-GL"),
        ):
            with self.subTest(name):
                self.refused(self.upload(data, name), status, code, words)
        self.assertEqual(Job.objects.count(), 0)

    @override_settings(MOST_UPLOADED=2000)
    def test_what_is_too_large_before_it_is_read(self):
        self.refused(self.upload(TWICE + b" " * 3000), 413, "too-much", "larger than")

    def test_the_job_and_its_other_sources_stay(self):
        job = self.begin()
        self.refused(self.upload(b" ", address=f"/api/jobs/{job['id']}/sources"), 422, "unreadable-file")
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}").json(), job)

    def test_what_is_not_there_and_what_does_not_fit(self):
        job = self.begin()
        for response, status, code in (
            (self.client.get("/api/jobs/00000000-0000-4000-8000-000000000000"), 404, "not-there"),
            (self.client.get(f"/api/jobs/{job['id']}/revisions/999999/findings"), 404, "not-there"),
            (self.client.get(f"/api/jobs/{job['id']}/documents/none/drawing"), 404, "not-there"),
            (self.revise(job, {"operation": "nonsense"}), 400, "bad-request"),
            (self.revise(job, {"operation": "resize", "parameters": {"factor": "x"}}), 400, "bad-request"),
            (self.revise(job, {"key": "nobody"}), 404, "not-there"),
            (self.revise(job, settings={"layers": {"x": {"color": "red"}}}), 400, "bad-request"),
            (self.send(f"/api/jobs/{job['id']}/head", {"to": "sideways"}), 400, "bad-request"),
            (self.client.post("/api/jobs", {}), 400, "bad-request"),
            (self.client.put("/api/jobs"), 405, "bad-request"),
        ):
            self.refused(response, status, code)


class Guarded(Case):
    def test_other_pages_cannot_act_through_a_browser(self):
        strict = Client(enforce_csrf_checks=True)
        response = strict.post("/api/jobs", {"file": SimpleUploadedFile("a.svg", TWICE)})
        self.assertEqual((response.status_code, Job.objects.count()), (403, 0))
        self.assertIn("load it again", response.json()["sentence"])

    def test_only_this_machine_is_a_host(self):
        self.assertEqual(self.client.get("/api/library", headers={"host": "evil.example"}).status_code, 400)

    def test_the_page_runs_its_own_code_only(self):
        response = self.client.get("/")
        policy = response["Content-Security-Policy"]
        self.assertNotIn("unsafe", policy)
        self.assertRegex(policy, r"style-src 'self' 'nonce-[^']+'")
        self.assertIn("default-src 'self'", policy)
        self.assertEqual(response["X-Frame-Options"], "DENY")

    def test_names_with_markup_stay_text(self):
        job = self.upload(TWICE, '<img src=x onerror="alert(1)">.svg').json()
        self.assertNotIn("/", job["name"])
        response = self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/svg")
        self.assertNotIn(b"<img", response.content)
        self.assertNotIn('"<', response["Content-Disposition"])


class Access(Case):
    def test_what_belongs_to_another_job_is_not_reached_by_this_one(self):
        own = self.upload(TWICE, "own.svg").json()
        other = self.upload(TWICE.replace(b"10", b"11"), "other.svg").json()
        base, head = f"/api/jobs/{own['id']}", other["head"]
        for address in (
            f"{base}/revisions/{head['id']}/findings",
            f"{base}/revisions/{head['id']}/files/svg",
            f"{base}/revisions/{head['id']}/proof/hpgl",
            f"{base}/documents/{head['document']}/drawing",
            f"{base}/documents/{head['document']}/paths",
            f"{base}/documents/{head['document']}/weeded/any",
        ):
            self.refused(self.client.get(address), 404, "not-there", "not part of the job")
            mine = address.replace(own["id"], other["id"])
            self.assertEqual(self.client.get(mine).status_code, 200, mine)

    def test_states_that_a_step_has_made_belong_to_the_job_and_its_copies(self):
        job = self.upload(TWICE, "own.svg").json()
        first = job["head"]["document"]
        job = self.revise(job, {"operation": "resize", "parameters": {"factor": 2.0}}).json()
        copy = self.send(f"/api/jobs/{job['id']}/copies", {}).json()
        for one in (job, copy):
            self.assertEqual(self.client.get(f"/api/jobs/{one['id']}/documents/{first}/drawing").status_code, 200)


class Pages(Case):
    def test_an_assembly_page_is_written_as_pdf_or_svg(self):
        job = self.upload(TWICE, "twice.svg").json()
        base = f"/api/jobs/{job['id']}/revisions/{job['head']['id']}"
        pdf = self.client.get(f"{base}/assembly/pdf")
        self.assertEqual((pdf.status_code, pdf.content[:5]), (200, b"%PDF-"))
        self.assertIn("twice-assembly.pdf", pdf["Content-Disposition"])
        self.assertIn(b"<svg", self.client.get(f"{base}/assembly/svg").content)
        refused = self.client.get(f"{base}/assembly/dxf")
        self.assertEqual(refused.status_code, 400)
        self.assertIn("pdf, svg", refused.json()["sentence"])


class Pictures(Case):
    def setUp(self):
        self.job = self.upload(KETTLE.read_bytes(), "kettle.png").json()

    def test_lie_in_the_drawing_at_their_size(self):
        drawing = self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.job['head']['document']}/drawing").json()
        self.assertEqual((drawing["pieces"], [p["size_px"] for p in drawing["pictures"]]), ([], [[1299, 1063]]))
        self.assertIn("wide as a postcard's short side", self.job["head"]["size_in_words"])
        sketch = self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.job['head']['document']}/sketch").json()
        self.assertEqual(len(sketch["pictures"]), 1)

    def test_are_shown_as_new_bytes_to_their_job_only(self):
        drawing = self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.job['head']['document']}/drawing").json()
        address = f"/api/jobs/{self.job['id']}/pictures/{drawing['pictures'][0]['sha256']}"
        shown = self.client.get(address)
        self.assertEqual((shown.status_code, shown["Content-Type"]), (200, "image/jpeg"))
        self.assertIn("immutable", shown["Cache-Control"])
        other = self.begin()
        self.refused(self.client.get(address.replace(self.job["id"], other["id"])), 404, "not-there")

    def test_a_picture_inside_a_drawing_is_one_of_the_job(self):
        inside = base64.b64encode(KETTLE.read_bytes()).decode()
        head = '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="50mm" viewBox="0 0 60 50">'
        image = f'<image x="5" y="5" width="40" href="data:image/png;base64,{inside}"/>'
        job = self.upload(f'{head}{image}<rect width="9" height="9"/></svg>'.encode(), "with.svg").json()
        drawing = self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing").json()
        (picture,) = drawing["pictures"]
        self.assertEqual(picture["size_px"], [1299, 1063])
        shown = self.client.get(f"/api/jobs/{job['id']}/pictures/{picture['sha256']}")
        self.assertEqual(shown.status_code, 200)

    def test_are_traced_changed_and_written_as_dxf(self):
        traced = self.revise(self.job, {"operation": "trace", "parameters": {"threshold": 0.2}}).json()
        step = traced["head"]["steps"][-1]
        self.assertEqual((step["station"], step["statistics"]["threshold"]), ("trace", 0.2))
        keys = [{"key": s["key"]} for s in traced["head"]["steps"][:-1]]
        again = {"key": step["key"], "parameters": {"threshold": 0.3}}
        body = {"based_on": traced["head"]["id"], "steps": [*keys, again]}
        changed = self.send(f"/api/jobs/{traced['id']}/revisions", body).json()
        self.assertEqual(changed["head"]["steps"][-1]["title"], "Traced by darkness, 30 %")
        file = self.client.get(f"/api/jobs/{changed['id']}/revisions/{changed['head']['id']}/files/dxf")
        self.assertTrue(file.content.lstrip().startswith(b"0") and b"AC1015" in file.content[:300])


class LongWork(Case):
    """What would take long is answered with a run; here everything takes long."""

    def setUp(self):
        patch = mock.patch.object(cost, "LONG", -1.0)
        patch.start()
        self.addCleanup(patch.stop)

    def test_a_new_job_a_file_a_step_and_a_check(self):
        run = self.upload()
        self.assertEqual((run.status_code, run.json()["kind"], run.json()["state"]), (202, "bring-in", "waiting"))
        with mock.patch.object(cost, "LONG", 10.0):
            job = self.begin()
        for response, kind in (
            (self.upload(address=f"/api/jobs/{job['id']}/sources"), "bring-in"),
            (self.revise(job, {"operation": "mend", "parameters": {}}), "revision"),
            (self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings"), "check"),
        ):
            self.assertEqual((response.status_code, response.json()["kind"]), (202, kind))

    def test_is_followed_and_stopped(self):
        with mock.patch.object(cost, "LONG", 10.0):
            job = self.begin()
        run = self.revise(job, {"operation": "mend", "parameters": {}}).json()
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}").json()["run"]["id"], run["id"])
        Run.objects.filter(pk=run["id"]).update(state="running", progress=0.5, stage="Mend")
        self.assertEqual(self.client.get(f"/api/jobs/{run['job']}/runs/{run['id']}").json()["progress"], 0.5)
        self.assertEqual(
            self.client.post(f"/api/jobs/{run['job']}/runs/{run['id']}/cancel").json()["state"], "cancelled"
        )
        self.assertIsNone(self.client.get(f"/api/jobs/{job['id']}").json()["run"])

    def test_what_is_surely_not_readable_is_refused_at_once(self):
        before = Job.objects.count()
        self.refused(self.upload(b"nothing", "a.xyz"), 415, "unknown-format")
        self.assertEqual((Job.objects.count(), Run.objects.count()), (before, 0))


class Welding(Case):
    def test_what_is_shown_to_go_is_what_lies_inside(self):
        svg = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">
<path d="M10 10H30V30H10Z"/><path d="M20 20H40V40H20Z"/></svg>"""
        job = self.upload(svg, "two.svg").json()
        finding = next(f for f in self.findings(job) if f["id"] == "overlapping-shape")
        shown = self.client.get(
            f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings/{finding['key']}/mend"
        ).json()
        points = np.frombuffer(base64.b64decode(shown["goes"]["points"]), "<f4").reshape(-1, 2)
        start = shown["goes"]["start"]
        runs = [points[a:b] for a, b in zip(start[:-1], start[1:], strict=True)]
        along = sum(float(np.hypot(*np.diff(run, axis=0).T).sum()) for run in runs)
        # Four stretches of 10 mm, but for a step at each of their ends.
        self.assertAlmostEqual(along, 40.0, delta=1.0)
        self.assertTrue(((points > 19.9) & (points < 30.1)).all())
        left, top, width, height = shown["view"]
        self.assertTrue(left < 10 and top < 10 and left + width > 40 and top + height > 40)
