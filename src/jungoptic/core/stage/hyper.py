"""The simulated camera of a hyperlapse: photographs along a path, each aimed by hand at a chimney that stands
at the reference point.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..match.measure import Match
from ..match.pose import Array
from ..match.standing_off import Off, off_view
from .live import LiveCamera, LiveFault
from .painted import Face
from .picture import Image

_FAULTS: tuple[LiveFault, ...] = ("noise", "softness", "vignetting", "distortion")
_WIDE, _HEAD, _HEAD_HIGH, _DEEP = 0.022, 1.5, 0.016, 0.1
"""The chimney, of its distance: its width; its head, so much wider; how high that is, and how far the whole
goes below the horizon.
"""
_BRICK, _STONE = (0.13, 0.075, 0.055), (0.07, 0.065, 0.06)
SEED, _SEED_OF_AIM, _EXPOSURES = 5, 11, 1000


@dataclass(frozen=True, slots=True)
class HyperFaults:
    """What goes wrong: ``aim_px`` is how far each photograph is aimed off, rms, px of a delivered frame that
    shows the whole gate; photograph ``missed_at``, from 1, by ``missed_px`` (right, down) more, 0 is none;
    ``brightens_stops`` is by how much each is lighter than the one before, as day comes.
    """

    aim_px: float = 0.0
    missed_at: int = 0
    missed_px: tuple[float, float] = (0.0, 0.0)
    brightens_stops: float = 0.0

    def off_px(self, number: int, exposure: int = 0, seed: int = SEED) -> tuple[float, float]:
        """How far a photograph is aimed off.

        Parameters
        ----------
        number : int
            From 1.
        exposure : int, default 0
            The number of the exposure; who takes it again does not miss again.
        seed : int, default 5
            Of all that is by chance.

        Returns
        -------
        tuple of (float, float)
            How far the point is to the right of its mark and below it, px of a delivered frame that shows the
            whole gate.

        References
        ----------
        hyperlapse

        Examples
        --------
        >>> HyperFaults(missed_at=7, missed_px=(40.0, -10.0)).off_px(7)
        (40.0, -10.0)
        """
        dice = np.random.default_rng((seed, _SEED_OF_AIM, number, exposure))
        right, down = self.aim_px / math.sqrt(2.0) * dice.standard_normal(2)
        missed = self.missed_px if number == self.missed_at and not exposure else (0.0, 0.0)
        return float(right + missed[0]), float(down + missed[1])


AIMED_WELL = HyperFaults()


class HyperCamera:
    """A layer's camera that is carried along a path.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    width_px : int
        Of the photographs, which show the whole gate.
    away_m : float
        How far the reference point is from the first station, m of the set.
    mark : tuple of (float, float)
        Where in the photograph it is to be, shares of it.
    faults : HyperFaults, optional
        What goes wrong; nothing when left out.
    seed : int, default 5
        Of the place, and of all that is by chance.
    """

    def __init__(
        self,
        match: Match,
        width_px: int,
        away_m: float,
        mark: tuple[float, float],
        faults: HyperFaults = AIMED_WELL,
        seed: int = SEED,
    ) -> None:
        self.faults, self.seed = faults, seed
        self._own = _Carried(match, width_px, _FAULTS, seed)
        self._own.stand(away_m * match.layer.scale, mark)

    def photograph(
        self, number: int, place: tuple[float, float, float], exposure: int = 0
    ) -> npt.NDArray[np.uint8]:
        """A photograph as it is recorded.

        Parameters
        ----------
        number : int
            From 1: what goes wrong.
        place : tuple of (float, float, float)
            To the right of the first station and ahead of it, seen towards the reference point, m of the
            set; turned clockwise since, degrees.
        exposure : int, default 0
            The number of the exposure: what is by chance is another in each.

        Returns
        -------
        ndarray of uint8, shape (h, w, 3)
            Red first.

        References
        ----------
        pinhole, vignetting_guess, photon_noise, bt709_codes

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> camera = HyperCamera(Match(HERO, MILL, MODEL, DELIVERY), 192, 5.0, (0.5, 0.4))
        >>> camera.photograph(1, (0.0, 0.0, 0.0)).shape
        (108, 192, 3)
        """
        aside, forward, pan = place
        cos, sin = math.cos(self._own.bearing), math.sin(self._own.bearing)
        aside, forward = cos * aside + sin * forward, cos * forward - sin * aside
        gain = 2.0 ** (self.faults.brightens_stops * (number - 1))
        off = Off(pan=pan, aside=aside, forward=forward)
        return self._own.carried(
            off, self.faults.off_px(number, exposure, self.seed), gain, _EXPOSURES * number + exposure
        )


class _Carried(LiveCamera):
    """A layer's camera, and a chimney that stands far before it."""

    bearing = 0.0
    """By how much the reference point is to the right of the axis, radians."""
    _chimney: tuple[tuple[Array, Image], ...] = ()

    def stand(self, away_m: float, mark: tuple[float, float]) -> None:
        """Put the chimney up, full-size metres away: the middle of its head is at the mark."""
        view = off_view(self.match, Off())
        height, width = self.shape
        right, up = (mark[0] - 0.5) * width / self.k, (0.5 - mark[1]) * height / self.k
        ray = view.turn.T @ (right / view.focal_px, up / view.focal_px, 1.0)
        self.bearing = math.atan2(ray[0], ray[2])
        x, y, z = view.eye + ray / math.hypot(ray[0], ray[2]) * away_m
        half, high = _WIDE * away_m / 2.0, _HEAD_HIGH * away_m

        def upright(wide: float, low: float, top: float) -> Array:
            return np.array([(x - wide, low, z), (x - wide, top, z), (x + wide, top, z), (x + wide, low, z)])

        foot = min(0.0, y - _DEEP * away_m)
        self._chimney = (
            (upright(half, foot, y), np.asarray(_BRICK, np.float32)),
            (upright(_HEAD * half, y - high / 2.0, y + high / 2.0), np.asarray(_STONE, np.float32)),
        )

    def carried(
        self, off: Off, slid_px: tuple[float, float], gain: float, number: int
    ) -> npt.NDArray[np.uint8]:
        """A photograph from somewhere, aimed so far off; ``slid_px`` is in delivered px."""
        right, down = (each * self.k for each in slid_px)
        light = self._through(self._place(off), off, (right, down))
        light *= np.float32(gain)
        return self._recorded(light, number)

    def _paint(self, off: Off) -> Image:
        canvas = super()._paint(off)
        view, plain = off_view(self.match, off), np.ones(3, np.float32)
        size = (canvas.shape[1] / self.k, canvas.shape[0] / self.k)
        facing = np.array([0.0, 0.0, -1.0])
        for number, (corners, colour) in enumerate(self._chimney):
            [seen] = view.project([corners], *size)
            face = Face(seen, colour, colour, 0.0, corners, facing)
            weathering = self._weathering(view, face, number, np.zeros(3))
            self._lay(canvas, face, 0.0, plain, weathering)
        return canvas
