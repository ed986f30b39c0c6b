"""A frame against another as the audience sees it: how far off the camera, the light and the focus are, and
what that is worth from one frame to the next.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from ..match import Tolerance, verdict
from ..measure import Differs, HeldAgainst, SetFrame
from ..vocabulary import Verdict
from .going import STANDS, Array, Goes, Went, beside, corner_px, share_of, went_of

What = Literal["camera", "light", "side", "focus", "piece", "left", "lost", "spacing", "path", "aim"]
Box = tuple[float, float, float, float]

LIMITS: Mapping[What, Tolerance] = MappingProxyType(
    {
        "camera": Tolerance(0.2, 0.6),
        "light": Tolerance(0.0075, 0.03),
        "side": Tolerance(0.01, 0.04),
        "focus": Tolerance(0.8, 1.6),
        "piece": Tolerance(0.2, 0.6),
    }
)
"""From frame to frame, delivered px and stops: what lasts for a frame or two only is seen where the same
difference between two plates is not.
"""


@dataclass(frozen=True, slots=True)
class Against:
    """A frame against another, delivered px, degrees and stops: how far the worst corner went, its error, to
    the right and down, turned clockwise, all off where its own planned way takes it; how much lighter it is,
    its error, the third that departs most and by how much beyond the whole; how much softer, None where
    nothing could be sharp; the boxes in which something differs, which only the last frame is asked for; and
    how far the camera's way takes the picture, which share of that it went, and how it went for each px that
    was planned, None where that is too little.
    """

    camera_px: float
    camera_off_px: float
    right_px: float
    down_px: float
    turn_deg: float
    stops: float
    stops_off: float
    side: str
    side_stops: float
    softer_px: float | None
    differs: tuple[Box, ...]
    goes_px: float = 0.0
    went_share: float | None = None
    went: Went | None = None


def comparison(
    frame: SetFrame, other: SetFrame | None, by_way_of: SetFrame | None = None, near: Array | None = None
) -> HeldAgainst | None:
    """A frame held against another.

    Parameters
    ----------
    frame, other : SetFrame
        The other may be missing.
    by_way_of : SetFrame, optional
        Against which both were held already.
    near : ndarray, shape (2, 3), optional
        How the frame is thought to lie on the other, px.

    Returns
    -------
    HeldAgainst or None
        None where there is no other, or they do not show the same.

    References
    ----------
    lucas_kanade, exposure_meter

    Examples
    --------
    >>> import numpy as np
    >>> comparison(SetFrame(np.full((90, 160, 3), 0.2)), None) is None
    True
    """
    if other is None:
        return None
    try:
        return frame.held_against(other, by_way_of, near)
    except ValueError:
        return None


def against_of(
    held: HeldAgainst,
    differs: Iterable[Differs],
    delivered: float,
    size_px: tuple[int, int],
    goes: Goes = STANDS,
) -> Against:
    """What a comparison says where the audience sees it.

    Parameters
    ----------
    held : HeldAgainst
        In px of the frames.
    differs : iterable of Differs
        What is in one of both only.
    delivered : float
        How many delivered px one of the frames' is.
    size_px : tuple of (int, int)
        Of the frames.
    goes : Goes, optional
        Where the camera's own way takes the picture; nowhere when left out.

    Returns
    -------
    Against
        In delivered px, stops, degrees.

    References
    ----------
    lucas_kanade, exposure_meter

    Examples
    --------
    >>> import cv2
    >>> import numpy as np
    >>> dice = np.random.default_rng(3)
    >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
    >>> aside = SetFrame(np.roll(board, 1, axis=1))
    >>> round(against_of(aside.held_against(SetFrame(board)), (), 4.0, aside.size_px).right_px, 1)
    4.0
    """
    moved, light = held.moved, held.gains
    half = math.hypot(*size_px) / 2.0
    turned = half * math.hypot(math.radians(moved.turn_off_deg), moved.size_off)
    corner, right, down = moved.corner_px, *moved.shift_px
    if goes != STANDS:
        off = beside(goes, moved.transform, size_px, delivered)
        right, down = right - goes.right_px / delivered, down - goes.down_px / delivered
        # near and far part from one another at the rim, however well the camera goes
        corner = math.hypot(right, down) if goes.slides else corner_px(off, size_px)
    turn_deg = moved.turn_deg - goes.turn_deg
    return Against(
        delivered * corner,
        delivered * math.hypot(moved.shift_off_px, turned),
        delivered * right,
        delivered * down,
        turn_deg,
        light.stops,
        light.off,
        light.where,
        light.there - light.stops,
        None if held.softened is None else delivered * held.softened.px,
        tuple(each.box for each in differs),
        0.0 if goes == STANDS else goes.px(size_px, delivered),
        None if goes == STANDS else share_of(goes, moved.transform, size_px, delivered),
        None if goes == STANDS else went_of(goes, moved.transform, size_px, delivered),
    )


def word_of(what: What, amount: float) -> Verdict:
    """What an amount of something is worth from one frame to the next.

    Parameters
    ----------
    what : str
        Of :data:`LIMITS`.
    amount : float
        Delivered px or stops, to either side.

    Returns
    -------
    str
        Holds, tight or shows.

    References
    ----------
    tol_frames

    Examples
    --------
    >>> word_of("camera", 0.1), word_of("light", -0.02)
    ('holds', 'tight')
    """
    return verdict(abs(amount), LIMITS[what])
