"""Build only what is seen, against a brute-force ray test; lines of the board; the cutting list."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Point

from jungoptic.core.errors import InputError
from jungoptic.core.match import Delivery, Layer, SetUp
from jungoptic.core.match.board import BoardLine
from jungoptic.core.match.compare import judge_member
from jungoptic.core.match.drawn import split_at
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.motion.move import Move
from jungoptic.core.plan.seen import Piece, View, only_establishing, seen_parts, used_twice
from jungoptic.core.plan.sheets import Sheet, lay_out, panels

VIEW = View(name="A", x_m=0, z_m=-4, height_m=1.6, f_px=1500, width_px=1920, height_px=1080)


def rotation_to_view(view: View) -> np.ndarray:
    """Rows are right, up and forward of the camera in the set; written here anew, from its angles."""
    turn, tilt = math.radians(view.heading_deg), math.radians(view.tilt_deg)
    forward = np.array([math.sin(turn) * math.cos(tilt), math.sin(tilt), math.cos(turn) * math.cos(tilt)])
    right = np.array([math.cos(turn), 0.0, -math.sin(turn)])
    return np.array([right, np.cross(forward, right), forward])


@given(st.floats(-80, 80), st.sampled_from([(1500, 1920), (400, 1920), (9000, 1000)]))
def test_the_edge_of_the_frame_is_half_the_angle_of_view_aside(heading: float, lens: tuple[float, float]):
    """Held against the projection that the ray test has of its own, so that the cone in the plan is what the
    camera sees.
    """
    view = VIEW.but(heading_deg=heading, f_px=lens[0], width_px=lens[1])
    aside = math.radians(heading + view.half_deg)
    x, _, z = rotation_to_view(view) @ np.array([math.sin(aside), 0.0, math.cos(aside)])
    assert view.f_px * x / z == pytest.approx(view.width_px / 2)


def on_piece(piece: Piece, u: float, v: float) -> np.ndarray:
    turn = math.radians(piece.turn_deg)
    along, away = (
        np.array([math.cos(turn), 0, math.sin(turn)]),
        np.array([-math.sin(turn), 0, math.cos(turn)]),
    )
    foot = np.array([piece.x_m, piece.base_m, piece.z_m]) + (u - piece.width_m / 2) * along
    return foot + v * (away if piece.lies else np.array([0.0, 1.0, 0.0]))


def hit(start: np.ndarray, towards: np.ndarray, piece: Piece) -> float | None:
    """Share of the way from ``start`` to ``towards`` at which the straight line meets the piece; None where
    it misses.
    """
    origin = on_piece(piece, 0, 0)
    edge_u, edge_v = on_piece(piece, piece.width_m, 0) - origin, on_piece(piece, 0, piece.height_m) - origin
    normal = np.cross(edge_u, edge_v)
    ray = towards - start
    slope = normal @ ray
    if abs(slope) < 1e-12:
        return None
    share = normal @ (origin - start) / slope
    at = start + share * ray - origin
    u, v = at @ edge_u / (edge_u @ edge_u), at @ edge_v / (edge_v @ edge_v)
    return share if 0 <= u <= 1 and 0 <= v <= 1 else None


def ray_sees(views: list[View], pieces: list[Piece], which: int, point: np.ndarray) -> bool:
    for view in views:
        eye = np.array([view.x_m, view.height_m, view.z_m])
        x, y, z = rotation_to_view(view) @ (point - eye)
        if (
            z <= 1e-6
            or abs(view.f_px * x / z) > view.width_px / 2
            or abs(view.f_px * y / z) > view.height_px / 2
        ):
            continue
        blocks = (hit(eye, point, piece) for n, piece in enumerate(pieces) if n != which)
        if not any(share is not None and 1e-9 < share < 1 - 1e-9 for share in blocks):
            return True
    return False


def a_set(rng: np.random.Generator) -> tuple[list[Piece], list[View]]:
    pieces = [Piece(name="Floor", x_m=0, z_m=-1, width_m=10, height_m=9, lies=True)]
    for n in range(int(rng.integers(3, 7))):
        pieces.append(
            Piece(
                name=f"Wall {n}",
                x_m=rng.uniform(-4, 4),
                z_m=rng.uniform(1, 7),
                turn_deg=rng.uniform(-180, 180),
                width_m=rng.uniform(0.5, 5),
                height_m=rng.uniform(0.5, 4),
                base_m=rng.choice([0.0, 0.0, 0.7]),
            )
        )
    views = [
        VIEW.but(
            name=f"V{n}",
            x_m=rng.uniform(-3, 3),
            z_m=rng.uniform(-4, 0),
            height_m=rng.uniform(0.4, 2.2),
            heading_deg=rng.uniform(-40, 40),
            tilt_deg=rng.uniform(-15, 15),
            f_px=rng.uniform(900, 4000),
        )
        for n in range(int(rng.integers(1, 4)))
    ]
    return pieces, views


@pytest.mark.parametrize("seed", range(8))
def test_what_is_seen_is_what_rays_reach(seed: int):
    """Method: straight lines from the lens to random points of every piece, with every other piece in the
    way
    (derived: pinhole).
    """
    rng = np.random.default_rng(seed)
    pieces, views = a_set(rng)
    parts = seen_parts(pieces, views)
    wrong = near_edge = 0
    for which, part in enumerate(parts):
        for _ in range(150):
            u, v = rng.uniform(0, part.piece.width_m), rng.uniform(0, part.piece.height_m)
            if part.region.boundary.distance(Point(u, v)) < 0.01:
                near_edge += 1
                continue
            wrong += part.region.contains(Point(u, v)) != ray_sees(
                views, pieces, which, on_piece(part.piece, u, v)
            )
    tried = 150 * len(parts) - near_edge
    assert tried > 300
    assert wrong == 0, f"{wrong} of {tried} points"


@pytest.mark.parametrize("seed", range(4))
def test_another_view_never_sees_less_and_another_wall_never_shows_more(seed: int):
    rng = np.random.default_rng(100 + seed)
    pieces, views = a_set(rng)
    one, all_of_them = seen_parts(pieces, views[:1]), seen_parts(pieces, views)
    assert all(a.area_m2 <= b.area_m2 + 1e-6 for a, b in zip(one, all_of_them, strict=True))
    wall = Piece(name="Another", x_m=0, z_m=2, width_m=1.5, height_m=1.5)
    blocked = seen_parts([*pieces, wall], views)
    assert all(b.area_m2 <= a.area_m2 + 1e-6 for a, b in zip(all_of_them, blocked[:-1], strict=True))
    assert all(part.area_m2 <= part.whole_m2 + 1e-6 for part in all_of_them)


def test_a_wall_across_the_view_is_seen_as_wide_as_the_frame():
    # derived (pinhole): at 10 m a frame of 1920 px at 1500 px focal length is 12.8 m wide and 7.2 m high;
    # 3.6
    # m of it below the lens
    wall = Piece(name="Wall", z_m=6, width_m=20, height_m=3)
    part = seen_parts([wall], [VIEW])[0]
    left, low, right, high = part.box_m
    assert right - left == pytest.approx(12.8) and (low, high) == pytest.approx((0.0, 3.0))
    assert part.finest_m == pytest.approx(10 / 1500)
    assert part.made_box_m(10)[2] - part.made_box_m(10)[0] == pytest.approx(12.8 * 1.1)


def test_a_piece_stands_on_the_floor_unless_it_hangs_high():
    # looking up from near: only what is above the frame's lower edge is seen
    near = VIEW.but(z_m=3.0, tilt_deg=12)
    part = seen_parts([Piece(name="Wall", z_m=6, width_m=3, height_m=4)], [near])[0]
    assert 0 < part.box_m[1] < 1.2 and part.made_box_m()[1] == 0
    high = seen_parts([Piece(name="Wall", z_m=6, width_m=3, height_m=4)], [VIEW.but(z_m=5.0, tilt_deg=60)])[0]
    assert high.made_box_m()[1] == pytest.approx(high.box_m[1]) and high.box_m[1] > 1.2


def test_what_stands_behind_the_lens_or_behind_a_wall_is_not_built():
    front = Piece(name="Front", z_m=2, width_m=30, height_m=12, base_m=-2)
    hidden, behind = Piece(name="Hidden", z_m=4), Piece(name="Behind", z_m=-6)
    parts = seen_parts([front, hidden, behind], [VIEW])
    assert [part.by for part in parts] == [("A",), (), ()]
    assert parts[1].made_box_m() is None and math.isinf(parts[1].finest_m)


def test_wheels_and_the_one_wide_view():
    left = Piece(name="Left", x_m=-8, z_m=6, width_m=2, height_m=2, wheels=True)
    right = Piece(name="Right", x_m=8, z_m=6, width_m=2.1, height_m=2, wheels=True)
    to_left, to_right = (VIEW.but(name=name, heading_deg=turn) for name, turn in (("L", -39), ("R", 39)))
    parts = seen_parts([left, right], [to_left, to_right])
    assert [(one.first, one.second) for one in used_twice(parts)] == [("Left", "Right")]
    assert used_twice(parts)[0].saves_m2 == pytest.approx(4.0, rel=0.01)
    both = VIEW.but(name="Wide", z_m=-30, establishing=True)
    assert used_twice(seen_parts([left, right], [to_left, to_right, both])) == ()
    assert used_twice(seen_parts([left, right.but(wheels=False)], [to_left, to_right])) == ()
    assert used_twice(seen_parts([left, right.but(width_m=3)], [to_left, to_right])) == ()
    parts = seen_parts([left, right], [to_left, both])
    assert only_establishing(parts, [to_left, both]) == ("Right",)


# --- sheets


def test_a_wall_at_its_scale_in_both_units():
    # by hand: 12 × 4.2 m at 1:12 is 1000 × 350 mm = 39.37 × 13.78 in (1 in = 25.4 mm, ISO 31-1, from memory)
    cut = lay_out(panels("Wall", 12, 4.2, 12, Sheet()), Sheet()).cuts[0]
    assert (cut.width_mm, cut.height_mm) == pytest.approx((1000, 350))
    assert cut.inches == pytest.approx((39.37, 13.78), abs=0.005)


def test_what_is_larger_than_a_sheet_is_made_of_equal_panels():
    # by hand: 6.1 × 2.8 m from 1.22 × 2.44 m: standing 5 × 2 panels of 1.22 × 1.4, lying 3 × 3 of 2.03 ×
    # 0.93: the second is fewer
    found = panels("Back wall", 6.1, 2.8, 1, Sheet())
    assert len(found) == 9 and found[0] == ("Back wall 1/9", pytest.approx(6100 / 3), pytest.approx(2800 / 3))


@settings(max_examples=60)
@given(
    st.lists(st.tuples(st.floats(20, 1220), st.floats(20, 2440)), min_size=1, max_size=30), st.floats(0, 6)
)
def test_cuts_lie_on_their_sheet_and_never_on_each_other(sizes, kerf):
    sheet = Sheet(kerf_mm=kerf)
    wanted = [(f"{n}", width, height) for n, (width, height) in enumerate(sizes)]
    found = lay_out(wanted, sheet)
    assert sorted(cut.name for cut in found.cuts) == sorted(name for name, _, _ in wanted)
    rows = []
    for cut in found.cuts:
        width, height = (cut.height_mm, cut.width_mm) if cut.turned else (cut.width_mm, cut.height_mm)
        assert cut.x_mm >= 0 and cut.x_mm + width <= sheet.width_mm + 1e-6
        assert cut.y_mm >= 0 and cut.y_mm + height <= sheet.height_mm + 1e-6
        for other, x, y, w, h in rows:
            if other == cut.sheet:
                apart = (
                    cut.x_mm >= x + w + kerf - 1e-6
                    or x >= cut.x_mm + width + kerf - 1e-6
                    or cut.y_mm >= y + h + kerf - 1e-6
                    or y >= cut.y_mm + height + kerf - 1e-6
                )
                assert apart, (cut, other)
        rows.append((cut.sheet, cut.x_mm, cut.y_mm, width, height))
    area = sum(w * h for _, w, h in wanted)
    assert found.sheets >= math.ceil(area / (sheet.width_mm * sheet.height_mm) - 1e-9)
    assert 0 < found.used <= 1 + 1e-9 and found.price == found.sheets * sheet.price


# --- lines of the board


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
    sea = Layer(
        name="Sea",
        kind="live",
        combine="base",
        near_m=6,
        depth_m=100,
        width_m=20,
        height_m=4,
        fills_frame=True,
    )
    members = [*(Member(one, hero, n + 2, False) for n, one in enumerate(layers)), Member(sea, hero, 1, True)]
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
    assert VIEW.after("pan", 200).heading_deg == pytest.approx(-160)
    assert VIEW.after("tilt", 120).tilt_deg == 89  # no further than straight up
    slid, pushed = east.after("slide", 2), east.after("push", 3)
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
    where it stands
    when the line is over the horizon, nearer when it is under it; always before the airship at 60 m."""
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
