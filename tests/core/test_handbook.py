"""Every calculation of the handbook: its check values, reference libraries, properties, and every door's bad
input.
"""

import itertools
import math
from datetime import UTC, datetime, timedelta

import colour
import numpy as np
import pandas as pd
import pvlib
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy import integrate

from jungoptic.core import handbook
from jungoptic.core.calculation import CALCULATIONS, find
from jungoptic.core.errors import InputError
from jungoptic.core.handbook import cards
from jungoptic.core.handbook.checks import CHECKS
from jungoptic.core.light.difference import ciede2000, lab_of_srgb
from jungoptic.core.light.sun import sun_deg

assert handbook


def calc(name: str, **values: object) -> dict:
    return find(name).run(values)


def at(result: object, path: str) -> object:
    for step in path.split("."):
        result = result[int(step)] if isinstance(result, list) else result[step]  # type: ignore[index]
    return result


def test_every_calculation_has_a_check_with_its_source():
    assert set(CHECKS) == set(CALCULATIONS)
    for checks in CHECKS.values():
        assert checks
        for check in checks:
            assert check.kind in ("published", "practice", "derived")
            assert len(check.source) > 5 and check.expected


@pytest.mark.parametrize(
    ("name", "check"), [(name, check) for name, checks in CHECKS.items() for check in checks]
)
def test_check_values(name: str, check):
    found = find(name).run(check.inputs)
    for path, (value, tolerance) in check.expected.items():
        got = at(found, path)
        assert (
            got == value if isinstance(value, str | bool) else got == pytest.approx(value, abs=tolerance)
        ), path


# --- reference libraries


@settings(max_examples=60)
@given(
    latitude=st.floats(-66, 66),
    longitude=st.floats(-180, 180),
    day=st.integers(1, 365 * 20),
    from_noon=st.floats(-6, 6),
)
def test_sun_against_pvlib(latitude: float, longitude: float, day: int, from_noon: float):
    """Reference library: pvlib's implementation of the NREL algorithm.

    The hour is the sun's, so that it is mostly up.
    """
    when = datetime(2015, 1, 1, tzinfo=UTC) + timedelta(days=day, hours=12 + from_noon - longitude / 15)
    expected = pvlib.solarposition.spa_python(
        pd.DatetimeIndex([when]), latitude, longitude, pressure=101000, temperature=10
    ).iloc[0]
    azimuth, elevation = sun_deg(latitude, longitude, when)
    assume(expected["elevation"] > 1)
    assert elevation == pytest.approx(expected["apparent_elevation"], abs=0.02)
    turned = (azimuth - expected["azimuth"] + 180) % 360 - 180
    assert turned * math.cos(math.radians(elevation)) == pytest.approx(
        0, abs=0.02
    )  # on the sky: at the zenith an azimuth is nothing


# The 34 pairs of Sharma, Wu & Dalal 2005, table 1: L, a, b of both, and ΔE00.
SHARMA = """
50 2.6772 -79.7751 50 0 -82.7485 2.0425
50 3.1571 -77.2803 50 0 -82.7485 2.8615
50 2.8361 -74.02 50 0 -82.7485 3.4412
50 -1.3802 -84.2814 50 0 -82.7485 1
50 -1.1848 -84.8006 50 0 -82.7485 1
50 -0.9009 -85.5211 50 0 -82.7485 1
50 0 0 50 -1 2 2.3669
50 -1 2 50 0 0 2.3669
50 2.49 -0.001 50 -2.49 0.0009 7.1792
50 2.49 -0.001 50 -2.49 0.001 7.1792
50 2.49 -0.001 50 -2.49 0.0011 7.2195
50 2.49 -0.001 50 -2.49 0.0012 7.2195
50 -0.001 2.49 50 0.0009 -2.49 4.8045
50 -0.001 2.49 50 0.001 -2.49 4.8045
50 -0.001 2.49 50 0.0011 -2.49 4.7461
50 2.5 0 50 0 -2.5 4.3065
50 2.5 0 73 25 -18 27.1492
50 2.5 0 61 -5 29 22.8977
50 2.5 0 56 -27 -3 31.903
50 2.5 0 58 24 15 19.4535
50 2.5 0 50 3.1736 0.5854 1
50 2.5 0 50 3.2972 0 1
50 2.5 0 50 1.8634 0.5757 1
50 2.5 0 50 3.2592 0.335 1
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.263
61.2901 3.7196 -5.3901 61.4292 2.248 -4.962 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.694 23.0331 14.973 -42.5619 2.0373
36.4612 47.858 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.441 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.135 0.9033 -0.0636 -0.5514 0.9082
"""
PAIRS = [tuple(float(n) for n in pair.split()) for pair in SHARMA.strip().splitlines()]


def test_colour_difference_of_the_published_pairs():
    assert len(PAIRS) == 34
    for l1, a1, b1, l2, a2, b2, expected in PAIRS:
        assert ciede2000((l1, a1, b1), (l2, a2, b2)) == pytest.approx(expected, abs=5e-5)


@given(st.tuples(st.integers(0, 255), st.integers(0, 255), st.integers(0, 255)))
def test_lab_against_colour_science(rgb: tuple):
    """Reference library: colour-science."""
    expected = colour.XYZ_to_Lab(
        colour.sRGB_to_XYZ(np.array(rgb) / 255),
        colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"],
    )
    assert lab_of_srgb("#{:02x}{:02x}{:02x}".format(*rgb)) == pytest.approx(expected, abs=0.05)


@settings(max_examples=40)
@given(
    width=st.floats(0.5, 6), height=st.floats(0.5, 4), distance=st.floats(0.5, 5), facing=st.floats(0, 179)
)
def test_spill_against_a_numeric_integral(width: float, height: float, distance: float, facing: float):
    """Reference library: scipy's adaptive integral of cosθ₁·cosθ₂/(π·r²) over the backing."""
    turn = math.radians(facing)

    def share(y: float, x: float) -> float:
        ahead = max(distance * math.cos(turn) + x * math.sin(turn), 0.0)
        return ahead * distance / (math.pi * (x * x + y * y + distance * distance) ** 2)

    low = max(-width / 2, -distance / math.tan(turn)) if turn > 1e-9 and math.sin(turn) > 1e-9 else -width / 2
    expected = (
        integrate.dblquad(share, low, width / 2, -height / 2, height / 2, epsabs=1e-7)[0]
        if low < width / 2
        else 0.0
    )
    found = calc(
        "spill",
        backing_width_m=width,
        backing_height_m=height,
        distance_m=distance,
        backing_illuminance_lx=1,
        reflectance=1,
        facing_deg=facing,
    )
    assert found["configuration_factor"] == pytest.approx(expected, abs=2e-5)


def test_evenness_of_a_tube_against_a_numeric_integral():
    """Reference library: scipy's integral along the tube."""
    tube = {
        "x_m": 0.4,
        "y_m": 1.0,
        "z_m": 0.8,
        "intensity_cd": 700,
        "aim_x_m": 0.4,
        "aim_y_m": 1.0,
        "beam_deg": 120,
        "length_m": 1.2,
    }
    found = calc("backing_evenness", width_m=2, height_m=2, lamps=[tube])

    def from_point(
        s: float,
    ) -> float:  # a cosine lamp facing the sheet: I·cos θ · cos θ / r², at the left top corner
        r2 = (-1 - (0.4 + s)) ** 2 + (2 - 1.0) ** 2 + 0.8**2
        return 700 / 1.2 * 0.8**2 / r2**2

    expected = integrate.quad(from_point, -0.6, 0.6)[0]
    assert found["map"][0][0] == pytest.approx(expected, rel=0.001)


def test_two_lamps_are_the_sum_of_each_and_a_region_is_more_even_than_the_sheet():
    lamps = [
        {"x_m": x, "y_m": 1.2, "z_m": 1.8, "intensity_cd": 900, "aim_x_m": -x / 2, "aim_y_m": 1.2}
        for x in (-2, 2)
    ]
    both = calc("backing_evenness", width_m=3, height_m=2.5, lamps=lamps)
    each = [calc("backing_evenness", width_m=3, height_m=2.5, lamps=[lamp])["map"] for lamp in lamps]
    assert np.array(both["map"]) == pytest.approx(np.array(each[0]) + np.array(each[1]), abs=0.02)
    part = calc(
        "backing_evenness",
        width_m=3,
        height_m=2.5,
        lamps=lamps,
        region={"left_m": -0.5, "right_m": 0.5, "bottom_m": 0.7, "top_m": 1.7},
    )
    assert part["spread_stops"] < both["spread_stops"]
    lifted = calc("backing_evenness", width_m=3, height_m=2.5, lamps=lamps, sky_lx=500)
    assert lifted["spread_stops"] < both["spread_stops"]


# --- properties


@given(st.floats(-0.7, 0.7), st.floats(-0.7, 0.7))
def test_a_far_camera_sees_the_mirror_ball_as_one_at_infinity(x: float, y: float):
    far = calc("mirror_ball", x=x, y=y, camera_distance_in_radii=1e5)
    infinite = calc("mirror_ball", x=x, y=y)
    assert far["elevation_deg"] == pytest.approx(infinite["elevation_deg"], abs=0.01)
    assume(abs(infinite["azimuth_deg"]) < 179 and abs(infinite["elevation_deg"]) < 89)
    assert far["azimuth_deg"] == pytest.approx(infinite["azimuth_deg"], abs=0.05)
    mirrored = calc("mirror_ball", x=-x, y=y)
    assert mirrored["azimuth_deg"] == pytest.approx(-infinite["azimuth_deg"], abs=1e-6)


@given(focal=st.floats(400, 6000), pan=st.floats(20, 70), tilt=st.floats(-25, 25), roll=st.floats(-10, 10))
def test_a_lens_is_found_again_from_its_own_vanishing_points(
    focal: float, pan: float, tilt: float, roll: float
):
    from jungoptic.core.stage.project import rotation

    points = []
    for heading in (pan, pan - 90):
        direction = np.array([math.sin(math.radians(heading)), 0, math.cos(math.radians(heading))])
        x, y, z = rotation(tilt, roll) @ direction
        points.append([960 + focal * x / z, 540 - focal * y / z])
    found = calc(
        "lens_from_photograph", width_px=1920, height_px=1080, vanishing_points=points, gate_width_mm=36
    )
    assert found["focal_length_px"] == pytest.approx(focal, rel=1e-6)
    assert found["tilt_deg"] == pytest.approx(tilt, abs=1e-6)
    assert found["roll_deg"] == pytest.approx(roll, abs=1e-6)


@given(
    steady=st.integers(0, 100),
    ease_in=st.integers(0, 100),
    ease_out=st.integers(0, 100),
    total=st.integers(1, 5000),
)
def test_an_eased_move_ends_where_it_must(steady: int, ease_in: int, ease_out: int, total: int):
    frames = max(1, ease_in + steady + ease_out)
    turns = calc(
        "eased_move", frames=frames, total_turns=total, ease_in_frames=ease_in, ease_out_frames=ease_out
    )["turns_per_frame"]
    assert len(turns) == frames
    assert sum(turns) == total
    assert all(turn >= 0 and float(turn).is_integer() for turn in turns)
    smooth = calc(
        "eased_move",
        frames=frames,
        total_turns=total,
        ease_in_frames=ease_in,
        ease_out_frames=ease_out,
        whole_turns=False,
    )["turns_per_frame"]
    assert sum(smooth) == pytest.approx(total)
    for whole, exact in zip(itertools.accumulate(turns), itertools.accumulate(smooth), strict=True):
        assert whole == pytest.approx(exact, abs=0.500001)


@given(
    fps=st.sampled_from([23.976, 24, 25, 30, 48, 50, 60]),
    hz=st.sampled_from([50, 60]),
    share=st.floats(0.01, 1),
    depth=st.floats(0, 0.99),
)
def test_mains_ripple_is_never_more_than_the_lamps_own_and_clean_exposures_are_clean(
    fps: float, hz: float, share: float, depth: float
):
    found = calc("mains_flicker", mains_hz=hz, capture_fps=fps, exposure_s=share / fps, ripple_depth=depth)
    assert 0 <= found["amplitude"] <= depth + 1e-12
    for exposure in found["clean_exposures_s"]:
        assert exposure <= 1 / fps + 1e-9
        assert calc("mains_flicker", mains_hz=hz, capture_fps=fps, exposure_s=exposure, ripple_depth=depth)[
            "clean"
        ]


def test_no_flicker_when_the_rate_divides_the_ripple():
    # common practice: 25 and 50 frames/s under 50 Hz hold still at any shutter
    assert calc("mains_flicker", mains_hz=50, capture_fps=25, exposure_s=1 / 173, ripple_depth=0.9)["clean"]
    assert not calc("mains_flicker", mains_hz=50, capture_fps=24, exposure_s=1 / 173, ripple_depth=0.9)[
        "clean"
    ]


@given(depth=st.floats(0.1, 20), stops=st.floats(0.01, 3))
def test_the_sun_lamp_falls_off_by_what_was_allowed(depth: float, stops: float):
    near = calc("sun_lamp_distance", depth_m=depth, falloff_stops=stops)["distance_m"]
    lux = [
        calc("light_falloff", intensity_cd=1000, distance_m=d)["illuminance_lx"] for d in (near, near + depth)
    ]
    assert math.log2(lux[0] / lux[1]) == pytest.approx(stops, rel=1e-6)


@given(v=st.floats(10, 1e5), a=st.floats(1, 1e4), b=st.floats(1, 1e4))
def test_haze_multiplies_along_the_way(v: float, a: float, b: float):
    through = [calc("haze", visibility_m=v, distance_m=d)["transmission"] for d in (a, b, a + b)]
    assert through[0] * through[1] == pytest.approx(through[2], rel=1e-9, abs=1e-300)


@given(rise=st.floats(0.01, 20), drop=st.floats(0, 10), reach=st.floats(0, 50))
def test_a_toss_lands_where_it_should(rise: float, drop: float, reach: float):
    found = calc("toss", rise_m=rise, delivery_fps=24, drop_m=drop, range_m=reach)
    up = math.sqrt(max(found["throw_speed_m_s"] ** 2 - (reach / found["flight_s"]) ** 2, 0))
    assert up * found["flight_s"] - 9.81 / 2 * found["flight_s"] ** 2 == pytest.approx(
        -drop, abs=1e-6 * (1 + rise + drop) + 1e-6
    )


@given(
    h=st.floats(0.2, 5),
    edge=st.floats(2, 50),
    tall=st.floats(0, 30),
    behind=st.floats(0, 200),
    f=st.floats(200, 6000),
)
def test_a_thing_at_its_greatest_height_just_touches_the_matte_line(
    h: float, edge: float, tall: float, behind: float, f: float
):
    setting = {
        "camera_height_m": h,
        "edge_distance_m": edge,
        "edge_height_m": tall,
        "thing_distance_m": edge + behind,
        "focal_length_px": f,
    }
    most = calc("matte_line_clearance", thing_height_m=0, **setting)["greatest_height_m"]
    assert calc("matte_line_clearance", thing_height_m=most, **setting)["clearance_px"] == pytest.approx(
        0, abs=1e-6 * f
    )


@given(st.floats(0.05, 0.95), st.floats(1, 20), st.floats(0.3, 3))
def test_camera_height_from_a_photograph_inverts_the_projection(lens: float, distance: float, person: float):
    f, horizon = 2000.0, 540.0
    foot, head = horizon + f * lens * 2 / distance, horizon + f * (lens * 2 - person) / distance
    assert calc(
        "camera_height_from_photograph",
        horizon_y_px=horizon,
        foot_y_px=foot,
        head_y_px=head,
        known_height_m=person,
    )["camera_height_m"] == pytest.approx(lens * 2)


def test_turning_to_the_sun_gives_the_wanted_light():
    wanted = {"sun_relative_azimuth_deg": 118, "sun_elevation_deg": 14, "tolerance_deg": 2}
    place = {"latitude_deg": 54.3, "longitude_deg": -3.2}
    windows = calc("turn_to_sun", date="2027-10-23", utc_offset_h=1, **place, **wanted)["windows"]
    assert len(windows) == 2
    for window in windows:
        start, end = (datetime.fromisoformat(window[key]) for key in ("start", "end"))
        for when in (start, end):
            assert abs(abs(calc("sun_position", time=when.isoformat(), **place)["elevation_deg"] - 14)) <= 2.2
        middle = calc("sun_position", time=(start + (end - start) / 2).isoformat(), **place)
        # from behind the camera (heading + 180°), 118° to camera right is counter-clockwise on the compass
        assert (window["camera_heading_deg"] + 180 - 118) % 360 == pytest.approx(
            middle["azimuth_deg"], abs=0.6
        )
    assert (
        calc(
            "turn_to_sun",
            date="2027-12-21",
            utc_offset_h=0,
            sun_relative_azimuth_deg=0,
            sun_elevation_deg=60,
            tolerance_deg=2,
            **place,
        )["windows"]
        == []
    )


def test_the_trades_choice_of_backing():
    ranking = calc(
        "backing_colour",
        colours=[{"hex": "#1c1c1e", "name": "coat"}],
        dark_subject=True,
        available=["white", "black", "plain"],
    )["ranking"]
    assert ranking[0]["backing"] == "white" and ranking[-1]["backing"] == "black"
    assert all(one["reasons"] for one in ranking)


# --- bad input

BAD = [
    ("tilt_for_ground_plane", {"lens_height_m": 0.05}, "lens_height_m", "higher than its focal length"),
    ("mains_flicker", {"exposure_s": 0.1}, "exposure_s", "at most one frame"),
    ("mirror_ball", {"x": 0.9, "y": 0.9}, "x", "must lie on the ball"),
    ("sun_position", {"time": "noon"}, "time", "must be ISO 8601"),
    ("sun_position", {"time": "2027-10-23T12:00:00"}, "time", "offset"),
    ("sun_position", {"time": "0001-01-01T12:00:00+00:00"}, "time", "between the years"),
    ("turn_to_sun", {"date": "tomorrow"}, "date", "must be like"),
    ("backing_size", {"subject_distance_m": None}, "subject_distance_m", "all three"),
    ("backing_size", {"subject_distance_m": 9}, "subject_distance_m", "in front of the backing"),
    (
        "backing_evenness",
        {"region": {"left_m": 1, "right_m": 0, "bottom_m": 0, "top_m": 1}},
        "region",
        "right beyond left",
    ),
    ("backing_evenness", {"lamps": []}, "lamps", "at least 1"),
    ("chroma_resolution", {"extraction_width_px": 4000}, "extraction_width_px", "at most what is recorded"),
    ("eased_move", {"total_turns": 7.5}, "total_turns", "must be whole"),
    ("eased_move", {"ease_in_frames": 12}, "ease_in_frames", "fit into the move"),
    ("hyperlapse", {"length_s": 0.01}, "length_s", "at least 2"),
    (
        "retime_ramp",
        {"keys": [{"output_s": 1, "speed": 1}, {"output_s": 1, "speed": 2}]},
        "keys",
        "after the one before",
    ),
    ("matte_line_clearance", {"thing_distance_m": 3}, "thing_distance_m", "at least 10 m"),
    ("crowd_rows", {"base_heights_m": [0.0]}, "base_heights_m", "each of the 3 rows"),
    ("eyeline", {"target_xyz_m": [0, 1.6, 5]}, "target_xyz_m", "must not be where"),
    ("nodal_parallax", {"far_m": 0.5}, "far_m", "not be nearer"),
    (
        "lens_from_photograph",
        {"vanishing_points": [[3000, 500], [2000, 520]]},
        "vanishing_points",
        "right angles",
    ),
    ("camera_height_from_photograph", {"head_y_px": 950}, "head_y_px", "above the foot"),
]


@pytest.mark.parametrize(("name", "change", "field", "words"), BAD)
def test_what_cannot_be_is_refused_at_its_field(name: str, change: dict, field: str, words: str):
    with pytest.raises(InputError) as caught:
        find(name).run({**CHECKS[name][0].inputs, **change})
    assert caught.value.problems[0].field.split(".")[0] == field
    assert words in str(caught.value)


def _numbers(value: object) -> list[float]:
    if isinstance(value, dict):
        return [n for one in value.values() for n in _numbers(one)]
    if isinstance(value, list):
        return [n for one in value for n in _numbers(one)]
    return [value] if isinstance(value, float) else []


@pytest.mark.parametrize("name", sorted(CHECKS))
@settings(max_examples=25)
@given(data=st.data())
def test_no_input_gives_a_stack_trace_or_a_nan(name: str, data: st.DataObject):
    """Every number field at extremes: the answer is finite, or an error names a field."""
    values = dict(CHECKS[name][0].inputs)
    extremes = st.sampled_from(
        [0, -1, 1e-9, 1e-3, 1, 89.999, 1e3, 1e6, 1e12, -1e12, math.nan, math.inf, "x", None, [], {}, True]
    )
    for field in data.draw(st.lists(st.sampled_from(sorted(values)), max_size=3, unique=True)):
        values[field] = data.draw(extremes)
    try:
        found = find(name).run(values)
    except InputError as error:
        assert error.problems and all(problem.message for problem in error.problems)
    else:
        assert all(math.isfinite(n) for n in _numbers(found)), found


# --- cards


def test_every_calculation_is_a_card_in_one_moment_of_the_work():
    placed = [name for names in cards.MOMENTS.values() for name in names]
    assert sorted(placed) == sorted(CALCULATIONS)


@pytest.mark.parametrize("name", sorted(CALCULATIONS))
def test_a_card_describes_every_input_and_starts_from_a_worked_example(name: str):
    entry = CALCULATIONS[name]
    fields = cards.fields_of(entry)
    assert fields and [field.name for field in fields] == list(entry.inputs.model_fields)
    titles = [field.title for field in fields]
    assert len(set(titles)) == len(titles), titles
    assert all(title[0].isupper() for title in titles)
    for field in fields:
        if field.kind in ("number", "integer"):
            assert field.low < field.high and field.marks
            assert [mark.value for mark in field.marks] == sorted(mark.value for mark in field.marks)
        if field.kind in ("choice", "choices"):
            assert field.choices
    entry.run(cards.example_of(entry))


def test_around_walks_the_engraved_steps_and_says_where_it_cannot_be():
    entry = CALCULATIONS["miniature_frame_rate"]
    rows = cards.around(entry, {"scale": 12, "delivery_fps": 24, "driver": "gravity"}, "scale")
    assert [value for value, _ in rows] == [3, 4, 5, 6, 8, 10, 12, 16, 20, 24, 25, 32, 35]
    assert rows[0][1]["capture_fps"] == pytest.approx(24 * math.sqrt(3))
    fine = cards.around(entry, {"scale": 12, "delivery_fps": 24, "driver": "gravity"}, "scale", points=41)
    assert len(fine) == 41 and fine[20][0] == pytest.approx(12)
    close = cards.around(
        CALCULATIONS["image_distance"], {"focal_length_mm": 35, "focus_distance_m": 0.05}, "focus_distance_m"
    )
    assert close[0][1] is None and close[-1][1] is not None
    for values, field, words in (
        ({"scale": 12}, "driver", "no number called"),
        ({"scale": "x"}, "scale", "must be a number"),
    ):
        with pytest.raises(InputError, match=words):
            cards.around(entry, values, field)
