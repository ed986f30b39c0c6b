"""How much of each frame a codec copied from the frame before: what is copied cannot flicker."""

from __future__ import annotations

from collections import deque

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Image, stops_of

APART = 8
"""Frames that are so far apart share no noise, whatever the codec."""
_MOST = 75.0
_FINE_PX = 5
_TILE_PX = 32


class CopyWatch:
    """Frames of a clip, one after another.

    Parameters
    ----------
    every : int, default 3
        Frames from one look at it to the next: no divisor of how a codec groups them, so that all kinds of
        its frames are looked at.
    """

    def __init__(self, every: int = 3) -> None:
        self._light: deque[npt.ArrayLike] = deque(maxlen=APART + 1)
        self._every, self._next = every, APART + 1
        self._count = 0
        self._shares: list[float] = []

    def add(self, light: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        light : ndarray of float, shape (h, w)
            Linear light.
        """
        self._count += 1
        self._light.append(light)
        if self._count == self._next:
            self._next += self._every
            latest, before, first = (self._fine(self._light[place]) for place in (-1, -2, 0))
            near, far = self._power(latest - before), self._power(latest - first)
            self._shares.append(1.0 - float(np.median(near / np.maximum(far, 1e-12))))

    @staticmethod
    def _fine(light: npt.ArrayLike) -> Image:
        stops = stops_of(light)
        return np.asarray(stops - cv2.blur(stops, (_FINE_PX, _FINE_PX)), np.float32)

    @staticmethod
    def _power(differs: Image) -> Image:
        rows, columns = (max(1, side // _TILE_PX) for side in differs.shape)
        cut = differs[: rows * _TILE_PX, : columns * _TILE_PX]
        return np.asarray(cv2.resize(cut * cut, (columns, rows), interpolation=cv2.INTER_AREA), np.float32)

    def share(self) -> float:
        """How much of the noise of a frame is that of the one before.

        Returns
        -------
        float
            0 where each frame is recorded by itself, to 1; 0 where there are fewer than nine. A codec copies
            some kinds of its frames more than others: it is told of the quarter that is copied most.

        References
        ----------
        photon_transfer

        Examples
        --------
        >>> dice = np.random.default_rng(1)
        >>> watch = CopyWatch()
        >>> for frame in range(18):
        ...     watch.add(0.18 + 0.01 * dice.standard_normal((64, 96)))
        >>> watch.share() < 0.1
        True
        """
        return min(1.0, max(0.0, float(np.percentile(self._shares, _MOST)))) if self._shares else 0.0
