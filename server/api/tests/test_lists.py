"""The lists of materials, machines and purposes as the browser changes them, and the jobs that were held against them."""

from pathlib import Path
from unittest.mock import patch

from .test_api import Case

FILES = Path(__file__).parents[3] / "demo" / "files"


class Lists(Case):
    def setUp(self):
        super().setUp()
        self.now = self.client.get("/api/library").json()

    def put(self, kind: str, entries: list[dict], based_on: int | None = None, status: int = 200) -> dict:
        data = {"based_on": self.now["lists"] if based_on is None else based_on, "entries": entries, "what": "changed"}
        response = self.client.put(f"/api/library/{kind}", data, content_type="application/json")
        self.assertEqual(response.status_code, status, response.content)
        if status == 200:
            self.now = response.json()
        return response.json()

    def with_values(self, kind: str, identity: str, **values) -> list[dict]:
        return [{**row, **values} if row["id"] == identity else row for row in self.now[kind]]

    def strips(self, job: dict) -> int:
        return sum(finding["id"] == "thin-strip" for finding in self.findings(job))

    def tree(self, **settings) -> dict:
        job = self.upload((FILES / "tree-bought.svg").read_bytes(), "tree-bought.svg").json()
        return self.revise(job, settings={"material": "black-card", **settings}).json()

    def test_a_change_is_a_new_number_and_the_one_before_stays(self):
        made = self.put("materials", self.with_values("materials", "felt", least_strip_mm=2.5))
        self.assertGreater(made["lists"], 0)
        self.assertEqual([m["least_strip_mm"] for m in made["materials"] if m["id"] == "felt"], [2.5])
        self.assertEqual([m["least_strip_mm"] for m in made["shipped"]["materials"] if m["id"] == "felt"], [3.0])
        again = self.put("materials", made["materials"])
        self.assertEqual(again["lists"], made["lists"])

    def test_a_job_keeps_what_it_was_held_against_until_it_takes_the_new_lists(self):
        job = self.tree()
        before = self.strips(job)
        self.assertGreater(before, 0)
        lists = self.put("materials", self.with_values("materials", "black-card", least_strip_mm=0.05))["lists"]
        job = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertEqual((self.strips(job), job["head"]["held"]["differing"]), (before, ["black card 0.3 mm"]))
        job = self.revise(job, settings={"lists": lists}).json()
        self.assertEqual((self.strips(job), job["head"]["held"]["differing"]), (0, []))
        self.assertEqual(job["head"]["held"]["bears"]["least_strip_mm"], 0.05)
        self.assertEqual(job["head"]["what"], "Values of the lists updated")
        undone = self.client.post(
            f"/api/jobs/{job['id']}/head",
            {"to": "undo", "based_on": job["head"]["id"]},
            content_type="application/json",
        ).json()
        self.assertEqual(self.strips(undone), before)

    def test_a_material_of_ones_own_holds_for_a_layer_too(self):
        own = {**self.now["materials"][0], "id": "my-foil", "name": "my foil", "least_strip_mm": 0.05}
        lists = self.put("materials", [*self.now["materials"], own])["lists"]
        job = self.tree()
        drawing = self.client.get(f"/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing").json()
        steps = [
            {"operation": "layer", "parameters": {"layer": each["id"], "material": "my-foil"}}
            for each in drawing["layers"]
        ]
        job = self.revise(job, *steps, settings={"lists": lists}).json()
        self.assertEqual(self.strips(job), 0)
        self.put("materials", [m for m in self.now["materials"] if m["id"] != "my-foil"])
        now = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertEqual(now["head"]["held"]["differing"], ["my foil"])
        lead = {"operation": "layer", "parameters": {"layer": drawing["layers"][0]["id"], "material": "lead"}}
        self.assertEqual(self.revise(job, lead).status_code, 400)

    def test_what_is_taken_off_the_list_is_refused_by_name(self):
        job = self.tree()
        lists = self.put("materials", [m for m in self.now["materials"] if m["id"] != "black-card"])["lists"]
        refused = self.revise(job, settings={"lists": lists})
        self.assertEqual(refused.status_code, 400)
        self.assertIn("black-card", refused.json()["sentence"])
        still = self.client.get(f"/api/jobs/{job['id']}").json()["head"]["held"]
        self.assertEqual((still["material"], still["differing"]), ("black card 0.3 mm", ["black card 0.3 mm"]))

    def test_a_machine_of_the_list_writes_its_own_files(self):
        job = self.revise(self.tree(), settings={"machine": "desk-cutter", "material": "paper"}).json()
        address = f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/hpgl"
        before = self.client.get(address).content
        lists = self.put("machines", self.with_values("machines", "desk-cutter", speed_mm_s=120.0))["lists"]
        self.assertEqual(self.client.get(address).content, before)
        job = self.revise(job, settings={"lists": lists}).json()
        self.assertIn(
            b"VS12", self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/files/hpgl").content
        )

    def test_a_purpose_of_ones_own_decides_what_may_come_loose(self):
        own = {"id": "lamp", "name": "before a lamp", "says": "It hangs free.", "parts_hold": True, "is_stencil": False}
        lists = self.put("purposes", [*self.now["purposes"], own])["lists"]
        job = self.upload((FILES / "window-branch.svg").read_bytes(), "window-branch.svg").json()
        job = self.revise(job, settings={"lists": lists, "purpose": "lamp"}).json()
        self.assertIn("drop-out", {finding["id"] for finding in self.findings(job)})
        self.assertEqual(job["head"]["held"]["purpose_says"], "It hangs free.")

    def test_what_does_not_fit_or_came_too_late_changes_nothing(self):
        said = self.put("materials", self.with_values("materials", "felt", least_strip_mm=900), status=400)["sentence"]
        self.assertIn("felt", said)
        self.put("sheets", [], status=400)
        self.put("materials", [], based_on=99, status=404)
        self.put("materials", self.with_values("materials", "felt", least_strip_mm=2.5))
        late = self.put("materials", self.now["shipped"]["materials"][:2], based_on=0, status=409)
        self.assertEqual(late["code"], "changed-meanwhile")
        self.assertEqual(len(self.client.get("/api/library").json()["materials"]), len(self.now["materials"]))
        job = self.tree()
        self.assertEqual(self.revise(job, settings={"lists": 99}).status_code, 404)

    def test_of_two_first_changes_at_once_only_one_is_kept(self):
        self.put("materials", self.with_values("materials", "felt", least_strip_mm=2.5))
        # As it looks to whoever asked in the same instant.
        with patch("library.lists.newest", return_value=0):
            said = self.put("materials", self.now["shipped"]["materials"][:2], based_on=0, status=409)
        self.assertEqual(said["code"], "changed-meanwhile")
