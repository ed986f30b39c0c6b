"""Exposure, colour and place of light. Plain formulas and two records; formulas check nothing."""

from .air import transmission, veil
from .colour import angle_between_deg, mired, mired_shift
from .daylight import sky_lx, sun_lx
from .difference import chroma_difference, ciede2000, keying_separation, lab_of_srgb
from .exposure import exposure_stops, exposure_time_s, illuminance_lx, lamp_lx
from .gel import GELS, gel_stops, with_gel
from .mains import band_amplitude, clean_angles_deg, ripple_amplitude, ripple_stops
from .placed import Backing, PlacedLamp, beam_power, light_on
from .planck import mired_of_gain, planck_gain
from .radiate import corner_factor, polygon_factor, rectangle_factor
from .recorded import LUMA, MID_GREY, bt709_light, bt709_signal
from .sun import refraction_deg, sun_deg, sun_up

__all__ = [
    "GELS",
    "LUMA",
    "MID_GREY",
    "Backing",
    "PlacedLamp",
    "angle_between_deg",
    "band_amplitude",
    "beam_power",
    "bt709_light",
    "bt709_signal",
    "chroma_difference",
    "ciede2000",
    "clean_angles_deg",
    "corner_factor",
    "exposure_stops",
    "exposure_time_s",
    "gel_stops",
    "illuminance_lx",
    "keying_separation",
    "lab_of_srgb",
    "lamp_lx",
    "light_on",
    "mired",
    "mired_of_gain",
    "mired_shift",
    "planck_gain",
    "polygon_factor",
    "rectangle_factor",
    "refraction_deg",
    "ripple_amplitude",
    "ripple_stops",
    "sky_lx",
    "sun_deg",
    "sun_lx",
    "sun_up",
    "transmission",
    "veil",
    "with_gel",
]
