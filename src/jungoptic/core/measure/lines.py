"""Straight edges in a photograph that run the three ways of what is built at right angles, as a proposal."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Array, Mask, brightness

Stretch = tuple[tuple[float, float], tuple[float, float]]

_WORKING_PX = 1600
_LEAST_LONG = 0.03
"""Of the picture's width."""
_UPRIGHT_DEG = 25.0
_AGREES_DEG = 1.0
_TRIED = 60
"""Longest lines of which pairs are tried."""
_FEWEST = 3
_MOST = 12


@dataclass(frozen=True, slots=True)
class EdgesFound:
    """Straight edges by the way that they run: away from the lens, level across, and upright; each from a
    place to a place, px.
    """

    away: tuple[Stretch, ...]
    across: tuple[Stretch, ...]
    upright: tuple[Stretch, ...]


def edges_found(picture: npt.ArrayLike) -> EdgesFound:
    """The straight edges of a photograph, by the way that they run.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w) or (h, w, 3)
        Signal or light, 1 is white.

    Returns
    -------
    EdgesFound
        The longest of each way that run to one point, at most twelve; none where fewer than three do.

    References
    ----------
    line_segments, caprile_torre

    Examples
    --------
    >>> picture = np.zeros((600, 800))
    >>> for x in range(100, 800, 200):
    ...     picture[:, x : x + 60] = 0.8
    >>> len(edges_found(picture).upright) >= 3
    True
    """
    grey = brightness(picture)
    share = min(1.0, _WORKING_PX / max(grey.shape))
    small = cv2.resize(grey, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
    codes = np.clip(255.0 * small, 0, 255).astype(np.uint8)
    segments = cv2.createLineSegmentDetector().detect(codes)[0]
    if segments is None:
        return EdgesFound((), (), ())
    lines = np.asarray(segments, np.float64).reshape(-1, 4)
    lines = (lines + 0.5) / share - 0.5
    along = lines[:, 2:] - lines[:, :2]
    lengths = np.hypot(along[:, 0], along[:, 1])
    keep = lengths > _LEAST_LONG * grey.shape[1]
    lines, along, lengths = lines[keep], along[keep], lengths[keep]
    steep = np.degrees(np.arctan2(np.abs(along[:, 0]), np.abs(along[:, 1]))) < _UPRIGHT_DEG
    upright = _agreeing(lines[steep], lengths[steep])
    rest, rest_long = lines[~steep], lengths[~steep]
    first = _agreeing(rest, rest_long)
    second = _agreeing(rest[~first], rest_long[~first])
    ways = [rest[first], rest[~first][second]]
    ways.sort(key=lambda each: _far_off(each, grey.shape))
    return EdgesFound(
        _longest(ways[0]) if len(ways[0]) else (),
        _longest(ways[1]) if len(ways[1]) else (),
        _longest(lines[steep][upright]),
    )


def _homogeneous(lines: Array) -> Array:
    starts, ends = (np.column_stack([each, np.ones(len(lines))]) for each in (lines[:, :2], lines[:, 2:]))
    crossed = np.cross(starts, ends)
    return np.asarray(crossed / np.linalg.norm(crossed[:, :2], axis=1, keepdims=True), np.float64)


def _off_deg(lines: Array, point: Array) -> Array:
    """By how much each line misses a point, seen from its middle, degrees."""
    middles = (lines[:, :2] + lines[:, 2:]) / 2.0
    to = point[:2] - point[2] * middles
    along = lines[:, 2:] - lines[:, :2]
    crossed = np.abs(to[:, 0] * along[:, 1] - to[:, 1] * along[:, 0])
    return np.asarray(np.degrees(np.arctan2(crossed, np.abs((to * along).sum(axis=1)))), np.float64)


def _agreeing(lines: Array, lengths: Array) -> Mask:
    """Which lines run to the one point that most of their length runs to."""
    best, agree = 0.0, np.zeros(len(lines), bool)
    if len(lines) < _FEWEST:
        return agree
    planes = _homogeneous(lines)
    longest = np.argsort(-lengths)[:_TRIED]
    for a, b in combinations(longest, 2):
        point = np.cross(planes[a], planes[b])
        if not point.any():
            continue
        near = _off_deg(lines, point) < _AGREES_DEG
        weight = float(lengths[near].sum())
        if near.sum() >= _FEWEST and weight > best:
            best, agree = weight, near
    return agree


def _far_off(lines: Array, shape: tuple[int, ...]) -> float:
    """How far off the middle of the picture lines meet, widths; far for none."""
    if len(lines) < 2:
        return 1e9
    point = np.linalg.svd(_homogeneous(lines))[2][-1]
    if abs(point[2]) < 1e-12:
        return 1e8
    return float(np.hypot(*(point[:2] / point[2] - np.array(shape[1::-1]) / 2.0)) / shape[1])


def _longest(lines: Array) -> tuple[Stretch, ...]:
    lengths = np.hypot(*(lines[:, 2:] - lines[:, :2]).T)
    kept = lines[np.argsort(-lengths)[:_MOST]]
    return tuple(((float(a), float(b)), (float(c), float(d))) for a, b, c, d in kept)
