"""What the production owns: cameras and their recording modes, lenses, lamps, support, and their steps."""

from .lamp import Lamp, available_light_lx, gelled, lamp_of_reading
from .lens import Lens, with_close_up, with_converter, with_tube
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
    "ISO_STEPS",
    "STOPS",
    "Camera",
    "Kit",
    "Lamp",
    "Lens",
    "RecordingMode",
    "available_light_lx",
    "check_against_kit",
    "exact_rate_fps",
    "exact_stop",
    "gelled",
    "lamp_of_reading",
    "nearest_stop",
    "rate_fraction",
    "rate_name",
    "rates_with",
    "stacked_stops",
    "stop_name",
    "with_close_up",
    "with_converter",
    "with_tube",
]
