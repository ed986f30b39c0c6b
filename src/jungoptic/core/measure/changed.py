"""Two pictures of one set-up laid on one another: whether the camera moved, and what of the light changed."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..light import mired_of_gain
from .change import Gains, gains, laid_back, still_pixels
from .pixels import Image, brightness
from .softened import Softened, softened
from .still import Moved, moved

_LEAST_MIRED = 2.0
"""Half a code of chroma, of 8 bits, over a grey thing."""
_LAW = 0.12
"""Of a shift: how far the law by which gains are told in mireds may be off for a camera's own channels."""
_CODE_STOPS = 0.04
"""One code of chroma, of 8 bits, over a grey thing: what a codec makes of none of less."""
_NO_CHROMA = 0.002
"""Of its light: how near to grey is as near as only a codec makes it."""


@dataclass(frozen=True, slots=True)
class Changed:
    """What changed from a reference to a picture: how it moved, its light and white, and its focus, None
    where nothing in both could be sharp. ``mired`` is the shift of white, warmer is positive; ``colour_off``
    the error of red and blue over green, stops.
    """

    moved: Moved
    gains: Gains
    colour_off: float
    mired: float
    mired_off: float
    softened: Softened | None


def changed(
    reference: npt.ArrayLike, picture: npt.ArrayLike, without: npt.ArrayLike | None = None
) -> Changed:
    """What changed between two pictures, over what stands still in both.

    Parameters
    ----------
    reference, picture : ndarray of float, shape (h, w, 3)
        Linear light.
    without : ndarray of bool, shape (h, w), optional
        What does not count, as where an actor is.

    Returns
    -------
    Changed
        In px of the reference, stops, mireds.

    Raises
    ------
    ValueError
        Where they show different things, or too little of them stands still.

    References
    ----------
    lucas_kanade, exposure_meter, planck

    Examples
    --------
    >>> dice = np.random.default_rng(3)
    >>> board = 0.1 + 0.5 * np.kron(dice.random((24, 48, 3)), np.ones((10, 10, 1))).astype(np.float32)
    >>> seen = changed(board, 1.25 * board)
    >>> round(seen.gains.stops, 2), round(seen.mired), round(seen.moved.corner_px, 1)
    (0.32, 0, 0.0)
    """
    first, second = np.asarray(reference, np.float32), np.asarray(picture, np.float32)
    away = None if without is None else np.asarray(without, bool)
    there = moved(brightness(first), brightness(second), away)
    laid = laid_back(second, there)
    still = still_pixels(there, first.shape)
    if away is not None:
        still &= ~away
    lighter = gains(first, laid, still)
    red, green, blue = lighter.channels
    try:
        softer = softened(first, laid, still)
    except ValueError:
        softer = None
    swallowed = max(_without_chroma(first[still]), _without_chroma(laid[still]))
    off = math.hypot(lighter.channels_off, _CODE_STOPS * swallowed)
    mired = mired_of_gain(2.0 ** (red - green), 2.0 ** (blue - green))
    per_stop = abs(mired_of_gain(2.0, 1.0))
    return Changed(
        there,
        lighter,
        off,
        mired,
        math.hypot(per_stop * math.sqrt(2.0) * off, _LAW * mired, _LEAST_MIRED),
        softer,
    )


def _without_chroma(light: Image) -> float:
    """The share of pixels, (n, 3), whose red or blue is exactly as light as they are: its codec kept no
    chroma of them, whichever is kept less.
    """
    there = brightness(light[None])[0, :, None]
    return float((np.abs(light[:, ::2] - there) < _NO_CHROMA * there).mean(axis=0).max())
