"""Faces: those that are brought into a job, and all of them as they are shown."""

from __future__ import annotations

from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.lettering.faces import face_of
from jobs import history
from jobs.results import font_of
from previews.faces import told_of

from .. import lettering_serializers as s
from ..access import job_of
from ..csrf import check_size
from ..responses import answers, valid
from .previews import work_out


class Faces(APIView):
    @answers(s.FaceOut, status=201, request={"multipart/form-data": s.FaceIn})
    def post(self, request, job):
        """Brings a face into a job: TTF, OTF, TTC, WOFF or WOFF2, read with limits."""
        check_size(request)
        file = valid(s.FaceIn, request.data)["file"]
        source = history.bring_face(job_of(job), file.name, file.read())
        face = face_of(source.blob_id, font_of({source.blob_id: source.name}))
        return Response({"id": source.blob_id, **told_of(face.told)}, status=201)


class FacesShown(APIView):
    @answers(s.FacesOut, request=s.FacesIn)
    def post(self, request, job):
        """All faces with a person's own words set in each, and of those that are asked for what the face means for the
        cut."""
        job_of(job)
        return work_out("faces", job, valid(s.FacesIn, request.data))
