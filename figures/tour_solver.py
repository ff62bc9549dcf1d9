"""A general solver of tours, as a yardstick: OR-Tools' routing with precedence (guided local search)."""

from __future__ import annotations

import numpy as np
from ortools.constraint_solver import pywrapcp, routing_enums_pb2

#: Lengths are whole numbers of these, in mm.
STEP_MM = 0.001


def tour_mm(places: np.ndarray, parent: np.ndarray, begun: np.ndarray, seconds: float) -> float:
    """The length of the best tour that is found in a time, from (0, 0) through all places (N, 2) and ending anywhere,
    each after all those whose parent (N,) it is. begun (N,): a tour that it improves, since it finds none by itself."""
    points = np.vstack([[(0.0, 0.0)], places])
    way = np.round(np.hypot(*(points[:, None] - points[None]).transpose(2, 0, 1)) / STEP_MM).astype(np.int64)
    way[:, 0] = 0
    manager = pywrapcp.RoutingIndexManager(len(points), 1, 0)
    routing = pywrapcp.RoutingModel(manager)
    rows = way.tolist()
    transit = routing.RegisterTransitCallback(lambda a, b: rows[manager.IndexToNode(a)][manager.IndexToNode(b)])
    routing.SetArcCostEvaluatorOfAllVehicles(transit)
    one = routing.RegisterUnaryTransitCallback(lambda _: 1)
    routing.AddDimension(one, 0, len(points) + 1, True, "place")
    place = routing.GetDimensionOrDie("place")
    for child in np.flatnonzero(parent >= 0).tolist():
        before, after = manager.NodeToIndex(child + 1), manager.NodeToIndex(int(parent[child]) + 1)
        routing.solver().Add(place.CumulVar(before) <= place.CumulVar(after))
    search = pywrapcp.DefaultRoutingSearchParameters()
    search.local_search_metaheuristic = routing_enums_pb2.LocalSearchMetaheuristic.GUIDED_LOCAL_SEARCH
    search.time_limit.FromMilliseconds(int(seconds * 1000))
    routing.CloseModelWithParameters(search)
    first = routing.ReadAssignmentFromRoutes([(begun + 1).tolist()], True)
    found = routing.SolveFromAssignmentWithParameters(first, search)
    return found.ObjectiveValue() * STEP_MM
