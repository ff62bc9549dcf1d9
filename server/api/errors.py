"""Errors of the API: one sentence each, with the status of its kind."""

from __future__ import annotations

import logging

from django.core.exceptions import ObjectDoesNotExist, SuspiciousOperation
from django.db import InterfaceError, OperationalError
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
    if isinstance(error, SuspiciousOperation):
        # More fields or files than a form may have, or a body that is larger than it said.
        sentence = "The request holds more than is read of one: send less at once."
        return Response({"code": "bad-request", "sentence": sentence}, status=400)
    if isinstance(error, OperationalError | InterfaceError):
        log.warning("The database does not answer: %s", error)
        return away()
    if isinstance(error, MemoryError):
        log.exception("A request needed too much memory", exc_info=error)
        sentence = "This needs more memory than a request may take: the design is too large to be shown this way."
        return Response({"code": "too-much", "sentence": sentence}, status=413)
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
            "sentence": str((response.data or {}).get("detail", "The request does not fit.")),
        }
    return response


def away() -> Response:
    sentence = "The database does not answer; nothing is lost, and Hakobu goes on as soon as it is back."
    return Response({"code": "away", "sentence": sentence}, status=503, headers={"Retry-After": "5"})


def _flat(detail) -> str:
    if isinstance(detail, dict):
        return "; ".join(f"{name}: {_flat(value)}" for name, value in detail.items())
    if isinstance(detail, list):
        return " ".join(_flat(value) for value in detail)
    return str(detail)
