"""A sheet photographed by a telephone: its corners, what the camera would record, which lamp to turn."""

import numpy as np
import pytest

from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN, STACK
from jungoptic.core.light import angle_between_deg
from jungoptic.core.match import Match, Member, Stack, key_of
from jungoptic.core.measure import backing_seen, evenness_of, sheet_corners
from jungoptic.core.rushes import (
    Sized,
    as_measurement,
    ball_photographed,
    in_words,
    judged,
    sheet_photographed,
)
from jungoptic.core.stage import Effects, photograph

from . import telephone
from .telephone import BALL, CORNERS, SIZE, by_telephone, with_level

FROM = {
    "the left": CORNERS,
    "the right": np.array([(250.0, 420.0), (1500.0, 260.0), (1520.0, 1330.0), (230.0, 1130.0)]),
    "low, held askew": np.array([(420.0, 380.0), (1390.0, 330.0), (1530.0, 1100.0), (380.0, 1180.0)]),
}
PICTURE = Sized(SIZE[1], SIZE[0])


def seen_of(setup):
    return Match(HERO, ACTOR, setup, DELIVERY)


def with_backing(**values):
    return ON_GREEN.but(backing=ON_GREEN.backing.model_copy(update=values))


def filmed(setup):
    """The same sheet as the simulated camera of the set-up films it, measured."""
    stack = Stack(STACK.plan, DELIVERY, HERO, (STACK.members[0], Member(ACTOR, setup, 3)))
    light = photograph(stack, 960, only=1, effects=Effects.only("lamps", "exposure", "grain", "vignetting"))
    return evenness_of(light, backing_seen(light))


WEAK = with_level(ON_GREEN, "panel 2", 2.0**-0.5)


@pytest.mark.parametrize("corners", FROM.values(), ids=FROM)
@pytest.mark.parametrize("body", [False, True], ids=["alone", "somebody before it"])
def test_the_corners_of_a_sheet_are_found_wherever_it_is_photographed_from(corners, body):
    light, _ = by_telephone(seen_of(WEAK), corners, body)
    assert sheet_corners(light, 1) == pytest.approx(corners, abs=1.5)


@pytest.mark.parametrize("corners", FROM.values(), ids=FROM)
@pytest.mark.parametrize("body", [False, True], ids=["alone", "somebody before it"])
def test_one_photograph_names_the_lamp_that_gives_less_and_by_how_much(corners, body):
    seen = sheet_photographed(ON_GREEN, *by_telephone(seen_of(WEAK), corners, body, seed=3))
    assert seen.lamps.weakest.name == "panel 2"
    assert seen.lamps.weakest.stops == pytest.approx(-0.5, abs=seen.lamps.weakest.off)
    turns = {turn.name: turn.stops for turn in seen.lamps.turns}
    assert turns["panel 2"] == pytest.approx(0.5, abs=0.1)
    assert turns["spot"] is None, "what lights the actor is kept off the sheet, not turned down"
    says = in_words(seen, PICTURE)
    assert says.startswith("Panel 2 gives 0.") and "Lift panel 2 by 0.5 stop and flag spot off" in says


@pytest.mark.parametrize("vignetting_stops", [0.0, 1.0])
def test_it_says_what_the_camera_will_record_of_the_sheet(vignetting_stops):
    setup = WEAK.but(vignetting_stops=vignetting_stops, f_number=2.8)
    seen = sheet_photographed(setup, *by_telephone(seen_of(setup), body=True))
    own = filmed(setup)
    assert seen.evenness.stops == pytest.approx(own.stops, abs=0.1)
    assert seen.evenness.across == pytest.approx(own.across, abs=0.1)
    told = as_measurement(seen, PICTURE)
    verdicts = {each.amount: each.verdict for each in judged("evenness", told.amounts, {})}
    assert verdicts["evenness"] == "shows"
    assert all(0.0 <= x <= 1.0 and 0.0 <= y <= 1.0 for each in told.overlays for x, y in each.places)


def test_a_key_is_tried_where_somebody_stands_before_the_sheet_and_only_there():
    assert sheet_photographed(ON_GREEN, *by_telephone(seen_of(ON_GREEN))).key is None
    seen = sheet_photographed(ON_GREEN, *by_telephone(seen_of(ON_GREEN), body=True))
    assert seen.key.keys == "keys" and seen.key.holes < 0.005
    names = [each.name for each in as_measurement(seen, PICTURE).amounts]
    assert "separation" in names and "edge" not in names


def test_somebody_in_olive_before_a_green_sheet_is_no_part_of_it(monkeypatch):
    monkeypatch.setattr(telephone, "SKIN", (0.05, 0.08, 0.02))
    assert sheet_corners(by_telephone(seen_of(WEAK), body=True)[0], 1) == pytest.approx(CORNERS, abs=1.5)


def test_lamps_that_do_not_tell_a_picture_are_not_turned_by_it():
    light, signal = by_telephone(seen_of(WEAK))
    turned = (CORNERS[[2, 3, 0, 1]] + 0.5) / (SIZE[1], SIZE[0])
    seen = sheet_photographed(ON_GREEN, light, signal, turned)
    assert not seen.lamps.tells
    says = in_words(seen, PICTURE)
    assert "not that of its lamps" in says and "Lift panel" not in says


def test_corners_marked_by_hand_go_before_those_that_are_found():
    light, signal = by_telephone(seen_of(WEAK))
    wrong = np.array([(0.3, 0.3), (0.7, 0.3), (0.7, 0.7), (0.3, 0.7)])
    seen = sheet_photographed(ON_GREEN, light, signal, wrong)
    assert np.allclose(seen.corners, wrong)
    right = (CORNERS + 0.5) / (SIZE[1], SIZE[0])
    assert sheet_photographed(ON_GREEN, light, signal, right).lamps.weakest.name == "panel 2"


def test_a_sheet_that_fills_the_photograph_is_taken_as_the_camera_frames_it():
    beyond = np.array([(-500.0, -400.0), (2400.0, -400.0), (2400.0, 1800.0), (-500.0, 1800.0)])
    light, signal = by_telephone(seen_of(WEAK), beyond)
    assert sheet_corners(light, 1) is None
    seen = sheet_photographed(ON_GREEN, light, signal)
    assert not seen.corners
    told = as_measurement(seen, PICTURE)
    assert "The photograph is framed as the camera frames it." in told.assumes


def test_a_grey_sheet_has_no_colour_to_be_found_by():
    grey = with_backing(colour="#808080")
    seen = sheet_photographed(grey, *by_telephone(seen_of(grey)))
    assert not seen.corners and seen.evenness.channel == "green"


def test_nothing_is_said_where_there_is_no_sheet():
    studio = np.full((180, 320, 3), 0.2, np.float32)
    assert sheet_corners(studio, 1) is None
    with pytest.raises(ValueError, match="no sheet"):
        sheet_photographed(HERO, studio)
    with pytest.raises(ValueError, match="too little of the backing"):
        away = np.array([(3.0, 3.0), (4.0, 3.0), (4.0, 4.0), (3.0, 4.0)])
        sheet_photographed(ON_GREEN, studio, corners=away)


@pytest.mark.parametrize("azimuth_deg", [-40.0, 25.0])
def test_a_grey_ball_says_where_the_key_comes_from_against_the_plan(azimuth_deg):
    turn, up = np.deg2rad(azimuth_deg), np.deg2rad(30.0)
    towards = (np.sin(turn) * np.cos(up), np.sin(up), np.cos(turn) * np.cos(up))
    light, _ = by_telephone(seen_of(ON_GREEN), ball=towards)
    lit = ball_photographed(ON_GREEN, ACTOR, light, BALL)
    own = lit.lights[0]
    assert own.azimuth_deg == pytest.approx(azimuth_deg, abs=own.off_deg)
    assert own.elevation_deg == pytest.approx(30.0, abs=own.off_deg)
    planned = key_of(ON_GREEN, ACTOR)
    apart = angle_between_deg(own.azimuth_deg, own.elevation_deg, planned.azimuth_deg, planned.elevation_deg)
    amounts = as_measurement(lit, PICTURE).amounts
    assert {each.item: each.size for each in judged("ball", amounts, {})}["direction"] == pytest.approx(apart)
    assert "off the plan's" in in_words(lit, PICTURE)
