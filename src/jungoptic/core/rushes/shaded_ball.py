"""A matt grey ball in the light of a key and a fill, as a picture of it is."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ..stage.faces import tone_of

_RADIUS_PX, _MARGIN_PX, _GREY = 80, 10, 0.18
_SIDE_PX = 2 * (_RADIUS_PX + _MARGIN_PX)
CIRCLE_PX = ((_SIDE_PX - 1) / 2.0, (_SIDE_PX - 1) / 2.0, float(_RADIUS_PX))
"""Where it is in the picture: its middle and its radius."""


def shaded_ball(towards: npt.NDArray[np.float64], fill: float) -> npt.NDArray[np.float32]:
    """A ball of 18 % grey, shaded as the faces of a layer are.

    Parameters
    ----------
    towards : ndarray of float, shape (3,)
        The direction to the key: right, up, away from the lens.
    fill : float
        The fill's share of what a face has that looks into the key.

    Returns
    -------
    ndarray of float32, shape (h, w)
        Linear light; black around it.

    References
    ----------
    lambert

    Examples
    --------
    >>> ball = shaded_ball(np.array([0.6, 0.0, -0.8]), 0.25)
    >>> ball.shape, bool(ball[90, 140] > ball[90, 40] > 0.0)
    ((180, 180), True)
    """
    down, across = (np.indices((_SIDE_PX, _SIDE_PX)) - CIRCLE_PX[0]) / _RADIUS_PX
    out = np.sqrt(np.maximum(0.0, 1.0 - across**2 - down**2))
    light = np.zeros((_SIDE_PX, _SIDE_PX), np.float32)
    for row, column in zip(*np.nonzero(out > 0), strict=True):
        normal = (float(across[row, column]), float(-down[row, column]), float(-out[row, column]))
        light[row, column] = _GREY * tone_of(normal, towards, fill)
    return light
