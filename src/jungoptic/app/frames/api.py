"""Frames: exposure sheets, exposures taken and watched, the simulated camera at the desk."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.core.cache import cache
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Form, Query, Router, Status, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.desk import LIVE, PICTURES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Removed, Written
from jungoptic.app.boards.reading import smaller
from jungoptic.app.files.serving import FOR_EVER, answer
from jungoptic.app.frames import beside, keeping
from jungoptic.app.frames import reading as read
from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose, Rig
from jungoptic.app.frames.schemas import (
    DeskQuery,
    ExposureChange,
    ExposureOut,
    ExposureSheetOut,
    FramesOut,
    PoseChange,
    RigChange,
    RigIn,
    SheetIn,
)
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.errors import InputError
from jungoptic.core.frames import first_frames
from jungoptic.core.stage import DeskFaults

router = Router()
MOST_BYTES = 30_000_000
_NOT_HERE = HttpError(404, "There is no such thing here, or it is not yours to see.")


@router.get("/productions/{production_id}/frames", response=FramesOut)
def read_frames(request: HttpRequest, production_id: int) -> Any:
    """Everything of a production that is made frame by frame. Anybody in the production."""
    role = access.role_in(request, production_id)
    rate = Production.objects.values_list("frame_rate_fps", flat=True).get(pk=production_id)
    return {"role": role, "rate_fps": rate, "sheets": read.frames_of(production_id)}


@router.post("/layers/{layer_id}/exposure-sheet", response={201: ExposureSheetOut, 422: Problems})
@writes
def begin_exposure_sheet(request: HttpRequest, layer_id: int, payload: SheetIn) -> Any:
    """Begin the exposure sheet of a layer, as long as its shot. The supervisor and the crew."""
    access.of_layer(request, layer_id, access.LOGS)
    layer = Layer.objects.select_related("shot").get(pk=layer_id)
    with in_shot(person(request), layer.shot_id) as write:
        sheet = keeping.begin(write, layer, payload.on)
    return Status(201, _whole(request, sheet.pk))


@router.get("/exposure-sheets/{sheet_id}", response=ExposureSheetOut)
def read_exposure_sheet(request: HttpRequest, sheet_id: int) -> Any:
    """An exposure sheet with everything that was taken. Anybody in the production."""
    return _whole(request, _sheet(request, sheet_id).pk)


@router.patch("/exposure-sheets/{sheet_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_exposure_sheet(request: HttpRequest, sheet_id: int, payload: Removed) -> Any:
    """Take an exposure sheet away with all that was taken, or bring it back. The supervisor and the crew."""
    sheet = _sheet(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        keeping.change_sheet(write, sheet, payload.version, payload.removed)
    return written(write, sheet.pk, sheet.version)


@router.post("/exposure-sheets/{sheet_id}/rigs", response={201: Written, 409: Problems, 422: Problems})
@writes
def add_rig(request: HttpRequest, sheet_id: int, payload: RigIn) -> Any:
    """A geared rig of what is animated, or of its camera. The supervisor and the crew."""
    sheet = _sheet(request, sheet_id, access.LOGS)
    values = payload.model_dump(exclude={"version"})
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        rig = keeping.add_rig(write, sheet, payload.version, values)
    return Status(201, written(write, rig.pk, rig.version))


@router.patch("/rigs/{rig_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_rig(request: HttpRequest, rig_id: int, payload: RigChange) -> Any:
    """Change a rig, say where it stands, take it away. The supervisor and the crew."""
    rig = Rig.objects.filter(pk=rig_id).select_related("sheet__layer").first()
    if rig is None:
        raise _NOT_HERE
    access.of_layer(request, rig.sheet.layer_id, access.LOGS)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), rig.sheet.layer.shot_id) as write:
        rig.refresh_from_db()
        keeping.change_rig(write, rig, payload.version, values)
    return written(write, rig.pk, rig.version)


@router.patch("/poses/{pose_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_pose(request: HttpRequest, pose_id: int, payload: PoseChange) -> Any:
    """Write into a line of an exposure sheet. The supervisor and the crew."""
    pose = _pose(request, pose_id, access.LOGS)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), pose.sheet.layer.shot_id) as write:
        pose.refresh_from_db()
        keeping.change_pose(write, pose, payload.version, values)
    return written(write, pose.pk, pose.version)


@router.post("/poses/{pose_id}/exposures", response={201: ExposureOut, 422: Problems})
@writes
def take_exposure(
    request: HttpRequest,
    pose_id: int,
    taken_at: Form[datetime | None] = None,
    file: File[UploadedFile | None] = None,
) -> Any:
    """Keep a photograph of a pose, and say what changed since the last frame and the block's first. The
    supervisor and the crew.
    """
    pose = _pose(request, pose_id, access.LOGS)
    if file is None:
        raise InputError.at("file", "Send the photograph.")
    if (file.size or 0) > MOST_BYTES:
        raise InputError.at("file", f"A frame has at most {MOST_BYTES / 1e6:.0f} MB.")
    data = file.read()
    layer, poses = pose.sheet.layer, list(Pose.objects.filter(sheet=pose.sheet_id))
    _, shot_id, versions = access.layer_seen(request, layer.pk)
    frame = first_frames([each.hold for each in poses])[pose.place]
    last, first, earlier = read.before(poses, pose)
    to = read.watched_for(read.desk_of(shot_id, layer.pk, versions), pose, frame, earlier)
    taken = LIVE.run(asker(request), beside.taken, data, last, first, to)
    with in_shot(person(request), shot_id) as write:
        row = keeping.keep(write, pose, file.name or "frame", data, taken, taken_at)
    return Status(201, read.exposure_answer(row))


@router.get("/exposures/{exposure_id}.jpg", include_in_schema=False)
def exposure_picture(request: HttpRequest, exposure_id: int, width: int = 0) -> HttpResponseBase:
    """An exposure, whole as it came, or not wider than ``width``. Anybody in the production."""
    row = _exposure(request, exposure_id)
    name = f"{row.pose.sheet.layer.shot.code} {row.pose.name}"
    if not 0 < width < row.width_px:
        return answer(request, row.file, name)
    if width <= beside.PROXY_PX:
        return answer(request, row.proxy, name)
    key = f"exposure-{exposure_id}-{width}"
    made: bytes | None = cache.get(key)
    if made is None:
        made = PICTURES.run(asker(request), smaller, row.file.read(), width)
        cache.set(key, made, timeout=None)
    return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": FOR_EVER})


@router.patch("/exposures/{exposure_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_exposure(request: HttpRequest, exposure_id: int, payload: ExposureChange) -> Any:
    """Have an exposure shown in place of another, take it away, or bring it back. The supervisor and the
    crew.
    """
    row = _exposure(request, exposure_id, access.LOGS)
    if (payload.chosen is None) == (payload.removed is None):
        raise InputError.at("removed", "Say that it is shown, or that it is taken away: one of both.")
    with in_shot(person(request), row.pose.sheet.layer.shot_id) as write:
        row.refresh_from_db()
        if payload.removed is None:
            if row.removed:
                raise InputError.at("chosen", "This exposure was taken away: bring it back first.")
            keeping.show(write, row, payload.version)
        else:
            keeping.remove(write, row, payload.version, payload.removed)
    return written(write, row.pk, row.version)


@router.get("/exposure-sheets/{sheet_id}/simulated.jpg", include_in_schema=False)
def simulated_frame(request: HttpRequest, sheet_id: int, query: Query[DeskQuery]) -> HttpResponse:
    """What the simulated camera sees at the desk at a frame of the shot. Anybody in the production."""
    sheet = _sheet(request, sheet_id)
    _, shot_id, versions = access.layer_seen(request, sheet.layer_id)
    desk = read.desk_of(shot_id, sheet.layer_id, versions)
    if desk is None:
        raise InputError.at("", "Nothing is filmed of this layer: give it a set-up on the Bench first.")
    faults = DeskFaults(
        nudge_px=(query.nudge_px, 0.0),
        nudge_at=1 if query.nudge_px else 0,
        bounce_stops=query.bounce_stops,
        bounce_at=query.frame if query.bounce_stops else 0,
        hand_at=query.frame if query.hand else 0,
        lighter_stops=query.lighter_stops,
    )
    made = LIVE.run(asker(request), beside.photographed, desk, query.width, query.frame, query.number, faults)
    return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": "no-store"})


def _whole(request: HttpRequest, sheet_id: int) -> dict[str, Any]:
    sheet = read.sheet_with_everything(sheet_id)
    role, shot_id, versions = access.layer_seen(request, sheet.layer_id)
    desk = read.desk_of(shot_id, sheet.layer_id, versions)
    return read.sheet_answer(sheet, role, desk)


def _sheet(
    request: HttpRequest, sheet_id: int, allowed: frozenset[access.Role] = access.READS
) -> ExposureSheet:
    row = ExposureSheet.objects.filter(pk=sheet_id).select_related("layer__shot").first()
    if row is None:
        raise _NOT_HERE
    access.of_layer(request, row.layer_id, allowed)
    return row


def _pose(request: HttpRequest, pose_id: int, allowed: frozenset[access.Role]) -> Pose:
    row = Pose.objects.filter(pk=pose_id).select_related("sheet__layer").first()
    if row is None:
        raise _NOT_HERE
    access.of_layer(request, row.sheet.layer_id, allowed)
    return row


def _exposure(
    request: HttpRequest, exposure_id: int, allowed: frozenset[access.Role] = access.READS
) -> Exposure:
    found = Exposure.objects.select_related("pose__sheet__layer__shot", "file", "proxy", "person")
    row = found.filter(pk=exposure_id).first()
    if row is None:
        raise _NOT_HERE
    access.of_layer(request, row.pose.sheet.layer_id, allowed)
    return row
