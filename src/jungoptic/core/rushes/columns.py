"""What was measured of a take beside what was planned and logged of it, on one ladder."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..match import (
    ITEMS,
    Layer,
    Match,
    Member,
    SetUp,
    Stack,
    Tolerance,
    exposure_offset_stops,
    ladder,
    resolved,
    verdict,
)
from ..wording import Words
from .pointing import Line, Pointed, RowTold, acts_as_mm, pointed
from .verdicts import ITEM_OF, AmountJudged, JudgedBy, judged

PLAN_OFF = 0.05
"""What is foretold is held to be right within this share of itself; errors of tape and level come to it."""
_UNSEEN = 0.1
"""Of what holds: nothing is set or logged finer."""
_ANY = JudgedBy("")
DIALS = ("lens", "height", "tilt", "roll")
"""Items that a photograph tells by the camera's dials."""
_DIALS = dict(zip(("view", "height", "tilt", "roll"), DIALS, strict=True))


@dataclass(frozen=True, slots=True)
class Foretold:
    """An amount of an item as it was planned or logged, what of it is error of the tape and the level, and by
    what it is judged.
    """

    amount: float
    placing: float = 0.0
    limit: Tolerance | None = None

    @property
    def off(self) -> float:
        """How far it may be off."""
        return self.placing + PLAN_OFF * self.amount


@dataclass(frozen=True, slots=True)
class Column:
    """One line of the measuring table: the amount of an item as it was planned, as it was logged and as it
    was measured; None where nobody planned or logged it. The measured one judges. ``apart`` says that it is
    off what was foretold by more than both errors, ``points`` what that points to.
    """

    row: RowTold
    judged: AmountJudged
    planned: float | None
    logged: float | None
    apart: bool
    points: Pointed


def columns(
    rows: Iterable[RowTold],
    stack: Stack,
    position: int,
    planned: Mapping[str, Foretold],
    logged: Mapping[str, Foretold],
    tolerances: Mapping[str, Tolerance],
    words: Words,
) -> tuple[Column, ...]:
    """The measuring table of a take.

    Parameters
    ----------
    rows : iterable of RowTold
        What was measured of it: the last of each row.
    stack : Stack
        The shot, the layer as it was filmed.
    position : int
        Of the layer in the stack, from 0.
    planned, logged : mapping of str to Foretold
        By item.
    tolerances : mapping of str to Tolerance
        In place of the items' own.
    words : Words
        How lengths are told.

    Returns
    -------
    tuple of Column
        What shows most first; an item that several rows tell once, by the row that shows it most.

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> from ..measure import Amount
    >>> row = RowTold("flicker", (Amount("flicker", "Flicker", 0.031, 0.002, "stop"),))
    >>> seen = columns([row], STACK, 2, {"flicker": Foretold(0.01)}, {}, {}, Words("metric"))[0]
    >>> seen.judged.verdict, seen.planned, seen.apart, seen.points.kit
    ('tight', 0.01, True, 'lamp')
    """
    member = stack.members[position]
    if member.setup is None:
        return ()
    limits = {
        **tolerances,
        **{item: each.limit for item, each in planned.items() if each.limit is not None},
    }
    still = _stands_still(stack, member)
    told: dict[str, Column] = {}
    for row in rows:
        for seen in (*judged(row.what, row.amounts, limits), *_by_dials(row, stack, member, limits)):
            if not still and ITEM_OF.get((row.what, seen.amount), _ANY).locked:
                continue
            if seen.item == "flicker" and member.layer.kind == "light_pass":
                continue  # its light is to change
            column = _column(row, seen, member.layer, member.setup, planned, logged, words)
            name = f"{row.what}.{seen.amount}" if seen.pair else seen.item
            if name not in told or column.judged.ladder > told[name].judged.ladder:
                told[name] = column
    return tuple(sorted(told.values(), key=_place))


def _stands_still(stack: Stack, member: Member) -> bool:
    """Whether the camera is to stand still over the whole shot."""
    move = stack.delivery.move
    moves = move.kind != "none" or move.shake_px > 0
    return not (moves and member.setup is not None and member.setup.follows_move)


def _place(column: Column) -> float:
    return -column.judged.ladder


def _column(
    row: RowTold,
    seen: AmountJudged,
    layer: Layer,
    filmed: SetUp,
    planned: Mapping[str, Foretold],
    logged: Mapping[str, Foretold],
    words: Words,
) -> Column:
    plan, log = (
        (Foretold(0.0), _between(seen, filmed, row.other))
        if seen.pair
        else (planned.get(seen.item), logged.get(seen.item))
    )
    by = log or plan
    unseen = _UNSEEN * ITEMS[seen.item].tolerance.holds
    apart = by is not None and abs(seen.size - by.amount) > (seen.off or 0.0) + max(by.off, unseen)
    line = Line(seen, row, by.amount if by else None, apart)
    return Column(
        row,
        seen,
        plan.amount if plan else None,
        log.amount if log else None,
        apart,
        pointed(line, layer, filmed, words),
    )


def _between(seen: AmountJudged, filmed: SetUp, other: SetUp | None) -> Foretold | None:
    """What two recordings of one set-up differ by as they were logged; None where the log does not tell."""
    if other is None:
        return None
    if seen.item == "brightness":
        return Foretold(abs(exposure_offset_stops(filmed) - exposure_offset_stops(other)))
    if seen.item == "colour":
        shifts = [1e6 / each.light_k - 1e6 / each.white_balance_k for each in (filmed, other)]
        return Foretold(abs(shifts[0] - shifts[1]))
    places = [
        (each.focal_length_mm, each.distance_m, each.lens_height_m, each.tilt_deg, each.roll_deg)
        for each in (filmed, other)
    ]
    if seen.item == "split_line" and all(math.isclose(a, b) for a, b in zip(*places, strict=True)):
        return Foretold(0.0)
    return None


def _by_dials(
    row: RowTold, stack: Stack, member: Member, limits: Mapping[str, Tolerance]
) -> list[AmountJudged]:
    """The camera that a photograph tells, as items of the ladder: the take is judged with that dial as it was
    measured, and its error is what the dial's error makes of it.
    """
    if row.what != "photograph" or member.setup is None:
        return []
    told = []
    for amount in row.amounts:
        if (item := _DIALS.get(amount.name)) is None:
            continue
        off = amount.off or 0.0
        sizes = [
            Match(
                stack.hero,
                member.layer,
                resolved(as_measured(member.setup, {amount.name: amount.value + way}), member.layer),
                stack.delivery,
            ).amounts.get(item)
            for way in (0.0, off, -off)
        ]
        if sizes[0] is None:
            continue
        error = max(abs((each or 0.0) - sizes[0]) for each in sizes[1:])
        limit = limits.get(item, ITEMS[item].tolerance)
        told.append(
            AmountJudged(
                amount.name,
                item,
                ITEMS[item].label,
                ITEMS[item].unit,
                sizes[0],
                error,
                verdict(sizes[0], limit),
                float(ladder(sizes[0], limit)),
                pair=False,
            )
        )
    return told


def as_measured(setup: SetUp, measured: Mapping[str, float]) -> SetUp:
    """A set-up with what its frames tell of it in the place of what was logged.

    Parameters
    ----------
    setup : SetUp
        As logged.
    measured : mapping of str to float
        Angle of view across (``view``), tilt, roll, degrees; lens height over its ground, metres
        (``height``); where the key stands (``azimuth``, ``elevation``), degrees, how large it looks
        (``wide``), degrees, and key over fill (``key_fill``), stops. Other names are left.

    Returns
    -------
    SetUp
        The lens as it acts; a key that was measured is no lamp's any more.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> from ..match import picture_view_deg
    >>> seen = as_measured(HERO, {"view": 36.0, "height": 1.5})
    >>> round(picture_view_deg(seen), 3), seen.lens_height_m
    (36.0, 1.5)
    """
    changed: dict[str, float | bool] = {
        field: measured[name] for name, field in _FIELDS.items() if name in measured
    }
    if "height" in measured:
        changed["lens_height_m"] = setup.ground_height_m + measured["height"]
    if "azimuth" in measured:
        changed["key_measured"] = True
    if "view" in measured:
        changed["focal_length_mm"] = acts_as_mm(setup, measured["view"])
    return setup.model_copy(update=changed)


MEASURED = {
    "photograph": ("view", "height", "tilt", "roll"),
    "ball": ("azimuth", "elevation", "wide", "key_fill"),
}
"""What of a hero's rows can stand for what was logged of it."""
_FIELDS = {
    "tilt": "tilt_deg",
    "roll": "roll_deg",
    "azimuth": "key_azimuth_deg",
    "elevation": "key_elevation_deg",
    "wide": "key_size_deg",
    "key_fill": "key_to_fill_stops",
}
