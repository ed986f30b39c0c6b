"""Photographs of a hyperlapse: the reference point found again in them, what aims cost, and how they are made
steady. The photographs are real ones, grown, rolled, dimmed and noised, and those of the simulated camera.
"""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.frames import HyperPlan, aim_told, from_the_first, passes_px, stations, steadied
from jungoptic.core.match import Match
from jungoptic.core.measure import SetFrame, linear, point_again, steady_path
from jungoptic.core.stage import HyperCamera, HyperFaults

from .filmed import laid, photograph
from .test_frames_watched import MARGIN, SIZE, taken

HEIGHT, WIDTH = SIZE
PHOTO, NEEDED = (2133.0, 1200.0), (1920.0, 1080.0)


def aimed_off(name: str, right: float, down: float, seed: int, grown: float = 1.0, stops: float = 0.0):
    """A photograph of a place that lies so far to the right and down, grown about its middle, dimmed."""
    there = laid(photograph(name, SIZE, MARGIN), (right, down), of=SIZE)
    turn = cv2.getRotationMatrix2D((WIDTH / 2.0 - 0.5, HEIGHT / 2.0 - 0.5), 0.0, grown)
    there = cv2.warpAffine(there, turn, (WIDTH, HEIGHT), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REFLECT)
    return taken(there * 2.0**stops, seed)


@pytest.mark.parametrize("name", ["gravel", "brick", "rocket"])
@pytest.mark.parametrize("right, down", [(0.0, 0.0), (7.4, -2.2), (-23.6, 9.1), (31.0, 18.5)])
def test_a_reference_point_is_found_again_where_it_is_aimed_off(name: str, right: float, down: float):
    first, later = aimed_off(name, 0.0, 0.0, 1), aimed_off(name, right, down, 2, stops=0.4)
    middle = (0.5, 0.5)
    x, y, alike = point_again(later, [(first, middle)], middle)
    assert (x - 0.5) * WIDTH == pytest.approx(right, abs=0.25)
    assert (y - 0.5) * HEIGHT == pytest.approx(down, abs=0.25)
    assert alike > 0.8


def test_a_point_that_looks_otherwise_by_now_is_found_by_the_photograph_before():
    """It comes nearer along a line by 1 % from each photograph to the next, and strays a tenth of a pixel."""
    photographs = [aimed_off("rocket", 3.0 * n, 0.0, n, grown=1.01**n) for n in range(20)]
    middle = (0.5, 0.5)
    first = last = (photographs[0], middle)
    for n, frame in enumerate(photographs[1:], 1):
        x, y, _ = point_again(frame, [first, last], middle)
        assert (x - 0.5) * WIDTH == pytest.approx(3.0 * n * 1.01**n, abs=0.3 + 0.1 * n)
        assert (y - 0.5) * HEIGHT == pytest.approx(0.0, abs=0.3 + 0.1 * n)
        last = (frame, (x, y))


def test_what_is_not_there_is_not_found():
    nothing = np.full((HEIGHT, WIDTH, 3), 0.2, np.float32)
    dice = np.random.default_rng(1)
    noise = SetFrame(nothing + 0.002 * dice.standard_normal(nothing.shape, np.float32))
    other = SetFrame(np.full((270, 480, 3), 0.2, np.float32))
    first = taken(laid(photograph("rocket", SIZE, MARGIN), (0.0, 0.0), of=SIZE), 1)
    assert np.isnan(point_again(noise, [(first, (0.5, 0.5))], (0.5, 0.5))[0])
    assert np.isnan(point_again(other, [(first, (0.5, 0.5))], (0.5, 0.5))[0])
    assert np.isnan(point_again(first, [], (0.5, 0.5))[0])


def test_aims_of_the_simulated_camera_are_measured_along_an_arc():
    plan = HyperPlan(kind="arc", length_m=2.0, away_m=20.0, mark_x=0.55, mark_y=0.4)
    path = plan.path(40)
    mark = (plan.mark_x, plan.mark_y)
    faults = HyperFaults(aim_px=8.0, missed_at=21, missed_px=(60.0, -20.0), brightens_stops=0.01)
    camera = HyperCamera(Match(HERO, MILL, MODEL, DELIVERY), WIDTH, plan.away_m, mark, faults)
    placed = stations(path)
    known: list[tuple[SetFrame, tuple[float, float]]] = []
    for number in (1, 6, 11, 21, 31, 40):
        station = placed[number - 1]
        seen = camera.photograph(number, (*from_the_first(station, path), station.turned_deg))
        frame = SetFrame(linear(np.asarray(seen, np.float32) / 255.0))
        right, down = faults.off_px(number)
        # the first says what the point looks like, wherever it was aimed
        truth = mark[0] + right / DELIVERY.width_px, mark[1] + down / DELIVERY.height_px
        if not known:
            known = [(frame, truth), (frame, truth)]
            continue
        x, y, _ = point_again(frame, known, mark)
        assert DELIVERY.width_px * abs(x - truth[0]) < max(0.05 * abs(right), 0.8)
        assert DELIVERY.height_px * abs(y - truth[1]) < max(0.05 * abs(down), 0.8)
        known[1] = frame, (x, y)


def test_who_takes_it_again_does_not_miss_again():
    faults = HyperFaults(missed_at=2, missed_px=(30, 0))
    assert (faults.off_px(1), faults.off_px(2), faults.off_px(2, 1)) == ((0, 0), (30, 0), (0, 0))


@given(st.integers(0, 2**32), st.sampled_from(("mark", "path")))
def test_what_is_made_steady_stands_and_stays_within_the_photograph(seed: int, on: str):
    dice = np.random.default_rng(seed)
    mark = np.array([1000.0, 600.0])
    points = mark + dice.normal(0, 9, (60, 2)) + np.linspace(0, 40, 60)[:, None]
    points[dice.integers(0, 60, 4)] = np.nan
    told = steadied(points, (mark[0], mark[1]), on, PHOTO, NEEDED, 3840)
    known = np.isfinite(points).all(axis=1)
    stands = points[known] + told.shift_px[known]
    if on == "mark":
        assert stands == pytest.approx(np.broadcast_to(mark, stands.shape))
    else:
        assert np.diff(stands, axis=0).std() < 0.3 * np.diff(points[known], axis=0).std()
    # what is left after the crop is in each photograph
    left = (1.0 - told.crop) / 2.0 * np.array(PHOTO)
    assert (np.abs(told.shift_px) <= left + 1e-6).all()
    assert told.crop == pytest.approx(1.0 - 2.0 * told.margin)


def test_a_smoothed_path_costs_less_than_the_mark_where_aims_drift():
    points = np.array([1000.0, 600.0]) + np.linspace(-80, 80, 60)[:, None] * (1.0, 0.0)
    on = {how: steadied(points, (1000, 600), how, PHOTO, NEEDED, 3840) for how in ("mark", "path")}
    assert on["mark"].margin == pytest.approx(80.0 / PHOTO[0])
    assert on["path"].margin < 0.1 * on["mark"].margin


def test_the_enlargement_is_what_the_crop_takes_of_the_recorded_pixels():
    """By hand: 1600 recorded px for 2133 delivered; of 80 px off, 1973 are left, of which 1920 are needed."""
    points = np.tile([1000.0, 600.0], (5, 1))
    points[2] += (80.0, 0.0)
    told = steadied(points, (1000, 600), "mark", PHOTO, NEEDED, 1600)
    assert told.enlarged == pytest.approx(PHOTO[0] / 1600)
    assert told.kept == pytest.approx(1920 / PHOTO[0])  # the planned margin goes anyway
    assert told.verdict == "tight"
    points[2] += (100.0, 0.0)  # 1773 are left: fewer than are needed, and all of them are used
    assert steadied(points, (1000, 600), "mark", PHOTO, NEEDED, 3840).enlarged == 1.0
    tight = steadied(points, (1000, 600), "mark", PHOTO, NEEDED, PHOTO[0])
    assert tight.enlarged == pytest.approx(1920 / (PHOTO[0] - 360))
    assert tight.kept == tight.crop
    with pytest.raises(ValueError, match="at least"):
        steadied(points[:4], (1000, 600), "mark", PHOTO, NEEDED, 3840)


@given(st.floats(-400, 400), st.floats(-400, 400))
def test_an_aim_is_judged_by_the_margin_that_is_left(right: float, down: float):
    told = aim_told("Chimney", (right, down), PHOTO, NEEDED)
    share = max(abs(right) / 106.5, abs(down) / 60.0)
    if share < 0.499:
        assert not told
    elif share > 0.501:
        [warned] = told
        assert warned.verdict == ("tight" if share < 1 else "shows")
        assert warned.amount == pytest.approx(np.hypot(right, down))
        assert ("beyond" in warned.text) == (share >= 1)
    [lost] = aim_told("Chimney", None, PHOTO, NEEDED)
    assert "not found" in lost.text


def test_what_is_near_passes_and_the_reference_point_stands():
    """Against the pinhole by hand: a step of 1 m aside; the point at 50 m stays, a post at 5 m goes."""
    focal = 1600.0
    gone = focal * (1.0 / 5.0) - focal * (1.0 / 50.0)
    assert passes_px(1.0, 5.0, 50.0, focal) == pytest.approx(gone)
    assert passes_px(1.0, 50.0, 50.0, focal) == 0.0


def test_a_steady_path_goes_straight_on_where_it_is_straight():
    line = np.column_stack([np.linspace(0, 100, 50), np.linspace(30, -20, 50)])
    assert steady_path(line) == pytest.approx(line, abs=1e-6)


def test_a_plan_is_refused_whose_arc_goes_round_more_than_once():
    with pytest.raises(ValueError, match="at most"):
        HyperPlan.model_validate({"kind": "arc", "length_m": 70, "away_m": 10})
