"""Exposure sheets begun, their lines changed, exposures kept, shown and taken away: each a write."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.utils import timezone

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.files import keeping as files
from jungoptic.app.frames.beside import Taken
from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose, Rig
from jungoptic.app.shots.models import Layer
from jungoptic.core.errors import InputError
from jungoptic.core.frames import holds_on
from jungoptic.core.quantities import OUR_TIME, in_our_time

SHEET, POSE, EXPOSURE, RIG = "exposure_sheet", "pose", "exposure", "rig"
KINDS = frozenset({"image/jpeg", "image/png", "image/webp"})
_PROXY = frozenset({"image/jpeg"})
_ROWS: Mapping[str, Any] = {SHEET: ExposureSheet, POSE: Pose, EXPOSURE: Exposure, RIG: Rig}


def begin(write: Writing, layer: Layer, on: int) -> ExposureSheet:
    """A sheet for a layer, as long as its shot. Raises InputError."""
    if ExposureSheet.objects.filter(layer=layer, removed=False).exists():
        raise InputError.at("", f"{layer.name} has its exposure sheet already: open it.")
    sheet = ExposureSheet.objects.create(layer=layer)
    Pose.objects.bulk_create(
        Pose(sheet=sheet, place=place, hold=hold)
        for place, hold in enumerate(holds_on(layer.shot.length_frames, on))
    )
    write.made(SHEET, sheet)
    return sheet


def change_sheet(write: Writing, sheet: ExposureSheet, version: int, removed: bool) -> None:
    """Take a sheet away, or bring it back. Raises ConflictError."""
    write.refuse_unseen(SHEET, sheet, version)
    write.save(SHEET, sheet, {"removed": removed})


def change_pose(write: Writing, pose: Pose, version: int, values: Mapping[str, Any]) -> None:
    """Write into a line of the sheet. Raises ConflictError."""
    write.refuse_unseen(POSE, pose, version)
    write.save(POSE, pose, values)


def add_rig(write: Writing, sheet: ExposureSheet, version: int, values: Mapping[str, Any]) -> Rig:
    """A rig of a sheet, where it stands set to nothing. Raises ConflictError."""
    write.refuse_unseen(SHEET, sheet, version)
    rig = Rig.objects.create(sheet=sheet, **values)
    write.made(RIG, rig)
    return rig


def change_rig(write: Writing, rig: Rig, version: int, values: Mapping[str, Any]) -> None:
    """Its gears, its ways, where it stands now. Raises ConflictError."""
    write.refuse_unseen(RIG, rig, version)
    write.save(RIG, rig, values)


def keep(write: Writing, pose: Pose, name: str, data: bytes, taken: Taken, at: datetime | None) -> Exposure:
    """Keep an exposure as it came; it is the one that is shown from now on. Raises InputError."""
    if at is not None and not in_our_time(at):
        raise InputError.at(
            "taken_at", f"The time of a frame must be {OUR_TIME}; {at.isoformat()} was given."
        )
    for before in Exposure.objects.filter(pose=pose, chosen=True, removed=False):
        write.save(EXPOSURE, before, {"chosen": False})
    person_id = write.person.pk
    row = Exposure.objects.create(
        pose=pose,
        file=files.keep(write.production_id, name, data, KINDS, person_id=person_id),
        proxy=files.keep(write.production_id, f"{name} small", taken.proxy, _PROXY, person_id=person_id),
        width_px=taken.width_px,
        height_px=taken.height_px,
        taken_at=at or timezone.now(),
        person_id=person_id,
        watched=taken.watched,
    )
    write.made(EXPOSURE, row)
    return row


def show(write: Writing, row: Exposure, version: int) -> None:
    """Have an exposure shown in place of another of its pose. Raises ConflictError."""
    write.refuse_unseen(EXPOSURE, row, version)
    for other in Exposure.objects.filter(pose=row.pose_id, chosen=True, removed=False).exclude(pk=row.pk):
        write.save(EXPOSURE, other, {"chosen": False})
    write.save(EXPOSURE, row, {"chosen": True})


def remove(write: Writing, row: Exposure, version: int, removed: bool) -> None:
    """Take an exposure away, or bring it back: where nothing is shown in its place then, the newest that is
    left is. Raises ConflictError.
    """
    write.refuse_unseen(EXPOSURE, row, version)
    others = Exposure.objects.filter(pose=row.pose_id, removed=False).exclude(pk=row.pk)
    if removed:
        write.save(EXPOSURE, row, {"removed": True, "chosen": False})
        newest = others.order_by("-taken_at", "-pk").first()
        if newest is not None and not others.filter(chosen=True).exists():
            write.save(EXPOSURE, newest, {"chosen": True})
    else:
        write.save(EXPOSURE, row, {"removed": False, "chosen": not others.filter(chosen=True).exists()})


@takes_back(SHEET, POSE, EXPOSURE, RIG)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    kinds = {change.kind for change in changes}
    for kind in kinds:
        given = as_before([change for change in changes if change.kind == kind])
        # one exposure of a pose is shown at a time: whatever goes goes first
        for pk, fields in sorted(given.items(), key=lambda each: bool(each[1].get("chosen", False))):
            row = _ROWS[kind].objects.get(pk=pk)
            hidden = {"chosen": False} if kind == EXPOSURE and fields.get("removed") else {}
            write.save(kind, row, {**fields, **hidden})
