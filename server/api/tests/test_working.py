"""What a machine does with a job: its program, its file, and the order of the person."""

from __future__ import annotations

import base64
import hashlib
import io
import json
import zipfile

import numpy as np

from .test_api import Case

TWO = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80">'
    b'<path id="a" d="M10 10h30v30h-30z M20 20v10h10v-10z" fill="#222" fill-rule="evenodd"/>'
    b'<circle id="b" cx="80" cy="30" r="15" fill="#222"/></svg>'
)


class Worked(Case):
    def setUp(self):
        self.job = self.upload(TWO, "two.svg").json()
        self.job = self.revise_settings(machine="laser-bed", material="thin-wood")

    def revise_settings(self, **settings):
        answer = self.revise(self.job, settings=settings)
        self.assertEqual(answer.status_code, 201, answer.content)
        return answer.json()

    def at(self, tail: str) -> str:
        return f"/api/jobs/{self.job['id']}/revisions/{self.job['head']['id']}/{tail}"

    def program(self, tail: str = "") -> dict:
        answer = self.client.get(self.at(f"program{tail}"))
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        return answer.json()


class Programs(Worked):
    def test_runs_times_and_proof_are_told(self):
        found = self.program()
        self.assertEqual(found["machine"]["id"], "laser-bed")
        self.assertEqual((found["format"], found["page_mm"]), ("gcode", [120.0, 80.0]))
        self.assertTrue(found["proof"]["holds"])
        self.assertLess(found["compensation"]["kerf_off_mm"], 0.01)
        # As its material is set for this machine.
        tool = found["tools"][0]
        self.assertEqual((tool["speed_mm_s"], tool["power_percent"], tool["force_g"]), (12.0, 80.0, None))
        self.assertEqual(len(found["runs"]["tool"]), 3)
        self.assertEqual(found["names"], ["a", "b"])
        times = sum(found["runs"]["seconds"]) + sum(found["runs"]["travel_s"])
        self.assertAlmostEqual(times, found["seconds"], places=2)
        points = np.frombuffer(base64.b64decode(found["lines"]["points"]), "<f4").reshape(-1, 2)
        clock = np.frombuffer(base64.b64decode(found["clock"]), "<f4")
        self.assertEqual(len(points), len(clock))
        # Half of 0.2 mm beyond the outlines.
        self.assertAlmostEqual(float(points[:, 0].min()), 9.9, places=3)

    def test_the_file_is_from_a_run_on_and_without_what_is_done(self):
        whole = self.client.get(self.at("program/file")).content.decode()
        self.assertEqual((whole.count("G0 X"), whole.count("S800")), (3, 3))
        part = self.client.get(self.at("program/file?from=1")).content.decode()
        self.assertEqual(part.count("G0 X"), 2)
        piece = self.program()["pieces"][0]
        left = self.client.get(self.at(f"program/file?done={piece}"))
        self.assertEqual(left.content.decode().count("G0 X"), 1)
        self.assertIn("attachment", left["Content-Disposition"])

    def test_an_order_of_ones_own_is_a_step(self):
        pieces = self.program()["pieces"]
        for first in (pieces, pieces[::-1]):
            step = {"operation": "work-order", "parameters": {"first": first}}
            self.job = self.revise(self.job, step).json()
            found = self.program()
            self.assertEqual(found["pieces"][found["runs"]["piece"][0]], first[0])
            self.assertTrue(found["proof"]["holds"])

    def test_handover_and_weeding_are_of_the_same_program(self):
        proof = self.client.get(self.at("proof/gcode")).json()
        self.assertTrue(proof["holds"])
        self.assertLess(proof["compensation"]["kerf_off_mm"], 0.01)
        self.assertEqual(self.client.get(self.at("proof/svg")).json()["compensation"], None)
        document = self.job["head"]["document"]
        weeded = self.client.get(f"/api/jobs/{self.job['id']}/documents/{document}/weeded/laser-bed").json()
        # What is kept is as large as it is drawn.
        self.assertAlmostEqual(weeded["layers"][0]["area_mm2"], 800 + np.pi * 225, delta=0.5)

    def test_sheets_have_programs_of_their_own(self):
        self.job = self.revise(self.job, {"operation": "sheets", "parameters": {}}).json()
        found = self.program("?sheet=1")
        self.assertEqual(found["page_mm"], [300.0, 200.0])
        self.assertTrue(found["proof"]["holds"])
        self.refused(self.client.get(self.at("program?sheet=9")), 404, "not-there", "not there")
        self.refused(self.client.get(self.at("program?sheet=x")), 400, "bad-request", "")

    def test_without_a_machine_lines_run_as_drawn(self):
        self.job = self.revise_settings(machine=None)
        found = self.program()
        self.assertEqual((found["machine"], found["compensation"], found["format"]), (None, None, "hpgl"))
        self.assertTrue(found["proof"]["holds"])


class Archives(Worked):
    def test_all_that_is_handed_over_comes_in_one_archive(self):
        answer = self.client.get(self.at("archive"))
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        self.assertIn("two.zip", answer["Content-Disposition"])
        self.assertEqual(answer.content, self.client.get(self.at("archive")).content)
        with zipfile.ZipFile(io.BytesIO(answer.content)) as file:
            proofs = json.loads(file.read("proofs.json"))
            self.assertTrue(proofs["design-cut.gcode"]["holds"])
            self.assertEqual(
                hashlib.sha256(file.read("design-cut.gcode")).hexdigest(), proofs["design-cut.gcode"]["sha256"]
            )
            self.assertIn("thin wood 3 mm", file.read("READ-ME.txt").decode() + str(self.job["head"]["held"]))


class CuttingTests(Case):
    def test_a_grid_is_written_for_a_machine(self):
        asked = "/api/library/cutting-test?machine=laser-bed&speeds=10&speeds=20&strengths=30&strengths=60&strengths=90"
        answer = self.client.get(asked)
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        text = answer.content.decode()
        self.assertEqual({"S300", "S600", "S900"}, {w for w in text.split() if w.startswith("S")})
        self.assertIn("test-laser", answer["Content-Disposition"])
        self.refused(self.client.get(asked.replace("speeds=20", "speeds=9999")), 400, "bad-request", "9999 mm/s")
        self.refused(self.client.get(asked.replace("laser-bed", "none")), 400, "bad-request", "none")
