"""Places: saved, taken out, brought back; and what of them each shot carries."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from jungoptic.app.base.edits import ConflictError
from jungoptic.app.base.removing import set_removed
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Layer, Line, Part, Shot
from jungoptic.core.cautions import CAUTIONS
from jungoptic.core.errors import InputError


def continuity(production_id: int) -> list[dict[str, Any]]:
    """By place: what recurs there, and which of its shots carries it (in a layer, a part, a mark on the board, or said)."""
    places = Place.objects.filter(production=production_id, removed=False)
    shots = list(Shot.in_cut.filter(production=production_id, place__isnull=False))
    names: dict[int, set[str]] = {shot.pk: {one.casefold() for one in shot.carries} for shot in shots}
    rows = [
        *Layer.objects.filter(shot__in=shots, removed=False).values_list("shot_id", "name"),
        *Part.objects.filter(layer__shot__in=shots, layer__removed=False).values_list("layer__shot_id", "name"),
        *Line.objects.filter(shot__in=shots, removed=False, kind="recurring").values_list("shot_id", "thing"),
    ]
    for shot_id, name in rows:
        names[shot_id].add(name.casefold())
    return [
        {
            "id": place.pk, "version": place.version, "name": place.name, "recurring": list(place.recurring), "cautions": list(place.cautions),
            "shots": [
                {"id": shot.pk, "code": shot.code, "title": shot.title, "has": [thing.casefold() in names[shot.pk] for thing in place.recurring], "carries": list(shot.carries)}
                for shot in shots
                if shot.place_id == place.pk
            ],
        }
        for place in places
    ]  # fmt: skip


def save_place(production_id: int, place_id: int | None, version: int, name: str, recurring: list[str], cautions: list[str]) -> Place:
    """A new place, or what recurs in one and which cautions it raises. Refuses what cannot be, and what the writer has not seen."""
    name = name.strip()
    if not name or len(name) > 80:
        raise InputError.at("name", "A place needs a name of up to 80 characters.")
    if Place.objects.filter(production=production_id, name=name, removed=False).exclude(pk=place_id or 0).exists():
        raise InputError.at("name", f"There is a place called “{name}” already.")
    unknown = [one for one in cautions if one not in CAUTIONS]
    if unknown:
        raise InputError.at("cautions", f"There is no caution called {unknown[0]!r}.")
    things = list(dict.fromkeys(one.strip() for one in recurring if one.strip()))
    if any(len(one) > 80 for one in things):
        raise InputError.at("recurring", "What recurs is named in up to 80 characters.")
    with transaction.atomic():
        rows = Place.objects.select_for_update().filter(production=production_id, pk=place_id or 0)
        place = rows.first() if place_id else Place(production_id=production_id, version=0)
        if place is None:
            raise InputError.at("place", "The production has no such place.")
        if place_id and place.version != version:
            raise ConflictError("place", place.name, "Somebody", [])
        place.name, place.recurring, place.cautions = name, things, cautions
        place.version += 1
        place.save()
    return place


_MOST_NAMED = 6


def remove_place(production_id: int, place_id: int, removed: bool) -> None:
    """Take a place out, unless a shot stands in it, or bring it back."""
    codes = list(Shot.in_cut.filter(place=place_id).values_list("code", flat=True)) if removed else []
    if codes:
        named = ", ".join(codes[:_MOST_NAMED]) + (" …" if len(codes) > _MOST_NAMED else "")
        standing = f"{len(codes)} shots stand" if len(codes) > 1 else "One shot stands"
        raise InputError.at("removed", f"{standing} here ({named}): say another place for them on the wall, in the list, then remove this one.")
    set_removed(Place, "place", production_id, place_id, removed)
