"""The solver, placing, the dials, the kit."""

import math
from typing import Any

import pytest

from jungoptic.core.errors import InputError
from jungoptic.core.kit import Kit, Lamp, available_light_lx, check_against_kit
from jungoptic.core.match import Delivery, Layer, SetUp, judge
from jungoptic.core.match.compare import judge_match
from jungoptic.core.match.differences import differences, settings_in_words
from jungoptic.core.match.measure import Match
from jungoptic.core.match.weighed import weighed
from jungoptic.core.plan.dials import dials
from jungoptic.core.plan.placing import place
from jungoptic.core.plan.solve import SOLVABLE, Answer, solve
from jungoptic.core.wording import Words

DELIVERY = Delivery()


def solved(*what: Any, **how: Any) -> list[Answer]:
    """What the solver finds, and it must find something."""
    found = solve(*what, **how)
    assert found
    return found


def as_shot(setup: SetUp, layer: Layer, answer: Answer) -> tuple[SetUp, Layer]:
    return setup.but(**answer.set_up), layer.but(**answer.layer)


def test_solving_the_mill_makes_everything_hold(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    best = solve(hero, mill, model, DELIVERY, kit)[0]
    assert (best.verdict, best.shows, best.tight) == ("holds", 0, 0)
    setup, _ = as_shot(model, mill, best)
    assert setup.ground_height_m == pytest.approx(
        0.35 - 1.6 / 12, abs=1e-4
    )  # the tripod's lowest: the model is raised
    assert (
        setup.capture_fps > 60 and setup.recorded_width_px == 1920
    )  # only the small mode runs near 83 frames/s
    assert setup.illuminance_lx <= best.light_available_lx * 1.001


def test_the_solvers_answer_judged_by_the_comparison_is_what_it_said(
    hero: SetUp, model: SetUp, mill: Layer, kit: Kit
):
    for answer in solved(hero, mill, model, DELIVERY, kit):
        setup, layer = as_shot(model, mill, answer)
        judged = judge(hero, layer, setup, DELIVERY, kit=kit)
        assert [(one.item, one.amount, one.verdict) for one in judged] == [
            (one.item, one.amount, one.verdict) for one in answer.judged
        ]
        assert answer.shows == sum(one.verdict == "shows" for one in judged)


def test_answers_come_in_order_of_what_shows_least(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    answers = solve(hero, mill, model, DELIVERY, kit)
    assert len(answers) == 3
    ranks = [(one.shows, one.tight) for one in answers]
    assert ranks == sorted(ranks)


def test_solving_twice_gives_the_same(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    once, twice = (solved(hero, mill, model, DELIVERY, kit) for _ in range(2))
    assert [one.set_up for one in once] == [one.set_up for one in twice]


@pytest.mark.parametrize(
    "locked",
    [
        "focal_length_mm",
        "f_number",
        "iso",
        "capture_fps",
        "focus_distance_m",
        "lens_height_m",
        "ground_height_m",
        "distance_m",
        "shutter_angle_deg",
        "illuminance_lx",
    ],
)
def test_locked_values_stay(locked: str, hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    for answer in solved(hero, mill, model, DELIVERY, kit, locked=[locked]):
        assert locked not in answer.set_up
        assert SOLVABLE[locked].lower() in answer.sentences[-1]


def test_locking_the_recording_and_the_resize(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    for answer in solved(hero, mill, model, DELIVERY, kit, locked=["mode", "resize"]):
        setup, layer = as_shot(model, mill, answer)
        assert setup.recorded_width_px == 3840
        assert layer.resize == 1
        assert answer.verdict == "shows"  # 60 frames/s at most in this mode
        assert any("Time shows" in sentence and "wants 83" in sentence for sentence in answer.sentences)


def test_every_answer_is_within_the_kit(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    for scale in (1, 4, 12, 24, 60):
        layer = mill.but(scale=scale, near_m=8, depth_m=3)
        for answer in solved(hero, layer, model, DELIVERY, kit):
            setup, _ = as_shot(model, layer, answer)
            check_against_kit(
                kit,
                focal_length_mm=setup.focal_length_mm,
                f_number=setup.f_number,
                focus_distance_m=setup.focus_distance_m,
                recorded_width_px=setup.recorded_width_px,
                gate_width_mm=setup.gate_width_mm,
                capture_fps=setup.capture_fps,
                iso=setup.iso,
            )
            assert setup.lens_height_m >= kit.lowest_lens_m - 1e-9
            assert setup.ground_height_m >= 0


def test_the_solvers_focus_is_as_good_as_a_fine_search(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    answer = solve(hero, mill, model, DELIVERY, kit, locked=["f_number", "focal_length_mm"])[0]
    setup, layer = as_shot(model, mill, answer)

    def weight(focus_m: float) -> int:
        refocused = Match(hero, layer, setup.but(focus_distance_m=focus_m), DELIVERY)
        return int(weighed(refocused, "measured", {}))

    brute = min(weight(0.9 + n * 0.001) for n in range(800))
    assert weight(setup.focus_distance_m) <= brute


def test_too_little_light_is_said(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    candle = Lamp(name="weak lamp", intensity_cd=20, beam_deg=120, warmest_k=2800, coolest_k=6500)
    dim = Kit(**{**dict(kit), "lamps": (candle,)})
    best = solve(hero, mill, model, DELIVERY, dim)[0]
    assert best.verdict != "holds"
    assert any("weak lamp" in sentence for sentence in best.sentences)


def test_a_colour_that_no_lamp_makes_is_answered_and_said(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    best = solve(
        hero.but(light_k=18000, white_balance_k=18000),
        mill,
        model.but(light_k=18000, white_balance_k=18000),
        DELIVERY,
        kit,
    )[0]
    assert any("no lamp of that colour" in sentence for sentence in best.sentences)


def test_a_resize_stays_within_what_a_layer_can_have(hero: SetUp, model: SetUp, kit: Kit):
    """A locked lens beside a far layer wants its picture shrunk, or blown up, without end."""
    locked = ["distance_m", "focal_length_mm"]
    for near_m, distance_m in ((1e7, 0.5), (0.5, 5e4)):
        layer = Layer(name="Island", kind="model", combine="key", near_m=near_m, width_m=1, height_m=1)
        found = solve(hero, layer, model.but(distance_m=distance_m), DELIVERY, kit, locked=locked)
        assert found and all(Layer.read({**layer.model_dump(), **answer.layer}) for answer in found)


def test_an_unknown_lock_is_refused(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    with pytest.raises(InputError, match="wobble"):
        solve(hero, mill, model, DELIVERY, kit, locked=["wobble"])


def test_locks_that_exclude_the_whole_kit_give_no_answer(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    assert solve(hero, mill, model.but(focal_length_mm=40), DELIVERY, kit, locked=["focal_length_mm"]) == []


def test_light_from_the_kit():
    # inverse square (IES handbook, from memory): 18 000 cd at 2 m is 4500 lx. A 25° beam has cosⁿ with
    # n = 28.6; with the surface's cosine and the further way the edge has cos³¹·⁶θ of that, ½ at 11.9°
    spot = Lamp(name="spot", intensity_cd=18000, beam_deg=25, warmest_k=3200, coolest_k=3200)
    power = math.log(0.5) / math.log(math.cos(math.radians(12.5)))
    width = 2 * 2 * math.tan(math.acos(0.5 ** (1 / (power + 3))))
    lux, names = available_light_lx((spot,), width, 3200)
    assert lux == pytest.approx(4500)
    assert names == ["spot"]
    assert available_light_lx((spot,), width, 5600) == (0.0, [])
    # on the axis of a disc the exact sum over its face: E = I/(d² + r²) for an even face
    panel = Lamp(name="panel", intensity_cd=900, beam_deg=110, area_m2=0.36, warmest_k=2800, coolest_k=6500)
    r2 = 0.36 / math.pi
    luminance = 900 / 0.36
    integral = sum(
        luminance * 2 * math.pi * r * (0.0005) * 1.0 / (1 + r * r) ** 2
        for r in (0.00025 + 0.0005 * n for n in range(int(math.sqrt(r2) / 0.0005)))
    )
    assert available_light_lx((panel,), 0.5, 5000)[0] == pytest.approx(integral, rel=2e-3)


def test_placing_is_where_the_item_leaves_holds(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    setup, layer = as_shot(model, mill, solve(hero, mill, model, DELIVERY, kit)[0])
    placings = {one.dial: one for one in place(hero, layer, setup, DELIVERY)}
    # derived: 1 px ÷ (f_px·(1/1.0 − 1/1.5)) is about 1 mm
    assert placings["lens_height_m"].plus == pytest.approx(0.00103, abs=5e-5)
    for dial, one in placings.items():
        assert one.minus is not None and one.plus is not None, dial
        for sign, margin in ((-1, one.minus), (1, one.plus)):
            inside = judge(hero, layer, setup.but(**{dial: one.wanted + sign * margin * 0.99}), DELIVERY)
            outside = judge(
                hero, layer, setup.but(**{dial: one.wanted + sign * (margin * 1.01 + 1e-6)}), DELIVERY
            )
            moved = {item.item for item in outside}
            assert all(item.verdict == "holds" for item in inside if item.item in moved), dial
            assert any(item.verdict != "holds" for item in outside), dial


def test_placing_says_what_is_beyond_holds_already(hero: SetUp, model: SetUp, mill: Layer):
    found = {one.dial: one for one in place(hero, mill, model.but(f_number=2), DELIVERY)}
    assert found["focus_distance_m"].plus is None
    assert found["focus_distance_m"].item


def test_dials_show_the_kit_the_hero_and_the_wish(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    match = Match(hero, mill, model, DELIVERY)
    for units in ("metric", "imperial"):
        turned = {
            one.field: one
            for one in dials(
                match,
                judge_match(match, kit=kit),
                place(hero, mill, model, DELIVERY),
                kit,
                Words(units),
                (0.92, 1.1),
            )
        }
        assert {mark.label for mark in turned["f_number"].marks if not mark.can} >= {"1.4", "32"}
        assert {mark.label for mark in turned["f_number"].marks if mark.can} >= {"2", "2.8", "22"}
        assert turned["f_number"].wants == pytest.approx(96, rel=0.01)
        assert turned["capture_fps"].wants == pytest.approx(24 * math.sqrt(12))
        assert [mark.can for mark in turned["capture_fps"].marks if mark.value > 60] == [False] * 6
        assert turned["lens_height_m"].hero == pytest.approx(1.6 / 12)
        assert turned["focus_distance_m"].holds_low < 1.0 < turned["focus_distance_m"].holds_high
        for one in turned.values():
            assert one.low <= one.high
            assert list(one.marks) == sorted(one.marks, key=lambda mark: mark.value)


def test_kit_limits_are_named(kit: Kit):
    good = {
        "focal_length_mm": 35,
        "f_number": 8,
        "focus_distance_m": 1,
        "recorded_width_px": 3840,
        "gate_width_mm": 23.5,
        "capture_fps": 24,
        "iso": 800,
    }
    check_against_kit(kit, **good)
    wrong = {
        "focal_length_mm": (40, "it has 18, 25, 35, 50, 85, 100 mm"),
        "f_number": (45.25, "f/2 to f/22; f/45 was given"),
        "focus_distance_m": (0.2, "focuses from 0.3 m"),
        "capture_fps": (83, "at most 60 frames/s in 3840 × 2160; 83 was given. 1920 × 1080 goes to 120"),
        "iso": (12800, "ISO 100 to 6400"),
        "recorded_width_px": (4096, "no mode 4096 px wide"),
    }
    for field, (value, words) in wrong.items():
        with pytest.raises(InputError) as caught:
            check_against_kit(kit, **{**good, field: value})
        assert caught.value.problems[0].field == field
        assert words in caught.value.problems[0].message


def test_differences_name_only_what_changed(hero: SetUp, kit: Kit):
    shot = hero.but(f_number=11.3137, focus_distance_m=12.0)
    assert [(one.label, one.before, one.after) for one in differences(hero, shot, Words(), kit)] == [
        ("Stop", "f/8", "f/11")
    ]


def test_every_setting_is_told_in_its_own_words(hero, kit):
    lit = hero.but(
        ripple_depth=0.25,
        model_speed_m_s=0.5,
        travel_m=1.2,
        nd_stops=2,
        ground_height_m=0.1,
        tilt_deg=-1.5,
        roll_deg=0.5,
        key_to_fill_stops=2.5,
    )
    told = [(field, label, text) for field, label, text in settings_in_words(lit, Words(), kit)]
    assert told == [
        ("focal_length_mm", "Lens", "35 mm"),
        ("f_number", "Stop", "f/8"),
        ("focus_distance_m", "Focus", "12 m"),
        ("distance_m", "Lens to front edge", "12 m"),
        ("lens_height_m", "Lens height", "1.6 m"),
        ("ground_height_m", "Table height", "0.1 m"),
        ("tilt_deg", "Tilt", "−1.5°"),
        ("roll_deg", "Roll", "0.5°"),
        ("recorded_width_px", "Recording", "3840 × 2160"),
        ("capture_fps", "Rate", "24 frames/s"),
        ("shutter_angle_deg", "Shutter", "180°"),
        ("iso", "ISO", "800"),
        ("nd_stops", "ND", "2 stops"),
        ("illuminance_lx", "Light", "960 lx"),
        ("light_k", "Colour of light", "5600 K"),
        ("white_balance_k", "White balance", "5600 K"),
        ("key_azimuth_deg", "Key, side angle", "118°"),
        ("key_elevation_deg", "Key, height angle", "14°"),
        ("key_size_deg", "Apparent source size", "not set"),
        ("key_to_fill_stops", "Key-to-fill ratio", "2.5 stops"),
        ("ripple_depth", "Lamp flicker depth", "25 %"),
        ("model_speed_m_s", "Model speed", "0.5 m/s"),
        ("travel_m", "Travel of the rig", "1.2 m"),
    ]
    changed = differences(hero, lit, Words(), kit)
    assert [one.field for one in changed] == [
        "ground_height_m",
        "tilt_deg",
        "roll_deg",
        "nd_stops",
        "key_to_fill_stops",
        "ripple_depth",
        "model_speed_m_s",
        "travel_m",
    ]
    assert (changed[4].label, changed[4].before, changed[4].after) == (
        "Key-to-fill ratio",
        "not set",
        "2.5 stops",
    )


def test_light_that_the_kit_does_not_have_is_said_in_stops(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    bright = model.but(illuminance_lx=60_000)
    answer = solve(hero, mill, bright, DELIVERY, kit, locked=["illuminance_lx"])[0]
    short = math.log2(answer.light_wanted_lx / answer.light_available_lx)
    assert answer.light_wanted_lx == 60_000 and short > 1
    (said,) = (line for line in answer.sentences if line.startswith("Light: "))
    assert f"{short:.2g} stop more than what the kit throws there" in said
