"""The usual cautions."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.safety import cautions
from jungoptic.app.safety.schemas import CautionsIn, KeyTitle, SignOffIn, WhoIn
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.vocabulary.own import book

router = Router()


@router.get("/cautions", response=list[KeyTitle])
def list_cautions(request: HttpRequest) -> Any:
    """The usual cautions by key. Anybody who is signed in."""
    return [{"key": key, "title": one.title} for key, one in book().cautions.items()]


@router.post("/shots/{shot_id}/sign", response={200: Written, 409: Problems, 422: Problems})
@writes
def sign_caution(request: HttpRequest, shot_id: int, payload: SignOffIn) -> Any:
    """Sign a caution off, or take that back. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, payload.version) as write:
        if payload.withdraw:
            cautions.take_back(write, payload.caution)
        else:
            cautions.sign(write, payload.caution, payload.note)
    return written(write, shot_id, payload.version)


@router.put("/shots/{shot_id}/cautions", response={200: Written, 409: Problems, 422: Problems})
@writes
def set_cautions(request: HttpRequest, shot_id: int, payload: CautionsIn) -> Any:
    """The cautions that are added by hand. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, payload.version) as write:
        version = cautions.say_cautions(write, payload.cautions)
    return written(write, shot_id, version)


@router.put("/shots/{shot_id}/who", response={200: Written, 409: Problems, 422: Problems})
@writes
def set_who(request: HttpRequest, shot_id: int, payload: WhoIn) -> Any:
    """Who is in the shot. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, payload.version) as write:
        version = cautions.say_who(write, payload.who)
    return written(write, shot_id, version)
