"""Points of a figure: found again from frame to frame, held against their spacing, feet that must not slide.
The figure is a cut-out of one photograph before another, which shares nothing with the simulated camera.
"""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.frames import (
    POINT_LIMITS,
    STROBES_PX,
    KeyPose,
    PointAt,
    Walk,
    first_frames,
    holds_on,
    off_spacing,
    settled,
    slides,
    spaced,
    steps_px,
    strobing,
    walked,
)
from jungoptic.core.measure import SetFrame

from .filmed import laid, photograph
from .test_frames_watched import MARGIN, SIZE, clean, taken

HEIGHT, WIDTH = SIZE
MIDDLE = np.array([480.0, 270.0])
INSIDE, TIP = (500.0, 200.0), (480.0, 160.0)


def scene(figure: str, right: float, down: float) -> np.ndarray:
    """An upright cut-out of a photograph before a wall, gone so far."""
    rows, columns = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float32)
    far = np.hypot((columns - MIDDLE[0] - right) / 60.0, (rows - MIDDLE[1] - down) / 110.0)
    cover = np.clip(60.0 * (1.0 - far) + 0.5, 0.0, 1.0)[..., None]
    before = laid(photograph(figure, SIZE, MARGIN), (right, down), of=SIZE)
    return clean("brick") * (1.0 - cover) + before * cover


def point_off(frame: SetFrame, last: SetFrame, place, step=(0.0, 0.0)) -> tuple[float, float, float]:
    return frame.point_off(last, (place[0] / WIDTH, place[1] / HEIGHT), (step[0] / WIDTH, step[1] / HEIGHT))


@pytest.mark.parametrize("figure", ["gravel", "rocket"])
@pytest.mark.parametrize("right, down", [(0.0, 0.0), (0.4, 0.1), (3.3, 0.4), (7.9, -1.2), (14.2, 2.0)])
def test_a_point_is_found_again_within_a_tenth_of_a_pixel(figure: str, right: float, down: float):
    """Within the figure, and at its tip, of whose surroundings half is a wall that stands."""
    before, frame = taken(scene(figure, 0.0, 0.0), 1), taken(scene(figure, right, down), 2)
    for place in (INSIDE, TIP):
        found = point_off(frame, before, place)
        assert math.dist(found[:2], (right, down)) < 0.1
        assert found[2] < 0.5


def test_a_long_step_is_found_where_the_plan_takes_it():
    far = 52.0  # farther than it is looked for without a plan
    before, frame = taken(scene("gravel", 0.0, 0.0), 1), taken(scene("gravel", far, 0.0), 2)
    assert math.dist(point_off(frame, before, INSIDE, (45.0, 0.0))[:2], (far, 0.0)) < 0.1
    lost = point_off(frame, before, INSIDE)
    assert math.isnan(lost[0]) or math.dist(lost[:2], (far, 0.0)) < 0.1


def test_what_is_gone_or_at_the_rim_is_not_found():
    before, frame = taken(scene("gravel", 0.0, 0.0), 1), taken(clean("brick"), 2)
    assert math.isnan(point_off(frame, before, INSIDE)[0])
    assert math.isnan(point_off(before, before, (-40.0, 100.0))[0])
    assert math.isnan(point_off(before, before, (100.0, HEIGHT + 30.0))[0])
    stands = point_off(before, before, INSIDE, (5000.0, 0.0))
    assert stands[:2] == pytest.approx((0.0, 0.0), abs=0.05), "whatever the plan says"


def test_a_walk_through_photographs_adds_up():
    """Twelve poses found one from the other stray less than a third of a pixel in all."""
    went = 0.0
    frames = [taken(scene("gravel", 2.7 * step, 0.0), step) for step in range(12)]
    place = INSIDE[0]
    for last, frame in pairwise(frames):
        right, _, _ = point_off(frame, last, (place, INSIDE[1]), (2.7, 0.0))
        went, place = went + right, place + right
    assert went == pytest.approx(11 * 2.7, abs=0.3)


@given(st.floats(-40, 40), st.floats(-40, 40), st.floats(-8, 8), st.floats(-8, 8))
def test_a_step_that_is_off_is_said_by_how_much(right: float, down: float, wrong: float, more: float):
    before = PointAt((100.0, 100.0), (101.0, 99.0))
    here = PointAt((100.0 + right, 100.0 + down), (101.0 + right + wrong, 99.0 + down + more))
    told = {each.what: each for each in off_spacing("Beak", here, before, 1.5)}
    off = math.hypot(wrong, more)
    if off < POINT_LIMITS["spacing"].holds - 1e-9:
        assert "spacing" not in told
    elif off > POINT_LIMITS["spacing"].holds + 1e-9:
        assert told["spacing"].amount == pytest.approx(off)
    away = math.hypot(wrong + 1.0, more - 1.0)
    assert ("path" in told) == (away > POINT_LIMITS["path"].holds)


def test_a_point_without_a_plan_or_not_seen_says_nothing():
    there = PointAt((0.0, 0.0), (50.0, 0.0))
    assert off_spacing("Beak", PointAt(None, (50.0, 0.0)), there, None) == ()
    assert off_spacing("Beak", PointAt((0.0, 0.0), None), there, None) == ()
    [told] = off_spacing("Beak", there, PointAt((0.0, 0.0), None), None)
    assert (told.what, told.since) == ("path", "first")
    assert told.text == "Beak stands 50 px off its path: 50 right."


def test_what_goes_farther_than_blur_would_hide_strobes():
    keys = [KeyPose(1, 0.0, 0.0), KeyPose(25, 24 * (STROBES_PX - 1.0), 0.0)]
    ones = [tuple(place) for place in spaced(keys, range(1, 26))]
    assert strobing(ones) == ()
    twos = [tuple(place) for place in spaced(keys, range(1, 26, 2))]
    assert strobing(twos) == tuple(range(1, 13)), "on twos each step is twice as long"


def test_a_slide_is_the_most_that_a_foot_left_where_it_came_down():
    frames = (1, 3, 5, 7, 9)
    seen = [(10.0, 10.0), (10.0, 10.5), None, (12.0, 10.0), (50.0, 10.0)]
    first, second, unseen = slides([(1, 7), (8, 9), (20, 30)], frames, seen)
    assert (first.px, first.verdict) == (2.0, "tight")
    assert second.px is second.verdict is unseen.px is None, "seen at one pose only, or at none"


@given(
    st.integers(1, 60),
    st.integers(2, 30),
    st.integers(1, 9),
    st.floats(-90, 90).filter(lambda px: abs(px) > 0.1),
    st.floats(-20, 20),
    st.floats(0, 30),
    st.integers(1, 3),
)
def test_both_feet_walk_as_far_and_never_hang_together(begins, long, steps, right, down, lift, on):
    """Each foot stands while the other steps, both end beside one another, and none slides."""
    feet = [
        walked(Walk(300.0, 700.0, begins, long, steps, right, down, lift, leads)) for leads in (True, False)
    ]
    frames = first_frames(holds_on(begins + steps * long + 4, on))
    swings = []
    for keys, planted in feet:
        places = spaced(keys, frames) if len(keys) > 1 else np.tile((keys[0].x, keys[0].y), (len(frames), 1))
        for each in slides(planted, frames, [tuple(place) for place in places]):
            assert each.px is None or each.px == pytest.approx(0.0, abs=1e-6)
        stands = {frame for first, last in planted for frame in range(first, last + 1)}
        swings.append({*range(begins, begins + steps * long + 1)} - stands)
    assert not swings[0] & swings[1]
    ends = [(keys[-1].x, keys[-1].y) for keys, _ in feet]
    far = max(1, steps - 1)
    if steps > 1:
        assert ends[0] == pytest.approx(ends[1])
    assert ends[0] == pytest.approx((300.0 + far * right, 700.0 + far * down))


def test_a_foot_lifts_and_comes_down_where_it_should():
    keys, _ = walked(Walk(0.0, 500.0, 1, 12, 3, 40.0, lift_px=8.0))
    places = spaced(keys, range(1, 38))
    assert places[:, 1].min() == pytest.approx(492.0, abs=0.5)
    assert places[12:25] == pytest.approx(np.tile((40.0, 500.0), (13, 1)))
    steps = steps_px(places[:13])
    assert steps[[0, -1]].max() < steps[3:-3].min(), "it gathers speed and slows down"


def test_a_walk_without_time_and_a_settling_from_nowhere_are_refused():
    with pytest.raises(ValueError, match="2 frames"):
        walked(Walk(0.0, 0.0, 1, 1, 3, 10.0))
    with pytest.raises(ValueError, match="two keys"):
        settled([KeyPose(1, 0.0, 0.0)], 5.0, 3, 2)
    with pytest.raises(ValueError, match="one place"):
        settled([KeyPose(1, 0.0, 0.0), KeyPose(9, 0.0, 0.0)], 5.0, 3, 2)
    with pytest.raises(ValueError, match="all of its time"):
        spaced([KeyPose(1, 0.0, 0.0, eases_out=0.7), KeyPose(9, 5.0, 0.0, eases_in=0.4)], (1, 5))


def test_a_path_that_stands_between_two_keys_stands_there_exactly():
    far = (1800.0, 900.0)
    keys = [KeyPose(1, 0.0, 0.0), KeyPose(9, *far), KeyPose(17, *far), KeyPose(25, 0.0, 0.0)]
    assert (spaced(keys, range(9, 18)) == far).all()
