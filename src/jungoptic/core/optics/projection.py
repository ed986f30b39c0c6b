"""Central projection, exact: no small angles anywhere. Arrays in, arrays out.

Camera frame: x right, y up, z forward, metres from the entrance pupil; image: x right, y down, delivered
pixels. Pan to the right and tilt up are positive; roll is positive when the camera leans to its right, so
that the picture turns to the left.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache
from itertools import accumulate

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
NEAREST_M = 0.02


@lru_cache(maxsize=512)
def rotation(tilt_deg: float, roll_deg: float, pan_deg: float = 0.0) -> Array:
    """World-to-camera rotation, 3 × 3, for a camera that looks along +z: pan, then tilt, then roll about the
    lens axis. Not to be written to.
    """
    p, t, r = math.radians(pan_deg), math.radians(tilt_deg), math.radians(roll_deg)
    pan = np.array([[math.cos(p), 0.0, -math.sin(p)], [0.0, 1.0, 0.0], [math.sin(p), 0.0, math.cos(p)]])
    tilt = np.array([[1.0, 0.0, 0.0], [0.0, math.cos(t), -math.sin(t)], [0.0, math.sin(t), math.cos(t)]])
    roll = np.array([[math.cos(r), -math.sin(r), 0.0], [math.sin(r), math.cos(r), 0.0], [0.0, 0.0, 1.0]])
    turn: Array = roll @ tilt @ pan
    turn.flags.writeable = False
    return turn


def clipped(corners: Array, inside: Array) -> Array:
    """The part of a polygon (n × 3) where ``inside`` (n), which grows evenly along its edges, is not
    negative; may be empty.
    """
    kept: list[Array] = []
    for here, there, own, other in zip(
        corners, np.roll(corners, -1, axis=0), inside, np.roll(inside, -1), strict=True
    ):
        if own >= 0.0:
            kept.append(here)
        if (own >= 0.0) != (other >= 0.0):
            kept.append(here + own / (own - other) * (there - here))
    return np.array(kept).reshape(-1, 3)


def clip_near(corners: Array, nearest_m: float = NEAREST_M) -> Array:
    """The part of a polygon (n × 3, camera frame) that is at least ``nearest_m`` in front of the lens; may be
    empty.
    """
    return clipped(corners, corners[:, 2] - nearest_m)


def project(
    corners: Array,
    focal_length_px: float,
    width_px: float,
    height_px: float,
    tilt_deg: float = 0.0,
    roll_deg: float = 0.0,
    pan_deg: float = 0.0,
) -> Array:
    """A polygon in the picture: ``x = W/2 + f·X/Z``, ``y = H/2 − f·Y/Z``.

    Parameters
    ----------
    corners : ndarray, shape (n, 3)
        Metres in the frame of a level camera: right, up, forward from the entrance pupil.
    focal_length_px : float
        Focal length, delivered px.
    width_px, height_px : float
        The delivered frame, px.
    tilt_deg, roll_deg, pan_deg : float
        How the camera is turned, degrees; up, leaning to its right, and to the right are positive.

    Returns
    -------
    ndarray, shape (m, 2)
        From the top left, delivered px; what reaches behind the lens is clipped, so m is not always n.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> project([[0.0, 0.0, 12.0], [1.2, 0.0, 12.0]], 2860.0, 1920, 1080).tolist()
    [[960.0, 540.0], [1246.0, 540.0]]
    """
    whole = np.asarray(corners, dtype=float)
    return project_all(
        whole, (len(whole),), focal_length_px, width_px, height_px, tilt_deg, roll_deg, pan_deg
    )[0]


def project_all(
    corners: Array,
    counts: Sequence[int],
    focal_length_px: float,
    width_px: float,
    height_px: float,
    tilt_deg: float = 0.0,
    roll_deg: float = 0.0,
    pan_deg: float = 0.0,
) -> list[Array]:
    """:func:`project` for many polygons at once, their corners one after the other, ``counts`` of them each.

    One turn and one division for the whole set; only polygons that reach behind the lens are clipped one by
    one.
    """
    turned = corners @ rotation(tilt_deg, roll_deg, pan_deg).T
    middle, scale = np.array([width_px / 2.0, height_px / 2.0]), np.array([focal_length_px, -focal_length_px])

    def drawn(seen: Array) -> Array:
        return middle + scale * seen[:, :2] / seen[:, 2:]

    spans = [slice(end - count, end) for end, count in zip(accumulate(counts), counts, strict=True)]
    if not len(turned) or turned[:, 2].min() >= NEAREST_M:
        whole = drawn(turned)
        return [whole[span] for span in spans]
    return [drawn(clip_near(turned[span])) for span in spans]


def horizon_y_px(
    focal_length_px: float,
    height_px: float,
    tilt_deg: float = 0.0,
    roll_deg: float = 0.0,
    across_px: float = 0.0,
) -> float:
    """Height of the horizon in the picture, px from the top, so far to the right of its middle."""
    roll = math.radians(roll_deg)
    below = focal_length_px * math.tan(math.radians(tilt_deg)) / math.cos(roll)
    return height_px / 2.0 + below - across_px * math.tan(roll)
