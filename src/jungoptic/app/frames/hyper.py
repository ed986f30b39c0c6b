"""Hyperlapses: planned from a shot's move, read with the aims of what was photographed."""

from __future__ import annotations

import math
from collections.abc import Sequence

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.base.edits import Writing
from jungoptic.app.frames import keeping
from jungoptic.app.frames.beside import Held
from jungoptic.app.frames.models import Exposure, ExposureSheet, Hyperlapse, Pose
from jungoptic.app.frames.points import SheetPoints
from jungoptic.app.shots.models import Layer
from jungoptic.core.errors import InputError
from jungoptic.core.frames import (
    AIM_HOLDS,
    HyperPlan,
    Meanwhile,
    Place,
    Steadied,
    aimed,
    meanwhile,
    stations,
    steadied,
    transforms_csv,
)
from jungoptic.core.match import Match, focal_px

FEWEST = 2
_NAME, _NAME_MOST = "Reference point", 60
_SIDES_PCT = 50.0
"""A margin of so much on each side leaves nothing."""
_NOWHERE = (math.nan, math.nan)


def begin(write: Writing, layer: Layer, name: str | None, plan: HyperPlan | None) -> ExposureSheet:
    """A hyperlapse of a layer: a sheet on ones, the point that it is aimed at, and its plan. Raises
    InputError.
    """
    thing, planned = _of_shot(layer)
    sheet = keeping.begin(write, layer, 1)
    point = keeping.add(write, keeping.POINT, sheet, sheet.version, {"name": name or thing})
    row = Hyperlapse.objects.create(point=point, plan=(plan or planned).model_dump())
    write.made(keeping.HYPERLAPSE, row)
    return sheet


def _of_shot(layer: Layer) -> tuple[str, HyperPlan]:
    """What a hyperlapse of a layer is aimed at, and its plan, by the shot's move and first tracking mark."""
    shot, plan = layer.shot, HyperPlan()
    values: Json = {}
    if shot.move_kind == "arc" and shot.move_amount and shot.move_round_m:
        long = math.radians(abs(shot.move_amount)) * shot.move_round_m
        values = {"kind": "arc", "away_m": shot.move_round_m, "length_m": long}
    elif shot.move_kind in ("slide", "push") and shot.move_amount:
        values = {"length_m": abs(shot.move_amount)}
    mark = shot.lines.filter(kind="tracking", removed=False).order_by("pk").first()
    if mark is not None:
        sides = shot.production.delivery_width_px, shot.production.delivery_height_px
        share, margin = 1.0 - plan.margin_pct / _SIDES_PCT, plan.margin_pct / 100.0
        where = [
            min(max(margin + share * at / side, 0.0), 1.0)
            for at, side in zip(mark.points[0], sides, strict=True)
        ]
        values |= {"mark_x": where[0], "mark_y": where[1]}
    name = (mark.thing if mark is not None else "") or _NAME
    return name[:_NAME_MOST], HyperPlan.model_validate({**plan.model_dump(), **values})


def answer(points: SheetPoints, exposures: Sequence[Exposure], match: Match | None) -> Json | None:
    """A sheet's hyperlapse over the wire, None where it is none; of its ``exposures`` those that are shown
    count.
    """
    row = points.hyper
    if row is None:
        return None
    plan, gate, needed = row.planned, points.gate, points.needed_px
    path = plan.path(max(len(points.poses), FEWEST))
    step = path.length_m / (path.photographs - 1)
    moves = _meanwhile(plan, step, match)
    shown = {each.pose_id: each for each in exposures if each.chosen and not each.light_pass}
    seen = [points.at(row.point, place).seen or _NOWHERE for place in range(len(points.poses))]
    taken = [place for place, pose in enumerate(points.poses) if pose.pk in shown]
    told = aimed([seen[place] for place in taken], points.mark_px, (gate.width, gate.height), needed)
    steady = _steady(points, seen, min((each.width_px for each in shown.values()), default=1))
    return {
        **{"id": row.pk, "point_id": row.point_id, "name": row.point.name, "version": row.version},
        "plan": plan,
        "step_m": step,
        "stations": [fields_of(each) for each in stations(path)[: len(points.poses)]],
        "rhythm": fields_of(plan.rhythm(path.photographs)),
        "movers": [{**fields_of(each), "strobes": each.strobes} for each in moves.movers],
        "open_deg": plan.open_deg,
        "sharp_s": moves.sharp_s,
        "frame_px": [gate.width, gate.height],
        "spare_px": [max(gate.width - needed[0], 0.0) / 2.0, max(gate.height - needed[1], 0.0) / 2.0],
        "left_px": told.spare_px,
        "most_px": told.most_px,
        "aims": [_aim(points, place, shown[points.poses[place].pk].pk, steady) for place in taken],
        "holds": AIM_HOLDS,
        "again": [taken[number - 1] for number in told.again],
        "steadied": steady
        and {name: getattr(steady, name) for name in ("margin", "crop", "kept", "enlarged", "verdict")},
    }


def _steady(points: SheetPoints, seen: Sequence[Place], recorded_px: int) -> Steadied | None:
    gate, row = points.gate, points.hyper
    assert row is not None
    on = row.planned.steady_on
    try:
        return steadied(seen, points.mark_px, on, (gate.width, gate.height), points.needed_px, recorded_px)
    except ValueError:  # the point is found in too few
        return None


def _aim(points: SheetPoints, place: int, exposure_id: int, steady: Steadied | None) -> Json:
    shift = None
    if steady is not None:
        right_px, down_px = steady.shift_px[place].tolist()
        shift = points.gate.share((right_px, down_px))
    off, warned = points.aim_off(place), points.told(place)
    right, down = off or (None, None)
    return {
        **{"place": place, "exposure_id": exposure_id, "right_px": right, "down_px": down},
        "verdict": warned[0]["verdict"] if warned else "holds",
        "shift": shift,
    }


def _meanwhile(plan: HyperPlan, step_m: float, match: Match | None) -> Meanwhile:
    """What moves; nothing that is known where nothing is filmed."""
    if match is None or match.setup is None:
        return Meanwhile((), None)
    focal = focal_px(match.setup, match.delivery) / (1.0 - plan.margin_pct / _SIDES_PCT)
    return meanwhile(plan, step_m, match.layer.near_m / match.layer.scale, focal)


def known(points: SheetPoints, pose: Pose) -> tuple[tuple[Held, Place], ...]:
    """Photographs in which the reference point is known, with where: the one by which it was marked last, or
    else the first; and the one before a pose, or else the next after it.
    """
    assert points.hyper is not None
    point = points.hyper.point_id
    places = [points.places.get((point, each.pk)) for each in points.poses if each.pk != pose.pk]
    seen = [row for row in places if row is not None]
    if not seen:
        return ()
    marked = [row for row in seen if row.marked]
    order = {each.pk: each.place for each in points.poses}
    before = [row for row in seen if order[row.exposure.pose_id] < pose.place]
    rows = dict.fromkeys((marked[-1] if marked else seen[0], before[-1] if before else seen[0]))
    return tuple((Held.of(row.exposure.file.read()), (row.x, row.y)) for row in rows)


def transforms(points: SheetPoints, exposures: Sequence[Exposure]) -> str:
    """What lays each photograph where it is steady, as a table; px of the photographs. Raises InputError."""
    row = answer(points, exposures, None)
    if row is None or row["steadied"] is None:
        raise InputError.at("", "The reference point is found in too few photographs: take five at least.")
    wide = {each.pk: (each.width_px, each.height_px) for each in exposures}
    shifts = [
        [share * side for share, side in zip(each["shift"], wide[each["exposure_id"]], strict=True)]
        for each in row["aims"]
    ]
    return transforms_csv([(0.0, 0.0)] * len(shifts), shifts)
