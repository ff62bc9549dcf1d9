"""What views have in common: the descriptions of their answers, checked requests, and answers that never change."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.response import Response

from . import serializers as s

FOR_GOOD = {"Cache-Control": "private, max-age=31536000, immutable"}
ERRORS = {400: s.ErrorOut, 404: s.ErrorOut, 409: s.ErrorOut, 413: s.ErrorOut, 415: s.ErrorOut, 422: s.ErrorOut}


def answers(serializer, status: int = 200, request=None, **more):
    """The OpenAPI description of a view."""
    return extend_schema(request=request, responses={status: serializer, **ERRORS}, **more)


def may_take_long(**more):
    """The description of a view that answers with a job, or with a run where that takes long."""
    return extend_schema(responses={201: s.JobOut, 202: s.RunOut, **ERRORS}, **more)


def valid(serializer, data) -> dict:
    """The data as the serializer takes them. Raises the framework's ValidationError."""
    checked = serializer(data=data)
    checked.is_valid(raise_exception=True)
    return checked.validated_data


def for_good(data) -> Response:
    """An answer that never changes under its address."""
    return Response(data, headers=FOR_GOOD)
