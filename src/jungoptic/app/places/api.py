"""Places, what recurs in them, and which shots carry it."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.once import once
from jungoptic.app.base.schemas import Problems, Removed
from jungoptic.app.places.keeping import continuity, remove_place, save_place
from jungoptic.app.places.schemas import PlaceIn, PlaceOut
from jungoptic.app.productions import access

router = Router()


@router.get("/productions/{production_id}/places", response=list[PlaceOut])
def read_places(request: HttpRequest, production_id: int) -> Any:
    """What recurs in each place and which shots carry it. Anybody in the production."""
    access.role_in(request, production_id)
    return continuity(production_id)


@router.post("/productions/{production_id}/places", response={201: list[PlaceOut], 422: Problems})
def new_place(request: HttpRequest, production_id: int, payload: PlaceIn) -> Any:
    """A new place. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        save_place(production_id, None, 0, payload.name, payload.recurring, payload.cautions)
        return 201, continuity(production_id)

    return Status(*once(request, work))


@router.put("/productions/{production_id}/places/{place_id}", response={200: list[PlaceOut], 409: Problems, 422: Problems})
def change_place(request: HttpRequest, production_id: int, place_id: int, payload: PlaceIn) -> Any:
    """What recurs in a place, and its cautions. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    save_place(production_id, place_id, payload.version, payload.name, payload.recurring, payload.cautions)
    return continuity(production_id)


@router.patch("/productions/{production_id}/places/{place_id}", response={200: list[PlaceOut], 422: Problems})
def place_back(request: HttpRequest, production_id: int, place_id: int, payload: Removed) -> Any:
    """Take a place out of the production, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    remove_place(production_id, place_id, payload.removed)
    return continuity(production_id)
