"""Where everything stands at one frame of the shot, as each camera sees it: the comparison's own projection,
for drawings and pictures.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Any

import numpy as np

from ..motion.move import Move
from ..motion.path import Path
from ..optics.projection import NEAREST_M, clip_near, rotation
from ..vocabulary import PICTURES
from .layer import Layer
from .measure import Match
from .pose import (
    DISTANCE,
    F_PX,
    HEIGHT,
    ROLL,
    TILT,
    Array,
    hero_pose,
    in_camera,
    picture_pose,
    pictured,
    pupil_place_m,
)
from .records import Delivery, SetUp
from .samples import pin, sampled
from .smear import paces_of


@dataclass(frozen=True, slots=True)
class Moment:
    """One frame: ``share`` of the camera's move that is done, ``travelled`` share of what the layers
    travel.
    """

    share: float = 0.0
    travelled: float = 0.0

    @classmethod
    def at(cls, frame: float, length_frames: int, move: Move) -> Moment:
        """The moment of a frame. Layers travel over the whole shot, eased like the move where there is one.

        Parameters
        ----------
        frame : float
            From 0.
        length_frames : int
            Of the shot.
        move : Move
            The hero's.

        Returns
        -------
        Moment
            Shares of move and travel that are done.

        References
        ----------
        eased

        Examples
        --------
        >>> Moment.at(48, 97, Move(kind="pan", amount=10, end_frame=96))
        Moment(share=0.5, travelled=0.5)
        """
        travelled = min(max(frame / max(length_frames - 1, 1), 0.0), 1.0)
        return cls(move.share_at(frame) if not move.still else 0.0, travelled)


START = Moment()


@dataclass(frozen=True, slots=True)
class View:
    """One camera as it looks at one layer at one moment, with the shift that the composite gives its picture.

    What it projects is full-size metres: x from the hero's axis, y above the layer's ground, z behind the
    layer's front edge.
    """

    rows: Array
    path: Path
    shift_px: tuple[float, float] = (0.0, 0.0)

    def unshifted(self) -> View:
        """The same without what the composite shifts."""
        return View(self.rows, self.path)

    @property
    def focal_px(self) -> float:
        """Focal length, delivered px, zoomed as far as it is."""
        return float(self.rows[F_PX, 0] * self.path.zoom[0])

    @property
    def eye(self) -> Array:
        """The entrance pupil, where the layer's points are counted."""
        right, up, forward = (float(np.ravel(axis)[0]) for axis in pupil_place_m(self.path, self.rows))
        return np.array([right, float(self.rows[HEIGHT, 0]) + up, forward - float(self.rows[DISTANCE, 0])])

    @property
    def turn(self) -> Array:
        """How it is turned from the hero's axis as the shot begins: right, up and forward of the lens as
        rows, 3 × 3. Not to be written to.
        """
        tilt, roll = (
            float(self.rows[dial, 0] + turned[0])
            for dial, turned in ((TILT, self.path.tilt_deg), (ROLL, self.path.roll_deg))
        )
        return rotation(tilt, roll, float(self.path.pan_deg[0]))

    def ray(self, x_px: float, y_px: float, width_px: float, height_px: float) -> Array:
        """Direction from the entrance pupil through a place of the picture: right, up and forward of the
        hero's axis as the shot begins.
        """
        focal = self.focal_px
        place = np.array([(x_px - width_px / 2.0) / focal, (height_px / 2.0 - y_px) / focal, 1.0])
        there: Array = self.turn.T @ place
        return there

    def project(self, polygons: Sequence[Array], width_px: float, height_px: float) -> list[Array]:
        """Polygons in the picture, px from its top left; what reaches behind the lens is cut off."""
        if not polygons:
            return []
        counts = [len(polygon) for polygon in polygons]
        axes = in_camera(np.concatenate(polygons)[None], self.path, self.rows)
        there = np.stack([np.broadcast_to(axis, (1, 1, sum(counts)))[0, 0] for axis in axes], axis=1)
        focal = self.focal_px
        middle = np.array([width_px / 2.0 + self.shift_px[0], height_px / 2.0 + self.shift_px[1]])
        scale = np.array([focal, -focal])

        def drawn(seen: Array) -> Array:
            return middle + scale * seen[:, :2] / seen[:, 2:]

        spans = [slice(end - count, end) for end, count in zip(accumulate(counts), counts, strict=True)]
        if there[:, 2].min() >= NEAREST_M:
            whole = drawn(there)
            return [whole[span] for span in spans]
        return [drawn(clip_near(there[span])) for span in spans]

    def seen(self, points: Array, width_px: float, height_px: float) -> Array:
        """Points (n, 3) in the picture, px from its top left (n, 2); what is behind the lens, as if just
        before it.
        """
        middle = np.array([width_px / 2.0, height_px / 2.0]) + self.shift_px
        return pictured(points[None], self.path, self.rows)[:, 0, 0].T + middle


def _path(hero: SetUp, delivery: Delivery, moment: Moment) -> Path:
    return delivery.move.path([moment.share], hero.distance_m)


def wanted_view(hero: SetUp, layer: Layer, delivery: Delivery, moment: Moment = START) -> View:
    """The hero's camera on a layer: where the layer is wanted."""
    return View(hero_pose(hero, layer, delivery).rows(), _path(hero, delivery, moment))


def hero_view(match: Match, moment: Moment = START) -> View:
    """The hero's camera on this layer, full size: where the layer is wanted."""
    return wanted_view(match.hero, match.layer, match.delivery, moment)


def layer_view(match: Match, moment: Moment = START) -> View:
    """The layer's own camera, its picture resized and shifted as the composite lays it; what is unknown of
    the camera of a picture is as the hero wants it.
    """
    setup, layer = match.setup, match.layer
    pinned = _pinned(match, moment)
    if setup is None:
        wants = hero_pose(match.hero, layer, match.delivery)
        rows = picture_pose(wants, layer).rows() if layer.kind in PICTURES else pinned.hero
    else:
        rows = match.place[1]
    if layer.combine == "in_camera" or np.array_equal(rows, pinned.hero):
        return View(rows, pinned.path)
    across, down = (pinned.px - pictured(pinned.anchor, pinned.path, rows)).ravel().tolist()
    return View(rows, pinned.path, (across, down))


@dataclass(frozen=True, slots=True)
class _Pinned:
    """Where a compositor pins a layer down at one moment: ``anchor`` (1, 1, 3), which the ``hero``'s camera
    (7, 1) shows at ``px`` (2, 1, 1, 1).
    """

    path: Path
    hero: Array
    anchor: Array
    px: Array


def _pinned(match: Match, moment: Moment) -> _Pinned:
    """Kept as long as the hero stands, whatever a hand does to the set-up."""
    kept: dict[Any, Any] = match.place[0].kept if match.setup is not None else {}
    key = "pinned", moment
    if key not in kept:
        # A turn that the set-up does not make is laid on afterwards, so the picture turns all the same.
        path = _path(match.hero, match.delivery, moment)
        wants = hero_pose(match.hero, match.layer, match.delivery, match.setup)
        anchor = pin(wants, match.layer, match.delivery, path, moment.travelled)
        kept[key] = _Pinned(path, wants.rows(), anchor, pictured(anchor, path, wants.rows()))
    pinned: _Pinned = kept[key]
    return pinned


def placed_m(layer: Layer, moment: Moment) -> Array:
    """Where a part's own zero stands by then: from the hero's axis, above the layer's ground, behind its near
    end, full-size metres.
    """
    return np.array([layer.offset_m, 0.0, 0.0]) + layer.travel_m * moment.travelled


def camera_pace_px(match: Match) -> float:
    """How far the hero's move takes a layer through the picture in a frame, at its fastest.

    Parameters
    ----------
    match : Match
        The layer, measured.

    Returns
    -------
    float
        Delivered px for each frame.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import HERO, MILL, MODEL
    >>> slow = Delivery(move=Move(kind="pan", amount=2, end_frame=96))
    >>> round(camera_pace_px(Match(HERO, MILL, MODEL, slow)), 2)
    1.16
    """
    hero, layer, delivery = match.hero, match.layer, match.delivery
    if match.setup is not None or delivery.move.still:
        return match.move_hero_px
    samples = sampled(hero_pose(hero, layer, delivery), layer, delivery, hero.distance_m)
    return float(paces_of(samples, np.zeros(3)).hero_px[1][0])
