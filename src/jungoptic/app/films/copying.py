"""What another production has, in a new one: its kit, its recipes, its rates, how it is judged."""

from __future__ import annotations

from collections.abc import Callable, Set
from typing import Any, Literal

from jungoptic.app.costs.models import Figures
from jungoptic.app.kit.models import Camera, Filter, Gear, Lamp, Lens, RecordingMode, Support
from jungoptic.app.productions.models import Production, ToleranceChange
from jungoptic.app.recipes.choosing import copied, copy_plates
from jungoptic.app.shots.models import Layer, SetUp, Shot
from jungoptic.core.match import Judging

What = Literal["kit", "recipes", "figures", "judging"]
_ROOM = ("backings", "stage_length_m", "stage_width_m", "beams_m")
_Became = dict[int, int]


def copy_into(target: Production, source: Production, what: set[What], said: Set[str]) -> None:
    """Recipes bring the kit with them: their set-ups stand on it. What was ``said`` of the room stays."""
    if what & {"kit", "recipes"}:
        lenses, modes = _kit(target, source)
        _take_over(target, source, tuple(name for name in _ROOM if name not in said))
        if "recipes" in what:
            _recipes(target, source, lenses, modes)
    if "figures" in what:
        for row in Figures.objects.filter(production=source):
            copied(row, production_id=target.pk).save()
    if "judging" in what:
        _take_over(target, source, tuple(Judging.model_fields))
        ToleranceChange.objects.bulk_create(
            copied(row, production_id=target.pk) for row in source.tolerances.all()
        )


def _take_over(target: Production, source: Production, names: tuple[str, ...]) -> None:
    for name in names:
        setattr(target, name, getattr(source, name))
    target.save(update_fields=names)


def _all(rows: Any, **changes: Callable[[Any], Any] | int) -> _Became:
    """Copies of rows, and which became which."""
    became: _Became = {}
    for row in rows:
        new = copied(
            row, **{name: value(row) if callable(value) else value for name, value in changes.items()}
        )
        new.save()
        became[row.pk] = new.pk
    return became


def _kit(target: Production, source: Production) -> tuple[_Became, _Became]:
    cameras = _all(Camera.objects.filter(production=source), production_id=target.pk)
    modes = _all(
        RecordingMode.objects.filter(camera__production=source).order_by("pk"),
        camera_id=lambda row: cameras[row.camera_id],
    )
    lenses: _Became = {}

    def bare_lens(row: Lens) -> int | None:
        return lenses[row.on_id] if row.on_id else None

    for bare in (True, False):  # what is put on comes after what it is put on
        lenses |= _all(
            Lens.objects.filter(production=source, on__isnull=bare).order_by("pk"),
            production_id=target.pk,
            camera_id=lambda row: cameras[row.camera_id] if row.camera_id else None,
            on_id=bare_lens,
        )
    for model in (Lamp, Support, Filter, Gear):
        _all(model.objects.filter(production=source).order_by("pk"), production_id=target.pk)
    return lenses, modes


def _recipes(target: Production, source: Production, lenses: _Became, modes: _Became) -> None:
    for recipe in Shot.objects.filter(production=source, template=True, removed=False):
        new = copied(recipe, production_id=target.pk, place_id=None)
        new.save()
        copy_plates(recipe, new, keep_hero=False)
        for set_up in SetUp.objects.filter(shot=new):
            set_up.lens_id, set_up.mode_id = lenses[set_up.lens_id], modes[set_up.mode_id]
            set_up.save(update_fields=["lens", "mode"])
        Layer.objects.filter(shot=new).update(picture=None)  # a file belongs to one production
