"""Who may call what. Nobody sees a production that they are not in; the default is nobody."""

from __future__ import annotations

from django.http import HttpRequest
from ninja.errors import HttpError

from jungoptic.app.people.signed_in import person
from jungoptic.app.productions.models import Membership

Role = Membership.Role
Versions = tuple[int, int]  # how often a shot, and what its production judges by, have changed
READS = frozenset(Role)
LOGS = frozenset({Role.SUPERVISOR, Role.CREW})
WRITES = frozenset({Role.SUPERVISOR})
_WHO = {LOGS: "the supervisor and the crew", WRITES: "the supervisor"}


def _not_yours() -> HttpError:
    return HttpError(404, "There is no such thing here, or it is not yours to see.")


def _role(request: HttpRequest, allowed: frozenset[Role], **within: int) -> Role:
    """The caller's role where the production is the one of ``within``: one question to the database, it
    stands before every answer.
    """
    membership = Membership.objects.filter(person=person(request), removed=False, **within).first()
    if membership is None:
        raise _not_yours()
    role = Role(membership.role)
    if role not in allowed:
        raise HttpError(403, f"Only {_WHO[allowed]} may do this; you are here as {role.value}.")
    return role


def role_in(request: HttpRequest, production_id: int, allowed: frozenset[Role] = READS) -> Role:
    """The caller's role, or 404 for a stranger (as for what does not exist) and 403 for a role that may
    not.
    """
    return _role(request, allowed, production=production_id)


def of_shot(request: HttpRequest, shot_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__shots=shot_id)


def shot_seen(request: HttpRequest, shot_id: int) -> tuple[Role, Versions]:
    """:func:`of_shot` for whoever reads it whole, with the shot's versions from the same question: it stands
    before every move of a drag.
    """
    columns = ("role", "production__shots__revision", "production__revision")
    found = (
        Membership.objects.filter(person=person(request), removed=False, production__shots=shot_id)
        .values_list(*columns)
        .first()
    )
    if found is None:
        raise _not_yours()
    return Role(found[0]), (found[1], found[2])


def of_layer(request: HttpRequest, layer_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__shots__layers=layer_id)


def layer_seen(request: HttpRequest, layer_id: int) -> tuple[Role, int, Versions]:
    """:func:`of_layer` for whoever reads its shot, with the shot's number and its versions from the same
    question: it stands before every live picture.
    """
    columns = (
        "role",
        "production__shots",
        "production__shots__revision",
        "production__revision",
    )
    found = (
        Membership.objects.filter(person=person(request), removed=False, production__shots__layers=layer_id)
        .values_list(*columns)
        .first()
    )
    if found is None:
        raise _not_yours()
    return Role(found[0]), found[1], (found[2], found[3])


def of_take(request: HttpRequest, take_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__shots__layers__takes=take_id)


def of_job(request: HttpRequest, job_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__jobs=job_id)


def of_file(request: HttpRequest, file_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__files=file_id)


def of_card(request: HttpRequest, card_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__cards=card_id)


def of_measurement(request: HttpRequest, measurement_id: int, allowed: frozenset[Role] = READS) -> Role:
    return _role(request, allowed, production__measurements=measurement_id)
