"""Why jobs cannot be placed: the few rules that together keep them out, and which would let them in."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from itertools import chain

from ortools.sat.python import cp_model

from .grid import Grid
from .model import DaysModel, solver
from .opening import Rule
from .plan import Clash
from .records import Job

_LOOK, _LOOKS = 2.0, 5.0  # one, and all of them: of the solver, in its own deterministic seconds
_PHYSICS = frozenset({"job", "order", "run"})


def clash_of(grid: Grid, left: Sequence[str]) -> Clash | None:
    """Which rules together keep out the first of some jobs that could not be placed.

    None where nothing is proven: then it is too much for the days, or the search was too short.
    """
    for key in left:
        if not any((key, index) in grid.starts for index in range(len(grid.days))):
            return _alone(grid, grid.jobs[key])
    for keys in _around(grid, left):
        clash = _together(grid, keys)
        if clash is not None:
            return clash
    return None


# --- a job by itself


def _alone(grid: Grid, job: Job) -> Clash:
    """A job that no day lets begin, whatever the others do."""
    rules = list(dict.fromkeys(rule for day in grid.days for rule, _ in grid.openings.by_rule(job, day)))
    if job.key in grid.openings.locked:
        rules = [Rule("locked", (job.key,))]

    def can_be(without: Collection[Rule]) -> bool:
        return any(grid.openings.starts(job, day, frozenset(without)) for day in grid.days)

    needed = list(rules)
    for rule in rules:
        rest = [other for other in needed if other != rule]
        if not can_be([other for other in rules if other not in rest]):
            needed = rest
    mends = tuple(
        rule for rule in needed if can_be([rule, *(other for other in rules if other not in needed)])
    )
    return Clash((Rule("job", (job.key,)), *needed), mends)


# --- several together


def _around(grid: Grid, left: Sequence[str]) -> Iterable[list[str]]:
    """Ever more jobs around one that is left out: what it is ordered with, what wants the same, all."""
    key = left[0]
    job = grid.jobs[key]
    near = {key}
    more = True
    while more:
        chained = {
            other
            for own in near
            for other in chain(
                (order.first for order in grid.before[own]), (order.then for order in grid.after[own])
            )
        }
        more = not chained <= near
        near |= chained
    yield [own for own in grid.jobs if own in near]
    scarce = {person for person in job.people if person in grid.most}
    alike = near | {
        other.key
        for other in grid.jobs.values()
        if scarce & set(other.people)
        or set(other.needs) & set(job.needs)
        or (other.sun is not None and job.sun is not None and other.place == job.place)
    }
    yield [own for own in grid.jobs if own in alike]
    people = {
        other.key
        for other in grid.jobs.values()
        if set(other.people) & set(job.people) or other.unit == job.unit
    }
    yield [own for own in grid.jobs if own in alike | people]


class _Looks:
    """The solver asked again and again, whether some rules can all be kept."""

    def __init__(self, grid: Grid, keys: Sequence[str]) -> None:
        self.model = DaysModel(grid, keys, explains=True)
        self.left = _LOOKS

    def clash(self, rules: Iterable[Rule]) -> list[Rule] | None:
        """Some of the rules that cannot all be kept; None where they can, or nobody knows."""
        literals = self.model.rules
        chosen = [rule for rule in rules if rule in literals]
        self.model.model.clear_assumptions()
        self.model.model.add_assumptions([literals[rule] for rule in chosen])
        own = solver(_LOOK)
        status = own.solve(self.model.model)
        self.left -= own.response_proto.deterministic_time + 0.01
        if status != cp_model.INFEASIBLE:
            return None
        core = set(own.sufficient_assumptions_for_infeasibility())
        return [rule for rule in chosen if literals[rule].index in core]


def _together(grid: Grid, keys: Sequence[str]) -> Clash | None:
    looks = _Looks(grid, keys)
    core = looks.clash(looks.model.rules)
    if core is None:
        return None
    for rule in list(core):
        if looks.left <= 0:
            break
        if rule in core:
            smaller = looks.clash(other for other in core if other != rule)
            core = smaller if smaller is not None else core
    every = list(looks.model.rules)
    mends = []
    for rule in sorted(core, key=lambda rule: rule.kind in _PHYSICS):
        if looks.left > 0 and looks.clash(other for other in every if other != rule) is None:
            mends.append(rule)
    return Clash(tuple(core), tuple(mends))
