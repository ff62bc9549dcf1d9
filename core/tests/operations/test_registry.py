"""Tables over OPERATIONS: whatever a step is, documents stay whole, results are the same twice, steps are repaired."""

import json
import unittest
from dataclasses import fields, replace

import numpy as np

from hakobu import pipeline
from hakobu.errors import BadRequest, CannotDo
from hakobu.geometry import Path
from hakobu.model import Document, Fill, Page, Piece, Step, Stroke
from hakobu.model.declare import HANDLES, declared, is_required
from hakobu.model.validate import KINDS, schema_of_values
from hakobu.operations import OPERATIONS, STATIONS, operation_of, parameters_from, schema_of, upgraded
from hakobu.operations.spelling import options_of

from ..shapes import square
from .building import DESIGN, LAYERS, step, take

PAIR = ("s:a", "s:b")
#: For each operation what it is tried with: the pieces, and its parameters. Bringing in, tracing and laying
#: have tests of their own.
TRIED = {
    "page": (None, {"width_mm": 300.0, "height_mm": 200.0}),
    "resize": (None, {"factor": 2.0}),
    "layer": (None, {"layer": "front", "name": "Black"}),
    "to-layer": (PAIR, {"layer": "back"}),
    "merge-layers": (None, {"layers": ["front", "back"]}),
    "split-by-colour": (None, {"layer": "front"}),
    "arrange": (("s:ring",), {"to": "front"}),
    "remove": (("s:ring",), {}),
    "mend": (None, {}),
    "combine": (("s:ring", "s:a"), {}),
    "take-apart": (("s:ring",), {"into": "outlines"}),
    "put-together": (PAIR, {}),
    "backing": (PAIR, {"distance_mm": 2.0}),
    "rim": (("s:ring",), {"distance_mm": 1.0}),
    "holes": (("s:ring",), {}),
    "place": (PAIR, {"move": [5.0, 1.0], "turn": 30.0}),
    "align": (PAIR, {"x": "left", "to": "page"}),
    "copies": (PAIR, {"columns": 3, "rows": 2}),
    "simplify": (("s:line",), {"within_mm": 0.02}),
    "words": (None, {"text": "Moth", "weld": "apart"}),
    "open-along": (("s:ring",), {"gap_mm": 6.0}),
    "symmetry": (("s:ring", "s:a"), {"axis": [20.0, 0.0, 20.0, 40.0]}),
    "interlock": (PAIR, {"rim_mm": 1.0}),
    "let-in": (("s:b",), {"clearance_mm": 0.8}),
    "caption": (("s:ring",), {"clearance_mm": 0.2}),
    "bridge": (("s:ring",), {}),
    "join": (("s:a", "s:note"), {}),
    "stand": (("s:b",), {"side": "left"}),
    "thicken": (PAIR, {"where": "all", "by_mm": 0.5}),
    "corners": (PAIR, {}),
    "smooth": (("s:line",), {"within_mm": 2.0}),
    "pattern": (("s:ring",), {"spacing_mm": 4.0}),
    "dash": (("s:line",), {}),
    "fold": (("s:ring",), {}),
    "edges": (("s:line",), {}),
    "nodes": (PAIR, {"edits": {"edits": [{"do": "move", "piece": "s:a", "nodes": [0], "by": [-1.0, -1.0]}]}}),
    "cut-along": (PAIR, {"line": [[0.0, 15.0], [90.0, 18.0]]}),
    "size-by": (None, {"at": [20.0, 20.0], "to_mm": 30.0}),
    "sheets": (None, {"arrange": "packed"}),
    "measure": (None, {"at": [20.0, 20.0], "must_mm": 20.0}),
    "work-order": (None, {"first": ["s:b", "s:a"]}),
    "start-points": (None, {"places": {"s:a": {"0": 0.5}}}),
    "tab-places": (None, {"places": {"s:a": {"0": [0.1, 0.6]}}}),
    "tiles": (None, {"width_mm": 60.0, "height_mm": 60.0}),
    "shape": (None, {"kind": "ring", "width_mm": 30.0, "rim_mm": 4.0}),
}
#: What cannot be done with the design as it is.
NOTHING_TO_DO = {"split-by-colour"}


def values_of(row: dict) -> set[str]:
    """What a parameter can be, as a condition on it names it."""
    if row["kind"] == "flag":
        return {"true", "false"}
    if row["kind"] == "count":
        return {str(number) for number in range(int(row["low"]), int(row["high"]) + 1)}
    return {choice["value"] for choice in row["choices"]}


class Declarations(unittest.TestCase):
    def test_stations_kinds_handles_and_sentences_are_known(self):
        for operation in OPERATIONS:
            with self.subTest(operation.id):
                self.assertIn(operation.station, STATIONS)
                self.assertTrue(operation.sentence)
                names = {f.name for f in fields(operation.parameters)}
                for row in schema_of(operation):
                    self.assertIn(row["kind"], KINDS)
                    self.assertIn(row["handle"], HANDLES)
                    self.assertTrue(row["label"] and row["help"], row["name"])
                    self.assertLessEqual({*row["instead_of"], *([row["when"]["name"]] if row["when"] else [])}, names)
                    if row["low"] is not None and row["default"] is not None:
                        self.assertTrue(row["low"] <= row["default"] <= row["high"], row["name"])
                    if row["when"]:
                        other = next(r for r in schema_of(operation) if r["name"] == row["when"]["name"])
                        self.assertLessEqual(set(row["when"]["values"]), values_of(other))
                for word in operation.sentence.replace("{", " {").split():
                    if word.startswith("{"):
                        self.assertIn(word[1 : word.index("}")], names)

    def test_every_default_is_a_value_that_is_taken(self):
        needed = {"text": "x", "layer": "x", "layers": ["x"], "places": [[0.0, 0.0], [9.0, 9.0]]}
        for operation in OPERATIONS:
            values = {}
            for name, (told, field) in declared(operation.parameters).items():
                if is_required(field):
                    values[name] = needed[told.kind]
                elif isinstance(field.default, bool | int | float | str):
                    values[name] = field.default
            with self.subTest(operation.id):
                parameters_from(operation, values)

    def test_schemas_hold_every_parameter_with_its_limits(self):
        for operation in OPERATIONS:
            with self.subTest(operation.id):
                _, parts = schema_of_values(operation.parameters, operation.id)
                properties = parts[operation.id]["properties"]
                self.assertEqual(set(properties), {"operation", *declared(operation.parameters)})
                for name, (told, _) in declared(operation.parameters).items():
                    if told.kind == "length":
                        text = json.dumps(properties[name])
                        self.assertIn(f'"maximum": {told.high}', text)

    def test_options_of_the_command_line_are_told_apart(self):
        for operation in OPERATIONS:
            options = options_of(operation)
            taken = {*(role.id for role in operation.roles), "json"}
            self.assertFalse(taken & {*options, *operation.spellings}, operation.id)


class Invariants(unittest.TestCase):
    def test_every_operation_is_tried(self):
        self.assertEqual({o.id for o in OPERATIONS} - set(TRIED), {"bring-in", "trace", "lay"})

    def results(self):
        for name, (on, parameters) in TRIED.items():
            if name not in NOTHING_TO_DO:
                with self.subTest(name):
                    made = step(name, on, **parameters)
                    yield name, made, pipeline.run_step(DESIGN, made)

    def test_the_input_is_untouched_and_the_result_whole(self):
        before = pipeline.hashlib.sha256(repr(DESIGN).encode()).hexdigest()
        digests = [piece.path.digest for piece in DESIGN.pieces]
        for _, _, result in self.results():
            self.assertEqual(result.stopped, "")
            after = result.document
            ids = [piece.id for piece in after.pieces]
            self.assertEqual(len(set(ids)), len(ids))
            layers = {layer.id for layer in after.layers}
            self.assertEqual(len(layers), len(after.layers))
            self.assertLessEqual({piece.layer for piece in after.pieces}, layers)
            known = {*ids, *(group.id for group in after.groups)}
            for group in after.groups:
                self.assertTrue(group.members)
                self.assertLessEqual(set(group.members), known)
            self.assertTrue(result.outcome.title)
        self.assertEqual(pipeline.hashlib.sha256(repr(DESIGN).encode()).hexdigest(), before)
        self.assertEqual([piece.path.digest for piece in DESIGN.pieces], digests)

    def test_the_same_twice_and_after_a_way_through_json(self):
        for _, made, result in self.results():
            again = Step.from_json(json.loads(json.dumps(made.as_json())))
            self.assertEqual(again, made)
            second = pipeline.run_step(DESIGN, again).document
            self.assertEqual([p.id for p in second.pieces], [p.id for p in result.document.pieces])
            self.assertEqual([p.path.digest for p in second.pieces], [p.path.digest for p in result.document.pieces])
            self.assertEqual(second.layers, result.document.layers)

    def test_what_nobody_picked_stays_the_same(self):
        for name in (
            "combine",
            "take-apart",
            "put-together",
            "backing",
            "rim",
            "holes",
            "place",
            "align",
            "copies",
            "shape",
            "open-along",
            "symmetry",
            "interlock",
            "caption",
            "bridge",
            "join",
            "thicken",
            "corners",
            "pattern",
            "dash",
            "fold",
            "edges",
            "nodes",
            "cut-along",
        ):
            on, parameters = TRIED[name]
            with self.subTest(name):
                after = take(name, on, **parameters).document
                for piece in DESIGN.pieces:
                    if piece.id not in (on or ()):
                        self.assertIs(after.by_id[piece.id], piece)

    def test_a_step_whose_piece_has_gone_stops_and_is_repaired_by_what_is_left(self):
        for name, made, _ in self.results():
            if not made.picked:
                continue
            gone = next(iter(made.picked))
            smaller = DESIGN.with_paths({gone: None})
            stopped = pipeline.run_step(smaller, made)
            self.assertIn("no longer there", stopped.stopped, name)
            self.assertIs(stopped.document, smaller)
            if len(made.picked) == 1:
                self.assertRaises(CannotDo, pipeline.repaired, smaller, made)
            else:
                again = pipeline.repaired(smaller, made)
                self.assertEqual(set(again.picked), set(made.picked) - {gone})

    def test_a_newer_version_than_is_known_stops(self):
        for _, made, _ in self.results():
            result = pipeline.run_step(DESIGN, replace(made, version=made.version + 1))
            self.assertIn("newer", result.stopped)


class Odd(unittest.TestCase):
    """Designs that nobody draws on purpose: nodes alone, lines of no length, areas of nothing, what lies on itself."""

    PATHS = (
        Path.from_points(np.array([[5.0, 5.0], [5.0, 5.0]]), closed=False),
        Path.from_points(np.array([[5.0, 5.0], [9.0, 5.0], [5.0, 5.0]]), closed=True),
        Path.from_points(np.array([[5.0, 5.0], [25.0, 9.0]]), closed=False),
        square(10, 10, 1e-4),
        Path.concatenate([square(10, 10, 10), square(10, 10, 10)]),
        Path.concatenate([square(10, 10, 10), square(10, 10, 10).reversed()]),
        square(12, 12, 4),
    )

    def designs(self):
        for fills in ((True,), (False,), (True, False)):
            pieces = tuple(
                Piece(
                    f"s:{k}",
                    path,
                    "front",
                    fill=Fill("#112233") if fills[k % len(fills)] else None,
                    stroke=None if fills[k % len(fills)] else Stroke("#112233", 0.1),
                )
                for k, path in enumerate(self.PATHS)
            )
            yield Document(Page(60, 60), LAYERS, pieces)
            if fills == (True,):
                yield from (Document(Page(60, 60), LAYERS, (piece,)) for piece in pieces)

    def test_every_operation_is_done_or_refused_with_a_sentence(self):
        for name, (_, parameters) in TRIED.items():
            operation = operation_of(name)
            roles = [role.id for role in operation.roles]
            for number, design in enumerate(self.designs()):
                everything = tuple(piece.id for piece in design.pieces)
                first = {"on": everything[:1], "into": everything[1:], "onto": everything[1:], "to": everything[1:]}
                for chosen in ({"on": everything}, first):
                    on = {role: ids for role, ids in chosen.items() if role in roles and ids}
                    if "nodes" in name:
                        parameters = {"edits": {"edits": [{"do": "smooth", "piece": everything[0], "nodes": [0]}]}}
                    with self.subTest(name, design=number, **on):
                        made = step(name, on.pop("on", None), document=design, **on, **parameters)
                        result = pipeline.run_step(design, made)
                        self.assertTrue(result.outcome is not None or result.stopped)


class Asked(unittest.TestCase):
    def test_what_makes_no_sense_is_refused_with_its_reason(self):
        for operation, values, words in (
            ("backing", {"distance_mm": float("nan")}, "lie between"),
            ("backing", {"distance_mm": float("inf")}, "lie between"),
            ("backing", {"join": "square"}, "round, mitre, bevel"),
            ("backing", {"hollows": "some"}, "some"),
            ("backing", {"colour": "red"}, "#rrggbb"),
            ("place", {"move": [1.0]}, "a place"),
            ("place", {"move": [1.0, float("nan")]}, "a place"),
            ("place", {}, "Say how far"),
            ("align", {}, "Say where"),
            ("align", {"x": "left", "to": "nobody"}, "no longer there"),
            ("copies", {"columns": 1}, "One row of one column"),
            ("copies", {"columns": 400, "rows": 400}, "more than 2,000"),
            ("shape", {"kind": "ring", "width_mm": 10.0, "rim_mm": 8.0}, "no opening"),
            ("combine", {"mode": "weld", "blend": 1}, 'no parameter "blend"'),
            ("take-apart", {"into": ["pieces"]}, "one of pieces"),
        ):
            with self.subTest(f"{operation} {values}"):
                self.assertRegex(take(operation, PAIR if operation != "shape" else None, **values).stopped, words)

    def test_pieces_that_an_operation_does_not_take_are_refused(self):
        self.assertIn("takes no pieces", take("resize", PAIR, factor=2.0).stopped)
        for operation in ("remove", "to-layer"):
            self.assertIn("Pick a piece first", take(operation, None, **TRIED[operation][1]).stopped)
        self.assertIn("means no piece", take("backing", "named nobody").stopped)
        self.assertRaises(BadRequest, operation_of, "melt")

    def test_values_of_an_older_version_are_taken_as_they_were_meant(self):
        for name in ("remove", "to-layer", "arrange"):
            operation = operation_of(name)
            self.assertEqual(upgraded(operation, {"pieces": ["s:a"]}, 1), {})
            made = replace(step(name, PAIR, **TRIED[name][1]), version=1)
            old = replace(made, parameters={**made.parameters, "pieces": list(PAIR)})
            self.assertEqual(pipeline.run_step(DESIGN, old).stopped, "")

    def test_nothing_can_be_built_of_nothing(self):
        for name in ("combine", "backing", "place", "copies", "put-together"):
            self.assertIn("Pick", take(name, document=Document(), **TRIED[name][1]).stopped)
