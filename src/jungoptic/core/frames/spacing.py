"""Where a point of a figure stands at each pose: on a path through marked poses, eased, held and settled."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
STROBES_PX = 25.0
"""A step of more than this, of something that should smear at 180°, is seen as a row of pictures."""
_SAME_PX = 1e-6
_FINE = 64
"""Places on the path between two poses by which its length is told."""


@dataclass(frozen=True, slots=True)
class KeyPose:
    """A marked pose: at which frame of the shot, from 1, and where the point is, delivered px. ``eases_in``
    is the share of the time from the pose before over which it slows down, ``eases_out`` of that to the next
    over which it gathers speed; both from 0 to 1, and of one way 1 at most together.
    """

    frame: int
    x: float
    y: float
    eases_in: float = 0.0
    eases_out: float = 0.0


def eased_share(t: float, eases_out: float, eases_in: float) -> float:
    """The share of a way that is done, its speed rising and falling in straight lines.

    Parameters
    ----------
    t : float
        Of its time, 0 to 1.
    eases_out, eases_in : float
        Shares of the time over which it gathers speed from the one pose, and slows down to the other.

    Returns
    -------
    float
        0 to 1.

    References
    ----------
    eased

    Examples
    --------
    >>> eased_share(0.5, 0.5, 0.5), eased_share(0.25, 0.5, 0.5), eased_share(0.25, 0.0, 0.0)
    (0.5, 0.125, 0.25)
    """
    t = min(max(t, 0.0), 1.0)
    cruise = 1.0 - (eases_out + eases_in) / 2.0
    if t < eases_out:
        return t * t / (2.0 * eases_out) / cruise
    if t <= 1.0 - eases_in:
        return (t - eases_out / 2.0) / cruise
    return 1.0 - (1.0 - t) ** 2 / (2.0 * eases_in) / cruise


def spaced(keys: Sequence[KeyPose], frames: Sequence[int], arcs: bool = True) -> Array:
    """Where the point is at frames of the shot.

    Parameters
    ----------
    keys : sequence of KeyPose
        In the order of their frames, two at least.
    frames : sequence of int
        Of the shot, from 1; before the first key and after the last it stands.
    arcs : bool, default True
        Along a curve through the keys (Catmull & Rom, centripetal), else straight from key to key.

    Returns
    -------
    ndarray of float, shape (n, 2)
        px; steps go by length along the path.

    Raises
    ------
    ValueError
        Where there are fewer than two, they are not in order, or a way is eased for longer than it lasts.

    References
    ----------
    catmull_rom, eased

    Examples
    --------
    >>> keys = [KeyPose(1, 0.0, 0.0), KeyPose(5, 40.0, 0.0)]
    >>> spaced(keys, (1, 2, 3, 4, 5, 6))[:, 0].tolist()
    [0.0, 10.0, 20.0, 30.0, 40.0, 40.0]
    """
    if len(keys) < 2 or any(key.frame >= after.frame for key, after in pairwise(keys)):
        raise ValueError("a path goes through two poses at least, each at a later frame than the one before")
    if any(key.eases_out + after.eases_in > 1.0 for key, after in pairwise(keys)):
        raise ValueError("a way gathers speed and slows down over all of its time at most")
    points = np.array([(key.x, key.y) for key in keys], np.float64)
    ways = [_way(points, number, arcs) for number in range(len(keys) - 1)]
    told = np.empty((len(frames), 2))
    for row, frame in enumerate(frames):
        number = max((i for i, key in enumerate(keys) if key.frame <= frame), default=0)
        if frame <= keys[0].frame or number == len(keys) - 1:
            told[row] = points[min(number, len(keys) - 1)]
            continue
        start, end = keys[number], keys[number + 1]
        t = (frame - start.frame) / (end.frame - start.frame)
        told[row] = _along(ways[number], eased_share(t, start.eases_out, end.eases_in))
    return told


def _way(points: Array, number: int, arcs: bool) -> Array:
    """Places on the way from a key to the next (n, 2)."""
    start, end = points[number], points[number + 1]
    share = np.linspace(0.0, 1.0, _FINE + 1)[:, None]
    if not arcs or len(points) < 3 or _same(start, end):
        return np.asarray(start + share * (end - start), np.float64)
    before = points[number - 1] if number else start
    after = points[number + 2] if number + 2 < len(points) else end
    # beyond the ends, and beyond where it stood, the curve goes on as it came
    before = 2.0 * start - end if _same(before, start) else before
    after = 2.0 * end - start if _same(after, end) else after
    knots = [0.0]
    for near, far in ((before, start), (start, end), (end, after)):
        knots.append(knots[-1] + math.sqrt(float(np.hypot(*(far - near)))))
    t0, t1, t2, t3 = knots
    t = t1 + share * (t2 - t1)

    def between(a: Array, b: Array, low: float, high: float) -> Array:
        return np.asarray((high - t) / (high - low) * a + (t - low) / (high - low) * b, np.float64)

    first, second, third = (
        between(before, start, t0, t1),
        between(start, end, t1, t2),
        between(end, after, t2, t3),
    )
    return between(between(first, second, t0, t2), between(second, third, t1, t3), t1, t2)


def _same(place: Array, other: Array) -> bool:
    return bool(np.hypot(*(place - other)) < _SAME_PX)


def _along(way: Array, share: float) -> Array:
    lengths = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(way, axis=0).T))])
    reach = share * lengths[-1]
    return np.array([np.interp(reach, lengths, way[:, side]) for side in (0, 1)])


def steps_px(places: npt.ArrayLike) -> Array:
    """How far a point goes from each pose to the next.

    Parameters
    ----------
    places : ndarray of float, shape (n, 2)
        px.

    Returns
    -------
    ndarray of float, shape (n - 1,)
        px; what is over :data:`STROBES_PX` strobes.

    References
    ----------
    strobe_steps

    Examples
    --------
    >>> steps_px([(0.0, 0.0), (3.0, 4.0), (3.0, 4.0)]).tolist()
    [5.0, 0.0]
    """
    across = np.diff(np.asarray(places, np.float64), axis=0)
    return np.asarray(np.hypot(across[:, 0], across[:, 1]), np.float64)


def settles(reach_px: float, poses: int) -> tuple[float, ...]:
    """How a thing that stops goes beyond where it stops, and comes to rest.

    Parameters
    ----------
    reach_px : float
        How far it goes beyond at first.
    poses : int
        After which it rests.

    Returns
    -------
    tuple of float
        px beyond, from the pose on after it has come: to and fro, each time half as far; the last is 0.

    References
    ----------
    settle

    Examples
    --------
    >>> settles(8.0, 4)
    (8.0, -4.0, 2.0, 0.0)
    """
    return tuple(0.0 if pose == poses - 1 else reach_px * (-0.5) ** pose for pose in range(poses))
