"""The layer that is looked at: its barrels, drawing, placing and focus."""

from __future__ import annotations

import dataclasses

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.takes.table import BenchTable, Judged
from jungoptic.core.match import key_of
from jungoptic.core.plan import SOLVABLE, Dial, band_text, dials, focusing, height_wish, place
from jungoptic.core.stage import lamps_drawn, sheet_in_set, sheet_seen, standing


def _own_distance(dial: Dial, behind_m: float) -> Dial:
    """The distance barrel turns the set-up's own distance, to its nearest layer."""
    if dial.field != "distance_m" or not behind_m:
        return dial
    moved = {
        name: value - behind_m
        for name in ("value", "hero", "wants", "holds_low", "holds_high")
        if (value := getattr(dial, name)) is not None
    }
    return dataclasses.replace(dial, **moved)


_PLACED = ("distance_m", "lens_height_m", "tilt_deg")


def selected_answer(table: BenchTable, judged: Judged, moving: bool) -> Json | None:
    layer, match, words = judged.layer, judged.match, table.words
    if match.setup is None or layer.set_up is None:
        return None
    band = table.focus_band_m(judged)
    kit = table.kit(judged.take or layer.set_up)
    placings = place(
        match.hero,
        match.layer,
        match.setup,
        match.delivery,
        school=table.school,
        tolerances=table.tolerances,
        only=() if moving else _PLACED,
    )
    stands = standing(match, band)
    behind = table.behind_m(layer)
    turned = [_own_distance(dial, behind) for dial in dials(match, judged.items, placings, kit, words, band)]
    height = next((placing.plus for placing in placings if placing.dial == "lens_height_m"), None)
    return {
        "layer_id": layer.pk,
        "set_up_id": layer.set_up.pk,
        "set_up_name": layer.set_up.name,
        "set_up_version": layer.set_up.version,
        "dials": turned,
        "lockable": [] if layer.is_hero else [dial.field for dial in turned if dial.field in SOLVABLE],
        "sheet": sheet_seen(match, table.set_up_record(layer, judged.take)),
        "focus": focusing(match, words),
        "placings": None
        if moving
        else [
            {
                "dial": one.dial,
                "unit": one.unit,
                "minus": one.minus,
                "plus": one.plus,
                "item": one.item,
                "text": one.text(words),
            }
            for one in placings
        ],
        "standing": {
            **fields_of(stands),
            "wants_text": height_wish(stands.wanted_height_m, height, words),
            "band_text": band_text(stands.band_near_m, stands.band_far_m, words),
            "lamps": list(lamps_drawn(match, table.set_up_record(layer, judged.take), words.light)),
            "lamp_ids": (
                [] if judged.take else [lamp.pk for lamp in table.lamps_on(layer)]
            ),  # what was filmed is not moved any more
            "sheet": sheet_in_set(table.set_up_record(layer, judged.take)),
            "travel_m": match.travel_m if table.delivery.move.kind in ("slide", "push") else 0.0,
            "move_kind": table.delivery.move.kind,
            "key_from": key_of(table.set_up_record(layer, judged.take), match.layer).source,
            "key_azimuth_deg": match.setup.key_azimuth_deg,
            "key_elevation_deg": match.setup.key_elevation_deg,
            "caption": (
                f"{'model' if match.layer.scale != 1 else 'full-size'}"
                f" {'metres' if words.units == 'metric' else 'feet'} · 1:{match.layer.scale:g} ·"
                f" {kit.camera.name}"
            ),
        },
    }
