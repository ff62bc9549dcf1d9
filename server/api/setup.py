"""How far the setup is: kernels are compiled in the background after the first start."""

from __future__ import annotations

from rest_framework.response import Response
from rest_framework.views import APIView

from hakobu.compiled.library import find_library, progress

from . import serializers as s
from .views import answers


class Setup(APIView):
    @answers(s.SetupOut)
    def get(self, request):
        """Whether everything can be computed, and how many parts of how many are compiled."""
        done, parts = progress() or (0, 0)
        return Response({"ready": find_library() is not None, "done": done, "of": parts})
