"""A plan by putting in one job after the other where it costs least, and by taking some out and putting them
in again: quick, never proven; what the solver begins with.
"""

from __future__ import annotations

import random
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import pairwise

from .grid import Grid
from .records import Booking

_Seat = tuple[str, int]  # a unit on a day
# What is good, in one number: days, people-days, changes, waiting; steps of the grid for the last two.
WEIGHTS = {"days": 1_000_000, "people_days": 20_000, "changing": 20, "waiting": 1}


class Insertion:
    """Jobs in rows, a row for each unit and day, each as early as all before it in the row allow. Times are
    steps of the grid.
    """

    def __init__(self, grid: Grid) -> None:
        self.grid = grid
        self.jobs, self.length, self.starts, self.change = grid.jobs, grid.length, grid.starts, grid.change
        self.offset, self.before, self.after = grid.offset, grid.before, grid.after
        self.rows: dict[_Seat, list[str]] = defaultdict(list)
        self.begins: dict[str, tuple[int, int]] = {}  # day and step at which each begins
        self.worth: dict[int, int] = {}  # of each day
        self.there: dict[int, dict[str, int]] = defaultdict(dict)  # of each day, how long who is there

    def copy(self) -> Insertion:
        """The same plan, to change."""
        other = Insertion(self.grid)
        other.rows.update({seat: list(row) for seat, row in self.rows.items()})
        other.begins.update(self.begins)
        other.worth.update(self.worth)
        other.there.update(self.there)
        return other

    @property
    def costs(self) -> int:
        """The whole plan in one number; the less the better."""
        return sum(self.worth.values())

    # --- a row as early as it can be

    def _timed(self, seat: _Seat, row: Sequence[str]) -> dict[str, int] | None:
        """Beginnings of the jobs of a row, each as early as can be; None where one does not fit."""
        day = seat[1]
        times: dict[str, int] = {}
        free, last = 0, ""
        for key in row:
            spans = self.starts.get((key, day))
            if spans is None:
                return None
            time = free + self.change[last, key] if last else self._after_the_night(seat, key)
            for order in self.before[key]:
                if order.first in times:
                    end = times[order.first] + self.length[order.first]
                elif order.first in row:
                    return None
                elif order.first in self.begins:
                    there, begin = self.begins[order.first]
                    end = self.offset[there] + begin + self.length[order.first] - self.offset[day]
                else:
                    continue
                time = max(time, end + self.grid.up(order.rest_min))
            fits = next((max(first, time) for first, final in spans if final >= time), None)
            if fits is None:
                return None
            times[key] = fits
            free, last = fits + self.length[key], key
        if not self._followed(day, times) or not self._ends_in_time(seat, last, free):
            return None
        return times if self._unbroken(seat, row, times) else None

    def _after_the_night(self, seat: _Seat, key: str) -> int:
        """When a job can begin at the earliest as the first of its row: where the day before went on after
        midnight, a change after its end.
        """
        unit, day = seat
        row = self.rows.get((unit, day - 1)) if day and self.grid.next_day(day - 1) else None
        if not row:
            return 0
        ends = self.begins[row[-1]][1] + self.length[row[-1]]
        return max(0, ends + self.change[row[-1], key] - self.grid.day_steps)

    def _ends_in_time(self, seat: _Seat, last: str, ends: int) -> bool:
        """Whether a row that ends with a job at a step leaves the next day's first its beginning."""
        unit, day = seat
        row = self.rows.get((unit, day + 1)) if self.grid.next_day(day) else None
        if not row or not last:
            return True
        return ends + self.change[last, row[0]] - self.grid.day_steps <= self.begins[row[0]][1]

    def _unbroken(self, seat: _Seat, row: Sequence[str], times: dict[str, int]) -> bool:
        """Whether nothing comes between what is straight, nor into a run."""
        for a, b in pairwise(row):
            if any(order.straight and order.then != b and order.then in row for order in self.after[a]):
                return False
            if any(order.straight and order.first != a and order.first in row for order in self.before[b]):
                return False
        for key in row:
            for order in self.before[key]:
                if order.straight and order.first not in row and self._same_unit(order.first, key):
                    return False
        return all(self._run_is_whole(run.jobs, seat[1], times) for run in self.grid.shooting.runs)

    def _same_unit(self, a: str, b: str) -> bool:
        return self.jobs[a].unit == self.jobs[b].unit

    def _run_is_whole(self, run: Sequence[str], day: int, times: dict[str, int]) -> bool:
        begins = {
            **{key: self.offset[there] + begin for key, (there, begin) in self.begins.items()},
            **{key: self.offset[day] + time for key, time in times.items()},
        }
        inside = [key for key in run if key in begins]
        if len(inside) < 2:
            return True
        first = min(begins[key] for key in inside)
        last = max(begins[key] + self.length[key] for key in inside)
        tables = {(self.jobs[key].place, self.jobs[key].table) for key in inside}
        return not any(
            begin < last and begin + self.length[key] > first
            for key, begin in begins.items()
            if key not in run and (self.jobs[key].place, self.jobs[key].table) in tables
        )

    def _followed(self, day: int, times: dict[str, int]) -> bool:
        """Whether what comes after on other days still does."""
        for key, time in times.items():
            end = self.offset[day] + time + self.length[key]
            for order in self.after[key]:
                if order.then in self.begins and order.then not in times:
                    there, begin = self.begins[order.then]
                    if self.offset[there] + begin < end + self.grid.up(order.rest_min):
                        return False
        return True

    def _worth(
        self, seat: _Seat, row: Sequence[str], times: dict[str, int]
    ) -> tuple[int, dict[str, int]] | None:
        """What a day costs with this row in it, and how long who is there; None where people or tables are
        not enough.
        """
        if not self._apart(seat, times):
            return None
        changing = 0
        changes: dict[str, int] = defaultdict(int)
        there: dict[str, tuple[int, int, int]] = {}
        stands: dict[str, set[str]] = defaultdict(set)
        used = False
        for keys, begins in self._on_day(seat, row, times):
            used = used or bool(keys)
            for a, b in pairwise(keys):
                changing += self.change[a, b]
                for person in set(self.jobs[a].people) & set(self.jobs[b].people):
                    changes[person] += self.change[a, b]
            for key in keys:
                job, begin, length = self.jobs[key], begins[key], self.length[key]
                for person in job.people:
                    come, go, works = there.get(person, (begin, 0, 0))
                    there[person] = min(come, begin), max(go, begin + length), works + length
                if job.model:
                    stands[job.place].add(job.model)
        if any(len(models) > self.grid.models[place] for place, models in stands.items()):
            return None
        waiting = 0
        stays = {person: go - come for person, (come, go, _) in there.items()}
        for person, stay in stays.items():
            if stay > self.grid.longest(person, seat[1]) or not self._may_stay(person, stay, seat[1]):
                return None
            waiting += stay - there[person][2] - changes[person]
        worth = (
            WEIGHTS["days"] * used
            + WEIGHTS["people_days"] * len(there)
            + WEIGHTS["changing"] * changing
            + WEIGHTS["waiting"] * waiting
        )
        return worth, stays

    def _may_stay(self, person: str, stay: int, day: int) -> bool:
        """Whether somebody who is there for so long in all can be there that long on a day."""
        most = self.grid.most.get(person)
        if most is None:
            return True
        return stay + sum(spans.get(person, 0) for other, spans in self.there.items() if other != day) <= most

    def _on_day(
        self, seat: _Seat, row: Sequence[str], times: dict[str, int]
    ) -> Iterator[tuple[Sequence[str], dict[str, int]]]:
        yield row, times
        for other, keys in self.rows.items():
            if other[1] == seat[1] and other != seat:
                yield keys, {key: self.begins[key][1] for key in keys}

    def _apart(self, seat: _Seat, times: dict[str, int]) -> bool:
        """Whether nobody and nothing is in two units at once."""
        for (unit, day), keys in self.rows.items():
            if day != seat[1] or unit == seat[0]:
                continue
            for key in keys:
                begin = self.begins[key][1]
                for other, time in times.items():
                    gap = self.grid.apart(self.jobs[key], self.jobs[other])
                    if gap is not None and not (
                        time >= begin + self.length[key] + gap or begin >= time + self.length[other] + gap
                    ):
                        return False
        return True

    # --- in and out

    def put_in(self, key: str) -> bool:
        """Put a job where it costs least."""
        unit = self.jobs[key].unit
        best: tuple[tuple[int, int, int], _Seat, list[str], dict[str, int], dict[str, int]] | None = None
        for day in range(len(self.grid.days)):
            if (key, day) not in self.starts:
                continue
            seat = unit, day
            row = self.rows[seat]
            was = self.worth.get(day, 0)
            for place in range(len(row) + 1):
                tried = [*row[:place], key, *row[place:]]
                times = self._timed(seat, tried)
                costs = None if times is None else self._worth(seat, tried, times)
                if times is None or costs is None:
                    continue
                cost = costs[0] - was, day, times[tried[-1]]
                if best is None or cost < best[0]:
                    best = cost, seat, tried, times, costs[1]
        if best is None:
            return False
        (more, day, _), seat, row, times, self.there[best[1][1]] = best
        self.rows[seat] = row
        self.worth[day] = self.worth.get(day, 0) + more
        self.begins.update({other: (day, time) for other, time in times.items()})
        return True

    def stand(self, bookings: Mapping[str, Booking]) -> None:
        """Begin with a plan as it is."""
        for key, booking in sorted(bookings.items(), key=lambda item: (item[1].date, item[1].start)):
            day = self.grid.index(booking)
            self.begins[key] = day, booking.start // self.grid.step_min
            self.rows[self.jobs[key].unit, day].append(key)
        for seat, row in list(self.rows.items()):
            costs = self._worth(seat, row, {key: self.begins[key][1] for key in row})
            if costs is not None:
                self.worth[seat[1]], self.there[seat[1]] = costs

    def take_out(self, keys: Iterable[str]) -> None:
        """Take jobs out; what is left moves up."""
        seats = set()
        for key in keys:
            seat = self.jobs[key].unit, self.begins.pop(key)[0]
            self.rows[seat].remove(key)
            seats.add(seat)
        for seat in sorted(seats, key=lambda seat: (seat[1], seat[0])):
            row, day = self.rows[seat], seat[1]
            stay = {key: self.begins[key][1] for key in row}
            for times in (self._timed(seat, row), stay):
                costs = None if times is None else self._worth(seat, row, times)
                if times is not None and costs is not None:
                    self.begins.update({key: (day, time) for key, time in times.items()})
                    self.worth[day], self.there[day] = costs
                    break

    def in_order(self, keys: Iterable[str], dice: random.Random | None = None) -> list[str]:
        """Jobs so that what comes first is put in first; of those that may come next the least movable, or
        nearly so where dice are given.
        """
        left = dict.fromkeys(keys)
        wide = {
            key: sum(
                b - a + 1 for day in range(len(self.grid.days)) for a, b in self.starts.get((key, day), ())
            )
            * (dice.uniform(0.3, 1.0) if dice else 1.0)
            for key in left
        }
        told = []
        while left:
            free = [key for key in left if not any(order.first in left for order in self.before[key])]
            key = min(free or list(left), key=lambda key: (wide[key], -self.length[key]))
            told.append(key)
            del left[key]
        return told

    def bookings(self) -> dict[str, Booking]:
        """The plan as it stands."""
        return {key: self.grid.booking(key, day, step) for key, (day, step) in self.begins.items()}


def inserted(grid: Grid, rounds: int, dice: random.Random) -> Iterator[Insertion]:
    """Plans, each better than the one before it, that some rounds of taking out and putting in find."""
    plan = Insertion(grid)
    left = [key for key in plan.in_order(grid.jobs) if not plan.put_in(key)]
    yield plan
    for _ in range(rounds):
        other = plan.copy()
        out = [*left, *_some(other, dice)]
        other.take_out(key for key in out if key in other.begins)
        still = [key for key in other.in_order(out, dice) if not other.put_in(key)]
        if (len(still), other.costs) <= (len(left), plan.costs):
            better = (len(still), other.costs) < (len(left), plan.costs)
            plan, left = other, still
            if better:
                yield plan


def _some(plan: Insertion, dice: random.Random) -> list[str]:
    """Jobs to take out: all of one day or two, or those around one."""
    keys = sorted(plan.begins)
    if not keys:
        return []
    seed = dice.choice(keys)
    day, near = plan.begins[seed][0], plan.jobs[seed]
    most = dice.randint(3, 10)
    if dice.random() < 0.5:
        chosen = [key for key in keys if plan.begins[key][0] == day]
        other = dice.choice(sorted({plan.begins[key][0] for key in keys}))
        return chosen + [key for key in keys if plan.begins[key][0] == other and other != day]
    alike = sorted(
        keys,
        key=lambda key: (
            (plan.jobs[key].place != near.place)
            + (plan.jobs[key].model != near.model)
            + (plan.jobs[key].light != near.light)
            + dice.random()
        ),
    )
    return alike[:most]
