"""What a row of the table came to: as amounts, and in a sentence."""

from __future__ import annotations

from dataclasses import dataclass
from functools import singledispatch
from typing import Any

from ..measure import Amount, Measurement
from ..wording import number


@dataclass(frozen=True, slots=True)
class Sized:
    """The pictures that were measured, px, and how many delivered px one of theirs is; ``begins`` is the
    frame from which on they were looked at: what comes before is a slate.
    """

    width: int
    height: int
    delivered: float = 1.0
    rate_fps: float = 24.0
    shutter_angle_deg: float = 180.0
    begins: int = 0

    def share(self, x: float, y: float) -> tuple[float, float]:
        """A place of a picture in shares of the frame.

        Parameters
        ----------
        x, y : float
            Its pixel, px; the middle of the first is 0.

        Returns
        -------
        tuple of (float, float)
            From the left and from the top.

        Examples
        --------
        >>> Sized(100, 50).share(49.5, 24.5)
        (0.5, 0.5)
        """
        return (x + 0.5) / self.width, (y + 0.5) / self.height


@singledispatch
def as_measurement(result: Any, sized: Sized) -> Measurement:
    """What was measured, as amounts with their errors, overlays and series.

    Parameters
    ----------
    result : object
        What a function of :mod:`~jungoptic.core.measure` returned, or a record of this package.
    sized : Sized
        The pictures it was measured in.

    Returns
    -------
    Measurement
        Lengths in delivered px.

    Raises
    ------
    TypeError
        Where it is no such result.

    Examples
    --------
    >>> from ..measure import Edge
    >>> edge = Edge(2.0, 0.1, 0.2, 85.0, 0.1, 0.6, ())
    >>> as_measurement(edge, Sized(3840, 2160, 0.5)).amounts[0].value
    1.0
    """
    raise TypeError(f"{type(result).__name__} is no measurement")


@singledispatch
def in_words(result: Any, sized: Sized) -> str:
    """What was measured, in a sentence or two.

    Parameters
    ----------
    result : object
        What a function of :mod:`~jungoptic.core.measure` returned, or a record of this package.
    sized : Sized
        The pictures it was measured in.

    Returns
    -------
    str
        The amount with its error first, then what it means.

    Raises
    ------
    TypeError
        Where it is no such result.

    Examples
    --------
    >>> from ..measure import Edge
    >>> in_words(Edge(2.0, 0.1, 0.2, 85.0, 0.1, 0.6, ()), Sized(1920, 1080))
    'From 10 to 90 % the edge takes 2 ± 0.1 px; half of its contrast is left at 0.2 cycles a px.'
    """
    raise TypeError(f"{type(result).__name__} is no measurement")


def within(amount: Amount) -> str:
    """An amount with its error and unit, as it is read.

    Parameters
    ----------
    amount : Amount
        To be told.

    Returns
    -------
    str
        With no more figures than its error allows.

    Examples
    --------
    >>> within(Amount("moved", "Camera moved", 2.3456, 0.03, "px"))
    '2.35 ± 0.03 px'
    """
    unit = {"%": " %", "°": "°", "×": " ×", "": ""}.get(amount.unit, f" {amount.unit}")
    if amount.off is None:
        return number(amount.value) + unit
    return with_error(amount.value, amount.off) + unit


def with_error(value: float, off: float) -> str:
    """A value and its error to the same place.

    Parameters
    ----------
    value : float
        Any.
    off : float
        Two deviations, more than 0.

    Returns
    -------
    str
        Error to one figure, two where it begins with a one.

    Examples
    --------
    >>> with_error(0.81234, 0.0312), with_error(12.34, 1.4), with_error(-0.0004, 0.02)
    ('0.81 ± 0.03', '12.3 ± 1.4', '0 ± 0.02')
    """
    if not 0 < off < 1e6:
        return number(value)
    places = 0
    while off * 10**places < 0.95 and places < 6:
        places += 1
    if off * 10**places < 1.95 and places < 6:
        places += 1
    rounded = round(value, places) + 0.0
    text = f"{abs(rounded):.{places}f}" if rounded else "0"
    return ("−" if rounded < 0 else "") + f"{text} ± {off:.{places}f}"
