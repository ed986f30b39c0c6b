"""Exposure sheets begun, their lines changed, exposures kept, shown and taken away: each a write."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.files import keeping as files
from jungoptic.app.frames.beside import Taken
from jungoptic.app.frames.models import (
    COLUMNS,
    RANKS_APART,
    Exposure,
    ExposureSheet,
    FigurePoint,
    Hyperlapse,
    Piece,
    PointPlace,
    Pose,
    Rig,
    SheetCheat,
    SheetClip,
    in_place,
)
from jungoptic.app.shots.models import Layer
from jungoptic.core.errors import InputError
from jungoptic.core.frames import PHOTOGRAPHED, holds_on, regrouped
from jungoptic.core.quantities import OUR_TIME, in_our_time

SHEET, POSE, EXPOSURE, RIG, PIECE = "exposure_sheet", "pose", "exposure", "rig", "marked_piece"
POINT, PLACE, HYPERLAPSE = "figure_point", "point_place", "hyperlapse"
CLIP, CHEAT = "sheet_clip", "sheet_cheat"
SEEN_KINDS = frozenset({"image/jpeg", "image/png", "image/webp"})
"""What a browser shows as it is."""
KINDS = SEEN_KINDS | {"image/tiff", files.EXR}
_PROXY = frozenset({"image/jpeg"})
_ROWS: Mapping[str, Any] = {
    **{SHEET: ExposureSheet, POSE: Pose, EXPOSURE: Exposure},
    **{RIG: Rig, PIECE: Piece, POINT: FigurePoint, PLACE: PointPlace},
    **{HYPERLAPSE: Hyperlapse, CLIP: SheetClip, CHEAT: SheetCheat},
}
KINDS_KEPT = frozenset(_ROWS)
"""What the desk writes: nothing of it is judged on the Bench."""
_WRITTEN, _KEY = 1, 2
"""What a line counts whose columns say something, and a key."""


def begin(write: Writing, layer: Layer, on: int) -> ExposureSheet:
    """A sheet for a layer, as long as its shot. Raises InputError."""
    if ExposureSheet.objects.filter(layer=layer, removed=False).exists():
        raise InputError.at("", f"{layer.name} has its exposure sheet already: open it.")
    sheet = ExposureSheet.objects.create(layer=layer)
    Pose.objects.bulk_create(
        Pose(sheet=sheet, rank=place * RANKS_APART, hold=hold)
        for place, hold in enumerate(holds_on(layer.shot.length_frames, on), 1)
    )
    write.made(SHEET, sheet)
    return sheet


def change_sheet(write: Writing, sheet: ExposureSheet, version: int, values: Mapping[str, Any]) -> None:
    """Its passes; take it away, or bring it back. Raises ConflictError, and InputError where exposures would
    be of no pass any more.
    """
    write.refuse_unseen(SHEET, sheet, version)
    _refuse_passless(sheet, values)
    write.save(SHEET, sheet, values)


def _refuse_passless(sheet: ExposureSheet, values: Mapping[str, Any]) -> None:
    count = max(len(values.get("passes", sheet.passes)), 1)
    if Exposure.objects.filter(pose__sheet=sheet, removed=False, light_pass__gte=count).exists():
        raise InputError.at("passes", "There are exposures of this pass: take them away first.")


def add(write: Writing, kind: str, sheet: ExposureSheet, version: int, values: Mapping[str, Any]) -> Any:
    """A rig, a marked piece, a point or a cheat of a sheet. Raises ConflictError."""
    write.refuse_unseen(SHEET, sheet, version)
    row = _ROWS[kind].objects.create(sheet=sheet, **values)
    write.made(kind, row)
    return row


def change(write: Writing, kind: str, row: Any, version: int, values: Mapping[str, Any]) -> None:
    """Other values of a line, a rig, a marked piece or a point. Raises ConflictError."""
    write.refuse_unseen(kind, row, version)
    write.save(kind, row, values)


def lines_of(sheet_id: int) -> list[Pose]:
    """The lines of a sheet that are not left out, in their order, each told its place."""
    return in_place(Pose.objects.filter(sheet=sheet_id, removed=False).order_by("rank"))


def _ranks(sheet_id: int, after: int, count: int) -> list[int]:
    """Ranks for so many new lines behind one; where there is no room left, all go farther apart first."""
    poses = list(Pose.objects.filter(sheet=sheet_id).order_by("rank"))
    following = next((pose.rank for pose in poses if pose.rank > after), after + RANKS_APART * (count + 1))
    step = (following - after) // (count + 1)
    if step:
        return [after + step * number for number in range(1, count + 1)]
    before = sum(pose.rank <= after for pose in poses)
    for number, pose in enumerate(poses, 1):
        pose.rank = number * RANKS_APART
    Pose.objects.bulk_update(poses, ["rank"])
    return _ranks(sheet_id, before * RANKS_APART, count)


def _structure(write: Writing, sheet: ExposureSheet, version: int) -> None:
    """Lines come and go: who did not see the sheet as it is knows none of their places."""
    write.refuse_unseen(SHEET, sheet, version)
    write.count_up(SHEET, sheet)
    sheet.save(update_fields=["version"])


def insert_pose(write: Writing, sheet: ExposureSheet, version: int, after: Pose | None, hold: int) -> Pose:
    """A new line behind another, or as the first. Raises ConflictError."""
    _structure(write, sheet, version)
    return _inserted(write, sheet.pk, after.rank if after else 0, [hold])[0]


def _inserted(write: Writing, sheet_id: int, after: int, holds: Sequence[int]) -> list[Pose]:
    poses = [
        Pose.objects.create(sheet_id=sheet_id, rank=rank, hold=hold)
        for rank, hold in zip(_ranks(sheet_id, after, len(holds)), holds, strict=True)
    ]
    for pose in poses:
        write.made(POSE, pose)
    return poses


def leave_out(write: Writing, sheet: ExposureSheet, version: int, span: Sequence[Pose]) -> None:
    """Leave lines out; what was photographed of them stays with them. Raises ConflictError."""
    _structure(write, sheet, version)
    for pose in span:
        write.save(POSE, pose, {"removed": True})


def hold_all(write: Writing, sheet: ExposureSheet, version: int, span: Sequence[Pose], on: int) -> None:
    """Hold each line of a span for so many frames: the sheet gets longer or shorter. Raises ConflictError."""
    _structure(write, sheet, version)
    for pose in span:
        if pose.hold != on:
            write.save(POSE, pose, {"hold": on})


def regroup(write: Writing, sheet: ExposureSheet, version: int, span: Sequence[Pose], on: int) -> None:
    """Put a span on ones, twos, threes, as long as it was: lines come in, or are left out. Raises
    ConflictError, and InputError where one would be left out that is photographed.
    """
    _structure(write, sheet, version)
    shown = Exposure.objects.filter(pose__in=[each.pk for each in span], removed=False)
    taken = set(shown.values_list("pose_id", flat=True))
    weights = [
        PHOTOGRAPHED * (pose.pk in taken)
        + _KEY * (pose.key or pose.begins_block)
        + _WRITTEN * any(getattr(pose, column) for column in COLUMNS)
        for pose in span
    ]
    try:
        lines = regrouped([pose.hold for pose in span], weights, on)
    except ValueError:
        raise InputError.at(
            "on",
            "Photographed frames would have to be left out: hold them longer, or leave them out one by one.",
        ) from None
    stay = {place for place, _ in lines if place is not None}
    for place, pose in enumerate(span):
        if place not in stay:
            write.save(POSE, pose, {"removed": True})
    last: Pose | None = None
    new: list[int] = []
    for stays, hold in (*lines, (len(span), 0)):
        if stays is None:
            new.append(hold)
            continue
        if new:
            _inserted(write, sheet.pk, _rank_of(last, span), new)
            new = []
        if stays < len(span):
            last = span[stays]
            if last.hold != hold:
                write.save(POSE, last, {"hold": hold})


def _rank_of(last: Pose | None, span: Sequence[Pose]) -> int:
    """The rank that new lines follow; they may have made all of them others."""
    if last is not None:
        last.refresh_from_db(fields=["rank"])
        return last.rank
    span[0].refresh_from_db(fields=["rank"])
    before = Pose.objects.filter(sheet=span[0].sheet_id, rank__lt=span[0].rank).order_by("-rank").first()
    return before.rank if before else 0


def keep(
    write: Writing,
    pose: Pose,
    name: str,
    data: bytes,
    taken: Taken,
    at: datetime | None,
    light_pass: int = 0,
) -> Exposure:
    """Keep an exposure as it came; it is the one of its pass that is shown from now on. Raises InputError."""
    if at is not None and not in_our_time(at):
        raise InputError.at(
            "taken_at", f"The time of a frame must be {OUR_TIME}; {at.isoformat()} was given."
        )
    if pose.removed:  # somebody left it out while it was photographed
        write.save(POSE, pose, {"removed": False})
    same = Exposure.objects.filter(pose=pose, light_pass=light_pass, chosen=True, removed=False)
    for before in same:
        write.save(EXPOSURE, before, {"chosen": False})
    person_id = write.person.pk
    row = Exposure.objects.create(
        pose=pose,
        light_pass=light_pass,
        file=files.keep(write.production_id, name, data, KINDS, person_id=person_id),
        proxy=files.keep(write.production_id, f"{name} small", taken.proxy, _PROXY, person_id=person_id),
        width_px=taken.width_px,
        height_px=taken.height_px,
        taken_at=at or timezone.now(),
        person_id=person_id,
        watched=taken.watched,
    )
    write.made(EXPOSURE, row)
    for point_id, x, y in taken.points:
        PointPlace.objects.create(point_id=point_id, exposure=row, x=x, y=y)
    return row


def mark(
    write: Writing, point: FigurePoint, version: int, exposure: Exposure, place: tuple[float, float]
) -> PointPlace:
    """Say where a point is seen in an exposure, whatever was found there. Raises ConflictError."""
    write.refuse_unseen(POINT, point, version)
    values = {"x": place[0], "y": place[1], "marked": True}
    row = PointPlace.objects.filter(point=point, exposure=exposure).first()
    if row is None:
        row = PointPlace.objects.create(point=point, exposure=exposure, **values)
        write.made(PLACE, row)
    else:
        write.save(PLACE, row, {**values, "removed": False})
    return row


def show(write: Writing, row: Exposure, version: int) -> None:
    """Have an exposure shown in place of another of its pose and pass. Raises ConflictError."""
    write.refuse_unseen(EXPOSURE, row, version)
    for other in _others(row).filter(chosen=True):
        write.save(EXPOSURE, other, {"chosen": False})
    write.save(EXPOSURE, row, {"chosen": True})


def _others(row: Exposure) -> QuerySet[Exposure]:
    same = Exposure.objects.filter(pose=row.pose_id, light_pass=row.light_pass, removed=False)
    return same.exclude(pk=row.pk)


def remove(write: Writing, row: Exposure, version: int, removed: bool) -> None:
    """Take an exposure away, or bring it back: where nothing is shown in its place then, the newest that is
    left is. Raises ConflictError.
    """
    write.refuse_unseen(EXPOSURE, row, version)
    others = _others(row)
    if removed:
        write.save(EXPOSURE, row, {"removed": True, "chosen": False})
        newest = others.order_by("-taken_at", "-pk").first()
        if newest is not None and not others.filter(chosen=True).exists():
            write.save(EXPOSURE, newest, {"chosen": True})
    else:
        write.save(EXPOSURE, row, {"removed": False, "chosen": not others.filter(chosen=True).exists()})


@takes_back(SHEET, POSE, EXPOSURE, RIG, PIECE, POINT, PLACE, HYPERLAPSE, CLIP, CHEAT)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    kinds = {change.kind for change in changes}
    for kind in kinds:
        given = as_before([change for change in changes if change.kind == kind])
        # one exposure of a pose is shown at a time: whatever goes goes first
        for pk, fields in sorted(given.items(), key=lambda each: bool(each[1].get("chosen", False))):
            row = _ROWS[kind].objects.get(pk=pk)
            if kind == SHEET:
                _refuse_passless(row, fields)
            hidden = {"chosen": False} if kind == EXPOSURE and fields.get("removed") else {}
            write.save(kind, row, {**fields, **hidden})
