"""A document of a job: drawn, sketched, and what is measured on it."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.errors import NotThere
from jobs import cost, runs, weeded_view

from .. import presenters
from .. import reading_serializers as r
from .. import serializers as s
from ..access import document_of, job_of
from ..answers import answer
from ..responses import ERRORS, FOR_GOOD, answers, for_good, valid


class Drawing(APIView):
    @answers(s.DrawingOut)
    def get(self, request, job, document):
        """A document as it is drawn, without the points of its paths."""
        document = document_of(job, document)
        return for_good(answer(request, "drawing", cost.to_draw(document), document))


class Paths(APIView):
    @extend_schema(
        parameters=[OpenApiParameter("since", str, description="a document that is drawn already")],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS},
    )
    def get(self, request, job, document):
        """The paths of a document for drawing, packed; without those of the document named by since."""
        document = document_of(job, document)
        since = request.query_params.get("since", "")
        since = _known(job, since)
        # Packing float32 saves little and takes longer than sending it.
        headers = {**FOR_GOOD, "Content-Encoding": "identity"}
        data = answer(request, "paths", cost.to_draw(document), document, since)
        return HttpResponse(data, content_type="application/octet-stream", headers=headers)


class Sketch(APIView):
    @answers(s.SketchOut)
    def get(self, request, job, document):
        """A document small and coarse, for lists."""
        document = document_of(job, document)
        return for_good(answer(request, "sketch", cost.to_draw(document), document))


class Reading(APIView):
    @answers(r.ReadingOut, request=r.ReadingIn)
    def post(self, request, job, document):
        """The statistics of what is picked."""
        document = document_of(job, document)
        picks = [[p["piece"], p.get("outline")] for p in valid(r.ReadingIn, request.data)["picks"]]
        return Response(answer(request, "reading", cost.to_draw(document), document, picks))


class Near(APIView):
    @answers(r.NearOut, request=r.PlaceIn)
    def post(self, request, job, document):
        """The line nearest to a place, and how far the next one is from it."""
        document = document_of(job, document)
        place = valid(r.PlaceIn, request.data)
        return Response(answer(request, "near", cost.to_draw(document), document, place["x"], place["y"]))


class Between(APIView):
    @answers(r.BetweenOut, request=r.BetweenIn)
    def post(self, request, job, document):
        """How far two places are from each other; those that are meant to be on a line are moved onto it."""
        document = document_of(job, document)
        asked = valid(r.BetweenIn, request.data)
        ends = [[end["x"], end["y"], end["on_line"]] for end in (asked["first"], asked["last"])]
        return Response(answer(request, "between", cost.to_draw(document), document, ends))


class Handles(APIView):
    @answers(r.HandlesOut, request=r.HandlesIn)
    def post(self, request, job, document):
        """The handles of some pieces: of each, x and y of its node and of its end."""
        document = document_of(job, document)
        pieces = valid(r.HandlesIn, request.data)["pieces"]
        return Response(answer(request, "handles", cost.to_draw(document), document, pieces))


class Apart(APIView):
    @answers(r.ApartOut)
    def get(self, request, job, document):
        """The shapes of each path that has several: the outlines of each, the outer one first."""
        document = document_of(job, document)
        return for_good(answer(request, "apart", 2 * cost.to_draw(document), document))


class Weeded(APIView):
    @extend_schema(
        responses={200: r.WeededOut, 202: s.RunOut, **ERRORS},
        parameters=[r.ListsAsked],
    )
    def get(self, request, job, document, machine):
        """What remains of each cut layer, by the machine's own files, read back; of a large design after a run that
        works it out. machine: its id, or "any"."""
        document = document_of(job, document)
        lists = valid(r.ListsAsked, request.query_params)["lists"]
        if weeded_view.cost(document, machine, lists) > cost.LONG:
            return Response(presenters.run_out(runs.ask_weeding(job_of(job), document, machine, lists)), status=202)
        return HttpResponse(
            weeded_view.weeded(document, machine, lists), content_type="application/json", headers=FOR_GOOD
        )


def _known(job, document: str) -> str:
    """A document of the job, or nothing where it is not (any more)."""
    try:
        return document_of(job, document) if document else ""
    except NotThere:
        return ""
