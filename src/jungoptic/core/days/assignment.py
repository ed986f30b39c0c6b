"""Which job on which day, without hours: few variables, so that few days can be proven."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection
from typing import Any

from ortools.sat.python import cp_model

from .changing import CHANGED, ONLY_WHERE_WANTED
from .grid import Grid
from .model import solver


class Assignment:
    """Jobs put on days so that their minutes fit: a relaxation of the plan, whose least is a proven bound."""

    def __init__(self, grid: Grid) -> None:
        self.grid = grid
        model = self.model = cp_model.CpModel()
        self.indices = range(len(grid.days))
        self.on: dict[tuple[str, int], cp_model.IntVar] = {}
        self.used = [model.new_bool_var(f"day {index}") for index in self.indices]
        self.called: dict[tuple[str, int], cp_model.IntVar] = {}
        for key in grid.jobs:
            here = {
                index: model.new_bool_var(f"{key} on {index}")
                for index in self.indices
                if (key, index) in grid.starts
            }
            model.add_exactly_one(here.values())
            self.on.update({(key, index): on for index, on in here.items()})
        for index, used in enumerate(self.used):
            model.add_max_equality(
                used, [self.on[key, index] for key in self._on(index)] or [model.new_constant(0)]
            )
            self._minutes_fit(index)
            self._models_fit(index)
        for person in grid.shooting.people:
            self._people(person.key)
        self._order()

    def _on(self, index: int) -> list[str]:
        return [key for key in self.grid.jobs if (key, index) in self.on]

    def _fit(self, keys: Collection[str], index: int, steps: int, changing: bool = False) -> None:
        """Minutes of jobs fit within some steps of a day, with the least that must be changed between."""
        lengths = {key: self.grid.length[key] for key in keys}
        if not changing and sum(lengths.values()) <= steps:
            return
        minutes = sum(lengths[key] * self.on[key, index] for key in keys)
        if not changing:
            self.model.add(minutes <= steps * self.used[index])
            return
        step = self.grid.step_min
        parts = self._parts(keys, index)
        # In thousandths, rounded down: the bound must not be more than what a plan takes.
        share = self.grid.shooting.changes.rest_share
        rest, most = int(1000 * share), int(1000 * (1 - share))
        for dearest in [*parts, 0]:
            least = sum(rest * part for part in parts) + most * dearest
            self.model.add(1000 * step * minutes + least <= 1000 * step * steps * self.used[index])

    def _parts(self, keys: Collection[str], index: int) -> list[Any]:
        """Of each kind of change, the least minutes that it takes on a day: so many different, less one."""
        parts = []
        for kind in CHANGED:
            values: dict[Any, list[str]] = defaultdict(list)
            for key in keys:
                job = self.grid.jobs[key]
                value = (job.camera, job.lens) if kind == "lens" else getattr(job, kind)
                if value or kind not in ONLY_WHERE_WANTED:
                    values[value].append(key)
            minutes = self.grid.changing.least_min(kind)
            if len(values) < 2 or not minutes:
                continue
            there = []
            for value, wanted in values.items():
                there.append(self.model.new_bool_var(f"{kind} {value} on {index}"))
                self.model.add_max_equality(there[-1], [self.on[key, index] for key in wanted])
            parts.append(minutes * (sum(there) - self.used[index]))
        return parts

    def _minutes_fit(self, index: int) -> None:
        """What of a unit can only be between two hours fits between them: for every two hours."""
        grid = self.grid
        units: dict[str, list[str]] = defaultdict(list)
        for key in self._on(index):
            units[grid.jobs[key].unit].append(key)
        for keys in units.values():
            self._fit(keys, index, grid.longest_day(keys, index), changing=True)
            first = {key: grid.starts[key, index][0][0] for key in keys}
            last = {key: grid.starts[key, index][-1][1] + grid.length[key] for key in keys}
            told: set[frozenset[str]] = set()
            for begin in sorted(set(first.values()), reverse=True):
                for end in sorted(set(last.values())):
                    inside = frozenset(key for key in keys if first[key] >= begin and last[key] <= end)
                    if len(inside) > 1 and inside not in told:
                        told.add(inside)
                        self._fit(sorted(inside), index, end - begin)

    def _models_fit(self, index: int) -> None:
        for place, most in self.grid.models.items():
            by_model: dict[str, list[str]] = defaultdict(list)
            for key in self._on(index):
                job = self.grid.jobs[key]
                if job.place == place and job.model:
                    by_model[job.model].append(key)
            if len(by_model) > most:
                stand = []
                for keys in by_model.values():
                    stand.append(self.model.new_bool_var(f"model stands {index}"))
                    self.model.add_max_equality(stand[-1], [self.on[key, index] for key in keys])
                self.model.add(sum(stand) <= most)

    def _people(self, person: str) -> None:
        grid, model = self.grid, self.model
        wanted = [key for key, job in grid.jobs.items() if person in job.people]
        if person in grid.most:
            model.add(sum(grid.length[key] for key in wanted) <= grid.most[person])
        for index in self.indices:
            here = [key for key in wanted if (key, index) in self.on]
            if here:
                called = self.called[person, index] = model.new_bool_var(f"{person} called {index}")
                model.add_max_equality(called, [self.on[key, index] for key in here])
                if len({grid.jobs[key].unit for key in here}) == 1:
                    self._fit(here, index, grid.longest(person, index))

    def _order(self) -> None:
        grid, model = self.grid, self.model
        for orders in grid.before.values():
            for order in orders:
                days = [
                    sum(index * self.on[key, index] for index in self.indices if (key, index) in self.on)
                    for key in (order.first, order.then)
                ]
                model.add(days[1] >= days[0])
                if order.straight:
                    model.add(days[1] == days[0])
                for a in self.indices:
                    for b in self.indices[a:]:
                        first, then = self.on.get((order.first, a)), self.on.get((order.then, b))
                        if first is not None and then is not None and not grid.may(order, a, b):
                            model.add_bool_or([~first, ~then])

    def bound(self, level: str, limit: float) -> int:
        """The proven least of a level within the solver's own seconds; 0 where it came to nothing."""
        self.model.minimize(self.levels()[level])
        own = solver(limit)
        own.parameters.linearization_level = 1
        solved = own.solve(self.model) in (cp_model.OPTIMAL, cp_model.FEASIBLE)
        return round(own.best_objective_bound) if solved else 0

    def levels(self) -> dict[str, Any]:
        """What is made least, in this order, of what an assignment tells."""
        return {"days": sum(self.used), "people_days": sum(self.called.values())}
