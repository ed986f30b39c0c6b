"""Who is in a production, and how somebody comes in."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base import qr
from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.people.api import session_of
from jungoptic.app.people.schemas import SessionOut
from jungoptic.app.people.signed_in import CsrfOnly, person
from jungoptic.app.productions import access, inviting, people
from jungoptic.app.productions.models import Membership, Production
from jungoptic.app.productions.people_schemas import (
    AccountIn,
    InvitationIn,
    InvitationOut,
    JoinedOut,
    MemberChange,
    PeopleOut,
    QrIn,
    QrOut,
    Token,
)
from jungoptic.app.productions.writing import in_production

router = Router()
_BACKEND = "django.contrib.auth.backends.ModelBackend"


@router.get("/productions/{production_id}/people", response=PeopleOut)
def read_people(request: HttpRequest, production_id: int) -> Any:
    """Who is in the production. Anybody in it; the open invitations for its supervisors."""
    role = access.role_in(request, production_id)
    who = person(request)
    supervises = role == access.Role.SUPERVISOR
    return {
        "version": Production.objects.values_list("version", flat=True).get(pk=production_id),
        "people": [
            {
                "id": row.pk,
                "version": row.version,
                "username": row.person.username,
                "name": row.name,
                "role": row.role,
                "since": row.since,
                "last_seen": row.person.last_login if supervises else None,
                "oneself": row.person_id == who.pk,
                "here": row.person.is_active,
            }
            for row in people.in_production(production_id)
        ],
        "invitations": [
            {
                "id": row.pk,
                "version": row.version,
                "name": row.name,
                "role": row.role,
                "by": row.by.shown_name if row.by else "",
                "expires_at": row.expires_at,
            }
            for row in (inviting.open_ones(production_id) if supervises else [])
        ],
    }


@router.post(
    "/productions/{production_id}/invitations", response={201: Written, 409: Problems, 422: Problems}
)
@writes
def new_invitation(request: HttpRequest, production_id: int, payload: InvitationIn) -> Any:
    """A way into the production, for once; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    who = person(request)
    with in_production(who, production_id, payload.version) as write:
        row = inviting.invite(
            write, who, payload.token, payload.role, payload.name, payload.days, payload.member
        )
    return Status(201, written(write, row.pk, row.version))


@router.delete(
    "/productions/{production_id}/invitations/{invitation_id}",
    response={200: Written, 409: Problems, 422: Problems},
)
@writes
def withdraw_invitation(request: HttpRequest, production_id: int, invitation_id: int, version: int) -> Any:
    """Withdraw an invitation. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        row = inviting.withdraw(write, invitation_id, version)
    return written(write, row.pk, row.version)


@router.patch(
    "/productions/{production_id}/people/{member_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def change_member(request: HttpRequest, production_id: int, member_id: int, payload: MemberChange) -> Any:
    """Another role, or out of the production. The supervisor; anybody may take themselves out."""
    who = person(request)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    leaves = (
        values == {"removed": True}
        and Membership.objects.filter(pk=member_id, person=who, production=production_id).exists()
    )
    access.role_in(request, production_id, access.READS if leaves else access.WRITES)
    with in_production(who, production_id) as write:
        row = people.change(write, member_id, payload.version, values)
    return written(write, row.pk, row.version)


@router.post("/invitation", response={200: InvitationOut, 422: Problems}, auth=CsrfOnly())
def look_at_invitation(request: HttpRequest, payload: Token) -> Any:
    """What an address leads to. Open to all who have it."""
    row = inviting.found(payload.token)
    return {
        "kind": "join" if row.production else "password" if row.forgetful else "first",
        "production": row.production.title if row.production else "",
        "role": row.role,
        "by": row.by.shown_name if row.by else "",
        "username": row.forgetful.username if row.forgetful and not row.production else "",
        "name": row.forgetful.shown_name if row.forgetful else "",
        "expires_at": row.expires_at,
    }


@router.post("/invitation/account", response={200: SessionOut, 422: Problems}, auth=CsrfOnly())
def come_in_anew(request: HttpRequest, payload: AccountIn) -> Any:
    """Make an account (or choose a new password) and be signed in with it. Open to all who have the
    address.
    """
    who = inviting.use_with_account(payload.token, payload.username, payload.name, payload.password)
    login(request, who, backend=_BACKEND)
    return session_of(request)


@router.post("/invitation/join", response={200: JoinedOut, 422: Problems})
def come_in(request: HttpRequest, payload: Token) -> Any:
    """Come into a production with the account that one has. Anybody who is signed in and has the address."""
    return {"production": inviting.use_as(payload.token, person(request))}


@router.post("/qr", response={200: QrOut, 422: Problems})
def draw_qr(request: HttpRequest, payload: QrIn) -> Any:
    """An address as a QR code; nothing of it is kept. Anybody who is signed in."""
    return {"svg": qr.svg(payload.text)}
