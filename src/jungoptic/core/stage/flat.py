"""Something flat held square before the lens (a slate, a chart, a grey card), as a set-up records it."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

from ..match.records import SetUp
from ..optics import airy_diameter_um, blur_disc_mm, focal_length_px, image_distance_mm
from .effects import ALL, Effects
from .raster import airy_spread, disc, spread
from .sensor import add_grain

_FINER = 4
"""Points to a recorded pixel, each way, before they are put together."""
_BAND_PX = 128
_SURROUND = 0.05
_LEAST_BLUR_PX = 0.1


def photograph_flat(
    picture: npt.ArrayLike,
    width_m: float,
    distance_m: float,
    setup: SetUp,
    *,
    window_px: tuple[int, int] | None = None,
    effects: Effects = ALL,
) -> npt.NDArray[np.float32]:
    """A flat picture on the axis of the lens, with the blur, the diffraction and the grain of its set-up.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w)
        Reflectance, 0 to 1.
    width_m : float
        How wide it is held.
    distance_m : float
        From the lens.
    setup : SetUp
        Lens, stop, focus, gate, recording, ISO.
    window_px : tuple of int, optional
        Width and height of the middle of the frame that is made; the whole frame when left out.
    effects : Effects, optional
        Of these ``focus``, ``diffraction``, ``grain`` and ``clipping`` count, and the seed.

    Returns
    -------
    ndarray of float32, shape (h, w)
        Linear light in recorded pixels.

    References
    ----------
    pinhole, thin_lens, airy, photon_noise

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> photograph_flat([[0.0, 1.0]], 0.2, 2.0, HERO, window_px=(320, 180)).shape
    (180, 320)
    """
    flat = np.asarray(picture, np.float32)
    width, height = window_px or (setup.recorded_width_px, setup.recorded_height_px)
    v_mm = image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    f_px = focal_length_px(v_mm, setup.gate_width_mm, setup.recorded_width_px)
    seen = _drawn(flat, f_px * width_m / distance_m / flat.shape[1], width, height)
    return as_recorded(seen, distance_m, setup, effects)


def as_recorded(
    seen: npt.NDArray[np.float32], distance_m: float, setup: SetUp, effects: Effects
) -> npt.NDArray[np.float32]:
    """A sharp picture of something grey at one distance, in recorded pixels, with what the lens and the
    sensor make of it.

    Parameters
    ----------
    seen : ndarray of float32, shape (h, w)
        Linear light.
    distance_m : float
        From the lens.
    setup : SetUp
        Lens, stop, focus, gate, recording, ISO.
    effects : Effects
        Of these ``focus``, ``diffraction``, ``grain`` and ``clipping`` count, and the seed.

    Returns
    -------
    ndarray of float32, shape (h, w)
        Linear light.

    References
    ----------
    thin_lens, airy, photon_noise

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> float(as_recorded(np.full((9, 16), 0.5, np.float32), 2.0, HERO, Effects.only()).max())
    0.5
    """
    height, width = seen.shape
    planes = np.concatenate([np.repeat(seen[None], 3, 0), np.ones((1, height, width), np.float32)])
    px_per_mm = setup.recorded_width_px / setup.gate_width_mm
    blur_px = px_per_mm * float(
        blur_disc_mm(
            setup.focal_length_mm, setup.f_number, setup.focus_distance_m, distance_m, setup.focusing
        )
    )
    if effects.focus and blur_px >= _LEAST_BLUR_PX:
        planes[:3] = spread(planes[:3], disc(round(blur_px, 2)))
    if effects.diffraction:
        planes[:3] = airy_spread(planes[:3], px_per_mm * airy_diameter_um(setup.f_number) / 1000.0)
    if effects.grain:
        add_grain(planes, setup, 1.0, (effects.seed,))
    if effects.clipping:
        np.minimum(planes[:3], 1.0, out=planes[:3])
    return np.ascontiguousarray(planes[1])


def _drawn(flat: npt.NDArray[np.float32], scale: float, width: int, height: int) -> npt.NDArray[np.float32]:
    """It in the middle of a frame, ``scale`` recorded pixels to one of its own: finer than pixels, which are
    put together in bands, so that a whole frame needs little memory.
    """
    fine = scale * _FINER
    left, top = (_FINER * width - fine * flat.shape[1]) / 2, (_FINER * height - fine * flat.shape[0]) / 2
    seen = np.empty((height, width), np.float32)
    for first in range(0, height, _BAND_PX):
        rows = min(_BAND_PX, height - first)
        # between the middles of pixels, as OpenCV counts them
        across, down = left + fine / 2 - 0.5, top - first * _FINER + fine / 2 - 0.5
        band = cv2.warpAffine(
            flat,
            np.array([[fine, 0, across], [0, fine, down]]),
            (_FINER * width, _FINER * rows),
            flags=cv2.INTER_NEAREST,
            borderMode=cv2.BORDER_CONSTANT,
            borderValue=_SURROUND,
        )
        seen[first : first + rows] = cv2.resize(band, (width, rows), interpolation=cv2.INTER_AREA)
    return seen
