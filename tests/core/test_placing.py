"""How exactly a set-up must be placed, held against one comparison after the other."""

from __future__ import annotations

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.match import ITEMS, Match, Tolerance, tolerance_of
from jungoptic.core.motion import Move
from jungoptic.core.plan import place

MOST = 44.0  # beyond it no dial was turned


def shares(dial: str, value: float, setup, delivery, school: str) -> dict[str, float]:
    """The share of its tolerance that every item takes, measured alone."""
    match = Match(HERO, MILL, setup.but(**{dial: value}), delivery)
    return {
        item: amount / tolerance_of(match, item, school, {})[0].holds
        for item, amount in match.amounts.items()
    }


@settings(max_examples=20, deadline=None)
@example(
    height=0.00390625, focus=1.25, stop=8.0, readout_ms=0.0, pupil_mm=0.0, move="pan", school="covered"
)  # an item leaves Holds and comes back
@given(
    height=st.floats(-0.004, 0.004),
    focus=st.floats(0.9, 1.4),
    stop=st.sampled_from([8.0, 16.0, 32.0]),
    readout_ms=st.sampled_from([0.0, 10.0]),
    pupil_mm=st.sampled_from([0.0, 30.0]),
    move=st.sampled_from(["none", "pan", "slide"]),
    school=st.sampled_from(["measured", "covered"]),
)
def test_every_margin_ends_where_the_first_item_leaves_holds(
    height: float, focus: float, stop: float, readout_ms: float, pupil_mm: float, move: str, school: str
):
    """Also where an item (nodal offset, skew) is only there once a dial is turned."""
    setup = MODEL.but(
        lens_height_m=1.6 / 12 + height,
        focus_distance_m=focus,
        f_number=stop,
        readout_ms=readout_ms,
        pupil_off_mm=pupil_mm,
    )
    delivery = DELIVERY.but(move=Move(kind=move, amount=2.0, end_frame=48)) if move != "none" else DELIVERY
    for placed in place(HERO, MILL, setup, delivery, school=school):
        if placed.minus is None or placed.plus is None:
            assert placed.item
            continue
        held = {
            item
            for item, share in shares(placed.dial, placed.wanted, setup, delivery, school).items()
            if share <= 1.0
        }
        for sign, margin in ((-1, placed.minus), (1, placed.plus)):
            if margin > MOST:
                continue
            inside, outside = (
                max(
                    shares(placed.dial, placed.wanted + sign * margin * factor, setup, delivery, school).get(
                        item, 0.0
                    )
                    for item in held
                )
                for factor in (0.999, 1.001)
            )
            assert inside <= 1.001 and outside >= 0.999, (placed.dial, sign)


def test_no_dial_asked_for_is_none_placed():
    assert place(HERO, MILL, MODEL, DELIVERY, only=()) == []


@pytest.mark.parametrize("dial", ["distance_m", "lens_height_m", "tilt_deg", "roll_deg", "focus_distance_m"])
def test_a_placing_that_is_kept_is_the_one_that_is_worked_out(dial: str):
    """A hand that turns a dial asks again and again; the answer is what a layer nobody asked of yet gives."""
    held = MILL.but(name="held")
    for step in range(4):
        setup = MODEL.but(**{dial: getattr(MODEL, dial) + 0.01 * step})
        for school, more in (
            ("measured", {}),
            ("covered", {}),
            ("measured", {"height": Tolerance(5.0, 9.0)}),
        ):
            asked = {"school": school, "tolerances": more}
            assert place(HERO, held, setup, DELIVERY, **asked) == place(
                HERO, MILL.but(name="held"), setup, DELIVERY, **asked
            )
    wider = held.but(resize=1.3)
    assert place(HERO, wider, MODEL, DELIVERY) != place(HERO, held, MODEL, DELIVERY)


def test_a_camera_is_never_behind_what_it_films():
    """Where everything holds, however far off, the margin towards the thing ends at the thing."""
    anything = dict.fromkeys(ITEMS, Tolerance(1e9, 1e9))
    placed, focus = place(
        HERO, MILL, MODEL, DELIVERY, only=("distance_m", "focus_distance_m"), tolerances=anything
    )
    assert placed.minus == pytest.approx(placed.wanted, rel=1e-3)
    assert focus.minus == pytest.approx(focus.wanted - MODEL.focal_length_mm / 1000, rel=1e-3)
    assert placed.plus == focus.plus == 1000.0  # as far as dials are tried
