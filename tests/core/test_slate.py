"""The slate is read by OpenCV's reader from pictures of the simulated camera: as far as it is said, and not
twice as far.
"""

import numpy as np
import pytest
import segno

from jungoptic.core.example import HERO
from jungoptic.core.match import SetUp
from jungoptic.core.plan import SLATE, Slated, slate_reaches, slated
from jungoptic.core.recordings import read_codes
from jungoptic.core.stage import photograph_flat, recorded_codes
from jungoptic.core.wording import Words

MODULES, QUIET = 29, 4
WINDOW_PX = (960, 720)
# focal length mm, stop, focus m, width of the code mm, ISO
SET_UPS = [
    (35, 8, 2.0, 60, 400),
    (35, 8, 6.5, 100, 400),
    (50, 4, 1.5, 60, 800),
    (85, 2.8, 3.0, 60, 400),
    (18, 5.6, 1.0, 60, 1600),
    (35, 16, 1.0, 100, 6400),
]


def slate(n: int) -> tuple[str, np.ndarray]:
    """A slate's text and its picture: a code on a screen, white around it."""
    text = SLATE.format(code=f"7F3K9Q2{n}", shot=f"TM{n:03d}", layer=n, take=n % 9 + 1)
    code = np.array(
        [[bool(module) for module in row] for row in segno.make(text, version=3, error="m").matrix]
    )
    assert code.shape == (MODULES, MODULES)
    paper = np.pad(code, QUIET)
    return text, np.where(paper, 0.04, 0.9)


def how_many_are_read(setup: SetUp, code_mm: float, distance_m: float, seeds: range = range(6)) -> int:
    width_m = code_mm / 1000 * (MODULES + 2 * QUIET) / MODULES
    return sum(
        read_codes(recorded_codes(photograph_flat(picture, width_m, distance_m, setup, window_px=WINDOW_PX)))
        == [text]
        for text, picture in map(slate, seeds)
    )


@pytest.mark.parametrize(("focal", "stop", "focus", "code_mm", "iso"), SET_UPS)
def test_it_is_read_as_far_as_the_screen_says_and_not_at_twice_that(focal, stop, focus, code_mm, iso):
    setup = HERO.but(focal_length_mm=focal, f_number=stop, focus_distance_m=focus, iso=iso)
    reach = next(one for one in slate_reaches(setup, Words()) if one.code_mm == code_mm)
    assert reach.reads
    filling_m = setup.recorded_width_px * focal / setup.gate_width_mm * code_mm / 1000 / 480
    near_m = max(reach.near_m * 1.001, filling_m)  # nearer it is larger than the window
    for distance_m in (near_m, (near_m + reach.far_m) / 2, reach.far_m):
        assert how_many_are_read(setup, code_mm, distance_m) == 6, distance_m
    assert how_many_are_read(setup, code_mm, 2 * reach.far_m) == 0
    focused = setup.but(focus_distance_m=reach.focused_to_m)
    assert how_many_are_read(focused, code_mm, reach.focused_to_m * 0.999) == 6
    assert how_many_are_read(focused, code_mm, 2 * reach.focused_to_m) == 0


def test_a_focus_at_which_it_is_read_nowhere_is_said_with_what_mends_it():
    setup = HERO.but(focal_length_mm=35, f_number=2, focus_distance_m=12)
    reach = next(one for one in slate_reaches(setup, Words()) if one.code_mm == 60)
    assert not reach.reads and reach.text.startswith("Read nowhere at this focus: focused on it, up to 3.9 m")
    assert how_many_are_read(setup, 60, 3.9) == 0
    assert how_many_are_read(setup.but(focus_distance_m=3.9), 60, 3.9) == 6
    far = slate_reaches(HERO.but(focus_distance_m=10000, f_number=2.8), Words())
    assert not any(one.reads for one in far)


def test_what_is_said_is_never_farther_than_what_holds():
    for focal, stop, focus, code_mm, iso in SET_UPS:
        setup = HERO.but(focal_length_mm=focal, f_number=stop, focus_distance_m=focus, iso=iso)
        reach = next(one for one in slate_reaches(setup, Words()) if one.code_mm == code_mm)
        told = [float(word) for word in reach.text.rstrip(".").split() if word[0].isdigit()]
        assert told[0] >= reach.near_m - 1e-9 and told[1] <= reach.far_m + 1e-9


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("JO:7F3K9Q2W:TM010:2:5", Slated("7F3K9Q2W", "TM010", 2, 5)),
        ("JO:7F3K9Q2W::2:5", Slated("7F3K9Q2W", "", 2, 5)),
        ("JO:7F3K9Q2W:TM010:2:", None),
        ("JO:short:TM010:2:5", None),
        ("http://127.0.0.1/", None),
        ("", None),
    ],
)
def test_a_code_says_its_take_or_is_none_of_ours(text, says):
    assert slated(text) == says
