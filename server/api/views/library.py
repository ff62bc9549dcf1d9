"""The library: the lists as somebody has made them, formats and operations as they ship."""

from __future__ import annotations

import re
from dataclasses import asdict

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu import pipeline
from hakobu.formats import FORMATS, by_id
from hakobu.lists import MATERIAL_LIMITS, RANGES, Lists
from hakobu.machines import options_for
from hakobu.machines.cutting_test import cutting_test
from hakobu.model import Machine
from hakobu.model.conditions import ANY_MATERIAL
from hakobu.model.declare import form_of, when_of
from hakobu.model.machines import TOOLS
from hakobu.model.settings import Setting
from hakobu.operations import OPERATIONS, schema_of
from library.lists import keep, lists_at, newest

from .. import handover
from .. import library_serializers as s
from ..responses import ERRORS, answers, valid


class Library(APIView):
    @answers(s.LibraryOut)
    def get(self, request):
        """All that can be chosen from."""
        return Response(_library_out(newest()))


class OneList(APIView):
    @answers(s.LibraryOut, request=s.ListIn)
    def put(self, request, kind):
        """One of the lists anew: materials, machines, purposes, targets, stock or settings."""
        data = valid(s.ListIn, request.data)
        return Response(_library_out(keep(data["based_on"], kind, data["entries"], data["what"])))


class CuttingTestFile(APIView):
    @extend_schema(
        parameters=[
            OpenApiParameter("machine", str, required=True, description="its id"),
            OpenApiParameter("material", str, description="its id: what is set for it holds"),
            OpenApiParameter("speeds", float, many=True, required=True, description="in mm/s, a column each"),
            OpenApiParameter("strengths", float, many=True, required=True, description="in g or %, a row each"),
        ],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY, **ERRORS},
    )
    def get(self, request):
        """A test cut for a machine: a grid of squares that differ in speed, and in force or power."""
        query = request.query_params
        values = {name: query.getlist(name) for name in ("speeds", "strengths")}
        asked = valid(s.CuttingTestIn, {**query.dict(), **values})
        lists = lists_at(newest())
        machine = lists.machine(asked["machine"])
        set_for = lists.setting_for(machine, asked.get("material") or None)
        made = cutting_test(set_for.of(machine) if set_for else machine, asked["speeds"], asked["strengths"])
        options = options_for(machine, f"Test cut, {machine.name}", plan=made.plan)
        data = pipeline.write(made.document, machine.format, options=options).data
        name = f"test-{re.sub(r'[^a-z0-9]+', '-', machine.name.lower())}{by_id(machine.format).suffixes[0]}"
        return handover.sent(data, name, machine.format)


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
        "forms": {"machines": form_of(Machine), "settings": form_of(Setting)},
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
