"""Jobs: the list, one of them, its files and its revisions."""

from __future__ import annotations

import re
from dataclasses import dataclass

from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu import formats
from hakobu.errors import BadRequest
from hakobu.formats.limited import shown_picture
from hakobu.model.names import without_controls
from jobs import cost, history, listing, runs
from jobs.models import Job, Run, Source, Staged
from jobs.revision_settings import checked_settings
from jobs.step_requests import steps_from_request
from jobs.store import keep_blob
from jobs.summary import keep_summary

from .. import presenters
from .. import serializers as s
from ..access import job_of, revision_of
from ..csrf import check_size
from ..responses import ERRORS, FOR_GOOD, answers, may_take_long, valid

#: The longer side of a picture as the browser gets it: sharp on any screen, light on the way.
MOST_SHOWN_PX = 2400


class Jobs(APIView):
    @answers(s.JobsOut, parameters=[s.JobsAsked], operation_id="jobs_list")
    def get(self, request):
        """A page of the jobs; by default sorted by their last change, newest first."""
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
        return Response(presenters.job_out(job_of(job)))

    @answers(s.JobOut, request=s.JobIn)
    def patch(self, request, job):
        """A new name."""
        found = job_of(job)
        found.name = valid(s.JobIn, request.data)["name"]
        found.save(update_fields=["name", "changed"])
        return Response(presenters.job_out(found))


class Copies(APIView):
    @answers(s.JobOut, request=s.CopyIn, status=201)
    def post(self, request, job):
        """A job of its own with the same files and steps, all of them or those up to one."""
        data = valid(s.CopyIn, request.data)
        made = history.copy_job(job_of(job), data.get("name", ""), data.get("until"))
        return Response(presenters.job_out(job_of(made.pk)), status=201)


class Sources(APIView):
    @may_take_long(request={"multipart/form-data": s.SourceIn})
    def post(self, request, job):
        """Brings one more file into a job, or a newer version of one in its place."""
        check_size(request)
        data, found = valid(s.SourceIn, request.data), job_of(job)
        return _made(job, _bring_in(found, data.get("based_on", found.head_id), _file_in(data)))


class Revisions(APIView):
    @may_take_long(request=s.RevisionIn)
    def post(self, request, job):
        """A new head: steps kept by key, changed, or new. 409 where the head is no longer what it is based on."""
        data, found = valid(s.RevisionIn, request.data), job_of(job)
        based_on, token = data["based_on"], data.get("token", "")
        if token and found.revisions.filter(token=token).exists():
            # It was made, and only its answer was lost.
            return _made(job, None)
        base = revision_of(found.pk, based_on)
        settings = checked_settings(data.get("settings", {}), base.settings)
        steps, selection_modes = steps_from_request(found, based_on, data["steps"], settings)
        kept = data["steps"][-1].get("kept", []) if data["steps"] else []
        if cost.of_steps(found, steps, settings) > cost.LONG:
            return _made(job, runs.ask_revision(found, based_on, steps, settings, selection_modes, token, kept))
        try:
            history.add_revision(
                found, based_on, steps, settings, selection_modes=selection_modes, token=token, kept=kept
            )
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
        history.move_head(job_of(job), data["based_on"], data["to"])
        return Response(presenters.job_out(job_of(job)))


class PictureShown(APIView):
    @extend_schema(responses={(200, "image/*"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, job, sha256):
        """A picture of a job, written anew from its pixels for the browser."""
        source = get_object_or_404(Source.objects.select_related("blob"), job=job, blob=sha256)
        data, media_type = shown_picture(source.name, bytes(source.blob.data), MOST_SHOWN_PX)
        return HttpResponse(data, content_type=media_type, headers=FOR_GOOD)


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
    return Response(presenters.job_out(job_of(job)), status=201)


def _title(file_name: str) -> str:
    """A job's name from its first file's."""
    stem = re.sub(r"\.[A-Za-z0-9]{1,5}$", "", file_name)
    words = re.sub(r"[_\-.\s]+", " ", without_controls(stem)).strip()
    return (words[:1].upper() + words[1:])[:120] or "New job"
