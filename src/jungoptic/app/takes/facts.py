"""What is kept with a take so that nothing that happens later can change it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from jungoptic.app.shots.edit import MODE_NAMES, check_settings, with_whole_mode
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.plan import Draft
from jungoptic.app.shots.records import with_kit
from jungoptic.app.takes.models import Judging, Take, TakeVerdict
from jungoptic.app.takes.table import BenchTable, accepted_of, shot_with_everything
from jungoptic.core import match as core
from jungoptic.core.match import Facts, judge_facts


def table_of(shot_id: int, draft: Draft | None = None) -> BenchTable:
    """The shot as it stands in the database, or as ``draft`` says that it stood."""
    return BenchTable(
        shot_with_everything(shot_id, removed_too=draft is not None),
        school="measured",
        units="metric",
        draft=draft,
    )


def settings_of(table: BenchTable, layer: Layer, said: Mapping[str, Any]) -> core.SetUp:
    """The planned settings of the layer's set-up as the table has them, with what was really different;
    checked by core and the kit.
    """
    assert layer.set_up is not None
    kit = table.kit(layer.set_up)
    planned = {**layer.set_up.values(), **table.draft.set_ups.get(layer.set_up.pk, {})}
    # Two modes may share a width: one that was shown and left alone stays the planned one.
    different = {
        name: value for name, value in said.items() if name not in MODE_NAMES or value != planned[name]
    }
    checked: core.SetUp = core.SetUp.read(with_kit(kit, {**planned, **with_whole_mode(kit, different)}))
    check_settings(kit, checked)
    return checked


def facts_of(table: BenchTable, layer: Layer, take: Take) -> Facts:
    """Everything that a take is judged with: a hero's own against the hero's plan."""
    against = table.before_any_hero_take() if layer.is_hero else table
    return Facts(
        stack=against.stack_with(layer, take),
        position=against.layers.index(layer),
        planned=against.set_up_record(layer),
        tolerances=against.tolerances,
        kit=against.kit(take),
        errors=against.errors,
    )


def keep_facts(table: BenchTable, layer: Layer, take: Take) -> Facts:
    """Put everything that the take is judged with on the row, which has its settings already."""
    facts = facts_of(table, layer, take)
    take.facts, take.filmed, take.planned = (
        facts.to_json(),
        facts.filmed.model_dump(mode="json"),
        facts.planned.model_dump(mode="json"),
    )
    return facts


def give_verdicts(
    take: Take, facts: Facts, layer: Layer, *, hero: core.SetUp | None = None, against: Take | None = None
) -> Judging:
    """Judge the take by its own facts and keep what was said, in both systems of units."""
    metric = judge_facts(facts, hero=hero)
    imperial = {one.item: one for one in judge_facts(facts, hero=hero, units="imperial")}
    accepted = accepted_of(layer, metric)
    judging = Judging.objects.create(take=take, against=against)
    TakeVerdict.objects.bulk_create(
        TakeVerdict(
            judging=judging,
            item=one.item,
            label=one.label,
            amount=one.amount,
            unit=one.unit,
            holds=one.holds,
            tight=one.tight,
            verdict=one.verdict,
            covered_holds=one.other_holds,
            covered_verdict=one.other_verdict,
            counts=not one.informs and one.item not in accepted,
            where_metric=one.where,
            where_imperial=imperial[one.item].where,
            sentence_metric=one.sentence,
            sentence_imperial=imperial[one.item].sentence,
            to_do_metric=one.to_do,
            to_do_imperial=imperial[one.item].to_do,
        )
        for one in metric
    )
    return judging


def complete_old_takes() -> int:
    """Takes from before facts were kept get them from today's plan, and say so.

    Returns how many there were.
    """
    old = list(Take.objects.filter(facts__isnull=True).select_related("layer", "lens", "mode__camera"))
    for take in old:
        table = table_of(
            take.layer.shot_id, Draft(layers={take.layer_id: {"removed": False}})
        )  # a layer may be out of the shot by now
        layer = next(one for one in table.layers if one.pk == take.layer_id)
        facts = keep_facts(table, layer, take)
        take.filled = Take.Filled.LATER
        with transaction.atomic():
            take.save(update_fields=["facts", "filmed", "planned", "filled"])
            give_verdicts(take, facts, layer)
    return len(old)
