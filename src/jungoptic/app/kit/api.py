"""What the production owns."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.answers import MOST_ROWS
from jungoptic.app.kit.models import Gear, Lamp
from jungoptic.app.kit.schemas import OnSetOut
from jungoptic.app.productions import access

router = Router()
_REFERENCES = ("ball", "chart", "tape")


@router.get("/productions/{production_id}/on-set", response=OnSetOut)
def list_on_set(request: HttpRequest, production_id: int) -> Any:
    """Lamps, sheets, diffusion and references that the kit has. Anybody in the production."""
    access.role_in(request, production_id)
    gear = Gear.objects.filter(production=production_id, removed=False)
    lamps = Lamp.objects.filter(production=production_id, removed=False)
    sheets = gear.filter(kind="backing")
    frames = gear.filter(kind="diffusion", stops__isnull=False)
    return {
        "lamps": list(lamps[:MOST_ROWS].values("id", "name", "intensity_cd", "beam_deg")),
        "sheets": list(
            sheets[:MOST_ROWS].values("id", "name", "colour", "width_m", "height_m", "reflectance")
        ),
        "diffusion": list(frames[:MOST_ROWS].values("id", "name", "stops")),
        "references": list(gear.filter(kind__in=_REFERENCES)[:MOST_ROWS].values_list("name", flat=True)),
    }
