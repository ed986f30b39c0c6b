"""What stock and other shots have that could be used again."""

from __future__ import annotations

import math
from dataclasses import asdict
from typing import Any

from jungoptic.app.shots.models import Layer
from jungoptic.app.stock.models import StockItem
from jungoptic.app.stock.schemas import FitOut, ReuseOut
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.breakdown import Footage, fitting_footage, words_of
from jungoptic.core.match import Delivery, SetUp, focal_px

_USABLE = ("stock", "painted", "black_element", "live_element", "live", "clean_plate", "light_pass")


def _footage_of(layer: Layer, delivery: Any) -> Footage:
    """What a layer of another shot offers: by its set-up where it was filmed, by its shot's hero where it is
    a picture.
    """
    set_up = layer.set_up
    record = None
    if set_up is not None:
        record = SetUp.read(set_up.values())
    return Footage(
        f"{layer.name}, {layer.shot.code}",
        words_of(layer.name),
        record.key_azimuth_deg if record else None,
        record.key_elevation_deg if record else None,
        record.lens_height_m - record.ground_height_m if record else None,
        _view_deg(record, delivery) if record else None,
        set_up.capture_fps if set_up else None,
        float(layer.picture_width_px or (set_up.mode.recorded_width_px if set_up else 0)) or None,
        layer.near_m,
    )


def _of_stock(item: StockItem) -> Footage:
    return Footage(
        f"{item.name}, stock",
        words_of(f"{item.name} {item.note}"),
        item.key_azimuth_deg,
        item.key_elevation_deg,
        item.camera_height_m,
        item.view_deg,
        item.fps,
        float(item.width_px) if item.width_px else None,
    )


def reuse(shot_id: int) -> list[ReuseOut]:
    """For every layer that was not filmed yet and is no model: what stock and other shots have of the same
    thing, best first.
    """
    table = BenchTable(shot_to_look_at(shot_id), school="measured", units="metric")
    if table.hero is None:
        return []
    production = table.shot.production
    others = (
        Layer.objects.filter(
            shot__production=production,
            shot__template=False,
            shot__removed=False,
            removed=False,
            kind__in=_USABLE,
        )
        .exclude(shot=table.shot)
        .select_related("shot", "set_up__lens", "set_up__mode")
    )
    library = [_footage_of(layer, table.delivery) for layer in others]
    library += [_of_stock(item) for item in production.stock.filter(removed=False)]
    found = []
    hero = table.hero
    for layer in table.layers:
        record = table.layer_record(layer)
        if layer.is_hero or record.scale != 1 or table.circled(layer) or record.kind not in _USABLE:
            continue
        wanted = Footage(
            record.name,
            words_of(record.name),
            hero.key_azimuth_deg,
            hero.key_elevation_deg,
            hero.lens_height_m - hero.ground_height_m,
            _view_deg(hero, table.delivery),
            table.delivery.frame_rate_fps,
            min(
                _width_in_frame(record.width_m, record.near_m, focal_px(hero, table.delivery)),
                float(table.delivery.width_px),
            ),
            record.near_m,
        )
        fits = fitting_footage(wanted, library)
        if fits:
            found.append(
                ReuseOut(
                    layer_id=layer.pk,
                    layer=layer.name,
                    fits=[
                        FitOut(
                            name=fit.footage.name,
                            verdict=fit.verdict,
                            mirrored=fit.mirrored,
                            unknown=list(fit.unknown),
                            aspects=[asdict(one) for one in fit.aspects],
                        )
                        for fit in fits
                    ],
                )
            )
    return found


def _view_deg(set_up: SetUp, delivery: Delivery) -> float:
    """Angle of view across the delivered frame."""
    return math.degrees(2.0 * math.atan(delivery.width_px / 2.0 / focal_px(set_up, delivery)))


def _width_in_frame(width_m: float, distance_m: float, f_px: float) -> float:
    return width_m * f_px / distance_m
