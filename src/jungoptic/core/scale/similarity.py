"""What a 1:s model changes. Plain formulas, nothing checked. Source: froude."""

from __future__ import annotations

import math


def gravity_rate_fps(scale: float, delivery_fps: float) -> float:
    """Capture rate at which falling, water and swinging look full size: ``delivery·√s``.

    Parameters
    ----------
    scale : float
        The model is 1:scale.
    delivery_fps : float
        Rate of the delivery, frames/s.

    Returns
    -------
    float
        Capture rate, frames/s.

    References
    ----------
    froude

    Examples
    --------
    >>> round(gravity_rate_fps(12, 24), 1)
    83.1
    """
    root: float = scale**0.5
    return delivery_fps * root


def gravity_speed_m_s(full_size_speed_m_s: float, scale: float) -> float:
    """Speed on the model of what gravity drives: ``v/√s``.

    Parameters
    ----------
    full_size_speed_m_s : float
        Speed of the real thing, m/s.
    scale : float
        The model is 1:scale.

    Returns
    -------
    float
        Speed on the set, m/s.

    References
    ----------
    froude

    Examples
    --------
    >>> gravity_speed_m_s(2, 16)
    0.5
    """
    root: float = scale**0.5
    return full_size_speed_m_s / root


def set_speed_m_s(full_size_speed_m_s: float, scale: float, capture_fps: float, delivery_fps: float) -> float:
    """Speed to set on the model: ``v · (capture/delivery) / s``.

    Parameters
    ----------
    full_size_speed_m_s : float
        Speed of the real thing, m/s.
    scale : float
        The model is 1:scale.
    capture_fps, delivery_fps : float
        Rates at which it is filmed and shown, frames/s.

    Returns
    -------
    float
        Speed on the set, m/s.

    References
    ----------
    froude

    Examples
    --------
    >>> set_speed_m_s(12, 12, 48, 24)
    2.0
    """
    return full_size_speed_m_s * capture_fps / delivery_fps / scale


def gravity_speed_ratio(scale: float, delivery_fps: float, capture_fps: float) -> float:
    """How much too fast gravity looks: ``√s·delivery/capture``.

    Parameters
    ----------
    scale : float
        The model is 1:scale.
    delivery_fps, capture_fps : float
        Rates at which it is shown and was filmed, frames/s.

    Returns
    -------
    float
        1 is right, 1.39 is 39 % too fast.

    References
    ----------
    froude

    Examples
    --------
    >>> round(gravity_speed_ratio(12, 24, 60), 2)
    1.39
    """
    return math.sqrt(scale) * delivery_fps / capture_fps
