"""Frames: exposure sheets, exposures taken and watched, the simulated camera at the desk."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.core.cache import cache
from django.db.models import Q
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Form, Query, Router, Status, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.desk import LIVE, PICTURES, TooLongError
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.files.keeping import room_bytes
from jungoptic.app.files.serving import FOR_EVER, answer
from jungoptic.app.frames import beside, cheats, desks, hyper, keeping, turning, watching
from jungoptic.app.frames import reading as read
from jungoptic.app.frames.jobs import TakingOut, frames_out
from jungoptic.app.frames.models import Exposure, Piece, Pose, Rig, in_place
from jungoptic.app.frames.points import SheetPoints, hyperlapse_of
from jungoptic.app.frames.rig_schemas import RigChange, RigIn, TurnIn
from jungoptic.app.frames.rigs import camera_stands
from jungoptic.app.frames.rows import exposure_of, line_of, part_of, pose_of, sheet_of
from jungoptic.app.frames.schemas import (
    DeskQuery,
    ExposureChange,
    ExposureOut,
    ExposureSheetOut,
    FramesOut,
    PieceChange,
    PieceIn,
    PoseChange,
    PoseIn,
    SheetChange,
    SheetIn,
    SpanChange,
    TakeOutIn,
)
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
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
LATER = "The server is too busy to measure this frame now. It waits on this device, and is sent once more."
MOST_BYTES = 100_000_000
NO_ROOM = (
    "The disk of the server is full. Nothing is lost: this frame waits on this device, and is sent when there"
    " is room. Take old productions or films off the server."
)


@router.get("/productions/{production_id}/frames", response=FramesOut)
def read_frames(request: HttpRequest, production_id: int) -> Any:
    """Everything of a production that is made frame by frame. Anybody in the production."""
    role = access.role_in(request, production_id)
    production = Production.objects.select_related("figures").get(pk=production_id)
    return {"role": role, "rate_fps": production.frame_rate_fps, **read.frames_of(production)}


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
    return _whole(request, sheet_of(request, sheet_id).pk)


@router.patch("/exposure-sheets/{sheet_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_exposure_sheet(request: HttpRequest, sheet_id: int, payload: SheetChange) -> Any:
    """Say which exposures are made of each pose; take a sheet away with all that was taken, or bring it back.
    The supervisor and the crew.
    """
    sheet = sheet_of(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        values = payload.model_dump(exclude={"version"}, exclude_none=True)
        keeping.change_sheet(write, sheet, payload.version, values)
    return written(write, sheet.pk, sheet.version)


@router.post("/exposure-sheets/{sheet_id}/poses", response={201: Written, 409: Problems, 422: Problems})
@writes
def insert_pose(request: HttpRequest, sheet_id: int, payload: PoseIn) -> Any:
    """A new line of a sheet, behind another or as the first. The supervisor and the crew."""
    sheet = sheet_of(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        after = None if payload.after is None else line_of(keeping.lines_of(sheet_id), "after", payload.after)
        pose = keeping.insert_pose(write, sheet, payload.version, after, payload.hold)
    return Status(201, written(write, pose.pk, pose.version))


@router.post("/exposure-sheets/{sheet_id}/span", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_span(request: HttpRequest, sheet_id: int, payload: SpanChange) -> Any:
    """Put lines of a sheet on ones, twos, threes, as long as they were; hold each for so long; or leave them
    out. The supervisor and the crew.
    """
    sheet = sheet_of(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        lines = keeping.lines_of(sheet_id)
        first, last = (line_of(lines, name, getattr(payload, name)).place for name in ("first", "last"))
        span = lines[min(first, last) : max(first, last) + 1]
        if payload.how == "left_out":
            if len(span) == len(lines):
                raise InputError.at("last", "A sheet has a line at least: leave one of them.")
            keeping.leave_out(write, sheet, payload.version, span)
        elif payload.how == "held":
            keeping.hold_all(write, sheet, payload.version, span, payload.on)
        else:
            keeping.regroup(write, sheet, payload.version, span, payload.on)
    return written(write, sheet.pk, sheet.version)


@router.post("/exposure-sheets/{sheet_id}/pieces", response={201: Written, 409: Problems, 422: Problems})
@writes
def add_set_piece(request: HttpRequest, sheet_id: int, payload: PieceIn) -> Any:
    """Mark something of the set that has to stand. The supervisor and the crew."""
    sheet = sheet_of(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        values = payload.model_dump(exclude={"version"})
        piece = keeping.add(write, keeping.PIECE, sheet, payload.version, values)
    return Status(201, written(write, piece.pk, piece.version))


@router.patch("/set-pieces/{piece_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_set_piece(request: HttpRequest, piece_id: int, payload: PieceChange) -> Any:
    """Change what a marked piece is called or where it is, take it away. The supervisor and the crew."""
    piece = part_of(request, Piece, piece_id)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), piece.sheet.layer.shot_id) as write:
        piece.refresh_from_db()
        keeping.change(write, keeping.PIECE, piece, payload.version, values)
    return written(write, piece.pk, piece.version)


@router.post("/exposure-sheets/{sheet_id}/rigs", response={201: Written, 409: Problems, 422: Problems})
@writes
def add_rig(request: HttpRequest, sheet_id: int, payload: RigIn) -> Any:
    """A geared rig of what is animated, or of its camera. The supervisor and the crew."""
    sheet = sheet_of(request, sheet_id, access.LOGS)
    values = payload.model_dump(exclude={"version"})
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        rig = keeping.add(write, keeping.RIG, sheet, payload.version, values)
    return Status(201, written(write, rig.pk, rig.version))


@router.patch("/rigs/{rig_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_rig(request: HttpRequest, rig_id: int, payload: RigChange) -> Any:
    """Change a rig, say where it stands, take it away. The supervisor and the crew."""
    rig = part_of(request, Rig, rig_id)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), rig.sheet.layer.shot_id) as write:
        rig.refresh_from_db()
        keeping.change(write, keeping.RIG, rig, payload.version, values)
    return written(write, rig.pk, rig.version)


@router.post("/rigs/{rig_id}/turns", response={202: JobOut, 409: Problems, 422: Problems})
@writes
def turn_rig(request: HttpRequest, rig_id: int, payload: TurnIn) -> Any:
    """Have a rig's motor turn its crank. The supervisor and the crew."""
    rig = part_of(request, Rig, rig_id)
    with in_shot(person(request), rig.sheet.layer.shot_id) as write:
        rig.refresh_from_db()
        write.refuse_unseen(keeping.RIG, rig, payload.version)
        if not rig.driven:
            raise InputError.at("", "This rig has no motor: turn it by hand, and say that it is turned.")
        turning.refuse_where_unknown(rig)
        to = turning.ToTurn(rig=rig.pk, version=rig.version, to=payload.to)
        job = ask_for(write, turning.turn_rig, f"{rig.name} turned", to)
    return Status(202, JobOut.of(job))


@router.patch("/poses/{pose_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_pose(request: HttpRequest, pose_id: int, payload: PoseChange) -> Any:
    """Write into a line of an exposure sheet. The supervisor and the crew."""
    pose = pose_of(request, pose_id, access.LOGS)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), pose.sheet.layer.shot_id) as write:
        pose.refresh_from_db()
        keeping.change(write, keeping.POSE, pose, payload.version, values)
    return written(write, pose.pk, pose.version)


@router.post("/poses/{pose_id}/exposures", response={201: ExposureOut, 422: Problems})
@writes
def take_exposure(
    request: HttpRequest,
    pose_id: int,
    taken_at: Form[datetime | None] = None,
    light_pass: Form[int] = 0,
    file: File[UploadedFile | None] = None,
) -> Any:
    """Keep a photograph of a pose, and say what changed since the last frame and the block's first. The
    supervisor and the crew.
    """
    pose = pose_of(request, pose_id, access.LOGS)
    if file is None:
        raise InputError.at("file", "Send the photograph.")
    if (file.size or 0) > MOST_BYTES:
        raise InputError.at("file", f"A frame has at most {MOST_BYTES / 1e6:.0f} MB.")
    room = room_bytes()
    if room is not None and room < (file.size or 0):
        raise HttpError(507, NO_ROOM)
    data = file.read()
    layer = pose.sheet.layer
    # where somebody left it out meanwhile, what was photographed brings it back
    stands = Pose.objects.filter(sheet=pose.sheet_id).exclude(~Q(pk=pose_id), removed=True)
    poses = in_place(stands.order_by("rank"))
    pose = line_of(poses, "file", pose_id)
    _, shot_id, versions = access.layer_seen(request, layer.pk)
    frames = first_frames([each.hold for each in poses])
    passes = max(len(pose.sheet.passes), 1)
    if not 0 <= light_pass < passes:
        raise InputError.at("light_pass", f"The sheet has {passes} passes, counted from 0.")
    desk = desks.desk_of(shot_id, layer.pk, versions)
    gate = desks.gate_of(desk, layer.shot.production)
    points = SheetPoints(pose.sheet, poses, gate)
    try:
        if points.hyper is not None:
            plan = points.hyper.planned
            known, mark = hyper.known(points, pose), (plan.mark_x, plan.mark_y)
            taken = LIVE.run(asker(request), beside.aimed, data, points.hyper.point_id, known, mark)
        else:
            there = watching.before(poses, pose, light_pass)
            to = watching.watched_for(desk, poses, pose, frames, there)
            sought = () if light_pass else points.sought(pose.place, there.earlier)
            taken = LIVE.run(asker(request), beside.taken, data, *there.held, to, sought)
    except TooLongError:
        raise HttpError(503, LATER) from None
    with in_shot(person(request), shot_id) as write:
        row = keeping.keep(write, pose, file.name or "frame", data, taken, taken_at, light_pass)
    if not (taken.points or points.hyper):
        return Status(201, read.exposure_answer(row))
    points.look_again(pose)
    return Status(201, read.exposure_answer(row, points.told(pose.place)))


@router.post("/exposure-sheets/{sheet_id}/pictures", response={202: JobOut, 409: Problems, 422: Problems})
@writes
def take_frames_out(request: HttpRequest, sheet_id: int, payload: TakeOutIn) -> Any:
    """Have what was photographed packed as numbered pictures, with an edit and the sheet as a table. Anybody
    in the production.
    """
    sheet = sheet_of(request, sheet_id)
    if not Exposure.objects.filter(pose__sheet=sheet, pose__removed=False, chosen=True).exists():
        raise InputError.at("", "Nothing is photographed yet: take a frame first.")
    how = TakingOut(sheet=sheet_id, format=payload.format, expanded=payload.expanded)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        write.refuse_unseen(keeping.SHEET, sheet, payload.version)
        job = ask_for(write, frames_out, f"Frames of {sheet.layer.name}", how)
    return Status(202, JobOut.of(job))


@router.get("/exposures/{exposure_id}.jpg", include_in_schema=False)
def exposure_picture(request: HttpRequest, exposure_id: int, width: int = 0) -> HttpResponseBase:
    """An exposure, whole as it came, or not wider than ``width``. Anybody in the production."""
    row = exposure_of(request, exposure_id)
    name = f"{row.pose.sheet.layer.shot.code} {row.pose.name}"
    shown = row.file.kind in keeping.SEEN_KINDS
    if not width or (shown and width >= row.width_px):
        return answer(request, row.file, name)
    if width <= beside.PROXY_PX:
        return answer(request, row.proxy, name)
    key = f"exposure-{exposure_id}-{width}"
    made: bytes | None = cache.get(key)
    if made is None:
        made = PICTURES.run(asker(request), beside.smaller, row.file.read(), width)
        cache.set(key, made, timeout=None)
    return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": FOR_EVER})


@router.patch("/exposures/{exposure_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_exposure(request: HttpRequest, exposure_id: int, payload: ExposureChange) -> Any:
    """Have an exposure shown in place of another, take it away, or bring it back. The supervisor and the
    crew.
    """
    row = exposure_of(request, exposure_id, access.LOGS)
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
    sheet = sheet_of(request, sheet_id)
    _, shot_id, versions = access.layer_seen(request, sheet.layer_id)
    desk = desks.desk_of(shot_id, sheet.layer_id, versions)
    if desk is None:
        raise InputError.at("", "Nothing is filmed of this layer: give it a set-up on the Bench first.")
    hyperlapse = hyperlapse_of(sheet)
    if hyperlapse is not None:
        plan = hyperlapse.planned
        path = plan.path(max(sheet.poses.filter(removed=False).count(), hyper.FEWEST))
        mark = plan.mark_x, plan.mark_y
        asked = desk, query.width, path, mark, query.frame, query.number, query.aim_px
        made = LIVE.run(asker(request), beside.aimed_photograph, *asked)
        return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": "no-store"})
    faults = DeskFaults(
        nudge_px=(query.nudge_px, 0.0),
        nudge_at=1 if query.nudge_px else 0,
        bounce_stops=query.bounce_stops,
        bounce_at=query.frame if query.bounce_stops else 0,
        hand_at=query.frame if query.hand else 0,
        lighter_stops=query.lighter_stops + cheats.lighter_stops(sheet, desk, query.frame),
    )
    stands = camera_stands(sheet.rigs.filter(removed=False))
    asked_of = desk, query.width, query.frame, query.number, faults, stands
    made = LIVE.run(asker(request), beside.photographed, *asked_of)
    return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": "no-store"})


def _whole(request: HttpRequest, sheet_id: int) -> dict[str, Any]:
    sheet = read.sheet_with_everything(sheet_id)
    role, shot_id, versions = access.layer_seen(request, sheet.layer_id)
    desk = desks.desk_of(shot_id, sheet.layer_id, versions)
    return read.sheet_answer(sheet, role, desk)
