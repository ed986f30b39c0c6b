"""Every calculation against something outside the project. The source stands beside each value.

"from memory" marks a published value that was not looked up.
"""

import math

import pytest

from jungoptic.core import handbook
from jungoptic.core.calculation import CALCULATIONS, find
from jungoptic.core.errors import InputError
from jungoptic.core.kit.steps import STOPS, exact_stop, stop_name
from jungoptic.core.sources import SOURCES

assert handbook


def calc(name: str, **values: object) -> dict:
    return find(name).run(values)


def test_angle_of_view_of_a_normal_lens():
    # derived: 2·atan(36/100) = 39.598°; handbook angle-of-view tables print 39.6° (from memory)
    found = calc("angle_of_view", focal_length_mm=50, gate_width_mm=36, gate_height_mm=24)
    assert found["horizontal_deg"] == pytest.approx(39.60, abs=0.005)
    # ISO 517-style table value for 50 mm on 24 × 36: 46.8° across the diagonal (from memory)
    assert found["diagonal_deg"] == pytest.approx(46.8, abs=0.05)
    assert found["vertical_deg"] == pytest.approx(27.0, abs=0.05)


def test_hyperfocal_and_depth_of_field_of_the_handbook_tables():
    # handbook depth tables, 50 mm, f/8, c 0.025 mm: hyperfocal 12.55 m (from memory); limits derived from it
    found = calc(
        "depth_of_field", focal_length_mm=50, f_number=8, circle_of_confusion_mm=0.025, focus_distance_m=3
    )
    assert found["hyperfocal_m"] == pytest.approx(12.55, abs=0.005)
    assert found["near_m"] == pytest.approx(2.427, abs=0.0005)
    assert found["far_m"] == pytest.approx(3.927, abs=0.0005)


def test_depth_reaches_infinity_at_the_hyperfocal_distance_and_begins_at_half_of_it():
    # handbook rule: focused at the hyperfocal distance it is sharp from half of it to infinity (from memory)
    hyper = calc(
        "depth_of_field", focal_length_mm=50, f_number=8, circle_of_confusion_mm=0.025, focus_distance_m=3
    )["hyperfocal_m"]
    found = calc(
        "depth_of_field", focal_length_mm=50, f_number=8, circle_of_confusion_mm=0.025, focus_distance_m=hyper
    )
    assert found["far_m"] is None
    assert found["near_m"] == pytest.approx(hyper / 2, rel=1e-3)


def test_blur_disc_worked_example():
    # derived from the Gaussian lens equation (Hecht, Optics, ch. 5)
    setting = {"gate_width_mm": 23.5, "delivery_width_px": 1920}
    hero = calc("defocus_blur", focal_length_mm=35, f_number=4, focus_distance_m=3, distance_m=6, **setting)
    model = calc(
        "defocus_blur", focal_length_mm=35, f_number=4, focus_distance_m=3 / 12, distance_m=6 / 12, **setting
    )
    stopped = calc(
        "defocus_blur", focal_length_mm=35, f_number=48, focus_distance_m=3 / 12, distance_m=6 / 12, **setting
    )
    assert hero["blur_px"] == pytest.approx(4.22, abs=0.005)
    assert model["blur_px"] == pytest.approx(58.2, abs=0.05)
    assert stopped["blur_px"] == pytest.approx(4.85, abs=0.005)
    acts = [
        calc("image_distance", focal_length_mm=35, focus_distance_m=d)["image_distance_mm"]
        for d in (3, 3 / 12)
    ]
    assert stopped["blur_px"] * acts[0] / acts[1] == pytest.approx(4.22, abs=0.005)


def test_frame_rates_of_the_miniature_tables():
    # similarity: rate × √s; the handbook's miniature tables print 48, 96 and 120 for 1:4, 1:16 and 1:25 (from
    # memory)
    for scale, rate in ((4, 48), (16, 96), (25, 120)):
        assert calc("miniature_frame_rate", scale=scale, delivery_fps=24, driver="gravity")[
            "capture_fps"
        ] == pytest.approx(rate)


def test_froude_number_is_the_same_on_the_model():
    # White, Fluid Mechanics, ch. 5 (from memory): v²/(g·L) is kept
    found = calc("miniature_frame_rate", scale=12, delivery_fps=24, driver="gravity", full_size_speed_m_s=3.0)
    assert found["model_speed_m_s"] ** 2 / (9.81 / 12) == pytest.approx(3.0**2 / 9.81)


def test_a_fall_looks_full_size_when_the_model_is_filmed_at_the_gravity_rate():
    # free fall, any physics text: t = √(2h/g). A fall of 12 m on screen must take as long from a 1 m model
    # drop.
    full_s = math.sqrt(2 * 12 / 9.81)
    rate = calc("miniature_frame_rate", scale=12, delivery_fps=24, driver="gravity")["capture_fps"]
    shown_s = math.sqrt(2 * 1 / 9.81) * rate / 24
    assert shown_s == pytest.approx(full_s)


def test_a_camera_that_cannot_reach_the_rate_is_said_to_look_too_fast():
    found = calc("miniature_frame_rate", scale=12, delivery_fps=24, driver="gravity", camera_fps=60)
    assert found["speed_ratio"] == pytest.approx(1.39, abs=0.005)  # √12·24/60


def test_set_speed_and_fire():
    # scaling of a speed that we set: v·(capture/delivery)/s (common practice)
    found = calc(
        "miniature_frame_rate",
        scale=8,
        delivery_fps=24,
        driver="set_speed",
        full_size_speed_m_s=10,
        camera_fps=48,
    )
    assert found["model_speed_m_s"] == pytest.approx(2.5)
    # fire: between √s and s times the rate, test and choose (common practice)
    fire = calc("miniature_frame_rate", scale=4, delivery_fps=24, driver="fire")
    assert (fire["capture_fps"], fire["capture_fps_high"]) == (pytest.approx(48), pytest.approx(96))
    assert (
        calc("miniature_frame_rate", scale=4, delivery_fps=24, driver="fire", camera_fps=60)["speed_ratio"]
        == 1.0
    )


def test_airy_disc():
    # Born & Wolf §8.5, Hecht §10.2: first dark ring at 1.22 λN from the middle; λ 0.55 µm
    for stop, diameter in ((16, 21.5), (22, 29.5)):
        found = calc(
            "diffraction", f_number=stop, magnification=0, gate_width_mm=23.5, delivery_width_px=1920
        )
        assert found["airy_diameter_um"] == pytest.approx(diameter, abs=0.05)


def test_airy_radius_is_the_first_zero_of_the_bessel_function():
    # the 1.22 is j₁,₁/π, the first zero of J₁ (Abramowitz & Stegun, table 9.5: 3.8317)
    found = calc("diffraction", f_number=10, magnification=0, gate_width_mm=36, delivery_width_px=1920)
    assert found["airy_diameter_um"] / 2 == pytest.approx(3.8317 / math.pi * 0.55 * 10, rel=5e-4)


def test_closeup_factor():
    # camera assistants' handbook table (from memory): m 1/4 → 1.5625, 0.64 stop; life size → 2 stops
    quarter, life = calc("closeup_exposure", magnification=0.25), calc("closeup_exposure", magnification=1)
    assert quarter["factor"] == pytest.approx(1.5625)
    assert quarter["stops"] == pytest.approx(0.64, abs=0.005)
    assert life["stops"] == pytest.approx(2.0)


def test_mired_shift():
    # CIE reciprocal megakelvin; correction filters from tungsten to daylight are listed at about −131 to −137
    # (common practice)
    assert calc("mired_shift", from_k=3200, to_k=5600)["mired"] == pytest.approx(-133.9, abs=0.05)


def test_image_distance_of_a_lens_that_focuses_as_a_unit():
    # derived: 1/v = 1/f − 1/d
    for distance, acts in ((3, 35.41), (0.25, 40.70)):
        assert calc("image_distance", focal_length_mm=35, focus_distance_m=distance)[
            "image_distance_mm"
        ] == pytest.approx(acts, abs=0.005)
    assert (
        calc("image_distance", focal_length_mm=35, focus_distance_m=0.25, focusing="constant_view")[
            "breathing_percent"
        ]
        == 0
    )


def test_exposure_rule_of_thumb():
    # common practice: ISO 100, f/2.8, 1/50 s wants about 100 footcandles; ISO 2720 with C = 250 gives 91
    found = calc("exposure_light", f_number=2.8, iso=100, shutter_angle_deg=180, capture_fps=25)
    assert found["exposure_time_s"] == pytest.approx(1 / 50)
    assert found["illuminance_fc"] == pytest.approx(100, rel=0.12)
    # NIST SP 811, appendix B (from memory): 1 fc = 1.076 391 E+01 lx
    assert found["illuminance_lx"] / found["illuminance_fc"] == pytest.approx(10.76391, rel=1e-6)


def test_exposure_against_the_sunny_sixteen_rule():
    # common practice: full sun (about 100 000 lx less what the meter's cosine takes, 80 000 is usual), f/16
    # at 1/ISO
    found = calc("exposure_light", f_number=16, iso=100, shutter_angle_deg=360, capture_fps=100)
    assert found["illuminance_lx"] == pytest.approx(80000, rel=0.25)


def test_frame_coverage_by_similar_triangles():
    # derived: a 36 mm gate behind 50 mm sees 7.2 m at 10 m; a delivered pixel of 1920 is 3.75 mm of it
    found = calc(
        "frame_coverage",
        focal_length_mm=50,
        gate_width_mm=36,
        gate_height_mm=24,
        distance_m=10,
        delivery_width_px=1920,
    )
    assert found["width_m"] == pytest.approx(7.2)
    assert found["height_m"] == pytest.approx(4.8)
    assert found["pixel_size_mm"] == pytest.approx(3.75)
    assert found["focal_length_px"] == pytest.approx(50 / 36 * 1920)


def test_the_same_view_on_another_gate():
    # common practice: 50 mm on 36 mm wide is seen by about 33 mm on 23.5 mm (crop 1.53)
    found = calc("matching_focal_length", focal_length_mm=50, gate_width_mm=36, other_gate_width_mm=23.5)
    assert found["focal_length_mm"] == pytest.approx(32.6, abs=0.05)


def test_scale_match_divides_and_multiplies():
    found = calc("scale_match", scale=12, distance_m=12, height_m=1.6, travel_m=3, f_number=8)
    assert found == {
        "distance_m": pytest.approx(1.0),
        "height_m": pytest.approx(0.1333, abs=5e-5),
        "travel_m": pytest.approx(0.25),
        "f_number_for_equal_blur": 96,
    }


def test_motion_blur_at_180_degrees_is_half_the_travel():
    # common practice: a 180° shutter is open for half of the frame
    assert calc("motion_blur", image_speed_px_per_frame=20, shutter_angle_deg=180)[
        "blur_px"
    ] == pytest.approx(10)


def test_focus_passes_cover_everything_and_no_pass_is_spare():
    setting = {"focal_length_mm": 35, "gate_width_mm": 23.5, "delivery_width_px": 1920}
    found = calc("focus_passes", f_number=8, near_m=1.0, far_m=1.5, max_blur_px=1, **setting)
    passes = found["passes"]
    assert found["count"] == len(passes) == 3
    assert passes[0]["near_m"] == 1.0
    assert passes[-1]["far_m"] >= 1.5 > passes[-2]["far_m"]
    for one in passes:
        for end in ("near_m", "far_m"):
            blur = calc(
                "defocus_blur",
                f_number=8,
                focus_distance_m=one["focus_distance_m"],
                distance_m=one[end],
                **setting,
            )["blur_px"]
            assert blur == pytest.approx(1.0, rel=1e-6)
    # domain approximation: one pass covers about 2·N·c/f² of 1/d
    share = 2 * 8 * (23.5 / 1920) / 35**2 * 1000
    assert 1 / passes[0]["near_m"] - 1 / passes[0]["far_m"] == pytest.approx(share, rel=0.05)


def test_engraved_stops_stand_for_their_exact_values():
    # ISO 517 (from memory): marked stops are rounded powers of √2; f/22 is 22.63
    assert exact_stop(22) == pytest.approx(22.63, abs=0.005)
    assert exact_stop(5.6) == pytest.approx(5.657, abs=0.0005)
    assert stop_name(exact_stop(11)) == "11"
    for name, exact in STOPS:
        assert float(name) == pytest.approx(exact, rel=0.05)


def test_every_calculation_cites_sources_that_stand():
    assert len(CALCULATIONS) >= 14
    for entry in CALCULATIONS.values():
        assert entry.sources
        assert all(key in SOURCES for key in entry.sources)
        assert entry.question.endswith("?")


@pytest.mark.parametrize(
    ("name", "values", "field", "words"),
    [
        (
            "angle_of_view",
            {"focal_length_mm": -5, "gate_width_mm": 36, "gate_height_mm": 24},
            "focal_length_mm",
            "more than 0 mm",
        ),
        (
            "angle_of_view",
            {"focal_length_mm": "wide", "gate_width_mm": 36, "gate_height_mm": 24},
            "focal_length_mm",
            "must be a number of mm",
        ),
        (
            "angle_of_view",
            {"focal_length_mm": math.nan, "gate_width_mm": 36, "gate_height_mm": 24},
            "focal_length_mm",
            "must be a number",
        ),
        (
            "angle_of_view",
            {"focal_length_mm": math.inf, "gate_width_mm": 36, "gate_height_mm": 24},
            "focal_length_mm",
            "number",
        ),
        ("angle_of_view", {"gate_width_mm": 36, "gate_height_mm": 24}, "focal_length_mm", "missing"),
        (
            "angle_of_view",
            {"focal_length_mm": 35, "gate_width_mm": 36, "gate_height_mm": 24, "zoom": 2},
            "zoom",
            "no field called",
        ),
        ("scale_match", {"scale": 0, "distance_m": 1, "height_m": 1}, "scale", "more than 0"),
        (
            "image_distance",
            {"focal_length_mm": 50, "focus_distance_m": 0.05},
            "focus_distance_m",
            "more than the focal length, 50 mm",
        ),
        (
            "miniature_frame_rate",
            {"scale": 12, "delivery_fps": 24, "driver": "wind"},
            "driver",
            "'gravity', 'set_speed', 'fire' or 'still'",
        ),
        (
            "miniature_frame_rate",
            {"scale": 0.5, "delivery_fps": 24, "driver": "fire"},
            "scale",
            "at least 1 for fire",
        ),
        (
            "focus_passes",
            {
                "focal_length_mm": 35,
                "f_number": 2,
                "near_m": 2,
                "far_m": 1,
                "gate_width_mm": 23.5,
                "delivery_width_px": 1920,
                "max_blur_px": 1,
            },
            "far_m",
            "must not be nearer",
        ),
        (
            "focus_passes",
            {
                "focal_length_mm": 1000,
                "f_number": 1,
                "near_m": 1.1,
                "far_m": 1e6,
                "gate_width_mm": 5,
                "delivery_width_px": 8000,
                "max_blur_px": 0.01,
            },
            "max_blur_px",
            "close the stop",
        ),
    ],
)
def test_bad_input_names_field_limit_and_reason(name: str, values: dict, field: str, words: str):
    with pytest.raises(InputError) as caught:
        find(name).run(values)
    assert [problem.field for problem in caught.value.problems] == [field]
    assert words in caught.value.problems[0].message


def test_an_unknown_calculation_is_answered_with_near_ones():
    with pytest.raises(InputError, match="angle_of_view"):
        find("angle_of_veiw")
