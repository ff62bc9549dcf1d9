"""What each kind of DXF entity draws. Source: the DXF reference, chapter "ENTITIES".

DRAW: entity types, each with the function that draws it: entity, builder, scale (mm in a unit of the file) to None, or
a sentence on what is wrong with it. They draw in the entity's own plane, y up; PLANAR ones have one of their own, the
object coordinate system.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from ...geometry import PathBuilder
from ...geometry.arcs import cubics_needed, unit_arc_cubics
from .splines import cubics_of

#: Points nearer than this share of a unit are one.
SAME = 1e-12
FULL = 2 * math.pi


def _line(entity, builder: PathBuilder, scale: float) -> None:
    d = entity.dxf
    builder.move_to((d.start.x, d.start.y))
    builder.line_to((d.end.x, d.end.y))


def _point(entity, builder: PathBuilder, scale: float) -> None:
    builder.move_to((entity.dxf.location.x, entity.dxf.location.y))


def _circle(entity, builder: PathBuilder, scale: float) -> str | None:
    d = entity.dxf
    if not d.radius > 0:
        return "a circle of no radius"
    builder.circle(d.center.x, d.center.y, d.radius)
    return None


def _arc(entity, builder: PathBuilder, scale: float) -> str | None:
    d = entity.dxf
    if not d.radius > 0:
        return "an arc of no radius"
    first = math.radians(d.start_angle % 360)
    turn = math.radians((d.end_angle - d.start_angle) % 360) or FULL
    if turn >= FULL - SAME:
        builder.circle(d.center.x, d.center.y, d.radius)
        return None
    builder.move_to((d.center.x + d.radius * math.cos(first), d.center.y + d.radius * math.sin(first)))
    builder.arc_about((d.center.x, d.center.y), turn)
    return None


def _ellipse(entity, builder: PathBuilder, scale: float) -> str | None:
    """In the world's coordinates: an ellipse has a normal, but its centre and axis stand in the drawing's own space."""
    d = entity.dxf
    major, minor = entity.dxf.major_axis, entity.minor_axis
    turn = (d.end_param - d.start_param) % FULL or FULL
    if not (major.magnitude > 0 and minor.magnitude > 0):
        return "an ellipse of no size"
    first = d.start_param
    axes = np.array([[major.x, major.y], [minor.x, minor.y]])
    _elliptical(builder, np.array([d.center.x, d.center.y]), axes, first, turn, scale)
    if turn >= FULL - 1e-9:
        builder.close()
    return None


def _elliptical(builder: PathBuilder, centre, axes, first: float, turn: float, scale: float) -> None:
    """An arc of an ellipse by its half axes (2, 2), true arcs where it is a circle's."""
    a, b = np.hypot(*axes[0]), np.hypot(*axes[1])
    cross = axes[0, 0] * axes[1, 1] - axes[0, 1] * axes[1, 0]
    start = centre + math.cos(first) * axes[0] + math.sin(first) * axes[1]
    builder.move_to(tuple(start.tolist()))
    if abs(a - b) <= 1e-9 * a and abs(axes[0] @ axes[1]) <= 1e-9 * a * b:
        builder.arc_about(tuple(centre.tolist()), math.copysign(turn, turn * cross))
        return
    count = int(cubics_needed(np.array(abs(turn)), np.array(max(a, b) * scale)))
    for curve in (unit_arc_cubics(first, turn, count) @ axes + centre).tolist():
        builder.cubic_to(tuple(curve[1]), tuple(curve[2]), tuple(curve[3]))


def _bulged(points: list[tuple[float, float, float]], closed: bool, builder: PathBuilder) -> None:
    """Straight lines and arcs through points with the bulge towards the next."""
    builder.move_to(points[0][:2])
    following = [*points[1:], points[0]] if closed else points[1:]
    for (x, y, bulge), (to_x, to_y, _) in zip(points, following, strict=False):
        if math.hypot(to_x - x, to_y - y) <= SAME:
            continue
        _bulge(builder, (x, y), (to_x, to_y), bulge)
    if closed:
        builder.close()


def _bulge(builder: PathBuilder, at: tuple[float, float], to: tuple[float, float], bulge: float) -> None:
    if abs(bulge) < 1e-12:
        builder.line_to(to)
    elif abs(bulge) <= 1:
        builder.bulge_to(bulge, to)
    else:
        # More than half a circle is two arcs.
        (x0, y0), (x1, y1) = at, to
        lift = (1 - bulge * bulge) / (4 * bulge)
        centre = ((x0 + x1) / 2 - (y1 - y0) * lift, (y0 + y1) / 2 + (x1 - x0) * lift)
        builder.arc_about(centre, 4 * math.atan(bulge), to)


def _lwpolyline(entity, builder: PathBuilder, scale: float) -> str | None:
    points = entity.get_points("xyb")
    if not points:
        return "a polyline without points"
    _bulged([(float(x), float(y), float(bulge)) for x, y, bulge in points], bool(entity.closed), builder)
    return None


#: POLYLINE's flags: what is a mesh, and vertices that only shape a curve.
MESH, FRAME = 16 | 64, 16


def _polyline(entity, builder: PathBuilder, scale: float) -> str | None:
    if entity.dxf.flags & MESH:
        return "a mesh in space"
    points = [
        (v.dxf.location.x, v.dxf.location.y, float(v.dxf.bulge)) for v in entity.vertices if not v.dxf.flags & FRAME
    ]
    if not points:
        return "a polyline without points"
    _bulged(points, bool(entity.is_closed), builder)
    return None


def _spline(entity, builder: PathBuilder, scale: float) -> str | None:
    if len(entity.control_points) == 0 and len(entity.fit_points) >= 2:
        tool = entity.construction_tool()
        degree, knots = tool.degree, np.array(tool.knots())
        points, weights = np.array([(p.x, p.y) for p in tool.control_points]), None
    else:
        degree, knots = entity.dxf.degree, np.array(entity.knots)
        points = np.array(entity.control_points)[:, :2] if len(entity.control_points) else np.zeros((0, 2))
        weights = np.array(entity.weights) if len(entity.weights) else None
    try:
        curves = cubics_of(degree, knots, points, weights, scale)
    except ValueError as error:
        return f"a spline: {error}"
    _chain_of_cubics(curves, builder)
    ends = np.hypot(*(curves[0, 0] - curves[-1, 3]))
    if entity.closed or ends * scale < 1e-6:
        builder.close()
    return None


def _chain_of_cubics(curves: np.ndarray, builder: PathBuilder) -> None:
    builder.move_to(tuple(curves[0, 0].tolist()))
    for curve in curves.tolist():
        builder.cubic_to(tuple(curve[1]), tuple(curve[2]), tuple(curve[3]))


def _solid(entity, builder: PathBuilder, scale: float) -> None:
    """The third and fourth corner stand in the other order."""
    corners = [entity.dxf.get(f"vtx{i}") for i in (0, 1, 3, 2)]
    points = []
    for corner in corners:
        if corner is not None and (not points or (corner.x, corner.y) != points[-1]):
            points.append((corner.x, corner.y))
    builder.move_to(points[0])
    for point in points[1:]:
        builder.line_to(point)
    builder.close()


def _hatch(entity, builder: PathBuilder, scale: float) -> str | None:
    """Its outlines; lines of its pattern are not drawn."""
    wrong = None
    for path in entity.paths:
        if hasattr(path, "vertices"):
            points = [(float(x), float(y), float(bulge)) for x, y, bulge in path.vertices]
            if points:
                _bulged(points, True, builder)
            continue
        try:
            _edges(path.edges, builder, scale)
        except ValueError as error:
            wrong = f"a hatch: {error}"
    return wrong


def _edges(edges, builder: PathBuilder, scale: float) -> None:
    """Each edge for itself: they may stand in any order and direction, and are chained afterwards."""
    for edge in edges:
        kind = type(edge).__name__
        if kind == "LineEdge":
            builder.move_to(tuple(edge.start)[:2])
            builder.line_to(tuple(edge.end)[:2])
        elif kind in ("ArcEdge", "EllipseEdge"):
            _round_edge(edge, builder, scale)
        else:
            points = np.array([tuple(p)[:2] for p in edge.control_points]).reshape(-1, 2)
            weights = np.array(edge.weights) if len(edge.weights) else None
            _chain_of_cubics(cubics_of(edge.degree, np.array(edge.knot_values), points, weights, scale), builder)


def _round_edge(edge, builder: PathBuilder, scale: float) -> None:
    """ezdxf gives angles counter-clockwise whatever the edge's own direction is."""
    centre = np.array(tuple(edge.center)[:2], float)
    if type(edge).__name__ == "ArcEdge":
        axes = np.array([[edge.radius, 0.0], [0.0, edge.radius]])
        first, last = math.radians(edge.start_angle), math.radians(edge.end_angle)
    else:
        x, y = tuple(edge.major_axis)[:2]
        axes = np.array([[x, y], [-y * edge.ratio, x * edge.ratio]])
        first, last = edge.start_param, edge.end_param
    _elliptical(builder, centre, axes, first, (last - first) % FULL or FULL, scale)


DRAW: dict[str, Callable] = {
    "LINE": _line,
    "POINT": _point,
    "CIRCLE": _circle,
    "ARC": _arc,
    "ELLIPSE": _ellipse,
    "LWPOLYLINE": _lwpolyline,
    "POLYLINE": _polyline,
    "SPLINE": _spline,
    "HELIX": _spline,
    "SOLID": _solid,
    "TRACE": _solid,
    "3DFACE": _solid,
    "HATCH": _hatch,
    "MPOLYGON": _hatch,
}
#: Entities whose numbers stand in their own plane.
PLANAR = {"CIRCLE", "ARC", "LWPOLYLINE", "POLYLINE", "SOLID", "TRACE", "HATCH", "MPOLYGON"}
#: Entities that are areas: they are painted.
FILLED = {"SOLID", "TRACE", "HATCH", "MPOLYGON", "3DFACE"}
