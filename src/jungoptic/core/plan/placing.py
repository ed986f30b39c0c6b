"""How exactly must it be placed? ± for each dial before the worst item that it moves leaves Holds."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping
from dataclasses import dataclass

from ..match.layer import Layer
from ..match.limits import tolerance_of
from ..match.measure import Match
from ..match.records import Delivery, SetUp
from ..match.tolerances import Tolerance
from ..vocabulary import School
from ..wording import Words, number


@dataclass(frozen=True, slots=True)
class Placing:
    """How far a dial may be off, in its own unit, to each side of where it is ``wanted``.

    None where it is beyond Holds already.
    """

    dial: str
    wanted: float
    unit: str
    minus: float | None
    plus: float | None
    item: str

    def text(self, words: Words) -> str:
        """± in words: a millimetre, a tenth of a degree, or that it is beyond Holds already.

        Parameters
        ----------
        words : Words
            The reader's units.

        Returns
        -------
        str
            A few characters.

        Examples
        --------
        >>> Placing("lens_height_m", 0.133, "m", 0.002, 0.002, "height").text(Words())
        '± 2 mm'
        """
        if self.minus is None or self.plus is None:
            return "beyond it already"
        less, more = (
            (words.length(side) if self.unit == "m" else f"{number(side, 2)}°")
            for side in (self.minus, self.plus)
        )
        most = max(self.minus, self.plus)
        if most >= 100:
            return "any"
        even = abs(self.minus - self.plus) < 0.05 * most
        return f"± {less if self.minus < self.plus else more}" if even else f"− {less} … + {more}"


def height_wish(wanted_m: float, plus_m: float | None, words: Words) -> str:
    """Where the lens would marry, and how exactly.

    Parameters
    ----------
    wanted_m : float
        Metres over the floor.
    plus_m : float or None
        How much higher still holds, metres; None where nobody worked it out.
    words : Words
        The reader's units.

    Returns
    -------
    str
        A few words.

    Examples
    --------
    >>> height_wish(0.133, 0.002, Words())
    'lens wants 0.133 m ± 2 mm'
    """
    margin = f" ± {words.length(plus_m)}" if plus_m is not None and plus_m < 100 else ""
    return f"lens wants {words.length(wanted_m)}{margin}"


# dial: (unit, first step tried, largest step tried)
_DIALS: dict[str, tuple[str, float, float]] = {
    "distance_m": ("m", 1e-4, 1e3),
    "lens_height_m": ("m", 1e-4, 1e3),
    "tilt_deg": ("°", 1e-3, 45.0),
    "roll_deg": ("°", 1e-3, 90.0),
    "focus_distance_m": ("m", 1e-4, 1e3),
}
# what a dial by itself is there for
_OWN = {
    "distance_m": {"perspective"},
    "lens_height_m": {"height"},
    "tilt_deg": {"tilt"},
    "roll_deg": {"roll"},
    "focus_distance_m": {"focus_near", "focus_far"},
}
_PRECISION = 2e-4
_MOST_TURNS = 60


def wanted(match: Match, dial: str) -> float:
    """Where the dial wants to be for this layer; where it stands when nothing wishes it elsewhere."""
    setup = match.setup
    assert setup is not None
    wishes: dict[str, float] = {
        "distance_m": match.wanted_distance_m,
        "lens_height_m": setup.ground_height_m + match.wanted_height_m,
        "tilt_deg": match.hero.tilt_deg,
        "roll_deg": match.hero.roll_deg,
    }
    return wishes[dial] if dial in wishes else float(getattr(setup, dial))


def place(
    hero: SetUp,
    layer: Layer,
    setup: SetUp,
    delivery: Delivery,
    *,
    school: School = "measured",
    tolerances: Mapping[str, Tolerance] | None = None,
    only: Collection[str] = tuple(_DIALS),
) -> list[Placing]:
    """How exactly a set-up must be placed: ± for each dial before the worst item that it moves leaves Holds.

    Everything else stays as it stands, and the dial itself is where it wants to be; an item that shows for
    another reason is left out. Bracketed from the slope
    at the middle, then closed in along the straight line.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        What is filmed.
    setup : SetUp
        What films it, metres of the set.
    delivery : Delivery
        The finished frame.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    only : collection of str, optional
        Dials: distance, height, tilt, roll, focus; all when left out.

    Returns
    -------
    list of Placing
        In the dials' own units.

    References
    ----------
    pinhole, thin_lens

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> low = MODEL.but(lens_height_m=1.6 / 12, focus_distance_m=1.2)
    >>> place(HERO, MILL, low, DELIVERY, only=("lens_height_m",))[0].text(Words())
    '± 1 mm'
    """
    search = _Search(hero, layer, setup, delivery, school, dict(tolerances or {}))
    return [search.place(dial) for dial in _DIALS if dial in only]


class _Search:
    def __init__(
        self,
        hero: SetUp,
        layer: Layer,
        setup: SetUp,
        delivery: Delivery,
        school: School,
        custom: dict[str, Tolerance],
    ) -> None:
        self.hero, self.layer, self.setup, self.delivery, self.school, self.custom = (
            hero,
            layer,
            setup,
            delivery,
            school,
            custom,
        )

    def match_with(self, dial: str, value: float) -> Match | None:
        """The comparison with the dial there; None where a set-up cannot be."""
        if (dial == "distance_m" and value <= 0) or (
            dial == "focus_distance_m" and 1000.0 * value <= self.setup.focal_length_mm
        ):
            return None
        return Match(self.hero, self.layer, self.setup.model_copy(update={dial: value}), self.delivery)

    def worst(self, match: Match | None, items: Collection[str]) -> tuple[float, str]:
        """The largest share of its tolerance that any of the items takes (1 is the end of Holds), and which
        item it is.
        """
        if match is None:
            return math.inf, ""
        shares = [
            (match.amounts[key] / tolerance_of(match, key, self.school, self.custom)[0].holds, key)
            for key in items
            if key in match.amounts
        ]
        return max(shares, default=(0.0, ""))

    def place(self, dial: str) -> Placing:
        unit, first, most = _DIALS[dial]
        here = Match(self.hero, self.layer, self.setup, self.delivery)
        centre = wanted(here, dial)
        middle = self.match_with(dial, centre)
        if middle is None:
            return Placing(dial, centre, unit, None, None, "")
        items = self.moved_by(dial, centre, first, middle)
        beyond = {item for item in items if self.worst(middle, (item,))[0] > 1.0}
        own = beyond & _OWN[dial]
        if own:
            return Placing(dial, centre, unit, None, None, self.worst(middle, own)[1])
        items -= beyond  # what another dial must mend says nothing of how exactly this one stands
        minus, by_minus = self.side(dial, centre, -first, most, items)
        plus, by_plus = self.side(dial, centre, first, most, items)
        return Placing(dial, centre, unit, minus, plus, by_plus if plus <= minus else by_minus)

    def moved_by(self, dial: str, centre: float, first: float, middle: Match) -> set[str]:
        """The items that the dial moves, to either side."""
        items: set[str] = set()
        for step in (first, -first):
            moved = self.match_with(dial, centre + step)
            if moved is not None:
                items |= {
                    key for key, amount in middle.amounts.items() if abs(moved.amounts[key] - amount) > 1e-12
                }
        return items

    def side(self, dial: str, centre: float, first: float, most: float, items: set[str]) -> tuple[float, str]:
        """How far to one side (the sign of ``first``) the worst item holds, and which item that is."""
        sign = math.copysign(1.0, first)

        def place_at(step: float) -> tuple[float, str]:
            return self.worst(self.match_with(dial, centre + sign * step), items)

        good, at_good = 0.0, self.worst(self.match_with(dial, centre), items)[0]
        slope = (place_at(abs(first))[0] - at_good) / abs(first)
        bad = min(max((1.0 - at_good) / slope * 1.001 if slope > 0 else most, abs(first)), most)
        at_bad, name = place_at(bad)
        while at_bad <= 1.0:
            if bad >= most:
                return most, ""
            good, at_good, bad = bad, at_bad, min(bad * 1.5, most)
            at_bad, name = place_at(bad)
        for turn in range(_MOST_TURNS):
            if bad - good <= _PRECISION * bad:
                break
            # Most items grow in proportion, so the straight line between the ends is nearly there; the middle
            # is the safe way.
            line = (
                good + (1.0 - at_good) / (at_bad - at_good) * (bad - good)
                if math.isfinite(at_bad)
                else math.inf
            )
            margin = _PRECISION * bad / 4.0
            for step in (
                (line - margin, line + margin)
                if turn % 3 < 2 and good < line < bad
                else ((good + bad) / 2.0,)
            ):
                if not good < step < bad:
                    continue
                share, item = place_at(step)
                if share <= 1.0:
                    good, at_good = step, share
                else:
                    bad, at_bad, name = step, share, item
        return good, name
