"""Plates and takes stay connected: what could be used again, and what recurs in a place."""

from __future__ import annotations

import math
from dataclasses import asdict
from typing import Any

from django.db import transaction

from jungoptic.app.breakdown.models import StockItem
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.bench import BenchTable, shot_to_look_at
from jungoptic.app.shots.edit import ConflictError
from jungoptic.app.shots.models import Layer, Line, Part, Shot
from jungoptic.core.breakdown.reuse import Footage, suggestions, words_of
from jungoptic.core.cautions import CAUTIONS
from jungoptic.core.errors import InputError
from jungoptic.core.match.measure import focal_px
from jungoptic.core.match.records import Delivery, SetUp

_USABLE = ("stock", "painted", "black_element", "live_element", "live", "clean_plate", "light_pass")


def _footage_of(layer: Layer, delivery: Any) -> Footage:
    """What a layer of another shot offers: by its set-up where it was filmed, by its shot's hero where it is a picture."""
    set_up = layer.set_up
    record = None
    if set_up is not None:
        record = SetUp.read(set_up.values())
    return Footage(
        f"{layer.name}, {layer.shot.code}", words_of(layer.name), record.key_azimuth_deg if record else None, record.key_elevation_deg if record else None,
        record.lens_height_m - record.ground_height_m if record else None, _view_deg(record, delivery) if record else None, set_up.capture_fps if set_up else None,
        float(layer.picture_width_px or (set_up.mode.recorded_width_px if set_up else 0)) or None, layer.near_m,
    )  # fmt: skip


def _of_stock(item: StockItem) -> Footage:
    return Footage(
        f"{item.name}, stock", words_of(f"{item.name} {item.note}"), item.key_azimuth_deg, item.key_elevation_deg, item.camera_height_m, item.view_deg, item.fps,
        float(item.width_px) if item.width_px else None,
    )  # fmt: skip


def reuse(shot_id: int) -> list[dict[str, Any]]:
    """For every layer that was not filmed yet and is no model: what stock and other shots have of the same thing, best first."""
    table = BenchTable(shot_to_look_at(shot_id), school="measured", units="metric")
    if table.hero is None:
        return []
    production = table.shot.production
    others = (
        Layer.objects.filter(shot__production=production, shot__template=False, shot__removed=False, removed=False, kind__in=_USABLE)
        .exclude(shot=table.shot).select_related("shot", "set_up__lens", "set_up__mode")
    )  # fmt: skip
    library = [_footage_of(layer, table.delivery) for layer in others]
    library += [_of_stock(item) for item in production.stock.filter(removed=False)]
    found = []
    hero = table.hero
    for layer in table.layers:
        record = table.layer_record(layer)
        if layer.is_hero or record.scale != 1 or table.circled(layer) or record.kind not in _USABLE:
            continue
        wanted = Footage(
            record.name, words_of(record.name), hero.key_azimuth_deg, hero.key_elevation_deg, hero.lens_height_m - hero.ground_height_m, _view_deg(hero, table.delivery),
            table.delivery.frame_rate_fps, min(_width_in_frame(record.width_m, record.near_m, focal_px(hero, table.delivery)), float(table.delivery.width_px)), record.near_m,
        )  # fmt: skip
        fits = suggestions(wanted, library)
        if fits:
            found.append(
                {
                    "layer_id": layer.pk, "layer": layer.name,
                    "fits": [{"name": fit.footage.name, "verdict": fit.verdict, "mirrored": fit.mirrored, "unknown": list(fit.unknown), "aspects": [asdict(one) for one in fit.aspects]} for fit in fits],
                }
            )  # fmt: skip
    return found


def _view_deg(set_up: SetUp, delivery: Delivery) -> float:
    """Angle of view across the delivered frame."""
    return math.degrees(2.0 * math.atan(delivery.width_px / 2.0 / focal_px(set_up, delivery)))


def _width_in_frame(width_m: float, distance_m: float, f_px: float) -> float:
    return width_m * f_px / distance_m


def continuity(production_id: int) -> list[dict[str, Any]]:
    """By place: what recurs there, and which of its shots carries it (in a layer, a part, a mark on the board, or said)."""
    places = Place.objects.filter(production=production_id, removed=False)
    shots = list(Shot.in_cut.filter(production=production_id, place__isnull=False))
    names: dict[int, set[str]] = {shot.pk: {one.casefold() for one in shot.carries} for shot in shots}
    rows = [
        *Layer.objects.filter(shot__in=shots, removed=False).values_list("shot_id", "name"),
        *Part.objects.filter(layer__shot__in=shots, layer__removed=False).values_list("layer__shot_id", "name"),
        *Line.objects.filter(shot__in=shots, removed=False, kind="recurring").values_list("shot_id", "thing"),
    ]
    for shot_id, name in rows:
        names[shot_id].add(name.casefold())
    return [
        {
            "id": place.pk, "version": place.version, "name": place.name, "recurring": list(place.recurring), "cautions": list(place.cautions),
            "shots": [
                {"id": shot.pk, "code": shot.code, "title": shot.title, "has": [thing.casefold() in names[shot.pk] for thing in place.recurring], "carries": list(shot.carries)}
                for shot in shots
                if shot.place_id == place.pk
            ],
        }
        for place in places
    ]  # fmt: skip


def save_place(production_id: int, place_id: int | None, version: int, name: str, recurring: list[str], cautions: list[str]) -> Place:
    """A new place, or what recurs in one and which cautions it raises. Refuses what cannot be, and what the writer has not seen."""
    name = name.strip()
    if not name or len(name) > 80:
        raise InputError.at("name", "A place needs a name of up to 80 characters.")
    if Place.objects.filter(production=production_id, name=name, removed=False).exclude(pk=place_id or 0).exists():
        raise InputError.at("name", f"There is a place called “{name}” already.")
    unknown = [one for one in cautions if one not in CAUTIONS]
    if unknown:
        raise InputError.at("cautions", f"There is no caution called {unknown[0]!r}.")
    things = list(dict.fromkeys(one.strip() for one in recurring if one.strip()))
    if any(len(one) > 80 for one in things):
        raise InputError.at("recurring", "What recurs is named in up to 80 characters.")
    with transaction.atomic():
        rows = Place.objects.select_for_update().filter(production=production_id, pk=place_id or 0)
        place = rows.first() if place_id else Place(production_id=production_id, version=0)
        if place is None:
            raise InputError.at("place", "The production has no such place.")
        if place_id and place.version != version:
            raise ConflictError("place", place.name, "Somebody", [])
        place.name, place.recurring, place.cautions = name, things, cautions
        place.version += 1
        place.save()
    return place


def add_stock(production_id: int, values: dict[str, Any]) -> StockItem:
    """Something that was filmed already. Numbers that nobody knows stay empty."""
    name = str(values.get("name", "")).strip()
    if not name or len(name) > 120:
        raise InputError.at("name", "A stock element needs a name of up to 120 characters.")
    if StockItem.objects.filter(production=production_id, name=name, removed=False).exists():
        raise InputError.at("name", f"There is a stock element called “{name}” already.")
    limits = {
        "width_px": (1, 100000), "fps": (0.01, 100000), "view_deg": (0.1, 179), "camera_height_m": (-100, 10000), "key_azimuth_deg": (-180, 180), "key_elevation_deg": (-90, 90),
    }  # fmt: skip
    for field, (least, most) in limits.items():
        value = values.get(field)
        if value is not None and not least <= value <= most:
            raise InputError.at(field, f"It must be between {least:g} and {most:g}; {value:g} was given.")
    return StockItem.objects.create(
        production_id=production_id, name=name, note=str(values.get("note", "")), **{field: values.get(field) for field in limits}
    )
