"""A layer photographed as it is planned measures what the comparison says of it."""

from dataclasses import replace

import pytest

from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN, STACK
from jungoptic.core.match import Match, Member, judge_member
from jungoptic.core.rushes import as_planned, crossed_region, sheet_photographed

from .telephone import by_telephone


def shot(setup=ON_GREEN, layer=ACTOR):
    return replace(STACK, members=(STACK.members[0], Member(layer, setup, 3)))


def lamps_at(setup, role, **values):
    lamps = tuple(lamp.model_copy(update=values) if lamp.role == role else lamp for lamp in setup.lamps)
    return setup.but(lamps=lamps)


SET_UPS = {
    "as it is": ON_GREEN,
    "its lamps nearer the sheet": lamps_at(ON_GREEN, "backing", behind_m=1.4),
    "a stop less, warm, other grain": ON_GREEN.but(f_number=16.0, iso=1600, light_k=4300.0),
    "out of focus": ON_GREEN.but(focus_distance_m=4.0, f_number=4.0),
    "rippling light": ON_GREEN.but(ripple_depth=0.2, mains_hz=50.0, shutter_angle_deg=90.0),
}


@pytest.mark.parametrize("setup", SET_UPS.values(), ids=SET_UPS)
def test_every_item_that_a_picture_shows_agrees_with_the_comparison(setup):
    rows = as_planned(shot(setup), 1)
    assert [row for row in rows if not row.agrees] == []
    assert {row.item for row in rows} >= {
        "evenness",
        "split_line",
        "brightness",
        "colour",
        "grain",
        "direction",
    }


def test_what_is_wrong_is_foretold_and_measured_alike():
    plain, wrong = (
        {row.item: row for row in as_planned(shot(SET_UPS[name]), 1)}
        for name in ("as it is", "a stop less, warm, other grain")
    )
    for item in ("brightness", "colour", "grain"):
        assert wrong[item].measured > plain[item].measured + 0.2, item
        assert wrong[item].foretold == pytest.approx(wrong[item].measured, rel=0.06), item
    flickers = {row.item: row for row in as_planned(shot(SET_UPS["rippling light"]), 1)}["flicker"]
    assert flickers.foretold > 0.02 and flickers.agrees
    assert as_planned(shot(), 0) == (), "the hero is what it is held against"


def test_a_photograph_of_the_sheet_tells_what_is_foretold_of_what_is_crossed():
    _, items = judge_member(shot(), 1)
    foretold = next(each.amount for each in items if each.item == "evenness")
    region = crossed_region(shot(), 1)
    photographed = by_telephone(Match(HERO, ACTOR, ON_GREEN, DELIVERY))
    seen = sheet_photographed(ON_GREEN, *photographed, crossed=region)
    assert seen.part.stops == pytest.approx(foretold, abs=max(0.05 * foretold, seen.part.off, 0.05))
    assert seen.part.stops < seen.evenness.stops
    assert seen.lamps.was_stops == pytest.approx(seen.part.stops, abs=0.15)


def test_nothing_is_crossed_where_there_is_no_sheet():
    assert crossed_region(STACK, 0) is None and crossed_region(STACK, 1) is None
