"""A camera that goes on by its own rig from frame to frame: where the picture of the set goes by it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from statistics import median
from typing import Literal

import numpy as np
import numpy.typing as npt

from ..measure import similarity

Carries = Literal["figure", "camera_right", "camera_up", "camera_forward"]
"""What a rig carries: what is animated, or the camera, and which way it goes where the rig goes forwards."""
FEWEST_LEARNED = 3
_UNKNOWN, _LEARNED, _SPREAD = 1.0, 0.04, 3.0
"""Of how far the picture goes: what the depth of the set leaves open before it was seen to go, and at least
afterwards; and by how much more than the frames before were spread.
"""
_SAYS_PX, _LEAST_PX = 0.5, 0.1
_RIM_PX = 1000.0
"""About how far the rim of a delivered frame is from its middle."""
Array = npt.NDArray[np.float64]
Went = tuple[float, float, float, float]
"""How a picture went for each delivered px that was planned: to the right and down, px; turned clockwise,
degrees; larger by, of its size.
"""


@dataclass(frozen=True, slots=True)
class Goes:
    """How the picture of a set goes from one frame to another because its camera does, delivered px to the
    right and down of its middle; how many times as large it gets; how it turns clockwise, as what stands near
    goes farther; which share of that is left open; and by how much all of it is by what was seen before, None
    where it is as planned.
    """

    right_px: float = 0.0
    down_px: float = 0.0
    size: float = 1.0
    turn_deg: float = 0.0
    open_share: float = _UNKNOWN
    planned_px: float | None = None

    @property
    def slides(self) -> bool:
        """Whether the picture goes rather to a side than larger or smaller."""
        return math.hypot(self.right_px, self.down_px) > _RIM_PX * abs(self.size - 1.0)

    def transform(self, size_px: tuple[int, int], delivered: float) -> Array:
        """It takes places of the one frame to places of the other.

        Parameters
        ----------
        size_px : tuple of (int, int)
            Of the frames.
        delivered : float
            How many delivered px one of the frames' is.

        Returns
        -------
        ndarray, shape (2, 3)
            Px of the frames.

        References
        ----------
        pinhole

        Examples
        --------
        >>> Goes(-4.0, 0.0).transform((960, 540), 2.0).tolist()
        [[1.0, -0.0, -2.0], [0.0, 1.0, 0.0]]
        """
        shift = self.right_px / delivered, self.down_px / delivered
        return similarity(shift, self.turn_deg, self.size, _middle(size_px))

    def px(self, size_px: tuple[int, int], delivered: float) -> float:
        """How far the corner goes that goes farthest.

        Parameters
        ----------
        size_px : tuple of (int, int)
            Of the frames.
        delivered : float
            How many delivered px one of the frames' is.

        Returns
        -------
        float
            Delivered px.

        Examples
        --------
        >>> Goes(3.0, -4.0).px((960, 540), 2.0)
        5.0
        """
        return delivered * corner_px(self.transform(size_px, delivered), size_px)


STANDS = Goes()


def as_seen(goes: Goes, before: Iterable[Went | None], size_px: tuple[int, int], delivered: float) -> Goes:
    """A camera's way by how the picture was seen to go in the frames before.

    Parameters
    ----------
    goes : Goes
        As it is planned.
    before : iterable of (tuple of (float, float, float, float) or None)
        How it went in frames before, of :func:`went_of`.
    size_px : tuple of (int, int)
        Of the frames.
    delivered : float
        How many delivered px one of the frames' is.

    Returns
    -------
    Goes
        By the medians of three or more: how deep the set is, is in them, and how unlike they are is left
        open; else as it is planned, of which all is.

    References
    ----------
    pinhole

    Examples
    --------
    >>> before = [(-0.8, 0.0, 0.0, 0.0), (-0.81, 0.0, 0.0, 0.0), (0.0, 0.0, 0.0, 0.0), (-0.79, 0.0, 0.0, 0.0)]
    >>> round(as_seen(Goes(-4.0), before, (960, 540), 2.0).right_px, 2)
    -3.18
    """
    known = [went for went in before if went is not None]
    if len(known) < FEWEST_LEARNED:
        return goes
    planned = goes.px(size_px, delivered)
    right, down, turn, larger = (planned * median(each) for each in zip(*known, strict=True))
    shifts = [planned * math.hypot(went[0], went[1]) for went in known]
    spread = median(abs(px - median(shifts)) for px in shifts) / max(median(shifts), _LEAST_PX)
    return Goes(right, down, 1.0 + larger, turn, max(_LEARNED, _SPREAD * spread), planned)


def went_of(goes: Goes, transform: Array, size_px: tuple[int, int], delivered: float) -> Went | None:
    """How a picture went where its camera did.

    Parameters
    ----------
    goes : Goes
        The way.
    transform : ndarray, shape (2, 3)
        How the picture lies now, px of the frames.
    size_px : tuple of (int, int)
        Of the frames.
    delivered : float
        How many delivered px one of the frames' is.

    Returns
    -------
    tuple of (float, float, float, float) or None
        For each delivered px planned; None where less than half of one is.

    Examples
    --------
    >>> went_of(Goes(-4.0), Goes(-3.0).transform((960, 540), 2.0), (960, 540), 2.0)
    (-0.75, 0.0, 0.0, 0.0)
    """
    planned = goes.px(size_px, delivered) if goes.planned_px is None else goes.planned_px
    if planned < _SAYS_PX:
        return None
    x, y = _middle(size_px)
    right, down = transform @ (x, y, 1.0) - (x, y)
    turn = math.degrees(math.atan2(transform[1, 0], transform[0, 0]))
    larger = math.hypot(transform[1, 0], transform[0, 0]) - 1.0
    return (
        delivered * float(right) / planned,
        delivered * float(down) / planned,
        turn / planned,
        larger / planned,
    )


def share_of(goes: Goes, transform: Array, size_px: tuple[int, int], delivered: float) -> float:
    """Which share of a camera's way its picture went, along it.

    Parameters
    ----------
    goes : Goes
        The way, which goes somewhere.
    transform : ndarray, shape (2, 3)
        How the picture lies now, px of the frames.
    size_px : tuple of (int, int)
        Of the frames.
    delivered : float
        How many delivered px one of the frames' is.

    Returns
    -------
    float
        By least squares over the corners.

    Examples
    --------
    >>> share_of(Goes(-4.0), Goes(-3.0).transform((960, 540), 2.0), (960, 540), 2.0)
    0.75
    """
    planned = _corners_go(goes.transform(size_px, delivered), size_px)
    went = _corners_go(transform, size_px)
    return float((planned * went).sum() / (planned * planned).sum())


def beside(goes: Goes, transform: Array, size_px: tuple[int, int], delivered: float) -> Array:
    """What a picture is off where a camera's way takes it.

    Parameters
    ----------
    goes : Goes
        The way.
    transform : ndarray, shape (2, 3)
        How the picture lies now, px of the frames.
    size_px : tuple of (int, int)
        Of the frames.
    delivered : float
        How many delivered px one of the frames' is.

    Returns
    -------
    ndarray, shape (2, 3)
        From where it should be to where it is, px of the frames.

    Examples
    --------
    >>> there = Goes(-3.0).transform((960, 540), 2.0)
    >>> round(float(beside(Goes(-4.0), there, (960, 540), 2.0)[0, 2]), 3)
    0.5
    """
    bottom = np.array([[0.0, 0.0, 1.0]])
    planned = np.vstack([goes.transform(size_px, delivered), bottom])
    return np.asarray((np.vstack([transform, bottom]) @ np.linalg.inv(planned))[:2])


def corner_px(transform: Array, size_px: tuple[int, int]) -> float:
    """How far a transform takes the corner that it takes farthest.

    Parameters
    ----------
    transform : ndarray, shape (2, 3)
        Px of the frames.
    size_px : tuple of (int, int)
        Of the frames.

    Returns
    -------
    float
        Px of the frames.

    Examples
    --------
    >>> corner_px(Goes(-3.0).transform((960, 540), 1.0), (960, 540))
    3.0
    """
    return float(np.hypot(*_corners_go(transform, size_px).T).max())


def _middle(size_px: tuple[int, int]) -> tuple[float, float]:
    return (size_px[0] - 1) / 2.0, (size_px[1] - 1) / 2.0


def _corners_go(transform: Array, size_px: tuple[int, int]) -> Array:
    """How far each corner goes (4, 2), px."""
    width, height = size_px
    corners = np.array([(0, 0, 1), (width, 0, 1), (width, height, 1), (0, height, 1)], np.float64)
    return np.asarray(corners @ transform.T - corners[:, :2])
