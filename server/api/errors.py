"""Errors of the API: one sentence each, with the status of its kind."""

from __future__ import annotations

import logging

from django.core.exceptions import ObjectDoesNotExist
from django.http import Http404
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import exception_handler

from hakobu.errors import HakobuError, NotThere

log = logging.getLogger(__name__)


def as_sentence(error: Exception, context: dict) -> Response | None:
    """Every error as {"code", "sentence"} with the status of its kind."""
    if isinstance(error, Http404 | ObjectDoesNotExist):
        error = NotThere("What was asked for is not there (any more).")
    if isinstance(error, HakobuError):
        return Response({"code": error.code, "sentence": error.sentence}, status=error.http_status)
    response = exception_handler(error, context)
    if response is None:
        log.exception("A request failed", exc_info=error)
        sentence = "Something went wrong inside Hakobu; your steps are kept. Try again, and if it stays, restart it."
        return Response({"code": "failed", "sentence": sentence}, status=500)
    if isinstance(error, exceptions.PermissionDenied):
        response.data = {"code": "not-allowed", "sentence": "This page is out of date; load it again."}
    elif isinstance(error, exceptions.ValidationError):
        response.data = {"code": "bad-request", "sentence": f"The request does not fit: {_flat(error.detail)}"}
    else:
        response.data = {
            "code": "bad-request",
            "sentence": str(response.data.get("detail", "The request does not fit.")),
        }
    return response


def _flat(detail) -> str:
    if isinstance(detail, dict):
        return "; ".join(f"{name}: {_flat(value)}" for name, value in detail.items())
    if isinstance(detail, list):
        return " ".join(_flat(value) for value in detail)
    return str(detail)
