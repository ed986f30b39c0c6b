"""What the line-up needs of a shot: a layer's camera as planned, read once for each version."""

from __future__ import annotations

from functools import lru_cache

from jungoptic.app.line_up.beside import Held, Standing
from jungoptic.app.productions.access import Versions
from jungoptic.app.shots.models import Layer
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.errors import InputError
from jungoptic.core.match import Tolerance, resolved
from jungoptic.core.vocabulary import School, Units

MASK_MM = (40.0, 1300.0)
"""How wide a picture on a monitor may be for which a mask is printed, mm."""
_MOST_KEPT = 64
_MOST_FILES = 8


def table_of(shot_id: int, versions: Versions, school: School, units: Units) -> BenchTable:
    """The shot as it stands. Raises InputError where no hero stands."""
    table = BenchTable(shot_to_look_at(shot_id, versions), school=school, units=units)
    if table.hero is None:
        raise InputError.at("", "There is no hero yet, so there is nothing to line up with.")
    return table


def layer_of(table: BenchTable, layer_id: int) -> Layer:
    """A layer that is filmed. Raises InputError."""
    layer = next((one for one in table.layers if one.pk == layer_id), None)
    if layer is None or layer.set_up is None:
        raise InputError.at("", "Nothing is filmed of this layer, so there is no camera to line up.")
    return layer


@lru_cache(_MOST_KEPT)
def standing_of(shot_id: int, layer_id: int, versions: Versions) -> tuple[Standing, dict[str, Tolerance]]:
    """A layer's camera as planned, and the production's tolerances. Raises InputError."""
    table = table_of(shot_id, versions, "measured", "metric")
    layer = layer_of(table, layer_id)
    record = table.layer_record(layer)
    assert table.hero is not None and layer.set_up is not None
    standing = Standing(
        (layer_id, *versions),
        table.hero,
        record,
        resolved(table.set_up_record(layer), record),
        table.delivery,
        zooms=layer.set_up.lens.longest_mm is not None,
    )
    return standing, table.tolerances


@lru_cache(_MOST_FILES)
def _file(still_id: int) -> bytes:
    """A photograph never changes."""
    return Still.objects.select_related("file").get(pk=still_id).file.read()


def held_picture(shot_id: int, still_id: int, versions: Versions) -> Held:
    """A picture through the taking camera of any layer of the shot. Raises InputError."""
    row = Still.objects.filter(pk=still_id, layer__shot=shot_id, removed=False).first()
    if row is None:
        raise InputError.at("against", "That picture is not one of this shot, or was taken away.")
    if row.of != "frame":
        raise InputError.at(
            "against",
            "Only what was seen through the taking camera can be measured against; look at this one.",
        )
    return Held(row.pk, _file(row.pk), standing_of(shot_id, row.layer_id, versions)[0])
