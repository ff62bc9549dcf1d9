"""What a machine does with a revision."""

from __future__ import annotations

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from jobs import cost
from jobs.models import Revision

from .. import handover, working
from .. import working_serializers as w
from ..access import revision_of
from ..answers import answer
from ..responses import ERRORS, answers, valid

SHEET = OpenApiParameter("sheet", int, description="the number of a sheet, from 1; without it the whole design")
BYTES = {(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS}
LEFT = [
    OpenApiParameter("from", int, description="the first run that is worked, from 0"),
    OpenApiParameter("done", str, many=True, description="pieces that are left out, by their ids"),
]


class Program(APIView):
    @answers(w.ProgramOut, parameters=[SHEET])
    def get(self, request, job, revision):
        """The runs of the tools in order, with their lines and times; the file that holds them, proven."""
        found = revision_of(job, revision)
        asked = _asked(request)
        return Response(answer(request, "program", _seconds(found), found.pk, asked["sheet"]))


class ProgramFile(APIView):
    @extend_schema(parameters=[SHEET, *LEFT], responses=BYTES)
    def get(self, request, job, revision):
        """The file of a program, from a run on and without what is done."""
        found = revision_of(job, revision)
        asked = _asked(request)
        what = (asked["sheet"], asked["from_run"], asked["done"])
        data = answer(request, "program file", _seconds(found), found.pk, *what)
        format_id = working.format_of(found, asked["sheet"])
        name = handover.file_name(found.job, format_id, f"sheet-{asked['sheet']}" if asked["sheet"] else "")
        return handover.sent(data, name, format_id)


class ProgramPlace(APIView):
    @answers(w.PlaceOut, parameters=[w.PlaceIn])
    def get(self, request, job, revision):
        """The place on an outline that is nearest to one on what is worked: where it can begin, or be held by a tab."""
        asked = valid(w.PlaceIn, request.query_params)
        at = (asked["x"], asked["y"])
        return Response(working.place(revision_of(job, revision), asked["sheet"], asked["piece"], asked["outline"], at))


def _asked(request) -> dict:
    query = request.query_params
    values = {"sheet": query.get("sheet") or 0, "from_run": query.get("from") or 0, "done": query.getlist("done")}
    return valid(w.ProgramIn, values)


def _seconds(revision: Revision) -> float:
    return 2 * cost.to_prove(revision.document_id) + cost.to_lay(revision.document_id)
