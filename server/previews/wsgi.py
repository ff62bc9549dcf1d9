"""The process for previews: one process with threads, which keeps decoded pictures and answers the application only."""

import hmac
import json
import os

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
django.setup()

from django.db import close_old_connections  # noqa: E402

from previews.answers import answer  # noqa: E402
from previews.forward import HEADER, password  # noqa: E402

REASONS = {200: "OK", 204: "No Content", 403: "Forbidden"}


def application(environ, start_response):
    given = environ.get("HTTP_" + HEADER.upper().replace("-", "_"), "")
    if not hmac.compare_digest(given.encode(), password().encode()):
        start_response("403 Forbidden", [("Content-Length", "0")])
        return [b""]
    asked = json.loads(environ["wsgi.input"].read(int(environ.get("CONTENT_LENGTH") or 0)))
    close_old_connections()
    try:
        status, media_type, body = answer(asked["kind"], asked["job"], asked["values"])
    finally:
        close_old_connections()
    headers = [("Content-Type", media_type), ("Content-Length", str(len(body)))]
    start_response(f"{status} {REASONS.get(status, 'Error')}", headers)
    return [body]
