"""Who is asking."""

from __future__ import annotations

from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest

from jungoptic.app.people.models import Person


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
