"""Frames of a set that stands still but for what is animated: each held against another, quickly.

Most frames stand exactly on one another, so that nothing need be found or laid first: tiles say at once that
they are off by nothing. What differs beyond noise, light and edges is told by where it is.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt

from .change import Gains, gains, still_pixels
from .pieces import box_off, point_off
from .pixels import (
    DARK,
    FLOOR,
    MAD,
    Array,
    Image,
    Mask,
    brightness,
    code_of,
    laid_by,
    smoothed,
    spline_of,
    stops_of,
)
from .softened import FocusLadder, Softened, softer
from .still import Moved, moved_in_stops, similarity, stands
from .tiles import SMOOTH_PX, TILE_PX, TILES, Compared

_DONE_PX = 0.05
"""Off by less than this from the reference, a frame is not laid to be measured again."""
_NEAR_PX = 3.0
"""Tiles see so far by themselves; from there on a frame is found anew."""
_AS_IT_IS_PX = 0.1
"""Off by less, it need not be laid to be compared."""
_SHOWS_THE_SAME = 0.6
"""Of a tile's texture what is left, at most; of two pictures it is more than once of it."""
_STOOD = 0.35
"""Of the tiles that say something: where fewer agree, the frame is found anew."""
_HALF = 2
"""Light is compared in pictures so much smaller."""
_STEPS, _EVEN_PX, _FEWEST_SPEAK = 0.9, 25, 24
"""Texture of so many steps of a recording, over what is wider, is one; of so many tiles at least."""
_LEVELS = 20
_OPEN_CODES = 0.8
"""Of a code of 8 bits a codec leaves so much open."""
_EDGE_PX = 0.12
"""How far an edge may be off before it differs."""
_Z, _OVER_PX, _FULL = 3.5, 9, 0.45
"""Something differs where so great a share of a square differs by so many deviations."""
_LEAST_AREA_PX, _JOINS_PX = 90, 31
_LEAST_STOPS = 0.02
_DEVIATIONS_OF_80 = 1.2816
"""So far are 80 of 100 at most; noise in the dark is of many sizes, and its median hides the larger."""


@dataclass(frozen=True, slots=True)
class Differs:
    """Something in a frame that its reference has not: its box (left, top, right, bottom) and area in shares
    of the frame, and whether it runs out of the frame.
    """

    box: tuple[float, float, float, float]
    area: float
    reaches_in: bool


@dataclass(frozen=True, slots=True)
class HeldAgainst:
    """A frame against its reference, px of the frames: how its camera stands; its light; its focus, None
    where nothing could be sharp; and what differs.
    """

    moved: Moved
    gains: Gains
    softened: Softened | None
    differs: tuple[Differs, ...]


class SetFrame:
    """A frame made ready to be held against others.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light; all frames of one size, 960 px wide or so.
    """

    def __init__(self, light: npt.ArrayLike) -> None:
        seen = np.asarray(light, np.float32)
        grey = brightness(seen)
        height, width = grey.shape
        self.size_px = width, height
        self.stops = stops_of(grey)
        self.compared = Compared(self.stops)
        self.silent = _silent(self.compared)
        self.small = np.asarray(
            cv2.resize(seen, (width // _HALF, height // _HALF), interpolation=cv2.INTER_AREA), np.float32
        )
        self.focus = FocusLadder(grey, np.ones_like(grey))

    def held_against(self, reference: SetFrame) -> HeldAgainst:
        """What changed since another frame.

        Parameters
        ----------
        reference : SetFrame
            The other.

        Returns
        -------
        HeldAgainst
            In px of the frames, stops.

        Raises
        ------
        ValueError
            Where they are not of one size, or show different things.

        References
        ----------
        lucas_kanade, biweight, exposure_meter, edge_spread

        Examples
        --------
        >>> dice = np.random.default_rng(3)
        >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
        >>> first, lit = SetFrame(board), SetFrame(1.02 * board)
        >>> seen = lit.held_against(first)
        >>> round(seen.moved.corner_px, 1), round(seen.gains.stops, 3), seen.differs
        (0.0, 0.029, ())
        """
        if self.size_px != reference.size_px:
            raise ValueError("the frames are not of one size: take them by one recording")
        there = self._stands(reference)
        laid, small = self._laid(there.transform)
        if not _alike(reference.compared, laid):
            there = moved_in_stops(reference.stops, self.stops)
            laid, small = self._laid(there.transform)
            if not _alike(reference.compared, laid):
                raise ValueError("the frames show different things")
        still = still_pixels(there, laid.shape)
        lighter = gains(reference.small, small, still[::_HALF, ::_HALF][: small.shape[0], : small.shape[1]])
        focus = self._focus(reference, still)
        return HeldAgainst(there, lighter, focus, _differing(reference.compared.smooth, laid))

    def piece_off(
        self, reference: SetFrame, box: tuple[float, float, float, float], transform: npt.ArrayLike
    ) -> tuple[float, float, float]:
        """How far a piece of the set went since another frame, beside the camera.

        Parameters
        ----------
        reference : SetFrame
            The other.
        box : tuple of (float, float, float, float)
            Around the piece there: left, top, right, bottom, shares of the frame.
        transform : ndarray, shape (2, 3)
            How the camera moved, of :class:`HeldAgainst`.

        Returns
        -------
        tuple of (float, float, float)
            To the right and down, px, and two deviations; NaN where it is not seen any more.

        References
        ----------
        lucas_kanade, zncc

        Examples
        --------
        >>> dice = np.random.default_rng(3)
        >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
        >>> later = board.copy()
        >>> later[100:160, 203:263] = board[100:160, 200:260]
        >>> box = (205 / 480, 105 / 270, 255 / 480, 155 / 270)
        >>> off = SetFrame(later).piece_off(SetFrame(board), box, similarity((0, 0), 0.0, 1.0, (0, 0)))
        >>> round(off[0]), round(off[1])
        (3, 0)
        """
        return box_off(reference.compared.smooth, self._laid(np.asarray(transform, np.float64))[0], box)

    def point_off(
        self, reference: SetFrame, place: tuple[float, float], step: tuple[float, float]
    ) -> tuple[float, float, float]:
        """How far a point of what is animated went in the picture since another frame.

        Parameters
        ----------
        reference : SetFrame
            The other.
        place : tuple of (float, float)
            Where the point is there, shares of the frame.
        step : tuple of (float, float)
            How far it is thought to have gone, shares of the frame.

        Returns
        -------
        tuple of (float, float, float)
            To the right and down, px, and two deviations; NaN where it is not found.

        References
        ----------
        lucas_kanade, zncc

        Examples
        --------
        >>> dice = np.random.default_rng(3)
        >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
        >>> later = board.copy()
        >>> later[100:160, 206:266] = board[100:160, 200:260]
        >>> place = 230.0 / 480.0, 130.0 / 270.0
        >>> off = SetFrame(later).point_off(SetFrame(board), place, (4 / 480, 0.0))
        >>> round(off[0]), round(off[1])
        (6, 0)
        """
        width, height = self.size_px
        near = place[0] * width, place[1] * height
        return point_off(
            reference.compared.smooth, self.compared.smooth, near, (step[0] * width, step[1] * height)
        )

    def _stands(self, reference: SetFrame) -> Moved:
        """How this lies on the reference: as it is, where most tiles agree on that, else found anew."""
        as_it_is = similarity((0.0, 0.0), 0.0, 1.0, (0.0, 0.0))
        try:
            there = stands(
                reference.compared,
                lambda: spline_of(self.stops),
                as_it_is,
                done_px=_DONE_PX,
                smooth=self.compared.smooth,
                silent=reference.silent,
            )
        except ValueError:
            return moved_in_stops(reference.stops, self.stops)
        agree = there.tiles.still.sum() > _STOOD * (~reference.silent).sum()
        if agree and math.hypot(*there.shift_px) < _NEAR_PX:
            # what says nothing of the camera says something of the light
            return replace(there, tiles=replace(there.tiles, still=there.tiles.still | reference.silent))
        return moved_in_stops(reference.stops, self.stops)

    def _laid(self, transform: Array) -> tuple[Image, Image]:
        """Its smoothed stops laid onto the reference, and its small picture."""
        width, height = self.size_px
        corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float64)
        gone = corners @ transform[:, :2].T + transform[:, 2] - corners
        if float(np.hypot(gone[:, 0], gone[:, 1]).max()) < _AS_IT_IS_PX:
            return self.compared.smooth, self.small
        laid = smoothed(laid_by(spline_of(self.stops), transform), SMOOTH_PX)
        half = transform.copy()
        offset = (1.0 - 1.0 / _HALF) / 2.0 * _HALF
        half[:, 2] = (transform[:, 2] + (transform[:, :2] - np.eye(2)) @ (offset, offset)) / _HALF
        planes = cv2.warpAffine(
            self.small,
            half,
            (self.small.shape[1], self.small.shape[0]),
            flags=cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_CONSTANT,
            borderValue=(np.nan,) * 3,
        )
        return laid, np.asarray(planes, np.float32)

    def _focus(self, reference: SetFrame, still: Mask) -> Softened | None:
        counts = cv2.resize(still.astype(np.float32), TILES, interpolation=cv2.INTER_AREA) > 0.6
        try:
            return softer(reference.focus, self.focus, np.asarray(counts, bool))
        except ValueError:
            return None


def _silent(compared: Compared) -> Mask:
    """Tiles with no more texture than the steps of a recording: in an even sky they go where light goes."""
    smooth = compared.smooth
    uneven = smooth - cv2.blur(smooth, (_EVEN_PX, _EVEN_PX))
    open_to = _code_of(smooth)
    silent = compared.sums(uneven * uneven) < _STEPS**2 * compared.sums(open_to * open_to)
    return np.asarray(silent if (~silent).sum() >= _FEWEST_SPEAK else np.zeros_like(silent), bool)


def _alike(compared: Compared, laid: Image) -> bool:
    """Whether what is laid on a reference shows what it does: little texture is left of most tiles, or of
    most texture where most tiles have none but noise.
    """
    count = float(TILE_PX**2)
    off = np.nan_to_num(laid - compared.smooth)
    left, texture = (
        compared.sums(each * each) - compared.sums(each) ** 2 / count for each in (off, compared.smooth)
    )
    shares = left / np.maximum(texture, 1e-9)
    order = np.argsort(shares)
    heaped = np.cumsum(texture[order])
    of_texture = shares[order][np.searchsorted(heaped, heaped[-1] / 2.0)]
    return float(min(np.median(shares), of_texture)) < _SHOWS_THE_SAME


def _differing(reference: Image, laid: Image) -> tuple[Differs, ...]:
    """What differs by more than light, noise and edges do, the largest first."""
    there = np.isfinite(laid)
    off = np.where(there, laid - reference, 0.0).astype(np.float32)
    off -= _light_between(off, there)
    sigma = _sigma(reference, off, there)
    right = cv2.Sobel(reference, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
    down = cv2.Sobel(reference, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
    edge = _EDGE_PX**2 * (right * right + down * down)
    beyond = (off * off > _Z**2 * (sigma * sigma + edge)) & there
    full = cv2.boxFilter(beyond.astype(np.float32), cv2.CV_32F, (_OVER_PX, _OVER_PX)) > _FULL
    height, width = full.shape
    # what lies close together is one thing
    joined = cv2.dilate(full.astype(np.uint8), np.ones((_JOINS_PX, _JOINS_PX), np.uint8))
    count, labels = cv2.connectedComponents(joined, connectivity=8)
    told = []
    for label in range(1, count):
        rows, columns = np.nonzero((labels == label) & full)
        area = len(rows)
        if area < _LEAST_AREA_PX:
            continue
        left, top, right_px, bottom_px = (
            int(each) for each in (columns.min(), rows.min(), columns.max() + 1, rows.max() + 1)
        )
        rim = min(left, top, width - right_px, height - bottom_px) <= _OVER_PX
        box = (left / width, top / height, right_px / width, bottom_px / height)
        told.append(Differs(box, float(area) / (width * height), bool(rim)))
    return tuple(sorted(told, key=lambda each: -each.area))


def _light_between(off: Image, there: Mask) -> Image:
    """What the light did, over the frame: the middle of each tile, the median of its neighbours."""
    height, width = off.shape
    columns, rows = TILES
    middles = np.zeros((rows, columns), np.float32)
    for row in range(rows):
        for column in range(columns):
            cut = (
                slice(row * height // rows, (row + 1) * height // rows),
                slice(column * width // columns, (column + 1) * width // columns),
            )
            counts = there[cut]
            middles[row, column] = np.median(off[cut][counts]) if counts.any() else 0.0
    return np.asarray(
        cv2.resize(cv2.medianBlur(middles, 3), (width, height), interpolation=cv2.INTER_LINEAR), np.float32
    )


def _sigma(reference: Image, off: Image, there: Mask) -> Image:
    """Noise by how light it is, stops: the median deviation of what is alike light."""
    lowest, highest = (float(each) for each in np.percentile(reference[::8, ::8], (1, 99)))
    levels = np.linspace(lowest, max(highest, lowest + 1e-3), _LEVELS + 1)
    sample = np.clip(np.digitize(reference[::3, ::3], levels) - 1, 0, _LEVELS - 1)
    size, counts = np.abs(off[::3, ::3]), there[::3, ::3]
    noises = np.full(_LEVELS, np.nan)
    for level in range(_LEVELS):
        of_it = size[(sample == level) & counts]
        if len(of_it) > 200:
            middle, most = np.quantile(of_it, (0.5, 0.8))
            noises[level] = max(MAD * float(middle), float(most) / _DEVIATIONS_OF_80)
    known = np.isfinite(noises)
    middles = (levels[1:] + levels[:-1]) / 2.0
    noise = np.interp(reference, middles[known], noises[known]) if known.any() else np.zeros_like(reference)
    return np.asarray(np.maximum(np.maximum(noise, _LEAST_STOPS / _Z), _code_of(reference)), np.float32)


def _code_of(stops: Image) -> Image:
    """What a codec leaves open, stops: most of a code of 8 bits, which in the dark is much."""
    light = np.exp2(stops) - FLOOR
    step = code_of(light)
    return np.asarray(_OPEN_CODES * step / (math.log(2.0) * (np.maximum(light, DARK) + FLOOR)), np.float32)
