"""Units in which people read and type: metres and lux are kept, feet and foot-candles a way to say them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Units = Literal["metric", "imperial"]
Quantity = Literal["number", "length", "light"]
METRES_PER_FOOT = 0.3048
MM_PER_INCH = 25.4
LUX_PER_FOOTCANDLE = 1.0 / METRES_PER_FOOT**2


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit: its sign, and how many of it are one of what is kept."""

    sign: str
    per_kept: float


@dataclass(frozen=True, slots=True)
class Measured:
    """A quantity whose unit depends on the reader: the unit that is kept is the metric one."""

    metric: Unit
    imperial: Unit


MEASURED: dict[str, Measured] = {
    "length": Measured(Unit("m", 1.0), Unit("ft", 1.0 / METRES_PER_FOOT)),
    "light": Measured(Unit("lx", 1.0), Unit("fc", 1.0 / LUX_PER_FOOTCANDLE)),
}
