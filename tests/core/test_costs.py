"""Hours by each way against examples worked by hand, and what may serve again."""

from __future__ import annotations

from dataclasses import asdict

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.breakdown import Figures, Job, Owned, costs, paint_out_hours, storage_gb
from jungoptic.core.breakdown.reuse import Footage, fitting_footage, words_of
from jungoptic.core.breakdown.ways import WAYS, price, priced_ways
from jungoptic.core.errors import InputError

from .test_breakdown import FIGURES, HAS, by_craft


def test_a_hand_matte_of_the_trade():
    # common practice: 96 frames, a key every 4, 5 minutes for each key of each of 3 shapes: 24 · 5 · 3 / 60 =
    # 6 h
    job = Job(frames=96, shapes=3)
    assert costs.matte(job, FIGURES).hours == pytest.approx(6.0)
    # framed first and half of it outside the delivery: half of the hours; tracked: a key every 12, a third of
    # them
    assert costs.matte(job.but(needed_share=0.5), FIGURES).hours == pytest.approx(3.0)
    assert costs.matte(job.but(needed_share=0.5, framing_first=False), FIGURES).hours == pytest.approx(6.0)
    assert costs.matte(job.but(tracked=True), FIGURES).hours == pytest.approx(2.0)
    assert "24 keys" in costs.matte(job, FIGURES).formula


def test_a_composite_takes_eight_to_sixteen_hours():
    # common practice: 8 to 16 h for a finished layered shot
    assert costs.composite(Job(layers=2), FIGURES).hours == pytest.approx(8)
    assert costs.composite(Job(layers=5), FIGURES).hours == pytest.approx(12)
    assert costs.composite(Job(layers=12), FIGURES).hours == pytest.approx(16)


def test_a_model_is_built_by_its_own_area():
    # by hand: 8 × 4 m at 1:4 is 2 × 1 m = 2 m²; 20 h for each square metre of model: 40 h
    assert costs.build(Job(area_m2=32, scale=4), FIGURES).hours == pytest.approx(40)
    # at full size a set takes 1.5 h for each square metre
    assert costs.build(Job(area_m2=32, scale=1), FIGURES).hours == pytest.approx(48)


def test_stop_motion_takes_two_to_three_seconds_an_hour():
    # common practice: 2 to 3 s of film for each animator hour; 7 s at 2.5 is 2.8 h, on twos 84 exposures
    option = price("model", Job(animated_s=7, area_m2=0, shapes=0, hold="twos"), FIGURES, HAS)
    assert by_craft(option)["animate"] == pytest.approx(2.8)
    assert any("84 exposures" in one.formula for one in option.crafts)


def test_what_is_animated_is_priced_in_every_way():
    # by hand: 7 s on twos at 24 frames/s are 84 exposures, 30 an hour: 2.8 h; on ones 168: 5.6 h
    job = Job(animated_s=7, frames=168)
    for key in WAYS:
        spent = by_craft(price(key, job, FIGURES, HAS)).get("animate", 0.0)
        assert spent == pytest.approx(14.0 if key == "three_d" else 2.8), key  # 2 h for each second in 3-D
    assert by_craft(price("key", job.but(hold="ones"), FIGURES, HAS))["animate"] == pytest.approx(5.6)


def test_a_thing_in_3d_and_a_thing_frame_by_frame_by_hand():
    # by hand: 2 things · 24 h; 1 set-up · 2 h · 3 people; composite of 2 layers 8 h
    machine = price("three_d", Job(things=2, set_ups=2, layers=2), FIGURES, HAS)
    assert by_craft(machine) == pytest.approx({"build": 48, "set": 6, "composite": 8})
    # by hand: 32 m² at 1:4 are 2 m² · 20 h; 96 frames are 4 s: 48 exposures, 30 an hour; 2 set-ups 12 h; 24
    # keys · 5 min · 2 shapes = 4 h; composite of 2 layers 8 h
    puppet = price("frame_by_frame", Job(area_m2=32, scale=4, set_ups=2, layers=2, shapes=2), FIGURES, HAS)
    assert by_craft(puppet) == pytest.approx(
        {"build": 40, "animate": 1.6, "set": 12, "matte": 4, "composite": 8}
    )


def test_a_clean_plate_that_nobody_films_costs_its_making():
    plain = price("key", Job(shapes=0), FIGURES, HAS)
    made = price("key", Job(shapes=0, plates_joined=2, plates_painted=1), FIGURES, HAS)
    assert made.hours - plain.hours == pytest.approx(2 * 2 + 3)


def test_other_light_later_is_a_slider_where_it_was_added_and_a_day_where_it_was_made():
    job = Job(set_ups=2)
    costs_later = {key: price(key, job, FIGURES, HAS).mended.hours for key in WAYS}
    # by hand: one set-up again is 2 h · 3 people; in camera all three of them; painted 8 h; rendered 3 h
    assert costs_later["key"] == pytest.approx(6) and costs_later["in_camera"] == pytest.approx(18)
    assert costs_later["painted"] == pytest.approx(8) and costs_later["three_d"] == pytest.approx(3)
    added = price("key", job.but(light_passes=1), FIGURES, HAS).mended
    assert added.hours == pytest.approx(0.5) and added.formula == "1 light pass · 0.5 h"
    assert price("in_camera", job.but(light_passes=1), FIGURES, HAS).mended.hours == pytest.approx(18)


def test_a_keyed_shot_by_hand():
    # by hand: 2 set-ups · 2 h · 3 people = 12; key 2 + 2 defects · 1.5 = 5; composite of 5 layers 12: 29 h in
    # 29/8 days
    option = price("key", Job(set_ups=2, defects=2, layers=5), FIGURES, HAS)
    assert by_craft(option) == pytest.approx({"set": 12, "matte": 5, "composite": 12})
    assert option.hours == pytest.approx(29) and option.days == pytest.approx(29 / 8)
    assert [(one.what, one.hours, one.taken) for one in option.savings] == [
        ("a better backing", pytest.approx(3.0), False)
    ]


def test_a_split_by_hand():
    # by hand: one set-up less, at least one: 1 · 2 · 3 = 6; line 1 + 1 crossing · 2 = 3; composite of at most
    # 3 layers 8 + 8/6
    option = price("split", Job(set_ups=2, crossings=1, layers=6), FIGURES, HAS)
    assert by_craft(option) == pytest.approx({"set": 6, "matte": 3, "composite": 8 + 8 / 6})
    assert "hand-over" in " ".join(option.shows)


def test_a_paint_out_by_its_size_and_frames():
    # by hand: locked off, 4 % of the frame is twice a patch of 2 %: 0.5 · 2 = 1 h, whatever the frames
    assert paint_out_hours(96, 4.0, True, False, FIGURES).hours == pytest.approx(1.0)
    assert paint_out_hours(960, 4.0, True, False, FIGURES).hours == pytest.approx(1.0)
    # moving: the patch and 24 keys · 5 min · 2 / 60 = 4 h on top; tracked 8 keys: 1.33 h
    assert paint_out_hours(96, 4.0, False, False, FIGURES).hours == pytest.approx(1.0 + 4.0)
    assert paint_out_hours(96, 4.0, False, True, FIGURES).hours == pytest.approx(1.0 + 8 * 5 * 2 / 60)
    # nothing is quicker than one patch
    assert paint_out_hours(96, 0.01, True, False, FIGURES).hours == pytest.approx(0.5)


def test_storage_is_rate_times_time():
    # by hand: 2 plates · 6 takes · (4 + 10) s · 200 Mbit/s ÷ 8 = 4200 MB
    assert storage_gb(2, 96, 24, FIGURES) == pytest.approx(4.2)


@given(
    st.sampled_from(list(WAYS)),
    st.builds(
        Job,
        frames=st.integers(1, 2000),
        layers=st.integers(1, 20),
        set_ups=st.integers(0, 8),
        shapes=st.integers(0, 8),
        defects=st.integers(0, 4),
        crossings=st.integers(0, 4),
        needed_share=st.floats(0, 1),
        moving_camera=st.booleans(),
        tracked=st.booleans(),
        paint_out_h=st.floats(0, 40),
        animated_s=st.floats(0, 60),
    ),
    st.sampled_from(
        ["frames", "layers", "set_ups", "shapes", "defects", "crossings", "paint_out_h", "animated_s"]
    ),
)
def test_more_of_anything_is_never_cheaper_and_no_decision_costs_more(key, job, field):
    option = price(key, job, FIGURES, HAS)
    more = price(key, job.but(**{field: getattr(job, field) + 1}), FIGURES, HAS)
    assert more.hours >= option.hours - 1e-9
    assert option.days == pytest.approx(option.hours / FIGURES.day_h)
    assert all(one.hours > 0 for one in option.savings)
    assert option.hours == pytest.approx(sum(by_craft(option).values()))


def test_every_way_is_priced_and_the_recipe_s_own_stand_first():
    found = priced_ways(Job(), FIGURES, HAS, ("split", "painted"))
    assert {one.key for one in found} == set(WAYS) and len(found) == 10
    assert {one.key for one in found[:2]} == {"split", "painted"}
    assert [one.hours for one in found[2:]] == sorted(one.hours for one in found[2:])
    assert found[0].hours <= found[1].hours


def test_kit_that_the_production_does_not_have_is_said():
    poor = Owned(backings=0, lamps=1, highest_fps=30)
    assert not any(one.has for one in price("key", Job(), FIGURES, poor).wanted)
    assert all(one.has for one in price("key", Job(), FIGURES, HAS).wanted)
    # similarity: 1:25 falls at 24·√25 = 120 frames/s
    assert price("model", Job(scale=25), FIGURES, HAS).wanted[0].has
    assert not price("model", Job(scale=36), FIGURES, HAS).wanted[0].has
    assert "144 frames/s" in price("model", Job(scale=36), FIGURES, HAS).wanted[0].what


def test_changing_a_figure_changes_what_follows_from_it():
    slow = FIGURES.but(minutes_per_key=10.0)
    assert price("hand_cut", Job(), slow, HAS).hours - price(
        "hand_cut", Job(), FIGURES, HAS
    ).hours == pytest.approx(6.0)
    with pytest.raises(InputError):
        Figures.read({"day_h": 0})


WANTED = Footage("Sky", words_of("Dusk sky"), 120, 10, 1.6, 37, 24, 1920, 3000)


def test_the_same_sky_fits_and_light_from_the_other_side_is_flopped():
    twin = Footage("Dusk sky, stock", words_of("sky"), 118, 8, 1.7, 38, 24, 3840)
    turned = Footage("Other sky, stock", words_of("sky"), -118, 8, 1.7, 38, 24, 3840)
    front = Footage("Noon sky, stock", words_of("sky"), 0, 80, 1.7, 38, 24, 3840)
    fits = fitting_footage(WANTED, [front, turned, twin, Footage("Smoke", words_of("smoke"))])
    assert [fit.footage.name for fit in fits] == ["Dusk sky, stock", "Other sky, stock", "Noon sky, stock"]
    assert [fit.mirrored for fit in fits[:2]] == [False, True]
    assert [fit.verdict for fit in fits] == ["holds", "holds", "shows"]
    # far away the height of the camera is not seen
    assert "camera height" not in [aspect.what for aspect in fits[0].aspects]


def test_what_nobody_knows_is_at_best_tight_and_too_small_shows():
    unknown = fitting_footage(WANTED, [Footage("Some sky", words_of("sky"), width_px=3840)])[0]
    assert unknown.verdict == "tight" and {"direction of light", "lens", "rate"} <= set(unknown.unknown)
    small = fitting_footage(WANTED, [Footage("Small sky", words_of("sky"), 118, 8, 1.7, 37, 24, 960)])[0]
    assert small.verdict == "shows" and any("enlarged 200 %" in aspect.text for aspect in small.aspects)


@given(st.floats(-180, 180), st.floats(-30, 80))
def test_flopping_what_is_wanted_and_what_there_is_changes_nothing(azimuth, elevation):
    there = Footage("sky", words_of("sky"), azimuth, elevation, 1.6, 37, 24, 3840)
    flopped = Footage("sky", words_of("sky"), -azimuth, elevation, 1.6, 37, 24, 3840)
    other = Footage(**{**asdict(WANTED), "words": WANTED.words, "key_azimuth_deg": -120})
    one, two = fitting_footage(WANTED, [there])[0], fitting_footage(other, [flopped])[0]
    assert (one.mirrored, one.verdict) == (two.mirrored, two.verdict)
