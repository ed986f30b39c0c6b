"""Lamps, figures, walls and pieces that are moved so that a hand reaches, and what of it the audience sees:
the light against the plate, from one frame of the shot to the next, and across the cut.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from .. import quantities as q
from ..light import PlacedLamp, colour
from ..match import (
    Layer,
    SetUp,
    key_of,
    with_lamps,
)
from ..match.lighting import metered_lx, subject_point

Cheated = Literal["lamp", "figure", "wall", "piece"]
_MM = 1000.0
_ASLANT_DEG, _NEARLY_DARK_DEG = 45.0, 89.0
SAID_DEG, SAID_STOPS, SAID_MIRED = 0.05, 0.0005, 0.05
"""What is less is not said of a light."""
_FAR = {"ge": -20_000, "le": 20_000}


class Cheat(q.Record):
    """Something that stands elsewhere than it is planned, or is ``away`` altogether, from one frame of the
    shot to another (None: to its end); a lamp may be dimmed otherwise meanwhile.
    """

    kind: Cheated
    name: Annotated[str, Field(min_length=1, max_length=60)]
    first_frame: Annotated[int, Field(ge=1, le=100_000)] = 1
    last_frame: Annotated[int | None, Field(ge=1, le=100_000)] = None
    right_mm: Annotated[float, q.quantity("To camera right", "mm", **_FAR)] = 0.0
    up_mm: Annotated[float, q.quantity("Up", "mm", **_FAR)] = 0.0
    back_mm: Annotated[float, q.quantity("Back, away from the lens", "mm", **_FAR)] = 0.0
    away: q.YesNo = False
    level: Annotated[float | None, q.quantity("Dimmed to", "", "1 = full.", ge=0, le=1)] = None

    @property
    def moved_m(self) -> tuple[float, float, float]:
        """To the right, up and back, metres of the set."""
        return self.right_mm / _MM, self.up_mm / _MM, self.back_mm / _MM

    def stands_at(self, frame: int) -> bool:
        """Whether it stands so at a frame of the shot."""
        return self.first_frame <= frame and (self.last_frame is None or frame <= self.last_frame)


@dataclass(frozen=True, slots=True)
class LightMoved:
    """How the light on a figure is another: by how far its key turned, degrees (None where a key came or
    went, 0 where nobody knows of any), and how much lighter, stops, and redder, mired, it is.
    """

    turned_deg: float | None
    stops: float
    mired: float

    @property
    def is_seen(self) -> bool:
        """Whether there is anything to be said of it."""
        return (
            self.turned_deg is None
            or self.turned_deg > SAID_DEG
            or abs(self.stops) > SAID_STOPS
            or abs(self.mired) > SAID_MIRED
        )


@dataclass(frozen=True, slots=True)
class LampHeld:
    """What keeps the light on the figure as it was: the level of the lamp where it stands now (over 1 it has
    not enough), and where it would stand as far off on its own ray, mm to the right, up and back of where it
    is planned.
    """

    level: float
    right_mm: float
    up_mm: float
    back_mm: float


def as_cheated(layer: Layer, planned: SetUp, cheats: Sequence[Cheat]) -> SetUp:
    """A set-up lit as it is with its cheats.

    Where the figure moved, its light is what it would be had all the lamps moved the other way.

    Parameters
    ----------
    layer : Layer
        What is animated.
    planned : SetUp
        As planned, with its lamps.
    cheats : sequence of Cheat
        Those that stand.

    Returns
    -------
    SetUp
        With its lamps where they are, seen from the figure, and its light and colour changed with them.

    References
    ----------
    inverse_square, mired

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> set_up = MODEL.but(lamps=(PlacedLamp(name="spot", intensity_cd=18000),))
    >>> cheated = as_cheated(MILL, set_up, [Cheat(kind="lamp", name="spot", right_mm=250)])
    >>> [lamp.across_m for lamp in cheated.lamps]
    [0.25]
    """
    figure = _way_m([cheat for cheat in cheats if cheat.kind == "figure"])
    lamps = (
        _lamp_as(lamp, [cheat for cheat in cheats if cheat.kind == "lamp" and cheat.name == lamp.name])
        for lamp in planned.lamps
    )
    lit = with_lamps(layer, planned, tuple(_seen_from(lamp, figure) for lamp in lamps if lamp is not None))
    if _has_key(planned) and not _has_key(lit):
        # what is stated beside lamps is theirs, and goes with them
        return lit.but(key_azimuth_deg=None, key_elevation_deg=None)
    return lit


def _has_key(setup: SetUp) -> bool:
    return any(lamp.role == "key" and lamp.level > 0 for lamp in setup.lamps)


def _way_m(cheats: Sequence[Cheat]) -> tuple[float, float, float]:
    """How far something went by all of them together."""
    right, up, back = (sum(ways) for ways in zip((0.0,) * 3, *(each.moved_m for each in cheats), strict=True))
    return right, up, back


def _lamp_as(lamp: PlacedLamp, cheats: Sequence[Cheat]) -> PlacedLamp | None:
    """A lamp where it was moved to, turned back to what it was aimed at, and dimmed as it was said last; None
    where it is away.
    """
    if any(cheat.away for cheat in cheats):
        return None
    right, up, back = _way_m(cheats)
    levels = [lamp.level, *(cheat.level for cheat in cheats if cheat.level is not None)]
    return lamp.but(
        across_m=lamp.across_m + right,
        height_m=lamp.height_m + up,
        behind_m=lamp.behind_m + back,
        level=levels[-1],
    )


def _seen_from(lamp: PlacedLamp, figure: Sequence[float]) -> PlacedLamp:
    right, up, back = figure
    return lamp.but(
        across_m=lamp.across_m - right,
        height_m=lamp.height_m - up,
        behind_m=lamp.behind_m - back,
        aim_across_m=lamp.aim_across_m - right,
        aim_height_m=lamp.aim_height_m - up,
        aim_behind_m=lamp.aim_behind_m - back,
    )


def light_moved(layer: Layer, before: SetUp, after: SetUp) -> LightMoved:
    """How the light on a figure is another.

    Parameters
    ----------
    layer : Layer
        What is lit.
    before, after : SetUp
        With their lamps.

    Returns
    -------
    LightMoved
        Degrees, stops and mired.

    References
    ----------
    inverse_square, mired

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> set_up = MODEL.but(lamps=(PlacedLamp(name="spot", intensity_cd=18000),))
    >>> dimmed = as_cheated(MILL, set_up, [Cheat(kind="lamp", name="spot", level=0.5)])
    >>> off = light_moved(MILL, set_up, dimmed)
    >>> off.turned_deg, round(off.stops, 6)
    (0.0, -1.0)
    """
    here, there = (_key_deg(setup, layer) for setup in (before, after))
    turned = None
    if here is not None and there is not None:
        turned = colour.angle_between_deg(*here, *there)
    elif here is there is None:
        turned = 0.0
    return LightMoved(
        turned,
        math.log2(after.illuminance_lx / before.illuminance_lx),
        colour.mired(after.light_k) - colour.mired(before.light_k),
    )


def _key_deg(setup: SetUp, layer: Layer) -> tuple[float, float] | None:
    key = key_of(setup, layer)
    if key.azimuth_deg is None or key.elevation_deg is None:
        return None
    return key.azimuth_deg, key.elevation_deg


def aslant_stops(turned_deg: float) -> float:
    """What a turn of the key is worth where it shows most of what is still well lit.

    Parameters
    ----------
    turned_deg : float
        By how far the key turned, degrees.

    Returns
    -------
    float
        Stops, ``log₂(cos 45° / cos(45° + turn))``: of a surface that the key met at 45° and turns away from.

    References
    ----------
    lambert, aslant

    Examples
    --------
    >>> round(aslant_stops(1.0), 4), round(aslant_stops(0.3), 4)
    (0.0256, 0.0076)
    """
    from_it = min(_ASLANT_DEG + abs(turned_deg), _NEARLY_DARK_DEG)
    return math.log2(math.cos(math.radians(_ASLANT_DEG)) / math.cos(math.radians(from_it)))


def lamp_held(layer: Layer, planned: SetUp, cheat: Cheat) -> LampHeld | None:
    """What keeps the light of a lamp that was moved as it was.

    Parameters
    ----------
    layer : Layer
        What is lit.
    planned : SetUp
        As planned, with its lamps.
    cheat : Cheat
        Of a lamp.

    Returns
    -------
    LampHeld or None
        None where no such lamp is planned, it is away, or its light does not reach the figure.

    References
    ----------
    inverse_square

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> spot = PlacedLamp(name="spot", intensity_cd=18000, height_m=0.2, behind_m=-1.0, aim_behind_m=0.05)
    >>> held = lamp_held(MILL, MODEL.but(lamps=(spot,)), Cheat(kind="lamp", name="spot", right_mm=500))
    >>> round(held.right_mm), round(held.back_mm) < 0
    (0, True)
    """
    lamp = next((each for each in planned.lamps if each.name == cheat.name), None)
    moved = _lamp_as(lamp, [cheat]) if lamp is not None and cheat.kind == "lamp" else None
    if lamp is None or moved is None:
        return None
    point = subject_point(layer, planned)
    full = metered_lx(moved.but(level=1.0), point)
    there, far = math.dist(lamp.place, point), math.dist(moved.place, point)
    if full <= 0.0 or not there:
        return None
    right, up, back = (
        _MM * (aside - here) * (far / there - 1.0) for aside, here in zip(lamp.place, point, strict=True)
    )
    return LampHeld(metered_lx(lamp, point) / full, right, up, back)
