"""What a drawing on a picture tells of its camera, its light and what stands on its ground: for many drawings
at once, so that errors can be carried through. Places in shares of the picture's width.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..optics.sighting import (
    directions,
    focal_lengths,
    keys_deg,
    lens_heights_m,
    stand_m,
    turned_deg,
    upwards,
    vanishing_points,
)

Array = npt.NDArray[np.float64]
_DIRECTIONS = ("away", "across", "upright")
READ = (
    "taken_view_deg",
    "taken_tilt_deg",
    "taken_roll_deg",
    "taken_height_m",
    "taken_key_azimuth_deg",
    "taken_key_elevation_deg",
)
STANDING = ("foot", "stands", "height")  # kinds that tell where something stands on the ground


@dataclass(frozen=True, slots=True)
class Told:
    """For b drawings: ``amounts`` of :data:`READ` (b, 6); the ``camera`` by which the ground is read, view,
    tilt, roll and height (b, 4); ``standing`` by kind (b, n, 3): metres ahead, to the right, from foot to
    top. nan where it cannot be told.
    """

    amounts: Array
    camera: Array
    standing: dict[str, Array]


def _pooled(ways: list[Array]) -> Array:
    """The mean of several ways to tell one amount (b,), each by how much it hangs on where ends lie. nan
    where none tells it.
    """
    if not ways:
        return np.full(1, np.nan)
    amounts = np.array(ways)
    half = (amounts.shape[1] - 1) // 2
    change = amounts[:, 1 : 1 + half] - amounts[:, 1 + half :]
    weights = 1.0 / np.maximum((change**2).sum(axis=1), 1e-24)
    weights = np.where(np.isfinite(weights) & np.isfinite(amounts[:, 0]), weights, 0.0)
    if not weights.any():
        return np.full(amounts.shape[1], np.nan)
    pooled: Array = weights @ np.nan_to_num(amounts) / weights.sum()
    return pooled


def _pairs(points: dict[str, Array], horizon: Array | None) -> list[tuple[Array, Array]]:
    """Vanishing points of directions at right angles."""
    pairs = [
        (points[first], points[second])
        for first, second in (("away", "across"), ("away", "upright"), ("across", "upright"))
        if first in points and second in points
    ]
    if horizon is not None and "upright" in points:
        ends = np.concatenate([horizon, np.ones((*horizon.shape[:2], 1))], axis=-1)
        pairs += [(ends[:, end], points["upright"]) for end in (0, 1)]
    return pairs


def _ups(points: dict[str, Array], horizon: Array | None, focal: Array) -> list[Array]:
    """The world's up by everything that tells it, unit directions (b, 3)."""
    ups = []
    if "upright" in points:
        ups.append(directions(points["upright"], focal))
    if horizon is not None:
        ups.append(np.cross(*np.moveaxis(directions(horizon, focal), 1, 0)))
    if "away" in points and "across" in points:
        ups.append(np.cross(directions(points["away"], focal), directions(points["across"], focal)))
    if not ups:  # a camera that is not rolled sees a level line's end on its horizon
        for name in ("away", "across"):
            if name in points:
                ahead = directions(points[name], focal)
                ups.append(np.cross(ahead, np.array([1.0, 0.0, 0.0])))
    return [upwards(up) for up in ups]


def evaluated(marks: dict[str, Array], heights_m: Array, known_view_deg: Array | None) -> Told:
    """What b drawings of the same picture tell. ``heights_m`` of the things of known height (n,),
    ``known_view_deg`` (b,) where the lens is known otherwise.
    """
    count = len(next(iter(marks.values())))
    points: dict[str, Array] = {
        name: vanishing_points(marks[name][:, :, 0], marks[name][:, :, 1])
        for name in _DIRECTIONS
        if name in marks and marks[name].shape[1] > 1
    }
    horizon = marks["horizon"][:, 0] if "horizon" in marks else None
    amounts = np.full((count, len(READ)), np.nan)
    lenses = [focal_lengths(*pair) for pair in _pairs(points, horizon)]
    amounts[:, 0] = _pooled([2.0 * np.degrees(np.arctan(0.5 / focal)) for focal in lenses])
    view = amounts[:, 0]
    if known_view_deg is not None and np.isnan(view[0]):
        view = known_view_deg
    focal = 0.5 / np.tan(np.radians(view) / 2.0)
    turns = [turned_deg(up) for up in _ups(points, horizon, focal)]
    if not turns:
        return Told(amounts, np.full((count, 4), np.nan), {})
    amounts[:, 1] = _pooled([tilt for tilt, _ in turns])
    amounts[:, 2] = _pooled([roll for _, roll in turns])
    tilt, roll = np.radians(amounts[:, 1]), np.radians(amounts[:, 2])
    up = np.stack([-np.sin(roll) * np.cos(tilt), np.cos(roll) * np.cos(tilt), np.sin(tilt)], axis=1)
    if "height" in marks:
        seen = directions(marks["height"], focal)
        amounts[:, 3] = _pooled(list(lens_heights_m(seen[:, :, 0], seen[:, :, 1], up, heights_m).T))
    if "shadow" in marks:
        seen = directions(marks["shadow"], focal)
        azimuths, elevations = keys_deg(seen[:, :, 0], seen[:, :, 1], seen[:, :, 2], up)
        azimuths = azimuths[0, 0] + within_half_turn(azimuths - azimuths[0, 0])
        amounts[:, 4], amounts[:, 5] = (
            within_half_turn(_pooled(list(azimuths.T))),
            _pooled(list(elevations.T)),
        )
    standing = {}
    for kind in STANDING:
        if kind in marks:
            seen = directions(marks[kind], focal)
            standing[kind] = stand_m(seen[:, :, 0], seen[:, :, -1], up, amounts[:, 3])
    camera = np.stack([view, *amounts[:, 1:4].T], axis=1)
    return Told(amounts, camera, standing)


def within_half_turn(angles: Array) -> Array:
    """Differences of angles, within half a turn."""
    there: Array = (angles + 180.0) % 360.0 - 180.0
    return there
