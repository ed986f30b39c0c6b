"""The comparison's one camera against a reference library: every item of place is what OpenCV's own
projection says, for any camera, move, portrait and extraction.

Reference: OpenCV, ``cv2.projectPoints`` without distortion, with rotation vectors made by SciPy.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from jungoptic.core.example import HERO
from jungoptic.core.match import Delivery, Layer, Match, Part, SetUp, judge_match
from jungoptic.core.match.camera import focal_px
from jungoptic.core.motion import Move

Array = npt.NDArray[np.float64]
SHARES = [share / 8 for share in range(9)]


@dataclass(frozen=True)
class Camera:
    """A camera of the test's own, in metres of its own set."""

    f_px: float
    distance_m: float
    height_m: float
    tilt_deg: float
    roll_deg: float
    travel: float
    pupil_m: float

    def sees(self, points: Array, move: Move, share: float, round_m: float) -> Array:
        """Points (n, 3) of the set, px from the middle of the frame."""
        done, come = move.amount * share, self.travel * share
        pan = {"pan": done, "arc": -done}.get(move.kind, 0.0)
        tilt = self.tilt_deg + (done if move.kind == "tilt" else 0.0)
        roll = self.roll_deg + (done if move.kind == "roll" else 0.0)
        zoom = 1.0 + (done / 100.0 if move.kind == "zoom" else 0.0)
        place = np.array([0.0, self.height_m, -self.distance_m])
        if move.kind == "arc":
            turned = math.radians(come)
            place += round_m * np.array([math.sin(turned), 0.0, 1.0 - math.cos(turned)])
        elif move.kind in ("slide", "boom", "push"):
            place["slide boom push".split().index(move.kind)] += come
        # the pupil stands before the axis that the camera turns about
        turn = Rotation.from_euler("YXZ", [pan, -tilt, 0.0], degrees=True)
        start = Rotation.from_euler("YXZ", [0.0, -self.tilt_deg, 0.0], degrees=True)
        place += self.pupil_m * (turn.apply([0.0, 0.0, 1.0]) - start.apply([0.0, 0.0, 1.0]))
        # to a camera whose x is right, y down and z forward
        looks = (turn * Rotation.from_euler("Z", -roll, degrees=True)).as_matrix()
        flip = np.diag([1.0, -1.0, 1.0])
        rotation = flip @ looks.T @ flip
        translation = -rotation @ (flip @ place)
        inside = (rotation @ (flip @ points.T) + translation[:, None])[2].min()
        assume(inside > 0.3 * self.distance_m)
        lens = np.array([[self.f_px * zoom, 0, 0], [0, self.f_px * zoom, 0], [0, 0, 1.0]])
        seen, _ = cv2.projectPoints(
            points @ flip, Rotation.from_matrix(rotation).as_rotvec(), translation, lens, None
        )
        found: Array = seen.reshape(-1, 2)
        return found


MOVES = {
    "none": 0.0,
    "pan": 12.0,
    "tilt": 9.0,
    "roll": 8.0,
    "slide": 1.5,
    "boom": 0.8,
    "push": 2.0,
    "arc": 15.0,
    "zoom": 60.0,
}
WRONG = {
    "lens": "f_px",
    "perspective": "distance_m",
    "height": "height_m",
    "tilt": "tilt_deg",
    "roll": "roll_deg",
    "move": "travel",
    "pupil": "pupil_m",
}

heroes = st.builds(
    SetUp,
    focal_length_mm=st.sampled_from([18.0, 35.0, 50.0, 85.0]),
    focusing=st.sampled_from(["unit", "constant_view"]),
    f_number=st.just(8.0),
    focus_distance_m=st.floats(2, 60),
    gate_width_mm=st.just(36.0),
    gate_height_mm=st.just(36.0),
    extraction_width_mm=st.floats(6, 36),
    recorded_width_px=st.just(3840),
    recorded_height_px=st.just(3840),
    distance_m=st.floats(4, 40),
    lens_height_m=st.floats(0.2, 6),
    tilt_deg=st.floats(-15, 15),
    roll_deg=st.floats(-6, 6),
    capture_fps=st.just(24.0),
    iso=st.just(800.0),
    illuminance_lx=st.just(960.0),
    pupil_off_mm=st.floats(-60, 60),
)


@settings(max_examples=300)
@given(
    hero=heroes,
    size=st.sampled_from([(1920, 1080), (1080, 1920), (2048, 858)]),
    kind=st.sampled_from(list(MOVES)),
    strength=st.floats(-1, 1),
    scale=st.floats(1, 30),
    near=st.floats(6, 40),
    depth=st.floats(0.5, 10),
    width=st.floats(0.5, 8),
    height=st.floats(0.5, 5),
    offset=st.floats(-3, 3),
    base=st.floats(-1, 1),
    resize=st.floats(0.8, 1.2),
    off=st.tuples(
        st.floats(0.9, 1.1), st.floats(-0.3, 0.3), st.floats(-4, 4), st.floats(-4, 4), st.floats(0.5, 1.4)
    ),
    travels=st.sampled_from([(0.0, 0.0, 0.0), (1.0, 0.5, 2.0)]),
    focal=st.floats(20, 60),
)
def test_every_item_of_place_is_what_a_reference_library_projects(
    hero, size, kind, strength, scale, near, depth, width, height, offset, base, resize, off, travels, focal
):
    move = Move(kind=kind, amount=MOVES[kind] * (strength or 1.0), start_frame=0, end_frame=96, round_m=None)
    # nothing is cut off by so wide a frame: the corners of the box are all that is looked at
    delivery = Delivery(
        width_px=size[0],
        height_px=size[1],
        needed_width_px=60000,
        needed_height_px=60000,
        move=move,
        length_frames=97,
    )
    layer = Layer(
        name="Box",
        kind="model",
        scale=scale,
        near_m=near,
        depth_m=depth,
        width_m=width,
        height_m=height,
        offset_m=offset,
        base_m=base,
        resize=resize,
        travel_across_m=travels[0],
        travel_up_m=travels[1],
        travel_away_m=travels[2],
    )
    farther, higher, tilted, rolled, made = off
    model = hero.but(
        focal_length_mm=focal,
        focusing="constant_view",
        focus_distance_m=5,
        distance_m=near / scale * farther,
        lens_height_m=(hero.lens_height_m - base + higher) / scale,
        tilt_deg=hero.tilt_deg + tilted,
        roll_deg=hero.roll_deg + rolled,
        travel_m=move.amount / scale * made,
        pupil_off_mm=hero.pupil_off_mm / scale * made,
    )
    match = Match(hero, layer, model, delivery)
    wanted = Camera(
        focal_px(hero, delivery),
        near,
        hero.lens_height_m - base,
        hero.tilt_deg,
        hero.roll_deg,
        move.amount,
        hero.pupil_off_mm / 1000,
    )
    # in the model's own metres
    films = Camera(
        focal_px(model, delivery) * resize,
        model.distance_m,
        model.lens_height_m,
        model.tilt_deg,
        model.roll_deg,
        move.amount if kind == "arc" else model.travel_m,
        model.pupil_off_mm / 1000,
    )
    corners = np.array(
        [(offset, 0.0, 0.0)]
        + [
            (offset + side * width / 2, up, away)
            for side in (-1, 1)
            for up in (0.0, height)
            for away in (0.0, depth)
        ]
    )
    comes = np.array(travels)

    def pictures(camera: Camera, s: float) -> Array:
        moving = kind != "none" or any(travels)
        found = np.array(
            [
                camera.sees((corners + share * comes) / s, move, share, hero.distance_m / s)
                for share in (SHARES if moving else [0.0])
            ]
        )
        assume(camera is not wanted or np.abs(found).max() < 29000)
        return found[:, 1:] - found[:, :1]  # pinned down at the middle of its near foot

    def furthest(one: Array, other: Array) -> float:
        return float(np.linalg.norm(one - other, axis=2).max())

    here, there = pictures(films, scale), pictures(wanted, 1.0)
    near_size = films.distance_m * scale / near
    right = {
        "lens": replace(films, f_px=wanted.f_px * near_size),
        "perspective": replace(films, distance_m=near / scale, f_px=wanted.f_px),
        "height": replace(films, height_m=wanted.height_m / scale),
        "tilt": replace(films, tilt_deg=wanted.tilt_deg),
        "roll": replace(films, roll_deg=wanted.roll_deg),
        "move": replace(films, travel=films.travel if kind == "arc" else wanted.travel / scale),
        "pupil": replace(films, pupil_m=wanted.pupil_m / scale),
    }
    sized = pictures(right["lens"], scale)  # a distance is put right once the front edge has its size
    expected = {
        item: furthest(sized if item == "perspective" else here, pictures(camera, scale))
        for item, camera in right.items()
    }
    for item, amount in expected.items():
        assert match.amounts.get(item, 0.0) == pytest.approx(amount, rel=1e-6, abs=2e-6 * wanted.f_px), item
    together = max(0.0, furthest(here, there) - max(expected.values()))
    assert match.amounts["together"] == pytest.approx(together, rel=1e-6, abs=1e-5 * wanted.f_px)


PLATE = Layer(name="Plate", near_m=8, depth_m=30, width_m=12, height_m=6, fills_frame=True)
TOWER = Layer(name="Tower", near_m=12, depth_m=6, width_m=1, height_m=8)
ALL_MOVES = [
    Delivery(move=Move(kind=kind, amount=amount, start_frame=10, end_frame=80), length_frames=97)
    for kind, amount in MOVES.items()
]


@pytest.mark.parametrize("delivery", ALL_MOVES, ids=list(MOVES))
@pytest.mark.parametrize("layer", [PLATE, TOWER])
def test_the_hero_against_itself_is_nothing_in_every_move(hero: SetUp, layer: Layer, delivery: Delivery):
    itself = hero.but(distance_m=layer.near_m, tilt_deg=4, roll_deg=1, pupil_off_mm=25)
    amounts = Match(itself, layer, itself, delivery).amounts
    assert {key: amount for key, amount in amounts.items() if amount > 1e-9 and key != "edges"} == {}
    assert amounts["edges"] < 1.0


@pytest.mark.parametrize("delivery", ALL_MOVES, ids=list(MOVES))
@pytest.mark.parametrize("item", ["lens", "height", "tilt", "roll", "move", "pupil"])
def test_a_single_fault_is_the_whole_difference(hero: SetUp, item: str, delivery: Delivery):
    if item == "move" and not delivery.move.shows_depth:
        pytest.skip("this move is laid on afterwards")
    right = hero.but(distance_m=8, tilt_deg=3, travel_m=delivery.move.amount)
    field, wrong = {
        "lens": ("focal_length_mm", 36),
        "height": ("lens_height_m", 1.7),
        "tilt": ("tilt_deg", 4),
        "roll": ("roll_deg", 1),
        "move": ("travel_m", delivery.move.amount * 0.9),
        "pupil": ("pupil_off_mm", 30),
    }[item]
    amounts = Match(right, PLATE.but(combine="over"), right.but(**{field: wrong}), delivery).amounts
    others = {"lens", "perspective", "height", "tilt", "roll", "move", "pupil", "together"} - {item}
    turns = delivery.move.kind in ("pan", "tilt", "arc")
    if (item == "move" and delivery.move.kind == "arc") or (item == "pupil" and not turns):
        assert amounts.get(item, 0.0) == 0.0  # an arc is made whole or not at all
    else:
        assert amounts[item] > 1.0
    assert all(amounts.get(other, 0.0) == pytest.approx(0, abs=1e-8) for other in others)


@settings(max_examples=60)
@given(s=st.floats(1, 60), higher=st.floats(-1, 1), farther=st.floats(0.9, 1.2), tilted=st.floats(-3, 3))
@pytest.mark.parametrize("delivery", ALL_MOVES, ids=list(MOVES))
def test_scaling_the_world_changes_nothing(delivery: Delivery, s, higher, farther, tilted):
    hero = HERO.but(focusing="constant_view")
    full = hero.but(
        distance_m=12 * farther,
        lens_height_m=1.6 + higher,
        tilt_deg=tilted,
        travel_m=delivery.move.amount * 0.9,
        pupil_off_mm=20,
    )
    model = full.but(
        distance_m=full.distance_m / s,
        lens_height_m=full.lens_height_m / s,
        travel_m=full.travel_m / s,
        pupil_off_mm=20 / s,
    )
    one = Match(hero, TOWER, full, delivery).amounts
    other = Match(hero, TOWER.but(scale=s), model, delivery).amounts
    for item in ("lens", "perspective", "height", "tilt", "roll", "move", "pupil", "together", "edges"):
        assert other.get(item, 0.0) == pytest.approx(one.get(item, 0.0), rel=1e-9, abs=1e-6), item


def test_every_amount_is_a_plain_number(hero: SetUp, model: SetUp, mill: Layer):
    """What goes over the wire is no array's scalar."""
    layer = mill.but(combine="key", brightest_stops=5)
    rippling = model.but(ripple_depth=0.3, readout_ms=10, distortion_pct=-1, vignetting_stops=1)
    match = Match(hero, layer, rippling, Delivery())
    assert {type(amount) for amount in match.amounts.values()} == {float}
    assert {type(value) for value in (match.blur_near_px, match.airy_px, match.stops, match.bent_px)} == {
        float
    }


def test_a_layer_as_deep_as_a_rounding_has_one_end():
    """Two depths that are neighbours among floating-point numbers have no middle between them."""
    front_m = np.nextafter(1.0, 2.0)
    front = Part(name="Front", points=((-1, 0), (-1, 1), (1, 1)), behind_m=front_m)
    back = Part(name="Back", points=((-1, 0), (-1, 1), (1, 1)), behind_m=np.nextafter(front_m, 2.0))
    layer = Layer(name="Sheet", near_m=5, depth_m=1, width_m=2, parts=(front, back))
    match = Match(HERO, layer, HERO.but(distance_m=5, focus_distance_m=2), Delivery())
    assert all(these.any() for these in match.place[0].behind)
    assert all(judged.fixes is not None for judged in judge_match(match))
