"""Signing in and out, and one's own preferences."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Status
from ninja.security import APIKeyCookie

from jungoptic.app.base.schemas import Problems
from jungoptic.app.people.schemas import Preferences, SessionOut, SignIn
from jungoptic.app.people.signed_in import events_address, person

router = Router()


class CsrfOnly(APIKeyCookie):
    """Signing in needs no session, but its request must come from our own page."""

    param_name = "csrftoken"

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


def _session(request: HttpRequest) -> dict[str, Any]:
    user = request.user
    if not user.is_authenticated:
        return {"person": None}
    who = person(request)
    return {
        "events": events_address(request),
        "person": {
            "username": who.username,
            "name": who.shown_name,
            "units": who.units,
            "theme": who.theme,
            "school": who.school,
            "single_keys": who.single_keys,
        },
    }


@router.get("/session", response=SessionOut, auth=None)
def read_session(request: HttpRequest) -> Any:
    """Who is signed in, if anybody. Open to all."""
    get_token(request)
    return _session(request)


@router.post("/session", response={200: SessionOut, 401: Problems, 429: Problems}, auth=CsrfOnly())
def sign_in(request: HttpRequest, payload: SignIn) -> Any:
    """Sign in. Open to all; an account is locked after repeated failures."""
    user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        from axes.handlers.proxy import AxesProxyHandler

        from jungoptic.app.people.lockout import locked_out

        if AxesProxyHandler.is_locked(request, {"username": payload.username}):
            return locked_out(request)
        return Status(
            401,
            {
                "problems": [
                    {
                        "field": "password",
                        "message": "That name and password do not go together. Check both and try again.",
                    }
                ]
            },
        )
    login(request, user)
    return Status(200, _session(request))


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest) -> Any:
    """Sign out. Anybody who is signed in."""
    logout(request)
    return {"person": None}


@router.patch("/session", response=SessionOut)
def change_preferences(request: HttpRequest, payload: Preferences) -> Any:
    """Change one's own units, theme, school and keys. Anybody who is signed in."""
    who = person(request)
    for name, value in payload.model_dump(exclude_none=True).items():
        setattr(who, name, value)
    who.save(update_fields=list(payload.model_dump(exclude_none=True)) or None)
    return _session(request)
