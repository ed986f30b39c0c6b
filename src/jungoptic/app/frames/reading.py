"""Exposure sheets as they are read: their lines with frames, what was taken, and the pace."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Any

from django.db.models import Avg, Prefetch, Q, QuerySet

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.costs.costing import figures_of
from jungoptic.app.files.keeping import room_bytes
from jungoptic.app.files.models import StoredFile
from jungoptic.app.frames import cheats, hyper, layers
from jungoptic.app.frames.beside import Desk
from jungoptic.app.frames.clips import clip_answers
from jungoptic.app.frames.desks import aspect_of, desk_of, gate_of, match_of
from jungoptic.app.frames.models import (
    COLUMNS,
    Exposure,
    ExposureSheet,
    FigurePoint,
    Piece,
    Pose,
    Rig,
    SheetCheat,
    in_place,
)
from jungoptic.app.frames.points import Gate, SheetPoints, planned_px
from jungoptic.app.frames.rigs import carries, move_of, plate_answer, rig_answer
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer
from jungoptic.core.breakdown import FRAME_BY_FRAME
from jungoptic.core.cautions import CAUTIONS, DEFERENCE, Caution
from jungoptic.core.frames import (
    HyperPlan,
    Pace,
    blocks_of,
    first_frames,
    next_pose,
    pace_of,
    pace_of_all,
    stretch_of,
)

_AT_THE_DESK = (*FRAME_BY_FRAME, "hot_lamps")
_ON_A_PATH = ("walking", "roads")
USUAL_BYTES, SMALL_TOO = 1_500_000, 1.1
"""Of a frame that nobody took yet; the small picture beside each is a tenth more."""
_HOUR_S = 3600.0


def sheet_with_everything(sheet_id: int) -> ExposureSheet:
    """A sheet with its poses and all that was not taken away, in a fixed number of queries."""
    exposures = Exposure.objects.filter(removed=False).select_related("person")
    return (
        ExposureSheet.objects.select_related("layer__shot__production")
        .prefetch_related(Prefetch("rigs", Rig.objects.filter(removed=False)))
        .prefetch_related(Prefetch("pieces", Piece.objects.filter(removed=False)))
        .prefetch_related(Prefetch("cheats", SheetCheat.objects.filter(removed=False)))
        .prefetch_related(_with_poses(exposures))
        .get(pk=sheet_id)
    )


def _with_poses(exposures: QuerySet[Exposure]) -> Prefetch[Any]:
    """The lines of sheets that are not left out, with their exposures."""
    lines = Pose.objects.filter(removed=False)
    return Prefetch("poses", lines.prefetch_related(Prefetch("exposures", exposures)))


def check(sheet: ExposureSheet) -> None:
    """Read a sheet's rigs, pieces, cheats and points as its desk does. Raises what a bad file does."""
    frames = first_frames([pose.hold for pose in in_place(sheet.poses.filter(removed=False))])
    for rig in sheet.rigs.all():
        move_of(rig, frames)
        carries(rig)
    for piece in sheet.pieces.all():
        left, top, right, bottom = (float(side) for side in piece.box)
        if not (left < right and top < bottom):
            raise ValueError(f"{piece.name} has no box")
    for moved in sheet.cheats.all():
        cheats.changed(moved, moved.cheat.model_dump())
    for point in sheet.figure_points.all():
        planned_px(point, frames, _PLAIN_GATE)
        if any(int(last) < int(first) for first, last in point.planted):
            raise ValueError(f"{point.name} stands until before it came")
        if hasattr(point, "hyperlapse"):
            HyperPlan.model_validate(point.hyperlapse.plan)


_PLAIN_GATE = Gate(1.0, 1.0, None)


def sheet_answer(sheet: ExposureSheet, role: str, desk: Desk | None) -> Json:
    """A sheet over the wire."""
    match = None if desk is None else match_of(desk)
    layer, shot = sheet.layer, sheet.layer.shot
    production = shot.production
    poses = in_place(sheet.poses.all())
    frames = first_frames([pose.hold for pose in poses])
    blocks = blocks_of([pose.begins_block for pose in poses])
    exposures = _as_taken(poses)
    pace = _pace(poses, exposures, production.frame_rate_fps)
    shown = Counter(each.pose_id for each in exposures if each.chosen)
    upcoming = next_pose([shown[pose.pk] for pose in poses], max(len(sheet.passes), 1))
    stretch = stretch_of([each.taken_at.timestamp() for each in exposures])
    points = SheetPoints(sheet, poses, gate_of(desk, production))
    gate = points.gate
    cautions = _AT_THE_DESK if points.hyper is None else _ON_A_PATH
    return {
        **{"id": sheet.pk, "version": sheet.version, "layer_id": layer.pk, "layer": layer.name},
        **{"shot_id": shot.pk, "production_id": production.pk, "code": shot.code, "title": shot.title},
        "role": role,
        "rate_fps": production.frame_rate_fps,
        "length_frames": shot.length_frames,
        "delivery_width_px": production.delivery_width_px,
        "delivery_height_px": production.delivery_height_px,
        "aspect": aspect_of(desk, production),
        "passes": sheet.passes,
        "passes_alternate": sheet.passes_alternate,
        "poses": [_pose_answer(*line) for line in zip(poses, frames, blocks, strict=True)],
        "exposures": _exposure_answers(poses, exposures, points),
        "pace": None if pace is None else fields_of(pace),
        "stretch": None if stretch is None else fields_of(stretch),
        "rigs": [rig_answer(rig, frames, upcoming, match) for rig in sheet.rigs.all()],
        **plate_answer(match),
        "room_frames": _room(sheet.pk),
        "cautions": [_caution_answer(CAUTIONS[key]) for key in cautions],
        "deference": DEFERENCE,
        "pieces": [_piece_answer(piece) for piece in sheet.pieces.all()],
        "points": points.answers(upcoming),
        "gate_px": [gate.width, gate.height],
        "mm_px": gate.mm_px,
        "hyperlapse": hyper.answer(points, exposures, match),
        "cheats": cheats.answer(sheet, desk, poses, frames),
        **clip_answers(sheet),
        "beside": layers.layer_answers(sheet),
        "backing": layers.sheet_colour(layer),
        "laid_px": layers.laid_of(match, production),
    }


def transforms_of(sheet_id: int, desk: Desk | None) -> str:
    """What lays the photographs of a hyperlapse where it is steady, as a table. Raises InputError."""
    sheet = sheet_with_everything(sheet_id)
    poses = in_place(sheet.poses.all())
    points = SheetPoints(sheet, poses, gate_of(desk, sheet.layer.shot.production))
    return hyper.transforms(points, _as_taken(poses))


def _exposure_answers(
    poses: Sequence[Pose], exposures: Sequence[Exposure], points: SheetPoints
) -> list[Json]:
    """Exposures over the wire, with what is said of the figure's points by how they are planned now."""
    places = {pose.pk: pose.place for pose in poses}
    return [
        exposure_answer(each, points.told(places[each.pose_id]) if _is_shown(each) else ())
        for each in exposures
    ]


def _is_shown(row: Exposure) -> bool:
    return row.chosen and not row.light_pass


def _room(sheet_id: int) -> int | None:
    """How many more frames fit on the disk, by how large those of the sheet are."""
    room = room_bytes()
    of_sheet = StoredFile.objects.filter(pk__in=Exposure.objects.filter(pose__sheet=sheet_id).values("file"))
    size = of_sheet.aggregate(mean=Avg("size_bytes"))["mean"] or USUAL_BYTES
    return None if room is None else int(max(room, 0) // (SMALL_TOO * size))


def _as_taken(poses: Sequence[Pose]) -> list[Exposure]:
    """The exposures of poses in the order in which they were taken."""
    every = (each for pose in poses for each in pose.exposures.all())
    return sorted(every, key=lambda each: (each.taken_at, each.pk))


def _pose_answer(pose: Pose, frame: int, block: int) -> Json:
    """A line of a sheet over the wire."""
    plain = ("place", "hold", "key", "begins_block", *COLUMNS, "version")
    return {"id": pose.pk, "frame": frame, "block": block, **{name: getattr(pose, name) for name in plain}}


def _caution_answer(caution: Caution) -> Json:
    """A caution over the wire."""
    return {name: getattr(caution, name) for name in ("title", "text", "safer")}


def _piece_answer(piece: Piece) -> Json:
    """A marked piece over the wire."""
    return {"id": piece.pk, "name": piece.name, "box": piece.box, "version": piece.version}


def exposure_answer(row: Exposure, more: Sequence[Json] = ()) -> Json:
    """An exposure over the wire, with what more there is to be said of it."""
    plain = ("pose_id", "light_pass", "width_px", "height_px", "taken_at", "chosen", "version")
    watched = row.watched
    if more:
        watched = watched or {"last": None, "first": None, "warnings": []}
        watched = {**watched, "warnings": [*watched["warnings"], *more]}
    values = {name: getattr(row, name) for name in plain}
    return {"id": row.pk, "by": row.person.shown_name, "watched": watched, **values}


def _pace(poses: Sequence[Pose], exposures: Sequence[Exposure], rate_fps: float) -> Pace | None:
    holds = {pose.pk: pose.hold for pose in poses}
    shown = {each.pose_id for each in exposures if _is_shown(each)}
    return pace_of(
        [each.taken_at.timestamp() for each in exposures],
        [holds[each.pose_id] if _is_shown(each) else 0 for each in exposures],
        len(poses) - len(shown),
        rate_fps,
    )


def frames_of(production: Production) -> Json:
    """Everything of a production that is made frame by frame, with how far it is, and the pace of all."""
    layers = (
        Layer.objects.filter(shot__production=production, shot__removed=False, removed=False)
        .filter(Q(kind="frame_by_frame") | Q(exposure_sheets__removed=False))
        .select_related("shot__production")
        .order_by("shot__code", "place", "pk")
        .distinct()
    )
    sheets = {each.layer_id: each for each in _sheets(layers)}
    briefs = [_brief(layer, sheets.get(layer.pk)) for layer in layers]
    planned = figures_of(production).seconds_per_hour
    of_all = pace_of_all([(pace, left_s) for _, pace, left_s in briefs], planned)
    filmed = Layer.objects.filter(
        shot__production=production, shot__removed=False, removed=False, kind="live", set_up__isnull=False
    )
    free = filmed.exclude(pk__in=[layer.pk for layer in layers]).select_related("shot")
    return {
        "sheets": [brief for brief, _, _ in briefs],
        "for_hyperlapses": [
            {"layer_id": layer.pk, "layer": layer.name, "code": layer.shot.code}
            for layer in free.order_by("shot__code", "place", "pk")
        ],
        "planned_s_per_hour": planned,
        "figures_version": production.figures.version if hasattr(production, "figures") else 1,
        **fields_of(of_all),
    }


def _sheets(layers: Iterable[Layer]) -> Iterable[ExposureSheet]:
    exposures = Exposure.objects.filter(removed=False)
    sheets = ExposureSheet.objects.filter(layer__in=layers, removed=False)
    points = Prefetch("figure_points", FigurePoint.objects.filter(removed=False))
    return sheets.prefetch_related(_with_poses(exposures), points)


def _brief(layer: Layer, sheet: ExposureSheet | None) -> tuple[Json, Pace | None, float]:
    """A layer over the wire, its pace, and how many seconds of it are still to be made."""
    poses = list(sheet.poses.all()) if sheet else []
    exposures = _as_taken(poses)
    rate = layer.shot.production.frame_rate_fps
    shown = {each.pose_id for each in exposures if _is_shown(each)}
    points = _points_of(layer, sheet, poses) if sheet and sheet.figure_points.all() else None
    hyperlapse = points and points.hyper
    # who carries a camera is not slower than the metronome
    pace = None if hyperlapse else _pace(poses, exposures, rate)
    left = [pose.hold for pose in poses if pose.pk not in shown] if sheet else [layer.shot.length_frames]
    places = {pose.pk: place for place, pose in enumerate(poses)}
    counted = Counter(
        bool((each.watched and each.watched["warnings"]) or (points and points.told(places[each.pose_id])))
        for each in exposures
        if _is_shown(each)
    )
    told = {
        **{"layer_id": layer.pk, "layer": layer.name, "shot_id": layer.shot_id},
        **{"code": layer.shot.code, "title": layer.shot.title, "sheet_id": sheet and sheet.pk},
        **{"poses": len(poses), "taken": counted.total(), "warned": counted[True]},
        "s_per_hour": pace and pace.s_per_hour,
        "left_h": pace and pace.left_h,
        "hyperlapse": bool(hyperlapse),
    }
    if hyperlapse:
        left_s = len(left) * hyperlapse.planned.interval_s
        return {**told, "left_h": left_s / _HOUR_S}, None, 0.0
    return told, pace, sum(left) / rate


def _points_of(layer: Layer, sheet: ExposureSheet, poses: Sequence[Pose]) -> SheetPoints:
    sheet.layer, production = layer, layer.shot.production
    desk = desk_of(layer.shot_id, layer.pk, (layer.shot.revision, production.revision))
    return SheetPoints(sheet, in_place(poses), gate_of(desk, production))
