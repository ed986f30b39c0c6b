"""The days of a production for core: jobs as they follow from the shots, what somebody said over them, who
and what is there.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from functools import cached_property
from typing import cast

from django.utils import timezone

from jungoptic.app.days.filmed import Filmed, began_min, filmed_job
from jungoptic.app.days.from_shots import ends_of, shots_to_film, unfilmed, with_destroyed
from jungoptic.app.days.logged import Clock, Rolls, rolls_of
from jungoptic.app.days.models import (
    Booked,
    Condition,
    DayFigures,
    DaysPlanned,
    Hand,
    JobSaid,
    OrderSaid,
    ShootingDay,
    Site,
    Travel,
    set_up_and_block,
)
from jungoptic.app.days.said import order_said, said_over
from jungoptic.app.jobs.models import Job
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.models import SetUp
from jungoptic.core import days as core
from jungoptic.core.days import ShotToFilm

STAGE = "the stage"
_GRID_MIN: int = core.Shooting.model_fields["grid_min"].default
PLANNING = "days"  # the kind of job that orders jobs into days


@dataclass(frozen=True)
class Told:
    """What somebody said, by what it is said of."""

    jobs: dict[int, JobSaid]
    orders: Sequence[OrderSaid]


class DaysOf:
    """The days of one production: rows, jobs, and the shooting as core plans it."""

    def __init__(self, production: Production, now: datetime | None = None) -> None:
        self.production = production
        self.clock = Clock(production.time_zone)
        self.today, self.now_min = self.clock.reads(now or timezone.now())

    @cached_property
    def figures(self) -> DayFigures:
        """What is reckoned with; not saved where nobody changed anything."""
        row = DayFigures.objects.filter(production=self.production).first()
        return row or DayFigures(production=self.production)

    @cached_property
    def record(self) -> core.DayFigures:
        """The same as core reckons with it."""
        found: core.DayFigures = core.DayFigures.read(
            {name: getattr(self.figures, name) for name in core.DayFigures.model_fields}
        )
        return found

    @cached_property
    def days(self) -> list[ShootingDay]:
        return list(ShootingDay.objects.filter(production=self.production, removed=False))

    @cached_property
    def hands(self) -> list[Hand]:
        return list(Hand.objects.filter(production=self.production, removed=False))

    @cached_property
    def conditions(self) -> list[Condition]:
        return list(Condition.objects.filter(production=self.production, removed=False))

    @cached_property
    def places(self) -> list[Place]:
        return list(Place.objects.filter(production=self.production, removed=False))

    @cached_property
    def sites(self) -> dict[int, Site]:
        return {
            site.place_id: site for site in Site.objects.filter(production=self.production, removed=False)
        }

    @cached_property
    def travel(self) -> list[Travel]:
        rows = Travel.objects.filter(production=self.production, removed=False)
        return list(rows.select_related("here", "there"))

    @cached_property
    def told(self) -> Told:
        """What somebody said of jobs and of their order."""
        jobs = JobSaid.objects.filter(production=self.production, removed=False)
        orders = OrderSaid.objects.filter(production=self.production, removed=False)
        return Told({row.set_up_id: row for row in jobs}, list(orders))

    @cached_property
    def booked(self) -> list[Booked]:
        return list(Booked.objects.filter(production=self.production, removed=False))

    @cached_property
    def shot_ids(self) -> dict[int, int]:
        """The shot of each set-up."""
        return dict(SetUp.objects.filter(shot__production=self.production).values_list("pk", "shot_id"))

    @cached_property
    def planned(self) -> DaysPlanned:
        """What the last planning came to; not saved where there was none."""
        row = DaysPlanned.objects.filter(production=self.production).first()
        return row or DaysPlanned(production=self.production)

    @cached_property
    def under_way(self) -> tuple[core.Booking, ...]:
        """The best plan so far of a planning that is under way; of one that was stopped nothing."""
        going = Job.objects.filter(production=self.production, kind=PLANNING, state=Job.State.WORKING)
        if not self.planned.under_way or not going.exists():
            return ()
        keys = {job.key for job in self.jobs}
        booked = map(core.Booking.read, self.planned.under_way)
        return tuple(booking for booking in booked if booking.job in keys)

    @cached_property
    def stage(self) -> str:
        """Where models and elements are filmed."""
        place = next((place for place in self.places if place.pk == self.figures.stage_id), None)
        return place.name if place else STAGE

    @cached_property
    def shots(self) -> list[ShotToFilm]:
        """Shots of the cut, with what somebody said that is destroyed."""
        gone = {pk for pk, said in self.told.jobs.items() if said.destroys}
        return [with_destroyed(shot, gone) for shot in shots_to_film(self.production)]

    def _derived(self, shots: Sequence[ShotToFilm]) -> core.Derived:
        hands = [core.Hand(hand.name, cast(core.Duty, hand.duty), tuple(hand.plays)) for hand in self.hands]
        return core.jobs_of_shots(shots, self.record, hands, self.stage)

    @cached_property
    def derived(self) -> core.Derived:
        """Jobs as they follow from the shots, without what is filmed."""
        return self._derived(self.shots)

    @cached_property
    def whole(self) -> core.Derived:
        """The same as if nothing were filmed yet."""
        if not any(own is not None and own.done for shot in self.shots for own in shot.filming):
            return self.derived
        return self._derived([unfilmed(shot) for shot in self.shots])

    @cached_property
    def jobs(self) -> tuple[core.Job, ...]:
        """Jobs with what was said over what follows; without those that are left out."""
        return self.jobs_of(self.derived)

    def jobs_of(self, derived: core.Derived) -> tuple[core.Job, ...]:
        """What follows from the shots, with what was said over it; without what is left out."""
        return tuple(job for own in derived.jobs if (job := self._said_over(own)) is not None)

    def _said_over(self, job: core.Job) -> core.Job | None:
        said = self.told.jobs.get(set_up_and_block(job.key)[0])
        return job if said is None else said_over(job, said, *self._names)

    @cached_property
    def _names(self) -> tuple[dict[int, str], set[str], set[str]]:
        """What places, people and conditions are called."""
        return (
            {place.pk: place.name for place in self.places},
            {hand.name for hand in self.hands},
            {condition.name for condition in self.conditions},
        )

    @cached_property
    def order(self) -> tuple[core.Order, ...]:
        """What follows from the shots, with what was waived, and what was typed."""
        return self.order_of(self.derived, self.jobs)

    def order_of(self, derived: core.Derived, jobs: Sequence[core.Job]) -> tuple[core.Order, ...]:
        """Order between some jobs: what follows, and what was said."""
        keys = {job.key for job in jobs}
        first, last = ends_of(derived, keys)
        said = {(row.first_id, row.then_id): row for row in self.told.orders}
        told = []
        for order in derived.order:
            if order.first in keys and order.then in keys:
                row = said.pop((set_up_and_block(order.first)[0], set_up_and_block(order.then)[0]), None)
                told.append(order if row is None else order.model_copy(update=order_said(row, order.why)))
        for (before, after), row in said.items():
            if before in last and after in first and last[before] != first[after]:
                why = row.why or "somebody wants it so"
                told.append(core.Order(first=last[before], then=first[after], **order_said(row, why)))
        return tuple(told)

    # --- what is over, and what is under way

    def is_over(self, day: ShootingDay) -> bool:
        """Whether nothing is planned on a day any more."""
        return day.wrapped or day.date < self.today

    @cached_property
    def open_dates(self) -> tuple[date, ...]:
        """Days on which something can still be filmed."""
        return tuple(day.date for day in self.days if not self.is_over(day))

    @cached_property
    def rolls(self) -> dict[int, Rolls]:
        """What was logged of each set-up."""
        return rolls_of(self.production, self.clock)

    @cached_property
    def now(self) -> tuple[date, int] | None:
        """The shooting day that is under way and how far it is: today, or else the last that has takes and is
        not over, at its last take.
        """
        if self.today in self.open_dates:
            return self.today, self.now_min
        last = max((moment for rolls in self.rolls.values() for moment in rolls.last.items()), default=None)
        return last if last and last[0] in self.open_dates else None

    @cached_property
    def running(self) -> dict[str, int]:
        """Jobs that were begun on the day that is under way and are not done: when their first take began."""
        return {
            job.key: began
            for job in self.jobs
            if self.now and (began := self.began_min(self.derived, job.key, self.now[0])) is not None
        }

    def began_min(self, derived: core.Derived, key: str, day: date) -> int | None:
        """When the first take of a job began on a day."""
        return began_min(self._rolls_of(derived, key), day)

    def _rolls_of(self, derived: core.Derived, key: str) -> list[Rolls]:
        own = [self.rolls.get(set_up) for set_up in derived.set_ups.get(key, ())]
        return [rolls for rolls in own if rolls is not None]

    @cached_property
    def filmed(self) -> dict[str, Filmed]:
        """Jobs that are filmed, by their keys, where they stand on one of the days."""
        still = {job.key for job in self.jobs}
        booked = {row.key: row for row in self.booked}
        dates = {day.date for day in self.days}
        told = {}
        for job in self.jobs_of(self.whole):
            row = booked.get(job.key)
            then = None
            if row is not None and row.date is not None:
                then = core.Booking(job=job.key, date=row.date, start=row.start_min)
            if job.key not in still:
                told[job.key] = filmed_job(job, self._rolls_of(self.whole, job.key), then, dates)
        return {key: own for key, own in told.items() if own is not None}

    @cached_property
    def spent(self) -> dict[str, int]:
        """How long everybody has been there, minutes."""
        people = {job.key: job.people for job in self.jobs}
        told = {}
        for hand in self.hands:
            ahead: dict[date, int] = {}
            for own in self.bookings:
                if hand.name in people[own.job]:
                    ahead[own.date] = min(own.start, ahead.get(own.date, own.start))
            spans = (own.span for own in self.filmed.values() if hand.name in own.job.people)
            told[hand.name] = core.spent_min(spans, ahead, self.now)
        return told

    # --- for core

    @cached_property
    def shooting(self) -> core.Shooting:
        """What is still to be filmed, as core plans days from it."""
        locked = [booking for booking in self.bookings if booking.locked]
        what = self.derived, self.jobs, self.order, self.open_dates
        return self.in_rain(self.shooting_of(*what, locked, self.spent))

    def in_rain(self, shooting: core.Shooting) -> core.Shooting:
        """A shooting with the rain that was told of days that are not over."""
        for day in self.days:
            if day.rained_from_min is not None and not self.is_over(day):
                shooting = core.in_rain(shooting, day.date, day.rained_from_min, self.bookings)
        return shooting

    @property
    def ways(self) -> list[core.Travel]:
        """Its travel, as core reckons with it."""
        return [
            core.Travel(places=(way.here.name, way.there.name), minutes=way.minutes) for way in self.travel
        ]

    def shooting_of(
        self,
        derived: core.Derived,
        jobs: Sequence[core.Job],
        order: Sequence[core.Order],
        dates: Sequence[date],
        locked: Sequence[core.Booking] = (),
        spent: Mapping[str, int] | None = None,
    ) -> core.Shooting:
        """Jobs on some dates with everybody and everything that there is, as core plans them; ``spent`` is
        for how long somebody was there already.
        """
        keys = {job.key for job in jobs}
        shooting: core.Shooting = core.Shooting.read(
            {
                "days": dates,
                "time_zone": self.production.time_zone,
                "jobs": jobs,
                "people": [
                    {
                        "key": hand.name,
                        "role": hand.role,
                        "hours": hand.hours,
                        "off": hand.off,
                        "longest_day_min": hand.longest_day_min,
                        "most_min": hand.most_min,
                        "spent_min": (spent or {}).get(hand.name, 0) if hand.most_min else 0,
                    }
                    for hand in self.hands
                ],
                "places": self._places(jobs),
                "travel": self.ways,
                "conditions": [{"key": row.name, "hours": row.hours} for row in self.conditions],
                "order": order,
                "runs": [run for run in derived.runs if set(run.jobs) <= keys],
                "changes": self.record.changes,
                "locked": locked,
            }
        )
        return shooting

    def _places(self, jobs: Iterable[core.Job]) -> list[dict[str, object]]:
        told: list[dict[str, object]] = []
        for place in self.places:
            site = self.sites.get(place.pk) or Site(place=place)
            lies = site.latitude_deg is not None and site.longitude_deg is not None
            told.append(
                {
                    "key": place.name,
                    "hours": site.hours,
                    "off": site.off,
                    "noise": site.noise,
                    "models_at_once": site.models_at_once,
                    "horizon": site.horizon,
                    "latitude_deg": site.latitude_deg if lies else self.production.latitude_deg,
                    "longitude_deg": site.longitude_deg if lies else self.production.longitude_deg,
                }
            )
        known = {place.name for place in self.places}
        for job in jobs:
            if job.place not in known:
                known.add(job.place)
                told.append(
                    {
                        "key": job.place,
                        "latitude_deg": self.production.latitude_deg,
                        "longitude_deg": self.production.longitude_deg,
                    }
                )
        return told

    @cached_property
    def bookings(self) -> tuple[core.Booking, ...]:
        """When what is still to be filmed is filmed, on days that are not over; what runs is where it is."""
        keys = {job.key for job in self.jobs}
        runs = {
            key: core.Booking(job=key, date=self.now[0], start=self._before(key, began), locked=True)
            for key, began in self.running.items()
            if self.now
        }
        booked = (
            core.Booking(job=row.key, date=row.date, start=row.start_min, locked=row.locked)
            for row in self.booked
            if row.date is not None and row.date in self.open_dates and row.key in keys
        )
        return (*(own for own in booked if own.job not in runs), *runs.values())

    def _before(self, key: str, began_min: int) -> int:
        """When a job must have begun whose first take did."""
        job = next(job for job in self.jobs if job.key == key)
        return max(0, began_min - job.before_min) // _GRID_MIN * _GRID_MIN

    @cached_property
    def digest(self) -> str:
        """Tells whether what was planned from is still so; what was filmed since is as it was meant."""
        jobs = self.jobs_of(self.whole)
        order = self.order_of(self.whole, jobs)
        dates = [day.date for day in self.days]
        whole = self.shooting_of(self.whole, jobs, order, dates)
        return hashlib.sha256(whole.model_dump_json().encode()).hexdigest()
