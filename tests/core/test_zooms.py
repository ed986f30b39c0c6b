"""Zooms, close-up lenses, tubes and converters; and the solver that turns a zoom as it likes.

Values by hand from the thin-lens formulas of Ray, Applied Photographic Optics (from memory); those of
the trade are marked.
"""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
from jungoptic.core.kit import Lens, check_against_kit, exact_stop, with_close_up, with_converter, with_tube
from jungoptic.core.match import Match
from jungoptic.core.plan import dials, solve
from jungoptic.core.wording import Words

ZOOM = Lens(
    name="kit zoom",
    focal_length_mm=18,
    longest_mm=55,
    widest_f_number=3.5,
    widest_long_f_number=5.6,
    smallest_f_number=22,
    closest_focus_m=0.25,
    closest_long_m=0.3,
)
PRIME = Lens(name="50 mm", focal_length_mm=50, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.45)
ONLY_ZOOM = KIT.model_copy(update={"lenses": (ZOOM,)})


def test_the_ends_are_as_they_are_engraved_and_the_middle_lies_between_in_the_logarithm():
    assert (ZOOM.turned_to(18).widest_f_number, ZOOM.turned_to(55).widest_f_number) == (3.5, 5.6)
    middle = ZOOM.turned_to(math.sqrt(18 * 55))  # half way in the logarithm: 31.46 mm
    assert middle.widest_f_number == pytest.approx((3.5 + 5.6) / 2)
    assert middle.closest_focus_m == pytest.approx(0.275)
    assert middle.longest_mm is None and middle.engraved_mm == f"{math.sqrt(990):g}"


@given(st.floats(18, 55), st.floats(18, 55))
def test_longer_is_never_faster_nor_nearer(one: float, other: float):
    short, long = ZOOM.turned_to(min(one, other)), ZOOM.turned_to(max(one, other))
    assert long.widest_f_number >= short.widest_f_number - 1e-12
    assert long.closest_focus_m >= short.closest_focus_m - 1e-12


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"longest_mm": 18}, "longest_mm"),
        ({"smallest_f_number": 4}, "smallest_f_number"),
        ({"farthest_focus_m": 0.2}, "farthest_focus_m"),
    ],
)
def test_a_lens_that_cannot_be_is_refused_at_its_field(change: dict[str, float], field: str):
    with pytest.raises(InputError) as refused:
        Lens.read({**ZOOM.model_dump(), **change})
    assert [problem.field for problem in refused.value.problems] == [field]


# --- what is put on


def test_two_dioptres_bring_infinity_to_half_a_metre():
    # common practice: whatever the lens, +D at infinity focuses at 1/D
    for focal in (35, 50, 100):
        lens = with_close_up(PRIME.model_copy(update={"focal_length_mm": focal}), 2)
        assert lens.farthest_focus_m == pytest.approx(0.5)
        # 1/f' = 1/f + D
        assert 1000 / lens.focal_length_mm == pytest.approx(1000 / focal + 2)


def test_a_tube_as_long_as_the_lens_is_life_size():
    # with e = f and the lens at infinity: v = 2f, so that object and image are both 2f away
    lens = with_tube(PRIME, 50)
    assert lens.farthest_focus_m == pytest.approx(0.1)
    focus_mm = 1000 * (lens.farthest_focus_m or 0)
    assert lens.focal_length_mm / (focus_mm - lens.focal_length_mm) == pytest.approx(1.0)


@given(st.floats(20, 200), st.floats(5, 60), st.floats(0.5, 20))
def test_a_tube_adds_its_share_to_the_magnification(focal: float, tube: float, distance_m: float):
    lens = PRIME.model_copy(update={"focal_length_mm": focal, "closest_focus_m": distance_m})
    with_it = with_tube(lens, tube)
    without = focal / (1000 * distance_m - focal)
    with_m = focal / (1000 * with_it.closest_focus_m - focal)
    assert with_m - without == pytest.approx(tube / focal, rel=1e-6)


def test_a_converter_keeps_where_it_focuses_and_loses_its_own_stops():
    lens = with_converter(ZOOM, 2)
    assert (lens.focal_length_mm, lens.longest_mm, lens.closest_focus_m) == (36, 110, 0.25)
    assert lens.widest_f_number == pytest.approx(2 * exact_stop(3.5))


def test_no_tube_goes_behind_a_zoom():
    with pytest.raises(InputError, match="a prime"):
        with_tube(ZOOM, 10)


# --- a kit with a zoom


def test_a_prime_is_taken_before_a_zoom_and_of_two_the_one_that_can():
    near = with_tube(PRIME, 12.5)
    kit = KIT.model_copy(update={"lenses": (ZOOM, PRIME, near)})
    assert kit.lens_of(50) == PRIME
    assert kit.lens_of(50, focus_distance_m=0.2) == near
    assert kit.lens_of(40) == ZOOM.turned_to(40)
    assert kit.lens_of(80) is None


def test_what_the_kit_cannot_is_said_with_what_it_has():
    mode = KIT.camera.modes[0]
    asked = {
        "recorded_width_px": mode.recorded_width_px,
        "gate_width_mm": mode.gate_width_mm,
        "capture_fps": 24,
        "iso": 800,
    }
    with pytest.raises(InputError, match="no 80 mm lens; it has 18–55 mm"):
        check_against_kit(ONLY_ZOOM, focal_length_mm=80, f_number=8, focus_distance_m=1, **asked)
    with pytest.raises(InputError, match=r"goes from f/5\.6"):
        check_against_kit(ONLY_ZOOM, focal_length_mm=55, f_number=4, focus_distance_m=1, **asked)
    tube = KIT.model_copy(update={"lenses": (with_tube(PRIME, 12.5),)})
    with pytest.raises(InputError, match=r"to 0\.25 m; 1 m was given"):
        check_against_kit(tube, focal_length_mm=50, f_number=8, focus_distance_m=1, **asked)


def test_the_barrel_turns_freely_and_is_struck_through_where_nothing_reaches():
    setup = MODEL.model_copy(update={"focal_length_mm": 31.0})
    kit = KIT.model_copy(update={"lenses": (ZOOM, PRIME.model_copy(update={"focal_length_mm": 85.0}))})
    match = Match(HERO, MILL, setup, DELIVERY)
    ring = dials(match, (), (), kit, Words(), (0.9, 1.2))[0]
    assert not ring.steps and ring.value == 31
    marks = {mark.value: mark.can for mark in ring.marks}
    assert marks[18] and marks[24] and marks[31] and marks[55] and marks[85]
    assert not marks[60] and not marks[70]


def test_the_solver_frames_with_a_zoom_what_a_prime_leaves_to_the_resize():
    """The hero's view on another gate is no prime's; a zoom is turned to it."""
    small = KIT.camera.modes[0].model_copy(update={"gate_width_mm": 17.3, "gate_height_mm": 9.73})
    kit = ONLY_ZOOM.model_copy(update={"camera": KIT.camera.model_copy(update={"modes": (small,)})})
    answer = solve(HERO, MILL, MODEL, DELIVERY, kit, locked=frozenset({"resize"}))[0]
    judged = {one.item: one for one in answer.judged}
    assert ZOOM.reaches(answer.set_up["focal_length_mm"])
    assert judged["lens"].verdict == "holds", judged["lens"].sentence
    primes = kit.model_copy(update={"lenses": tuple(ZOOM.turned_to(f) for f in (18, 24, 35, 50))})
    others = solve(HERO, MILL, MODEL, DELIVERY, primes, locked=frozenset({"resize"}))[0]
    assert (answer.shows, answer.tight) <= (others.shows, others.tight)


def test_the_solver_keeps_within_what_a_tube_lets_it_focus():
    near = with_tube(PRIME, 12.5)
    kit = KIT.model_copy(update={"lenses": (near,)})
    for answer in solve(HERO, MILL, MODEL, DELIVERY, kit):
        set_up = MODEL.model_dump() | answer.set_up
        assert near.can(set_up["f_number"], set_up["focus_distance_m"])


def test_a_focal_length_that_is_locked_is_the_zooms_there():
    setup = MODEL.model_copy(update={"focal_length_mm": 40.0})
    answer = solve(HERO, MILL, setup, DELIVERY, ONLY_ZOOM, locked=frozenset({"focal_length_mm"}))[0]
    assert answer.set_up.get("focal_length_mm", 40) == 40
    assert answer.set_up.get("f_number", setup.f_number) >= ZOOM.turned_to(40).widest_f_number
