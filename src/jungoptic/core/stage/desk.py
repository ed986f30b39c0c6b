"""The simulated camera at the animator's desk: one photograph a frame, with faults that come at a frame.

The set is painted once; the layer stands in it as it does at that frame of the shot. What goes wrong is said
in numbers, so that whatever watches the frames can be held to them.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache, partial

import cv2
import numpy as np
import numpy.typing as npt

from ..match.stack import Stack
from ..match.standing_off import Off
from ..match.view import Moment
from .film import AS_PLANNED, set_of
from .live import WIDER
from .picture import Image

_SIDE = 0.4
"""What an animator throws back lights so much of the frame's width, softly."""
_HAND = np.array(
    [
        *((-0.05, 1.3), (0.0, 0.62), (0.06, 0.42), (0.1, 0.4), (0.13, 0.5), (0.17, 0.36), (0.2, 0.37)),
        *((0.2, 0.55), (0.25, 0.45), (0.28, 0.47), (0.24, 0.7), (0.27, 1.3)),
    ]
)
"""The outline of one, in heights of the frame, from its corner."""
_SKIN = (0.36, 0.22, 0.16)
_HAND_LIGHT = 0.6
_HAND_SOFT_PX = 2.5
_PLACES_KEPT = 2


@dataclass(frozen=True, slots=True)
class DeskFaults:
    """What goes wrong, and at which frame of the shot, counted from 1; 0 is never. ``nudge_px`` (right, down,
    delivered px) and ``nudge_deg`` move the picture from ``nudge_at`` until ``rebuilt_at``, from where the
    camera stands ``rebuilt_px`` off and the light ``rebuilt_stops``; ``bounce_stops`` is by how much the left
    is lighter in frame ``bounce_at``; in frame ``hand_at`` a hand is left in it; ``iris_stops`` is by how
    much the light of each exposure strays, a deviation, ``lighter_stops`` by how much it is too light.
    """

    nudge_px: tuple[float, float] = (0.0, 0.0)
    nudge_deg: float = 0.0
    nudge_at: int = 0
    bounce_stops: float = 0.0
    bounce_at: int = 0
    hand_at: int = 0
    rebuilt_px: tuple[float, float] = (0.0, 0.0)
    rebuilt_stops: float = 0.0
    rebuilt_at: int = 0
    iris_stops: float = 0.0
    lighter_stops: float = 0.0

    def stands_px(self, frame: int) -> tuple[tuple[float, float], float]:
        """How far the picture of a frame is slid and turned.

        Parameters
        ----------
        frame : int
            Of the shot, from 1.

        Returns
        -------
        tuple of (tuple of (float, float), float)
            To the right and down, delivered px; clockwise, degrees.

        Examples
        --------
        >>> DeskFaults(nudge_px=(0.5, 0.0), nudge_at=7).stands_px(8)
        ((0.5, 0.0), 0.0)
        """
        if self.rebuilt_at and frame >= self.rebuilt_at:
            return self.rebuilt_px, 0.0
        if self.nudge_at and frame >= self.nudge_at:
            return self.nudge_px, self.nudge_deg
        return (0.0, 0.0), 0.0


AS_IT_SHOULD = DeskFaults()


class DeskCamera:
    """A layer's camera over the frames of its shot.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in it, from 0; one with a set-up.
    width_px : int
        Of the photographs, which show the whole gate.
    faults : DeskFaults, optional
        What goes wrong; nothing when left out.
    seed : int, default 5
        Of the place, and of all that is by chance.

    Raises
    ------
    ValueError
        Where the layer has no set-up.
    """

    def __init__(
        self,
        stack: Stack,
        position: int,
        width_px: int,
        faults: DeskFaults = AS_IT_SHOULD,
        seed: int = 5,
    ) -> None:
        member = stack.members[position]
        if member.setup is None:
            raise ValueError(f"{member.layer.name} is not filmed: it has no set-up")
        self.stack, self.faults, self.seed = stack, faults, seed
        self._seen_from = lru_cache(_PLACES_KEPT)(
            partial(set_of, stack, member, member.setup, width_px, seed)
        )

    def photograph(self, frame: int, exposure: int = 0, stands: Off = AS_PLANNED) -> npt.NDArray[np.uint8]:
        """A frame as it is recorded.

        Parameters
        ----------
        frame : int
            Of the shot, from 1: where the layer has come by then, and what goes wrong.
        exposure : int, default 0
            The number of the exposure: what is by chance is another in each.
        stands : Off, optional
            Where its rig took the camera; as planned when left out.

        Returns
        -------
        ndarray of uint8, shape (h, w, 3)
            Red first.

        References
        ----------
        pinhole, vignetting_guess, photon_noise, bt709_codes

        Examples
        --------
        >>> from jungoptic.core.example import STACK
        >>> DeskCamera(STACK, 2, 192).photograph(1).shape
        (108, 192, 3)
        """
        faults, length = self.faults, self.stack.plan.length_frames
        moment = Moment.at(min(frame, length) - 1, length, self.stack.delivery.move)
        own, canvas = self._seen_from(stands)
        picture = own.with_layer(canvas, moment, stands)
        if faults.hand_at and frame == faults.hand_at:
            _lay_hand(picture)
        slid, turned = faults.stands_px(frame)
        number = 1000 * frame + exposure
        return own.frame(picture, slid, turned, self._gain(frame, number, own.shape[1]), number)

    def empty(self) -> npt.NDArray[np.uint8]:
        """The set without what is animated: its clean plate.

        Returns
        -------
        ndarray of uint8, shape (h, w, 3)
            Red first.

        References
        ----------
        pinhole, vignetting_guess, photon_noise, bt709_codes

        Examples
        --------
        >>> from jungoptic.core.example import STACK
        >>> DeskCamera(STACK, 2, 192).empty().shape
        (108, 192, 3)
        """
        own, canvas = self._seen_from(AS_PLANNED)
        light = np.ones((1, own.shape[1], 1), np.float32)
        return own.frame(canvas.copy(), (0.0, 0.0), 0.0, light, 0)

    def _gain(self, frame: int, number: int, width: int) -> Image:
        """By how much a frame is lighter than it should be, across its width (1, w, 1)."""
        faults = self.faults
        stops = faults.rebuilt_stops if faults.rebuilt_at and frame >= faults.rebuilt_at else 0.0
        stops += faults.lighter_stops
        if faults.iris_stops:
            stops += faults.iris_stops * float(np.random.default_rng((self.seed, number)).standard_normal())
        over = np.zeros(width, np.float32)
        if faults.bounce_at and frame == faults.bounce_at:
            share = np.clip((np.arange(width) + 0.5) / width / _SIDE, 0.0, 1.0)
            over = np.asarray(faults.bounce_stops * (1.0 - share * share * (3.0 - 2.0 * share)), np.float32)
        return np.asarray(np.exp2(stops + over), np.float32)[None, :, None]


def _lay_hand(picture: Image) -> None:
    """A hand that reaches in from the lower left; the picture is changed."""
    height, width = picture.shape[:2]
    # the picture is wider than the gate, which is what the frame shows
    gate = height / WIDER
    corner = np.array([(width - gate * width / height) / 2.0, (height - gate) / 2.0])
    outline = corner + _HAND * gate
    cover: Image = np.zeros((height, width), np.float32)
    cv2.fillPoly(cover, [np.asarray(np.rint(outline), np.int32)], 1.0)
    cover = np.asarray(cv2.GaussianBlur(cover, (0, 0), _HAND_SOFT_PX), np.float32)[..., None]
    picture *= 1.0 - cover
    picture += cover * np.asarray(_SKIN, np.float32) * _HAND_LIGHT
