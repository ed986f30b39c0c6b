"""How many keys an outline that is cut by hand wants, frame by frame."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Array, Mask, smoothed

POINTS = 96
"""To which an outline is thinned."""
_LEAST_AREA = 64
_LONGEST = 48
_DEAR = 1.5
_BESIDE_PX, _RIM_PX = 7, 9
_GRID_PX = 0.5
"""How far off an outline along whole pixels may be by itself."""


@dataclass(frozen=True, slots=True)
class KeySpan:
    """Frames from one key to the next, and how far the outline is off between them at most, px."""

    first: int
    last: int
    off_px: float


@dataclass(frozen=True, slots=True)
class MatteKeys:
    """The fewest keys so that the outline between them stays within a tolerance: their frames, the spans, how
    many shapes there are at once, and the spans that are dear: keys lie closer there than on average.
    """

    keys: tuple[int, ...]
    spans: tuple[KeySpan, ...]
    shapes: float
    dear: tuple[tuple[int, int], ...]

    def hours(self, minutes_a_key: float) -> float:
        """What cutting them takes.

        Parameters
        ----------
        minutes_a_key : float
            Of one shape.

        Returns
        -------
        float
            Hours.

        References
        ----------
        hours

        Examples
        --------
        >>> MatteKeys((0, 5, 9), (), 2.0, ()).hours(10.0)
        1.0
        """
        return len(self.keys) * self.shapes * minutes_a_key / 60.0


def outline_of(mask: npt.ArrayLike) -> tuple[Array | None, int]:
    """The outline of the largest thing in a mask.

    Parameters
    ----------
    mask : ndarray of bool, shape (h, w)
        Where something is.

    Returns
    -------
    tuple of (ndarray or None, int)
        Its points (96, 2), px, evenly along it, and how many things there are.

    Examples
    --------
    >>> square = np.zeros((60, 60), bool)
    >>> square[20:40, 20:40] = True
    >>> points, count = outline_of(square)
    >>> points.shape, count
    ((96, 2), 1)
    """
    lines = [
        line.reshape(-1, 2)
        for line in cv2.findContours(np.asarray(mask, np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)[0]
        if cv2.contourArea(line) >= _LEAST_AREA
    ]
    if not lines:
        return None, 0
    return _evenly(max(lines, key=cv2.contourArea).astype(np.float64)), len(lines)


def _evenly(line: Array) -> Array:
    """So many points of a closed line, evenly along it, from its topmost on."""
    closed = np.concatenate([line, line[:1]])
    steps = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    places = np.arange(POINTS) / POINTS * steps[-1]
    return np.column_stack([np.interp(places, steps, closed[:, axis]) for axis in (0, 1)])


def _follow(before: Array, after: Array) -> Array:
    """The points of an outline in the order of those of the one before it."""
    centred = [each - each.mean(axis=0) for each in (before, after)]
    rolled = [float((centred[0] * np.roll(centred[1], -shift, axis=0)).sum()) for shift in range(POINTS)]
    return np.roll(after, -int(np.argmax(rolled)), axis=0)


def _off_px(outline: Array, other: Array) -> float:
    """How far a closed line is off another: its points, most of them, from the nearest place of the other."""
    starts, ends = other, np.roll(other, -1, axis=0)
    along = ends - starts
    length2 = np.maximum((along**2).sum(axis=1), 1e-9)
    to = outline[:, None] - starts[None]
    share = np.clip((to * along).sum(axis=2) / length2, 0.0, 1.0)
    apart = np.hypot(*np.moveaxis(to - share[..., None] * along, 2, 0)).min(axis=1)
    return float(np.quantile(apart, 0.95))


def matte_keys(masks: Sequence[npt.ArrayLike], within_px: float = 1.0) -> MatteKeys:
    """The fewest keys of an outline that is interpolated between them.

    Parameters
    ----------
    masks : sequence of (ndarray of bool, shape (h, w))
        Where the thing is, frame by frame; empty where it is not there.
    within_px : float, default 1
        How far the outline may be off between two keys.

    Returns
    -------
    MatteKeys
        Each key is as far from the one before as it may be.

    Raises
    ------
    ValueError
        Where there is nothing in any.

    References
    ----------
    hours

    Examples
    --------
    >>> frames = []
    >>> for x in range(0, 30, 3):
    ...     frame = np.zeros((60, 100), bool)
    ...     frame[20:40, 20 + x : 40 + x] = True
    ...     frames.append(frame)
    >>> matte_keys(frames).keys
    (0, 9)
    """
    outlines = [outline_of(mask) for mask in masks]
    there = [index for index, (line, _) in enumerate(outlines) if line is not None]
    if not there:
        raise ValueError("there is nothing in it to be cut out")
    lines: dict[int, Array] = {}
    for index in there:
        line = outlines[index][0]
        assert line is not None
        lines[index] = _follow(lines[index - 1], line) if index - 1 in lines else line
    keys: list[int] = []
    spans: list[KeySpan] = []
    for first, last in _runs(there):
        keys.append(first)
        while keys[-1] < last:
            after, off = _farthest(lines, keys[-1], last, within_px)
            spans.append(KeySpan(keys[-1], after, off))
            keys.append(after)
    shapes = float(np.mean([outlines[index][1] for index in there]))
    return MatteKeys(tuple(keys), tuple(spans), shapes, _dear(spans))


def _runs(there: list[int]) -> list[tuple[int, int]]:
    ends = [index for index, frame in enumerate(there) if not index or there[index - 1] != frame - 1]
    return [(there[begin], there[end - 1]) for begin, end in zip(ends, [*ends[1:], len(there)], strict=True)]


def _farthest(lines: dict[int, Array], first: int, last: int, within_px: float) -> tuple[int, float]:
    """The farthest key after one so that all between them stays within; and how far that is off."""
    best = first + 1, 0.0
    misses = 0
    for after in range(first + 2, min(last, first + _LONGEST) + 1):
        off = 0.0
        for frame in range(first + 1, after):
            share = (frame - first) / (after - first)
            off = max(off, _off_px(lines[frame], (1.0 - share) * lines[first] + share * lines[after]))
            if off > within_px + _GRID_PX:
                break
        if off <= within_px + _GRID_PX:
            best, misses = (after, off), 0
        else:
            misses += 1
            if misses > 3:
                break
    return best


def _dear(spans: list[KeySpan]) -> tuple[tuple[int, int], ...]:
    """Stretches whose keys lie closer together than on average."""
    if len(spans) < 3:
        return ()
    mean = float(np.mean([each.last - each.first for each in spans]))
    told: list[tuple[int, int]] = []
    for each in spans:
        if (each.last - each.first) * _DEAR > mean:
            continue
        if told and told[-1][1] == each.first:
            told[-1] = told[-1][0], each.last
        else:
            told.append((each.first, each.last))
    return tuple(told)


def differs(light: npt.ArrayLike, plate: npt.ArrayLike, sigma: float = 0.02) -> Mask:
    """Where a frame is not its clean plate.

    Parameters
    ----------
    light, plate : ndarray of float, shape (h, w, 3)
        Linear light, the plate laid onto the frame.
    sigma : float, default 0.02
        Noise at white, share of it.

    Returns
    -------
    ndarray of bool, shape (h, w)
        Freed of specks, holes closed.

    References
    ----------
    cutting_out

    Examples
    --------
    >>> plate = np.full((60, 100, 3), 0.2, np.float32)
    >>> frame = plate.copy()
    >>> frame[20:40, 30:60] = 0.5
    >>> int(differs(frame, plate)[:, 45].sum())
    20
    """
    seen, behind = np.asarray(light, np.float32), np.asarray(plate, np.float32)
    away = smoothed(np.abs(seen - behind).max(axis=2), 0.8)
    limit = np.maximum(4.0 * sigma * np.sqrt(np.maximum(behind.max(axis=2), 0.02)), 0.12 * behind.max(axis=2))
    away = np.nan_to_num(away)
    over = (away > limit).astype(np.uint8)
    # its rim is where half of the difference beside it is left; what it is inside does not matter
    beside = cv2.dilate(away, np.ones((_BESIDE_PX, _BESIDE_PX), np.uint8))
    inside = cv2.erode(over, np.ones((_RIM_PX, _RIM_PX), np.uint8))
    over &= (away > 0.5 * beside) | (inside > 0)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5))
    closed = cv2.morphologyEx(over, cv2.MORPH_CLOSE, kernel)
    return np.asarray(cv2.morphologyEx(closed, cv2.MORPH_OPEN, kernel) > 0)
