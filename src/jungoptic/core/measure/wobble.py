"""How unsteadily a hyperlapse goes: the path of its reference point, and what it costs to make it steady."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.ndimage import gaussian_filter1d

from .pixels import MAD, Array

_FEWEST = 5
_SMOOTH_FRAMES = 8.0
_OUTLIER = 4.0


@dataclass(frozen=True, slots=True)
class Wobble:
    """Off the smooth path, px: by photograph (n, 2), rms and the most; the margin that making it steady costs
    on each side, share of the width; the crop that leaves; the enlargement that makes it whole again; and the
    photographs that are worth taking again, with the margin without them.
    """

    off_px: Array
    rms_px: float
    most_px: float
    margin: float
    crop: float
    enlarged: float
    again: tuple[int, ...]
    margin_after: float


def wobble_of_path(
    path: npt.ArrayLike, size: tuple[int, int], roll_deg: npt.ArrayLike | None = None
) -> Wobble:
    """What a hyperlapse costs to steady.

    Parameters
    ----------
    path : ndarray of float, shape (n, 2)
        Where the reference point is in each photograph, px.
    size : tuple of (int, int)
        Width and height of the photographs, px.
    roll_deg : ndarray of float, shape (n,), optional
        By how much each is rolled, degrees.

    Returns
    -------
    Wobble
        Against the path smoothed over 8 photographs to each side.

    Raises
    ------
    ValueError
        Where there are too few.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> path = np.column_stack([np.arange(40.0), np.full(40, 300.0)])
    >>> path[20] += (30.0, 0.0)
    >>> seen = wobble_of_path(path, (1920, 1080))
    >>> seen.again, round(seen.most_px)
    ((20,), 30)
    """
    places = np.asarray(path, np.float64)
    if len(places) < _FEWEST:
        raise ValueError(f"{len(places)} photographs are too few: {_FEWEST} at least")
    off = places - _smooth(places)
    apart = np.hypot(off[:, 0], off[:, 1])
    scatter = MAD * float(np.median(apart)) / 1.18
    rolls = np.zeros(len(places)) if roll_deg is None else np.asarray(roll_deg, np.float64)
    rolls = rolls - _smooth(rolls[:, None])[:, 0]
    again = tuple(int(each) for each in np.flatnonzero(apart > max(_OUTLIER * scatter, 1.0)))
    kept = np.setdiff1d(np.arange(len(places)), again)
    margin, after = _margin(off, rolls, size), _margin(off[kept], rolls[kept], size)
    crop = 1.0 - 2.0 * margin
    return Wobble(
        off,
        float(np.sqrt((apart**2).mean())),
        float(apart.max()),
        margin,
        crop,
        1.0 / max(crop, 0.05),
        again,
        after,
    )


def _smooth(values: Array) -> Array:
    """Without what stands out, then smoothed; straight on beyond both ends."""
    count = len(values)
    index = np.arange(count)
    usual = np.stack([np.median(values[max(0, i - 3) : i + 4], axis=0) for i in index])
    apart = np.abs(values - usual)
    limit = 6.0 * MAD * np.median(apart, axis=0) + 1e-9
    tame = np.where(apart > limit, usual, values)
    reach = min(count - 1, round(3 * _SMOOTH_FRAMES))
    before = 2.0 * tame[0] - tame[reach:0:-1]
    after = 2.0 * tame[-1] - tame[-2 : -2 - reach : -1]
    return np.asarray(
        gaussian_filter1d(np.concatenate([before, tame, after]), min(_SMOOTH_FRAMES, count / 4.0), axis=0)[
            reach : reach + count
        ]
    )


def _margin(off: Array, rolls: Array, size: tuple[int, int]) -> float:
    """The most that a photograph is shifted or rolled into its frame, share of the width; a crop keeps the
    frame's shape.
    """
    width, height = size
    turn = np.abs(np.radians(rolls))
    across = (np.abs(off[:, 0]) + turn * height / 2.0) / width
    down = (np.abs(off[:, 1]) + turn * width / 2.0) / height
    most = float(np.maximum(across, down).max()) if len(off) else 0.0
    return min(most, 0.45) if math.isfinite(most) else 0.0
