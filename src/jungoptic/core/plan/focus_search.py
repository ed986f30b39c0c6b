"""Where to focus: for every lens and stop at once, the distances at which the layers are nearest their
hero's blur.

Every lens is looked at over what it can focus at, on a ring even in 1/distance, because blur is straight in
it; the best places are looked at again more finely.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from ..match.glass import LEAST_DEPTH_M, blur_px
from ..match.measure import Match
from ..match.pose import Array
from ..match.tolerances import Tolerance
from ..match.weighed import Weights, item_weight
from ..optics import frame
from ..optics.projection import NEAREST_M
from ..vocabulary import School

_ON_A_RING = 128
_KEPT = 3  # places for each lens and stop
_ROUNDS, _FINER = 3, 13
_BINS = 8  # of depths: what lies between the outermost of each is no worse
FARTHEST_M = 1e4


@dataclass(frozen=True, slots=True)
class Ends:
    """Both ends of one layer: how far points lie from the lens, metres of the set, and the hero's blur there,
    delivered px. ``match`` says what they are judged by.
    """

    match: Match
    depths_m: tuple[Array, ...]
    hero_px: tuple[Array, ...]

    @classmethod
    def of(cls, match: Match) -> Ends:
        """The ends of a measured layer."""
        samples = match.place[0]
        depth_m = np.maximum(match.own[1], NEAREST_M) / match.layer.scale
        depth_m = np.broadcast_to(np.maximum(depth_m, LEAST_DEPTH_M), match.own[1].shape)[0]
        away_m = np.maximum(samples.wanted_at[1][:, :, : samples.anchor], NEAREST_M)
        wanted = np.broadcast_to(blur_px(match.hero, away_m, match.delivery)[0], depth_m.shape)
        ends = samples.behind if match.layer.depth_m > 0 else samples.behind[:1]
        points = [
            _outermost(depth_m[these], wanted[these]) if these.any() else (np.empty(0), np.empty(0))
            for these in ends
        ]
        return cls(match, tuple(depths for depths, _ in points), tuple(blurs for _, blurs in points))

    def weight(self, px: Array, focus_m: Array, school: School, custom: dict[str, Tolerance]) -> Weights:
        """What the focus items weigh when the lens is focused there.

        Parameters
        ----------
        px : ndarray, shape (r, k)
            Blur for each 1/metre that a point is off, delivered px.
        focus_m : ndarray, shape (r, k)
            Where each lens is focused.
        school : {"measured", "covered"}
            Whether what blur covers counts.
        custom : dict of str to Tolerance
            In place of the items' own.

        Returns
        -------
        ndarray of int64, shape (r, k)
            Less is better.
        """
        total = np.zeros(focus_m.shape, dtype=np.int64)
        sides = zip(("focus_near", "focus_far"), self.depths_m, self.hero_px, strict=False)
        for item, depths, wanted in sides:
            off: Array = np.zeros(focus_m.shape)
            for depth_m, hero_px in zip(depths.tolist(), wanted.tolist(), strict=True):
                off = np.maximum(off, np.abs(px * np.abs(1.0 / depth_m - 1.0 / focus_m) - hero_px))
            total = total + item_weight(self.match, item, off, school, custom)
        return total


def _outermost(depths: Array, wanted: Array) -> tuple[Array, Array]:
    """The points that bound all others: of each slice of depths the nearest and farthest, the sharpest and
    softest.
    """
    order = np.argsort(1.0 / depths)
    picked: set[int] = set()
    for part in np.array_split(order, min(_BINS, len(order))):
        picked |= {int(part[0]), int(part[-1]), *(int(part[f(wanted[part])]) for f in (np.argmin, np.argmax))}
    rows = np.unique(np.stack([depths[list(picked)], wanted[list(picked)]], axis=1), axis=0)
    return rows[:, 0], rows[:, 1]


@dataclass(frozen=True, slots=True)
class Rings:
    """Lenses at their stops, r of them, and what they show of a point that is out of focus.

    ``wanted_px`` is the focal length in delivered px that the composite gives the layer, whatever the lens;
    None where it is not resized: then ``px_a_mm`` delivered px stand for a mm of the sensor.
    """

    focal_mm: Array
    f_number: Array
    moves: Array
    closest_m: Array
    farthest_m: Array
    px_a_mm: float
    wanted_px: float | None

    def held(self, focus_m: Array) -> Array:
        """Distances (r, k) brought to where each lens can focus."""
        held: Array = np.clip(focus_m, self.closest_m[:, None], self.farthest_m[:, None])
        return held

    def blur_px(self, focus_m: Array) -> Array:
        """Blur for each 1/metre (r, k), delivered px, focused at (r, k) metres."""
        wide_mm = (self.focal_mm / self.f_number)[:, None]
        if self.wanted_px is not None:
            return np.broadcast_to(wide_mm * self.wanted_px / 1000.0, focus_m.shape)
        focal = self.focal_mm[:, None]
        lens: tuple[Any, ...] = (focal, focus_m, self.moves[:, None])
        v_mm = frame.image_distance_mm(*lens)
        blur: Array = wide_mm * v_mm / 1000.0 * self.px_a_mm
        return blur


def best_places(rings: Rings, ends: tuple[Ends, ...], school: School, custom: dict[str, Tolerance]) -> Array:
    """Where to focus each lens at each stop.

    Parameters
    ----------
    rings : Rings
        r lenses at their stops.
    ends : tuple of Ends
        Of every layer that the set-up films.
    school : {"measured", "covered"}
        Whether what blur covers counts.
    custom : dict of str to Tolerance
        In place of the items' own.

    Returns
    -------
    ndarray, shape (r, 3)
        Metres from the entrance pupil, the best first.
    """

    def weight(near: Array) -> Weights:
        focus_m = 1.0 / near
        px = rings.blur_px(focus_m)
        return sum((end.weight(px, focus_m, school, custom) for end in ends), np.zeros(near.shape, np.int64))

    least, most = 1.0 / rings.farthest_m, 1.0 / rings.closest_m
    depths = np.concatenate([depth for end in ends for depth in end.depths_m])
    off = float(np.concatenate([wanted for end in ends for wanted in end.hero_px]).max())
    reach = off / np.maximum(rings.blur_px(1.0 / most[:, None])[:, 0], 1e-9)
    spread = 1.0 / depths.min() - 1.0 / depths.max()
    low = np.clip(1.0 / depths.max() - 1.2 * reach - 0.2 * spread, least, most)
    high = np.clip(1.0 / depths.min() + 1.2 * reach + 0.2 * spread, least, most)
    places = low[:, None] + (high - low)[:, None] * np.linspace(0.0, 1.0, _ON_A_RING)
    weights = weight(places)
    step = (high - low) / (_ON_A_RING - 1)
    rows = np.arange(len(low))[:, None]
    bests = np.take_along_axis(places, _minima(weights), axis=1)
    for _ in range(_ROUNDS):
        around = bests[:, :, None] + step[:, None, None] * np.linspace(-1.0, 1.0, _FINER)
        around = np.clip(around, least[:, None, None], most[:, None, None])
        weights_there = weight(around.reshape(len(low), -1)).reshape(around.shape)
        bests = np.take_along_axis(around, weights_there.argmin(axis=2)[..., None], axis=2)[..., 0]
        step = step * 2.0 / (_FINER - 1)
    order = weight(bests).argsort(axis=1, kind="stable")
    best: Array = 1.0 / bests[rows, order]
    return best


def _minima(weights: Weights) -> npt.NDArray[np.intp]:
    """The places in each row that are lower than what lies about them, the lowest first (r, 3)."""
    most = np.iinfo(np.int64).max
    wall = np.full((len(weights), 1), most)
    before, after = (
        np.concatenate(pair, axis=1) for pair in ((wall, weights[:, :-1]), (weights[:, 1:], wall))
    )
    lowest = np.where((weights < before) & (weights <= after), weights, most)
    return lowest.argsort(axis=1, kind="stable")[:, :_KEPT]
