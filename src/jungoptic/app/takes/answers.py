"""The Log's set-up cards and takes, in the shapes that go over the wire."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.log import judge_take
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.kit.records import Kit
from jungoptic.core.match.differences import Difference, differences, settings_in_words
from jungoptic.core.match.records import SetUp
from jungoptic.core.plan.dials import Dial, dials
from jungoptic.core.wording import Words, amount_text


def difference(one: Difference) -> Json:
    return fields_of(one)


def take_answer(table: BenchTable, layer: Layer, one: Take) -> Json:
    """A take with its verdict against the reference as it stands now, and what differs from the plan."""
    assert layer.set_up is not None
    judged = judge_take(table, one)
    kit = table.kit(layer.set_up)
    plan = SetUp.read(layer.set_up.values())
    shot = SetUp.read(one.values())
    against = "the plan" if layer.is_hero or table.hero_take is None else f"hero take {table.hero_take.number}"
    return {
        "id": one.pk, "layer_id": layer.pk, "layer_name": layer.name, "number": one.number, "slate": one.slate, "circled": one.circled, "note": one.note,
        "recorded_at": one.recorded_at, "recorded_by": one.recorded_by.shown_name, "version": one.version, "verdict": judged.verdict,
        "shows": judged.count("shows"), "tight": judged.count("tight"), "holds": judged.count("holds"), "against": against,
        "differences": [difference(d) for d in differences(plan, shot, table.words, kit)],
        "items": [
            {"item": i.item, "label": i.label, "where": i.where, "amount_text": amount_text(i.amount), "unit": i.unit, "ladder": i.ladder, "verdict": i.verdict, "sentence": i.sentence}
            for i in judged.items
        ],
    }  # fmt: skip


_QUANTITIES = {
    "focus_distance_m": "length",
    "distance_m": "length",
    "lens_height_m": "length",
    "ground_height_m": "length",
    "illuminance_lx": "light",
}


def settings(plan: SetUp, turned: Iterable[Dial], kit: Kit, words: Words) -> list[Json]:
    """The set-up card: every setting in words, with what can be chosen at the camera."""
    by_field = {dial.field: dial for dial in turned}
    lines = []
    for field, label, text in settings_in_words(plan, words, kit):
        dial = by_field.get(field)
        choices: list[Any] = [mark for mark in dial.marks if mark.can] if dial and dial.steps else []
        value = getattr(plan, field)
        unit = {"focal_length_mm": "mm", "capture_fps": "frames/s", "shutter_angle_deg": "°", "tilt_deg": "°", "roll_deg": "°", "key_azimuth_deg": "°",
                "key_elevation_deg": "°", "light_k": "K", "white_balance_k": "K", "nd_stops": "stops", "model_speed_m_s": "m/s"}.get(field, "")  # fmt: skip
        if field == "recorded_width_px":
            choices = [{"value": mode.recorded_width_px, "label": mode.name, "major": True, "can": True} for mode in kit.camera.modes]
        if value is not None and not math.isfinite(value):
            value = None
        lines.append(
            {
                "field": field,
                "label": label,
                "text": text,
                "value": value,
                "unit": unit,
                "quantity": _QUANTITIES.get(field, "number"),
                "choices": choices,
            }
        )
    return lines


def log_answer(table: BenchTable, role: str) -> Json:
    """Everything that the Log shows at the camera."""
    previous, following = table.neighbours
    layers = []
    everything = {
        layer.pk: list(layer.takes.select_related("lens", "mode__camera", "recorded_by").order_by("-number"))
        for layer in table.layers
        if layer.set_up
    }
    for judged in table.judged:
        layer = judged.layer
        if layer.set_up is None or judged.match.setup is None:
            continue
        kit = table.kit(layer.set_up)
        plan = table.judge(layer)
        turned = dials(plan.match, plan.items, (), kit, table.words, table.focus_band_m(plan))
        takes = everything[layer.pk]
        layers.append(
            {
                "id": layer.pk, "name": layer.name, "kind": layer.kind, "is_hero": layer.is_hero, "verdict": plan.verdict,
                "shows": plan.count("shows"), "tight": plan.count("tight"), "holds": plan.count("holds"),
                "next_take": takes[0].number + 1 if takes else 1,
                "settings": settings(SetUp.read(layer.set_up.values()), turned, kit, table.words),
                "takes": [take_answer(table, layer, one) for one in takes],
            }
        )  # fmt: skip
    return {
        "shot_id": table.shot.pk, "code": table.shot.code, "title": table.shot.title, "production_id": table.shot.production_id, "role": role,
        "previous_id": previous, "next_id": following, "hero_basis": table.hero_basis, "layers": sorted(layers, key=lambda line: not line["is_hero"]),
    }  # fmt: skip
