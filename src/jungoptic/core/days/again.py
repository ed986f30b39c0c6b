"""The least-changed plan: what still holds stays, what does not is put elsewhere, with few others moved."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from datetime import date
from typing import Any

from ortools.sat.python import cp_model

from .assignment import Assignment
from .checking import plan_breaks, plan_costs
from .explaining import clash_of
from .grid import Grid
from .insertion import Insertion
from .locking import keeps_rules, settled
from .model import DaysModel, solver
from .plan import Plan
from .records import Booking, Shooting
from .search import Bookings, in_order

_FREE_JOBS = 26  # so many are looked at together
_LIMIT = 4.0  # of the solver, in its own deterministic seconds
_BOUND = 0.5  # the same, for the fewest days
_ROUNDS = 40


class Again:
    """One search for the least-changed plan."""

    def __init__(
        self,
        shooting: Shooting,
        bookings: Sequence[Booking],
        now: tuple[date, int] | None,
        stop: Callable[[], bool],
        effort: float,
    ) -> None:
        self.now, self.stop, self.effort = now, stop, effort
        known = {job.key for job in shooting.jobs}
        self.was: Bookings = {
            booking.job: booking
            for booking in bookings
            if booking.job in known and booking.date in shooting.days
        }
        begun = tuple(booking for booking in self.was.values() if self._has_begun(booking))
        locked = {booking.job: booking for booking in (*shooting.locked, *begun)}
        self.shooting = settled(shooting.model_copy(update={"locked": tuple(locked.values())}))
        self.grid = Grid(self.shooting, earliest=now)

    def _has_begun(self, booking: Booking) -> bool:
        return self.now is not None and (booking.date, booking.start) < self.now

    def plan(self) -> Plan:
        """The plan, and what of the jobs it leaves out."""
        best = self._put_elsewhere()
        if len(best) < len(self.grid.jobs) or self._costs(best) > (0, 0):
            best = self._with_few_moved(best)
        left = tuple(key for key in self.grid.jobs if key not in best)
        stopped = self.stop()
        return Plan(
            bookings=in_order(best),
            left_out=left,
            costs=plan_costs(self.shooting, tuple(best.values())),
            fewest_days=0 if left or stopped else self._fewest_days(),
            fewest_people_days=0,
            best=False,
            stopped=stopped,
            clash=clash_of(self.grid, left) if left and not stopped else None,
        )

    def _fewest_days(self) -> int:
        return max(self.grid.least_days, Assignment(self.grid).bound("days", _BOUND * self.effort))

    def _costs(self, bookings: Bookings) -> tuple[int, int]:
        """Jobs on another day than before, and minutes by which the others are moved."""
        other, minutes = 0, 0
        for key, booking in bookings.items():
            was = self.was.get(key)
            if was is None or was.date != booking.date:
                other += was is not None
            else:
                minutes += abs(was.start - booking.start)
        return other, minutes

    # --- quick

    def _put_elsewhere(self) -> Bookings:
        """What still holds stays; the rest is put in where it costs least, in several orders."""
        stays = self._what_holds()
        if len(stays) == len(self.grid.jobs):
            return stays
        dice = random.Random(1)
        best = stays
        worth: tuple[int, tuple[int, int], tuple[int, ...]] | None = None
        for _ in range(max(1, round(_ROUNDS * self.effort))):
            rows = Insertion(self.grid)
            rows.stand(stays)
            out = [key for key in self.grid.jobs if key not in stays]
            left = [key for key in rows.in_order(out, dice) if not rows.put_in(key)]
            bookings = rows.bookings()
            counts = plan_costs(self.shooting, tuple(bookings.values())).counts
            new = len(left), self._costs(bookings), counts
            if (worth is None or new < worth) and keeps_rules(self.shooting, bookings):
                best, worth = bookings, new
            if self.stop():
                break
        return best

    def _what_holds(self) -> Bookings:
        """The old plan without what breaks a rule now: the later of two jobs gives way."""
        stays = dict(self.was)
        locked = {booking.job for booking in self.shooting.locked}
        while True:
            faults = [
                fault
                for fault in plan_breaks(self.shooting, tuple(stays.values()))
                if not fault.warns and any(key not in locked for key in fault.jobs)
            ]
            if not faults:
                return stays
            keys = [key for key in faults[0].jobs if key not in locked]
            del stays[max(keys, key=lambda key: (stays[key].date, stays[key].start))]

    # --- with the solver

    def _with_few_moved(self, best: Bookings) -> Bookings:
        """All that is not locked decided anew where that is little enough; staying counts most."""
        locked = {booking.job for booking in self.shooting.locked}
        free = [key for key in self.grid.jobs if key not in locked]
        if not free or len(free) > _FREE_JOBS or not self.grid.all_can_be or self.stop():
            return best
        model = DaysModel(self.grid)
        moved, minutes = self._moves(model)
        for key, start in model.start.items():
            if key in best:
                model.model.add_hint(start, self.grid.moment(best[key]))
        own = solver(_LIMIT * self.effort)
        levels = model.levels()
        model.model.minimize(
            100_000 * moved + 10 * minutes + 2000 * levels["days"] + 200 * levels["people_days"]
        )
        if own.solve(model.model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return best
        bookings = model.bookings(own.value)
        if not keeps_rules(self.shooting, bookings):
            return best
        short = len(bookings) > len(best)
        return bookings if short or self._costs(bookings) < self._costs(best) else best

    def _moves(self, model: DaysModel) -> tuple[Any, Any]:
        moved, shifts = [], []
        for key, was in self.was.items():
            if key not in model.start:
                continue
            there = model.on.get((key, self.grid.index(was)))
            if there is None:
                continue
            moved.append(1 - there)
            shift = model.model.new_int_var(0, model.latest, f"{key} shifts")
            step = was.start // self.grid.step_min
            model.model.add(shift >= model.time[key] - step).only_enforce_if(there)
            model.model.add(shift >= step - model.time[key]).only_enforce_if(there)
            shifts.append(shift)
        return sum(moved), sum(shifts)
