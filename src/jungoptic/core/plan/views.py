"""A set in plan: its pieces, and the cameras that look at it. Full-size metres: x right, y up, z away."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
import numpy.typing as npt
from pydantic import Field

from .. import quantities as q
from ..motion import Move
from ..optics.frame import angle_of_view_deg
from ..optics.projection import rotation
from ..vocabulary import Made

Array = npt.NDArray[np.float64]


class Piece(q.Record):
    """An upright flat piece of the set, in plan: full-size metres, x right, z away, turned about its middle;
    or lying on the floor.
    """

    name: Annotated[str, Field(title="Name", min_length=1, max_length=80)]
    x_m: Annotated[
        float, q.quantity("Across", "m", "Its middle, to the right of the plan's origin.", ge=-1e4, le=1e4)
    ] = 0.0
    z_m: Annotated[
        float, q.quantity("Away", "m", "Its middle; the near edge for a piece that lies.", ge=-1e4, le=1e4)
    ] = 0.0
    turn_deg: Annotated[
        float,
        q.quantity("Turned", "°", "In plan: 0 = across the view, positive to the left.", ge=-360, le=360),
    ] = 0.0
    width_m: Annotated[float, q.quantity("Width", "m", gt=0, le=1e4)] = 1.0
    height_m: Annotated[float, q.quantity("Height", "m", "Depth for a piece that lies.", gt=0, le=1e4)] = 2.4
    base_m: Annotated[float, q.quantity("Foot", "m", "Above the floor.", ge=-1000, le=1000)] = 0.0
    lies: Annotated[q.YesNo, Field(title="Lies", description="Flat on the floor.")] = False
    made: Annotated[Made, Field(title="Made")] = "built"
    wheels: Annotated[q.YesNo, Field(title="Wheels", description="Can be wheeled round and used twice.")] = (
        False
    )

    def corners_m(self) -> Array:
        """Four corners, round from the lower left as seen from −z at no turn; the near left when it lies.

        Returns
        -------
        ndarray, shape (4, 3)
            Full-size metres: across, up, away.

        References
        ----------
        rotation

        Examples
        --------
        >>> Piece(name="Wall", z_m=6, width_m=4, height_m=3).corners_m()[2].tolist()
        [2.0, 3.0, 6.0]
        """
        half, turn = self.width_m / 2.0, math.radians(self.turn_deg)
        along, away = (
            np.array([math.cos(turn), 0.0, math.sin(turn)]),
            np.array([-math.sin(turn), 0.0, math.cos(turn)]),
        )
        middle = np.array([self.x_m, self.base_m, self.z_m])
        up = away * self.height_m if self.lies else np.array([0.0, self.height_m, 0.0])
        return np.array(
            [
                middle - half * along,
                middle - half * along + up,
                middle + half * along + up,
                middle + half * along,
            ]
        )


class Stand(q.Record):
    """Where a camera stands in the plan of the set: full-size metres, ``heading_deg`` 0 along +z, positive
    to the right.
    """

    x_m: Annotated[float, q.quantity("Across", "m", ge=-1e4, le=1e4)] = 0.0
    z_m: Annotated[float, q.quantity("Away", "m", ge=-1e4, le=1e4)] = 0.0
    heading_deg: Annotated[
        float, q.quantity("Heading", "°", "0 straight away, positive to the right.", ge=-360, le=360)
    ] = 0.0
    establishing: q.YesNo = False


class View(Stand):
    """A camera with the lens, height and tilt of its shot's hero."""

    name: str
    height_m: q.HeightM
    tilt_deg: Annotated[float, q.quantity("Tilt", "°", ge=-89, le=89)] = 0.0
    roll_deg: Annotated[float, q.quantity("Roll", "°", ge=-180, le=180)] = 0.0
    f_px: q.FocalLengthPx
    width_px: Annotated[float, q.quantity("Width needed", "px", gt=0, le=1e5)]
    height_px: Annotated[float, q.quantity("Height needed", "px", gt=0, le=1e5)]

    @property
    def half_deg(self) -> float:
        """Half of the angle that it sees across, degrees."""
        return angle_of_view_deg(self.width_px, self.f_px) / 2.0

    def after(self, move: Move, share: float, round_m: float = 0.0) -> View:
        """The camera after a share of a move.

        Parameters
        ----------
        move : Move
            Of its shot's hero.
        share : float
            Of it that is done, 0 to 1.
        round_m : float, default 0
            How far before the lens the point stands that an arc goes round, where the move does not say.

        Returns
        -------
        View
            Where it stands then.

        References
        ----------
        rotation

        Examples
        --------
        >>> start = View(name="A", height_m=1.6, f_px=2860, width_px=1920, height_px=1080)
        >>> start.after(Move(kind="slide", amount=0.5), 1.0).x_m
        0.5
        """
        path, turn = move.path([share], round_m), math.radians(self.heading_deg)
        right, up, forward = (float(np.ravel(axis)[0]) for axis in path.offset_m(move.amount))
        return self.but(
            x_m=self.x_m + right * math.cos(turn) + forward * math.sin(turn),
            z_m=self.z_m + forward * math.cos(turn) - right * math.sin(turn),
            height_m=self.height_m + up,
            heading_deg=math.remainder(self.heading_deg + float(path.pan_deg[0]), 360.0),
            tilt_deg=min(max(self.tilt_deg + float(path.tilt_deg[0]), -89.0), 89.0),
            roll_deg=math.remainder(self.roll_deg + float(path.roll_deg[0]), 360.0),
            f_px=self.f_px * float(path.zoom[0]),
        )

    def to_camera(self, points: Array) -> Array:
        """Points of the set in the camera's frame.

        Parameters
        ----------
        points : ndarray, shape (n, 3)
            Across, up, away, full-size metres.

        Returns
        -------
        ndarray, shape (n, 3)
            Right, up, forward from the entrance pupil, metres.

        References
        ----------
        rotation

        Examples
        --------
        >>> camera = View(name="A", height_m=1.5, f_px=2860, width_px=1920, height_px=1080)
        >>> camera.to_camera(np.array([[1.0, 2.0, 12.0]])).tolist()
        [[1.0, 0.5, 12.0]]
        """
        turn = math.radians(self.heading_deg)
        c, s = math.cos(turn), math.sin(turn)
        off = points - np.array([self.x_m, self.height_m, self.z_m])
        level = np.column_stack((c * off[:, 0] - s * off[:, 2], off[:, 1], s * off[:, 0] + c * off[:, 2]))
        return np.asarray(level @ rotation(self.tilt_deg, self.roll_deg).T, dtype=np.float64)
