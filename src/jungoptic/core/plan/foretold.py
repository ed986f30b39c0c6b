"""What a take would be given if one setting were not as planned: worked out before the day, for a place
without a server. Exact at its points, and nothing is said between them.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from ..match.compare import Judgement
from ..match.facts import Facts, judge_facts
from ..match.records import SetUp
from ..vocabulary import School, Units
from .card import CardSetting, lamp_of_field

_NEIGHBOURS = 4
"""So many steps of an engraved barrel to each side."""
_FACTORS = (0.5, 0.7, 0.85, 0.93, 0.97, 0.99, 1.01, 1.03, 1.07, 1.15, 1.3, 1.6)
_TURNS_DEG = (-10.0, -5.0, -2.0, -1.0, -0.5, -0.2, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0)
_SWINGS_DEG = (-45.0, -30.0, -20.0, -10.0, -5.0, 5.0, 10.0, 20.0, 30.0, 45.0)
_STOPS = (-2.0, -1.0, -2 / 3, -1 / 3, 1 / 3, 2 / 3, 1.0, 2.0)
_RAISED_M = (-0.1, -0.05, -0.02, -0.01, 0.01, 0.02, 0.05, 0.1)
_ADDED = {
    "tilt_deg": _TURNS_DEG,
    "roll_deg": _TURNS_DEG,
    "key_azimuth_deg": _SWINGS_DEG,
    "key_elevation_deg": _SWINGS_DEG,
    "nd_stops": (-3.0, -2.0, -1.0, 1.0, 2.0, 3.0),
    "key_to_fill_stops": _STOPS,
    "ground_height_m": _RAISED_M,
    "light_k": (-1600.0, -800.0, -400.0, -200.0, 200.0, 400.0, 800.0, 1600.0),
    "white_balance_k": (-1600.0, -800.0, -400.0, -200.0, 200.0, 400.0, 800.0, 1600.0),
}
_DIGITS = 5


@dataclass(frozen=True, slots=True)
class ForetoldPoint:
    """One setting at one other value: everything else is as planned."""

    field: str
    value: float
    judged: tuple[Judgement, ...]


def likely_values(line: CardSetting) -> tuple[float, ...]:
    """The values that a setting of the card may well have had instead of the planned one.

    Where there are choices, the nearest four to each side (of lamps and recordings all); else steps of its
    own kind: shares of a length, degrees, thirds of a stop, kelvins.

    Parameters
    ----------
    line : CardSetting
        As planned.

    Returns
    -------
    tuple of float
        Ascending, the planned one not among them.

    References
    ----------
    likely_deviations

    Examples
    --------
    >>> from jungoptic.core.example import HERO, KIT
    >>> from jungoptic.core.wording import Words
    >>> from .card import card_settings
    >>> tilt = next(one for one in card_settings(HERO, (), KIT, Words()) if one.field == "tilt_deg")
    >>> [round(value - tilt.value, 1) for value in likely_values(tilt)][5:7]
    [-0.2, 0.2]
    """
    here = line.value
    if here is None or not math.isfinite(here):
        return ()
    if lamp_of_field(line.field) and not line.choices:  # where a lamp stands is seen, and typed
        return ()
    if line.choices:
        others = sorted(
            mark.value for mark in line.choices if not math.isclose(mark.value, here, rel_tol=1e-6)
        )
        if lamp_of_field(line.field) or line.field == "recorded_width_px":
            return tuple(others)
        below = [value for value in others if value < here][-_NEIGHBOURS:]
        return (*below, *[value for value in others if value > here][:_NEIGHBOURS])
    if line.field in _ADDED:
        return tuple(round(here + more, _DIGITS) for more in _ADDED[line.field])
    return tuple(round(here * factor, _DIGITS) for factor in _FACTORS) if here > 0 else ()


def foretell(
    facts: Facts,
    filmed: Iterable[tuple[str, float, SetUp]],
    *,
    school: School = "measured",
    units: Units = "metric",
) -> list[ForetoldPoint]:
    """What a take would be given at each of these set-ups, as one that is logged is given it.

    Parameters
    ----------
    facts : Facts
        The layer as planned.
    filmed : iterable of tuple
        A setting, its value, and the whole set-up with it.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    units : {"metric", "imperial"}, default "metric"
        Of the sentences.

    Returns
    -------
    list of ForetoldPoint
        In their order.

    Examples
    --------
    >>> from jungoptic.core.example import KIT, MODEL, STACK
    >>> from jungoptic.core.match import PlacingErrors
    >>> facts = Facts(STACK, 1, MODEL, {}, KIT, PlacingErrors())
    >>> [point] = foretell(facts, [("tilt_deg", 3.0, MODEL.but(tilt_deg=3.0))])
    >>> point.judged == judge_facts(facts), point.field
    (False, 'tilt_deg')
    """
    points = []
    for field, value, setup in filmed:
        members = list(facts.stack.members)
        members[facts.position] = replace(members[facts.position], setup=setup)
        stack = replace(facts.stack, members=tuple(members))
        judged = judge_facts(replace(facts, stack=stack), school=school, units=units)
        points.append(ForetoldPoint(field, value, judged))
    return points
