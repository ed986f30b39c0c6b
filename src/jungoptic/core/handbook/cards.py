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
from ..kit.steps import FRAME_RATES_FPS, ISO_STEPS, SHUTTER_ANGLES_DEG, STOPS
from ..plan.dials import Mark
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
    """When in the work the calculation is needed."""
    return next(moment for moment, names in MOMENTS.items() if name in names)


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
    """The values that a card starts from: its first check value's, or a better beginning."""
    return _BEGINNINGS.get(entry.name) or dict(CHECKS[entry.name][0].inputs)


_FOCAL_LENGTHS_MM = (10, 12, 14, 18, 21, 25, 28, 35, 40, 50, 65, 75, 85, 100, 135, 150, 200)
_SCALES = (1, 2, 3, 4, 5, 6, 8, 10, 12, 16, 20, 24, 25, 32, 35, 48, 72, 87, 100)
_ENGRAVED: dict[str, tuple[tuple[str, float], ...]] = {
    "stop": STOPS,
    "iso": tuple((f"{step}", float(step)) for step in ISO_STEPS),
    "frame_rate": tuple((f"{rate}", float(rate)) for rate in FRAME_RATES_FPS),
    "shutter_angle": tuple((f"{angle:g}", angle) for angle in SHUTTER_ANGLES_DEG),
    "focal_length": tuple((f"{f}", float(f)) for f in _FOCAL_LENGTHS_MM),
    "scale": tuple((f"{s}", float(s)) for s in _SCALES),
}
_THIRD = 2 ** (1 / 3)


def _resolve(schema: Mapping[str, Any], whole: Mapping[str, Any]) -> tuple[dict[str, Any], bool]:
    """A field's schema with references followed and "or nothing" taken off."""
    found, optional = dict(schema), False
    if "anyOf" in found:
        inner = [one for one in found.pop("anyOf") if one.get("type") != "null"]
        optional = True
        found = {**inner[0], **found}
    if "allOf" in found:
        found = {**found.pop("allOf")[0], **found}
    if "$ref" in found:
        found = {**whole["$defs"][found.pop("$ref").rsplit("/", 1)[1]], **found}
    return found, optional


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


def _generic_marks(low: float, high: float) -> tuple[Mark, ...]:
    first, last = math.floor(math.log10(low)), math.ceil(math.log10(high))
    values = [m * 10.0**p for p in range(first, last + 1) for m in (1, 1.5, 2, 3, 4, 5, 6, 8)]
    return tuple(
        Mark(v, f"{v:g}", f"{v:e}"[0] in "125" and f"{v:e}"[2] == "0", True)
        for v in values
        if low * 0.999 <= v <= high * 1.001
    )


def _even_marks(low: float, high: float) -> tuple[Mark, ...]:
    step = 10 ** math.floor(math.log10((high - low) / 8))
    step = next(step * m for m in (1, 2, 5, 10) if (high - low) / (step * m) <= 20)
    first = math.ceil(low / step)
    return tuple(
        Mark(round(n * step, 10), f"{n * step:g}", n % 5 == 0, True)
        for n in range(first, math.floor(high / step) + 1)
    )


def _barrel(schema: Mapping[str, Any], example: Any) -> dict[str, Any]:
    """Ring, steps, ends and engravings for a number, by its vocabulary and its range."""
    named = _ENGRAVED.get(str(schema.get("engraved", "")))
    low = float(schema.get("minimum", schema.get("exclusiveMinimum", -1e6)))
    high = float(schema.get("maximum", schema.get("exclusiveMaximum", 1e6)))
    if named:
        marks = tuple(Mark(value, name, True, True) for name, value in named)
        return {
            "ring": "log",
            "steps": False,
            "step": _THIRD,
            "big_step": 2.0,
            "low": marks[0].value,
            "high": marks[-1].value,
            "marks": marks,
        }
    centre = abs(float(example)) if isinstance(example, int | float) and example else 1.0
    if low >= 0 and high / max(low, 1e-9) > 50 and high > 1.0001:
        bottom, top = max(low, centre / 300), min(high, centre * 300)
        return {
            "ring": "log",
            "steps": False,
            "step": 1.02,
            "big_step": 1.1,
            "low": bottom,
            "high": top,
            "marks": _generic_marks(bottom, top),
        }
    bottom, top = max(low, -centre * 20), min(high, centre * 20)
    if high - low <= 720:
        bottom, top = low, high
    return {
        "ring": "linear",
        "steps": False,
        "step": (top - bottom) / 400,
        "big_step": (top - bottom) / 40,
        "low": bottom,
        "high": top,
        "marks": _even_marks(bottom, top),
    }


_NO_BARREL: dict[str, Any] = {
    "ring": "linear",
    "steps": False,
    "step": 1.0,
    "big_step": 10.0,
    "low": 0.0,
    "high": 0.0,
    "marks": (),
}


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
                _field(key, one, whole, key in needed, one.get("default"))
                for key, one in record["properties"].items()
            )
    choices = (
        schema["enum"]
        if kind == "choice"
        else _resolve(schema["items"], whole)[0]["enum"]
        if kind == "choices"
        else ()
    )
    barrel = (
        _barrel(schema, example if example is not None else raw.get("default"))
        if kind in ("number", "integer")
        else _NO_BARREL
    )
    if kind == "integer" and barrel["ring"] == "linear":
        barrel = {**barrel, "step": 1.0, "big_step": 10.0}
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
        **barrel,
    )


@cache
def record_fields(record: type[BaseModel]) -> tuple[CardField, ...]:
    """The fields of a record in order, for a form."""
    whole = record.model_json_schema()
    needed = whole.get("required", [])
    return tuple(
        _field(name, schema, whole, name in needed, schema.get("default"))
        for name, schema in whole["properties"].items()
    )


def fields_of(entry: Calculation) -> tuple[CardField, ...]:
    """The card's inputs in order."""
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
    """The outputs for ``points`` values of one number around where it stands; None where the calculation
    refuses.

    Engraved steps where there are some and few points are asked for, else even steps of the ring.
    """
    found = next(
        (one for one in fields_of(entry) if one.name == field and one.kind in ("number", "integer")), None
    )
    if found is None:
        raise InputError.at("field", f"There is no number called “{field}” to go around.")
    here = values.get(field)
    if not isinstance(here, int | float) or isinstance(here, bool) or not math.isfinite(here):
        raise InputError.at(field, f"{found.title} must be a number to look around it.")
    rows: list[tuple[float, dict[str, Any] | None]] = []
    for value in _steps_around(found, float(here), points):
        try:
            rows.append(
                (value, entry.run({**values, field: round(value) if found.kind == "integer" else value}))
            )
        except InputError:
            rows.append((value, None))
    return rows


def _steps_around(field: CardField, here: float, points: int) -> list[float]:
    half = points // 2
    if field.engraved and points <= 15:
        values = sorted({mark.value for mark in field.marks} | {here})
        at = values.index(here)
        return values[max(0, at - half) : at + half + 1]
    if field.ring == "log" and here > 0:
        values = [here * 2 ** (k / (3 if points <= 15 else 10)) for k in range(-half, half + 1)]
    else:
        step = field.big_step if points <= 15 else field.big_step / 4
        values = [here + k * step for k in range(-half, half + 1)]
    if field.kind == "integer":
        return sorted({float(round(value)) for value in values})
    return values
