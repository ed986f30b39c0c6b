"""What can be found in a picture by itself and is proposed as a mark: a sheet, a ball, a card, an edge."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from .ball import grey_ball_light, round_things
from .corners import sheet_region
from .edge import edge_of
from .pixels import Image, Mask, brightness, smoothed

MarkFound = Literal["backing", "ball", "card", "edge", "grain", "point"]
Place = tuple[float, float]
_WIDE_PX = 960
_FITS = 0.06
"""Of a grey ball's shading: what a fit leaves of it, against the key."""
_ROUND, _INSIDE, _MOST_NEUTRAL = 12, 0.9, 0.97
_LEAST_ROUND_PX, _ROUND_FILLS = 12.0, 0.85
_NEUTRAL_STOPS, _FLOOR = 0.25, 0.004
_CARD_LEAST, _CARD_MOST, _CARD_FILLS = 0.002, 0.12, 0.88
"""Shares of the picture, and of the upright or turned rectangle around a card."""
_CARD_DARK, _CARD_LIGHT = 0.03, 0.6
_PLAIN = 0.03
"""How much the light of a card changes over 8 px, against itself."""
_EDGES, _EDGE_LONG, _EDGE_BOX = 24, 0.05, 0.5
_OFF_AXIS_DEG = 2.5
"""An edge that runs along the pixels says less of a lens."""
_EVEN_ACROSS, _POINT_ACROSS = 10, 24
"""Of the width: one part in so many."""
_MIDDLE = 0.8


def proposals(light: npt.ArrayLike) -> dict[MarkFound, tuple[Place, Place]]:
    """What might be marked in a picture.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.

    Returns
    -------
    dict of str to tuple
        Two opposite corners of a region, shares of the frame, by what it is of; what is not found is left
        out: ``backing`` a coloured sheet, ``ball`` a matt grey ball, ``card`` a neutral even card, ``edge`` a
        straight edge that is plain on both sides, ``grain`` the evenest part, ``point`` what is found again
        best.

    References
    ----------
    circle_fit, lambert, line_segments, edge_spread, good_features

    Examples
    --------
    >>> sheet = np.full((180, 320, 3), (0.1, 0.1, 0.12), np.float32)
    >>> sheet[20:160, 60:260] = (0.05, 0.4, 0.08)
    >>> (left, top), (right, low) = proposals(sheet)["backing"]
    >>> round(left, 1), round(top, 1), round(right, 1), round(low, 1)
    (0.2, 0.1, 0.8, 0.9)
    """
    whole = np.asarray(light, np.float32)
    share = min(1.0, _WIDE_PX / max(whole.shape[:2]))
    small = np.asarray(cv2.resize(whole, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), np.float32)
    height, width = small.shape[:2]
    told: dict[MarkFound, tuple[Place, Place]] = {}
    for kind, find in _FINDS.items():
        if (box := find(small)) is not None:
            left, top, right, low = box
            told[kind] = (
                (max(0.0, left / width), max(0.0, top / height)),
                (min(1.0, right / width), min(1.0, low / height)),
            )
    return told


Box = tuple[float, float, float, float]


def _ball(light: Image) -> Box | None:
    """The round thing that is neutral and best shaded as a matt ball is."""
    best: tuple[float, Box] | None = None
    neutral = _neutral(light)
    places = np.indices(light.shape[:2])[::-1]
    for x, y, radius in (*_round_pieces(neutral), *round_things(light, _ROUND)):
        inside = np.hypot(*(places - np.array([x, y])[:, None, None])) < _INSIDE * radius
        if neutral[inside].mean() < _MOST_NEUTRAL:
            continue
        try:
            fit = grey_ball_light(light, (x, y, radius))
        except ValueError:
            continue
        if fit.left < (best[0] if best else _FITS):
            best = fit.left, (x + 0.5 - radius, y + 0.5 - radius, x + 0.5 + radius, y + 0.5 + radius)
    return best[1] if best else None


def _round_pieces(mask: Mask) -> list[tuple[float, float, float]]:
    """Its pieces that fill the circle around them."""
    opened = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, np.ones((7, 7), np.uint8))
    circles = []
    for outline in cv2.findContours(opened, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)[0]:
        (x, y), radius = cv2.minEnclosingCircle(outline)
        if radius >= _LEAST_ROUND_PX and cv2.contourArea(outline) > _ROUND_FILLS * math.pi * radius**2:
            circles.append((float(x), float(y), float(radius)))
    return circles


def _neutral(light: Image) -> Mask:
    smooth = np.log2(np.maximum(smoothed(light, 1.5), 0.0) + _FLOOR)
    return np.asarray(np.ptp(smooth, axis=2) < _NEUTRAL_STOPS)


def _card(light: Image) -> Box | None:
    """The largest rectangle that is neutral and even, neither dark nor light."""
    smooth = smoothed(brightness(light), 1.5)
    kernel = np.ones((9, 9), np.uint8)
    changes = cv2.dilate(smooth, kernel) - cv2.erode(smooth, kernel)
    even = (changes < _PLAIN * smooth + 0.002) & _neutral(light)
    even &= (smooth > _CARD_DARK) & (smooth < _CARD_LIGHT)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(even.astype(np.uint8), connectivity=4)
    best: tuple[float, Box] | None = None
    for piece in range(1, count):
        area = float(stats[piece, cv2.CC_STAT_AREA])
        if not _CARD_LEAST * even.size < area < _CARD_MOST * even.size or (best and area < best[0]):
            continue
        outline = cv2.findContours(
            (labels == piece).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
        )[0][0]
        around = cv2.minAreaRect(outline)
        if area < _CARD_FILLS * max(around[1][0] * around[1][1], 1.0):
            continue
        # well inside of it, however it is turned
        (x, y), half = around[0], min(around[1]) / 2.0 * math.sqrt(0.5)
        best = area, (x - half, y - half, x + half, y + half)
    return best[1] if best else None


def _edge(light: Image) -> Box | None:
    """The straight edge with the least doubt about how sharp it is, of the longest."""
    grey = brightness(light)
    codes = np.clip(255.0 * np.sqrt(np.clip(grey, 0.0, 1.0)), 0, 255).astype(np.uint8)
    segments = cv2.createLineSegmentDetector().detect(codes)[0]
    lines = np.zeros((0, 4)) if segments is None else np.asarray(segments, np.float64).reshape(-1, 4)
    long = np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1])
    turned = np.degrees(np.arctan2(np.abs(lines[:, 3] - lines[:, 1]), np.abs(lines[:, 2] - lines[:, 0])))
    off_axis = np.minimum(turned, 90.0 - turned) > _OFF_AXIS_DEG
    height, width = grey.shape
    best: tuple[float, Box] | None = None
    for nth in np.argsort(-np.where(off_axis, long, 0.0))[:_EDGES]:
        if long[nth] < _EDGE_LONG * width or not off_axis[nth]:
            break
        box = _around(lines[nth], width, height)
        left, top, right, low = box
        try:
            edge = edge_of(grey[top:low, left:right])
        except ValueError:
            continue
        if best is None or edge.off_px < best[0]:
            best = edge.off_px, (float(left), float(top), float(right), float(low))
    return best[1] if best else None


def _around(line: npt.NDArray[np.float64], width: int, height: int) -> tuple[int, int, int, int]:
    """The middle half of an edge with as much on both sides of it, px."""
    x, y = (line[0] + line[2]) / 2.0, (line[1] + line[3]) / 2.0
    across, down = abs(line[2] - line[0]), abs(line[3] - line[1])
    half = _EDGE_BOX * max(across, down) / 2.0
    wide, tall = (max(half * 0.5, across * _EDGE_BOX / 2.0 + 6.0), half) if down > across else (half, 0.0)
    if down <= across:
        tall = max(half * 0.5, down * _EDGE_BOX / 2.0 + 6.0)
    left, right = max(0, int(x - wide)), min(width, math.ceil(x + wide))
    top, low = max(0, int(y - tall)), min(height, math.ceil(y + tall))
    return left, top, right, low


def _grain(light: Image) -> Box | None:
    """The part in which the light changes least, neither dark nor clipped."""
    grey = brightness(light)
    height, width = grey.shape
    side = max(8, width // _EVEN_ACROSS)
    smooth = smoothed(grey, 2.0)
    mean = cv2.boxFilter(smooth, cv2.CV_32F, (side, side))
    spread = cv2.boxFilter(smooth * smooth, cv2.CV_32F, (side, side)) - mean * mean
    told = np.sqrt(np.maximum(spread, 0.0)) / np.maximum(mean, 1e-4)
    told[(mean < _CARD_DARK) | (mean > _CARD_LIGHT)] = np.inf
    rim = side // 2 + 1
    inner = told[rim : height - rim, rim : width - rim]
    if not inner.size or not np.isfinite(inner).any():
        return None
    row, column = np.unravel_index(int(np.argmin(inner)), inner.shape)
    x, y = float(column + rim), float(row + rim)
    return x - side / 2.0, y - side / 2.0, x + side / 2.0, y + side / 2.0


def _point(light: Image) -> Box | None:
    """What has most texture, away from the rim: it is found again in every frame."""
    codes = np.clip(255.0 * np.sqrt(np.clip(brightness(light), 0.0, 1.0)), 0, 255).astype(np.uint8)
    height, width = codes.shape
    inside = np.zeros_like(codes)
    dx, dy = (round((1.0 - _MIDDLE) / 2.0 * side) for side in (width, height))
    inside[dy : height - dy, dx : width - dx] = 1
    corners = cv2.goodFeaturesToTrack(codes, 1, 0.01, 8, mask=inside, blockSize=9)
    points = np.zeros((0, 2)) if corners is None else corners.reshape(-1, 2)
    if not len(points):
        return None
    x, y = (float(each) for each in points[0])
    half = width / _POINT_ACROSS / 2.0
    return x - half, y - half, x + half, y + half


_FINDS: dict[MarkFound, Callable[[Image], Box | None]] = {
    "backing": sheet_region,
    "ball": _ball,
    "card": _card,
    "edge": _edge,
    "grain": _grain,
    "point": _point,
}
