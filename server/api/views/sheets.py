"""The sheets of a revision, their files and proofs, and the pages by which they are laid on their carriers."""

from __future__ import annotations

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from jobs import cost

from .. import handover
from .. import sheet_serializers as t
from ..access import revision_of
from ..answers import answer
from ..responses import ERRORS, answers, for_good

BYTES = {(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS}


class Sheets(APIView):
    @extend_schema(responses={200: t.SheetOut(many=True), **ERRORS})
    def get(self, request, job, revision):
        """What lies where on each sheet, and what is reported of it."""
        found = revision_of(job, revision)
        return for_good(answer(request, "sheets", cost.to_lay(found.document_id), found.pk))


class SheetFile(APIView):
    @extend_schema(responses=BYTES)
    def get(self, request, job, revision, sheet, format_id):
        """One sheet as a file, as the tool sees it. sheet: its number, from 1."""
        found = revision_of(job, revision)
        data = answer(request, "sheet file", cost.to_lay(found.document_id), found.pk, sheet, format_id)
        return handover.sent(data, handover.file_name(found.job, format_id, f"sheet-{sheet}"), format_id)


class SheetProof(APIView):
    @answers(t.SheetProofOut)
    def get(self, request, job, revision, sheet, format_id):
        """The file of a sheet, written, read back and compared with what lies on it."""
        found = revision_of(job, revision)
        seconds = cost.to_prove(found.document_id) + cost.to_lay(found.document_id)
        return Response(answer(request, "sheet proof", seconds, found.pk, sheet, format_id))


class PlacingPage(APIView):
    @extend_schema(responses=BYTES)
    def get(self, request, job, revision, sheet, format_id):
        """At true size, where a sheet lies on its carrier; as PDF or SVG."""
        found = revision_of(job, revision)
        data = answer(request, "placing page", cost.to_lay(found.document_id), found.pk, sheet, format_id)
        return handover.sent(data, handover.file_name(found.job, format_id, f"placing-{sheet}"), format_id)


class Print(APIView):
    @extend_schema(
        parameters=[OpenApiParameter("marks", bool, description="the registration marks alone")], responses=BYTES
    )
    def get(self, request, job, revision, sheet):
        """What is printed on a sheet, with its registration marks, as PDF at true size."""
        found = revision_of(job, revision)
        marks_only = request.query_params.get("marks") == "true"
        data = answer(request, "sheet print", cost.to_lay(found.document_id), found.pk, sheet, marks_only)
        return handover.sent(data, handover.file_name(found.job, "pdf", f"print-{sheet}"), "pdf")
