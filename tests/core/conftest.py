"""The demo's first shot as core records: hero sea plate, 1:12 mill, the production's kit."""

import pytest

from jungoptic.core.kit.records import Camera, Kit, Lamp, Lens, RecordingMode
from jungoptic.core.light.placed import Backing, PlacedLamp
from jungoptic.core.match import Delivery, Layer, SetUp


@pytest.fixture
def delivery() -> Delivery:
    return Delivery(width_px=1920, height_px=1080, frame_rate_fps=24)


@pytest.fixture
def hero() -> SetUp:
    return SetUp(
        focal_length_mm=35,
        f_number=8,
        focus_distance_m=12,
        gate_width_mm=23.5,
        gate_height_mm=13.2,
        recorded_width_px=3840,
        recorded_height_px=2160,
        distance_m=12,
        lens_height_m=1.6,
        capture_fps=24,
        iso=800,
        illuminance_lx=960,
        key_azimuth_deg=118,
        key_elevation_deg=14,
    )


@pytest.fixture
def model(hero: SetUp) -> SetUp:
    """The mill as it was first set up."""
    return hero.but(
        focus_distance_m=1,
        distance_m=1,
        lens_height_m=0.35,
        illuminance_lx=1050,
        light_k=3200,
        white_balance_k=3200,
    )


@pytest.fixture
def mill() -> Layer:
    return Layer(
        name="Mill",
        kind="model",
        scale=12,
        near_m=12,
        depth_m=6,
        width_m=7,
        height_m=2.5,
        driver="gravity",
        speed_m_s=2,
    )


@pytest.fixture
def kit() -> Kit:
    def mode(width: int, height: int, fps: float) -> RecordingMode:
        return RecordingMode(
            name=f"{width} × {height}",
            recorded_width_px=width,
            recorded_height_px=height,
            gate_width_mm=23.5,
            gate_height_mm=13.2,
            highest_fps=fps,
        )

    camera = Camera(
        name="Camera A", lowest_iso=100, highest_iso=6400, modes=(mode(3840, 2160, 60), mode(1920, 1080, 120))
    )
    closest = {18: 0.25, 25: 0.25, 35: 0.30, 50: 0.40, 85: 0.85}
    lenses = [
        Lens(name=f"{f} mm", focal_length_mm=f, widest_f_number=2, smallest_f_number=22, closest_focus_m=c)
        for f, c in closest.items()
    ]
    lenses.append(
        Lens(
            name="100 mm close-up",
            focal_length_mm=100,
            widest_f_number=2.8,
            smallest_f_number=32,
            closest_focus_m=0.3,
        )
    )
    panel = {"intensity_cd": 900, "beam_deg": 110, "area_m2": 0.36, "warmest_k": 2800, "coolest_k": 6500}
    lamps = (
        Lamp(name="panel 1", **panel),
        Lamp(name="panel 2", **panel),
        Lamp(name="spot", intensity_cd=18000, beam_deg=25, warmest_k=3200, coolest_k=3200),
    )
    return Kit(camera=camera, lenses=tuple(lenses), lamps=lamps, lowest_lens_m=0.35, highest_lens_m=1.75)


@pytest.fixture
def actor() -> Layer:
    return Layer(
        name="Actor",
        kind="live_element",
        combine="key",
        near_m=5,
        width_m=0.6,
        height_m=1.7,
        contact="ground",
        kept=("contact_shadow",),
    )


@pytest.fixture
def on_green(hero: SetUp) -> SetUp:
    lamps = tuple(
        PlacedLamp(
            name=f"panel {n}",
            role="backing",
            intensity_cd=900,
            face_m=0.6,
            across_m=x,
            height_m=2.4,
            behind_m=0.4,
            aim_across_m=x / 2,
            aim_height_m=1.2,
            aim_behind_m=2.5,
        )
        for n, x in enumerate((-1.6, 1.6))
    )
    key = PlacedLamp(
        name="spot",
        role="key",
        intensity_cd=18000,
        beam_deg=25,
        face_m=0.1,
        across_m=2.2,
        height_m=3.4,
        behind_m=-2.6,
        aim_height_m=1.2,
    )
    return hero.but(
        distance_m=5,
        focus_distance_m=5,
        references=("ball", "chart", "tape"),
        lamps=(*lamps, key),
        backing=Backing(behind_m=2.5, width_m=4, height_m=3),
    )
