"""The camera and the light of a picture, by what is drawn on it: vanishing points, a known height, a shadow.

Places are (x, y) from the picture's middle, x right and y down, in any one unit that the focal length has
too. Everything works on many drawings of the same picture at once, so that an error can be carried through.
A thing that cannot be told is nan.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]

_TURNS = 4  # of weighing lines anew; more change nothing that is drawn by hand
_LEAST_SHARE = 1e-4  # of what two directions must run towards to tell a lens


def vanishing_points(starts: Array, ends: Array) -> Array:
    """Where lines that are parallel in the world meet in the picture.

    The place from which the ends of all lie least off, each in shares of its length.

    Parameters
    ----------
    starts : ndarray, shape (b, n, 2)
        One end of n lines in b drawings.
    ends : ndarray, shape (b, n, 2)
        The other end.

    Returns
    -------
    ndarray, shape (b, 3)
        Homogeneous and of length 1: (x, y, w), the place itself (x/w, y/w). nan for less than two lines.

    References
    ----------
    caprile_torre

    Examples
    --------
    >>> point = vanishing_points([[[-1, 1], [1, 1]]], [[[-0.5, 0.5], [0.5, 0.5]]])[0]
    >>> [round(float(abs(part)), 6) for part in point]
    [0.0, 0.0, 1.0]
    """
    starts, ends = np.asarray(starts, dtype=np.float64), np.asarray(ends, dtype=np.float64)
    if starts.shape[1] < 2:
        return np.full((len(starts), 3), np.nan)
    along = ends - starts
    lengths = np.hypot(along[..., 0], along[..., 1])
    safe = np.maximum(lengths, 1e-12)
    normals = np.stack([along[..., 1], -along[..., 0]], axis=-1) / safe[..., None]
    middles = (starts + ends) / 2.0
    lines = np.concatenate([normals, -(normals * middles).sum(axis=-1, keepdims=True)], axis=-1)
    weights = lengths
    point = np.zeros((len(starts), 3))
    for _ in range(_TURNS):
        weighed = lines * weights[..., None]
        point = np.linalg.eigh(np.swapaxes(weighed, 1, 2) @ weighed)[1][..., 0]
        reach = np.linalg.norm(point[:, None, :2] - middles * point[:, None, 2:], axis=-1)
        weights = lengths / np.maximum(reach, 1e-9)
    return point


def focal_lengths(first: Array, second: Array) -> Array:
    """The focal length for which two vanishing points are those of directions at right angles.

    ``f² = −(x₁x₂ + y₁y₂)/(w₁w₂)``.

    Parameters
    ----------
    first : ndarray, shape (b, 3)
        From :func:`vanishing_points`.
    second : ndarray, shape (b, 3)
        Of the other direction.

    Returns
    -------
    ndarray, shape (b,)
        In the unit of the places; nan where no lens makes them so, or one direction runs level with the
        picture, which tells none.

    References
    ----------
    caprile_torre

    Examples
    --------
    >>> focal_lengths(np.array([[-3.0, 0.0, 1.0]]), np.array([[3.0, 0.0, 1.0]])).tolist()
    [3.0]
    """
    both = first[:, 2] * second[:, 2]
    told = np.where(np.abs(both) > _LEAST_SHARE, both, np.nan)
    square = -(first[:, :2] * second[:, :2]).sum(axis=-1) / told
    return np.sqrt(np.where(square > 0, square, np.nan))


def directions(points: Array, focal: Array) -> Array:
    """Unit directions, right, up and forward of the lens, through places of the picture.

    Parameters
    ----------
    points : ndarray, shape (b, ..., 2) or (b, ..., 3)
        Places, or homogeneous ones.
    focal : ndarray, shape (b,)
        Focal length.

    Returns
    -------
    ndarray, shape (b, ..., 3)
        Of length 1.

    References
    ----------
    pinhole

    Examples
    --------
    >>> directions([[1.5, -1.5]], np.array([1.5])).round(3).tolist()
    [[0.577, 0.577, 0.577]]
    """
    points = np.asarray(points, dtype=np.float64)
    shares = points[..., 2] if points.shape[-1] == 3 else np.ones(points.shape[:-1])
    f = np.asarray(focal).reshape(-1, *([1] * (points.ndim - 2)))
    rays = np.stack([points[..., 0], -points[..., 1], f * shares], axis=-1)
    there: Array = rays / np.linalg.norm(rays, axis=-1, keepdims=True)
    return there


def upwards(up: Array) -> Array:
    """Directions made 1 long, and turned round where they look down.

    Parameters
    ----------
    up : ndarray, shape (b, 3)
        At right angles to what is level: the world's up or down, right, up and forward of the lens.

    Returns
    -------
    ndarray, shape (b, 3)
        The world's up; nan where it lies level in the picture.

    References
    ----------
    rotation

    Examples
    --------
    >>> upwards(np.array([[0.0, -2.0, 0.0]])).tolist()
    [[-0.0, 1.0, -0.0]]
    """
    side = np.where(up[:, 1:2] == 0.0, np.nan, np.sign(up[:, 1:2]))
    there: Array = up * side / np.linalg.norm(up, axis=-1, keepdims=True)
    return there


def turned_deg(up: Array) -> tuple[Array, Array]:
    """How a camera is turned that sees the world's up in this direction.

    Parameters
    ----------
    up : ndarray, shape (b, 3)
        Unit directions, right, up and forward of the lens.

    Returns
    -------
    tilt : ndarray, shape (b,)
        Degrees; up is positive.
    roll : ndarray, shape (b,)
        Degrees; leaning to its right is positive.

    References
    ----------
    rotation

    Examples
    --------
    >>> tilt, roll = turned_deg(np.array([[0.0, 1.0, 0.0]]))
    >>> float(tilt[0]), float(abs(roll[0]))
    (0.0, 0.0)
    """
    tilt = np.degrees(np.arcsin(np.clip(up[:, 2], -1.0, 1.0)))
    return tilt, np.degrees(np.arctan2(-up[:, 0], up[:, 1]))


def _standing(foot: Array, head: Array, up: Array) -> tuple[Array, Array]:
    """Where things stand whose foot and head are seen so, and how high they are, both for a lens 1 above the
    ground. nan where a foot is not under the horizon.
    """
    down = -(foot * up).sum(axis=-1)
    place = foot / np.where(down > 1e-9, down, np.nan)[..., None]
    off, rise = np.cross(place, head), np.cross(up, head)
    return place, -(off * rise).sum(axis=-1) / np.maximum((rise * rise).sum(axis=-1), 1e-18)


def _level_axes(up: Array) -> tuple[Array, Array]:
    """Level directions ahead of the lens and to its right, for the world's up in it (b, 3)."""
    ahead = np.array([0.0, 0.0, 1.0]) - up[:, 2:] * up
    ahead = ahead / np.linalg.norm(ahead, axis=-1, keepdims=True)
    return ahead, np.cross(up, ahead)


def stand_m(foot: Array, head: Array, up: Array, lens_m: Array) -> Array:
    """Where upright things stand on level ground, and how high they are.

    Parameters
    ----------
    foot : ndarray, shape (b, n, 3)
        Directions to the feet of n things, from :func:`directions`.
    head : ndarray, shape (b, n, 3)
        To their heads.
    up : ndarray, shape (b, 3)
        The world's up in the camera.
    lens_m : ndarray, shape (b,)
        How high the lens is over the ground.

    Returns
    -------
    ndarray, shape (b, n, 3)
        Metres ahead of the lens, to its right, and from foot to head; nan where a foot is not under the
        horizon.

    References
    ----------
    pinhole

    Examples
    --------
    >>> below, level = directions(np.array([[[0.0, 2.0]], [[0.0, 0.0]]]), np.array([2.0, 2.0]))
    >>> stand_m(below[None], level[None], np.array([[0.0, 1.0, 0.0]]), np.array([1.6])).round(2).tolist()
    [[[1.6, 0.0, 1.6]]]
    """
    place, tall = _standing(foot, head, up[:, None])
    ahead, right = _level_axes(up)
    off = [(place * axis[:, None]).sum(axis=-1) for axis in (ahead, right)]
    there: Array = np.stack([*off, tall], axis=-1) * np.asarray(lens_m)[:, None, None]
    return there


def lens_heights_m(foot: Array, head: Array, up: Array, known_m: Array) -> Array:
    """How high a lens is over the ground on which upright things of known height stand.

    Parameters
    ----------
    foot : ndarray, shape (b, n, 3)
        Directions to the feet of n things, from :func:`directions`.
    head : ndarray, shape (b, n, 3)
        To their heads.
    up : ndarray, shape (b, 3)
        The world's up in the camera.
    known_m : ndarray, shape (n,)
        Their heights.

    Returns
    -------
    ndarray, shape (b, n)
        Metres, by each of them; nan where a foot is not under the horizon or a head not over it.

    References
    ----------
    pinhole

    Examples
    --------
    >>> up, level = np.array([[0.0, 1.0, 0.0]]), np.array([[[0.0, 0.0, 1.0]]])
    >>> foot = np.array([[[0.0, -0.4, 0.8]]])
    >>> lens_heights_m(foot, level, up, np.array([1.8])).tolist()
    [[1.8]]
    """
    _, heights = _standing(foot, head, up[:, None])
    tall: Array = np.asarray(known_m) / np.where(heights > 1e-9, heights, np.nan)
    return tall


def keys_deg(foot: Array, head: Array, tip: Array, up: Array) -> tuple[Array, Array]:
    """Where light comes from that throws the shadow of upright things on level ground.

    Parameters
    ----------
    foot : ndarray, shape (b, n, 3)
        Directions to the feet of n things, from :func:`directions`.
    head : ndarray, shape (b, n, 3)
        To their heads.
    tip : ndarray, shape (b, n, 3)
        To the tips of their shadows.
    up : ndarray, shape (b, 3)
        The world's up in the camera.

    Returns
    -------
    azimuth : ndarray, shape (b, n)
        By each of them, degrees; 0 behind the camera, positive to camera right.
    elevation : ndarray, shape (b, n)
        Degrees.

    References
    ----------
    pinhole

    Examples
    --------
    A stick 1 high under a lens 1 high, its shadow 1 long towards the camera: light from behind, 45° up.

    >>> up = np.array([[0.0, 1.0, 0.0]])
    >>> foot, head, tip = ([[[0.0, y, z]]] for y, z in ((-1.0, 4.0), (0.0, 4.0), (-1.0, 3.0)))
    >>> [round(abs(float(angle[0, 0])), 6) for angle in keys_deg(foot, head, tip, up)]
    [180.0, 45.0]
    """
    foot, head, tip = (np.asarray(rays, dtype=np.float64) for rays in (foot, head, tip))
    zenith = up[:, None]
    place, height = _standing(foot, head, zenith)
    down = -(tip * zenith).sum(axis=-1)
    on_ground = tip / np.where(down > 1e-9, down, np.nan)[..., None]
    to_light = place + np.where(height > 0, height, np.nan)[..., None] * zenith - on_ground
    ahead, right = (axis[:, None] for axis in _level_axes(up))
    azimuth = np.degrees(np.arctan2((to_light * right).sum(axis=-1), -(to_light * ahead).sum(axis=-1)))
    rise = (to_light * zenith).sum(axis=-1)
    level = np.linalg.norm(to_light - rise[..., None] * zenith, axis=-1)
    return azimuth, np.degrees(np.arctan2(rise, level))
