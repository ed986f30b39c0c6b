"""A layer judged against the hero, item by item, worst first."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, fields, replace
from functools import cached_property, partial
from typing import Any

from ..kit.records import Kit
from ..vocabulary import School, Units, Verdict
from ..wording import Words
from .explain import EXPLAINERS
from .findings import all_findings
from .layer import Layer
from .lighting import resolved
from .limits import covered_tolerance, measured_tolerance, only_informs
from .measure import Match
from .records import Delivery, SetUp
from .saying import Context, Explanation, Fix, Value, can_be
from .stack import Finding, Stack
from .tolerances import ITEMS, Tolerance, ladder, verdict


@dataclass(eq=False)
class Judgement:
    """One item of one layer: how much, against what limits, why, and what to dial in.

    ``amount``, ``holds`` and ``tight`` are in ``unit``; ``ladder`` is the place on the common axis (1 holds,
    2 tight). ``covered_by`` says what widened the limits in the school Covered; ``other_verdict`` and
    ``other_holds`` are what the other school says. ``informs`` says why the item does not judge here. What is
    said of it is made when somebody reads it, by ``explain``.
    """

    item: str
    label: str
    amount: float
    unit: str
    holds: float
    tight: float
    ladder: float
    verdict: Verdict
    formula: str
    sources: tuple[str, ...]
    covered_by: str
    informs: str
    other_verdict: Verdict
    other_holds: float
    explain: Callable[[], Explanation]

    @property
    def shows_by_both(self) -> bool:
        """Whether it shows by either school, where it judges at all."""
        return self.verdict == self.other_verdict == "shows" and not self.informs

    @cached_property
    def says(self) -> Explanation:
        """Where, why, and what to dial in instead."""
        return self.explain()

    @property
    def where(self) -> str:
        """The item in a few words."""
        return self.says.where

    @property
    def sentence(self) -> str:
        """It whole, in words."""
        return self.says.sentence

    def values(self) -> tuple[Value, ...]:
        """The numbers put into the formula.

        Returns
        -------
        tuple of Value
            Symbol, meaning and value of each.

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> judged = {item.item: item for item in judge(HERO, MILL, MODEL, DELIVERY)}
        >>> judged["height"].values()[1].symbol
        'Δh'
        """
        return self.says.values()

    @cached_property
    def fixes(self) -> tuple[Fix, ...]:
        """What mends it, as far as its records allow it."""
        says = self.says
        return tuple(fix for fix in (says.mending() if says.mending else says.fixes) if can_be(fix))

    @property
    def to_do(self) -> str:
        """What would mend it at once, in a few words; "" where nothing does, or it takes a search to say."""
        if self.verdict == "holds" or self.mended_by_search or not self.fixes:
            return ""
        return self.fixes[0].label

    @property
    def mended_by_search(self) -> bool:
        """Whether what mends it is searched for, which takes a moment."""
        return self.says.mending is not None

    @property
    def dial(self) -> str:
        """The dial whose wish this is; "" for none."""
        return self.says.dial

    @property
    def wants(self) -> float | None:
        """Where that dial would marry, in its own unit."""
        return self.says.wants

    @property
    def wants_text(self) -> str:
        """The same in words."""
        return self.says.wants_text

    def __getstate__(self) -> dict[str, object]:
        """What goes to another process (a copy, a pickle) has what is said of it worked out."""
        says = self.says
        worked_out = replace(says, values=partial(tuple, says.values()), fixes=self.fixes, mending=None)
        state = {field.name: getattr(self, field.name) for field in fields(self)}
        return state | {"explain": partial(_as_it_is, worked_out)}


def _as_it_is(says: Explanation) -> Explanation:
    return says


def _explained(
    item: str, match: Match, limit: Tolerance, words: Words, kit: Kit | None, placed: SetUp | None
) -> Explanation:
    """What is said of an item; with a match that its layer keeps, kept as long as the same is asked."""
    asked = limit, words, kit, placed
    kept: tuple[Any, Explanation] | None = match.worked_out.get(("said", item))
    if kept is not None and kept[0] == asked:
        return kept[1]
    says = EXPLAINERS[item](match, Context(*asked))
    if match.layer.worked_out.get("match") is match:
        match.worked_out["said", item] = asked, says
    return says


@dataclass(frozen=True, slots=True)
class PlacingErrors:
    """How far a tape (m) and a level (degrees) may be off: put into every verdict, each as if it went the
    wrong way.
    """

    tape_m: float = 0.0
    level_deg: float = 0.0

    @property
    def any(self) -> bool:
        """Whether either is more than nothing."""
        return self.tape_m > 0 or self.level_deg > 0


def amounts_with(match: Match, errors: PlacingErrors) -> dict[str, float]:
    """The amounts of a match when distance and height are off by the tape and tilt and roll by the level, the
    worse way each.
    """
    setup = match.setup
    if setup is None or not errors.any:
        return match.amounts
    total = dict(match.amounts)
    for dial, error in (
        ("distance_m", errors.tape_m),
        ("lens_height_m", errors.tape_m),
        ("tilt_deg", errors.level_deg),
        ("roll_deg", errors.level_deg),
    ):
        if error <= 0:
            continue
        value = getattr(setup, dial)
        moved = [
            Match(
                match.hero, match.layer, setup.model_copy(update={dial: value + way}), match.delivery
            ).amounts
            for way in (error, -error)
            if dial != "distance_m" or value + way > 0
        ]
        for key, amount in match.amounts.items():
            total[key] += max(0.0, *(amounts[key] - amount for amounts in moved))
    return total


def judge_match(
    match: Match,
    *,
    school: School = "measured",
    tolerances: Mapping[str, Tolerance] | None = None,
    kit: Kit | None = None,
    units: Units = "metric",
    findings: Iterable[Finding] = (),
    alone: bool = False,
    errors: PlacingErrors | None = None,
    placed: SetUp | None = None,
) -> tuple[Judgement, ...]:
    """The judgements of a measured match, and of what else was seen of it.

    Parameters
    ----------
    match : Match
        The layer against the hero, measured.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    kit : Kit, optional
        Lets the fixes name what is owned.
    units : {"metric", "imperial"}, default "metric"
        Of the sentences.
    findings : iterable of Finding
        What one look at the set or the stack told.
    alone : bool, default False
        Only the items that need nothing to be held against: a hero's own.
    errors : PlacingErrors, optional
        How far tape and level may be off, put into every amount.
    placed : SetUp, optional
        The set-up with lamps and sun in it: lets the fixes move them.

    Returns
    -------
    tuple of Judgement
        Worst first; ties in the order of :data:`ITEMS`.

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> [judgement.item for judgement in judge_match(Match(HERO, MILL, MODEL, DELIVERY))[:2]]
    ['edges', 'height']
    """
    words = Words(units)
    custom = dict(tolerances or {})
    amounts = amounts_with(match, errors) if errors else match.amounts
    told: list[tuple[str, float, Explanation | Callable[[], Explanation] | None]] = [
        (key, amount, None) for key, amount in amounts.items()
    ]
    told += [(finding.item, finding.amount, finding.told) for finding in findings]
    judged = []
    for key, amount, explained in told:
        item = ITEMS[key]
        if alone and not item.alone:
            continue
        measured = measured_tolerance(match, key, custom)
        wider, by = covered_tolerance(match, key, measured)
        limit, covered, there = (wider, by, measured) if school == "covered" else (measured, "", wider)
        informs = only_informs(match, key)
        speaks = "holds" if informs else verdict(amount, limit)
        if explained is None:
            explain: Callable[[], Explanation] = partial(_explained, key, match, limit, words, kit, placed)
        else:
            explain = partial(_as_it_is, explained) if isinstance(explained, Explanation) else explained
        judged.append(
            Judgement(
                key,
                item.label,
                amount,
                item.unit,
                limit.holds,
                limit.tight,
                ladder(amount, limit),
                speaks,
                item.formula,
                (*item.sources, "covered") if covered else item.sources,
                covered,
                informs,
                speaks if informs or there is limit else verdict(amount, there),
                there.holds,
                explain,
            )
        )
    judged.sort(key=_worst_first)
    return tuple(judged)


def _worst_first(judgement: Judgement) -> tuple[bool, float]:
    return bool(judgement.informs), -judgement.ladder


def judge_member(
    stack: Stack,
    position: int,
    *,
    school: School = "measured",
    tolerances: Mapping[str, Tolerance] | None = None,
    kit: Kit | None = None,
    units: Units = "metric",
    errors: PlacingErrors | None = None,
    match: Match | None = None,
) -> tuple[Match, tuple[Judgement, ...]]:
    """One layer of a stack: measured against the hero, looked at in its set and in the stack, judged.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in the stack, from 0.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    kit : Kit, optional
        Lets the fixes name what is owned.
    units : {"metric", "imperial"}, default "metric"
        Of the sentences.
    errors : PlacingErrors, optional
        How far tape and level may be off, put into every amount.
    match : Match, optional
        The layer as :func:`~.at_once.measured_members` measured it.

    Returns
    -------
    match : Match
        The layer, measured.
    judgements : tuple of Judgement
        Worst first.

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> match, judged = judge_member(STACK, 2)
    >>> match.layer.name, judged[0].label
    ('Actor', 'Direction of light')
    """
    member = stack.members[position]
    if match is None:
        setup = resolved(member.setup, member.layer) if member.setup else None
        match = Match(stack.hero, member.layer, setup, stack.delivery)
    seen = all_findings(stack, position, match, Words(units), kit)
    return match, judge_match(
        match,
        school=school,
        tolerances=tolerances,
        kit=kit,
        units=units,
        findings=seen,
        alone=member.is_hero,
        errors=errors,
        placed=member.setup,
    )


def judge(
    hero: SetUp,
    layer: Layer,
    setup: SetUp | None,
    delivery: Delivery,
    *,
    school: School = "measured",
    tolerances: Mapping[str, Tolerance] | None = None,
    kit: Kit | None = None,
    units: Units = "metric",
) -> tuple[Judgement, ...]:
    """A layer as filmed by a set-up, judged against the hero alone.

    Parameters
    ----------
    hero : SetUp
        The plate's camera, as it stands full size.
    layer : Layer
        Its place and size in the hero's world.
    setup : SetUp or None
        What films it, metres of the set; None for a picture whose camera is unknown.
    delivery : Delivery
        The finished frame.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    kit : Kit, optional
        Lets the fixes name what is owned.
    units : {"metric", "imperial"}, default "metric"
        Of the sentences.

    Returns
    -------
    tuple of Judgement
        Worst first; ties in the order of :data:`ITEMS`.

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> worst = judge(HERO, MILL, MODEL, DELIVERY)[0]
    >>> worst.label, round(worst.amount), worst.unit, worst.verdict
    ('Frame edge', 497, 'px', 'shows')
    """
    return judge_match(
        Match(hero, layer, setup, delivery), school=school, tolerances=tolerances, kit=kit, units=units
    )
