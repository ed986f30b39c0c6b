"""One shot broken down: board, recipes, plates in filming order with their checks, what it costs each way, cautions."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.db import transaction

from jungoptic.app.breakdown import costing, safety
from jungoptic.app.breakdown.models import JOB_FIELDS, Board, Costing, PlannedLayer, ShotRecipe, Tick
from jungoptic.app.people.models import Person
from jungoptic.app.shots.bench import BenchTable
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.core.breakdown.costs import CRAFTS, WAYS, Job, Option
from jungoptic.core.breakdown.filming import CHECKS, FILMED_FIRST, UNSAID, WHY, WHY_PICTURE
from jungoptic.core.breakdown.recipe import Recipe
from jungoptic.core.breakdown.recipes import HABITS, RECIPES
from jungoptic.core.cautions import CAUTIONS, DEFERENCE
from jungoptic.core.errors import InputError
from jungoptic.core.handbook.cards import record_fields
from jungoptic.core.match.stack import PICTURES


def recipe_out(recipe: Recipe) -> dict[str, Any]:
    return {
        "key": recipe.key, "number": recipe.number, "title": recipe.title, "audience": recipe.audience, "sees": list(recipe.sees), "needs": list(recipe.needs),
        "asks": [asdict(ask) for ask in recipe.asks], "plates": [{"name": one.name, "kind": one.kind, "combine": one.combine, "why": one.why, "hero": one.hero} for one in recipe.plates],
        "order": [{"what": what, "why": why} for what, why in recipe.order], "wrong": [{"what": what, "seen": seen} for what, seen in recipe.wrong],
        "cautions": [CAUTIONS[key].title for key in recipe.cautions], "references": list(recipe.references), "schools": recipe.schools, "lock_off": recipe.lock_off,
        "ways": [WAYS[key].name for key in recipe.ways],
    }  # fmt: skip


def checks_of(layer: Layer, planned: PlannedLayer | None) -> list[str]:
    """What is ticked off when the layer is filmed: from its recipe, else what its kind always wants."""
    if planned and planned.checks:
        return list(planned.checks)
    return list(CHECKS.get(layer.kind, ())) if layer.set_up_id else []


def plates(table: BenchTable) -> list[dict[str, Any]]:
    """The layers in filming order, pictures last. Set-ups stay together.

    As the recipe says where one planned them, a hero that it does not speak of first; else the hero's set-up first and by kind,
    each clean plate after what it cleans.
    """
    planned = {one.layer_id: one for one in PlannedLayer.objects.filter(layer__shot=table.shot)}
    ticks: dict[int, set[str]] = {}
    for layer_id, text in Tick.objects.filter(layer__shot=table.shot).values_list("layer_id", "text"):
        ticks.setdefault(layer_id, set()).add(text)

    def when(layer: Layer) -> tuple[int, int, int]:
        own = planned.get(layer.pk)
        if own and own.rank is not None:
            return own.recipe_id, own.rank, layer.place
        return (0, 0, layer.place) if layer.is_hero else (UNSAID, FILMED_FIRST.get(layer.kind, len(FILMED_FIRST)), layer.place)

    groups: dict[int, list[Layer]] = {}
    for layer in table.layers:
        if layer.set_up_id and layer.kind not in PICTURES:
            groups.setdefault(layer.set_up_id, []).append(layer)
    ordered = sorted(groups.values(), key=lambda group: min(map(when, group)))
    filmed = [layer for group in ordered for layer in sorted(group, key=when)]
    pictures = [layer for layer in table.layers if layer not in filmed]
    found = []
    for number, layer in enumerate([*filmed, *pictures], 1):
        own = planned.get(layer.pk)
        done = ticks.get(layer.pk, set())
        found.append(
            {
                "number": number, "layer_id": layer.pk, "name": layer.name, "kind": layer.kind, "combine": layer.combine, "key_colour": layer.key_colour, "hero": layer.is_hero,
                "set_up": layer.set_up.name if layer.set_up and layer.kind not in PICTURES else "", "set_up_id": layer.set_up_id, "why": own.why if own and own.why else WHY.get(layer.kind, WHY_PICTURE),
                "note": layer.note, "scale": layer.scale, "checks": [{"text": text, "done": text in done} for text in checks_of(layer, own)],
                "shot": bool(table.circled(layer)),
            }
        )  # fmt: skip
    return found


def tick(layer_id: int, person: Person, text: str, done: bool) -> None:
    layer = Layer.objects.select_related("planned").get(pk=layer_id)
    if text not in checks_of(layer, getattr(layer, "planned", None)):
        raise InputError.at("text", "This plate has no such check.")
    with transaction.atomic():
        if done:
            Tick.objects.get_or_create(layer=layer, text=text, defaults={"person": person})
        else:
            Tick.objects.filter(layer=layer, text=text).delete()


def option_out(option: Option, chosen: str) -> dict[str, Any]:
    return {
        "key": option.key, "name": option.name, "school": option.school, "layers": list(option.layers), "hours": option.hours, "days": option.days, "chosen": option.key == chosen,
        "crafts": [asdict(one) for one in option.crafts], "wanted": [asdict(one) for one in option.wanted], "cautions": [CAUTIONS[key].title for key in option.cautions],
        "shows": list(option.shows), "savings": [asdict(one) for one in option.savings],
    }  # fmt: skip


def _recipe_row(row: ShotRecipe) -> dict[str, Any]:
    core = RECIPES.get(row.key)
    return {
        "id": row.pk, "key": row.key, "title": core.title if core else row.own.title if row.own else row.key, "answers": {one.name: one.value for one in row.answers.all()},
        "recipe": recipe_out(core) if core else None,
    }  # fmt: skip


def broken_down(table: BenchTable, role: str) -> dict[str, Any]:
    """Everything that the break-down page of a shot shows beside its board."""
    shot = table.shot
    board = Board.objects.filter(shot=shot, current=True).defer("picture").first()
    costs: Costing | None = getattr(shot, "costing", None)
    signed = safety.signatures(shot)
    every = safety.hazards(table)
    rows = ShotRecipe.objects.filter(shot=shot, removed=False).select_related("own").prefetch_related("answers")
    own = Shot.objects.filter(production=shot.production_id, template=True)
    open_count = sum(one.caution.key not in signed for one in every)
    fields = {str(one["name"]): one for one in map(_as_dict, record_fields(Job))}
    return {
        "shot_id": shot.pk, "version": shot.version, "role": role, "production_id": shot.production_id, "ready": shot.ready and not open_count,
        "board": {"id": board.pk, "name": board.name, "width_px": board.width_px, "height_px": board.height_px} if board else None,
        "recipes": [_recipe_row(row) for row in rows], "own_recipes": [{"id": one.pk, "title": one.title, "description": one.description} for one in own],
        "plates": plates(table), "habits": list(HABITS),
        "costing": {
            "chosen": costs.chosen if costs else "", "job": costing.job_of(table).model_dump(), "derived": costing.derived_job(table).model_dump(),
            "said": [name for name in JOB_FIELDS if costs and getattr(costs, name) not in (None, "")], "options": [option_out(one, costs.chosen if costs else "") for one in costing.priced(table)] if table.layers else [],
            "fields": [fields[name] for name in JOB_FIELDS], "crafts": list(CRAFTS), "fitting": list(costing.recipe_ways(shot)), "hours_spent": shot.hours_spent,
        },
        "hazards": [
            {
                "key": one.caution.key, "title": one.caution.title, "text": one.caution.text, "ask": one.caution.ask, "safer": one.caution.safer, "by": list(one.by),
                "signed": {"by": signed[one.caution.key].person.shown_name, "at": signed[one.caution.key].at, "note": signed[one.caution.key].note} if one.caution.key in signed else None,
            }
            for one in every
        ],
        "cautions_by_hand": list(shot.cautions), "all_cautions": [{"key": key, "title": one.title} for key, one in CAUTIONS.items()], "deference": DEFERENCE,
    }  # fmt: skip


def _as_dict(field: Any) -> dict[str, Any]:
    return field if isinstance(field, dict) else asdict(field) if hasattr(field, "__dataclass_fields__") else field.model_dump()
