"""A layer's own picture in the lens view: cut out, standing at its place, held against OpenCV."""

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.breakdown.outlines import OUTLINES, fitted_parts
from jungoptic.core.example import DELIVERY, HERO
from jungoptic.core.match.layer import Layer
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.match.view import Moment
from jungoptic.core.motion.move import Move
from jungoptic.core.stage.cutout import cut_out
from jungoptic.core.stage.render import render

GREEN = (47, 158, 68)


def filmed(colour: tuple[int, int, int], behind: tuple[int, int, int] = GREEN, size: int = 60):
    """A square of one colour in the middle of another."""
    codes = np.full((size, size, 3), behind, np.uint8)
    codes[20:40, 20:40] = colour
    return codes


@pytest.mark.parametrize("bright", [0.35, 0.7, 1.0])
def test_a_sheet_goes_however_it_is_lit_and_a_face_stays(bright: float):
    """The excess is counted against the sheet's own brightness: a corner three stops down goes too."""
    sheet = tuple(round(255 * (channel / 255 * bright)) for channel in GREEN)
    stands = cut_out(filmed((205, 160, 138), sheet), Layer(name="Orla", near_m=4, cut_by="sheet"))[..., 3]
    assert stands[:18].max() == 0.0
    assert stands[22:38, 22:38].min() == 1.0


def test_what_stays_loses_the_green_that_the_sheet_threw_on_it():
    cut = cut_out(filmed((120, 150, 110)), Layer(name="Orla", near_m=4, cut_by="sheet", cut_keeps=0.5))
    red, green, blue, share = cut[30, 30]
    assert share == 1.0
    assert green == pytest.approx(max(red, blue))


@pytest.mark.parametrize(("how", "behind"), [("black", (4, 5, 4)), ("white", (252, 253, 251))])
def test_black_and_white_go(how: str, behind: tuple[int, int, int]):
    stands = cut_out(filmed((190, 120, 60), behind), Layer(name="Spark", near_m=4, cut_by=how))[..., 3]
    assert (stands[:18].max(), stands[22:38, 22:38].min()) == (0.0, 1.0)


def test_a_loose_outline_is_counted_in_px_of_the_picture_as_it_came():
    corners = ((100, 100), (200, 100), (200, 200), (100, 200))
    layer = Layer(name="Orla", near_m=4, picture_width_px=300, picture_height_px=300, cut_outline=corners)
    stands = cut_out(filmed((9, 9, 9)), layer)[..., 3]
    assert (stands[30, 30], stands[5, 5]) == (1.0, 0.0)
    assert stands.mean() == pytest.approx(1 / 9, abs=0.02)


@given(
    st.sampled_from(["sheet", "black", "white", "nothing"]),
    st.integers(0, 2**32 - 1),
    st.floats(0, 1),
    st.floats(0, 1),
)
def test_nothing_is_ever_more_than_whole(how: str, seed: int, keeps: float, clears: float):
    codes = np.random.default_rng(seed).integers(0, 256, (8, 9, 3), np.uint8)
    cut = cut_out(codes, Layer(name="Any", near_m=4, cut_by=how, cut_keeps=keeps, cut_clears=clears))
    assert np.isfinite(cut).all()
    assert cut.min() >= 0.0
    assert (cut[..., :3] <= cut[..., 3:] + 1e-6).all()


def middle_of(picture: np.ndarray, colour: int) -> tuple[float, float]:
    """Middle of what is brightest in one colour, px."""
    rest = [channel for channel in range(3) if channel != colour]
    there = picture[..., colour].astype(float) - picture[..., rest].max(axis=2) > 60
    rows, columns = np.nonzero(there)
    return float(columns.mean()) + 0.5, float(rows.mean()) + 0.5


def test_a_card_stands_where_opencv_projects_it():
    """A red dot on a card 6 m away, tilted and rolled hero: cv2.projectPoints says where it must be."""
    hero = HERO.model_copy(update={"tilt_deg": 4.0, "roll_deg": 3.0})
    card = Layer(
        name="Card", kind="painted", near_m=6.0, width_m=2.0, height_m=1.5, offset_m=0.4, shown_as="picture"
    )
    codes = np.full((300, 400, 3), 20, np.uint8)
    codes[40:60, 290:310] = (255, 10, 10)  # 1.5 m from the left, 1.25 m over the foot
    stack = Stack(ShotPlan(), DELIVERY, hero, (Member(card, None, None),))
    picture = render(stack, 1920, pictures={"Card": cut_out(codes, card)})
    focal = stack.delivery.width_px * hero.focal_length_mm / hero.extracted_mm
    focal *= 1 + hero.focal_length_mm / (1000 * hero.focus_distance_m - hero.focal_length_mm)
    lens = np.array([[focal, 0, 960], [0, focal, 540], [0, 0, 1.0]])
    tilt, roll = np.radians([4.0, 3.0])
    # OpenCV looks along z with y down: a camera that is tilted up sees what is ahead further down
    turn = cv2.Rodrigues(np.array([0, 0, -roll]))[0] @ cv2.Rodrigues(np.array([-tilt, 0, 0]))[0]
    dot = np.array([[0.4 - 1.0 + 1.5, hero.lens_height_m - hero.ground_height_m - 1.25, 6.0]])
    wanted = cv2.projectPoints(dot, cv2.Rodrigues(turn)[0], np.zeros(3), lens, None)[0][0, 0]
    assert middle_of(picture, 0) == pytest.approx(tuple(wanted), abs=1.5)


def test_a_plate_turns_with_the_camera_as_one_that_was_photographed_wider():
    """A photograph of 60° behind a hero that pans: its middle leaves the frame by f·tan of the angle."""
    pan = DELIVERY.model_copy(update={"move": Move(kind="pan", amount=5.0, end_frame=96)})
    plate = Layer(
        name="Plate", kind="live", near_m=12.0, fills_frame=True, taken_view_deg=60.0, shown_as="picture"
    )
    codes = np.full((750, 1000, 3), 60, np.uint8)
    codes[370:380, 495:505] = (255, 10, 10)
    stack = Stack(ShotPlan(), pan, HERO, (Member(plate, HERO, 1, is_hero=True),))
    cut = {"Plate": cut_out(codes, plate)}
    first, last = (render(stack, 1920, moment=Moment(share=share), pictures=cut) for share in (0.0, 1.0))
    assert middle_of(first, 0) == pytest.approx((960, 540), abs=1.5)
    focal = 1920 * HERO.focal_length_mm / HERO.extracted_mm
    focal *= 1 + HERO.focal_length_mm / (1000 * HERO.focus_distance_m - HERO.focal_length_mm)
    assert middle_of(last, 0) == pytest.approx((960 - focal * np.tan(np.radians(5)), 540), abs=2.5)


# --- the shelf


@pytest.mark.parametrize("name", OUTLINES)
def test_everything_on_the_shelf_fills_its_box_at_its_true_size(name: str):
    outline = OUTLINES[name]
    layer = Layer(
        name="It", near_m=10, width_m=outline.width_m, height_m=outline.height_m, depth_m=outline.depth_m
    )
    parts = fitted_parts(outline, layer)
    points = np.array([point for part in parts for point in part.points])
    assert outline.group
    assert len({part.name for part in parts}) == len(parts)
    assert max(part.behind_m for part in parts) <= outline.depth_m
    fills = np.ptp(points, axis=0) / (outline.width_m, outline.height_m)
    assert (fills <= 1.001).all()
    assert fills.min() > 0.55
    assert fills.max() > 0.9


@pytest.mark.parametrize(
    ("name", "height_m", "within"),
    [
        # common practice: what a set carpenter and a prop master reckon with
        ("person standing", 1.75, 0.06),
        ("child", 1.15, 0.06),
        ("door", 2.1, 0.1),
        ("table", 0.75, 0.03),
        ("horse", 1.96, 0.15),  # at its ears
        ("heron", 0.95, 0.1),
        ("vehicle", 1.45, 0.1),
        ("lighthouse", 20.0, 2.0),
    ],
)
def test_true_sizes_are_those_of_the_things(name: str, height_m: float, within: float):
    assert OUTLINES[name].height_m == pytest.approx(height_m, abs=within)
