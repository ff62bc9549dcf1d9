"""Machine files by an independent reading of their words, proven, and what random changes of their strokes do."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace

import numpy as np

from hakobu import pipeline
from hakobu.errors import BadRequest
from hakobu.formats import by_id
from hakobu.machines import PROFILES, options_for
from hakobu.machines.compensation import compensation_of
from hakobu.machines.cutting_test import cutting_test
from hakobu.model import Machine
from hakobu.toolpaths import Plan, frame_of, make

from .mutations import DESIGN, WAYS, unseen
from .worked import KNIFE, LASER, PLAIN


def words(data: bytes) -> list[tuple[str, float]]:
    """Letters and numbers of G-code without its comments."""
    text = re.sub(r"\([^)]*\)", "", data.decode())
    return [(letter, float(number)) for letter, number in re.findall(r"([A-Z])([-+.\d]+)", text)]


class Proven(unittest.TestCase):
    def test_every_profile_and_every_way_holds_in_every_format(self):
        machines = [replace(machine, **way) for machine in (KNIFE, LASER) for way in WAYS]
        for machine in (*PROFILES, *machines):
            # Files of lines hold the same for every profile: some are enough.
            for name in ("hpgl", "gcode") if machine in machines[1:] else ("hpgl", "gcode", "svg", "dxf"):
                of = replace(machine, format=name)
                if name == "hpgl" and of.words_before:
                    of = replace(of, words_before="VN", words_after="NP8")
                with self.subTest(machine.id, format=name, machine=machine):
                    options = options_for(of)
                    data = pipeline.write(DESIGN, name, options=options).data
                    found = pipeline.prove(f"a{by_id(name).suffixes[0]}", data, DESIGN, options.plan)
                    self.assertTrue(found.proof.holds, found.proof.as_json())
                    self.assertEqual([f.message for f in found.read.findings if f.level != "note"], [])
                    self.assertTrue(compensation_of(found.made, DESIGN).holds)

    def test_a_proof_holds_only_for_the_same_machine(self):
        options = options_for(replace(LASER, kerf_mm=0.3))
        data = pipeline.write(DESIGN, "gcode", options=options).data
        self.assertFalse(pipeline.prove("a.gcode", data, DESIGN).proof.holds)
        self.assertFalse(pipeline.prove("a.gcode", data, DESIGN, Plan(replace(LASER, kerf_mm=0.4))).proof.holds)
        self.assertTrue(pipeline.prove("a.gcode", data, DESIGN, options.plan).proof.holds)


class Words(unittest.TestCase):
    def code(self, machine: Machine) -> list[tuple[str, float]]:
        return words(pipeline.write(DESIGN, "gcode", options=options_for(machine)).data)

    def test_speed_power_and_beam_of_a_laser(self):
        found = self.code(replace(LASER, speed_mm_s=12.5, power_percent=40.0, beam="speed", passes=2))
        self.assertEqual({v for letter, v in found if letter == "F"}, {750.0})
        self.assertEqual({v for letter, v in found if letter == "S"}, {400.0})
        self.assertEqual({v for letter, v in found if letter == "M"}, {4.0, 5.0, 2.0})
        self.assertNotIn("Z", {letter for letter, _ in found})

    def test_heights_and_depths_of_a_knife(self):
        machine = replace(KNIFE, format="gcode", z_up_mm=7.0, z_down_mm=-0.4, passes=3, pass_depth_mm=0.25)
        found = self.code(machine)
        self.assertEqual({v for letter, v in found if letter == "Z"}, {7.0, -0.4, -0.65, -0.9})
        self.assertFalse({letter for letter, _ in found} & {"S"})
        self.assertEqual({v for letter, v in found if letter == "M"}, {2.0})
        # Scored and drawn lines are run once, and no deeper.
        code = pipeline.write(DESIGN, "gcode", options=options_for(machine)).data.decode()
        self.assertEqual(code.count("Z-0.9"), 3)
        self.assertEqual(code.count("Z-0.4"), 5)

    def test_a_turned_knife_points_along_its_line(self):
        machine = replace(KNIFE, format="gcode", tangential=True, lift_angle_deg=30.0, z_swivel_mm=1.5)
        code = pipeline.write(PLAIN, "gcode", options=options_for(machine)).data.decode().splitlines()
        place = np.zeros(2)
        for row in code:
            at = dict(re.findall(r"([A-Z])(-?[\d.]+)", row))
            if "X" in at and "C" in at:
                to = np.array([float(at["X"]), float(at["Y"])])
                if row.startswith("G1") and np.hypot(*(to - place)) > 1:
                    angle = np.degrees(np.arctan2(*(to - place)[::-1]))
                    self.assertAlmostEqual((float(at["C"]) - angle + 180) % 360 - 180, 0.0, places=2)
                place = to
        self.assertIn("G0 Z1.5", code)

    def test_pens_speeds_and_forces_of_a_plotter(self):
        machine = replace(KNIFE, speed_mm_s=250.0, force_g=95.0, pens=2)
        data = pipeline.write(DESIGN, "hpgl", options=options_for(machine)).data.decode()
        self.assertEqual(
            re.findall(r"SP(\d+);VS(\d+);FS(\d+)", data), [("1", "25", "95"), ("2", "25", "95"), ("2", "25", "95")]
        )
        slow = replace(machine, corner_percent=40.0)
        self.assertEqual(
            set(re.findall(r"VS(\d+)", pipeline.write(DESIGN, "hpgl", options=options_for(slow)).data.decode())),
            {"25", "10"},
        )

    def test_each_pass_has_its_force_or_its_power(self):
        machine = replace(KNIFE, force_g=60.0, passes=3, pass_force_g=25.0)
        data = pipeline.write(PLAIN, "hpgl", options=options_for(machine)).data.decode()
        # An outline's passes follow each other.
        self.assertEqual(re.findall(r"FS(\d+)", data), ["60", "85", "110"] * 3)
        self.assertEqual(len(re.findall(r"FS60;\s*PU|FS85;\s*PU|FS110;\s*PU", data)), 9)
        laser = replace(LASER, power_percent=80.0, passes=2, pass_power_percent=-30.0)
        self.assertEqual({v for letter, v in self.code(laser) if letter == "S"}, {800.0, 500.0})
        for wrong in (replace(machine, pass_force_g=-30.0), replace(laser, pass_power_percent=30.0)):
            with self.assertRaisesRegex(BadRequest, "of the last pass"):
                make(PLAIN, Plan(wrong))

    def test_origin_axes_and_steps(self):
        machine = replace(KNIFE, reach_width_mm=400.0, reach_height_mm=300.0)
        for values, corner in (
            ({"origin": "centre"}, (30 - 200, 130 - 150)),
            ({"mirror_x": True}, (370, 130)),
            ({"swap_axes": True}, (130, 30)),
            ({"swap_axes": True, "origin": "centre"}, (130 - 150, 30 - 200)),
        ):
            of = replace(machine, **values)
            place = frame_of(of) @ (30.0, 130.0, 1.0)
            self.assertEqual(tuple(place.tolist()), corner)
            data = pipeline.write(PLAIN, "hpgl", options=options_for(of)).data.decode()
            self.assertIn(f"{round(corner[0] * 40)},{round(corner[1] * 40)}", data)
        fine = pipeline.write(PLAIN, "hpgl", options=options_for(replace(machine, steps="100"))).data.decode()
        self.assertIn("3000,13000", fine)

    def test_arcs_are_arcs_where_the_plotter_knows_them(self):
        data = pipeline.write(PLAIN, "hpgl", options=options_for(replace(KNIFE, arcs=True))).data.decode()
        self.assertEqual(data.count("AA"), 2)
        self.assertLess(len(data), 400)

    def test_words_that_contradict_the_file_are_refused(self):
        for name, way, word in (
            ("gcode", {"words_before": "G91"}, "G91"),
            ("gcode", {"words_before": "G0 X5"}, "G0"),
            ("gcode", {"tool": "pen", "words_after": "M3 S10"}, "M3"),
            ("hpgl", {"words_before": "SC0,100,0,100"}, "SC"),
            ("hpgl", {"words_after": "PD100,100"}, "PD"),
            ("gcode", {"words_before": "M8 \u20ac"}, "letters"),
        ):
            with self.assertRaisesRegex(BadRequest, word):
                pipeline.write(DESIGN, name, options=options_for(replace(LASER, format=name, **way)))

    def test_the_page_of_the_second_release_is_told(self):
        options = replace(options_for(KNIFE), release="HP-GL/2")
        self.assertIn(b"PS16000,24000;", pipeline.write(PLAIN, "hpgl", options=options).data)


class CuttingTest(unittest.TestCase):
    def test_each_cell_has_its_speed_and_its_strength(self):
        made_for = cutting_test(replace(LASER, kerf_mm=0.1), [20.0, 40.0], [30.0, 60.0, 90.0])
        data = pipeline.write(made_for.document, "gcode", options=options_for(LASER, plan=made_for.plan)).data
        found, power, feed = set(), None, None
        for letter, value in words(data):
            power = value if letter == "S" else power
            feed = value if letter == "F" else feed
            if power and feed:
                found.add((feed, power))
        cells = {(60.0 * s, 10.0 * p) for s in (20, 40) for p in (30, 60, 90)}
        self.assertLessEqual(cells, found)
        self.assertTrue(pipeline.prove("a.gcode", data, made_for.document, made_for.plan).proof.holds)

    def test_what_the_machine_cannot_do_is_refused(self):
        for values, strengths, said in (
            ([20.0] * 11, [50.0], "1 to 10"),
            ([20.0], [120.0], "120 %"),
            ([9000.0], [50.0], "9000 mm/s"),
        ):
            with self.assertRaisesRegex(BadRequest, said):
                cutting_test(LASER, values, strengths)
        with self.assertRaisesRegex(BadRequest, "reaches 100 x 60"):
            cutting_test(replace(LASER, reach_width_mm=100.0, reach_height_mm=60.0), [20.0] * 5, [50.0] * 5)


class Mutations(unittest.TestCase):
    def test_no_changed_stroke_is_unseen(self):
        self.assertEqual(unseen(150), [])
