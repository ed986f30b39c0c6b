"""Clips of the simulated camera: a layer in its set, as it moves over the frames, with faults that are known.

The set is painted once; the layer is laid on it in every frame. What goes wrong is said in numbers, so that
whatever measures the clip can be held to them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..light.placed import PlacedLamp
from ..match.measure import Match
from ..match.records import SetUp
from ..match.stack import Member, Stack
from ..match.standing_off import Off, off_view
from ..match.view import Moment, View
from .live import LiveCamera, LiveFault
from .picture import Image, linear_rgb
from .render import gain_of
from .sheet import sheet_corners_m
from .sheet_light import sheet_in_picture, sheet_light

_FAULTS: tuple[LiveFault, ...] = ("noise", "softness", "vignetting", "distortion")
_NOBODY = ("clean_plate", "focus_pass")
_SIDE = 0.4
"""A lamp on the left lights so much of the frame's width, softly."""
_FLASH_FADES = 0.75
AS_PLANNED = Off()


@dataclass(frozen=True, slots=True)
class FilmFaults:
    """What goes wrong in a clip. ``jolt_px`` moves the picture right and down, delivered px, and ``jolt_deg``
    turns it, from frame ``jolt_at`` on; ``drift_stops`` is by how much light goes up from the first frame to
    the last, ``left_stops`` by how much the left is lighter all along; ``flicker_stops`` from peak to peak at
    ``flicker_hz`` of the clip; ``wobble_px`` how far each frame strays, rms; ``flash_stops`` a flash in frame
    ``flash_at`` that fades. ``lamps`` are lamps that burn at another level than planned, by name, in stops.
    """

    jolt_px: tuple[float, float] = (0.0, 0.0)
    jolt_deg: float = 0.0
    jolt_at: int = 0
    drift_stops: float = 0.0
    left_stops: float = 0.0
    flicker_stops: float = 0.0
    flicker_hz: float = 4.0
    wobble_px: float = 0.0
    flash_stops: float = 0.0
    flash_at: int = 0
    lamps: tuple[tuple[str, float], ...] = ()


NO_FAULTS = FilmFaults()


def film(
    stack: Stack,
    position: int,
    width_px: int,
    frames: int,
    faults: FilmFaults = NO_FAULTS,
    seed: int = 5,
    begins: int = 0,
) -> Iterator[npt.NDArray[np.uint8]]:
    """A layer as its own camera films it.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in it, from 0; one with a set-up.
    width_px : int
        Of the frames, which show the whole gate.
    frames : int
        How many; the shot's whole length is told in them.
    faults : FilmFaults, optional
        What goes wrong; nothing when left out.
    seed : int, default 5
        Of the place: what is painted on it, and how a camera strays.
    begins : int, default 0
        The number of the first frame: what is by chance in one frame is another in each number.

    Yields
    ------
    ndarray of uint8, shape (h, w, 3)
        As it is recorded, red first.

    Raises
    ------
    ValueError
        Where the layer has no set-up.

    References
    ----------
    pinhole, rotation, vignetting_guess, photon_noise, bt709_codes, inverse_square

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> [frame.shape for frame in film(STACK, 2, 192, 2)]
    [(108, 192, 3), (108, 192, 3)]
    """
    member = stack.members[position]
    if member.setup is None:
        raise ValueError(f"{member.layer.name} is not filmed: it has no set-up")
    setup = burning(member.setup, faults)
    own, canvas = set_of(stack, member, setup, width_px, seed)
    dice = np.random.default_rng((seed, begins))
    wander = faults.wobble_px * dice.standard_normal((frames, 2)) / math.sqrt(2.0)
    length = stack.plan.length_frames
    last = max(length - 1, 0)
    there_anyway = member.is_hero and setup.backing is None
    lies_behind = there_anyway or member.layer.kind in _NOBODY
    for number in range(frames):
        moment = Moment.at(last * number / max(frames - 1, 1), length, stack.delivery.move)
        picture = canvas if lies_behind else own.with_layer(canvas, moment)
        gain = _gain(faults, number, frames, width_px)
        yield own.frame(picture, *_stands(faults, wander[number], number), gain, begins + number)


def set_of(
    stack: Stack, member: Member, setup: SetUp, width_px: int, seed: int, off: Off = AS_PLANNED
) -> tuple[Filming, Image]:
    """A layer's camera, and all that stands before it but the layer, lit; seen from a place off the plan."""
    own = Filming(Match(stack.hero, member.layer, setup, stack.delivery), width_px, _FAULTS, seed)
    behind = _behind(stack, member, setup, width_px, seed)
    canvas = behind.empty_set(off)
    if setup.backing is not None:
        _lay_lit_sheet(canvas, own, setup, off_view(behind.match, off))
    return own, canvas


class Filming(LiveCamera):
    """A layer's camera as it films: its picture may be slid, its light go up and down."""

    def empty_set(self, off: Off = AS_PLANNED) -> Image:
        """All that stands there anyway."""
        return self._paint(off)

    def with_layer(self, canvas: Image, moment: Moment, off: Off = AS_PLANNED) -> Image:
        """The layer in its set at a moment; the canvas stays."""
        picture = canvas.copy()
        self._lay_layer(picture, off_view(self.match, off), moment)
        return picture

    def frame(
        self, picture: Image, slid_px: tuple[float, float], turned_deg: float, gain: Image, number: int
    ) -> npt.NDArray[np.uint8]:
        """A frame as it is recorded; ``slid_px`` is in delivered px."""
        right, down = (each * self.k for each in slid_px)
        light = self._through(picture, Off(roll=turned_deg), (right, down))
        light *= gain
        return self._recorded(light, number)


def _behind(stack: Stack, member: Member, setup: SetUp, width_px: int, seed: int) -> Filming:
    """The camera on what stands there anyway: the hero where it is the same place, else the bare set."""
    hero = next((each for each in stack.members if each.is_hero), None)
    if hero is not None and hero.layer.scale == member.layer.scale and setup.backing is None:
        layer = hero.layer
        # distances count to the front edge of each layer
        away = setup.distance_m + (layer.near_m - member.layer.near_m) / layer.scale
        setup = setup.model_copy(update={"distance_m": away})
    else:
        layer = member.layer.model_copy(update={"parts": (), "width_m": 1e-3, "height_m": 1e-3})
    return Filming(Match(stack.hero, layer, setup, stack.delivery), width_px, _FAULTS, seed)


def burning(setup: SetUp, faults: FilmFaults) -> SetUp:
    """A set-up with its lamps as they really burn.

    Parameters
    ----------
    setup : SetUp
        As planned.
    faults : FilmFaults
        Which of them burn otherwise.

    Returns
    -------
    SetUp
        Each with so much more or less of its light.

    Examples
    --------
    >>> from jungoptic.core.example import ON_GREEN
    >>> weak = burning(ON_GREEN, FilmFaults(lamps=(("panel 1", -1.0),)))
    >>> weak.lamps[0].intensity_cd / ON_GREEN.lamps[0].intensity_cd
    0.5
    """
    by = dict(faults.lamps)

    def burns(lamp: PlacedLamp) -> PlacedLamp:
        return lamp.model_copy(update={"intensity_cd": lamp.intensity_cd * 2.0 ** by.get(lamp.name, 0.0)})

    return setup.model_copy(update={"lamps": tuple(burns(lamp) for lamp in setup.lamps)})


def _stands(
    faults: FilmFaults, wander: npt.NDArray[np.float64], number: int
) -> tuple[tuple[float, float], float]:
    """How far the picture of a frame is slid, delivered px, and turned clockwise, degrees."""
    right, down = float(wander[0]), float(wander[1])
    if number < faults.jolt_at:
        return (right, down), 0.0
    # a picture that turns clockwise is a camera that leans to its left
    return (right + faults.jolt_px[0], down + faults.jolt_px[1]), -faults.jolt_deg


def _gain(faults: FilmFaults, number: int, frames: int, width: int) -> Image:
    """By how much a frame is lighter than it should be, across its width (1, w, 1)."""
    stops = faults.drift_stops * number / max(frames - 1, 1)
    stops += faults.flicker_stops / 2.0 * math.sin(2.0 * math.pi * faults.flicker_hz / 24.0 * number)
    if faults.flash_stops and number >= faults.flash_at:
        stops += faults.flash_stops * _FLASH_FADES ** (number - faults.flash_at)
    share = np.clip((np.arange(width) + 0.5) / width / _SIDE, 0.0, 1.0)
    side = faults.left_stops * (1.0 - share * share * (3.0 - 2.0 * share))
    return np.asarray(2.0 ** (stops + side), np.float32)[None, :, None]


def _lay_lit_sheet(canvas: Image, own: LiveCamera, setup: SetUp, view: View) -> None:
    """The sheet with the light of its lamps on it, in perspective; the canvas is changed."""
    backing = setup.backing
    assert backing is not None
    height, width = canvas.shape[:2]
    size = (width / own.k, height / own.k)
    corners = view.project([sheet_corners_m(setup) * own.match.layer.scale], *size)[0] * own.k
    laid = sheet_in_picture(sheet_light(own.match, setup, shadows=False), corners, (height, width))
    if laid is None:
        return
    light, cover = (each[..., None] for each in laid)
    colour = linear_rgb(backing.colour) * gain_of(own.match)
    canvas *= 1.0 - cover
    canvas += np.asarray(light * colour * cover, np.float32)
