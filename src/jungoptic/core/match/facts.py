"""What a take was judged with, kept whole: the shot as it stood, the kit, the limits.

It goes to JSON and comes back to the digit.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Any

from pydantic import Field, TypeAdapter

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
    """One take in its shot: ``stack.members[position]`` is its layer as it was filmed.

    ``planned`` is the set-up that the crew was shown.

    ``stack.hero`` is what it was held against: the plan, or a hero take that was circled. A hero's own take
    is held against the hero's plan.
    """

    stack: Stack
    position: Annotated[int, Field(alias="at")]  # as it is kept in takes
    planned: SetUp
    tolerances: dict[str, Tolerance]
    kit: Kit
    errors: PlacingErrors

    @property
    def filmed(self) -> SetUp:
        """The set-up as it really was, lamps and backing in it."""
        setup = self.stack.members[self.position].setup
        assert setup is not None
        return setup

    def to_json(self) -> dict[str, Any]:
        """The facts as plain values: numbers, text, lists, dictionaries.

        Returns
        -------
        dict
            What :meth:`from_json` reads, to the digit.

        Examples
        --------
        >>> from jungoptic.core.example import KIT, MODEL, STACK
        >>> sorted(Facts(STACK, 1, MODEL, {}, KIT, PlacingErrors()).to_json())
        ['at', 'errors', 'kit', 'planned', 'stack', 'tolerances']
        """
        values: dict[str, Any] = _FACTS.dump_python(self, mode="json", by_alias=True)
        return values

    @classmethod
    def from_json(cls, values: Any) -> Facts:
        """The facts again.

        Parameters
        ----------
        values : dict
            What :meth:`to_json` wrote.

        Returns
        -------
        Facts
            To the digit.

        Raises
        ------
        ValidationError
            For what :meth:`to_json` did not write.

        Examples
        --------
        >>> from jungoptic.core.example import KIT, MODEL, STACK
        >>> facts = Facts(STACK, 1, MODEL, {}, KIT, PlacingErrors())
        >>> Facts.from_json(facts.to_json()) == facts
        True
        """
        return _FACTS.validate_python(values)


_FACTS = TypeAdapter(Facts)


def judge_facts(
    facts: Facts, *, school: School = "measured", units: Units = "metric", hero: SetUp | None = None
) -> tuple[Judgement, ...]:
    """A take against what it was held against then, or against another hero.

    Parameters
    ----------
    facts : Facts
        What was kept with the take.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    units : {"metric", "imperial"}, default "metric"
        Of the sentences.
    hero : SetUp, optional
        Another hero, its key written out.

    Returns
    -------
    tuple of Judgement
        Worst first.

    Examples
    --------
    >>> from jungoptic.core.example import KIT, MODEL, STACK
    >>> judge_facts(Facts(STACK, 1, MODEL, {}, KIT, PlacingErrors()))[0].label
    'Frame edge'
    """
    stack = facts.stack if hero is None else replace(facts.stack, hero=hero)
    member = stack.members[facts.position]
    if not member.is_hero:
        _, items = judge_member(
            stack,
            facts.position,
            school=school,
            tolerances=facts.tolerances,
            kit=facts.kit,
            units=units,
            errors=facts.errors,
        )
        return items
    match = Match(facts.stack.hero, member.layer, resolved(facts.filmed, member.layer), stack.delivery)
    return judge_match(
        match,
        school=school,
        tolerances=facts.tolerances,
        kit=facts.kit,
        units=units,
        errors=facts.errors,
        placed=facts.filmed,
    )
