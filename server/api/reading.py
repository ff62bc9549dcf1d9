"""What is read off the work: of picked things, about a place, between two places, and what weeding leaves."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.utils import extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from jobs import cost, runs, weeded_view

from . import presenters
from . import reading_serializers as s
from .answers import answer
from .serializers import RunOut
from .views import ERRORS, FOR_GOOD, answers, for_good, valid


class Reading(APIView):
    @answers(s.ReadingOut, request=s.ReadingIn)
    def post(self, request, document):
        """The figures of what is picked."""
        picks = [[p["piece"], p.get("outline")] for p in valid(s.ReadingIn, request.data)["picks"]]
        return Response(answer(request, "reading", cost.to_draw(document), document, picks))


class Near(APIView):
    @answers(s.NearOut, request=s.PlaceIn)
    def post(self, request, document):
        """The line nearest to a place, and how far the next one is from it."""
        place = valid(s.PlaceIn, request.data)
        return Response(answer(request, "near", cost.to_draw(document), document, place["x"], place["y"]))


class Between(APIView):
    @answers(s.BetweenOut, request=s.BetweenIn)
    def post(self, request, document):
        """How far two places are from each other; those that are meant to be on a line are moved onto it."""
        asked = valid(s.BetweenIn, request.data)
        ends = [[end["x"], end["y"], end["on_line"]] for end in (asked["first"], asked["last"])]
        return Response(answer(request, "between", cost.to_draw(document), document, ends))


class Handles(APIView):
    @answers(s.HandlesOut, request=s.HandlesIn)
    def post(self, request, document):
        """The handles of some pieces: of each, x and y of its node and of its end."""
        pieces = valid(s.HandlesIn, request.data)["pieces"]
        return Response(answer(request, "handles", cost.to_draw(document), document, pieces))


class Apart(APIView):
    @answers(s.ApartOut)
    def get(self, request, document):
        """The shapes of each path that has several: the outlines of each, the outer one first."""
        return for_good(answer(request, "apart", 2 * cost.to_draw(document), document))


class Weeded(APIView):
    @extend_schema(
        responses={200: s.WeededOut, 202: RunOut, **ERRORS},
        parameters=[s.ListsAsked],
    )
    def get(self, request, document, machine):
        """What remains of each cut layer, by the machine's own files, read back; of a large design after a run that
        works it out. machine: its id, or "any"."""
        lists = valid(s.ListsAsked, request.query_params)["lists"]
        if weeded_view.cost(document, machine, lists) > cost.LONG:
            return Response(presenters.run_out(runs.ask_weeding(document, machine, lists)), status=202)
        return HttpResponse(
            weeded_view.weeded(document, machine, lists), content_type="application/json", headers=FOR_GOOD
        )
