"""Choosing a recipe: its plates become layers and set-ups of the shot.

Saving a shot as a recipe of the production.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from typing import Any

from django.db import models

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.recipes.models import PlannedLayer, RecipeAnswer, ShotRecipe
from jungoptic.app.shots.add import add_layer
from jungoptic.app.shots.camera_kept import CameraKept
from jungoptic.app.shots.edit import assign_settings
from jungoptic.app.shots.models import Layer, Part, PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.app.vocabulary.own import book
from jungoptic.core.breakdown import Recipe, answers_of, expand
from jungoptic.core.errors import InputError
from jungoptic.core.plan import started
from jungoptic.core.vocabulary import SHEETS

CHOSEN, SAVED = "recipe", "saved recipe"


def recipe_called(key: str) -> Recipe:
    found = book().recipes.get(key)
    if found is None:
        raise InputError.at("key", f"There is no recipe called {key!r}.")
    return found


def choose(write: Writing, key: str, answers: Mapping[str, Any], *, fill: bool = True) -> ShotRecipe:
    """Choose one of the trade's recipes and fill the stack with its plates; a shot that has a hero keeps it.

    ``fill=False`` only says what kind of shot it is, for one that is laid out already.
    """
    recipe = recipe_called(key)
    checked = answers_of(recipe, answers)
    planned = expand(recipe, answers)
    shot = Shot.objects.get(pk=write.of_shot)
    if ShotRecipe.objects.filter(shot=shot, key=key, removed=False).exists():
        raise InputError.at("key", f"“{recipe.title}” is chosen for {shot.code} already.")
    start = len(write.changes)
    row = ShotRecipe.objects.create(shot=shot, key=key, person_id=write.person.pk)
    RecipeAnswer.objects.bulk_create(
        RecipeAnswer(recipe=row, name=name, value=value) for name, value in checked.items()
    )
    if fill:
        _fill(write, shot, recipe, row, planned)
    _chosen(write, start, row, recipe.title)
    return row


def _chosen(write: Writing, start: int, row: ShotRecipe, title: str) -> None:
    """One change in the history: its layers come and go with it."""
    del write.changes[start:]
    write.note(CHOSEN, row.pk, title, "removed", True, False)


def _fill(write: Writing, shot: Shot, recipe: Recipe, row: ShotRecipe, planned: tuple[Any, ...]) -> None:
    made: dict[str, int] = {}
    had_hero = shot.layers.filter(is_hero=True).exists()
    # The hero's plate first: the first layer of a shot is its hero, and the other set-ups are copied from its
    # own.
    fresh: list[int] = []
    for plate in sorted(planned, key=lambda one: not one.hero):
        if plate.hero and had_hero:
            hero = shot.layers.get(is_hero=True)
            if plate.set_up and hero.set_up_id:
                made[plate.set_up] = hero.set_up_id
            continue
        fields = {**plate.fields, "key_colour": plate.key_colour, "note": plate.why}
        like = made.get(plate.set_up)
        with CameraKept(shot):
            pk = add_layer(write, fields, like_set_up=like, own_set_up=like is None)
        layer = Layer.objects.select_related("set_up").get(pk=pk)
        fresh.append(pk)
        Part.objects.bulk_create(Part(layer=layer, **part.model_dump()) for part in plate.parts)
        if layer.set_up and like is None:
            made[plate.set_up] = layer.set_up.pk
            _name_set_up(layer.set_up, plate.set_up, recipe)
        PlannedLayer.objects.create(
            layer=layer,
            recipe=row,
            why=plate.why_then or plate.why,
            rank=plate.rank,
            checks=list(plate.check),
        )
    _solve(shot.pk, fresh, set(made.values()))


def _solve(shot_id: int, fresh: Collection[int], set_ups: Collection[int]) -> None:
    """What was laid out stands solved to the hero from the start, as far as the kit goes."""
    table = BenchTable(shot_with_everything(shot_id), school="measured", units="metric")
    own = {layer.set_up_id for layer in table.layers if layer.pk not in fresh}
    kits = {set_up.pk: table.kit(set_up) for set_up in table.set_ups.values() if set_up.pk in set_ups}
    start = started(table.stack, {key: kit for key, kit in kits.items() if key not in own})
    for key, values in start.set_ups.items():
        # a set-up counts from the nearest of its layers, core from the one that was solved
        behind_m = table.behind_m(table.layers[start.fronts[key]])
        if "distance_m" in values:
            values["distance_m"] = round(values["distance_m"] - behind_m, 5)
        assign_settings(table.set_ups[key], values, table)
        table.set_ups[key].save()
    for place, changes in start.layers.items():
        layer = table.layers[place]
        if layer.pk in fresh:
            Layer.objects.filter(pk=layer.pk).update(**changes)
    for key, sheet in start.backings.items():
        if key in set_ups and key not in own:
            PlacedBacking.objects.filter(set_up=key, removed=False).update(**sheet)


def _name_set_up(set_up: SetUp, name: str, recipe: Recipe) -> None:
    place = next((one for one in recipe.set_ups if one.name == name), None)
    set_up.name = name
    for field, value in (place.values if place else {}).items():
        setattr(set_up, field, value)
    set_up.save()
    if place and place.backing:
        PlacedBacking.objects.create(
            set_up=set_up, name=f"{place.backing.capitalize()} sheet", colour=SHEETS[place.backing]
        )


def set_removed(write: Writing, recipe_id: int, version: int, removed: bool) -> ShotRecipe:
    """Take a recipe back, with the layers that it planned and that nobody has filmed (the hero stays); or
    bring it and them again.
    """
    row = ShotRecipe.objects.filter(shot=write.of_shot, pk=recipe_id).select_related("own").first()
    if row is None:
        raise InputError.at("recipe", "That recipe is not one of this shot's.")
    write.refuse_unseen(CHOSEN, row, version)
    layers = Layer.objects.filter(planned__recipe=row)
    if removed:
        layers = layers.filter(is_hero=False, takes__isnull=True)
    with CameraKept(row.shot):
        layers.update(removed=removed, version=models.F("version") + 1)
    write.save(CHOSEN, row, {"removed": removed})
    return row


@takes_back(CHOSEN)
def _chosen_back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        set_removed(
            write, change.row_id, ShotRecipe.objects.get(pk=change.row_id).version, bool(change.before)
        )


_NOT_COPIED = frozenset({"id", "version"})


def copied(row: models.Model, **changes: Any) -> Any:
    """A new row with the same values, but for what is given; not saved."""
    values = {
        field.attname: getattr(row, field.attname)
        for field in row._meta.concrete_fields
        if field.name not in _NOT_COPIED
    }
    return type(row)(**{**values, **changes})


def copy_plates(source: Shot, target: Shot, *, keep_hero: bool) -> list[Layer]:
    """Copy set-ups with lamps and backings, and layers with parts.

    With ``keep_hero`` the target's hero stays and the source's is left out.
    """
    set_ups: dict[int, SetUp] = {}
    for old in source.set_ups.all():
        new = copied(old, shot_id=target.pk)
        new.save()
        set_ups[old.pk] = new
        PlacedBacking.objects.bulk_create(
            copied(sheet, set_up_id=new.pk) for sheet in old.backings.filter(removed=False)
        )
    last = target.layers.count()
    made = []
    became: dict[int | None, int | None] = {None: None}
    for at, layer in enumerate(source.layers.filter(removed=False).order_by("place")):
        if layer.is_hero and keep_hero:
            continue
        new_layer = copied(
            layer,
            shot_id=target.pk,
            place=last + at,
            set_up_id=set_ups[layer.set_up_id].pk if layer.set_up_id else None,
        )
        new_layer.save()
        Part.objects.bulk_create(copied(part, layer_id=new_layer.pk) for part in layer.parts.all())
        made.append(new_layer)
        became[layer.pk] = new_layer.pk
    PlacedLamp.objects.bulk_create(
        copied(lamp, set_up_id=set_ups[lamp.set_up_id].pk, only_for_id=became[lamp.only_for_id])
        for lamp in PlacedLamp.objects.filter(set_up__shot=source, removed=False).order_by("pk")
        if lamp.only_for_id in became
    )
    return made


def save_as_recipe(write: Writing, title: str) -> Shot:
    """Keep the shot's plates as a recipe of the production: a copy, so that later changes of the shot leave
    it alone.
    """
    title = title.strip()
    if not title:
        raise InputError.at("title", "Give the recipe a name: the others choose it by that.")
    shot = Shot.objects.select_related("production").get(pk=write.of_shot)
    own = Shot.objects.filter(production=shot.production, template=True)
    if own.filter(title=title, removed=False).exists():
        raise InputError.at("title", f"The production has a recipe called “{title}” already.")
    if not shot.layers.filter(removed=False).exists():
        raise InputError.at("title", f"{shot.code} has no plates yet: lay it out first.")
    kept = Shot.objects.create(
        production=shot.production,
        code=f"R{own.count() + 1:03d}",
        title=title,
        description=shot.description,
        length_frames=shot.length_frames,
        template=True,
        cautions=shot.cautions,
    )
    copy_plates(shot, kept, keep_hero=False)
    write.note(SAVED, kept.pk, title, "removed", True, False)
    return kept


@takes_back(SAVED)
def _saved_back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        kept = Shot.objects.get(pk=change.row_id, template=True)
        if (
            not change.before
            and Shot.objects.filter(
                production=kept.production_id, template=True, removed=False, title=kept.title
            ).exists()
        ):
            raise InputError.at("title", f"The production has another recipe called “{kept.title}” now.")
        write.save(SAVED, kept, {"removed": bool(change.before)})


def choose_own(write: Writing, template_id: int) -> ShotRecipe:
    """Fill the shot from a recipe that the production saved."""
    shot = Shot.objects.get(pk=write.of_shot)
    source = Shot.objects.filter(
        pk=template_id, production=shot.production_id, template=True, removed=False
    ).first()
    if source is None:
        raise InputError.at("own", "The production has no such recipe.")
    start = len(write.changes)
    row = ShotRecipe.objects.create(shot=shot, own=source, person_id=write.person.pk)
    for layer in copy_plates(source, shot, keep_hero=shot.layers.filter(is_hero=True).exists()):
        PlannedLayer.objects.create(layer=layer, recipe=row, why=layer.note)
    _chosen(write, start, row, source.title)
    return row
