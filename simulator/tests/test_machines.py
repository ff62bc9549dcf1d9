"""The stand-ins themselves: flow control, end stops, times, arcs, what is drawn."""

from __future__ import annotations

import math
import tempfile
import time
import unittest
from pathlib import Path

from PIL import Image

from simulator.controller import Controller
from simulator.machine import Build
from simulator.motion import Axes, Move
from simulator.paper import Paper, Stroke
from simulator.plotter import Plotter

from .running import Running, Tcp

FAST = Build(width=300.0, height=200.0, pace=0.0, lift=0.1, acceleration=500.0, speed=50.0, travel=200.0)


class Motion(unittest.TestCase):
    def test_a_way_from_rest_to_rest(self):
        """95 mm at 50 mm/s and 0.1 s up and down to it, each over 2.5 mm."""
        axes = Axes(500.0)
        self.assertAlmostEqual(axes.seconds(Move(100.0, 0.0, True, 50.0), []), 0.1 + 95 / 50 + 0.1)

    def test_a_straight_way_in_parts_takes_no_longer_and_a_way_back_stops(self):
        moves = [Move(10.0 * k, 0.0, True, 50.0) for k in range(1, 11)]
        axes = Axes(500.0)
        parts = sum(axes.seconds(move, moves[k + 1 :]) for k, move in enumerate(moves))
        self.assertAlmostEqual(parts, 0.1 + 95 / 50 + 0.1)
        axes, back = Axes(500.0), [Move(50.0, 0.0, True, 50.0), Move(0.0, 0.0, True, 50.0)]
        took = axes.seconds(back[0], back[1:]) + axes.seconds(back[1], [])
        self.assertAlmostEqual(took, 2 * (0.1 + 45 / 50 + 0.1))


class Machines(unittest.TestCase):
    def running(self, kind: str, capacity: int = 1024) -> tuple[Running, Tcp]:
        made = Running(kind, FAST, capacity)
        self.addCleanup(made.stop)
        line = made.line()
        self.addCleanup(line.close)
        return made, line

    def heard(self, line: Tcp, until: bytes, seconds: float = 3.0) -> bytes:
        data, end = b"", time.monotonic() + seconds
        while until not in data and time.monotonic() < end:
            data += line.read(0.05)
        return data


class Plotters(Machines):
    def test_it_tells_its_room_its_place_and_its_points(self):
        machine, line = self.running("hpgl")
        line.write(b"\x1b.B")
        self.assertEqual(self.heard(line, b"\r"), b"1024\r")
        line.write(b"IN;SP2;PU400,800;PD800,800;IP5,6,7,8;OP;OA;")
        self.assertEqual(self.heard(line, b",1\r"), b"5,6,7,8\r800,800,1\r")
        ((tool, _, points, _, _),) = machine.ask(strokes=True)["strokes"]
        self.assertEqual((tool, points), (2, [(10.0, 20.0), (20.0, 20.0)]))

    def test_a_buffer_that_runs_over_loses_bytes_and_says_so(self):
        machine, line = self.running("hpgl", capacity=64)
        machine.ask(paused=True)
        line.write(b"PU1,1;" * 40)
        line.write(b"\x1b.E")
        self.assertEqual(self.heard(line, b"\r"), b"16\r")

    def test_it_stops_and_starts_who_sends_when_told_to(self):
        machine, line = self.running("hpgl", capacity=256)
        machine.ask(paused=True)
        line.write(b"\x1b.I100;;17:\x1b.N;19:" + b"PU40,40;" * 25)
        self.assertEqual(self.heard(line, b"\x13"), b"\x13")
        machine.ask(paused=False)
        self.assertEqual(self.heard(line, b"\x11"), b"\x11")

    def test_what_was_told_in_part_is_dropped_when_that_is_asked(self):
        machine, line = self.running("hpgl")
        line.write(b"PU400,400;PD800,4")
        machine.until(lambda state: state["at"] == [10.0, 10.0])
        line.write(b"\x1b.KPU0,0;OA;")
        self.assertIn(b"0,0,0\r", self.heard(line, b"\r"))
        self.assertEqual(machine.ask(strokes=True)["strokes"], [])

    def test_the_end_stop_ends_it(self):
        machine, line = self.running("hpgl")
        line.write(b"PU400,400;PD400,40000;PD0,0;")
        state = machine.until(lambda state: state["error"])
        self.assertIn("end stop", state["error"])
        self.assertEqual((state["down"], state["idle"]), (False, True))
        line.write(b"\x1b.O")
        self.assertTrue(int(self.heard(line, b"\r")) & 16)

    def test_an_arc_is_one(self):
        machine, line = self.running("hpgl")
        line.write(b"PU4400,4000;PD;AA4000,4000,180,2;OA;")
        self.heard(line, b"\r")
        ((_, _, points, _, _),) = machine.ask(strokes=True)["strokes"]
        self.assertTrue(all(abs(math.dist(p, (100, 100)) - 10) < 1e-6 for p in points))
        self.assertAlmostEqual(points[-1][0], 90.0, places=6)


class Controllers(Machines):
    def test_lines_are_answered_and_counted(self):
        machine, line = self.running("gcode")
        line.write(b"@job 7\nN1 G21 G90\nN2 M3 S500\nN3 G0 X10 Y10\nN4 G1 X40 F600\nN5 M5\n")
        self.assertIn(b"ok 5", self.heard(line, b"ok 5"))
        machine.until(lambda state: state["idle"] and state["at"] == [40.0, 10.0])
        line.write(b"@state\n")
        self.assertIn(b"done 5 at 40.0000 10.0000", self.heard(line, b"job"))
        ((_, how, points, _, _),) = machine.ask(strokes=True)["strokes"]
        self.assertEqual((how["power"], how["speed"], points), (500.0, 10.0, [(10.0, 10.0), (40.0, 10.0)]))

    def test_what_it_does_not_know_is_refused(self):
        _, line = self.running("gcode")
        line.write(b"N1 G99 X1\nN2 what\n")
        self.assertIn(b"error 1: G99 is not known", self.heard(line, b"error 2"))

    def test_half_a_line_is_nothing_when_the_other_side_is_gone(self):
        machine, line = self.running("gcode")
        line.write(b"N1 M3 S1\nN2 G1 X5")
        self.assertIn(b"ok 1", self.heard(line, b"ok 1"))
        line.close()
        machine.alone()
        again = machine.line()
        self.addCleanup(again.close)
        again.write(b"N3 G0 Y5\n")
        self.assertIn(b"ok 3", self.heard(again, b"ok 3"))
        self.assertEqual(machine.ask(strokes=True)["strokes"], [])


class Drawn(unittest.TestCase):
    def test_a_sheet_is_drawn_and_logged(self):
        paper = Paper(100.0, 50.0, [Stroke(1, {"speed": 20.0}, [(10.0, 10.0), (90.0, 10.0)], 1.0, 2.0)])
        with tempfile.TemporaryDirectory() as folder:
            paper.write(Path(folder), "sheet")
            self.assertIn('points="10.0000,40.0000 90.0000,40.0000"', (Path(folder) / "sheet.svg").read_text())
            self.assertIn('"begun": 1.0', (Path(folder) / "sheet.jsonl").read_text())
            picture = Image.open(Path(folder) / "sheet.png")
            self.assertEqual(picture.size, (800, 400))
            self.assertNotEqual(picture.getpixel((400, 320)), picture.getpixel((400, 100)))

    def test_both_machines_can_be_made(self):
        self.assertTrue(Plotter(FAST).idle and Controller(FAST).rests)
