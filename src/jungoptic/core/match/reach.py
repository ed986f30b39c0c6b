"""How far a set and a sheet reach, against what the frame shows of them over the whole move."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..light.placed import Backing
from ..optics.projection import NEAREST_M
from .measure import Match
from .pose import Array, in_camera
from .records import SetUp
from .samples import moments
from .view import Moment, View, hero_view, layer_view

SIDES = ("on the left", "on the right", "on top")
MOST_SHORT_M = 1000.0  # where the edge of the frame looks past the end of any wall


@dataclass(frozen=True, slots=True)
class Ends:
    """The worst end of a set: how far inside what is needed of the frame it lies, delivered px, how much is
    lacking there at the set's front edge, full-size metres, and on which side.
    """

    past_px: float
    short_m: float
    side: str


def views_over(match: Match) -> list[tuple[View, float]]:
    """The hero's camera on a layer at the moments that are looked at, each with the share that the layer has
    travelled.
    """
    shares, come = moments(match.delivery, match.layer)
    return [
        (hero_view(match, Moment(float(share), float(there))), float(there))
        for share, there in zip(shares, come, strict=True)
    ]


def _reach(view: View, wire: Array) -> Array:
    """How far the outlines reach in the picture, px from its middle: left, right, up. What stands beside or
    behind the lens reaches without end.
    """
    x, y, z = (
        np.broadcast_to(axis, (1, 1, len(wire)))[0, 0] for axis in in_camera(wire[None], view.path, view.rows)
    )
    before = z > NEAREST_M
    return np.array(
        [
            np.inf
            if (along[~before] > 0).any()
            else (view.focal_px * along[before] / z[before]).max(initial=-np.inf)
            for along in (-x, x, y)
        ]
    )


def set_ends(match: Match, *, top: bool) -> Ends:
    """Where a set ends inside what is needed of the frame, at the worst moment of the move.

    Parameters
    ----------
    match : Match
        A set, measured.
    top : bool
        Whether its top must reach the upper edge of the frame too: nothing else stands behind it.

    Returns
    -------
    Ends
        0 where it covers the frame.

    References
    ----------
    pinhole
    """
    layer, (width, height) = match.layer, match.delivery.needed_px
    half = np.array([width, width, height]) / 2.0
    sides = SIDES if top else SIDES[:2]
    worst = Ends(0.0, 0.0, "")
    for view, come in views_over(match):
        wire = layer.wire.starts + layer.travel_m * come
        past = np.minimum(half - _reach(view, wire), 2.0 * half)
        for side, name in enumerate(sides):
            if past[side] > worst.past_px:
                worst = Ends(float(past[side]), _short_m(view, wire, side, half[side]), name)
    return worst


def _short_m(view: View, wire: Array, side: int, half_px: float) -> float:
    """How much is lacking at the front edge of a set, where the frame's edge crosses it."""
    edge = {0: (-half_px, 0.0), 1: (half_px, 0.0), 2: (0.0, -half_px)}[side]
    ray = view.ray(*edge, 0.0, 0.0)
    near = wire[:, 2].min()
    if ray[2] <= 0:
        return MOST_SHORT_M
    there = view.eye + ray * (near - view.eye[2]) / ray[2]
    at_near = wire[wire[:, 2] <= near + 1e-9]
    if side == 2:
        short = float(there[1] - at_near[:, 1].max())
    else:
        short = float(at_near[:, 0].min() - there[0] if side == 0 else there[0] - at_near[:, 0].max())
    return min(max(0.0, short), MOST_SHORT_M)


@dataclass(frozen=True, slots=True)
class Behind:
    """Against what of a sheet's plane a layer is seen in all that it does, set metres; how far that is past
    the sheet, metres, and where that shows most, delivered px.
    """

    left: float
    right: float
    low: float
    high: float
    past_m: float
    past_px: float


def behind(match: Match, setup: SetUp, backing: Backing) -> Behind:
    """Against what of a sheet a layer is seen, over the whole move and all that it travels.

    Parameters
    ----------
    match : Match
        The layer before it, measured.
    setup : SetUp
        As it stands.
    backing : Backing
        The sheet.

    Returns
    -------
    Behind
        Set metres: to the right of the lens axis and above the floor.

    References
    ----------
    pinhole
    """
    layer, delivery = match.layer, match.delivery
    s, ground = layer.scale, setup.ground_height_m
    left, right = layer.sweep_m
    up, away = layer.travel_up_m, layer.travel_away_m
    corners = np.array(
        [
            (x, y, z)
            for x in (left, right)
            for y in (min(0.0, up), layer.height_m + max(0.0, up))
            for z in sorted({0.0, away})
        ]
    )
    edge_l, edge_r = (backing.across_m + side * backing.width_m / 2.0 for side in (-1.0, 1.0))
    edge_top = backing.bottom_m + backing.height_m
    reached, past_px = [], 0.0
    for share, _ in dict.fromkeys(zip(*(axis.tolist() for axis in moments(delivery, layer)), strict=True)):
        view = layer_view(match, Moment(share))
        ahead = corners[:, 2] - view.eye[2] > NEAREST_M
        if not ahead.any():
            continue
        rays = corners[ahead] - view.eye
        hit = view.eye + rays * ((s * backing.behind_m - view.eye[2]) / rays[:, 2:])
        there = hit[:, :2] / s + np.array([0.0, ground])
        inside = np.column_stack((np.clip(there[:, 0], edge_l, edge_r), np.minimum(there[:, 1], edge_top)))
        nearest = np.column_stack(((inside - np.array([0.0, ground])) * s, hit[:, 2]))
        size = (delivery.width_px, delivery.height_px)
        off = np.abs(view.seen(hit, *size) - view.seen(nearest, *size)).max()
        reached.append(there)
        past_px = max(past_px, float(off))
    every = np.concatenate(reached) if reached else np.array([[backing.across_m, backing.bottom_m]])
    (low_x, low_y), (high_x, high_y) = every.min(axis=0).tolist(), every.max(axis=0).tolist()
    past = max(0.0, edge_l - low_x, high_x - edge_r, high_y - edge_top)
    return Behind(low_x, high_x, max(low_y, backing.bottom_m), high_y, past, past_px if past > 0 else 0.0)
