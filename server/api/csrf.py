"""At the door: CSRF for every request that changes something, and sizes before bodies."""

from __future__ import annotations

from django.conf import settings
from rest_framework.authentication import SessionAuthentication

from hakobu.errors import TooMuch


class CsrfGuard(SessionAuthentication):
    """Nobody signs in yet; but no other page may act on the bench through somebody's browser."""

    def authenticate(self, request):
        self.enforce_csrf(request)
        return None


def check_size(request) -> None:
    """Refuses a body that is too large before any of it is read."""
    if int(request.META.get("CONTENT_LENGTH") or 0) > settings.MOST_UPLOADED:
        raise TooMuch(
            f"This file is larger than {settings.MOST_UPLOADED // 2**20} MB, the most that is read; "
            "save it without embedded pictures, coarser, or in parts."
        )
