"""Views: load, one call to the core, save."""

from __future__ import annotations

import re
import tempfile
from dataclasses import dataclass

from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu import formats
from hakobu.errors import BadRequest, NotThere
from hakobu.formats.limited import shown_picture
from hakobu.model.names import without_controls
from jobs import cost, history, listing, runs
from jobs.models import Job, Revision, Run, Source, Staged, StoredDocument
from jobs.store import keep_blob
from jobs.summary import keep_summary

from . import handover, presenters
from . import serializers as s
from .answers import answer
from .csrf import check_size

FOR_GOOD = {"Cache-Control": "private, max-age=31536000, immutable"}
#: The longer side of a picture as the browser gets it: sharp on any screen, light on the way.
MOST_SHOWN_PX = 2400
ERRORS = {400: s.ErrorOut, 404: s.ErrorOut, 409: s.ErrorOut, 413: s.ErrorOut, 415: s.ErrorOut, 422: s.ErrorOut}


def answers(serializer, status: int = 200, request=None, **more):
    """The OpenAPI description of a view."""
    return extend_schema(request=request, responses={status: serializer, **ERRORS}, **more)


def may_take_long(**more):
    """The description of a view that answers with a job, or with a run where that takes long."""
    return extend_schema(responses={201: s.JobOut, 202: s.RunOut, **ERRORS}, **more)


def valid(serializer, data) -> dict:
    checked = serializer(data=data)
    checked.is_valid(raise_exception=True)
    return checked.validated_data


def for_good(data) -> Response:
    """An answer that never changes under its address."""
    return Response(data, headers=FOR_GOOD)


class Jobs(APIView):
    @answers(s.JobsOut, parameters=[s.JobsAsked], operation_id="jobs_list")
    def get(self, request):
        """A page of the jobs, the newest change first where no other order is asked for."""
        asked = valid(s.JobsAsked, request.query_params)
        found = listing.found(asked["search"], asked["sort"], asked["deleted"])
        first = (asked["page"] - 1) * asked["size"]
        page = [presenters.job_listed(job) for job in found[first : first + asked["size"]]]
        deleted = Job.objects.exclude(deleted=None).count()
        return Response({"total": found.count(), "deleted": deleted, "jobs": page})

    @may_take_long(request={"multipart/form-data": s.SourceIn}, operation_id="jobs_create")
    def post(self, request):
        """A new job from a file. Where the file cannot be read, no job is made."""
        check_size(request)
        file = _file_in(valid(s.SourceIn, request.data))
        # All or nothing: what ends in between leaves no empty job.
        with transaction.atomic():
            job = history.create_job(_title(file.name))
            run = _bring_in(job, job.head_id, file, new_job=True)
        return _made(job.pk, run)


class Empty(APIView):
    @answers(s.JobOut, status=201, request=s.JobIn)
    def post(self, request):
        """A new job with nothing in it, for what is begun with words or a figure."""
        job = history.create_job(valid(s.JobIn, request.data)["name"])
        keep_summary(job.head)
        return _made(job.pk, None)


class Deleted(APIView):
    @answers(s.Changed, request=s.JobIds)
    def post(self, request):
        """Deletes jobs, or brings them back within thirty days."""
        data = valid(s.JobIds, request.data)
        change = listing.delete if data["deleted"] else listing.bring_back
        return Response({"jobs": change(data["jobs"])})


class OneJob(APIView):
    @answers(s.JobOut)
    def get(self, request, job):
        """A job with the revision it stands at."""
        return Response(presenters.job_out(_job(job)))

    @answers(s.JobOut, request=s.JobIn)
    def patch(self, request, job):
        """A new name."""
        found = _job(job)
        found.name = valid(s.JobIn, request.data)["name"]
        found.save(update_fields=["name", "changed"])
        return Response(presenters.job_out(found))


class Copies(APIView):
    @answers(s.JobOut, request=s.CopyIn, status=201)
    def post(self, request, job):
        """A job of its own with the same files and steps, all of them or those up to one."""
        data = valid(s.CopyIn, request.data)
        made = history.copy_job(_job(job), data.get("name", ""), data.get("until"))
        return Response(presenters.job_out(_job(made.pk)), status=201)


class Sources(APIView):
    @may_take_long(request={"multipart/form-data": s.SourceIn})
    def post(self, request, job):
        """Brings one more file into a job, or a newer version of one in its place."""
        check_size(request)
        data, found = valid(s.SourceIn, request.data), _job(job)
        return _made(job, _bring_in(found, data.get("based_on", found.head_id), _file_in(data)))


class Revisions(APIView):
    @may_take_long(request=s.RevisionIn)
    def post(self, request, job):
        """A new head: steps kept by key, changed, or new. 409 where the head is no longer what it is based on."""
        data, found = valid(s.RevisionIn, request.data), _job(job)
        based_on, token = data["based_on"], data.get("token", "")
        if token and found.revisions.filter(token=token).exists():
            # It was made, and only its answer was lost.
            return _made(job, None)
        base = get_object_or_404(Revision, pk=based_on, job=found)
        settings = history.checked_settings(data.get("settings", {}), base.settings)
        steps, settling = history.steps_from_request(found, based_on, data["steps"], settings)
        kept = data["steps"][-1].get("kept", []) if data["steps"] else []
        if cost.of_steps(found, steps, settings) > cost.LONG:
            return _made(job, runs.ask_revision(found, based_on, steps, settings, settling, token, kept))
        try:
            history.add_revision(found, based_on, steps, settings, settling=settling, token=token, kept=kept)
        except history.Changed:
            # Asked for several times at once, it was made for the first.
            if not (token and found.revisions.filter(token=token).exists()):
                raise
        return _made(job, None)


class Head(APIView):
    @answers(s.JobOut, request=s.HeadIn)
    def post(self, request, job):
        """Undo or redo."""
        data = valid(s.HeadIn, request.data)
        history.move_head(_job(job), data["based_on"], data["to"])
        return Response(presenters.job_out(_job(job)))


class OneRun(APIView):
    @answers(s.RunOut)
    def get(self, request, run):
        """How far a piece of work is."""
        found = get_object_or_404(Run, pk=run)
        runs.still_asked(found)
        return Response(presenters.run_out(found))


class CancelRun(APIView):
    @answers(s.RunOut, request=None)
    def post(self, request, run):
        """Stops a piece of work; nothing of it is kept."""
        runs.cancel(get_object_or_404(Run, pk=run))
        return Response(presenters.run_out(get_object_or_404(Run, pk=run)))


class Findings(APIView):
    @extend_schema(responses={200: s.FindingOut(many=True), 202: s.RunOut, **ERRORS})
    def get(self, request, revision):
        """What was found in a revision, numbered; of a large design after a run that looks for it."""
        found = get_object_or_404(Revision.objects.select_related("job"), pk=revision)
        if cost.of_check(found) > cost.LONG:
            return Response(presenters.run_out(runs.ask_check(found.job, found)), status=202)
        return for_good(presenters.findings_out(found))


class Verdict(APIView):
    @answers(s.VerdictOut)
    def get(self, request, revision):
        """Will it hold together, in a sentence, with the weakest place."""
        found = get_object_or_404(Revision, pk=revision)
        return for_good(answer(request, "verdict", cost.to_look(found.document_id), found.pk))


class MendPreview(APIView):
    @answers(s.MendPreviewOut, parameters=[OpenApiParameter("choice", str, description="the way, of several")])
    def get(self, request, revision, key):
        """A finding's mend: before and after."""
        found = get_object_or_404(Revision, pk=revision)
        seconds = 2 * cost.to_look(found.document_id)
        choice = request.query_params.get("choice", "")
        return for_good(answer(request, "mend", seconds, found.pk, key, choice))


class Drawing(APIView):
    @answers(s.DrawingOut)
    def get(self, request, document):
        """A document as it is drawn, without the points of its paths."""
        return for_good(answer(request, "drawing", cost.to_draw(document), document))


class Paths(APIView):
    @extend_schema(
        parameters=[OpenApiParameter("since", str, description="a document that is drawn already")],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS},
    )
    def get(self, request, document):
        """The paths of a document for drawing, packed; without those of the document named by since."""
        since = request.query_params.get("since", "")
        since = since if StoredDocument.objects.filter(pk=since).exists() else ""
        # Packing float32 saves little and takes longer than sending it.
        headers = {**FOR_GOOD, "Content-Encoding": "identity"}
        data = answer(request, "paths", cost.to_draw(document), document, since)
        return HttpResponse(data, content_type="application/octet-stream", headers=headers)


class Sketch(APIView):
    @answers(s.SketchOut)
    def get(self, request, document):
        """A document small and coarse, for lists."""
        return for_good(answer(request, "sketch", cost.to_draw(document), document))


class PictureShown(APIView):
    @extend_schema(responses={(200, "image/*"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, job, sha256):
        """A picture of a job, written anew from its pixels for the browser."""
        source = get_object_or_404(Source.objects.select_related("blob"), job=job, blob=sha256)
        data, media_type = shown_picture(source.name, bytes(source.blob.data), MOST_SHOWN_PX)
        return HttpResponse(data, content_type=media_type, headers=FOR_GOOD)


class File(APIView):
    @extend_schema(responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, revision, format_id):
        """The design of a revision as a file."""
        found = get_object_or_404(Revision.objects.select_related("job"), pk=revision)
        data = answer(request, "file", cost.to_write(found.document_id), found.pk, format_id)
        name = handover.file_name(found.job, format_id)
        # Never opened in the page's own place, whatever it holds.
        headers = {"Content-Disposition": handover.attachment(name), "Content-Security-Policy": "sandbox"}
        return HttpResponse(data, content_type=formats.by_id(format_id).media_type, headers=headers)


class Assembly(APIView):
    @extend_schema(responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, revision, format_id):
        """The assembly page of a revision: its pieces numbered, layer by layer; as PDF or SVG."""
        found = get_object_or_404(Revision.objects.select_related("job"), pk=revision)
        data = answer(request, "assembly", cost.to_write(found.document_id), found.pk, format_id)
        name = handover.file_name(found.job, format_id, "assembly")
        headers = {"Content-Disposition": handover.attachment(name), "Content-Security-Policy": "sandbox"}
        return HttpResponse(data, content_type=formats.by_id(format_id).media_type, headers=headers)


class Proof(APIView):
    @answers(s.ProofOut)
    def get(self, request, revision, format_id):
        """The file of a revision, written, read back and compared with the design."""
        found = get_object_or_404(Revision, pk=revision)
        return Response(answer(request, "proof", cost.to_prove(found.document_id), found.pk, format_id))


class ProofOfFile(APIView):
    @answers(s.ProofOut, request={"multipart/form-data": s.ProofIn})
    def post(self, request, revision):
        """A machine file that somebody has, compared with the design of a revision."""
        check_size(request)
        found = get_object_or_404(Revision, pk=revision)
        file = valid(s.ProofIn, request.data)["file"]
        data = file.read()
        seconds = cost.to_prove(found.document_id) + cost.of_file(data)
        with tempfile.NamedTemporaryFile() as kept:
            kept.write(data)
            kept.flush()
            return Response(answer(request, "proof of a file", seconds, found.pk, file.name, kept.name))


@dataclass(frozen=True)
class FileIn:
    """A file that comes in: by upload, or out of an archive."""

    name: str
    data: bytes
    unit: str | None
    replaces: str | None


def _file_in(data: dict) -> FileIn:
    staged = data.get("staged")
    if (staged is None) == ("file" not in data):
        raise BadRequest("Send one file, or name one of an archive.")
    if staged:
        found = get_object_or_404(Staged.objects.select_related("blob"), pk=staged)
        name, content = found.name, bytes(found.blob.data)
    else:
        name, content = data["file"].name, data["file"].read()
    return FileIn(name, content, data.get("unit"), data.get("replaces"))


def _bring_in(job: Job, based_on: int, file: FileIn, new_job: bool = False) -> Run | None:
    """Brings a file in, or puts that in the queue where the file is large."""
    if cost.of_bringing(job, file.data, file.replaces) <= cost.LONG:
        history.bring_in(job, based_on, file.name, file.data, file.unit, file.replaces)
        return None
    # What is surely not readable need not wait for its turn to be told so.
    formats.recognise(file.name, file.data)
    request = {"based_on": based_on, "name": file.name, "unit": file.unit, "replaces": file.replaces}
    return runs.ask(job, "bring-in", request | {"blob": keep_blob(file.data), "new_job": new_job})


def _made(job, run: Run | None) -> Response:
    """The job as it is now, or the run after which it will be so."""
    if run:
        return Response(presenters.run_out(run), status=202)
    return Response(presenters.job_out(_job(job)), status=201)


def _job(pk) -> Job:
    found = Job.objects.select_related("head", "head__parent", "tip").filter(pk=pk).first()
    if found is None:
        raise NotThere("This job is not there (any more).")
    if found.deleted:
        raise NotThere(f'"{found.name}" was deleted; it can be brought back from the list of jobs.')
    return found


def _title(file_name: str) -> str:
    """A job's name from its first file's."""
    stem = re.sub(r"\.[A-Za-z0-9]{1,5}$", "", file_name)
    words = re.sub(r"[_\-.\s]+", " ", without_controls(stem)).strip()
    return (words[:1].upper() + words[1:])[:120] or "New job"
