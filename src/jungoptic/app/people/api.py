"""Signing in and out, and one's own preferences."""

from __future__ import annotations

from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Status

from jungoptic.app.base.schemas import Problems
from jungoptic.app.people import doors, lockout, passwords
from jungoptic.app.people.schemas import NewPassword, Preferences, SessionOut, SignIn
from jungoptic.app.people.signed_in import CsrfOnly, events_address, person
from jungoptic.core.errors import InputError

router = Router()


def session_of(request: HttpRequest) -> dict[str, Any]:
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
            "dates": who.dates,
            "week_starts": who.week_starts,
        },
    }


@router.get("/session", response=SessionOut, auth=None)
def read_session(request: HttpRequest) -> Any:
    """Who is signed in, if anybody. Open to all."""
    get_token(request)
    return session_of(request)


@router.post(
    "/session", response={200: SessionOut, 401: Problems, 422: Problems, 429: Problems}, auth=CsrfOnly()
)
def sign_in(request: HttpRequest, payload: SignIn) -> Any:
    """Sign in. Open to all; an account is locked after repeated failures."""
    setattr(request, lockout.SIGNING_IN, payload.username)
    if settings.BEYOND_LOOPBACK and payload.password == passwords.PRINTED:
        raise InputError.at("password", "The demo's printed password is good on its own machine only.")
    with doors.checking_a_password(request):
        doors.refuse_knocking(request, payload.username)
        user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        doors.hold_back(request)
        if AxesProxyHandler.is_locked(request, {"username": payload.username}):
            return lockout.locked_out(request)
        wrong = "That name and password do not go together. Check both and try again."
        return Status(401, {"problems": [{"field": "password", "message": wrong}]})
    login(request, user)
    return Status(200, session_of(request))


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest) -> Any:
    """Sign out. Anybody who is signed in."""
    logout(request)
    return {"person": None}


@router.patch("/session", response={200: SessionOut, 422: Problems})
def change_preferences(request: HttpRequest, payload: Preferences) -> Any:
    """Change one's own name, units, theme, school, keys, dates and week. Anybody who is signed in."""
    who = person(request)
    values = payload.model_dump(exclude_none=True)
    if "name" in values:
        name = values.pop("name").strip()
        if not name:
            raise InputError.at("name", "Say the name that the others see.")
        values |= {"first_name": name, "last_name": ""}
    for name, value in values.items():
        setattr(who, name, value)
    if values:
        who.save(update_fields=list(values))
    return session_of(request)


@router.put("/session/password", response={200: SessionOut, 422: Problems})
def change_password(request: HttpRequest, payload: NewPassword) -> Any:
    """Change one's own password; every other device is signed out. Anybody who is signed in."""
    who = person(request)
    with doors.checking_a_password(request):
        if not who.check_password(payload.old):
            raise InputError.at("old", "That is not the password that you have now.")
        passwords.check(payload.new, who, "new")
        who.set_password(payload.new)
    who.save(update_fields=["password"])
    update_session_auth_hash(request, who)
    return session_of(request)


@router.delete("/session/elsewhere", response=SessionOut)
def sign_out_elsewhere(request: HttpRequest) -> Any:
    """Sign out on every other device. Anybody who is signed in."""
    who = person(request)
    who.signed_out += 1
    who.save(update_fields=["signed_out"])
    update_session_auth_hash(request, who)
    return session_of(request)
