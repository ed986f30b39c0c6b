"""Measurements begun, their pictures added and dropped, taken into the kit, discarded: each a write."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.utils import timezone

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.measuring.instruments import came_of
from jungoptic.app.measuring.models import MeasuredPicture, Measurement
from jungoptic.app.shelf import keeping as shelf
from jungoptic.core.calibration import Asked, guides, usual
from jungoptic.core.errors import InputError

MEASUREMENT = "measurement"
PICTURE = "measured picture"
_SUBJECTS = {"lens": "lens_id", "lamp": "lamp_id"}


def begin(write: Writing, kind: str, subjects: Mapping[str, Any], asked: Mapping[str, Any]) -> Measurement:
    """A measurement begun. Raises InputError."""
    if kind not in guides():
        raise InputError.at("kind", f"There is no such measurement: {', '.join(guides())}.")
    guide = guides()[kind]
    mode = shelf.row_in(write.production_id, "mode", subjects.get("mode_id"))
    of = mode
    rows: dict[str, Any] = {"mode": mode}
    if guide.of != "mode":
        of = rows[guide.of] = shelf.row_in(write.production_id, guide.of, subjects.get(_SUBJECTS[guide.of]))
    named = f"{of.camera.name}, {of.name}" if of is mode else of.name
    before = usual(of.closest_focus_m, of.widest_f_number) if guide.of == "lens" else {}
    row = Measurement.objects.create(
        production_id=write.production_id,
        name=f"{guide.title}: {named}"[:120],
        kind=kind,
        begun_by_id=write.person.pk,
        asked=_checked(kind, {**before, **asked}),
        **rows,
    )
    write.made(MEASUREMENT, row)
    return row


def _checked(kind: str, asked: Mapping[str, Any]) -> dict[str, Any]:
    record = Asked.read({**asked})
    return {name: getattr(record, name) for name in guides()[kind].asks}


def say(write: Writing, row: Measurement, version: int, asked: Mapping[str, Any]) -> None:
    """Say something else of what was asked. Raises ConflictError, InputError."""
    write.refuse_unseen(MEASUREMENT, row, version)
    refuse_kept(row)
    write.save(MEASUREMENT, row, {"asked": _checked(row.kind, {**row.asked, **asked})})


def refuse_kept(row: Measurement) -> None:
    """Raise InputError for one that is in the kit already."""
    if row.kept is not None:
        raise InputError.at(
            "version", "It is in the kit already: measure anew, and this one stays as it was."
        )


def add_picture(
    write: Writing, row: Measurement, version: int, name: str, told: Mapping[str, Any], stops: float | None
) -> MeasuredPicture:
    """What a picture told, added. Raises ConflictError, InputError."""
    write.refuse_unseen(MEASUREMENT, row, version)
    refuse_kept(row)
    picture = MeasuredPicture.objects.create(
        measurement=row, name=name[:200] or "picture", told=dict(told), stops=stops
    )
    write.made(PICTURE, picture)
    write.count_up(MEASUREMENT, row)
    row.save(update_fields=["version"])
    return picture


def change_picture(
    write: Writing, row: Measurement, version: int, picture_id: int, values: dict[str, Any]
) -> None:
    """Drop a picture, or say by how many stops it is over. Raises ConflictError, InputError."""
    write.refuse_unseen(MEASUREMENT, row, version)
    refuse_kept(row)
    picture = row.pictures.filter(pk=picture_id).first()
    if picture is None:
        raise InputError.at("picture_id", "It has no such picture any more.")
    write.save(PICTURE, picture, values)
    write.count_up(MEASUREMENT, row)
    row.save(update_fields=["version"])


def accept(write: Writing, row: Measurement, version: int) -> None:
    """Take what came of it into the kit. Raises ConflictError, InputError."""
    write.refuse_unseen(MEASUREMENT, row, version)
    refuse_kept(row)
    of = guides()[row.kind].of
    thing = getattr(row, of)
    came = came_of(row)
    before = {name: getattr(thing, name) for name in came.kit}
    if came.kit:
        shelf.change(write, of, thing.pk, thing.version, came.kit)
    kept = {
        "kit": came.kit,
        "before": before,
        "says": came.says,
        "values": [
            {name: getattr(each, name) for name in ("field", "title", "value", "off", "unit")}
            for each in came.values
        ],
    }
    write.save(MEASUREMENT, row, {"kept": kept, "kept_at": timezone.now()})


def discard(write: Writing, row: Measurement, version: int, removed: bool) -> None:
    """Discard it, or bring it back; what is in the kit of it stays there. Raises ConflictError."""
    write.refuse_unseen(MEASUREMENT, row, version)
    write.save(MEASUREMENT, row, {"removed": removed})


@takes_back(MEASUREMENT)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for pk, fields in as_before(changes).items():
        write.save(MEASUREMENT, Measurement.objects.get(pk=pk), fields)


@takes_back(PICTURE)
def _pictures_back(write: Writing, changes: Sequence[Change]) -> None:
    rows = set()
    for pk, fields in as_before(changes).items():
        picture = MeasuredPicture.objects.get(pk=pk)
        write.save(PICTURE, picture, fields)
        rows.add(picture.measurement_id)
    for row in Measurement.objects.filter(pk__in=rows):
        write.count_up(MEASUREMENT, row)
        row.save(update_fields=["version"])
