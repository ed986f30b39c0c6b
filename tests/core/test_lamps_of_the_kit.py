"""Lamps of the kit: with a gel, and as a meter tells them."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.kit import Lamp, gelled, lamp_of_reading
from jungoptic.core.light import PlacedLamp
from jungoptic.core.light.placed import light_of


@pytest.mark.parametrize(
    ("from_k", "mired", "stops", "to_k", "off_k"),
    [
        # common practice (from memory): full blue makes a tungsten lamp daylight, full orange the other way
        (3200, -137, 1.6, 5600, 150),
        (5600, 159, 0.9, 3000, 250),
    ],
)
def test_full_correction_brings_one_light_to_the_other(
    from_k: float, mired: float, stops: float, to_k: float, off_k: float
):
    bare = Lamp(name="lamp", intensity_cd=1000, beam_deg=60, warmest_k=from_k, coolest_k=from_k)
    lamp = gelled(bare, mired, stops)
    assert lamp.warmest_k == lamp.coolest_k == pytest.approx(to_k, abs=off_k)
    assert math.log2(bare.intensity_cd / lamp.intensity_cd) == pytest.approx(stops)


def test_a_reading_is_the_square_of_the_distance():
    # derived: 450 lx at 2 m are 1800 cd; at 4 m the same lamp reads a quarter
    assert lamp_of_reading(450, 2, None) == lamp_of_reading(112.5, 4, None) == (1800, None)


@given(st.floats(8, 100), st.floats(1, 10), st.floats(100, 50_000))
def test_what_a_meter_reads_before_a_lamp_gives_that_lamp_again(
    beam_deg: float, distance_m: float, intensity_cd: float
):
    """Read off the light that a placed lamp throws on a wall: on the axis, and where it is half."""
    lamp = PlacedLamp(
        name="lamp",
        intensity_cd=intensity_cd,
        beam_deg=beam_deg,
        behind_m=-distance_m,
        height_m=1,
        aim_height_m=1,
    )

    def read(off_m: float) -> float:
        wall = np.array([[off_m, 1.0, 0.0]])
        return float(light_of(wall, lamp, np.zeros((1, 3)), (0.0, 0.0, -1.0))[0, 0])

    near, far = 0.0, 20.0 * distance_m
    for _ in range(60):
        middle = (near + far) / 2
        near, far = (middle, far) if read(middle) > read(0.0) / 2 else (near, middle)
    told_cd, told_deg = lamp_of_reading(read(0.0), distance_m, near)
    assert told_cd == pytest.approx(intensity_cd)
    assert told_deg == pytest.approx(beam_deg, rel=1e-6)
