"""Projection against a reference library, the drawings, the wording, the cautions."""

import math
import re

import cv2
import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from jungoptic.core.cautions import CAUTIONS, DEFERENCE
from jungoptic.core.match import Delivery, Layer, Part, SetUp
from jungoptic.core.match.measure import Match
from jungoptic.core.optics.projection import clip_near, horizon_y_px, project, rotation
from jungoptic.core.stage.drawings import horizon_px, outlines, parts_of, standing
from jungoptic.core.wording import Words, number


@given(
    tilt=st.floats(-40, 40),
    roll=st.floats(-30, 30),
    f=st.floats(200, 6000),
    points=st.lists(st.tuples(st.floats(-3, 3), st.floats(-3, 3), st.floats(6, 60)), min_size=3, max_size=8),
)
def test_projection_agrees_with_opencv(tilt: float, roll: float, f: float, points: list):
    """Reference library: OpenCV projectPoints (x right, y down, z forward), given our rotation in its axes.

    As a rotation vector by scipy: OpenCV's own way from a matrix takes turns of less than about a millionth
    for none.
    """
    flip = np.diag([1.0, -1.0, 1.0])
    turn = flip @ rotation(tilt, roll) @ flip
    world = np.array(points)
    camera = np.array([[f, 0, 960], [0, f, 540], [0, 0, 1.0]])
    assume((turn @ (world @ flip).T)[2].min() >= 0.1)
    expected, _ = cv2.projectPoints(
        world @ flip, Rotation.from_matrix(turn).as_rotvec(), np.zeros(3), camera, None
    )
    assert project(world, f, 1920, 1080, tilt, roll) == pytest.approx(expected.reshape(-1, 2), abs=1e-6 * f)


def test_tilting_up_moves_the_horizon_down_the_picture():
    assert horizon_y_px(2860, 1080) == 540
    assert horizon_y_px(2860, 1080, 5) == pytest.approx(
        project(np.array([[0, 0, 1e6]]), 2860, 1920, 1080, tilt_deg=5)[0, 1], abs=0.01
    )
    assert horizon_y_px(2860, 1080, 5) > 540


def test_what_is_behind_the_lens_is_clipped():
    triangle = np.array([[-1.0, 0, 2], [1, 0, 2], [0, 0, -2]])
    clipped = clip_near(triangle)
    assert len(clipped) == 4
    assert clipped[:, 2].min() == pytest.approx(0.02)
    assert len(project(triangle - [0, 0, 10], 1000, 1920, 1080)) == 0


def test_a_model_that_marries_lies_over_what_the_hero_wants(hero: SetUp, mill: Layer):
    setup = hero.but(focus_distance_m=1, distance_m=1, lens_height_m=0.35, ground_height_m=0.35 - 1.6 / 12)
    match = Match(hero, mill, setup, Delivery())
    layer = mill.but(resize=match.f_hero_px / match.f_px)
    drawn = outlines(Match(hero, layer, setup, Delivery()))
    assert drawn
    for part in drawn:
        assert np.array(part.points) == pytest.approx(np.array(part.wanted), abs=0.02)


def test_the_drawing_is_off_by_what_the_verdict_says(hero: SetUp, mill: Layer):
    """The composite lays the near foot where it belongs; what a lens too high leaves is behind it."""
    foot = Part(name="Foot", points=((-1, 0), (1, 0), (0, 1)))
    behind = Part(name="Yard", lies=True, points=((-2, 0), (2, 0), (2, 6), (-2, 6)))
    high = hero.but(distance_m=1, focus_distance_m=1, lens_height_m=1.6 / 12 + 0.02, focusing="constant_view")
    steady = hero.but(focusing="constant_view")
    match = Match(steady, mill.but(parts=(foot, behind)), high, Delivery())
    drawn = {part.name: np.array(part.points) - np.array(part.wanted) for part in outlines(match)}
    assert np.abs(drawn["Foot"][:2]).max() < 0.01
    furthest = max(np.linalg.norm(off, axis=1).max() for off in drawn.values())
    assert furthest == pytest.approx(match.amounts["height"], abs=0.02) and furthest > 10
    assert horizon_px(hero, Delivery()) == 540


def test_the_side_drawing_is_in_metres_of_the_set(hero: SetUp, model: SetUp, mill: Layer):
    stands = standing(Match(hero, mill, model, Delivery()), (0.9, 1.1))
    assert (stands.distance_m, stands.far_m) == (1.0, pytest.approx(1.5))
    assert stands.wanted_height_m == pytest.approx(1.6 / 12)
    tops = [y for solid in stands.solids for _, y in solid.side]
    assert max(tops) == pytest.approx(2.5 / 12, abs=1e-3)
    # derived: 2·atan(23.5/(2·36.27)) across, the delivery's height of it up and down
    assert stands.view_across_deg == pytest.approx(35.9, abs=0.05)


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (0, "0"),
        (0.13333, "0.133"),
        (11100, "11\u2009100"),
        (-2.5, "−2.5"),
        (1020.4, "1020"),
        (123456.7, "123\u2009000"),
        (1e-12, "0"),
        (0.00001234, "0.0000123"),
    ],
)
def test_numbers_as_a_crew_says_them(value: float, text: str):
    assert number(value) == text


@pytest.mark.parametrize(
    ("metres", "metric", "imperial"),
    [
        (1.0, "1 m", "3 ft 3 in"),
        (0.004, "4 mm", "3/16 in"),
        (0.1333, "0.133 m", "5 1/4 in"),
        (0, "0 m", "0 in"),
        (-0.5, "−0.5 m", "−19 11/16 in"),
        (12, "12 m", "39 ft 4 in"),
    ],
)
def test_lengths_in_both_units(metres: float, metric: str, imperial: str):
    assert Words("metric").length(metres) == metric
    assert Words("imperial").length(metres) == imperial


@given(st.floats(0.001, 1000))
def test_a_length_in_inches_is_the_length_to_a_sixteenth_or_an_inch(metres: float):
    said = Words("imperial").length(metres)
    feet = sum(int(n) for n in re.findall(r"(\d+) ft", said))
    plain = re.sub(r"\d+ ft ?", "", said).replace(" in", "").strip()
    total = feet * 12.0
    for piece in plain.split():
        top, _, bottom = piece.partition("/")
        total += float(top) / float(bottom) if bottom else float(top)
    assert total * 0.0254 == pytest.approx(metres, abs=0.0128 if feet else 0.0009)


def test_cautions_defer_and_never_instruct():
    assert "Local codes and licensed practice come first" in DEFERENCE
    forbidden = re.compile(
        r"\b(mix|ignite|fuse|detonat\w*|powder|petrol|gasoline|propane|accelerant|wire a squib|harness"
        r" the)\b",
        re.IGNORECASE,
    )
    for caution in CAUTIONS.values():
        assert not forbidden.search(caution.text + caution.safer)
        assert caution.ask and caution.safer


def test_a_layer_as_deep_as_a_layer_may_be_can_be_drawn():
    """The box that stands for a layer without parts has the layer's own limits."""
    field = Layer.model_fields["depth_m"]
    deepest = next(one.le for one in field.metadata if hasattr(one, "le"))
    layer = Layer(name="Sea to the horizon", near_m=1, depth_m=deepest, width_m=20, height_m=1)
    assert parts_of(layer)[0].thickness_m == deepest


def test_what_is_endless_or_next_to_nothing_is_said_so():
    assert number(math.inf) == "∞"
    assert (
        Words("imperial").length(0.0005) == "0.02 in"
    )  # by hand: 0.5 mm are 0.0197 in, less than a sixteenth's half
    assert Words("metric").length(-0.35) == "−0.35 m"
