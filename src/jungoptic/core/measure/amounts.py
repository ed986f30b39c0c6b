"""What every measurement is told as: amounts with their errors, what was taken for granted, what is drawn
over the picture, and what goes over the frames.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

TWICE = 2.0
"""Errors are told as two deviations: 95 of 100 lie within."""
OverlayKind = Literal["line", "area", "circle", "point"]
Weight = Literal["plain", "faint", "shows"]
Places = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Amount:
    """One measured amount. ``off`` is two deviations, in the same unit; None where it is counted, not
    measured.
    """

    name: str
    title: str
    value: float
    off: float | None = None
    unit: str = ""


@dataclass(frozen=True, slots=True)
class Overlay:
    """Something drawn over the picture: places in shares of the frame; of a circle its middle and a place on
    its rim. What ``shows`` is what is wrong.
    """

    kind: OverlayKind
    places: Places
    text: str = ""
    weight: Weight = "plain"


@dataclass(frozen=True, slots=True)
class Series:
    """One amount over the frames, from the first on; NaN where there is none."""

    name: str
    title: str
    unit: str
    values: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Measurement:
    """What one row of the table came to. The first amount is the one that judges. ``field`` is a coarse map
    of the frame in stops, by rows from the top; NaN where nothing is known.
    """

    what: str
    amounts: tuple[Amount, ...]
    assumes: tuple[str, ...] = ()
    overlays: tuple[Overlay, ...] = ()
    series: tuple[Series, ...] = ()
    field: tuple[tuple[float, ...], ...] = ()

    def amount(self, name: str) -> Amount:
        """One of its amounts.

        Parameters
        ----------
        name : str
            Of the amount.

        Returns
        -------
        Amount
            With its error.

        Raises
        ------
        KeyError
            Where it has none of that name.

        Examples
        --------
        >>> Measurement("edge", (Amount("spread", "Edge", 2.5, 0.1, "px"),)).amount("spread").value
        2.5
        """
        for each in self.amounts:
            if each.name == name:
                return each
        raise KeyError(name)
