"""A hyperlapse planned and checked: every station looks at the reference point, the time is enough, what aims
leave over.
"""

from __future__ import annotations

import csv
import io
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.frames import (
    SHARP_PX,
    HyperPath,
    aimed,
    drifts_px,
    rhythm_of,
    sharp_exposure_s,
    smears_px,
    stations,
    transforms_csv,
)


@given(
    st.sampled_from(("line", "arc")),
    st.floats(1, 60),
    st.floats(10, 100),
    st.floats(-40, 80),
    st.integers(2, 300),
)
def test_every_station_looks_at_the_reference_point(
    kind: str, length_m: float, away_m: float, ahead_m: float, photographs: int
):
    path = HyperPath(
        kind=kind, length_m=min(length_m, 6 * away_m), away_m=away_m, ahead_m=ahead_m, photographs=photographs
    )
    placed = stations(path)
    point = np.array([0.0 if kind == "arc" else ahead_m, away_m])  # to the right, ahead of the first
    first = math.atan2(*point)
    steps = np.diff([each.along_m for each in placed])
    assert steps == pytest.approx(path.length_m / (photographs - 1))
    for each in placed:
        across, ahead = point - (each.right_m, each.ahead_m)
        looks = first + math.radians(each.turned_deg)
        # the camera's own axis, turned, goes through the point
        assert across * math.cos(looks) - ahead * math.sin(looks) == pytest.approx(0, abs=1e-6)
        assert across * math.sin(looks) + ahead * math.cos(looks) > 0
        if kind == "arc":
            assert math.hypot(across, ahead) == pytest.approx(away_m)
    assert placed[0].turned_deg == 0.0 and len(placed) == photographs


def test_an_arc_goes_round_once_and_no_further():
    with pytest.raises(ValueError, match="at most"):
        HyperPath.model_validate({"kind": "arc", "length_m": 70, "away_m": 10})


def test_the_metronome_waits_for_the_slower_of_writing_and_walking():
    assert rhythm_of(144, 8.0, 0.5, 1.0, 6.0).lacks_s == 0.0
    slow_card = rhythm_of(144, 8.0, 2.0, 9.0, 6.0)
    assert (slow_card.least_s, slow_card.lacks_s, slow_card.takes_s) == (11.0, 3.0, 143 * 8.0)


def test_clouds_drift_by_their_speed_over_their_distance():
    # 10 m/s at 2 km are 5 mrad a second (common practice: halve the interval, halve the step)
    assert drifts_px(10, 2000, 2, 1600) == pytest.approx(0.01 * 1600)
    assert drifts_px(1.4, 20, 2, 1600) == 2 * drifts_px(1.4, 20, 1, 1600)


def test_what_goes_evenly_smears_by_as_much_of_its_step_as_the_shutter_is_open():
    # open for half of the interval is a shutter of 180°: half of the step (common practice)
    assert smears_px(30.0, 2.5, 5.0) == 15.0
    goes = drifts_px(0.5, 20.0, 4.0, 1600.0)
    longest = sharp_exposure_s(goes, 4.0)
    assert smears_px(goes, longest, 4.0) == pytest.approx(SHARP_PX)
    # 0.5 m/s at 20 m are 40 px a second: 1/40 s, whatever the interval
    assert longest == pytest.approx(1 / 40) and sharp_exposure_s(2 * goes, 8.0) == pytest.approx(1 / 40)
    assert sharp_exposure_s(0.1, 4.0) == 4.0


@given(st.integers(0, 2**32))
def test_what_the_worst_aim_takes_is_not_spare_any_more(seed: int):
    dice = np.random.default_rng(seed)
    off = dice.normal(0, 12, (60, 2))
    told = aimed(off + np.array([900, 600]), (900, 600), (4000, 2250), (3840, 2160))
    assert told.spare_px == pytest.approx((80 - np.abs(off[:, 0]).max(), 45 - np.abs(off[:, 1]).max()))
    assert told.most_px == pytest.approx(np.hypot(*off.T).max())
    wrong = {n + 1 for n in range(60) if abs(off[n, 0]) > 40 or abs(off[n, 1]) > 22.5}
    assert set(told.again) == wrong


def test_a_photograph_without_its_point_is_taken_again():
    told = aimed([(100, 50), (math.nan, math.nan)], (100, 50), (400, 200), (320, 160))
    assert told.again == (2,) and told.most_px == 0.0


def test_transforms_lay_each_point_on_the_steady_path():
    dice = np.random.default_rng(4)
    points, steady = dice.uniform(0, 1000, (2, 20, 2))
    rows = list(csv.DictReader(io.StringIO(transforms_csv(points.tolist(), steady.tolist()))))
    moves = np.array([(float(row["right_px"]), float(row["down_px"])) for row in rows])
    assert points + moves == pytest.approx(steady, abs=1e-3)
    assert [int(row["photograph"]) for row in rows] == list(range(1, 21))
