"""How a camera stands over the frames of a clip: every frame held against the first, small and fast.

Tiles say by least squares how they are off (Lucas & Kanade's equations, those of the first frame, worked out
once); the middle of what they say is the camera, so that what moves before it weighs nothing.
"""

from __future__ import annotations

import math
from array import array

import cv2
import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import MAD, Array, Image

_TILE_PX = 15
_SMOOTH_PX, _AROUND_PX = 1.0, 12.0
_LEAST_TEXTURE = 0.35
"""Codes a px, root mean square, in the direction in which a tile has least: a flat one says nothing."""
_FEWEST, _SPREAD = 4, 0.12
"""Tiles that have to agree, and how far to both sides of their middle they lie, of the width (a deviation):
what is narrower is something that moves before a backing that says nothing.
"""
_ROUNDS, _DONE_PX = 3, 0.05
_FAR_PX = 6.0
"""What is off by more from one frame to the next is found by correlation."""
_LOST_PX = 1.5
"""Half of the tiles may be off by so much from what they all say; beyond it nothing is shared."""
_BIAS = 0.03
_CODEC = 1.5
"""Tiles of a compressed picture are not off independently."""
_ALIKE = 0.5
"""Of a tile's texture what is left when it is laid right, at most; of two things it is 2."""
_LEAST = (0.02, 0.01)
"""px and °: what laying a picture between its pixels leaves."""
_STRAYS = 0.004
"""Of the width."""
_LOST = (math.nan, math.nan, math.nan)
_UNKNOWN = (math.nan, math.nan)


class ShakeWatch:
    """Frames of a clip, one after another, each against the first."""

    def __init__(self) -> None:
        self._first: Image = np.zeros((0, 0), np.float32)
        self._across: Image = np.zeros(0, np.float32)
        self._down: Image = np.zeros(0, np.float32)
        self._squares: Array = np.zeros(0)
        self._speaks: npt.NDArray[np.bool_] = np.zeros(0, bool)
        self._places: Array = np.zeros(0)
        self._texture: Array = np.zeros(0)
        self._last = np.zeros(3)
        self._path, self._off = array("d"), array("d")

    def add(self, codes: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        codes : ndarray of uint8, shape (h, w)
            Codes of luma, of a small picture: 240 px wide or so.
        """
        seen = _without_light(np.asarray(codes))
        if not self._first.size:
            self._begin(seen)
        self._follow(seen)

    def path(self) -> Array:
        """How the camera stands against the first frame.

        Returns
        -------
        ndarray of float, shape (n, 3)
            By frame: how far the picture went to the right and down, px, and turned clockwise, °; NaN where
            nothing is shared with the first.

        References
        ----------
        lucas_kanade

        Examples
        --------
        >>> board = cv2.GaussianBlur(np.random.default_rng(3).random((120, 200), np.float32), (0, 0), 2.0)
        >>> codes = np.uint8(255 * (board - board.min()) / np.ptp(board))
        >>> watch = ShakeWatch()
        >>> for frame in range(3):
        ...     watch.add(np.roll(codes, frame, axis=1))
        >>> watch.path()[:, 0].round(1).tolist()
        [0.0, 1.0, 2.0]
        """
        return np.array(self._path, np.float64).reshape(-1, 3)

    def off(self) -> tuple[float, float]:
        """How well that is known.

        Returns
        -------
        tuple of (float, float)
            Two deviations of a shift along one side, px, and of a turn, °.

        References
        ----------
        lucas_kanade

        Examples
        --------
        >>> ShakeWatch().off()
        (0.02, 0.01)
        """
        off = np.array(self._off, np.float64).reshape(-1, 2)
        known = off[np.isfinite(off[:, 0])]
        return (float(np.median(known[:, 0])), float(np.median(known[:, 1]))) if len(known) else _LEAST

    def held(self) -> bool:
        """Whether the camera stood still: where it goes farther, it brings other things to either side.

        Returns
        -------
        bool
            True too where nothing says how it went.

        References
        ----------
        lucas_kanade

        Examples
        --------
        >>> ShakeWatch().held()
        True
        """
        path = self.path()
        return not bool((np.hypot(path[:, 0], path[:, 1]) > _STRAYS * self._first.shape[1]).any())

    def _begin(self, seen: Image) -> None:
        self._first = seen
        self._across = np.asarray(cv2.Sobel(seen, cv2.CV_32F, 1, 0, scale=0.125), np.float32)
        self._down = np.asarray(cv2.Sobel(seen, cv2.CV_32F, 0, 1, scale=0.125), np.float32)
        xx, xy, yy = (
            self._tiles(a * b)
            for a, b in (
                (self._across, self._across),
                (self._across, self._down),
                (self._down, self._down),
            )
        )
        self._squares = np.stack([np.stack([xx, xy], -1), np.stack([xy, yy], -1)], -2)
        least = (xx + yy) / 2.0 - np.sqrt(((xx - yy) / 2.0) ** 2 + xy**2)
        self._texture = np.maximum(self._tiles(seen * seen), 1e-6)
        self._speaks = least > _LEAST_TEXTURE**2
        rows, columns = self._grid(seen)
        height, width = seen.shape
        y, x = np.indices((rows, columns)).reshape(2, -1) + 0.5
        self._places = np.stack([(x * width / columns) - width / 2.0, (y * height / rows) - height / 2.0], -1)

    @staticmethod
    def _grid(seen: Image) -> tuple[int, int]:
        return max(1, seen.shape[0] // _TILE_PX), max(1, seen.shape[1] // _TILE_PX)

    def _tiles(self, values: Image) -> Array:
        rows, columns = self._grid(values)
        means = cv2.resize(values, (columns, rows), interpolation=cv2.INTER_AREA)
        return np.asarray(means, np.float64).ravel()

    def _follow(self, seen: Image) -> None:
        if self._speaks.sum() < _FEWEST:
            self._path.extend(_LOST)
            return
        stands, off = self._laid(seen, self._last)
        if not math.isfinite(off[0]):
            stands, off = self._laid(seen, self._found_anew(seen))
        self._off.extend(off)
        if math.isfinite(off[0]):
            self._last = stands
            self._path.extend((float(stands[0]), float(stands[1]), float(np.rad2deg(stands[2]))))
        else:
            self._path.extend(_LOST)

    def _found_anew(self, seen: Image) -> Array:
        (x, y), _ = cv2.phaseCorrelate(self._first, seen)
        return np.array([x, y, 0.0])

    def _laid(self, seen: Image, begins: Array) -> tuple[Array, tuple[float, float]]:
        """How a frame stands, from a first guess on; and two deviations of it, NaN where it is lost."""
        stands = begins.copy()
        off = _UNKNOWN
        for _ in range(_ROUNDS):
            back = self._back(seen, stands)
            step, off = self._step(back, stands)
            stands = stands + step
            if not math.isfinite(off[0]) or np.hypot(*step[:2]) < _DONE_PX:
                break
        return stands, off if self._alike(back, stands) else _UNKNOWN

    def _alike(self, back: Image, stands: Array) -> bool:
        """Whether a frame, laid back, shows what the first does."""
        speaks = self._shared(stands)
        if speaks.sum() < _FEWEST:
            return False
        differs = back - self._first
        return float(np.median(self._tiles(differs * differs)[speaks] / self._texture[speaks])) < _ALIKE

    def _shared(self, stands: Array) -> npt.NDArray[np.bool_]:
        """The tiles that say something and lie in both."""
        height, width = self._first.shape
        reach = np.abs(self._places + stands[:2])
        inside = (reach[:, 0] < width / 2.0 - _TILE_PX) & (reach[:, 1] < height / 2.0 - _TILE_PX)
        return np.asarray(self._speaks & inside, bool)

    def _back(self, seen: Image, stands: Array) -> Image:
        """A frame laid back on the first, as it is thought to stand."""
        if not stands.any():
            return seen
        x, y, turn = stands
        height, width = seen.shape
        cos, sin = math.cos(turn), math.sin(turn)
        middle = np.array([(width - 1) / 2.0, (height - 1) / 2.0])
        turned = np.array([[cos, -sin], [sin, cos]])
        transform = np.column_stack([turned, middle + np.array([x, y]) - turned @ middle])
        return np.asarray(
            cv2.warpAffine(seen, transform, (width, height), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP),
            np.float32,
        )

    def _step(self, back: Image, stands: Array) -> tuple[Array, tuple[float, float]]:
        """How a frame, laid back, is still off: a shift and a turn, and their errors; NaN where lost."""
        speaks = self._shared(stands)
        if speaks.sum() < _FEWEST:
            return np.zeros(3), _UNKNOWN
        differs = back - self._first
        sums = np.stack([self._tiles(self._across * differs), self._tiles(self._down * differs)], -1)
        left = -np.linalg.solve(self._squares[speaks], sums[speaks][..., None])[..., 0]
        places = self._places[speaks]
        shift = np.median(left, axis=0)
        apart = np.hypot(*(left - shift).T)
        scatter = float(np.median(apart))
        if scatter > _LOST_PX or float(np.hypot(*shift)) > _FAR_PX:
            return np.zeros(3), _UNKNOWN
        agrees = apart <= 2.0 * MAD * scatter + 1e-3
        if agrees.sum() < _FEWEST or float(places[agrees, 0].std()) < _SPREAD * back.shape[1]:
            return np.zeros(3), _UNKNOWN
        turn = self._turn(places[agrees], left[agrees])
        crossed = np.stack([-places[:, 1], places[:, 0]], -1)
        shift = np.mean((left - turn * crossed)[agrees], axis=0)
        rest = np.hypot(*(left - turn * crossed - shift)[agrees].T)
        scatter = TWICE * _CODEC * float(np.sqrt(np.mean(rest**2) / 2.0))
        span = float(np.sqrt((places[agrees] ** 2).sum()))
        off = (
            math.hypot(scatter / math.sqrt(agrees.sum()), _BIAS * float(np.hypot(*shift)), _LEAST[0]),
            math.hypot(math.degrees(scatter / max(span, 1e-9)), _LEAST[1]),
        )
        return np.array([shift[0], shift[1], turn]), off

    @staticmethod
    def _turn(places: Array, left: Array) -> float:
        """Radians, by least squares over the tiles that agree."""
        about = places - places.mean(axis=0)
        away = left - left.mean(axis=0)
        squares = float((about**2).sum())
        return float((about[:, 0] * away[:, 1] - about[:, 1] * away[:, 0]).sum() / max(squares, 1e-9))


def _without_light(codes: npt.NDArray[np.uint8]) -> Image:
    """Smoothed, and without what is as wide as a lamp's light: that a lamp goes up moves nothing."""
    seen = np.asarray(codes, np.float32)
    fine = cv2.GaussianBlur(seen, (0, 0), _SMOOTH_PX)
    around = 2 * int(_AROUND_PX) + 1
    return np.asarray(fine - cv2.blur(fine, (around, around)), np.float32)
