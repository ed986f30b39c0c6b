"""Plans made, and made again with as little changed as can be: it rains, somebody is away, a day slipped."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from .plan import Plan, Progress
from .records import Booking, Shooting


@dataclass(frozen=True, slots=True)
class Moved:
    """A job that is filmed at another time; ``before`` or ``after`` is None where it was or is in no day."""

    job: str
    before: Booking | None
    after: Booking | None

    @property
    def to_another_day(self) -> bool:
        """Whether its day changes, and not its hour alone."""
        return self.before is None or self.after is None or self.before.date != self.after.date


def moved_jobs(before: Iterable[Booking], after: Iterable[Booking]) -> tuple[Moved, ...]:
    """What differs between two plans.

    Parameters
    ----------
    before, after : iterable of Booking
        The plans.

    Returns
    -------
    tuple of Moved
        By time, as it was or else as it is.

    Examples
    --------
    >>> old, new = (Booking(job="cup", date="2027-10-16", start=start) for start in (540, 600))
    >>> [(moved.job, moved.to_another_day) for moved in moved_jobs([old], [new])]
    [('cup', False)]
    """
    was = {booking.job: booking for booking in before}
    now = {booking.job: booking for booking in after}

    def when(key: str) -> tuple[date, int, str]:
        booking = was.get(key) or now[key]
        return booking.date, booking.start, key

    return tuple(
        Moved(key, was.get(key), now.get(key))
        for key in sorted({*was, *now}, key=when)
        if key not in was
        or key not in now
        or (was[key].date, was[key].start) != (now[key].date, now[key].start)
    )


def in_rain(shooting: Shooting, day: date, from_min: int = 0, bookings: Sequence[Booking] = ()) -> Shooting:
    """The same shooting with nothing outdoors on a day, from an hour on.

    Parameters
    ----------
    shooting : Shooting
        As it was planned.
    day : date
        On which it rains.
    from_min : int, default 0
        What begins before this minute is being filmed or is done: it stays.
    bookings : sequence of Booking
        The plan, for what that is.

    Returns
    -------
    Shooting
        Its outdoor jobs cannot be on that day.

    Examples
    --------
    >>> from datetime import date
    >>> from jungoptic.core.days import EXAMPLE
    >>> [job.key for job in in_rain(EXAMPLE, date(2027, 10, 16)).jobs if job.not_on]
    ['sea']
    """
    stays = {booking.job for booking in bookings if booking.date == day and booking.start < from_min}
    return shooting.model_copy(
        update={
            "jobs": tuple(
                job.model_copy(update={"not_on": (*job.not_on, day)})
                if job.outdoors and job.key not in stays and day not in job.not_on
                else job
                for job in shooting.jobs
            )
        }
    )


def plan_days(
    shooting: Shooting,
    told: Callable[[Progress], object] | None = None,
    stop: Callable[[], bool] | None = None,
    effort: float = 1.0,
    now: tuple[date, int] | None = None,
) -> Plan:
    """Order jobs into days: fewest days, then fewest people-days, least changing, least waiting, earliest.

    Few jobs are solved whole, to the end. Of more, a first plan is made by putting jobs in one by one and
    taking some out again; the solver then makes any two of its days as good as they can be, until none gets
    better, and proves by a relaxation how few days any plan needs. The same shooting gives the same plan.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    told : callable, optional
        Called with a :class:`Progress` whenever there is a better plan, and now and then.
    stop : callable, optional
        Asked now and then; where it says yes, the best plan so far is what comes out.
    effort : float, default 1
        How long to look, against the usual.
    now : tuple of date and int, optional
        A day and a minute of it: nothing but what is locked begins earlier.

    Returns
    -------
    Plan
        It keeps every rule; where not all jobs can be placed, it holds those that can, and says which rules
        together keep out the rest.

    Raises
    ------
    InputError
        What no plan can be made from, at its place: see :func:`plan_faults`.

    References
    ----------
    cp_sat, ruin_recreate, days_order

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> plan = plan_days(EXAMPLE)
    >>> plan.costs.days, plan.fewest_days, plan.left_out
    (1, 1, ())
    """
    from .faults import refuse_faults
    from .search import Search  # the solver takes a second to load: only where it is wanted

    refuse_faults(shooting)
    return Search(shooting, told or (lambda _: None), stop or (lambda: False), effort, now).plan()


def plan_again(
    shooting: Shooting,
    bookings: Sequence[Booking],
    now: tuple[date, int] | None = None,
    stop: Callable[[], bool] | None = None,
    effort: float = 1.0,
) -> Plan:
    """The plan that keeps every rule and changes least: few jobs to another day, then few minutes moved.

    Parameters
    ----------
    shooting : Shooting
        As things are now.
    bookings : sequence of Booking
        The plan as it was.
    now : tuple of date and int, optional
        The day and its minute: what began before stays, and nothing begins earlier.
    stop : callable, optional
        Asked now and then; where it says yes, the best plan so far is what comes out.
    effort : float, default 1
        How long to look, against the usual.

    Returns
    -------
    Plan
        What cannot be placed any more is left out, with the rules that clash.

    Raises
    ------
    InputError
        What no plan can be made from, at its place.

    References
    ----------
    cp_sat, ruin_recreate, days_order

    Examples
    --------
    >>> from datetime import date
    >>> from jungoptic.core.days import EXAMPLE, plan_days
    >>> plan = plan_days(EXAMPLE)
    >>> again = plan_again(in_rain(EXAMPLE, date(2027, 10, 16)), plan.bookings)
    >>> [moved.job for moved in moved_jobs(plan.bookings, again.bookings) if moved.to_another_day]
    ['sea', 'mill']
    """
    from .again import Again  # the solver takes a second to load: only where it is wanted
    from .faults import refuse_faults

    refuse_faults(shooting)
    return Again(shooting, bookings, now, stop or (lambda: False), effort).plan()
