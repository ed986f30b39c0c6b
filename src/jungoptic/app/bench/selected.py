"""The layer that is looked at: its barrels, drawing, placing and focus."""

from __future__ import annotations

import dataclasses
import math
from itertools import islice

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable, Judged
from jungoptic.core.handbook.place import tilt_for_ground_plane
from jungoptic.core.match.measure import Match
from jungoptic.core.match.tolerances import ITEMS
from jungoptic.core.optics import focus
from jungoptic.core.plan.dials import Dial, dials
from jungoptic.core.plan.placing import Placing, place
from jungoptic.core.stage.drawings import standing
from jungoptic.core.stage.sheet import lamps_drawn, sheet_in_set, sheet_seen
from jungoptic.core.wording import Words, number


def _own_distance(dial: Dial, behind_m: float) -> Dial:
    """The distance barrel turns the set-up's own distance, to its nearest layer."""
    if dial.field != "distance_m" or not behind_m:
        return dial
    moved = {name: value - behind_m for name in ("value", "hero", "wants", "holds_low", "holds_high") if (value := getattr(dial, name)) is not None}
    return dataclasses.replace(dial, **moved)


_PLACED = ("distance_m", "lens_height_m", "tilt_deg")


def selected_answer(table: BenchTable, judged: Judged) -> Json | None:
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
            "lamp_ids": [] if judged.take else [lamp.pk for lamp in table.lamps_of(layer.set_up.pk)],  # what was filmed is not moved any more
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
