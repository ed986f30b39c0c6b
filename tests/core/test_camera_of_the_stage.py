"""The simulated camera: what its pictures show, measured, beside what the comparison predicts."""

import math
from dataclasses import fields, replace

import cv2
import numpy as np
import pytest

from jungoptic.core.light import Backing, PlacedLamp, planck_gain
from jungoptic.core.match import Delivery, Layer, Match, Member, Part, SetUp, ShotPlan, Stack
from jungoptic.core.match.backing_shadow import darkest_shadow
from jungoptic.core.motion import Move
from jungoptic.core.stage import Effects, photograph, proved
from jungoptic.core.stage.camera import Camera
from jungoptic.core.stage.proving import PROVED
from jungoptic.core.stage.raster import coverage, disc
from jungoptic.core.stage.sheet_light import sheet_light

WALL = Part(name="Wall", points=((-2, 0.2), (-2, 2.2), (2, 2.2), (2, 0.2)), colour="#c0c0c0")


def chart(*parts: Part, **values) -> Layer:
    given = {
        "kind": "model",
        "scale": 12,
        "near_m": 12,
        "width_m": 6,
        "height_m": 3,
        "parts": parts or (WALL,),
    }
    return Layer.read({"name": "Chart", **given, **values})


@pytest.fixture
def low(model: SetUp) -> SetUp:
    """The model's camera where the hero wants it."""
    return model.but(lens_height_m=1.6 / 12, illuminance_lx=960, light_k=5600, white_balance_k=5600)


@pytest.mark.parametrize("kind", PROVED)
def test_pictures_show_what_the_comparison_predicts(kind: str):
    rows = proved((kind,))
    assert len(rows) >= 4
    assert [(row.item, row.wrong, row.predicted, row.measured) for row in rows if not row.agrees] == []


# --- shapes


def test_a_polygon_covers_its_own_area_where_it_stands():
    corners = np.array([[10.3, 5.2], [50.7, 8.1], [44.2, 60.4], [12.0, 40.5]])
    filled = coverage(corners, 100, 100)
    assert filled is not None
    cover, (left, top, right, bottom) = filled
    x, y = corners.T
    area = abs((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) / 2  # the shoelace formula
    assert cover.sum() == pytest.approx(area, rel=1e-3)
    assert (left, top, right, bottom) == (10, 5, 51, 61)
    assert coverage(corners + 200, 100, 100) is None


@pytest.mark.parametrize("diameter", [0.4, 1.1, 3.7, 12.0])
def test_a_disc_of_blur_spreads_light_as_a_disc_does(diameter: float):
    kernel = disc(diameter)
    reach = len(kernel) // 2
    spread = float((kernel.sum(axis=0) * np.arange(-reach, reach + 1) ** 2).sum())
    assert kernel.sum() == pytest.approx(1, abs=1e-5)
    assert spread == pytest.approx(diameter**2 / 16, rel=0.01)  # variance of an even disc, each way


def test_colour_of_light_is_plancks():
    # Wien's law: ln(red/blue) = c₂·(1/λ_b − 1/λ_r)·ΔM; 134 mired (3200 K at 5600 K), 610 and 465 nm
    red, green, blue = planck_gain(3200, 5600).tolist()
    wien = math.exp(1.4388e7 * (1 / 465 - 1 / 610) * (1e6 / 3200 - 1e6 / 5600) / 1e6)
    assert green == 1.0 and red / blue == pytest.approx(wien, rel=0.03)
    assert planck_gain(4300, 4300).tolist() == [1.0, 1.0, 1.0]


# --- time


def test_what_is_filmed_frame_by_frame_does_not_smear(hero: SetUp, low: SetUp):
    moving = chart(kind="frame_by_frame", driver="set_speed", speed_m_s=2.0)
    sharp, whole = (
        Camera(Match(hero, moving, low, Delivery()), 0, 480, effects).film()
        for effects in (Effects.only(), Effects.only("smear", "skew"))
    )
    assert np.array_equal(sharp, whole)


def test_nothing_smears_before_the_move_begins(hero: SetUp, low: SetUp):
    pan = Delivery(move=Move(kind="pan", amount=30, start_frame=10, end_frame=34), length_frames=48)
    match = Match(hero, chart(), low, pan)
    before, within = (
        np.abs(
            Camera(match, frame, 480, Effects.only("smear")).film()
            - Camera(match, frame, 480, Effects.only()).film()
        ).max()
        for frame in (4.0, 22.0)
    )
    assert before < 1e-4 and within > 0.1


def test_near_and_far_parts_are_each_as_soft_as_they_lie_deep(hero: SetUp, low: SetUp):
    """The audit's: one blur for a whole layer made the near end 8.6 px soft where 0 is right."""
    far = WALL.but(name="Far", behind_m=6.0, points=((3.5, 0.2), (3.5, 2.2), (5, 2.2), (5, 0.2)))
    match = Match(hero, chart(WALL, far, depth_m=6.0), low.but(f_number=4), Delivery())
    sharp, soft = (Camera(match, 0, 960, e).film()[3] for e in (Effects.only(), Effects.only("focus")))
    middle = sharp.shape[0] // 2
    changed = np.flatnonzero(np.abs(sharp - soft)[middle] > 0.05)
    edges = np.flatnonzero(np.abs(np.diff(sharp[middle])) > 0.5)
    assert len(edges) == 4
    assert all(np.abs(changed - edge).min() > 2 for edge in edges[:2])  # focused on
    assert all(np.abs(changed - edge).min() <= 1 for edge in edges[2:])


# --- light


def test_grain_does_not_depend_on_the_width_of_the_picture(hero: SetUp, low: SetUp):
    """A picture half as wide averages four pixels: its noise is half, which is the same noise."""
    match = Match(hero, chart(), low, Delivery())

    def noise(width: int) -> float:
        planes = Camera(match, 0, width, Effects.only("grain")).film()
        k = width / 1920
        middle = planes[1][round(500 * k) : round(640 * k), round(800 * k) : round(1100 * k)]
        return float(middle.std()) / k

    assert noise(960) == pytest.approx(noise(1920), rel=0.05)


def test_the_seed_makes_the_grain(hero: SetUp, low: SetUp):
    match = Match(hero, chart(), low, Delivery())
    once, again, other = (
        Camera(match, 0, 320, Effects.only("grain", seed=seed)).film() for seed in (1, 1, 2)
    )
    assert np.array_equal(once, again) and not np.array_equal(once, other)


def test_every_effect_is_switched_by_itself(hero: SetUp, low: SetUp):
    """Each changes a picture in which there is cause for it, and none is drawn that is switched off."""
    floor = Part(name="Floor", lies=True, points=((-3, -1), (3, -1), (3, 4), (-3, 4)), colour="#909090")
    aside = WALL.but(points=((-1, 0.2), (-1, 2.2), (2, 2.2), (2, 0.2)))
    layer = chart(
        aside,
        floor,
        depth_m=4,
        driver="gravity",
        speed_m_s=3,
        mirrored=True,
        combine="key",
        resize=1.4,
        offset_m=0.4,
    )
    lamp = PlacedLamp(
        name="spot", role="key", intensity_cd=9000, beam_deg=60, across_m=-1, height_m=1.5, behind_m=-1
    )
    setup = low.but(
        readout_ms=20,
        distortion_pct=-4,
        vignetting_stops=2,
        ripple_depth=0.4,
        capture_fps=25.3,
        illuminance_lx=90000,
        light_k=3200,
        iso=6400,
        f_number=4,
        headroom_stops=1,
        sampling="4:2:0",
        bit_depth=8,
        recorded_width_px=320,
        recorded_height_px=180,
        gate_width_mm=18,
        gate_height_mm=10.1,
        key_azimuth_deg=-60,
        key_elevation_deg=40,
        lamps=(lamp,),
    )
    match = Match(hero, layer, setup, Delivery())
    names = [each.name for each in fields(Effects) if each.name != "seed"]

    def picture(*on: str) -> np.ndarray:
        return Camera(match, 3, 480, Effects.only(*on)).film()

    plain = picture()
    idle = [
        name
        for name in names
        if np.array_equal(plain, picture(name)) and name not in ("lamps", "shadows", "clipping")
    ]
    assert idle == []  # lamps and shadows need the shading, highlights the exposure
    assert not np.array_equal(picture("shading"), picture("shading", "lamps"))
    assert not np.array_equal(picture("shading"), picture("shading", "shadows"))
    assert not np.array_equal(picture("exposure"), picture("exposure", "clipping"))


def test_a_lamps_shadow_on_the_sheet_is_as_dark_as_the_comparison_says(hero: SetUp):
    lamps = tuple(
        PlacedLamp(
            name=name,
            role=role,
            intensity_cd=candelas,
            beam_deg=100,
            across_m=across,
            height_m=height,
            behind_m=-2.0,
            aim_height_m=1.2,
            aim_behind_m=2.0,
        )
        for name, role, candelas, across, height in (
            ("key", "key", 9000, 1.2, 2.0),
            ("left", "backing", 3000, -2.0, 2.2),
            ("right", "backing", 3000, 2.0, 2.2),
        )
    )
    sheet = Backing(behind_m=2.0, width_m=8, height_m=5)
    person = Layer(name="Actor", kind="live_element", combine="key", near_m=5, width_m=0.6, height_m=1.7)
    setup = hero.but(distance_m=5, focus_distance_m=5, lamps=lamps, backing=sheet)
    match = Match(hero, person, setup, Delivery())
    shadow = darkest_shadow(person, setup, sheet, match)
    assert shadow is not None and shadow.stops > 0.3
    stack = Stack(ShotPlan(), Delivery(), hero, (Member(person, setup, 1),))
    lit, thrown = (
        photograph(stack, 960, only=0, effects=Effects.only(*on))[..., 1]
        for on in (("shading",), ("shading", "shadows"))
    )
    darker = np.log2(np.maximum(lit, 1e-9) / np.maximum(thrown, 1e-9))
    # the comparison measures it in the middle of what is seen of it
    inside = cv2.distanceTransform((darker > 0.1).astype(np.uint8), cv2.DIST_L2, 5)
    y, x = np.unravel_index(inside.argmax(), inside.shape)
    assert float(darker[y, x]) == pytest.approx(shadow.stops, rel=0.02)
    # the picture that follows the hand is coarser, not brighter: the sheet is darkest in this shadow
    coarse, whole = (sheet_light(match, setup, shadows=on, a_metre=16, most=72) for on in (True, False))
    assert float(np.log2(whole / coarse).max()) >= 0.98 * shadow.stops


def test_a_mirrored_layer_is_flopped(hero: SetUp, low: SetUp):
    half = WALL.but(points=((0, 0.2), (0, 2.2), (2, 2.2), (2, 0.2)))
    right, left = (
        Camera(
            Match(hero, chart(half, mirrored=mirrored), low, Delivery()), 0, 320, Effects.only("flop")
        ).film()
        for mirrored in (False, True)
    )
    assert np.abs(right - left[:, :, ::-1]).max() < 0.02


def test_a_whole_shot_is_photographed_with_its_finish(hero: SetUp, low: SetUp):
    base = Layer(name="Sea", near_m=12, width_m=20, height_m=6, fills_frame=True)
    stack = Stack(
        ShotPlan(visibility_m=200.0),
        Delivery(black_and_white=True, soften_px=3.0),
        hero,
        (Member(base, hero, 1, is_hero=True), Member(chart(), low, 2)),
    )
    grey = photograph(stack, 320)
    assert np.allclose(grey[..., 0], grey[..., 2])
    colour = photograph(stack, 320, after_finish=False, effects=replace(Effects(), grain=False))
    assert not np.allclose(colour[..., 0], colour[..., 2])


def test_the_sides_of_a_block_that_look_away_are_hidden_by_it(hero: SetUp, low: SetUp):
    """A deep block left of the middle shows its right side; its left one, lit by another light, does not."""
    corners = ((-3.0, 0.2), (-3.0, 2.2), (-2.8, 2.2), (-2.8, 0.2))
    block = Part(name="Block", points=corners, thickness_m=6.0, colour="#808080")
    lit = low.but(key_azimuth_deg=-90.0, key_elevation_deg=0.0, key_to_fill_stops=3.0)
    match = Match(hero, chart(block, depth_m=6.0), lit, Delivery())
    planes = Camera(match, 0, 960, Effects.only("shading")).film()
    shown = planes[1][planes[3] > 0.99]
    assert (
        float(shown.max()) < 0.15
    )  # only what the fill reaches: the left side would be eight times brighter
