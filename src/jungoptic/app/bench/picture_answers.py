"""Pictures of layers as they go over the wire: shown, read, and the hero's beside the hero."""

from __future__ import annotations

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.match import Layer as LayerRecord
from jungoptic.core.match import (
    Read,
    Stands,
    frame_in_picture,
    ground_lines,
    hero_fields,
    picture_view_deg,
    same_lens,
)
from jungoptic.core.optics import focal_length_of_view_mm


def reading_of(table: BenchTable, layer: Layer, record: LayerRecord) -> Json:
    """What is drawn on a layer's picture tells of how it was taken, and the ground of it in metres."""
    setup = table.set_up_record(layer) if record.marks and layer.set_up_id is not None else None
    told = record.reading(picture_view_deg(setup) if setup else None)
    size = record.picture_width_px or 0, record.picture_height_px or 0
    return {
        "read": [
            {"field": name, "amount": amount, "within": within}
            for name, (amount, within) in ((name, one.rounded) for name, one in told.read.items())
        ],
        "wants": list(told.wants),
        "horizon_px": told.horizon_px,
        "horizon_within_px": told.horizon_within_px,
        "stands": [one and _stands(one) for one in told.stands],
        "ground": [fields_of(line) for line in ground_lines(told.camera, *size)] if told.camera else [],
    }


def photograph_of(table: BenchTable, layer: Layer, record: LayerRecord) -> Json | None:
    """The hero's photograph beside the hero's lens."""
    hero = table.hero
    if not layer.is_hero or hero is None or record.picture_width_px is None or layer.picture_id is None:
        return None
    own = picture_view_deg(hero)
    view = own if record.taken_view_deg is None else record.taken_view_deg
    return {
        "view_deg": view,
        "lens_view_deg": own,
        "same_lens": same_lens(hero, record),
        "fields": [
            {**fields_of(one), "read": _amount(one.read)}
            for one in hero_fields(hero, table.set_up_record(layer), record.reading(own))
        ],
        "fits_mm": focal_length_of_view_mm(hero.extracted_mm, view, hero.focus_distance_m, hero.focusing),
        "frame_px": frame_in_picture(hero, record, table.delivery),
    }


def _stands(stands: Stands) -> Json:
    """Amounts of a thing on the ground, each as sure as it is."""
    return {name: _amount(getattr(stands, name)) for name in Stands.__slots__}


def _amount(read: Read | None) -> Json | None:
    return dict(zip(("amount", "within"), read.rounded, strict=True)) if read else None


def picture_of(table: BenchTable, layer: Layer) -> Json | None:
    if table.draft.layers.get(layer.pk, {}).get("picture_id", layer.picture_id) is None:
        return None
    shown = layer.picture
    if shown is None:
        return None
    return {name: getattr(shown, name) for name in ("id", "name", "width_px", "height_px")}
