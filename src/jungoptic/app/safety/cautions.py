"""Cautions of a shot: what raises them, who signed them off, and whether the shot may be called ready."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.app.vocabulary.own import book
from jungoptic.core.breakdown import (
    Raised,
    open_cautions,
    plan_reasons,
    raised_cautions,
    who_reasons,
    word_reasons,
)
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import IN_SHOT

SIGNED, BY_HAND, READY, WHO = "signature", "cautions", "ready", "who"


def hazards(table: BenchTable) -> tuple[Raised, ...]:
    """Everything that raises a caution for this shot: by hand, who is in it, its words, recipe, place, kit
    and plan.
    """
    shot = table.shot
    reasons = [(key, "said by hand") for key in shot.cautions]
    for recipe in ShotRecipe.objects.filter(shot=shot, removed=False).select_related("own"):
        if known := book().recipes.get(recipe.key):
            reasons += [(key, f"recipe: {recipe.name}") for key in known.cautions]
        elif recipe.own:
            reasons += [(key, f"recipe: {recipe.name}") for key in recipe.own.cautions]
    if shot.place:
        reasons += [(key, f"place: {shot.place.name}") for key in shot.place.cautions]
    kept: dict[str, list[str]] | None = shot.production.__dict__.get("_lamp_cautions")
    if kept is None:
        kept = shot.production.__dict__["_lamp_cautions"] = {
            lamp.name: lamp.cautions for lamp in shot.production.lamps.all()
        }
    used = {layer.set_up_id for layer in table.layers if layer.set_up_id}
    for set_up in used:
        for lamp in table.lamps_of(set_up):
            reasons += [(key, f"kit: {lamp.name}") for key in kept.get(lamp.name, ())]
    reasons += plan_reasons(table.stack if table.hero else None)
    reasons += who_reasons(shot.who)
    reasons += word_reasons(_texts(table), book().cautions)
    return raised_cautions(reasons, book().cautions)


def _texts(table: BenchTable) -> dict[str, str]:
    """What is written of a shot: what happens in it, where, and what its layers are called."""
    shot = table.shot
    written_down = {
        "title": shot.title,
        "description": shot.description,
        "names of its layers": ", ".join(layer.name for layer in table.layers),
    }
    return written_down | ({"place's name": shot.place.name} if shot.place else {})


def signatures(shot: Shot) -> dict[str, SignOff]:
    return {
        one.caution: one
        for one in SignOff.objects.filter(shot=shot, withdrawn=False).select_related("person")
    }


def open_hazards(table: BenchTable) -> tuple[Raised, ...]:
    return open_cautions(hazards(table), signatures(table.shot))


def sign(write: Writing, caution: str, note: str) -> None:
    """Sign a caution off: everybody who must be asked was asked, and ``note`` says who and what was
    agreed.
    """
    table = BenchTable(shot_with_everything(write.of_shot), school="measured", units="metric")
    if caution not in {one.caution.key for one in hazards(table)}:
        raise InputError.at("caution", "Nothing raises this caution in this shot.")
    if not note.strip():
        raise InputError.at("note", f"Say who was asked and what was agreed: {book().cautions[caution].ask}")
    _put(write, table.shot, caution, note.strip())


def take_back(write: Writing, caution: str) -> None:
    """Open it again; a shot that was ready is not any more. What was signed stays in the history."""
    _put(write, Shot.objects.get(pk=write.of_shot), caution, None)


def _put(write: Writing, shot: Shot, caution: str, note: str | None) -> None:
    before = SignOff.objects.filter(shot=shot, caution=caution, withdrawn=False).first()
    if before:
        before.withdrawn = True
        before.save(update_fields=["withdrawn"])
    if not note and shot.ready:
        write.save(READY, shot, {"ready": False})
    if note:
        SignOff.objects.create(shot=shot, caution=caution, note=note, person_id=write.person.pk)
    write.note(SIGNED, shot.pk, shot.code, caution, before.note if before else None, note)


def say_cautions(write: Writing, keys: Sequence[str]) -> int:
    """The cautions that somebody adds by hand. Returns the shot's version since."""
    shot = Shot.objects.get(pk=write.of_shot)
    known = {*book().cautions, *shot.cautions}  # what was said once stays, also where its file is gone
    unknown = [key for key in keys if key not in known]
    if unknown:
        raise InputError.at("cautions", f"There is no caution called {unknown[0]!r}.")
    write.save(BY_HAND, shot, {"cautions": list(dict.fromkeys(keys))})
    return shot.version


def say_who(write: Writing, who: Sequence[str]) -> int:
    """Who is in the shot: nobody has said it while this is empty. Returns the shot's version since."""
    shot = Shot.objects.get(pk=write.of_shot)
    strange = [key for key in who if key not in IN_SHOT]
    if strange:
        raise InputError.at("who", f"Who is in it must be of {', '.join(IN_SHOT)}; {strange[0]!r} was given.")
    if "nobody" in who and len(set(who)) > 1:
        raise InputError.at("who", "Somebody is in the shot or nobody is: say one of the two.")
    write.save(WHO, shot, {"who": list(dict.fromkeys(who))})
    return shot.version


@takes_back(WHO)
def _who_back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        say_who(write, change.before or ())


@takes_back(SIGNED)
def _signed_back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        _put(write, Shot.objects.get(pk=change.row_id), change.field, change.before)


@takes_back(BY_HAND)
def _by_hand_back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        say_cautions(write, change.before or ())
