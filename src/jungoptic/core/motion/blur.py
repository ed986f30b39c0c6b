"""Motion blur. Plain formulas, nothing checked. Source: shutter."""

from __future__ import annotations

CLEAN_PAN_S = 7.0  # for one frame width, at 24 frames a second. Source: judder


def motion_blur_px(
    travel_px_per_frame: float, shutter_angle_deg: float, captured_per_delivered: float = 1.0
) -> float:
    """Length of the smear: travel in a delivered frame × angle/360 ÷ captured frames in a delivered one.

    Parameters
    ----------
    travel_px_per_frame : float
        Travel in the image, px for each delivered frame.
    shutter_angle_deg : float
        Shutter angle, degrees.
    captured_per_delivered : float, default 1
        Captured frames for each delivered one, of footage that is shown faster than it was filmed.

    Returns
    -------
    float
        Smear, px.

    References
    ----------
    shutter

    Examples
    --------
    >>> motion_blur_px(20, 180)
    10.0
    """
    return travel_px_per_frame * shutter_angle_deg / 360.0 / captured_per_delivered
