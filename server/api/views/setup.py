"""How far the setup is: kernels are compiled in the background after the first start."""

from __future__ import annotations

from rest_framework import serializers as s
from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.compiled.library import find_library, progress

from ..responses import answers


class SetupOut(s.Serializer):
    ready = s.BooleanField(help_text="whether everything can be computed")
    done = s.IntegerField(help_text="parts that are compiled")
    of = s.IntegerField(help_text="parts in all; 0 where nothing is being compiled")


class Setup(APIView):
    @answers(SetupOut)
    def get(self, request):
        """Whether everything can be computed, and how many parts of how many are compiled."""
        done, parts = progress() or (0, 0)
        return Response({"ready": find_library() is not None, "done": done, "of": parts})
