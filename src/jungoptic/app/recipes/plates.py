"""The plates of a shot in filming order, with their checks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.recipes.models import PlannedLayer, Tick
from jungoptic.app.recipes.schemas import CheckOut, PlateOut
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.breakdown import CHECKS, FILMED_FIRST, UNSAID, WHY, WHY_PICTURE
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import PICTURES

TICKED = "check"


def checks_of(layer: Layer, planned: PlannedLayer | None) -> list[str]:
    """What is ticked off when the layer is filmed: from its recipe, else what its kind always wants."""
    if planned and planned.checks:
        return list(planned.checks)
    return list(CHECKS.get(layer.kind, ())) if layer.set_up_id else []


def filming_order(layers: Sequence[Layer], planned: Mapping[int, PlannedLayer]) -> list[Layer]:
    """The layers that are filmed, in filming order; set-ups stay together.

    As the recipe says where one planned them, a hero that it does not speak of first; else the hero's set-up
    first and by kind, each clean plate after what it cleans.
    """

    def when(layer: Layer) -> tuple[int, int, int]:
        own = planned.get(layer.pk)
        if own and own.rank is not None:
            return own.recipe_id, own.rank, layer.place
        return (
            (0, 0, layer.place)
            if layer.is_hero
            else (UNSAID, FILMED_FIRST.get(layer.kind, len(FILMED_FIRST)), layer.place)
        )

    groups: dict[int, list[Layer]] = {}
    for layer in layers:
        if layer.set_up_id and layer.kind not in PICTURES:
            groups.setdefault(layer.set_up_id, []).append(layer)
    ordered = sorted(groups.values(), key=lambda group: min(map(when, group)))
    return [layer for group in ordered for layer in sorted(group, key=when)]


def plates(table: BenchTable) -> list[PlateOut]:
    """The layers in filming order, pictures last."""
    planned = {one.layer_id: one for one in PlannedLayer.objects.filter(layer__shot=table.shot)}
    ticks: dict[int, set[str]] = {}
    for layer_id, text in Tick.objects.filter(layer__shot=table.shot).values_list("layer_id", "text"):
        ticks.setdefault(layer_id, set()).add(text)
    filmed = filming_order(table.layers, planned)
    pictures = [layer for layer in table.layers if layer not in filmed]
    found = []
    for number, layer in enumerate([*filmed, *pictures], 1):
        own = planned.get(layer.pk)
        done = ticks.get(layer.pk, set())
        found.append(
            PlateOut(
                number=number,
                layer_id=layer.pk,
                version=layer.version,
                name=layer.name,
                kind=layer.kind,
                combine=layer.combine,
                key_colour=layer.key_colour,
                hero=layer.is_hero,
                set_up=layer.set_up.name if layer.set_up and layer.kind not in PICTURES else "",
                set_up_id=layer.set_up_id,
                why=own.why if own and own.why else WHY.get(layer.kind, WHY_PICTURE),
                note=layer.note,
                scale=layer.scale,
                checks=[CheckOut(text=text, done=text in done) for text in checks_of(layer, own)],
                shot=bool(table.circled(layer)),
            )
        )
    return found


def tick(write: Writing, layer_id: int, version: int, text: str, done: bool) -> None:
    """Tick a check of a plate off, or not any more."""
    layer = Layer.objects.select_related("planned").get(pk=layer_id)
    write.refuse_unseen("layers", layer, version)
    if text not in checks_of(layer, getattr(layer, "planned", None)):
        raise InputError.at("text", "This plate has no such check.")
    _put(write, layer, text, done)


def _put(write: Writing, layer: Layer, text: str, done: bool) -> None:
    ticks = Tick.objects.filter(layer=layer, text=text)
    write.note(TICKED, layer.pk, layer.name, text, ticks.exists(), done)
    if done:
        Tick.objects.get_or_create(layer=layer, text=text, defaults={"person_id": write.person.pk})
    else:
        ticks.delete()


@takes_back(TICKED)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        _put(write, Layer.objects.get(pk=change.row_id), change.field, bool(change.before))
