"""Before anything else: addresses that hold what no address of ours holds are refused."""

from __future__ import annotations

from django.http import JsonResponse

MOST_ADDRESS = 4000


class Door:
    """Middleware."""

    def __init__(self, get_response) -> None:
        self.get_response = get_response

    def __call__(self, request):
        query = request.META.get("QUERY_STRING", "")
        if "\0" in request.path_info or "%00" in query or "\0" in query or len(query) > MOST_ADDRESS:
            sentence = "This address holds signs that no address here has."
            return JsonResponse({"code": "bad-request", "sentence": sentence}, status=400)
        return self.get_response(request)
