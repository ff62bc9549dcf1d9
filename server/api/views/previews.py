"""Previews: asked for in the application, worked out by their own process."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.views import APIView

from hakobu import pipeline
from hakobu.tracing.scale.reference import parse_reference
from hakobu.tracing.scale.reference_sheet import reference_sheet
from jobs.models import Revision
from previews.forward import ask

from .. import serializers as s
from .. import trace_serializers as t
from ..responses import ERRORS, answers, valid


class Proposal(APIView):
    @answers(t.ProposalOut, request=t.ProposalIn)
    def post(self, request, job):
        """What a picture suggests for its trace; the picture is then at hand for previews."""
        return work_out("proposal", job, valid(t.ProposalIn, request.data))


class Tiles(APIView):
    @answers(t.TilesOut, request=t.TilesIn)
    def post(self, request, job):
        """Each way of tracing as a small picture of this picture."""
        return work_out("tiles", job, valid(t.TilesIn, request.data))


class Measure(APIView):
    @answers(s.MeasureOut, request=s.MeasureIn)
    def post(self, request, job):
        """Where the trace that a tab was shown last is too thin for its material. 204: it is no longer at hand."""
        return work_out("measure", job, valid(s.MeasureIn, request.data))


class ReferenceSheet(APIView):
    @extend_schema(parameters=[t.ReferenceIn], responses={(200, "application/pdf"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request):
        """A sheet with a reference shape, to be printed or cut."""
        asked = valid(t.ReferenceIn, request.query_params)
        reference = parse_reference(f"{asked['shape']}:{asked['size']}")
        data = pipeline.write(reference_sheet(reference), "pdf", title="Reference").data
        headers = {"Content-Disposition": f'attachment; filename="reference-{asked["shape"]}.pdf"'}
        return HttpResponse(data, content_type="application/pdf", headers=headers)


class TracePreview(APIView):
    @extend_schema(
        request=t.TracePreviewIn,
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, 204: None, **ERRORS},
    )
    def post(self, request, job):
        """What a trace would give: a JSON head, then arrays. 204: a newer request of the same tab has come."""
        return work_out("preview", job, valid(t.TracePreviewIn, request.data))


class StepPreview(APIView):
    @extend_schema(
        request=s.StepPreviewIn,
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, 204: None, **ERRORS},
    )
    def post(self, request, job):
        """What a step would do, new or changed: a JSON head, then paths. 204: a newer request of the same tab has
        come."""
        data = valid(s.StepPreviewIn, request.data)
        get_object_or_404(Revision, pk=data["based_on"], job=job)
        return work_out("step", job, data)


def work_out(kind: str, job, values: dict) -> HttpResponse:
    """The answer of the process for previews, passed on."""
    status, media_type, body = ask(kind, str(job), dict(values))
    # On loopback compressing takes longer than sending.
    headers = {"Cache-Control": "no-store", "Content-Encoding": "identity"}
    return HttpResponse(body, status=status, content_type=media_type, headers=headers)
