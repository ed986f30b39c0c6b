"""Accepting a verdict with a reason, and taking that back."""

from __future__ import annotations

from django.db import transaction

from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Acceptance, Shot, touch
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError


def accept(shot_id: int, person: Person, layer_id: int, item: str, reason: str, *, as_shot: bool) -> None:
    """Accept one verdict of a layer as it stands now, with a reason. It comes back when its amount changes."""
    if not reason.strip():
        raise InputError.at("reason", "Say why it may stay: the crew reads it on the card.")
    with transaction.atomic():
        Shot.objects.select_for_update().get(pk=shot_id)
        table = BenchTable(shot_with_everything(shot_id), school="measured", units="metric", basis="shot" if as_shot else "planned")
        judged = next((one for one in table.judged if one.layer.pk == layer_id), None)
        found = next((one for one in judged.items if one.item == item), None) if judged else None
        if found is None:
            raise InputError.at("item", "This layer has no such item.")
        Acceptance.objects.filter(layer_id=layer_id, item=item, withdrawn=False).update(withdrawn=True)
        Acceptance.objects.create(layer_id=layer_id, item=item, amount=found.amount, reason=reason.strip(), person=person)
        touch(shot_id)


def withdraw(shot_id: int, layer_id: int, item: str) -> None:
    """Judge it again. What was said stays in the history."""
    Acceptance.objects.filter(layer_id=layer_id, layer__shot=shot_id, item=item, withdrawn=False).update(withdrawn=True)
    touch(shot_id)
