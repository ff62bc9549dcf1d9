"""Steps of any operation: named by their parameters and their pieces, shown beforehand, kept, and changed afterwards."""

import json
import re
import struct
from pathlib import Path
from unittest import mock

from hakobu.operations import OPERATIONS, operation_of, schema_of
from jobs import cost
from jobs.models import Job, Result, StepVersion
from previews import steps

from .test_api import Case

TWO = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">
<rect id="a" x="10" y="10" width="40" height="40" fill="#225588"/>
<rect id="b" x="30" y="20" width="40" height="20" fill="#225588"/></svg>"""


class Steps(Case):
    def setUp(self):
        self.job = self.upload(TWO, "two.svg").json()
        self.pieces = [piece["id"] for piece in self.drawing()["pieces"]]

    def drawing(self, job=None):
        return self.client.get(
            f"/api/jobs/{(job or self.job)['id']}/documents/{(job or self.job)['head']['document']}/drawing"
        ).json()

    def step(self, operation="combine", **more):
        return {"operation": operation, "selection": {"on": {"ids": self.pieces}}, **more}

    def preview(self, step, number=1, job=None, checked=False):
        job = job or self.job
        asked = {
            "based_on": job["head"]["id"],
            "step": step,
            "tab": self.id()[-40:],
            "number": number,
            "checked": checked,
        }
        return self.send(f"/api/jobs/{job['id']}/steps/preview", asked)

    def head_of(self, answer):
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        size = struct.unpack("<I", answer.content[:4])[0]
        return json.loads(answer.content[4 : 4 + size])


class Shown(Steps):
    def test_what_a_step_would_do_is_told_and_nothing_kept(self):
        before = Result.objects.count()
        head = self.head_of(self.preview(self.step(), checked=True))
        self.assertEqual((head["title"], head["gone"]), ("2 pieces made one", self.pieces))
        self.assertEqual((head["before"]["pieces"], head["after"]["pieces"], len(head["pieces"])), (2, 1, 1))
        self.assertEqual((head["report"]["area_mm2"], head["findings"]["made"]), (2000.0, []))
        self.assertEqual(Result.objects.count(), before)

    def test_a_step_that_cannot_be_done_says_why(self):
        self.refused(self.preview(self.step("holes")), 422, "cannot-do", "no such hole")
        self.refused(self.preview(self.step(parameters={"mode": "melt"})), 400, "bad-request", "weld, cut-away")
        self.refused(self.preview({"operation": "backing", "selection": {"on": {"ids": ["gone"]}}}), 422, "cannot-do")
        self.refused(self.preview({"operation": "backing", "selection": {"with": {"ids": []}}}), 400, "bad-request")

    def test_an_overtaken_question_is_not_answered(self):
        self.assertEqual(self.preview(self.step(), 5).status_code, 200)
        self.assertEqual(self.preview(self.step(), 4).status_code, 204)

    def test_what_takes_long_is_not_shown(self):
        with mock.patch.object(steps, "LONGEST", -1.0):
            self.refused(self.preview(self.step()), 413, "not-shown", "keep the step")

    def test_a_kept_step_is_shown_with_the_steps_after_it(self):
        job = self.revise(self.job, self.step("backing", parameters={"distance_mm": 2.0})).json()
        job = self.revise(job, {"operation": "resize", "parameters": {"factor": 2.0}}).json()
        key = job["head"]["steps"][1]["key"]
        head = self.head_of(self.preview({"key": key, "parameters": {"distance_mm": 5.0}}, job=job))
        self.assertEqual(head["title"], "Backing laid 5 mm out")
        self.assertAlmostEqual(head["after"]["width_mm"], 140.0, 6)


class Reopened(Steps):
    #: What the design of two squares cannot be tried with, or what other tests try.
    ELSEWHERE = {"bring-in", "trace", "split-by-colour", "merge-layers", "holes", "take-apart", "simplify"}
    ELSEWHERE |= {"let-in", "bridge", "join", "smooth", "lay"}
    GIVEN = {
        "page": {"width_mm": 300.0, "height_mm": 200.0},
        "resize": {"factor": 2.0},
        "place": {"move": [4.0, 0.0]},
        "align": {"x": "left"},
        "thicken": {"where": "all"},
        "size-by": {"feature": "distance", "to_mm": 30.0},
        "measure": {"kind": "distance"},
        "tiles": {"width_mm": 40.0},
        "cut-along": {"line": [[0.0, 20.0], [90.0, 20.0]]},
        "words": {"text": "Moth", "at": [40.0, 40.0]},
        "work-order": {"first": []},
        "start-points": {"places": {}},
        "tab-places": {"places": {}},
    }

    def test_a_kept_step_of_every_operation_is_shown_again_with_its_own_values_and_changed(self):
        layer = self.drawing()["layers"][0]["id"]
        given = {**self.GIVEN, "layer": {"layer": layer, "name": "Base"}, "to-layer": {"name": "Foil"}}
        for operation in OPERATIONS:
            if operation.id in self.ELSEWHERE:
                continue
            with self.subTest(operation.id):
                on = any(role.id == "on" for role in operation.roles)
                selection = {"on": {"ids": self.pieces}} if on else {}
                step = {"operation": operation.id, "parameters": given.get(operation.id, {}), "selection": selection}
                answer = self.revise(self.job, step, token=operation.id)
                self.assertEqual(answer.status_code, 201, answer.content)
                kept = answer.json()["head"]["steps"][-1]
                again = {name: kept[name] for name in ("key", "parameters", "selection")}
                if operation.id == "mend":
                    again.pop("selection")
                self.head_of(self.preview(again, job=answer.json()))
                steps = [{"key": s["key"]} for s in answer.json()["head"]["steps"][:-1]]
                body = {"based_on": answer.json()["head"]["id"], "steps": [*steps, again]}
                changed = self.send(f"/api/jobs/{self.job['id']}/revisions", body)
                self.assertEqual(changed.status_code, 201, changed.content)
                self.assertEqual(changed.json()["head"]["document"], answer.json()["head"]["document"])
            self.job = self.client.get(f"/api/jobs/{self.job['id']}").json()
            while self.job["head"]["steps"][1:]:
                moved = self.send(
                    f"/api/jobs/{self.job['id']}/head", {"based_on": self.job["head"]["id"], "to": "undo"}
                )
                self.job = moved.json()

    def test_a_newer_version_of_a_file_is_reckoned_with_the_steps_after_it(self):
        job = self.revise(self.job, self.step("backing")).json()
        key = job["head"]["steps"][0]["key"]
        kept = Job.objects.select_related("head").get(pk=job["id"])
        with mock.patch.object(cost, "SECONDS_PER_STEP", 3.0):
            self.assertLess(cost.of_bringing(kept, TWO, None), 1.0)
            self.assertGreater(cost.of_bringing(kept, TWO, key), 3.0)


class Kept(Steps):
    def test_for_picked_pieces_and_for_those_a_query_means(self):
        job = self.revise(self.job, self.step()).json()
        self.assertEqual(len(self.drawing(job)["pieces"]), 1)
        self.assertEqual(job["head"]["steps"][-1]["selection"], {"on": {"ids": self.pieces, "query": ""}})
        query = {"on": {"query": "named nothing"}}
        self.refused(self.revise(job, {"operation": "backing", "selection": query}), 422, "cannot-do", "means no piece")
        self.refused(
            self.revise(job, {"operation": "backing", "selection": {"on": {"query": "larger"}}}), 400, "bad-request"
        )

    def test_pieces_of_before_there_was_a_selection_are_still_found(self):
        job = self.revise(self.job, self.step("remove", selection={"on": {"ids": self.pieces[:1]}})).json()
        old = StepVersion.objects.latest("pk")
        StepVersion.objects.filter(pk=old.pk).update(version=1, parameters={"pieces": self.pieces[:1]})
        job = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertEqual(job["head"]["steps"][-1]["parameters"], {})
        job = self.revise(job, {"operation": "resize", "parameters": {"factor": 2.0}}).json()
        self.assertEqual([step["stopped"] for step in job["head"]["steps"]], ["", "", ""])
        self.assertEqual(len(self.drawing(job)["pieces"]), 1)

    def test_the_page_begins_a_trace_with_the_values_that_are_declared(self):
        text = (Path(__file__).parents[3] / "web" / "src" / "stores" / "traceOptions.ts").read_text()
        block = re.search(r"plain = \(\): TraceOptions => \(\{(.*?)\}\)", text, re.S)[1]
        found = dict(re.findall(r"^  (\w+): (.*),$", block, re.M))
        rows = {row["name"]: row["default"] for row in schema_of(operation_of("trace"))}
        self.assertEqual(set(rows) - set(found), {"picture", "mode", "threshold", "smoothness_mm", "smallest_mm2"})
        for name, value in found.items():
            self.assertEqual(json.loads(value.replace("'", '"')), json.loads(json.dumps(rows[name])), name)

    def test_the_document_of_the_api_has_the_parameters_of_every_operation(self):
        text = (steps.__file__).replace("previews/steps.py", "api/openapi.yaml")
        with open(text) as file:
            schema = file.read()
        for operation in OPERATIONS:
            self.assertIn(f"          - {operation.id}\n", schema)
