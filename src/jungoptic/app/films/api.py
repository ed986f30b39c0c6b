"""A film: begun, changed, and what follows from what is said of it."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.films import trying
from jungoptic.app.films.choices import choices
from jungoptic.app.films.follows import follows
from jungoptic.app.films.making import begin
from jungoptic.app.films.schemas import (
    FilmAsked,
    FilmChange,
    FilmChoices,
    FilmIn,
    FilmOut,
    FilmSaid,
    FilmTrial,
    TriedFilm,
)
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access, film
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.core.kit import rate_name

router = Router()


def _film(production_id: int) -> dict[str, Any]:
    production = Production.objects.get(pk=production_id)
    values = film.as_it_is(production)
    return {
        "id": production.pk,
        "version": production.version,
        **values,
        "rate": rate_name(production.frame_rate_fps),
        "follows": follows(film.Film.model_construct(**values), production.pk),
    }


@router.post("/films", response={201: Written, 422: Problems})
@writes
def begin_film(request: HttpRequest, payload: FilmIn) -> Any:
    """Begin a film, with what one chooses of another one that one is in. Anybody who is signed in."""
    write, production = begin(person(request), payload.values, payload.source, payload.what)
    return Status(201, written(write, production.pk, production.version))


@router.post("/films/asked", response={200: FilmSaid, 422: Problems})
def look_at_film(request: HttpRequest, payload: FilmAsked) -> Any:
    """What follows from a film that is not begun yet. Anybody who is signed in."""
    asked = film.checked(payload.values)
    return {"values": asked.model_dump(), "follows": follows(asked, None)}


@router.get("/films/choices", response=FilmChoices)
def list_choices(request: HttpRequest) -> Any:
    """Usual sizes and rates, and the time zones. Anybody who is signed in."""
    return choices()


@router.get("/productions/{production_id}", response=FilmOut)
def read_film(request: HttpRequest, production_id: int) -> Any:
    """What is said of the production, and what follows. Anybody in it."""
    access.role_in(request, production_id)
    return _film(production_id)


@router.patch("/productions/{production_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_film(request: HttpRequest, production_id: int, payload: FilmChange) -> Any:
    """Change what is said of the production; put it away, bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        production = Production.objects.get(pk=production_id)
        film.change(write, production, payload.version, payload.changes)
    return written(write, production.pk, production.version)


@router.post("/productions/{production_id}/tried", response={200: TriedFilm, 422: Problems})
def try_film(request: HttpRequest, production_id: int, payload: FilmTrial) -> Any:
    """Which shots would be judged otherwise. Anybody in the production; nothing is written."""
    access.role_in(request, production_id)
    return trying.tried(production_id, payload.school, payload.changes, payload.start)
