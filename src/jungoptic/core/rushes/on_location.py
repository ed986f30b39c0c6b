"""A sheet photographed on location: what the camera would record of it, and which lamp to turn."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt

from ..light import Backing
from ..match import Layer, SetUp, key_of
from ..measure import (
    EvennessMeasured,
    Keyed,
    Measurement,
    Overlay,
    Source,
    backing_seen,
    channel_of,
    evenness_of,
    grey_ball_light,
    keyed,
    sheet_corners,
)
from ..stage.picture import linear_rgb
from .backing import field_by_parts
from .lights import BallLit
from .measured import Sized, as_measurement, in_words
from .sheet_lamps import LampsSeen, lamps_seen
from .sheet_plane import Region, corners_lose, sheet_places

Array = npt.NDArray[np.float64]
Image = npt.NDArray[np.float32]
Mask = npt.NDArray[np.bool_]
_WIDE_PX = 960
_LEAST_SUBJECT = 0.004
"""Of the frame: what is less is a fold of the sheet, not somebody before it."""
_RIM_PX, _EDGE_PX = 7, 27
"""Of the sheet's rim and of a subject's edge, px of the frame that is looked at: nothing is said of these."""
_SEEN, _LEAST_PART = 0.98, 0.15
_NOT_ITS_LAMPS = (
    "Its light is not that of its lamps as planned: look whether its corners lie on it, and where the lamps"
    " stand."
)


@dataclass(frozen=True, slots=True)
class SheetPhotographed:
    """A sheet as its set-up's camera would record it, by a photograph from beside it. ``corners`` are those
    of the sheet, ``frame`` those of what the camera records, clockwise from the top left, shares of the
    photograph; no corners where the photograph was taken to be framed as the camera frames. ``size`` is that
    of the frame that was looked at, px; ``part`` is the evenness of what is ``crossed``; ``lamps`` None where
    no lamp lights it, ``key`` None where nobody stands before it.
    """

    corners: tuple[tuple[float, float], ...]
    frame: tuple[tuple[float, float], ...]
    size: tuple[int, int]
    evenness: EvennessMeasured
    part: EvennessMeasured | None
    crossed: Region | None
    lamps: LampsSeen | None
    key: Keyed | None

    def in_photograph(self, x: float, y: float) -> tuple[float, float]:
        """Where a place of the recorded frame is in the photograph.

        Parameters
        ----------
        x, y : float
            Shares of the frame.

        Returns
        -------
        tuple of (float, float)
            Shares of the photograph.

        References
        ----------
        four_points

        Examples
        --------
        >>> whole = ((0.25, 0.25), (0.75, 0.25), (0.75, 0.75), (0.25, 0.75))
        >>> seen = SheetPhotographed((), whole, (960, 540), None, None, None, None, None)
        >>> tuple(round(each, 6) for each in seen.in_photograph(0.5, 1.0))
        (0.5, 0.75)
        """
        turn = cv2.getPerspectiveTransform(_UNIT, np.array(self.frame, np.float32))
        across, down, scale = turn @ (x, y, 1.0)
        return float(across / scale), float(down / scale)


_UNIT = np.array([(0, 0), (1, 0), (1, 1), (0, 1)], np.float32)


def sheet_photographed(
    setup: SetUp,
    light: npt.ArrayLike,
    signal: npt.ArrayLike | None = None,
    corners: npt.ArrayLike | None = None,
    crossed: Region | None = None,
) -> SheetPhotographed:
    """What a photograph tells of a set-up's lit sheet before the camera runs.

    The corners of the sheet bring the photograph onto its plane, and so into the frame that the camera would
    record of it; there it is darkened as the lens darkens its corners, and measured as a recording is.

    Parameters
    ----------
    setup : SetUp
        As planned, with its sheet.
    light : ndarray of float, shape (h, w, 3)
        The photograph in linear light.
    signal : ndarray of float, shape (h, w, 3), optional
        As it was kept, 0 to 1, for what is clipped; the light itself when left out.
    corners : ndarray of float, shape (4, 2), optional
        Of the sheet, clockwise from its top left, shares of the photograph; found by its colour when left
        out, and where it has none that show, the photograph is taken to frame what the camera frames.
    crossed : tuple of float, optional
        What is to be even, left, top, width and height in shares of the recorded frame, as from
        :func:`crossed_region`; all of the sheet that is seen when left out, or where too little of it is.

    Returns
    -------
    SheetPhotographed
        In the recorded frame.

    Raises
    ------
    ValueError
        Where the set-up has no sheet, too little of it is in the photograph, or what is seen is black.

    References
    ----------
    four_points, vignetting_guess

    Examples
    --------
    >>> from ..example import ON_GREEN
    >>> flat = np.full((270, 480, 3), (0.05, 0.4, 0.08), np.float32)
    >>> seen = sheet_photographed(ON_GREEN, flat)
    >>> seen.corners, seen.key is None, seen.evenness.channel
    ((), True, 'green')
    """
    backing = setup.backing
    if backing is None:
        raise ValueError("the set-up has no sheet")
    whole = np.asarray(light, np.float32)
    height, width = whole.shape[:2]
    kept = whole if signal is None else np.asarray(signal, np.float32)
    sides = np.array([width, height], np.float64)
    if corners is not None:
        sheet: Array | None = np.asarray(corners, np.float64).reshape(-1, 2) * sides - 0.5
    else:
        own = channel_of(linear_rgb(backing.colour))
        sheet = sheet_corners(whole, own) if _coloured(backing) else None
    rows = round(_WIDE_PX * setup.recorded_height_px / setup.recorded_width_px)
    frame = _frame_px(setup, sheet, (width, height))
    size = np.array([_WIDE_PX, rows], np.float64)
    onto = np.asarray(_UNIT * size - 0.5, np.float32)
    turn = np.asarray(cv2.getPerspectiveTransform(frame.astype(np.float32), onto), np.float64)
    there, record, inside = (_laid(each, turn, (_WIDE_PX, rows)) for each in (whole, kept, _ones(whole)))
    _, on_it = sheet_places(setup, rows, _WIDE_PX)
    counts = cv2.erode((on_it & (inside > _SEEN)).astype(np.uint8), np.ones((_RIM_PX, _RIM_PX), np.uint8)) > 0
    there *= 2.0 ** -corners_lose(setup, rows, _WIDE_PX)[..., None].astype(np.float32)
    seen = backing_seen(there, counts)
    even = evenness_of(there, seen, record)
    part = _part(there, seen, record, crossed)
    return SheetPhotographed(
        () if sheet is None else _shares(sheet, sides),
        _shares(frame, sides),
        (_WIDE_PX, rows),
        even,
        part,
        crossed if part else None,
        lamps_seen(setup, field_by_parts(even), crossed if part else None),
        _keyed(there, seen, counts),
    )


def _part(light: Image, seen: Mask, record: Image, crossed: Region | None) -> EvennessMeasured | None:
    """How even what is crossed is; None where that is not known, or whoever stands there hides it."""
    if crossed is None:
        return None
    left, top, wide, tall = crossed
    height, width = seen.shape
    inside = np.zeros_like(seen)
    first, last = round(top * height), round((top + tall) * height)
    inside[first:last, round(left * width) : round((left + wide) * width)] = True
    if np.count_nonzero(inside & seen) < _LEAST_PART * np.count_nonzero(inside):
        return None
    return evenness_of(light, seen & inside, record)


def _ones(picture: Image) -> Image:
    return np.ones(picture.shape[:2], np.float32)


def _shares(places: Array, sides: Array) -> tuple[tuple[float, float], ...]:
    return tuple((float(x), float(y)) for x, y in (places + 0.5) / sides)


def _coloured(backing: Backing) -> bool:
    colour = linear_rgb(backing.colour)
    own = channel_of(colour)
    return bool(colour[own] > 2.0 * max(np.delete(colour, own)))


def _laid(picture: Image, turn: Array, size: tuple[int, int]) -> Image:
    """A picture in the frame that the camera records; smoothed first where it is larger there than here."""
    share = max(1.0, 1.0 / math.sqrt(abs(float(np.linalg.det(turn[:2, :2])))))
    smooth = cv2.GaussianBlur(picture, (0, 0), share / 3.0) if share > 1.5 else picture
    return np.asarray(cv2.warpPerspective(smooth, turn, size, flags=cv2.INTER_LINEAR), np.float32)


def _frame_px(setup: SetUp, corners: Array | None, size: tuple[int, int]) -> Array:
    """Where the corners of what the camera records are in a photograph, px: by those of the sheet, or in its
    middle, as large as it can be.
    """
    width, height = size
    if corners is None:
        tall = setup.recorded_height_px / setup.recorded_width_px
        wide = min(float(width), height / tall)
        left, top = (width - wide) / 2.0, (height - wide * tall) / 2.0
        return np.asarray(_UNIT * (wide, wide * tall) + (left - 0.5, top - 0.5), np.float64)
    backing = setup.backing
    assert backing is not None
    left, high = backing.across_m - backing.width_m / 2.0, backing.bottom_m + backing.height_m
    sheet = np.array((left, high)) + _UNIT * (backing.width_m, -backing.height_m)
    onto = cv2.getPerspectiveTransform(sheet.astype(np.float32), corners.astype(np.float32))
    # the middles of its quarters are exactly where its corners are half as far out
    spots, _ = sheet_places(setup, 2, 2)
    quarters = np.array([(0.25, 0.25), (0.75, 0.25), (0.75, 0.75), (0.25, 0.75)], np.float32)
    seen = cv2.getPerspectiveTransform(quarters, spots[(0, 1, 3, 2), :2].astype(np.float32))
    return np.asarray(cv2.perspectiveTransform(_UNIT[None], onto @ seen)[0], np.float64)


def _keyed(light: Image, seen: Mask, counts: Mask) -> Keyed | None:
    """The key of whoever stands before a sheet, what is beside the sheet painted over with it."""
    kernel = np.ones((_RIM_PX, _RIM_PX), np.uint8)
    within = cv2.erode(counts.astype(np.uint8), kernel, borderValue=1) > 0
    if not seen.any():
        return None
    subject = within & ~(cv2.dilate(seen.astype(np.uint8), np.ones((_EDGE_PX, _EDGE_PX), np.uint8)) > 0)
    if np.count_nonzero(subject) < _LEAST_SUBJECT * subject.size:
        return None
    sheet = np.where(within[..., None], light, np.median(light[seen], axis=0))
    try:
        return keyed(sheet.astype(np.float32), seen | ~within, subject)
    except ValueError:  # nothing that stands before it can be told from it
        return None


def ball_photographed(
    setup: SetUp, layer: Layer, light: npt.ArrayLike, circle: tuple[float, float, float]
) -> BallLit:
    """Where the light on a grey ball comes from, beside where the key of a set-up is planned to.

    Parameters
    ----------
    setup : SetUp
        As planned.
    layer : Layer
        What is lit: the ball is held where it stands.
    light : ndarray of float, shape (h, w) or (h, w, 3)
        A photograph from the lens, linear light.
    circle : tuple of (float, float, float)
        The ball's middle and radius in it, px.

    Returns
    -------
    BallLit
        Held against the plan's key.

    Raises
    ------
    ValueError
        Where the circle is too small or nothing lights it.

    References
    ----------
    lambert

    Examples
    --------
    >>> from ..example import ACTOR, ON_GREEN
    >>> y, x = (np.indices((200, 200)) - 99.5) / 60.0
    >>> z = np.sqrt(np.maximum(0.0, 1.0 - x * x - y * y))
    >>> shaded = np.where(z > 0, 0.05 + 0.4 * np.maximum(0.0, 0.5 * x - 0.5 * y + 0.7071 * z), 0.02)
    >>> seen = ball_photographed(ON_GREEN, ACTOR, shaded, (99.5, 99.5, 60.0))
    >>> round(seen.lights[0].azimuth_deg), round(seen.lights[0].elevation_deg), seen.whose
    (35, 30, "the plan's")
    """
    fit, key = grey_ball_light(light, circle), key_of(setup, layer)
    if key.azimuth_deg is None or key.elevation_deg is None:
        return BallLit(circle, (fit.key,), fit.key_fill_stops)
    planned = Source(key.azimuth_deg, key.elevation_deg, 0.0, 0.0, key.size_deg or 0.0)
    return BallLit(circle, (fit.key,), fit.key_fill_stops, planned, key.to_fill_stops, "the plan's")


@as_measurement.register
def _(result: SheetPhotographed, sized: Sized) -> Measurement:
    own = Sized(*result.size)
    whole = as_measurement(result.evenness, own)
    even = as_measurement(result.part, own) if result.part else whole
    key = as_measurement(result.key, own) if result.key else None
    drawn = tuple(
        replace(each, places=tuple(result.in_photograph(x, y) for x, y in each.places))
        for each in whole.overlays
    )
    told = "The photograph is framed as the camera frames it." if not result.corners else ""
    areas = [Overlay("area", result.frame, "what the camera records", "faint")]
    if result.crossed:
        left, top, wide, tall = result.crossed
        box = ((left, top), (left + wide, top), (left + wide, top + tall), (left, top + tall))
        areas.append(Overlay("area", tuple(result.in_photograph(*each) for each in box), "what is crossed"))
    assumed = (
        "The telephone lifted no shadows by itself: switch that off, a sheet looks more even by it.",
        *((told,) if told else ()),
        *even.assumes,
        *(key.assumes if key else ()),
    )
    # how sharp its matte is says the telephone's lens, not the camera's
    of_key = tuple(each for each in key.amounts if each.name != "edge") if key else ()
    return Measurement("sheet", (*even.amounts, *of_key), assumed, (*drawn, *areas), (), whole.field)


@in_words.register
def _(result: SheetPhotographed, sized: Sized) -> str:
    lamps, even = result.lamps, in_words(result.part or result.evenness, sized)
    if lamps and not lamps.tells:
        return f"{even} {_NOT_ITS_LAMPS}"
    told = " ".join(each for each in (lamps.points_to, lamps.to_do) if each) if lamps else ""
    return told[:1].upper() + told[1:] if told else even
