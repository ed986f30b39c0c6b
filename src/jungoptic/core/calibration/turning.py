"""How long a shutter is really open, from a bright dot on a disc that turns."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

FEWEST_FRAMES_OF_A_TURN = 8
_OUTSTANDS = 0.35
"""Of the brightest: what is more is the dot and its smear."""
_REACHES = 1.3
"""Their soft edge reaches so much farther."""
_LEAST_TURN_DEG, _MOST_TURN_DEG = 4.0, 120.0
_OUTLINE_OFF = 0.01
"""No dot is quite round: of the angle."""
_TWICE = 2.0
"""Errors are told as two deviations."""


@dataclass(frozen=True, slots=True)
class ShutterMeasured:
    """The angle for which a frame is open, °, of the 360 between two frames, ``off`` two deviations; and by
    how far the disc turned from frame to frame, °.
    """

    angle_deg: float
    off_deg: float
    turn_deg: float


def shutter_of_frames(frames: npt.ArrayLike) -> ShutterMeasured:
    """The shutter angle, from how long a bright dot on a turning disc is smeared beside how far it comes on.

    Parameters
    ----------
    frames : ndarray of float, shape (n, h, w)
        Eight or more frames, one right after the other, linear light: a white dot on a black disc.

    Returns
    -------
    ShutterMeasured
        360° × smear ÷ way from frame to frame. The speed of the disc need not be known.

    Raises
    ------
    ValueError
        Where there are too few frames, no dot, or a disc that stands or turns too fast.

    References
    ----------
    shutter

    Examples
    --------
    >>> shutter_of_frames(np.zeros((3, 9, 16)))
    Traceback (most recent call last):
    ...
    ValueError: 3 frames are too few: 8 at least, one right after the other
    """
    seen = np.asarray(frames, np.float64)
    if len(seen) < FEWEST_FRAMES_OF_A_TURN:
        raise ValueError(
            f"{len(seen)} frames are too few: {FEWEST_FRAMES_OF_A_TURN} at least, one right after the other"
        )
    down, right = np.mgrid[0 : seen.shape[1], 0 : seen.shape[2]].astype(np.float64)
    weights = []
    for frame in seen:
        bright = frame - np.median(frame)
        most = float(bright.max())
        if most < 0.05:
            raise ValueError("no bright dot is seen: a white dot on a black disc, well lit, fills the frame")
        weights.append(_dot(bright, most, right, down))
    middles = np.array([_middle(weight, right, down) for weight in weights])
    centre_x, centre_y, _ = circle_through(middles)
    angles = np.unwrap(np.arctan2(middles[:, 1] - centre_y, middles[:, 0] - centre_x))
    steps = np.diff(angles)
    turn = float(np.median(steps))
    if not math.radians(_LEAST_TURN_DEG) < abs(turn) < math.radians(_MOST_TURN_DEG):
        raise ValueError("the disc stands, or turns too fast to follow: let it turn once or twice a second")
    shares = []
    for weight, angle in zip(weights, angles, strict=True):
        around = np.angle(np.exp(1j * (np.arctan2(down - centre_y, right - centre_x) - angle)))
        outward = np.hypot(down - centre_y, right - centre_x)
        total = weight.sum()
        spread = float((weight * around**2).sum() / total) - float((weight * around).sum() / total) ** 2
        mean = float((weight * outward).sum() / total)
        of_dot = float((weight * (outward - mean) ** 2).sum() / total) / mean**2
        shares.append(math.sqrt(max(0.0, 12.0 * (spread - of_dot))) / abs(turn))
    each = 360.0 * np.array(shares)
    by_chance = _TWICE * float(each.std(ddof=1)) / math.sqrt(len(each))
    off = math.hypot(by_chance, _OUTLINE_OFF * float(each.mean()))
    return ShutterMeasured(float(each.mean()), off, abs(math.degrees(turn)))


def _dot(
    bright: npt.NDArray[np.float64],
    most: float,
    right: npt.NDArray[np.float64],
    down: npt.NDArray[np.float64],
) -> npt.NDArray[np.float64]:
    """The light of the dot and its smear, as far as they reach; nothing else."""
    clear = np.where(bright > _OUTSTANDS * most, bright, 0.0)
    x, y = _middle(clear, right, down)
    away = np.hypot(right - x, down - y)
    return np.where(away <= _REACHES * float(away[clear > 0].max()), bright, 0.0)


def _middle(
    weight: npt.NDArray[np.float64], right: npt.NDArray[np.float64], down: npt.NDArray[np.float64]
) -> tuple[float, float]:
    total = weight.sum()
    return float((weight * right).sum() / total), float((weight * down).sum() / total)


def circle_through(points: npt.NDArray[np.float64]) -> tuple[float, float, float]:
    """The circle through points: its middle and its radius, by x² + y² = 2·a·x + 2·b·y + c.

    Parameters
    ----------
    points : ndarray of float64, shape (n, 2)
        Three or more, in any unit.

    Returns
    -------
    tuple of (float, float, float)
        Middle and radius, in theirs.

    References
    ----------
    circle_fit

    Examples
    --------
    >>> [round(each, 6) for each in circle_through(np.array([[3.0, 1.0], [2.0, 2.0], [1.0, 1.0]]))]
    [2.0, 1.0, 1.0]
    """
    design = np.column_stack([2.0 * points, np.ones(len(points))])
    (a, b, c), *_ = np.linalg.lstsq(design, (points**2).sum(axis=1), rcond=None)
    return float(a), float(b), math.sqrt(max(1e-12, float(c + a * a + b * b)))
