"""How exact tracing is, in pixels, on shapes of two seeds: sentences with what was asked."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from hakobu.geometry import Path, flatten, rotation, scaling, signed_areas, transform, translation
from hakobu.geometry.boolean import intersection
from hakobu.geometry.proximity.places import Places
from hakobu.tracing import View, find
from hakobu.tracing.colour.labels import labelled
from hakobu.tracing.colour.palette import find_palette
from hakobu.tracing.colour.planar_map import areas_of
from hakobu.tracing.options import TraceOptions
from hakobu.tracing.outlines import thresholding
from hakobu.tracing.scale.reference import Reference, scaled_by

from . import colours, lines
from .pictures import blurred, body_of, clean, drawn, scanned
from .scores import apart, corner_scores, coverage_iou, curve_count
from .shapes import polygon, shapes

PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
TIGHT_PX, LEAN_PX, NOISY_PX = 0.05, 0.28, 0.2


def traced(grey: np.ndarray, smoothness_px: float) -> Path:
    grey = np.ascontiguousarray(grey, np.float32)
    made = thresholding.trace(grey, PIXELS, thresholding.propose(grey, 1.0).threshold, smoothness_px, 12.0)
    return Path.concatenate(region.path for region in made.regions)


def traced_file(grey: np.ndarray, smoothness_px: float) -> Path:
    """As from a picture file of eight bits."""
    value = (grey * 255).round().astype(np.uint8)
    rgba = np.ascontiguousarray(np.dstack([value, value, value, np.full(value.shape, 255, np.uint8)]))
    asked = TraceOptions(smoothness_mm=smoothness_px, smallest_mm2=12.0)
    return Path.concatenate(piece.path for piece in find(View(rgba, PIXELS), "dark", asked).pieces)


def outlines(seed: int) -> Iterator[str]:
    known = shapes(seed)
    pictures = [clean(shape.path, shape.side) for shape in known]
    yield _outline_row("clean, tight", known, [traced(g, TIGHT_PX) for g in pictures], seed, iou=True)
    yield _outline_row("clean, lean", known, [traced(g, LEAN_PX) for g in pictures], seed)
    spoilt = [scanned(grey, 100 * seed + k) for k, grey in enumerate(pictures)]
    yield _outline_row("scanned, JPEG 30", known, [traced_file(g, NOISY_PX) for g in spoilt], seed)
    small = [blurred(clean(shape.path, shape.side, 0.5), 1.2) for shape in known]
    halved = [type(shape)(shape.name, transform(shape.path, scaling(0.5)), shape.side // 2) for shape in known]
    yield _outline_row("blurred by 1.2 px at 150 dpi", halved, [traced(g, NOISY_PX) for g in small], seed)


def _outline_row(what: str, known, made: list[Path], seed: int, iou: bool = False) -> str:
    off = np.concatenate([apart(shape.path, path) for shape, path in zip(known, made, strict=True)])
    scores = [corner_scores(shape.path, path) for shape, path in zip(known, made, strict=True)]
    corner = np.concatenate([score.off for score in scores])
    curved = [(curve_count(s.path), curve_count(p)) for s, p in zip(known, made, strict=True) if curve_count(s.path)]
    share = sum(b for _, b in curved) / sum(a for a, _ in curved)
    text = (
        f"Outlines, {what}, seed {seed}: mean {off.mean():.3f}, 99 of 100 within {np.quantile(off, 0.99):.2f}, max "
        f"{off.max():.2f} px; {sum(s.known for s in scores)} corners off by {corner.mean():.3f} px, "
        f"{sum(s.missed for s in scores)} missed, {sum(s.false for s in scores)} false; curves {share:.2f} of "
        "the truth's"
    )
    if iou:
        values = [coverage_iou(s.path, p, s.side) for s, p in zip(known, made, strict=True)]
        text += f"; coverage in common {np.mean(values):.4f}"
    return text + "."


def cut_off(seed: int) -> Iterator[str]:
    """Parts of the pictures, whose rims cut the shapes off."""
    known = shapes(seed)
    for what, spoil, smooth, way in (
        ("clean", lambda grey, k: grey, TIGHT_PX, traced),
        ("scanned, JPEG 30", scanned, NOISY_PX, traced_file),
    ):
        off, beyond = [], 0.0
        for k, shape in enumerate(known):
            first, side = round(0.3 * shape.side), round(0.45 * shape.side)
            rows = slice(first, first + side)
            frame = polygon(np.array([[0, 0], [side, 0], [side, side], [0, side]], float))
            there = intersection(transform(shape.path, translation(-first, -first)), frame).path
            if not 0 < signed_areas(there).sum() < 0.99 * side**2:
                continue
            made = way(spoil(clean(shape.path, shape.side), 100 * seed + k)[rows, rows], smooth)
            off.append(apart(there, made))
            points = flatten(made, 0.001).points
            beyond = max(beyond, float(-points.min()), float(points.max()) - side)
        all_ = np.concatenate(off)
        yield (
            f"Cut off by the picture's rim, {what}, seed {seed}: mean {all_.mean():.3f}, 99 of 100 within "
            f"{np.quantile(all_, 0.99):.2f}, max {all_.max():.2f} px; beyond the rim by {beyond:.2f}."
        )


def strips(seed: int) -> Iterator[str]:
    """Rectangles one to four pixels wide at any angle: how far their middles and ends are off."""
    random = np.random.default_rng(seed)
    axis, ends = [], []
    for wide in (1.0, 1.5, 2.0, 3.0, 4.0):
        for _ in range(6):
            angle = random.uniform(0, np.pi)
            bar = polygon([[-50, -wide / 2], [50, -wide / 2], [50, wide / 2], [-50, wide / 2]])
            bar = transform(transform(bar, rotation(angle)), translation(*(75 + random.uniform(-1, 1, 2))))
            made = traced(clean(bar, 150), 0.1)
            points = flatten(made, 0.001, 0.25).points
            u = np.array([np.cos(angle), np.sin(angle)])
            middle = bar.ctrl[:, 0].mean(axis=0)
            along, over = (points - middle) @ u, (points - middle) @ np.array([-u[1], u[0]])
            inner = np.abs(along) < 44
            axis.append(abs(over[inner & (over > 0)].mean() + over[inner & (over < 0)].mean()) / 2)
            ends += [abs(along.max() - 50), abs(along.min() + 50)]
    yield (
        f"Strips 1 to 4 px wide, seed {seed}: middle off by {np.mean(axis):.3f} px (at most {np.max(axis):.3f}), ends "
        f"by {np.mean(ends):.2f} (at most {np.max(ends):.2f})."
    )


def middle_lines() -> Iterator[str]:
    for noisy in (False, True):
        off, places = [], []
        for _, _, distance, own in lines.middles(noisy):
            off.append(distance)
            places += own
        all_ = np.concatenate(off)
        yield (
            f"Middle of lines 3 to 15 px wide, {'noisy' if noisy else 'clean'}: mean {all_.mean():.3f} px, max "
            f"{all_.max():.2f}; ends, bends and meetings off by {np.mean(places):.3f} on average, "
            f"{100 * np.mean(np.array(places) <= 0.15):.0f} % within 0.15."
        )
        for what, way in (
            ("Lines 8 to 16 px wide that turn back in arcs of 1.2 to 2.5 widths", lines.tight_bends),
            ("Lines of a brush, 3 to 16 px wide, that taper or swell", lines.brush_lines),
        ):
            each = list(way(noisy))
            yield (
                f"{what}, {'noisy' if noisy else 'clean'}: mean {np.concatenate(each).mean():.3f} px, max "
                f"{max(own.max() for own in each):.2f}."
            )


def junctions() -> Iterator[str]:
    count, gaps, kinks = lines.gaps_at_junctions()
    yield f"Junctions of lines in {count} JPEG drawings, nine in each: gaps {gaps}, kinks {kinks}."


def colour_borders(seed: int) -> Iterator[str]:
    wrong, off, gaps = [], {}, 0.0
    for count in (3, 4, 5, 6, 8, 10, 12):
        body, _known = colours.scene(count, 10 * count + seed)
        truth = Places(colours.borders(body))
        for name, rgb in colours.variants(body, seed):
            palette = find_palette(rgb)
            if len(palette.rgb) != count:
                wrong.append(f"{count} {name}: {len(palette.rgb)}")
            seen = labelled(rgb, np.ascontiguousarray(palette.rgb * 255.0), palette.noise, 12.0)
            areas = areas_of(seen, palette.noise, PIXELS, 0.1 if name == "clean" else 0.2).areas
            gaps = max(gaps, abs(sum(float(signed_areas(a.path).sum()) for a in areas) - colours.SIDE**2))
            points = np.concatenate([flatten(area.path, 0.001, 0.25).points for area in areas])
            inner = ((points > 1) & (points < colours.SIDE - 1)).all(axis=1)
            off.setdefault(name, []).append(truth.nearest(points[inner]).distance)
    means = ", ".join(f"{name} {np.concatenate(own).mean():.3f}" for name, own in off.items())
    yield (
        f"Colours, 3 to 12, seed {seed}: number wrong in {len(wrong)} of 28 {wrong or ''}; borders off by {means} px "
        f"on average; all areas together miss the picture's by {gaps:.1e} of {colours.SIDE**2:,} px2."
    )


def references() -> Iterator[str]:
    for dpi in (150, 300):
        random = np.random.default_rng(dpi)
        side = 20 * dpi / 25.4
        size, turn = [], []
        for k in range(8):
            angle = random.uniform(-8, 8)
            square = polygon(np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * side / 2)
            frame = int(side * 1.6)
            placed = transform(
                transform(square, rotation(np.radians(angle))), translation(*(frame / 2 + random.uniform(-1, 1, 2)))
            )
            grey = scanned(clean(placed, frame), k, 90)
            made = scaled_by(_view(grey), Reference("square", 20.0, 20.0))
            size.append(abs(made.view.pixel_mm * side / 20 - 1))
            turn.append(abs(np.degrees(made.turned) - angle))
        yield (
            f"A square of 20 mm at {dpi} dpi, scanned: scale off by {100 * np.mean(size):.4f} % (at most "
            f"{100 * np.max(size):.4f}), tilt by {np.mean(turn):.4f} degrees (at most {np.max(turn):.4f})."
        )
    yield _slanted()


def _slanted() -> str:
    """A thing of known size beside the square, seen at a slant of ten degrees."""
    off = []
    for k, way in enumerate((0, 45, 90, 200)):
        square = polygon(np.array([[0, 0], [60, 0], [60, 60], [0, 60]], float))
        other = polygon(np.array([[80, 10], [130, 10], [130, 50], [80, 50]], float))
        both = Path.concatenate([_seen(square, way), _seen(other, way)])
        grey = scanned(drawn(body_of(both), 900, 700)[..., 0], k, 90)
        made = scaled_by(_view(grey), Reference("square", 60.0, 60.0))
        found = traced_mm(made.view)
        sizes = sorted(np.sqrt(abs(a)) for a in signed_areas(found))
        off.append(abs(sizes[0] / np.sqrt(50 * 40) - 1))
    return (
        f"A thing of 50 by 40 mm beside a square of 60 mm, seen at 10 degrees: its size off by "
        f"{100 * np.mean(off):.3f} % (at most {100 * np.max(off):.3f})."
    )


def _seen(path: Path, way: float) -> Path:
    """A plane turned by ten degrees about an axis in it, 600 mm from the eye, five pixels a mm."""
    tilt, turn = np.radians(10), np.radians(way)
    points = path.ctrl.reshape(-1, 2) - (65, 30)
    axis = np.array([np.cos(turn), np.sin(turn)])
    along, over = points @ axis, points @ np.array([-axis[1], axis[0]])
    depth = 600 + over * np.sin(tilt)
    flat = np.outer(along, axis) + np.outer(over * np.cos(tilt), [-axis[1], axis[0]])
    made = flat * (600 / depth)[:, None] * 5 + (450, 350)
    return polygon(made.reshape(-1, 4, 2)[:, 0])


def _view(grey: np.ndarray) -> View:
    eight = (np.clip(grey, 0, 1) * 255).round().astype(np.uint8)
    rgba = np.dstack([eight, eight, eight, np.full_like(eight, 255)])
    return View(np.ascontiguousarray(rgba), PIXELS)


def traced_mm(view: View) -> Path:
    grey = view.grey
    made = thresholding.trace(
        grey, view.matrix, thresholding.propose(grey, view.pixel_mm).threshold, 0.2 * view.pixel_mm, 10.0
    )
    return Path.concatenate(region.path for region in made.regions)


def accuracy() -> Iterator[str]:
    for seed in (1, 2):
        yield from outlines(seed)
    for seed in (1, 2):
        yield from cut_off(seed)
    for seed in (1, 2):
        yield from strips(seed)
    yield from middle_lines()
    yield from junctions()
    for seed in (1, 2):
        yield from colour_borders(seed)
    yield from references()
