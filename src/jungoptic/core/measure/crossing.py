"""Which frames have something on a line or in a zone where nothing may come."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import FLOOR, MAD, Image, smoothed

Places = Sequence[tuple[float, float]]

_SMOOTH_PX = 1.5
_DEVIATIONS = 6.0
_LEAST_STOPS = 0.12
_LEAST_PX = 5
_BAND_PX = 2
_LASTS = 1


@dataclass(frozen=True, slots=True)
class Crossing:
    """Frames from ``first`` to ``last`` that have something there, and at most how much of it, px, and where:
    shares of the frame.
    """

    first: int
    last: int
    most_px: float
    where: tuple[float, float]


class Watched:
    """A line or a zone of the frame, watched frame by frame.

    Parameters
    ----------
    places : sequence of tuple of (float, float)
        Of a line, or the corners of a zone, shares of the frame.
    shape : tuple of (int, int)
        Height and width of the frames, px.
    zone : bool, default False
        What lies between the places, not only the line.
    """

    def __init__(self, places: Places, shape: tuple[int, int], zone: bool = False) -> None:
        points = np.rint(np.array(places, np.float64) * (shape[1], shape[0])).astype(np.int32)
        drawn = np.zeros(shape, np.uint8)
        if zone:
            cv2.fillPoly(drawn, [points], 1)
        else:
            cv2.polylines(drawn, [points], False, 1, 2 * _BAND_PX + 1)
        self.shape = shape
        self._y, self._x = np.nonzero(drawn)
        self._seen: list[Image] = []

    def add(self, light: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        light : ndarray of float, shape (h, w)
            Linear light.
        """
        smooth = smoothed(light, _SMOOTH_PX)
        there = np.maximum(smooth[self._y, self._x], 0.0)
        self._seen.append(np.log2(there + np.float32(FLOOR)).astype(np.float32))

    def crossings(self) -> tuple[Crossing, ...]:
        """The frames that have something there.

        Returns
        -------
        tuple of Crossing
            What is as it mostly is has nothing; light that goes up and down for all of it does not count.

        Raises
        ------
        ValueError
            Where there are too few frames to know how it mostly is.

        References
        ----------
        median_deviation

        Examples
        --------
        >>> line = Watched([(0.5, 0.0), (0.5, 1.0)], (60, 100))
        >>> for frame in range(12):
        ...     light = np.full((60, 100), 0.2)
        ...     light[20:40, 8 * frame : 8 * frame + 6] = 0.4
        ...     line.add(light)
        >>> [(each.first, each.last) for each in line.crossings()]
        [(5, 6)]
        """
        if len(self._seen) < 3:
            raise ValueError(f"{len(self._seen)} frames are too few: 3 at least")
        seen = np.stack(self._seen)
        usual = np.median(seen, axis=0)
        off = seen - usual
        off -= np.median(off, axis=1, keepdims=True)
        scatter = MAD * np.median(np.abs(off), axis=0)
        limit = np.maximum(_DEVIATIONS * scatter, _LEAST_STOPS)
        over = np.abs(off) > limit
        counts = np.array([self._largest(each) for each in over])
        there = counts >= _LEAST_PX
        ends = np.flatnonzero(np.diff(np.concatenate([[0], there.astype(int), [0]])))
        return tuple(
            self._told(int(first), int(after) - 1, counts, over)
            for first, after in zip(ends[::2], ends[1::2], strict=True)
            if after - first >= _LASTS
        )

    def _largest(self, over: npt.NDArray[np.bool_]) -> int:
        """How many px the largest piece of it has."""
        if np.count_nonzero(over) < _LEAST_PX:
            return 0
        drawn = np.zeros(self.shape, np.uint8)
        drawn[self._y[over], self._x[over]] = 1
        sizes = cv2.connectedComponentsWithStats(drawn, connectivity=8)[2][1:, cv2.CC_STAT_AREA]
        return int(sizes.max()) if len(sizes) else 0

    def _told(
        self, first: int, last: int, counts: npt.NDArray[np.intp], over: npt.NDArray[np.bool_]
    ) -> Crossing:
        worst = first + int(counts[first : last + 1].argmax())
        here = over[worst]
        across, down = float(self._x[here].mean() + 0.5), float(self._y[here].mean() + 0.5)
        return Crossing(
            first, last, math.sqrt(float(counts[worst])), (across / self.shape[1], down / self.shape[0])
        )
