"""What follows from a set-up alone: focal length in px, exposure, height, enlargement, faults of the lens."""

from __future__ import annotations

import math

from ..light import exposure
from ..optics import diffraction, frame
from .records import Delivery, SetUp

MID_GREY = 0.18


def focal_px(setup: SetUp, delivery: Delivery) -> float:
    """Focal length in delivered pixels, at the distance that the lens is focused at.

    Parameters
    ----------
    setup : SetUp
        Lens, focus and gate.
    delivery : Delivery
        The finished frame.

    Returns
    -------
    float
        Delivered px.

    References
    ----------
    pinhole, thin_lens

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO
    >>> round(focal_px(HERO, DELIVERY))
    2868
    """
    v = frame.image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    return frame.focal_length_px(v, setup.extracted_mm, delivery.width_px)


def exposure_offset_stops(setup: SetUp) -> float:
    """How far over or under a normal exposure the set-up is, stops."""
    m = frame.magnification(setup.focal_length_mm, setup.focus_distance_m)
    time_s = exposure.exposure_time_s(setup.shutter_angle_deg, setup.capture_fps)
    return exposure.exposure_stops(
        setup.illuminance_lx, setup.f_number, setup.iso, time_s, setup.nd_stops, diffraction.closeup_factor(m)
    )


def camera_height_m(setup: SetUp) -> float:
    """Lens above the layer's own ground, metres of the set."""
    return setup.lens_height_m - setup.ground_height_m


def enlargement(setup: SetUp, delivery: Delivery, resize: float) -> float:
    """Delivered pixels for each recorded pixel: 1 is one to one."""
    recorded = setup.recorded_width_px * setup.extracted_mm / setup.gate_width_mm
    return resize * delivery.width_px / recorded


def _off_centre(setup: SetUp, resize: float) -> float:
    """Where the delivered corner lies on the way from the lens axis to the corner of the gate: 1 at that
    corner.
    """
    return setup.extracted_mm / setup.gate_width_mm / resize


def distortion_px(setup: SetUp, delivery: Delivery, resize: float = 1.0) -> float:
    """How far the delivered corner is displaced, px; distortion grows as the square of the distance.

    Source: distortion_scale.
    """
    half_diagonal = math.hypot(delivery.width_px, delivery.height_px) / 2.0
    return setup.distortion_pct / 100.0 * _off_centre(setup, resize) ** 2 * half_diagonal


def vignetting_stops(setup: SetUp, resize: float = 1.0) -> float:
    """How much darker the delivered corner is, stops. Source: vignetting_guess."""
    return (
        setup.vignetting_stops
        * min(1.0, setup.widest_f_number / setup.f_number)
        * _off_centre(setup, resize) ** 2
    )


def codes_in_a_stop(bit_depth: int) -> float:
    """Codes of the legal range between mid-grey and a stop under it. Source: bt709_codes."""
    steps = 219.0 * 2.0 ** (bit_depth - 8)
    return steps * 1.099 * (math.pow(MID_GREY, 0.45) - math.pow(MID_GREY / 2.0, 0.45))
