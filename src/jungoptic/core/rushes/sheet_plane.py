"""Where a sheet is in the frame that its camera records, and what of it is crossed."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from ..light import Backing
from ..match import SetUp, Stack, picture_view_deg
from ..match.backing import crossed
from ..stage.backdrop import match_of
from ..stage.camera import left_by_vignetting

Array = npt.NDArray[np.float64]
Region = tuple[float, float, float, float]
"""Left, top, width and height, shares of a frame."""
_FINE_ROWS, _FINE_COLUMNS = 180, 320


def crossed_region(stack: Stack, position: int) -> Region | None:
    """Where in its recorded frame a layer is seen against its sheet, over all that it does.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in the stack, from 0.

    Returns
    -------
    tuple of float or None
        Left, top, width and height, shares of the frame; None where there is no sheet, or it is not seen.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from dataclasses import replace
    >>> from jungoptic.core.example import ACTOR, ON_GREEN, STACK
    >>> from jungoptic.core.match import Member
    >>> shot = replace(STACK, members=(STACK.members[0], Member(ACTOR, ON_GREEN, 3)))
    >>> [round(each, 2) for each in crossed_region(shot, 1)]
    [0.41, 0.44, 0.18, 0.56]
    """
    member = stack.members[position]
    setup = member.setup
    if setup is None or setup.backing is None:
        return None
    left, right, low, high = crossed(match_of(stack, member), setup, setup.backing)
    spots, seen = sheet_places(setup, _FINE_ROWS, _FINE_COLUMNS)
    x, y = (spots[:, axis].reshape(seen.shape) for axis in (0, 1))
    there = seen & (x >= left) & (x <= right) & (y >= low) & (y <= high)
    if not there.any():
        return None
    rows, columns = np.flatnonzero(there.any(axis=1)), np.flatnonzero(there.any(axis=0))
    return (
        float(columns[0] / _FINE_COLUMNS),
        float(rows[0] / _FINE_ROWS),
        float((columns[-1] + 1 - columns[0]) / _FINE_COLUMNS),
        float((rows[-1] + 1 - rows[0]) / _FINE_ROWS),
    )


def corners_lose(setup: SetUp, rows: int, columns: int) -> Array:
    """How much the lens darkens the parts of the recorded frame.

    Parameters
    ----------
    setup : SetUp
        With its lens.
    rows, columns : int
        Into how many parts the frame is divided.

    Returns
    -------
    ndarray of float, shape (rows, columns)
        Stops.

    References
    ----------
    vignetting_guess

    Examples
    --------
    >>> from jungoptic.core.example import ON_GREEN
    >>> lost = corners_lose(ON_GREEN.but(vignetting_stops=1.0), 9, 16)
    >>> bool(lost[0, 0] > lost[4, 8] >= 0.0)
    True
    """
    tall = setup.recorded_height_px / setup.recorded_width_px
    x = 2.0 * (np.arange(columns) + 0.5) / columns - 1.0
    y = tall * (2.0 * (np.arange(rows) + 0.5) / rows - 1.0)
    corner = math.hypot(1.0, tall) * setup.measured_on_mm / setup.gate_width_mm
    share = np.hypot(x[None, :], y[:, None]).astype(np.float32) / np.float32(corner)
    return np.asarray(-np.log2(left_by_vignetting(setup, share)), np.float64)


def sheet_places(setup: SetUp, rows: int, columns: int) -> tuple[Array, npt.NDArray[np.bool_]]:
    """Where on its sheet a camera sees the parts of its recorded frame.

    Parameters
    ----------
    setup : SetUp
        With its sheet.
    rows, columns : int
        Into how many parts the frame is divided.

    Returns
    -------
    spots : ndarray, shape (rows · columns, 3)
        The middles of the parts on the plane of the sheet, set metres.
    seen : ndarray of bool, shape (rows, columns)
        Which of them are on the sheet.

    Raises
    ------
    ValueError
        Where the set-up has no sheet.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import ON_GREEN
    >>> spots, seen = sheet_places(ON_GREEN, 1, 1)
    >>> round(float(spots[0, 0]), 3), float(spots[0, 2]) == ON_GREEN.backing.behind_m, bool(seen[0, 0])
    (0.0, True, True)
    """
    backing = setup.backing
    if backing is None:
        raise ValueError("the set-up has no sheet")
    # all of the gate is recorded, whatever is extracted of it afterwards
    used = setup.gate_width_mm / setup.extracted_mm
    half = used * math.tan(math.radians(picture_view_deg(setup) / 2.0))
    tall = half * setup.recorded_height_px / setup.recorded_width_px
    x = half * (2.0 * (np.arange(columns) + 0.5) / columns - 1.0)
    y = tall * (1.0 - 2.0 * (np.arange(rows) + 0.5) / rows)
    across, up = np.meshgrid(x, y)
    roll, tilt = math.radians(setup.roll_deg), math.radians(setup.tilt_deg)
    right = across * math.cos(roll) + up * math.sin(roll)
    high = up * math.cos(roll) - across * math.sin(roll)
    ahead = math.cos(tilt) - high * math.sin(tilt)
    high = math.sin(tilt) + high * math.cos(tilt)
    away = (setup.distance_m + backing.behind_m) / np.maximum(ahead, 1e-6)
    spots = np.stack(
        [right * away, setup.lens_height_m + high * away, np.full(right.shape, backing.behind_m)], axis=-1
    )
    return spots.reshape(-1, 3), _on(backing, spots) & (ahead > 1e-6)


def _on(backing: Backing, spots: Array) -> npt.NDArray[np.bool_]:
    across = np.abs(spots[..., 0] - backing.across_m) <= backing.width_m / 2.0
    up = spots[..., 1] - backing.bottom_m
    return np.asarray(across & (up >= 0.0) & (up <= backing.height_m))
