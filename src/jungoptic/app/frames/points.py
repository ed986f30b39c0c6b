"""A sheet's points of the figure as they are read: where each is planned and seen, and what is to be said."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from itertools import pairwise
from typing import Any

from jungoptic.app.base.answers import Json
from jungoptic.app.frames.beside import Held, Sought
from jungoptic.app.frames.models import (
    Exposure,
    ExposureSheet,
    FigurePoint,
    Hyperlapse,
    PointPlace,
    Pose,
)
from jungoptic.core.errors import InputError
from jungoptic.core.frames import (
    KeyPose,
    Place,
    PointAt,
    Walk,
    aim_told,
    first_frames,
    off_spacing,
    settled,
    slides,
    spaced,
    step_text,
    strobing,
    walked,
)

_PLAIN = ("name", "arcs", "keys", "planted", "version")


@dataclass(frozen=True)
class Gate:
    """How large a sheet's photographs are in the delivered frame, px; and a millimetre of its set, None where
    nothing is filmed.
    """

    width: float
    height: float
    mm_px: float | None

    def px(self, x: float, y: float) -> Place:
        """A place in shares of the photograph, delivered px."""
        return x * self.width, y * self.height

    def mm(self, px: float | None) -> float | None:
        """Delivered px, mm of the set."""
        return None if px is None or self.mm_px is None else px / self.mm_px

    def framed_wider(self, margin: float) -> Gate:
        """The same where such a share of the photograph is left out on each side before it is delivered."""
        kept = 1.0 - 2.0 * margin
        return Gate(self.width / kept, self.height / kept, self.mm_px and self.mm_px / kept)

    def share(self, place: Place) -> Place:
        """A place in delivered px, shares of the photograph."""
        return place[0] / self.width, place[1] / self.height


def hyperlapse_of(sheet: ExposureSheet) -> Hyperlapse | None:
    """The hyperlapse that a sheet is of, if it is of one."""
    return (
        Hyperlapse.objects.filter(point__sheet=sheet, point__removed=False, removed=False)
        .select_related("point")
        .first()
    )


def _finite(amount: float) -> float | None:
    return amount if math.isfinite(amount) else None


def keys_of(keys: Sequence[Mapping[str, Any]], gate: Gate) -> list[KeyPose]:
    """Keys as they are kept, delivered px."""
    return [
        KeyPose(key["frame"], *gate.px(key["x"], key["y"]), key["eases_in"], key["eases_out"]) for key in keys
    ]


def kept(keys: Sequence[KeyPose], gate: Gate) -> list[Json]:
    """Keys as they are kept, shares of the photograph."""
    places = [gate.share((key.x, key.y)) for key in keys]
    return [{**asdict(key), "x": x, "y": y} for key, (x, y) in zip(keys, places, strict=True)]


def planned_px(point: FigurePoint, frames: Sequence[int], gate: Gate) -> list[Place]:
    """Where a point is planned to be at poses, delivered px; nothing where it has no keys."""
    keys = keys_of(point.keys, gate)
    if len(keys) < 2:
        return [(key.x, key.y) for key in keys] * len(frames)
    return [(float(x), float(y)) for x, y in spaced(keys, frames, point.arcs)]


class SheetPoints:
    """The points of a sheet with where they are seen, in three queries; ``hyper`` is the hyperlapse that it
    is of, whose photographs are framed wider.

    ``poses`` are all lines of the sheet in their order; what is seen is that of the exposures that are shown,
    of the first pass.
    """

    def __init__(self, sheet: ExposureSheet, poses: Sequence[Pose], gate: Gate) -> None:
        self.hyper = hyperlapse_of(sheet)
        self.poses = poses
        self.gate = gate if self.hyper is None else gate.framed_wider(self.hyper.planned.margin_pct / 100.0)
        production = sheet.layer.shot.production
        self.needed_px: Place = production.delivery_width_px, production.delivery_height_px
        self.frames = first_frames([pose.hold for pose in poses])
        self.points = list(FigurePoint.objects.filter(sheet=sheet, removed=False))
        self.places = self._seen()
        self.planned = {point.pk: planned_px(point, self.frames, self.gate) for point in self.points}

    def _seen(self, **of: Any) -> dict[tuple[int, int], PointPlace]:
        """Where points are seen, by their ids and the poses'."""
        shown = PointPlace.objects.filter(
            point__in=self.points,
            removed=False,
            exposure__chosen=True,
            exposure__removed=False,
            exposure__light_pass=0,
            **of,
        )
        rows = shown.select_related("exposure__file").defer("exposure__watched")
        return {(row.point_id, row.exposure.pose_id): row for row in rows}

    def look_again(self, pose: Pose) -> None:
        """Read again where points are seen in a pose: it was photographed."""
        others = {key: row for key, row in self.places.items() if key[1] != pose.pk}
        self.places = others | self._seen(exposure__pose=pose)

    def at(self, point: FigurePoint, place: int) -> PointAt:
        """A point at a pose."""
        planned, row = self.planned[point.pk], self.places.get((point.pk, self.poses[place].pk))
        return PointAt(planned[place] if planned else None, self.gate.px(row.x, row.y) if row else None)

    def told(self, place: int) -> list[Json]:
        """What is to be said of all points at a pose, over the wire."""
        if self.hyper is not None:
            sides = self.gate.width, self.gate.height
            warned = aim_told(self.hyper.point.name, self.aim_off(place), sides, self.needed_px)
            return [{**asdict(each), "amount": _finite(each.amount)} for each in warned]
        told: list[Json] = []
        for point in self.points:
            here = self.at(point, place)
            if here.seen is not None and here.planned is not None:
                before = self._before(point, place)
                told += (asdict(each) for each in off_spacing(point.name, here, before, self.gate.mm_px))
        return told

    @property
    def mark_px(self) -> Place:
        """Where a hyperlapse's guide mark is, delivered px."""
        assert self.hyper is not None
        return self.gate.px(self.hyper.planned.mark_x, self.hyper.planned.mark_y)

    def aim_off(self, place: int) -> Place | None:
        """How far a hyperlapse's photograph of a pose is aimed off, delivered px; None where that is not
        known.
        """
        assert self.hyper is not None
        seen, mark = self.at(self.hyper.point, place).seen, self.mark_px
        return None if seen is None else (seen[0] - mark[0], seen[1] - mark[1])

    def _before(self, point: FigurePoint, place: int) -> PointAt | None:
        """The pose before one in which a point is seen."""
        earlier = (self.at(point, number) for number in range(place - 1, -1, -1))
        return next((each for each in earlier if each.seen is not None), None)

    def sought(self, place: int, earlier: Sequence[Exposure]) -> tuple[Sought, ...]:
        """What is looked for in a new exposure of a pose: ``earlier`` are the ones before it, the newest
        first, with their files.
        """
        places = {pose.pk: number for number, pose in enumerate(self.poses)}
        held: dict[int, Held] = {}
        asked = []
        for point in self.points:
            last = next((row for row in earlier if (point.pk, row.pose_id) in self.places), None)
            if last is None:
                continue
            there = self.places[point.pk, last.pose_id]
            step = (0.0, 0.0)
            if planned := self.planned[point.pk]:
                now, then = planned[place], planned[places[last.pose_id]]
                step = self.gate.share((now[0] - then[0], now[1] - then[1]))
            if last.pk not in held:
                held[last.pk] = Held.of(last.file.read())
            asked.append(Sought(point.pk, held[last.pk], (there.x, there.y), step))
        return tuple(asked)

    def answers(self, upcoming: int) -> list[Json]:
        """All points over the wire; ``upcoming`` is the place of the pose that is taken next."""
        return [self._answer(point, upcoming) for point in self.points]

    def _answer(self, point: FigurePoint, upcoming: int) -> Json:
        planned, gate = self.planned[point.pk], self.gate
        seen = [self.at(point, place).seen for place in range(len(self.poses))]
        steps = [math.dist(near, far) for near, far in pairwise(planned)]
        rows = (self.places.get((point.pk, pose.pk)) for pose in self.poses)
        return {
            "id": point.pk,
            **{name: getattr(point, name) for name in _PLAIN},
            "places": [gate.share(place) for place in planned],
            "seen": [
                {name: getattr(row, name) for name in ("exposure_id", "x", "y", "marked")}
                for row in rows
                if row is not None
            ],
            "fastest_px": max(steps, default=None),
            "strobing": strobing(planned),
            "slides": [
                {**asdict(slide), "mm": gate.mm(slide.px)}
                for slide in slides([(span[0], span[1]) for span in point.planted], self.frames, seen)
            ],
            "next": self._next(point, upcoming),
        }

    def _next(self, point: FigurePoint, upcoming: int) -> Json | None:
        if upcoming < 1 or not self.planned[point.pk]:
            return None
        planned = self.planned[point.pk]
        start, to = self.at(point, upcoming - 1).seen or planned[upcoming - 1], planned[upcoming]
        right, down = to[0] - start[0], to[1] - start[1]
        text = step_text(right, down, self.gate.mm_px)
        return {"place": upcoming, "px": math.hypot(right, down), "text": text}


def refuse_no_path(keys: Sequence[Mapping[str, Any]], planted: Sequence[Sequence[int]], gate: Gate) -> None:
    """Raise InputError where keys are no path, or a foot stands until before it came."""
    if len(keys) > 1:
        try:
            spaced(keys_of(keys, gate), (1,))
        except ValueError:
            raise InputError.at(
                "keys",
                "Each key needs a later frame than the one before, and from key to key the easing out and in"
                " is all of the time at most.",
            ) from None
    for first, last in planted:
        if last < first:
            said = f"It stands from a frame to a later one: {first} to {last} was given."
            raise InputError.at("planted", said)


def with_settling(point: FigurePoint, gate: Gate, reach_px: float, poses: int, on: int) -> Json:
    """A point's keys with a settling behind the last. Raises InputError."""
    try:
        keys = settled(keys_of(point.keys, gate), reach_px, poses, on)
    except ValueError:
        said = "What settles comes from somewhere: give the point two keys, the last two at different places."
        raise InputError.at("settle", said) from None
    return {"keys": kept(keys, gate)}


def with_walk(point: FigurePoint, gate: Gate, walk: Mapping[str, Any]) -> Json:
    """A foot's keys through a walk, and when it stands. Raises InputError."""
    if not point.keys:
        raise InputError.at("walk", "A walk begins where the foot stands: set a first key there.")
    first = point.keys[0]
    x, y = gate.px(first["x"], first["y"])
    keys, planted = walked(Walk(x=x, y=y, **walk))
    return {"keys": kept(keys, gate), "planted": [list(span) for span in planted]}
