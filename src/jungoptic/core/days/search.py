"""The days planned: a first plan quickly, made better by the solver, with what is proven beside it."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Mapping
from datetime import date
from itertools import combinations
from typing import Any

from ortools.sat.python import cp_model

from .assignment import Assignment
from .broken import Costs
from .checking import plan_costs
from .explaining import clash_of
from .grid import Grid
from .insertion import WEIGHTS, inserted
from .locking import keeps_rules, settled
from .model import DaysModel, solver
from .plan import Plan, Progress
from .records import Booking, Shooting

FEW_JOBS = 9  # so many are solved whole, to the end
MORE_JOBS = 16  # so many are solved whole too, as far as the effort goes
SOME_JOBS = 60  # of more the whole is not even tried where some are left out: the model alone takes long
_ROUNDS = 30_000  # of taking out and putting in, divided by the number of jobs
# Of the solver, in its own deterministic seconds.
_EXACT, _WHOLE, _BOUND, _PAIR, _PAIRS = 60.0, 4.0, 1.5, 0.15, 4.0
_EARLIER = 20_000  # what a step of waiting counts against a step of being earlier

Bookings = dict[str, Booking]


class Search:
    """One search: the best plan so far, and what is proven."""

    def __init__(
        self,
        shooting: Shooting,
        told: Callable[[Progress], object],
        stop: Callable[[], bool],
        effort: float,
        now: tuple[date, int] | None = None,
    ) -> None:
        self.shooting, self.told, self.stop, self.effort = settled(shooting), told, stop, effort
        self.grid = Grid(self.shooting, earliest=now)
        self.best: Bookings = {}
        self.fewest = {"days": 0, "people_days": 0}
        self.proven = False
        self.stopped = False
        self.left = 0.0  # of the solver's time for pairs of days

    def plan(self) -> Plan:
        count = len(self.shooting.jobs)
        if count <= FEW_JOBS:
            self._whole(_EXACT)
            if not self.best:
                self._first()
        else:
            self._first()
            if len(self.best) < count <= SOME_JOBS and not self.stopped:
                self._whole(_WHOLE)
            self._tell(0.3)
            self._bounds()
            self._tell(0.4)
            if len(self.best) == count:
                if count <= MORE_JOBS:
                    self._whole(_WHOLE)
                if not self.proven:
                    self._pairs()
        left = tuple(key for key in self.grid.jobs if key not in self.best)
        clash = clash_of(self.grid, left) if left and not self._asked() else None
        costs = self._costs()
        return Plan(
            bookings=in_order(self.best),
            left_out=left,
            costs=costs,
            fewest_days=self.fewest["days"] if not left else 0,
            fewest_people_days=self.fewest["people_days"] if costs.days == self.fewest["days"] else 0,
            best=self.proven,
            stopped=self.stopped,
            clash=clash,
        )

    def _asked(self) -> bool:
        self.stopped = self.stopped or self.stop()
        return self.stopped

    def _costs(self) -> Costs:
        return plan_costs(self.shooting, tuple(self.best.values()))

    def _tell(self, share: float) -> None:
        self.told(Progress(share, in_order(self.best), self._costs(), self.fewest["days"]))

    # --- quick

    def _first(self) -> None:
        rounds = max(30, round(_ROUNDS * self.effort / max(len(self.grid.jobs), 1)))
        dice = random.Random(1)
        for rows in inserted(self.grid, rounds, dice):
            self._take(rows.bookings())
            if self._asked():
                return

    def _take(self, bookings: Bookings, share: float = 0.1) -> None:
        """Take a plan over where it keeps all rules and is better."""
        more = len(bookings) - len(self.best)
        if more < 0 or not keeps_rules(self.shooting, bookings):
            return
        if more or plan_costs(self.shooting, tuple(bookings.values())).counts < self._costs().counts:
            self.best = bookings
            self._tell(share)

    # --- whole

    def _whole(self, limit: float) -> None:
        """All jobs at once, one level after the other, each to its least."""
        model = DaysModel(self.grid)
        self._hint(model, self.best)
        proven, left = True, limit * self.effort
        for level, least in model.levels().items():
            model.model.minimize(least)
            own = solver(max(left, 0.1))
            status = own.solve(model.model)
            left -= own.response_proto.deterministic_time
            if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
                return
            proven = proven and status == cp_model.OPTIMAL
            if level in self.fewest and proven:
                self.fewest[level] = round(own.best_objective_bound)
            bookings = model.bookings(own.value)
            self._take(bookings, 0.5)
            model.model.add(least <= round(own.objective_value))
            self._hint(model, bookings)
            if self._asked():
                return
        self.proven = proven

    def _hint(self, model: DaysModel, bookings: Mapping[str, Booking]) -> None:
        model.model.clear_hints()  # type: ignore[no-untyped-call]
        for key, start in model.start.items():
            if key in bookings:
                model.model.add_hint(start, self.grid.moment(bookings[key]))
                model.model.add_hint(model.day[key], self.grid.index(bookings[key]))

    # --- what is proven

    def _bounds(self) -> None:
        if not self.grid.all_can_be:
            return
        self.fewest["days"] = self.grid.least_days
        assignment = Assignment(self.grid)
        for level, least in assignment.levels().items():
            bound = assignment.bound(level, _BOUND * self.effort)
            if not bound:
                return
            self.fewest[level] = max(self.fewest[level], bound)
            if level == "days":
                days = self._costs().days
                if len(self.best) < len(self.grid.jobs) or self.fewest["days"] < days or self._asked():
                    return
                assignment.model.add(least <= days)

    # --- two days at a time

    def _pairs(self) -> None:
        """Any two days made as good as they can be together, until none gets better."""
        tried: set[tuple[Any, ...]] = set()
        better, self.left = True, _PAIRS * self.effort
        while better and self.left > 0:
            better = False
            pairs = list(self._two_days())
            for number, (a, b) in enumerate(pairs):
                here = {
                    key: booking for key, booking in self.best.items() if self.grid.index(booking) in (a, b)
                }
                seen = tuple((key, self.grid.index(booking), booking.start) for key, booking in here.items())
                if not here or (a, b, seen) in tried:
                    continue
                tried.add((a, b, seen))
                if self._asked() or self.left <= 0:
                    return
                if self._two(here, (a, b)):
                    better = True
                    self._tell(0.4 + 0.6 * number / len(pairs))

    def _two_days(self) -> Iterator[tuple[int, int]]:
        used = sorted({self.grid.index(booking) for booking in self.best.values()})
        yield from sorted(combinations(used, 2), key=lambda pair: (pair[1] - pair[0], pair))
        yield from ((day, free) for day in used for free in range(day) if free not in used)

    def _two(self, here: Bookings, days: tuple[int, int]) -> bool:
        fixed = {key: booking for key, booking in self.best.items() if key not in here}
        model = DaysModel(self.grid, here, days, fixed)
        levels = model.levels()
        costs = sum(WEIGHTS[level] * _EARLIER * levels[level] for level in WEIGHTS) + levels["earlier"]
        model.model.minimize(costs)
        self._hint(model, here)
        own = solver(_PAIR)
        status = own.solve(model.model)
        self.left -= own.response_proto.deterministic_time
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return False
        bookings = {**self.best, **model.bookings(own.value)}
        before = self._costs().counts
        if plan_costs(self.shooting, tuple(bookings.values())).counts >= before or not keeps_rules(
            self.shooting, bookings
        ):
            return False
        self.best = bookings
        return True


def in_order(bookings: Bookings) -> tuple[Booking, ...]:
    """Bookings by time."""
    return tuple(sorted(bookings.values(), key=lambda booking: (booking.date, booking.start, booking.job)))
