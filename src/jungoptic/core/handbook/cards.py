"""Each calculation as a card: when in the work it is needed, its fields as barrels and choices, the values
around one of them.

Everything is read from the one description of the calculation; nothing about it is said twice.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from pydantic import BaseModel

from ..calculation import Calculation
from ..errors import InputError
from ..plan.engraving import Mark
from .barrels import NO_BARREL, barrel
from .checks import CHECKS

Kind = Literal[
    "number", "integer", "choice", "flag", "text", "numbers", "choices", "points", "rows", "record"
]

MOMENTS: dict[str, tuple[str, ...]] = {
    "Lens and frame": (
        "angle_of_view",
        "frame_coverage",
        "matching_focal_length",
        "image_distance",
        "slate_reach",
        "lens_from_photograph",
        "camera_height_from_photograph",
    ),
    "Focus": (
        "depth_of_field",
        "defocus_blur",
        "focus_passes",
        "tilt_for_ground_plane",
        "diffraction",
        "closeup_exposure",
    ),
    "Models": ("scale_match", "miniature_frame_rate", "foreground_miniature", "nodal_parallax", "placing"),
    "Light": (
        "exposure_light",
        "light_falloff",
        "sun_lamp_distance",
        "source_hardness",
        "mired_shift",
        "sun_position",
        "turn_to_sun",
        "mirror_ball",
        "shadow_stick",
        "mains_flicker",
    ),
    "Backing and key": (
        "backing_colour",
        "backing_size",
        "backing_evenness",
        "spill",
        "chroma_resolution",
        "hand_matte_hours",
    ),
    "Set and people": ("matte_line_clearance", "crowd_rows", "eyeline", "parallax_speeds", "haze", "toss"),
    "Movement and time": (
        "motion_blur",
        "pan_judder",
        "retime_ramp",
        "hyperlapse",
        "eased_move",
        "stop_motion_hours",
    ),
    "Plates": ("averaged_plate", "grain", "data_rate"),
}


@dataclass(frozen=True, slots=True)
class CardField:
    """One input of a card. ``marks``, ``low`` … are its barrel, for numbers; ``rows`` and ``record`` have
    ``fields`` of their own.
    """

    name: str
    title: str
    unit: str
    help: str
    kind: Kind
    optional: bool
    default: Any
    choices: tuple[str, ...]
    ring: Literal["log", "linear"]
    steps: bool
    step: float
    big_step: float
    low: float
    high: float
    marks: tuple[Mark, ...]
    engraved: bool
    fields: tuple[CardField, ...]


def moment_of(name: str) -> str:
    """When in the work a calculation is needed.

    Parameters
    ----------
    name : str
        Of the calculation.

    Returns
    -------
    str
        A key of :data:`MOMENTS`.

    Raises
    ------
    StopIteration
        If no moment names it: a calculation that was registered and not put anywhere.

    Examples
    --------
    >>> moment_of("depth_of_field")
    'Focus'
    """
    for moment, names in MOMENTS.items():
        if name in names:
            return moment
    raise LookupError(f"{name} stands in no moment of the work.")


_PANEL = {"y_m": 1.25, "z_m": 1.6, "intensity_cd": 900, "aim_y_m": 1.25, "beam_deg": 110}
# Where a check value makes a poor beginning: the demo's green sheet with its two soft panels.
_BEGINNINGS: dict[str, dict[str, Any]] = {
    "backing_evenness": {
        "width_m": 3,
        "height_m": 2.5,
        "lamps": [{"x_m": -1.8, "aim_x_m": 0.5, **_PANEL}, {"x_m": 1.8, "aim_x_m": -0.5, **_PANEL}],
        "region": {"left_m": -0.6, "right_m": 0.6, "bottom_m": 0.2, "top_m": 2.0},
    }
}


def example_of(entry: Calculation) -> dict[str, Any]:
    """The values that a card starts from: its first check value's, or a better beginning.

    Parameters
    ----------
    entry : Calculation
        The card's.

    Returns
    -------
    dict
        Inputs by name.

    Examples
    --------
    >>> from jungoptic.core import handbook
    >>> from jungoptic.core.calculation import find
    >>> example_of(find("mired_shift"))
    {'from_k': 3200, 'to_k': 5600}
    """
    return _BEGINNINGS.get(entry.name) or dict(CHECKS[entry.name][0].inputs)


def _resolve(schema: Mapping[str, Any], whole: Mapping[str, Any]) -> tuple[dict[str, Any], bool]:
    """A field's schema with references followed and "or nothing" taken off."""
    resolved, optional = dict(schema), False
    if "anyOf" in resolved:
        inner = [choice for choice in resolved.pop("anyOf") if choice.get("type") != "null"]
        optional = True
        resolved = {**inner[0], **resolved}
    if "allOf" in resolved:
        resolved = {**resolved.pop("allOf")[0], **resolved}
    if "$ref" in resolved:
        resolved = {**whole["$defs"][resolved.pop("$ref").rsplit("/", 1)[1]], **resolved}
    return resolved, optional


def _kind(schema: Mapping[str, Any], whole: Mapping[str, Any]) -> Kind:
    if "enum" in schema:
        return "choice"
    kinds: dict[str, Kind] = {
        "number": "number",
        "integer": "integer",
        "boolean": "flag",
        "string": "text",
        "object": "record",
    }
    if schema.get("type") != "array":
        return kinds[schema["type"]]
    if "prefixItems" in schema:
        return "numbers"
    item, _ = _resolve(schema["items"], whole)
    if "prefixItems" in item:
        return "points"
    if "enum" in item:
        return "choices"
    return "numbers" if item.get("type") == "number" else "rows"


def _field(
    name: str, raw: Mapping[str, Any], whole: Mapping[str, Any], required: bool, example: Any
) -> CardField:
    schema, optional = _resolve(raw, whole)
    kind = _kind(schema, whole)
    inner: tuple[CardField, ...] = ()
    if kind in ("rows", "record"):
        record = _resolve(schema["items"], whole)[0] if kind == "rows" else schema
        if "properties" in record:
            needed = record.get("required", [])
            inner = tuple(
                _field(key, inner_schema, whole, key in needed, inner_schema.get("default"))
                for key, inner_schema in record["properties"].items()
            )
    choices = (
        schema["enum"]
        if kind == "choice"
        else _resolve(schema["items"], whole)[0]["enum"]
        if kind == "choices"
        else ()
    )
    turned = (
        barrel(schema, example if example is not None else raw.get("default"))
        if kind in ("number", "integer")
        else NO_BARREL
    )
    if kind == "integer" and turned["ring"] == "linear":
        turned = {**turned, "step": 1.0, "big_step": 10.0}
    return CardField(
        name,
        str(schema.get("title", name)),
        str(schema.get("unit", "")),
        str(schema.get("description") or ""),
        kind,
        optional or not required,
        raw.get("default"),
        tuple(str(c) for c in choices),
        engraved="engraved" in schema,
        fields=inner,
        **turned,
    )


@cache
def record_fields(record: type[BaseModel]) -> tuple[CardField, ...]:
    """The fields of a record, as a card would show them.

    Parameters
    ----------
    record : type of BaseModel
        The record.

    Returns
    -------
    tuple of CardField
        In the order of the record.

    Examples
    --------
    >>> from jungoptic.core.plan import Sheet
    >>> [field.unit for field in record_fields(Sheet)]
    ['mm', 'mm', 'mm', '']
    """
    whole = record.model_json_schema()
    needed = whole.get("required", [])
    return tuple(
        _field(name, schema, whole, name in needed, schema.get("default"))
        for name, schema in whole["properties"].items()
    )


def fields_of(entry: Calculation) -> tuple[CardField, ...]:
    """A card's inputs in order.

    Parameters
    ----------
    entry : Calculation
        The card's.

    Returns
    -------
    tuple of CardField
        With unit, limits and engravings.

    Examples
    --------
    >>> from jungoptic.core import handbook
    >>> from jungoptic.core.calculation import find
    >>> [field.title for field in fields_of(find("mired_shift"))]
    ['From', 'To']
    """
    whole = entry.inputs.model_json_schema()
    example = example_of(entry)
    needed = whole.get("required", [])
    return tuple(
        _field(name, schema, whole, name in needed, example.get(name))
        for name, schema in whole["properties"].items()
    )


def around(
    entry: Calculation, values: Mapping[str, Any], field: str, *, points: int = 13
) -> list[tuple[float, dict[str, Any] | None]]:
    """The outputs for several values of one number around where it stands.

    Engraved steps where there are some and few points are asked for, else even steps of the ring.

    Parameters
    ----------
    entry : Calculation
        What is calculated.
    values : mapping
        Its inputs by name.
    field : str
        Which of them is turned.
    points : int, default 13
        How many values.

    Returns
    -------
    list of tuple
        Value, and the outputs by name; None where the calculation refuses.

    Raises
    ------
    InputError
        If there is no number of that name among the inputs.

    Examples
    --------
    >>> from jungoptic.core import handbook
    >>> from jungoptic.core.calculation import find
    >>> rows = around(find("mired_shift"), {"from_k": 5600, "to_k": 3200}, "to_k", points=3)
    >>> [(round(kelvin), round(row["mired"])) for kelvin, row in rows]
    [(2225, 271), (3200, 134), (4175, 61)]
    """
    turned = next(
        (
            candidate
            for candidate in fields_of(entry)
            if candidate.name == field and candidate.kind in ("number", "integer")
        ),
        None,
    )
    if turned is None:
        raise InputError.at("field", f"There is no number called “{field}” to go around.")
    here = values.get(field)
    if not isinstance(here, int | float) or isinstance(here, bool) or not math.isfinite(here):
        raise InputError.at(field, f"{turned.title} must be a number to look around it.")
    rows: list[tuple[float, dict[str, Any] | None]] = []
    for value in _steps_around(turned, float(here), points):
        try:
            rows.append(
                (value, entry.run({**values, field: round(value) if turned.kind == "integer" else value}))
            )
        except InputError:
            rows.append((value, None))
    return rows


def _steps_around(field: CardField, here: float, points: int) -> list[float]:
    half = points // 2
    if field.engraved and points <= 15:
        values = sorted({mark.value for mark in field.marks} | {here})
        middle = values.index(here)
        return values[max(0, middle - half) : middle + half + 1]
    if field.ring == "log" and here > 0:
        values = [here * 2 ** (k / (3 if points <= 15 else 10)) for k in range(-half, half + 1)]
    else:
        step = field.big_step if points <= 15 else field.big_step / 4
        values = [here + k * step for k in range(-half, half + 1)]
    if field.kind == "integer":
        return sorted({float(round(value)) for value in values})
    return values
