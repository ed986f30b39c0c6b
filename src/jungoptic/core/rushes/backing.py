"""Evenness and key, told."""

from __future__ import annotations

import math

import numpy as np

from ..measure import WAYS, Amount, EvennessMeasured, Keyed, Measurement, Overlay, Weight
from ..wording import number
from .measured import Sized, as_measurement, in_words, with_error, within

_KEYS = {
    "keys": "It keys.",
    "loose": "It keys with a loose matte around it, not by itself.",
    "hand": "It does not key: it is cut out by hand.",
}
_THIRD = 1.0 / 3.0
_STEPS_A_THIRD = 2
_CLIPS = 0.001
_ROWS, _COLUMNS = 18, 32


@as_measurement.register
def _(result: EvennessMeasured, sized: Sized) -> Measurement:
    amounts = (
        Amount("evenness", "Evenness", result.stops, result.off, "stop"),
        Amount("across", "Left to right", result.across, result.off, "stop"),
        Amount("down", "Top to bottom", result.down, result.off, "stop"),
        Amount("clipped", "Clipped", 100.0 * result.clipped, None, "%"),
        Amount("noise", "Noise", result.sigma_codes, None, "codes"),
        Amount("level", "Level", 100.0 * result.level, None, "%"),
    )
    lines = [
        Overlay("line", line.points, _contour_text(line.stops), _contour_weight(line.stops))
        for line in result.contours
    ]
    ends = (
        Overlay("point", (result.brightest,), "brightest"),
        Overlay("point", (result.darkest,), f"darkest, {number(result.stops, 2)} stop under", "shows"),
    )
    assumed = (f"Its {result.channel} channel.",)
    return Measurement(
        "evenness",
        amounts,
        assumed,
        (*lines, *ends),
        (),
        field_by_parts(result),
    )


def field_by_parts(result: EvennessMeasured) -> tuple[tuple[float, ...], ...]:
    """The light of a sheet by parts of its picture.

    Parameters
    ----------
    result : EvennessMeasured
        As it was measured.

    Returns
    -------
    tuple of tuple of float
        Stops over its median, rows from the top: the mean of every part that is known to a half at least,
        NaN elsewhere; what is clipped is not known.

    Examples
    --------
    >>> from ..measure import evenness_of
    >>> field = field_by_parts(evenness_of(np.full((90, 160, 3), 0.4, np.float32)))
    >>> len(field), len(field[0]), abs(round(field[0][0], 3))
    (18, 32, 0.0)
    """
    field = np.where(result.burnt, math.nan, result.field)
    rows = []
    for band in np.array_split(field, _ROWS, axis=0):
        parts = np.array_split(band, _COLUMNS, axis=1)
        rows.append(tuple(float(np.nanmean(p)) if np.isfinite(p).mean() >= 0.5 else math.nan for p in parts))
    return tuple(rows)


def _contour_text(stops: float) -> str:
    """Every third of a stop has its name."""
    sixths = round(6.0 * stops)
    if sixths % _STEPS_A_THIRD:
        return ""
    whole, thirds = divmod(abs(sixths) // _STEPS_A_THIRD, 3)
    text = f"{whole or ''}{('', '⅓', '⅔')[thirds]}" or "0"
    return ("−" if sixths < 0 else "+" if sixths else "") + text


def _contour_weight(stops: float) -> Weight:
    return "plain" if _contour_text(stops) else "faint"


@in_words.register
def _(result: EvennessMeasured, sized: Sized) -> str:
    told = f"The backing differs by {with_error(result.stops, result.off)} stop over what is marked."
    side = _darker_side(result)
    if result.stops > _THIRD / 2.0 and side:
        name, stops = side
        told += f" Lift the {name} by {number(stops, 2)} stop."
    if result.clipped > _CLIPS:
        told += f" {number(100.0 * result.clipped, 2)} % of it is clipped: expose it lower."
    return told


def _darker_side(result: EvennessMeasured) -> tuple[str, float] | None:
    """Which side is darker and by how much, where one side is."""
    if max(abs(result.across), abs(result.down)) < _THIRD * result.stops:
        return None
    if abs(result.across) >= abs(result.down):
        return ("right side" if result.across < 0 else "left side"), abs(result.across)
    return ("bottom" if result.down < 0 else "top"), abs(result.down)


@as_measurement.register
def _(result: Keyed, sized: Sized) -> Measurement:
    px = sized.delivered
    amounts = (
        Amount("separation", "Colour separation", result.separation, result.separation_off, "σ"),
        Amount("holes", "Holes in the subject", 100.0 * result.holes, None, "%"),
        Amount("remains", "Backing that remains", 100.0 * result.remains, None, "%"),
        Amount("edge", "Edge of the matte", px * result.edge_px, px * result.edge_off_px, "px"),
        Amount("spill", "Spill on the rim", result.spill, None, "of key"),
    )
    return Measurement("key", amounts, (f"Keyed {WAYS[result.way]}.",))


@in_words.register
def _(result: Keyed, sized: Sized) -> str:
    return key_says(result, sized)


def key_says(result: Keyed, sized: Sized, *, edge: bool = True) -> str:
    """What a key comes to, in words.

    Parameters
    ----------
    result : Keyed
        As it was tried.
    sized : Sized
        The picture that it was tried in.
    edge : bool, default True
        Whether how wide its edge is is said: of another lens it says nothing.

    Returns
    -------
    str
        Some sentences.

    Examples
    --------
    >>> from ..measure import keyed
    >>> sheet = np.full((90, 160, 3), (0.05, 0.4, 0.08), np.float32)
    >>> sheet[30:60, 60:100] = (0.3, 0.2, 0.15)
    >>> says = key_says(keyed(sheet, np.indices((90, 160))[1] < 30), Sized(160, 90), edge=False)
    >>> says.startswith("It keys. "), "edge" in says
    (True, False)
    """
    seen = as_measurement(result, sized)
    told = f"{_KEYS[result.keys]} Backing and subject lie {within(seen.amounts[0])} apart"
    told += f"; the edge takes {within(seen.amount('edge'))}." if edge else "."
    if result.holes > _CLIPS:
        told += f" {number(100.0 * result.holes, 2)} % of the subject are holes."
    if result.remains > _CLIPS:
        told += f" {number(100.0 * result.remains, 2)} % of the backing remain."
    return told
