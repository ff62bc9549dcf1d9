"""Intake over the API: archives to choose from, a newer version of a file, the sizes a file may be meant to have."""

import io
import zipfile
from datetime import timedelta
from pathlib import Path

import numpy as np
from django.utils import timezone

from jobs.models import Blob, Staged
from jobs.staging import forget_old

from .test_api import KETTLE, Case

BARE = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 288 96"><path d="M0 0H288V96H0Z" fill="#a00"/></svg>'
NEWER = BARE.replace(b"H288V96H0", b"H144V96H0")
TITLE = Path(__file__).parents[3] / "demo" / "files" / "van-title.svg"


def zipped(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name.replace("__", "."), data)
    return out.getvalue()


class Archives(Case):
    def stage(self) -> list[dict]:
        data = zipped(bare__svg=BARE, kettle__png=KETTLE.read_bytes(), licence__txt=b"yours")
        response = self.upload(data, "shop.zip", "/api/archives")
        self.assertEqual(response.status_code, 201, response.content)
        return response.json()["files"]

    def test_are_looked_at_and_chosen_from(self):
        files = self.stage()
        self.assertEqual(
            [(f["name"], f["format"], f["bytes"]) for f in files],
            [("bare.svg", "svg", len(BARE)), ("kettle.png", "png", len(KETTLE.read_bytes())), ("licence.txt", "", 5)],
        )
        look = self.client.get(f"/api/staged/{files[0]['id']}/look").json()
        self.assertEqual((look["width_mm"], look["pieces"], look["nodes"], look["is_picture"]), (76.2, 1, 4, False))
        self.assertIn("without a unit", look["said"][0])
        self.assertEqual(len(look["sketch"]["pieces"]), 1)
        self.assertTrue(self.client.get(f"/api/staged/{files[1]['id']}/look").json()["is_picture"])
        picture = self.client.get(f"/api/staged/{files[1]['id']}/picture")
        self.assertTrue(picture["Content-Type"].startswith("image/"))
        self.refused(self.client.get(f"/api/staged/{files[2]['id']}/look"), 415, "unknown-format", "licence.txt")

        job = self.client.post("/api/jobs", {"staged": files[0]["id"]}).json()
        self.assertEqual((job["name"], job["head"]["statistics"]["pieces"]), ("Bare", 1))
        sources = f"/api/jobs/{job['id']}/sources"
        more = self.client.post(sources, {"staged": files[1]["id"], "based_on": job["head"]["id"]}).json()
        self.assertEqual([s["title"] for s in more["head"]["steps"]], ["bare.svg brought in", "kettle.png brought in"])
        self.refused(self.client.post(sources, {}), 400, "bad-request", "one file")

    def test_what_is_no_archive_or_a_bad_one_is_refused(self):
        self.refused(self.upload(BARE, "a.svg", "/api/archives"), 415, "unknown-format", "not an archive")
        self.refused(
            self.upload(zipped(a__svg=BARE)[:60], "a.zip", "/api/archives"), 422, "unreadable-file", "fetch it again"
        )
        self.refused(self.upload(zipped(a__svg=BARE), "a.zip"), 415, "unknown-format", "is an archive")

    def test_what_nobody_chose_is_forgotten_after_a_day(self):
        files = self.stage()
        self.client.post("/api/jobs", {"staged": files[0]["id"]})
        blobs = {f["name"]: Staged.objects.get(pk=f["id"]).blob_id for f in files}
        forget_old()
        self.assertEqual(Staged.objects.count(), 3)
        Staged.objects.update(created=timezone.now() - timedelta(days=2))
        forget_old()
        self.assertEqual(Staged.objects.count(), 0)
        there = set(Blob.objects.filter(pk__in=blobs.values()).values_list("pk", flat=True))
        self.assertEqual(there, {blobs["bare.svg"]})


class Sizes(Case):
    def test_a_wrong_scale_is_doubted_and_put_right_for_its_file_alone(self):
        job = self.upload(BARE, "bare.svg").json()
        source = job["head"]["steps"][0]["source"]
        self.assertEqual((source["in_words"], "no unit" in source["doubt"]), ("about as wide as a bank card", True))
        right = next(size for size in source["sizes"] if size["reading"] == "72 units an inch")
        self.assertAlmostEqual(right["width_mm"], 101.6)
        job = self.upload(TITLE.read_bytes(), "title.svg", f"/api/jobs/{job['id']}/sources").json()
        first, second = job["head"]["steps"]
        self.assertEqual(second["source"]["doubt"], "")
        values = {**first["parameters"], "scale": right["factor"], "reading": right["reading"]}
        body = {
            "based_on": job["head"]["id"],
            "steps": [{"key": first["key"], "parameters": values}, {"key": second["key"]}],
        }
        first, after = self.send(f"/api/jobs/{job['id']}/revisions", body).json()["head"]["steps"]
        self.assertEqual((round(first["statistics"]["width_mm"], 4), first["source"]["doubt"]), (101.6, ""))
        self.assertEqual(after["statistics"]["width_mm"], second["statistics"]["width_mm"])

    def test_what_is_said_of_two_files_alike_can_be_told_apart(self):
        job = self.upload(BARE, "a.svg").json()
        job = self.upload(NEWER, "b.svg", f"/api/jobs/{job['id']}/sources").json()
        said = [f for f in self.findings(job) if f["id"] == "no-unit"]
        self.assertEqual([f["step"] for f in said], [s["key"] for s in job["head"]["steps"]])
        self.assertEqual(len({f["key"] for f in said}), 2)


class Small(Case):
    def test_what_is_small_is_drawn_as_finely_as_it_is_looked_at(self):
        circle = b'<svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="4mm" viewBox="0 0 4 4"><circle cx="2" cy="2" r="1"/></svg>'
        job = self.upload(circle, "rivet.svg").json()
        (path,) = self.paths(job["id"], job["head"]["document"]).values()
        points = path.points - 2
        middles = (points[1:] + points[:-1]) / 2
        self.assertLess(1 - np.hypot(*middles.T).min(), 2 / 4000)


class Newer(Case):
    def test_a_version_takes_the_place_of_the_one_before_and_later_steps_follow(self):
        job = self.upload(BARE, "bare.svg").json()
        key = job["head"]["steps"][0]["key"]
        job = self.revise(job, {"operation": "resize", "parameters": {"factor": 2.0}}).json()
        self.assertAlmostEqual(job["head"]["statistics"]["width_mm"], 152.4)
        sources = f"/api/jobs/{job['id']}/sources"
        newer = self.upload(NEWER, "bare 2.svg", sources, replaces=key, based_on=job["head"]["id"]).json()
        self.assertEqual([s["key"] for s in newer["head"]["steps"]], [s["key"] for s in job["head"]["steps"]])
        self.assertEqual(newer["head"]["steps"][0]["title"], "bare 2.svg brought in")
        self.assertAlmostEqual(newer["head"]["statistics"]["width_mm"], 76.2)
        self.refused(self.upload(NEWER, "b.svg", sources, replaces="gone"), 404, "not-there", "replaced")


class Listed(Case):
    def test_the_file_written_is_listed_as_it_will_be_taken_apart(self):
        ring = b'<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50"><path id="ring" fill-rule="evenodd" d="M0 0H40V40H0ZM10 10H20V20H10Z"/></svg>'
        job = self.upload(ring, "ring.svg").json()
        for kind in ("svg", "dxf", "hpgl", "gcode"):
            proof = self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/proof/{kind}").json()
            line = proof["pieces"][0]
            self.assertEqual(
                (proof["piece_count"], line["outers"], line["holes"], line["open"]), (1, 1, 1, False), kind
            )
            self.assertAlmostEqual(line["width_mm"], 40, places=3)

    def test_the_chosen_machine_is_told_its_speed_and_force(self):
        job = self.begin()
        for machine, told in (("roll-cutter", True), ("desk-cutter", False)):
            chosen = self.revise(job, settings={"machine": machine}).json()
            job = chosen
            file = self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/hpgl").content
            self.assertEqual(b"VS30;FS80;" in file, told)

    def test_a_picture_that_is_printed_is_in_the_file(self):
        job = self.upload(KETTLE.read_bytes(), "kettle.png").json()
        job = self.upload(BARE, "bare.svg", f"/api/jobs/{job['id']}/sources").json()
        drawing = self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing").json()
        layer = drawing["pictures"][0]["layer"]
        address = f"/api/jobs/{job['id']}/revisions/{{}}/files/svg"
        self.assertNotIn(b"<image", self.client.get(address.format(job["head"]["id"])).content)
        step = {"operation": "layer", "parameters": {"layer": layer, "treatment": "print"}}
        job = self.revise(job, step).json()
        self.assertIn(b"<image", self.client.get(address.format(job["head"]["id"])).content)
