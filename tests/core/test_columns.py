"""Planned, logged and measured beside each other: what judges, what disagrees, what it points to."""

import math

import numpy as np
import pytest

from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN, STACK
from jungoptic.core.match import Match, Member, Stack, picture_view_deg, resolved
from jungoptic.core.measure import Amount, backing_seen, evenness_of
from jungoptic.core.rushes import (
    Foretold,
    RowTold,
    Sized,
    as_measured,
    as_measurement,
    columns,
    lamps_seen,
    sheet_places,
)
from jungoptic.core.stage import Effects, photograph
from jungoptic.core.wording import Words

METRIC = Words("metric")


def shot(setup, effects=None):
    """The actor's sheet as the simulated camera films it, measured; its whole gate is delivered."""
    member = Member(ACTOR, setup, 3)
    stack = Stack(STACK.plan, DELIVERY, HERO, (STACK.members[0], member))
    light = photograph(
        stack, 960, only=1, effects=effects or Effects.only("lamps", "exposure", "grain", "vignetting")
    )
    return as_measurement(evenness_of(light, backing_seen(light)), Sized(960, 540))


def with_level(setup, name, level):
    lamps = tuple(
        lamp.model_copy(update={"level": level}) if lamp.name == name else lamp for lamp in setup.lamps
    )
    return setup.but(lamps=lamps)


def test_a_lamp_that_gives_less_than_the_kit_says_is_named_with_how_much():
    seen = shot(with_level(ON_GREEN, "panel 2", 2.0**-0.5))
    found = lamps_seen(ON_GREEN, seen.field)
    assert found.weakest.name == "panel 2"
    assert found.weakest.stops == pytest.approx(-0.5, abs=found.weakest.off)
    assert found.weakest.off < 0.2
    assert found.points_to.startswith("panel 2 gives 0.")
    assert found.evened_stops <= found.was_stops


def test_what_evens_a_sheet_is_reckoned_over_what_is_crossed():
    field = shot(with_level(ON_GREEN, "panel 2", 2.0**-0.5)).field
    whole, part = lamps_seen(ON_GREEN, field), lamps_seen(ON_GREEN, field, (0.62, 0.3, 0.15, 0.5))
    assert part.was_stops < whole.was_stops - 0.3
    assert part.lamps == whole.lamps, "what each lamp gives is told by all of it"


def test_lamps_that_give_what_they_should_are_not_blamed():
    found = lamps_seen(ON_GREEN, shot(ON_GREEN).field)
    assert found.weakest is None and found.points_to == ""
    assert all(abs(lamp.stops) <= max(lamp.off, 0.05) for lamp in found.lamps)
    bare = ON_GREEN.but(lamps=())
    assert lamps_seen(bare, shot(ON_GREEN).field) is None
    assert lamps_seen(HERO, shot(ON_GREEN).field) is None


def told(what, *amounts, other=None):
    return RowTold(what, tuple(Amount(*each) for each in amounts), "", (), other)


def table(*rows, planned=None, logged=None, position=2, stack=STACK):
    return {
        each.judged.amount: each
        for each in columns(rows, stack, position, planned or {}, logged or {}, {}, METRIC)
    }


def test_the_measured_amount_judges_and_what_is_logged_comes_before_what_is_planned():
    row = told("evenness", ("evenness", "Evenness", 0.81, 0.03, "stop"))
    seen = table(row, planned={"evenness": Foretold(0.8)}, logged={"evenness": Foretold(0.35)})["evenness"]
    assert (seen.planned, seen.logged, seen.judged.verdict, seen.apart) == (0.8, 0.35, "shows", True)
    assert not table(row, planned={"evenness": Foretold(0.8)})["evenness"].apart
    # an error of the tape that could make it is no disagreement
    assert not table(row, planned={"evenness": Foretold(0.7, placing=0.06)})["evenness"].apart
    alone = table(row)["evenness"]
    assert alone.planned is None and not alone.apart


def test_of_two_recordings_it_is_known_what_was_set_otherwise():
    row = told("change", ("there", "Light changed, left", 1.0, 0.02, "stop"), other=ON_GREEN.but(iso=1600))
    assert table(row)["there"].logged == pytest.approx(1.0) and not table(row)["there"].apart
    same = told("change", ("there", "Light changed, left", 1.0, 0.02, "stop"), other=ON_GREEN)
    assert table(same)["there"].logged == 0 and table(same)["there"].apart
    assert table(same)["there"].judged.label == "Light changed, left"
    moved = told("still", ("moved", "Moved", 2.0, 0.1, "px"), other=ON_GREEN.but(tilt_deg=1.0))
    assert table(moved)["moved"].logged is None
    assert "tripod" in table(moved)["moved"].points.says


def test_a_camera_that_strays_is_judged_only_where_it_is_to_stand():
    row = told("clip", ("camera", "Camera", 2.0, 0.1, "px"))
    assert table(row)["camera"].judged.verdict == "tight"
    by_hand = DELIVERY.model_copy(update={"move": DELIVERY.move.model_copy(update={"shake_px": 4.0})})
    loose = Stack(STACK.plan, by_hand, HERO, STACK.members)
    assert table(row, stack=loose) == {}


def test_a_lens_that_acts_longer_is_judged_as_the_lens_it_is():
    longer = ON_GREEN.but(focal_length_mm=36.1)
    row = told("photograph", ("view", "Angle of view", picture_view_deg(longer), 0.1, "°"))
    seen = table(row, planned={"lens": Foretold(0.0)})["view"]
    expected = Match(HERO, ACTOR, resolved(longer, ACTOR), DELIVERY).amounts["lens"]
    assert seen.judged.size == pytest.approx(expected, rel=1e-6)
    assert seen.judged.item == "lens" and seen.points.kit == "lens"
    assert seen.points.says.startswith("The lens acts as 36.1")
    again = as_measured(ON_GREEN, {"view": picture_view_deg(longer)})
    assert again.focal_length_mm == pytest.approx(36.1)


def test_half_and_twice_the_grain_are_as_far_from_the_hero():
    sizes = [
        table(told("grain", ("ratio", "Grain", ratio, 0.05, "×")))["ratio"].judged for ratio in (0.5, 2.0)
    ]
    assert sizes[0].size == pytest.approx(sizes[1].size) == pytest.approx(1.0)
    assert sizes[0].off == pytest.approx(0.2)  # d(1/x) = dx/x²


def test_an_item_that_two_rows_tell_is_judged_by_the_worse():
    rows = [
        told("clip", ("flicker", "Flicker", 0.01, 0.002, "stop")),
        told("flicker", ("flicker", "Flicker", 0.06, 0.002, "stop")),
    ]
    seen = columns(rows, STACK, 2, {}, {}, {}, METRIC)
    assert [(each.row.what, each.judged.verdict) for each in seen] == [("flicker", "shows")]


def test_half_the_light_of_a_sheet_cannot_be_blamed_where_it_is_hardly_seen():
    field = np.full((18, 32), math.nan)
    field[0, :5] = 0.0
    assert lamps_seen(ON_GREEN, field) is None


def test_a_sheet_and_a_lens_are_read_off_the_whole_gate_whatever_is_extracted():
    cut = ON_GREEN.but(extraction_width_mm=ON_GREEN.gate_width_mm / 2)
    assert np.allclose(sheet_places(cut, 9, 16)[0], sheet_places(ON_GREEN, 9, 16)[0])
    assert as_measured(cut, {"view": picture_view_deg(ON_GREEN)}).focal_length_mm == pytest.approx(
        ON_GREEN.focal_length_mm
    )
