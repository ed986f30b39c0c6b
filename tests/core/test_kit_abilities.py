"""What a kit can do, by hand and by the handbook's own calculations; what more of it would open up."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
from jungoptic.core.handbook import lens as lens_cards
from jungoptic.core.kit import (
    FilmedFrame,
    Kit,
    Lens,
    ModelWants,
    RecordingMode,
    available_light_lx,
    card_hours,
    lens_ability,
    model_wants,
    most_light_lx,
    recording_ability,
)
from jungoptic.core.match import Layer, Match
from jungoptic.core.motion import Move
from jungoptic.core.plan import Reach, additions, choose_scale, reach_of, solve
from jungoptic.core.vocabulary import VERDICTS

HD = FilmedFrame(1920, 1080, 24)
WIDE = FilmedFrame(2048, 858, 24)
FULL = RecordingMode(
    name="all of it",
    recorded_width_px=6000,
    recorded_height_px=4000,
    gate_width_mm=36,
    gate_height_mm=24,
    highest_fps=60,
)
FIFTY = Lens(
    name="50 mm", focal_length_mm=50, widest_f_number=1.8, smallest_f_number=22, closest_focus_m=0.45
)
ZOOM = Lens(
    name="zoom",
    focal_length_mm=24,
    longest_mm=70,
    widest_f_number=2.8,
    smallest_f_number=22,
    closest_focus_m=0.38,
    closest_long_m=0.38,
)


# Angles of view across 36 mm as the tables of photographic handbooks print them (from memory).
@pytest.mark.parametrize(
    ("focal_mm", "degrees"), [(24, 73.7), (35, 54.4), (50, 39.6), (85, 23.9), (200, 10.3)]
)
def test_views_are_those_of_the_tables(focal_mm: float, degrees: float):
    lens = FIFTY.but(focal_length_mm=focal_mm, closest_focus_m=3)
    able = lens_ability(lens, FULL, FilmedFrame(3000, 2000, 24), 1, 8, 800)
    assert able.view_deg == pytest.approx((degrees, degrees), abs=0.05)


def test_a_zoom_is_looked_at_from_both_ends_and_the_nearer_frame_counts():
    able = lens_ability(ZOOM, FULL, FilmedFrame(3000, 2000, 24), 1, 8, 800)
    assert able.view_deg == pytest.approx((73.7, 28.8), abs=0.06)  # the same tables, 24 and 70 mm
    assert able.at_mm == 70
    # by hand: v = 70·380/310 = 85.806 mm, 36·380/85.806 = 159.4 mm
    assert 1000 * able.narrowest_m == pytest.approx(159.43, abs=0.01)


def test_a_lens_that_goes_to_life_size_fills_the_frame_with_its_gate():
    """Common practice: at 1:1 the thing is as large as its picture on the sensor."""
    macro = FIFTY.but(closest_focus_m=0.1)
    able = lens_ability(macro, FULL, FilmedFrame(3000, 2000, 24), 1, 8, 800)
    assert 1000 * able.narrowest_m == pytest.approx(36)
    assert able.finest_mm == pytest.approx(36 / 3000)
    few = FULL.but(recorded_width_px=1500, recorded_height_px=1000)  # fewer than are delivered
    assert lens_ability(macro, few, FilmedFrame(3000, 2000, 24), 1, 8, 800).finest_mm == pytest.approx(
        36 / 1500
    )


@pytest.mark.parametrize(
    ("highest", "delivery", "scale"), [(120, 24, 25), (96, 24, 16), (60, 24, 6.25), (50, 25, 4)]
)
def test_the_smallest_model_that_falls_in_real_time(highest: float, delivery: float, scale: float):
    """Froude: the rate grows with √s, so a model of 1:25 wants five times the rate, and 1:16 four times."""
    found = recording_ability(FULL.but(highest_fps=highest), FilmedFrame(1920, 1080, delivery))
    assert found.smallest_scale == pytest.approx(scale)


def test_a_wide_film_takes_all_of_the_width_and_an_upright_one_what_stands_in_the_height():
    wide, upright = recording_ability(FULL, WIDE), recording_ability(FULL, FilmedFrame(1080, 1920, 24))
    assert (wide.extracted_mm, wide.across_px) == (36, 6000)
    assert (upright.extracted_mm, upright.across_px) == pytest.approx((24 * 1080 / 1920, 4000 * 1080 / 1920))


def test_a_model_wants_the_hero_s_stop_times_its_scale_and_the_light_for_it():
    able = lens_ability(FIFTY, FULL, HD, 4, 4, 800)
    assert model_wants(HD, 4, 4) == ModelWants(48, 16)
    assert (able.stops_down, able.scale_at_smallest, able.rate_fps) == (True, 5.5, 48)
    # by hand: 250·16²/(800·1/96) = 7680 lx, times (1 + 50/400)² for focus at 0.45 m
    assert able.light_lx == pytest.approx(7680 * 1.125**2)
    smaller = lens_ability(FIFTY, FULL, HD, 12, 8, 800)
    assert model_wants(HD, 12, 8).stop == 96 and not smaller.stops_down
    assert smaller.rate_fps == 60, "as fast as it runs, and no faster"
    assert smaller.light_lx == pytest.approx(250 * 22**2 / (800 / 120) * 1.125**2)
    # a lens that keeps its view keeps its image where it is: close focus costs it nothing
    keeps = lens_ability(FIFTY.but(focusing="constant_view"), FULL, HD, 4, 4, 800)
    assert keeps.light_lx == pytest.approx(7680)


def test_lamps_of_other_colours_do_not_add_up():
    """Two spots of 3200 K are twice as bright as one; one of 5600 K beside them adds nothing; one that makes
    both does.
    """
    spot = KIT.lamps[0].but(warmest_k=3200, coolest_k=3200)
    cool, both = spot.but(warmest_k=5600, coolest_k=5600), spot.but(warmest_k=3000, coolest_k=6000)
    alone = most_light_lx((spot,), 0.5)
    assert alone > 0 == most_light_lx((), 0.5)
    assert most_light_lx((spot, spot), 0.5) == pytest.approx(2 * alone)
    assert most_light_lx((spot, spot, cool), 0.5) == pytest.approx(2 * alone)
    assert most_light_lx((spot, spot, cool, both), 0.5) == pytest.approx(3 * alone)


def test_a_card_lasts_as_long_as_its_bytes():
    """100 Mbit/s is 12.5 MB/s; 128 GB at it last 10 240 s."""
    assert card_hours(128, 12.5) * 3600 == pytest.approx(10240)


@given(
    st.floats(10, 300), st.floats(1.5, 40), st.floats(1, 100), st.floats(1, 32), st.sampled_from([HD, WIDE])
)
def test_it_is_what_the_handbook_says(
    focal_mm: float, times: float, scale: float, stop: float, frame: FilmedFrame
):
    lens = FIFTY.but(focal_length_mm=focal_mm, closest_focus_m=times * focal_mm / 1000)
    able = lens_ability(lens, FULL, frame, scale, stop, 400)
    part = recording_ability(FULL, frame)
    coverage = lens_cards.frame_coverage(
        focal_length_mm=focal_mm,
        gate_width_mm=part.extracted_mm,
        gate_height_mm=part.extracted_mm * frame.height_px / frame.width_px,
        distance_m=lens.closest_focus_m,
        focus_distance_m=lens.closest_focus_m,
        delivery_width_px=frame.width_px,
    )
    assert able.narrowest_m == pytest.approx(coverage.width_m)
    assert able.finest_mm == pytest.approx(coverage.pixel_size_mm)


# --- one thing more


def test_each_addition_is_the_kit_and_one_thing_more():
    made = {one.key: one.kit for one in additions(KIT)}
    assert made["lamp"].lamps[: len(KIT.lamps)] == KIT.lamps and len(made["lamp"].lamps) == len(KIT.lamps) + 1
    colour_k = max(KIT.lamps, key=lambda lamp: lamp.intensity_cd).coolest_k
    light = [available_light_lx(kit.lamps, 1, colour_k)[0] for kit in (KIT, made["lamp"])]
    assert light[1] > light[0] > 0
    longest = max(lens.focal_length_mm for lens in KIT.lenses)
    assert made["longer_lens"].lenses[-1].focal_length_mm == 2 * longest
    near = made["close_lens"].lenses[-1]
    able = lens_ability(near, FULL, FilmedFrame(3000, 2000, 24), 1, 8, 800)
    assert 1000 * able.narrowest_m == pytest.approx(36, rel=0.001)
    assert {one.key for one in additions(KIT.but(lenses=(), lamps=()))} == {"pixels"}


def reach(layer: Layer, kit: Kit) -> Reach | None:
    return reach_of(solve(HERO, layer, MODEL, DELIVERY, kit, most=1, advises=False))


def slow() -> Kit:
    """The example's kit with a camera that runs no faster than the delivery."""
    modes = tuple(mode.but(highest_fps=24.0, menu_fps=(24.0,)) for mode in KIT.camera.modes)
    return KIT.but(camera=KIT.camera.but(modes=modes))


def test_what_falls_shows_until_the_camera_runs_faster():
    """A 1:12 model that falls wants 83 frames/s (24·√12, by hand); at 24 it looks 3.5 times too quick."""
    falls = MILL.but(driver="gravity")
    assert Match(HERO, falls, MODEL, DELIVERY).wanted_fps == pytest.approx(24 * math.sqrt(12))
    kit = slow()
    before = reach(falls, kit)
    assert before is not None and before.verdict == "shows"
    after = {one.key: reach(falls, one.kit) for one in additions(kit)}
    better = {key for key, reach in after.items() if reach and reach.worth < before.worth}
    assert better == {"faster"}


@given(st.integers(0, 4), st.sampled_from(["still", "gravity"]))
def test_more_kit_is_never_worse(which: int, driver: str):
    falls, kit = MILL.but(driver=driver), slow()
    more = additions(kit)
    before = reach(falls, kit)
    with_it = more[which % len(more)].kit
    after = reach(falls, with_it)
    assert before and after
    assert VERDICTS.index(after.verdict) >= VERDICTS.index(before.verdict)


def test_a_slide_that_is_longer_than_the_slider_does_not_fit():
    """The hero slides 6 m; a 1:12 model wants 0.5 m of it (÷ s, by hand), and the slider has 0.4 m."""
    slides = DELIVERY.but(move=Move(kind="slide", amount=6.0, end_frame=48))
    said = [
        next((one for one in solve(HERO, MILL, MODEL, slides, kit)[0].sentences if "travels" in one), "")
        for kit in (KIT, KIT.but(travel_m=0.5), KIT.but(travel_m=0.4))
    ]
    assert said == ["", "", "It does not fit: travels 0.5 m, the kit reaches 0.4 m."]
    rows = choose_scale(HERO, MILL, MODEL, slides, KIT.but(travel_m=0.4))
    short = {row.scale for row in rows if any(one.startswith("travels") for one in row.against)}
    assert short == {row.scale for row in rows if 6.0 / row.scale > 0.4}
