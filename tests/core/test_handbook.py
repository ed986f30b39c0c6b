"""Every calculation of the handbook: its check values, reference libraries, properties, and every door's bad
input.
"""

import itertools
import math

import colour
import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy import integrate

from jungoptic.core import handbook
from jungoptic.core.calculation import CALCULATIONS, find
from jungoptic.core.handbook.checks import CHECKS
from jungoptic.core.light.difference import ciede2000, lab_of_srgb

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
    from jungoptic.core.optics.projection import rotation

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


def test_the_trades_choice_of_backing():
    ranking = calc(
        "backing_colour",
        colours=[{"hex": "#1c1c1e", "name": "coat"}],
        dark_subject=True,
        available=["white", "black", "plain"],
    )["ranking"]
    assert ranking[0]["backing"] == "white" and ranking[-1]["backing"] == "black"
    assert all(one["reasons"] for one in ranking)
