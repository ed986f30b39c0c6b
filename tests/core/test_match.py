"""The comparison with the hero: zero against itself, the scaling laws, monotone verdicts, the two schools."""

import math

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from jungoptic.core.match import Delivery, Layer, SetUp, focal_px, judge
from jungoptic.core.match.measure import Match
from jungoptic.core.match.tolerances import Tolerance, ladder, verdict, widened

DELIVERY = Delivery()

hero_set_ups = st.builds(
    SetUp,
    focal_length_mm=st.sampled_from([18.0, 25.0, 35.0, 50.0, 85.0]),
    focusing=st.sampled_from(["unit", "constant_view"]),
    f_number=st.floats(1.4, 32),
    focus_distance_m=st.floats(0.5, 200),
    gate_width_mm=st.floats(5, 36),
    gate_height_mm=st.just(30.0),
    recorded_width_px=st.sampled_from([1280, 1920, 3840]),
    recorded_height_px=st.just(2160),
    distance_m=st.floats(1, 100),
    lens_height_m=st.floats(0.3, 10),
    tilt_deg=st.floats(-20, 20),
    roll_deg=st.floats(-5, 5),
    capture_fps=st.sampled_from([24.0, 25.0, 48.0]),
    shutter_angle_deg=st.floats(20, 360),
    iso=st.floats(50, 6400),
    illuminance_lx=st.floats(1, 1e5),
    key_azimuth_deg=st.floats(-180, 180),
    key_elevation_deg=st.floats(-90, 90),
)


def amounts(hero: SetUp, layer: Layer, setup: SetUp) -> dict[str, float]:
    return Match(hero, layer, setup, DELIVERY).amounts


@settings(max_examples=150)
@given(
    hero=hero_set_ups,
    depth=st.floats(0, 500),
    driver=st.sampled_from(["gravity", "still", "set_speed", "fire"]),
    speed=st.floats(0, 50),
)
def test_the_hero_against_itself_is_nothing_in_every_item(
    hero: SetUp, depth: float, driver: str, speed: float
):
    layer = Layer(
        name="Hero",
        near_m=hero.distance_m,
        depth_m=depth,
        driver=driver,
        speed_m_s=speed,
        width_m=0.01,
        height_m=0.01,
    )
    judged = judge(hero, layer, hero, DELIVERY)
    assert len(judged) >= 12
    for one in judged:
        assert one.amount == pytest.approx(0, abs=1e-5), one.item
        assert one.verdict == "holds"


def test_a_full_size_layer_with_the_heros_set_up_is_nothing_in_every_item(hero: SetUp, mill: Layer):
    judged = judge(hero, mill.but(scale=1), hero, DELIVERY)
    assert len(judged) >= 12
    assert {(one.amount, one.verdict) for one in judged} == {(0, "holds")}


@settings(max_examples=150)
@given(hero=hero_set_ups, near=st.floats(2, 200), depth=st.floats(0.01, 300), scale=st.floats(1, 48))
def test_a_scaled_world_with_the_stop_times_s_keeps_the_heros_blur(
    hero: SetUp, near: float, depth: float, scale: float
):
    focus = hero.focus_distance_m / scale
    assume(1000 * focus >= 1.2 * hero.focal_length_mm and hero.f_number * scale <= 1000)
    layer = Layer(
        name="Model", kind="model", scale=scale, near_m=near, depth_m=depth, width_m=0.1, height_m=0.1
    )
    model = hero.but(
        f_number=hero.f_number * scale,
        focus_distance_m=focus,
        distance_m=near / scale,
        lens_height_m=hero.lens_height_m / scale,
    )
    sized = focal_px(hero, DELIVERY) / focal_px(model, DELIVERY)
    match = Match(hero, layer.but(resize=min(sized, 20.0)), model, DELIVERY)
    for shown, wanted in (
        (match.blur_near_px, match.blur_hero_near_px),
        (match.blur_far_px, match.blur_hero_far_px),
    ):
        assert shown == pytest.approx(wanted, rel=1e-3, abs=1e-6)
    assert match.amounts["perspective"] == pytest.approx(0, abs=1e-4)
    assert match.amounts["height"] == pytest.approx(0, abs=1e-4)
    assert match.amounts["tilt"] == match.amounts["roll"] == 0


def test_first_state_of_the_mill(hero: SetUp, model: SetUp, mill: Layer, kit):
    found = {one.item: one for one in judge(hero, mill, model, DELIVERY, kit=kit)}
    # f_px·Δh·|1/d − 1/d_ref| by hand: 36.269·81.702·0.21667·(1 − 1/1.5)
    assert found["height"].amount == pytest.approx(36.2694 * 1920 / 23.5 * (0.35 - 1.6 / 12) / 3, rel=1e-4)
    assert found["time"].amount == pytest.approx(100 * (math.sqrt(12) - 1), rel=1e-9)
    assert found["focus_far"].verdict == "shows"
    assert found["height"].verdict == found["time"].verdict == found["lens"].verdict == "shows"
    assert found["perspective"].amount == 0
    labels = [fix.label for fix in found["height"].fixes]
    assert labels == ["Raise the model 0.217 m"]  # the tripod goes no lower than 0.35 m
    assert "no lower than 0.35 m" in found["height"].sentence


def test_one_millimetre_of_camera_height_is_about_a_pixel(hero: SetUp, mill: Layer):
    # common practice: on a 1:12 model with ground contacts at 1.0 and 1.5 m one pixel is about 1 mm of camera
    # height
    model = hero.but(focus_distance_m=1, distance_m=1, lens_height_m=1.6 / 12 + 0.001)
    assert amounts(hero, mill, model)["height"] == pytest.approx(1.0, abs=0.05)


def test_every_fix_mends_its_item(hero: SetUp, model: SetUp, mill: Layer, kit):
    worse = model.but(
        tilt_deg=2,
        roll_deg=1,
        iso=3200,
        light_k=5600,
        key_azimuth_deg=60,
        key_elevation_deg=40,
        distance_m=1.2,
        shutter_angle_deg=360,
    )
    mended = set()
    for one in judge(hero, mill, worse, DELIVERY, kit=kit):
        for fix in one.fixes:
            setup = worse.but(**fix.changes) if fix.target == "set_up" else worse
            layer = mill.but(**fix.changes) if fix.target == "layer" else mill
            after = amounts(hero, layer, setup)[one.item]
            assert after < one.amount, (one.item, fix.label)
            mended.add(one.item)
    assert mended == set(
        "brightness colour direction focus_far focus_near grain height lens motion_blur perspective roll tilt"
        " time".split()
    )


def test_what_is_wanted_holds_once_it_is_dialled_in(hero: SetUp, model: SetUp, mill: Layer, kit):
    worse = model.but(
        tilt_deg=2,
        roll_deg=1,
        light_k=5600,
        key_azimuth_deg=60,
        distance_m=1.2,
        focus_distance_m=2,
        illuminance_lx=500,
    )
    wanted = {one.item: one for one in judge(hero, mill, worse, DELIVERY, kit=kit) if one.dial}
    assert set(wanted) == set("brightness focus_far focus_near height perspective roll tilt time".split())
    for one in wanted.values():
        after = amounts(hero, mill, worse.but(**{one.dial: one.wants}))[one.item]
        assert after <= one.holds, (one.item, one.dial, one.wants, after)


def test_perspective_is_what_projection_says(hero: SetUp, mill: Layer):
    """Distance against plain central projection of the back edge's lower corner, sized to agree in front."""
    at, ideal, depth = 1.3, 1.0, 0.5
    model = hero.but(focus_distance_m=1.0, distance_m=at, lens_height_m=1.6 / 12)
    match = Match(hero, mill, model, DELIVERY)
    grows = at / ideal * (ideal + depth) / (at + depth) - 1
    corner = match.f_hero_px * math.hypot(3.5, 1.6) / 18
    assert match.amounts["perspective"] == pytest.approx(corner * grows, rel=1e-9)


MONOTONE = {
    "distance_m": ("perspective", 1.0, [0.0, 0.01, 0.05, 0.1, 0.3, 1.0]),
    "lens_height_m": ("height", 1.6 / 12, [0.0, 0.001, 0.01, 0.1, 0.5]),
    "tilt_deg": ("tilt", 0.0, [0.0, 0.1, 1, 5, 20]),
    "roll_deg": ("roll", 0.0, [0.0, 0.01, 0.1, 1, 10]),
    "iso": ("grain", 800, [0, 100, 400, 1600]),
    "light_k": ("colour", 5600, [0, 50, 200, 1000, 4000]),
    "f_number": ("diffraction", 8, [0, 1, 3, 8, 14]),
    "illuminance_lx": ("brightness", 960 * 1.0739, [0, 100, 500, 5000]),
}


@pytest.mark.parametrize("school", ["measured", "covered"])
@pytest.mark.parametrize("dial", MONOTONE)
def test_verdicts_are_monotone_in_each_error(dial: str, school: str, hero: SetUp, mill: Layer):
    item, right, errors = MONOTONE[dial]
    base = hero.but(focus_distance_m=1, distance_m=1, lens_height_m=1.6 / 12)
    places = []
    for error in errors:
        judged = {
            one.item: one
            for one in judge(hero, mill, base.but(**{dial: right + error}), DELIVERY, school=school)
        }
        places.append(judged[item].ladder)
    assert places == sorted(places)
    assert places[-1] > places[0]


@given(amount=st.floats(0, 1e4), more=st.floats(0, 1e4), holds=st.floats(0.01, 10), ratio=st.floats(1.01, 10))
def test_the_ladder_is_monotone_and_agrees_with_the_verdict(
    amount: float, more: float, holds: float, ratio: float
):
    limit = Tolerance(holds, holds * ratio)
    here = ladder(amount, limit)
    assert ladder(amount + more, limit) >= here - 1e-12
    word = verdict(amount, limit)
    assert (word == "holds") == (here <= 1 + 1e-6)
    assert (word == "shows") == (here > 2 + 1e-6) or here == pytest.approx(2, abs=1e-6)


@given(holds=st.floats(0.1, 10), ratio=st.floats(1, 5), cover=st.floats(0, 100))
def test_covering_only_ever_widens(holds: float, ratio: float, cover: float):
    base = Tolerance(holds, holds * ratio)
    wider = widened(base, cover)
    assert wider.holds >= base.holds
    assert wider.tight / wider.holds == pytest.approx(ratio)


def test_covered_hides_pixels_but_not_stops_mireds_or_degrees(hero: SetUp, model: SetUp, mill: Layer):
    measured = {one.item: one for one in judge(hero, mill, model, DELIVERY)}
    covered = {one.item: one for one in judge(hero, mill, model, DELIVERY, school="covered")}
    assert covered["height"].covered_by == "half the motion blur"
    assert covered["height"].holds == pytest.approx(Match(hero, mill, model, DELIVERY).motion_hero_px / 2)
    assert "covered" in covered["height"].sources
    for item in ("brightness", "colour", "direction", "time", "grain", "sharpness"):
        assert covered[item].holds == measured[item].holds
        assert covered[item].covered_by == ""


def test_covering_is_never_the_layers_own_fault(hero: SetUp, model: SetUp, mill: Layer):
    """A softer, faster-smeared layer must not widen its own tolerance."""
    still = mill.but(speed_m_s=0)
    good = {one.item: one.holds for one in judge(hero, still, model, DELIVERY, school="covered")}
    soft = {
        one.item: one.holds
        for one in judge(
            hero, still, model.but(f_number=2, shutter_angle_deg=360), DELIVERY, school="covered"
        )
    }
    assert good == soft


def test_a_short_or_veiled_layer_gets_twice_the_tolerance(hero: SetUp, model: SetUp, mill: Layer):
    for change in ({"seen_s": 0.4}, {"behind_weather": True}):
        judged = {
            one.item: one
            for one in judge(hero, mill.but(speed_m_s=0, **change), model, DELIVERY, school="covered")
        }
        assert judged["roll"].holds == pytest.approx(2.0)
    assert {
        one.item: one
        for one in judge(hero, mill.but(speed_m_s=0, seen_s=0.5), model, DELIVERY, school="covered")
    }["roll"].holds == 1.0


def test_a_production_may_change_a_tolerance(hero: SetUp, model: SetUp, mill: Layer):
    judged = {
        one.item: one for one in judge(hero, mill, model, DELIVERY, tolerances={"focus_far": Tolerance(4, 8)})
    }
    assert judged["focus_far"].verdict == "holds"


def test_a_layer_at_its_own_set_speed(hero: SetUp, mill: Layer):
    belt = mill.but(driver="set_speed", speed_m_s=3)
    setup = hero.but(
        focus_distance_m=1,
        distance_m=1,
        lens_height_m=1.6 / 12,
        capture_fps=48,
        model_speed_m_s=3 * 2 / 12 * 1.2,
    )
    match = Match(hero, belt, setup, DELIVERY)
    assert match.amounts["time"] == pytest.approx(20)
    assert amounts(hero, belt, setup.but(model_speed_m_s=3 * 2 / 12))["time"] == pytest.approx(0, abs=1e-9)
