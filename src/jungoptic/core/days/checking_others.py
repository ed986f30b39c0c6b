"""Jobs of a plan beside each other: changes, order, runs, people, models. Shared with nothing that plans."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from datetime import date
from itertools import combinations, pairwise

from .broken import Break, Filmed
from .records import Job, Order, Run, Shooting


def beside_others(shooting: Shooting, filmed: Sequence[Filmed]) -> Iterator[Break]:
    """Every rule between jobs that a plan breaks."""
    yield from _one_after_another(shooting, filmed)
    yield from _across(shooting, filmed)
    by_key = {entry.job.key: entry for entry in filmed}
    for order in shooting.order:
        yield from _order(shooting, order, by_key)
    for run in shooting.runs:
        yield from _run(run, filmed)
    yield from _people(shooting, filmed)
    yield from _models(shooting, filmed)


def change_min(shooting: Shooting, before: Job, after: Job) -> int:
    """What it takes to change from one job to another, in whole steps of the grid."""
    figures = shooting.changes
    costs = []
    if before.place != after.place:
        typed = [
            known.minutes for known in shooting.travel if set(known.places) == {before.place, after.place}
        ]
        costs.append(typed[-1] if typed else figures.place_min)
    if after.model and after.model != before.model:
        costs.append(figures.model_min)
    if before.light != after.light:
        costs.append(figures.light_min)
    if after.backing and after.backing != before.backing:
        costs.append(figures.backing_min)
    if before.position != after.position:
        costs.append(figures.position_min)
    if (before.camera, before.lens) != (after.camera, after.lens):
        costs.append(figures.lens_min)
    if after.costume and after.costume != before.costume:
        costs.append(figures.costume_min)
    if not costs:
        return 0
    minutes = max(costs) + figures.rest_share * (sum(costs) - max(costs))
    step = shooting.grid_min
    return math.ceil(math.ceil(minutes - 1e-9) / step) * step


def rows_of(filmed: Sequence[Filmed]) -> dict[tuple[str, date], list[Filmed]]:
    """The jobs of each unit on each day."""
    rows: dict[tuple[str, date], list[Filmed]] = {}
    for entry in filmed:
        rows.setdefault((entry.job.unit, entry.day), []).append(entry)
    return rows


def _one_after_another(shooting: Shooting, filmed: Sequence[Filmed]) -> Iterator[Break]:
    for (_, day), row in rows_of(filmed).items():
        for before, after in pairwise(row):
            free = before.end + change_min(shooting, before.job, after.job)
            if after.start < before.end:
                keys = before.job.key, after.job.key
                yield Break("at_once", keys, day=day, over=before.end - after.start)
            elif after.start < free:
                yield Break("change", (before.job.key, after.job.key), day=day, over=free - after.start)
    yield from _over_night(shooting, filmed)


def _over_night(shooting: Shooting, filmed: Sequence[Filmed]) -> Iterator[Break]:
    """A day that goes on after midnight leaves the time of a change before the next one begins."""
    rows = sorted(rows_of(filmed).items(), key=lambda item: (item[0][0], item[0][1]))
    for ((unit, _), row), ((next_unit, day), next_row) in pairwise(rows):
        before, after = row[-1], next_row[0]
        ends = before.absolute + before.minutes
        free = ends + change_min(shooting, before.job, after.job)
        if unit == next_unit and after.absolute < free:
            kind = "at_once" if after.absolute < ends else "change"
            yield Break(kind, (before.job.key, after.job.key), day=day, over=free - after.absolute)


def _across(shooting: Shooting, filmed: Sequence[Filmed]) -> Iterator[Break]:
    for a, b in combinations(filmed, 2):
        if a.job.unit == b.job.unit:
            continue
        people = sorted(set(a.job.people) & set(b.job.people))
        camera = a.job.camera if a.job.camera and a.job.camera == b.job.camera else ""
        table = a.job.table if a.job.place == b.job.place and a.job.table == b.job.table else ""
        if not (people or camera or table):
            continue
        gap = 0
        if a.job.place != b.job.place and (people or camera):
            typed = [
                known.minutes for known in shooting.travel if set(known.places) == {a.job.place, b.job.place}
            ]
            gap = typed[-1] if typed else shooting.changes.place_min
            gap = math.ceil(gap / shooting.grid_min) * shooting.grid_min
        first, then = (a, b) if a.absolute <= b.absolute else (b, a)
        over = first.absolute + first.minutes + gap - then.absolute
        if over > 0:
            keys = first.job.key, then.job.key
            yield Break("shared", keys, (people or [camera or table])[0], then.day, over)


def _order(shooting: Shooting, order: Order, filmed: dict[str, Filmed]) -> Iterator[Break]:
    first, then = filmed.get(order.first), filmed.get(order.then)
    if first is None or then is None:
        return
    rest = math.ceil(order.rest_min / shooting.grid_min) * shooting.grid_min
    over = first.absolute + first.minutes + rest - then.absolute
    keys = (order.first, order.then)
    if over > 0:
        yield Break("order", keys, order.why, then.day, over, order.waived)
    elif order.straight:
        between = [
            entry
            for entry in filmed.values()
            if entry.job.unit == first.job.unit and first.absolute < entry.absolute < then.absolute
        ]
        if first.day != then.day or (between and first.job.unit == then.job.unit):
            yield Break("straight", keys, order.why, then.day, warns=order.waived)


def _run(run: Run, filmed: Sequence[Filmed]) -> Iterator[Break]:
    inside = [entry for entry in filmed if entry.job.key in run.jobs]
    if len(inside) < 2:
        return
    begin = min(entry.absolute for entry in inside)
    end = max(entry.absolute + entry.minutes for entry in inside)
    for entry in filmed:
        same = any((entry.job.place, entry.job.table) == (own.job.place, own.job.table) for own in inside)
        if (
            same
            and entry.job.key not in run.jobs
            and entry.absolute < end
            and entry.absolute + entry.minutes > begin
        ):
            yield Break("run", (entry.job.key, inside[0].job.key), run.why, entry.day)


def _people(shooting: Shooting, filmed: Sequence[Filmed]) -> Iterator[Break]:
    step = shooting.grid_min
    for person in shooting.people:
        days = called_when(shooting, person.key, filmed)
        for day, (begin, end, _) in days.items():
            if end - begin > person.longest_day_min // step * step:
                keys = tuple(e.job.key for e in filmed if e.day == day and person.key in e.job.people)
                yield Break("longest_day", keys, person.key, day, end - begin - person.longest_day_min)
        if person.most_min is not None:
            there = sum(end - begin for begin, end, _ in days.values())
            left = max(0, person.most_min - person.spent_min)
            if there > left // step * step:
                keys = tuple(e.job.key for e in filmed if person.key in e.job.people)
                yield Break("most", keys, person.key, over=there - left)


def called_when(
    shooting: Shooting, person: str, filmed: Sequence[Filmed]
) -> dict[date, tuple[int, int, int]]:
    """When somebody comes and goes on each day, and for how long there is work meanwhile: their jobs, and the
    changes from one of theirs straight to another.
    """
    days: dict[date, tuple[int, int, int]] = {}
    for (_, day), row in rows_of(filmed).items():
        for before, entry in pairwise([None, *row]):
            if entry is None or person not in entry.job.people:
                continue
            begin, end, works = days.get(day, (entry.start, entry.end, 0))
            if before is not None and person in before.job.people:
                works += change_min(shooting, before.job, entry.job)
            days[day] = min(begin, entry.start), max(end, entry.end), works + entry.minutes
    return days


def _models(shooting: Shooting, filmed: Sequence[Filmed]) -> Iterator[Break]:
    for place in shooting.places:
        stand: dict[date, dict[str, str]] = {}
        for entry in filmed:
            if entry.job.place == place.key and entry.job.model:
                stand.setdefault(entry.day, {}).setdefault(entry.job.model, entry.job.key)
        for day, models in stand.items():
            if len(models) > place.models_at_once:
                yield Break(
                    "models", tuple(models.values()), place.key, day, len(models) - place.models_at_once
                )
