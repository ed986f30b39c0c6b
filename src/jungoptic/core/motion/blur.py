"""Motion blur. Plain formulas, nothing checked. Source: shutter, pinhole."""

from __future__ import annotations

CLEAN_PAN_S = 7.0  # for one frame width, at 24 frames a second. Source: judder


def image_travel_px(
    focal_length_px: float, speed_m_s: float, distance_m: float, frames_per_s: float
) -> float:
    """Travel in the image from one frame to the next, px: ``f_px·(v/rate)/d``."""
    return focal_length_px * speed_m_s / frames_per_s / distance_m


def motion_blur_px(
    travel_px_per_frame: float, shutter_angle_deg: float, captured_per_delivered: float = 1.0
) -> float:
    """Length of the smear, px: travel per delivered frame × angle/360 ÷ captured frames per delivered
    frame.
    """
    return travel_px_per_frame * shutter_angle_deg / 360.0 / captured_per_delivered
