"""Stock elements: added, taken out, brought back."""

from __future__ import annotations

from typing import Any

from jungoptic.app.base.removing import set_removed
from jungoptic.app.stock.models import StockItem
from jungoptic.core.errors import InputError


def add_stock(production_id: int, values: dict[str, Any]) -> StockItem:
    """Something that was filmed already. Numbers that nobody knows stay empty."""
    name = str(values.get("name", "")).strip()
    if not name or len(name) > 120:
        raise InputError.at("name", "A stock element needs a name of up to 120 characters.")
    if StockItem.objects.filter(production=production_id, name=name, removed=False).exists():
        raise InputError.at("name", f"There is a stock element called “{name}” already.")
    limits = {
        "width_px": (1, 100000), "fps": (0.01, 100000), "view_deg": (0.1, 179), "camera_height_m": (-100, 10000), "key_azimuth_deg": (-180, 180), "key_elevation_deg": (-90, 90),
    }  # fmt: skip
    for field, (least, most) in limits.items():
        value = values.get(field)
        if value is not None and not least <= value <= most:
            raise InputError.at(field, f"It must be between {least:g} and {most:g}; {value:g} was given.")
    return StockItem.objects.create(
        production_id=production_id, name=name, note=str(values.get("note", "")), **{field: values.get(field) for field in limits}
    )


def remove_stock(production_id: int, item_id: int, removed: bool) -> None:
    """Take a stock element out, or bring it back."""
    set_removed(StockItem, "stock element", production_id, item_id, removed)
