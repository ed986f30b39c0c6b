"""A layer's own picture in the lens view: as a card where the layer stands, or as the plate that it is."""

from __future__ import annotations

import math

import cv2
import numpy as np

from ..match.measure import Match
from ..match.view import START, Moment, layer_view, placed_m
from ..optics.projection import Array
from .picture import Image


def _lens(focal_px: float, middle: tuple[float, float]) -> Array:
    return np.array([[focal_px, 0.0, middle[0]], [0.0, -focal_px, middle[1]], [0.0, 0.0, 1.0]])


def _as_plate(match: Match, moment: Moment, size: tuple[float, float], shape: tuple[int, int]) -> Array:
    """A picture that fills the frame turns as the camera turns and is enlarged as its lens differs; nothing
    in it comes nearer.
    """
    start, view = layer_view(match, START), layer_view(match, moment)
    height, width = shape
    known = match.layer.taken_view_deg
    focal = (
        start.focal_px * width / size[0]
        if known is None
        else width / 2.0 / math.tan(math.radians(known) / 2.0)
    )
    middle = size[0] / 2.0 + view.shift_px[0], size[1] / 2.0 + view.shift_px[1]
    own = np.linalg.inv(_lens(focal, (width / 2.0, height / 2.0)))
    there: Array = _lens(view.focal_px, middle) @ view.turn @ start.turn.T @ own
    return there


def _as_card(match: Match, moment: Moment, size: tuple[float, float], shape: tuple[int, int]) -> Array | None:
    layer, (height, width) = match.layer, shape
    half = layer.height_m * width / height / 2.0  # as high as the layer; nothing is pulled wide
    corners = np.array(
        [[-half, layer.height_m, 0], [half, layer.height_m, 0], [half, 0, 0], [-half, 0, 0]], float
    )
    drawn = layer_view(match, moment).project([corners + placed_m(layer, moment)], *size)[0]
    if len(drawn) != len(corners):
        return None  # it reaches behind the lens
    of_picture = np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float32)
    return np.asarray(cv2.getPerspectiveTransform(of_picture, drawn.astype(np.float32)), float)


def standing_picture(
    match: Match, cut: Image, size: tuple[float, float], shape: tuple[int, int], k: float, moment: Moment
) -> Image | None:
    """A layer's picture where it stands in the lens view.

    Parameters
    ----------
    match : Match
        The layer, measured.
    cut : ndarray of float32, shape (h, w, 4)
        The picture, from :func:`~jungoptic.core.stage.cut_out`.
    size : tuple of float
        The delivered frame, px.
    shape : tuple of int
        Rows and columns of the picture that is drawn.
    k : float
        Its px for each delivered px.
    moment : Moment
        Frame of the shot.

    Returns
    -------
    ndarray of float32, shape (4, h, w)
        Planes, multiplied by the last; None where nothing of it can be drawn.
    """
    place = (_as_plate if match.layer.fills_frame else _as_card)(match, moment, size, cut.shape[:2])
    if place is None:
        return None
    to_picture = np.diag([k, k, 1.0]) @ place
    drawn = cv2.warpPerspective(
        cut, to_picture, shape[::-1], flags=cv2.INTER_AREA if k < 1 else cv2.INTER_LINEAR
    )
    return np.ascontiguousarray(np.moveaxis(drawn, 2, 0), np.float32)
