"""Exposure and white by a grey card or ball, and a camera's colours by a chart of 24 patches."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from ..light import LUMA, MID_GREY, ciede2000, lab_of_srgb
from .amounts import TWICE
from .pixels import Array

Places = tuple[tuple[float, float], ...]

_CLIPPED = 0.97
_ROWS, _COLUMNS = 4, 6
_KEPT = 0.45
"""Of a patch's side, from its middle."""
CHART = (
    "#735244 #c29682 #627a9d #576c43 #8580b1 #67bdaa "
    "#d67e2c #505ba6 #c15a63 #5e3c6c #9dbc40 #e0a32e "
    "#383d96 #469449 #af363c #e7c71f #bb5695 #0885a1 "
    "#f3f3f2 #c8c8c8 #a0a0a0 #7a7a79 #555555 #343434"
).split()
"""sRGB of the 24 patches, row by row from the top left; the last row is grey."""


@dataclass(frozen=True, slots=True)
class GreyMeasured:
    """A grey card: its light by channel, how far its exposure is over what is wanted, stops, and how far its
    red and its blue are over its green, stops; errors are two deviations.
    """

    light: tuple[float, float, float]
    stops: float
    off: float
    red_stops: float
    blue_stops: float
    uneven_stops: float


@dataclass(frozen=True, slots=True)
class ChartMeasured:
    """A chart: the matrix (3 × 3) that takes the camera's light to sRGB's, and the difference of colour that
    it leaves, CIEDE2000: mean, greatest, and of which patch; before it, after white and exposure alone.
    """

    matrix: Array
    mean_de: float
    most_de: float
    worst: int
    before_de: float


def grey_of(light: npt.ArrayLike, inside: npt.ArrayLike, reflects: float = MID_GREY) -> GreyMeasured:
    """What a grey card says of exposure and white.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.
    inside : ndarray of bool, shape (h, w)
        Where the card is.
    reflects : float, default 0.18
        Its share of the light.

    Returns
    -------
    GreyMeasured
        Against a card that stands at its own reflectance.

    Raises
    ------
    ValueError
        Where it is clipped, black or too small.

    References
    ----------
    exposure_meter

    Examples
    --------
    >>> card = np.full((20, 20, 3), (0.4, 0.36, 0.3), np.float32)
    >>> seen = grey_of(card, np.ones((20, 20), bool))
    >>> round(seen.stops, 2), round(seen.red_stops, 2), round(seen.blue_stops, 2)
    (1.02, 0.15, -0.26)
    """
    seen = np.asarray(light, np.float64)
    card = seen[np.asarray(inside, bool)]
    if len(card) < 64:
        raise ValueError("the card is too small in the picture: 8 px across at least")
    if float((card.max(axis=1) > _CLIPPED).mean()) > 0.05:
        raise ValueError("the card is clipped: expose it lower")
    mean = np.median(card, axis=0)
    if mean.min() < 1e-3:
        raise ValueError("the card is black: light it")
    spread = np.log2(np.quantile(card[:, 1], 0.95) / max(float(np.quantile(card[:, 1], 0.05)), 1e-4))
    noise = float(np.std(card[:, 1])) / float(mean[1]) / math.log(2.0)
    luma = float(mean @ LUMA)
    return GreyMeasured(
        (float(mean[0]), float(mean[1]), float(mean[2])),
        math.log2(luma / reflects),
        TWICE * 1.25 * noise / math.sqrt(len(card)) + 0.01,
        math.log2(float(mean[0] / mean[1])),
        math.log2(float(mean[2] / mean[1])),
        float(spread),
    )


def chart_patches(light: npt.ArrayLike, corners: Places) -> Array:
    """The light of the 24 patches of a chart.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.
    corners : tuple of tuple of (float, float)
        Outer corners of the patches, px: top left, top right, bottom right, bottom left as the chart is read.

    Returns
    -------
    ndarray of float, shape (24, 3)
        Row by row, the median of the middle of each.

    Raises
    ------
    ValueError
        Where the corners are not four, or a patch is too small.

    Examples
    --------
    >>> chart_patches(np.full((40, 60, 3), 0.2), ((0, 0), (60, 0), (60, 40), (0, 40))).shape
    (24, 3)
    """
    if len(corners) != 4:
        raise ValueError("mark the four corners of the chart")
    seen = np.asarray(light, np.float32)
    flat = np.array([(0, 0), (_COLUMNS, 0), (_COLUMNS, _ROWS), (0, _ROWS)], np.float32)
    turn = cv2.getPerspectiveTransform(flat, np.array(corners, np.float32))
    grid = np.linspace(-_KEPT / 2.0, _KEPT / 2.0, 15)
    patches = []
    for row in range(_ROWS):
        for column in range(_COLUMNS):
            across, down = np.meshgrid(column + 0.5 + grid, row + 0.5 + grid)
            places = np.stack([across.ravel(), down.ravel()], 1).astype(np.float32)[None]
            there = cv2.perspectiveTransform(places, turn)[0]
            cut = cv2.remap(seen, there[:, :1] - 0.5, there[:, 1:] - 0.5, cv2.INTER_LINEAR)
            patches.append(np.median(cut.reshape(-1, 3), axis=0))
    return np.array(patches, np.float64)


def _linear_of_hex(colour: str) -> Array:
    value = np.array([int(colour[i : i + 2], 16) for i in (1, 3, 5)]) / 255.0
    return np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)


def _hex_of_linear(light: Array) -> str:
    value = np.clip(light, 0.0, 1.0)
    signal = np.where(value <= 0.0031308, 12.92 * value, 1.055 * value ** (1 / 2.4) - 0.055)
    return "#" + "".join(f"{round(float(each) * 255):02x}" for each in signal)


def _differences(patches: Array) -> Array:
    return np.array(
        [
            ciede2000(lab_of_srgb(_hex_of_linear(seen)), lab_of_srgb(wanted))
            for seen, wanted in zip(patches, CHART, strict=True)
        ]
    )


def chart_matrix(patches: npt.ArrayLike) -> ChartMeasured:
    """The matrix that brings a camera's colours to those of the chart.

    Parameters
    ----------
    patches : ndarray of float, shape (24, 3)
        Linear light of the patches, row by row.

    Returns
    -------
    ChartMeasured
        By least squares, each patch weighed by its lightness.

    Raises
    ------
    ValueError
        Where they are no chart: the greys of its last row do not fall.

    References
    ----------
    ciede2000, cielab, srgb

    Examples
    --------
    >>> true = np.array([_linear_of_hex(each) for each in CHART])
    >>> cast = np.array([[0.8, 0.1, 0.05], [0.1, 0.9, 0.1], [0.0, 0.2, 0.7]])
    >>> measured = chart_matrix(true @ cast.T)
    >>> bool(np.allclose(measured.matrix @ cast, np.eye(3), atol=1e-6)), measured.mean_de < 0.5
    (True, True)
    """
    seen = np.asarray(patches, np.float64).reshape(len(CHART), 3)
    if not (np.diff(seen[-_COLUMNS:].mean(axis=1)) < 0).all():
        raise ValueError("the greys of the last row do not get darker: mark the corners in their order")
    wanted = np.array([_linear_of_hex(each) for each in CHART])
    weight = 1.0 / np.sqrt(wanted.mean(axis=1) + 0.02)
    solved, *_ = np.linalg.lstsq(seen * weight[:, None], wanted * weight[:, None], rcond=None)
    white = wanted[-_COLUMNS + 1] / np.maximum(seen[-_COLUMNS + 1], 1e-6)
    after, before = _differences(seen @ solved), _differences(seen * white)
    return ChartMeasured(
        solved.T, float(after.mean()), float(after.max()), int(after.argmax()), float(before.mean())
    )
