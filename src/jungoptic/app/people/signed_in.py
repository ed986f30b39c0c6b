"""Who is asking."""

from __future__ import annotations

from typing import Any
from urllib.parse import unquote, urlsplit

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie, SessionAuth

from jungoptic.app.people.models import Person

MEANT_FOR = "X-Person"


class OtherPersonError(Exception):
    """A page of one person asks while another is signed in on the same device."""

    def __init__(self, meant: str) -> None:
        super().__init__(f"Somebody else is signed in on this device now. Sign in as {meant} again.")


class SignedIn(SessionAuth):
    """A session, and of the person for whom the page that asks was opened, where it says so.

    Nothing that somebody typed is written in the name of whoever signed in after them.
    """

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        """The person; None where nobody is signed in. Raises OtherPersonError."""
        found = super().authenticate(request, key)
        meant = unquote(request.headers.get(MEANT_FOR, ""))
        if found is not None and meant and meant != found.username:
            raise OtherPersonError(meant)
        return found


class CsrfOnly(APIKeyCookie):
    """What is open to whoever is not signed in needs no session, but its request must come from our own
    page.
    """

    param_name = "csrftoken"

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


def person(request: HttpRequest) -> Person:
    """The person who is signed in (the API refuses anybody else before this is reached)."""
    assert isinstance(request.user, Person)
    return request.user


def events_address(request: HttpRequest) -> str | None:
    """Where the browser that asks hears what happens; None where nothing tells it."""
    if settings.EVENTS_URL:
        return str(settings.EVENTS_URL)
    if not settings.EVENTS_PORT:
        return None
    host = urlsplit(f"//{request.get_host()}").hostname or ""
    return f"{request.scheme}://{f'[{host}]' if ':' in host else host}:{settings.EVENTS_PORT}"
