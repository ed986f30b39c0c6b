"""A plan looked at by itself, plainly: which rules it breaks, and what it costs.

Nothing here is shared with what plans, so that each can be held against the other.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from datetime import date, datetime, timedelta
from functools import lru_cache
from itertools import pairwise
from zoneinfo import ZoneInfo

from ..light.sun import sun_deg
from .broken import Break, Costs, Filmed, filmed_in_order
from .checking_others import beside_others, called_when, change_min, rows_of
from .records import Booking, Place, Presence, Shooting, SunKey

_EVERY_MIN = 5  # how often the sun is looked at during the takes, beside both ends
_HEIGHTS = {"day": (-0.84, 90.0), "dark": (-90.0, -5.99), "golden": (-4.01, 6.01), "twilight": (-6.01, 0.01)}
_SLACK_DEG = 0.01


def plan_breaks(shooting: Shooting, bookings: Sequence[Booking]) -> tuple[Break, ...]:
    """Every rule that a plan breaks.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    bookings : sequence of Booking
        The plan; what it leaves out is not asked for.

    Returns
    -------
    tuple of Break
        Empty for a plan that keeps all.

    Raises
    ------
    KeyError
        A booking of a job that is not there.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> late = [Booking(job="cup", date="2027-10-16", start="16:30")]
    >>> [(fault.kind, fault.of, fault.over) for fault in plan_breaks(EXAMPLE, late)]
    [('person', 'orla', 94)]
    """
    filmed = filmed_in_order(shooting, bookings)
    breaks: list[Break] = []
    for single in filmed:
        breaks += _alone(shooting, single)
    breaks += beside_others(shooting, filmed)
    stays = {booking.job: booking for booking in bookings}
    breaks += [
        Break("locked", (locked.job,), day=locked.date)
        for locked in shooting.locked
        if locked.job in stays
        and (stays[locked.job].date, stays[locked.job].start) != (locked.date, locked.start)
    ]
    return tuple(breaks)


# --- a job by itself


def _alone(shooting: Shooting, filmed: Filmed) -> Iterator[Break]:
    job, key = filmed.job, (filmed.job.key,)
    places = {place.key: place for place in shooting.places}
    if filmed.day not in shooting.days:
        yield Break("day", key, day=filmed.day)
    if filmed.day in job.not_on:
        yield Break("not_on", key, day=filmed.day)
    for person in shooting.people:
        if person.key in job.people:
            missing = _outside(person.hours, person.off, filmed.day, filmed.start, filmed.start + job.minutes)
            if missing:
                yield Break("person", key, person.key, filmed.day, missing)
    place = places[job.place]
    if place.hours or filmed.day in place.off:
        missing = _outside(place.hours, place.off, filmed.day, filmed.start, filmed.start + job.minutes)
        if missing:
            yield Break("place", key, place.key, filmed.day, missing)
    if job.noisy and place.noise:
        missing = _outside(place.noise, (), filmed.day, *filmed.takes)
        if missing:
            yield Break("noise", key, place.key, filmed.day, missing)
    yield from _conditions(shooting, filmed)
    yield from _by_the_sun(shooting, filmed, place)


def _conditions(shooting: Shooting, filmed: Filmed) -> Iterator[Break]:
    job, key = filmed.job, (filmed.job.key,)
    for condition in shooting.conditions:
        if condition.key in job.needs:
            missing = _outside(condition.hours, (), filmed.day, filmed.start, filmed.start + job.minutes)
            if missing:
                yield Break("needs", key, condition.key, filmed.day, missing)
        if condition.key in job.clear_of:
            begin, end = filmed.takes
            met = (end - begin) - _outside(condition.hours, (), filmed.day, begin, end)
            if met:
                yield Break("clear", key, condition.key, filmed.day, met)


def _outside(hours: Presence, off: Sequence[date], day: date, begin: int, end: int) -> int:
    """How many of the minutes from begin to end lie outside the hours."""
    names = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
    dated = [span for span in hours if span.date == day]
    usual = [
        span
        for span in hours
        if span.date is None and (not span.weekdays or names[day.weekday()] in span.weekdays)
    ]
    there = bytearray(end - begin)
    if day not in off:
        for span in dated or usual:
            for minute in range(max(span.start, begin), min(span.end, end)):
                there[minute - begin] = 1
    return there.count(0)


@lru_cache(maxsize=200_000)
def _sun(latitude_deg: float, longitude_deg: float, day: date, minute: int, zone: str) -> tuple[float, float]:
    moment = datetime(day.year, day.month, day.day) + timedelta(minutes=minute)
    return sun_deg(latitude_deg, longitude_deg, moment.replace(tzinfo=ZoneInfo(zone)))


def _by_the_sun(shooting: Shooting, filmed: Filmed, place: Place) -> Iterator[Break]:
    job = filmed.job
    if place.latitude_deg is None or place.longitude_deg is None or (job.hour == "any" and job.sun is None):
        return
    begin, end = filmed.takes
    minutes = sorted({*range(begin, end, _EVERY_MIN), end})
    course = [
        _sun(place.latitude_deg, place.longitude_deg, filmed.day, minute, shooting.time_zone)
        for minute in minutes
    ]
    if job.hour != "any":
        low, high = _HEIGHTS[job.hour]
        off = max(max(low - height, height - high) for _, height in course)
        if off > 0:
            yield Break("hour", (job.key,), job.hour, filmed.day, off)
    if job.sun is not None:
        limit = job.sun.tight_deg if job.tight_will_do else job.sun.holds_deg
        off = max(_off_key(job.sun, azimuth, height) for azimuth, height in course)
        hidden = any(height <= max(0.0, _horizon(place, azimuth)) - _SLACK_DEG for azimuth, height in course)
        if hidden or off > limit + _SLACK_DEG:
            yield Break("hidden" if hidden else "sun", (job.key,), "", filmed.day, off - limit)


def _off_key(key: SunKey, azimuth: float, height: float) -> float:
    """The angle between sun and key by the best of the headings that the camera may have, half a degree apart
    and at both ends.
    """
    headings = [key.heading_deg]
    if key.heading_to_deg is not None:
        wide = (key.heading_to_deg - key.heading_deg) % 360.0
        wanted = (azimuth - 180.0 + key.azimuth_deg - key.heading_deg) % 360.0
        headings += [key.heading_to_deg, *([key.heading_deg + wanted] if wanted <= wide else [])]
    least = 180.0
    for heading in headings:
        a, b = math.radians(heading + 180.0 - key.azimuth_deg), math.radians(key.elevation_deg)
        c, d = math.radians(azimuth), math.radians(height)
        wanted_way = (math.cos(b) * math.sin(a), math.cos(b) * math.cos(a), math.sin(b))
        other = (math.cos(d) * math.sin(c), math.cos(d) * math.cos(c), math.sin(d))
        apart = math.dist(wanted_way, other)
        least = min(least, math.degrees(2.0 * math.asin(min(1.0, apart / 2.0))))
    return least


def _horizon(place: Place, azimuth: float) -> float:
    points = sorted((point.azimuth_deg % 360.0, point.height_deg) for point in place.horizon)
    if not points:
        return 0.0
    around = [(points[-1][0] - 360.0, points[-1][1]), *points, (points[0][0] + 360.0, points[0][1])]
    for (a, low), (b, high) in pairwise(around):
        if a <= azimuth % 360.0 <= b:
            return low + (high - low) * ((azimuth % 360.0 - a) / (b - a) if b > a else 0.0)
    return 0.0


def plan_costs(shooting: Shooting, bookings: Sequence[Booking]) -> Costs:
    """What a plan costs.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    bookings : sequence of Booking
        The plan.

    Returns
    -------
    Costs
        Days with work; people times days called; minutes of changing within the days; minutes that people
        who are there wait, neither in a job nor changing from one of theirs to the next; and the sum of all
        beginnings counted from the first possible day, minutes.

    Raises
    ------
    KeyError
        A booking of a job that is not there.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> plan_costs(EXAMPLE, [Booking(job="cup", date="2027-10-16", start="10:00")]).people_days
    2
    """
    filmed = filmed_in_order(shooting, bookings)
    changing = sum(
        change_min(shooting, before.job, after.job)
        for row in rows_of(filmed).values()
        for before, after in pairwise(row)
    )
    called = [called_when(shooting, person.key, filmed) for person in shooting.people]
    first = min(shooting.days, default=date.min).toordinal() * 1440
    return Costs(
        days=len({entry.day for entry in filmed}),
        people_days=sum(map(len, called)),
        changing_min=changing,
        waiting_min=sum(
            max(0, end - begin - works) for days in called for begin, end, works in days.values()
        ),
        earlier_min=sum(entry.absolute - first for entry in filmed),
    )
