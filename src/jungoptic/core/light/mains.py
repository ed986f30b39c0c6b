"""What is left of the mains in the exposure. Plain formulas, nothing checked."""

from __future__ import annotations

import math

_IN_STEP = 1e-6


def ripple_amplitude(mains_hz: float, capture_fps: float, exposure_s: float, ripple_depth: float) -> float:
    """Frame-to-frame flicker of a lamp on the mains: ``depth·|sin x / x|``, ``x = π·2f·t``.

    Parameters
    ----------
    mains_hz : float
        Frequency f of the mains, Hz.
    capture_fps : float
        Capture rate, frames/s.
    exposure_s : float
        Exposure time t, s.
    ripple_depth : float
        Lamp flicker depth itself, (max − min)/(max + min), 0 to 1.

    Returns
    -------
    float
        (max − min)/(max + min) from frame to frame; 0 where the rate divides twice the mains evenly, since
        then every frame sees the same.

    References
    ----------
    mains_ripple

    Examples
    --------
    >>> round(ripple_amplitude(50, 24, 1 / 48, 0.3), 4)
    0.0119
    """
    beats = 2.0 * mains_hz / capture_fps
    if round(beats) >= 1 and math.isclose(beats, round(beats), abs_tol=_IN_STEP):
        return 0.0
    x = math.pi * 2.0 * mains_hz * exposure_s
    return ripple_depth * abs(math.sin(x) / x)


def band_amplitude(mains_hz: float, readout_s: float, exposure_s: float, ripple_depth: float) -> float:
    """Ripple that stands in the rows of a rolling shutter: ``depth·|sin x / x|·sin(min(y, π/2))``.

    ``x = π·2f·t``, ``y = π·2f·r``. It is there whatever the frame rate, since each row is exposed at its own
    time.

    Parameters
    ----------
    mains_hz : float
        Frequency f of the mains, Hz.
    readout_s : float
        Time r in which all rows are read, s; 0 = all at once.
    exposure_s : float
        Exposure time t, s.
    ripple_depth : float
        Lamp flicker depth itself, (max − min)/(max + min), 0 to 1.

    Returns
    -------
    float
        (max − min)/(max + min) between rows of one frame, at the phase at which it is worst.

    References
    ----------
    mains_ripple

    Examples
    --------
    >>> round(band_amplitude(50, 0.02, 1 / 60, 0.3), 4), band_amplitude(50, 0.0, 1 / 60, 0.3)
    (0.0496, 0.0)
    """
    x = math.pi * 2.0 * mains_hz * exposure_s
    rows = math.sin(min(math.pi * 2.0 * mains_hz * readout_s, math.pi / 2.0))
    return ripple_depth * abs(math.sin(x) / x) * rows


def ripple_stops(amplitude: float) -> float:
    """Brightest over darkest frame: ``log₂((1+a)/(1−a))``.

    Parameters
    ----------
    amplitude : float
        (max − min)/(max + min) from frame to frame, 0 to less than 1.

    Returns
    -------
    float
        Stops.

    References
    ----------
    mains_ripple

    Examples
    --------
    >>> round(ripple_stops(0.1), 2)
    0.29
    """
    return math.log2((1.0 + amplitude) / (1.0 - amplitude))


def clean_angles_deg(mains_hz: float, capture_fps: float, most: int = 8) -> list[float]:
    """Shutter angles whose exposure is a whole number of ripples.

    Parameters
    ----------
    mains_hz : float
        Frequency of the mains, Hz.
    capture_fps : float
        Capture rate, frames/s.
    most : int, default 8
        How many at most.

    Returns
    -------
    list of float
        Degrees, smallest first; empty where a frame is shorter than a ripple.

    References
    ----------
    mains_angles

    Examples
    --------
    >>> [round(angle, 1) for angle in clean_angles_deg(50, 24)]
    [86.4, 172.8, 259.2, 345.6]
    """
    beats = 2.0 * mains_hz / capture_fps
    return [360.0 * n / (2.0 * mains_hz) * capture_fps for n in range(1, min(int(beats + 1e-9), most) + 1)]
