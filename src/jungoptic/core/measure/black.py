"""An element filmed on black: is black black, what clips, does it touch the edge, and how its light goes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from .pixels import Array

_BORDER = 0.03
"""Of the shorter side, all around."""
_CLIPPED = 0.985
_TOUCHES = 0.004
"""Of the border that is well over its black."""
_OVER = 0.02
_BURNS = 0.0005
_QUANTILE = 99.0


@dataclass(frozen=True, slots=True)
class OnBlack:
    """An element on black over its frames: the 99th of 100 of its border, share of white; the most that is
    clipped in a frame, share of the frame; the frames in which it touches an edge, with the edge; its first
    and last frame; and its light, the mean of the frame over its black (n), shares of white.
    """

    black: float
    clipped: float
    clipped_frame: int
    touches: tuple[tuple[int, str], ...]
    first: int | None
    last: int | None
    light: Array


class BlackWatch:
    """Frames of an element on black, one after another."""

    def __init__(self) -> None:
        self._black: list[float] = []
        self._clipped: list[float] = []
        self._sides: list[tuple[float, ...]] = []
        self._mean: list[float] = []
        self._bright: list[float] = []

    def add(self, light: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        light : ndarray of float, shape (h, w)
            Linear light of its brightest channel, 1 is white.
        """
        seen = np.asarray(light, np.float32)
        wide = max(2, round(_BORDER * min(seen.shape)))
        sides = (seen[:, :wide], seen[:, -wide:], seen[:wide], seen[-wide:])
        border = np.concatenate([side.ravel() for side in sides])
        self._black.append(float(np.percentile(border, _QUANTILE)))
        self._clipped.append(float((seen > _CLIPPED).mean()))
        self._sides.append(tuple(float((side > _OVER + float(np.median(border))).mean()) for side in sides))
        self._mean.append(float(seen.mean()) - float(np.median(border)))
        self._bright.append(float((seen > _OVER + float(np.median(border))).mean()))

    def told(self) -> OnBlack:
        """What they come to.

        Returns
        -------
        OnBlack
            Frames are counted from 0.

        Raises
        ------
        ValueError
            Where no frame was added.

        References
        ----------
        black_level

        Examples
        --------
        >>> watch = BlackWatch()
        >>> for size in (0, 4, 8):
        ...     frame = np.zeros((60, 100))
        ...     frame[30 - size : 30 + size, 40 : 40 + 2 * size] = 0.5
        ...     watch.add(frame)
        >>> seen = watch.told()
        >>> seen.first, seen.last, seen.touches, seen.black
        (1, 2, (), 0.0)
        """
        if not self._black:
            raise ValueError("there is no frame in it")
        names = ("left", "right", "top", "bottom")
        touches = tuple(
            (frame, name)
            for frame, shares in enumerate(self._sides)
            for name, share in zip(names, shares, strict=True)
            if share > _TOUCHES
        )
        burning = np.flatnonzero(np.array(self._bright) > _BURNS)
        worst = int(np.argmax(self._clipped))
        return OnBlack(
            float(np.median(self._black)),
            self._clipped[worst],
            worst,
            touches,
            int(burning[0]) if len(burning) else None,
            int(burning[-1]) if len(burning) else None,
            np.array(self._mean),
        )
