"""Places: saved, taken out, brought back; and what of them each shot carries."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.base.removing import row_of, set_removed
from jungoptic.app.places.schemas import ContinuityShot, PlaceOut
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Layer, Line, Part, Shot
from jungoptic.app.vocabulary.own import book
from jungoptic.core.errors import InputError

PLACE = "place"
_MOST_NAMED = 6


def continuity(production_id: int) -> list[PlaceOut]:
    """By place: what recurs there, and which of its shots carries it (in a layer, a part, a mark on the
    board, or said).
    """
    places = Place.objects.filter(production=production_id, removed=False)
    shots = list(Shot.in_cut.filter(production=production_id, place__isnull=False))
    names: dict[int, set[str]] = {shot.pk: {one.casefold() for one in shot.carries} for shot in shots}
    rows = [
        *Layer.objects.filter(shot__in=shots, removed=False).values_list("shot_id", "name"),
        *Part.objects.filter(layer__shot__in=shots, layer__removed=False).values_list(
            "layer__shot_id", "name"
        ),
        *Line.objects.filter(shot__in=shots, removed=False, kind="recurring").values_list("shot_id", "thing"),
    ]
    for shot_id, name in rows:
        names[shot_id].add(name.casefold())
    return [
        PlaceOut(
            id=place.pk,
            version=place.version,
            name=place.name,
            recurring=list(place.recurring),
            cautions=list(place.cautions),
            shots=[
                ContinuityShot(
                    id=shot.pk,
                    version=shot.version,
                    code=shot.code,
                    title=shot.title,
                    has=[thing.casefold() in names[shot.pk] for thing in place.recurring],
                    carries=list(shot.carries),
                )
                for shot in shots
                if shot.place_id == place.pk
            ],
        )
        for place in places
    ]


def save_place(
    write: Writing, place_id: int | None, version: int, name: str, recurring: list[str], cautions: list[str]
) -> Place:
    """A new place, or what recurs in one and which cautions it raises.

    Refuses what cannot be, and what the writer has not seen.
    """
    name = name.strip()
    if not name or len(name) > 80:
        raise InputError.at("name", "A place needs a name of up to 80 characters.")
    if (
        Place.objects.filter(production=write.production_id, name=name, removed=False)
        .exclude(pk=place_id or 0)
        .exists()
    ):
        raise InputError.at("name", f"There is a place called “{name}” already.")
    unknown = [one for one in cautions if one not in book().cautions]
    if unknown:
        raise InputError.at("cautions", f"There is no caution called {unknown[0]!r}.")
    things = list(dict.fromkeys(one.strip() for one in recurring if one.strip()))
    if any(len(one) > 80 for one in things):
        raise InputError.at("recurring", "What recurs is named in up to 80 characters.")
    if place_id is None:
        place = Place.objects.create(
            production_id=write.production_id, name=name, recurring=things, cautions=cautions
        )
        write.made(PLACE, place)
        return place
    place = row_of(write, Place, "place", place_id)
    write.refuse_unseen(PLACE, place, version)
    write.save(PLACE, place, {"name": name, "recurring": things, "cautions": cautions})
    return place


def remove_place(write: Writing, place_id: int, version: int, removed: bool) -> Place:
    """Take a place out, unless a shot stands in it, or bring it back."""
    codes = (
        list(
            Shot.in_cut.filter(place=place_id, production=write.production_id).values_list("code", flat=True)
        )
        if removed
        else []
    )
    if codes:
        named = ", ".join(codes[:_MOST_NAMED]) + (" …" if len(codes) > _MOST_NAMED else "")
        standing = f"{len(codes)} shots stand" if len(codes) > 1 else "One shot stands"
        raise InputError.at(
            "removed",
            f"{standing} here ({named}): say another place for them on the wall, in the list, then remove"
            " this one.",
        )
    return set_removed(write, Place, PLACE, place_id, version, removed)


@takes_back(PLACE)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    """Places as they were; one that was made by the write goes, unless a shot stands in it."""
    fields = as_before(changes)
    for place in Place.objects.filter(pk__in=list(fields)):
        values = fields[place.pk]
        if "removed" in values:
            remove_place(write, place.pk, place.version, values.pop("removed"))
            place.refresh_from_db()
        if values:
            now = {"name": place.name, "recurring": list(place.recurring), "cautions": list(place.cautions)}
            save_place(write, place.pk, place.version, **{**now, **values})
