"""The days of a production for core: jobs as they follow from the shots, what somebody said over them, who
and what is there.
"""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import cast

from jungoptic.app.costs.costing import figures_of
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
from jungoptic.app.jobs.models import Job
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.recipes.models import PlannedLayer
from jungoptic.app.recipes.plates import filming_order
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shots_with_everything
from jungoptic.core import days as core
from jungoptic.core.days import Filming, ShotToFilm, StandingSetUp

NOWHERE = "no place yet"
STAGE = "the stage"
PLANNING = "days"  # the kind of job that orders jobs into days
_TOGETHER = 12  # shots read in one go
_MOST_KEPT = 400

Versions = tuple[int, int]


class _Kept:
    """Shots as core wants them for jobs, by the versions that they were read at."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._shots: OrderedDict[int, tuple[Versions, ShotToFilm | None]] = OrderedDict()

    def get(self, shot_id: int, versions: Versions) -> tuple[bool, ShotToFilm | None]:
        with self._lock:
            kept = self._shots.get(shot_id)
            return (kept is not None and kept[0] == versions), kept[1] if kept else None

    def put(self, shot_id: int, versions: Versions, shot: ShotToFilm | None) -> None:
        with self._lock:
            self._shots[shot_id] = versions, shot
            while len(self._shots) > _MOST_KEPT:
                self._shots.popitem(last=False)

    def forget_all(self) -> None:
        with self._lock:
            self._shots.clear()


KEPT = _Kept()


def shots_to_film(production: Production) -> list[ShotToFilm]:
    """Every shot of the cut that has a hero, in the order of the cut; read anew only where it changed."""
    rows = list(Shot.in_cut.filter(production=production).values_list("pk", "revision"))
    versions = {pk: (revision, production.revision) for pk, revision in rows}
    told: dict[int, ShotToFilm | None] = {}
    missing = []
    for pk, _ in rows:
        known, shot = KEPT.get(pk, versions[pk])
        if known:
            told[pk] = shot
        else:
            missing.append(pk)
    for start in range(0, len(missing), _TOGETHER):
        for row in shots_with_everything(production, missing[start : start + _TOGETHER]):
            told[row.pk] = _shot_to_film(row)
            KEPT.put(row.pk, (row.revision, production.revision), told[row.pk])
    return [shot for pk, _ in rows if (shot := told.get(pk)) is not None]


def _shot_to_film(shot: Shot) -> ShotToFilm | None:
    table = BenchTable(shot, school="measured", units="metric")
    if table.hero is None or not table.layers:
        return None
    planned = {row.layer_id: row for row in PlannedLayer.objects.filter(layer__shot=shot)}
    order = {layer.pk: rank for rank, layer in enumerate(filming_order(table.layers, planned))}
    filming = []
    for layer in table.layers:
        own = planned.get(layer.pk)
        filming.append(
            Filming(
                rank=order[layer.pk],
                why=own.why if own else "",
                done=table.circled(layer) is not None,
            )
            if layer.pk in order
            else None
        )
    return ShotToFilm(
        code=shot.code,
        stack=table.stack,
        filming=tuple(filming),
        set_ups={
            pk: StandingSetUp(set_up.name, set_up.mode.camera.name, set_up.lens.name)
            for pk, set_up in table.set_ups.items()
        },
        place=shot.place.name if shot.place else NOWHERE,
        seconds_per_hour=figures_of(shot.production).seconds_per_hour,
    )


@dataclass(frozen=True)
class Told:
    """What somebody said, by what it is said of."""

    jobs: dict[int, JobSaid]
    orders: Sequence[OrderSaid]


class DaysOf:
    """The days of one production: rows, jobs, and the shooting as core plans it."""

    def __init__(self, production: Production) -> None:
        self.production = production

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
    def derived(self) -> core.Derived:
        """Jobs as they follow from the shots."""
        hands = [core.Hand(hand.name, cast(core.Duty, hand.duty), tuple(hand.plays)) for hand in self.hands]
        shots = [self._with_what_is_destroyed(shot) for shot in shots_to_film(self.production)]
        return core.jobs_of_shots(shots, self.record, hands, self.stage)

    def _with_what_is_destroyed(self, shot: ShotToFilm) -> ShotToFilm:
        gone = {pk for pk, said in self.told.jobs.items() if said.destroys}
        if not gone & set(shot.set_ups):
            return shot
        filming = tuple(
            replace(own, destroys=True)
            if own is not None and member.set_up_key in gone and member.layer.scale > 1
            else own
            for own, member in zip(shot.filming, shot.stack.members, strict=True)
        )
        return replace(shot, filming=filming)

    @cached_property
    def jobs(self) -> tuple[core.Job, ...]:
        """Jobs with what was said over what follows; without those that are left out."""
        return tuple(job for own in self.derived.jobs if (job := self._said_over(own)) is not None)

    def _said_over(self, job: core.Job) -> core.Job | None:
        said = self.told.jobs.get(set_up_and_block(job.key)[0])
        if said is None:
            return job
        if said.left_out:
            return None
        names = {row.pk: row.name for row in self.places}
        known = {hand.name for hand in self.hands}
        conditions = {condition.name for condition in self.conditions}
        update: dict[str, object] = {
            "place": names.get(said.place_id or 0, job.place),
            "tight_will_do": said.tight_will_do,
            "noisy": said.noisy,
            "unit": said.unit,
            "costume": said.costume,
            "fall_back": said.fall_back,
            "needs": tuple(name for name in said.needs if name in conditions),
            "clear_of": tuple(name for name in said.clear_of if name in conditions),
        }
        whole = "." not in job.key
        if said.before_min is not None and whole:
            update["before_min"] = said.before_min
        if said.takes_min is not None and whole:
            update["takes_min"] = said.takes_min
        if said.after_min is not None and whole:
            update["after_min"] = said.after_min
        if said.people is not None:
            update["people"] = tuple(name for name in said.people if name in known)
        if said.outdoors is not None:
            update["outdoors"] = said.outdoors
        if said.hour:
            update |= {"hour": said.hour, "sun": None}
        return job.model_copy(update=update)

    @cached_property
    def order(self) -> tuple[core.Order, ...]:
        """What follows from the shots, with what was waived, and what was typed."""
        keys = {job.key for job in self.jobs}
        first, last = self._ends(keys)
        said = {(row.first_id, row.then_id): row for row in self.told.orders}
        told = []
        for order in self.derived.order:
            if order.first in keys and order.then in keys:
                row = said.pop((set_up_and_block(order.first)[0], set_up_and_block(order.then)[0]), None)
                told.append(order if row is None else order.model_copy(update=self._of(row, order.why)))
        for (before, after), row in said.items():
            if before in last and after in first and last[before] != first[after]:
                why = row.why or "somebody wants it so"
                told.append(core.Order(first=last[before], then=first[after], **self._of(row, why)))
        return tuple(told)

    def _of(self, row: OrderSaid, why: str) -> dict[str, object]:
        return {
            "why": row.why or why,
            "rest_min": row.rest_min,
            "straight": row.straight,
            "waived": row.waived,
        }

    def _ends(self, keys: Iterable[str]) -> tuple[dict[int, str], dict[int, str]]:
        """The first and the last job of each set-up; of one that another films too, that one's."""
        first: dict[int, str] = {}
        last: dict[int, str] = {}
        for key in keys:
            for set_up in self.derived.set_ups.get(key, ()):
                first.setdefault(set_up, key)
                last[set_up] = key
        return first, last

    @cached_property
    def shooting(self) -> core.Shooting:
        """All of it, as core plans days from it."""
        keys = {job.key for job in self.jobs}
        days = [day.date for day in self.days]
        shooting: core.Shooting = core.Shooting.read(
            {
                "days": days,
                "time_zone": self.production.time_zone,
                "jobs": self.jobs,
                "people": [
                    {
                        "key": hand.name,
                        "role": hand.role,
                        "hours": hand.hours,
                        "off": hand.off,
                        "longest_day_min": hand.longest_day_min,
                        "most_min": hand.most_min,
                    }
                    for hand in self.hands
                ],
                "places": self._places(),
                "travel": [
                    {"places": (way.here.name, way.there.name), "minutes": way.minutes} for way in self.travel
                ],
                "conditions": [{"key": row.name, "hours": row.hours} for row in self.conditions],
                "order": self.order,
                "runs": [run for run in self.derived.runs if set(run.jobs) <= keys],
                "changes": self.record.changes,
                "locked": [booking for booking in self.bookings if booking.locked],
            }
        )
        for day in self.days:
            if day.rained_from_min is not None:
                shooting = core.in_rain(shooting, day.date, day.rained_from_min, self.bookings)
        return shooting

    def _places(self) -> list[dict[str, object]]:
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
        for job in self.jobs:
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
        """When jobs are filmed; of jobs that there still are, on days that there still are."""
        keys = {job.key for job in self.jobs}
        days = {day.date for day in self.days}
        return tuple(
            core.Booking(job=row.key, date=row.date, start=row.start_min, locked=row.locked)
            for row in self.booked
            if row.date is not None and row.date in days and row.key in keys
        )

    @property
    def digest(self) -> str:
        """Tells whether what was planned from is still so."""
        without = self.shooting.model_copy(update={"locked": ()})
        return hashlib.sha256(without.model_dump_json().encode()).hexdigest()
