"""Wrong passwords: after five from one address an account is shut to that address, for a minute at first and
twice as long each time after.

The account and the address count together, so nobody can shut a supervisor out from somewhere else.
"""

from __future__ import annotations

import math
from datetime import timedelta
from typing import Any

from axes.handlers.database import AxesDatabaseHandler
from axes.models import AccessFailureLog
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone

FIRST = timedelta(minutes=1)
LONGEST = timedelta(hours=1)
REMEMBERED = timedelta(days=1)
COUNTED = timedelta(minutes=15)  # failures before the first lock
SIGNING_IN = "signing_in"


def _locks(request: HttpRequest) -> int:
    """How often this account was locked for this address in the last day."""
    rows = AccessFailureLog.objects.filter(
        username=getattr(request, SIGNING_IN, None),
        ip_address=getattr(request, "axes_ip_address", None),
        locked_out=True,
        attempt_time__gte=timezone.now() - REMEMBERED,
    )
    return int(rows.count())


def cool_off(request: HttpRequest | None) -> timedelta:
    """How long the lock holds that stands for whoever asks; without one, how long failures are counted
    together.
    """
    locks = _locks(request) if request is not None else 0
    return min(FIRST * 2 ** (min(locks, 12) - 1), LONGEST) if locks else COUNTED


class GrowingLocks(AxesDatabaseHandler):  # type: ignore[misc]
    """Axes with locks of different lengths: an account's short one forgets nothing of another's long one."""

    def clean_expired_user_attempts(
        self, request: HttpRequest | None = None, credentials: dict[str, Any] | None = None
    ) -> int:
        if request is None:
            return 0
        threshold = timezone.now() - cool_off(request)
        return sum(
            attempts.filter(attempt_time__lte=threshold).delete()[0]
            for attempts in self.filter_user_attempts(request, credentials)
        )

    def user_logged_in(self, sender: Any, request: HttpRequest, user: Any, **kwargs: Any) -> None:
        super().user_logged_in(sender, request, user, **kwargs)
        AccessFailureLog.objects.filter(
            username=user.get_username(), ip_address=getattr(request, "axes_ip_address", None)
        ).delete()


def locked_out(
    request: HttpRequest,
    response: HttpResponse | None = None,
    credentials: Any = None,
    *args: Any,
    **kwargs: Any,
) -> JsonResponse:
    minutes = math.ceil(cool_off(request).total_seconds() / 60)
    message = (
        f"Too many wrong passwords from here. Wait {minutes} minute{'s' if minutes > 1 else ''}, then try"
        " again; from another network you can sign in now. Whoever runs the server can open a way in for"
        " whoever has forgotten theirs."
    )
    return JsonResponse({"problems": [{"field": "password", "message": message}]}, status=429)
