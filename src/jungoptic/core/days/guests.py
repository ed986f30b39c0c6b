"""Who is there only for so long in all: what is to spare, and what is lost if it takes longer."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import combinations

from .changing import Changing
from .clock import on_grid
from .records import Shooting
from .timetable import DayTable, Slot

_MOST_TOGETHER = 3  # jobs left out together
_FEW = 12  # of somebody with more jobs than these they are tried one by one


@dataclass(frozen=True, slots=True)
class Loss:
    """From so many minutes longer on, these jobs are lost, and these shots lack a plate."""

    from_min: int
    jobs: tuple[str, ...]
    shots: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Guest:
    """Somebody who is there for ``most_min`` in all: for how long they are called, with what they have spent
    already, and what is lost if it takes longer, the least first.
    """

    person: str
    most_min: int
    called_min: int
    losses: tuple[Loss, ...]

    @property
    def spare_min(self) -> int:
        """By how much it may take longer than planned; less than 0 where the plan is too long itself."""
        return self.most_min - self.called_min


def guests(shooting: Shooting, tables: Sequence[DayTable], begun: Collection[str] = ()) -> tuple[Guest, ...]:
    """Everybody whose time in all is limited, as a plan calls them.

    Where it takes longer than there is to spare, jobs are left out, with what must come after them; the
    others close up, each as long after the one before as it was planned beside the change. What is lost is
    told with the fewest jobs, then the fewest shots, then the fewest minutes that make up for it. Minutes
    are those of the plan's grid.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    tables : sequence of DayTable
        The plan, from :func:`timetable`.
    begun : collection of str, default ()
        Keys of jobs that run already or are filmed: those are not left out any more.

    Returns
    -------
    tuple of Guest
        Those that the plan calls.

    References
    ----------
    days_changes

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE, Booking, timetable
    >>> plan = [Booking(job="cup", date="2027-10-16", start="10:00")]
    >>> orla = guests(EXAMPLE, timetable(EXAMPLE, plan))[0]
    >>> orla.called_min, orla.spare_min, [(loss.from_min, loss.jobs) for loss in orla.losses]
    (95, 145, [(145, ('cup',))])
    """
    plan = _Plan(shooting, tables, begun)
    told = []
    for person in shooting.people:
        own = [job for job, people in plan.people.items() if person.key in people]
        if person.most_min is not None and own:
            called = plan.called_min(person.key) + person.spent_min
            may = [key for key in own if key not in begun]
            losses = tuple(_losses(plan, person.key, may, person.most_min - called))
            told.append(Guest(person.key, person.most_min, called, losses))
    return tuple(told)


def spent_min(
    spans: Iterable[tuple[date, int, int]],
    ahead: Mapping[date, int] | None = None,
    now: tuple[date, int] | None = None,
) -> int:
    """How long somebody has been there: on each day from their first job to their last.

    On the day that is under way until now, while more of theirs is to come.

    Parameters
    ----------
    spans : iterable of (date, int, int)
        Their jobs that are filmed: the day, from which minute to which after midnight.
    ahead : mapping, optional
        From which minute on a day the first of their jobs is to come.
    now : tuple of date and int, optional
        The day that is under way and a minute of it.

    Returns
    -------
    int
        Minutes.

    References
    ----------
    days_order

    Examples
    --------
    >>> day = date(2027, 10, 16)
    >>> spent_min([(day, 600, 660), (day, 700, 760)]), spent_min([(day, 600, 660)], {day: 900}, (day, 800))
    (160, 200)
    """
    days: dict[date, tuple[int, int]] = {}
    for day, start, end in spans:
        begin, last = days.get(day, (start, end))
        days[day] = min(begin, start), max(last, end)
    if now is not None and now[0] in days and ahead and now[0] in ahead:
        begin, last = days[now[0]]
        days[now[0]] = begin, max(last, min(now[1], ahead[now[0]]))
    return sum(last - begin for begin, last in days.values())


class _Plan:
    """A plan by day and unit, from which jobs can be left out."""

    def __init__(self, shooting: Shooting, tables: Sequence[DayTable], begun: Collection[str]) -> None:
        self.rows = {table.day: [row for _, row in table.rows] for table in tables}
        slots = [slot for rows in self.rows.values() for row in rows for slot in row]
        self.jobs = {slot.job.key: slot.job for slot in slots}
        self.people = {slot.job.key: slot.job.people for slot in slots}
        self.changing, self.step = Changing(shooting.changes, shooting.travel), shooting.grid_min
        self.known: dict[tuple[date, str, frozenset[str]], int] = {}
        self.then: dict[str, list[str]] = {}
        for order in shooting.order:
            to_come = order.then in self.jobs and order.then not in begun
            if not order.waived and order.first in self.jobs and to_come:
                self.then.setdefault(order.first, []).append(order.then)

    def with_what_follows(self, keys: Collection[str]) -> frozenset[str]:
        """Jobs and all that must come after them."""
        told, ahead = set(keys), list(keys)
        while ahead:
            more = [key for key in self.then.get(ahead.pop(), ()) if key not in told]
            told.update(more)
            ahead += more
        return frozenset(told)

    def called_min(self, person: str, without: Collection[str] = ()) -> int:
        """From somebody's first job to their last on each day, some left out and the rest closed up."""
        days = {
            day
            for day, rows in self.rows.items()
            if any(person in slot.job.people for row in rows for slot in row)
        }
        return sum(self._called_on(day, person, without) for day in days)

    def _called_on(self, day: date, person: str, without: Collection[str]) -> int:
        here = frozenset(slot.job.key for row in self.rows[day] for slot in row if slot.job.key in without)
        known = self.known.get((day, person, here))
        if known is None:
            own = [
                (start, end)
                for row in self.rows[day]
                for key, start, end in self._closed_up([slot for slot in row if slot.job.key not in here])
                if person in self.people[key]
            ]
            known = max((end for _, end in own), default=0) - min((start for start, _ in own), default=0)
            self.known[day, person, here] = known
        return known

    def _closed_up(self, row: Sequence[Slot]) -> Iterator[tuple[str, int, int]]:
        before, free = None, 0
        for slot in row:
            start = slot.start_min
            if before is not None:
                change = self.changing.between(before, slot.job).minutes
                start = min(start, free + on_grid(change, self.step) + slot.idle_min)
            before, free = slot.job, start + on_grid(slot.job.minutes, self.step)
            yield slot.job.key, start, free


def _losses(plan: _Plan, person: str, own: Sequence[str], spare_min: int) -> Iterator[Loss]:
    most = _MOST_TOGETHER if len(own) <= _FEW else 1
    every = {
        plan.with_what_follows(keys) for count in range(1, most + 1) for keys in combinations(own, count)
    }
    called, gained = plan.called_min(person), 0
    for keys in sorted(every, key=lambda keys: _weight(plan, keys)):
        gains = called - plan.called_min(person, keys)
        if gains > gained and spare_min + gains > 0:
            jobs = tuple(key for key in plan.jobs if key in keys)
            yield Loss(max(0, spare_min + gained), jobs, _shots(plan, jobs))
            gained = gains


def _shots(plan: _Plan, keys: Collection[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(shot for key in keys for shot in plan.jobs[key].shots))


def _weight(plan: _Plan, keys: frozenset[str]) -> tuple[int, int, int, list[str]]:
    minutes = sum(plan.jobs[key].minutes for key in keys)
    return len(keys), len(_shots(plan, keys)), minutes, sorted(keys)
