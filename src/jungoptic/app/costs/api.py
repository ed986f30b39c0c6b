"""What a production reckons with."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.costs import costing
from jungoptic.app.costs.schemas import CostIn, FiguresIn, FiguresOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.breakdown import Figures as FigureRecord
from jungoptic.core.handbook import record_fields

router = Router()


def _figures(production_id: int) -> dict[str, Any]:
    production = Production.objects.select_related("figures").get(pk=production_id)
    row = getattr(production, "figures", None)
    return {
        "version": row.version if row else 1,
        "values": costing.figures_of(production).model_dump(),
        "fields": list(record_fields(FigureRecord)),
    }


@router.get("/productions/{production_id}/figures", response=FiguresOut)
def read_figures(request: HttpRequest, production_id: int) -> Any:
    """What the production reckons with. Anybody in the production."""
    access.role_in(request, production_id)
    return _figures(production_id)


@router.patch(
    "/productions/{production_id}/figures", response={200: FiguresOut, 409: Problems, 422: Problems}
)
@writes
def change_figures(request: HttpRequest, production_id: int, payload: FiguresIn) -> Any:
    """Change what the production reckons with. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        costing.change_figures(write, payload.version, payload.changes)
    return _figures(production_id)


@router.patch("/shots/{shot_id}/costs", response={200: Written, 409: Problems, 422: Problems})
@writes
def say_costs(request: HttpRequest, shot_id: int, payload: CostIn) -> Any:
    """Say what a shot's costs depend on, or choose a way. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id) as write:
        row = costing.say(write, payload.version, payload.changes)
    return written(write, row.pk, row.version)
