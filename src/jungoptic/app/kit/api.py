"""What the production owns."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.answers import MOST_ROWS
from jungoptic.app.kit.models import Lamp
from jungoptic.app.kit.schemas import LampOut
from jungoptic.app.productions import access

router = Router()


@router.get("/productions/{production_id}/lamps", response=list[LampOut])
def list_lamps(request: HttpRequest, production_id: int) -> Any:
    """The lamps that the kit has. Anybody in the production."""
    access.role_in(request, production_id)
    return list(
        Lamp.objects.filter(production=production_id)[:MOST_ROWS].values(
            "id", "name", "intensity_cd", "beam_deg"
        )
    )
