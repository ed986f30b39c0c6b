"""What follows from a set-up alone: focal length in px, exposure, height, enlargement."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..kit.records import RecordingMode
from ..light import MID_GREY, exposure
from ..optics import diffraction, frame
from .records import Delivery, SetUp


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


def picture_view_deg(setup: SetUp) -> float:
    """Angle of view across of what is used of the gate, at the distance that the lens is focused at.

    Parameters
    ----------
    setup : SetUp
        Lens, focus and gate.

    Returns
    -------
    float
        Degrees.

    References
    ----------
    pinhole, thin_lens

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> round(picture_view_deg(HERO), 1)
    37.0
    """
    v = frame.image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    return frame.angle_of_view_deg(setup.extracted_mm, v)


def exposure_offset_stops(setup: SetUp) -> float:
    """How far over or under a normal exposure the set-up is.

    Parameters
    ----------
    setup : SetUp
        Light, stop, shutter, filter, ISO, focus.

    Returns
    -------
    float
        Stops.

    References
    ----------
    exposure_meter, closeup

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> offsets = [exposure_offset_stops(each) for each in (HERO, HERO.but(nd_stops=1.0))]
    >>> round(offsets[0] - offsets[1], 6)
    1.0
    """
    further = frame.extension(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    time_s = exposure.exposure_time_s(setup.shutter_angle_deg, setup.capture_fps)
    return exposure.exposure_stops(
        setup.illuminance_lx,
        setup.f_number,
        setup.iso,
        time_s,
        setup.nd_stops,
        diffraction.closeup_factor(further),
    )


def camera_height_m(setup: SetUp) -> float:
    """Lens above the layer's own ground, metres of the set."""
    return setup.lens_height_m - setup.ground_height_m


def enlargement(setup: SetUp, delivery: Delivery, resize: float) -> float:
    """Delivered pixels for each recorded pixel: 1 is one to one."""
    recorded: float = across_px(setup, setup.extracted_mm)
    return resize * delivery.width_px / recorded


def noise_ratio(
    hero: SetUp, recording: SetUp | RecordingMode, iso: Any, extracted_mm: Any, resize: Any
) -> Any:
    """Noise of a delivered pixel over the hero's. Where that of both recordings was measured:
    ``σ·n_hero/(σ_hero·n)·r``, σ of a recorded pixel, n recorded px across what is delivered; else by photons
    alone: ``√(S/S_hero)·G_hero/G·r``. Source: photon_transfer, photon_noise.
    """
    ours = pixel_noise_pct(recording, iso)
    heros = pixel_noise_pct(hero, hero.iso)
    if ours is None or heros is None:
        return np.sqrt(iso / hero.iso) * hero.extracted_mm / extracted_mm * resize
    return ours * across_px(hero, hero.extracted_mm) / (heros * across_px(recording, extracted_mm)) * resize


def pixel_noise_pct(recording: SetUp | RecordingMode, iso: Any) -> Any:
    """Noise of a recorded pixel at mid grey, % of white: as it was measured, by photons from the ISO of that
    to another; None where it never was. Source: photon_transfer, photon_noise.
    """
    if recording.noise_pct is None or recording.noise_iso is None:
        return None
    return recording.noise_pct * np.sqrt(iso / recording.noise_iso)


def across_px(recording: SetUp | RecordingMode, extracted_mm: Any) -> Any:
    """Recorded pixels across what is delivered."""
    return recording.recorded_width_px * extracted_mm / recording.gate_width_mm


def codes_in_a_stop(bit_depth: int) -> float:
    """Codes of the legal range between mid-grey and a stop under it. Source: bt709_codes."""
    steps = 219.0 * 2.0 ** (bit_depth - 8)
    codes: float = steps * 1.099 * (MID_GREY**0.45 - (MID_GREY / 2.0) ** 0.45)
    return codes
