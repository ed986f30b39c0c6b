"""Colour and direction of light. Plain formulas, nothing checked."""

from __future__ import annotations

import math

_WARMEST_K, _COOLEST_K = 1000.0, 40_000.0


def mired(colour_k: float) -> float:
    """Reciprocal megakelvin of a colour temperature: ``10⁶/T``.

    Parameters
    ----------
    colour_k : float
        Colour temperature T, K.

    Returns
    -------
    float
        Mired.

    References
    ----------
    mired

    Examples
    --------
    >>> mired(3200)
    312.5
    """
    return 1e6 / colour_k


def mired_shift(from_k: float, to_k: float) -> float:
    """Shift from one colour of light to another: ``10⁶/T_to − 10⁶/T_from``.

    Parameters
    ----------
    from_k, to_k : float
        Colour temperatures, K.

    Returns
    -------
    float
        Mired; warmer is positive.

    References
    ----------
    mired

    Examples
    --------
    >>> round(mired_shift(5600, 3200))
    134
    """
    return mired(to_k) - mired(from_k)


def angle_between_deg(azimuth_a: float, elevation_a: float, azimuth_b: float, elevation_b: float) -> float:
    """Angle between two directions.

    Parameters
    ----------
    azimuth_a, elevation_a : float
        The one direction, degrees.
    azimuth_b, elevation_b : float
        The other direction, degrees, from the same zero.

    Returns
    -------
    float
        0 to 180, degrees.

    References
    ----------
    directions

    Examples
    --------
    >>> round(angle_between_deg(0, 0, 90, 45), 6)
    90.0
    """
    a, b = (
        (
            math.cos(math.radians(el)) * math.sin(math.radians(az)),
            math.sin(math.radians(el)),
            math.cos(math.radians(el)) * math.cos(math.radians(az)),
        )
        for az, el in ((azimuth_a, elevation_a), (azimuth_b, elevation_b))
    )
    cross = math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])
    return math.degrees(math.atan2(cross, sum(p * q for p, q in zip(a, b, strict=True))))


def shifted_k(colour_k: float, shift_mired: float) -> float:
    """A colour of light shifted in mired, as by a gel: ``1e6/(1e6/T + Δ)``.

    Parameters
    ----------
    colour_k : float
        Colour temperature, K.
    shift_mired : float
        Orange is positive, blue negative.

    Returns
    -------
    float
        K, between 1000 and 40 000.

    References
    ----------
    mired

    Examples
    --------
    >>> round(shifted_k(5600.0, 159.0)), shifted_k(30000.0, -100.0)
    (2962, 40000.0)
    """
    return 1e6 / min(max(mired(colour_k) + shift_mired, 1e6 / _COOLEST_K), 1e6 / _WARMEST_K)
