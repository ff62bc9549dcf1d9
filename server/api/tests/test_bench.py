"""What the bench asks for beside the drawing: readings, near lines, what weeding leaves, copies, and settings of pieces."""

import base64
import math
from unittest import mock

import numpy as np

from hakobu.machines import PROFILES
from jobs import history, runs
from jobs.models import Revision

from .test_api import Case

RING = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">
<path id="ring" fill="#225588" fill-rule="evenodd" d="M10 30a20 20 0 1 0 40 0a20 20 0 1 0 -40 0zM25 30a5 5 0 1 0 10 0a5 5 0 1 0 -10 0z"/>
<g id="other"><circle id="disc" fill="#cc2200" cx="70" cy="30" r="8"/></g></svg>"""


class Bench(Case):
    def setUp(self):
        self.job = self.upload(RING, "ring.svg").json()
        self.document = self.job["head"]["document"]
        self.pieces = self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.document}/drawing").json()["pieces"]
        self.ring, self.disc = (piece["id"] for piece in self.pieces)

    def ask(self, what: str, body: dict) -> dict:
        response = self.send(f"/api/jobs/{self.job['id']}/documents/{self.document}/{what}", body)
        self.assertEqual(response.status_code, 200, response.content)
        return response.json()


class Readings(Bench):
    def test_a_piece_and_one_of_its_holes(self):
        whole = self.ask("reading", {"picks": [{"piece": self.ring}]})
        self.assertAlmostEqual(whole["area_mm2"], math.pi * (400 - 25), 5)
        self.assertAlmostEqual(whole["thin_mm"], 15.0, 5)
        hole = self.ask("reading", {"picks": [{"piece": self.ring, "outline": 1}]})
        self.assertAlmostEqual(hole["radius_mm"], 5.0, 6)
        gone = self.send(
            f"/api/jobs/{self.job['id']}/documents/{self.document}/reading", {"picks": [{"piece": "nobody"}]}
        )
        self.refused(gone, 404, "not-there", "pick it again")

    def test_near_lines_and_the_next_ones(self):
        line = self.ask("near", {"x": 51, "y": 30})["line"]
        self.assertEqual((line["piece"], round(line["distance_mm"], 6)), (self.ring, 1.0))
        self.assertAlmostEqual(line["next_mm"], 12.0, 6)

    def test_the_ruler_goes_from_line_to_line(self):
        ends = {"first": {"x": 50.004, "y": 30, "on_line": True}, "last": {"x": 62.001, "y": 30, "on_line": True}}
        found = self.ask("between", ends)
        self.assertAlmostEqual(found["distance_mm"], 12.0, 6)
        free = {"first": {"x": 1, "y": 1, "on_line": False}, "last": {"x": 4, "y": 5, "on_line": False}}
        self.assertEqual((self.ask("between", free)["distance_mm"], self.ask("between", free)["down_mm"]), (5.0, 4.0))

    def test_handles_stand_on_their_nodes(self):
        curve = b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><path d="M1 1C2 1 3 2 3 3"/></svg>'
        self.job = self.upload(curve, "curve.svg").json()
        self.document = self.job["head"]["document"]
        drawing = self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.document}/drawing").json()
        piece = drawing["pieces"][0]["id"]
        handles = np.frombuffer(base64.b64decode(self.ask("handles", {"pieces": [piece]})["handles"]), "<f4")
        self.assertEqual(handles.reshape(-1, 4).tolist(), [[1, 1, 2, 1], [3, 3, 3, 2]])

    def test_shapes_of_a_compound(self):
        self.assertEqual(
            self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.document}/apart").json(), {"paths": {}}
        )
        two = RING.replace(b"M25 30a5", b"M85 30a5")
        job = self.upload(two, "two.svg").json()
        (shapes,) = (
            self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/apart").json()["paths"].values()
        )
        self.assertEqual(shapes, [[0], [1]])


class Weeded(Bench):
    def test_what_stays_is_what_the_design_paints(self):
        for machine in ("any", *(profile.id for profile in PROFILES)):
            answer = self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.document}/weeded/{machine}")
            self.assertIn("immutable", answer["Cache-Control"])
            layers = answer.json()["layers"]
            area = sum(layer["area_mm2"] for layer in layers)
            self.assertAlmostEqual(area, math.pi * (375 + 64), delta=4)
            self.assertEqual(sum(layer["pieces"] for layer in layers), 2)
            self.assertEqual(sum(layer["waste"] for layer in layers), 1)
        self.refused(
            self.client.get(f"/api/jobs/{self.job['id']}/documents/{self.document}/weeded/nothing"),
            400,
            "bad-request",
            "not a machine",
        )

    def test_what_takes_long_is_worked_out_once_by_a_worker(self):
        address = f"/api/jobs/{self.job['id']}/documents/{self.document}/weeded/any"
        with mock.patch("jobs.weeded_view.SECONDS_PER_SEGMENT", 10.0):
            first, second = self.client.get(address), self.client.get(address)
            self.assertEqual((first.status_code, first.json()["id"]), (202, second.json()["id"]))
            runs.carry_out(first.json()["id"], runs.begin(first.json()["id"]))
            self.assertEqual(
                self.client.get(f"/api/jobs/{first.json()['job']}/runs/{first.json()['id']}").json()["state"], "done"
            )
            kept = self.client.get(address)
            self.assertEqual((kept.status_code, len(kept.json()["layers"])), (200, 2))


class Copies(Bench):
    def test_a_copy_stands_on_its_own(self):
        job = self.revise(self.job, {"operation": "resize", "parameters": {"width_mm": 136}}).json()
        made = self.send(f"/api/jobs/{job['id']}/copies", {"name": "Branch"}).json()
        self.assertEqual((made["name"], made["head"]["document"]), ("Branch", job["head"]["document"]))
        self.assertEqual(
            [step["key"] for step in made["head"]["steps"]], [step["key"] for step in job["head"]["steps"]]
        )
        changed = self.revise(made, {"operation": "resize", "parameters": {"width_mm": 68}}).json()
        self.assertEqual(round(changed["head"]["statistics"]["width_mm"], 6), 68)
        first = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertEqual(first["head"]["id"], job["head"]["id"])

    def test_a_branch_ends_with_a_step(self):
        key = self.job["head"]["steps"][0]["key"]
        job = self.revise(self.job, {"operation": "resize", "parameters": {"width_mm": 136}}).json()
        made = self.send(f"/api/jobs/{job['id']}/copies", {"until": key}).json()
        self.assertEqual((made["name"], len(made["head"]["steps"])), ("Ring, copy", 1))
        self.assertEqual(made["head"]["document"], self.document)
        self.refused(self.send(f"/api/jobs/{job['id']}/copies", {"until": "none"}), 404, "not-there")


class Changes(Bench):
    def test_asked_for_twice_a_change_is_made_once(self):
        first = self.revise(self.job, {"operation": "resize", "parameters": {"width_mm": 136}}, token="t1").json()
        again = self.revise(self.job, {"operation": "resize", "parameters": {"width_mm": 136}}, token="t1")
        self.assertEqual((again.status_code, again.json()["head"]["id"]), (201, first["head"]["id"]))
        other = self.revise(self.job, {"operation": "resize", "parameters": {"width_mm": 136}}, token="t2")
        self.refused(other, 409, "changed-meanwhile")

    def test_asked_for_twice_at_once_a_change_is_made_once(self):
        resize, chain = {"operation": "resize", "parameters": {"width_mm": 136}}, history.run_chain

        def overtaken(*arguments):
            patch.stop()
            self.assertEqual(self.revise(self.job, resize, token="t1").status_code, 201)
            return chain(*arguments)

        patch = mock.patch.object(history, "run_chain", overtaken)
        patch.start()
        before = Revision.objects.count()
        self.assertEqual(self.revise(self.job, resize, token="t1").status_code, 201)
        self.assertEqual(Revision.objects.count(), before + 1)

    def test_pieces_are_named_hidden_locked_and_marked_without_a_change_to_what_is_made(self):
        pieces = {self.ring: {"name": "Rim", "hidden": True, "locked": True, "mark": "#2f5fd0"}}
        job = self.revise(self.job, settings={"pieces": pieces}).json()
        self.assertEqual(job["head"]["settings"]["pieces"], pieces)
        drawing = self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing").json()
        self.assertEqual(drawing["pieces"][0]["name"], "Rim")
        self.assertEqual([p["path"] for p in drawing["pieces"]], [p["path"] for p in self.pieces])
        address = f"/api/jobs/{job['id']}/revisions/{{}}/files/hpgl"
        before, after = (self.client.get(address.format(j["head"]["id"])).content for j in (self.job, job))
        self.assertEqual(before, after)

    def test_steps_change_places_where_all_still_find_what_they_are_for(self):
        moved = {"operation": "to-layer", "parameters": {"name": "Foil"}, "selection": {"on": {"ids": [self.disc]}}}
        job = self.revise(self.job, moved).json()
        bring, move = ({"key": step["key"]} for step in job["head"]["steps"])
        body = {"based_on": job["head"]["id"], "steps": [move, bring]}
        self.refused(self.send(f"/api/jobs/{job['id']}/revisions", body), 422, "cannot-do", "in this order")
        job = self.revise(job, {"operation": "resize", "parameters": {"factor": 1.02}}).json()
        bring, move, size = ({"key": step["key"]} for step in job["head"]["steps"])
        body = {"based_on": job["head"]["id"], "steps": [bring, size, move]}
        turned = self.send(f"/api/jobs/{job['id']}/revisions", body)
        self.assertEqual([s["operation"] for s in turned.json()["head"]["steps"]], ["bring-in", "resize", "to-layer"])
        self.assertEqual(turned.json()["head"]["statistics"], job["head"]["statistics"])
        self.assertEqual(turned.json()["head"]["parent_document"], job["head"]["document"])
