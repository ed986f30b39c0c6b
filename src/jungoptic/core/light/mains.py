"""What is left of the mains in the exposure. Plain formulas, nothing checked."""

from __future__ import annotations

import math

_IN_STEP = 1e-6


def ripple_amplitude(mains_hz: float, capture_fps: float, exposure_s: float, ripple_depth: float) -> float:
    """Frame-to-frame ripple, (max − min)/(max + min): ``depth·|sin x / x|``, ``x = π·2f·t``. Source:
    mains_ripple.

    None when the frame rate divides twice the mains evenly: then every frame sees the same.
    """
    beats = 2.0 * mains_hz / capture_fps
    if round(beats) >= 1 and math.isclose(beats, round(beats), abs_tol=_IN_STEP):
        return 0.0
    x = math.pi * 2.0 * mains_hz * exposure_s
    return ripple_depth * abs(math.sin(x) / x)


def ripple_stops(amplitude: float) -> float:
    """Brightest over darkest frame, stops: ``log₂((1+a)/(1−a))``."""
    return math.log2((1.0 + amplitude) / (1.0 - amplitude))


def clean_angles_deg(mains_hz: float, capture_fps: float, most: int = 8) -> list[float]:
    """Shutter angles whose exposure is a whole number of ripples. Source: mains_angles."""
    beats = 2.0 * mains_hz / capture_fps
    return [360.0 * n / (2.0 * mains_hz) * capture_fps for n in range(1, min(int(beats + 1e-9), most) + 1)]
