"""A flat chart held anyhow before the lens, as a set-up records it: bent, blurred, grained."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from ..match.records import SetUp
from ..optics import focal_length_px, image_distance_mm
from .effects import ALL, Effects
from .flat import as_recorded

_FINER = 3
_SURROUND = 0.1
_LOOKS = 8
"""Steps in which the bend is undone: each leaves less than a tenth."""


@dataclass(frozen=True, slots=True)
class Held:
    """How a chart is held: its middle ``across_m``, ``up_m`` and ``away_m`` from the lens, turned about its
    upright (``pan_deg``), its level (``tilt_deg``) and the line of sight (``roll_deg``).
    """

    across_m: float
    up_m: float
    away_m: float
    pan_deg: float = 0.0
    tilt_deg: float = 0.0
    roll_deg: float = 0.0

    def axes(self) -> npt.NDArray[np.float64]:
        """Its own axes (across, down, away) as seen from the lens.

        Returns
        -------
        ndarray of float64, shape (3, 3)
            One a column.

        References
        ----------
        rotation

        Examples
        --------
        >>> bool(np.allclose(Held(0, 0, 1).axes(), np.eye(3)))
        True
        """
        pan, tilt, roll = np.radians([self.pan_deg, self.tilt_deg, self.roll_deg])
        turns = [cv2.Rodrigues(np.array(turn))[0] for turn in ((0, pan, 0), (tilt, 0, 0), (0, 0, roll))]
        return np.asarray(turns[0] @ turns[1] @ turns[2], np.float64)


def photograph_board(
    picture: npt.ArrayLike, width_m: float, held: Held, setup: SetUp, *, effects: Effects = ALL
) -> npt.NDArray[np.float32]:
    """A chart as a set-up records it, the whole frame.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w)
        Reflectance, 0 to 1.
    width_m : float
        How wide it is.
    held : Held
        Where, and how it is turned.
    setup : SetUp
        Lens with its distortion, stop, focus, gate, recording, ISO.
    effects : Effects, optional
        Of these ``distortion``, ``focus``, ``diffraction``, ``grain`` and ``clipping`` count, and the seed.

    Returns
    -------
    ndarray of float32, shape (h, w)
        Linear light in recorded pixels.

    References
    ----------
    pinhole, thin_lens, distortion_scale, airy, photon_noise

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> small = HERO.but(recorded_width_px=192, recorded_height_px=108)
    >>> photograph_board([[0.0, 1.0]], 0.3, Held(0, 0, 1), small).shape
    (108, 192)
    """
    flat = np.asarray(picture, np.float32)
    width, height = setup.recorded_width_px, setup.recorded_height_px
    v_mm = image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    f_px = focal_length_px(v_mm, setup.gate_width_mm, width)
    bend = setup.distortion_pct / 100.0 if effects.distortion else 0.0
    seen = _seen(flat, width_m, held, f_px, (width, height), bend)
    return as_recorded(seen, held.away_m, setup, effects)


def _seen(
    flat: npt.NDArray[np.float32],
    width_m: float,
    held: Held,
    f_px: float,
    size: tuple[int, int],
    bend: float,
) -> npt.NDArray[np.float32]:
    """The chart where the lens draws it: every point of the frame is followed back to the chart."""
    width, height = size
    corner = np.hypot(width, height) / 2.0
    x = (np.arange(width * _FINER) + 0.5) / _FINER - width / 2.0
    y = (np.arange(height * _FINER) + 0.5) / _FINER - height / 2.0
    drawn_x, drawn_y = np.meshgrid(x.astype(np.float32), y.astype(np.float32))
    plain_x, plain_y = drawn_x.copy(), drawn_y.copy()
    for _ in range(_LOOKS if bend else 0):
        scale = 1.0 + bend * (plain_x**2 + plain_y**2) / np.float32(corner**2)
        plain_x, plain_y = drawn_x / scale, drawn_y / scale
    axes = held.axes()
    middle = np.array([held.across_m, -held.up_m, held.away_m])
    to_sight = np.column_stack([axes[:, 0], axes[:, 1], middle])  # metres on the chart to the line of sight
    back = np.linalg.inv(to_sight).astype(np.float32)
    sight = (plain_x / np.float32(f_px), plain_y / np.float32(f_px))
    across, down, depth = (row[0] * sight[0] + row[1] * sight[1] + row[2] for row in back)
    per_m = flat.shape[1] / width_m
    at_x = across / depth * np.float32(per_m) + flat.shape[1] / 2.0 - 0.5
    at_y = down / depth * np.float32(per_m) + flat.shape[0] / 2.0 - 0.5
    fine = cv2.remap(
        flat,
        at_x.astype(np.float32),
        at_y.astype(np.float32),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=_SURROUND,
    )
    return np.asarray(cv2.resize(fine, size, interpolation=cv2.INTER_AREA), np.float32)
