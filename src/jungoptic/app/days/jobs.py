"""Planning the days, as a job: the best plan so far shows while it goes on."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import date

from django.utils import timezone
from pydantic import BaseModel

from jungoptic.app.base.edits import Writing
from jungoptic.app.days.keeping import book, change_row, kind_called
from jungoptic.app.days.models import Booked, DaysPlanned, set_up_and_block
from jungoptic.app.days.reading import PLANNING, DaysOf
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import WRITES
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.core import days as core

_TELLS_EVERY_S = 0.3


class Asked(BaseModel):
    """``again`` changes as little as can be; ``rains_on`` a day it rains, from a minute of it on."""

    again: bool = False
    rains_on: date | None = None
    rains_from_min: int = 0


@job_kind(PLANNING, Asked, queue="heavy", longest_s=300.0, asks=WRITES)
def plan_days(running: Running, asked: Asked) -> None:
    """Order the jobs into days, and book them so; what is locked stays."""
    days = DaysOf(Production.objects.get(pk=running.job.production_id))
    running.advance(0.01, at="reading the shots")
    plan = ordered(days, asked, _Telling(running, days))
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title = running.job.title
        message = keep_ordered(write, days, asked, plan)
        running.finish(message=message)


def ordered(
    days: DaysOf, asked: Asked, told: Callable[[core.Progress], object] | None = None, effort: float = 1.0
) -> core.Plan:
    """The plan that is asked for; the day on which it rains counts as such in ``days`` from then on."""
    for row in days.days:
        if row.date == asked.rains_on:
            row.rained_from_min = asked.rains_from_min
    if asked.again:
        return core.plan_again(days.shooting, days.bookings, days.now, effort=effort)
    return core.plan_days(days.shooting, told, effort=effort, now=days.now)


def keep_ordered(write: Writing, days: DaysOf, asked: Asked, plan: core.Plan) -> str:
    """Keep a plan with what was asked, and say in a line what it comes to."""
    row = next((row for row in days.days if row.date == asked.rains_on), None)
    if row is not None:
        changes = {"rained_from_min": asked.rains_from_min}
        change_row(write, kind_called("day"), row.pk, row.version, changes)
    message = _moves(days, days.bookings, plan) if asked.again else _said(plan)
    keep_plan(write, days, plan)
    return message


class _Telling:
    """Says how far it is, and shows the best plan so far, not oftener than anybody can look."""

    def __init__(self, running: Running, days: DaysOf) -> None:
        self.running, self.days, self.last = running, days, 0.0

    def __call__(self, progress: core.Progress) -> None:
        now = time.monotonic()
        if now - self.last < _TELLS_EVERY_S:
            return
        self.last = now
        costs = progress.costs
        bound = f", none needs fewer than {progress.fewest_days}" if progress.fewest_days else ""
        DaysPlanned.objects.update_or_create(
            production=self.days.production,
            defaults={"under_way": [own.model_dump(mode="json") for own in progress.bookings]},
        )
        count = len(progress.bookings)
        self.running.advance(
            progress.share, at=f"{count} {'job' if count == 1 else 'jobs'}, days: {costs.days}{bound}"
        )


def keep_plan(write: Writing, days: DaysOf, plan: core.Plan) -> None:
    """Book the jobs as a plan has them, and keep what it proves."""
    why = core.Words(days.shooting).of_left_out(plan.left_out, plan.clash)
    DaysPlanned.objects.update_or_create(
        production=days.production,
        defaults={
            "fewest_days": plan.fewest_days,
            "fewest_people_days": plan.fewest_people_days,
            "best": plan.best,
            "jobs": len(days.jobs),
            "why": why,
            "under_way": [],
            "planned_from": days.digest,
            "at": timezone.now(),
        },
    )
    book(write, _moved(days, plan))


def _moved(days: DaysOf, plan: core.Plan) -> list[dict[str, object]]:
    """What the plan books otherwise than it is booked."""
    rows = {row.key: row for row in days.booked}
    told: list[dict[str, object]] = []
    for moved in core.moved_jobs(days.bookings, plan.bookings):
        set_up, block = set_up_and_block(moved.job)
        row: Booked | None = rows.get(moved.job)
        after = moved.after
        told.append(
            {
                "set_up_id": set_up,
                "block": block,
                "version": row.version if row else 0,
                "date": after.date if after else None,
                "start_min": after.start if after else 0,
                "locked": after.locked if after else False,
            }
        )
    return told


def _moves(days: DaysOf, before: tuple[core.Booking, ...], plan: core.Plan) -> str:
    """What is otherwise, in a line."""
    words, moved = core.Words(days.shooting), core.moved_jobs(before, plan.bookings)
    elsewhere = [own for own in moved if own.to_another_day and own.after]
    told = [
        f"{words.of_job(own.job)} to {core.day_text(own.after.date)}" for own in elsewhere[:6] if own.after
    ]
    if len(elsewhere) > len(told):
        told.append(f"{len(elsewhere) - len(told)} more to other days")
    later = len(moved) - sum(own.to_another_day for own in moved)
    if later:
        told.append(f"{later} at another hour of the same day")
    if plan.left_out:
        told.append(f"{len(plan.left_out)} left out")
    return f"{'; '.join(told)}." if told else "Nothing had to be moved."


def _said(plan: core.Plan) -> str:
    costs = plan.costs
    days = f"{costs.days} day{'' if costs.days == 1 else 's'}"
    if plan.left_out:
        return f"{days}; {len(plan.left_out)} left out."
    if plan.fewest_days == costs.days:
        return f"{days}, none fewer is possible."
    return f"{days}; no plan needs fewer than {plan.fewest_days}."
