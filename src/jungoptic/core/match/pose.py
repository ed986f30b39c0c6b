"""One camera, exact: how a layer's points come into the picture of the hero and of the set-up that films it.

Everything is brought to full size: a camera that stands 1 m from a 1:12 model stands 12 m from the thing. So
the hero's camera and the layer's differ only in their dials. Points of a layer are metres, full size: x to
the right of the hero's axis, y above the layer's ground, z behind the layer's front edge.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..motion.path import Path
from ..optics.projection import NEAREST_M
from .camera import camera_height_m, focal_px
from .layer import Layer
from .records import Delivery, SetUp

Array = npt.NDArray[np.float64]
Number = float | Array


@dataclass(frozen=True, slots=True)
class Pose:
    """A camera before a layer, at the start of the shot. Each dial is a number, or an array for many
    candidates at once.

    Delivered px, full-size metres, degrees; ``travel`` in the unit of the shot's move.
    """

    f_px: Number
    distance_m: Number
    height_m: Number
    tilt_deg: Number
    roll_deg: Number
    travel: Number
    pupil_m: Number

    def rows(self) -> Array:
        """The dials as an array, 7 × n."""
        dials = (
            self.f_px,
            self.distance_m,
            self.height_m,
            self.tilt_deg,
            self.roll_deg,
            self.travel,
            self.pupil_m,
        )
        many = any(isinstance(dial, np.ndarray) for dial in dials)
        rows: Array = np.array(np.broadcast_arrays(*dials) if many else dials, dtype=np.float64)
        return rows.reshape(len(dials), -1)


F_PX, DISTANCE, HEIGHT, TILT, ROLL, TRAVEL, PUPIL = range(7)  # rows of a pose


def hero_pose(hero: SetUp, layer: Layer, delivery: Delivery, setup: SetUp | None = None) -> Pose:
    """The hero's camera before a layer. In camera it is the camera that films the layer too, and turns about
    the same axis.
    """
    turns = setup if setup is not None and layer.combine == "in_camera" else hero
    return Pose(
        focal_px(hero, delivery),
        layer.near_m,
        camera_height_m(hero) - layer.base_m,
        hero.tilt_deg,
        hero.roll_deg,
        delivery.move.amount if delivery.move.shows_depth else 0.0,
        turns.pupil_off_mm / 1000.0,
    )


def layer_pose(setup: SetUp, layer: Layer, delivery: Delivery, resize: Number) -> Pose:
    """The camera that films a layer, brought to full size."""
    s, move = layer.scale, delivery.move
    travel: Number = 0.0
    if move.shows_depth and setup.follows_move:
        travel = move.amount if setup.travel_m is None or move.kind == "arc" else setup.travel_m * s
    turns = setup.follows_move or layer.combine == "in_camera"
    return Pose(
        focal_px(setup, delivery) * resize,
        setup.distance_m * s,
        camera_height_m(setup) * s,
        setup.tilt_deg,
        setup.roll_deg,
        travel,
        setup.pupil_off_mm / 1000.0 * s if turns else 0.0,
    )


def taken_from_m(layer: Layer) -> float | None:
    """How far from the camera that took it a picture's near things stood, full-size metres: what spans the
    whole picture stands ``width / 2·tan(view / 2)`` away. None where its lens is unknown.
    """
    if layer.taken_view_deg is None:
        return None
    return layer.width_m / 2.0 / math.tan(math.radians(layer.taken_view_deg) / 2.0)


TAKEN_DIALS = ("perspective", "height", "tilt", "roll")


def picture_pose(wants: Pose, layer: Layer, dials: tuple[str, ...] = TAKEN_DIALS) -> Pose:
    """The camera that took a picture, as far as it is known, the picture laid in so that its near things have
    the hero's size; where nothing is known, as the hero wants it.

    Parameters
    ----------
    wants : Pose
        The hero's, from :func:`hero_pose`.
    layer : Layer
        The picture.
    dials : tuple of str, optional
        What of it is looked at: some of :data:`TAKEN_DIALS`.

    Returns
    -------
    Pose
        Brought to full size.

    References
    ----------
    pinhole
    """
    far = taken_from_m(layer) if "perspective" in dials and layer.depth_m > 0 else None
    known = {
        dial: getattr(layer, name)
        for dial, name in (
            ("height", "taken_height_m"),
            ("tilt", "taken_tilt_deg"),
            ("roll", "taken_roll_deg"),
        )
        if dial in dials and getattr(layer, name) is not None
    }
    return Pose(
        wants.f_px if far is None else wants.f_px * far / wants.distance_m,
        wants.distance_m if far is None else far,
        known.get("height", wants.height_m),
        known.get("tilt", wants.tilt_deg),
        known.get("roll", wants.roll_deg),
        wants.travel,
        wants.pupil_m,
    )


def pupil_place_m(path: Path, poses: Array) -> tuple[Array, Array, Array]:
    """How far each entrance pupil has come: by the move, and because it does not stand on the axis that the
    camera turns about.

    Parameters
    ----------
    path : Path
        The shot's move at t moments.
    poses : ndarray, shape (7, v)
        Cameras; see :meth:`Pose.rows`.

    Returns
    -------
    tuple of ndarray, shape (v, t) or what broadcasts to it
        To the right, up and forward, full-size metres.

    References
    ----------
    rotation
    """
    dials = poses[:, :, None]
    right, up, forward = path.offset_m(dials[TRAVEL])
    pupil = dials[PUPIL]
    if path.turns and pupil.any():
        pan, start = np.radians(path.pan_deg), np.radians(dials[TILT])
        tilt = np.radians(dials[TILT] + path.tilt_deg)
        right = right + pupil * np.sin(pan) * np.cos(tilt)
        up = up + pupil * (np.sin(tilt) - np.sin(start))
        forward = forward + pupil * (np.cos(pan) * np.cos(tilt) - np.cos(start))
    return right, up, forward


def in_camera(points: Array, path: Path, poses: Array) -> tuple[Array, Array, Array]:
    """Points in the frames of many cameras over many moments.

    Parameters
    ----------
    points : ndarray, shape (t, n, 3)
        Of a layer, full-size metres.
    path : Path
        The shot's move at t moments.
    poses : ndarray, shape (7, v)
        Cameras; see :meth:`Pose.rows`.

    Returns
    -------
    tuple of ndarray, shape (v, t, n) or what broadcasts to it
        Right, up and forward from each entrance pupil, metres.

    References
    ----------
    rotation
    """
    dials = poses[:, :, None]
    x, y, z = points[..., 0], points[..., 1], points[..., 2]
    pupil, turns = dials[PUPIL], path.turns
    tilts, rolls = turns or poses[TILT].any(), turns or poses[ROLL].any()
    tilt = np.radians(dials[TILT] + path.tilt_deg) if tilts else dials[TILT]
    if path.travels or (turns and pupil.any()):
        right, up, forward = pupil_place_m(path, poses)
        x = x - right[..., None]
        y = y - (dials[HEIGHT] + up)[..., None]
        z = z + (dials[DISTANCE] - forward)[..., None]
    else:
        y, z = y - dials[HEIGHT][..., None], z + dials[DISTANCE][..., None]
    if turns:
        pan = np.radians(path.pan_deg)[:, None]
        c, s = np.cos(pan), np.sin(pan)
        x, z = c * x - s * z, s * x + c * z
    if tilts:
        c, s = np.cos(tilt)[..., None], np.sin(tilt)[..., None]
        y, z = c * y - s * z, s * y + c * z
    if rolls:
        roll = np.radians(dials[ROLL] + path.roll_deg)[..., None]
        c, s = np.cos(roll), np.sin(roll)
        x, y = c * x - s * y, s * x + c * y
    return x, y, z


def pictured(points: Array, path: Path, poses: Array) -> Array:
    """Points in the pictures of many cameras over many moments: ``x = f·X/Z``, ``y = −f·Y/Z``.

    Parameters
    ----------
    points : ndarray, shape (t, n, 3)
        Of a layer, full-size metres.
    path : Path
        The shot's move at t moments.
    poses : ndarray, shape (7, v)
        Cameras; see :meth:`Pose.rows`.

    Returns
    -------
    ndarray, shape (2, v, t, n)
        To the right of the middle of the frame and under it, delivered px.

    References
    ----------
    pinhole, rotation
    """
    return pictured_at(points, path, poses)[0]


def pictured_at(points: Array, path: Path, poses: Array) -> tuple[Array, Array]:
    """:func:`pictured`, and how far from each lens along its axis the points are (v, t, n), full-size m."""
    x, y, z = in_camera(points, path, poses)
    grow = (poses[F_PX][:, None] * path.zoom)[..., None] / np.maximum(z, NEAREST_M)
    picture: Array = np.empty((2, *grow.shape))
    np.multiply(grow, x, out=picture[0])
    np.multiply(grow, -y, out=picture[1])
    return picture, np.broadcast_to(z, grow.shape)


def greatest(vectors: Array) -> Array:
    """How long the longest of all points' vectors is (v,), of (2, v, t, n)."""
    longest: Array = np.sqrt((vectors * vectors).sum(axis=0).max(axis=(1, 2)))
    return longest
