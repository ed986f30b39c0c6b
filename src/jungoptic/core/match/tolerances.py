"""The items that are judged, with their units and default tolerances, and what a verdict is.

The items stand in their data file.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from importlib.resources import files
from typing import Annotated, Any, Self

import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from .. import data_file
from ..errors import refuse
from ..quantities import Record
from ..vocabulary import VERDICTS, Verdict

_EDGE = 1e-9  # a value that lands on a limit by arithmetic still holds
_FILE = "items.toml"


@dataclass(frozen=True, slots=True)
class Tolerance:
    """``holds`` is the most that nobody will see, ``tight`` the most before it shows; both in the item's
    unit.
    """

    holds: float
    tight: float


class Item(Record):
    """One thing in which a layer can differ from the hero.

    ``alone`` is judged of the hero too: it needs nothing to be held against. ``needs_models_true`` only
    informs where the production shows its models openly, ``needs_colour`` only in black and white.
    """

    key: str
    label: Annotated[str, Field(min_length=1)]
    unit: str
    holds: Annotated[float, Field(gt=0)]
    tight: Annotated[float, Field(gt=0)]
    formula: Annotated[str, Field(min_length=1)]
    sources: tuple[str, ...]
    alone: bool = False
    needs_models_true: bool = False
    needs_colour: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.tight < self.holds:
            raise refuse("tight", f"What is tight must be at least what holds, {self.holds:g}.")
        return self

    @cached_property
    def tolerance(self) -> Tolerance:
        """What holds and what is tight where the production says nothing else."""
        return Tolerance(self.holds, self.tight)

    @cached_property
    def in_pixels(self) -> bool:
        """Whether blur can cover it: stops, mireds and degrees are not covered."""
        return self.unit == "px"


def _read(text: str) -> dict[str, Item]:
    return {
        key: data_file.record(Item, {"key": key, **row}, text, _FILE, within=key)
        for key, row in data_file.tables(text, _FILE).items()
    }


ITEMS = _read(files(__package__).joinpath(_FILE).read_text("utf-8"))

MOTION_BLUR_SHARE = Tolerance(0.25, 0.5)
MOTION_BLUR_FLOOR = Tolerance(1.0, 2.0)
STROBES = Tolerance(12.5, 25.0)  # smear that is missing frame by frame, px. Source: strobing


def widened(tolerance: Tolerance, cover_px: float) -> Tolerance:
    """The tolerance under something that covers ``cover_px``: both limits grow by the same factor, never
    shrink.
    """
    factor = max(1.0, cover_px / tolerance.holds)
    return Tolerance(tolerance.holds * factor, tolerance.tight * factor)


def verdict(amount: float, tolerance: Tolerance) -> Verdict:
    """What is said of an amount.

    Parameters
    ----------
    amount : float
        In the unit of the tolerance.
    tolerance : Tolerance
        What holds and what is tight.

    Returns
    -------
    {"holds", "tight", "shows"}
        Holds up to and including ``holds``, tight up to and including ``tight``, shows beyond.

    References
    ----------
    ladder

    Examples
    --------
    >>> verdict(1.5, Tolerance(1.5, 3.0)), verdict(3.1, Tolerance(1.5, 3.0))
    ('holds', 'shows')
    """
    if amount <= tolerance.holds * (1 + _EDGE):
        return "holds"
    return "tight" if amount <= tolerance.tight * (1 + _EDGE) else "shows"


def worst(counts: Mapping[str, int]) -> Verdict:
    """The verdict of a whole from how many of its items have each.

    Parameters
    ----------
    counts : mapping of str to int
        Items by verdict.

    Returns
    -------
    {"holds", "tight", "shows"}
        The worst that any has; nothing at all holds.

    Examples
    --------
    >>> worst({"holds": 20, "tight": 1, "shows": 0})
    'tight'
    """
    return next((word for word in VERDICTS if counts.get(word)), "holds")


def ladder(amount: float, tolerance: Tolerance) -> float:
    """Place of an amount on the axis that all items share; it never falls while the amount grows.

    Parameters
    ----------
    amount : float
        In the unit of the tolerance, 0 or more.
    tolerance : Tolerance
        What holds and what is tight.

    Returns
    -------
    float
        0 to 1 holds, 1 to 2 tight, from 2 shows (one more for each doubling).

    References
    ----------
    ladder

    Examples
    --------
    >>> ladder(0.75, Tolerance(1.5, 3.0)), ladder(6.0, Tolerance(1.5, 3.0))
    (0.5, 3.0)
    """
    if amount <= tolerance.holds:
        return amount / tolerance.holds
    if amount <= tolerance.tight:
        return 1.0 + (amount - tolerance.holds) / (tolerance.tight - tolerance.holds)
    return 2.0 + math.log2(amount / tolerance.tight)


def ladders(amounts: Any, tolerance: Tolerance) -> npt.NDArray[np.float64]:
    """:func:`ladder` of many amounts, an array in the unit of the tolerance."""
    amounts = np.asarray(amounts, dtype=float)
    beyond = 2.0 + np.log2(np.maximum(amounts, tolerance.tight) / tolerance.tight)
    # "tight" may be as little as "holds": then nothing lies between them
    between = 1.0 + (amounts - tolerance.holds) / max(tolerance.tight - tolerance.holds, 1e-300)
    places: npt.NDArray[np.float64] = np.where(
        amounts <= tolerance.holds,
        amounts / tolerance.holds,
        np.where(amounts <= tolerance.tight, between, beyond),
    )
    return places
