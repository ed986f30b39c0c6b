"""Changing a shot: checked by core and the kit, versioned, and kept in the history. All or nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import nullcontext
from dataclasses import dataclass, field
from typing import Any

from django.db import models

from jungoptic.app.base.edits import Edit, Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.kit.models import RecordingMode
from jungoptic.app.kit.reading import lens_row
from jungoptic.app.shots import records
from jungoptic.app.shots.camera import SETTING_FIELDS
from jungoptic.app.shots.camera_kept import CameraKept
from jungoptic.app.shots.models import (
    Layer,
    LayerPicture,
    Line,
    Part,
    PlacedBacking,
    PlacedLamp,
    SetUp,
    Shot,
)
from jungoptic.app.shots.plan import NOT_OF_THE_RECORD, Draft, PlanTable, planned_shot
from jungoptic.core import light
from jungoptic.core import match as core
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.kit import Kit, check_against_kit
from jungoptic.core.match import BoardLine
from jungoptic.core.vocabulary import PASSES

MODE_NAMES = ("recorded_width_px", "recorded_height_px", "gate_width_mm", "gate_height_mm")
SET_UP_FIELDS = frozenset({*SETTING_FIELDS, *MODE_NAMES, "focal_length_mm", "references"})
LAYER_FIELDS = frozenset({*core.Layer.model_fields, *NOT_OF_THE_RECORD})
PARTS = "parts"
LAMP_FIELDS = frozenset({*light.PlacedLamp.model_fields, "only_for_id", "removed"})
BACKING_FIELDS = frozenset({*light.Backing.model_fields, "removed"})
LINE_FIELDS = frozenset({*BoardLine.model_fields, "layer_id", "removed"} - {"layer", "kind"})
KEY_COLOURS = ("", "green", "blue", "black", "white")
Edits = Mapping[int, Edit]


@dataclass(frozen=True)
class EditSet:
    """Everything that is changed together."""

    set_ups: Edits = field(default_factory=dict)
    layers: Edits = field(default_factory=dict)
    lamps: Edits = field(default_factory=dict)
    backings: Edits = field(default_factory=dict)
    lines: Edits = field(default_factory=dict)
    shot: Edits = field(default_factory=dict)

    def kinds(self) -> Iterable[tuple[str, Edits]]:
        return ((name, getattr(self, name)) for name in KINDS)


@dataclass(frozen=True)
class Kind:
    """One kind of row: what may be changed, how a row is read and found, and what it is called."""

    word: str
    model: Any
    fields: frozenset[str]
    rows: Callable[[Shot], models.QuerySet[Any]]


KINDS: dict[str, Kind] = {
    "set_ups": Kind(
        "set-up",
        SetUp,
        SET_UP_FIELDS,
        lambda shot: SetUp.objects.filter(shot=shot).select_related("lens", "mode__camera"),
    ),
    "layers": Kind("layer", Layer, LAYER_FIELDS, lambda shot: Layer.objects.filter(shot=shot)),
    "lamps": Kind("lamp", PlacedLamp, LAMP_FIELDS, lambda shot: PlacedLamp.objects.filter(set_up__shot=shot)),
    "backings": Kind(
        "backing", PlacedBacking, BACKING_FIELDS, lambda shot: PlacedBacking.objects.filter(set_up__shot=shot)
    ),
    "lines": Kind("line", Line, LINE_FIELDS, lambda shot: Line.objects.filter(shot=shot)),
    "shot": Kind("shot", Shot, frozenset(records.SHOT_FIELDS), lambda shot: Shot.objects.filter(pk=shot.pk)),
}


def change_shot(write: Writing, edits: EditSet, shot_id: int | None = None) -> None:
    """Save the edits, or none: raises InputError (what cannot be) or ConflictError (what was not seen).

    The shot is the write's own, unless said.
    """
    shot = Shot.objects.get(pk=shot_id or write.of_shot)
    stored = {
        name: {row.pk: row for row in KINDS[name].rows(shot).filter(pk__in=list(rows))}
        for name, rows in edits.kinds()
        if rows
    }
    for name, rows in edits.kinds():
        _refuse_unknown(KINDS[name], rows, stored.get(name, {}))
        for pk, edit in rows.items():
            write.refuse_unseen(name, stored[name][pk], edit.version)
    _refuse_structure(shot, edits.layers)
    for edit in edits.lines.values():
        refuse_strange_layer(shot, edit.changes.get("layer_id"))
    for pk, edit in edits.lamps.items():
        refuse_strange_pass(stored["lamps"][pk].set_up_id, edit.changes.get("only_for_id"))
    table = PlanTable(
        planned_shot(shot.pk),
        Draft(**{name: {pk: edit.changes for pk, edit in rows.items()} for name, rows in edits.kinds()}),
    )
    _check(table, edits)
    comes_or_goes = any("removed" in edit.changes for edit in edits.layers.values())
    with CameraKept(shot) if comes_or_goes else nullcontext():
        for name, rows in edits.kinds():
            for pk, edit in rows.items():
                if name == "layers" and "name" in edit.changes:
                    _rename_in_passes(write, shot, stored[name][pk], edits.layers, edit.changes["name"])
                _save(write, name, stored[name][pk], edit.changes, table)
    if any({"near_m", "removed", "depth_m"} & set(edit.changes) for edit in edits.layers.values()):
        order_by_distance(shot)


def _rename_in_passes(write: Writing, shot: Shot, layer: Layer, edits: Edits, name: Any) -> None:
    """Passes know the layer that they belong to by its name: they follow when it is called otherwise."""
    passes = shot.layers.filter(pass_of__iexact=layer.name).exclude(pk__in=list(edits))
    for row in passes if str(name).strip() else ():
        write.save("layers", row, {"pass_of": str(name).strip()})


@takes_back("set_ups", "layers", "lamps", "backings", "lines")
def _back(write: Writing, changes: Sequence[Change]) -> None:
    """Rows of shots as they were, checked as any change of them is."""
    fields = {
        kind: as_before([one for one in changes if one.kind == kind])
        for kind in {one.kind for one in changes}
    }
    versions = {
        kind: dict(KINDS[kind].model.objects.filter(pk__in=list(rows)).values_list("pk", "version"))
        for kind, rows in fields.items()
    }
    change_shot(
        write,
        EditSet(
            **{
                kind: {pk: Edit(versions[kind][pk], values) for pk, values in rows.items()}
                for kind, rows in fields.items()
            }
        ),
    )


def _refuse_unknown(kind: Kind, edits: Edits, owned: Mapping[int, Any]) -> None:
    problems = [FieldProblem("", f"This shot has no {kind.word} {pk}.") for pk in edits if pk not in owned]
    problems += [
        FieldProblem(name, f"A {kind.word} has no field called “{name}” that can be changed.")
        for edit in edits.values()
        for name in edit.changes
        if name not in kind.fields
    ]
    if problems:
        raise InputError(*problems)


def _refuse_structure(shot: Shot, edits: Edits) -> None:
    """What holds the stack together: the hero stays, and a layer's set-up is one of this shot."""
    for pk, edit in edits.items():
        if edit.changes.get("removed") and Layer.objects.filter(pk=pk, is_hero=True).exists():
            raise InputError.at(
                "removed",
                "The hero is what all the others are held against: make another layer the hero first.",
            )
        if "set_up_id" in edit.changes:
            wanted = edit.changes["set_up_id"]
            if (
                wanted is not None
                and not SetUp.objects.filter(pk=wanted if isinstance(wanted, int) else 0, shot=shot).exists()
            ):
                raise InputError.at("set_up_id", "That set-up is not one of this shot's.")
        picture = edit.changes.get("picture_id")
        if (
            picture is not None
            and not LayerPicture.objects.filter(
                pk=picture if isinstance(picture, int) else 0, layer=pk
            ).exists()
        ):
            raise InputError.at("picture_id", "That picture is not one of this layer's.")
        if edit.changes.get("key_colour", "") not in KEY_COLOURS:
            raise InputError.at(
                "key_colour", f"Key colour must be one of {', '.join(KEY_COLOURS[1:])}, or none."
            )


def refuse_strange_layer(shot: Shot, layer_id: Any) -> None:
    """A line speaks of a layer of its own shot, or of none."""
    if (
        layer_id is not None
        and not Layer.objects.filter(pk=layer_id if isinstance(layer_id, int) else 0, shot=shot).exists()
    ):
        raise InputError.at("layer_id", "That layer is not one of this shot's.")


def refuse_strange_pass(set_up_id: int, layer_id: Any) -> None:
    """A lamp is lit for a pass that its own set-up films, or for all."""
    if layer_id is None:
        return
    passes = Layer.objects.filter(set_up=set_up_id, kind__in=PASSES, removed=False)
    if not passes.filter(pk=layer_id if isinstance(layer_id, int) else 0).exists():
        raise InputError.at("only_for_id", "A lamp is lit for all, or for a pass that this set-up films.")


def _check(table: PlanTable, edits: EditSet) -> None:
    """Build every record that the edits touch; core says what cannot be, the kit what is not owned."""
    lit = {lamp.set_up_id for lamp in PlacedLamp.objects.filter(pk__in=list(edits.lamps))} | {
        backing.set_up_id for backing in PlacedBacking.objects.filter(pk__in=list(edits.backings))
    }
    for layer in table.layers:
        if layer.pk in edits.layers:
            table.layer_record(layer)
        if (
            layer.set_up_id in edits.set_ups
            or layer.set_up_id in lit
            or (layer.pk in edits.layers and layer.set_up_id)
        ):
            record = table.set_up_record(layer)
            if layer.set_up_id in edits.set_ups and layer.set_up:
                check_settings(table.kit(layer.set_up), record)


def with_whole_mode(kit: Kit, values: Mapping[str, Any]) -> dict[str, Any]:
    """The values with a recording mode that is only half named (its width, chosen at the camera) filled up
    from the kit.
    """
    named = {name: values[name] for name in MODE_NAMES if name in values}
    mode = next(
        (
            mode
            for mode in kit.camera.modes
            if all(getattr(mode, name) == value for name, value in named.items())
        ),
        None,
    )
    if not named or mode is None:
        return dict(values)
    return {**values, **{name: getattr(mode, name) for name in MODE_NAMES}}


def check_settings(kit: Kit, record: core.SetUp) -> None:
    """Refuse settings that this kit does not have."""
    check_against_kit(
        kit,
        focal_length_mm=record.focal_length_mm,
        f_number=record.f_number,
        focus_distance_m=record.focus_distance_m,
        recorded_width_px=record.recorded_width_px,
        gate_width_mm=record.gate_width_mm,
        capture_fps=record.capture_fps,
        iso=record.iso,
    )


_ON_A_LENS = ("f_number", "focus_distance_m")


def assign_settings(target: Any, values: Mapping[str, Any], table: PlanTable) -> None:
    """Put checked values by core's names on a model with CameraSettings' columns; lens and mode are looked
    up.
    """
    for name in SETTING_FIELDS:
        if name in values:
            setattr(target, name, values[name])
    if "references" in values and hasattr(target, "references"):
        target.references = list(values["references"])
    production = table.shot.production
    if any(name in values for name in ("focal_length_mm", *_ON_A_LENS)):
        focal_length_mm = values.get("focal_length_mm", target.focal_length_mm)
        ring = [getattr(target, name) for name in _ON_A_LENS]
        mounted = target.lens.record()
        stays = "focal_length_mm" not in values and mounted.turned_to(focal_length_mm).can(*ring)
        if not stays:
            lens = lens_row(production, target.lens, target.mode.camera_id, focal_length_mm, *ring)
            target.turn_to(lens, focal_length_mm)
    if any(name in values for name in MODE_NAMES):
        wanted = {name: values.get(name, getattr(target.mode, name)) for name in MODE_NAMES}
        mode = RecordingMode.objects.filter(camera_id=target.mode.camera_id, **wanted).first()
        if mode is None:
            raise InputError.at("recorded_width_px", f"{target.mode.camera.name} has no such recording mode.")
        target.mode = mode


def _save(write: Writing, what: str, stored: Any, changes: Mapping[str, Any], table: PlanTable) -> None:
    """Save what core read ("35" as 35.0), not what was typed."""
    if what != "set_ups":
        read = _read(what, stored, changes, table)
        parts = read.pop(PARTS, None)
        if parts is not None:
            _replace_parts(write, stored, parts)
        write.save(what, stored, read)
        return
    before = stored.values()
    checked = core.SetUp.read({**before, **changes})
    assign_settings(stored, {name: getattr(checked, name) for name in changes}, table)
    write.count_up(what, stored)
    stored.save()
    after = stored.values()
    for name in changes:
        write.note(what, stored.pk, stored.name, name, before[name], after[name])


def _replace_parts(write: Writing, layer: Layer, parts: list[dict[str, Any]]) -> None:
    """What a layer looks like, whole: the history keeps all of what it looked like before."""
    write.note("layers", layer.pk, layer.name, PARTS, layer.values()[PARTS], parts)
    layer.parts.all().delete()
    Part.objects.bulk_create(Part(layer=layer, **part) for part in parts)


_RECORDS: dict[str, type[Any]] = {
    "layers": core.Layer,
    "lamps": light.PlacedLamp,
    "backings": light.Backing,
    "lines": BoardLine,
}


def _read(what: str, stored: Any, changes: Mapping[str, Any], table: PlanTable) -> dict[str, Any]:
    """The changed fields as core reads them; the columns that core does not know, as they are."""
    if what == "shot":
        return {name: table.values[name] for name in changes}
    record = _RECORDS[what]
    own = {name: value for name, value in changes.items() if name in record.model_fields}
    checked = record.read(
        {**{name: value for name, value in stored.values().items() if name in record.model_fields}, **own}
    )
    return {name: records.plain(getattr(checked, name)) if name in own else changes[name] for name in changes}


def order_by_distance(shot: Shot) -> None:
    """Order is distance: layers keep their order where they are equally far."""
    for place, layer in enumerate(
        sorted(shot.layers.all(), key=lambda one: (one.removed, one.hangs_at_m, one.place))
    ):
        if layer.place != place:
            Layer.objects.filter(pk=layer.pk).update(place=place)
