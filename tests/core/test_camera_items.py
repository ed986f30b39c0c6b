"""Items of camera, lens, light and move: each grows with its error, its fix mends it, and odd stacks never
break the judging.
"""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core.light import mains
from jungoptic.core.light.placed import Backing, PlacedLamp
from jungoptic.core.match import Delivery, Layer, SetUp
from jungoptic.core.match.compare import judge_match, judge_member
from jungoptic.core.match.measure import Match
from jungoptic.core.match.records import REFERENCES
from jungoptic.core.match.saying import Fix
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.match.tolerances import ITEMS
from jungoptic.core.motion.move import Move
from tests.core.test_match import hero_set_ups
from tests.core.test_stack import fixed, item, stack_of

SLIDE = Delivery(move=Move(kind="slide", amount=1.0, end_frame=48))
PAN = Delivery(move=Move(kind="pan", amount=12, end_frame=400))
FILMED = Layer(
    name="Actor",
    kind="live_element",
    combine="key",
    near_m=5,
    depth_m=1,
    width_m=0.6,
    height_m=1.7,
    driver="gravity",
    speed_m_s=2,
    brightest_stops=5,
)
PLATE = FILMED.but(kind="live", combine="over", fills_frame=True, width_m=9, height_m=5)
HUNG = FILMED.but(combine="in_camera", kind="model", scale=10, near_m=20)

# item: (layer, delivery, field of the set-up, values that go ever further wrong)
WORSE = {
    "hardness": (FILMED, Delivery(), "key_size_deg", [0.53, 0.8, 1.6, 6.0, 40.0]),
    "key_fill": (FILMED, Delivery(), "key_to_fill_stops", [2.0, 2.2, 3.0, 5.0]),
    "distortion": (PLATE, Delivery(), "distortion_pct", [-0.5, -0.6, -1.0, -4.0]),
    "vignetting": (PLATE, Delivery(), "vignetting_stops", [0.6, 0.9, 2.0, 6.0]),
    "skew": (FILMED, Delivery(), "readout_ms", [5.0, 6.0, 12.0, 60.0]),
    "clipping": (FILMED, Delivery(), "headroom_stops", [6.0, 4.9, 3.0, 1.0]),
    "flicker": (FILMED, Delivery(), "ripple_depth", [0.0, 0.1, 0.4, 0.9]),
    "codes": (FILMED, Delivery(), "bit_depth", [12, 10, 8, 6]),
    "chroma": (FILMED, Delivery(), "recorded_width_px", [3840, 2560, 1920, 1280]),
    "move": (FILMED, SLIDE, "travel_m", [1.0, 0.99, 0.9, 0.0]),
    "pupil": (HUNG, PAN, "pupil_off_mm", [0.0, 1.0, 20.0, 200.0]),
}


# Item: what is said where it holds and where it shows, and what is dialled in then. Derived by hand, with f =
# 2868 px (35 mm focused at 12 m
# on 23.5 mm): 40°/0.53° is 75 times. The corner of 1920 × 1080 is 1101.5 px from the middle, 0.5 and 4 % of
# it 5.5 and 44.1 px. A lens of f/2
# at f/8 keeps a quarter of 0.6 and 6 stops. A thing at 2 m/s, 5 m away and 1.7 m tall moves 1147 px a second;
# 597 of its 975 rows are in the frame, of 1078.5 that are read: in 5 and
# 60 ms it leans 3.2 and 38.1 px. A highlight 5 stops up, exposed a quarter stop under (log₂ 150/180 = −0.26),
# stands at 4.74: 1.26 under 6,
# 3.74 over 1, and ND goes by thirds. 100 ripples a second of 90 %, seen for 150/360/24 s = 1.736 of them:
# 0.9·|sin 1.736π|/1.736π = 12 %,
# log₂(1.12/0.88) = 0.35 stop; two are whole at 360·24·2/100 = 172.8°. 6 bit: 219/4 steps · 1.099 · (0.18^0.45
# − 0.09^0.45) = 7 codes.
# 4:2:2 has a colour sample every 2 recorded px: 1 and 3 delivered ones of 3840 and 1280. A pan of 12° about
# 0.2 m off, the miniature 2 m
# away for 20 m: 2868 · 0.2 · sin 12° · (1/2 − 1/20) = 54 px, and a little for what it comes nearer by.
SAID = {
    "hardness": ("as hard as the hero's.", "75 times softer. Move the lamp away", {"key_size_deg": 0.53}),
    "key_fill": (
        "as deep as the hero's. Holds up to ⅓ stop.",
        "3 stop too deep: add fill",
        {"key_to_fill_stops": 2.0},
    ),
    "distortion": ("5.5 px, the hero's 5.5 px", "44 px, the hero's 5.5 px", None),
    "vignetting": ("0.15 stop down, the hero's 0.15.", "1.5 stop down, the hero's 0.15.", None),
    "skew": (
        "read in 5 ms",
        "read in 60 ms: at its fastest it leans 38.1 px from its top to its foot, in the hero 3.2 px",
        None,
    ),
    "clipping": ("with 1.3 stop to spare", "the camera holds 1. It loses 3.7 stop.", {"nd_stops": 4.0}),
    "flicker": ("", "at 24 frames/s and 150° it flickers 0.35 stop", {"shutter_angle_deg": 172.8}),
    "codes": ("Enough to key from.", "6 bit gives a stop of the backing 7 codes. Light the backing", None),
    "chroma": ("Enough for an edge.", "every 3 delivered px. Record larger", {"recorded_width_px": 3840}),
    "move": (
        "makes the hero's slide at 1:1, 1 m.",
        "travels 0 m; the hero's 1 m at 1:1 is 1 m.",
        {"follows_move": True, "travel_m": 1.0},
    ),
    "pupil": (
        "",
        "an axis 200 mm from the entrance pupil: the near miniature slides 56.7 px",
        {"pupil_off_mm": 0.0},
    ),
}


@pytest.fixture
def base(hero: SetUp) -> SetUp:
    return hero.but(
        distance_m=5,
        key_size_deg=0.53,
        key_to_fill_stops=2.0,
        distortion_pct=-0.5,
        vignetting_stops=0.6,
        readout_ms=5,
        sampling="4:2:2",
        shutter_angle_deg=150,
    )


@pytest.mark.parametrize("key", WORSE)
def test_each_grows_with_its_error_from_nothing(key: str, base: SetUp):
    layer, delivery, field, values = WORSE[key]
    setup = base.but(distance_m=layer.near_m / layer.scale)
    found = [
        Match(base, layer, setup.but(**{field: value}), delivery).amounts.get(key, 0.0) for value in values
    ]
    assert found == sorted(found) and found[-1] > found[0], found
    assert found[-1] > ITEMS[key].tolerance.tight
    assert found[0] <= ITEMS[key].tolerance.holds


@pytest.mark.parametrize("key", WORSE)
def test_each_says_how_much_why_and_what_to_dial(key: str, base: SetUp, kit):
    layer, delivery, field, values = WORSE[key]
    said_holding, said_showing, dialled = SAID[key]

    def judged(setup: SetUp):
        return next(
            (one for one in judge_match(Match(base, layer, setup, delivery), kit=kit) if one.item == key),
            None,
        )

    right, wrong = (
        base.but(distance_m=layer.near_m / layer.scale, **{field: value}) for value in (values[0], values[-1])
    )
    holding, one = judged(right), judged(wrong)
    assert (said_holding in holding.sentence and not holding.fixes) if said_holding else holding is None
    assert one.verdict == "shows" and said_showing in one.sentence and one.where
    told = one.values()
    assert told and all(value.symbol and value.meaning and value.text for value in told)
    assert [fix.target for fix in one.fixes] == (["set_up"] if dialled else [])
    for fix in one.fixes:
        assert dialled.items() <= fix.changes.items()
        after = Match(base, layer, wrong.but(**fix.changes), delivery).amounts.get(key, 0.0)
        assert after < one.amount, fix.label


def test_a_bigger_recording_mends_the_chroma_and_names_the_mode(base: SetUp, kit):
    small = base.but(recorded_width_px=1920, recorded_height_px=1080, sampling="4:2:2", capture_fps=24)
    one = next(
        one for one in judge_match(Match(base, FILMED, small, Delivery()), kit=kit) if one.item == "chroma"
    )
    assert [fix.label for fix in one.fixes] == ["Record 3840 × 2160"]
    assert Match(base, FILMED, small.but(**one.fixes[0].changes), Delivery()).amounts["chroma"] == 1.0


def test_vignetting_falls_as_the_lens_is_stopped_down_and_with_a_tighter_picture(base: SetUp):
    wide = base.but(f_number=2.0, vignetting_stops=0.8)
    clean = base.but(vignetting_stops=0.0)

    def corner(setup: SetUp) -> float:
        return Match(clean, PLATE, setup, Delivery()).amounts["vignetting"]

    assert corner(wide) == pytest.approx(0.8, rel=2e-3)
    assert corner(wide.but(f_number=4.0)) == pytest.approx(0.4, rel=2e-3)
    assert corner(wide.but(extraction_width_mm=11.75)) == pytest.approx(0.2, rel=3e-3)


def test_a_resize_shows_no_more_of_a_lens_than_it_recorded(base: SetUp):
    """Derived: resized to 55 %, the corner of the recorded picture lies 0.55 · 1101 px out; 1 % there is
    6.1 px, and its vignetting is that of the corner, once.
    """
    faulty = base.but(distortion_pct=-1.0, vignetting_stops=0.6, f_number=2.0)
    clean = base.but(distortion_pct=0.0, vignetting_stops=0.0)
    small = Match(clean, PLATE.but(resize=0.55), faulty, Delivery())
    assert small.amounts["distortion"] == pytest.approx(0.55 * math.hypot(960, 540) / 100, rel=2e-3)
    assert small.amounts["vignetting"] == pytest.approx(0.6, rel=2e-3)


def test_a_lens_is_as_bad_on_a_part_of_its_gate_as_that_part_of_it(base: SetUp):
    """Derived: in the corner of half the gate the square of a half is left: a quarter."""
    clean = base.but(distortion_pct=0.0)
    cropped = base.but(
        distortion_pct=-1.8, gate_width_mm=11.75, gate_height_mm=6.6, measured_gate_mm=23.5, iso=800
    )
    found = Match(clean, PLATE, cropped, Delivery()).amounts["distortion"]
    assert found == pytest.approx(0.018 / 4 * math.hypot(960, 540), rel=2e-3)


def test_a_lens_that_keeps_its_view_loses_no_light_by_close_focus(base: SetUp):
    close = base.but(focus_distance_m=0.3, focusing="constant_view", distance_m=0.3)
    far = base.but(focus_distance_m=1e6, focusing="constant_view")
    found = Match(far, FILMED, close, Delivery())
    assert found.stops == pytest.approx(found.stops_hero, abs=1e-9)
    assert found.airy_px == pytest.approx(found.airy_hero_px, rel=1e-9)
    # by hand: as a unit it moves out by 35/265 of its focal length, and loses twice the logarithm of that
    unit = Match(far, FILMED, close.but(focusing="unit"), Delivery())
    assert unit.stops - found.stops == pytest.approx(-2 * math.log2(1 + 35 / 265))


def test_a_rate_that_divides_the_ripple_evenly_is_steady_at_any_shutter(base: SetUp):
    rippling = base.but(ripple_depth=0.5, mains_hz=50, readout_ms=0)

    def flicker(**settings: float) -> float:
        return Match(base, FILMED, rippling.but(**settings), Delivery()).amounts["flicker"]

    assert flicker(capture_fps=25) == 0  # derived: 100/25 = 4
    assert flicker(capture_fps=24) > 0.05
    # rows that are read one after the other see the ripple all the same, unless each sees whole ripples
    in_bands = mains.ripple_stops(0.5 * abs(math.sin(math.pi * 100 / 60) / (math.pi * 100 / 60)))
    assert flicker(capture_fps=25, shutter_angle_deg=150, readout_ms=20) == pytest.approx(in_bands)
    assert flicker(capture_fps=25, shutter_angle_deg=180, readout_ms=20) == pytest.approx(0, abs=1e-9)


def test_the_cameras_pan_smears_every_layer_alike(base: SetUp):
    quick = Delivery(move=Move(kind="pan", amount=30, end_frame=30))
    still = FILMED.but(driver="still", speed_m_s=0)
    match = Match(base, still, base, quick)
    # in the middle; at the edge a picture goes 1 + (960/f)² as fast
    middle = match.f_hero_px * math.radians(1) * 150 / 360
    assert middle < match.motion_hero_px <= middle * (1 + (960 / match.f_hero_px) ** 2 + 0.05)
    assert match.amounts["motion_blur"] == pytest.approx(0, abs=1e-9)
    assert Match(base, still, base.but(follows_move=False), quick).amounts["motion_blur"] > 5


def test_covered_lets_a_quick_pan_hide_a_join(base: SetUp):
    quick = Delivery(move=Move(kind="pan", amount=30, end_frame=30))
    off = base.but(lens_height_m=base.lens_height_m + 0.02)
    measured, covered = (
        {one.item: one for one in judge_match(Match(base, FILMED, off, quick), school=school)}["height"]
        for school in ("measured", "covered")
    )
    assert (
        measured.verdict != "holds"
        and covered.verdict == "holds"
        and covered.covered_by == "half the motion blur"
    )


# --- odd stacks

lamps = st.builds(
    PlacedLamp,
    name=st.just("lamp"),
    role=st.sampled_from(["key", "fill", "rim", "backing"]),
    intensity_cd=st.floats(1, 1e5),
    level=st.floats(0, 1),
    beam_deg=st.floats(2, 178),
    face_m=st.floats(0, 2),
    length_m=st.sampled_from([0.0, 0.0, 1.2]),
    across_m=st.floats(-8, 8),
    height_m=st.floats(-1, 8),
    behind_m=st.floats(-8, 8),
    aim_across_m=st.floats(-3, 3),
    aim_height_m=st.floats(0, 3),
    aim_behind_m=st.floats(-3, 5),
)
backings = st.none() | st.builds(
    Backing,
    colour=st.sampled_from(["#1f9d3a", "#2450b8", "#0c0c0c", "#f2f2f2"]),
    width_m=st.floats(0.2, 20),
    height_m=st.floats(0.2, 10),
    behind_m=st.floats(0.01, 20),
    across_m=st.floats(-5, 5),
    bottom_m=st.floats(-1, 3),
    reflectance=st.floats(0.01, 1),
)
layers = st.builds(
    Layer,
    name=st.just("Thing"),
    kind=st.sampled_from(
        [
            "live",
            "live_element",
            "model",
            "frame_by_frame",
            "rig",
            "clean_plate",
            "split",
            "shadow_pass",
            "painted",
            "haze",
        ]
    ),
    combine=st.sampled_from(["base", "key", "hand_matte", "difference", "split", "over", "add", "in_camera"]),
    scale=st.floats(1, 100),
    near_m=st.floats(0.5, 5000),
    depth_m=st.floats(0, 1000),
    width_m=st.floats(0.01, 500),
    height_m=st.floats(0.01, 300),
    base_m=st.floats(-20, 50),
    offset_m=st.floats(-50, 50),
    driver=st.sampled_from(["gravity", "still", "set_speed", "fire"]),
    speed_m_s=st.floats(0, 80),
    fills_frame=st.booleans(),
    resize=st.floats(0.1, 5),
    contact=st.sampled_from(["nothing", "ground", "wet_ground"]),
    paint_out=st.sampled_from(["", "a van"]),
    mirrored=st.booleans(),
    lettering=st.booleans(),
    turned_deg=st.floats(-90, 90),
    gloss_azimuth_deg=st.none() | st.floats(-180, 180),
    brightest_stops=st.none() | st.floats(-5, 20),
    keep_colours=st.sampled_from([(), ("#3f8a48",), ("#c49a7c", "#2450b8")]),
    moves_from_m=st.none() | st.floats(-40, 40),
    moves_to_m=st.none() | st.floats(-40, 40),
    split_side=st.sampled_from(["", "left", "right"]),
    matte_line_px=st.none() | st.floats(-500, 2000),
    travel_across_m=st.floats(-30, 30),
    travel_up_m=st.floats(-10, 10),
    seen_s=st.none() | st.floats(0.01, 20),
    behind_weather=st.booleans(),
    picture_width_px=st.none() | st.integers(10, 8000),
)
plans = st.builds(
    ShotPlan,
    length_frames=st.integers(1, 2000),
    split_px=st.none() | st.floats(-500, 3000),
    split_feather_px=st.floats(0, 500),
    visibility_m=st.none() | st.floats(1, 1e5),
    recurring=st.sampled_from([(), ("post",)]),
)
moves = st.builds(
    Move,
    kind=st.sampled_from(["none", "pan", "tilt", "slide", "push"]),
    amount=st.floats(-90, 90),
    end_frame=st.integers(1, 500),
)


@settings(max_examples=200)
@given(
    hero=hero_set_ups,
    one=layers,
    two=layers,
    setup=hero_set_ups,
    lit=st.lists(lamps, max_size=3),
    sheet=backings,
    plan=plans,
    move=moves,
    school=st.sampled_from(["measured", "covered"]),
)
def test_no_stack_breaks_the_judging(hero, one, two, setup, lit, sheet, plan, move, school):
    filmed = setup.but(lamps=tuple(lit), backing=sheet)
    stack = Stack(
        plan,
        Delivery(move=move),
        hero,
        (
            Member(one, filmed, 1),
            Member(two, None, None),
            Member(Layer(name="Sea", near_m=hero.distance_m), hero, 2, True),
        ),
    )
    for at in range(3):
        _, judged = judge_member(stack, at, school=school)
        assert judged or not stack.members[at].setup
        for found in judged:
            assert math.isfinite(found.amount) and found.amount >= 0, found.item
            assert math.isfinite(found.ladder) and found.sentence
            assert found.verdict in ("holds", "tight", "shows")
            for value in found.values():
                assert value.symbol
            for fix in found.fixes:
                applies(fix, stack, at)


def applies(fix: Fix, stack: Stack, at: int) -> None:
    """What a fix changes can be read by core: it never sends somebody into an error."""
    if fix.target == "new_layer":
        Layer.read(fix.changes)
    elif "move_end_frame" in fix.changes:
        assert fix.target == "shot" and set(fix.changes) == {"move_end_frame"}
        stack.delivery.move.but(end_frame=fix.changes["move_end_frame"])
    else:
        fixed(stack, at, fix)


def test_references_are_three_and_a_part_of_them_is_less_than_all(hero: SetUp):
    counts = [
        item(stack_of(hero, Member(FILMED, hero.but(references=REFERENCES[:n]), 2)), "references").amount
        for n in range(4)
    ]
    assert counts == pytest.approx([1, 2 / 3, 1 / 3, 0])
