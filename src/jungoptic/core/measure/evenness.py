"""How evenly a backing is lit, from one frame of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import NOISE_OF_FINE_MEAN, Array, Image, Mask, fine, smoothed

STEP_STOPS = 1.0 / 6.0
"""Between two contours."""
_ACROSS = 64
"""Light is smoothed over 1/64 of the width."""
_FINER = 4
_SHORTEST_PX, _SIMPLE_PX = 8, 0.8
"""Of a contour, px of the map that it is drawn on."""
_LOW, _HIGH = 2.0, 98.0
_CLIPPED, _ENOUGH = 0.985, 0.5
_BURNT_SHARE = 0.02
_CHANNELS = ("red", "green", "blue")
_PLAIN = 1.15
_LEAST_STOPS = 0.018
_FLOOR, _BURNT, _FEWEST = 0.004, 0.9, 64
"""Light that a sensor's black and its codes leave unsure; from which on a channel clips; px of a backing."""
_COLOUR_PX, _LIKE_STOPS, _RIM_PX = 1.5, 0.8, 9
"""Colour of a backing: smoothed by so much, alike within so many stops of red and blue over green."""


@dataclass(frozen=True, slots=True)
class Contour:
    """A line along which the backing is so many stops over or under its median; places in shares of the
    frame.
    """

    stops: float
    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class EvennessMeasured:
    """How even it is: log₂ of its brightest over its darkest (98th and 2nd of 100), two deviations; by
    channel; the map in stops over its median (rows, columns; NaN where there is none); contours; stops from
    the left to the right and from the top to the bottom; where it is brightest and darkest, shares of the
    frame; what share is clipped; the noise of a pixel in codes of 8 bits, and its mean signal;
    where of the map it is clipped.
    """

    stops: float
    off: float
    channel: str
    field: Array
    contours: tuple[Contour, ...]
    across: float
    down: float
    brightest: tuple[float, float]
    darkest: tuple[float, float]
    clipped: float
    sigma_codes: float
    level: float
    burnt: Mask


def channel_of(colour: npt.ArrayLike) -> int:
    """The channel in which a backing is lightest.

    Parameters
    ----------
    colour : ndarray of float, shape (3,)
        Linear light, red first.

    Returns
    -------
    int
        0 red, 1 green, 2 blue; green where none stands out.

    Examples
    --------
    >>> channel_of([0.1, 0.12, 0.5]), channel_of([0.3, 0.3, 0.31])
    (2, 1)
    """
    red, green, blue = np.asarray(colour, np.float64)
    if blue > _PLAIN * max(red, green):
        return 2
    return 0 if red > _PLAIN * max(green, blue) else 1


def evenness_of(
    light: npt.ArrayLike, inside: npt.ArrayLike | None = None, signal: npt.ArrayLike | None = None
) -> EvennessMeasured:
    """How even a backing is.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.
    inside : ndarray of bool, shape (h, w), optional
        Where the backing is seen and counts: without the subject; all of it when left out.
    signal : ndarray of float, shape (h, w, 3), optional
        As recorded, 0 to 1, for clipping and codes; the light itself when left out.

    Returns
    -------
    EvennessMeasured
        In the backing's own channel.

    Raises
    ------
    ValueError
        Where too little counts, or it is black or all clipped.

    References
    ----------
    backing_practice, noise_mask

    Examples
    --------
    >>> falls = np.linspace(0.4, 0.2, 640, dtype=np.float32)
    >>> sheet = np.ones((360, 1, 1), np.float32) * falls[None, :, None] * np.float32([0.2, 1.0, 0.3])
    >>> seen = evenness_of(sheet)
    >>> round(seen.stops, 2), seen.channel, round(seen.across, 2)
    (0.96, 'green', -0.99)
    """
    seen = np.asarray(light, np.float32)
    counts = np.ones(seen.shape[:2], bool) if inside is None else np.asarray(inside, bool)
    if np.count_nonzero(counts) < 0.002 * counts.size:
        raise ValueError("too little of the backing is marked: mark what the subject crosses")
    index = channel_of(np.median(seen[counts], axis=0))
    recorded = seen if signal is None else np.asarray(signal, np.float32)
    clipped = float((recorded[..., index][counts] > _CLIPPED).mean())
    plane = seen[..., index]
    smooth, weight = _smoothed(plane, counts)
    usable = (weight > _ENOUGH) & (smooth > 1e-4)
    if not usable.any():
        raise ValueError("the backing is black where it is marked, or narrower than a 64th of the frame")
    stops = np.where(usable, np.log2(np.maximum(smooth, 1e-6)), np.nan)
    low, high = np.percentile(stops[usable], (_LOW, _HIGH))
    middle = float(np.median(stops[usable]))
    field = stops - middle
    noise = _noise(plane, counts)
    block = (seen.shape[1] / _ACROSS) ** 2
    per_place = noise / max(2.0**middle, 1e-6) / math.log(2.0) / math.sqrt(block)
    across, down = _tilt(field)
    return EvennessMeasured(
        float(high - low),
        math.hypot(TWICE * 2.0 * per_place, _LEAST_STOPS),
        _CHANNELS[index],
        field,
        _contours(field),
        across,
        down,
        _place(field, np.nanargmax(field)),
        _place(field, np.nanargmin(field)),
        clipped,
        255.0 * _noise(recorded[..., index], counts),
        float(recorded[..., index][counts].mean()),
        _smoothed((recorded[..., index] > _CLIPPED).astype(np.float32), counts)[0] > _BURNT_SHARE,
    )


def backing_seen(light: npt.ArrayLike, inside: npt.ArrayLike | None = None) -> Mask:
    """Where a coloured backing is seen: what has its colour, without whoever stands before it.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.
    inside : ndarray of bool, shape (h, w), optional
        What counts at most; all of it when left out.

    Returns
    -------
    ndarray of bool, shape (h, w)
        All that counts, where the backing has no colour of its own.

    Examples
    --------
    >>> sheet = np.full((90, 160, 3), (0.05, 0.4, 0.08), np.float32)
    >>> sheet[30:60, 60:100] = (0.3, 0.2, 0.15)
    >>> seen = backing_seen(sheet)
    >>> bool(seen[10, 10]), bool(seen[45, 80])
    (True, False)
    """
    seen = np.asarray(light, np.float32)
    counts = np.ones(seen.shape[:2], bool) if inside is None else np.asarray(inside, bool)
    smooth = np.maximum(smoothed(seen, _COLOUR_PX), 0.0) + _FLOOR
    if not counts.any():
        return counts
    own = channel_of(np.median(smooth[counts], axis=0))
    others = [channel for channel in range(3) if channel != own]
    main, rest = smooth[..., own : own + 1], smooth[..., others]
    chroma = np.log2(rest / main)
    if float(np.median(np.abs(chroma).max(axis=2)[counts])) < math.log2(_PLAIN):
        return counts
    lit = counts & (main[..., 0] < _BURNT)
    near = lit if np.count_nonzero(lit) >= _FEWEST else counts
    for _ in range(3):
        share = np.median((rest - _FLOOR)[near] / np.maximum((main - _FLOOR)[near], _FLOOR), axis=0)
        # what is nearly black is grey by its floor: so is what the backing would be there
        wanted = np.log2((share * (main - _FLOOR) + _FLOOR) / main)
        off = chroma - wanted
        alike = np.hypot(off[..., 0], off[..., 1]) < _LIKE_STOPS
        burnt = (main[..., 0] >= _BURNT) & (off.min(axis=2) > -_LIKE_STOPS)
        near = counts & (alike | (burnt & (chroma.max(axis=2) < -math.log2(_PLAIN))))
        if np.count_nonzero(near) < _FEWEST:
            return counts
    # what is marked ends where it is marked; only beside what stands before it a rim is left out
    whole = (near | ~counts).astype(np.uint8)
    return np.asarray((cv2.erode(whole, np.ones((_RIM_PX, _RIM_PX), np.uint8)) > 0) & counts)


def _smoothed(plane: Image, counts: npt.NDArray[np.bool_]) -> tuple[Array, Array]:
    """Light smoothed over a 64th of the width, four places to it, and how much of each counts."""
    height, width = plane.shape
    size = (_ACROSS * _FINER, max(1, round(_ACROSS * _FINER * height / width)))
    weight = counts.astype(np.float32)
    light, share = (
        np.asarray(
            cv2.boxFilter(
                cv2.resize(each, size, interpolation=cv2.INTER_AREA),
                cv2.CV_32F,
                (_FINER + 1,) * 2,
                borderType=cv2.BORDER_REFLECT,
            ),
            np.float64,
        )
        for each in (plane * weight, weight)
    )
    return light / np.maximum(share, 1e-6), share


def _noise(plane: Image, counts: npt.NDArray[np.bool_]) -> float:
    """Deviation of a pixel, by a mask that sees neither planes nor edges."""
    inside = cv2.erode(counts.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    return NOISE_OF_FINE_MEAN * float(np.abs(fine(plane)[inside]).mean()) if inside.any() else 0.0


def _tilt(field: Array) -> tuple[float, float]:
    """Stops from its left to its right and from its top to its bottom, of the plane through what is known."""
    rows, columns = field.shape
    down, across = (np.indices(field.shape) + 0.5) / np.array([rows, columns])[:, None, None] - 0.5
    known = np.isfinite(field)
    design = np.stack([np.ones(known.sum()), across[known], down[known]], 1)
    solved, *_ = np.linalg.lstsq(design, field[known], rcond=None)
    wide, tall = (np.ptp(each[known]) + 1.0 / count for each, count in ((across, columns), (down, rows)))
    return float(solved[1] * wide), float(solved[2] * tall)


def _place(field: Array, flat: np.intp) -> tuple[float, float]:
    row, column = np.unravel_index(int(flat), field.shape)
    return float((column + 0.5) / field.shape[1]), float((row + 0.5) / field.shape[0])


def _contours(field: Array) -> tuple[Contour, ...]:
    """Lines every sixth of a stop, drawn on a map four times as fine."""
    known = np.isfinite(field)
    filled = np.where(known, field, 0.0).astype(np.float32)
    finer = (field.shape[1] * _FINER, field.shape[0] * _FINER)
    smooth = np.asarray(cv2.resize(filled, finer, interpolation=cv2.INTER_CUBIC), np.float32)
    there = cv2.resize(known.astype(np.uint8), finer, interpolation=cv2.INTER_NEAREST) > 0
    told = []
    for step in range(
        math.ceil(float(np.nanmin(field)) / STEP_STOPS), math.floor(float(np.nanmax(field)) / STEP_STOPS) + 1
    ):
        over = ((smooth >= step * STEP_STOPS) & there).astype(np.uint8)
        for line in cv2.findContours(over, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)[0]:
            told += _within(np.asarray(line, np.int32).reshape(-1, 2), there, step * STEP_STOPS, finer)
    return tuple(told)


def _within(
    line: npt.NDArray[np.int32], there: npt.NDArray[np.bool_], stops: float, size: tuple[int, int]
) -> list[Contour]:
    """The parts of a closed line that do not run along the rim of what is known."""
    rim = (
        cv2.erode(
            there.astype(np.uint8), np.ones((5, 5), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0
        )
        == 0
    )
    points = np.concatenate([line, line[:1]])
    free = ~rim[points[:, 1], points[:, 0]]
    parts = []
    for part in np.split(np.arange(len(points)), np.flatnonzero(~free)):
        kept = [index for index in part if free[index]]
        if len(kept) >= _SHORTEST_PX:
            simple = cv2.approxPolyDP(points[kept], _SIMPLE_PX, False).reshape(-1, 2)
            places = (simple + 0.5) / size
            parts.append(Contour(stops, tuple((float(x), float(y)) for x, y in places)))
    return parts
