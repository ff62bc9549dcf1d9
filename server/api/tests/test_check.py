"""What is found, what it is held against, and the mends, as the browser asks for them."""

from pathlib import Path

from .test_api import Case

FILES = Path(__file__).parents[3] / "demo" / "files"


class Held(Case):
    def bring(self, name: str) -> dict:
        response = self.upload((FILES / name).read_bytes(), name)
        self.assertEqual(response.status_code, 201, response.content)
        return response.json()

    def settle(self, job: dict, **settings) -> dict:
        response = self.revise(job, settings=settings)
        self.assertEqual(response.status_code, 201, response.content)
        return response.json()

    def ids(self, job: dict) -> set[str]:
        return {finding["id"] for finding in self.findings(job)}

    def verdict(self, job: dict) -> dict:
        return self.client.get(f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/verdict").json()

    def test_material_machine_and_purpose_decide_what_is_found(self):
        job = self.bring("window-branch.svg")
        self.assertNotIn("drop-out", self.ids(job))
        self.assertIn("drop-out", self.ids(self.settle(job, purpose="one")))
        tree = self.bring("tree-bought.svg")
        self.assertNotIn("thin-strip", self.ids(self.settle(tree, limits={"least_strip_mm": 0.1})))
        card = self.settle(self.bring("tree-bought.svg"), material="black-card")
        self.assertIn("double-outline", self.ids(card))

    def test_a_piece_that_must_be_one_is_told_of_by_its_parts(self):
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">'
        svg += b'<path id="pair" d="M5 5h10v10H5ZM30 5h20v20H30Z"/></svg>'
        job = self.upload(svg, "pair.svg").json()
        piece = f"{job['head']['steps'][0]['key']}:/path[1]"
        found = self.findings(self.settle(job, pieces={piece: {"one": True}}))
        self.assertEqual([(f["id"], f["measure"]["parts"]) for f in found], [("not-one", 2)])
        self.assertAlmostEqual(found[0]["measure"]["gap_mm"], 15.0, 2)

    def test_the_verdict_says_it_in_a_sentence_with_the_weakest_place(self):
        said = self.verdict(self.settle(self.bring("window-branch.svg"), purpose="one"))
        self.assertEqual((said["holds"], said["sentence"]), (False, "It will not hold together: one part comes loose."))
        self.assertEqual(len(said["place"]), 2)
        empty = self.verdict(
            self.upload(b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"/>', "e.svg").json()
        )
        self.assertIsNone(empty["holds"])

    def test_each_way_of_a_mend_is_shown_as_it_would_be(self):
        job = self.settle(self.bring("tree-bought.svg"), material="black-card")
        moon = next(f for f in self.findings(job) if f["id"] == "double-outline")
        self.assertEqual([choice["id"] for choice in moon["choices"]], ["middle", "outer", "inner"])
        base = f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings/{moon['key']}/mend"
        shown = [self.client.get(base, {"choice": choice}).json()["mended"]["points"] for choice in ("outer", "inner")]
        self.assertNotEqual(*shown)

    def test_the_reason_for_setting_aside_is_kept_with_its_finding(self):
        job = self.bring("tree-bought.svg")
        key = self.findings(job)[0]["key"]
        aside = self.settle(job, set_aside=[key], why_aside={key: "a scrap"})
        kept = next(f for f in self.findings(aside) if f["key"] == key)
        self.assertEqual((kept["set_aside"], kept["why_aside"]), (True, "a scrap"))

    def test_what_cannot_be_held_against_is_refused_in_a_sentence(self):
        job = self.bring("window-branch.svg")
        for settings in ({"purpose": "fly"}, {"limits": {"least_gap_mm": -3}}, {"material": "lead"}):
            self.assertEqual(self.revise(job, settings=settings).status_code, 400, settings)

    def test_a_mend_that_only_changes_the_layer_is_shown_in_its_colours(self):
        shape = b'<path fill="%s" d="M5 5h20v20H5Z"/><path fill="%s" d="M45 5h20v20H45Z"/><path fill="%s" d="M5 40h9v9H5Z"/>'
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60">'
        job = self.upload(svg + shape % (b"#1b2a4e", b"#1b2a4e", b"#1c2b4e") + b"</svg>", "near.svg").json()
        near = next(f for f in self.findings(job) if f["id"] == "near-colours")
        shown = self.client.get(
            f"/api/jobs/{job['id']}/revisions/{job['head']['id']}/findings/{near['key']}/mend"
        ).json()
        self.assertEqual(shown["colors"], ["#1c2b4e", "#1b2a4e"])
        self.assertEqual(shown["now"], shown["mended"])
