"""What of a picture differs from another that lies on it, beyond noise, light and edges."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import DARK, FLOOR, MAD, Image, Mask, code_of
from .tiles import TILES

_HALF = 2
"""Light is looked at in every so many pixels."""
_LEVELS, _LOOKED_UP = 20, 4096
_OPEN_CODES = 0.8
"""Of a code of 8 bits a codec leaves so much open."""
_EDGE_PX = 0.12
"""How far an edge may be off before it differs."""
_Z, _OVER_PX, _FULL = 3.5, 9, 0.45
"""Something differs where so great a share of a square differs by so many deviations."""
_LEAST_AREA_PX, _JOINS_PX = 90, 31
_LEAST_STOPS = 0.02
_DEVIATIONS_OF_80 = 1.2816
"""So far are 80 of 100 at most; noise in the dark is of many sizes, and its median hides the larger."""


@dataclass(frozen=True, slots=True)
class Differs:
    """Something in a frame that its reference has not: its box (left, top, right, bottom) and area in shares
    of the frame, and whether it runs out of the frame.
    """

    box: tuple[float, float, float, float]
    area: float
    reaches_in: bool


def differing(reference: Image, laid: Image) -> tuple[Differs, ...]:
    """What differs by more than light, noise and edges do.

    Parameters
    ----------
    reference, laid : ndarray of float32, shape (h, w)
        Stops, smoothed, the second laid onto the first; NaN where it has nothing.

    Returns
    -------
    tuple of Differs
        The largest first.

    References
    ----------
    exposure_meter, bt709_codes

    Examples
    --------
    >>> dice = np.random.default_rng(3)
    >>> board = cv2.GaussianBlur(dice.random((180, 320), np.float32), (0, 0), 2.0)
    >>> there = board + 0.1
    >>> there[60:100, 120:160] += 1.0
    >>> [[round(each, 1) for each in piece.box] for piece in differing(board, there)]
    [[0.4, 0.3, 0.5, 0.6]]
    """
    there = np.isfinite(laid)
    off = np.where(there, laid - reference, 0.0).astype(np.float32)
    off -= _light_between(off, there)
    sigma = _sigma(reference, off, there)
    right = cv2.Sobel(reference, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
    down = cv2.Sobel(reference, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
    edge = _EDGE_PX**2 * (right * right + down * down)
    beyond = (off * off > _Z**2 * (sigma * sigma + edge)) & there
    full = cv2.boxFilter(beyond.astype(np.float32), cv2.CV_32F, (_OVER_PX, _OVER_PX)) > _FULL
    height, width = full.shape
    # what lies close together is one thing
    joined = cv2.dilate(full.astype(np.uint8), np.ones((_JOINS_PX, _JOINS_PX), np.uint8))
    count, labels = cv2.connectedComponents(joined, connectivity=8)
    told = []
    for label in range(1, count):
        rows, columns = np.nonzero((labels == label) & full)
        area = len(rows)
        if area < _LEAST_AREA_PX:
            continue
        left, top, right_px, bottom_px = (
            int(each) for each in (columns.min(), rows.min(), columns.max() + 1, rows.max() + 1)
        )
        rim = min(left, top, width - right_px, height - bottom_px) <= _OVER_PX
        box = (left / width, top / height, right_px / width, bottom_px / height)
        told.append(Differs(box, float(area) / (width * height), bool(rim)))
    return tuple(sorted(told, key=lambda each: -each.area))


def _light_between(off: Image, there: Mask) -> Image:
    """What the light did, over the frame: the middle of each tile, the median of its neighbours."""
    height, width = off.shape
    seen, counts = (each[::_HALF, ::_HALF] for each in (off, there))
    whole = bool(counts.all())
    middles = np.zeros(TILES[::-1], np.float32)
    rows, columns = (
        np.array_split(np.arange(side), parts) for side, parts in zip(seen.shape, TILES[::-1], strict=True)
    )
    for row, down in enumerate(rows):
        for column, across in enumerate(columns):
            cut = np.s_[down[0] : down[-1] + 1, across[0] : across[-1] + 1]
            values = seen[cut].ravel() if whole else seen[cut][counts[cut]]
            middles[row, column] = np.median(values) if len(values) else 0.0
    return np.asarray(
        cv2.resize(cv2.medianBlur(middles, 3), (width, height), interpolation=cv2.INTER_LINEAR), np.float32
    )


def _sigma(reference: Image, off: Image, there: Mask) -> Image:
    """Noise by how light it is, stops: the median deviation of what is alike light."""
    lowest, highest = (float(each) for each in np.percentile(reference[::8, ::8], (1, 99)))
    levels = np.linspace(lowest, max(highest, lowest + 1e-3), _LEVELS + 1)
    sample = np.clip(np.digitize(reference[::3, ::3], levels) - 1, 0, _LEVELS - 1)
    size, counts = np.abs(off[::3, ::3]), there[::3, ::3]
    noises = np.full(_LEVELS, np.nan)
    for level in range(_LEVELS):
        of_it = size[(sample == level) & counts]
        if len(of_it) > 200:
            middle, most = np.quantile(of_it, (0.5, 0.8))
            noises[level] = max(MAD * float(middle), float(most) / _DEVIATIONS_OF_80)
    known = np.isfinite(noises)
    middles = (levels[1:] + levels[:-1]) / 2.0
    # what depends on how light it is alone is looked up, not worked out for each pixel
    darkest, lightest = float(reference.min()), float(reference.max())
    light = np.linspace(darkest, max(lightest, darkest + 1e-3), _LOOKED_UP)
    noise = np.interp(light, middles[known], noises[known]) if known.any() else np.zeros_like(light)
    table = np.maximum(np.maximum(noise, _LEAST_STOPS / _Z), code_in_stops(light)).astype(np.float32)
    each = np.float32((_LOOKED_UP - 1) / (light[-1] - darkest))
    return np.asarray(table[np.rint((reference - np.float32(darkest)) * each).astype(np.int32)], np.float32)


def code_in_stops(stops: npt.ArrayLike) -> Image:
    """What a codec leaves open: most of a code of 8 bits, which in the dark is much.

    Parameters
    ----------
    stops : ndarray of float, shape (...)
        How light it is there.

    Returns
    -------
    ndarray of float32, shape (...)
        Stops.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> code_in_stops(np.log2([0.02, 0.9])).round(3).astype(str).tolist()
    ['0.036', '0.01']
    """
    light = np.exp2(stops) - FLOOR
    step = code_of(light)
    return np.asarray(_OPEN_CODES * step / (math.log(2.0) * (np.maximum(light, DARK) + FLOOR)), np.float32)
