"""Where things stand in a picture and how high they are, by what is drawn on it; truth by OpenCV."""

from __future__ import annotations

import math
import re
from datetime import UTC, datetime

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.example import DELIVERY, HERO, MILL
from jungoptic.core.match import (
    Layer,
    Mark,
    Read,
    Reading,
    SetUp,
    hero_fields,
    picture_view_deg,
    reading_of,
    same_lens,
)
from jungoptic.core.match.ground import ground_lines, ground_text, on_ground
from jungoptic.core.match.marks import END_SHARE, KNOWN_LENS_SHARE
from jungoptic.core.match.view import wanted_view
from jungoptic.core.wording import Words

from .by_opencv import CAMERAS, PERSON_M, Camera, H, W

# --- what stands where


def standing(camera: Camera, ahead_m: float, aside_m: float, height_m: float) -> Mark:
    foot, top = camera.seen((aside_m, 0.0, ahead_m), (aside_m, height_m, ahead_m))
    return Mark(kind="stands", points=(foot, top))


@given(CAMERAS, st.floats(5, 60), st.floats(-0.4, 0.4), st.floats(0.3, 12))
def test_exact_marks_tell_where_things_stand_and_how_high_they_are(
    camera: Camera, ahead_m: float, aside: float, height_m: float
):
    aside_m = aside * ahead_m
    there = standing(camera, ahead_m, aside_m, height_m)
    foot = Mark(kind="foot", points=there.points[:1])
    told = reading_of((*camera.marks(), there, foot), W, H).stands
    assert told[: len(camera.marks()) - 2] == (None,) * (len(camera.marks()) - 2)  # lines tell none
    for stands in told[-2:]:
        read = stands.ahead_m.amount, stands.aside_m.amount, stands.distance_m.amount
        assert read == pytest.approx((ahead_m, aside_m, math.hypot(ahead_m, aside_m)), rel=1e-4, abs=1e-4)
    assert told[-2].height_m.amount == pytest.approx(height_m, rel=1e-4)
    assert told[-1].height_m is None


def in_front_of(camera: Camera, lens_share: float, random: np.random.Generator, off_px: float):
    """A beach with its horizon, a person and a post, drawn by a hand that is off by so many px at most, and
    the lens by its tag; with the truth of the post.
    """
    far = 1e7
    ahead_m = random.uniform(4, 20)
    aside_m = ahead_m * random.uniform(-0.3, 0.3)
    height_m = random.uniform(0.5, 4)
    person_m = random.uniform(3, 10)
    lines = [
        ("horizon", camera.seen((-far / 4, camera.height_m, far), (far / 4, camera.height_m, far))),
        ("height", camera.seen((0.5, 0.0, person_m), (0.5, PERSON_M, person_m))),
        ("stands", camera.seen((aside_m, 0.0, ahead_m), (aside_m, height_m, ahead_m))),
    ]
    drawn = tuple(
        Mark(
            kind=kind,
            points=tuple(map(tuple, np.array(points) + random.uniform(-off_px, off_px, (len(points), 2)))),
            height_m=PERSON_M,
        )
        for kind, points in lines
    )
    focal = camera.focal_px * (1 + lens_share)
    view = 2 * math.degrees(math.atan(W / 2 / focal))
    told = reading_of(drawn, W, H, view, KNOWN_LENS_SHARE)
    return told, (camera.height_m, camera.tilt_deg, math.hypot(ahead_m, aside_m), height_m)


def random_camera(random: np.random.Generator) -> Camera:
    return Camera(
        random.uniform(40, 75),
        random.uniform(-8, 4),
        random.uniform(-2, 2),
        random.uniform(0.8, 2.2),
        0,
        0,
        30,
    )


def test_a_beach_drawn_within_a_px_is_measured_as_close_as_one_plans_by():
    """Height 2 %, tilt 0.2°, distance 3 % (95 of 100 of them), in pictures by OpenCV's projection."""
    random = np.random.default_rng(5)
    off = []
    for _ in range(200):
        told, (height_m, tilt_deg, distance_m, post_m) = in_front_of(random_camera(random), 0.0, random, 1.0)
        post = told.stands[2]
        off.append(
            (
                abs(told.read["taken_height_m"].amount / height_m - 1) / 0.02,
                abs(told.read["taken_tilt_deg"].amount - tilt_deg) / 0.2,
                abs(post.distance_m.amount / distance_m - 1) / 0.03,
                abs(post.height_m.amount / post_m - 1) / 0.03,
            )
        )
    assert (np.array(off) <= 1.0).mean(axis=0).min() >= 0.95


def test_what_is_said_of_a_beach_covers_the_truth_with_a_lens_by_its_tag():
    """Ends drawn as a hand draws them (a thousandth of the width, standard deviation), the lens off by a
    hundredth: at least 92 of 100 lie within what is said, as above.
    """
    random = np.random.default_rng(8)
    covered = np.zeros(4)
    for _ in range(300):
        camera = random_camera(random)
        share = random.normal(0, KNOWN_LENS_SHARE)
        # even within ±√3σ has the standard deviation that is taken for a hand's
        told, truth = in_front_of(camera, share, random, math.sqrt(3) * END_SHARE * W)
        post = told.stands[2]
        reads = told.read["taken_height_m"], told.read["taken_tilt_deg"], post.distance_m, post.height_m
        covered += [abs(read.amount - true) <= read.within for read, true in zip(reads, truth, strict=True)]
    assert covered.min() >= 0.92 * 300, covered


def test_a_foot_over_the_horizon_stands_nowhere():
    beach = (
        Mark(kind="horizon", points=((0, 1000), (W, 1000))),
        Mark(kind="height", points=((1500, 1600), (1500, 900))),
        Mark(kind="foot", points=((400, 700),)),
    )
    assert reading_of(beach, W, H, 60.0).stands[2] is None


# --- the ground in metres


@given(CAMERAS)
def test_lines_on_the_ground_lie_where_opencv_projects_them(camera: Camera):
    lines = ground_lines((camera.view_deg, camera.tilt_deg, camera.roll_deg, camera.height_m), W, H)
    for line in lines:
        for place_m, place_px in zip(line.ends_m, line.points, strict=True):
            assert place_px == pytest.approx(camera.seen((place_m[0], 0.0, place_m[1]))[0], abs=0.06)


def test_the_ground_is_lined_in_round_metres_as_far_as_lines_can_be_told_apart():
    lines = ground_lines((60.0, -5.0, 0.0, 1.6), W, H)
    across = [line for line in lines if line.axis == "ahead"]
    assert [line.metres for line in across[:6]] == [4.0, 5.0, 6.0, 8.0, 10.0, 15.0]
    lows = np.array([line.points[0][1] for line in across])
    assert lows[0] <= H
    assert (-np.diff(lows)).min() >= 0.012 * H
    beside = sorted(line.metres for line in lines if line.axis == "aside")
    assert beside == [-beside[-1 - i] for i in range(len(beside))]
    assert len(beside) >= 5


@given(st.floats(-6, 3), st.floats(-4, 4), st.floats(3, 80), st.floats(-0.3, 0.3))
def test_a_foot_put_down_in_the_hero_s_picture_stands_where_it_is_seen(
    tilt_deg: float, roll_deg: float, ahead_m: float, aside: float
):
    """There and back: what stands on the ground is seen somewhere, and from there it is found again."""
    hero = HERO.model_copy(update={"tilt_deg": tilt_deg, "roll_deg": roll_deg})
    there = MILL.model_copy(update={"near_m": ahead_m, "offset_m": 0.0})
    foot = np.array([[aside * ahead_m, 0.0, 0.0]])
    size = DELIVERY.width_px, DELIVERY.height_px
    seen = wanted_view(hero, there, DELIVERY).seen(foot, *size)[0]
    found = on_ground(hero, MILL, DELIVERY, *map(float, seen))
    assert found == pytest.approx((ahead_m, aside * ahead_m), rel=1e-6, abs=1e-6)
    assert on_ground(hero, MILL, DELIVERY, 960.0, -4000.0) is None


@given(st.floats(2, 60), st.floats(-0.3, 0.3))
def test_an_actors_mark_is_told_to_a_pixel_and_never_as_more(ahead_m: float, aside: float):
    there = MILL.model_copy(update={"near_m": ahead_m, "offset_m": 0.0})
    foot = np.array([[aside * ahead_m, 0.0, 0.0]])
    seen = wanted_view(HERO, there, DELIVERY).seen(foot, DELIVERY.width_px, DELIVERY.height_px)[0]
    x, y = map(float, seen)
    text = ground_text(HERO, MILL.but(scale=1.0), DELIVERY, (x, y), Words())
    told_m, told_unit, aside_m, aside_unit, side = re.findall(
        r"^([\d.]+) (m)\b.*?(?:, ([\d.]+) (mm|m) to its (left|right))?$", text
    )[0]
    a_pixel_m = abs(on_ground(HERO, MILL, DELIVERY, x, y + 1)[0] - ahead_m)
    assert told_unit == "m" and abs(float(told_m) - ahead_m) <= 2 * a_pixel_m + 5e-4
    signed = float(aside_m or 0) * {"mm": 1e-3, "m": 1.0, "": 0.0}[aside_unit]
    assert (-signed if side == "left" else signed) == pytest.approx(aside * ahead_m, abs=0.005 * ahead_m)
    assert ground_text(HERO, MILL, DELIVERY, (x, 100.0), Words()) == "over the horizon: nobody stands there"


# --- the photograph beside the hero


def told(**read: float) -> Reading:
    return Reading({f"taken_{name}": Read(amount, 0.05) for name, amount in read.items()}, ())


def written(hero: SetUp, reading: Reading) -> dict[str, float]:
    return {row.field: row.written for row in hero_fields(hero, hero, reading) if row.written is not None}


def test_only_what_differs_by_more_than_its_error_is_written_and_heights_are_over_the_ground():
    hero = HERO.but(ground_height_m=0.4, lens_height_m=1.6, tilt_deg=-3.0)
    assert written(hero, told(height_m=1.17, tilt_deg=-3.04)) == {}
    assert written(hero, told(height_m=1.5, tilt_deg=2.0)) == {
        "lens_height_m": pytest.approx(1.9),
        "tilt_deg": pytest.approx(2.0),
    }


def test_where_the_sun_gives_the_key_it_stays_the_sun_s():
    reading = told(key_azimuth_deg=20.0, key_elevation_deg=50.0)
    assert written(HERO, reading) == {"key_azimuth_deg": 20.0, "key_elevation_deg": 50.0}
    by_sun = HERO.but(sun_at=datetime(2027, 10, 23, 15, tzinfo=UTC))
    assert written(by_sun, reading) == {}
    assert [row.by_sun for row in hero_fields(HERO, by_sun, reading)] == [False, False, False, True, True]


@pytest.mark.parametrize(("longer", "same"), [(1.0, True), (1.015, True), (0.985, True), (1.03, False)])
def test_lenses_are_the_same_as_far_as_one_knows_a_lens(longer: float, same: bool):
    """Two lenses whose focal lengths differ by a fiftieth cannot be told apart by tag or barrel."""
    half = math.tan(math.radians(picture_view_deg(HERO)) / 2) / longer
    photograph = Layer(name="Sea", near_m=12, taken_view_deg=2 * math.degrees(math.atan(half)))
    assert same_lens(HERO, photograph) is same
    assert same_lens(HERO, Layer(name="Sea", near_m=12))
