"""The simulated camera's live picture: one layer's set through a lens that somebody turns and moves.

The set is painted once for each place of the camera, wider than the gate. A camera that only turns, zooms or
bends sees the same from there, so each live picture is laid out of that one, exactly, and then made dark in
its corners, unsteady and noisy.
"""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Callable, Collection
from dataclasses import replace
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from ..match.measure import Match
from ..match.pose import Array
from ..match.standing_off import Off, off_view
from ..match.view import START, Moment, View, placed_m
from .camera import left_by_vignetting, straightened
from .drawings import parts_of
from .effects import ALL
from .faces import flop_of, is_shaded, key_light
from .painted import Face, fill, seen_faces
from .picture import Image, linear_rgb, softened
from .render import blur_of, gain_of
from .sensor import DARK, grain_sigma, recorded_codes
from .sheet import sheet_corners_m

LiveFault = Literal["noise", "softness", "vignetting", "distortion", "ripple", "nudge", "bounce", "iris"]
LIVE_FAULTS: dict[LiveFault, str] = {
    "noise": "noise of its ISO",
    "softness": "softness of its focus",
    "vignetting": "dark corners",
    "distortion": "distortion of its lens",
    "ripple": "a lamp that flickers",
    "iris": "an iris that does not close alike twice",
    "bounce": "somebody in light clothes who comes and goes",
    "nudge": "a nudge of the tripod",
}

Box = tuple[int, int, int, int]
Weathering = Callable[[Box, tuple[int, int]], Image]
USUAL_FAULTS: tuple[LiveFault, ...] = tuple(fault for fault in LIVE_FAULTS if fault != "nudge")

WIDER = 1.4
"""The painted picture is so much wider than the gate: room to turn in."""
_PLACES_KEPT = 3
_FLOOR, _SKY, _SKY_LOW = 0.16, 0.30, 0.42
_GRAINY = 0.35
"""How much what is painted on a surface varies."""
_TILE_PX, _TILES = 512, 7
_TILE_OF_GATE = 0.8
"""A tile of what stands up takes so much of the gate's width, however wide its picture is."""
_GRAIN_OF_DOTS = 2.0
"""The smallest grain of a tile is so many of its dots wide, half light and half dark."""
_FLOOR_TILE = 6.0
"""A tile of the floor is so many times as wide as the lens is high."""
_ROUGHEST = 5
_NOISE_ROOM_PX, _SOFT_ROOM_PX = 64, 24
_RIPPLE, _RIPPLE_TURNS = 0.02, 0.37
_IRIS_STOPS = 0.04
_BOUNCE_STOPS, _BOUNCE_EVERY, _BOUNCE_LASTS = 0.12, 50, 6
_NUDGED_DEG = 0.06

_CODES = recorded_codes(np.linspace(0.0, 1.0, 1 << 16))
"""Of light in the steps of a 16 bit number: so fine that no code is missed."""


def _weathered(seed: int) -> Image:
    """A square of a surface, coarse and fine, that goes on at its ends; its mean is 1."""
    rng = np.random.default_rng(seed)
    tile: Image = np.zeros((_TILE_PX, _TILE_PX), np.float32)
    for fine in range(_ROUGHEST):
        count = 8 * 2**fine
        rough = rng.standard_normal((count, count)).astype(np.float32)
        wrapped = np.pad(rough, 2, mode="wrap")
        step = _TILE_PX // count
        large = cv2.resize(wrapped, None, fx=step, fy=step, interpolation=cv2.INTER_CUBIC)
        tile += np.asarray(large[2 * step : -2 * step, 2 * step : -2 * step] / 1.25**fine, np.float32)
    tile = np.tanh(tile / tile.std())
    return np.asarray(1.0 + _GRAINY * (tile - tile.mean()), np.float32)


def _as_seen(painted: Image, fine: Array) -> Image:
    """What is painted, a dot of whose tile is ``fine`` px wide: what is finer than a pixel is seen as its
    mean.
    """
    return np.asarray(1.0 + (painted - 1.0) * np.clip(_GRAIN_OF_DOTS * fine, 0.0, 1.0), np.float32)


class LiveCamera:
    """A layer's camera, standing where somebody puts it.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    width_px : int, default 960
        Of its pictures, which show the whole gate.
    faults : collection of str, optional
        Of :data:`LIVE_FAULTS`; all but the nudge when left out.
    seed : int, default 5
        Of everything that is by chance.
    """

    def __init__(
        self,
        match: Match,
        width_px: int = 960,
        faults: Collection[LiveFault] = USUAL_FAULTS,
        seed: int = 5,
    ) -> None:
        self.match, self.faults, self.seed = match, frozenset(faults), seed
        self.setup = setup = match.setup or match.hero
        tall = setup.gate_height_mm / setup.gate_width_mm
        self.shape = (round(width_px * tall), width_px)
        self.k = width_px / (
            match.delivery.width_px * setup.gate_width_mm / setup.extracted_mm * match.resize
        )
        down, right = np.mgrid[0 : self.shape[0], 0 : self.shape[1]].astype(np.float32) + np.float32(0.5)
        self._right, self._down = right - self.shape[1] / 2.0, down - self.shape[0] / 2.0
        corner = setup.measured_on_mm / 2.0 * math.hypot(1.0, tall) * width_px / setup.gate_width_mm
        self._share = np.hypot(self._right, self._down) / np.float32(corner)
        self._left = np.repeat(left_by_vignetting(setup, self._share)[..., None], 3, axis=2)
        self._planned = off_view(match, Off())
        self._rays = self._straight()
        room = (self.shape[0] + _NOISE_ROOM_PX, self.shape[1] + _NOISE_ROOM_PX, 3)
        self._noise = np.random.default_rng(seed).standard_normal(room, dtype=np.float32)
        self._painted: OrderedDict[tuple[float, float, float], Image] = OrderedDict()

    def _straight(self) -> Image:
        """Of every pixel the direction from which its light came (3, pixels): right, up, forward."""
        grow = np.ones_like(self._share)
        if "distortion" in self.faults and self.setup.distortion_pct:
            grow = straightened(self._share, self.setup.distortion_pct / 100.0)
        focal = self._planned.focal_px * self.k
        rays = np.stack([self._right * grow / focal, -self._down * grow / focal, np.ones_like(grow)])
        return np.asarray(rays.reshape(3, -1), np.float32)

    def picture(self, off: Off, number: int) -> npt.NDArray[np.uint8]:
        """One live picture.

        Parameters
        ----------
        off : Off
            How the camera stands off its plan.
        number : int
            Of the picture, counted from the first: what is unsteady is another in each.

        Returns
        -------
        ndarray of uint8, shape (h, w, 3)
            The whole gate as it is recorded, red first.

        References
        ----------
        pinhole, rotation, distortion_scale, vignetting_guess, photon_noise, bt709_codes

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> LiveCamera(Match(HERO, MILL, MODEL, DELIVERY), 192).picture(Off(pan=0.5), 0).shape
        (108, 192, 3)
        """
        if "nudge" in self.faults:
            off = replace(off, pan=off.pan + _NUDGED_DEG, tilt=off.tilt - _NUDGED_DEG / 2.0)
        return self._recorded(self._through(self._place(off), off), number)

    def _through(self, painted: Image, off: Off, slid_px: tuple[float, float] = (0.0, 0.0)) -> Image:
        """A painted set as a camera that stands so has it on its gate, linear light; the whole picture slid
        right and down, px of it.
        """
        planned = off_view(self.match, replace(off, pan=0.0, tilt=0.0, roll=0.0, zoom=0.0))
        turn = (planned.turn @ off_view(self.match, off).turn.T).astype(np.float32)
        if off.zoom:
            turn = turn @ np.diag([math.exp(-off.zoom)] * 2 + [1.0]).astype(np.float32)
        right, up, forward = turn @ self._rays
        focal = np.float32(planned.focal_px * self.k)
        height, width = painted.shape[:2]
        across = (focal * right / forward + (width / 2.0 - 0.5 - slid_px[0])).reshape(self.shape)
        down = (height / 2.0 - 0.5 - slid_px[1] - focal * up / forward).reshape(self.shape)
        light: Image = np.asarray(
            cv2.remap(painted, across, down, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE), np.float32
        )
        return light

    def _recorded(self, light: Image, number: int) -> npt.NDArray[np.uint8]:
        """Light on the gate as it is recorded in one picture: dark in the corners, unsteady, noisy, clipped;
        the light itself is changed.
        """
        light *= np.float32(2.0 ** self._stops_off(number))
        if "vignetting" in self.faults and self.setup.vignetting_stops:
            light *= self._left
        if "noise" in self.faults:
            light += self._grain(light, number)
        # what is under 0 and over 1 is clipped by the numbers of 16 bits
        steps = cv2.addWeighted(light, len(_CODES) - 1, light, 0.0, 0.0, dtype=cv2.CV_16U)
        return _CODES.take(np.asarray(steps, np.uint16))

    def _stops_off(self, number: int) -> float:
        """By how many stops a picture is lighter than the others."""
        off = 0.0
        if "ripple" in self.faults:
            off += math.log2(1.0 + _RIPPLE * math.sin(2.0 * math.pi * _RIPPLE_TURNS * number))
        if "iris" in self.faults:
            off += _IRIS_STOPS * float(np.random.default_rng((self.seed, number)).standard_normal())
        if "bounce" in self.faults and number % _BOUNCE_EVERY < _BOUNCE_LASTS:
            off += _BOUNCE_STOPS
        return off

    def _grain(self, light: Image, number: int) -> Image:
        across, down = np.random.default_rng((self.seed, number, 1)).integers(0, _NOISE_ROOM_PX, 2)
        height, width = self.shape
        sigma = grain_sigma(self.setup, self.match.resize * self.k)
        noise = self._noise[down : down + height, across : across + width]
        bright = cv2.sqrt(np.maximum(light, 0.0) + np.float32(DARK))
        return np.asarray(cv2.multiply(bright, noise, scale=sigma), np.float32)

    # --- the set, painted once for each place of the camera

    def _place(self, off: Off) -> Image:
        where = off.aside, off.up, off.forward
        if where not in self._painted:
            self._painted[where] = self._paint(Off(aside=off.aside, up=off.up, forward=off.forward))
            while len(self._painted) > _PLACES_KEPT:
                self._painted.popitem(last=False)
        self._painted.move_to_end(where)
        return self._painted[where]

    def _paint(self, off: Off) -> Image:
        """The set through the planned camera from another place, wider than its gate, linear light."""
        height, width = (2 * round(side * WIDER / 2.0) for side in self.shape)
        view = off_view(self.match, off)
        canvas = self._ground(view, height, width)
        self._lay_sheet(canvas, view, (width / self.k, height / self.k))
        self._lay_layer(canvas, view, START)
        return canvas

    def _lay_layer(self, canvas: Image, view: View, moment: Moment) -> None:
        """The layer onto what is behind it, as it stands at a moment of the shot."""
        match = self.match
        layer = match.layer
        size = (canvas.shape[1] / self.k, canvas.shape[0] / self.k)
        gain = gain_of(match)
        light = None
        if is_shaded(layer, ALL):
            towards, filled = key_light(match)
            light = towards * flop_of(layer, ALL), filled
        come = placed_m(layer, moment)
        gone = come - placed_m(layer, START)
        faces = [
            (face, number)
            for number, part in enumerate(sorted(parts_of(layer), key=lambda each: -each.behind_m))
            for face in seen_faces(part, come, view, size, light)
        ]
        for face, number in faces:
            soft = blur_of(match, max(face.far, 0.0)) * self.k if "softness" in self.faults else 0.0
            self._lay(canvas, face, soft, gain, self._weathering(view, face, number, gone))

    def _lay(
        self, canvas: Image, face: Face, soft: float, gain: Image, weathering: Weathering | None = None
    ) -> None:
        """One face onto what is behind it."""
        height, width = canvas.shape[:2]
        planes = np.zeros((4, height, width), np.float32)
        touched = fill(planes, face, self.k)
        if touched is None:
            return
        left, top = (max(0, edge - _SOFT_ROOM_PX) for edge in touched[:2])
        right, bottom = min(width, touched[2] + _SOFT_ROOM_PX), min(height, touched[3] + _SOFT_ROOM_PX)
        cut = planes[:, top:bottom, left:right]
        if weathering is not None:
            cut[:3] *= weathering((left, top, right, bottom), (height, width))
        cut[:3] *= gain[:, None, None]
        cut = softened(np.ascontiguousarray(cut), soft)
        under = canvas[top:bottom, left:right]
        under *= 1.0 - cut[3][..., None]
        under += np.moveaxis(cut[:3], 0, 2)

    def _weathering(self, view: View, face: Face, number: int, gone: Array) -> Weathering:
        """How a face is weathered, over a box of the picture; what has ``gone`` somewhere takes it along."""
        eye = view.eye
        along = face.corners[1] - face.corners[0]
        along /= max(float(np.linalg.norm(along)), 1e-9)
        over = np.cross(face.faces, along)
        away = float((face.corners[0] - eye) @ face.faces)
        near, far = (
            max(float(edge - self._planned.eye[2]), 0.1) for edge in np.sort(face.corners[:, 2])[[0, -1]]
        )
        far = math.sqrt(near * far)
        metres = _TILE_OF_GATE * self.shape[1] / self.k * far / view.focal_px

        def weathered(box: Box, shape: tuple[int, int]) -> Image:
            rays = np.stack(self._directions(view, box, shape))
            towards = np.tensordot(face.faces, rays, 1)
            far = away / np.where(np.abs(towards) > 1e-6, towards, -1e-6)
            place = rays * far + (eye - gone)[:, None, None]
            painted = self._texture(
                np.tensordot(along, place, 1), np.tensordot(over, place, 1), metres, number
            )
            slant = np.abs(towards) / np.linalg.norm(rays, axis=0)
            fine = metres / _TILE_PX * view.focal_px * self.k * slant / np.maximum(far, 1e-6)
            return _as_seen(painted, fine)

        return weathered

    def _directions(self, view: View, box: Box, shape: tuple[int, int]) -> tuple[Array, Array, Array]:
        """Right, up and forward of the hero's axis through each pixel of a box of the painted picture."""
        left, top, right, bottom = box
        down, across = np.mgrid[top:bottom, left:right]
        focal = view.focal_px * self.k
        flat = np.stack(
            [
                (across + 0.5 - shape[1] / 2.0) / focal,
                (shape[0] / 2.0 - down - 0.5) / focal,
                np.ones(across.shape),
            ]
        )
        ray = np.tensordot(view.turn.T, flat, 1)
        return ray[0], ray[1], ray[2]

    def _texture(self, across: Array, along: Array, metres: float, seed: int) -> Image:
        """What is painted on a surface at places on it, a tile of which is so many metres wide."""
        tile = _weathered(self.seed * _TILES + seed % _TILES)
        scale = _TILE_PX / metres
        u = np.mod(across * scale, _TILE_PX).astype(np.float32)
        v = np.mod(along * scale, _TILE_PX).astype(np.float32)
        return np.asarray(cv2.remap(tile, u, v, cv2.INTER_LINEAR, borderMode=cv2.BORDER_WRAP), np.float32)

    def _ground(self, view: View, height: int, width: int) -> Image:
        """Ground and air, with nothing on it yet."""
        right, up, forward = self._directions(view, (0, 0, width, height), (height, width))
        tone = np.where(up > 0, _SKY + (_SKY_LOW - _SKY) * np.exp(-up * 6.0), _SKY_LOW).astype(np.float32)
        eye = view.eye
        if eye[1] > 0:
            low = up < -1e-4
            far = np.where(low, eye[1] / np.maximum(-up, 1e-4), 0.0)
            tile = _FLOOR_TILE * max(float(self._planned.eye[1]), 0.1)
            painted = self._texture(eye[0] + far * right, eye[2] + far * forward, tile, _TILES - 1)
            fine = tile / _TILE_PX * view.focal_px * self.k * np.maximum(-up, 0.0) ** 2 / eye[1]
            painted = _as_seen(painted, fine)
            tone = np.where(low, _FLOOR * painted, tone)
        return np.repeat(tone.astype(np.float32)[..., None], 3, axis=2)

    def _lay_sheet(self, canvas: Image, view: View, size: tuple[float, float]) -> None:
        backing = self.setup.backing if self.match.setup is not None else None
        if backing is None:
            return
        corners = sheet_corners_m(self.setup) * self.match.layer.scale
        seen = view.project([corners], *size)[0]
        if len(seen) != len(corners):
            return
        colour, plain = linear_rgb(backing.colour), np.ones(3, np.float32)
        facing = np.array([0.0, 0.0, -1.0])
        self._lay(canvas, Face(seen, colour, colour, 0.0, corners, facing), 0.0, plain)
