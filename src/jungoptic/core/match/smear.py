"""How fast every point of a layer goes through the picture, by its own movement and by the camera's, and what
that smears. Velocities are vectors: a thing that the camera follows is sharp.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from ..motion.path import Path
from ..optics.projection import NEAREST_M
from .layer import Layer
from .pose import (
    DISTANCE,
    F_PX,
    HEIGHT,
    PUPIL,
    ROLL,
    TILT,
    TRAVEL,
    Array,
    Number,
    greatest,
    in_camera,
    pictured,
)
from .records import Delivery
from .samples import Samples


@dataclass(frozen=True)
class Paces:
    """How fast the points of a layer go in the hero's picture: by the camera, and by one unit of the layer's
    own movement; px for each frame, (2, v, t, n). ``velocity_m`` is (3,), or (3, v) of as many layers.
    """

    samples: Samples
    velocity_m: Array

    @cached_property
    def hero(self) -> tuple[Array, Array]:
        """By the hero's camera, and by the whole movement of the layer as the hero would have filmed it."""
        return self.of(self.samples.hero, turns=True)

    def of(self, poses: Array, *, turns: bool) -> tuple[Array, Array]:
        """In the pictures of other cameras; without ``turns`` those that do not turn with the hero's.

        Parameters
        ----------
        poses : ndarray, shape (7, v)
            Cameras; see :meth:`~.pose.Pose.rows`.
        turns : bool
            Whether they pan, tilt, roll and zoom as the hero's does.

        Returns
        -------
        tuple of ndarray, shape (2, v, t, n)
            To the right and down, px for each frame of the delivery: by the camera, by the layer's movement.

        References
        ----------
        pinhole, rotation
        """
        samples = self.samples
        points = samples.points[..., : samples.anchor, :]
        still = np.zeros((2, poses.shape[1], *points.shape[-3:-1]))
        by_camera, by_thing = still, still
        if samples.around is not None:
            around = samples.around
            before, after = around.before, around.after
            if not turns:
                before, after = before.unturned(), after.unturned()
            frames = np.where(around.frames > 0.0, around.frames, 1.0)[:, None]
            by_camera = (pictured(points, after, poses) - pictured(points, before, poses)) / frames
        if self.velocity_m.any():
            by_thing = self._by_thing(points, samples.path if turns else samples.path.unturned(), poses)
        return by_camera, by_thing

    def _by_thing(self, points: Array, path: Path, poses: Array) -> Array:
        """Derivative of ``f·X/Z`` and ``−f·Y/Z`` for what moves while the camera stands."""
        x, y, z = in_camera(points, path, poses)
        z = np.maximum(z, NEAREST_M)
        goes = self.velocity_m.reshape(3, -1).T[:, None, None, :]
        across, up, away = (goes[..., axis] for axis in range(3))
        if path.turns or poses[TILT].any() or poses[ROLL].any():
            turned = poses.copy()
            turned[[DISTANCE, HEIGHT, TRAVEL, PUPIL]] = 0.0
            flat = replace(path, axis=None, radius_m=0.0)
            across, up, away = in_camera(goes, flat, turned)
        grow = (poses[F_PX][:, None] * path.zoom)[..., None] / z
        pace: Array = np.empty((2, *grow.shape))
        np.multiply(grow, across - (away / z) * x, out=pace[0])
        np.multiply(grow, (away / z) * y - up, out=pace[1])
        return pace

    @cached_property
    def hero_px(self) -> tuple[Array, Array]:
        """The greatest of any point in a frame: by all that moves, and by the hero's camera alone; one, or
        one for each layer.
        """
        by_camera, by_thing = self.hero
        return greatest(by_camera + by_thing), greatest(by_camera)

    @cached_property
    def tall_px(self) -> Array:
        """From the top to the foot of what is in the frame, at most, px; one, or one for each layer."""
        down = self.samples.wanted[1, :, :, : self.samples.anchor]
        tall: Array = np.ptp(down, axis=2).max(axis=1)
        return tall


@dataclass(frozen=True, slots=True)
class Smears:
    """What moves smears, the greatest of any point, delivered px: ``hero_px`` as the hero would have it,
    ``px`` as it is filmed (v,), ``apart_px`` the difference of the two as vectors (v,). ``pace_px`` and
    ``hero_pace_px`` go with each frame, ``camera_px`` by the hero's camera alone. What is the hero's is one,
    or one for each layer.
    """

    hero_px: Array
    px: Array
    apart_px: Array
    hero_pace_px: Array
    pace_px: Array
    camera_px: Array


def velocity_m_per_frame(layer: Layer, delivery: Delivery, frames_per_s: float) -> Array:
    """How far a layer goes from one frame of the hero to the next, at its fastest: across, up, away,
    full-size metres (3,). Where nobody typed a speed it is what the layer travels over the shot.
    """
    typed = np.zeros(3)
    if layer.driver != "still":
        typed = np.array([layer.speed_m_s, layer.speed_up_m_s, layer.speed_away_m_s])
    if not layer.travels:
        return typed / frames_per_s
    frames = max((delivery.length_frames or delivery.move.end_frame + 1) - 1, 1)
    return np.where(typed != 0.0, typed / frames_per_s, layer.travel_m / frames)


def paces_of(samples: Samples, velocity_m: Array) -> Paces:
    """Paces of a layer that goes so far in a frame, kept with its samples."""
    key = velocity_m.tobytes()
    if key not in samples.kept:
        samples.kept[key] = Paces(samples, velocity_m)
    paces: Paces = samples.kept[key]
    return paces


def smears(
    paces: Paces,
    poses: Array,
    *,
    turns: bool,
    share: Number,
    exposed: Number,
    hero_exposed: float,
    shaken_px: float = 0.0,
) -> Smears:
    """What moves smears, for each of many cameras.

    Parameters
    ----------
    paces : Paces
        Of the layer under its hero.
    poses : ndarray, shape (7, v)
        Cameras that film it.
    turns : bool
        Whether they turn and zoom as the hero's does; what is laid on afterwards does not smear.
    share : float or ndarray, shape (v,)
        How far the layer moves in one captured frame, in what the hero would see of it: 1 is right.
    exposed, hero_exposed : float or ndarray, shape (v,)
        Part of a captured frame for which the shutter is open; 0 where it is filmed frame by frame.
    shaken_px : float, default 0
        What the hero's hand-held camera goes in a frame; laid on a layer it does not smear.

    Returns
    -------
    Smears
        Delivered px.

    References
    ----------
    pinhole, shutter
    """
    hero_camera, hero_thing = paces.hero
    camera, thing = paces.of(poses, turns=turns)
    wanted = hero_camera + hero_thing
    shown = camera + thing * np.reshape(share, (-1, 1, 1))
    open_for = np.reshape(exposed, (-1, 1, 1))
    shaken = shaken_px * hero_exposed
    hero_pace, camera_pace = paces.hero_px
    return Smears(
        hero_pace * hero_exposed + shaken,
        greatest(shown) * np.reshape(exposed, -1),
        greatest(shown * open_for - wanted * hero_exposed) + shaken,
        hero_pace + shaken_px,
        greatest(shown),
        camera_pace + shaken_px,
    )


def shake_px_per_frame(amplitude_px: float, rate_hz: float, frames_per_s: float) -> float:
    """Fastest that a shaking picture goes: ``2π·f·A`` for each second."""
    return 2.0 * math.pi * rate_hz * amplitude_px / frames_per_s
