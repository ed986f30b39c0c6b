"""Accepting a verdict with a reason, and taking that back."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.shots.models import Acceptance, Layer
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError

KIND = "acceptance"


def accept(write: Writing, layer_id: int, version: int, item: str, reason: str, *, as_shot: bool) -> None:
    """Accept one verdict of a layer as it stands now, with a reason.

    It comes back when its amount changes.
    """
    if not reason.strip():
        raise InputError.at("reason", "Say why it may stay: the crew reads it on the card.")
    layer = _seen(write, layer_id, version)
    table = BenchTable(
        shot_with_everything(write.of_shot),
        school="measured",
        units="metric",
        basis="shot" if as_shot else "planned",
    )
    judged = next((one for one in table.judged if one.layer.pk == layer_id), None)
    found = next((one for one in judged.items if one.item == item), None) if judged else None
    if found is None:
        raise InputError.at("item", "This layer has no such item.")
    _put(write, layer, item, {"amount": found.amount, "reason": reason.strip()})


def withdraw(write: Writing, layer_id: int, version: int, item: str) -> None:
    """Judge it again. What was said stays in the history."""
    _put(write, _seen(write, layer_id, version), item, None)


def _seen(write: Writing, layer_id: int, version: int) -> Layer:
    layer = Layer.objects.filter(shot=write.of_shot, pk=layer_id).first()
    if layer is None:
        raise InputError.at("layer_id", "That layer is not one of this shot's.")
    write.refuse_unseen("layers", layer, version)
    return layer


def _put(write: Writing, layer: Layer, item: str, said: dict[str, object] | None) -> None:
    standing = Acceptance.objects.filter(layer=layer, item=item, withdrawn=False).first()
    before = {"amount": standing.amount, "reason": standing.reason} if standing else None
    if standing:
        standing.withdrawn = True
        standing.save(update_fields=["withdrawn"])
    if said:
        Acceptance.objects.create(layer=layer, item=item, person_id=write.person.pk, **said)
    write.note(KIND, layer.pk, layer.name, item, before, said)


@takes_back(KIND)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        _put(write, Layer.objects.get(pk=change.row_id), change.field, change.before)
