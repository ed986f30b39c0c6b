"""What a 1:s model changes. Plain formulas, nothing checked. Source: froude."""

from __future__ import annotations

import math


def gravity_rate_fps(scale: float, delivery_fps: float) -> float:
    """Capture rate at which falling, water and swinging look full size: ``delivery·√s``."""
    return delivery_fps * math.sqrt(scale)


def gravity_speed_m_s(full_size_speed_m_s: float, scale: float) -> float:
    """Speed on the model of what gravity drives: ``v/√s``."""
    return full_size_speed_m_s / math.sqrt(scale)


def set_speed_m_s(full_size_speed_m_s: float, scale: float, capture_fps: float, delivery_fps: float) -> float:
    """Speed to set on the model: ``v · (capture/delivery) / s``."""
    return full_size_speed_m_s * capture_fps / delivery_fps / scale


def gravity_speed_ratio(scale: float, delivery_fps: float, capture_fps: float) -> float:
    """How much too fast gravity looks: ``√s·delivery/capture`` (1.39 is 39 % too fast)."""
    return math.sqrt(scale) * delivery_fps / capture_fps
