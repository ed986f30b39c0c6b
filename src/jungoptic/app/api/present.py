"""Core's answers put into the shapes that go over the wire."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Iterable
from itertools import islice
from typing import Any

import orjson

from jungoptic.app.breakdown.costing import paint_out_hours
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.bench import BenchTable, Judged, shot_to_look_at, take_count
from jungoptic.app.shots.edit import SET_UP_FIELDS
from jungoptic.app.shots.models import Acceptance, Layer
from jungoptic.app.takes.log import judge_take
from jungoptic.app.takes.models import Take
from jungoptic.core.handbook.frames import hand_matte_hours
from jungoptic.core.handbook.place import tilt_for_ground_plane
from jungoptic.core.kit.records import Kit
from jungoptic.core.match.board import ITEM_OF
from jungoptic.core.match.compare import Judgement
from jungoptic.core.match.cut import across_cut
from jungoptic.core.match.differences import Difference, differences, settings_in_words
from jungoptic.core.match.measure import Match
from jungoptic.core.match.records import Layer as LayerRecord
from jungoptic.core.match.records import SetUp
from jungoptic.core.match.saying import Fix
from jungoptic.core.match.tolerances import ITEMS
from jungoptic.core.motion.move import fastest_px_per_frame
from jungoptic.core.optics import focus
from jungoptic.core.plan.dials import Dial, dials
from jungoptic.core.plan.framing import KEY_EVERY, MINUTES_PER_KEY, share_inside
from jungoptic.core.plan.placing import Placing, place
from jungoptic.core.plan.scales import ScaleRow
from jungoptic.core.plan.solve import Answer
from jungoptic.core.sources import source
from jungoptic.core.stage.drawings import Outline, horizon_px, outlines, standing
from jungoptic.core.stage.sheet import lamps_drawn, sheet_in_set, sheet_seen
from jungoptic.core.wording import Words, number

Json = dict[str, Any]


def fields_of(record: Any) -> Json:
    """A slotted record's fields by name, one level deep: the writer of JSON goes on from there by itself."""
    return {name: getattr(record, name) for name in record.__slots__}


def jsonable(body: Any) -> Any:
    """The body as plain JSON values, records inside it included."""
    return orjson.loads(orjson.dumps(body, option=orjson.OPT_NON_STR_KEYS))


def amount_text(amount: float) -> str:
    """An amount as it stands on the ladder: two figures under ten, whole numbers above; under a hundredth is nothing."""
    if amount < 0.01:
        return "0"
    return number(amount, 2) if amount < 9.95 else f"{amount:.0f}"


_FROM_NEAR_END = ("behind_m", "aim_behind_m")


def _from_near_end(changes: Json, behind_m: float) -> Json:
    """Places counted from this layer's near end, counted from the set-up's nearest layer instead."""
    return {name: round(value + behind_m, 5) if name in _FROM_NEAR_END else value for name, value in changes.items()}


def _fix(fix: Fix, table: BenchTable, layer: Layer, behind_m: float) -> Json:
    """A fix as the changes that make it, by kind of row and id."""
    changes: dict[str, dict[int, Json]] = {}
    new_layer: Json | None = None
    if fix.target == "set_up" and layer.set_up_id:
        own = dict(fix.changes)
        if "distance_m" in own:
            own["distance_m"] = round(own["distance_m"] - behind_m, 5)
        changes["set_ups"] = {layer.set_up_id: own}
    elif fix.target == "layer":
        changes["layers"] = {layer.pk: fix.changes}
    elif fix.target == "shot":
        changes["shot"] = {table.shot.pk: fix.changes}
    elif fix.target == "backing" and layer.set_up_id:
        row = table.backing_of(layer.set_up_id)
        changes["backings"] = {row.pk: _from_near_end(fix.changes, behind_m)} if row else {}
    elif fix.target == "lamps" and layer.set_up_id:
        rows = table.lamps_of(layer.set_up_id)
        changes["lamps"] = {rows[at].pk: _from_near_end(values, behind_m) for at, values in fix.changes["lamps"].items()}
    elif fix.target == "new_layer":
        new_layer = {"fields": fix.changes, "like_set_up": layer.set_up_id}
    return {"label": fix.label, "changes": changes, "new_layer": new_layer}


def acceptance(one: Acceptance | None) -> Json | None:
    return {"reason": one.reason, "by": one.person.shown_name, "at": one.at} if one else None


def item(one: Judgement, table: BenchTable, layer: Layer, accepted: Acceptance | None, *, behind_m: float = 0.0, with_values: bool = False) -> Json:
    return {
        "item": one.item, "label": one.label, "where": one.where, "amount": one.amount, "amount_text": amount_text(one.amount), "unit": one.unit,
        "holds": one.holds, "tight": one.tight, "ladder": one.ladder, "verdict": one.verdict, "sentence": one.sentence, "formula": one.formula,
        "covered_by": one.covered_by, "sources": list(one.sources), "fixes": [_fix(fix, table, layer, behind_m) for fix in one.fixes],
        "informs": one.informs, "other_verdict": one.other_verdict, "other_holds": one.other_holds, "accepted": acceptance(accepted),
        "values": list(one.values()) if with_values else None,
    }  # fmt: skip


def source_out(key: str) -> Json:
    found = source(key)
    return {"key": key, "kind": found.kind, "title": found.title, "note": found.note, "trust": found.trust}


def _layer(table: BenchTable, judged: Judged, ruler_scale: float, selected: bool) -> Json:
    layer, record = judged.layer, judged.match.layer
    behind = table.behind_m(layer)
    circled = table.circled(layer)
    drawn = list(outlines(judged.match, table.moment))
    move = table.delivery.move
    return {
        "id": layer.pk, "name": record.name, "kind": record.kind, "combine": record.combine, "key_colour": table.draft.layers.get(layer.pk, {}).get("key_colour", layer.key_colour), "is_hero": layer.is_hero,
        "scale": record.scale, "near_m": record.near_m, "depth_m": record.depth_m, "resize": record.resize, "ruler_m": (record.near_m + (record.depth_m if record.combine == "base" else 0.0)) / ruler_scale,
        "values": {name: getattr(record, name) for name in FORM_FIELDS}, "accepted": len(judged.accepted),
        "move_px": fastest_px_per_frame(move, judged.match.f_hero_px, record.near_m, table.delivery.width_px / 2), **_matte(table, record, drawn),
        "note": layer.note, "version": layer.version, "set_up_id": layer.set_up_id,
        "shows": judged.count("shows"), "tight": judged.count("tight"), "holds": judged.count("holds"), "verdict": judged.verdict,
        "takes": take_count(layer), "basis": f"take {judged.take.number}" if judged.take else "plan", "circled_take": circled.number if circled else None,
        "items": [item(one, table, layer, judged.accepted.get(one.item), behind_m=behind, with_values=selected) for one in judged.items],
        "outlines": drawn,
    }  # fmt: skip


FORM_FIELDS = tuple(name for name in LayerRecord.model_fields if name not in ("parts", "name", "scale", "near_m", "depth_m", "resize"))
_BY_HAND = frozenset({"hand_matte", "difference", "split"})


def _matte(table: BenchTable, record: LayerRecord, drawn: list[Outline]) -> Json:
    """Hours of hand mattes for the whole layer, and what is left of them when only what is delivered is cut."""
    points = [point for outline in drawn for point in outline.points]
    if not points or record.combine not in _BY_HAND:
        return {"matte_hours": None, "matte_hours_needed": None}
    xs, ys = [point[0] for point in points], [point[1] for point in points]
    share = share_inside((min(xs), min(ys), max(xs), max(ys)), table.framing.needed_box)
    hours = hand_matte_hours(frames=table.plan.length_frames, key_every=KEY_EVERY, minutes_per_key=MINUTES_PER_KEY, shapes=1).hours
    return {"matte_hours": hours, "matte_hours_needed": hours * share}


def _own_distance(dial: Dial, behind_m: float) -> Dial:
    """The distance barrel turns the set-up's own distance, to its nearest layer."""
    if dial.field != "distance_m" or not behind_m:
        return dial
    moved = {name: value - behind_m for name in ("value", "hero", "wants", "holds_low", "holds_high") if (value := getattr(dial, name)) is not None}
    return dataclasses.replace(dial, **moved)


_PLACED = ("distance_m", "lens_height_m", "tilt_deg")


def _selected(table: BenchTable, judged: Judged) -> Json | None:
    layer, match, words = judged.layer, judged.match, table.words
    if match.setup is None or layer.set_up is None:
        return None
    band = table.focus_band_m(judged)
    kit = table.kit(judged.take or layer.set_up)
    placings = place(match.hero, match.layer, match.setup, match.delivery, school=table.school, tolerances=table.tolerances, only=_PLACED)
    stands = standing(match, band)
    behind = table.behind_m(layer)
    turned = [_own_distance(dial, behind) for dial in dials(match, judged.items, placings, kit, words, band)]
    by_dial = {placing.dial: placing for placing in placings}
    return {
        "layer_id": layer.pk,
        "set_up_id": layer.set_up.pk,
        "set_up_name": layer.set_up.name,
        "set_up_version": layer.set_up.version,
        "dials": list(turned),
        "sheet": sheet_seen(match, table.set_up_record(layer, judged.take)),
        "focus": _focus(match, layer, words),
        "placings": [
            {"dial": one.dial, "unit": one.unit, "minus": one.minus, "plus": one.plus, "item": one.item, "text": _placing_text(one, words)}
            for one in placings
        ],
        "standing": {
            **fields_of(stands),
            "wants_text": _height_wish(stands.wanted_height_m, by_dial["lens_height_m"].plus, words),
            "band_text": _band_text(stands.band_near_m, stands.band_far_m, words),
            "lamps": list(lamps_drawn(match, table.set_up_record(layer, judged.take), words.light)),
            "lamp_ids": [lamp.pk for lamp in table.lamps_of(layer.set_up.pk)],
            "sheet": sheet_in_set(table.set_up_record(layer, judged.take)),
            "travel_m": match.travel_m if table.delivery.move.kind in ("slide", "push") else 0.0,
            "move_kind": table.delivery.move.kind,
            "key_azimuth_deg": match.setup.key_azimuth_deg,
            "key_elevation_deg": match.setup.key_elevation_deg,
            "caption": f"{'model' if match.layer.scale != 1 else 'full-size'} {'metres' if words.units == 'metric' else 'feet'} · 1:{match.layer.scale:g} · {kit.camera.name}",
        },
    }


def _placing_text(one: Placing, words: Words) -> str:
    """± in words: a millimetre, a tenth of a degree, or that it is beyond Holds already."""
    if one.minus is None or one.plus is None:
        return "beyond it already"

    def say(value: float) -> str:
        return words.length(value) if one.unit == "m" else f"{number(value, 2)}°"

    if max(one.minus, one.plus) >= 100:
        return "any"
    return (
        f"± {say(min(one.minus, one.plus))}"
        if abs(one.minus - one.plus) < 0.05 * max(one.minus, one.plus)
        else f"− {say(one.minus)} … + {say(one.plus)}"
    )


_MOST_PASSES = 12


def _far_text(metres: float | None, words: Words) -> str:
    return "infinity" if metres is None or not math.isfinite(metres) else words.length(metres)


def _focus(match: Match, layer: Layer, words: Words) -> Json:
    """Focus passes that hold the layer's whole depth at this stop, and the lens tilt that lays focus on its ground."""
    setup = match.setup
    assert setup is not None
    circle = ITEMS["focus_near"].tolerance.holds * setup.extracted_mm / match.delivery.width_px
    passes = []
    if match.far_m > setup.distance_m:
        walk = focus.walk_passes(setup.focal_length_mm, setup.f_number, circle, setup.distance_m, min(match.far_m, 1e4))
        passes = [
            {"text": f"{_far_text(at, words)}: {words.length(near)} to {_far_text(far, words)}", "focus_m": at if math.isfinite(at) else None}
            for at, near, far in islice(walk, _MOST_PASSES + 1)
        ]
    above = setup.lens_height_m - setup.ground_height_m
    tilt = (
        f"{number(tilt_for_ground_plane(focal_length_mm=setup.focal_length_mm, lens_height_m=above).tilt_deg, 3)}°"
        if 1000 * above > setup.focal_length_mm
        else ""
    )
    return {"passes": passes[:_MOST_PASSES], "more": len(passes) > _MOST_PASSES, "tilt_text": tilt}


def _height_wish(wanted_m: float, plus_m: float | None, words: Words) -> str:
    margin = f" ± {words.length(plus_m)}" if plus_m is not None and plus_m < 100 else ""
    return f"lens wants {words.length(wanted_m)}{margin}"


def _band_text(near_m: float, far_m: float | None, words: Words) -> str:
    if far_m is not None and far_m - near_m < 1e-6:
        return "holds focus nowhere at this stop"
    return f"holds focus from {words.length(near_m)} on" if far_m is None else f"holds focus {words.length(near_m)} to {words.length(far_m)}"


def aspect(width: int, height: int) -> str:
    return f"{width / height:.2f}:1"


def bench(table: BenchTable, role: str, selected: int | None) -> Json:
    """Everything that the Bench draws, from one reading of the shot."""
    judged = table.judged
    chosen = next((one for one in judged if one.layer.pk == selected), None) or _first_to_look_at(judged)
    previous, following = table.neighbours
    ruler = chosen.match.layer.scale if chosen else 1.0
    shot, production = table.shot, table.shot.production
    cut_box = table.framing.cut_box
    return {
        "revision": production.revision, "frame": table.frame, "after_finish": table.after_finish, "finish": _finish(production), "shot": {"values": {**table.values, "place": shot.place.name if shot.place else "", "recurring": list(table.plan.recurring)}, "move_unit": table.move.unit, "moves": not table.move.still},
        "needed_box": list(table.framing.needed_box), "cut_box": list(cut_box) if cut_box else None, "across_cut": across(table),
        "shot_id": shot.pk, "code": shot.code, "title": shot.title, "description": shot.description, "previous_id": previous, "next_id": following,
        "production_id": production.pk, "production_title": production.title, "role": role, "version": shot.version,
        "school": table.school, "units": table.words.units, "basis": table.basis, "any_takes": any(table.circled(layer) for layer in table.layers),
        "delivery_width_px": table.delivery.width_px, "delivery_height_px": table.delivery.height_px,
        "aspect": aspect(table.delivery.width_px, table.delivery.height_px),
        "horizon_px": horizon_px(table.hero, table.delivery, table.moment) if table.hero else table.delivery.height_px / 2,
        "horizon_text": f"horizon {table.words.length(table.hero.lens_height_m - table.hero.ground_height_m)}" if table.hero else "",
        "hero_layer_id": table.hero_layer.pk if table.hero_layer else None, "hero_basis": table.hero_basis,
        "shows": _count(judged, "shows"), "tight": _count(judged, "tight"), "holds": _count(judged, "holds"),
        "accepted": sum(len(one.accepted) for one in judged),
        "layers": [_layer(table, one, ruler, one is chosen) for one in judged],
        "set_ups": _set_ups(table), "lines": _lines(table),
        "selected": _selected(table, chosen) if chosen else None,
    }  # fmt: skip


def _count(judged: list[Judged], verdict: str) -> int:
    """Items with that verdict over all layers; of the hero only what needs nothing to be held against."""
    return sum(one.count(verdict) for one in judged)


def _finish(production: Production) -> str:
    """What is done at the end and how it is judged, in a few words; "" for nothing."""
    said = ["black and white"] if production.black_and_white else []
    said += [f"softened {number(production.soften_px, 2)} px"] if production.soften_px else []
    said += ["grain added"] if production.grain_added else []
    said += ["shows its models"] if production.shows_models else []
    return ", ".join(said)


def across(table: BenchTable) -> list[Json]:
    """The hero against its neighbours' heroes, across both cuts."""
    if table.hero is None or table.shot.place_id is None:
        return []
    found = []
    for pk, where in zip(table.neighbours, ("before", "after"), strict=True):
        if pk is None:
            continue
        other = shot_to_look_at(pk)
        beside = BenchTable(other, school=table.school, units=table.words.units, basis=table.basis)
        if beside.hero is None or other.place_id != table.shot.place_id:
            continue
        directions = (str(table.values["screen_direction"]), other.screen_direction)
        found.append(
            {
                "shot_id": pk,
                "code": other.code,
                "where": where,
                "items": [fields_of(one) for one in across_cut(table.hero, beside.hero, other.code, directions, table.words)],
            }
        )
    return found


def _set_ups(table: BenchTable) -> list[Json]:
    """Every set-up as it is saved, with its lamps and its backing."""
    used = {layer.set_up_id for layer in table.layers if layer.set_up_id}
    found = []
    for pk, one in table.set_ups.items():
        if pk not in used:
            continue
        row = table.backing_of(pk)
        found.append(
            {
                "id": pk, "name": one.name, "version": one.version, "values": {k: v for k, v in one.values().items() if k in SET_UP_FIELDS},
                "lamps": [{"id": lamp.pk, "version": lamp.version, "values": lamp.values()} for lamp in table.lamps_of(pk)],
                "backing": {"id": row.pk, "version": row.version, "values": row.values()} if row else None,
            }
        )  # fmt: skip
    return found


def _lines(table: BenchTable) -> list[Json]:
    """The lines of the board as they are tried or saved; a paint-out with its hours, the others with the worst that their check says."""
    found = []
    worst: dict[str, Any] = {}
    for one in table.judged:
        for item in one.items:
            if item.item in ITEM_OF.values() and (item.item not in worst or item.ladder > worst[item.item].ladder):
                worst[item.item] = item
    for row, record in zip(table.lines, table.plan.lines, strict=True):
        says = worst.get(ITEM_OF.get(record.kind, ""))
        hours = paint_out_hours(table, record)
        values = row.values() | dict(table.draft.lines.get(row.pk, {}))
        values.pop("removed", None)
        found.append(
            {
                "id": row.pk, "version": row.version, "kind": row.kind, "values": values, "hours": hours.hours if hours else None, "hours_text": hours.formula if hours else "",
                "verdict": says.verdict if says else None, "says": says.where if says else "",
            }
        )  # fmt: skip
    return found


def _first_to_look_at(judged: list[Judged]) -> Judged | None:
    """The layer with the worst item; the hero when all are equal."""
    filmed = [one for one in judged if one.match.setup is not None]
    return max(filmed, key=lambda one: (not one.layer.is_hero, one.worst.ladder if one.worst else 0.0), default=None)


def answer(found: Answer, behind_m: float) -> Json:
    set_up = dict(found.set_up)
    if "distance_m" in set_up:
        set_up["distance_m"] = round(set_up["distance_m"] - behind_m, 5)
    return {
        "set_up": {name: value for name, value in set_up.items() if name in SET_UP_FIELDS}, "layer": dict(found.layer), "verdict": found.verdict, "shows": found.shows, "tight": found.tight, "holds": found.holds,
        "changes": list(found.changes), "sentences": list(found.sentences),
    }  # fmt: skip


def scale_row(row: ScaleRow, words: Words) -> Json:
    """One scale of the table, in words."""
    light = words.light(row.light_wanted_lx) + (f" of {words.light(row.light_available_lx)}" if row.light_available_lx else "")
    return {
        "scale": row.scale, "size": " × ".join(words.length(side) for side in (row.width_m, row.depth_m, row.height_m) if side > 0), "distance": words.length(row.distance_m),
        "lens_height": words.length(row.lens_height_m), "stop_wanted": row.stop_wanted, "rate_wanted_fps": row.rate_wanted_fps,
        "finest": f"{number(row.finest_mm, 2)} mm", "verdict": row.verdict, "shows": row.shows, "tight": row.tight, "worst": row.worst, "light": light, "fits": row.fits,
        "against": list(row.against),
    }  # fmt: skip


def difference(one: Difference) -> Json:
    return fields_of(one)


def take(table: BenchTable, layer: Layer, one: Take) -> Json:
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


def log(table: BenchTable, role: str) -> Json:
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
                "takes": [take(table, layer, one) for one in takes],
            }
        )  # fmt: skip
    return {
        "shot_id": table.shot.pk, "code": table.shot.code, "title": table.shot.title, "production_id": table.shot.production_id, "role": role,
        "previous_id": previous, "next_id": following, "hero_basis": table.hero_basis, "layers": sorted(layers, key=lambda line: not line["is_hero"]),
    }  # fmt: skip
