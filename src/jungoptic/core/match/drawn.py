"""What the lines of the board tell: things over a matte line, in a zone that must stay clear, marks that
leave the frame.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from shapely import Point, Polygon

from ..kit.records import Kit
from ..motion.move import Move
from ..wording import Words, number
from .board import BoardLine
from .measure import Match
from .saying import Explanation, Value, Values
from .stack import Finding, Look, Member, Stack

Array = npt.NDArray[np.float64]
_SHARES = (0.0, 0.25, 0.5, 0.75, 1.0)
_MARK_CLEAR_PX = 4.0


def lines(stack: Stack, *kinds: str) -> tuple[BoardLine, ...]:
    return tuple(line for line in stack.plan.lines if line.kind in kinds)


@dataclass(frozen=True, slots=True)
class Seen:
    """Corners of one part as the hero wants them, with their places in the set: (x, y) px and (height,
    distance) m.
    """

    px: Array
    height_m: Array
    distance_m: Array


def in_hero(stack: Stack, member: Member, f_px: float, shares: tuple[float, ...] = _SHARES) -> Iterator[Seen]:
    """The member's outlines in the hero's frame, at shares of what it travels.

    The hero's tilt shifts the frame.
    """
    layer = member.layer
    parts = [part.outline for part in layer.parts] or [
        np.array(
            [
                [s * layer.width_m / 2.0, y, 0.0]
                for s, y in ((-1, 0.0), (-1, layer.height_m), (1, layer.height_m), (1, 0.0))
            ]
        )
    ]
    still = not (layer.travel_across_m or layer.travel_up_m or layer.travel_away_m)
    for share in shares[:1] if still else shares:
        come = np.array([layer.travel_across_m, layer.travel_up_m, layer.travel_away_m]) * share
        for part in parts:
            corners = part + come + np.array([layer.offset_m, layer.base_m, layer.near_m])
            corners = corners[corners[:, 2] > 0.05]
            if len(corners) < 3:
                continue
            x = stack.delivery.width_px / 2.0 + f_px * corners[:, 0] / corners[:, 2]
            lens = stack.hero.lens_height_m - stack.hero.ground_height_m
            horizon = stack.y_px(f_px, lens, 1.0)
            y = horizon - f_px * (corners[:, 1] - lens) / corners[:, 2]
            yield Seen(np.column_stack((x, y)), corners[:, 1], corners[:, 2])


def over_matte(stack: Stack, member: Member, f_px: float) -> tuple[float, float, float, float] | None:
    """How far the member rises over drawn matte lines, px, with the line's y there and the point's height and
    distance, m.

    A line speaks of whatever stands nearer than the layer that passes behind it and is not cut out by a
    matte of its own. None where no line speaks of it.
    """
    layer = member.layer
    if (
        layer.fills_frame
        or layer.kind in ("clean_plate", "haze", "black_element")
        or layer.combine in ("key", "add", "screen", "multiply")
    ):
        return None
    worst: tuple[float, float, float, float] | None = None
    for line in lines(stack, "matte"):
        behind = next((other for other in stack.members if other.layer.name == line.layer), None)
        if behind is None or behind is member or layer.near_m >= behind.layer.near_m or member.setup is None:
            continue
        left, _, right, _ = line.rectangle
        for seen in in_hero(stack, member, f_px):
            for (x, y), height, distance in zip(seen.px, seen.height_m, seen.distance_m, strict=True):
                line_y = line.y_at(float(x)) if left <= x <= right else None
                if line_y is not None and (worst is None or line_y - y > worst[0]):
                    worst = (float(line_y - y), float(line_y), float(height), float(distance))
    return worst


def split_at(stack: Stack, side: str, low_y: float, high_y: float) -> tuple[float, float] | None:
    """Where a drawn split line stands for one half over the heights that it uses, with its feather, px."""
    drawn: list[tuple[float, float]] = []
    for line in lines(stack, "split"):
        _, top, _, bottom = line.rectangle
        heights = (
            list(np.linspace(max(low_y, top), min(high_y, bottom), 9))
            if max(low_y, top) <= min(high_y, bottom)
            else []
        )
        places = [x for y in heights if (x := line.x_at(float(y), rightmost=side == "right")) is not None]
        if places:
            drawn.append((min(places) if side == "left" else max(places), line.feather_px))
    if not drawn:
        return None
    return min(drawn) if side == "left" else max(drawn)


def keep_clear(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Whatever moves or stands in a zone that must stay clear."""
    zones = lines(stack, "keep_clear")
    member = stack.members[position]
    layer = member.layer
    if not zones or layer.fills_frame or layer.kind in ("clean_plate", "haze"):
        return None
    deepest, of = 0.0, zones[0]
    for zone in zones:
        if zone.layer and zone.layer != layer.name:
            continue
        area = zone.zone
        for seen in in_hero(stack, member, match.f_hero_px):
            inside = Polygon(seen.px).buffer(0).intersection(area)
            if inside.is_empty:
                continue
            left, top, right, bottom = inside.bounds
            if min(right - left, bottom - top) > deepest:
                deepest, of = min(right - left, bottom - top), zone
    name = of.note or "the zone that must stay clear"
    sentence = f"{layer.name} " + (
        f"stands {deepest:.0f} px in {name}." if deepest else f"stays out of {name}."
    )

    def values() -> Values:
        return (Value("in it", "narrowest side of what overlaps", f"{deepest:.1f} px"),)

    return Finding("keep_clear", deepest, Explanation("in it" if deepest else "clear", sentence, values))


def final_framing(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """What the last crop enlarges beyond what was recorded; said of every filmed layer that fills it, first
    the hero.
    """
    drawn = lines(stack, "framing")
    setup = match.setup if not stack.members[position].is_hero else stack.hero
    if not drawn or setup is None:
        return None
    left, top, right, bottom = drawn[-1].rectangle
    width, height = stack.delivery.width_px, stack.delivery.height_px
    grows = width / (right - left)
    recorded = setup.recorded_width_px * setup.extracted_mm / setup.gate_width_mm / match.layer.resize
    enlarged = max(0.0, 100.0 * (grows * width / recorded - 1.0))
    shape = (right - left) / (bottom - top)
    off = abs(shape / (width / height) - 1.0)
    wrong = (
        f" Its shape is {shape:.2f}:1 and the delivery's {width / height:.2f}:1: draw it to shape."
        if off > 0.01
        else ""
    )
    sentence = (
        f"The final framing uses {right - left:.0f} of {width} px and is enlarged {number(100 * grows, 3)} %;"
        f" {recorded:.0f} px were recorded across the frame, so what is seen is enlarged"
        f" {number(100 + enlarged, 3)} %.{wrong}"
    )

    def values() -> Values:
        return (
            Value("crop", "width of the final framing", f"{right - left:.0f} px"),
            Value("recorded", "across the delivery", f"{recorded:.0f} px"),
        )

    return Finding(
        "final_framing",
        enlarged + (100.0 * off if off > 0.01 else 0.0),
        Explanation(f"crop to {right - left:.0f} px", sentence, values),
    )


def _mark_shift(
    move: Move,
    share: float,
    f_px: float,
    point: tuple[float, float],
    middle: tuple[float, float],
    near_m: float,
) -> tuple[float, float]:
    """Where a mark stands after a share of the move, px.

    Slides and pushes are taken at the hero's near end, where they show most.
    """
    x, y = point[0] - middle[0], point[1] - middle[1]
    done = move.amount * share
    if move.kind == "pan":
        x = f_px * math.tan(math.atan2(x, f_px) - math.radians(done))
    elif move.kind == "tilt":
        y = f_px * math.tan(math.atan2(y, f_px) + math.radians(done))
    elif move.kind == "slide":
        x -= f_px * done / near_m
    elif move.kind == "push" and near_m > done:
        x, y = x * near_m / (near_m - done), y * near_m / (near_m - done)
    return x + middle[0], y + middle[1]


def tracking_mark(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A mark that leaves the frame or is covered is lost to whoever tracks; said of the hero."""
    marks = lines(stack, "tracking")
    member = stack.members[position]
    if not marks or not member.is_hero:
        return None
    width, height = float(stack.delivery.width_px), float(stack.delivery.height_px)
    move, f_px = stack.delivery.move, match.f_hero_px
    worst, why = 0.0, "stay in the frame, uncovered"
    for mark in marks:
        name = mark.thing or mark.note or "the mark"
        for share in _SHARES if not move.still else (0.0,):
            x, y = _mark_shift(
                move, share, f_px, mark.points[0], (width / 2.0, height / 2.0), member.layer.near_m
            )
            out = max(-x, x - width, -y, y - height, 0.0)
            if out > worst:
                worst, why = (
                    out,
                    f"{name} leaves the frame by {out:.0f} px after {100 * share:.0f} % of the move",
                )
        for other in stack.members:
            if other is member or other.layer.near_m > member.layer.near_m or other.layer.fills_frame:
                continue
            for seen in in_hero(stack, other, f_px):
                shape = Polygon(seen.px).buffer(0)
                if shape.contains(Point(mark.points[0])):
                    deep = max(
                        (
                            shape.exterior.distance(Point(mark.points[0]))
                            if shape.geom_type == "Polygon"
                            else 0.0
                        ),
                        _MARK_CLEAR_PX,
                    )
                    if deep > worst:
                        worst, why = (
                            deep,
                            f"{name} is covered by {other.layer.name}, {deep:.0f} px from its edge",
                        )
    sentence = f"{len(marks)} mark{'s' if len(marks) > 1 else ''}: {why}."
    return Finding("tracking_mark", worst, Explanation("lost" if worst else "seen", sentence, tuple))


DRAWN: tuple[Look, ...] = (keep_clear, final_framing, tracking_mark)
