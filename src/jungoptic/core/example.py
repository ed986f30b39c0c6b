"""One shot to try things with: a hero sea plate, a mill at 1:12 on its table, an actor before a green sheet.

The examples in the docstrings use it.
"""

from .kit import Camera, Kit, Lamp, Lens, RecordingMode
from .light import Backing, PlacedLamp
from .match import Delivery, Layer, Member, SetUp, ShotPlan, Stack

__all__ = ["ACTOR", "DELIVERY", "HERO", "KIT", "MILL", "MODEL", "ON_GREEN", "STACK"]

DELIVERY = Delivery(width_px=1920, height_px=1080, frame_rate_fps=24)

HERO = SetUp(
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

MODEL = HERO.but(
    focus_distance_m=1,
    distance_m=1,
    lens_height_m=0.35,
    illuminance_lx=1050,
    light_k=3200,
    white_balance_k=3200,
)
"""The mill's set-up as it was first put up: too high for its scale, at the hero's stop."""

MILL = Layer(
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

ACTOR = Layer(
    name="Actor",
    kind="live_element",
    combine="key",
    near_m=5,
    width_m=0.6,
    height_m=1.7,
    contact="ground",
    kept=("contact_shadow",),
)

_PANEL = {"intensity_cd": 900, "beam_deg": 110, "area_m2": 0.36, "warmest_k": 2800, "coolest_k": 6500}
_CLOSEST_M = {18: 0.25, 25: 0.25, 35: 0.30, 50: 0.40, 85: 0.85}
KIT = Kit(
    camera=Camera(
        name="Camera A",
        lowest_iso=100,
        highest_iso=6400,
        modes=tuple(
            RecordingMode(
                name=f"{width} × {height}",
                recorded_width_px=width,
                recorded_height_px=height,
                gate_width_mm=23.5,
                gate_height_mm=13.2,
                highest_fps=fps,
            )
            for width, height, fps in ((3840, 2160, 60), (1920, 1080, 120))
        ),
    ),
    lenses=(
        *(
            Lens(
                name=f"{focal_length_mm} mm",
                focal_length_mm=focal_length_mm,
                widest_f_number=2,
                smallest_f_number=22,
                closest_focus_m=closest_m,
            )
            for focal_length_mm, closest_m in _CLOSEST_M.items()
        ),
        Lens(
            name="100 mm close-up",
            focal_length_mm=100,
            widest_f_number=2.8,
            smallest_f_number=32,
            closest_focus_m=0.3,
        ),
    ),
    lamps=(
        Lamp(name="panel 1", **_PANEL),
        Lamp(name="panel 2", **_PANEL),
        Lamp(name="spot", intensity_cd=18000, beam_deg=25, warmest_k=3200, coolest_k=3200),
    ),
    lowest_lens_m=0.35,
    highest_lens_m=1.75,
)

ON_GREEN = HERO.but(
    distance_m=5,
    focus_distance_m=5,
    references=("ball", "chart", "tape"),
    lamps=(
        *(
            PlacedLamp(
                name=f"panel {number}",
                role="backing",
                intensity_cd=900,
                face_m=0.6,
                across_m=across_m,
                height_m=2.4,
                behind_m=0.4,
                aim_across_m=across_m / 2,
                aim_height_m=1.2,
                aim_behind_m=2.5,
            )
            for number, across_m in enumerate((-1.6, 1.6), 1)
        ),
        PlacedLamp(
            name="spot",
            role="key",
            intensity_cd=18000,
            beam_deg=25,
            face_m=0.1,
            across_m=2.2,
            height_m=3.4,
            behind_m=-2.6,
            aim_height_m=1.2,
        ),
    ),
    backing=Backing(behind_m=2.5, width_m=4, height_m=3),
)
"""The actor's set-up before the green sheet."""

STACK = Stack(
    ShotPlan(length_frames=96),
    DELIVERY,
    HERO,
    (
        Member(Layer(name="Sea", near_m=12, width_m=20, height_m=6, fills_frame=True), HERO, 1, is_hero=True),
        Member(MILL, MODEL, 2),
        Member(ACTOR, ON_GREEN, 3),
    ),
)
