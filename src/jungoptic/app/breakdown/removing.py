"""Places, sets and stock elements taken out of the production, and brought back: nothing is lost by a wrong press."""

from __future__ import annotations

from django.db import transaction

from jungoptic.app.breakdown.models import Build, StockItem
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Shot
from jungoptic.core.errors import InputError

_MOST_NAMED = 6


def remove_place(production_id: int, place_id: int, removed: bool) -> None:
    """Take a place out, unless a shot stands in it, or bring it back."""
    codes = list(Shot.in_cut.filter(place=place_id).values_list("code", flat=True)) if removed else []
    if codes:
        named = ", ".join(codes[:_MOST_NAMED]) + (" …" if len(codes) > _MOST_NAMED else "")
        standing = f"{len(codes)} shots stand" if len(codes) > 1 else "One shot stands"
        raise InputError.at("removed", f"{standing} here ({named}): say another place for them on the wall, in the list, then remove this one.")
    _set(Place, "place", production_id, place_id, removed)


def remove_build(production_id: int, build_id: int, removed: bool) -> None:
    """Take a set in plan out, or bring it back with its pieces and cameras."""
    _set(Build, "set", production_id, build_id, removed)


def remove_stock(production_id: int, item_id: int, removed: bool) -> None:
    """Take a stock element out, or bring it back."""
    _set(StockItem, "stock element", production_id, item_id, removed)


def _set(kind: type[Place | Build | StockItem], word: str, production_id: int, pk: int, removed: bool) -> None:
    with transaction.atomic():
        row = kind.objects.select_for_update().filter(production=production_id, pk=pk).first()
        if row is None:
            raise InputError.at("removed", f"The production has no such {word}.")
        if not removed and kind.objects.filter(production=production_id, name=row.name, removed=False).exclude(pk=pk).exists():
            raise InputError.at("removed", f"There is another {word} called “{row.name}” now: give that one another name first.")
        row.removed = removed
        row.save()
