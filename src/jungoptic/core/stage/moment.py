"""Where everything stands at one frame of the shot, as each camera sees it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..match.camera import camera_height_m
from ..match.layer import Layer
from ..match.measure import Match
from ..motion.move import Move
from .project import Array, project_all


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
    """One camera as it looks at one layer: what to divide lengths by, where the layer's near end on the axis
    lies, and how it is turned.
    """

    scale: float
    near: Array
    focal_px: float
    tilt_deg: float
    roll_deg: float
    pan_deg: float

    def place(self, corners: Array) -> Array:
        """Full-size corners of the layer (n × 3 from its near end on the axis) in the camera's frame, before
        tilt and roll.
        """
        there = corners / self.scale + self.near
        if not self.pan_deg:
            return there
        turn = math.radians(self.pan_deg)
        c, s = math.cos(turn), math.sin(turn)
        return np.column_stack(
            (c * there[:, 0] - s * there[:, 2], there[:, 1], s * there[:, 0] + c * there[:, 2])
        )

    def project(self, polygons: list[Array], width_px: float, height_px: float) -> list[Array]:
        if not polygons:
            return []
        placed = self.place(np.concatenate(polygons))
        return project_all(
            placed,
            [len(polygon) for polygon in polygons],
            self.focal_px,
            width_px,
            height_px,
            self.tilt_deg,
            self.roll_deg,
        )


def _turned(move: Move, share: float, follows: bool) -> tuple[float, float]:
    done = move.amount * share if follows and not move.still else 0.0
    return (done if move.kind == "pan" else 0.0), (done if move.kind == "tilt" else 0.0)


def _shift(move: Move, travel_m: float, share: float) -> Array:
    if move.kind == "slide":
        return np.array([-travel_m * share, 0.0, 0.0])
    return np.array([0.0, 0.0, -travel_m * share]) if move.kind == "push" else np.zeros(3)


def hero_view(match: Match, moment: Moment = START) -> View:
    """The hero's camera on this layer, full size: where the layer is wanted."""
    hero, layer, move = match.hero, match.layer, match.delivery.move
    pan, tilt = _turned(move, moment.share, follows=True)
    near = np.array([layer.offset_m, layer.base_m - camera_height_m(hero), layer.near_m]) + _shift(
        move, move.amount, moment.share
    )
    return View(1.0, near, match.f_hero_px, hero.tilt_deg + tilt, hero.roll_deg, pan)


def layer_view(match: Match, moment: Moment = START) -> View:
    """The layer's own camera, its picture resized as planned; a picture whose camera is unknown is laid in
    as the hero wants it.
    """
    setup, layer, move = match.setup, match.layer, match.delivery.move
    if setup is None:
        return hero_view(match, moment)
    # A pan or tilt that the set-up does not make is laid on afterwards, so the picture turns all the same.
    pan, tilt = _turned(move, moment.share, follows=True)
    near = np.array([layer.offset_m / layer.scale, -camera_height_m(setup), setup.distance_m]) + _shift(
        move, match.travel_m, moment.share
    )
    return View(layer.scale, near, match.f_px * layer.resize, setup.tilt_deg + tilt, setup.roll_deg, pan)


def travelled_m(layer: Layer, moment: Moment) -> Array:
    """How far the layer itself has come, full-size metres."""
    return np.array([layer.travel_across_m, layer.travel_up_m, layer.travel_away_m]) * moment.travelled
