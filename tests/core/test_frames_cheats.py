"""Lamps, figures and walls moved for reach: their light by inverse squares and by angles that are known,
where it jumps in the shot, and what is compared across the cut.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.frames import (
    Cheat,
    as_cheated,
    aslant_stops,
    cheat_text,
    cheats_told,
    lamp_held,
    light_moved,
    light_side,
)
from jungoptic.core.light import PlacedLamp
from jungoptic.core.match import Match, Tolerance, cut_side
from jungoptic.core.match.lighting import subject_point

POINT = subject_point(MILL, MODEL)
LENGTH = 96
HOLDS_DEG = Tolerance(7.0, 20.0)


def lamp(name: str, right: float, up: float, back: float, **more: object) -> PlacedLamp:
    """A lamp so far from the middle of what is animated, aimed at it, m."""
    x, y, z = POINT
    place = {"across_m": x + right, "height_m": y + up, "behind_m": z + back}
    aim = {"aim_across_m": x, "aim_height_m": y, "aim_behind_m": z}
    return PlacedLamp(**{"name": name, "intensity_cd": 9000, "beam_deg": 120, **place, **aim, **more})


SPOT = lamp("spot", 0.0, 0.0, -1.0)
LIT = MODEL.but(lamps=(SPOT,))
MATCH = Match(HERO, MILL, LIT, DELIVERY)


def moved(kind: str = "lamp", name: str = "spot", **more: object) -> Cheat:
    return Cheat(**{"kind": kind, "name": name, **more})


def of_light(cheat: Cheat, setup=LIT):
    return light_moved(MILL, setup, as_cheated(MILL, setup, [cheat]))


def told(cheats: list[Cheat], match: Match = MATCH, **cut: object) -> list[tuple[str, int, str]]:
    lines = cheats_told(match, cheats, LENGTH, HOLDS_DEG, **cut)
    return [(line.where, line.frame, line.verdict) for line in lines]


def test_a_lamp_pulled_back_along_its_ray_loses_light_by_the_inverse_square_and_keeps_its_way():
    """Published: E = I/d², so twice as far is two stops (IES Lighting Handbook, from memory)."""
    off = of_light(moved(back_mm=-1000))
    assert off.turned_deg == pytest.approx(0.0, abs=1e-6) and off.mired == 0.0
    assert off.stops == pytest.approx(-2.0, abs=1e-6)
    held = lamp_held(MILL, LIT, moved(back_mm=-1000))
    assert held is not None and held.level == pytest.approx(4.0)
    assert "4 times what it can" in cheat_text(MATCH, moved(back_mm=-1000))


@pytest.mark.parametrize("aside, turned", [(1000.0, 45.0), (1000.0 * math.tan(math.radians(10.0)), 10.0)])
def test_a_lamp_moved_aside_turns_the_key_by_the_angle_of_its_way(aside: float, turned: float):
    for cheat in (moved(right_mm=aside), moved(right_mm=-aside), moved(up_mm=aside)):
        assert of_light(cheat).turned_deg == pytest.approx(turned, abs=1e-6)
    # a figure that goes to one side is lit as if its lamps had gone to the other
    assert of_light(moved("figure", "Heron", right_mm=aside)).turned_deg == pytest.approx(turned, abs=1e-6)
    away = of_light(moved("figure", "Heron", back_mm=1000))
    assert (away.turned_deg, away.stops) == (pytest.approx(0.0, abs=1e-6), pytest.approx(-2.0, abs=1e-6))


@given(
    st.floats(-0.8, 0.8),
    st.floats(-0.8, 0.8),
    st.floats(-1.5, -0.4),
    st.floats(-300, 300),
    st.floats(0.2, 1.0),
)
def test_what_is_said_to_hold_its_light_holds_it(right, up, back, aside, level):
    setup = MODEL.but(lamps=(lamp("spot", right, up, back, level=level),))
    cheat = moved(right_mm=aside, back_mm=-50)
    held = lamp_held(MILL, setup, cheat)
    assert held is not None
    if held.level <= 1.0:
        assert of_light(cheat.but(level=held.level), setup).stops == pytest.approx(0.0, abs=1e-6)
    on_ray = moved(right_mm=held.right_mm, up_mm=held.up_mm, back_mm=held.back_mm)
    assert of_light(on_ray, setup).turned_deg == pytest.approx(0.0, abs=1e-3)
    stands = as_cheated(MILL, setup, [cheat]).lamps[0].place
    ray = as_cheated(MILL, setup, [on_ray]).lamps[0].place
    assert math.dist(ray, POINT) == pytest.approx(math.dist(stands, POINT))


@pytest.mark.parametrize("turned", [0.3, 1.0, 9.0, 30.0])
def test_a_turn_is_worth_what_lamberts_law_says_of_a_surface_at_45_degrees(turned: float):
    """Published: light on a surface goes by the cosine to its normal (Lambert, from memory)."""
    normal = np.array([1.0, 0.0, 1.0]) / math.sqrt(2.0)
    before = np.array([0.0, 0.0, 1.0])
    angle = math.radians(-turned)
    turn = np.array(
        [[math.cos(angle), 0, math.sin(angle)], [0, 1, 0], [-math.sin(angle), 0, math.cos(angle)]]
    )
    darker = math.log2((normal @ before) / (normal @ turn @ before))
    assert aslant_stops(turned) == pytest.approx(darker, abs=1e-9)
    assert math.isfinite(aslant_stops(170.0))


def test_a_cheat_in_the_shot_jumps_at_its_ends_and_one_that_stands_throughout_does_not():
    aside = moved(right_mm=100)
    assert told([aside]) == [("plate", 1, "shows")]
    within = told([aside.but(first_frame=49, last_frame=72)])
    assert within == [("plate", 49, "shows"), ("shot", 49, "shows"), ("shot", 73, "shows")]
    # nothing is said of what comes after the shot, of what moves no light, and of what is put back at once
    assert told([aside.but(first_frame=LENGTH + 1)]) == []
    assert told([moved("wall", "back wall", away=True), moved("piece", "post", back_mm=40)]) == []
    # half a millimetre of a metre: three hundredths of a degree
    assert told([moved(right_mm=0.5, first_frame=49)]) == []
    assert told([moved(right_mm=4.0, first_frame=49)])[-1] == ("shot", 49, "holds")


def test_across_the_cut_it_is_compared_where_it_stands_at_that_end_of_the_shot():
    plate = HERO.but(key_azimuth_deg=0.0, key_elevation_deg=0.0)  # the spot comes from the lens
    match = Match(plate, MILL, LIT, DELIVERY)
    there = ("TM051", cut_side(plate.but(light_k=LIT.light_k, white_balance_k=LIT.white_balance_k)))
    turned = moved(right_mm=1000.0 * math.tan(math.radians(30.0)))
    both = {"before": [there], "after": [there]}
    assert ("before", 1, "tight") in told([turned], match, **both)
    assert ("after", LENGTH, "tight") in told([turned], match, **both)
    first_half = turned.but(last_frame=48)
    wheres = {where for where, _, _ in told([first_half], match, **both)}
    assert wheres == {"plate", "shot", "before"}
    # what it is cut to is lit so too: nothing jumps there
    side = light_side(match, [turned], LENGTH)
    assert side is not None
    lines = cheats_told(match, [turned], LENGTH, HOLDS_DEG, after=[("TM051, Heron", side)])
    across = [line for line in lines if line.where == "after"]
    assert {line.verdict for line in across} == {"holds"} and "Cut to TM051, Heron: The key" in across[0].text


def test_a_mirrored_layer_has_its_light_from_the_other_side():
    setup = MODEL.but(lamps=(lamp("spot", 1.0, 0.0, -1.0),))
    plate = HERO.but(key_azimuth_deg=-45.0, key_elevation_deg=0.0, heading_deg=0.0)
    sides = [
        light_side(Match(plate, MILL.but(mirrored=mirrored), setup, DELIVERY), [], 1)
        for mirrored in (False, True)
    ]
    assert [side and side.key and round(side.key[0]) for side in sides] == [135, 225]


def test_the_key_that_is_taken_out_leaves_none():
    # also where a key was stated beside the lamps
    none = MODEL.but(lamps=(SPOT,), key_azimuth_deg=40.0, key_elevation_deg=20.0)
    match = Match(HERO, MILL, none, DELIVERY)
    out = moved(away=True, first_frame=49)
    assert "no key is left" in cheat_text(match, out) and lamp_held(MILL, none, out) is None
    assert told([out], match) == [("plate", 49, "shows"), ("shot", 49, "shows")]
    assert told([out.but(first_frame=1)], match) == [("plate", 1, "shows")]
    # put back, it comes; where nobody knows of a key there is none to be lost
    line = cheats_told(match, [out.but(first_frame=1, last_frame=48)], LENGTH, HOLDS_DEG)[-1]
    assert (line.frame, line.verdict) == (49, "shows") and "a key comes" in line.text
    unknown = Match(HERO, MILL, none.but(lamps=(), key_azimuth_deg=None), DELIVERY)
    assert told([moved("figure", "Heron", right_mm=40)], unknown) == []
    fill = lamp("panel", 0.5, 0.0, -1.0, role="fill")
    with_fill = MODEL.but(lamps=(SPOT, fill))
    without = of_light(moved(name="panel", away=True), with_fill)
    assert without.turned_deg == 0.0 and without.stops < -0.3


def test_a_lamp_that_was_moved_twice_stands_where_both_took_it():
    both = [moved(right_mm=300.0, level=0.9), moved(right_mm=-50.0, back_mm=-20.0, level=0.4)]
    [stands] = as_cheated(MILL, LIT, both).lamps
    assert stands.place == pytest.approx((SPOT.across_m + 0.25, SPOT.height_m, SPOT.behind_m - 0.02))
    assert stands.level == 0.4
    assert as_cheated(MILL, LIT, [both[0], moved(away=True)]).lamps == ()
    steps = told([both[0].but(first_frame=1), both[1].but(first_frame=49)])
    assert [frame for where, frame, _ in steps if where == "shot"] == [49]


def test_a_lamp_that_nobody_placed_and_two_of_one_name_are_told():
    assert cheat_text(MATCH, moved(name="sun")).startswith("No lamp of this name")
    two = Match(HERO, MILL, MODEL.but(lamps=(SPOT, SPOT)), DELIVERY)
    assert cheat_text(two, moved(level=0.5)).startswith("2 lamps have this name")
    assert of_light(moved(name="sun", right_mm=500)) == of_light(moved(right_mm=0))
    assert cheat_text(MATCH, moved("figure", "Heron", back_mm=-9000)).startswith("It would stand behind")
    assert cheat_text(Match(HERO, MILL, None, DELIVERY), moved(right_mm=9)) == ""


def test_a_cheat_stands_from_its_first_frame_to_its_last():
    cheat = moved(first_frame=5, last_frame=8)
    assert [frame for frame in range(1, 12) if cheat.stands_at(frame)] == [5, 6, 7, 8]
    assert moved(first_frame=5).stands_at(10_000)
    with pytest.raises(InputError):
        Cheat.read({"kind": "roof", "name": "spot"})
