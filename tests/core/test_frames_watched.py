"""What the desk says of a frame, on photographs that share nothing with the simulated camera: every nudge,
step of light and left-over piece is found, and of good frames nothing is said.
"""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from jungoptic.core.frames import (
    LIMITS,
    MarkedPiece,
    WatchedFor,
    blocks_of,
    first_frames,
    holds_on,
    pace_of,
    pose_at,
    watched,
)

from .at_the_desk import DELIVERED, MARGIN, SIZE, clean, taken
from .filmed import PHOTOGRAPHS, cases, laid, photograph

NUDGE_PX, STEP_STOPS = 0.3, 0.01
QUALITIES = (92, 97)
FIGURE = ((0.4, 0.35, 0.6, 0.8),)


@pytest.mark.parametrize("name", PHOTOGRAPHS)
@pytest.mark.parametrize("contrast", [1.0, 0.3, 0.12])
def test_a_stronger_codec_is_no_change_of_focus(name: str, contrast: float):
    """Also where little is seen, as in haze, of which it takes most of the texture."""
    light = 0.3 + contrast * (clean(name) - 0.3)
    first = taken(light, 1, 94)
    for seed, quality in enumerate((94, 90), 2):
        told = watched(taken(light, seed, quality), first, first, WatchedFor(DELIVERED, FIGURE))
        assert "focus" not in {each.what for each in told.warnings}
        assert told.last is not None and abs(told.last.softer_px or 0.0) < LIMITS["focus"].holds


def with_figure(light: np.ndarray, step: int) -> np.ndarray:
    """Something animated in the middle: a patch of the picture that goes on by some px a frame."""
    seen = light.copy()
    left = round(0.44 * SIZE[1]) + 5 * step
    seen[220:400, left : left + 70] = light[60:240, 100:170, ::-1]
    return seen


def said(light: np.ndarray, seed: int, name: str, quality: int = 92, **more) -> set[str]:
    first = taken(with_figure(clean(name), 0), 1, quality)
    last = taken(with_figure(clean(name), 1), 2, quality)
    frame = taken(with_figure(light, 2), seed, quality)
    told = watched(frame, last, first, WatchedFor(DELIVERED, FIGURE, **more))
    return {each.what for each in told.warnings}


@pytest.mark.parametrize("index, dice, name, _", list(cases(12)))
def test_every_nudge_step_of_light_and_left_over_piece_is_found(index, dice, name, _):
    quality = QUALITIES[index % 2]
    way = dice.uniform(0, 2 * np.pi)
    nudge = NUDGE_PX / DELIVERED * np.array([np.cos(way), np.sin(way)])
    assert "camera" in said(laid(photograph(name, SIZE, MARGIN), tuple(nudge), of=SIZE), 3, name, quality)
    step = STEP_STOPS * dice.choice((-1, 1))
    assert said(clean(name) * 2.0**step, 4, name, quality) == {"light"}
    piece = clean(name).copy()
    across, down = int(dice.integers(20, 220)), int(dice.integers(20, 460))
    middle = float(piece[down : down + 40, across : across + 40].mean())
    piece[down : down + 40, across : across + 40] = middle / 3.0 if middle > 0.15 else middle + 0.35
    assert said(piece, 5, name, quality) == {"left"}


@pytest.mark.parametrize("index, dice, name, _", list(cases(24)))
def test_of_good_frames_nothing_is_said(index, dice, name, _):
    assert said(clean(name), 100 + index, name, QUALITIES[index % 2]) == set()


@pytest.mark.parametrize("name", PHOTOGRAPHS)
def test_what_throws_light_from_one_side_and_what_goes_soft_is_told_apart(name: str):
    falls = np.clip(1.0 - np.arange(SIZE[1]) / (0.4 * SIZE[1]), 0.0, 1.0)
    assert "side" in said(clean(name) * 2.0 ** (0.06 * falls)[None, :, None], 6, name)
    assert "focus" in said(cv2.GaussianBlur(clean(name), (0, 0), 0.8), 7, name)


@pytest.mark.parametrize("name", PHOTOGRAPHS)
def test_a_marked_piece_that_moved_says_by_how_much(name: str):
    moved = clean(name).copy()
    moved[300:420, 702:822] = clean(name)[300:420, 700:820]
    box = (705 / SIZE[1], 305 / SIZE[0], 815 / SIZE[1], 415 / SIZE[0])
    first = taken(clean(name), 1)
    to = WatchedFor(DELIVERED, FIGURE, (MarkedPiece("The bollard", box),))
    told = watched(taken(moved, 2), first, first, to).warnings
    piece = next(each for each in told if each.what == "piece")
    assert piece.amount == pytest.approx(2 * DELIVERED, abs=0.1) and "The bollard moved by 4" in piece.text
    assert "piece" not in {each.what for each in watched(taken(clean(name), 3), first, first, to).warnings}


def test_another_picture_is_said_to_be_one_and_does_not_break_the_desk():
    first = taken(clean("gravel"), 1)
    told = watched(taken(clean("rocket"), 2), first, first, WatchedFor())
    assert (told.last, told.first) == (None, None)
    assert {each.what for each in told.warnings} == {"lost"} and not np.isfinite(told.warnings[0].amount)


def test_what_stands_off_since_longer_is_said_against_the_first_alone():
    whole = photograph("brick", SIZE, MARGIN)
    nudged = laid(whole, (0.4, 0.0), of=SIZE)
    first = taken(clean("brick"), 1)
    told = watched(taken(nudged, 3), taken(nudged, 2), first, WatchedFor(DELIVERED))
    assert [(each.what, each.since, each.verdict) for each in told.warnings] == [("camera", "first", "shows")]
    assert told.first is not None and told.first.right_px == pytest.approx(0.8, abs=0.05)


def test_what_only_goes_back_is_not_said_once_more():
    """After a bounce of light and a hand, the next good frame differs from the last, and is as the first."""
    light = clean("gravel")
    hand = light.copy()
    hand[300:540, 0:120] = 0.3
    for off in (light * 2.0**0.05, hand):
        first, last = taken(light, 1), taken(off, 2)
        to = WatchedFor(DELIVERED, FIGURE)
        assert watched(last, first, first, to).warnings
        assert watched(taken(light, 3), last, first, to).warnings == ()
    # a step that is not back where it was is said, however near it is to the first
    shifted = [laid(photograph("gravel", SIZE, MARGIN), (each, 0.0), of=SIZE) for each in (0.09, -0.09)]
    told = watched(taken(shifted[1], 3), taken(shifted[0], 2), taken(light, 1), WatchedFor(DELIVERED))
    assert [(each.what, each.since) for each in told.warnings] == [("camera", "last")]


@pytest.mark.parametrize("length, on", [(168, 2), (167, 2), (1, 3), (5, 12), (2880, 1)])
def test_holds_sum_up_to_the_shot_and_every_frame_has_its_pose(length: int, on: int):
    holds = holds_on(length, on)
    assert sum(holds) == length and set(holds[:-1]) <= {on}
    begins = first_frames(holds)
    assert [pose_at(holds, frame) for frame in begins] == list(range(len(holds)))
    assert [pose_at(holds, frame + hold - 1) for frame, hold in zip(begins, holds, strict=True)] == [
        *range(len(holds))
    ]
    assert pose_at(holds, 0) is pose_at(holds, length + 1) is None


def test_a_block_goes_to_where_the_next_begins():
    assert blocks_of([False] * 4) == blocks_of([True, False, False, False]) == (0, 0, 0, 0)
    assert blocks_of([False, True, False, True]) == (0, 1, 1, 3)
    assert blocks_of([]) == ()


def test_frames_that_came_at_one_moment_have_the_pace_of_the_whole():
    pace = pace_of([0.0, 60.0, *[120.0] * 30], [2] * 32, 10, 24.0)
    assert pace is not None and pace.lately_s_per_hour == pace.s_per_hour > 0


def test_the_pace_leaves_breaks_out_and_counts_what_was_shot_again():
    # twelve poses on twos, 100 s each, one of them twice, and an hour at the table
    taken_s = [100.0 * each for each in range(7)] + [3600.0 + 100.0 * each for each in range(7, 14)]
    holds = [2, 2, 2, 0, *[2] * 10]
    pace = pace_of(taken_s, holds, 26, 24.0)
    assert pace is not None
    worked_s = 12 * 100.0
    assert pace.worked_h == pytest.approx(worked_s / 3600.0)
    assert pace.s_per_hour == pytest.approx(11 * 2 / 24.0 / (worked_s / 3600.0))
    assert pace.left_h == pytest.approx(26 * worked_s / 11 / 3600.0)
    assert pace_of(taken_s[:2], holds[:2], 26, 24.0) is None
