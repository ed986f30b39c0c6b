"""The barrel of a card's number: its ring, its steps, its ends and engravings."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from ..kit.steps import FRAME_RATES_FPS, ISO_STEPS, SHUTTER_ANGLES_DEG, STOPS
from ..plan.engraving import FULL_ISOS, FULL_STOPS, Mark

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
_LABELLED = {"stop": FULL_STOPS, "iso": FULL_ISOS}  # of others every step
_THIRD = 2 ** (1 / 3)


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


def barrel(schema: Mapping[str, Any], example: Any) -> dict[str, Any]:
    """Ring, steps, ends and engravings for a number, by its vocabulary and its range."""
    engraved = str(schema.get("engraved", ""))
    named = _ENGRAVED.get(engraved)
    low = float(schema.get("minimum", schema.get("exclusiveMinimum", -1e6)))
    high = float(schema.get("maximum", schema.get("exclusiveMaximum", 1e6)))
    if named:
        labelled = _LABELLED.get(engraved)
        marks = tuple(Mark(value, name, not labelled or name in labelled, True) for name, value in named)
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


NO_BARREL: dict[str, Any] = {
    "ring": "linear",
    "steps": False,
    "step": 1.0,
    "big_step": 10.0,
    "low": 0.0,
    "high": 0.0,
    "marks": (),
}
