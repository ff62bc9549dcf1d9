"""What a revision has: findings, the verdict, files, the assembly page, proofs."""

from __future__ import annotations

import tempfile

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from jobs import cost, runs

from .. import handover, presenters
from .. import proof_serializers as p
from .. import serializers as s
from ..access import revision_of
from ..answers import answer
from ..csrf import check_size
from ..responses import ERRORS, answers, for_good, valid


class Findings(APIView):
    @extend_schema(responses={200: s.FindingOut(many=True), 202: s.RunOut, **ERRORS})
    def get(self, request, job, revision):
        """What was found in a revision, numbered; of a large design after a run that looks for it."""
        found = revision_of(job, revision)
        if cost.of_check(found) > cost.LONG:
            return Response(presenters.run_out(runs.ask_check(found.job, found)), status=202)
        return for_good(presenters.findings_out(found))


class Verdict(APIView):
    @answers(s.VerdictOut)
    def get(self, request, job, revision):
        """Will it hold together, in a sentence, with the weakest place."""
        found = revision_of(job, revision)
        return for_good(answer(request, "verdict", cost.to_look(found.document_id), found.pk))


class MendPreview(APIView):
    @answers(s.MendPreviewOut, parameters=[OpenApiParameter("choice", str, description="the way, of several")])
    def get(self, request, job, revision, key):
        """A finding's mend: before and after."""
        found = revision_of(job, revision)
        seconds = 2 * cost.to_look(found.document_id)
        choice = request.query_params.get("choice", "")
        return for_good(answer(request, "mend", seconds, found.pk, key, choice))


class File(APIView):
    @extend_schema(responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, job, revision, format_id):
        """The design of a revision as a file."""
        found = revision_of(job, revision)
        data = answer(request, "file", cost.to_write(found.document_id), found.pk, format_id)
        return handover.sent(data, handover.file_name(found.job, format_id), format_id)


class Assembly(APIView):
    @extend_schema(responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, job, revision, format_id):
        """The assembly page of a revision: its pieces numbered, layer by layer; as PDF or SVG."""
        found = revision_of(job, revision)
        data = answer(request, "assembly", cost.to_write(found.document_id), found.pk, format_id)
        return handover.sent(data, handover.file_name(found.job, format_id, "assembly"), format_id)


class Archive(APIView):
    @extend_schema(responses={(200, "application/zip"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, job, revision):
        """All that is handed over: files of the sheets, proven, a cover, lists; the same job gives the same bytes."""
        found = revision_of(job, revision)
        seconds = 2 * cost.to_prove(found.document_id) + cost.to_lay(found.document_id)
        data = answer(request, "archive", seconds, found.pk)
        name = f"{handover.file_name(found.job, 'svg').rsplit('.', 1)[0]}.zip"
        headers = {"Content-Disposition": handover.attachment(name), "Content-Security-Policy": "sandbox"}
        return HttpResponse(data, content_type="application/zip", headers=headers)


class Proof(APIView):
    @answers(p.ProofOut)
    def get(self, request, job, revision, format_id):
        """The file of a revision, written, read back and compared with the design."""
        found = revision_of(job, revision)
        return Response(answer(request, "proof", cost.to_prove(found.document_id), found.pk, format_id))


class ProofOfFile(APIView):
    @answers(p.ProofOut, request={"multipart/form-data": p.ProofIn})
    def post(self, request, job, revision):
        """A machine file that somebody has, compared with the design of a revision."""
        check_size(request)
        found = revision_of(job, revision)
        file = valid(p.ProofIn, request.data)["file"]
        data = file.read()
        seconds = cost.to_prove(found.document_id) + cost.of_file(data)
        with tempfile.NamedTemporaryFile() as kept:
            kept.write(data)
            kept.flush()
            return Response(answer(request, "proof of a file", seconds, found.pk, file.name, kept.name))
