"""The productions of a person, and how one is judged."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Q
from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.answers import MOST_ROWS
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access, judging
from jungoptic.app.productions.models import Membership
from jungoptic.app.productions.schemas import JudgingIn, JudgingOut, ProductionOut
from jungoptic.app.productions.writing import in_production
from jungoptic.core.kit import rate_name

router = Router()


@router.get("/productions", response=list[ProductionOut])
def list_productions(request: HttpRequest) -> Any:
    """The productions that the caller is in."""
    memberships = (
        Membership.objects.filter(person=person(request), removed=False)
        .select_related("production")
        .order_by("production__title", "production_id")
        .annotate(
            shots=Count(
                "production__shots",
                filter=Q(production__shots__template=False, production__shots__removed=False),
            )
        )
    )
    return [
        {
            "id": m.production.pk,
            "version": m.production.version,
            "title": m.production.title,
            "slug": m.production.slug,
            "role": m.role,
            "shots": m.shots,
            "delivery_width_px": m.production.delivery_width_px,
            "delivery_height_px": m.production.delivery_height_px,
            "frame_rate_fps": m.production.frame_rate_fps,
            "rate": rate_name(m.production.frame_rate_fps),
            "put_away": m.production.put_away,
        }
        for m in memberships[:MOST_ROWS]
    ]


@router.get("/productions/{production_id}/judging", response=JudgingOut)
def read_judging(request: HttpRequest, production_id: int) -> Any:
    """Finish, errors of placing and tolerances. Anybody in the production."""
    access.role_in(request, production_id)
    return judging.read(production_id)


@router.patch(
    "/productions/{production_id}/judging", response={200: JudgingOut, 409: Problems, 422: Problems}
)
@writes
def change_judging(request: HttpRequest, production_id: int, payload: JudgingIn) -> Any:
    """Change how the production is judged. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    fields = payload.model_dump(exclude={"version", "tolerances"}, exclude_none=True)
    limits = {item: (one.holds, one.tight) for item, one in payload.tolerances.items()}
    with in_production(person(request), production_id) as write:
        judging.change(write, payload.version, fields, limits)
    return judging.read(production_id)
