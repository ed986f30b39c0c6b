"""The history of a production: read, and taken back."""

from __future__ import annotations

from contextlib import AbstractContextManager
from typing import Any

from django.http import HttpRequest
from ninja import Query, Router
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.edits import Writing, put_back
from jungoptic.app.base.models import Write
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.history.reading import history
from jungoptic.app.history.schemas import HistoryOut, HistoryQuery, TakeBackIn, TakenBack
from jungoptic.app.people.models import Person
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.errors import InputError

router = Router()


@router.get("/productions/{production_id}/history", response=HistoryOut)
def read_history(request: HttpRequest, production_id: int, query: Query[HistoryQuery]) -> Any:
    """Who changed what when, newest first; with ``mine`` what one could take back oneself.

    Anybody in the production.
    """
    role = access.role_in(request, production_id)
    return history(production_id, person(request), role, query)


@router.post(
    "/productions/{production_id}/take-back", response={200: TakenBack, 409: Problems, 422: Problems}
)
@writes
def take_back(request: HttpRequest, production_id: int, payload: TakeBackIn) -> Any:
    """Give everything that a write changed its values from before.

    The supervisor; the crew for what they wrote themselves.
    """
    role = access.role_in(request, production_id, access.LOGS)
    who = person(request)
    found = Write.objects.filter(production=production_id)
    earlier = (
        found.filter(pk=payload.write)
        if payload.write is not None
        else found.filter(person=who, key=payload.key).exclude(key="")
    ).first()
    if earlier is None:
        raise HttpError(404, "There is no such entry in the history of this production.")
    if role != access.Role.SUPERVISOR and earlier.person_id != who.pk:
        raise HttpError(403, "Only the supervisor may take back what somebody else did.")
    with _where(earlier, who) as write:
        earlier = Write.objects.select_for_update(no_key=True, of=("self",)).get(pk=earlier.pk)
        if earlier.stays:
            raise InputError.at(
                "write", "What was recorded stays: a take is uncircled, a paper is made again."
            )
        if hasattr(earlier, "taken_back_by"):
            raise InputError.at("write", "This was taken back already.")
        put_back(write, earlier)
    return {**written(write, earlier.pk, 1), "versions": write.versions}


def _where(earlier: Write, who: Person) -> AbstractContextManager[Writing]:
    return (
        in_production(who, earlier.production_id)
        if earlier.shot_id is None
        else in_shot(who, earlier.shot_id)
    )
