"""The days as a model of constraints: which job on which day at which step, in which order."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Collection, Iterable, Mapping
from itertools import combinations, permutations, product
from typing import Any

from ortools.sat.python import cp_model

from .clock import LATEST_MIN, Spans
from .grid import Grid
from .opening import Rule
from .records import Booking, Job, Order

Expression = Any  # of the solver: a sum of its variables
Literal = Any  # of the solver: a variable that is so or not, or its opposite


def solver(limit: float) -> Any:
    """A solver that comes to the same end every time; ``limit`` in its own deterministic seconds."""
    own = cp_model.CpSolver()
    own.parameters.num_workers = 1
    own.parameters.random_seed = 1
    own.parameters.linearization_level = 0
    own.parameters.max_deterministic_time = limit
    return own


class DaysModel:
    """Jobs, days and rules as variables and constraints of the solver; times are steps of the grid.

    It decides about the jobs ``free`` on the days ``days`` (indices), all of them where nothing is said; the
    others stand as ``fixed`` has them. With ``explains`` every rule hangs on a literal of its own
    (``rules``), so that the solver can say which of them clash.
    """

    def __init__(
        self,
        grid: Grid,
        free: Collection[str] | None = None,
        days: Iterable[int] | None = None,
        fixed: Mapping[str, Booking] | None = None,
        explains: bool = False,
    ) -> None:
        self.grid, self.fixed, self.explains = grid, fixed or {}, explains
        self.model = cp_model.CpModel()
        self.jobs = {key: job for key, job in grid.jobs.items() if free is None or key in free}
        self.days = sorted(range(len(grid.days)) if days is None else days)
        self.latest = LATEST_MIN // grid.step_min
        self.rules: dict[Rule, Literal] = {}
        self.filmed: dict[str, Literal] = {}
        self.on: dict[tuple[str, int], Literal] = {}
        self.time: dict[str, cp_model.IntVar] = {}
        self.day: dict[str, cp_model.IntVar] = {}
        self.start: dict[str, cp_model.IntVar] = {}
        self.arcs: dict[tuple[str, str], Literal] = {}
        self.earlier: dict[tuple[str, str], Literal] = {}  # on the same day
        self.called: dict[tuple[str, int], Literal] = {}
        self.span: dict[tuple[str, int], cp_model.IntVar] = {}
        self.changed: Expression = 0
        self.waiting: Expression = 0
        for job in self.jobs.values():
            self._place(job)
        self.used_day = {index: self.model.new_bool_var(f"day {index}") for index in self.days}
        self._one_after_another()
        for order in grid.shooting.order:
            self._order(order)
        self._runs()
        self._across_units()
        self._people()
        self._models()

    # --- what is decided

    def _rule(self, kind: str, *of: str) -> list[Literal]:
        """What a rule hangs on: nothing, or its literal where the model is to explain."""
        return [self._literal(Rule(kind, of))] if self.explains else []

    def _literal(self, rule: Rule) -> Literal:
        if rule not in self.rules:
            self.rules[rule] = self.model.new_bool_var(f"{rule.kind} {' '.join(rule.of)}")
        return self.rules[rule]

    def _place(self, job: Job) -> None:
        model, grid, key = self.model, self.grid, job.key
        length, last = grid.length[key], self.days[-1]
        filmed = self.filmed[key] = model.new_bool_var(f"{key} filmed")
        model.add(filmed == 1).only_enforce_if(self._rule("job", key))
        time = self.time[key] = model.new_int_var(0, self.latest - length, f"{key} time")
        day = self.day[key] = model.new_int_var(0, last, f"{key} day")
        start = self.start[key] = model.new_int_var(0, grid.offset[last] + self.latest, f"{key} start")
        here: list[tuple[int, Literal]] = []
        for index in self.days:
            spans: Spans = ((0, self.latest),) if self.explains else grid.starts.get((key, index), ())
            if spans:
                on = self.on[key, index] = model.new_bool_var(f"{key} on {index}")
                here.append((index, on))
                if self.explains:
                    self._explained(job, index, on)
                else:
                    self._begins(key, spans, [on])
        model.add(sum(on for _, on in here) == filmed)
        model.add(day == sum(index * on for index, on in here))
        model.add(start == time + sum(grid.offset[index] * on for index, on in here))

    def _begins(self, key: str, spans: Spans, enforced: list[Literal]) -> None:
        if spans:
            domain = cp_model.Domain.from_intervals([list(span) for span in spans])
            self.model.add_linear_expression_in_domain(self.time[key], domain).only_enforce_if(enforced)
        else:
            self.model.add_bool_or([~literal for literal in enforced])

    def _explained(self, job: Job, index: int, on: Literal) -> None:
        """Each rule by itself where it lets the job begin on a day."""
        openings, grid = self.grid.openings, self.grid
        locked = openings.locked.get(job.key)
        unlocked: list[Literal] = []
        if locked is not None:
            literal = self._literal(Rule("locked", (job.key,)))
            there = locked.date == grid.days[index]
            self._begins(job.key, ((locked.start // grid.step_min,) * 2,) if there else (), [on, literal])
            unlocked = [~literal]
        for rule, spans in openings.by_rule(job, grid.days[index]):
            self._begins(job.key, openings.in_steps(spans), [on, self._literal(rule), *unlocked])

    # --- one after another, with what must be changed between

    def _one_after_another(self) -> None:
        units: dict[str, list[str]] = defaultdict(list)
        for key, job in self.jobs.items():
            units[job.unit].append(key)
        works: dict[int, list[Literal]] = defaultdict(list)
        for unit, keys in units.items():
            begins = self._in_a_row(keys)
            used = [self._works(unit, keys, index) for index in self.days]
            for index, literal in zip(self.days, used, strict=True):
                works[index].append(literal)
            self.model.add(sum(begins) == sum(used))
            self.model.add_no_overlap(
                self.model.new_optional_fixed_size_interval_var(
                    self.start[key], self.grid.length[key], self.filmed[key], key
                )
                for key in keys
            )
        for index, day in self.used_day.items():
            self.model.add_max_equality(day, works[index])

    def _in_a_row(self, keys: list[str]) -> list[Literal]:
        """Every day of a unit as a round from its first job to its last; what is first on some day."""
        model, grid = self.model, self.grid
        node = {key: number for number, key in enumerate(keys, 1)}
        rounds: list[tuple[int, int, Any]] = []
        begins, ends = {}, {}
        for key in keys:
            begin, end = model.new_bool_var(f"{key} first"), model.new_bool_var(f"{key} last")
            begins[key], ends[key] = begin, end
            rounds += [(0, node[key], begin), (node[key], 0, end)]
            if self.explains:
                rounds.append((node[key], node[key], ~self.filmed[key]))
        for before, after in permutations(keys, 2):
            if self._may_follow(before, after):
                arc = self.arcs[before, after] = model.new_bool_var(f"{before} then {after}")
                rounds.append((node[before], node[after], arc))
                steps = grid.change[before, after]
                free = self.time[before] + grid.length[before] + steps
                model.add(self.time[after] >= free).only_enforce_if(arc)
                model.add(self.day[after] == self.day[before]).only_enforce_if(arc)
                self.changed += steps * arc
        model.add_multiple_circuit(rounds)
        self._over_night(begins, ends)
        if not self.explains:
            for a, b in combinations(keys, 2):
                self._earlier_or_later(a, b)
        return list(begins.values())

    def _over_night(self, begins: dict[str, Literal], ends: dict[str, Literal]) -> None:
        """A day of a unit that goes on after midnight leaves the time of a change before the next one."""
        grid, both = self.grid, self.on.keys() & self.grid.starts
        for index, before, after in product(filter(grid.next_day, self.days), ends, begins):
            late, early = (before, index), (after, index + 1)
            if before == after or late not in both or early not in both:
                continue
            steps = grid.length[before] + grid.change[before, after]
            if grid.starts[late][-1][1] + steps > grid.starts[early][0][0] + grid.day_steps:
                on = ends[before], begins[after], self.on[late], self.on[early]
                self.model.add(self.start[after] >= self.start[before] + steps).only_enforce_if(*on)

    def _earlier_or_later(self, a: str, b: str) -> None:
        """Of two jobs of a unit on one day, which is filmed first; the sequence follows of itself, but what
        waiting must be at the least does not.
        """
        model = self.model
        for first, then in ((a, b), (b, a)):
            earlier = self.earlier[first, then] = model.new_bool_var(f"{first} earlier than {then}")
            ends = self.time[first] + self.grid.length[first]
            model.add(self.time[then] >= ends).only_enforce_if(earlier)
            model.add(self.day[then] == self.day[first]).only_enforce_if(earlier)
            if (first, then) in self.arcs:
                model.add_implication(self.arcs[first, then], earlier)
        for index in self.days:
            if (a, index) in self.on and (b, index) in self.on:
                both = [~self.on[a, index], ~self.on[b, index]]
                model.add_bool_or([*both, self.earlier[a, b], self.earlier[b, a]])

    def _may_follow(self, before: str, after: str) -> bool:
        """Whether one job can come straight after another on some day."""
        if self.explains:
            return True
        steps = self.grid.length[before] + self.grid.change[before, after]
        starts = self.grid.starts
        return not any(order.then == before for order in self.grid.after[after]) and any(
            starts[before, index][0][0] + steps <= starts[after, index][-1][1]
            for index in self.days
            if (before, index) in starts and (after, index) in starts
        )

    def _works(self, unit: str, keys: list[str], index: int) -> Literal:
        """Whether a unit films anything on a day; its minutes fit between the first and the last possible."""
        here = [key for key in keys if (key, index) in self.on]
        used = self.model.new_bool_var(f"{unit} works {index}")
        self.model.add_max_equality(
            used, [self.on[key, index] for key in here] or [self.model.new_constant(0)]
        )
        if here and not self.explains:
            first = min(self.grid.starts[key, index][0][0] for key in here)
            last = max(self.grid.starts[key, index][-1][1] + self.grid.length[key] for key in here)
            minutes = sum(self.grid.length[key] * self.on[key, index] for key in here)
            self.model.add(minutes <= (last - first) * used)
        return used

    # --- order

    def _order(self, order: Order) -> None:
        grid, rest = self.grid, self.grid.up(order.rest_min)
        if order.waived or order.first not in grid.jobs or order.then not in grid.jobs:
            return
        here = [key for key in (order.first, order.then) if key in self.jobs]
        enforced = [*(self.filmed[key] for key in here), *self._rule("order", order.first, order.then)]
        if not here or any(
            key not in self.jobs and key not in self.fixed for key in (order.first, order.then)
        ):
            return
        begins = [self._somewhere(key)[0] for key in (order.first, order.then)]
        ends = begins[0] + grid.length[order.first] + rest
        self.model.add(begins[1] >= ends).only_enforce_if(enforced)
        if order.straight and len(here) == 2:
            arc = self.arcs.get((order.first, order.then))
            if arc is not None:
                self.model.add(arc == 1).only_enforce_if(enforced)
            else:
                self.model.add(self.day[order.then] == self.day[order.first]).only_enforce_if(enforced)

    def _runs(self) -> None:
        """Nothing else on the table of a run from its first job to its last."""
        grid, model = self.grid, self.model
        far = grid.offset[-1] + self.latest
        for run in grid.shooting.runs:
            known = [key for key in run.jobs if key in self.jobs or key in self.fixed]
            table = {(grid.jobs[key].place, grid.jobs[key].table) for key in known}
            others = [
                key
                for key, job in grid.jobs.items()
                if (job.place, job.table) in table
                and key not in run.jobs
                and (key in self.jobs or key in self.fixed)
            ]
            if not any(key in self.jobs for key in [*known, *others]):
                continue
            begin, end = model.new_int_var(0, far, ""), model.new_int_var(0, far, "")
            for key in known:
                start, there = self._somewhere(key)
                model.add(begin <= start).only_enforce_if(there)
                model.add(end >= start + grid.length[key]).only_enforce_if(there)
            for key in others:
                start, there = self._somewhere(key)
                before = model.new_bool_var(f"{key} before the run")
                enforced = [*there, *self._rule("run", *run.jobs)]
                model.add(start + grid.length[key] <= begin).only_enforce_if([before, *enforced])
                model.add(start >= end).only_enforce_if([~before, *enforced])

    def _somewhere(self, key: str) -> tuple[Any, list[Literal]]:
        """When a job begins, decided here or fixed, and what says that it is filmed."""
        if key in self.jobs:
            return self.start[key], [self.filmed[key]]
        return self.grid.moment(self.fixed[key]), []

    def _across_units(self) -> None:
        """Two units do not share people, a camera or a table at one time; who goes from place to place is on
        the way meanwhile.
        """
        grid = self.grid
        for a, b in combinations(self.jobs.values(), 2):
            gap = grid.apart(a, b)
            if gap is None:
                continue
            before = self.model.new_bool_var(f"{a.key} before {b.key}")
            both = [self.filmed[a.key], self.filmed[b.key]]
            for first, then, literal in ((a.key, b.key, before), (b.key, a.key, ~before)):
                free = self.start[first] + grid.length[first] + gap
                self.model.add(self.start[then] >= free).only_enforce_if([literal, *both])

    # --- people and models

    def _people(self) -> None:
        model, grid = self.model, self.grid
        for person in grid.shooting.people:
            wanted = [key for key, job in self.jobs.items() if person.key in job.people]
            for index in self.days:
                here = [key for key in wanted if (key, index) in self.on]
                if here:
                    self._called(person.key, index, here)
            spans = sum(span for (key, _), span in self.span.items() if key == person.key)
            if person.key in grid.most and wanted:
                left = grid.most[person.key] - self._fixed_span(person.key)
                model.add(spans <= left).only_enforce_if(self._rule("most", person.key))
            works = sum(grid.length[key] * self.filmed[key] for key in wanted) + sum(
                grid.change[pair] * arc
                for pair, arc in self.arcs.items()
                if pair[0] in wanted and pair[1] in wanted
            )
            self.waiting += spans - works
            if wanted and not self.explains:
                model.add(spans >= works + self._waits(wanted))

    def _waits(self, wanted: list[str]) -> Expression:
        """The jobs of others that somebody's own enclose on a day: so long they wait at least."""
        model, waits = self.model, []
        for key in self.jobs:
            ends = self.earlier
            if key in wanted or not any((own, key) in ends for own in wanted):
                continue
            before, after, waited = (model.new_bool_var("") for _ in range(3))
            for own in wanted:
                if (own, key) in ends:
                    model.add_implication(ends[own, key], before)
                    model.add_implication(ends[key, own], after)
            model.add_bool_or([~before, ~after, waited])
            waits.append(self.grid.length[key] * waited)
        return sum(waits)

    def _called(self, person: str, index: int, keys: list[str]) -> None:
        model, grid, rule = self.model, self.grid, self._rule("longest_day", person)
        called = self.called[person, index] = model.new_bool_var(f"{person} called {index}")
        model.add_max_equality(called, [self.on[key, index] for key in keys])
        come = model.new_int_var(0, self.latest, f"{person} comes {index}")
        span = self.span[person, index] = model.new_int_var(0, self.latest, f"{person} there {index}")
        model.add(span == 0).only_enforce_if(~called)
        for key in keys:
            model.add(come <= self.time[key]).only_enforce_if(self.on[key, index])
            model.add(come + span >= self.time[key] + grid.length[key]).only_enforce_if(self.on[key, index])
        model.add(span >= sum(grid.length[key] * self.on[key, index] for key in keys))
        model.add(span <= grid.longest(person, index)).only_enforce_if([called, *rule])

    def _fixed_span(self, person: str) -> int:
        """How long somebody is there on the days that stand, in steps."""
        days: dict[int, list[tuple[int, int]]] = defaultdict(list)
        for key, booking in self.fixed.items():
            if person in self.grid.jobs[key].people:
                start = self.grid.moment(booking)
                days[self.grid.index(booking)].append((start, start + self.grid.length[key]))
        return sum(max(b for _, b in spans) - min(a for a, _ in spans) for spans in days.values())

    def _models(self) -> None:
        for place, most in self.grid.models.items():
            by_model: dict[str, list[str]] = defaultdict(list)
            for key, job in self.jobs.items():
                if job.place == place and job.model:
                    by_model[job.model].append(key)
            if len(by_model) <= most:
                continue
            for index in self.days:
                stand = []
                for keys in by_model.values():
                    here = [self.on[key, index] for key in keys if (key, index) in self.on]
                    if here:
                        stand.append(self.model.new_bool_var(f"model stands {index}"))
                        self.model.add_max_equality(stand[-1], here)
                self.model.add(sum(stand) <= most).only_enforce_if(self._rule("models", place))

    # --- what is good, and what came out

    def levels(self) -> dict[str, Expression]:
        """What is made least, in this order."""
        return {
            "days": sum(self.used_day.values()),
            "people_days": sum(self.called.values()),
            "changing": self.changed,
            "waiting": self.waiting,
            "earlier": sum(self.start.values()),
        }

    def bookings(self, value: Callable[[Any], int]) -> dict[str, Booking]:
        """The plan of the free jobs as a solution has it."""
        return {
            key: self.grid.booking(key, index, value(self.time[key]))
            for (key, index), on in self.on.items()
            if value(on)
        }
