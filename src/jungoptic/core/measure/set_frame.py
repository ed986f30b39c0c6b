"""Frames of a set that stands still but for what is animated: each held against another, quickly.

Most frames stand exactly on one another, so that nothing need be found or laid first: tiles say at once that
they are off by nothing. What differs beyond noise, light and edges is told by where it is.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from weakref import WeakKeyDictionary

import cv2
import numpy as np
import numpy.typing as npt

from .change import Gains, gains, still_pixels
from .differing import Differs, code_in_stops, differing
from .pieces import box_off, point_off
from .pixels import Array, Image, Mask, brightness, laid_by, smoothed, spline_of, stops_of
from .softened import FocusLadder, Softened, softer
from .still import Moved, roughly, similarity, stands
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
_AS_IT_IS = similarity((0.0, 0.0), 0.0, 1.0, (0.0, 0.0))
_HALF = 2
"""Light is compared in pictures so much smaller."""
_STEPS, _EVEN_PX, _FEWEST_SPEAK = 0.9, 25, 24
"""Texture of so many steps of a recording, over what is wider, is one; of so many tiles at least."""


@dataclass(frozen=True, slots=True)
class HeldAgainst:
    """A frame against its reference, px of the frames: how its camera stands; its light; its focus, None
    where nothing could be sharp.
    """

    moved: Moved
    gains: Gains
    softened: Softened | None


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
        self._laid_last: tuple[Array, tuple[Image, Image]] | None = None
        self._known: WeakKeyDictionary[SetFrame, HeldAgainst] = WeakKeyDictionary()

    def held_against(
        self, reference: SetFrame, other: SetFrame | None = None, near: Array | None = None
    ) -> HeldAgainst:
        """What changed since another frame.

        Parameters
        ----------
        reference : SetFrame
            The other.
        other : SetFrame, optional
            Against which this one was held already, and it against the reference: that says where to look.
        near : ndarray, shape (2, 3), optional
            Where to look, in place of that: takes places of the reference to places of this, px.

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
        >>> round(seen.moved.corner_px, 1), round(seen.gains.stops, 3)
        (0.0, 0.029)
        """
        if self.size_px != reference.size_px:
            raise ValueError("the frames are not of one size: take them by one recording")
        if reference not in self._known:
            there = self._by_way_of(other, reference) if near is None else near
            self._known[reference] = self._against(reference, there)
        return self._known[reference]

    def _by_way_of(self, other: SetFrame | None, reference: SetFrame) -> Array | None:
        """How it lies on a reference, by how it and the reference are known to lie on another."""
        there = self._known.get(other) if other else None
        from_there = other._known.get(reference) if other else None
        if there is None or from_there is None:
            return None
        first, second = (np.vstack([each.moved.transform, (0, 0, 1)]) for each in (there, from_there))
        return np.asarray((first @ second)[:2], np.float64)

    def _against(self, reference: SetFrame, near: Array | None) -> HeldAgainst:
        there = self._stands(reference, near)
        laid, small = self._laid(there.transform)
        if not _alike(reference.compared, laid):
            there = self._found_anew(reference)
            laid, small = self._laid(there.transform)
            if not _alike(reference.compared, laid):
                raise ValueError("the frames show different things")
        still = still_pixels(there, laid.shape)
        lighter = gains(reference.small, small, still[::_HALF, ::_HALF][: small.shape[0], : small.shape[1]])
        focus = self._focus(reference, still)
        return HeldAgainst(there, lighter, focus)

    def differs_from(self, reference: SetFrame) -> tuple[Differs, ...]:
        """What is in it that another frame has not, or the other way round.

        Parameters
        ----------
        reference : SetFrame
            The other.

        Returns
        -------
        tuple of Differs
            The largest first.

        Raises
        ------
        ValueError
            As :meth:`held_against` does.

        References
        ----------
        exposure_meter, bt709_codes

        Examples
        --------
        >>> dice = np.random.default_rng(3)
        >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
        >>> reached = board.copy()
        >>> reached[200:, 100:160] = 0.7
        >>> [piece.reaches_in for piece in SetFrame(reached).differs_from(SetFrame(board))]
        [True]
        """
        transform = self.held_against(reference).moved.transform
        return differing(reference.compared.smooth, self._laid(transform)[0])

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

    @cached_property
    def _spline(self) -> Image:
        return spline_of(self.stops)

    def _found_anew(self, reference: SetFrame) -> Moved:
        first = roughly(reference.stops, self.stops)
        return stands(reference.compared, lambda: self._spline, first, done_px=_DONE_PX)

    def _stands(self, reference: SetFrame, near: Array | None) -> Moved:
        """How this lies on the reference: as it is thought to, where most tiles agree on that, else found
        anew.
        """
        if near is not None and self._apart_px(near, _AS_IT_IS) < _AS_IT_IS_PX:
            near = None
        first = _AS_IT_IS if near is None else near
        try:
            there = stands(
                reference.compared,
                lambda: self._spline,
                first,
                done_px=_DONE_PX,
                smooth=self.compared.smooth if near is None else None,
                silent=reference.silent,
            )
        except ValueError:
            return self._found_anew(reference)
        agree = there.tiles.still.sum() > _STOOD * (~reference.silent).sum()
        if agree and self._apart_px(there.transform, first) < _NEAR_PX:
            # what says nothing of the camera says something of the light
            return replace(there, tiles=replace(there.tiles, still=there.tiles.still | reference.silent))
        return self._found_anew(reference)

    def _apart_px(self, transform: Array, other: Array) -> float:
        """How far apart two transforms take the corner that they take farthest apart."""
        width, height = self.size_px
        corners = np.array([(0, 0, 1), (width, 0, 1), (width, height, 1), (0, height, 1)], np.float64)
        return float(np.hypot(*(transform - other) @ corners.T).max())

    def _laid(self, transform: Array) -> tuple[Image, Image]:
        """Its smoothed stops laid onto the reference, and its small picture."""
        if self._laid_last is None or not np.array_equal(self._laid_last[0], transform):
            self._laid_last = transform, self._laid_anew(transform)
        return self._laid_last[1]

    def _laid_anew(self, transform: Array) -> tuple[Image, Image]:
        if self._apart_px(transform, _AS_IT_IS) < _AS_IT_IS_PX:
            return self.compared.smooth, self.small
        laid = smoothed(laid_by(self._spline, transform), SMOOTH_PX)
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
    open_to = code_in_stops(smooth)
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
