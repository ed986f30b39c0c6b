"""A camera that stands otherwise than planned, and where the things before it come into its picture."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from typing import Literal

import numpy as np

from ..motion.path import Path
from .measure import Match
from .pose import DISTANCE, F_PX, HEIGHT, ROLL, TILT, TRAVEL
from .view import START, View, layer_view

OffDial = Literal["pan", "tilt", "roll", "zoom", "aside", "up", "forward"]


@dataclass(frozen=True, slots=True)
class Off:
    """How a camera stands off its plan: panned to the right, tilted up, leaning to its right, degrees; its
    picture longer by the logarithm ``zoom``; moved to the right, up and forward, metres of the set.
    """

    pan: float = 0.0
    tilt: float = 0.0
    roll: float = 0.0
    zoom: float = 0.0
    aside: float = 0.0
    up: float = 0.0
    forward: float = 0.0

    def without(self, dial: OffDial) -> Off:
        """The same with one dial as planned.

        Parameters
        ----------
        dial : str
            One of the fields.

        Returns
        -------
        Off
            All others stay.

        Examples
        --------
        >>> Off(pan=1.0, up=0.1).without("pan")
        Off(pan=0.0, tilt=0.0, roll=0.0, zoom=0.0, aside=0.0, up=0.1, forward=0.0)
        """
        return replace(self, **{dial: 0.0})


_PLANNED = "planned view"
OFF_DIALS: tuple[OffDial, ...] = tuple(each.name for each in fields(Off))  # type: ignore[misc]


def off_view(match: Match, off: Off) -> View:
    """A layer's camera that stands off its plan, its picture as large as the composite lays it, not shifted.

    Parameters
    ----------
    match : Match
        The layer, measured.
    off : Off
        How it stands.

    Returns
    -------
    View
        As the shot begins.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> planned, panned = (
    ...     off_view(Match(HERO, MILL, MODEL, DELIVERY), Off(pan=pan)) for pan in (0.0, 1.0)
    ... )
    >>> middle = np.array([[0.0, 2.0, 0.0]])
    >>> float((panned.seen(middle, 1920, 1080) - planned.seen(middle, 1920, 1080))[0, 0].round(1))
    -51.7
    """
    if _PLANNED not in match.worked_out:
        match.worked_out[_PLANNED] = layer_view(match, START).unshifted()
    planned: View = match.worked_out[_PLANNED]
    scale = match.layer.scale
    rows = np.array(planned.rows)
    rows[F_PX] *= np.exp(off.zoom)
    rows[DISTANCE] -= off.forward * scale
    rows[HEIGHT] += off.up * scale
    rows[TILT] += off.tilt
    rows[ROLL] += off.roll
    rows[TRAVEL] = off.aside * scale
    still, whole = np.zeros(1), np.ones(1)
    path = Path(whole, np.array([off.pan]), still, still, whole, axis=0, turns=True)
    return View(rows, path)
