"""Places, what recurs in them, and which shots carry it."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Removed, Written
from jungoptic.app.people.signed_in import person
from jungoptic.app.places.keeping import continuity, remove_place, save_place
from jungoptic.app.places.schemas import PlaceIn, PlaceOut
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production

router = Router()


@router.get("/productions/{production_id}/places", response=list[PlaceOut])
def read_places(request: HttpRequest, production_id: int) -> Any:
    """What recurs in each place and which shots carry it. Anybody in the production."""
    access.role_in(request, production_id)
    return continuity(production_id)


@router.post("/productions/{production_id}/places", response={201: Written, 409: Problems, 422: Problems})
@writes
def new_place(request: HttpRequest, production_id: int, payload: PlaceIn) -> Any:
    """A new place; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        place = save_place(write, None, 0, payload.name, payload.recurring, payload.cautions)
    return Status(201, written(write, place.pk, place.version))


@router.put(
    "/productions/{production_id}/places/{place_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def change_place(request: HttpRequest, production_id: int, place_id: int, payload: PlaceIn) -> Any:
    """What recurs in a place, and its cautions. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        place = save_place(
            write, place_id, payload.version, payload.name, payload.recurring, payload.cautions
        )
    return written(write, place.pk, place.version)


@router.patch(
    "/productions/{production_id}/places/{place_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def place_back(request: HttpRequest, production_id: int, place_id: int, payload: Removed) -> Any:
    """Take a place out of the production, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        place = remove_place(write, place_id, payload.version, payload.removed)
    return written(write, place.pk, place.version)
