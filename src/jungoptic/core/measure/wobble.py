"""How unsteadily a hyperlapse goes: the path of its reference point, and what it costs to make it steady."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from scipy.ndimage import gaussian_filter1d

from .pixels import MAD, Array, Image, least_between, smoothed, stops_of

_FEWEST = 5
_SMOOTH_FRAMES = 8.0
_OUTLIER = 4.0
_LOST, _STALE = 0.4, 0.8
"""Correlation under which a point is lost, and under which what it looks like is taken anew."""


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


class PointWatch:
    """The reference point of a hyperlapse, followed from photograph to photograph.

    Parameters
    ----------
    box : tuple of (int, int, int, int)
        Around it in the first photograph: left, top, width and height, px.
    reach_px : int, default 48
        How far it may go from one photograph to the next.
    """

    def __init__(self, box: tuple[int, int, int, int], reach_px: int = 48) -> None:
        self._box = box
        self._reach = reach_px
        self._piece: Image | None = None
        self._begun = np.zeros(2)
        self._origin = (0.0, 0.0)
        self._path: list[tuple[float, float]] = []

    def add(self, light: npt.ArrayLike) -> None:
        """One photograph more.

        Parameters
        ----------
        light : ndarray of float, shape (h, w)
            Linear light.

        Raises
        ------
        ValueError
            Where the point is lost.
        """
        seen = smoothed(stops_of(light), 0.7)
        left, top, width, height = self._box
        if self._piece is None:
            self._take(seen, np.array([left, top], np.float64))
            self._path.append((left + width / 2.0, top + height / 2.0))
            return
        assert self._piece is not None
        x0, y0 = max(0, left - self._reach), max(0, top - self._reach)
        within = seen[y0 : top + height + self._reach, x0 : left + width + self._reach]
        if min(within.shape[0] - height, within.shape[1] - width) < 0:
            raise ValueError(f"the reference point leaves the frame in photograph {len(self._path)}")
        alike = np.asarray(cv2.matchTemplate(within, self._piece, cv2.TM_CCOEFF_NORMED), np.float32)
        row, column = np.unravel_index(int(alike.argmax()), alike.shape)
        best = float(alike[row, column])
        if best < _LOST:
            raise ValueError(f"the reference point is lost in photograph {len(self._path)}: mark it larger")
        place = np.array(
            [x0 + least_between(-alike[row], int(column)), y0 + least_between(-alike[:, column], int(row))]
        )
        went = place - self._begun
        x, y = self._origin
        self._path.append((x + float(went[0]), y + float(went[1])))
        self._box = (x0 + int(column), y0 + int(row), width, height)
        if best < _STALE:
            self._take(seen, place)

    def _take(self, seen: Image, place: Array) -> None:
        """What it looks like from now on, and where that is."""
        left, top, width, height = self._box
        self._piece = seen[top : top + height, left : left + width].copy()
        self._origin = self._path[-1] if self._path else (left + width / 2.0, top + height / 2.0)
        self._begun = place

    def path(self) -> Array:
        """Where it was.

        Returns
        -------
        ndarray of float, shape (n, 2)
            Its middle in each photograph, px.

        References
        ----------
        template_match

        Examples
        --------
        >>> board = np.random.default_rng(3).random((120, 200)).astype(np.float32)
        >>> watch = PointWatch((80, 40, 32, 32))
        >>> for frame in range(3):
        ...     watch.add(np.roll(board, 5 * frame, axis=1))
        >>> watch.path().round().tolist()
        [[96.0, 56.0], [101.0, 56.0], [106.0, 56.0]]
        """
        return np.array(self._path).reshape(-1, 2)


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
