"""How unsteadily a hyperlapse goes: the path of its reference point, and what it costs to make it steady."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from scipy.ndimage import gaussian_filter1d

from .pixels import MAD, Array, Image, least_between, smoothed, stops_of
from .set_frame import SetFrame

Place = tuple[float, float]
_FEWEST = 5
_SMOOTH_FRAMES = 8.0
_OUTLIER = 4.0
_LOST, _STALE = 0.4, 0.8
"""Correlation under which a point is lost, and under which what it looks like is taken anew."""
_PIECE, _REACH, _SAME = 0.08, 0.15, 0.95
"""What is about a point, and how far it is looked for, shares of the width; so alike, it is the same view."""


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


def point_again(
    frame: SetFrame, known: Sequence[tuple[SetFrame, Place]], towards: Place
) -> tuple[float, float, float]:
    """Where the reference point of a hyperlapse is in a photograph, that was taken from somewhere else.

    Parameters
    ----------
    frame : SetFrame
        The photograph.
    known : sequence of tuple of (SetFrame, tuple of (float, float))
        Others in which the point is known, and where, shares of the photograph: the one that is to be
        believed most first. One that is not alike any more leaves it to the next.
    towards : tuple of (float, float)
        Where it is looked for: so far to each side as 0.15 of the width.

    Returns
    -------
    tuple of (float, float, float)
        To the right and down, shares of the photograph, and how alike what is about it is, 1 at most; NaN
        where nothing is alike.

    References
    ----------
    template_match

    Examples
    --------
    >>> dice = np.random.default_rng(3)
    >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
    >>> moved = SetFrame(np.roll(board, (6, -24), (0, 1)))
    >>> right, down, _ = point_again(moved, [(SetFrame(board), (0.5, 0.5))], (0.5, 0.5))
    >>> round(480 * right), round(270 * down)
    (216, 141)
    """
    seen = (math.nan, math.nan, 0.0)
    for reference, place in known:
        if reference.size_px != frame.size_px:
            continue
        seen = _again(frame, reference, place, towards)
        if seen[2] >= _SAME:
            break
    return seen


def _again(frame: SetFrame, reference: SetFrame, place: Place, towards: Place) -> tuple[float, float, float]:
    width, height = frame.size_px
    was, seen = reference.compared.smooth, frame.compared.smooth
    half, reach = round(_PIECE * width / 2.0), round(_REACH * width)
    left, top, right, bottom = _box(place, (width, height), half)
    x0, y0, x1, y1 = _box(towards, (width, height), half + reach)
    piece = was[top:bottom, left:right]
    if min(piece.shape) < half or min(y1 - y0 - piece.shape[0], x1 - x0 - piece.shape[1]) < 0:
        return math.nan, math.nan, 0.0
    alike = np.asarray(cv2.matchTemplate(seen[y0:y1, x0:x1], piece, cv2.TM_CCOEFF_NORMED), np.float32)
    row, column = np.unravel_index(int(alike.argmax()), alike.shape)
    best = float(alike[row, column])
    if not best > _LOST:
        return math.nan, math.nan, best
    went_x = x0 + least_between(-alike[row], int(column)) - left
    went_y = y0 + least_between(-alike[:, column], int(row)) - top
    return place[0] + went_x / width, place[1] + went_y / height, best


def _box(middle: Place, size: tuple[int, int], half: int) -> tuple[int, int, int, int]:
    """What of a frame lies so far about a place, shares of it."""
    x, y = (round(share * side) for share, side in zip(middle, size, strict=True))
    return max(x - half, 0), max(y - half, 0), min(x + half, size[0]), min(y + half, size[1])


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
    off = places - steady_path(places)
    apart = np.hypot(off[:, 0], off[:, 1])
    scatter = MAD * float(np.median(apart)) / 1.18
    rolls = np.zeros(len(places)) if roll_deg is None else np.asarray(roll_deg, np.float64)
    rolls = rolls - steady_path(rolls[:, None])[:, 0]
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


def steady_path(path: npt.ArrayLike) -> Array:
    """A path without what stands out, smoothed over 8 photographs to each side; straight on beyond its ends.

    Parameters
    ----------
    path : ndarray of float, shape (n, m)
        A place, or an angle, for each photograph.

    Returns
    -------
    ndarray of float, shape (n, m)
        In the same unit.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> path = np.column_stack([np.arange(40.0), np.full(40, 300.0)])
    >>> path[20] += (30.0, 0.0)
    >>> steady_path(path)[20].round().tolist()
    [20.0, 300.0]
    """
    values = np.asarray(path, np.float64)
    count = len(values)
    wide = min(3, count - 1)
    longer = _longer(values, wide)
    usual = np.stack([np.median(longer[i : i + 2 * wide + 1], axis=0) for i in range(count)])
    apart = np.abs(values - usual)
    limit = 6.0 * MAD * np.median(apart, axis=0) + 1e-9
    tame = np.where(apart > limit, usual, values)
    reach = min(count - 1, round(4 * _SMOOTH_FRAMES))
    smooth = gaussian_filter1d(_longer(tame, reach), min(_SMOOTH_FRAMES, count / 4.0), axis=0)
    return np.asarray(smooth[reach : reach + count])


def _longer(values: Array, by: int) -> Array:
    """Straight on beyond both ends, by so many."""
    before = 2.0 * values[0] - values[by:0:-1]
    after = 2.0 * values[-1] - values[-2 : -2 - by : -1]
    return np.concatenate([before, values, after])


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
