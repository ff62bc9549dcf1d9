"""Files sent to the stand-ins: whole, and with lines that are lost anywhere; what lies on the sheet is held against an
independent reading of the file."""

from __future__ import annotations

import math
import re
import unittest

import numpy as np
import shapely
import shapely.affinity
from tests.shapes import blob, circle, square

from hakobu.errors import MachineTrouble
from hakobu.formats import WriteOptions
from hakobu.geometry import transform, translation
from hakobu.machines.sending import Forgotten, GcodeSender, Halt, HpglSender, LineLost
from hakobu.model import Document, Layer, Machine, Page, Piece, Treatment
from hakobu.pipeline import write_for
from hakobu.toolpaths import Plan
from simulator.machine import Build

from .running import Heard, Running, Tcp, going_on

FAST = Build(width=300.0, height=200.0, pace=0.0)
SENDERS = {"hpgl": HpglSender, "gcode": GcodeSender}
LAYERS = (Layer("a", "Cuts", "#26272b"), Layer("b", "Notes", "#1b2a4e", Treatment.DRAW))


def design(count: int = 4) -> Document:
    pieces = [Piece(f"s{k}", square(10 + 25 * k, 20 + k, 18), "a") for k in range(count)]
    pieces += [
        Piece("c", circle(60, 100, 25), "a"),
        Piece("n", transform(blob().take([0]), translation(150, 120)), "b"),
    ]
    return Document(Page(300.0, 200.0), LAYERS, tuple(pieces))


def file(kind: str, document: Document, **values) -> bytes:
    tool = values.pop("tool", "knife")
    machine = Machine("m", "m", 300.0, 200.0, kind, 0.01, 4, speed_mm_s=80.0, tool=tool, **values)
    return write_for(document, kind, WriteOptions(chord_mm=0.01, plan=Plan(machine))).written.data


def lines_of(data: bytes, kind: str) -> shapely.MultiLineString:
    """The lines of a file, by a reading of the tests' own."""
    made = []
    if kind == "hpgl":
        for first, rest in re.findall(r"PU(-?\d+,-?\d+);((?:(?:VS|FS)\d+;|PD[-\d,]+;)+)", data.decode()):
            flat = [int(n) for n in ",".join([first, *re.findall(r"PD([-\d,]+);", rest)]).split(",")]
            made.append([(x / 40, y / 40) for x, y in zip(flat[::2], flat[1::2], strict=True)])
        return shapely.MultiLineString(made)
    place, down, unit = (0.0, 0.0), False, 25.4 if b"G20" in data else 1.0
    for text in data.decode().splitlines():
        words = dict(re.findall(r"([A-Z])(-?\d*\.?\d+)", re.sub(r"\(.*\)", "", text)))
        down = (down or text.startswith(("M3", "M4", "G1 Z"))) and not (text == "M5" or text.startswith("G0 Z"))
        if "X" not in words:
            continue
        to = (float(words["X"]), float(words["Y"]))
        if down and words["G"] == "1" and math.dist(place, to) > 1e-9:
            made.append([place, to])
        elif down and words["G"] in "23":
            made.append(_arc(place, to, float(words["I"]), float(words["J"]), words["G"] == "3"))
        place = to
    return shapely.affinity.scale(shapely.MultiLineString(made), unit, unit, origin=(0, 0))


def _arc(a, b, i: float, j: float, left: bool) -> list:
    cx, cy = a[0] + i, a[1] + j
    first, last = math.atan2(-j, -i), math.atan2(b[1] - cy, b[0] - cx)
    turn = (last - first) % (2 * math.pi) if left else -((first - last) % (2 * math.pi))
    angle = np.linspace(first, first + turn, 60)
    return list(zip(cx + math.hypot(i, j) * np.cos(angle), cy + math.hypot(i, j) * np.sin(angle), strict=True))


class Sent(unittest.TestCase):
    def running(self, kind: str, build: Build = FAST) -> Running:
        made = Running(kind, build)
        self.addCleanup(made.stop)
        return made

    def line(self, machine: Running) -> Tcp:
        made = machine.line()
        self.addCleanup(made.close)
        return made

    def cut(self, machine: Running) -> shapely.MultiLineString:
        strokes = machine.ask(strokes=True)["strokes"]
        return shapely.MultiLineString(
            [points for _, _, points, _, _ in strokes if shapely.LineString([*points, points[-1]]).length > 1e-9]
        )

    def hold(self, machine: Running, data: bytes, kind: str) -> None:
        """All that the file has lies on the sheet, and nothing twice."""
        wanted, cut = lines_of(data, kind), self.cut(machine)
        self.assertAlmostEqual(cut.length, wanted.length, delta=0.02 + 1e-3 * wanted.length)
        for one, other in ((wanted, cut), (cut, wanted)):
            marks = shapely.segmentize(one, 0.5)
            far = shapely.distance(shapely.points(shapely.get_coordinates(marks)), other)
            self.assertLess(far.max(), 0.02)


class Whole(Sent):
    def test_every_stroke_once_in_its_order(self):
        for kind, values in (
            ("hpgl", {"overcut_mm": 0.5, "blade_offset_mm": 0.2}),
            ("gcode", {"tool": "laser"}),
            ("gcode", {}),
        ):
            with self.subTest(kind, values=values):
                data = file(kind, design(), **dict(values))
                machine, sender, told = self.running(kind), SENDERS[kind](data, 7), []
                self.assertIs(
                    sender.send(self.line(machine), False, lambda n, told=told: (told.append(n), Halt.NO)[1]), Halt.NO
                )
                self.hold(machine, data, kind)
                self.assertEqual((told[-1], sorted(told)), (sender.strokes, told))
                self.assertEqual(sender.strokes, 6)

    def test_tools_speeds_and_depths_arrive(self):
        data = file("gcode", design(1), passes=2, pass_depth_mm=0.2)
        machine = self.running("gcode")
        GcodeSender(data, 1).send(self.line(machine), False, going_on)
        how = [how for _, how, _, _, _ in machine.ask(strokes=True)["strokes"]]
        self.assertEqual({round(each["z"], 3) for each in how}, {-0.5, -0.7})
        self.assertEqual({round(each["speed"]) for each in how}, {80})

    def test_a_small_buffer_never_runs_over(self):
        machine = Running("hpgl", FAST, capacity=200)
        self.addCleanup(machine.stop)
        data = file("hpgl", design(9))
        HpglSender(data, 3).send(self.line(machine), False, going_on)
        self.assertEqual(machine.served.machine.last_error, 0)
        self.hold(machine, data, "hpgl")


class Lost(Sent):
    #: For each kind of machine.
    KILLS = 30

    def send(self, machine: Running, kind: str, data: bytes, mark: int, random: np.random.Generator) -> int:
        """Sends with lines that are lost after random amounts, by a sender that knows nothing of the one before; how
        often that was."""
        heard, lost = Heard(), 0
        while True:
            line = Tcp(machine.port, int(random.integers(30, 900)))
            try:
                SENDERS[kind](data, mark).send(line, heard.begun, heard)
            except LineLost:
                lost += 1
                continue
            finally:
                line.close()
                machine.alone()
            return lost

    def test_nothing_is_cut_twice_and_nothing_is_missed(self):
        for kind, values in (
            ("hpgl", {"overcut_mm": 0.5}),
            ("gcode", {"tool": "laser", "unit": "in"}),
            ("gcode", {"passes": 2, "pass_depth_mm": 0.1}),
        ):
            with self.subTest(kind, values=values):
                data, random, lost, mark = file(kind, design(3), **dict(values)), np.random.default_rng(3), 0, 1
                machine = self.running(kind, Build(width=300.0, height=200.0, pace=40.0))
                while lost < self.KILLS:
                    machine.ask(clear=True)
                    lost += self.send(machine, kind, data, mark, random)
                    self.hold(machine, data, kind)
                    mark += 1

    def test_a_machine_that_did_another_job_before_begins_at_the_start(self):
        for kind in SENDERS:
            machine, data = self.running(kind), file(kind, design(1))
            line = self.line(machine)
            SENDERS[kind](data, 5).send(line, False, going_on)
            line.close()
            machine.alone()
            machine.ask(clear=True)
            SENDERS[kind](data, 6).send(self.line(machine), False, going_on)
            self.hold(machine, data, kind)

    def test_a_machine_that_lost_its_power_is_not_told_to_begin_again(self):
        for kind in SENDERS:
            data, heard = file(kind, design(6)), Heard()
            machine = self.running(kind, Build(width=300.0, height=200.0, pace=5.0))

            def losing(done: int, heard: Heard = heard) -> Halt:
                if heard(done) or done >= 2:
                    raise LineLost
                return Halt.NO

            with self.assertRaises(LineLost):
                SENDERS[kind](data, 5).send(self.line(machine), False, losing)
            self.assertTrue(2 <= heard.done < 8, heard.done)
            whole = machine.ask(strokes=True)["strokes"][: heard.done]
            machine.stop()
            other = self.running(kind)
            line = self.line(other)
            with self.assertRaises(Forgotten):
                SENDERS[kind](data, 5).send(line, True, heard)
            self.assertEqual(other.ask(strokes=True)["strokes"], [])
            line.close()
            other.alone()
            # A person says that it goes on behind what was done for certain.
            SENDERS[kind](data, 5).send(self.line(other), False, going_on, heard.done)
            left = other.ask(strokes=True)["strokes"]
            wanted = lines_of(data, kind)
            both = shapely.MultiLineString([points for _, _, points, _, _ in (*whole, *left)])
            self.assertAlmostEqual(both.length, wanted.length, delta=0.02 + 1e-3 * wanted.length)
            self.assertLess(shapely.hausdorff_distance(both, wanted, densify=0.1), 0.03)


class Halted(Sent):
    def test_a_pause_is_after_a_stroke_and_it_goes_on_there(self):
        for kind in SENDERS:
            with self.subTest(kind):
                data = file(kind, design(6))
                machine = self.running(kind, Build(width=300.0, height=200.0, pace=5.0))
                line = self.line(machine)
                self.assertIs(
                    SENDERS[kind](data, 9).send(line, False, lambda n: Halt.PAUSE if n >= 1 else Halt.NO), Halt.PAUSE
                )
                line.close()
                machine.alone()
                strokes = machine.ask(strokes=True)["strokes"]
                self.assertLess(len(strokes), 8)
                self.assertFalse(machine.ask()["down"] and kind == "gcode")
                SENDERS[kind](data, 9).send(self.line(machine), True, going_on)
                self.hold(machine, data, kind)

    def test_a_cancel_leaves_the_tool_up(self):
        for kind in SENDERS:
            with self.subTest(kind):
                data = file(kind, design(8))
                machine = self.running(kind, Build(width=300.0, height=200.0, pace=10.0))
                self.assertIs(
                    SENDERS[kind](data, 9).send(self.line(machine), False, lambda n: Halt.CANCEL), Halt.CANCEL
                )
                self.assertFalse(machine.until(lambda state: state["idle"])["down"])


class Trouble(Sent):
    def trouble(self, kind: str, said: str, **faults) -> None:
        machine, data = self.running(kind), file(kind, design(1))
        machine.ask(**faults)
        with self.assertRaisesRegex(MachineTrouble, said):
            SENDERS[kind](data, 2).send(self.line(machine), False, going_on)
        self.assertEqual(machine.ask(strokes=True)["strokes"], [])

    def test_nobody_answers_garbage_no_sheet(self):
        for kind in SENDERS:
            with self.subTest(kind):
                self.trouble(kind, "What answers is no", garbage=True)
                self.trouble(kind, "does not answer", silent=True)
        self.trouble("hpgl", "No sheet", no_sheet=True)

    def test_a_slow_line_is_only_slow(self):
        machine, data = self.running("hpgl"), file("hpgl", design(1))
        machine.ask(slow=20_000)
        HpglSender(data, 2).send(self.line(machine), False, going_on)
        self.hold(machine, data, "hpgl")
