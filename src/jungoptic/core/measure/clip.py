"""Everything that is measured of every frame of a clip, in one pass and small: what is wrong shows here, and
where; what is measured exactly then is that frame.

However long it is, no more is kept than some numbers of a frame.
"""

from __future__ import annotations

from array import array
from collections import deque
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from .copied import CopyWatch
from .flicker import Flicker, flicker_of_frames
from .movement import Codes, as_light, differing
from .pixels import Array, Image
from .recorded import Curve, signal_of_luma
from .shake import ShakeWatch

Recorded = npt.NDArray[Any]

WORKING_PX, _FINE_PX, _SMALL_PX = 960, 480, 240
_GRID = (9, 16)
_STRETCH = 1440
"""Frames that are looked at together for flicker: a minute at 24."""
_ENDS = 12
"""Frames at either end over which light is averaged."""
_FEWEST_FRAMES = 4
_COPIES_EVERY = 31
_FAST = 95.0
_MOVES_PX = 0.3
_SHARE = 0.002
_BLACK = 1e-6


@dataclass(frozen=True, slots=True)
class ClipMeasured:
    """By frame (n): light of the whole in stops against the first frames; how the camera stands against the
    first (n, 3) px right, px down and ° clockwise, NaN where it is lost, with errors, px and °; sharpness
    against the sharpest; the fastest thing, px from the frame before. Lengths are px of a picture
    ``width_px`` wide. Then the flicker of the stretch in which it is most, from ``flicker_from`` on; by how
    much the light of each tile (rows, columns) changed from the first to the last frames, stops; and how
    much of each frame the codec copied.
    """

    width_px: int
    light_stops: Array
    light_off: float
    camera: Array
    camera_off: tuple[float, float]
    sharp: Array
    fastest_px: Array
    flicker: Flicker | None
    flicker_from: int
    changed_stops: Array
    copied: float

    @property
    def slowest_px(self) -> float:
        """What goes by less in a frame is not told from what stands still, px."""
        return _MOVES_PX * self.width_px / min(self.width_px, _SMALL_PX)

    @property
    def camera_px(self) -> Array:
        """How far the picture is from where it was in the first frame, by frame, px."""
        return np.hypot(self.camera[:, 0], self.camera[:, 1])


class ClipWatch:
    """Frames of a clip, one after another.

    Parameters
    ----------
    rate_fps : float
        At which it was recorded.
    curve : Curve, optional
        That of ITU-R BT.709 when left out.
    bits : int, default 8
        Of a code.
    legal : bool, default True
        Black is 16 and white 235 of 8 bits; else all codes are used.
    mains_hz : float, optional
        Of the place.
    """

    def __init__(
        self,
        rate_fps: float,
        curve: Curve | None = None,
        bits: int = 8,
        legal: bool = True,
        mains_hz: float | None = None,
    ) -> None:
        self._rate_fps, self._mains_hz, self._bits = rate_fps, mains_hz, bits
        codes = np.arange(2 ** min(bits, 16), dtype=np.float32)
        self._light = (curve or Curve()).light(np.maximum(signal_of_luma(codes, bits, legal), 0.0))
        self._shake, self._copies = ShakeWatch(), CopyWatch(_COPIES_EVERY)
        self._search = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_ULTRAFAST)
        self._before: Codes | None = None
        self._wholes, self._sharp, self._fastest = array("d"), array("d"), array("d")
        self._stretch: list[Image] = []
        self._first: list[Image] = []
        self._last: deque[Image] = deque(maxlen=_ENDS)
        self._flicker: tuple[Flicker, int] | None = None
        self._width = 0

    def add(self, luma: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        luma : ndarray of uint8 or uint16, shape (h, w)
            Its codes of luma as they were recorded, at any size of at least 16 px.
        """
        working, codes = self._small(np.asarray(luma))
        light = self._light_of(working)
        self._copies.add(light)
        self._lit(np.asarray(cv2.resize(light, _GRID[::-1], interpolation=cv2.INTER_AREA), np.float32))
        fine = self._narrow(codes, _FINE_PX)
        self._sharp.append(_sharpness(fine))
        small = self._narrow(fine, _SMALL_PX)
        self._shake.add(small)
        self._fastest.append(self._fast(small))

    def measured(self) -> ClipMeasured:
        """What they come to.

        Returns
        -------
        ClipMeasured
            Frames are counted from 0.

        Raises
        ------
        ValueError
            Where there is no frame.

        References
        ----------
        lucas_kanade, inverse_search, exposure_meter, mains_ripple

        Examples
        --------
        >>> dice = np.random.default_rng(3)
        >>> board = cv2.GaussianBlur(dice.random((270, 480), np.float32), (0, 0), 4.0)
        >>> codes = 40 + 160 * (board - board.min()) / np.ptp(board)
        >>> watch = ClipWatch(24)
        >>> for frame in range(8):
        ...     watch.add(np.uint8(np.roll(codes, frame, axis=1) + dice.random(codes.shape)))
        >>> seen = watch.measured()
        >>> seen.width_px, seen.camera_px.round().tolist()
        (480, [0.0, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0])
        """
        if not self._wholes:
            raise ValueError("there is not one frame")
        self._end_stretch()
        wholes = np.array(self._wholes)
        stops = np.log2(np.maximum(wholes, _BLACK))
        share = self._width / self._small_width
        off = self._shake.off()
        camera = self._shake.path() * (share, share, 1.0)
        sharp = np.array(self._sharp)
        count = max(1, min(_ENDS, len(wholes) // 4))
        first, last = (np.log2(np.mean(each[:count], axis=0)) for each in self._ends())
        flicker, begins = self._flicker or (None, 0)
        steps = np.abs(np.diff(stops))
        return ClipMeasured(
            self._width,
            np.asarray(stops - np.median(stops[:count]), np.float64),
            2.0 * float(np.median(steps)) + 0.005 if len(steps) else 0.005,
            camera,
            (off[0] * share, off[1]),
            sharp / max(float(sharp.max()), 1e-12),
            np.array(self._fastest) * share,
            flicker,
            begins,
            np.asarray(last - first, np.float64),
            self._copies.share(),
        )

    def _ends(self) -> tuple[list[Image], list[Image]]:
        """The tiles of the first frames, and of the last from the last on; what is black is just not."""
        lists = self._first, list(self._last)[::-1]
        first, last = ([np.maximum(each, _BLACK) for each in tiles] for tiles in lists)
        return first, last

    def _small(self, luma: Recorded) -> tuple[Recorded, Codes]:
        """A frame at the working width as it was recorded, and with codes of 8 bits."""
        working = self._narrow(luma, WORKING_PX)
        self._width = working.shape[1]
        self._small_width = min(self._width, _SMALL_PX)
        if working.dtype == np.uint8:
            return working, working
        return working, np.asarray(cv2.convertScaleAbs(working, alpha=2.0 ** (8 - self._bits)), np.uint8)

    @staticmethod
    def _narrow(picture: npt.NDArray[Any], width: int) -> npt.NDArray[Any]:
        if picture.shape[1] <= width:
            return np.ascontiguousarray(picture)
        height = max(1, round(picture.shape[0] * width / picture.shape[1]))
        return np.asarray(cv2.resize(picture, (width, height), interpolation=cv2.INTER_AREA))

    def _light_of(self, working: Recorded) -> Image:
        if working.dtype == np.uint8:
            return np.asarray(cv2.LUT(working, self._light), np.float32)
        return self._light.take(working, mode="clip")

    def _lit(self, tiles: Image) -> None:
        self._wholes.append(float(tiles.mean()))
        if len(self._first) < _ENDS:
            self._first.append(tiles)
        self._last.append(tiles)
        self._stretch.append(tiles.ravel())
        if len(self._stretch) == _STRETCH:
            self._end_stretch()

    def _end_stretch(self) -> None:
        """The flicker of the last stretch, and kept where it is the worst so far."""
        tiles, self._stretch = self._stretch, []
        if len(tiles) < _FEWEST_FRAMES:
            return
        copied, held = self._copies.share(), self._shake.held()
        try:
            flicker = flicker_of_frames(
                np.array(tiles), _GRID, self._rate_fps, self._mains_hz, None, copied, held
            )
        except ValueError:  # all of it is black
            return
        if self._flicker is None or flicker.peak_to_peak > self._flicker[0].peak_to_peak:
            self._flicker = flicker, len(self._wholes) - len(tiles)

    def _fast(self, small: Codes) -> float:
        """How far the fastest thing went from the frame before, px."""
        before, self._before = self._before, small
        if before is None or min(small.shape) < 16:
            return 0.0
        small = as_light(before, small)
        differs = differing(before, small)[::4, ::4]
        if not differs.any():
            return 0.0
        flow = np.asarray(self._search.calc(before, small, np.zeros((*small.shape, 2), np.float32)))
        squared = flow[::4, ::4, 0] ** 2 + flow[::4, ::4, 1] ** 2
        moving = squared[(squared > _MOVES_PX**2) & differs]
        if moving.size < max(3, _SHARE * squared.size):
            return 0.0
        return float(np.sqrt(np.percentile(moving, _FAST)))


def _sharpness(fine: Codes) -> float:
    """Detail over contrast, as :func:`~.movement.sharpness`, faster."""
    detail = float(cv2.meanStdDev(cv2.Laplacian(fine, cv2.CV_16S))[1][0, 0])
    contrast = float(cv2.meanStdDev(fine)[1][0, 0])
    return detail**2 / max(contrast**2, 1e-9)
