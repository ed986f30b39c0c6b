"""What the production owns: cameras and their recording modes, lenses, lamps, support, and their steps."""

from .abilities import (
    FilmedFrame,
    LensAbility,
    ModelWants,
    RecordingAbility,
    card_hours,
    cropped_mm,
    lens_ability,
    model_wants,
    recording_ability,
)
from .gates import GATES, Gate, recorded_gate_mm
from .lamp import Lamp, available_light_lx, gelled, lamp_of_reading, most_light_lx
from .lens import Lens, fitting_lens
from .put_on import with_close_up, with_converter, with_tube
from .records import Camera, Kit, RecordingMode, check_against_kit
from .steps import (
    FRAME_RATES_FPS,
    ISO_STEPS,
    STOPS,
    exact_rate_fps,
    exact_stop,
    nearest_stop,
    rate_fraction,
    rate_name,
    rates_with,
    stacked_stops,
    stop_name,
)

__all__ = [
    "FRAME_RATES_FPS",
    "GATES",
    "ISO_STEPS",
    "STOPS",
    "Camera",
    "FilmedFrame",
    "Gate",
    "Kit",
    "Lamp",
    "Lens",
    "LensAbility",
    "ModelWants",
    "RecordingAbility",
    "RecordingMode",
    "available_light_lx",
    "card_hours",
    "check_against_kit",
    "cropped_mm",
    "exact_rate_fps",
    "exact_stop",
    "fitting_lens",
    "gelled",
    "lamp_of_reading",
    "lens_ability",
    "model_wants",
    "most_light_lx",
    "nearest_stop",
    "rate_fraction",
    "rate_name",
    "rates_with",
    "recorded_gate_mm",
    "recording_ability",
    "stacked_stops",
    "stop_name",
    "with_close_up",
    "with_converter",
    "with_tube",
]
