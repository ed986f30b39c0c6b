"""Adding to a shot, and accepting a verdict: layers with their set-ups, lamps, backings.

Removing is a change, so that it can be undone.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from django.db.models import Max

from jungoptic.app.base.edits import Writing
from jungoptic.app.kit.models import Lamp, RecordingMode
from jungoptic.app.kit.reading import lenses_for
from jungoptic.app.shots.camera import SETTING_FIELDS
from jungoptic.app.shots.camera_kept import CameraKept
from jungoptic.app.shots.edit import (
    LAYER_FIELDS,
    order_by_distance,
    refuse_strange_layer,
    refuse_strange_pass,
)
from jungoptic.app.shots.models import Layer, Line, PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.app.shots.records import plain
from jungoptic.core import light
from jungoptic.core import match as core
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.kit import FilmedFrame, cropped_mm
from jungoptic.core.match import BoardLine
from jungoptic.core.vocabulary import PICTURES

_SETTINGS_OF_A_NEW_HERO = {
    "f_number": 8.0,
    "focus_distance_m": 5.0,
    "distance_m": 5.0,
    "lens_height_m": 1.6,
    "iso": 400.0,
    "illuminance_lx": 1920.0,
}


def add_layer(write: Writing, fields: Mapping[str, Any], *, like_set_up: int | None, own_set_up: bool) -> int:
    """A new layer, its place by its distance. Filmed ones get a set-up: that of ``like_set_up``, or one of
    their own copied from it.

    The first layer of a shot is its hero. Returns the layer's id.
    """
    unknown = [name for name in fields if name not in LAYER_FIELDS or name == "removed"]
    if unknown:
        raise InputError(*(FieldProblem(name, f"A layer has no field called “{name}”.") for name in unknown))
    known = {name: value for name, value in fields.items() if name in core.Layer.model_fields}
    record: core.Layer = core.Layer.read({"near_m": 5.0, "name": "New layer", **known})
    shot = Shot.objects.select_related("production").get(pk=write.of_shot)
    first = not shot.layers.filter(is_hero=True).exists()
    set_up = _set_up_for(shot, record, like_set_up, own_set_up or first)
    last = shot.layers.aggregate(most=Max("place"))["most"]
    values = {name: getattr(record, name) for name in core.Layer.model_fields if name != "parts"}
    with CameraKept(shot):
        layer = Layer.objects.create(
            **{name: plain(value) for name, value in values.items()},
            shot=shot,
            set_up=set_up,
            is_hero=first,
            place=0 if last is None else last + 1,
            note=str(fields.get("note", "")),
            key_colour=str(fields.get("key_colour", "")),
        )
    write.made("layers", layer)
    order_by_distance(shot)
    return layer.pk


def _set_up_for(shot: Shot, record: core.Layer, like: int | None, own: bool) -> SetUp | None:
    if record.kind in PICTURES:
        return None
    source = (
        SetUp.objects.filter(shot=shot, pk=like).first() if like else SetUp.objects.filter(shot=shot).first()
    )
    if like and source is None:
        raise InputError.at("like_set_up", "That set-up is not one of this shot's.")
    if source is None:
        return _new_set_up(shot, record)
    if not own:
        return source
    copied = {name: getattr(source, name) for name in SETTING_FIELDS} | {
        "distance_m": round(record.near_m / record.scale, 4)
    }
    return SetUp.objects.create(
        shot=shot,
        name=f"{record.name}",
        lens=source.lens,
        zoomed_mm=source.zoomed_mm,
        mode=source.mode,
        **copied,
    )


def _cropped_mm(shot: Shot, mode: RecordingMode) -> float | None:
    """What the delivered frame takes of the gate's width where the gate is not high enough for all of it."""
    production = shot.production
    frame = FilmedFrame(
        production.delivery_width_px, production.delivery_height_px, production.frame_rate_fps
    )
    return cropped_mm(mode.record(), frame)


def _new_set_up(shot: Shot, record: core.Layer) -> SetUp:
    production = shot.production
    mode = (
        RecordingMode.objects.filter(camera__production=production, camera__removed=False, removed=False)
        .order_by("camera__name", "-recorded_width_px")
        .first()
    )
    lenses = lenses_for(mode.camera_id, production) if mode else []
    lens = next((one for one in lenses if one.focal_length_mm >= 30), lenses[0] if lenses else None)
    if lens is None or mode is None:
        raise InputError.at(
            "",
            "The kit has no camera with a lens yet, and a set-up needs both: put in your own under Kit, or"
            " begin with one of its starting points.",
        )
    distance = {
        "distance_m": record.near_m / record.scale,
        "focus_distance_m": min(
            max(record.near_m / record.scale, lens.closest_focus_m), lens.farthest_focus_m or math.inf
        ),
    }
    return SetUp.objects.create(
        shot=shot,
        name=record.name,
        lens=lens,
        zoomed_mm=lens.focal_length_mm if lens.longest_mm is not None else None,
        mode=mode,
        capture_fps=min(production.frame_rate_fps, mode.highest_fps),
        extraction_width_mm=_cropped_mm(shot, mode),
        **{**_SETTINGS_OF_A_NEW_HERO, **distance},
    )


def add_lamp(write: Writing, set_up_id: int, fields: Mapping[str, Any], kit_lamp: int | None) -> int:
    """A lamp in the set of a set-up, one of the kit's or a free one. Returns its id."""
    set_up = _owned(write, set_up_id)
    values: dict[str, Any] = {"name": "Lamp", "intensity_cd": 1000.0}
    if kit_lamp is not None:
        lamp = Lamp.objects.filter(production=write.production_id, pk=kit_lamp).first()
        if lamp is None:
            raise InputError.at("kit_lamp", "The kit has no such lamp.")
        values = {
            "name": lamp.name,
            "intensity_cd": lamp.intensity_cd,
            "beam_deg": min(lamp.beam_deg, 178.0),
            "length_m": lamp.length_m,
            "face_m": 0.0 if lamp.length_m else round(lamp.area_m2**0.5, 3),
            "colour_k": min(max(set_up.light_k, lamp.warmest_k), lamp.coolest_k),
        }
    own = dict(fields)
    only_for = own.pop("only_for_id", None)
    refuse_strange_pass(set_up.pk, only_for)
    record = light.PlacedLamp.read({**values, **_near(set_up), **own})
    row = PlacedLamp.objects.create(set_up=set_up, only_for_id=only_for, **record.model_dump())
    write.made("lamps", row)
    return row.pk


def _near(set_up: SetUp) -> dict[str, float]:
    """A first place for a lamp: up to the left of the lens, as far from the subject as the lens is, aimed at
    the subject.
    """
    away = min(max(set_up.distance_m, 0.5), 3.0)
    ground = set_up.ground_height_m
    return {
        "across_m": round(-0.7 * away, 2),
        "height_m": round(ground + 0.8 * away, 2),
        "behind_m": round(-0.6 * away, 2),
        "aim_height_m": round(ground + 0.1 * away, 2),
        "aim_behind_m": 0.0,
    }


def add_backing(write: Writing, set_up_id: int, fields: Mapping[str, Any]) -> int:
    """The sheet behind what a set-up films; one at a time. Returns its id."""
    set_up = _owned(write, set_up_id)
    if set_up.backings.filter(removed=False).exists():
        raise InputError.at("set_up_id", "This set-up has a backing already: change that one.")
    record = light.Backing.read(dict(fields))
    row = PlacedBacking.objects.create(set_up=set_up, **record.model_dump())
    write.made("backings", row)
    return row.pk


def add_line(write: Writing, fields: Mapping[str, Any]) -> int:
    """A line, zone or mark over the board. Returns its id."""
    shot = Shot.objects.get(pk=write.of_shot)
    own = dict(fields)
    layer_id = own.pop("layer_id", None)
    refuse_strange_layer(shot, layer_id)
    record = BoardLine.read(own)
    values = record.model_dump(exclude={"layer"}) | {"points": [list(point) for point in record.points]}
    row = Line.objects.create(shot=shot, layer_id=layer_id, **values)
    write.made("lines", row)
    return row.pk


def _owned(write: Writing, set_up_id: int) -> SetUp:
    set_up = SetUp.objects.filter(shot=write.of_shot, pk=set_up_id).first()
    if set_up is None:
        raise InputError.at("set_up_id", "That set-up is not one of this shot's.")
    return set_up
