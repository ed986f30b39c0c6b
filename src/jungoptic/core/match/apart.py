"""How far a layer stands from where the hero wants it, told apart by dial.

Every point is projected through the hero's camera and through the one that films the layer; the amount of a
dial is how far the greatest point moves when that dial alone is put right.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .pose import DISTANCE, F_PX, HEIGHT, PUPIL, ROLL, TILT, TRAVEL, Array, greatest, pictured_at
from .samples import Samples

_SAME = 1e-12
_AT_ONCE = 60_000  # points in one go: what a processor keeps at hand

_LENS, _PERSPECTIVE = 0, 1
ITEMS_OF_PLACE = ("lens", "perspective", "height", "tilt", "roll", "move", "pupil")
_DIALLED = {2: HEIGHT, 3: TILT, 4: ROLL, 5: TRAVEL, 6: PUPIL}  # the others of them are worked out together


@dataclass(frozen=True, slots=True)
class Apart:
    """What differs, for each of v cameras: ``amounts_px`` by item, with ``together``, how much further the
    whole lies off than its greatest single item; and how far from the middle of its own picture what is
    needed of the layer reaches, delivered px.

    ``picture_px`` (2, v, t, n) is where its own picture has every point, from its middle, and ``depth_m``
    (v, t, n) how far from the lens along its axis, full-size metres.
    """

    amounts_px: dict[str, Array]
    across_px: Array
    down_px: Array
    picture_px: Array
    depth_m: Array


def _put_right(poses: Array, hero: Array) -> Array:
    """The poses with one dial put right, for each item (7, 7, v).

    Size is put right by focal length or resize so that the front edge has its size; distance after that, with
    the front edge's size kept: a resize mends the one, only the camera's place the other.
    """
    right = np.repeat(poses[None], len(ITEMS_OF_PLACE), axis=0)
    right[0, F_PX] = hero[F_PX] * (poses[DISTANCE] / hero[DISTANCE])
    right[1, DISTANCE] = hero[DISTANCE]
    right[1, F_PX] = hero[F_PX]
    for item, dial in _DIALLED.items():
        right[item, dial] = hero[dial]
    return right


def apart(samples: Samples, poses: Array, pinned: bool) -> Apart:
    """Every item of place, for each of many cameras at once.

    Parameters
    ----------
    samples : Samples
        What is looked at: one layer, or v of them.
    poses : ndarray, shape (7, v)
        Cameras that film the layer, or each of them its own.
    pinned : bool
        Whether the composite may shift the layer so that its foot stands where it should.

    Returns
    -------
    Apart
        Arrays, shape (v,).

    References
    ----------
    pinhole, rotation
    """
    moments, points = samples.points.shape[-3:-1]
    each = max(1, _AT_ONCE // (moments * points * (len(ITEMS_OF_PLACE) + 1)))
    count = poses.shape[1]
    if count <= each or samples.points.ndim == 4:  # many layers are not as many as candidates
        return _apart(samples, poses, pinned)
    parts = [_apart(samples, poses[:, first : first + each], pinned) for first in range(0, count, each)]
    return Apart(
        {key: np.concatenate([part.amounts_px[key] for part in parts]) for key in parts[0].amounts_px},
        np.concatenate([part.across_px for part in parts]),
        np.concatenate([part.down_px for part in parts]),
        np.concatenate([part.picture_px for part in parts], axis=1),
        np.concatenate([part.depth_m for part in parts]),
    )


def _apart(samples: Samples, poses: Array, pinned: bool) -> Apart:
    count, anchor, needed = poses.shape[1], samples.anchor, samples.needed
    right = _put_right(poses, samples.hero)
    off = np.abs(right - poses) > _SAME * np.abs(poses)
    off[_PERSPECTIVE] = off[_PERSPECTIVE, DISTANCE]
    wrong = off.any(axis=1)
    item, camera = np.nonzero(wrong)  # each dial that is off, of each camera: only those are put right
    points = samples.points
    if points.ndim == 4:
        points = np.concatenate([points, points[camera]])
    every = np.concatenate([poses, right[item, :, camera].T], axis=1)
    picture, depth_m = pictured_at(points, samples.path, every)
    own = picture[:, :count, :, :anchor]
    across, down = np.abs(picture[:, :count, :, needed or 0 : None if needed else anchor]).max(axis=(2, 3))
    wanted = samples.wanted
    if pinned:
        picture = picture - picture[..., anchor, None]
        wanted = wanted - wanted[..., anchor, None]
    picture, wanted = picture[..., :anchor], wanted[..., :anchor]
    # the whole is held against the hero, each dial against the camera as it stands
    stands = camera
    if item.size and item[0] == _LENS:  # but distance against the camera whose size is right already
        sized = np.arange(count)
        lenses = item == _LENS
        sized[camera[lenses]] = count + np.flatnonzero(lenses)
        stands = np.where(item == _PERSPECTIVE, sized[camera], camera)
    whole_px = greatest(picture[:, :count] - wanted)
    px = np.zeros(wrong.shape)
    px[item, camera] = greatest(picture[:, stands] - picture[:, count:])
    together = np.where(wrong.sum(axis=0) > 1, np.maximum(whole_px - px.max(axis=0), 0.0), 0.0)
    amounts = dict(zip(ITEMS_OF_PLACE, px, strict=True)) | {"together": together}
    return Apart(amounts, across, down, own, depth_m[:count, :, :anchor])
