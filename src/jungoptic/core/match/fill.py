"""What a shot that is open already knows, by the names of the handbook's fields."""

from __future__ import annotations

from typing import Any

from ..light import exposure
from ..optics import frame
from .camera import camera_height_m
from .measure import Match


def known_values(match: Match, mains_hz: float) -> dict[str, Any]:
    """What an open shot already knows, by the names of the handbook's inputs.

    Parameters
    ----------
    match : Match
        The selected layer.
    mains_hz : float
        Of the place, Hz.

    Returns
    -------
    dict
        Values of the layer's set-up, its place, the hero and the delivery; lengths of the set in metres.

    References
    ----------
    shutter, thin_lens

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> known = known_values(Match(HERO, MILL, MODEL, DELIVERY), 50.0)
    >>> known["scale"], known["far_m"]
    (12.0, 1.5)
    """
    layer, hero, delivery = match.layer, match.hero, match.delivery
    known: dict[str, Any] = {
        "scale": layer.scale,
        "delivery_fps": delivery.frame_rate_fps,
        "delivery_width_px": delivery.width_px,
        "delivery_height_px": delivery.height_px,
        "mains_hz": mains_hz,
        "driver": layer.driver,
        "full_size_speed_m_s": layer.fastest_m_s,
        "reference_iso": hero.iso,
        "reference_gate_width_mm": hero.extracted_mm,
        "hero": hero.model_dump(),
        "layer": layer.model_dump(mode="json"),
        "delivery": delivery.model_dump(),
        "enlargement": layer.resize,
        "full_size_distance_m": layer.near_m,
        "full_size_height_m": layer.height_m,
    }
    setup = match.setup
    if setup is None:
        return known
    m = frame.magnification(setup.focal_length_mm, setup.focus_distance_m)
    time_s = exposure.exposure_time_s(setup.shutter_angle_deg, setup.capture_fps)
    return known | {
        "focal_length_mm": setup.focal_length_mm,
        "focusing": setup.focusing,
        "f_number": setup.f_number,
        "focus_distance_m": setup.focus_distance_m,
        "gate_width_mm": setup.extracted_mm,
        "gate_height_mm": setup.gate_height_mm,
        "capture_fps": setup.capture_fps,
        "camera_fps": setup.capture_fps,
        "fps": setup.capture_fps,
        "shutter_angle_deg": setup.shutter_angle_deg,
        "iso": setup.iso,
        "nd_stops": setup.nd_stops,
        "magnification": m,
        "distance_m": setup.distance_m,
        "near_m": setup.distance_m,
        "far_m": match.far_m,
        "depth_m": max(match.far_m - setup.distance_m, 0.001),
        "lens_height_m": setup.lens_height_m,
        "camera_height_m": camera_height_m(setup),
        "focal_length_px": match.f_px,
        "exposure_s": time_s,
        "recorded_width_px": setup.recorded_width_px,
        "recorded_height_px": setup.recorded_height_px,
        "to_k": setup.light_k,
        "from_k": setup.white_balance_k,
        "set_up": setup.model_dump(),
        "image_speed_px_per_frame": match.f_px * match.speed_set_m_s / setup.capture_fps / setup.distance_m,
        "circle_of_confusion_mm": setup.extracted_mm / delivery.width_px,
    }
