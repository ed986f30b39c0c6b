"""What is drawn on a picture gives back the camera and the light that took it.

The truth is OpenCV's: cv2.projectPoints (Bradski, The OpenCV Library, 2000) puts corners of a house, a person
and a stick with its shadow into pictures of random cameras.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given

from jungoptic.core.errors import InputError
from jungoptic.core.example import HERO
from jungoptic.core.match import Delivery, Layer, Mark, Match, Read, judge_in_set, reading_of
from jungoptic.core.match.marks import END_SHARE, READ
from jungoptic.core.match.view import hero_view, layer_view

from .by_opencv import CAMERAS, Camera, H, W

PLAIN = Camera(50.0, -4.0, 1.0, 1.6, 35.0, 40.0, 35.0)


def off(name: str, amount: float, truth: float) -> float:
    """How far a reading is off; angles around the circle."""
    return (amount - truth + 180) % 360 - 180 if name.endswith("azimuth_deg") else amount - truth


@given(CAMERAS)
def test_exact_lines_give_the_camera_back(camera: Camera):
    told = reading_of(camera.marks(), W, H)
    assert not told.wants
    for name, truth in zip(READ, camera.truth, strict=True):
        assert off(name, told.read[name].amount, truth) == pytest.approx(0, abs=1e-4), name


def test_what_it_may_be_off_covers_the_truth():
    """Of 300 pictures whose lines are drawn with the error that is taken for a hand's, at least 92 of 100 lie
    within what is said; the others are the tail that it leaves out.
    """
    random = np.random.default_rng(11)
    covered = dict.fromkeys(READ, 0)
    for _ in range(300):
        camera = Camera(
            *(random.uniform(a, b) for a, b in ((30, 90), (-20, 10), (-6, 6), (0.5, 4), (20, 70))),
            random.uniform(-179, 179),
            random.uniform(15, 60),
        )
        drawn = tuple(
            Mark(
                kind=mark.kind,
                points=tuple(
                    tuple(p)
                    for p in np.array(mark.points) + random.normal(0, W * END_SHARE, (len(mark.points), 2))
                ),
                height_m=mark.height_m,
            )
            for mark in camera.marks()
        )
        told = reading_of(drawn, W, H)
        for name, truth in zip(READ, camera.truth, strict=True):
            read = told.read.get(name)
            covered[name] += read is not None and abs(off(name, read.amount, truth)) <= read.within
    assert min(covered.values()) >= 0.92 * 300, covered


def of(*kinds: str, camera: Camera = PLAIN) -> tuple[Mark, ...]:
    return tuple(mark for mark in camera.marks() if mark.kind in kinds)


@pytest.mark.parametrize(
    ("kinds", "tells"),
    [
        (("away", "across"), {"taken_view_deg", "taken_tilt_deg", "taken_roll_deg"}),
        (("away", "upright"), {"taken_view_deg", "taken_tilt_deg", "taken_roll_deg"}),
        (("away", "across", "height"), {*READ[:4]}),
        (("away",), set()),
        (("height",), set()),
    ],
)
def test_what_is_drawn_tells_what_it_can(kinds: tuple[str, ...], tells: set[str]):
    told = reading_of(of(*kinds), W, H)
    assert set(told.read) == tells
    for name in tells:
        assert told.read[name].amount == pytest.approx(PLAIN.truth[READ.index(name)], abs=1e-4)
    assert told.wants


def test_a_known_lens_stands_in_for_lines():
    told = reading_of(of("upright", "height", "shadow"), W, H, PLAIN.view_deg)
    assert set(told.read) == set(READ) - {"taken_view_deg"}
    assert told.read["taken_height_m"].amount == pytest.approx(PLAIN.height_m, abs=1e-6)
    assert told.read["taken_key_azimuth_deg"].amount == pytest.approx(PLAIN.azimuth_deg, abs=1e-6)


def test_one_direction_and_a_known_lens_take_the_roll_for_none():
    level = Camera(50.0, -4.0, 0.0, 1.6, 35.0, 40.0, 35.0)
    told = reading_of(of("away", camera=level), W, H, level.view_deg)
    assert told.read["taken_tilt_deg"].amount == pytest.approx(level.tilt_deg, abs=1e-6)
    assert "taken_roll_deg" not in told.read
    assert any("it is taken for 0" in want for want in told.wants)


def test_a_horizon_tells_tilt_and_roll():
    far = 1e7
    horizon = Mark(
        kind="horizon", points=PLAIN.seen((-far / 4, PLAIN.height_m, far), (far / 4, PLAIN.height_m, far))
    )
    told = reading_of((horizon, *of("upright")), W, H)
    assert told.read["taken_view_deg"].amount == pytest.approx(PLAIN.view_deg, abs=1e-3)
    alone = reading_of((horizon,), W, H, PLAIN.view_deg)
    assert alone.read["taken_tilt_deg"].amount == pytest.approx(PLAIN.tilt_deg, abs=1e-4)
    assert alone.read["taken_roll_deg"].amount == pytest.approx(PLAIN.roll_deg, abs=1e-4)


def test_lines_that_no_lens_sees_at_right_angles_say_so():
    away = [
        Mark(kind="away", points=((100, 1500), (300, 1200))),
        Mark(kind="away", points=((900, 1500), (800, 1200))),
    ]
    across = [Mark(kind="across", points=one.points) for one in away]
    told = reading_of((*away, *across), W, H)
    assert "taken_view_deg" not in told.read
    assert told.wants[0].startswith("The lens cannot be told")


def test_a_foot_over_the_horizon_tells_no_height():
    horizon = Mark(kind="horizon", points=((0, 1000), (W, 1000)))
    flying = Mark(kind="height", points=((1500, 800), (1500, 600)))
    told = reading_of((horizon, flying), W, H, 50.0)
    assert "taken_height_m" not in told.read
    assert any("a foot must stand under the horizon" in want for want in told.wants)


@pytest.mark.parametrize(
    ("values", "message"),
    [
        ({"kind": "away", "points": [(1, 1)]}, "Line away wants 2 points"),
        ({"kind": "shadow", "points": [(1, 1), (2, 2)]}, "Shadow wants 3 points"),
        ({"kind": "upright", "points": [(1, 1), (2, 2), (3, 3)]}, "Upright wants 2 points"),
        ({"kind": "height", "points": [(4, 4), (4, 4)]}, "has no length"),
    ],
)
def test_a_mark_that_is_none_is_refused(values: dict[str, object], message: str):
    with pytest.raises(InputError, match=message):
        Mark.read(values)


# --- a picture as its own camera saw it


def painted(**fields: float) -> Layer:
    return Layer(name="Hills", kind="painted", near_m=60, depth_m=200, width_m=120, height_m=30, **fields)


def test_a_picture_of_unknown_camera_is_laid_in_as_the_hero_wants_it():
    match = Match(HERO, painted(), None, Delivery())
    assert np.array_equal(layer_view(match).rows, hero_view(match).rows)


def drawn_apart(layer: Layer) -> tuple[dict[str, float], float]:
    """Amounts by item, and how far a corner is drawn from where the hero wants it, delivered px."""
    delivery = Delivery()
    match = Match(HERO, layer, None, delivery)
    corners = np.array([(x, y, z) for x in (-60.0, 60.0) for y in (0.0, 30.0) for z in (0.0, 200.0)])
    drawn, wanted = (
        view(match).seen(corners, delivery.width_px, delivery.height_px) for view in (layer_view, hero_view)
    )
    judged = judge_in_set(HERO, layer, None, delivery)
    return {item.item: item.amount for item in judged}, float(np.hypot(*(drawn - wanted).T).max())


@pytest.mark.parametrize(
    ("field", "value", "item"),
    [
        ("taken_roll_deg", 3.0, "roll"),
        ("taken_view_deg", 60.0, "perspective"),
    ],
)
def test_the_drawing_shows_what_the_verdict_says(field: str, value: float, item: str):
    """The amount of the one item whose dial differs is not more than the greatest distance between a
    picture's corners as they are drawn and as they are wanted.
    """
    judged, apart = drawn_apart(painted(**{field: value}))
    assert 3 < judged[item] <= apart * 1.001


def test_a_picture_taken_from_too_high_is_drawn_so():
    """Its horizon, by which it is judged, lies off by more than any of its corners."""
    judged, apart = drawn_apart(painted(taken_height_m=6.0))
    assert 3 < apart < judged["height"]


@pytest.mark.parametrize(
    ("amount", "within", "rounded"),
    [(58.59366, 1.65159, (58.6, 1.7)), (1.55536, 0.03059, (1.555, 0.031)), (-87.38, 21.4, (-87.0, 21.0))],
)
def test_a_reading_is_given_to_one_digit_more_than_it_is_sure_of(
    amount: float, within: float, rounded: tuple[float, float]
):
    assert Read(amount, within).rounded == rounded
