"""The program of a design: all of its strokes once, inside before outside, with short ways between them."""

from __future__ import annotations

import itertools
import re
import unittest
from dataclasses import replace

import numpy as np

from hakobu import pipeline
from hakobu.formats import WriteOptions, by_id
from hakobu.geometry import Path, bounds
from hakobu.geometry.nesting import parents_of
from hakobu.machines import PROFILES, options_for
from hakobu.model import Document, Layer, Piece, Treatment
from hakobu.toolpaths import program_of, shortened, travel_mm
from hakobu.toolpaths.order import holders_of
from tests.shapes import circle, square


def design(*paths: Path, treatment: Treatment = Treatment.CUT) -> Document:
    layer = Layer("cut", "Cut", "#26272b", treatment)
    return Document(layers=(layer,), pieces=tuple(Piece(f"p{n}", path, "cut") for n, path in enumerate(paths)))


def scattered(count: int, seed: int, inner: int = 2) -> Document:
    """Squares all over a sheet, each with smaller ones in it that are pieces of their own."""
    random = np.random.default_rng(seed)
    side = int(np.ceil(np.sqrt(count)))
    cells = random.permutation(side * side)[:count]
    paths = []
    for cell in cells.tolist():
        x, y = cell % side * 20.0, cell // side * 20.0
        paths.append(square(x, y, 15.0))
        paths += [square(x + 1 + 5 * k, y + float(random.uniform(1, 10)), 3.0) for k in range(inner)]
    return design(*[paths[k] for k in random.permutation(len(paths)).tolist()])


class Made(unittest.TestCase):
    def test_every_outline_is_a_run_with_its_piece_and_its_tool(self):
        layers = (Layer("a", "A", "#000000"), Layer("b", "B", "#000000", Treatment.DRAW))
        ring = Path.concatenate([square(0, 0, 30), square(10, 10, 10).reversed()])
        pieces = (Piece("ring", ring, "a"), Piece("line", square(50, 0, 10), "b"))
        made = program_of(Document(layers=layers, pieces=pieces))
        # Drawn before it is cut.
        self.assertEqual([(tool.number, tool.layer) for tool in made.tools], [(1, "B"), (2, "A")])
        rows = [
            (made.pieces[p], k, made.tools[t].layer)
            for p, k, t in zip(made.piece, made.outline, made.tool, strict=True)
        ]
        self.assertEqual(rows, [("line", 0, "B"), ("ring", 0, "A"), ("ring", 1, "A")])
        # Upwards from the lower left corner.
        height = Document(layers=layers, pieces=pieces).frame[1]
        self.assertEqual(bounds(made.path.take([1])), (0.0, height - 30.0, 30.0, height))

    def test_of_nothing_it_is_empty(self):
        made = shortened(program_of(Document()))
        self.assertEqual((len(made), travel_mm(made)), (0, 0.0))
        self.assertIn(b"SP0", by_id("hpgl").write(Document(), WriteOptions()).data)


class Order(unittest.TestCase):
    def hold(self, made) -> None:
        """Each run comes after all that lie in it."""
        parent = parents_of(made.path)
        inner = np.flatnonzero(parent >= 0)
        self.assertTrue((parent[inner] > inner).all())

    def test_inside_comes_before_outside_and_nothing_is_lost(self):
        for seed in range(4):
            before = program_of(scattered(60, seed))
            made = shortened(before)
            self.hold(made)
            self.assertEqual(sorted(made.piece.tolist()), sorted(before.piece.tolist()))
            self.assertLess(travel_mm(made), 0.35 * travel_mm(before))

    def test_open_lines_inside_a_piece_come_before_it(self):
        fold = Path.from_points(np.array([(5.0, 5.0), (20.0, 5.0)]), closed=False)
        made = shortened(program_of(design(square(0, 0, 30), fold)))
        self.assertEqual([made.pieces[k] for k in made.piece.tolist()], ["p1", "p0"])
        self.assertEqual(holders_of(Path.concatenate([square(0, 0, 30), fold])).tolist(), [-1, 0])

    def test_open_runs_begin_at_their_nearer_end(self):
        lines = [Path.from_points(np.array([(0.0, 5.0 * k), (100.0, 5.0 * k)]), closed=False) for k in range(12)]
        document = design(*lines, treatment=Treatment.DRAW)
        made = shortened(program_of(document))
        begin, end = made.ends
        # There and back: from line to line it is as far as they are apart.
        self.assertTrue(np.allclose(np.hypot(*(begin[1:] - end[:-1]).T), 5.0))
        self.assertEqual(int((begin[:, 0] > 50).sum()), 6)
        for name in ("hpgl", "gcode"):
            file = by_id(name).write(document, WriteOptions())
            self.assertTrue(pipeline.prove(f"a.{name}", file.data, document).proof.holds)

    def test_it_is_the_shortest_where_all_orders_can_be_tried(self):
        random = np.random.default_rng(5)
        close = 0
        for _ in range(20):
            places = random.uniform(0, 100, (7, 2))
            made = program_of(design(*[circle(x, y, 1.0) for x, y in places.tolist()]))
            begin, end = made.ends
            best = min(
                np.hypot(*(begin[list(order)] - np.vstack([[(0.0, 0.0)], end[list(order)][:-1]])).T).sum()
                for order in itertools.permutations(range(7))
            )
            found = travel_mm(shortened(made))
            self.assertLess(found, 1.25 * best)
            close += found < 1.02 * best
        self.assertGreaterEqual(close, 14)

    def test_near_what_is_expected_of_the_shortest_tour(self):
        """Of n places spread evenly over an area A the shortest tour is about 0.7124 sqrt(n A) long (Beardwood, Halton
        and Hammersley 1959; the constant as Johnson and McGeoch 1996 measured it, from memory)."""
        random = np.random.default_rng(2)
        places = random.uniform(0, 1000, (1000, 2))
        made = shortened(program_of(design(*[circle(x, y, 0.01) for x, y in places.tolist()])))
        self.assertLess(travel_mm(made), 1.2 * 0.7124 * np.sqrt(1000 * 1000.0 * 1000.0))

    def test_very_many_runs_are_taken_row_by_row(self):
        x, y = np.meshgrid(np.arange(90.0), np.arange(90.0))
        places = np.random.default_rng(0).permutation(np.column_stack([x.ravel(), y.ravel()]) * 3)
        before = program_of(design(*[square(a, b, 2.0) for a, b in places.tolist()]))
        made = shortened(before)
        self.assertEqual(sorted(made.piece.tolist()), list(range(len(before))))
        self.assertLess(travel_mm(made), 0.05 * travel_mm(before))

    def test_the_same_design_gives_the_same_file(self):
        document = scattered(40, 9)
        files = {by_id("hpgl").write(document, WriteOptions()).data for _ in range(2)}
        self.assertEqual(len(files), 1)


class Words(unittest.TestCase):
    """What a machine's file tells it, by an independent reading of the words."""

    def code(self, tool: str) -> list[str]:
        machine = next(each for each in PROFILES if each.format == "gcode")
        own = replace(machine, tool=tool, speed_mm_s=25.0)
        text = by_id("gcode").write(design(square(0, 0, 10)), options_for(own)).data.decode()
        return re.findall(r"[A-Z][-+.\d]+", re.sub(r"\([^)]*\)", "", text))

    def test_a_knife_gets_heights_and_no_beam(self):
        for tool in ("knife", "pen"):
            words = self.code(tool)
            self.assertFalse({"M3", "M4"} & set(words))
            self.assertFalse([word for word in words if word.startswith("S")])
            self.assertIn("Z-0.5", words)
            self.assertIn("F1500", words)

    def test_a_laser_gets_its_power_and_no_height(self):
        words = self.code("laser")
        self.assertIn("M3", words)
        self.assertTrue([word for word in words if word.startswith("S")])
        self.assertFalse([word for word in words if word.startswith("Z")])
        self.assertIn("F1500", words)
