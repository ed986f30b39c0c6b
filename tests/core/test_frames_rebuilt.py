"""A set that is built up again, on photographs: what is off by a known amount is told by as much, with the
way back; and what is mended by what was told holds.
"""

from __future__ import annotations

import math

import numpy as np
import pytest

from jungoptic.core.frames import BuiltLine, BuiltUp, MarkedPiece, WatchedFor, built_up

from .at_the_desk import DELIVERED, MARGIN, SIZE, clean, taken
from .filmed import PHOTOGRAPHS, laid, photograph

LEFT, TOP, SIDE = 700, 300, 120
POST = MarkedPiece(
    "The post", ((LEFT + 5) / SIZE[1], (TOP + 5) / SIZE[0], (LEFT + 115) / SIZE[1], (TOP + 115) / SIZE[0])
)
TO = WatchedFor(DELIVERED, (), (POST,))
LIT_STOPS = -0.2


def with_post(light: np.ndarray, aside: int) -> np.ndarray:
    """The piece stands so many px to the right of where it stood."""
    seen = light.copy()
    seen[TOP : TOP + SIDE, LEFT + aside : LEFT + aside + SIDE] = light[TOP : TOP + SIDE, LEFT : LEFT + SIDE]
    return seen


def against(light: np.ndarray, name: str, seed: int = 2) -> BuiltUp:
    return built_up(taken(light, seed), taken(clean(name), 1), TO, 2.0)


def line(told: BuiltUp, what: str) -> BuiltLine:
    [found] = [each for each in told.lines if each.what == what]
    return found


def amounts(text: str) -> list[float]:
    words = text.replace("°", " ").split()
    return [float(each) for each in words if each.replace(".", "").isdigit()]


@pytest.mark.parametrize("name", PHOTOGRAPHS)
def test_how_far_the_camera_is_off_is_told_with_its_way_back(name: str):
    right, down, turn_deg = 2.6, -1.4, 0.2
    off = laid(photograph(name, SIZE, MARGIN), (right, down), turn_deg, of=SIZE)
    told = against(off, name)
    camera = line(told, "camera")
    ways = camera.way.split(", ")
    assert [way.rsplit(" by ", 1)[0] for way in ways[:3]] == ["pan right", "tilt up", "roll clockwise"]
    shifts = [amounts(way)[0] for way in ways[:3]]
    assert shifts[:2] == pytest.approx([DELIVERED * right, -DELIVERED * down], rel=0.05, abs=0.1)
    # to the rim of the frame, a turn is as exact as a shift
    half = DELIVERED * math.hypot(*SIZE) / 2.0
    assert shifts[2] == pytest.approx(turn_deg, rel=0.05, abs=math.degrees(0.1 / half))
    assert camera.verdict == "shows" and not told.holds
    # the piece is measured beside the camera
    assert line(told, "piece").verdict == "holds"


@pytest.mark.parametrize("name", PHOTOGRAPHS)
def test_light_and_a_piece_that_are_off_say_by_how_much(name: str):
    told = against(with_post(clean(name), 3) * 2.0**LIT_STOPS, name)
    assert line(told, "camera").verdict == "holds" and line(told, "camera").way == ""
    light, post = line(told, "light"), line(told, "piece")
    assert amounts(light.off)[0] == pytest.approx(-LIT_STOPS, rel=0.05)
    assert light.way.startswith("give it") and light.way.endswith("stop more")
    assert amounts(post.off)[0] == pytest.approx(3 * DELIVERED, rel=0.05, abs=0.1)
    assert "left" in post.way and "mm" in post.way and post.box == POST.box
    assert (light.verdict, post.verdict, told.holds) == ("shows", "shows", False)


@pytest.mark.parametrize("name", PHOTOGRAPHS)
@pytest.mark.parametrize("seed", [3, 4, 5])
def test_what_stands_as_it_was_holds(name: str, seed: int):
    told = against(clean(name), name, seed)
    assert told.holds and {each.way for each in told.lines} == {""}
    assert [each.what for each in told.lines] == ["camera", "light", "focus", "piece"]


def test_mended_by_what_was_told_it_holds():
    """Two rounds of pushing the tripod by what stands there."""
    name, off = "brick", np.array([4.3, -2.2])
    for round_number in range(2):
        told = against(laid(photograph(name, SIZE, MARGIN), (off[0], off[1]), of=SIZE), name, round_number)
        assert told.against is not None
        off = off - np.array([told.against.right_px, told.against.down_px]) / DELIVERED
    told = against(laid(photograph(name, SIZE, MARGIN), (off[0], off[1]), of=SIZE), name, 9)
    assert told.holds


def test_another_place_is_not_measured():
    told = against(clean("rocket"), "gravel")
    assert told.against is None and not told.holds
    assert [each.what for each in told.lines] == ["lost"] and "onion skin" in told.lines[0].way
