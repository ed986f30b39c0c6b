"""What brings a layer to what it was held against, and what mending costs."""

import math

import numpy as np
import pytest

from jungoptic.core.breakdown import Again, Figures, Mend, TakeToMend, break_even, mends
from jungoptic.core.example import STACK
from jungoptic.core.measure import Amount, changed
from jungoptic.core.rushes import RowTold, Sized, as_measurement, columns, mend_values
from jungoptic.core.wording import Words
from tests.core.filmed import laid, noised, photograph


def row(what, **amounts):
    return RowTold(what, tuple(Amount(name, name, value, 0.01) for name, value in amounts.items()))


def test_a_picture_that_is_laid_back_lies_where_the_other_does():
    seen = mend_values([row("still", moved=3.0, right=2.0, down=-1.0, turn=0.5, size=0.4)]).laid
    turn, size = math.radians(0.5), 1.004
    place = np.array([300.0, -200.0])  # from the middle
    there = size * np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]]) @ place
    there += (2.0, -1.0)
    back = math.radians(seen.turn_deg)
    turned = np.array([[math.cos(back), -math.sin(back)], [math.sin(back), math.cos(back)]]) @ there
    assert seen.size * turned + (seen.right_px, seen.down_px) == pytest.approx(place, abs=1e-9)


def test_a_grade_undoes_what_changed():
    plate = 0.4 * laid(photograph("coffee"))
    other = plate * (1.25, 1.1, 0.95)
    result = changed(noised(plate, 0.01, 1), noised(other, 0.01, 2))
    seen = as_measurement(result, Sized(640, 360))
    slopes = mend_values([RowTold("change", seen.amounts)]).slopes
    # the law of the format: out = in · slope
    assert np.array(slopes) * (1.25, 1.1, 0.95) == pytest.approx(np.ones(3), rel=0.02)


def test_grain_is_laid_over_or_taken_down_by_what_lacks_of_its_variance():
    assert mend_values([row("grain", ratio=0.6)]).grain == pytest.approx(0.8)
    assert mend_values([row("grain", ratio=1.25)]).grain == pytest.approx(-0.75)
    assert mend_values([row("edge", blur=-1.2)]).soften_px == pytest.approx(1.2)
    assert not mend_values([row("flicker", flicker=0.1)]).any


def priced(told, figures=None, **more):
    found = columns([told], STACK, 2, {}, {}, {}, Words())[0]
    return mends(found, TakeToMend(96, 1920.0, **more), figures or Figures(), {})


def test_mends_follow_the_figures_and_say_what_they_make_worse():
    [mend] = priced(row("still", moved=9.6))
    assert mend.hours == Figures().steady_h and mend.costs[0].amount == pytest.approx(1.0)
    assert mend.costs[0].item == "sharpness"
    assert priced(row("still", moved=9.6), Figures(steady_h=2.0))[0].hours == 2.0
    by_hand = [each for each in priced(row("evenness", evenness=2.0), hand_h=1.25) if "hand" in each.way]
    assert by_hand[0].hours == 1.25 and "measured" in by_hand[0].formula
    keyed = priced(row("evenness", evenness=2.0))
    assert [each.hours for each in keyed] == sorted(each.hours for each in keyed)
    # a stop lifted shows grain as if half of the photons were there: √2 times
    lifted = priced(row("grey", over_hero=-1.0))[0].costs[0]
    assert (lifted.item, lifted.amount) == ("grain", pytest.approx(math.sqrt(2) - 1))
    assert priced(row("still", moved=0.2)) == ()
    assert priced(row("still", parallax=2.0))[0].way.startswith("Cut it out by hand")
    assert priced(row("edge", blur=-4.0))[0].way == "Soften it by 4 px"
    assert priced(row("edge", blur=4.0))[0].way == "Soften what joins it by 4 px"


def test_where_mending_and_shooting_again_meet_is_said():
    again = Again(3, 60, 30)
    assert again.hours == 4.5 and "there and back" in again.formula
    track, cut = Mend("Track it", 1.0, ""), Mend("Cut it out", 2.0, "")
    told = break_even([track, cut, track], again)  # what is tracked once is tracked
    assert told.startswith("Mending all of it takes 3 h")
    assert told.endswith("mend it. Beyond 4.5 h of mending, shoot again.")
    assert "shoot it again" in break_even([Mend("Cut it out", 5.0, "")], again)
