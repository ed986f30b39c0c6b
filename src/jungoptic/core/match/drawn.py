"""What the lines of the board tell: things over a matte line, in a zone that must stay clear, marks that
leave the frame.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from shapely import Point, Polygon

from ..kit.records import Kit
from ..wording import Words, number
from .board import BoardLine
from .camera import across_px
from .measure import Match
from .saying import Explanation, Value, Values
from .stack import Finding, Look, Member, Stack
from .view import Moment, wanted_view

Array = npt.NDArray[np.float64]
_SHARES = (0.0, 0.25, 0.5, 0.75, 1.0)
_MARK_CLEAR_PX = 4.0
_BEFORE_LENS_M = 0.05
_LEAST_FORWARD = 1e-3  # of a ray: what looks across or back never meets the front edge


def lines(stack: Stack, *kinds: str) -> tuple[BoardLine, ...]:
    return tuple(line for line in stack.plan.lines if line.kind in kinds)


@dataclass(frozen=True, slots=True)
class Seen:
    """Corners of one piece as the hero wants them, with their places in the world: (x, y) px, (n, 2), and
    (across, over the hero's ground, from the lens) m, (n, 3).
    """

    px: Array
    place_m: Array


def in_hero(stack: Stack, member: Member, shares: tuple[float, ...] = _SHARES) -> Iterator[Seen]:
    """The member's outlines in the hero's frame as the shot begins, at shares of what it travels."""
    layer, delivery = member.layer, stack.delivery
    view = wanted_view(stack.hero, layer, delivery)
    wire = layer.wire
    for share in shares if layer.travels else shares[:1]:
        corners = wire.starts + layer.travel_m * share
        seen = view.seen(corners, delivery.width_px, delivery.height_px)
        place = corners + np.array([0.0, layer.base_m, layer.near_m])
        for first, count in zip(wire.first, wire.count, strict=True):
            piece = slice(first, first + count)
            before = place[piece, 2] > _BEFORE_LENS_M
            if before.sum() >= 3:
                yield Seen(seen[piece][before], place[piece][before])


def over_matte(stack: Stack, member: Member) -> tuple[float, float, Array] | None:
    """How far the member rises over drawn matte lines, px, with the line's y there and the point's place, m
    as in :class:`Seen`.

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
    worst: tuple[float, float, Array] | None = None
    for line in lines(stack, "matte"):
        behind = next((other for other in stack.members if other.layer.name == line.layer), None)
        if behind is None or behind is member or layer.near_m >= behind.layer.near_m or member.setup is None:
            continue
        left, _, right, _ = line.rectangle
        for seen in in_hero(stack, member):
            for (x, y), place in zip(seen.px, seen.place_m, strict=True):
                line_y = line.y_at(float(x)) if left <= x <= right else None
                if line_y is not None and (worst is None or line_y - y > worst[0]):
                    worst = (float(line_y - y), float(line_y), place)
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
        for seen in in_hero(stack, member):
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
    recorded = across_px(setup, setup.extracted_mm) / match.layer.resize
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


def tracking_mark(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A mark that leaves the frame or is covered is lost to whoever tracks; said of the hero.

    It stands as far away as the layer that it speaks of, else as what an arc goes round, else where the
    hero's front edge is.
    """
    marks = lines(stack, "tracking")
    member = stack.members[position]
    if not marks or not member.is_hero:
        return None
    width, height = float(stack.delivery.width_px), float(stack.delivery.height_px)
    move = stack.delivery.move
    start = wanted_view(stack.hero, member.layer, stack.delivery)
    worst, why = 0.0, "stay in the frame, uncovered"
    for mark in marks:
        name = mark.thing or mark.note or "the mark"
        spoken_of = next((other.layer for other in stack.members if other.layer.name == mark.layer), None)
        near_m = spoken_of.near_m if spoken_of else move.round_m or member.layer.near_m
        ray = start.ray(*mark.points[0], width, height)
        point = (start.eye + ray * (near_m / max(ray[2], _LEAST_FORWARD)))[None]
        for share in _SHARES if not move.still else (0.0,):
            there = wanted_view(stack.hero, member.layer, stack.delivery, Moment(share))
            x, y = (float(place) for place in there.seen(point, width, height)[0])
            out = max(-x, x - width, -y, y - height, 0.0)
            if out > worst:
                worst, why = (
                    out,
                    f"{name} leaves the frame by {out:.0f} px after {100 * share:.0f} % of the move",
                )
        for other in stack.members:
            if other is member or other.layer.near_m > member.layer.near_m or other.layer.fills_frame:
                continue
            for seen in in_hero(stack, other):
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
