"""The geared rig and the spacing of a figure: moves that sum up exactly, a live plate's move repeated in a
model as a camera sees it, paths against closed forms.
"""

from __future__ import annotations

import math

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.frames import (
    PHOTOGRAPHED,
    STROBES_PX,
    KeyPose,
    Leg,
    counted,
    eased_share,
    first_frames,
    holds_on,
    leg_of,
    mm_per_turn,
    next_pose,
    planned_mm,
    regrouped,
    rig_positions,
    settles,
    spaced,
    steps_px,
    stretch_of,
    turnings,
)
from jungoptic.core.motion import Move

MARKS = 10
FOCAL_PX = 2200.0


@st.composite
def moves(draw: st.DrawFn) -> Move:
    begins = draw(st.integers(0, 40))
    long = draw(st.integers(2, 300))
    ease_in = draw(st.integers(0, long))
    ease_out = draw(st.integers(0, long - ease_in))
    return Move(
        kind=draw(st.sampled_from(("slide", "boom", "push"))),
        amount=draw(st.floats(-8, 8).filter(lambda amount: abs(amount) > 0.01)),
        start_frame=begins,
        end_frame=begins + long,
        ease_in_frames=ease_in,
        ease_out_frames=ease_out,
    )


@given(moves(), st.integers(1, 4), st.floats(1, 24), st.floats(0.1, 5), st.sampled_from((1, 4, 10, 12)))
def test_the_marks_of_a_move_sum_up_to_all_of_it(
    move: Move, on: int, scale: float, turn_mm: float, marks: int
):
    frames = first_frames(holds_on(move.end_frame + 2 * on, on))
    wanted = planned_mm([leg_of(move, scale)], (1, *frames, move.end_frame + 1))
    positions = rig_positions(wanted, turn_mm, marks)
    whole = 1000.0 * move.amount / scale
    mark_mm = turn_mm / marks
    assert wanted[0] == 0.0 and wanted[-1] == pytest.approx(whole)
    assert sum(each.by for each in turnings(positions, 5)) == positions[-1] - positions[0]
    assert abs(positions[-1] * mark_mm - whole) <= mark_mm / 2 + 1e-6
    for mm, position in zip(wanted, positions, strict=True):
        assert abs(position * mark_mm - mm) <= mark_mm / 2 + 1e-6
    steps = [each.by for each in turnings(positions, 5)]
    assert all(step * move.amount >= 0 for step in steps[:-1])  # it never goes the other way


@given(st.lists(st.integers(-500, 500), min_size=2, max_size=30), st.integers(1, 20))
def test_the_rig_comes_to_rest_forwards_each_time(positions: list[int], take_up: int):
    here = positions[0]
    for turning in turnings(positions, take_up):
        beyond = here + turning.by - turning.beyond
        assert turning.to >= beyond and (turning.by < 0) == (turning.beyond > 0)
        assert turning.beyond in (0, take_up)
        here = turning.to
    assert here == positions[-1]


def test_a_rig_of_three_steps_stands_between_them_and_ends_where_it_must():
    legs = [
        Leg(mm=75, start_frame=begins, end_frame=begins + 24, ease_in_frames=8, ease_out_frames=8)
        for begins in (17, 65, 113)
    ]
    frames = first_frames(holds_on(168, 2))
    positions = rig_positions(planned_mm(legs, frames), 0.4, MARKS)
    assert positions[0] == 0 and positions[-1] == round(225 / 0.4 * MARKS)
    standing = {position for frame, position in zip(frames, positions, strict=True) if 41 <= frame <= 65}
    assert standing == {round(75 / 0.4 * MARKS)}
    for wrong in ({"end_frame": 17}, {"ease_in_frames": 20, "ease_out_frames": 20}):
        with pytest.raises(ValueError):
            Leg.model_validate({"mm": 75, "start_frame": 17, "end_frame": 41, **wrong})


def test_gears_multiply_and_what_is_none_is_refused():
    assert mm_per_turn(2.0, [(12, 60)]) == pytest.approx(0.4)  # the track of the demo
    assert mm_per_turn(math.pi * 1.0 * 20) == pytest.approx(62.83, abs=0.01)  # a pinion of 20 teeth, module 1
    assert mm_per_turn(1.5, [(20, 40), (15, 45)]) == pytest.approx(0.25)
    for lead, pairs in ((0.0, ()), (2.0, [(0, 4)]), (2.0, [(4, 0)]), (-1.0, ())):
        with pytest.raises(ValueError):
            mm_per_turn(lead, pairs)


def test_a_live_plates_slide_is_repeated_in_the_model_as_a_camera_sees_it():
    """Points of a world and of its model at 1:12, by OpenCV's camera at each pose: within half a mark."""
    scale, turn_mm = 12.0, 0.4
    move = Move(kind="slide", amount=1.2, start_frame=6, end_frame=90, ease_in_frames=20, ease_out_frames=30)
    frames = first_frames(holds_on(96, 2))
    positions = rig_positions(planned_mm([leg_of(move, scale)], frames), turn_mm, MARKS)
    dice = np.random.default_rng(2)
    points = np.column_stack([dice.uniform(-3, 3, 20), dice.uniform(-1, 1, 20), dice.uniform(6, 30, 20)])
    lens = np.array([[FOCAL_PX, 0, 960], [0, FOCAL_PX, 540], [0, 0, 1.0]])
    nearest = points[:, 2].min()
    for frame, position in zip(frames, positions, strict=True):
        metres = position / MARKS * turn_mm / 1000.0
        full, _ = cv2.projectPoints(
            points, np.zeros(3), np.array([-move.done_at(frame - 1), 0, 0]), lens, None
        )
        small, _ = cv2.projectPoints(points / scale, np.zeros(3), np.array([-metres, 0, 0]), lens, None)
        half_mark = turn_mm / MARKS / 2000.0 * scale
        assert np.abs(full - small).max() <= FOCAL_PX * half_mark / nearest + 1e-6
    for kind in ("none", "pan", "zoom", "arc"):
        assert leg_of(Move(kind=kind, amount=10), scale) is None


@pytest.mark.parametrize(
    "count, marks, text",
    [
        (34, 10, "3 turns and 4 tenths"),
        (10, 10, "1 turn"),
        (-25, 10, "2 turns and 5 tenths back"),
        (1, 10, "1 tenth"),
        (1, 2, "1 half"),
        (7, 7, "1 turn"),
        (8, 7, "1 turn and 1 mark"),
        (0, 4, "no turn"),
    ],
)
def test_a_count_is_spoken_as_a_crew_does(count: int, marks: int, text: str):
    assert counted(count, marks) == text


@given(st.floats(0, 1), st.floats(0, 1), st.floats(0, 1))
def test_an_ease_begins_at_nothing_ends_at_all_and_never_goes_back(out: float, into: float, t: float):
    into = min(into, 1.0 - out)
    assert eased_share(0.0, out, into) == 0.0 and eased_share(1.0, out, into) == pytest.approx(1.0)
    assert eased_share(t, out, into) <= eased_share(min(t + 0.01, 1.0), out, into) + 1e-12
    # the other way round it is the same ease
    assert eased_share(t, out, into) == pytest.approx(1.0 - eased_share(1.0 - t, into, out), abs=1e-9)


def test_steps_against_closed_forms():
    # even steps along a line
    line = spaced([KeyPose(1, 0, 0), KeyPose(13, 120, 160)], range(1, 14))
    assert steps_px(line) == pytest.approx(200 / 12)
    # eased all the way: constant acceleration, then as much against it; 2·(t/T)² up to the middle
    eased = spaced([KeyPose(1, 0, 0, 0, 0.5), KeyPose(13, 144, 0, 0.5, 0)], range(1, 14))
    assert eased[:7, 0] == pytest.approx([2 * 144 * (n / 12) ** 2 for n in range(7)])
    assert steps_px(eased).max() == pytest.approx(144 * 2 * (36 - 25) / 144)
    # a curve through poses on a circle stays near it, and goes by length; straight, it cuts the corner
    keys = [KeyPose(1 + 6 * n, 300 * math.cos(n * 0.5), 300 * math.sin(n * 0.5)) for n in range(7)]
    arc = spaced(keys, range(7, 31))
    assert np.abs(np.hypot(*arc.T) - 300).max() < 1.0
    assert steps_px(arc) == pytest.approx(300 * 0.5 / 6, rel=0.01)
    straight = spaced(keys, range(7, 31), arcs=False)
    assert np.hypot(*straight.T).min() == pytest.approx(300 * math.cos(0.25), rel=1e-3)
    for number, key in enumerate(keys):
        assert spaced(keys, [1 + 6 * number])[0] == pytest.approx((key.x, key.y))


def test_it_stands_before_the_first_key_and_after_the_last_and_strobes_where_it_is_too_fast():
    keys = [KeyPose(5, 10, 10), KeyPose(9, 130, 10)]
    places = spaced(keys, range(1, 14))
    assert places[:5].tolist() == [[10, 10]] * 5 and places[8:].tolist() == [[130, 10]] * 5
    assert (steps_px(places) > STROBES_PX).sum() == 4
    with pytest.raises(ValueError):
        spaced(keys[:1], (1, 2))
    with pytest.raises(ValueError):
        spaced(keys[::-1], (1, 2))


def test_what_stops_settles_by_half_each_time():
    assert settles(8, 4) == (8, -4, 2, 0)
    assert settles(8, 1) == (0,) and settles(8, 0) == ()


@given(
    st.lists(
        st.tuples(st.integers(1, 6), st.sampled_from((0, 1, 2, 3, PHOTOGRAPHED))), min_size=1, max_size=40
    ),
    st.integers(1, 6),
)
def test_a_span_stays_as_long_as_it_was_and_loses_nothing_that_was_photographed(span, on: int):
    holds, weights = ([each[at] for each in span] for at in (0, 1))
    taken = [place for place, weight in enumerate(weights) if weight >= PHOTOGRAPHED]
    try:
        lines = regrouped(holds, weights, on)
    except ValueError:
        begins = first_frames(holds)
        assert len({(begins[place] - 1) // on for place in taken}) < len(taken)
        return
    assert sum(hold for _, hold in lines) == sum(holds) and {hold for _, hold in lines[:-1]} <= {on}
    kept = [place for place, _ in lines if place is not None]
    assert kept == sorted(set(kept)) and {*taken} <= {*kept}


def test_the_next_pose_is_behind_the_last_once_all_its_passes_are_there():
    assert [next_pose(there, 1) for there in ((), (0, 0), (1, 0), (1, 1))] == [-1, 0, 1, 1]
    assert [next_pose(there, 2) for there in ((1, 0), (2, 0), (0, 1, 0))] == [0, 1, 1]


def test_a_stretch_of_work_begins_behind_the_last_break():
    assert stretch_of([]) is None
    one = stretch_of([100.0])
    assert one is not None and (one.began_s, one.over_s) == (100.0, 1300.0)
    late = stretch_of([5000.0, 0.0, 1200.0, 6200.0, 2401.0])  # 1200 s are no break, 1201 s are one
    assert late is not None and (late.began_s, late.over_s) == (5000.0, 7400.0)
