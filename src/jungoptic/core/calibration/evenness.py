"""How much darker a lens makes the corners, from a picture of something even."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
import numpy.typing as npt

FEWEST_FLATS = 2
_ACROSS, _DOWN = 64, 36
_BRIGHT, _DARK = 0.97, 0.02
_TWICE = 2.0
"""Errors are told as two deviations."""


def corner_stops(flat: npt.ArrayLike) -> float:
    """How much less light the corner gets than the middle, in a picture of something even.

    Parameters
    ----------
    flat : ndarray of float, shape (h, w)
        Linear light, 1 is white.

    Returns
    -------
    float
        Stops. The light may fall off evenly to one side: log₂ L = c + a·x + b·y + v·r² + w·r⁴ is fitted, and
        −(v + w) is told, r = 1 in the corner.

    Raises
    ------
    ValueError
        Where it is clipped, or too dark to tell.

    References
    ----------
    vignetting_guess

    Examples
    --------
    >>> y, x = np.mgrid[-899:900:2, -1599:1600:2]
    >>> round(corner_stops(0.4 * 2 ** -(0.8 * (x**2 + y**2) / (1600**2 + 900**2) + 0.0001 * x)), 2)
    0.8
    """
    whole = np.asarray(flat, np.float32)
    small = cv2.resize(whole, (_ACROSS, _DOWN), interpolation=cv2.INTER_AREA).astype(np.float64)
    if float(small.max()) > _BRIGHT:
        raise ValueError("it is clipped: expose it so that its brightest place is a stop under white")
    if float(small.min()) < _DARK:
        raise ValueError("it is too dark: expose it so that its middle is about mid grey or brighter")
    height, width = whole.shape
    x = ((np.arange(_ACROSS) + 0.5) / _ACROSS * 2.0 - 1.0) * width / np.hypot(width, height)
    y = ((np.arange(_DOWN) + 0.5) / _DOWN * 2.0 - 1.0) * height / np.hypot(width, height)
    right, down = (each.ravel() for each in np.meshgrid(x, y))
    share = right**2 + down**2
    design = np.column_stack([np.ones_like(share), right, down, share, share**2])
    solved, *_ = np.linalg.lstsq(design, np.log2(small.ravel()), rcond=None)
    return -float(solved[3] + solved[4])


def vignetting_of_flats(corners: Sequence[float]) -> tuple[float, float]:
    """Vignetting from several pictures of something even, the camera turned over between them.

    Parameters
    ----------
    corners : sequence of float
        What :func:`corner_stops` said of each.

    Returns
    -------
    tuple of (float, float)
        Stops at the corner, and what they may be off.

    Raises
    ------
    ValueError
        Where there are too few, or they say different things.

    References
    ----------
    vignetting_guess

    Examples
    --------
    >>> stops, off = vignetting_of_flats([0.80, 0.84])
    >>> round(stops, 2), round(off, 2)
    (0.82, 0.04)
    """
    if len(corners) < FEWEST_FLATS:
        raise ValueError(f"{len(corners)} pictures are too few: {FEWEST_FLATS} at least")
    each = np.asarray(corners, np.float64)
    deviation = float(each.std(ddof=1))
    if deviation > max(0.15, 0.3 * abs(float(each.mean()))):
        raise ValueError(
            "the pictures say different things: what is filmed is not even; take an overcast sky"
        )
    return float(each.mean()), _TWICE * deviation / float(np.sqrt(len(each)))
