"""How exactly must it be placed? ± for each dial before the worst item that it moves leaves Holds."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..match.camera import camera_height_m
from ..match.layer import Layer
from ..match.limits import measured_tolerance
from ..match.many import Many
from ..match.measure import PARTS, Match
from ..match.pose import Array
from ..match.records import Delivery, SetUp
from ..match.tolerances import Tolerance
from ..match.weighed import amount_uncovered
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
_MOVES = 1e-12  # of a share of its tolerance: less moves nothing
_COARSE = 15  # steps that are tried first on each side: two for each decade
_PRECISION = 5e-4  # of a step
_BETWEEN, _BETWEEN_FAR, _FAR_APART = 5, 11, 0.1
_MOST_TURNS = 16
_AROUND = np.array([-30.0, -1.0, 1.0, 30.0])


def wanted(hero: SetUp, layer: Layer, setup: SetUp) -> dict[str, float]:
    """Where each dial wants to be for this layer; where it stands when nothing wishes it elsewhere."""
    return {
        "distance_m": layer.near_m / layer.scale,
        "lens_height_m": setup.ground_height_m + (camera_height_m(hero) - layer.base_m) / layer.scale,
        "tilt_deg": hero.tilt_deg,
        "roll_deg": hero.roll_deg,
        "focus_distance_m": setup.focus_distance_m,
    }


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
    another reason is left out. All dials are tried to both sides at once, ever closer to where Holds ends.

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
    custom = dict(tolerances or {})
    kept: dict[Any, Any] = layer.worked_out.setdefault("placings", {})
    centres = wanted(hero, layer, setup)
    placings, left = {}, []
    for dial in (dial for dial in _DIALS if dial in only):
        # where the dial itself stands says nothing of it: a hand that turns it does not ask anew
        same = setup.model_copy(update={dial: centres[dial]})
        asked = hero, layer.scale, layer.resize, same, delivery, school, custom
        before = kept.get(dial)
        if before is not None and before[0] == asked:
            placings[dial] = before[1]
        else:
            left.append((dial, asked))
    if left:
        search = _Search(hero, layer, setup, delivery, school, custom, centres)
        for (dial, asked), placed in zip(left, search.placings([dial for dial, _ in left]), strict=True):
            placings[dial] = placed
            kept[dial] = asked, placed
    return [placings[dial] for dial in _DIALS if dial in placings]


@dataclass(slots=True)
class _Side:
    """One way to turn a dial from where it wants to be: between ``good`` and ``bad`` Holds ends, because of
    ``item``; ``ends`` is false where it never does. ``curve`` is where it ends by the last three steps; nan
    where they say nothing.
    """

    dial: str
    sign: float
    items: list[str]
    good: float = 0.0
    bad: float = math.inf
    at_good: float = 0.0
    at_bad: float = math.inf
    curve: float = math.nan
    item: str = ""
    ends: bool = True

    @property
    def open(self) -> bool:
        """Whether it is not known yet where Holds ends."""
        return self.ends and (self.bad == math.inf or self.bad - self.good > _PRECISION * self.bad)

    def steps(self) -> Array:
        """Where to look next, between what holds and what does not. Most items grow in proportion, so that
        the straight line between both is nearly there, and the curve through three steps nearer still.
        """
        wide = self.bad - self.good
        # as long as both are far apart, an item may leave Holds between them and come back
        places = np.linspace(0.0, 1.0, _BETWEEN_FAR if wide > _FAR_APART * self.bad else _BETWEEN)[1:-1]
        if math.isfinite(self.at_bad):
            line = (1.0 - self.at_good) / (self.at_bad - self.at_good)
            margin = min(_PRECISION * self.bad / wide / 6.0, 0.02)  # the end may lie at half of it
            ends = np.array([line, (self.curve - self.good) / wide])
            places = np.concatenate([places, *(end + margin * _AROUND for end in ends[np.isfinite(ends)])])
        inside = np.unique(places[(places > 0.0) & (places < 1.0)])
        return np.asarray(self.good + wide * inside)


def _crossing(steps: Array, shares: Array, first: int) -> float:
    """Where shares reach 1, by the curve through the first step that is over it and two beside it: the step
    as a quadratic of the share (inverse interpolation). nan where they do not grow.
    """
    these = slice(max(first - 2, 0), max(first - 2, 0) + 3)
    x, y = steps[these], shares[these]
    if len(x) < 3 or not np.isfinite(y).all() or not (np.diff(y) > 0).all():
        return math.nan
    a, b, c = y
    return float(
        x[0] * (1 - b) * (1 - c) / ((a - b) * (a - c))
        + x[1] * (1 - a) * (1 - c) / ((b - a) * (b - c))
        + x[2] * (1 - a) * (1 - b) / ((c - a) * (c - b))
    )


class _Search:
    def __init__(
        self,
        hero: SetUp,
        layer: Layer,
        setup: SetUp,
        delivery: Delivery,
        school: School,
        custom: dict[str, Tolerance],
        centres: dict[str, float],
    ) -> None:
        self.hero, self.layer, self.setup, self.delivery = hero, layer, setup, delivery
        self.school, self.custom, self.centres = school, custom, centres
        self.least = {"distance_m": 0.0, "focus_distance_m": setup.focal_length_mm / 1000.0}

    def shares(self, tried: list[tuple[str, Array]]) -> tuple[list[str], list[Array]]:
        """The items, and the share of its tolerance that each takes (1 is the end of Holds) for every value
        of each dial (items, values); where a set-up cannot be, all that there is.
        """
        values = np.concatenate([values for _, values in tried])
        ends = np.cumsum([len(values) for _, values in tried])
        spans = [slice(end - len(values), end) for end, (_, values) in zip(ends, tried, strict=True)]
        varied = {dial: np.full(len(values), float(getattr(self.setup, dial))) for dial, _ in tried}
        impossible = np.zeros(len(values), dtype=bool)
        for (dial, _), span in zip(tried, spans, strict=True):
            cannot = values[span] <= self.least.get(dial, -math.inf)
            varied[dial][span] = np.where(cannot, varied[dial][span], values[span])
            impossible[span] = cannot
        many = Many.of(self.setup, self.layer.resize, **varied)
        parts = PARTS if "focus_distance_m" in varied else ("optics", "time")  # what lights it, stands
        match = Match(self.hero, self.layer, many, self.delivery, parts)
        shares = np.empty((len(match.amounts), len(values)))
        for row, (item, amount) in enumerate(match.amounts.items()):
            base = measured_tolerance(match, item, self.custom)
            shares[row] = amount_uncovered(match, item, amount, self.school, base) / base.holds
        shares[:, impossible] = math.inf
        return list(match.amounts), [shares[:, span] for span in spans]

    def placings(self, asked: list[str]) -> list[Placing]:
        """The dials at once: where they want to be, a first step to either side, and coarse steps on."""
        coarse = {dial: np.geomspace(*_DIALS[dial][1:], _COARSE) for dial in asked}
        names, looks = self.shares(
            [
                (dial, self.centres[dial] + np.concatenate([[0.0], coarse[dial], -coarse[dial]]))
                for dial in asked
            ]
        )
        sides: dict[str, tuple[_Side, _Side]] = {}
        placings: dict[str, Placing] = {}
        for dial, look in zip(asked, looks, strict=True):
            placed = Placing(dial, self.centres[dial], _DIALS[dial][0], None, None, "")
            if not np.isfinite(look[:, 0]).all():
                placings[dial] = placed
                continue
            near = look[:, [0, 1, 1 + _COARSE]]
            change = np.where(np.isfinite(near), np.abs(near - near[:, :1]), 0.0).max(axis=1)
            moves = {names[row] for row in np.flatnonzero(change > _MOVES)}
            beyond = {names[row] for row in np.flatnonzero(look[:, 0] > 1.0)} & moves
            own = beyond & _OWN[dial]
            if own:
                _, worst = max((float(look[names.index(item), 0]), item) for item in own)
                placings[dial] = replace(placed, item=worst)
                continue
            # what another dial must mend says nothing of how exactly this one stands
            # what stands still at first (what all does together) may move further on
            later = np.where(np.isfinite(look), np.abs(look - look[:, :1]), 0.0).max(axis=1) > _MOVES
            holds = {names[row] for row in np.flatnonzero(later & (look[:, 0] <= 1.0))}
            items = sorted((moves | holds) - beyond)
            sides[dial] = _Side(dial, -1.0, items), _Side(dial, 1.0, items)
            rows = look[[names.index(item) for item in items]]
            at_centre = float(rows[:, 0].max(initial=0.0))
            for side, looked in zip(
                sides[dial], (rows[:, 1 + _COARSE :], rows[:, 1 : 1 + _COARSE]), strict=True
            ):
                side.at_good = at_centre
                self._narrow(side, coarse[dial], items, looked, beyond_steps=False)
        self._close_in([side for both in sides.values() for side in both])
        for dial, (less, more) in sides.items():
            item = more.item if more.good <= less.good else less.item
            placings[dial] = Placing(dial, self.centres[dial], _DIALS[dial][0], less.good, more.good, item)
        return [placings[dial] for dial in asked]

    def _close_in(self, sides: list[_Side]) -> None:
        """Find where Holds ends on every side: between the last step that holds and the first that does not,
        where the line and the curve through them say, and in the middle.
        """
        for _ in range(_MOST_TURNS):
            open_sides = [side for side in sides if side.open]
            if not open_sides:
                return
            steps = [side.steps() for side in open_sides]
            names, looks = self.shares(
                [
                    (side.dial, self.centres[side.dial] + side.sign * step)
                    for side, step in zip(open_sides, steps, strict=True)
                ]
            )
            for side, step, look in zip(open_sides, steps, looks, strict=True):
                rows = {item: look[names.index(item)] for item in side.items if item in names}
                self._narrow(side, step, list(rows), np.array(list(rows.values())))

    def _narrow(
        self, side: _Side, steps: Array, items: list[str], shares: Array, beyond_steps: bool = True
    ) -> None:
        """Move both ends of a side closer by what was looked at; without ``beyond_steps`` Holds that does not
        end within them never does.
        """
        shares = shares.reshape(len(items), len(steps))  # no items are no rows
        over = np.flatnonzero((shares > 1.0).any(axis=0))
        if not len(over):
            side.good, side.at_good = float(steps[-1]), float(shares[:, -1].max(initial=0.0))
            side.ends = beyond_steps
            return
        first = int(over[0])
        most = shares.max(axis=0)
        worst = int(shares[:, first].argmax())
        side.curve = _crossing(steps, shares[worst], first)
        if first:
            side.good, side.at_good = float(steps[first - 1]), float(most[first - 1])
        side.bad, side.at_bad = float(steps[first]), float(most[first])
        side.item = items[worst]
