"""Pictures of random cameras by OpenCV: cv2.projectPoints (Bradski, The OpenCV Library, 2000) puts corners of
a house, a person and a stick with its shadow into them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from jungoptic.core.match import Mark

W, H = 3000, 2000
PERSON_M = 1.75


@dataclass(frozen=True)
class Camera:
    """The camera that took the picture, and the key in it."""

    view_deg: float
    tilt_deg: float
    roll_deg: float
    height_m: float
    heading_deg: float  # of the house
    azimuth_deg: float
    elevation_deg: float

    @property
    def focal_px(self) -> float:
        return W / 2 / math.tan(math.radians(self.view_deg) / 2)

    def seen(self, *places_m: tuple[float, float, float]) -> list[tuple[float, float]]:
        """Places (right, up from the ground, forward) in the picture, by OpenCV: x right, y down, z forward,
        its axes turned the other way round than ours.
        """
        # up, a camera's z comes down to it: a turn about x by the tilt; leaning right turns the world left
        tilted = cv2.Rodrigues(np.array([math.radians(-self.tilt_deg), 0.0, 0.0]))[0]
        rolled = cv2.Rodrigues(np.array([0.0, 0.0, math.radians(-self.roll_deg)]))[0]
        # by SciPy: OpenCV's own way back to a vector takes the smallest turns for none
        turn = Rotation.from_matrix(rolled @ tilted).as_rotvec()
        lens = np.array([[self.focal_px, 0, W / 2], [0, self.focal_px, H / 2], [0, 0, 1.0]])
        world = np.array([[x, self.height_m - y, z] for x, y, z in places_m])
        return [tuple(p) for p in cv2.projectPoints(world, turn, np.zeros(3), lens, None)[0][:, 0].tolist()]

    def marks(self, **noise: float) -> tuple[Mark, ...]:
        """A house's edges, a person, a stick and its shadow, drawn exactly."""
        turn = math.radians(self.heading_deg)
        away, across = (math.sin(turn), math.cos(turn)), (-math.cos(turn), math.sin(turn))
        corner = (0.0, 12.0)
        lines = []
        for y in (0.0, 3.0):
            for kind, (x, z) in (("away", away), ("across", across)):
                end = (corner[0] + 5 * x, y, corner[1] + 5 * z)
                lines.append((kind, self.seen((corner[0], y, corner[1]), end)))
        for x, z in (away, across, (0.0, 0.0)):
            foot = (corner[0] + 5 * x, corner[1] + 5 * z)
            lines.append(("upright", self.seen((foot[0], 0.0, foot[1]), (foot[0], 3.0, foot[1]))))
        lines.append(("height", self.seen((1.0, 0.0, 8.0), (1.0, PERSON_M, 8.0))))
        light = np.array(
            [
                math.sin(math.radians(self.azimuth_deg)) / math.tan(math.radians(self.elevation_deg)),
                -math.cos(math.radians(self.azimuth_deg)) / math.tan(math.radians(self.elevation_deg)),
            ]
        )
        tip = (-1.0 - light[0], 0.0, 9.0 - light[1])
        lines.append(("shadow", self.seen((-1.0, 0.0, 9.0), (-1.0, 1.0, 9.0), tip)))
        return tuple(Mark(kind=kind, points=points, height_m=PERSON_M) for kind, points in lines)

    @property
    def truth(self) -> tuple[float, ...]:
        return (
            self.view_deg,
            self.tilt_deg,
            self.roll_deg,
            self.height_m,
            self.azimuth_deg,
            self.elevation_deg,
        )


CAMERAS = st.builds(
    Camera,
    view_deg=st.floats(30, 90),
    tilt_deg=st.floats(-20, 10),
    roll_deg=st.floats(-6, 6),
    height_m=st.floats(0.5, 4),
    heading_deg=st.floats(20, 70),
    azimuth_deg=st.floats(-179, 179),
    elevation_deg=st.floats(15, 60),
)
