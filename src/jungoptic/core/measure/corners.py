"""Where the corners of a coloured sheet are in a picture."""

from __future__ import annotations

import math

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Array, Image, Mask, smoothed

_WIDE_PX = 960
_COLOURED = 0.6
"""Stops by which a sheet's channel is over both others."""
_ITS_OWN = 0.5
"""Of that of most of the sheet: in shade it has less."""
_FLOOR = 0.004
_LEAST_SHARE, _REGION_SHARE = 0.02, 0.08
_RIM_PX = 4.0
_FILLS = 0.75
"""Of its four corners' area a sheet fills at least so much, with whoever stands before it."""
_SIDES = 4
_PLACES, _REACH_PX, _STEPS, _END = 48, 9.0, 73, 12
_EDGE_SHARE, _FEWEST, _ROUNDS = 0.4, 8, 4
_CLOSE_PX = 9


def sheet_corners(light: npt.ArrayLike, channel: int) -> Array | None:
    """Where the four corners of a coloured sheet are, as a proposal.

    What has its colour, and holds together, is brought within a hull; the four sides that close around it
    with least to spare are its own.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.
    channel : int
        In which it is lightest: 0 red, 1 green, 2 blue.

    Returns
    -------
    ndarray or None
        ndarray, shape (4, 2): px, clockwise from the top left. None where too little has the colour, or what
        has it runs out of the picture or is no sheet.

    References
    ----------
    four_points

    Examples
    --------
    >>> studio = np.full((180, 320, 3), (0.1, 0.1, 0.12), np.float32)
    >>> _ = cv2.fillConvexPoly(
    ...     studio, np.array([(60, 20), (250, 40), (250, 150), (60, 160)]), (0.05, 0.4, 0.08)
    ... )
    >>> sheet_corners(studio, 1).round(-1).astype(int).tolist()
    [[60, 20], [250, 40], [250, 150], [60, 160]]
    """
    whole = np.asarray(light, np.float32)
    share = min(1.0, _WIDE_PX / max(whole.shape[:2]))
    small = np.asarray(cv2.resize(whole, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), np.float32)
    mask = _of_sheet(small, channel)
    if mask is None:
        return None
    outline = max(
        cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)[0],
        key=cv2.contourArea,
    )
    hull = cv2.convexHull(outline)
    if len(hull) < _SIDES:
        return None
    corners = _in_order(np.asarray(cv2.approxPolyN(hull, _SIDES, ensure_convex=True), np.float64))
    height, width = mask.shape
    if _runs_out(np.asarray(hull, np.float64).reshape(-1, 2), width, height):
        return None
    if cv2.contourArea(outline) < _FILLS * cv2.contourArea(corners.astype(np.float32)):
        return None
    excess = np.ascontiguousarray(_excess(small, channel))
    return np.asarray((_refined(excess, corners) + 0.5) / share - 0.5)


def _excess(light: Image, channel: int) -> Image:
    others = [each for each in range(3) if each != channel]
    return np.asarray(light[..., channel] - light[..., others].max(axis=2), np.float32)


def _refined(excess: Image, corners: Array) -> Array:
    """Corners where the lines meet along which the sheet really ends: every side is laid through the places
    at which its colour is half gone; where somebody stands before it, these lie off the line and count for
    nothing.
    """
    lines = []
    for first, second in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        along = (second - first) / max(float(np.linalg.norm(second - first)), 1e-9)
        normal = np.array([along[1], -along[0]])  # outward, as they go clockwise
        starts = first + np.linspace(0.06, 0.94, _PLACES)[:, None] * (second - first)
        reach = np.linspace(-_REACH_PX, _REACH_PX, _STEPS)
        grid = starts[:, None, :] + reach[None, :, None] * normal
        x, y = np.moveaxis(grid, -1, 0).astype(np.float32)
        seen = np.asarray(cv2.remap(excess, x, y, cv2.INTER_LINEAR), np.float64)
        inner, outer = seen[:, :_END].mean(axis=1), seen[:, -_END:].mean(axis=1)
        ends = inner - outer > _EDGE_SHARE * np.maximum(inner, 1e-3)
        half = seen > ((inner + outer) / 2.0)[:, None]
        last = _STEPS - 1 - np.argmax(half[:, ::-1], axis=1)
        told = starts[ends] + reach[np.minimum(last, _STEPS - 2)][ends, None] * normal
        lines.append(_through(told, first, along))
    return np.array([_meet(lines[nth - 1], lines[nth], corners[nth]) for nth in range(len(corners))])


def _through(places: Array, point: Array, along: Array) -> tuple[Array, Array]:
    """The line through most of the places; the one that was there where there are too few."""
    if len(places) < _FEWEST:
        return point, along
    kept = places
    for _ in range(_ROUNDS):
        middle = kept.mean(axis=0)
        along = np.linalg.svd(kept - middle)[2][0]
        off = np.abs((places - middle) @ np.array([along[1], -along[0]]))
        near = places[off <= max(2.5 * float(np.median(off)), 0.5)]
        if len(near) < _FEWEST:
            break
        kept = near
    return kept.mean(axis=0), along


def _meet(one_line: tuple[Array, Array], other: tuple[Array, Array], usual: Array) -> Array:
    """Where two lines cross; the usual place where that is far from it."""
    (a, u), (b, v) = one_line, other
    sides = np.array([u, -v]).T
    if abs(float(np.linalg.det(sides))) < 1e-6:
        return usual
    cross = a + np.linalg.solve(sides, b - a)[0] * u
    return cross if float(np.linalg.norm(cross - usual)) < _REACH_PX else usual


def sheet_region(light: npt.ArrayLike) -> tuple[float, float, float, float] | None:
    """Where a green or a blue sheet is in a picture: what is around all of it.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.

    Returns
    -------
    tuple of float or None
        Left, top, right and bottom, px; None where nothing that is large has such a colour.

    Examples
    --------
    >>> studio = np.full((180, 320, 3), (0.1, 0.1, 0.12), np.float32)
    >>> studio[20:160, 60:260] = (0.05, 0.08, 0.4)
    >>> [round(each, -1) for each in sheet_region(studio)]
    [60.0, 20.0, 260.0, 160.0]
    """
    whole = np.asarray(light, np.float32)
    masks = [mask for channel in (1, 2) if (mask := _of_sheet(whole, channel)) is not None]
    if not masks:
        return None
    mask = max(masks, key=np.count_nonzero)
    if np.count_nonzero(mask) < _REGION_SHARE * mask.size:
        return None
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    return float(columns[0]), float(rows[0]), float(columns[-1] + 1), float(rows[-1] + 1)


def _of_sheet(light: Image, channel: int) -> Mask | None:
    """The largest piece that has the colour of a sheet."""
    over = _over_others(light, channel)
    mask = _largest(over > _COLOURED)
    if mask is None:
        return None
    # what is only greenish stands before it or beside it
    return _largest(mask & (over > _ITS_OWN * float(np.median(over[mask]))))


def _over_others(light: Image, channel: int) -> Image:
    """By how many stops a channel is over both others; near black by none."""
    smooth = np.maximum(smoothed(light, 1.0), 0.0) + _FLOOR
    others = [each for each in range(3) if each != channel]
    return np.asarray(np.log2(smooth[..., channel] / smooth[..., others].max(axis=2)), np.float32)


def _largest(mask: Mask) -> Mask | None:
    """The largest piece of it, small gaps closed; None where that is little."""
    kernel = np.ones((_CLOSE_PX, _CLOSE_PX), np.uint8)
    closed = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_CLOSE, kernel)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(closed, connectivity=4)
    if count < 2:  # all of it is what is not of the colour
        return None
    most = 1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())
    if stats[most, cv2.CC_STAT_AREA] < _LEAST_SHARE * mask.size:
        return None
    return np.asarray(labels == most)


def _in_order(corners: Array) -> Array:
    """Clockwise as it is seen, from the one that is nearest to the top left."""
    points = corners.reshape(-1, 2)
    x, y = (points - points.mean(axis=0)).T
    points = points[np.argsort(np.arctan2(y, x))]
    return np.asarray(np.roll(points, -int(points.sum(axis=1).argmin()), axis=0))


def _runs_out(hull: Array, width: int, height: int) -> bool:
    """Whether it touches the rim of the picture along a good part of a side."""
    following = np.roll(hull, -1, axis=0)
    for axis, end in ((0, width - 1), (1, height - 1)):
        for rim in (0.0, float(end)):
            here = np.abs(hull[:, axis] - rim) < _RIM_PX
            both = here & (np.abs(following[:, axis] - rim) < _RIM_PX)
            along = sum(math.dist(a, b) for a, b in zip(hull[both], following[both], strict=True))
            if along > 0.05 * (width if axis else height):
                return True
    return False
