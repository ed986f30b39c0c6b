"""What the likely takes of a layer would be given, for a telephone that is about to lose the server."""

from __future__ import annotations

from dataclasses import replace

from jungoptic.app.base.answers import Json
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.answers import card_of, counted, item_of
from jungoptic.app.takes.facts import facts_of
from jungoptic.app.takes.log import Said, as_said
from jungoptic.app.takes.table import BenchTable, Judged, accepted_of
from jungoptic.core.errors import InputError
from jungoptic.core.match import Judgement, judge_facts
from jungoptic.core.plan import foretell, likely_values


def foretold(table: BenchTable, layer: Layer) -> Json:
    """The verdict as planned, and with each setting of the card at each of its likely other values: made into
    a take and judged as one that is logged. The sun stands as planned.
    """
    sun_at = layer.set_up.sun_at if layer.set_up else None
    plan = table.judge(layer)
    planned = as_said(table, layer, Said(recorded_at=sun_at))
    facts = facts_of(table, layer, planned)
    against = table.before_any_hero_take() if layer.is_hero else table
    filmed = []
    for line in card_of(table, layer, plan):
        for value in likely_values(line):
            try:
                take = as_said(table, layer, Said({line.field: value}, recorded_at=sun_at))
            except InputError:  # the kit cannot, so no take was set to it
                continue
            filmed.append((line.field, value, against.set_up_record(layer, take)))
    points = foretell(facts, filmed, school=table.school, units=table.words.units)
    return {
        "layer_id": layer.pk,
        "sun": sun_at is not None,
        "planned": _given(plan, judge_facts(facts, school=table.school, units=table.words.units)),
        "points": [
            {"field": point.field, "value": point.value, **_given(plan, point.judged)} for point in points
        ],
    }


def _given(plan: Judged, judged: tuple[Judgement, ...]) -> Json:
    """The verdict, and what of it does not hold and nobody accepted."""
    given = replace(plan, items=judged, accepted=accepted_of(plan.layer, judged))
    faults = [one for one in judged if one.verdict != "holds" and one.item not in given.accepted]
    return {**counted(given.counts), "items": [item_of(one) for one in faults]}
