"""Who is asking."""

from __future__ import annotations

from django.http import HttpRequest

from jungoptic.app.people.models import Person


def person(request: HttpRequest) -> Person:
    """The person who is signed in (the API refuses anybody else before this is reached)."""
    assert isinstance(request.user, Person)
    return request.user
