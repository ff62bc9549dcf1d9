"""The one page: it names the built bundle and hands over the style nonce and the CSRF cookie."""

import json

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    manifest = settings.WEB / "manifest.json"
    if not manifest.exists():
        return HttpResponse("The web side is not built yet: run ./start.", status=503, content_type="text/plain")
    entry = json.loads(manifest.read_text())["src/main.ts"]
    response = render(request, "page.html", {"script": entry["file"], "styles": entry.get("css", [])})
    response["Cache-Control"] = "no-store"
    return response
