"""Exact rates of video, against ITU-R BT.2020-2, table 2 (from memory): n and n divided by 1.001."""

from __future__ import annotations

from fractions import Fraction

import pytest

from jungoptic.core.kit import RecordingMode, exact_rate_fps, rate_fraction, rate_name, rates_with

MODE = {
    "name": "4K",
    "recorded_width_px": 3840,
    "recorded_height_px": 2160,
    "gate_width_mm": 23.5,
    "gate_height_mm": 13.2,
}


@pytest.mark.parametrize(
    ("menu", "nominal"),
    [("23.976", 24), ("23.98", 24), ("29.97", 30), ("47.95", 48), ("59.94", 60), ("119.88", 120)],
)
def test_what_stands_on_a_menu_is_the_rate_divided_by_1001(menu: str, nominal: int):
    exact = Fraction(nominal * 1000, 1001)
    assert exact_rate_fps(float(menu)) == float(exact)
    assert rate_fraction(float(menu)) == exact
    assert exact_rate_fps(float(exact)) == float(exact), "said twice, it stays"
    assert abs(float(rate_name(float(exact))) - float(menu)) < 0.005


@pytest.mark.parametrize("rate", [8, 12.5, 16, 18, 24, 25, 30, 50, 100])
def test_other_rates_stay_as_they_are(rate: float):
    assert exact_rate_fps(rate) == rate == float(rate_fraction(rate))


def test_a_film_in_thousandths_has_a_menu_in_thousandths_only():
    of_film = rates_with(24000 / 1001)
    assert {rate_fraction(rate).denominator for rate in of_film} == {1001}
    assert {rate_fraction(rate).denominator for rate in rates_with(24)} == {1}
    mode = RecordingMode(**MODE, highest_fps=60, menu_fps=of_film)
    assert [rate_name(rate) for rate in mode.rates_fps] == ["23.976", "29.97", "47.952", "59.94"]


def test_an_hour_of_23_976_has_86314_frames_and_a_hand_count_says_so():
    # derived: 3600 s × 24000/1001 = 86,313.69; a rounded 23.976 would give 86,313.6, 24 would give 86,400
    assert float(3600 * rate_fraction(23.976)) == pytest.approx(86_313.686, abs=5e-4)
