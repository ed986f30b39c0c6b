"""The sun against the reference library, and turning the camera to it."""

import math
from datetime import UTC, date, datetime, timedelta, timezone

import pandas as pd
import pvlib
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from jungoptic.core.light import sun_up
from jungoptic.core.light.sun import sun_deg

from .test_handbook import calc


@settings(max_examples=40)
@given(latitude=st.floats(-60, 60), longitude=st.floats(-170, 170), day=st.integers(1, 365 * 20))
def test_sunrise_and_sunset_against_pvlib(latitude: float, longitude: float, day: int):
    """Reference library: pvlib's sunrise and sunset by the NREL algorithm, to three and a half minutes: the
    horizon of no place is level to less."""
    zone = timezone(timedelta(hours=round(longitude / 15)))
    noon = datetime(2015, 1, 1, 12, tzinfo=zone) + timedelta(days=day)
    times = pvlib.solarposition.sun_rise_set_transit_spa(pd.DatetimeIndex([noon]), latitude, longitude)
    rise, sets = sun_up(latitude, longitude, noon.date(), zone)
    assert rise and sets
    for ours, theirs in ((rise, times["sunrise"].iloc[0]), (sets, times["sunset"].iloc[0])):
        assert abs((ours - theirs.floor("s").to_pydatetime()).total_seconds()) < 210


def test_where_the_sun_stays_up_or_down_it_neither_rises_nor_sets():
    for month in (6, 12):  # common practice: at 78° north, midnight sun and polar night
        assert sun_up(78.2, 15.6, date(2027, month, 21), UTC) == (None, None)


@settings(max_examples=60)
@given(
    latitude=st.floats(-66, 66),
    longitude=st.floats(-180, 180),
    day=st.integers(1, 365 * 20),
    from_noon=st.floats(-6, 6),
)
def test_sun_against_pvlib(latitude: float, longitude: float, day: int, from_noon: float):
    """Reference library: pvlib's implementation of the NREL algorithm.

    The hour is the sun's, so that it is mostly up.
    """
    when = datetime(2015, 1, 1, tzinfo=UTC) + timedelta(days=day, hours=12 + from_noon - longitude / 15)
    expected = pvlib.solarposition.spa_python(
        pd.DatetimeIndex([when]), latitude, longitude, pressure=101000, temperature=10
    ).iloc[0]
    azimuth, elevation = sun_deg(latitude, longitude, when)
    assume(expected["elevation"] > 1)
    assert elevation == pytest.approx(expected["apparent_elevation"], abs=0.02)
    turned = (azimuth - expected["azimuth"] + 180) % 360 - 180
    assert turned * math.cos(math.radians(elevation)) == pytest.approx(
        0, abs=0.02
    )  # on the sky: at the zenith an azimuth is nothing


def test_turning_to_the_sun_gives_the_wanted_light():
    wanted = {"sun_relative_azimuth_deg": 118, "sun_elevation_deg": 14, "tolerance_deg": 2}
    place = {"latitude_deg": 54.3, "longitude_deg": -3.2}
    windows = calc("turn_to_sun", date="2027-10-23", utc_offset_h=1, **place, **wanted)["windows"]
    assert len(windows) == 2
    for window in windows:
        start, end = (datetime.fromisoformat(window[key]) for key in ("start", "end"))
        for when in (start, end):
            assert abs(abs(calc("sun_position", time=when.isoformat(), **place)["elevation_deg"] - 14)) <= 2.2
        middle = calc("sun_position", time=(start + (end - start) / 2).isoformat(), **place)
        # from behind the camera (heading + 180°), 118° to camera right is counter-clockwise on the compass
        assert (window["camera_heading_deg"] + 180 - 118) % 360 == pytest.approx(
            middle["azimuth_deg"], abs=0.6
        )
    assert (
        calc(
            "turn_to_sun",
            date="2027-12-21",
            utc_offset_h=0,
            sun_relative_azimuth_deg=0,
            sun_elevation_deg=60,
            tolerance_deg=2,
            **place,
        )["windows"]
        == []
    )
