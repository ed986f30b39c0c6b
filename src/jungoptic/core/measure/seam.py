"""Where two halves of a locked-off frame are best joined: the line along which least happens in either."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Array, Image, smoothed, stops_of

_SMOOTH_PX = 2.0
_STEEPEST = 1
_KEEPS_OFF_PX = 9
_STRAIGHT_TIMES, _PLAIN_STOPS = 1.25, 0.06
"""A straight line is taken where the most that happens along it is no more than so many times that along the
best, or is nothing that is seen."""
_MOST_FEATHER = 0.08
_SHOWS_STOPS = 0.1


@dataclass(frozen=True, slots=True)
class Seam:
    """A line from the top of the frame to its bottom, places in shares of it (n, 2); whether it is straight;
    the greatest change along it, stops; over how much of the width it may be feathered; and what is left:
    the places along it where something still happens, shares of the height.
    """

    line: tuple[tuple[float, float], ...]
    straight: bool
    change_stops: float
    feather: float
    crossed: tuple[tuple[float, float], ...]


class Changes:
    """The greatest change of each pixel over the frames of a clip, gathered frame by frame."""

    def __init__(self) -> None:
        self._least: Image | None = None
        self._most: Image | None = None

    def add(self, light: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        light : ndarray of float, shape (h, w)
            Linear light, all of one size.
        """
        seen = stops_of(light)
        smooth = smoothed(seen, _SMOOTH_PX)
        if self._least is None or self._most is None:
            self._least, self._most = smooth, smooth.copy()
        else:
            cv2.min(self._least, smooth, dst=self._least)
            cv2.max(self._most, smooth, dst=self._most)

    def stops(self) -> Image:
        """How far each pixel went.

        Returns
        -------
        ndarray of float32, shape (h, w)
            Stops from its darkest to its brightest.

        Raises
        ------
        ValueError
            Where no frame was added.

        Examples
        --------
        >>> seen = Changes()
        >>> for light in (0.1, 0.2):
        ...     seen.add(np.full((8, 8), light))
        >>> round(float(seen.stops()[0, 0]), 2)
        0.93
        """
        if self._least is None or self._most is None:
            raise ValueError("there is no frame in it")
        return np.asarray(self._most - self._least, np.float32)


def best_seam(changes: npt.ArrayLike, within: tuple[float, float] = (0.0, 1.0)) -> Seam:
    """The line along which least happens.

    Parameters
    ----------
    changes : ndarray of float, shape (h, w)
        The greatest change of each pixel in either half, stops.
    within : tuple of (float, float), default (0, 1)
        Between which shares of the width it runs.

    Returns
    -------
    Seam
        Straight where that is about as good as any.

    Raises
    ------
    ValueError
        Where there is no room for it.

    References
    ----------
    least_seam

    Examples
    --------
    >>> busy = np.full((40, 80), 0.5)
    >>> busy[:, 48:64] = 0.0
    >>> seam = best_seam(busy)
    >>> seam.straight, round(seam.line[0][0], 2), seam.change_stops
    (True, 0.66, 0.0)
    """
    change = np.asarray(changes, np.float64)
    height, width = change.shape
    left, right = round(within[0] * width), round(within[1] * width)
    if right - left < 3:
        raise ValueError("there is no room for a line: give it more of the width")
    # what happens weighs by its square, so that one great change is worse than many small ones
    wide = cv2.dilate(change.astype(np.float32), np.ones((_KEEPS_OFF_PX, _KEEPS_OFF_PX), np.uint8))
    off_middle = np.abs(np.arange(left, right) - width / 2.0) / width
    cost = np.maximum(np.asarray(wide, np.float64)[:, left:right] - _PLAIN_STOPS, 0.0) ** 2
    cost += 1e-6 * (1.0 + off_middle)
    places = _cheapest(cost)
    upright, tops = _straightest(cost)
    most = [float(wide[np.arange(height), left + each].max()) for each in (upright, places)]
    straight = most[0] <= max(_PLAIN_STOPS, _STRAIGHT_TIMES * most[1])
    path = upright if straight else places
    along = change[np.arange(height), left + path]
    if straight:
        line = tuple(
            (float((left + place + 0.5) / width), y) for place, y in zip(tops, (0.0, 1.0), strict=True)
        )
    else:
        rows = np.unique(np.linspace(0, height - 1, min(height, 33)).astype(int))
        line = tuple((float((left + path[row] + 0.5) / width), float((row + 0.5) / height)) for row in rows)
    return Seam(
        line, straight, float(along.max()), _feather(change, left + path), _runs(along > _SHOWS_STOPS)
    )


def _cheapest(cost: Array) -> npt.NDArray[np.intp]:
    """The connected path from the top to the bottom that costs least, by dynamic programming."""
    height, width = cost.shape
    total = cost.copy()
    came = np.zeros((height, width), np.intp)
    index = np.arange(width)
    for row in range(1, height):
        above = np.pad(total[row - 1], _STEEPEST, constant_values=math.inf)
        choices = np.stack([above[shift : shift + width] for shift in range(2 * _STEEPEST + 1)])
        best = choices.argmin(axis=0)
        came[row] = index + best - _STEEPEST
        total[row] += choices[best, index]
    path = np.zeros(height, np.intp)
    path[-1] = int(total[-1].argmin())
    for row in range(height - 1, 0, -1):
        path[row - 1] = came[row, path[row]]
    return path


def _straightest(cost: Array) -> tuple[npt.NDArray[np.intp], tuple[int, int]]:
    """The straight line that costs least, and its top and bottom."""
    height, width = cost.shape
    rows = np.arange(height)
    lean = max(1, height // 8)
    best: tuple[float, int, int] = (math.inf, 0, 0)
    for slope in np.unique(np.linspace(-lean, lean, 17).astype(int)):
        offset = np.rint(slope * rows / max(1, height - 1)).astype(int)
        first, last = max(0, -int(offset.min())), width - max(0, int(offset.max()))
        if last <= first:
            continue
        starts = np.arange(first, last)
        sums = cost[rows[:, None], starts[None, :] + offset[:, None]].sum(axis=0)
        place = int(sums.argmin())
        tried = float(sums[place]) * (1.0 + 0.02 * abs(int(slope)) / lean)  # upright where it makes no odds
        if tried < best[0]:
            best = tried, int(starts[place]), int(slope)
    _, start, slope = best
    return (start + np.rint(slope * rows / max(1, height - 1))).astype(np.intp), (start, start + slope)


def _feather(change: Array, path: npt.NDArray[np.intp]) -> float:
    """Over how much of the width nothing happens on both sides of a path."""
    height, width = change.shape
    most = int(_MOST_FEATHER * width)
    rows = np.arange(height)
    for reach in range(1, most + 1):
        sides = [np.clip(path + way * reach, 0, width - 1) for way in (-1, 1)]
        if any(
            change[rows, side].max() > max(_SHOWS_STOPS, 1.5 * change[rows, path].max()) for side in sides
        ):
            return float(2.0 * (reach - 1) / width)
    return float(2.0 * most / width)


def _runs(shows: npt.NDArray[np.bool_]) -> tuple[tuple[float, float], ...]:
    """From where to where something is so, shares of the whole."""
    ends = np.flatnonzero(np.diff(np.concatenate([[0], shows.astype(int), [0]])))
    count = len(shows)
    return tuple((float(a / count), float(b / count)) for a, b in zip(ends[::2], ends[1::2], strict=True))
