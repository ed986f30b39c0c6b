"""How long it will all take: the days left, the hours off the set, the pace so far."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from jungoptic.app.breakdown.schemas import WallLine
from jungoptic.app.breakdown.wall import wall
from jungoptic.app.days.ahead_schemas import EndOut, OutlookOut
from jungoptic.app.days.going import Going
from jungoptic.app.days.reading import DaysOf
from jungoptic.core import days as core


def ahead(days: DaysOf) -> OutlookOut:
    """The outlook of a production as it stands."""
    going = Going(days)
    found = wall(days.production.pk, "measured")
    paces = _paces(going, found.shots)
    open_shots = [line for line in found.shots if not line.ready]
    crafts = _off_set(open_shots)
    dearest = max(open_shots, key=lambda line: line.hours_left, default=None)
    if dearest is not None and not dearest.hours_left:
        dearest = None
    minutes = sum(job.minutes for job in days.jobs)
    changing = core.plan_costs(days.shooting, days.bookings).changing_min
    a_day = core.minutes_a_day(days.shooting, days.bookings)
    as_it_is = _outlook(days, minutes + changing, a_day, crafts, paces)
    helped = _outlook(days, minutes + changing, a_day, crafts, paces, helpers=2)
    without = None
    if dearest is not None:
        rest = [job.minutes for job in days.jobs if set(job.shots) != {dearest.code}]
        others = _off_set(line for line in open_shots if line is not dearest)
        share = len(rest) / max(len(days.jobs), 1)
        without = _end(_outlook(days, sum(rest) + share * changing, a_day, others, paces))
    return OutlookOut(
        minutes_left=minutes,
        days_left=round(as_it_is.shooting_days, 1),
        hours_left={craft: round(hours, 1) for craft, hours in crafts.items()},
        off_set_h=days.figures.off_set_h,
        pace=round(as_it_is.pace, 2),
        paces=as_it_is.paces,
        pending=found.pending,
        end=_end(as_it_is),
        helped=_end(helped),
        dearest=dearest.code if dearest else "",
        dearest_h=round(dearest.hours_left, 1) if dearest else 0.0,
        without=without,
    )


def _outlook(
    days: DaysOf,
    minutes: float,
    a_day: float,
    crafts: dict[str, float],
    paces: Sequence[float],
    helpers: int = 1,
) -> core.Outlook:
    today = days.now[0] if days.now else days.today
    return core.outlook(
        today,
        days.open_dates,
        minutes,
        a_day,
        crafts,
        days.figures.off_set_h,
        paces,
        helpers,
    )


def _end(told: core.Outlook) -> EndOut:
    return EndOut(early=told.early, likely=told.likely, late=told.late)


def _off_set(lines: Iterable[WallLine]) -> dict[str, float]:
    return core.off_set_hours(
        (line.by_craft, line.hours_left / line.hours if line.hours else 0.0) for line in lines
    )


def _paces(going: Going, lines: Sequence[WallLine]) -> list[float]:
    """Minutes taken over minutes planned: takes of every job that is filmed, hours of every shot that is
    ready.
    """
    planned = {job.key: job.takes_min for job in going.days.jobs_of(going.days.whole)}
    took = [
        (own.done_min - own.began_min) / planned[key]
        for key, own in going.filmed.items()
        if own.began_min is not None and own.done_min is not None and own.done_min > own.began_min
    ]
    spent = [
        line.hours_spent / line.hours for line in lines if line.ready and line.hours and line.hours_spent
    ]
    return [*took, *spent]
