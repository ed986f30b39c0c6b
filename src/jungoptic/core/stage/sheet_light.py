"""Light on a backing, with the shadows that the subject throws on it."""

from __future__ import annotations

import cv2
import numpy as np

from ..light.placed import Array, light_on
from ..match.backing_shadow import thrown_by_light
from ..match.lighting import day_over, on_backing_lx
from ..match.measure import Match
from ..match.records import SetUp
from .picture import Image
from .raster import coverage

_CORNERS = 4


def sheet_light(
    match: Match, setup: SetUp, *, shadows: bool = True, a_metre: int = 100, most: int = 600
) -> Image:
    """Light over the sheet, of each light but where the subject hides it.

    Parameters
    ----------
    match : Match
        The layer, measured.
    setup : SetUp
        With a backing, lamps, sun.
    shadows : bool, default True
        Whether the subject throws any.
    a_metre, most : int
        How many points of light there are for each metre, and at most along a side.

    Returns
    -------
    ndarray of float32, shape (rows, columns)
        Rows from its top; 1 is the light on the subject.
    """
    backing = setup.backing
    assert backing is not None
    columns, rows = (max(8, min(round(side * a_metre), most)) for side in (backing.width_m, backing.height_m))
    day = day_over(setup)
    if not setup.lamps and day is None:
        return np.ones((rows, columns), np.float32)
    left, top = backing.across_m - backing.width_m / 2.0, backing.bottom_m + backing.height_m
    xs = left + (np.arange(columns) + 0.5) / columns * backing.width_m
    ys = top - (np.arange(rows) + 0.5) / rows * backing.height_m
    grid = np.array(np.meshgrid(xs, ys)).reshape(2, -1).T
    points = np.column_stack((grid, np.full(len(grid), backing.behind_m)))
    light = on_backing_lx(setup, points).reshape(rows, columns)
    for lamp, rings in thrown_by_light(match.layer, setup, backing) if shadows else ():
        if lamp is not None:
            own = light_on(points, lamp, (0.0, 0.0, -1.0)).reshape(rows, columns)
        else:
            assert day is not None  # whose sun throws it
            own = np.full((rows, columns), day.on_upright_lx - day.sky_lx / 2.0)
        hidden = np.zeros((rows, columns))
        for ring in rings:
            place = np.column_stack(
                (
                    (ring[:, 0] - left) / backing.width_m * columns,
                    (top - ring[:, 1]) / backing.height_m * rows,
                )
            )
            filled = coverage(place, columns, rows)
            if filled is not None:
                cover, (x0, y0, x1, y1) = filled
                hidden[y0:y1, x0:x1] = np.maximum(hidden[y0:y1, x0:x1], cover)
        light = light - own * hidden
    return (np.maximum(light, 0.0) / setup.illuminance_lx).astype(np.float32)


def sheet_in_picture(lit: Image, corners: Array, shape: tuple[int, int]) -> tuple[Image, Image] | None:
    """The light of a sheet as a picture has it, in perspective, and how much of each pixel is sheet.

    Parameters
    ----------
    lit : ndarray of float32, shape (rows, columns)
        See :func:`sheet_light`.
    corners : ndarray of float, shape (n, 2)
        Where its corners are in the picture, px, clockwise from the top left.
    shape : tuple of (int, int)
        Height and width of the picture.

    Returns
    -------
    tuple of ndarray of float32, shape (h, w)
        Light and cover; None where nothing of it is seen, or it reaches behind the lens.
    """
    if len(corners) != _CORNERS:
        return None
    rows, columns = lit.shape
    flat = np.array([(0, 0), (columns, 0), (columns, rows), (0, rows)], np.float32) - 0.5
    turn = cv2.getPerspectiveTransform(flat, (corners - 0.5).astype(np.float32))
    height, width = shape
    light = cv2.warpPerspective(lit, turn, (width, height), borderMode=cv2.BORDER_REPLICATE)
    filled = coverage(corners, width, height)
    if filled is None:
        return None
    cover = np.zeros((height, width), np.float32)
    left, top, right, low = filled[1]
    cover[top:low, left:right] = filled[0]
    return np.asarray(light, np.float32), cover
