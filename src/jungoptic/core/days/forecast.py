"""How long it will all take: the days and hours that are left, at the pace so far, with its spread."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from ..breakdown import ON_SET
from .checking import plan_costs
from .records import Booking, Shooting

Array = npt.NDArray[np.float64]
_DRAWS = 4000
_SHARES = (0.1, 0.5, 0.9)
# Where no pace is known yet. Judgement: what was planned takes a quarter longer, give or take a third.
_GUESS_MEDIAN, _GUESS_SPREAD = 1.25, 0.3
_USUAL_DAY_MIN = 480.0  # where nothing is planned to tell it from
_LEAST_KNOWN = 8  # so many measured paces weigh as much as the guess


@dataclass(frozen=True, slots=True)
class Outlook:
    """When it is finished: one chance in ten, as likely as not, nine in ten; and what was reckoned with."""

    early: date
    likely: date
    late: date
    shooting_days: float
    pace: float
    paces: int

    @property
    def spread_days(self) -> int:
        """Days between the early and the late end."""
        return (self.late - self.early).days


def pace_draws(paces: Sequence[float], seed: int = 1, count: int = _DRAWS) -> Array:
    """Paces as they may come: those measured, and a guess that counts less the more are measured.

    Parameters
    ----------
    paces : sequence of float
        Minutes that something took over those that it was planned with.
    seed : int, default 1
        The same seed gives the same draws.
    count : int, default 4000
        How many.

    Returns
    -------
    ndarray, shape (count,)
        Each as likely as any other.

    References
    ----------
    bootstrap, pace_guess

    Examples
    --------
    >>> bool(0.9 < np.median(pace_draws([1.0] * 200)) < 1.1)
    True
    """
    dice = np.random.default_rng(seed)
    guess = np.exp(dice.normal(math.log(_GUESS_MEDIAN), _GUESS_SPREAD, count))
    if not len(paces):
        return guess
    measured = dice.choice(np.asarray(paces, dtype=float), count)
    known = dice.random(count) < len(paces) / (len(paces) + _LEAST_KNOWN)
    draws: Array = np.where(known, measured, guess)
    return draws


def off_set_hours(shots: Iterable[tuple[Mapping[str, float], float]]) -> dict[str, float]:
    """Hours left by craft of what is not done on the set, whose time is that of the jobs.

    Parameters
    ----------
    shots : iterable of (mapping, float)
        Hours of each shot by craft, and which share of them is left: what is spent counts for every craft
        alike.

    Returns
    -------
    dict
        Hours by craft; none where a craft has none.

    References
    ----------
    days_left

    Examples
    --------
    >>> off_set_hours([({"matte": 8.0, "animate": 3.0}, 0.5), ({"matte": 2.0}, 1.0)])
    {'matte': 6.0}
    """
    crafts: dict[str, float] = {}
    for hours_of, left in shots:
        for craft, hours in hours_of.items():
            if craft not in ON_SET and hours:
                crafts[craft] = crafts.get(craft, 0.0) + hours * left
    return crafts


def minutes_a_day(shooting: Shooting, bookings: Sequence[Booking]) -> float:
    """How long the jobs of a planned day last with the changes between them.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places.
    bookings : sequence of Booking
        The plan.

    Returns
    -------
    float
        Minutes on the average of the days that have work; eight hours where none has.

    References
    ----------
    days_changes, days_left

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE, Booking
    >>> minutes_a_day(EXAMPLE, [Booking(job="cup", date="2027-10-16", start="10:00")])
    94.0
    """
    costs = plan_costs(shooting, bookings)
    if not costs.days:
        return _USUAL_DAY_MIN
    minutes = {job.key: job.minutes for job in shooting.jobs}
    return (sum(minutes[own.job] for own in bookings) + costs.changing_min) / costs.days


def outlook(
    today: date,
    days: Sequence[date],
    minutes_left: float,
    minutes_a_day: float,
    hours_left: Mapping[str, float],
    hours_a_week: float,
    paces: Sequence[float] = (),
    helpers: int = 1,
) -> Outlook:
    """When everything is finished: the jobs on the days that there are, then the hours of each craft.

    The minutes left are filmed on the days planned, and on days a week apart where these do not suffice, at
    paces drawn from those measured; the desk works beside and after it, shared by the helpers. Each draw has
    its own pace for every fifth of the work: late days and good ones partly even out.

    Parameters
    ----------
    today : date
        From here on.
    days : sequence of date
        Shooting days to come.
    minutes_left : float
        Of jobs not yet filmed, with the changes between them, as planned.
    minutes_a_day : float
        Filmed on one day, as planned.
    hours_left : mapping
        By craft, of all shots, off the set.
    hours_a_week : float
        That one person has for them.
    paces : sequence of float
        Minutes taken over minutes planned, of what is done.
    helpers : int, default 1
        People at the desk.

    Returns
    -------
    Outlook
        Dates with the spread that the pace has shown.

    References
    ----------
    bootstrap, pace_guess

    Examples
    --------
    >>> weekend = [date(2027, 10, 16), date(2027, 10, 17)]
    >>> ahead = outlook(date(2027, 10, 11), weekend, 900, 600, {"matte": 20}, 20)
    >>> ahead.early <= ahead.likely <= ahead.late
    True
    """
    parts = np.stack([pace_draws(paces, seed) for seed in range(1, 6)])
    pace = parts.mean(axis=0)
    needed = pace * minutes_left / max(minutes_a_day, 1.0)
    to_come = sorted(day for day in days if day >= today)
    filmed = np.array([_day_number(to_come, today, float(count)) for count in np.ceil(needed - 1e-9)])
    desk_pace = np.roll(pace, _DRAWS // 2)
    weeks = desk_pace * sum(hours_left.values()) / max(hours_a_week * max(helpers, 1), 0.1)
    desk = np.ceil(7.0 * weeks)
    # Half of the desk's work can be done before the last plate is there.
    ends = np.maximum(filmed + np.ceil(desk / 2.0), desk)
    early, likely, late = (
        today + timedelta(days=round(float(np.quantile(ends, share)))) for share in _SHARES
    )
    return Outlook(early, likely, late, float(np.median(needed)), float(np.median(pace)), len(paces))


def _day_number(days: Sequence[date], today: date, count: float) -> int:
    """Days from today until so many shooting days are over; beyond those planned one a week."""
    if count <= 0:
        return 0
    if count <= len(days):
        return (days[int(count) - 1] - today).days + 1
    last = days[-1] if days else today
    return (last - today).days + 1 + 7 * int(count - len(days))
