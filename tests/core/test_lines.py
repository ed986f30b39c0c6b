"""Lines of the board: what they refuse, what crosses them, what they say."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core.errors import InputError
from jungoptic.core.match import Delivery, Layer, SetUp
from jungoptic.core.match.board import BoardLine
from jungoptic.core.match.compare import judge_member
from jungoptic.core.match.drawn import split_at
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.motion.move import Move
from jungoptic.core.plan import View

from .test_seen import VIEW
from .test_stack import SEA


@pytest.mark.parametrize(
    ("values", "field", "said"),
    [
        ({"kind": "matte", "points": [[1, 1]]}, "points", "at least 2 points; 1 were drawn"),
        ({"kind": "framing", "points": [[1, 1], [1, 400]]}, "points", "has no size"),
        ({"kind": "tracking", "points": [[1, 1], [2, 2]]}, "points", "1 point"),
        (
            {"kind": "paint_out", "points": [[0, 0], [9, 0], [9, 9]], "first_frame": 20, "last_frame": 10},
            "last_frame",
            "at least 20",
        ),
        ({"kind": "matte", "points": [[0, 0], [math.nan, 3]]}, "points", "must be a number"),
        ({"kind": "scribble", "points": [[0, 0]]}, "kind", "matte"),
    ],
)
def test_a_line_that_means_nothing_is_refused(values, field, said):
    with pytest.raises(InputError) as refused:
        BoardLine.read(values)
    problem = refused.value.problems[0]
    assert problem.field.startswith(field) and said in problem.message


def test_share_frames_and_crossings_of_a_line():
    # by hand: 192 × 108 px of 1920 × 1080 is one per cent
    zone = BoardLine(
        kind="paint_out", points=((0, 0), (192, 0), (192, 108), (0, 108)), first_frame=10, last_frame=500
    )
    assert zone.share_pct(1920, 1080) == pytest.approx(1.0)
    assert zone.frames(96) == 86 and zone.frames(5) == 0
    outside = BoardLine(kind="paint_out", points=((-192, 0), (192, 0), (192, 108), (-192, 108)))
    assert outside.share_pct(1920, 1080) == pytest.approx(1.0)
    roof = BoardLine(kind="matte", points=((0, 300), (400, 100), (800, 300)))
    assert (
        roof.y_at(200) == pytest.approx(200)
        and roof.y_at(400) == pytest.approx(100)
        and roof.y_at(900) is None
    )
    assert roof.x_at(200, rightmost=True) == pytest.approx(600) and roof.x_at(
        200, rightmost=False
    ) == pytest.approx(200)


def drawn_stack(
    hero: SetUp, *lines: BoardLine, layers: tuple[Layer, ...] = (), move: Move | None = None
) -> Stack:
    members = [*(Member(one, hero, n + 2, False) for n, one in enumerate(layers)), Member(SEA, hero, 1, True)]
    delivery = Delivery() if move is None else Delivery(move=move)
    return Stack(
        ShotPlan(lines=lines), delivery, hero, tuple(sorted(members, key=lambda one: one.layer.near_m))
    )


def item(stack: Stack, key: str, at: int = 0):
    return next((one for one in judge_member(stack, at)[1] if one.item == key), None)


def place_of(stack: Stack, name: str) -> int:
    return next(at for at, one in enumerate(stack.members) if one.layer.name == name)


def test_where_a_camera_stands_after_a_part_of_its_move():
    """By hand, for one that looks east (heading 90°): right is south, forward is east."""
    east = VIEW.but(heading_deg=90)

    def after(view: View, kind: str, amount: float) -> View:
        return view.after(Move(kind=kind, amount=amount), 1.0, 4.0)

    assert after(VIEW, "pan", 200).heading_deg == pytest.approx(-160)
    assert after(VIEW, "tilt", 120).tilt_deg == 89  # no further than straight up
    assert after(VIEW, "boom", 2).height_m == pytest.approx(VIEW.height_m + 2)
    assert after(VIEW, "zoom", 50).f_px == pytest.approx(VIEW.f_px * 1.5)
    round_it = after(VIEW, "arc", 90)  # round a point 4 m ahead: beside it, looking back across
    assert (round_it.x_m, round_it.z_m) == pytest.approx((VIEW.x_m + 4, VIEW.z_m + 4))
    assert round_it.heading_deg == pytest.approx(-90)
    slid, pushed = after(east, "slide", 2), after(east, "push", 3)
    assert (slid.x_m, slid.z_m) == pytest.approx((0, -6)) and (pushed.x_m, pushed.z_m) == pytest.approx(
        (3, -4)
    )
    assert slid.heading_deg == pushed.heading_deg == 90


LENS_HEIGHT_M = 1.6


# derived: the 35 mm lens focused at 12 m, in delivered pixels
F_PX = 35 * 12000 / (12000 - 35) * 1920 / 23.5


def mast_and_line(height_m: float, near_m: float, line_y: float) -> tuple[Stack, Layer, BoardLine]:
    """A mast before a painted airship that is cut along a level line."""
    line = BoardLine(kind="matte", points=((0, line_y), (1920, line_y)), layer="Airship")
    mast = Layer(name="Mast", kind="live", combine="hand_matte", near_m=near_m, width_m=1, height_m=height_m)
    return mast_stack(mast, line), mast, line


def mast_stack(mast: Layer, line: BoardLine) -> Stack:
    hero = SetUp(
        focal_length_mm=35,
        f_number=8,
        focus_distance_m=12,
        gate_width_mm=23.5,
        gate_height_mm=13.2,
        recorded_width_px=3840,
        recorded_height_px=2160,
        distance_m=12,
        lens_height_m=LENS_HEIGHT_M,
        capture_fps=24,
        iso=800,
        illuminance_lx=960,
    )
    ship = Layer(
        name="Airship", kind="painted", combine="behind", near_m=60, width_m=10, height_m=4, base_m=5
    )
    return drawn_stack(hero, line, layers=(mast, ship))


@settings(max_examples=40)
@given(height=st.floats(0.5, 6), distance=st.floats(5, 40), line_y=st.floats(100, 900))
def test_a_thing_over_a_drawn_matte_line_shows_by_what_stands_over_it(height, distance, line_y):
    stack, _, _ = mast_and_line(height, distance, line_y)
    # derived (pinhole): y = 540 − f·(h − 1.6)/d from the top, f in px
    over = line_y - (540 - F_PX * (height - LENS_HEIGHT_M) / distance)
    assert item(stack, "matte_line", place_of(stack, "Mast")).amount == pytest.approx(
        max(0.0, over), abs=0.01
    )


@st.composite
def masts_over_a_line(draw: st.DrawFn) -> tuple[float, float, float, float]:
    """Height, distance, line, and the distance at which the mast's top just touches the line: further than
    where it stands when the line is over the horizon, nearer when it is under it; always before the airship
    at 60 m.
    """
    above = draw(st.booleans())
    line_y = draw(st.floats(100, 500) if above else st.floats(580, 900))
    furthest = min(50.0, 8.0 * F_PX / (540 - line_y)) if above else min(23.0, 1.3 * F_PX / (line_y - 540))
    touching_m = draw(st.floats(6.0, furthest))
    share = draw(st.floats(0.4, 0.9))
    return (
        LENS_HEIGHT_M + touching_m * (540 - line_y) / F_PX,
        touching_m * share if above else touching_m / share,
        line_y,
        touching_m,
    )


@settings(max_examples=40)
@given(masts_over_a_line())
def test_the_distance_at_which_a_thing_stays_under_a_drawn_matte_line_is_true(case):
    """The distance that the fix gives is put back into the comparison: there the thing just touches the
    line.
    """
    height, distance, line_y, touching_m = case
    stack, mast, line = mast_and_line(height, distance, line_y)
    found = item(stack, "matte_line", place_of(stack, "Mast"))
    moved = [fix.changes["near_m"] for fix in found.fixes if "near_m" in fix.changes]
    assert moved == [pytest.approx(touching_m, rel=0.01)]
    there = mast_stack(mast.but(near_m=moved[0]), line)
    assert item(there, "matte_line", place_of(there, "Mast")).amount <= 1.0


def test_a_zone_that_stays_clear_and_a_mark_that_stays_in(hero: SetUp):
    zone = BoardLine(
        kind="keep_clear", points=((900, 500), (1020, 500), (1020, 900), (900, 900)), note="the far mill"
    )
    actor = Layer(name="Actor", kind="live_element", combine="key", near_m=5, width_m=0.6, height_m=1.7)
    inside = item(drawn_stack(hero, zone, layers=(actor,)), "keep_clear")
    assert inside.verdict == "shows" and "the far mill" in inside.sentence
    beside = item(drawn_stack(hero, zone, layers=(actor.but(offset_m=1.5),)), "keep_clear")
    assert (beside.amount, beside.verdict) == (0, "holds")
    mark = BoardLine(kind="tracking", points=((1800, 300),), thing="chimney")
    still = drawn_stack(hero, mark)
    assert item(still, "tracking_mark").verdict == "holds"
    # derived: the mark stands 16.3° right of the middle; a pan of 20° to the left takes it out of the frame
    gone = item(drawn_stack(hero, mark, move=Move(kind="pan", amount=-20, end_frame=48)), "tracking_mark")
    assert gone.verdict == "shows" and "chimney leaves the frame" in gone.sentence
    covered = item(drawn_stack(hero, mark.but(points=((960, 640),)), layers=(actor,)), "tracking_mark", 1)
    assert covered.verdict == "shows" and "covered by Actor" in covered.sentence


def test_a_slanted_split_is_held_against_the_heights_that_are_used(hero: SetUp):
    # by hand: the line runs from 900 at the top to 1020 at the foot: 930 at a quarter, 990 at three quarters
    line = BoardLine(kind="split", points=((900, 0), (1020, 1080)), feather_px=12)
    assert split_at(drawn_stack(hero, line), "left", 270, 810) == (pytest.approx(930), 12)
    assert split_at(drawn_stack(hero, line), "right", 270, 810) == (pytest.approx(990), 12)
    assert split_at(drawn_stack(hero, line), "left", 1200, 1300) is None


def test_what_is_cut_out_by_a_matte_of_its_own_is_not_held_against_a_drawn_line():
    stack, mast, line = mast_and_line(8.0, 12.0, 600)
    assert item(stack, "matte_line", place_of(stack, "Mast")).amount > 100
    for free in ({"combine": "key"}, {"combine": "screen"}, {"kind": "black_element"}, {"fills_frame": True}):
        other = mast_stack(mast.but(**free), line)
        assert item(other, "matte_line", place_of(other, "Mast")) is None, free


def test_lines_of_the_board_say_in_words_what_they_found(hero: SetUp):
    zone = BoardLine(
        kind="keep_clear", points=((900, 500), (1020, 500), (1020, 900), (900, 900)), note="the far mill"
    )
    post = Layer(name="Post", kind="live_element", combine="key", near_m=5, width_m=0.1, height_m=1.7)
    inside = item(drawn_stack(hero, zone, layers=(post,)), "keep_clear")
    # by hand: 0.1 m at 5 m, 0.02 of f
    wide = f"{0.02 * F_PX:.0f} px"
    assert (inside.where, inside.sentence) == ("in it", f"Post stands {wide} in the far mill.")
    assert [value.text for value in inside.values()] == [f"{0.02 * F_PX:.1f} px"]
    clear = item(drawn_stack(hero, zone, layers=(post.but(offset_m=1.5),)), "keep_clear")
    assert (clear.where, clear.sentence) == ("clear", "Post stays out of the far mill.")
    marks = tuple(BoardLine(kind="tracking", points=((x, 300),)) for x in (400, 1800))
    seen = item(drawn_stack(hero, *marks), "tracking_mark")
    assert (seen.where, seen.sentence) == ("seen", "2 marks: stay in the frame, uncovered.")
    gone = item(drawn_stack(hero, marks[1], move=Move(kind="pan", amount=-20, end_frame=48)), "tracking_mark")
    assert gone.where == "lost" and gone.sentence.startswith("1 mark: the mark leaves the frame by ")


def test_a_tilt_takes_a_mark_out_at_the_foot(hero: SetUp):
    # derived: the camera tilts up by 10°, so the mark goes down: from atan(260/f) under the middle to 10°
    # more
    mark = BoardLine(kind="tracking", points=((960, 800),), thing="stone")
    stack = drawn_stack(hero, mark, move=Move(kind="tilt", amount=10, end_frame=48))
    expected = F_PX * math.tan(math.atan(260 / F_PX) + math.radians(10)) + 540 - 1080
    assert item(stack, "tracking_mark").amount == pytest.approx(expected, rel=1e-6) and expected > 0


def test_the_final_framing_enlarges_what_it_crops(hero: SetUp):
    # by hand: 960 of 1920 px with 3840 recorded across is 3840/1920 · 0.5: nothing is enlarged; 480 px
    # enlarge to 200 %
    half = BoardLine(kind="framing", points=((480, 270), (1440, 810)))
    assert item(drawn_stack(hero, half), "final_framing").amount == pytest.approx(0, abs=1e-6)
    quarter = BoardLine(kind="framing", points=((720, 405), (1200, 675)))
    found = item(drawn_stack(hero, quarter), "final_framing")
    assert found.amount == pytest.approx(100, abs=0.1) and found.verdict == "shows"
    square = item(
        drawn_stack(hero, BoardLine(kind="framing", points=((480, 270), (1020, 810)))), "final_framing"
    )
    assert "draw it to shape" in square.sentence
