"""What core's solver is given for one layer of a shot."""

from __future__ import annotations

from typing import Any

from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.kit import Kit
from jungoptic.core.match import resolved


def can_be_solved(table: BenchTable, layer: Layer) -> bool:
    """Whether a layer is filmed, and to a hero."""
    return table.hero is not None and layer.set_up_id is not None and not layer.is_hero


def kit_for(table: BenchTable, layer: Layer) -> Kit:
    """What the layer's set-up can draw on: out of doors the stage is no limit."""
    assert layer.set_up is not None
    kit = table.kit(layer.set_up)
    if table.set_up_record(layer).sun_at:
        return kit.but(stage_length_m=None, stage_width_m=None, beams_m=None)
    return kit


def fixed(table: BenchTable, layer: Layer) -> list[str]:
    """What the solver leaves alone: where the sun or the lamps give the key, it is turned in the drawing."""
    given = table.set_up_record(layer)
    return ["key"] if given.sun_at or given.lamps else []


def to_solve(table: BenchTable, layer: Layer) -> dict[str, Any]:
    """Hero, layer, planned set-up with its key written out, delivery; tolerances, school and what shares the
    set-up: what core's solver takes by name, but for the kit and what is locked.
    """
    record = table.layer_record(layer)
    return {
        "hero": table.hero,
        "layer": record,
        "setup": resolved(table.set_up_record(layer), record),
        "delivery": table.delivery,
        "school": table.school,
        "tolerances": table.tolerances,
        "shared": table.shared_with(layer),
    }
