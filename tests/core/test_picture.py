"""The view through the lens: it stands where the projection says, and shows exposure, blur, light and haze as
set.
"""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from jungoptic.core.light.placed import Backing, PlacedLamp
from jungoptic.core.match import Delivery, Layer, Moment, SetUp
from jungoptic.core.match.layer import Part
from jungoptic.core.match.measure import Match
from jungoptic.core.match.stack import Member, ShotPlan
from jungoptic.core.motion.move import Move
from jungoptic.core.plan.scales import choose_scale
from jungoptic.core.plan.scope import Shared
from jungoptic.core.plan.solve import solve
from jungoptic.core.stage.drawings import outlines
from jungoptic.core.stage.picture import blurred, encoded, jpeg, linear_rgb
from jungoptic.core.stage.render import render
from jungoptic.core.stage.sheet import colour_of_k, light_map, sheet_seen
from tests.core.test_stack import stack_of

WHITE = Part(name="Board", points=((-0.5, 0.6), (-0.5, 1.6), (0.5, 1.6), (0.5, 0.6)), colour="#ffffff")
GROUND = Part(name="Ground", lies=True, points=((-9, 0), (9, 0), (9, 80), (-9, 80)), colour="#303030")


@pytest.fixture
def board() -> Layer:
    return Layer(name="Board", kind="painted", near_m=6, width_m=1, height_m=1, parts=(WHITE,))


def picture(hero: SetUp, *members: Member, width: int = 480, **options):
    delivery = options.pop("delivery", None)
    plan = options.pop("plan", None)
    return render(stack_of(hero, *members, delivery=delivery, plan=plan), width, **options).astype(float)


def test_it_has_the_shape_of_the_delivery_and_is_the_same_every_time(hero, board):
    one, two = (picture(hero, Member(board, None, None)) for _ in range(2))
    assert one.shape == (270, 480, 3)
    assert (one == two).all()


def test_a_board_stands_where_the_projection_puts_it(hero, board):
    seen = picture(hero, Member(board, None, None), width=1920)
    outline = np.array(outlines(Match(hero, board, None, Delivery()))[0].points)
    rows, columns = np.nonzero(seen.min(axis=2) > 200)
    assert (columns.min(), columns.max()) == pytest.approx((outline[:, 0].min(), outline[:, 0].max()), abs=2)
    assert (rows.min(), rows.max()) == pytest.approx((outline[:, 1].min(), outline[:, 1].max()), abs=2)


def test_projection_in_a_move_agrees_with_a_camera_that_turns(hero, board):
    """Held against OpenCV: a pan of 10° is a turn of the camera by 10°."""
    match = Match(hero, board, None, Delivery(move=Move(kind="pan", amount=10)))
    drawn = np.array(outlines(match, Moment(share=1.0))[0].points)
    corners = board.wire.starts + np.array([0, board.base_m - hero.lens_height_m, board.near_m])
    flip = np.diag([1.0, -1.0, 1.0])
    turn = cv2.Rodrigues(np.array([0.0, np.radians(10), 0.0]))[0]
    f = match.f_hero_px
    camera = np.array([[f, 0, 960], [0, f, 540], [0, 0, 1.0]])
    expected, _ = cv2.projectPoints(corners @ flip, cv2.Rodrigues(turn.T)[0], np.zeros(3), camera, None)
    assert drawn == pytest.approx(expected.reshape(-1, 2), abs=0.02)


def test_a_stop_less_light_is_half_the_light(hero):
    lit = Layer(
        name="Board",
        kind="live_element",
        near_m=6,
        width_m=1,
        height_m=1,
        parts=(WHITE.but(colour="#606060"),),
    )
    one, half = (
        picture(hero, Member(lit, hero.but(distance_m=6, focus_distance_m=6, illuminance_lx=lux), 2))
        for lux in (960, 480)
    )
    middle = (slice(160, 200), slice(225, 255))
    assert linear(half[middle]) / linear(one[middle]) == pytest.approx(0.5, abs=0.03)


def linear(pixels: np.ndarray) -> float:
    value = pixels.mean() / 255
    return float(((value + 0.055) / 1.055) ** 2.4)


def test_out_of_focus_spreads_an_edge_and_keeps_the_light(hero, board):
    filmed = board.but(kind="live_element")
    sharp = hero.but(distance_m=6, focus_distance_m=6, f_number=2.0, illuminance_lx=60)
    soft = sharp.but(focus_distance_m=1.5)
    edges = [
        np.abs(np.diff(picture(hero, Member(filmed, one, 2), width=960)[:, 480, 1])).max()
        for one in (sharp, soft)
    ]
    assert edges[1] < edges[0] / 2
    spot = np.zeros((101, 101, 4), np.float32)
    spot[40:61, 40:61] = 1
    for diameter in (3, 7.5, 24, 40):
        assert blurred(spot, diameter).sum() == pytest.approx(spot.sum(), rel=0.02)


def test_the_side_that_the_key_strikes_is_brighter(hero):
    box = Part(
        name="Box",
        points=((-0.5, 0.0), (-0.5, 1.6), (0.5, 1.6), (0.5, 0.0)),
        colour="#808080",
        thickness_m=1.5,
    )
    layer = Layer(
        name="Box", kind="live_element", near_m=5, offset_m=1.2, width_m=1, height_m=1.6, parts=(box,)
    )
    setup = hero.but(distance_m=5, focus_distance_m=5)
    from_left, from_right = (
        picture(hero, Member(layer, setup.but(key_azimuth_deg=side, key_elevation_deg=10), 2))
        for side in (-90, 90)
    )
    side_face = (
        slice(150, 180),
        slice(322, 336),
    )  # the box's left side, seen because it stands to the right of the lens
    assert from_left[side_face].mean() > 1.3 * from_right[side_face].mean()


def test_haze_brings_the_far_nearer_to_the_air(hero, board):
    dark = Layer(
        name="Post",
        kind="live",
        near_m=40,
        width_m=8,
        height_m=8,
        parts=(WHITE.but(colour="#000000", points=((-4, 0), (-4, 8), (4, 8), (4, 0))),),
    )
    clear = picture(hero, Member(dark, hero, 1))[100:130, 230:250].mean()
    misty = picture(hero, Member(dark, hero, 1), plan=ShotPlan(visibility_m=80))[100:130, 230:250].mean()
    assert misty > clear + 40


def test_combining_adds_screens_and_multiplies(hero, board):
    base = Layer(
        name="Wall",
        kind="painted",
        near_m=8,
        width_m=9,
        height_m=9,
        parts=(WHITE.but(colour="#404040", points=((-5, -2), (-5, 6), (5, 6), (5, -2))),),
    )
    grey = board.but(parts=(WHITE.but(colour="#808080"),))
    spot = (slice(160, 200), slice(235, 245))
    plain = picture(hero, Member(base, None, None))[spot].mean()
    values = {
        way: picture(hero, Member(grey.but(combine=way), None, None), Member(base, None, None))[spot].mean()
        for way in ("over", "add", "screen", "multiply")
    }
    assert values["multiply"] < plain < values["over"] < values["screen"] <= values["add"]


def test_black_and_white_is_grey_after_the_finish_and_not_before(hero, board):
    grey = Delivery(black_and_white=True)
    board = board.but(parts=(WHITE.but(colour="#a04020"),))
    after = picture(hero, Member(board, None, None), delivery=grey)
    assert np.ptp(after, axis=2).max() == 0
    assert (
        np.ptp(picture(hero, Member(board, None, None), delivery=grey, after_finish=False), axis=2).max() > 20
    )


def test_layers_travel_and_the_camera_moves_frame_by_frame(hero, board):
    moving = board.but(travel_across_m=2)

    def middle(**moment) -> float:
        return float(
            np.nonzero(picture(hero, Member(moving, None, None), moment=Moment(**moment)).min(axis=2) > 200)[
                1
            ].mean()
        )

    assert middle(travelled=1.0) > middle(travelled=0.5) > middle(travelled=0.0)
    assert Moment.at(50, 101, Move()).travelled == 0.5


def test_as_it_is_filmed_the_sheet_stands_behind_with_its_light(hero):
    actor = Layer(name="Actor", kind="live_element", combine="key", near_m=5, width_m=0.6, height_m=1.7)
    lamp = PlacedLamp(
        name="panel",
        role="backing",
        intensity_cd=900,
        across_m=-1.8,
        height_m=1.2,
        behind_m=1.6,
        aim_across_m=-1,
        aim_behind_m=2.5,
    )
    setup = hero.but(
        distance_m=5,
        focus_distance_m=5,
        lamps=(lamp,),
        backing=Backing(width_m=6, height_m=4),
        illuminance_lx=300,
    )
    seen = picture(hero, Member(actor, setup, 2), only=0)
    assert (seen[60:70, 60:80, 1] > seen[60:70, 60:80, 0] + 20).all()  # the green of the sheet
    assert seen[130:140, 20:60, 1].mean() > 1.2 * seen[130:140, 420:460, 1].mean()  # brighter by the lamp
    drawn = sheet_seen(Match(hero, actor, setup, Delivery()), setup)
    lit = light_map(setup, setup.backing)
    assert [one.label for one in drawn.contours][:2] == ["−⅓", "−⅔"] and lit.max() > 2 * lit.min()
    assert np.ptp(np.array(drawn.edge)[:, 0]) == pytest.approx(
        Match(hero, actor, setup, Delivery()).f_px * 6 / 7.5, rel=1e-3
    )


def test_colour_of_a_lamp_is_warm_when_low_and_white_at_daylight():
    red, _, blue = linear_rgb(colour_of_k(3200))
    assert red > 2 * blue
    assert linear_rgb(colour_of_k(5600)) == pytest.approx(np.ones(3), abs=0.02)
    assert linear_rgb(colour_of_k(9000))[2] > linear_rgb(colour_of_k(9000))[0]


def test_codes_are_those_of_srgb():
    """Published: IEC 61966-2-1; 18 % grey is code 118, 50 % light 188."""
    assert encoded(np.array([[[0.18, 0.5, 1.0]]], np.float32))[0, 0].tolist() == pytest.approx(
        [118, 188, 255], abs=1
    )
    assert jpeg(np.zeros((9, 16, 3), np.uint8)).startswith(b"\xff\xd8")


# --- solving for several layers, and choosing a scale


def test_what_the_solver_says_of_a_shared_set_up_is_what_the_comparison_says(
    hero, mill, model, delivery, kit
):
    behind = mill.but(name="Shed", near_m=19, depth_m=3)
    offset = (behind.near_m - mill.near_m) / mill.scale
    best = solve(hero, mill, model, delivery, kit, shared=[Shared(behind, offset)])[0]
    solved = model.but(**best.set_up)
    other = Match(hero, behind, solved.but(distance_m=solved.distance_m + offset), delivery)
    assert other.amounts["perspective"] == pytest.approx(0, abs=0.01)
    assert any("Shed" in sentence for sentence in best.sentences)
    alone = solve(hero, mill, model, delivery, kit)[0]
    limit = 1.0
    assert other.amounts["focus_far"] <= max(
        limit,
        Match(
            hero, behind, model.but(**alone.set_up).but(distance_m=solved.distance_m + offset), delivery
        ).amounts["focus_far"]
        + 1e-6,
    )


def test_the_solver_keeps_inside_the_walls_and_takes_a_steady_shutter(hero, mill, model, delivery, kit):
    full = mill.but(scale=1, driver="still", speed_m_s=0, near_m=30)
    small = kit.but(stage_length_m=12)
    assert solve(hero, full, model, delivery, small)[0].set_up["distance_m"] <= 12
    rippling = model.but(ripple_depth=0.35, mains_hz=50)
    best = solve(hero, mill.but(driver="still", speed_m_s=0), rippling, delivery, kit)[0]
    assert rippling.but(**best.set_up).shutter_angle_deg == 172.8


def test_scales_side_by_side_say_what_stands_against_each(hero, mill, model, delivery, kit):
    rows = {
        row.scale: row
        for row in choose_scale(
            hero, mill, model, delivery, kit.but(stage_length_m=12, stage_width_m=7, beams_m=4.2)
        )
    }
    assert rows[1].fits is False and any("length" in one for one in rows[1].against)
    assert any("water looks wrong" in one for one in rows[12].against) and not any(
        "water" in one for one in rows[4].against
    )
    assert rows[12].distance_m == pytest.approx(1.0) and rows[12].width_m == pytest.approx(7 / 12)
    assert rows[4].rate_wanted_fps == pytest.approx(48) and rows[16].rate_wanted_fps == pytest.approx(
        96
    )  # published: handbook miniature tables, from memory
    assert rows[12].finest_mm == pytest.approx(1000 * rows[12].distance_m / 2870, rel=0.05)
    assert rows == {
        row.scale: row
        for row in choose_scale(
            hero, mill, model, delivery, kit.but(stage_length_m=12, stage_width_m=7, beams_m=4.2)
        )
    }
