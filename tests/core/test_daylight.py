"""Sun and sky over a set: published values, twilight, too much and too little, a sheet outdoors."""

from __future__ import annotations

import math
from datetime import UTC, datetime

import numpy as np
import pytest

from jungoptic.core.light import sky_lx, sun_lx
from jungoptic.core.match import Layer, lighting
from jungoptic.core.match.stack import Member

from .test_stack import green, item, stack_of

NOON = {"latitude_deg": 54.3, "longitude_deg": -3.2}


def test_the_published_sun_and_sky():
    """IES RP-21's clear day (from memory): 127.5 klx outside the air, c = 0.21; common practice: a clear noon
    gives some 100,000 lx, an overcast one 10,000 to 25,000.
    """
    assert sun_lx(90) == pytest.approx(127_500 * math.exp(-0.21))
    assert sun_lx(60) + sky_lx(60) == pytest.approx(100_000, rel=0.2)
    assert 10_000 < sky_lx(40, "overcast") < 25_000 and sun_lx(40, "overcast") == 0
    assert sky_lx(-6) == pytest.approx(3.4) and sky_lx(-12) == pytest.approx(0.008) and sky_lx(-30) == 0
    lit = [sky_lx(elevation) for elevation in np.linspace(-20, 90, 200)]
    assert lit == sorted(lit)


def test_a_sun_under_the_horizon_gives_no_light_and_says_so(hero):
    night = datetime(2027, 10, 23, 18, 55, tzinfo=UTC)
    dark = hero.but(sun_at=night, illuminance_lx=20_000, **NOON)
    assert lighting.day_over(dark).elevation_deg == pytest.approx(-17, abs=6)
    plate = Member(Layer(name="Sea", near_m=12), dark, 1, is_hero=True)
    shown = item(stack_of(hero, plate), "light_reach")
    assert shown.verdict == "shows" and "under the horizon" in shown.sentence
    key = lighting.key_of(dark, plate.layer)
    assert (key.azimuth_deg, key.by_sun) == (hero.key_azimuth_deg, False)  # what was stated stands
    day = dark.but(sun_at=datetime(2027, 10, 23, 12, tzinfo=UTC), illuminance_lx=60_000)
    assert item(stack_of(hero, Member(plate.layer, day, 1, is_hero=True)), "light_reach").amount == 0
    assert lighting.key_of(day, plate.layer).by_sun
    assert not lighting.key_of(day.but(sky="overcast"), plate.layer).by_sun
    planned = item(stack_of(hero, plate), "light_reach").fixes
    assert not planned or planned[0].changes["illuminance_lx"] < 100


def test_daylight_that_is_too_much_wants_a_darker_filter(hero):
    bright = hero.but(
        sun_at=datetime(2027, 10, 23, 12, tzinfo=UTC), heading_deg=0.0, illuminance_lx=960, **NOON
    )
    plate = Layer(name="Quay", near_m=12)
    shown = item(stack_of(hero, Member(plate, bright, 1, is_hero=True)), "light_reach")
    over = math.log2(lighting.day_over(bright).metered_lx / 960)
    assert shown.amount == pytest.approx(over - 1) and "darker filter" in shown.sentence
    mended = bright.but(**shown.fixes[0].changes)
    assert mended.nd_stops == round(over)
    assert item(stack_of(hero, Member(plate, mended, 1, is_hero=True)), "light_reach").amount == 0


def test_a_sheet_under_the_sky_has_its_evenness_and_the_suns_shadow(hero, actor, on_green):
    day = on_green.but(
        lamps=(),
        sun_at=datetime(2027, 10, 23, 12, tzinfo=UTC),
        heading_deg=30.0,
        illuminance_lx=30_000,
        **NOON,
    )
    stack = green(hero, actor, day)
    evenness = item(stack, "evenness")
    assert evenness.amount == pytest.approx(0, abs=1e-9)  # the sun and the sky light it alike all over
    here = lighting.day_over(day)
    expected = here.sun_lx * -here.towards[2] + here.sky_lx / 2
    assert lighting.on_backing_lx(day, np.array([[0.0, 1.0, 2.5]]))[0] == pytest.approx(expected)
    shadow = item(stack, "backing_shadow")
    assert "The sun throws a shadow" in shadow.sentence
    clothed = day.but(diffusion_stops=2.0)
    assert lighting.day_over(clothed).sun_lx == pytest.approx(here.sun_lx / 4)
    assert lighting.key_of(clothed, actor).size_deg == clothed.key_size_deg
    assert item(green(hero, actor, clothed), "backing_shadow").amount < shadow.amount
    behind = day.but(heading_deg=200.0)  # the sun stands behind the sheet: only the sky lights its face
    assert lighting.day_over(behind).towards[2] > 0
    assert lighting.on_backing_lx(behind, np.array([[0.0, 1.0, 2.5]]))[0] == pytest.approx(here.sky_lx / 2)
