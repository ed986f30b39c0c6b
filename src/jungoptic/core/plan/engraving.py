"""What is engraved on barrels: marks in steps and along rings, and where the kit can go."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from ..kit.records import Kit
from ..vocabulary import Units
from ..wording import number


@dataclass(frozen=True, slots=True)
class Mark:
    """One engraving. ``can`` is False where the kit cannot go; ``major`` marks carry their label."""

    value: float
    label: str
    major: bool
    can: bool


_LENGTH_MARKS_M = tuple(
    float(metres)
    for metres in (
        "0.01 0.02 0.05 0.1 0.15 0.2 0.25 0.3 0.35 0.4 0.5 0.6 0.7 0.8 0.9 1 1.2 1.4 1.6 1.8 2 2.5 3 4 5 6 8"
        " 10 12 15 20 30 50 100"
    ).split()
)
_LENGTH_MAJOR_M = (0.01, 0.02, 0.05, 0.1, 0.2, 0.35, 0.5, 0.8, 1, 1.2, 1.6, 2, 3, 5, 8, 12, 20, 50, 100)
_LENGTH_MARKS_IN = tuple(
    float(inches)
    for inches in "0.5 1 2 3 4 5 6 8 10 12 15 18 24 30 36 48 60 72 96 120 180 240 360 600 1200".split()
)
LIGHT_MARKS = tuple(
    Mark(float(m * 10**p), number(m * 10**p), m in (1, 2, 5), True)
    for p in range(1, 6)
    for m in (1, 2, 3, 5, 7)
)
DEGREE_MARKS = tuple(Mark(float(a), f"{a}", a % 5 == 0, True) for a in range(-45, 46))
RAISE_MARKS = tuple(Mark(m / 20, f"{m / 20:g}", m % 4 == 0, True) for m in range(41))
_USUAL_MM = tuple(  # common practice
    float(focal) for focal in "8 10 12 14 16 18 20 24 28 35 40 50 60 70 85 100 135 200 300 400".split()
)
FULL_STOPS = frozenset("1 1.4 2 2.8 4 5.6 8 11 16 22 32 45 64 90".split())
FULL_ISOS = frozenset("50 100 200 400 800 1600 3200 6400".split())


@lru_cache(maxsize=256)  # as all that is engraved: a hand that drags moves none of it
def length_marks(units: Units, least: float, most: float | None = None) -> tuple[Mark, ...]:
    far = math.inf if most is None else most * (1 + 1e-9)
    near = least * (1 - 1e-9)
    if units == "imperial":
        inches = ((n, f"{n:g}″" if n < 36 else f"{n / 12:g}′") for n in _LENGTH_MARKS_IN)
        return tuple(Mark(n * 0.0254, label, True, near <= n * 0.0254 <= far) for n, label in inches)
    return tuple(
        Mark(
            m,
            f"{m:g}".replace("0.", ".", 1) if m < 1 else f"{m:g}",
            m in _LENGTH_MAJOR_M,
            near <= m <= far,
        )
        for m in _LENGTH_MARKS_M
    )


def step_marks(
    named: Iterable[tuple[str, float]], can: Iterable[float], major: frozenset[str] | None = None
) -> tuple[Mark, ...]:
    return _steps_engraved(tuple(named), tuple(can), major)


@lru_cache(maxsize=256)
def _steps_engraved(
    named: tuple[tuple[str, float], ...], can: tuple[float, ...], major: frozenset[str] | None
) -> tuple[Mark, ...]:
    return tuple(
        Mark(
            value,
            name,
            major is None or name in major,
            any(math.isclose(value, step, rel_tol=2e-3) for step in can),
        )
        for name, value in named
    )


def focal_marks(kit: Kit, stands_mm: float) -> tuple[Mark, ...]:
    """Every lens and both ends of every zoom; between those the usual focal lengths, so that a ring that
    turns freely can be read.
    """
    ends = {end for lens in kit.lenses for end in (lens.focal_length_mm, lens.longest_mm) if end}
    named = ends | {stands_mm}
    if any(lens.longest_mm for lens in kit.lenses):
        named |= {focal for focal in _USUAL_MM if min(named) < focal < max(named)}
    return tuple(
        Mark(
            focal,
            number(focal, 3),
            focal in ends or focal == stands_mm,
            any(lens.reaches(focal) for lens in kit.lenses),
        )
        for focal in sorted(named)
    )
