"""Cautions of a shot: what raises them, who signed them off, and whether the shot may be called ready."""

from __future__ import annotations

from django.db import transaction

from jungoptic.app.people.models import Person
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.edit import remember
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.breakdown.hazards import Raised, from_plan, raised, still_open
from jungoptic.core.breakdown.recipes import RECIPES
from jungoptic.core.cautions import CAUTIONS
from jungoptic.core.errors import InputError


def hazards(table: BenchTable) -> tuple[Raised, ...]:
    """Everything that raises a caution for this shot: by hand, recipe, place, kit and plan."""
    shot = table.shot
    reasons = [(key, "said by hand") for key in shot.cautions]
    for recipe in ShotRecipe.objects.filter(shot=shot, removed=False).select_related("own"):
        if recipe.key in RECIPES:
            reasons += [(key, f"recipe: {RECIPES[recipe.key].title}") for key in RECIPES[recipe.key].cautions]
        elif recipe.own:
            reasons += [(key, f"recipe: {recipe.own.title}") for key in recipe.own.cautions]
    if shot.place:
        reasons += [(key, f"place: {shot.place.name}") for key in shot.place.cautions]
    kept: dict[str, list[str]] | None = shot.production.__dict__.get("_lamp_cautions")
    if kept is None:
        kept = shot.production.__dict__["_lamp_cautions"] = {lamp.name: lamp.cautions for lamp in shot.production.lamps.all()}
    used = {layer.set_up_id for layer in table.layers if layer.set_up_id}
    for set_up in used:
        for lamp in table.lamps_of(set_up):
            reasons += [(key, f"kit: {lamp.name}") for key in kept.get(lamp.name, ())]
    reasons += from_plan(table.stack if table.hero else None)
    return raised(reasons)


def signatures(shot: Shot) -> dict[str, SignOff]:
    return {one.caution: one for one in SignOff.objects.filter(shot=shot, withdrawn=False).select_related("person")}


def open_hazards(table: BenchTable) -> tuple[Raised, ...]:
    return still_open(hazards(table), signatures(table.shot))


def sign(table: BenchTable, person: Person, caution: str, note: str) -> None:
    """Sign a caution off: everybody who must be asked was asked, and ``note`` says who and what was agreed."""
    if caution not in {one.caution.key for one in hazards(table)}:
        raise InputError.at("caution", "Nothing raises this caution in this shot.")
    if not note.strip():
        raise InputError.at("note", f"Say who was asked and what was agreed: {CAUTIONS[caution].ask}")
    with transaction.atomic():
        shot = Shot.objects.select_for_update().get(pk=table.shot.pk)
        SignOff.objects.filter(shot=shot, caution=caution, withdrawn=False).update(withdrawn=True)
        SignOff.objects.create(shot=shot, caution=caution, note=note.strip(), person=person)
        remember(shot, person, "caution", shot.pk, {}, {caution: f"signed: {note.strip()}"})


def take_back(shot_id: int, person: Person, caution: str) -> None:
    """Open it again; a shot that was ready is not any more. What was signed stays in the history."""
    with transaction.atomic():
        shot = Shot.objects.select_for_update().get(pk=shot_id)
        for row in SignOff.objects.filter(shot=shot, caution=caution, withdrawn=False):
            row.withdrawn = True
            row.save(update_fields=["withdrawn"])
        Shot.objects.filter(pk=shot_id).update(ready=False)
        remember(shot, person, "caution", shot.pk, {}, {caution: "taken back"})


def say_cautions(shot_id: int, person: Person, keys: list[str]) -> None:
    """The cautions that somebody adds by hand."""
    unknown = [key for key in keys if key not in CAUTIONS]
    if unknown:
        raise InputError.at("cautions", f"There is no caution called {unknown[0]!r}.")
    with transaction.atomic():
        shot = Shot.objects.select_for_update().get(pk=shot_id)
        before = list(shot.cautions)
        Shot.objects.filter(pk=shot_id).update(cautions=list(dict.fromkeys(keys)), version=shot.version + 1)
        remember(shot, person, "shot", shot.pk, {"cautions": before}, {"cautions": keys})
