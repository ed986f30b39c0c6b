"""What people say of recordings that are looked at, and mark on their pictures: each a write of theirs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.footage.models import Recording
from jungoptic.app.rushes.models import Rush, SetUpMark
from jungoptic.app.rushes.reading import curve_of
from jungoptic.app.rushes.rows import MARKS
from jungoptic.app.shots.models import Layer, SetUp
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.errors import InputError
from jungoptic.core.match import cleaned_by

RUSH = "rush"
MARK = "frame mark"
HELD = "held_against"
"""In what a recording says: the clean plates that it was held against, or could not be."""


def delivered_px(row: Recording) -> tuple[int, int]:
    """How large all of a recorded picture is in the delivered frame, px: what is extracted of it fills the
    frame, and a layer may be laid larger.
    """
    production, take = row.card.production, row.take
    size = production.delivery_width_px, production.delivery_height_px
    setup = take.fact() if take else None
    if take is None or setup is None:
        return size
    larger = take.layer.resize * setup.gate_width_mm / setup.extracted_mm
    return round(size[0] * larger), round(size[1] * larger)


def counted(rush: Rush | None) -> dict[str, int | None]:
    """The first and the last frame that count, as a reader is asked: as somebody said, else all after the
    slate.
    """
    if rush is None:
        return {"begins": 0, "ends": None}
    begins, ends = rush.counts or (rush.says.get("begins", 0), None)
    return {"begins": begins, "ends": ends}


def region_marked(row: Recording, kinds: Sequence[str]) -> list[float] | None:
    """What is marked in a recording's set-up: left, top, width and height in shares of the frame, of the
    first kind that is; None where nothing is.
    """
    set_up = row.take.layer.set_up_id if row.take else None
    marks = {each.kind: each.places for each in SetUpMark.objects.filter(set_up=set_up, kind__in=kinds)}
    places = next((marks[kind] for kind in kinds if kind in marks), None)
    if places is None:
        return None
    (left, right), (top, low) = (
        sorted(min(1.0, max(0.0, place[axis])) for place in places) for axis in (0, 1)
    )
    return [left, top, right - left, low - top]


def waiting(production_id: int) -> Any:
    """Recordings of a production that are filed and were not looked at yet."""
    rows = Recording.objects.filter(card__production=production_id, take__isnull=False, fault="")
    return rows.filter(rush__isnull=True, says__has_key="kind").order_by("pk")


def to_compare(production_id: int) -> list[tuple[Recording, Recording]]:
    """Actions with the clean plate that was filmed nearest in time of those that clean them, where the two
    were not held against each other yet.
    """
    rows = (
        Recording.objects.filter(
            card__production=production_id, rush__fault="", rush__proxy__isnull=False, take__isnull=False
        )
        .select_related("take__layer__shot", "rush", "card__production")
        .defer("rush__clip")
    )
    by_set_up: dict[int, tuple[list[Recording], list[Recording]]] = {}
    for row in rows:
        layer = row.take.layer if row.take else None
        if layer is None or layer.set_up_id is None:
            continue
        if layer.kind != "clean_plate":
            by_set_up.setdefault(layer.set_up_id, ([], []))[0].append(row)
            continue
        for set_up in {layer.set_up_id, _cleaned(layer) or layer.set_up_id}:
            by_set_up.setdefault(set_up, ([], []))[1].append(row)
    pairs = [
        (action, min(cleans, key=lambda clean: _apart_s(action, clean)))
        for actions, cleans in by_set_up.values()
        if cleans
        for action in actions
    ]
    return [(action, clean) for action, clean in pairs if clean.pk not in action.rush.says.get(HELD, ())]


def _cleaned(layer: Layer) -> int | None:
    """The set-up of the plate that a clean plate cleans: it may have been filmed in another one."""
    table = BenchTable(shot_to_look_at(layer.shot_id), school="measured", units="metric")
    own = next((place for place, each in enumerate(table.layers) if each.pk == layer.pk), None)
    if table.hero is None or own is None:
        return None
    plate = cleaned_by(table.stack, table.stack.members[own])
    return plate.set_up_key if plate else None


def _apart_s(action: Recording, clean: Recording) -> float:
    assert action.take is not None and clean.take is not None
    return abs((action.take.recorded_at - clean.take.recorded_at).total_seconds())


def say_curve(write: Writing, rush: Rush, version: int, curve: dict[str, Any]) -> None:
    """Say by which curve a recording was made; an empty one is what the file says.

    Raises ConflictError, InputError.
    """
    write.refuse_unseen(RUSH, rush, version)
    curve_of(curve)
    write.save(RUSH, rush, {"curve": curve})


def say_counts(write: Writing, rush: Rush, version: int, counts: list[int]) -> None:
    """Say which frames count, the first and the last; an empty list is all after the slate.

    Raises ConflictError, InputError.
    """
    write.refuse_unseen(RUSH, rush, version)
    frames = rush.says.get("frames", 0)
    if rush.says.get("kind") == "still":
        raise InputError.at("first", "A still has one picture: all of it counts.")
    if counts and not 0 <= counts[0] < counts[1] < frames:
        raise InputError.at(
            "last", f"The last frame must come after the first, and there are {frames}: 0 to {frames - 1}."
        )
    write.save(RUSH, rush, {"counts": counts})


def mark(write: Writing, set_up: SetUp, kind: str, places: list[list[float]]) -> None:
    """Remember for a set-up what was marked on a picture of it; no places take the mark away.

    Raises InputError.
    """
    least, most = MARKS[kind]
    if places and not least <= len(places) <= most:
        count = f"{least}" if least == most else f"{least} to {most}"
        raise InputError.at("places", f"Mark {count} places.")
    if any(len(place) != 2 or not all(-0.5 <= value <= 1.5 for value in place) for place in places):
        raise InputError.at("places", "A mark lies in the picture.")
    row = SetUpMark.objects.filter(set_up=set_up, kind=kind).first()
    _marked(write, set_up, kind, row.places if row else [], places)


def _marked(write: Writing, set_up: SetUp, kind: str, before: Any, places: Any) -> None:
    write.note(MARK, set_up.pk, f"{set_up.name}, {kind}"[:200], kind, before, places)
    if places:
        SetUpMark.objects.update_or_create(
            set_up=set_up, kind=kind, defaults={"places": places, "by_id": write.person.pk}
        )
    else:
        SetUpMark.objects.filter(set_up=set_up, kind=kind).delete()


@takes_back(MARK)
def _mark_back(write: Writing, changes: Sequence[Change]) -> None:
    for row_id, values in as_before(changes).items():
        set_up = SetUp.objects.get(pk=row_id)
        for kind, places in values.items():
            row = SetUpMark.objects.filter(set_up=set_up, kind=kind).first()
            _marked(write, set_up, kind, row.places if row else [], places)


@takes_back(RUSH)
def _rush_back(write: Writing, changes: Sequence[Change]) -> None:
    for row_id, values in as_before(changes).items():
        write.save(RUSH, Rush.objects.get(pk=row_id), values)
