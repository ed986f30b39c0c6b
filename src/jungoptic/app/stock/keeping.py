"""Stock elements: added, taken out, brought back."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.base.removing import set_removed
from jungoptic.app.stock.models import StockItem
from jungoptic.core.errors import InputError

STOCK = "stock element"


def add_stock(write: Writing, values: dict[str, Any]) -> StockItem:
    """Something that was filmed already. Numbers that nobody knows stay empty."""
    name = str(values.get("name", "")).strip()
    if not name or len(name) > 120:
        raise InputError.at("name", "A stock element needs a name of up to 120 characters.")
    if StockItem.objects.filter(production=write.production_id, name=name, removed=False).exists():
        raise InputError.at("name", f"There is a stock element called “{name}” already.")
    limits = {
        "width_px": (1, 100000),
        "fps": (0.01, 100000),
        "view_deg": (0.1, 179),
        "camera_height_m": (-100, 10000),
        "key_azimuth_deg": (-180, 180),
        "key_elevation_deg": (-90, 90),
    }
    for field, (least, most) in limits.items():
        value = values.get(field)
        if value is not None and not least <= value <= most:
            raise InputError.at(field, f"It must be between {least:g} and {most:g}; {value:g} was given.")
    item = StockItem.objects.create(
        production_id=write.production_id,
        name=name,
        note=str(values.get("note", "")),
        **{field: values.get(field) for field in limits},
    )
    write.made(STOCK, item)
    return item


def remove_stock(write: Writing, item_id: int, version: int, removed: bool) -> StockItem:
    """Take a stock element out, or bring it back."""
    return set_removed(write, StockItem, STOCK, item_id, version, removed)


@takes_back(STOCK)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        remove_stock(
            write, change.row_id, StockItem.objects.get(pk=change.row_id).version, bool(change.before)
        )
