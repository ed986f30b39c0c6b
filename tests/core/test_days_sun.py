"""Sun windows against pvlib, sampled minute by minute by itself; horizon and heading by hand."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pandas as pd
import pvlib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core import days as d

ZONE = "Europe/London"
HERE = 54.3, -3.2


def by_pvlib(day: date) -> pd.DataFrame:
    """Published: NREL SPA (TP-560-34302) as pvlib has it; each minute of the clock until 36:00."""
    midnight = datetime(day.year, day.month, day.day)
    moments = [(midnight + timedelta(minutes=m)).replace(tzinfo=ZoneInfo(ZONE)) for m in range(36 * 60 + 1)]
    times = pd.DatetimeIndex([moment.astimezone(ZoneInfo("UTC")) for moment in moments])
    return pvlib.solarposition.get_solarposition(times, *HERE, pressure=101000.0, temperature=10.0)


@given(
    day=st.dates(date(2027, 1, 1), date(2027, 12, 31)),
    azimuth=st.integers(-180, 180),
    elevation=st.integers(3, 55),
    heading=st.integers(0, 359),
    tight=st.sampled_from([8.0, 20.0, 40.0]),
)
@settings(deadline=None, max_examples=25)
def test_windows_are_where_pvlib_has_the_sun(
    day: date, azimuth: int, elevation: int, heading: int, tight: float
):
    key = d.SunKey(azimuth_deg=azimuth, elevation_deg=elevation, heading_deg=heading, tight_deg=tight)
    sun = by_pvlib(day)
    compass = np.radians(heading + 180 - azimuth)
    a, e = np.radians(sun["azimuth"]), np.radians(sun["apparent_elevation"])
    wanted = np.radians(elevation)
    towards = np.stack([np.cos(e) * np.sin(a), np.cos(e) * np.cos(a), np.sin(e)])
    key_at = [np.cos(wanted) * np.sin(compass), np.cos(wanted) * np.cos(compass), np.sin(wanted)]
    off = np.degrees(np.arccos(np.clip(np.tensordot(key_at, towards, 1), -1, 1)))
    windows = d.sun_windows(key, *HERE, day, ZONE)
    for holds, limit in ((True, key.holds_deg), (False, tight)):
        inside = np.zeros(len(off), bool)
        for window in windows:
            if window.holds == holds:
                inside[window.start_min : window.end_min + 1] = True
        up = sun["apparent_elevation"].to_numpy() > 0
        # what is neither is within a hundredth of a degree of the limit: a few seconds
        surely = up & (off < limit - 0.02) & (sun["apparent_elevation"].to_numpy() > 0.02)
        assert not np.any((surely[1:-1] & surely[:-2] & surely[2:]) & ~inside[1:-1])
        assert not np.any(inside & ~((off < limit + 0.02) & (sun["apparent_elevation"].to_numpy() > -0.02)))


@pytest.mark.parametrize("day", [date(2027, 10, 16), date(2027, 10, 31), date(2027, 6, 21)])
def test_daylight_and_twilight_end_with_pvlib(day: date):
    """To the minute, on the day too on which the clocks change; common practice: civil twilight to −6°."""
    height = by_pvlib(day)["elevation"].to_numpy()
    for hour, low in (("day", -0.833), ("dark", None)):
        spans = d.light_spans(hour, *HERE, day, ZONE)  # type: ignore[arg-type]
        inside = np.zeros(len(height), bool)
        for start, end in spans:
            inside[start : end + 1] = True
        expected = height >= low if low is not None else height <= -6
        assert np.count_nonzero(inside != expected) <= 4


def test_clocks_that_change_move_the_sun_by_an_hour():
    before, after = (d.light_spans("day", *HERE, date(2027, 10, day), ZONE)[0] for day in (30, 31))
    assert 55 <= before[0] - after[0] <= 65 and 55 <= before[1] - after[1] <= 65


def test_a_hill_hides_the_sun_and_opens_it_later():
    key = d.SunKey(azimuth_deg=0, elevation_deg=20, heading_deg=0, tight_deg=60)
    hill = [
        d.HorizonPoint(azimuth_deg=90, height_deg=15),
        d.HorizonPoint(azimuth_deg=150, height_deg=15),
        d.HorizonPoint(azimuth_deg=151, height_deg=0),
        d.HorizonPoint(azimuth_deg=89, height_deg=0),
    ]
    day = date(2027, 10, 16)
    free = next(w for w in d.sun_windows(key, *HERE, day, ZONE) if not w.holds)
    hidden = next(w for w in d.sun_windows(key, *HERE, day, ZONE, hill) if not w.holds)
    course = d.sun_course(*HERE, day, ZONE)
    assert hidden.start_min > free.start_min and hidden.end_min == free.end_min
    azimuth, height = course[hidden.start_min]
    assert azimuth > 150 or height > 15


def test_the_model_is_turned_to_the_sun_where_it_may_be():
    """Any heading in a half circle: only the height is left to match, where the sun is in reach of it."""
    fixed = d.SunKey(azimuth_deg=-40, elevation_deg=18, heading_deg=240)
    turned = fixed.model_copy(update={"heading_to_deg": 60.0})
    day = date(2027, 10, 23)
    held = [w for w in d.sun_windows(turned, *HERE, day, ZONE) if w.holds]
    course = d.sun_course(*HERE, day, ZONE)
    assert not [w for w in d.sun_windows(fixed, *HERE, day, ZONE) if w.holds] and held
    for window in held:
        heading = d.heading_for(turned, course[[window.start_min], 0])[0]
        sun = d.off_key_deg(
            turned.model_copy(update={"heading_deg": heading, "heading_to_deg": None}),
            course[[window.start_min]],
        )
        assert sun[0] <= 7.0 and (heading >= 240 or heading <= 60)
