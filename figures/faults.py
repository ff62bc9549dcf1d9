"""Check and mend of large designs, beside the raw union of the same lines; and what of planted faults is found."""

from __future__ import annotations

import resource
import time
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import shapely
from tests.fonts import glyph, glyph_names
from tests.planted import FORMS, KINDS, planted

from hakobu.checks import check, rule_of
from hakobu.checks.applier import mend_where
from hakobu.geometry import Path, flatten, scaling, transform, translation
from hakobu.geometry.tolerances import CHORD_MM
from hakobu.model import Conditions, Document, Fill, Layer, Level, Page, Piece

#: Sizes of the planted faults, in mm, and the seeds: the first is what was built on, the second is new.
SIZES, SEEDS = (10.0, 40.0, 300.0, 3000.0), (1, 2)
#: How near chords are to their curves for the library, which has no curves: as near as in what machines are sent, and
#: coarser than that.
CHORDS_MM = (CHORD_MM, 0.01)
EACH = 20.0


def letters(segments: int, seed: int = 3) -> Document:
    """Letters of an open font in rows, one in forty with a copy on it, moved over its neighbour, or with dust."""
    random = np.random.default_rng(seed)
    shapes = [s for name in glyph_names("sans")[:600] if (s := glyph("sans", name)).segment_count >= 8]
    small = [transform(shape, scaling(EACH / 1000)) for shape in shapes]
    row = int(np.ceil((segments / 18) ** 0.5))
    paths: list[Path] = []
    count = 0
    while count < segments:
        k = len(paths)
        path = transform(small[k % len(small)], translation(k % row * EACH * 1.2, k // row * EACH * 1.4 + EACH))
        chance = random.random()
        made = [path]
        if chance < 0.01:
            made.append(path.reversed())
        elif chance < 0.02:
            made = [transform(path, translation(EACH * 0.7, 0.0))]
        elif chance < 0.025:
            made.append(transform(path, scaling(0.01)))
        paths += made
        count += sum(each.segment_count for each in made)
    fill, side = Fill("#1b2a4e"), row * EACH * 1.5
    pieces = tuple(Piece(f"b{k}", path, "ink", fill=fill) for k, path in enumerate(paths))
    return Document(Page(side, side), (Layer("ink", "Ink", "#1b2a4e"),), pieces)


def faults() -> Iterator:
    made = letters(100_000)
    for near in CHORDS_MM:
        lines = _lines(made, near)
        yield (
            "check 100,000 segments of letters, all rules",
            lambda: check(replace(made)),
            lambda lines=lines: shapely.unary_union(lines),
            f"shapely: unary_union, {near:g} mm",
        )
    yield "mend all that is safe of them", lambda: mend_where(replace(made), lambda f: f.safe, Conditions()), None, ""
    yield from _growth()
    for seed in SEEDS:
        yield _planted(seed)


def _lines(document: Document, near_mm: float) -> list[shapely.LineString]:
    chords = flatten(Path.concatenate(p.path for p in document.pieces), near_mm)
    return [shapely.LineString(chords.points[a:b]) for a, b in zip(chords.start[:-1], chords.start[1:], strict=True)]


def _growth() -> Iterator[str]:
    spent = {}
    for count in (10_000, 100_000, 1_000_000):
        made = letters(count)
        check(replace(made))
        begin = time.perf_counter()
        found = check(replace(made))
        spent[count] = time.perf_counter() - begin
        yield f"check of {count:,} segments: {spent[count]:.2f} s, {len(found)} findings listed."
    exponent = np.log(spent[1_000_000] / spent[10_000]) / np.log(100)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 2**20
    yield f"It grows with the power {exponent:.2f} of the segments; the most memory was {peak:.2f} GiB."


def _planted(seed: int) -> str:
    """How many are found, mended, and not found again."""
    planted_, missed, again, mends = 0, [], [], 0
    for kind in KINDS:
        for size in SIZES:
            for form in range(FORMS):
                made = planted(kind, form, size, seed)
                found = check(made.document, made.conditions)
                planted_ += 1
                if kind not in {f.rule for f in found}:
                    missed.append((kind, form, size))
                if not any(f.rule == kind and f.mendable for f in found):
                    continue
                mends += 1
                done = mend_where(made.document, lambda f, kind=kind: f.rule == kind, made.conditions)
                left = check(done.document, made.conditions, [rule_of(kind)])
                if any(f.mendable and f.level is not Level.NOTE for f in left):
                    again.append((kind, form, size))
    return (
        f"Planted faults, seed {seed}: {planted_ - len(missed)} of {planted_} found, {mends - len(again)} of {mends} "
        f"that can be mended mended and not found again. {missed[:5] or ''}{again[:5] or ''}"
    )
