"""The lens, height and tilt of a photograph by straight edges that were found in it, told."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..match import Mark, Reading, reading_of
from ..measure import Amount, EdgesFound, Measurement, Overlay, edges_found
from .measured import Sized, as_measurement, in_words, within

_AMOUNTS = {
    "taken_view_deg": ("view", "Angle of view", "°"),
    "taken_height_m": ("height", "Lens height", "m"),
    "taken_tilt_deg": ("tilt", "Tilt", "°"),
    "taken_roll_deg": ("roll", "Roll", "°"),
    "taken_key_azimuth_deg": ("key_azimuth", "Key from the side", "°"),
    "taken_key_elevation_deg": ("key_elevation", "Key from above", "°"),
}


@dataclass(frozen=True, slots=True)
class Photographed:
    """A photograph with the lines that were found in it or drawn on it, and what they tell."""

    marks: tuple[Mark, ...]
    reading: Reading


def photograph_read(
    picture: npt.ArrayLike, drawn: tuple[Mark, ...] = (), known_view_deg: float | None = None
) -> Photographed:
    """What a photograph tells of its camera.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w) or (h, w, 3)
        Signal or light, 1 is white.
    drawn : tuple of Mark, optional
        What somebody drew on it: a known height, a horizon, lines; lines that are found are added.
    known_view_deg : float, optional
        Its angle of view across, degrees.

    Returns
    -------
    Photographed
        Whatever the lines tell.

    References
    ----------
    line_segments, caprile_torre

    Examples
    --------
    >>> photograph_read(np.zeros((90, 160))).reading.read
    {}
    """
    height, width = np.shape(picture)[:2]
    edges = edges_found(picture)
    marks = (*drawn, *_marks(edges))
    return Photographed(marks, reading_of(marks, float(width), float(height), known_view_deg))


def _marks(edges: EdgesFound) -> tuple[Mark, ...]:
    return tuple(
        Mark(kind=kind, points=line)
        for kind, lines in (("away", edges.away), ("across", edges.across), ("upright", edges.upright))
        for line in lines
    )


@as_measurement.register
def _(result: Photographed, sized: Sized) -> Measurement:
    amounts = tuple(
        Amount(name, title, read.amount, read.within, unit)
        for field, (name, title, unit) in _AMOUNTS.items()
        if (read := result.reading.read.get(field)) is not None
    )
    overlays = tuple(
        Overlay("line", tuple(sized.share(x, y) for x, y in mark.points), mark.kind, "faint")
        for mark in result.marks
    )
    assumed = "Its lines were found by themselves: look whether each runs as it is named."
    return Measurement("photograph", amounts, (assumed, *result.reading.wants), overlays)


@in_words.register
def _(result: Photographed, sized: Sized) -> str:
    seen = as_measurement(result, sized)
    if not seen.amounts:
        return "Nothing can be read of it. " + " ".join(result.reading.wants)
    return "; ".join(f"{each.title.lower()} {within(each)}" for each in seen.amounts).capitalize() + "."
