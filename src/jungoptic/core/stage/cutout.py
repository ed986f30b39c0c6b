"""A picture cut out of what surrounds it: by the colour of its sheet, by black or white, by its own
transparency, by a loose outline.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from ..light import LUMA
from ..match.layer import Layer
from ..vocabulary import SHEETS
from .picture import Image, linear_rgb

# Up to which share it stays and from which it is gone. Source: cutting_out
_USUAL = {"sheet": (0.15, 0.75), "black": (0.75, 0.97), "white": (0.75, 0.97)}
_SHEET = SHEETS["green"]
_FEATHER = 1 / 400  # of the width, of a loose outline
_LEAST = 1e-4
_STANDS = 0.5  # of what is not quite gone, specks and seams too
_DARKEST = 0.06  # of the sheet's brightness, four stops: what is darker is no sheet


def _decoded() -> Image:
    codes = np.arange(256) / 255.0
    return np.where(codes <= 0.04045, codes / 12.92, ((codes + 0.055) / 1.055) ** 2.4).astype(np.float32)


_LINEAR = _decoded()


def _shares(codes: npt.NDArray[np.uint8], linear: Image, how: str, colour: str) -> Image:
    """How much of each pixel is what goes, (h, w), 0 … 1."""
    if how == "black":
        return np.asarray(1.0 - codes[..., :3].max(axis=2) / 255.0, np.float32)
    if how == "white":
        return np.asarray(codes[..., :3].min(axis=2) / 255.0, np.float32)
    sheet = linear_rgb(colour)
    own = int(sheet.argmax())
    others = [channel for channel in range(3) if channel != own]
    most = max(float(sheet[own] - sheet[others].max()), _LEAST)
    # a sheet is nowhere evenly lit, so the excess is counted against its own brightness
    excess = linear[..., own] - linear[..., others].max(axis=2)
    bright = np.maximum(linear @ LUMA / max(float(sheet @ LUMA), _LEAST), _DARKEST)
    return np.asarray(np.clip(excess / (most * bright), 0.0, 1.0), np.float32)


def _without_spill(linear: Image, colour: str) -> Image:
    own = int(linear_rgb(colour).argmax())
    others = [channel for channel in range(3) if channel != own]
    clean = linear.copy()
    clean[..., own] = np.minimum(clean[..., own], linear[..., others].max(axis=2))
    return clean


@dataclass(frozen=True, slots=True)
class Cut:
    """How a picture is cut out: which colour goes, up to which share of it something stays, from which share
    it is gone.
    """

    colour: str
    keeps: float
    clears: float


def cut_of(layer: Layer) -> Cut | None:
    """How a layer's picture is cut out by its colour: as the layer says, else as usual.

    Parameters
    ----------
    layer : Layer
        Its ``cut_by`` and what belongs to that.

    Returns
    -------
    Cut or None
        None where no colour goes.

    References
    ----------
    cutting_out

    Examples
    --------
    >>> cut_of(Layer(name="Spark", near_m=4, cut_by="black", cut_clears=0.9)).clears
    0.9
    """
    if layer.cut_by not in _USUAL:
        return None
    keeps, clears = _USUAL[layer.cut_by]
    return Cut(
        layer.cut_colour or _SHEET,
        keeps if layer.cut_keeps is None else layer.cut_keeps,
        clears if layer.cut_clears is None else layer.cut_clears,
    )


def cut_out(codes: npt.NDArray[np.uint8], layer: Layer) -> npt.NDArray[np.float32]:
    """A layer's picture cut out as the layer says.

    The matte of a sheet is the excess of its own channel over the greater of the others, against the sheet's;
    from what stays the excess is taken away.

    Parameters
    ----------
    codes : ndarray of uint8, shape (h, w, c)
        sRGB codes, red first; a fourth plane is the picture's own transparency.
    layer : Layer
        ``cut_by``, ``cut_colour``, ``cut_keeps``, ``cut_clears``; ``cut_outline`` in px of the picture as it
        came, ``picture_width_px`` wide.

    Returns
    -------
    ndarray of float32, shape (h, w, 4)
        Linear light multiplied by how much of it stands, and that share.

    References
    ----------
    colour_difference, srgb, cutting_out

    Examples
    --------
    >>> picture = np.array([[[47, 158, 68], [200, 160, 140]]], np.uint8)
    >>> sheet = Layer(name="Orla", near_m=4, cut_by="sheet", cut_colour="#2f9e44")
    >>> cut_out(picture, sheet)[0, :, 3].tolist()
    [0.0, 1.0]
    """
    linear = _LINEAR[codes[..., :3]]
    stands = np.ones(codes.shape[:2], np.float32)
    if layer.cut_by == "alpha" and codes.shape[2] > 3:
        stands = (codes[..., 3] / 255.0).astype(np.float32)
    elif (cut := cut_of(layer)) is not None:
        goes = _shares(codes, linear, layer.cut_by, cut.colour)
        stands = 1.0 - np.clip((goes - cut.keeps) / max(cut.clears - cut.keeps, _LEAST), 0.0, 1.0)
        if layer.cut_by == "sheet":
            linear = _without_spill(linear, cut.colour)
    if len(layer.cut_outline) > 2:
        stands = stands * _inside(layer, codes.shape[:2])
    return np.asarray(np.dstack([linear * stands[..., None], stands]), np.float32)


def _inside(layer: Layer, shape: tuple[int, ...]) -> Image:
    """A loose outline as a mask with a soft edge."""
    height, width = shape
    k = width / (layer.picture_width_px or width)
    mask = np.zeros((height, width), np.uint8)
    cv2.fillPoly(
        mask, [np.round(np.array(layer.cut_outline) * k * 16).astype(np.int32)], 255, cv2.LINE_AA, shift=4
    )
    soft = cv2.GaussianBlur(mask, (0, 0), max(width * _FEATHER, 0.5))
    return np.asarray(soft.astype(np.float32) / 255.0, np.float32)


def cropped(cut: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """What stands of a picture, without the nothing around it: its foot is the thing's foot.

    Parameters
    ----------
    cut : ndarray of float32, shape (h, w, 4)
        From :func:`cut_out`.

    Returns
    -------
    ndarray of float32, shape (m, n, 4)
        The part of it whose rows and columns hold something that stands; all of it where nothing does.

    References
    ----------
    cutting_out

    Examples
    --------
    >>> cut = np.zeros((9, 16, 4), np.float32)
    >>> cut[2:7, 4:8, 3] = 1.0
    >>> cropped(cut).shape
    (5, 4, 4)
    """
    stands = cut[..., 3] > _STANDS
    rows, columns = np.flatnonzero(stands.any(axis=1)), np.flatnonzero(stands.any(axis=0))
    if not len(rows):
        return cut
    return cut[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1]
