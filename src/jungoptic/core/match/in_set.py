"""One layer in its own set, judged without a stack around it."""

from __future__ import annotations

from collections.abc import Mapping

from ..kit.records import Kit
from ..vocabulary import School, Units
from ..wording import Words
from .compare import Judgement, judge_match
from .findings import own_findings
from .layer import Layer
from .lighting import resolved
from .measure import Match
from .records import Delivery, SetUp
from .stack import Member, ShotPlan, Stack
from .tolerances import Tolerance


def judge_in_set(
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
    """A layer against the hero, with what one look at its own set tells.

    Sheet, lamps, shadows, spill, gloss, the set's edge; what belongs to a whole stack (plates, passes,
    references) is not asked for.

    Parameters
    ----------
    hero : SetUp
        The plate's camera, as it stands full size; its lamps or sun give its key.
    layer : Layer
        Its place and size in the hero's world.
    setup : SetUp or None
        What films it, lamps and sheet in it, metres of the set; None for a picture whose camera is unknown.
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
        Worst first.

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN
    >>> [item.item for item in judge_in_set(HERO, ACTOR, ON_GREEN, DELIVERY)][:2]
    ['direction', 'backing_shadow']
    """
    seen = resolved(hero, layer)
    stack = Stack(ShotPlan(), delivery, seen, (Member(layer, setup, 1 if setup else None),))
    match = Match(seen, layer, resolved(setup, layer) if setup else None, delivery)
    return judge_match(
        match,
        school=school,
        tolerances=tolerances,
        kit=kit,
        units=units,
        findings=own_findings(stack, 0, match, Words(units), kit),
        placed=setup,
    )
