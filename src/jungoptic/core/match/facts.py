"""What a take was judged with, kept whole: the shot as it stood, the kit, the limits.

It goes to JSON and comes back to the digit.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from pydantic import TypeAdapter

from ..kit.records import Kit
from ..vocabulary import School, Units
from .compare import Judgement, PlacingErrors, judge_match, judge_member
from .lighting import resolved
from .measure import Match
from .records import SetUp
from .stack import Stack
from .tolerances import Tolerance


@dataclass(frozen=True)
class Facts:
    """One take in its shot: ``stack.members[at]`` is its layer as it was filmed, ``planned`` the set-up that
    the crew was shown.

    ``stack.hero`` is what it was held against: the plan, or a hero take that was circled. A hero's own take
    is held against the hero's plan.
    """

    stack: Stack
    at: int
    planned: SetUp
    tolerances: dict[str, Tolerance]
    kit: Kit
    errors: PlacingErrors

    @property
    def filmed(self) -> SetUp:
        """The set-up as it really was, lamps and backing in it."""
        setup = self.stack.members[self.at].setup
        assert setup is not None
        return setup

    def to_json(self) -> dict[str, Any]:
        """Plain values: numbers, text, lists, dictionaries."""
        found: dict[str, Any] = _FACTS.dump_python(self, mode="json")
        return found

    @classmethod
    def from_json(cls, values: Any) -> Facts:
        """The facts again. Raises pydantic's ValidationError for what :meth:`to_json` did not write."""
        return _FACTS.validate_python(values)


_FACTS = TypeAdapter(Facts)


def judge_facts(
    facts: Facts, *, school: School = "measured", units: Units = "metric", hero: SetUp | None = None
) -> tuple[Judgement, ...]:
    """The take against what it was held against then, or against another ``hero`` (its key written out),
    worst first.
    """
    stack = facts.stack if hero is None else replace(facts.stack, hero=hero)
    member = stack.members[facts.at]
    if not member.is_hero:
        _, items = judge_member(
            stack,
            facts.at,
            school=school,
            tolerances=facts.tolerances,
            kit=facts.kit,
            units=units,
            errors=facts.errors,
        )
        return items
    match = Match(facts.stack.hero, member.layer, resolved(facts.filmed, member.layer), stack.delivery)
    return judge_match(
        match, school=school, tolerances=facts.tolerances, kit=facts.kit, units=units, errors=facts.errors
    )
