"""Where a layer's recorded picture lies in the delivered frame, and what is drawn over it there."""

from __future__ import annotations

import math
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from ..match.camera import camera_height_m, focal_px, picture_view_deg
from ..match.ground import GroundLine, ground_lines
from ..match.measure import Match
from ..match.pose import Array
from ..match.view import START, layer_view
from ..optics.projection import horizon_y_px
from ..vocabulary import Combine
from ..wording import Words, number

Grey = npt.NDArray[np.uint8]
Light = npt.NDArray[np.float32]

LaidAs = Literal["whole", "mixed", "added", "screened", "multiplied", "keyed"]
_LAID: dict[Combine, LaidAs] = {
    "base": "whole",
    "add": "added",
    "screen": "screened",
    "multiply": "multiplied",
    "shadow_alpha": "multiplied",
}
_FINER = 1.5


def gate_in_frame(match: Match) -> tuple[float, float, float, float]:
    """Where a layer's whole recorded picture lies in the delivered frame, resized and not shifted.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.

    Returns
    -------
    tuple of float
        Left, top, width and height, delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> [round(side) for side in gate_in_frame(Match(HERO, MILL, HERO, DELIVERY))]
    [0, 1, 1920, 1078]
    """
    setup, delivery = match.setup or match.hero, match.delivery
    width = delivery.width_px * setup.gate_width_mm / setup.extracted_mm * match.resize
    height = width * setup.gate_height_mm / setup.gate_width_mm
    return (delivery.width_px - width) / 2.0, (delivery.height_px - height) / 2.0, width, height


def moved_in_composite(match: Match) -> tuple[float, float]:
    """By how much the composite moves the picture of a layer's camera that stands as planned.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.

    Returns
    -------
    tuple of float
        To the right and down, so that its base is where the hero has it; delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> [round(px) for px in moved_in_composite(Match(HERO, MILL, MODEL, DELIVERY))]
    [0, -655]
    """
    right, down = layer_view(match, START).shift_px
    return float(right), float(down)


def laid_in_frame(match: Match) -> tuple[float, float, float, float]:
    """Where a layer's whole recorded picture lies in the delivered frame, resized and shifted.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.

    Returns
    -------
    tuple of float
        Left, top, width and height, delivered px, at the shot's first frame.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> [round(side) for side in laid_in_frame(Match(HERO, MILL, MODEL, DELIVERY))]
    [0, -654, 1920, 1078]
    """
    left, top, width, height = gate_in_frame(match)
    right, down = moved_in_composite(match)
    return left + right, top + down, width, height


def laid_as(combine: Combine, cut_from_sheet: bool) -> LaidAs:
    """How the picture of a layer is laid over what is behind it, before anything was cut by hand.

    Parameters
    ----------
    combine : str
        How the layer is combined.
    cut_from_sheet : bool
        Whether it is keyed from a green or a blue sheet.

    Returns
    -------
    {"whole", "mixed", "added", "screened", "multiplied", "keyed"}
        Mixed where it takes a matte that nobody cut yet.

    Examples
    --------
    >>> laid_as("base", False), laid_as("key", True), laid_as("hand_matte", False)
    ('whole', 'keyed', 'mixed')
    """
    return "keyed" if cut_from_sheet else _LAID.get(combine, "mixed")


def in_recorded(match: Match, points: Array) -> Array:
    """Where places of the delivered frame are in a layer's recorded picture, as its lens bends it.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    points : ndarray, shape (..., 2)
        From the top left, delivered px.

    Returns
    -------
    ndarray, shape (..., 2)
        From the top left, shares of the recorded picture's width and of its height.

    References
    ----------
    pinhole, distortion_scale

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> match = Match(HERO, MILL, MODEL.but(distortion_pct=-4.0), DELIVERY)
    >>> in_recorded(match, np.array([[960.0, 540.0], [0.0, 0.0]])).round(2).tolist()
    [[0.5, 0.5], [0.02, 0.02]]
    """
    left, top, width, height = gate_in_frame(match)
    setup = match.setup or match.hero
    tall = setup.gate_height_mm / setup.gate_width_mm
    corner = width * setup.measured_on_mm / setup.gate_width_mm * math.hypot(1.0, tall) / 2.0
    out = points - (left + width / 2.0, top + height / 2.0)
    far = np.hypot(out[..., 0], out[..., 1])[..., None] / corner
    bent: Array = out * (1.0 + setup.distortion_pct / 100.0 * far**2) / (width, height) + 0.5
    return bent


def ground_in_frame(match: Match) -> tuple[GroundLine, ...]:
    """The ground as the hero wants it in the delivered frame: lines in round metres, full size.

    Parameters
    ----------
    match : Match
        A layer of the shot, measured.

    Returns
    -------
    tuple of GroundLine
        Near ones first; empty for a lens that is not over the ground.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> [line.metres for line in ground_in_frame(Match(HERO, MILL, MODEL, DELIVERY))][:3]
    [10.0, 15.0, 20.0]
    """
    hero, delivery = match.hero, match.delivery
    camera = (picture_view_deg(hero), hero.tilt_deg, hero.roll_deg, camera_height_m(hero))
    return ground_lines(camera, delivery.width_px, delivery.height_px)


def planned_place(match: Match, words: Words) -> list[tuple[str, str]]:
    """How a layer's camera is to stand, for whoever puts it there.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    words : Words
        In whose units.

    Returns
    -------
    list of tuple of str
        Labels and texts.

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> planned_place(Match(HERO, MILL, MODEL, DELIVERY), Words("metric"))[:2]
    [('Lens', '35 mm'), ('Distance', '1 m')]
    """
    setup = match.setup or match.hero
    return [
        ("Lens", f"{number(setup.focal_length_mm, 3)} mm"),
        ("Distance", words.length(setup.distance_m)),
        ("Lens height", words.length(setup.lens_height_m)),
        ("Tilt", f"{setup.tilt_deg:.1f}°"),
        ("Roll", f"{setup.roll_deg:.1f}°"),
    ]


def horizon_in_frame(match: Match) -> tuple[tuple[float, float], tuple[float, float]]:
    """The hero's horizon, where it enters and leaves the delivered frame.

    Parameters
    ----------
    match : Match
        A layer of the shot, measured.

    Returns
    -------
    tuple of tuple of float
        Its left and its right end, delivered px; above or under the frame where nothing of it is seen.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> horizon_in_frame(Match(HERO, MILL, MODEL, DELIVERY))
    ((0.0, 540.0), (1920.0, 540.0))
    """
    hero, delivery = match.hero, match.delivery
    width, height = float(delivery.width_px), float(delivery.height_px)
    ends = [
        horizon_y_px(focal_px(hero, delivery), height, hero.tilt_deg, hero.roll_deg, across)
        for across in (-width / 2.0, width / 2.0)
    ]
    return (0.0, ends[0]), (width, ends[1])


class Laying:
    """How a layer's whole recorded picture is laid in the delivered frame, without the bend of its lens: as
    large as the composite lays it, its middle in the middle.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    width_px : int
        Of the frame that comes out; its shape is the delivery's.
    """

    def __init__(self, match: Match, width_px: int) -> None:
        self.k = width_px / match.delivery.width_px
        self._width = gate_in_frame(match)[2]
        down, across = np.mgrid[0 : round(match.delivery.height_px * self.k), 0:width_px]
        self._places = in_recorded(match, np.stack([across + 0.5, down + 0.5], axis=-1) / self.k)
        self._maps: dict[tuple[int, int], tuple[Light, Light, Grey]] = {}

    def _maps_of(self, shape: tuple[int, int]) -> tuple[Light, Light, Grey]:
        if shape not in self._maps:
            rows, columns = shape
            from_x, from_y = np.moveaxis(self._places * (columns, rows) - 0.5, 2, 0).astype(np.float32)
            inside = (from_x >= 0) & (from_x <= columns - 1) & (from_y >= 0) & (from_y <= rows - 1)
            self._maps = {shape: (from_x, from_y, np.where(inside, 255, 0).astype(np.uint8))}
        return self._maps[shape]

    def lay(self, picture: Grey) -> tuple[Grey, Grey]:
        """A recorded picture in the delivered frame.

        Parameters
        ----------
        picture : ndarray of uint8, shape (h, w)
            Grey codes of the whole gate, of any size.

        Returns
        -------
        picture : ndarray of uint8, shape (h, w)
            The delivered frame.
        covered : ndarray of uint8, shape (h, w)
            0 where the recorded picture does not reach.

        References
        ----------
        pinhole, distortion_scale

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL
        >>> grey = np.full((540, 960), 99, np.uint8)
        >>> laid, covered = Laying(Match(HERO, MILL, HERO, DELIVERY), 192).lay(grey)
        >>> int(laid[54, 96]), int(covered[54, 96])
        (99, 255)
        """
        finer = picture.shape[1] / self._width / self.k
        if finer > _FINER:  # what is finer than the frame is averaged first
            small = cv2.resize(picture, None, fx=1 / finer, fy=1 / finer, interpolation=cv2.INTER_AREA)
            picture = np.asarray(small, np.uint8)
        rows, columns = picture.shape
        from_x, from_y, covered = self._maps_of((rows, columns))
        laid = cv2.remap(picture, from_x, from_y, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
        return np.asarray(laid, np.uint8), covered
