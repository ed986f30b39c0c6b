"""The desk of a layer: its shot as it is planned, and the layer's own camera, read once for each version."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from jungoptic.app.frames.beside import Desk
from jungoptic.app.frames.points import Gate
from jungoptic.app.productions.access import Versions
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.frames import delivered_of, px_of_mm
from jungoptic.core.match import Match

_KEPT = 32


@lru_cache(_KEPT)
def table_of(shot_id: int, versions: Versions) -> BenchTable:
    """A shot as it is planned."""
    return BenchTable(shot_to_look_at(shot_id, versions), school="measured", units="metric", basis="planned")


def desk_of(shot_id: int, layer_id: int, versions: Versions) -> Desk | None:
    """The simulated camera of a layer; None where nothing is filmed of it, or there is no hero yet."""
    table = table_of(shot_id, versions)
    position = next((place for place, each in enumerate(table.layers) if each.pk == layer_id), None)
    if table.hero is None or position is None or table.layers[position].set_up_id is None:
        return None
    return Desk((layer_id, *versions), table.stack, position)


@lru_cache(_KEPT)
def match_of(desk: Desk) -> Match:
    """The layer of a desk, measured."""
    member = desk.stack.members[desk.position]
    return Match(desk.stack.hero, member.layer, member.setup, desk.stack.delivery)


def gate_of(desk: Desk | None, production: Any) -> Gate:
    """How large the photographs of a desk are in the delivered frame; all of it where nothing is filmed."""
    width, aspect = float(production.delivery_width_px), aspect_of(desk, production)
    match = None if desk is None else match_of(desk)
    if match is None or match.setup is None:
        return Gate(width, width / aspect, None)
    width = delivered_of(match, 1)
    return Gate(width, width / aspect, px_of_mm(match))


def aspect_of(desk: Desk | None, production: Any) -> float:
    """Width over height of what the camera sees."""
    setup = desk.stack.members[desk.position].setup if desk else None
    if setup is None:
        return float(production.delivery_width_px / production.delivery_height_px)
    return setup.gate_width_mm / setup.gate_height_mm
