"""Check values: for every calculation at least one worked example against something outside the project.

The tests hold the calculations to them, the documentation prints them, and a card starts from the first of
its own.
``kind`` is published, practice or derived; "from memory" in the source marks a published value that was not
looked up.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Check:
    """Inputs, what must come out (value and tolerance by path, lists by index: ``rows.0.height_px``), and
    whose value it is.
    """

    inputs: Mapping[str, Any]
    expected: Mapping[str, tuple[Any, float]]
    kind: str
    source: str


def _check(kind: str, source: str, inputs: Mapping[str, Any], **expected: tuple[Any, float]) -> Check:
    return Check(inputs, {name.replace("__", "."): value for name, value in expected.items()}, kind, source)


_HERO = {
    "focal_length_mm": 35,
    "f_number": 8,
    "focus_distance_m": 12,
    "gate_width_mm": 23.5,
    "gate_height_mm": 13.2,
    "recorded_width_px": 3840,
    "recorded_height_px": 2160,
    "distance_m": 12,
    "lens_height_m": 1.6,
    "capture_fps": 24,
    "iso": 800,
    "illuminance_lx": 960,
}
_MODEL = {
    **_HERO,
    "f_number": 16,
    "focus_distance_m": 1.161,
    "distance_m": 1,
    "lens_height_m": 0.35,
    "ground_height_m": 0.216667,
}

CHECKS: dict[str, tuple[Check, ...]] = {
    "angle_of_view": (
        _check(
            "derived",
            "2·atan(36/100); handbook tables print 39.6° (from memory)",
            {"focal_length_mm": 50, "gate_width_mm": 36, "gate_height_mm": 24},
            horizontal_deg=(39.60, 0.005),
            diagonal_deg=(46.8, 0.05),
        ),
    ),
    "frame_coverage": (
        _check(
            "derived",
            "similar triangles: 10 m · 36/50",
            {
                "focal_length_mm": 50,
                "gate_width_mm": 36,
                "gate_height_mm": 24,
                "distance_m": 10,
                "delivery_width_px": 1920,
            },
            width_m=(7.2, 1e-9),
            pixel_size_mm=(3.75, 1e-9),
        ),
    ),
    "matching_focal_length": (
        _check(
            "practice",
            "50 mm on a 36 mm gate is seen by about 33 mm on 23.5 mm",
            {"focal_length_mm": 50, "gate_width_mm": 36, "other_gate_width_mm": 23.5},
            focal_length_mm=(33, 0.5),
        ),
    ),
    "image_distance": (
        _check(
            "derived",
            "1/v = 1/f − 1/d",
            {"focal_length_mm": 35, "focus_distance_m": 3},
            image_distance_mm=(35.41, 0.005),
        ),
        _check(
            "derived",
            "1/v = 1/f − 1/d",
            {"focal_length_mm": 35, "focus_distance_m": 0.25},
            image_distance_mm=(40.70, 0.005),
        ),
    ),
    "depth_of_field": (
        _check(
            "published",
            "handbook depth tables (from memory); limits derived",
            {"focal_length_mm": 50, "f_number": 8, "circle_of_confusion_mm": 0.025, "focus_distance_m": 3},
            hyperfocal_m=(12.55, 0.005),
            near_m=(2.427, 0.0005),
            far_m=(3.927, 0.0005),
        ),
    ),
    "defocus_blur": (
        _check(
            "derived",
            "Gaussian lens equation",
            {
                "focal_length_mm": 35,
                "f_number": 4,
                "focus_distance_m": 3,
                "distance_m": 6,
                "gate_width_mm": 23.5,
                "delivery_width_px": 1920,
            },
            blur_px=(4.22, 0.005),
        ),
    ),
    "focus_passes": (
        _check(
            "derived",
            "each pass's far limit is the next one's near limit",
            {
                "focal_length_mm": 35,
                "f_number": 8,
                "near_m": 1,
                "far_m": 1.5,
                "gate_width_mm": 23.5,
                "delivery_width_px": 1920,
                "max_blur_px": 1,
            },
            count=(3, 0),
            passes__0__focus_distance_m=(1.0838, 0.0001),
        ),
    ),
    "tilt_for_ground_plane": (
        _check(
            "published",
            "Merklinger's table: f 90 mm, J 1 m → 5.16° (from memory)",
            {"focal_length_mm": 90, "lens_height_m": 1},
            tilt_deg=(5.16, 0.01),
        ),
    ),
    "diffraction": (
        _check(
            "published",
            "Born & Wolf §8.5, λ 0.55 µm",
            {"f_number": 16, "magnification": 0, "gate_width_mm": 23.5, "delivery_width_px": 1920},
            airy_diameter_um=(21.5, 0.05),
        ),
        _check(
            "published",
            "Born & Wolf §8.5, λ 0.55 µm",
            {"f_number": 22, "magnification": 0, "gate_width_mm": 23.5, "delivery_width_px": 1920},
            airy_diameter_um=(29.5, 0.05),
        ),
    ),
    "closeup_exposure": (
        _check(
            "published",
            "assistants' handbook table (from memory)",
            {"magnification": 0.25},
            factor=(1.5625, 1e-9),
            stops=(0.64, 0.005),
        ),
        _check(
            "published", "assistants' handbook table (from memory)", {"magnification": 1}, stops=(2, 1e-9)
        ),
    ),
    "miniature_frame_rate": (
        _check(
            "published",
            "similarity; handbook miniature tables (from memory)",
            {"scale": 16, "delivery_fps": 24, "driver": "gravity"},
            capture_fps=(96, 1e-9),
        ),
        _check(
            "published",
            "similarity; handbook miniature tables (from memory)",
            {"scale": 25, "delivery_fps": 24, "driver": "gravity"},
            capture_fps=(120, 1e-9),
        ),
        _check(
            "published",
            "similarity; handbook miniature tables (from memory)",
            {"scale": 4, "delivery_fps": 24, "driver": "gravity"},
            capture_fps=(48, 1e-9),
        ),
    ),
    "scale_match": (
        _check(
            "derived",
            "12 m and 1.6 m at 1:12, f/8",
            {"scale": 12, "distance_m": 12, "height_m": 1.6, "f_number": 8},
            distance_m=(1, 1e-9),
            height_m=(0.1333, 5e-5),
            f_number_for_equal_blur=(96, 1e-9),
        ),
    ),
    "exposure_light": (
        _check(
            "practice",
            "ISO 100, f/2.8, 1/50 s wants about 100 fc; ISO 2720 with C = 250 gives 91",
            {"f_number": 2.8, "iso": 100, "shutter_angle_deg": 180, "capture_fps": 25},
            illuminance_fc=(100, 12),
        ),
    ),
    "mired_shift": (
        _check("derived", "10⁶/5600 − 10⁶/3200", {"from_k": 3200, "to_k": 5600}, mired=(-133.9, 0.05)),
    ),
    "motion_blur": (
        _check(
            "practice",
            "a 180° shutter is open for half of the frame",
            {"image_speed_px_per_frame": 20, "shutter_angle_deg": 180},
            blur_px=(10, 1e-9),
        ),
    ),
    "mains_flicker": (
        _check(
            "derived",
            "|sin x/x| at 1/48 s under 50 Hz",
            {"mains_hz": 50, "capture_fps": 24, "exposure_s": 1 / 48, "ripple_depth": 0.5},
            amplitude=(0.0395 / 2, 5e-5),
        ),
        _check(
            "derived",
            "|sin x/x| at 1/120 s under 50 Hz",
            {"mains_hz": 50, "capture_fps": 24, "exposure_s": 1 / 120, "ripple_depth": 0.5},
            amplitude=(0.191 / 2, 5e-4),
        ),
        _check(
            "practice",
            "172.8° under 50 Hz at 24 frames/s",
            {"mains_hz": 50, "capture_fps": 24, "exposure_s": 0.02, "ripple_depth": 0.5},
            clean=(True, 0),
            clean_shutter_angles_deg__1=(172.8, 1e-6),
        ),
        _check(
            "practice",
            "144° under 60 Hz at 24 frames/s",
            {"mains_hz": 60, "capture_fps": 24, "exposure_s": 1 / 60, "ripple_depth": 0.5},
            clean=(True, 0),
            clean_shutter_angles_deg__1=(144, 1e-6),
        ),
    ),
    "pan_judder": (
        _check(
            "practice",
            "one frame width in 7 s at 24 frames/s is clean",
            {
                "angle_deg": 40,
                "duration_s": 7,
                "horizontal_view_deg": 40,
                "delivery_fps": 24,
                "delivery_width_px": 1920,
            },
            seconds_per_frame_width=(7, 1e-9),
            verdict=("holds", 0),
            px_per_frame=(11.43, 0.005),
        ),
    ),
    "sun_lamp_distance": (
        _check("derived", "inverse square", {"depth_m": 0.8, "falloff_stops": 0.1}, distance_m=(22.7, 0.05)),
        _check(
            "derived", "inverse square", {"depth_m": 0.8, "falloff_stops": 1 / 3}, distance_m=(6.53, 0.005)
        ),
    ),
    "light_falloff": (
        _check(
            "published",
            "inverse square (IES handbook, from memory): 18 000 cd at 3 m",
            {"intensity_cd": 18000, "distance_m": 3},
            illuminance_lx=(2000, 1e-9),
        ),
    ),
    "source_hardness": (
        _check(
            "published",
            "the sun: 1.3914 million km across at 149.6 million km (astronomical tables, from memory) is"
            " 0.53°",
            {"source_diameter_m": 1.3914, "source_distance_m": 149.6, "occluder_distance_m": 10},
            angular_diameter_deg=(0.533, 0.001),
            penumbra_m=(0.093, 0.0005),
        ),
    ),
    "sun_position": (
        _check(
            "published",
            "NREL/TP-560-34302, worked example: zenith 50.11162°, azimuth 194.34024°",
            {
                "latitude_deg": 39.742476,
                "longitude_deg": -105.1786,
                "time": "2003-10-17T12:30:30-07:00",
                "elevation_m": 1830.14,
                "pressure_hpa": 820,
                "temperature_c": 11,
            },
            azimuth_deg=(194.34024, 0.01),
            elevation_deg=(90 - 50.11162, 0.01),
        ),
    ),
    "turn_to_sun": (
        _check(
            "derived",
            "at the equinox on the equator the sun climbs 15° an hour: 4° of tolerance is 32 minutes",
            {
                "latitude_deg": 0,
                "longitude_deg": 0,
                "date": "2027-03-20",
                "utc_offset_h": 0,
                "sun_relative_azimuth_deg": 0,
                "sun_elevation_deg": 30,
                "tolerance_deg": 4,
            },
            windows__0__camera_heading_deg=(270, 1),
            windows__1__camera_heading_deg=(90, 1),
        ),
    ),
    "haze": (
        _check(
            "published",
            "Koschmieder (from memory)",
            {"visibility_m": 2000, "distance_m": 300, "scale": 12},
            opacity=(0.444, 0.0005),
            model_visibility_m=(166.7, 0.05),
        ),
    ),
    "parallax_speeds": (
        _check(
            "derived",
            "image speed goes as 1/distance",
            {"distances_m": [2, 4, 20], "camera_travel_m": 0.1, "focal_length_px": 2000},
            shift_px__0=(100, 1e-9),
            ratio_to_nearest__2=(0.1, 1e-9),
        ),
    ),
    "backing_size": (
        _check(
            "derived",
            "similar triangles: 5 m · 23.5/35, ten per cent each side",
            {
                "focal_length_mm": 35,
                "gate_width_mm": 23.5,
                "gate_height_mm": 13.2,
                "distance_m": 5,
                "margin": 0.1,
                "subject_width_m": 1,
                "subject_height_m": 1.8,
                "subject_distance_m": 2.5,
            },
            width_m=(4.029, 0.0005),
            envelope_width_m=(2.4, 1e-9),
        ),
    ),
    "backing_evenness": (
        _check(
            "derived",
            "one lamp 3 m in front of the middle: I/d² there, and cos⁴ with a cosine lamp at 45°",
            {
                "width_m": 6,
                "height_m": 0.02,
                "lamps": [
                    {"x_m": 0, "y_m": 0.01, "z_m": 3, "intensity_cd": 900, "aim_y_m": 0.01, "beam_deg": 120}
                ],
            },
            max_lx=(100, 0.01),
            min_lx=(25, 0.01),
            spread_stops=(2, 0.001),
        ),
    ),
    "spill": (
        _check(
            "published",
            "Howell's catalogue, C-11 form",
            {
                "backing_width_m": 3,
                "backing_height_m": 2,
                "distance_m": 2,
                "backing_illuminance_lx": 1000,
                "reflectance": 0.3,
            },
            configuration_factor=(0.3136, 5e-5),
            spill_lx=(94.1, 0.05),
        ),
        _check(
            "published",
            "Howell's catalogue, integrated at 90°",
            {
                "backing_width_m": 3,
                "backing_height_m": 2,
                "distance_m": 2,
                "backing_illuminance_lx": 1000,
                "reflectance": 0.3,
                "facing_deg": 90,
            },
            configuration_factor=(0.051, 0.0005),
        ),
    ),
    "backing_colour": (
        _check(
            "practice",
            "blue for green subjects",
            {
                "colours": [{"hex": "#2e6b34", "name": "leaves"}, {"hex": "#c68863", "name": "skin"}],
                "available": ["green", "blue"],
            },
            ranking__0__backing=("blue", 0),
        ),
        _check(
            "practice",
            "black for what glows",
            {"colours": [{"hex": "#ff9a2e", "name": "sparks"}], "glows": True},
            ranking__0__backing=("black", 0),
        ),
        _check(
            "practice",
            "green for skin and grey cloth",
            {
                "colours": [{"hex": "#c68863", "name": "skin"}, {"hex": "#6b6b70", "name": "coat"}],
                "available": ["green", "blue"],
            },
            ranking__0__backing=("green", 0),
        ),
    ),
    "chroma_resolution": (
        _check(
            "published",
            "ITU-R BT.709 4:2:2 (from memory)",
            {
                "sampling": "4:2:2",
                "recorded_width_px": 1920,
                "recorded_height_px": 1080,
                "delivery_width_px": 1920,
                "delivery_height_px": 1080,
            },
            horizontal_pitch_px=(2, 1e-9),
            vertical_pitch_px=(1, 1e-9),
        ),
        _check(
            "derived",
            "4:2:0 at twice the delivery is 4:4:4 in it",
            {
                "sampling": "4:2:0",
                "recorded_width_px": 3840,
                "recorded_height_px": 2160,
                "delivery_width_px": 1920,
                "delivery_height_px": 1080,
            },
            horizontal_pitch_px=(1, 1e-9),
            vertical_pitch_px=(1, 1e-9),
        ),
    ),
    "data_rate": (
        _check(
            "published",
            "uncompressed 1080p24 10-bit 4:2:2 is 995 Mbit/s (SMPTE ST 274 active picture, from memory)",
            {"width_px": 1920, "height_px": 1080, "bit_depth": 10, "sampling": "4:2:2", "fps": 24},
            megabits_per_s=(995.3, 0.05),
            gigabytes_per_minute=(7.46, 0.005),
        ),
    ),
    "hand_matte_hours": (
        _check(
            "practice",
            "48 frames, a key every 4, 5 minutes, 2 shapes: 12 keys, 2 hours",
            {"frames": 48, "key_every": 4, "minutes_per_key": 5, "shapes": 2},
            keys=(12, 0),
            hours=(2, 1e-9),
        ),
    ),
    "stop_motion_hours": (
        _check(
            "practice",
            "2.5 s of film an hour",
            {"length_s": 7, "delivery_fps": 24, "hold": "twos"},
            exposures=(84, 0),
            hours=(2.8, 1e-9),
        ),
    ),
    "eased_move": (
        _check(
            "practice",
            "1 … 8, 8 … 1 is 72 turns over 16 frames",
            {"frames": 16, "total_turns": 72, "ease_in_frames": 8, "ease_out_frames": 8, "mm_per_turn": 0.4},
            turns_per_frame__0=(1, 0),
            turns_per_frame__7=(8, 0),
            turns_per_frame__15=(1, 0),
            travel_mm=(28.8, 1e-9),
        ),
    ),
    "hyperlapse": (
        _check(
            "practice",
            "6 s at 25 frames/s is 150 photographs",
            {
                "length_s": 6,
                "delivery_fps": 25,
                "path_m": 29.8,
                "interval_s": 4,
                "photo_width_px": 4032,
                "delivery_width_px": 1920,
                "jitter_px": 100,
            },
            photographs=(150, 0),
            step_m=(0.2, 1e-9),
            spare_px=(956, 1e-9),
        ),
    ),
    "retime_ramp": (
        _check(
            "derived",
            "half speed for 2 s, then up to full in 1 s: 1 + 0.75 s",
            {
                "keys": [
                    {"output_s": 0, "speed": 0.5},
                    {"output_s": 2, "speed": 0.5},
                    {"output_s": 3, "speed": 1},
                ],
                "delivery_fps": 24,
            },
            source_s=(1.75, 1e-9),
            capture_fps_needed=(48, 1e-9),
        ),
    ),
    "toss": (
        _check(
            "published",
            "free fall: 2·√(2·0.5/9.81)",
            {"rise_m": 0.5, "delivery_fps": 24},
            flight_s=(0.6386, 5e-5),
            throw_speed_m_s=(3.132, 0.0005),
        ),
    ),
    "matte_line_clearance": (
        _check(
            "derived",
            "similar triangles: 3 m at 10 m hides 4.4 m at 20 m from 1.6 m",
            {
                "camera_height_m": 1.6,
                "edge_distance_m": 10,
                "edge_height_m": 3,
                "thing_distance_m": 20,
                "thing_height_m": 4,
                "focal_length_px": 2000,
            },
            greatest_height_m=(4.4, 1e-9),
            clearance_px=(40, 1e-9),
        ),
    ),
    "crowd_rows": (
        _check(
            "practice",
            "matched low camera: the feet of every row of a level crowd stand lens height below the horizon,"
            " in its own scale",
            {
                "distances_m": [5, 10, 20],
                "person_height_m": 1.6,
                "camera_height_m": 0.8,
                "focal_length_px": 2000,
                "filming_distance_m": 5,
            },
            rows__0__height_px=(640, 1e-9),
            rows__1__feet_below_horizon_px=(160, 1e-9),
            rows__2__enlargement=(0.25, 1e-9),
            rows__0__tilt_when_filmed_deg=(0, 1e-9),
        ),
    ),
    "eyeline": (
        _check(
            "derived",
            "a target 3 across, 4 away, level",
            {"actor_xyz_m": [0, 1.6, 5], "target_xyz_m": [3, 1.6, 1], "mark_distance_m": 2.5},
            mark_xyz_m__0=(1.5, 1e-9),
            mark_height_m=(1.6, 1e-9),
            azimuth_deg=(36.87, 0.005),
            elevation_deg=(0, 1e-9),
        ),
    ),
    "nodal_parallax": (
        _check(
            "derived",
            "30 mm off, 90° of pan, 1 m against far away",
            {"pupil_offset_mm": 30, "pan_deg": 90, "near_m": 1, "far_m": 1e6, "focal_length_px": 2000},
            error_px=(60, 0.001),
        ),
    ),
    "foreground_miniature": (
        _check(
            "derived",
            "everything ÷ s about the entrance pupil",
            {
                "scale": 10,
                "full_size_distance_m": 20,
                "full_size_height_m": 8,
                "camera_height_m": 1.6,
                "focal_length_px": 2000,
            },
            model_distance_m=(2, 1e-9),
            model_height_m=(0.8, 1e-9),
            model_base_below_lens_m=(0.16, 1e-9),
            error_per_mm_px=(1, 1e-9),
        ),
    ),
    "mirror_ball": (
        _check(
            "derived",
            "mirror law; method of Debevec 1998",
            {"x": 0.3, "y": 0.4},
            azimuth_deg=(46.10, 0.005),
            elevation_deg=(43.85, 0.005),
        ),
    ),
    "shadow_stick": (
        _check(
            "derived",
            "a stick as long as its shadow",
            {"stick_m": 1, "shadow_m": 1, "shadow_direction_deg": 30},
            elevation_deg=(45, 1e-9),
            azimuth_deg=(-150, 1e-9),
        ),
    ),
    "lens_from_photograph": (
        _check(
            "published",
            "method of Caprile & Torre 1990",
            {
                "width_px": 1920,
                "height_px": 1080,
                "vanishing_points": [[3000, 500], [-1500, 520]],
                "gate_width_mm": 36,
            },
            focal_length_px=(2240, 0.5),
            focal_length_mm=(42, 0.05),
            tilt_deg=(-0.79, 0.005),
        ),
    ),
    "camera_height_from_photograph": (
        _check(
            "derived",
            "the horizon cuts everything at lens height",
            {"horizon_y_px": 500, "foot_y_px": 900, "head_y_px": 450, "known_height_m": 1.8},
            camera_height_m=(1.6, 1e-9),
        ),
    ),
    "averaged_plate": (
        _check(
            "derived",
            "photon statistics: sixteen frames halve the noise twice",
            {"sigma": 4, "frames": 16},
            sigma=(1, 1e-9),
            gain=(4, 1e-9),
        ),
    ),
    "grain": (
        _check(
            "derived",
            "two stops of ISO double the noise",
            {"iso": 1600, "reference_iso": 400, "gate_width_mm": 23.5, "reference_gate_width_mm": 23.5},
            noise_ratio=(2, 1e-9),
        ),
    ),
    "placing": (
        _check(
            "practice",
            "on a 1:12 model with ground contacts at 1.0 and 1.5 m one pixel is about 1 mm of camera height",
            {
                "hero": _HERO,
                "layer": {
                    "name": "Mill",
                    "kind": "model",
                    "scale": 12,
                    "near_m": 12,
                    "depth_m": 6,
                    "width_m": 7,
                    "height_m": 2.5,
                },
                "set_up": _MODEL,
            },
            placings__1__plus=(0.001, 0.0001),
        ),
    ),
}
