"""Clips of the simulated camera with faults that are known: whatever measures them must find those."""

import math
from dataclasses import replace

import numpy as np
import pytest

from jungoptic.core.example import STACK
from jungoptic.core.measure import Curve, brightness, flicker_of_frames, moved
from jungoptic.core.stage import FilmFaults, film

BT709 = Curve("bt709")


def clip(faults, position=0, frames=12, width=960, seed=5):
    return [
        brightness(BT709.light(each.astype(np.float32) / 255.0))
        for each in film(STACK, position, width, frames, faults, seed)
    ]


def test_a_jolt_is_found_where_it_was_made():
    seen = clip(FilmFaults(jolt_px=(2.2, -0.9), jolt_deg=0.05, jolt_at=2), frames=3)
    still, jolted = moved(seen[0], seen[1]), moved(seen[0], seen[2])
    assert math.hypot(*still.shift_px) <= max(0.05, still.shift_off_px)
    right, down = (each * STACK.delivery.width_px / 960 for each in jolted.shift_px)
    assert right == pytest.approx(2.2, abs=0.1) and down == pytest.approx(-0.9, abs=0.1)
    assert jolted.turn_deg == pytest.approx(0.05, abs=0.01)


def test_drift_and_flicker_are_as_large_as_said():
    seen = clip(FilmFaults(drift_stops=0.3), frames=6)
    assert math.log2(seen[-1].mean() / seen[0].mean()) == pytest.approx(0.3, abs=0.02)
    frames = clip(FilmFaults(flicker_stops=0.12, flicker_hz=3.0), frames=96, width=320)
    light = np.array([[[each.mean()]] for each in frames])
    found = flicker_of_frames(light.reshape(96, 1), (1, 1), 24.0)
    assert found.peak_to_peak == pytest.approx(0.12, abs=max(found.off, 0.005))


def test_a_layer_moves_as_the_shot_has_it_and_a_clean_plate_shows_nobody():
    walks = STACK.members[2]
    stack = replace(
        STACK,
        members=(
            *STACK.members[:2],
            replace(walks, layer=walks.layer.model_copy(update={"travel_across_m": 1.0})),
        ),
    )
    first, last = film(stack, 2, 480, 2)
    assert np.abs(first.astype(int) - last).mean() > 0.5
    nobody = replace(walks, layer=walks.layer.model_copy(update={"kind": "clean_plate"}))
    empty = next(iter(film(replace(STACK, members=(*STACK.members[:2], nobody)), 2, 480, 1)))
    assert np.abs(first.astype(int) - empty).mean() > 0.5
    with pytest.raises(ValueError, match="no set-up"):
        next(iter(film(replace(STACK, members=(replace(walks, setup=None),)), 0, 480, 1)))
