"""The library: the lists as somebody has made them, formats and operations as they ship."""

from __future__ import annotations

from dataclasses import asdict

from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.formats import FORMATS
from hakobu.lists import MATERIAL_LIMITS, RANGES, TOOLS, Lists
from hakobu.model.conditions import ANY_MATERIAL
from hakobu.model.declare import when_of
from hakobu.operations import OPERATIONS, schema_of
from library.lists import keep, lists_at, newest

from .. import library_serializers as s
from ..responses import answers, valid


class Library(APIView):
    @answers(s.LibraryOut)
    def get(self, request):
        """All that can be chosen from."""
        return Response(_library_out(newest()))


class OneList(APIView):
    @answers(s.LibraryOut, request=s.ListIn)
    def put(self, request, kind):
        """One of the lists anew: materials, machines, purposes, targets or stock."""
        data = valid(s.ListIn, request.data)
        return Response(_library_out(keep(data["based_on"], kind, data["entries"], data["what"])))


def _library_out(number: int) -> dict:
    return {
        **lists_at(number).to_json(),
        "lists": number,
        "shipped": Lists().to_json(),
        "ranges": [
            {"kind": kind, "name": name, "low": low, "high": high}
            for kind, ranges in RANGES.items()
            for name, (low, high) in ranges.items()
        ],
        "tools": list(TOOLS),
        "limits_of_any": {name: getattr(ANY_MATERIAL, name) for name in MATERIAL_LIMITS},
        "formats": [
            {
                "id": f.id,
                "name": f.name,
                "suffix": f.suffixes[0],
                "reads": f.read is not None,
                "writes": f.write is not None,
                "is_machine": f.is_machine,
            }
            for f in FORMATS
        ],
        "operations": [
            {
                "id": o.id,
                "station": o.station,
                "title": o.title,
                "sentence": o.sentence,
                "roles": [{**asdict(role), "when": when_of(role.when)} for role in o.roles],
                "parameters": schema_of(o),
            }
            for o in OPERATIONS
        ],
    }
