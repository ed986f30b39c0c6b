"""What a simulated camera of known faults films when one's own kit is measured with it."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..calibration import FAR_MARK, NEAR_MARK, Asked, Board, guides, mark_picture
from ..light import MID_GREY, bt709_signal
from ..match.records import SetUp
from .board import Held, photograph_board
from .effects import Effects
from .flat import as_recorded
from .sensor import recorded_codes

Codes = npt.NDArray[np.uint8]
Light = npt.NDArray[np.float32]

_WIDE_PX, _FILM_PX, _CARD_PX = 1200, 640, 160
_PAPER, _INK = 0.85, 0.04
_SQUARE_PX = 48
_FRAMES = 48
_STOP, _STOP_MM, _SMALLEST = 8.0, 35.0, 22.0
_FILLS = 0.55
_NEAR_MM, _FAR_MM = 60.0, 180.0
_PAN_DEG = 14.0
_SUB_STEPS = 32
_TURN_DEG = 21.0
_DOT, _ROUND = 0.05, 0.33
_LEVELS = (0.0, 0.05, 0.18, 0.4, 0.7)
_STEPS = (-4, -3, -2, -1, 0, 1, 2, 3, *(3 + third / 3 for third in range(1, 22)))
_KNEE = 0.6


@dataclass(frozen=True, slots=True)
class Truth:
    """What a simulated camera is really like: its set-up with focal length, distortion, vignetting, readout,
    headroom and ISO as they are; the pupil before the axis of its head, what lamp it has, how fast it runs.
    """

    setup: SetUp
    pupil_mm: float = 30.0
    ripple_depth: float = 0.25
    rate_fps: float = 24.0
    shutter_angle_deg: float = 180.0


@dataclass(frozen=True, slots=True)
class Filmed:
    """The frames of one picture, and of a series by how many stops it is over the metered one."""

    frames: tuple[Codes, ...]
    stops: float | None = None


def film_kit(kind: str, truth: Truth, asked: Asked, seed: int) -> Iterator[Filmed]:
    """The pictures of a measurement, as a simulated camera takes them.

    Parameters
    ----------
    kind : str
        One of :func:`guides`.
    truth : Truth
        What the camera is really like.
    asked : Asked
        What is said for the measurement: where it is focused, where the marks stand.
    seed : int
        Of the noise, and of how the board is held.

    Yields
    ------
    Filmed
        Codes of 8 bits.

    Raises
    ------
    KeyError
        No such measurement.

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> len([each for each in film_kit("noise", Truth(HERO), Asked(), 1)])
    5
    """
    guides()[kind]
    yield from _FILMS[kind](truth, asked, seed)


def _sized(truth: Truth, width_px: int, **more: float) -> SetUp:
    setup = truth.setup
    height = 2 * round(width_px * setup.gate_height_mm / setup.gate_width_mm / 2.0)  # as films have it
    return setup.but(recorded_width_px=width_px, recorded_height_px=height, **more)


def _grey(light: Light, setup: SetUp, seed: int) -> Codes:
    """Something plain, out of focus anyhow: grain and the curve are left."""
    effects = Effects.only("grain", "clipping", seed=seed)
    return recorded_codes(as_recorded(light, setup.focus_distance_m, setup, effects))


def _boards(truth: Truth, asked: Asked, seed: int) -> Iterator[Filmed]:
    dice = random.Random(seed)
    board = Board()
    stop = min(_SMALLEST, _STOP * max(1.0, truth.setup.focal_length_mm / _STOP_MM))
    setup = _sized(truth, _WIDE_PX, f_number=stop, focus_distance_m=asked.focus_distance_m)
    printed = np.pad(
        np.where(board.picture(_SQUARE_PX) > 127, _PAPER, _INK), _SQUARE_PX, constant_values=_PAPER
    )
    across = printed.shape[1] / _SQUARE_PX
    # as large as it fills the frame: at a far focus a larger print is taken
    frame_m = setup.focus_distance_m * setup.gate_width_mm / setup.focal_length_mm
    width_m = _FILLS * frame_m * across / board.columns
    for number in range(guides()["lens"].fewest + 2):
        away = setup.focus_distance_m * dice.uniform(0.9, 1.2)
        seen_m = frame_m * away / setup.focus_distance_m
        held = Held(
            dice.uniform(-0.2, 0.2) * seen_m,
            dice.uniform(-0.12, 0.12) * seen_m,
            away,
            *(dice.uniform(-tilt, tilt) for tilt in (35.0, 35.0, 15.0)),
        )
        light = photograph_board(printed, width_m, held, setup, effects=Effects(seed=seed + number))
        yield Filmed((recorded_codes(light),))


def _flats(truth: Truth, asked: Asked, seed: int) -> Iterator[Filmed]:
    setup = _sized(truth, _FILM_PX, f_number=asked.f_number)
    height = setup.recorded_height_px
    corner = math.hypot(_FILM_PX, height) / 2.0
    down, right = np.mgrid[0:height, 0:_FILM_PX].astype(np.float32)
    x, y = (right + 0.5 - _FILM_PX / 2.0) / corner, (down + 0.5 - height / 2.0) / corner
    opened = min(1.0, setup.widest_f_number / setup.f_number)
    dark = np.exp2(-setup.vignetting_stops * opened * (x**2 + y**2))
    for number, turned in enumerate((1.0, -1.0)):
        light = 0.4 * dark * (1.0 + 0.08 * turned * x)  # the sky is brighter to one side
        yield Filmed((_grey(light.astype(np.float32), setup, seed + number),))


def _marks(truth: Truth, asked: Asked, seed: int) -> Iterator[Filmed]:
    setup = _sized(truth, _WIDE_PX, f_number=16.0, focus_distance_m=asked.focus_distance_m)
    dice = random.Random(seed)
    offset, lean = truth.pupil_mm / 1000.0, dice.uniform(-0.004, 0.004)
    places = (
        (NEAR_MARK, _NEAR_MM / 1000.0, asked.near_m, 0.0, 1.0),
        (FAR_MARK, _FAR_MM / 1000.0, asked.far_m, lean * asked.far_m, -1.0),
    )
    half = setup.recorded_height_px // 2
    tall_m = setup.gate_height_mm / setup.focal_length_mm  # at one metre
    for number, pan_deg in enumerate((0.0, _PAN_DEG)):
        pan = math.radians(pan_deg)
        halves = []
        for mark, side_m, away, across, up in places:
            x, z = across - offset * math.sin(pan), away - offset * math.cos(pan)
            held = Held(
                x * math.cos(pan) - z * math.sin(pan),
                up * 0.24 * tall_m * (away - offset),
                x * math.sin(pan) + z * math.cos(pan),
                pan_deg,
            )
            side = min(side_m, 0.3 * tall_m * away)
            printed = np.pad(
                np.where(mark_picture(mark, 300) > 127, _PAPER, _INK), 60, constant_values=_PAPER
            )
            light = photograph_board(
                printed, side * 420 / 300, held, setup, effects=Effects(seed=seed + 10 * number)
            )
            halves.append(recorded_codes(light))
        yield Filmed((np.concatenate([halves[0][:half], halves[1][half:]]),))


def _pairs(truth: Truth, asked: Asked, seed: int) -> Iterator[Filmed]:
    setup = _sized(truth, _FILM_PX, iso=asked.iso)
    for number, level in enumerate(_LEVELS):
        light = np.full((setup.recorded_height_px, _FILM_PX), level, np.float32)
        yield Filmed(tuple(_grey(light, setup, seed + 2 * number + which) for which in (0, 1)))


def _bands(truth: Truth, asked: Asked, seed: int) -> Iterator[Filmed]:
    setup = _sized(truth, _FILM_PX)
    height = setup.recorded_height_px
    pulses = 2.0 * asked.mains_hz
    left = truth.ripple_depth * float(np.sinc(pulses * asked.exposure_s))
    row_s = np.arange(height) / height * setup.readout_ms / 1000.0
    frames = []
    for number in range(_FRAMES):
        lamp = 1.0 + left * np.sin(2.0 * math.pi * pulses * (number / truth.rate_fps + row_s))
        light = np.repeat((0.4 * lamp)[:, None], _FILM_PX, axis=1).astype(np.float32)
        frames.append(_grey(light, setup, seed + number))
    yield Filmed(tuple(frames))


def _turns(truth: Truth, _: Asked, seed: int) -> Iterator[Filmed]:
    setup = _sized(truth, _FILM_PX)
    height = setup.recorded_height_px
    down, right = np.mgrid[0:height, 0:_FILM_PX].astype(np.float32)
    open_for = truth.shutter_angle_deg / 360.0
    frames = []
    for number in range(_FRAMES // 2):
        light = np.full((height, _FILM_PX), _INK, np.float32)
        for step in range(_SUB_STEPS):
            turned = math.radians(_TURN_DEG * (number + open_for * (step + 0.5) / _SUB_STEPS))
            x = _FILM_PX / 2.0 + _ROUND * height * math.cos(turned)
            y = height / 2.0 + _ROUND * height * math.sin(turned)
            edge = np.clip(_DOT * height + 0.5 - np.hypot(right - x, down - y), 0.0, 1.0)
            light += (_PAPER - _INK) / _SUB_STEPS * edge
        frames.append(_grey(light, setup, seed + number))
    yield Filmed(tuple(frames))


def _series(truth: Truth, _: Asked, seed: int) -> Iterator[Filmed]:
    """A curve with a knee: standard up to it, then as much a stop as reaches white at the headroom."""
    setup = _sized(truth, _CARD_PX)
    dice = np.random.default_rng(seed)
    white = MID_GREY * 2.0**setup.headroom_stops
    for stops in _STEPS:
        light = MID_GREY * 2.0**stops
        if light <= _KNEE or white <= 1.0:
            signal = float(bt709_signal(light))
        else:
            low = float(bt709_signal(_KNEE))
            signal = low + (1.0 - low) * math.log(light / _KNEE) / math.log(white / _KNEE)
        codes = 255.0 * min(signal, 1.0) + dice.normal(0.0, 0.6, (setup.recorded_height_px, _CARD_PX))
        yield Filmed((np.clip(np.round(codes), 0, 255).astype(np.uint8),), float(stops))
        if stops > setup.headroom_stops + 0.5:
            return


_FILMS: dict[str, Callable[[Truth, Asked, int], Iterator[Filmed]]] = {
    "lens": _boards,
    "vignetting": _flats,
    "pupil": _marks,
    "noise": _pairs,
    "rows": _bands,
    "ripple": _bands,
    "shutter": _turns,
    "curve": _series,
}
