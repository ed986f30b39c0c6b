"""The light of a take as it was: its own lamps, its own hour of the sun, a key that was read there."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jungoptic.app.shots.edit import LAMP_FIELDS
from jungoptic.app.shots.models import Layer, PlacedLamp
from jungoptic.app.shots.plan import counted_further, lamp_values
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.table import BenchTable
from jungoptic.core import light
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.match import with_lamps
from jungoptic.core.plan import GEL, lamp_field, lamp_of_field

KEY_FIELDS = ("key_azimuth_deg", "key_elevation_deg", "key_size_deg", "key_to_fill_stops")
_MOST_MIRED = 400
_FIXED = {"removed", "only_for_id", "name", "role"}  # a lamp that is another one is no setting of a take


def with_lamps_apart(
    actual: Mapping[str, Any],
) -> tuple[dict[str, Any], dict[int, dict[str, Any]]]:
    """What a card sent, with the settings of its lamps by their ids."""
    settings: dict[str, Any] = {}
    lamps: dict[int, dict[str, Any]] = {}
    for name, value in actual.items():
        lamp = lamp_of_field(name)
        if lamp is None:
            settings[name] = value
        else:
            lamps.setdefault(lamp[0], {})[lamp[1]] = value
    return settings, lamps


def light_as_it_was(
    table: BenchTable,
    layer: Layer,
    take: Take,
    actual: Mapping[str, Any],
    lamps: Mapping[int, Mapping[str, Any]],
) -> None:
    """Put the light that a take had on its row, which has its other settings already.

    Light and colour on the subject change as the lamps' own do, unless somebody read them there. The sun
    stands where it stood when the take was recorded, unless an hour was sent. A key that differs from
    the plan's was read there, and counts in place of what lamps and sun would give. Raises InputError at a
    lamp's field.
    """
    assert layer.set_up is not None
    planned = {**layer.set_up.values(), **table.draft.set_ups.get(layer.set_up.pk, {})}
    if take.sun_at is not None and actual.get("sun_at") is None:
        take.sun_at = take.recorded_at
    if any(name in actual and actual[name] != planned[name] for name in KEY_FIELDS):
        take.key_measured = True
    if lamps:
        read = {name for name in actual if actual[name] != planned.get(name)}
        _as_they_burned(table, layer, take, lamps, read)


def _as_they_burned(
    table: BenchTable,
    layer: Layer,
    take: Take,
    lamps: Mapping[int, Mapping[str, Any]],
    read: set[str],
) -> None:
    """The lamps as they burned, and what they gave: where the light or its colour was ``read`` there, that
    counts.
    """
    rows = table.lamps_on(layer)
    filmed = table.set_up_record(layer, take)
    burned = dict(zip([row.pk for row in rows], filmed.lamps, strict=True))
    behind = table.behind_m(layer)
    for pk, changes in lamps.items():
        strange = sorted(set(changes) - (LAMP_FIELDS - _FIXED) - {GEL})
        if strange:
            raise InputError(
                *(FieldProblem(lamp_field(pk, name), f"A lamp has no setting “{name}”.") for name in strange)
            )
        if pk in burned:
            planned = burned[pk].model_dump()
        else:  # it was shown, and is out of the plan by now: what burned, burned
            gone = PlacedLamp.objects.filter(set_up=layer.set_up_id, pk=pk).first()
            if gone is None:
                raise InputError.at("lamps", f"No lamp {pk} burns while “{layer.name}” is filmed.")
            planned = counted_further(lamp_values(gone), -behind)
        try:
            moved = {name: value for name, value in changes.items() if name != GEL}
            lamp = light.PlacedLamp.read({**planned, **counted_further(moved, -behind)})
            burned[pk] = light.with_gel(lamp, _gel(changes.get(GEL, 0.0)))
        except InputError as error:
            raise InputError(
                *(FieldProblem(lamp_field(pk, each.field), each.message) for each in error.problems)
            ) from None
    lit = with_lamps(table.layer_record(layer), filmed, tuple(burned.values()))
    for name in {"illuminance_lx", "light_k"} - read:
        setattr(take, name, getattr(lit, name))
    take.filmed = lit.but(illuminance_lx=take.illuminance_lx, light_k=take.light_k).model_dump(mode="json")


def _gel(shift_mired: Any) -> float:
    if isinstance(shift_mired, bool) or not isinstance(shift_mired, int | float):
        raise InputError.at(GEL, f"A gel is said by its shift in mired; {shift_mired!r} is no number.")
    if not abs(shift_mired) <= _MOST_MIRED:
        raise InputError.at(GEL, f"A gel shifts by up to {_MOST_MIRED} mired; {shift_mired:g} was given.")
    return float(shift_mired)
