"""Before and after anything else: addresses that hold what no address of ours holds are refused, what is refused is
logged, and no answer about a job is kept by a browser unless it says so."""

from __future__ import annotations

import logging

from django.http import JsonResponse

MOST_ADDRESS = 4000
#: So much of an address is logged.
LOGGED = 200

log = logging.getLogger(__name__)


class Door:
    """Middleware."""

    def __init__(self, get_response) -> None:
        self.get_response = get_response

    def __call__(self, request):
        response = self._answer(request)
        if request.path_info.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
            if response.status_code >= 400:
                log.info("%s %r: %d", request.method, request.path_info[:LOGGED], response.status_code)
        return response

    def _answer(self, request):
        query = request.META.get("QUERY_STRING", "")
        if "\0" in request.path_info or "%00" in query or "\0" in query or len(query) > MOST_ADDRESS:
            sentence = "This address holds signs that no address here has."
            return JsonResponse({"code": "bad-request", "sentence": sentence}, status=400)
        return self.get_response(request)
