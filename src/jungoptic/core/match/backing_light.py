"""Light on the sheet behind a subject and what it throws back: evenness, spill."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import partial

import numpy as np
import numpy.typing as npt

from ..kit.records import Kit
from ..light import radiate
from ..light.placed import Array, Backing, PlacedLamp
from ..wording import Words, number
from . import lighting
from .backing import ACROSS, UP, crossed, crossed_grid
from .layer import Layer
from .measure import Match
from .records import SetUp
from .samples import moments
from .saying import Explanation, Fix, Value, Values
from .sheet import DARK_LX, UNLIT_STOPS, sheet_of
from .stack import Finding, Stack
from .view import Moment, layer_view

SPILL_RIM = 1 / 16  # of the subject's light: four stops under it a keyer takes the spill out


_LOW, _HIGH = 2.0, 98.0
_FINER = 2
_NEAREST_M = 0.02  # a subject stands no nearer before its sheet


def _on_sheet(match: Match, setup: SetUp, backing: Backing) -> Array:
    return lighting.on_backing_lx(setup, crossed_grid(*crossed(match, setup, backing), backing.behind_m))


def ends_of(lit: Array, inside: npt.NDArray[np.bool_] | None = None) -> tuple[float, float]:
    """The darkest and the brightest of a sheet by area, 2nd and 98th of 100.

    Parameters
    ----------
    lit : ndarray of float, shape (rows, columns)
        Light at points as far apart from each other as from the next, the outermost on its rim, lux.
    inside : ndarray of bool, shape (2 · rows, 2 · columns), optional
        Which of the fields between them count, twice as many each way; all of them when left out.

    Returns
    -------
    tuple of (float, float)
        With straight lines between the points.

    Examples
    --------
    >>> even = np.tile(np.linspace(100.0, 200.0, 17), (11, 1))
    >>> [round(each) for each in ends_of(even)]
    [101, 199]
    """
    grid = lit
    for count in lit.shape[::-1]:
        places, whole = between(count) * (count - 1), np.arange(count)
        grid = np.stack([np.interp(places, whole, row) for row in grid]).T
    counted = grid if inside is None or not inside.any() else grid[inside]
    low, high = np.percentile(counted, (_LOW, _HIGH))
    return float(low), float(high)


def between(count: int) -> Array:
    """The middles of the fields between so many points, twice as many as they are.

    Parameters
    ----------
    count : int
        Of points, from one rim to the other.

    Returns
    -------
    ndarray of float, shape (2 · count,)
        Shares of the way from rim to rim.

    Examples
    --------
    >>> between(2).tolist()
    [0.125, 0.375, 0.625, 0.875]
    """
    return np.asarray((np.arange(_FINER * count) + 0.5) / (_FINER * count))


def _framed(match: Match, setup: SetUp, backing: Backing) -> npt.NDArray[np.bool_]:
    """Which fields of what is crossed the frame sees, at some time of its move."""
    left, right, low, high = crossed(match, setup, backing)
    across, up = left + between(ACROSS) * (right - left), low + between(UP) * (high - low)
    x, y = np.meshgrid(across, up - setup.ground_height_m)
    points = np.stack([x.ravel(), y.ravel(), np.full(x.size, backing.behind_m)], axis=1) * match.layer.scale
    size = (match.delivery.width_px, match.delivery.height_px)
    inside = np.zeros(len(points), bool)
    for share, _ in dict.fromkeys(
        zip(*(axis.tolist() for axis in moments(match.delivery, match.layer)), strict=True)
    ):
        px = layer_view(match, Moment(share)).seen(points, *size)
        inside |= ((px >= 0.0) & (px <= size)).all(axis=1)
    return inside.reshape(x.shape)


def evenness(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Brightest over darkest of what the subject crosses (98th and 2nd of 100 of its area, as a frame of it
    is measured), from lamps, sun and sky as they are.
    """
    placed = sheet_of(stack.members[position])
    if placed is None or not (placed[0].lamps or lighting.day_over(placed[0])):
        return None
    setup, backing = placed
    lit = _on_sheet(match, setup, backing)
    low, high = ends_of(lit.reshape(UP, ACROSS), _framed(match, setup, backing))
    spread = min(math.log2(high / low), UNLIT_STOPS) if low > DARK_LX else UNLIT_STOPS
    mean = float(lit.mean())
    under = math.log2(mean / setup.illuminance_lx) if mean > DARK_LX else -UNLIT_STOPS
    level = f"{number(abs(under), 2)} stop {'over' if under > 0 else 'under'} the light on the subject"
    sentence = (
        f"What is crossed has {words.light(low)} to {words.light(high)}, on average {level}; about the key's"
        " level or up to a stop under it is usual. "
    )
    on_it = [lamp for lamp in setup.lamps if lamp.role == "backing"]
    sentence += "Lamps further off, one to each side, even it." if spread > 1 / 3 else "It keys evenly."

    def values() -> Values:
        return (
            Value("E_max", "brightest", words.light(high)),
            Value("E_min", "darkest", words.light(low)),
            Value("mean", "on average", words.light(mean)),
        )

    def told() -> Explanation:
        def mending() -> tuple[Fix, ...]:
            return () if spread <= 1 / 3 else tuple(_evener(setup, backing, match, on_it, words))

        return Explanation(f"{number(spread, 2)} stop across", sentence, values, mending=mending)

    return Finding("evenness", spread, told)


def _evener(setup: SetUp, backing: Backing, match: Match, on_it: list[PlacedLamp], words: Words) -> list[Fix]:
    """Every lamp of the backing set further from it, where that evens what is crossed."""
    fixes: list[Fix] = []
    inside = _framed(match, setup, backing)
    for further in (1.5, 2.0, 3.0):
        moved = [_back_off(lamp, backing, further) for lamp in on_it]
        others = [lamp for lamp in setup.lamps if lamp.role != "backing"]
        lit = _on_sheet(match, setup.model_copy(update={"lamps": (*others, *moved)}), backing)
        low, high = ends_of(lit.reshape(UP, ACROSS), inside)
        if on_it and low > DARK_LX and math.log2(high / low) <= 1 / 3:
            changes = {
                "lamps": {
                    setup.lamps.index(lamp): {"behind_m": new.behind_m, "aim_behind_m": new.aim_behind_m}
                    for lamp, new in zip(on_it, moved, strict=True)
                }
            }
            fixes.append(Fix(f"Backing lamps {number(further, 2)} times as far", "lamps", changes))
            break
    return fixes


def _back_off(lamp: PlacedLamp, backing: Backing, further: float) -> PlacedLamp:
    away = backing.behind_m - lamp.behind_m
    return lamp.model_copy(
        update={
            "behind_m": round(backing.behind_m - away * further, 3),
            "aim_behind_m": round(backing.behind_m, 3),
        }
    )


@dataclass(frozen=True, slots=True)
class Spilt:
    """Light of a sheet on a subject, as shares of the subject's own: on its back, and at the worst of its
    ``rim``, which is on the ``side`` and sees the share ``factor`` of it.
    """

    back: float
    rim: float
    side: str
    factor: float


_COLUMNS, _ROWS = 16, 12


def _lit_lx(setup: SetUp, spots: Array) -> Array:
    """Light on a sheet from what is placed round it; as much as on the subject where nothing is."""
    if setup.lamps or lighting.day_over(setup):
        return lighting.on_backing_lx(setup, spots)
    return np.full(len(spots), setup.illuminance_lx)


def spilt(layer: Layer, setup: SetUp, backing: Backing) -> Spilt:
    """Spill on every side of a subject that a sheet can reach, wherever in its movement it is.

    A side is where the subject is nearest to the sheet, at the height of its middle; the top, at its highest.
    What the sheet sends is its light by how much of it each side sees.
    """
    s = layer.scale
    half, tall = layer.width_m / s / 2.0, layer.height_m / s
    ground = setup.ground_height_m
    deep = min(layer.body_m / s, backing.behind_m - _NEAREST_M)
    sweep_left, sweep_right = (end / s for end in layer.sweep_m)
    middles = sorted({layer.offset_m / s, sweep_left + half, sweep_right - half})
    left, low = backing.across_m - backing.width_m / 2.0, backing.bottom_m
    right, high = left + backing.width_m, low + backing.height_m
    corners = np.array([(left, low), (right, low), (right, high), (left, high)])
    corners = np.column_stack((corners, np.full(4, backing.behind_m)))
    xs = left + (np.arange(_COLUMNS) + 0.5) / _COLUMNS * backing.width_m
    ys = low + (np.arange(_ROWS) + 0.5) / _ROWS * backing.height_m
    spots = np.array([axis.ravel() for axis in np.meshgrid(xs, ys, [backing.behind_m])]).T
    lit = _lit_lx(setup, spots)

    def share(place: tuple[float, float, float], normal: tuple[float, float, float]) -> tuple[float, float]:
        """Share of the subject's light, and of what the place sees."""
        factor = radiate.polygon_factor(corners, place, normal)
        rays = spots - np.array(place)
        square = (rays**2).sum(axis=1)
        weights = np.clip(rays @ np.array(normal), 0.0, None) * rays[:, 2] / square**2
        if factor <= 0 or weights.sum() <= 0:
            return 0.0, 0.0
        sent = float(weights @ lit / weights.sum())
        return backing.reflectance * sent * factor / setup.illuminance_lx, factor

    back = max(share((x, ground + tall / 2.0, deep), (0.0, 0.0, 1.0))[0] for x in middles)
    rims = [
        (*share((x + way * half, ground + tall / 2.0, deep), (way, 0.0, 0.0)), name)
        for x in middles
        for way, name in ((-1.0, "left side"), (1.0, "right side"))
    ]
    rims += [(*share((x, ground + tall, deep), (0.0, 1.0, 0.0)), "top") for x in middles]
    rim, factor, side = max(rims)
    return Spilt(back, rim, side, factor)


def spill(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """The backing's own colour on the subject: full on its back, and at the rim that sees most of the sheet,
    which is the one judged.
    """
    placed = sheet_of(stack.members[position])
    layer = stack.members[position].layer
    if placed is None or placed[1].behind_m <= 2 * _NEAREST_M or layer.combine == "add":
        return None
    setup, backing = placed
    worst = spilt(layer, setup, backing)
    return Finding("spill", worst.rim, partial(_spill_told, worst, layer, setup, backing, words))


def _spill_told(worst: Spilt, layer: Layer, setup: SetUp, backing: Backing, words: Words) -> Explanation:
    lit = float(_lit_lx(setup, np.array([_middle_of(backing)]))[0])
    advice = (
        "Further off, less light on the sheet, or a smaller one."
        if worst.rim > SPILL_RIM
        else "A keyer takes that out."
    )
    sentence = (
        f"With {words.light(lit)} on its middle, the sheet {words.length(backing.behind_m)} behind throws"
        f" {100 * worst.rim:.1f} % of the subject's light on the rim of its {worst.side}"
        f" and {100 * worst.back:.0f} % on its back. {advice}"
    )

    def mending() -> tuple[Fix, ...]:
        if worst.rim <= SPILL_RIM:
            return ()
        tried = (d / 4 for d in range(math.ceil(backing.behind_m * 4) + 1, 60))
        further = next(
            (d for d in tried if spilt(layer, setup, backing.but(behind_m=d)).rim <= SPILL_RIM), None
        )
        if not further:
            return ()
        return (Fix(f"Sheet {words.length(further)} behind", "backing", {"behind_m": further}),)

    def values() -> Values:
        return (
            Value("ρ", "reflectance", number(backing.reflectance, 2)),
            Value("E_backing", "on the middle of the sheet", words.light(lit)),
            Value("E_subject", "on the subject", words.light(setup.illuminance_lx)),
            Value("F", f"seen from its {worst.side}", number(worst.factor, 2)),
        )

    where = f"{100 * worst.rim:.1f} % at its {worst.side}, {100 * worst.back:.0f} % on its back"
    return Explanation(where, sentence, values, mending=mending)


def _middle_of(backing: Backing) -> tuple[float, float, float]:
    return backing.across_m, backing.bottom_m + backing.height_m / 2.0, backing.behind_m
