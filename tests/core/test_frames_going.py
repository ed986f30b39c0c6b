"""A camera that goes on by its own rig: that it went as planned is no warning, that it did not is one; light
and what was left in the frame are told all the same. On photographs in two planes, the nearer of which goes
farther.
"""

from __future__ import annotations

import pickle
from functools import cache

import cv2
import numpy as np
import pytest

from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.frames import STANDS, Carries, Goes, WatchedFor, Went, as_seen, picture_goes, watched
from jungoptic.core.match import Match, focal_px

from .at_the_desk import DELIVERED, MARGIN, SIZE, taken
from .filmed import laid, photograph

NAMES = ("gravel", "brick", "coffee")
FIGURE = ((0.4, 0.35, 0.6, 0.8),)
BEHIND = 0.8
"""How far what lies behind goes, where what is in front goes 1."""
STEP = Goes(-4.0)
FRAMES = SIZE[::-1], DELIVERED


@cache
def set_of(name: str, right_px: float, behind: float = 1.0) -> np.ndarray:
    """A set seen by a camera that took its front so far to the right, delivered px; its lower part stands
    nearer.
    """
    shift = right_px / DELIVERED
    front = laid(photograph(name, SIZE, MARGIN), (shift, 0.0), of=SIZE)
    back = laid(photograph(NAMES[0], SIZE, MARGIN), (behind * shift, 0.0), of=SIZE)
    down = 380
    return np.concatenate([back[:down], front[down:]]) if behind != 1.0 else front


def said(frames: list[np.ndarray], to: WatchedFor) -> dict[str, str]:
    first, last, frame = (taken(light, seed) for seed, light in enumerate(frames, 1))
    return {each.what: each.text for each in watched(frame, last, first, to).warnings}


@cache
def learned(name: str, behind: float) -> WatchedFor:
    """What is known of a camera that went on for three frames: how far its picture goes by a step."""
    went: list[Went | None] = []
    for number in (1, 2, 3):
        last, frame = (
            taken(set_of(name, each * STEP.right_px, behind), each) for each in (number - 1, number)
        )
        seen = watched(
            frame, last, last, WatchedFor(DELIVERED, FIGURE, (), as_seen(STEP, went, *FRAMES))
        ).last
        assert seen is not None
        went.append(seen.went)
    goes = [as_seen(Goes(times * STEP.right_px), went, *FRAMES) for times in (1, 2)]
    assert behind - 0.02 <= goes[0].right_px / STEP.right_px <= 1.0 + 0.02
    return WatchedFor(DELIVERED, FIGURE, (), *goes)


@pytest.mark.parametrize("behind", [1.0, BEHIND])
@pytest.mark.parametrize("name", NAMES[1:])
def test_a_camera_that_goes_as_planned_is_no_warning_and_one_that_does_not_is(name: str, behind: float):
    goes = [set_of(name, times * STEP.right_px, behind) for times in (0, 1, 2)]
    assert said(goes, learned(name, behind)) == {}
    forgotten = said([goes[0], goes[1], goes[1]], learned(name, behind))
    assert set(forgotten) == {"camera"} and "was its crank turned?" in forgotten["camera"]
    far = said([*goes[:2], set_of(name, 2 * STEP.right_px - 1.0, behind)], learned(name, behind))
    assert set(far) == {"camera"} and "left. Count the turns" in far["camera"]


@pytest.mark.parametrize("name", NAMES[1:])
def test_light_and_what_was_left_there_are_told_while_the_camera_goes(name: str):
    goes = [set_of(name, times * STEP.right_px, BEHIND) for times in (0, 1, 2)]
    assert set(said([*goes[:2], goes[2] * 2.0**0.03], learned(name, BEHIND))) == {"light"}
    piece = goes[2].copy()
    piece[400:450, 120:180] = 0.9
    assert set(said([*goes[:2], piece], learned(name, BEHIND))) == {"left"}


def test_what_nobody_was_told_of_the_camera_is_still_a_warning():
    goes = [set_of("brick", times * STEP.right_px) for times in (0, 1, 2)]
    assert "camera" in said(goes, WatchedFor(DELIVERED, FIGURE))


def test_far_from_the_first_frame_only_the_last_is_asked():
    """After half of the picture went out of the frame, it is another one than the block's first."""
    goes = [set_of("brick", 0.0), set_of("grass", 0.0), set_of("grass", STEP.right_px)]
    far = WatchedFor(DELIVERED, FIGURE, (), STEP, Goes(-600.0))
    assert said(goes, far) == {}


@pytest.mark.parametrize(
    "moved",
    [
        {"camera_right": 3.0},
        {"camera_up": 3.0},
        {"camera_forward": 20.0},
        {"camera_right": 2.0, "camera_up": -1.0, "camera_forward": -15.0, "figure": 50.0},
    ],
)
def test_a_picture_goes_as_a_pinhole_camera_does(moved: dict[Carries, float]):
    """Against projectPoints of OpenCV: places on the layer's front, mm of the set, before and after."""
    match = Match(HERO, MILL, MODEL, DELIVERY)
    focal, away = focal_px(MODEL, DELIVERY), 1000.0 * MODEL.distance_m
    front = np.array([(x, y, away) for x in (-300.0, 300.0) for y in (-200.0, 200.0)])
    lens = np.diag([focal, focal, 1.0])
    gone = [moved.get(way, 0.0) for way in ("camera_right", "camera_up", "camera_forward")]
    before, after = (
        cv2.projectPoints(front, np.zeros(3), np.array(shift), lens, None)[0][:, 0]
        for shift in ((0.0, 0.0, 0.0), (-gone[0], gone[1], -gone[2]))
    )
    wanted = after.mean(axis=0) - before.mean(axis=0)
    goes = picture_goes(match, moved)
    assert (goes.right_px, goes.down_px) == pytest.approx(tuple(wanted), abs=0.01)
    assert goes.size == pytest.approx(np.ptp(after[:, 0]) / np.ptp(before[:, 0]), rel=1e-4)


def test_a_camera_does_not_go_through_what_it_films():
    with pytest.raises(ValueError, match="stand in what it films"):
        picture_goes(Match(HERO, MILL, MODEL, DELIVERY), {"camera_forward": 1e7})


def test_what_was_seen_of_a_set_says_how_far_its_picture_goes():
    seen: list[Went | None] = [(-0.5, 0.0, 0.0, 0.0), None, (-0.52, 0.0, 0.01, 0.0)]
    assert as_seen(STEP, seen, *FRAMES) is STEP
    known = as_seen(STEP, [*seen, (0.0, 0.0, 0.0, 0.0), (-0.51, 0.0, 0.01, 0.0)], *FRAMES)
    assert known.right_px == pytest.approx(-4.0 * 0.505) and known.turn_deg == pytest.approx(4.0 * 0.005)
    assert known.open_share < STANDS.open_share and known.planned_px == pytest.approx(4.0)


def test_a_camera_that_stands_still_stands_in_another_process_as_well():
    """What is watched is sent there: it comes as something equal, not as the same."""
    first, moved = taken(set_of("brick", 0.0), 1), taken(set_of("brick", 1.0), 2)
    there = pickle.loads(pickle.dumps(WatchedFor(DELIVERED, FIGURE)))
    seen = watched(moved, first, first, there)
    assert seen.last is not None and (seen.last.goes_px, seen.last.went_share, seen.last.went) == (
        0.0,
        None,
        None,
    )
    assert seen.warnings[0].text.startswith("The camera stands 1 px off the last frame")
