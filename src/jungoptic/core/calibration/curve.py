"""What codes a camera makes of more and less light, from a stepped series of exposures of a grey card."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..light import bt709_light

FEWEST_STEPS = 5
_SAME = 0.004
"""Of the whole signal: two steps that make the same code are clipped, or black."""
_BLACK = 0.06
_FEWEST_UNDER = 2


@dataclass(frozen=True, slots=True)
class CurveMeasured:
    """A camera's curve: ``points`` are stops over the metered grey and the signal, 0 to 1. ``headroom_stops``
    is where it clips, ``off`` half the step within which it does. ``departs_stops`` is how far light that is
    read from codes by the standard curve is off at most, between black and clipping.
    """

    headroom_stops: float
    off: float
    departs_stops: float
    points: tuple[tuple[float, float], ...]


def curve_of_series(series: Sequence[tuple[float, float]]) -> CurveMeasured:
    """The curve and the headroom of a camera, from exposures of a grey card in known steps.

    Parameters
    ----------
    series : sequence of tuple of (float, float)
        Stops over the exposure that a meter gives for the card, and the mean signal of the card, 0 to 1.

    Returns
    -------
    CurveMeasured
        Headroom over mid grey, and how far the curve is from that of ITU-R BT.709.

    Raises
    ------
    ValueError
        Where there are too few steps, none at the metered exposure, or none that clips.

    References
    ----------
    headroom, bt709_codes

    Examples
    --------
    >>> from jungoptic.core.light import bt709_signal
    >>> steps = [stop / 2 for stop in range(-8, 9)]
    >>> measured = curve_of_series([(s, min(1.0, float(bt709_signal(0.18 * 2**s)))) for s in steps])
    >>> round(measured.headroom_stops, 1), measured.off
    (2.5, 0.25)
    """
    if len(series) < FEWEST_STEPS:
        raise ValueError(f"{len(series)} steps are too few: {FEWEST_STEPS} at least, from dark to clipped")
    steps = sorted(series)
    stops = np.array([step for step, _ in steps])
    signal = np.array([value for _, value in steps])
    if np.abs(stops).min() > 1e-6:
        raise ValueError("no picture is exposed as metered: one of the series has 0 stops")
    clipped = signal >= signal.max() - _SAME
    if clipped.sum() < 2 or not clipped[-1]:
        raise ValueError("nothing clips: go on in steps until two pictures look the same white")
    if (~clipped).sum() < _FEWEST_UNDER:
        raise ValueError("almost all is white: go down in steps too, four stops under the metered one")
    last = int(np.flatnonzero(~clipped)[-1])
    first = last + 1
    rises = (signal[last] - signal[last - 1]) / max(float(stops[last] - stops[last - 1]), 1e-9)
    headroom = float(stops[last]) + float(signal.max() - signal[last]) / max(float(rises), 1e-9)
    headroom = min(max(headroom, float(stops[last])), float(stops[first]))
    light = bt709_light(signal)
    grey = float(light[int(np.abs(stops).argmin())])
    between = (~clipped) & (signal > _BLACK)
    if not between[int(np.abs(stops).argmin())]:
        raise ValueError("the picture that is exposed as metered is black or white: meter the card again")
    departs = max(
        abs(math.log2(float(value) / grey) - float(step))
        for step, value in zip(stops[between], light[between], strict=True)
    )
    return CurveMeasured(
        headroom,
        float(stops[first] - stops[last]) / 2.0,
        departs,
        tuple((float(a), float(b)) for a, b in steps),
    )
