"""What does not hold in frames that were shot: mended in the composite, or shot again; each with its price.

Kind: common practice or judgement, said at each figure of the production.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from ..handbook.frames import hand_matte_hours
from ..light import mired_of_gain
from ..match import ITEMS, Tolerance, verdict
from ..rushes import ALL_OVER, IN_PART_STOPS, Column
from ..vocabulary import Verdict
from ..wording import number
from .figures import Figures

RESIZE_PX = 0.5
"""What laying a picture back between its pixels adds to its blur disc, delivered px; common practice."""
DENOISE_PX = 1.0
"""What taking noise out of it adds; common practice."""
_BOTH_SIDES = 2.0
_HALF = 0.5


@dataclass(frozen=True, slots=True)
class MendCost:
    """What a mend makes worse, as an item of the ladder, in its unit."""

    item: str
    label: str
    amount: float
    unit: str
    verdict: Verdict


@dataclass(frozen=True, slots=True)
class Mend:
    """A way to mend an item in the composite: hours at the desk, how they come about, what it makes worse."""

    way: str
    hours: float
    formula: str
    costs: tuple[MendCost, ...] = ()


@dataclass(frozen=True, slots=True)
class TakeToMend:
    """What of a take its mends depend on: frames of the cut, delivered width, px, shapes that are cut by hand
    where nothing else helps; hours of that as they were measured of the frames, None where nobody did.
    """

    frames: int
    width_px: float
    shapes: int = 1
    hand_h: float | None = None


def mends(
    column: Column, filmed: TakeToMend, figures: Figures, tolerances: Mapping[str, Tolerance]
) -> tuple[Mend, ...]:
    """The ways to mend what was measured, the least work first.

    Parameters
    ----------
    column : Column
        What was measured.
    filmed : TakeToMend
        The take.
    figures : Figures
        What the production reckons with.
    tolerances : mapping of str to Tolerance
        In place of the items' own.

    Returns
    -------
    tuple of Mend
        Empty where it holds, or no composite mends it.

    References
    ----------
    hours, mend_practice

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> from jungoptic.core.measure import Amount
    >>> from jungoptic.core.rushes import RowTold, columns
    >>> from jungoptic.core.wording import Words
    >>> row = RowTold("still", (Amount("moved", "Camera moved", 2.3, 0.1, "px"),))
    >>> seen = columns([row], STACK, 2, {}, {}, {}, Words())[0]
    >>> mend = mends(seen, TakeToMend(96, 1920.0), Figures(), {})[0]
    >>> mend.way, mend.hours, [(cost.item, round(cost.amount, 2)) for cost in mend.costs]
    ('Track it and lay it back', 0.75, [('sharpness', 0.24), ('focus_near', 0.5)])
    """
    judged = column.judged
    if judged.verdict == "holds":
        return ()
    key = f"pair.{judged.item}" if judged.pair else judged.item
    ways = _WAYS.get(key)
    if ways is None:
        return ()
    made = ways(_Asked(column, filmed, figures, tolerances))
    return tuple(sorted(made, key=_hours))


def _hours(mend: Mend) -> float:
    return mend.hours


@dataclass(frozen=True, slots=True)
class _Asked:
    column: Column
    filmed: TakeToMend
    figures: Figures
    tolerances: Mapping[str, Tolerance]

    @property
    def size(self) -> float:
        return self.column.judged.size

    def signed(self, name: str) -> float:
        """An amount of the row with its sign; 0 where it has none of that name."""
        amount = self.column.row.amount(name)
        return amount.value if amount else 0.0

    def cost(self, item: str, amount: float) -> MendCost:
        judged_by = ITEMS[item]
        limit = self.tolerances.get(item, judged_by.tolerance)
        return MendCost(item, judged_by.label, amount, judged_by.unit, verdict(amount, limit))

    def lifted(self, stops: float) -> MendCost:
        """Grain of what is made lighter by so many stops: photons that were never there are not."""
        return self.cost("grain", 2.0 ** (max(0.0, stops) / 2.0) - 1.0)

    def graded(self, way: str, stops: float = 0.0, times: float = 1.0) -> Mend:
        hours = times * self.figures.grade_h
        told = f"{number(self.figures.grade_h)} h" + (f" · {number(times)}" if times != 1.0 else "")
        return Mend(way, hours, told, (self.lifted(stops),) if stops > 0 else ())

    def cleaned(self, way: str, costs: tuple[MendCost, ...] = (), times: float = 1.0) -> Mend:
        hours = times * self.figures.clean_h
        told = f"{number(self.figures.clean_h)} h" + (f" · {number(times)}" if times != 1.0 else "")
        return Mend(way, hours, told, costs)

    def laid_back(self, way: str, larger_pct: float) -> Mend:
        costs = (self.cost("sharpness", larger_pct), self.cost("focus_near", RESIZE_PX))
        return Mend(way, self.figures.steady_h, f"{number(self.figures.steady_h)} h", costs)

    def by_hand(self, way: str) -> Mend:
        """Cut by hand, as measured of the frames; else as the production reckons."""
        if self.filmed.hand_h is not None:
            return Mend(way, self.filmed.hand_h, "as the outline was measured")
        figures, shapes = self.figures, self.filmed.shapes
        cut = hand_matte_hours(
            frames=self.filmed.frames,
            key_every=figures.key_every,
            minutes_per_key=figures.minutes_per_key,
            shapes=shapes,
        )
        told = f"{cut.keys} keys · {number(figures.minutes_per_key)} min · {shapes} shape"
        return Mend(way, cut.hours, told + ("" if shapes == 1 else "s"))


def _moved(asked: _Asked) -> tuple[Mend, ...]:
    if asked.column.judged.amount == "parallax":
        return (asked.by_hand("Cut it out by hand: no shift mends parallax"),)
    # what is laid back is made larger until nothing lacks at the border
    return (
        asked.laid_back("Track it and lay it back", 100.0 * _BOTH_SIDES * asked.size / asked.filmed.width_px),
    )


def _light_changed(asked: _Asked) -> tuple[Mend, ...]:
    if changed := asked.column.row.amount("changed"):
        in_part, there = ALL_OVER not in changed.title, changed.value
    else:
        there = asked.signed("there")
        in_part = abs(there - asked.signed("light")) > IN_PART_STOPS
    way = "Grade it back with a soft mask" if in_part else "Grade it back"
    return (asked.graded(way, abs(there), 2.0 if in_part else 1.0),)


def _white_changed(asked: _Asked) -> tuple[Mend, ...]:
    return (asked.graded("Balance it to the hero", asked.size / abs(mired_of_gain(2.0, 1.0))),)


def _exposure(asked: _Asked) -> tuple[Mend, ...]:
    return (asked.graded("Grade it to the hero", max(0.0, -asked.signed("over_hero"))),)


def _uneven(asked: _Asked) -> tuple[Mend, ...]:
    figures = asked.figures
    told = f"{number(figures.key_h)} + {number(figures.defect_h)} h"
    parts = Mend("Key it in parts, each by its own sheet", figures.key_h + figures.defect_h, told)
    return parts, asked.by_hand("Cut it out by hand")


def _spilt(asked: _Asked) -> tuple[Mend, ...]:
    return (asked.graded("Take the spill out of the rim"),)


def _flickers(asked: _Asked) -> tuple[Mend, ...]:
    level = asked.cleaned("Level it frame by frame as measured", (asked.lifted(asked.size / _BOTH_SIDES),))
    return (level,)


def _grain(asked: _Asked) -> tuple[Mend, ...]:
    if asked.signed("ratio") < 1.0:
        return (asked.cleaned("Lay the hero's grain over", times=_HALF),)
    soft = asked.cost("focus_near", DENOISE_PX)
    return (asked.cleaned("Take the noise out, lay the hero's grain over", (soft,)),)


def _blurred(asked: _Asked) -> tuple[Mend, ...]:
    if asked.signed(asked.column.judged.amount) < 0:
        return (asked.graded(f"Soften it by {number(asked.size, 2)} px", times=_HALF),)
    return (asked.graded(f"Soften what joins it by {number(asked.size, 2)} px"),)


def _relit(asked: _Asked) -> tuple[Mend, ...]:
    cut = asked.by_hand("Paint the light on with cut shapes")
    hours = cut.hours + asked.figures.grade_h
    return (Mend(cut.way, hours, f"{cut.formula} + {number(asked.figures.grade_h)} h"),)


def _resized(asked: _Asked) -> tuple[Mend, ...]:
    return (
        asked.laid_back("Resize it to the hero", 100.0 * _BOTH_SIDES * asked.size / asked.filmed.width_px),
    )


def _steadied(asked: _Asked) -> tuple[Mend, ...]:
    return (asked.laid_back("Steady it and enlarge it", asked.size),)


def _black(asked: _Asked) -> tuple[Mend, ...]:
    return (asked.graded("Put its black down", times=_HALF),)


_WAYS: Mapping[str, Callable[[_Asked], tuple[Mend, ...]]] = {
    "pair.split_line": _moved,
    "pair.brightness": _light_changed,
    "pair.colour": _white_changed,
    "pair.focus_near": _blurred,
    "pair.final_framing": _steadied,
    "evenness": _uneven,
    "spill": _spilt,
    "flicker": _flickers,
    "brightness": _exposure,
    "colour": _white_changed,
    "grain": _grain,
    "focus_near": _blurred,
    "direction": _relit,
    "hardness": _relit,
    "key_fill": _relit,
    "lens": _resized,
    "tilt": _resized,
    "roll": _resized,
    "black": _black,
}


@dataclass(frozen=True, slots=True)
class Again:
    """What shooting a set-up again costs: people, its minutes from the first hand to the strike, and the
    minutes there and back where nothing else is filmed there.
    """

    people: int
    minutes: int
    travel_min: int = 0

    @property
    def hours(self) -> float:
        """Of all people together."""
        return self.people * (self.minutes + self.travel_min) / 60.0

    @property
    def formula(self) -> str:
        """How the hours come about."""
        there = f" + {self.travel_min} min there and back" if self.travel_min else ""
        return f"{self.people} people · ({self.minutes} min{there})"


def mending_pays(hours: float, again: Again) -> bool:
    """Whether mending is no more work than shooting again.

    Parameters
    ----------
    hours : float
        Of mending.
    again : Again
        What shooting again costs.

    Returns
    -------
    bool
        True where both are as much.

    Examples
    --------
    >>> mending_pays(4.25, Again(3, 94)), mending_pays(5.0, Again(3, 94))
    (True, False)
    """
    return hours <= again.hours


def break_even(cheapest: Iterable[Mend], again: Again) -> str:
    """Whether to mend or to shoot again, by the hours.

    Parameters
    ----------
    cheapest : iterable of Mend
        The least of every item that does not hold; one and the same work is done once.
    again : Again
        What shooting again costs.

    Returns
    -------
    str
        Both sums and where they meet.

    Examples
    --------
    >>> track, cut = Mend("Track it", 0.75, ""), Mend("Cut it out", 3.5, "")
    >>> break_even([track, cut, track], Again(3, 94))
    'Mending all of it takes 4.25 h, shooting again 4.7 h: mend it. Beyond 4.7 h of mending, shoot again.'
    """
    hours: dict[str, float] = {}
    for mend in cheapest:
        hours[mend.way] = max(hours.get(mend.way, 0.0), mend.hours)
    mended, shot = sum(hours.values()), again.hours
    told = f"Mending all of it takes {number(mended)} h, shooting again {number(shot)} h"
    if mending_pays(mended, again):
        return f"{told}: mend it. Beyond {number(shot)} h of mending, shoot again."
    return f"{told}: shoot it again. Up to {number(shot)} h, mending would pay."
