"""Who may knock, and how often: wrong passwords from one address are answered later and later, whatever the
accounts, and no more passwords are checked at once, and wrong ones no faster, than leave room for everybody
else.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import timedelta
from ipaddress import ip_address, ip_network

from axes.models import AccessFailureLog
from django.conf import settings
from django.db.models import Count, Max
from django.http import HttpRequest
from django.utils import timezone

from jungoptic.app.base.desk import PASSWORDS
from jungoptic.app.base.turns import Asker, BusyError
from jungoptic.app.people.hashers import beside
from jungoptic.core.errors import FieldProblem

FREE = 10  # wrong passwords of others from one address in an hour, before it has to wait
COUNTED = timedelta(hours=1)
LONGEST_S = 300


class KnockedTooOftenError(Exception):
    """Too many wrong passwords from an address, or too many at once. ``wait_s``: when to try again."""

    def __init__(self, wait_s: int, why: str) -> None:
        self.wait_s = wait_s
        super().__init__(f"{why} Try again in {in_words(wait_s)}.")

    @property
    def problems(self) -> tuple[FieldProblem, ...]:
        return (FieldProblem("password", str(self)),)


def in_words(seconds: int) -> str:
    count, unit = (seconds, "second") if seconds < 60 else (math.ceil(seconds / 60), "minute")
    return f"{count} {unit}{'' if count == 1 else 's'}"


def _is_trusted(address: str) -> bool:
    try:
        return any(ip_address(address) in ip_network(one) for one in settings.TRUSTED_PROXIES)
    except ValueError:
        return False


def client_address(request: HttpRequest) -> str | None:
    """The address that asks: the connection's own, or where that is one of our reverse proxies, the last one
    in ``X-Forwarded-For`` that none of them has.
    """
    address: str | None = request.META.get("REMOTE_ADDR") or None
    for said in reversed(request.headers.get("X-Forwarded-For", "").split(",")):
        if address is None or not _is_trusted(address):
            break
        try:
            address = str(ip_address(said.strip()))
        except ValueError:
            break
    return address


def wait_of(failures: int) -> int:
    """Seconds between two tries after so many wrong passwords in an hour: none, then doubled each time."""
    return min(LONGEST_S, 2 ** min(failures - FREE, 20)) if failures >= FREE else 0


def refuse_knocking(request: HttpRequest, username: str) -> None:
    """Raise KnockedTooOftenError while the address that asks has to wait for what it tried on other accounts;
    of this one, :mod:`lockout` keeps count.
    """
    now = timezone.now()
    elsewhere = AccessFailureLog.objects.filter(
        ip_address=client_address(request), attempt_time__gte=now - COUNTED
    ).exclude(username=username)
    told = elsewhere.aggregate(count=Count("pk"), last=Max("attempt_time"))
    if told["last"] is None:
        return
    left = wait_of(told["count"]) - (now - told["last"]).total_seconds()
    if left > 0:
        raise KnockedTooOftenError(math.ceil(left), "Too many wrong passwords from this address.")


@contextmanager
def checking_a_password(request: HttpRequest) -> Iterator[None]:
    """Passwords are checked beside, by turns of the addresses. Raises KnockedTooOftenError where there is no
    room soon.
    """
    try:
        with beside(Asker(client_address(request) or "")):
            yield
    except BusyError as busy:
        raise KnockedTooOftenError(busy.wait_s, "Many are signing in at this moment.") from None


def hold_back(request: HttpRequest) -> None:
    """A wrong password keeps a seat of those that are checked for a moment longer: from however many
    addresses they come, most of the machine is left for whoever works.
    """
    with suppress(BusyError):
        PASSWORDS.hold(Asker(client_address(request) or ""), settings.WRONG_PASSWORD_HOLDS_S)
