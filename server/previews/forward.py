"""From the application to the process for previews, through a socket of this user's; only the application knows the
password."""

from __future__ import annotations

import hashlib
import hmac
import http.client
import json
import socket
import threading
from typing import Any

from django.conf import settings

from hakobu.errors import HakobuError

from .answers import Answer, answer

HEADER = "X-Hakobu-Inside"
#: A preview that is not there by then is of no use.
SECONDS = 30
_OWN = threading.local()


class NoPreview(HakobuError):
    """The process for previews does not answer."""

    code = "no-preview"
    http_status = 503


class _Connection(http.client.HTTPConnection):
    """HTTP through the socket that the process listens on."""

    def connect(self) -> None:
        self.sock = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self.sock.settimeout(self.timeout)
        self.sock.connect(settings.PREVIEWS)


def password() -> str:
    return hmac.new(settings.SECRET_KEY.encode(), b"previews", hashlib.sha256).hexdigest()


def ask(kind: str, job: str, values: dict[str, Any]) -> Answer:
    """The answer of the process for previews, or where there is none the same, worked out here."""
    if not settings.PREVIEWS:
        return answer(kind, job, values)
    body = json.dumps({"kind": kind, "job": job, "values": values}).encode()
    for last in (False, True):
        try:
            return _asked(body)
        except (OSError, http.client.HTTPException) as error:
            _OWN.connection = None
            # A connection that was kept may have been closed from the other side.
            if last:
                raise NoPreview(
                    "The preview does not answer just now; what is set up can be kept all the same."
                ) from error
    raise AssertionError


def _asked(body: bytes) -> Answer:
    connection = getattr(_OWN, "connection", None)
    if connection is None:
        connection = _OWN.connection = _Connection("previews", timeout=SECONDS)
    connection.request("POST", "/", body, {HEADER: password(), "Content-Type": "application/json"})
    response = connection.getresponse()
    return response.status, response.headers.get_content_type(), response.read()
