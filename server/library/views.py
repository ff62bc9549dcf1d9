"""The library: materials, machines, formats and operations, as the core ships them."""

from __future__ import annotations

from dataclasses import asdict

from rest_framework.response import Response
from rest_framework.views import APIView

from api import serializers as s
from api.views import answers
from hakobu.formats import FORMATS
from hakobu.machines import PROFILES
from hakobu.model.conditions import ANY_MATERIAL
from hakobu.model.materials import MATERIALS
from hakobu.model.purposes import PURPOSES
from hakobu.operations import OPERATIONS, schema_of
from jobs.conditions import LIMITS


class Library(APIView):
    @answers(s.LibraryOut)
    def get(self, request):
        """All that can be chosen from."""
        return Response(
            {
                "materials": [asdict(material) for material in MATERIALS],
                "machines": [asdict(machine) for machine in PROFILES],
                "purposes": [asdict(purpose) for purpose in PURPOSES],
                "limits_of_any": {name: getattr(ANY_MATERIAL, name) for name in LIMITS},
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
                    {"id": o.id, "station": o.station, "title": o.title, "parameters": schema_of(o)} for o in OPERATIONS
                ],
            }
        )
