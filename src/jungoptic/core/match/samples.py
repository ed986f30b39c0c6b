"""What the delivered frame shows of a layer: the points at which it is held against the hero, over the shot.

The outlines of a layer, or the box that it fills, are cut off at the edges of what is needed of the frame;
where a piece covers a corner of the frame, the point in that corner counts too.
"""

from __future__ import annotations

import operator
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from ..motion.path import Path
from ..optics.projection import NEAREST_M, rotation
from .layer import Layer
from .pose import Array, Pose, in_camera, pictured_at, pupil_place_m
from .records import Delivery

_MOST_POINTS = 64
_MOST_KEPT = 16
_EITHER_WAY = 0.01  # frames: over so little a movement is a straight line
_SHARES = tuple(share / 8.0 for share in range(9))  # of a move


@dataclass(frozen=True, slots=True)
class Around:
    """A move a little before and after each moment, and how many frames lie between (t,): none outside it."""

    before: Path
    after: Path
    frames: Array


@dataclass(frozen=True)
class Samples:
    """Points of a layer at several moments, full-size metres as in :mod:`.pose`.

    ``points`` (t, n, 3) is first what is seen of it, up to ``anchor``, which is where a compositor pins it
    down; from ``needed`` on it is what the recorded picture must hold. ``shown`` is False
    where nothing of it is in the frame; ``around`` is the move just
    before and after each moment, None where the camera stands; ``hero`` is the hero's
    camera (7, 1); ``kept`` is for whoever works something else out of it.

    Of v layers at once (:meth:`of_many`) ``points`` is (v, t, n, 3) and ``hero`` (7, v).
    """

    points: Array
    anchor: int
    needed: int
    shown: bool
    path: Path
    around: Around | None
    hero: Array
    kept: dict[Any, Any] = field(default_factory=dict)

    @cached_property
    def wanted_at(self) -> tuple[Array, Array]:
        """Where the hero's camera shows all of it (2, 1, t, n), delivered px from the middle, and how far
        from its lens along its axis that is (1, t, n), metres.
        """
        return pictured_at(self.points, self.path, self.hero)

    @property
    def wanted(self) -> Array:
        """Where the hero's camera shows all of it (2, 1, t, n), delivered px from the middle."""
        return self.wanted_at[0]

    @property
    def shape(self) -> tuple[bytes, bool, bool]:
        """What layers must have in common to be looked at together: moments, whether anything is seen of
        them, and whether a picture must hold more than that.
        """
        return self.path.share.tobytes(), self.shown, bool(self.needed)

    @classmethod
    def of_many(cls, many: Sequence[Samples]) -> Samples:
        """The samples of v layers of one :attr:`shape` as one, kept with the first of them. Of a layer that
        has fewer points than others the last one counts again: it changes no greatest and no least.
        """
        first = many[0]
        others = tuple(many[1:])
        kept: tuple[tuple[Samples, ...], Samples] | None = first.kept.get("many")
        if kept and len(kept[0]) == len(others) and all(map(operator.is_, kept[0], others)):
            return kept[1]
        most = max(samples.anchor for samples in many)
        points = [
            np.concatenate(
                [
                    samples.points[:, : samples.anchor],
                    np.repeat(
                        samples.points[:, samples.anchor - 1 : samples.anchor], most - samples.anchor, 1
                    ),
                    samples.points[:, samples.anchor :],
                ],
                axis=1,
            )
            for samples in many
        ]
        hero = np.concatenate([samples.hero for samples in many], axis=1)
        needed = most + 1 if first.needed else 0
        together = cls(np.stack(points), most, needed, first.shown, first.path, first.around, hero)
        first.kept["many"] = others, together
        return together

    @cached_property
    def behind(self) -> tuple[Array, Array]:
        """Which of the seen points belong to the front of the layer, and which to its back (t, n); all to
        both where there is nothing between them.
        """
        away = self.points[..., : self.anchor, 2]
        low, high = away.min(axis=-1, keepdims=True), away.max(axis=-1, keepdims=True)
        near = away <= (low + high) / 2.0
        return near, ~near | near.all(axis=(-2, -1), keepdims=True)


def moments(delivery: Delivery, layer: Layer) -> tuple[Array, Array]:
    """Shares of the move and of the layer's travel that are done at the moments that are looked at: start,
    end, and eighths between them.
    """
    frames, last = _frames(delivery, layer)
    move = delivery.move
    shares = [move.share_at(frame) if not move.still else 0.0 for frame in frames]
    come = [frame / last if layer.travels else 0.0 for frame in frames]
    return np.array(shares), np.array(come)


def _frames(delivery: Delivery, layer: Layer) -> tuple[list[float], int]:
    """Frames that are looked at, and the last one of the shot."""
    move = delivery.move
    moves, travels = not move.still, layer.travels
    if not moves and not travels:
        return [0.0], 1
    last = max((delivery.length_frames or move.end_frame + 1) - 1, 1)
    frames = {share * last for share in _SHARES} if travels else {0.0, float(last)}
    if moves:
        start, long = move.start_frame, move.end_frame - move.start_frame
        frames |= {min(start + share * long, float(last)) for share in _SHARES}
    return sorted(frames), last


def _around(delivery: Delivery, frames: list[float], radius_m: float) -> Around | None:
    """The move about each moment, from inside it where it begins and ends."""
    move = delivery.move
    if move.still:
        return None
    first, last = (
        np.clip(np.array(frames) + way * _EITHER_WAY, move.start_frame, move.end_frame) for way in (-1, 1)
    )
    before, after = (move.path([move.share_at(frame) for frame in ends], radius_m) for ends in (first, last))
    return Around(before, after, last - first)


class _Frame:
    """The hero's frame over the shot: what it cuts off, and rays through its edge."""

    def __init__(self, hero: Pose, delivery: Delivery, path: Path, come: Array) -> None:
        self.path, self.come, self.rows = path, come, hero.rows()
        focal = float(hero.f_px) * path.zoom
        self.half = tuple(side / 2.0 / focal for side in delivery.needed_px)
        right, up, forward = pupil_place_m(path, self.rows)
        zeros = np.zeros((1, len(path.share)))
        self.eye = np.stack(
            [
                (right + zeros)[0],
                (up + zeros)[0] + hero.height_m,
                (forward + zeros)[0] - hero.distance_m,
            ],
            axis=1,
        )
        self.turns = np.array(
            [
                rotation(float(hero.tilt_deg) + tilt, float(hero.roll_deg) + roll, pan).T
                for tilt, roll, pan in zip(path.tilt_deg, path.roll_deg, path.pan_deg, strict=True)
            ]
        )

    def rays(self, places: Array) -> Array:
        """Directions (t, k, 3) of places in the frame, each −1 … 1 across and down it (k, 2)."""
        half_w, half_h = self.half
        there = np.stack(
            [
                places[:, 0] * half_w[:, None],
                -places[:, 1] * half_h[:, None],
                np.ones((len(half_w), len(places))),
            ],
            axis=2,
        )
        directions: Array = np.einsum("tij,tkj->tki", self.turns, there)
        return directions

    def on_planes(self, rays: Array, axis: int, planes: Array) -> tuple[Array, Array]:
        """Where rays (t, k, 3) meet planes (t, p) across an axis: points (t, k, p, 3), and whether
        they do.
        """
        along = rays[:, :, None, axis]
        with np.errstate(divide="ignore", invalid="ignore"):
            far = (planes - self.eye[:, None, axis])[:, None, :] / along
        meets = np.isfinite(far) & (far > NEAREST_M)
        far = np.where(meets, far, 1.0)
        return self.eye[:, None, None, :] + far[..., None] * rays[:, :, None, :], meets

    def cut(self, starts: Array, ends: Array) -> tuple[Array, Array]:
        """Lines (e, 3 each) cut off at the edges of the frame: points (t, 2e, 3), and which of them count."""
        here, there = (ends_of + self.come[:, None, :] for ends_of in (starts, ends))
        inside = [self._inside(points) for points in (here, there)]
        with np.errstate(divide="ignore", invalid="ignore"):
            crossing = inside[0] / (inside[0] - inside[1])
        first = np.where(inside[0] < 0, np.where(inside[1] < 0, 2.0, crossing), 0.0).max(axis=0)
        last = np.where(inside[1] < 0, np.where(inside[0] < 0, -1.0, crossing), 1.0).min(axis=0)
        seen = first <= last
        along = there - here
        points = [here + np.where(seen, share, 0.0)[..., None] * along for share in (first, last)]
        return np.concatenate(points, axis=1), np.concatenate([seen, seen & (last < 1.0)], axis=1)

    def _inside(self, points: Array) -> Array:
        """How far inside each of the five planes that bound what is seen (5, t, n); negative is outside."""
        x, y, z = (axis[0] for axis in in_camera(points, self.path, self.rows))
        across, up = (half[:, None] * z for half in self.half)
        return np.stack([z - NEAREST_M, across + x, across - x, up + y, up - y])


_CORNERS = np.array([(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)])
_BORDER = np.array([(x, y) for x in (-1.0, 0.0, 1.0) for y in (-1.0, 0.0, 1.0) if x or y])


def _corners_on(layer: Layer, frame: _Frame) -> tuple[Array, Array]:
    """The corners of the frame where pieces of the layer cover them: points (t, k, 3), and which do."""
    wire, rays = layer.body_wire, frame.rays(_CORNERS)
    groups = []
    for axis, flat in ((2, 1), (1, 2)):  # upright pieces are looked at in (x, y), lying ones in (x, z)
        pieces = np.flatnonzero(wire.axis == axis)
        if not len(pieces):
            continue
        points, meets = frame.on_planes(rays, axis, wire.place[pieces] + frame.come[:, axis, None])
        local = points - frame.come[:, None, None, :]
        inside = np.zeros(meets.shape, dtype=bool)
        for place, piece in enumerate(pieces):
            edges = slice(wire.first[piece], wire.first[piece] + wire.count[piece])
            x, y = local[:, :, place, 0, None], local[:, :, place, flat, None]
            (x0, y0), (x1, y1) = (ends[edges][:, [0, flat]].T for ends in (wire.starts, wire.ends))
            with np.errstate(divide="ignore", invalid="ignore"):
                crosses = ((y0 > y) != (y1 > y)) & (x < (x1 - x0) * (y - y0) / (y1 - y0) + x0)
            inside[:, :, place] = crosses.sum(axis=2) % 2 == 1
        shape = (len(points), -1)
        groups.append((points.reshape(*shape, 3), (meets & inside).reshape(shape)))
    return np.concatenate([g[0] for g in groups], axis=1), np.concatenate([g[1] for g in groups], axis=1)


def _filled(points: Array, seen: Array) -> Array:
    """The points that count, as many at every moment: what is lacking is another that counts."""
    used = seen.any(axis=0)
    points, seen = points[:, used], seen[:, used]
    first = seen.argmax(axis=1)
    stand_in = np.take_along_axis(points, first[:, None, None], axis=1)
    return np.where(seen[..., None], points, stand_in)


def _spread(points: Array, frame: _Frame) -> Array:
    """The outermost of many points in the picture and in depth: nothing that lies between them is further
    off.
    """
    if points.shape[1] <= _MOST_POINTS:
        return points
    x, y, z = (axis[0] for axis in in_camera(points, frame.path, frame.rows))
    z = np.maximum(z, NEAREST_M)
    place = np.stack([x / z, y / z, 1.0 / z], axis=2)
    size = np.ptp(place, axis=1, keepdims=True)
    place = (place - place.mean(axis=1, keepdims=True)) / np.where(size > 0, size, 1.0)
    furthest = (place @ _directions()).argmax(axis=1)
    return np.take_along_axis(points, furthest[..., None], axis=1)


@lru_cache(maxsize=1)
def _directions() -> Array:
    """Directions spread evenly over a sphere (3, k), by the golden angle."""
    count = np.arange(_MOST_POINTS) + 0.5
    up, turn = 1.0 - 2.0 * count / _MOST_POINTS, np.pi * (1.0 + 5.0**0.5) * count
    level = np.sqrt(1.0 - up * up)
    return np.stack([level * np.cos(turn), level * np.sin(turn), up])


def _anchor(layer: Layer, frame: _Frame) -> Array:
    """Where a compositor pins the layer down (t, 1, 3): the middle of its near foot, or as near to it as the
    frame shows; of what fills the frame, the middle of the frame.
    """
    foot = (np.array([layer.offset_m, 0.0, 0.0]) + frame.come)[:, None, :]
    place = np.zeros((len(foot), 1, 2))
    x, y, z = (axis[0] for axis in in_camera(foot, frame.path, frame.rows))
    if not layer.fills_frame:
        z = np.maximum(z, NEAREST_M)
        place = np.stack([x / z / frame.half[0][:, None], -y / z / frame.half[1][:, None]], axis=2)
        if np.abs(place).max() <= 1.0:
            return foot
    place = np.clip(place, -1.0, 1.0)
    rays = np.concatenate([frame.rays(here)[t : t + 1] for t, here in enumerate(place)])
    there, meets = frame.on_planes(rays, 2, frame.come[:, 2, None])
    return np.where(meets, there[:, :, 0, :], foot)


def pin(hero: Pose, layer: Layer, delivery: Delivery, path: Path, travelled: float) -> Array:
    """Where a compositor pins the layer down at one moment (1, 1, 3)."""
    return _anchor(layer, _Frame(hero, delivery, path, travelled * layer.travel_m[None]))


def sampled(hero: Pose, layer: Layer, delivery: Delivery, radius_m: float) -> Samples:
    """What the frame shows of a layer through the hero's camera, kept with the layer.

    Parameters
    ----------
    hero : Pose
        The hero's camera before the layer.
    layer : Layer
        Its outlines, or its box.
    delivery : Delivery
        What is needed of the frame, and the move.
    radius_m : float
        How far before the hero's lens the point stands that an arc goes round, full-size metres.

    Returns
    -------
    Samples
        Where nothing of it is in the frame, its outlines as they are.

    References
    ----------
    pinhole
    """
    key = (hero, delivery.needed_px, delivery.move, delivery.length_frames, radius_m)
    kept: dict[Any, Any] = layer.worked_out
    if key not in kept:
        while len(kept) >= _MOST_KEPT:
            kept.pop(next(iter(kept)))
        kept[key] = _sampled(hero, layer, delivery, radius_m)
    samples: Samples = kept[key]
    return samples


def _sampled(hero: Pose, layer: Layer, delivery: Delivery, radius_m: float) -> Samples:
    shares, travelled = moments(delivery, layer)
    frames, _ = _frames(delivery, layer)
    path = delivery.move.path(shares, radius_m)
    frame = _Frame(hero, delivery, path, travelled[:, None] * layer.travel_m)
    wire = layer.body_wire
    whole = layer.fills_frame and not layer.parts
    border = frame.rays(_BORDER)
    if whole:
        depths = np.array([0.0, layer.body_m]) if layer.body_m else np.zeros(1)
        points, seen = frame.on_planes(border, 2, depths + frame.come[:, 2, None])
        points, seen = points.reshape(len(shares), -1, 3), seen.reshape(len(shares), -1)
    else:
        cut, corners = frame.cut(wire.starts, wire.ends), _corners_on(layer, frame)
        points, seen = (np.concatenate(both, axis=1) for both in zip(cut, corners, strict=True))
    lasting: npt.NDArray[np.bool_] = np.any(seen, axis=1)
    shown = bool(lasting.any())
    if not shown:
        points = wire.starts[None] + frame.come[:, None, :]
        seen = np.ones(points.shape[:2], dtype=bool)
        lasting = np.any(seen, axis=1)
    if not lasting.all():
        shares, travelled = shares[lasting], travelled[lasting]
        frames = [frame for frame, lasts in zip(frames, lasting.tolist(), strict=True) if lasts]
        points, seen = points[lasting], seen[lasting]
        path = delivery.move.path(shares, radius_m)
        frame = _Frame(hero, delivery, path, travelled[:, None] * layer.travel_m)
        border = frame.rays(_BORDER)
    points = _filled(points, seen)
    seen = _spread(points, frame)
    every = [seen, _anchor(layer, frame)]
    needed = 0
    if layer.fills_frame:
        there, meets = frame.on_planes(border, 2, frame.come[:, 2, None])
        if meets[:, :, 0].any(axis=1).all():
            every.append(_filled(there[:, :, 0], meets[:, :, 0]))
            needed = seen.shape[1] + 1
    around = _around(delivery, frames, radius_m)
    return Samples(np.concatenate(every, axis=1), seen.shape[1], needed, shown, path, around, frame.rows)
