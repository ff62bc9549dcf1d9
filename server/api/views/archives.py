"""Archives: their files lie ready, are looked at, and those that somebody chooses are brought in (views.Sources)."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.formats.limited import shown_picture
from jobs import cost
from jobs.models import Staged
from jobs.staging import stage

from .. import serializers as s
from ..answers import answer
from ..csrf import check_size
from ..responses import ERRORS, FOR_GOOD, answers, for_good, valid

#: The longer side of a picture in a list to choose from.
MOST_SHOWN_PX = 400


class Archives(APIView):
    @answers(s.ArchiveOut, status=201, request={"multipart/form-data": s.ArchiveIn})
    def post(self, request):
        """Unpacks an archive; its files lie ready for a day."""
        check_size(request)
        file = valid(s.ArchiveIn, request.data)["file"]
        staged, notes = stage(file.name, file.read())
        files = [
            {"id": f.pk, "name": f.name, "folder": f.folder, "bytes": len(f.blob.data), "format": f.format}
            for f in staged
        ]
        return Response({"name": file.name, "files": files, "notes": notes}, status=201)


class Look(APIView):
    @answers(s.LookOut)
    def get(self, request, staged):
        """What would come in with a file."""
        found = get_object_or_404(Staged.objects.select_related("blob"), pk=staged)
        seconds = cost.of_file(bytes(found.blob.data))
        return for_good(answer(request, "look", seconds, found.blob_id, found.name))


class Picture(APIView):
    @extend_schema(responses={(200, "image/*"): OpenApiTypes.BINARY, **ERRORS})
    def get(self, request, staged):
        """A picture that lies ready, written anew from its pixels for the browser."""
        found = get_object_or_404(Staged.objects.select_related("blob"), pk=staged)
        data, media_type = shown_picture(found.name, bytes(found.blob.data), MOST_SHOWN_PX)
        return HttpResponse(data, content_type=media_type, headers=FOR_GOOD)
