"""Sizing over the wire: measures, targets, and steps that keep their numbers, shown beforehand and kept."""

from .test_steps import Steps

SQUARE = "M0 0H10V10H0Z"


class Sizes(Steps):
    def measured(self, job):
        return self.drawing(job)["dimensions"]

    def test_measures_follow_later_steps_and_tell_when_they_are_off(self):
        measure = {
            "operation": "measure",
            "parameters": {"kind": "distance", "ends": [10, 10, 50, 10], "must_mm": 40.0},
        }
        head = self.head_of(self.preview(measure))
        self.assertEqual([d["text"] for d in head["dimensions"]], ["40 mm"])
        job = self.revise(self.job, measure).json()
        (kept,) = self.measured(job)
        self.assertEqual((kept["id"], kept["holds"]), (job["head"]["steps"][-1]["key"], True))
        job = self.revise(job, {"operation": "resize", "parameters": {"factor": 1.5}}).json()
        (kept,) = self.measured(job)
        self.assertAlmostEqual(kept["size"], 60.0, places=9)
        found = [finding["message"] for finding in self.findings(job) if finding["id"] == "dimension-off"]
        self.assertEqual(found, ['"distance" must be 40 mm, and is 60 mm.'])

    def test_what_is_measured_while_a_step_is_set_up_is_drawn_where_it_would_be(self):
        values = {"feature": "distance", "ends": [10, 10, 50, 10], "to_mm": 20.0}
        head = self.head_of(self.preview({"operation": "size-by", "parameters": values}))
        (mark,) = head["marks"]
        self.assertEqual((mark["text"], head["dimensions"]), ("20 mm", []))
        self.assertAlmostEqual(mark["ends"][1][0] - mark["ends"][0][0], 20.0, places=6)

    def test_a_target_lies_under_the_design_with_its_clearance(self):
        job = self.revise(self.job, settings={"target": "tile"}).json()
        under = job["head"]["target"]
        # 60 x 40 in the middle of 150 x 150.
        self.assertAlmostEqual(under["clearance_mm"], 45.0, places=6)
        self.assertEqual((under["name"], job["head"]["held"]["target"]), ("tile 150 × 150", "tile 150 × 150"))
        target = next(t for t in self.client.get("/api/library").json()["targets"] if t["id"] == "tile")
        fit = {"operation": "resize", "parameters": {"target": target, "clear_mm": 5.0}}
        head = self.head_of(self.preview(fit, job=job))
        self.assertAlmostEqual(head["target"]["clearance_mm"], 5.0, places=6)
        self.assertAlmostEqual(head["after"]["width_mm"], 140.0, places=6)
        self.assertEqual(head["in_words"], "about as wide as a postcard")
        job = self.revise(job, settings={"target_off": [50.0, 0.0]}).json()
        self.assertAlmostEqual(job["head"]["target"]["clearance_mm"], -5.0, places=6)
        self.assertEqual([f["id"] for f in self.findings(job) if f["id"] == "beyond-target"], ["beyond-target"])
        self.assertEqual(self.revise(job, settings={"target": "moon"}).status_code, 400)

    def test_a_target_of_ones_own_is_checked_where_it_is_put_on_the_list(self):
        def put(**values):
            now = self.client.get("/api/library").json()
            own = {"id": "own", "name": "own", "width_mm": 80.0, "height_mm": 60.0, "shape": "outline", "corner_mm": 0}
            body = {"based_on": now["lists"], "entries": [*now["targets"], {**own, **values}], "what": "x"}
            return self.client.put("/api/library/targets", body, content_type="application/json")

        for outline in ("", "M0 0L9 9", "Q", "M0 0H9", "x" * 60_000):
            self.refused(put(outline=outline), 400, "bad-request", "own")
        self.assertEqual(put(outline=SQUARE).status_code, 200)
        job = self.revise(
            self.job, settings={"target": "own", "lists": self.client.get("/api/library").json()["lists"]}
        )
        self.assertAlmostEqual(job.json()["head"]["target"]["clearance_mm"], 10.0, places=6)

    def test_a_step_keeps_its_numbers_while_the_rest_follows(self):
        rim = {"operation": "rim", "parameters": {"distance_mm": 4.0}, "selection": {"on": {"ids": self.pieces}}}
        job = self.revise(self.job, rim).json()
        (sizes,) = job["head"]["sizes"]
        self.assertEqual(sizes["words"], "Lay a rim (distance 4 mm)")
        wish = {"operation": "resize", "parameters": {"width_mm": 188.0}, "kept": [sizes["key"]]}
        head = self.head_of(self.preview(wish, job=job, checked=True))
        self.assertAlmostEqual(head["after"]["width_mm"], 188.0, places=6)
        self.assertIn("stayed", head["note"])
        made = self.revise(job, wish).json()
        self.assertEqual([step["operation"] for step in made["head"]["steps"]], ["bring-in", "resize", "rim"])
        self.assertAlmostEqual(made["head"]["statistics"]["width_mm"], 188.0, places=6)
        self.assertEqual(made["head"]["steps"][1]["title"], "Sized to 188 mm wide")
        # The sizing is changed afterwards: the rim follows, and keeps its width.
        key = made["head"]["steps"][1]["key"]
        items = [{"key": s["key"]} for s in made["head"]["steps"]]
        items[1] = {"key": key, "parameters": {"factor": 2.0}}
        again = self.head_of(self.preview(items[1], job=made))
        self.assertAlmostEqual(again["after"]["width_mm"], 128.0, places=6)
        self.assertEqual(again["stopped"], [])
        body = {"based_on": made["head"]["id"], "steps": items}
        changed = self.send(f"/api/jobs/{self.job['id']}/revisions", body).json()
        self.assertAlmostEqual(changed["head"]["statistics"]["width_mm"], 128.0, places=6)

    def test_only_what_sizes_can_leave_numbers_as_they_are(self):
        job = self.revise(self.job, self.step("backing")).json()
        key = job["head"]["steps"][-1]["key"]
        for wish, words in (
            ({"operation": "place", "parameters": {"turn": 9.0}, "kept": [key]}, "Only a step that sizes"),
            ({"operation": "resize", "parameters": {"factor": 2.0}, "kept": ["nobody"]}, "None of the steps"),
        ):
            wish["selection"] = {"on": {"ids": [self.drawing(job)["pieces"][0]["id"]]}} if "turn" in str(wish) else {}
            answer = self.revise(job, wish)
            self.assertIn(answer.status_code, (400, 422))
            self.assertIn(words, answer.json()["sentence"])
