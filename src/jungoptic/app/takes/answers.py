"""The Log's set-up cards and takes, in the shapes that go over the wire."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from typing import Any

from django.db.models import Window
from django.db.models.functions import RowNumber

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.takes.log import judge_take
from jungoptic.app.takes.models import Judging, Take
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.kit.records import Kit
from jungoptic.core.match.differences import differences, settings_in_words
from jungoptic.core.match.records import SetUp
from jungoptic.core.match.tolerances import School
from jungoptic.core.plan.dials import Dial, dials
from jungoptic.core.wording import Units, Words, amount_text

PAGE = 10


def takes_of(layers: Iterable[int], *, before: int | None = None) -> dict[int, list[Take]]:
    """The newest takes of each layer, newest first, one more than a page; each with the verdicts that were given last."""
    rows = Take.objects.filter(layer__in=list(layers)).defer("facts").select_related("layer", "mode", "recorded_by")
    if before is not None:
        rows = rows.filter(number__lt=before)
    newest = Window(RowNumber(), partition_by="layer", order_by="-number")
    found: dict[int, list[Take]] = defaultdict(list)
    for take in rows.annotate(nth=newest).filter(nth__lte=PAGE + 1).order_by("-number"):
        found[take.layer_id].append(take)
    return found


def last_judgings(takes: Iterable[Take]) -> dict[int, Judging]:
    """The judging that stands, by take."""
    rows = Judging.objects.filter(take__in=[take.pk for take in takes]).order_by("take_id", "-pk").distinct("take_id")
    return {one.take_id: one for one in rows.select_related("against").prefetch_related("verdicts")}


def page_of(takes: list[Take], kit: Kit, units: Units, school: School) -> Json:
    """A page of takes of one layer, and whether there are earlier ones."""
    shown = takes[:PAGE]
    judgings = last_judgings(shown)
    return {"takes": [take_answer(one, judgings[one.pk], kit, units, school) for one in shown], "more": len(takes) > PAGE}


def take_answer(take: Take, judging: Judging, kit: Kit, units: Units, school: School) -> Json:
    """A take as it was recorded, with the verdicts as they were given; nothing of it is worked out anew."""
    planned, filmed = SetUp.read(take.planned), take.fact()
    assert filmed is not None
    covered = school == "covered"
    given = [(one, one.covered_verdict if covered else one.verdict) for one in judging.verdicts.all()]
    counts = Counter(verdict for one, verdict in given if one.counts)
    return {
        "id": take.pk, "layer_id": take.layer_id, "layer_name": take.layer.name, "number": take.number, "slate": take.slate, "circled": take.circled,
        "note": take.note, "recorded_at": take.recorded_at, "recorded_by": take.recorded_by.shown_name, "version": take.version, "filled": take.filled,
        "judged_at": judging.at, "against": f"hero take {judging.against.number}" if judging.against else "the plan", **_counted(counts),
        "differences": [fields_of(one) for one in differences(planned, filmed, Words(units), kit)],
        "items": [
            {
                "item": one.item, "label": one.label, "amount_text": amount_text(one.amount), "unit": one.unit, "verdict": verdict,
                "where": getattr(one, f"where_{units}"), "sentence": getattr(one, f"sentence_{units}"),
            }
            for one, verdict in given
        ],
    }  # fmt: skip


def _counted(counts: Mapping[str, int]) -> Json:
    words = ("shows", "tight", "holds")
    return {"verdict": next((word for word in words[:2] if counts.get(word)), "holds"), **{word: counts.get(word, 0) for word in words}}


def judged_now(table: BenchTable, take: Take) -> Json:
    """The same take against the shot, the kit and the limits as they stand now."""
    judged = judge_take(table, take)
    against = "the plan" if judged.layer.is_hero or table.hero_take is None else f"hero take {table.hero_take.number}"
    return {
        "take_id": take.pk, "against": against, **_counted({word: judged.count(word) for word in ("shows", "tight", "holds")}),
        "items": [
            {"item": i.item, "label": i.label, "where": i.where, "amount_text": amount_text(i.amount), "unit": i.unit, "verdict": i.verdict, "sentence": i.sentence}
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


def log_answer(table: BenchTable, role: str, shown: int) -> Json:
    """Everything that the Log shows at the camera."""
    previous, following = table.neighbours
    layers = []
    everything = takes_of(layer.pk for layer in table.layers if layer.set_up)
    for judged in table.judged:
        layer = judged.layer
        if layer.set_up is None or judged.match.setup is None:
            continue
        kit = table.kit(layer.set_up)
        plan = table.judge(layer)
        turned = dials(plan.match, plan.items, (), kit, table.words, table.focus_band_m(plan))
        takes = everything.get(layer.pk, [])
        layers.append(
            {
                "id": layer.pk, "name": layer.name, "kind": layer.kind, "is_hero": layer.is_hero, "verdict": plan.verdict,
                "shows": plan.count("shows"), "tight": plan.count("tight"), "holds": plan.count("holds"),
                "next_take": takes[0].number + 1 if takes else 1,
                "settings": settings(SetUp.read(layer.set_up.values()), turned, kit, table.words),
                **page_of(takes, kit, table.words.units, table.school),
            }
        )  # fmt: skip
    return {
        "shot_id": table.shot.pk, "code": table.shot.code, "title": table.shot.title, "production_id": table.shot.production_id, "role": role, "shown": shown,
        "previous_id": previous, "next_id": following, "hero_basis": table.hero_basis, "layers": sorted(layers, key=lambda line: not line["is_hero"]),
    }  # fmt: skip
