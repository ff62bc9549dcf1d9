"""What is read off the work: of picked things, about a place, between two places, and what weeding leaves."""

from __future__ import annotations

import math
from dataclasses import asdict
from functools import lru_cache

from django.http import HttpResponse
from drf_spectacular.utils import extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.geometry import DRAWING_MM, Path
from hakobu.geometry.nesting import shapes_of
from hakobu.geometry.nodes import handles_of
from hakobu.model.nearby import Nearby
from hakobu.model.reading import Pick, reading_of
from jobs import effort, runs, weeding
from jobs.polylines import packed
from jobs.store import load_document

from . import reading_serializers as s
from . import shapes
from .serializers import RunOut
from .views import ERRORS, FOR_GOOD, answers, for_good, valid

#: A place that is meant to be on a line is off it by no more than chords are, twice.
ON_LINE_MM = 2 * DRAWING_MM
#: More handles than these are not told apart by anybody.
MOST_HANDLES = 4000


@lru_cache(maxsize=4)
def _nearby(document: str) -> Nearby:
    return Nearby(load_document(document))


class Reading(APIView):
    @answers(s.ReadingOut, request=s.ReadingIn)
    def post(self, request, document):
        """The figures of what is picked."""
        picks = [Pick(p["piece"], p.get("outline")) for p in valid(s.ReadingIn, request.data)["picks"]]
        return Response(asdict(reading_of(load_document(document), picks)))


class Near(APIView):
    @answers(s.NearOut, request=s.PlaceIn)
    def post(self, request, document):
        """The line nearest to a place, and how far the next one is from it."""
        place = valid(s.PlaceIn, request.data)
        found = _nearby(document).at(place["x"], place["y"])
        return Response({"line": asdict(found) if found else None})


class Between(APIView):
    @answers(s.BetweenOut, request=s.BetweenIn)
    def post(self, request, document):
        """How far two places are from each other; those that are meant to be on a line are moved onto it."""
        asked, nearby = valid(s.BetweenIn, request.data), _nearby(document)
        (ax, ay), (bx, by) = (
            nearby.onto(end["x"], end["y"], ON_LINE_MM) if end["on_line"] else (end["x"], end["y"])
            for end in (asked["first"], asked["last"])
        )
        across, down = bx - ax, by - ay
        length = math.hypot(across, down)
        return Response(
            {"first": [ax, ay], "last": [bx, by], "distance_mm": length, "across_mm": across, "down_mm": down}
        )


class Handles(APIView):
    @answers(s.HandlesOut, request=s.HandlesIn)
    def post(self, request, document):
        """The handles of some pieces: of each, x and y of its node and of its end."""
        found = load_document(document).by_id
        pieces = [found[piece] for piece in valid(s.HandlesIn, request.data)["pieces"] if piece in found]
        handles = handles_of(Path.concatenate(piece.path for piece in pieces))
        return Response({"handles": packed(handles[:MOST_HANDLES], "<f4")})


class Apart(APIView):
    @answers(s.ApartOut)
    def get(self, request, document):
        """The shapes of each path that has several: the outlines of each, the outer one first."""
        paths = {piece.path.digest: piece.path for piece in load_document(document).pieces if len(piece.path) > 1}
        shapes = {digest: shapes_of(path) for digest, path in paths.items()}
        return for_good({"paths": {digest: found for digest, found in shapes.items() if len(found) > 1}})


class Weeded(APIView):
    @extend_schema(
        responses={200: s.WeededOut, 202: RunOut, **ERRORS},
        parameters=[s.ListsAsked],
    )
    def get(self, request, document, machine):
        """What remains of each cut layer, by the machine's own files, read back; of a large design after a run that
        works it out. machine: its id, or "any"."""
        lists = valid(s.ListsAsked, request.query_params)["lists"]
        if weeding.effort(document, machine, lists) > effort.LONG:
            return Response(shapes.run_out(runs.ask_weeding(document, machine, lists)), status=202)
        return HttpResponse(weeding.weeded(document, machine, lists), content_type="application/json", headers=FOR_GOOD)
