"""When each job may begin, rule by rule: hours of people and places, windows, light, sun."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date

from .clock import LATEST_MIN, Spans, in_both, joined, out_of, weekday_of
from .records import Booking, Condition, DaysOff, Job, Person, Place, Presence, Shooting, Travel
from .sunlight import light_spans, sun_windows

_ALWAYS: Spans = ((0, LATEST_MIN),)


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule that a plan keeps: of which kind, and of what (keys of jobs, people, places, conditions)."""

    kind: str
    of: tuple[str, ...] = ()


def hours_on(hours: Presence, off: DaysOff, day: date) -> Spans:
    """When something is there on a day: what is said of the date, else of its weekday, else of every day.

    Parameters
    ----------
    hours : tuple of Hours
        As they were typed.
    off : tuple of date
        Days on which it is not there at all.
    day : date
        The shooting day.

    Returns
    -------
    tuple of tuple of int
        Spans, minutes after midnight.

    Examples
    --------
    >>> from jungoptic.core.days.records import Hours
    >>> hours_on((Hours(weekdays=("sat",), start="09:00", end="17:00"),), (), date(2027, 10, 16))
    ((540, 1020),)
    """
    if day in off:
        return ()
    dated = [span for span in hours if span.date == day]
    weekday = weekday_of(day)
    usual = [span for span in hours if span.date is None and (not span.weekdays or weekday in span.weekdays)]
    return joined((span.start, span.end) for span in dated or usual)


def _starts(spans: Spans, from_min: int, to_min: int) -> Spans:
    """Starts of a job whose minutes ``from_min`` to ``to_min`` lie in one of the spans; both ends count."""
    return tuple((a - from_min, b - to_min) for a, b in spans if b - to_min >= a - from_min)


class Openings:
    """When each job may begin on each day, by rule, and by all rules together, in steps of the grid."""

    def __init__(self, shooting: Shooting) -> None:
        self.shooting = shooting
        self.people: Mapping[str, Person] = {person.key: person for person in shooting.people}
        self.places: Mapping[str, Place] = {place.key: place for place in shooting.places}
        self.conditions: Mapping[str, Condition] = {known.key: known for known in shooting.conditions}
        self.locked: Mapping[str, Booking] = {booking.job: booking for booking in shooting.locked}

    def by_rule(self, job: Job, day: date) -> Iterator[tuple[Rule, Spans]]:
        """Each rule that speaks of the job, with the minutes at which it lets it begin that day."""
        takes = job.before_min, job.before_min + job.takes_min
        whole = 0, job.minutes
        place = self.places[job.place]
        for key in job.people:
            person = self.people[key]
            yield Rule("person", (key,)), _starts(hours_on(person.hours, person.off, day), *whole)
        if place.hours or place.off:
            there = hours_on(place.hours, place.off, day) if place.hours or day in place.off else _ALWAYS
            yield Rule("place", (place.key,)), _starts(there, *whole)
        if job.not_on:
            yield Rule("not_on", (job.key,)), () if day in job.not_on else ((0, LATEST_MIN),)
        if job.noisy and place.noise:
            yield Rule("noise", (place.key,)), _starts(hours_on(place.noise, (), day), *takes)
        for key in job.needs:
            there = hours_on(self.conditions[key].hours, (), day)
            yield Rule("needs", (key,)), _starts(there, *whole)
        for key in job.clear_of:
            clear = out_of(_ALWAYS, hours_on(self.conditions[key].hours, (), day))
            yield Rule("clear", (key,)), _starts(clear, *takes)
        if place.latitude_deg is not None and place.longitude_deg is not None:
            spot = place.latitude_deg, place.longitude_deg, day, self.shooting.time_zone
            if job.hour != "any":
                yield Rule("hour", (job.key,)), _starts(light_spans(job.hour, *spot), *takes)
            if job.sun is not None:
                spans = tuple(
                    (window.start_min, window.end_min)
                    for window in sun_windows(job.sun, *spot, place.horizon)
                    if window.holds != job.tight_will_do
                )
                yield Rule("sun", (job.key,)), _starts(spans, *takes)

    def starts(self, job: Job, day: date, without: frozenset[Rule] = frozenset()) -> Spans:
        """Steps of the grid at which the job may begin by all rules; both ends of each span count.

        What is locked begins when it does, whatever else is said.
        """
        grid = self.shooting.grid_min
        locked = self.locked.get(job.key)
        if locked is not None and Rule("locked", (job.key,)) not in without:
            return ((locked.start // grid,) * 2,) if locked.date == day else ()
        allowed: Spans = ((0, LATEST_MIN - job.minutes),)
        for rule, spans in self.by_rule(job, day):
            if rule not in without:
                allowed = _in_both_ends(allowed, spans)
        return self.in_steps(allowed)

    def in_steps(self, spans: Spans) -> Spans:
        """Spans of minutes as spans of steps that lie in them; both ends count."""
        grid = self.shooting.grid_min
        steps = ((-(-start // grid), end // grid) for start, end in spans)
        return tuple((start, end) for start, end in steps if end >= start)


def first_opening(shooting: Shooting, job: Job, after: tuple[date, int]) -> tuple[date, int] | None:
    """When a job could begin at the soonest by its own rules, whatever else is booked then.

    Parameters
    ----------
    shooting : Shooting
        Its days, people and places.
    job : Job
        One that its places and people know.
    after : tuple of (date, int)
        The day and the minute from which on it may begin.

    Returns
    -------
    tuple of (date, int) or None
        The day and the minute after its midnight; None where no day of the shooting has room for it.

    References
    ----------
    days_physics

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> first_opening(EXAMPLE, EXAMPLE.jobs[0], (EXAMPLE.days[0], 0)) is not None
    True
    """
    openings = Openings(shooting)
    grid = shooting.grid_min
    for day in sorted(each for each in shooting.days if each >= after[0]):
        soonest = after[1] if day == after[0] else 0
        for first, last in openings.starts(job, day):
            begin = max(first * grid, -(-soonest // grid) * grid)
            if begin <= last * grid:
                return day, begin
    return None


def there_and_back_min(
    job: Job, travel: Iterable[Travel], jobs: Iterable[Job], booked: Iterable[Booking]
) -> int:
    """How long the way to a job's place and back takes for its own sake.

    Parameters
    ----------
    job : Job
        What is filmed once more.
    travel : iterable of Travel
        Ways between places; the shortest one counts.
    jobs : iterable of Job
        All that there are.
    booked : iterable of Booking
        What is filmed anyway.

    Returns
    -------
    int
        Minutes; 0 where something else that is booked is filmed there.

    Examples
    --------
    >>> mill, sea = (Job(key=key, place=key) for key in ("mill", "sea"))
    >>> there_and_back_min(mill, [Travel(places=("mill", "sea"), minutes=25)], [mill, sea], [])
    50
    """
    at_place = {each.key for each in jobs if each.place == job.place}
    if any(booking.job in at_place for booking in booked):
        return 0
    return 2 * min((way.minutes for way in travel if job.place in way.places), default=0)


def _in_both_ends(these: Spans, those: Spans) -> Spans:
    """Common to both where both ends of a span count: widened by one, met, narrowed again."""
    wide = in_both(tuple((a, b + 1) for a, b in these), tuple((a, b + 1) for a, b in those))
    return tuple((a, b - 1) for a, b in wide)
