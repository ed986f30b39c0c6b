"""The simulated camera: a layer as its set-up records it, point by point, in linear light.

What the comparison works out in numbers is here made by what makes it: shapes are filmed at many moments
while the shutter is open and the rows are read, each as soft as it lies deep, through glass that bends and
darkens, onto a sensor that clips and is noisy, into a recording with its samples and codes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from zlib import crc32

import cv2
import numpy as np

from ..light import LUMA, MID_GREY, bt709_light, bt709_signal, exposure, planck_gain
from ..match.camera import enlargement
from ..match.glass import LEAST_DEPTH_M
from ..match.many import PITCH
from ..match.measure import Match
from ..match.pose import Array, in_camera
from ..match.records import SetUp
from ..match.smear import velocity_m_per_frame
from ..match.view import START, Moment, View, layer_view, placed_m
from .effects import ALL, Effects
from .faces import Face, faces_of, sliced
from .picture import Image
from .raster import Box, airy_spread, coverage, disc, middles, spread
from .sensor import add_grain
from .shadows import Shadows, Thrown, hide

_LEAST_BLUR_PX = 0.1
_APART_PX, _MOST_MOMENTS, _FEWEST = 0.75, 64, 12


def straightened(share: Image, bend: float) -> Image:
    """By how much of its way from the middle the light that comes to a place, a ``share`` of the way to the
    corner, would have gone without the lens's fault.
    """
    straight = share.copy()
    for _ in range(12):
        straight = share / (1.0 + bend * straight**2)
    return np.where(share > 1e-6, straight / np.maximum(share, 1e-6), 1.0).astype(share.dtype)


def left_by_vignetting(setup: SetUp, share: Image) -> Image:
    """Light that is left at places: ``2^(−V·N_widest/N·share²)``."""
    open_for = min(1.0, setup.widest_f_number / setup.f_number)
    left: Image = np.power(2.0, -setup.vignetting_stops * open_for * share**2).astype(np.float32)
    return left


@dataclass(frozen=True, slots=True)
class _Instant:
    """One moment of an exposure: frames from its middle, and what is seen and where things have come by
    then.
    """

    frames: float
    view: View
    come: Array


class Camera:
    """One layer as it is filmed at one frame of the shot, at a picture of some width.

    Parameters
    ----------
    match : Match
        The layer, measured; its set-up with its key written out.
    frame : float
        Of the shot, from 0.
    width_px : int
        Of the picture; its shape is the delivery's.
    effects : Effects, optional
        All when left out.
    beside : sequence of Match, optional
        What is filmed in the same exposure, and throws its shadows too.
    """

    def __init__(
        self,
        match: Match,
        frame: float,
        width_px: int,
        effects: Effects = ALL,
        beside: Sequence[Match] = (),
    ) -> None:
        self.match, self.frame, self.effects, self.beside = match, frame, effects, beside
        delivery = match.delivery
        self.k = width_px / delivery.width_px
        self.shape = (round(delivery.height_px * self.k), width_px)
        self.size = (float(delivery.width_px), float(delivery.height_px))
        self.length = delivery.length_frames or delivery.move.end_frame + 1
        self.at = self._moment(frame)
        self.view = layer_view(match, self.at)
        self.come = placed_m(match.layer, self.at)
        self.setup = match.setup or match.hero

    def _moment(self, frame: float) -> Moment:
        return Moment.at(frame, self.length, self.match.delivery.move)

    # --- the shutter

    @property
    def exposed_frames(self) -> float:
        """For how much of a frame the shutter is open."""
        if self.match.setup is None or self.match.layer.kind == "frame_by_frame" or not self.effects.smear:
            return 0.0
        return self.setup.shutter_angle_deg / 360.0

    @property
    def read_frames(self) -> float:
        """For how much of a frame all rows of the gate are read, one after the other."""
        if self.match.setup is None or self.match.layer.kind == "frame_by_frame" or not self.effects.skew:
            return 0.0
        return self.setup.readout_ms / 1000.0 * self.setup.capture_fps

    @property
    def gate_px(self) -> float:
        """Height of the gate in the delivered frame, as the layer is resized."""
        setup = self.setup
        return setup.gate_height_mm * self.size[0] / setup.extracted_mm * self.match.resize

    def _instants(self) -> tuple[list[_Instant], float]:
        """The moments of an exposure, and how long each stands for, frames."""
        match, layer = self.match, self.match.layer
        turns = match.setup is not None and (self.setup.follows_move or layer.combine == "in_camera")
        velocity = velocity_m_per_frame(layer, match.delivery, match.hero.capture_fps) * match.speed_ratio
        span = self.exposed_frames + self.read_frames
        moves = velocity.any() or (turns and not match.delivery.move.still)
        if span == 0 or not moves:
            return [_Instant(0.0, self.view, self.come)], 0.0
        pace_px = max(match.motion_px / max(self.setup.shutter_angle_deg / 360.0, 1e-6), 1.0)
        count = int(min(max(math.ceil(pace_px * span * self.k / _APART_PX), _FEWEST), _MOST_MOMENTS))
        step = span / count
        instants = []
        for place in range(count):
            frames = (place + 0.5) * step - span / 2.0
            view = self.view
            if turns:
                move = match.delivery.move
                away = min(max(self.frame + frames, move.start_frame), move.end_frame)
                path = move.path([move.share_at(away)], match.hero.distance_m)
                view = replace(self.view, path=path)
            instants.append(_Instant(frames, view, self.come + frames * velocity))
        return instants, step

    def _rows(self, instant: _Instant, step: float, box: Box) -> Array | float:
        """How much of one moment each row of a box sees: its own exposure overlaps it."""
        if step == 0:
            return 1.0
        rows = np.arange(box[1], box[3]) + 0.5
        middle = self.size[1] / 2.0 + self.view.shift_px[1]
        own = (rows / self.k - middle) / self.gate_px * self.read_frames
        long = max(self.exposed_frames, step)
        start, end = own - long / 2.0, own + long / 2.0
        overlap = np.minimum(end, instant.frames + step / 2.0) - np.maximum(
            start, instant.frames - step / 2.0
        )
        shares: Array = np.maximum(overlap, 0.0)[:, None] / long
        return shares

    # --- the picture

    def _drawn(self, face: Face, corners: Array, shadows: list[Thrown]) -> Image | None:
        """A piece of a face over the whole exposure: planes of red, green, blue and alpha, premultiplied."""
        height, width = self.shape
        instants, step = self._instants()
        canvas = np.zeros((4, height, width), np.float32)
        touched = False
        start = placed_m(self.match.layer, START)
        for instant in instants:
            come = instant.come - start  # faces stand where the layer stands to begin with
            seen = instant.view.project([corners + come], *self.size)[0]
            filled = coverage(seen * self.k, width, height) if len(seen) >= 3 else None
            if filled is None:
                continue
            cover, box = filled
            touched = True
            cover = cover * self._rows(instant, step, box)
            left, top, right, bottom = box
            whole = instant.view.project([face.corners + come], *self.size)[0] * self.k
            low, high = whole[:, 1].max(), whole[:, 1].min()
            rows = np.arange(top, bottom) + 0.5
            down = np.clip((rows - high) / max(low - high, 1e-6), 0.0, 1.0)[:, None].astype(np.float32)
            lit = np.ones_like(cover)
            for share, pieces in shadows:
                hidden = np.zeros_like(cover)
                for there in instant.view.project([piece + come for piece in pieces], *self.size):
                    thrown = coverage(there * self.k, width, height) if len(there) >= 3 else None
                    if thrown is not None:
                        hide(hidden, thrown, box)
                lit -= share * hidden
            for plane, above, below in zip(canvas[:3], face.high, face.low, strict=True):
                colour = (above * (1.0 - down) + below * down) * lit
                plane[top:bottom, left:right] += (colour * cover).astype(np.float32)
            canvas[3, top:bottom, left:right] += cover.astype(np.float32)
        return canvas if touched else None

    def blur_px(self, point: Array) -> float:
        """Blur of a point of the layer as it stands at this frame, delivered px."""
        match = self.match
        if match.setup is None or not self.effects.focus:
            return 0.0
        come = self._come_since(self.at)
        _, _, depth_m = in_camera((point + come)[None, None], self.view.path, self.view.rows)
        return match.blur_at_px(max(float(np.ravel(depth_m)[0]) / match.layer.scale, LEAST_DEPTH_M))

    def _come_since(self, moment: Moment) -> Array:
        """How far the layer has come since the shot began."""
        return placed_m(self.match.layer, moment) - placed_m(self.match.layer, START)

    def shapes(self) -> Image:
        """The layer through the lens: planes of red, green, blue and alpha, premultiplied, before the sensor.

        Returns
        -------
        ndarray of float32, shape (4, h, w)
            Linear light; 1 is diffuse white.
        """
        canvas = np.zeros((4, *self.shape), np.float32)
        faces = faces_of(self.match, self.effects)
        thrown = Shadows(self.match, faces, self.beside, self.effects)
        away = self.view.eye - self._come_since(self.at)
        for face in faces:
            if not face.faces(away):
                continue
            shadows = thrown.on(face)
            for corners, blur in sliced(face, self.blur_px):
                piece = self._drawn(face, corners, shadows)
                if piece is None:
                    continue
                if blur * self.k >= _LEAST_BLUR_PX:
                    piece = spread(piece, disc(round(blur * self.k, 2)))
                canvas *= 1.0 - piece[3]
                canvas += piece
        return canvas

    def film(self) -> Image:
        """The layer as it is recorded, and resized as the composite lays it.

        Returns
        -------
        ndarray of float32, shape (4, h, w)
            Planes of red, green, blue and alpha, premultiplied, linear light.
        """
        planes, match, effects = self.shapes(), self.match, self.effects
        if match.setup is None:
            return planes
        setup = match.setup
        if effects.diffraction and match.airy_px > 0:
            planes = airy_spread(planes, match.airy_px * self.k)
        if effects.distortion and setup.distortion_pct:
            planes = self._bent(planes, setup)
        if effects.gate:
            planes *= self._recorded(setup)
        gain = self.gain(setup)
        planes[:3] *= gain if gain.ndim == 3 else gain[:, None, None]
        if effects.enlargement:
            planes = self._enlarged(planes, setup)
        if effects.grain:
            seed = (effects.seed, round(self.frame), crc32(match.layer.name.encode()))
            add_grain(planes, setup, match.resize * self.k, seed)
        if effects.clipping:
            most = MID_GREY * 2.0**setup.headroom_stops
            np.minimum(planes[:3], most * np.maximum(planes[3], 1e-6), out=planes[:3])
        self._record(planes, setup)
        return planes

    # --- glass

    def _off_middle(self, setup: SetUp) -> tuple[Image, Image, Image]:
        """Of every pixel: x and y from the middle of the lens's own picture, delivered px, and share of the
        way to the corner in which the lens was measured.
        """
        x, y = middles(self.shape)
        x = x / self.k - self.size[0] / 2.0 - self.view.shift_px[0]
        y = y / self.k - self.size[1] / 2.0 - self.view.shift_px[1]
        tall = setup.gate_height_mm / setup.gate_width_mm
        px_a_mm = self.size[0] / setup.extracted_mm * self.match.resize
        corner = setup.measured_on_mm / 2.0 * math.hypot(1.0, tall) * px_a_mm
        return x, y, (np.hypot(x, y) / corner).astype(np.float32)

    def _bent(self, planes: Image, setup: SetUp) -> Image:
        """Every point displaced by ``k·share²`` of its way from the middle."""
        x, y, share = self._off_middle(setup)
        bend = setup.distortion_pct / 100.0
        grow = straightened(share, bend)
        middle_x, middle_y = (self.size[side] / 2.0 + self.view.shift_px[side] for side in (0, 1))
        from_x = ((x * grow + middle_x) * self.k - 0.5).astype(np.float32)
        from_y = ((y * grow + middle_y) * self.k - 0.5).astype(np.float32)
        return np.stack([cv2.remap(plane, from_x, from_y, cv2.INTER_CUBIC) for plane in planes])

    def _recorded(self, setup: SetUp) -> Image:
        """How much of every pixel the recorded picture holds."""
        wide, tall = (
            side / setup.extracted_mm * self.size[0] * self.match.resize
            for side in (setup.gate_width_mm, setup.gate_height_mm)
        )
        middle_x, middle_y = (self.size[side] / 2.0 + self.view.shift_px[side] for side in (0, 1))
        corners = [(-1, -1), (-1, 1), (1, 1), (1, -1)]
        frame = np.array([(middle_x + x * wide / 2.0, middle_y + y * tall / 2.0) for x, y in corners])
        held = np.zeros(self.shape, np.float32)
        filled = coverage(frame * self.k, self.shape[1], self.shape[0])
        if filled is not None:
            cover, (left, top, right, bottom) = filled
            held[top:bottom, left:right] = cover
        return held

    def _vignette(self, setup: SetUp) -> Image:
        """Light that the lens leaves at every pixel: ``2^(−V·N_widest/N·share²)``."""
        _, _, share = self._off_middle(setup)
        return left_by_vignetting(setup, share)

    def _enlarged(self, planes: Image, setup: SetUp) -> Image:
        """As soft as a recording that has fewer pixels than the delivery."""
        recorded = 1.0 / max(enlargement(setup, self.match.delivery, self.match.resize), 1e-6) / self.k
        if recorded >= 1.0:
            return planes
        height, width = self.shape
        small = max(1, round(width * recorded)), max(1, round(height * recorded))
        return np.stack(
            [
                cv2.resize(
                    cv2.resize(plane, small, interpolation=cv2.INTER_AREA),
                    (width, height),
                    interpolation=cv2.INTER_LINEAR,
                )
                for plane in planes
            ]
        )

    # --- light and sensor

    def gain(self, setup: SetUp) -> Image:
        """What exposure, colour of the light, ripple and dark corners make of it beside the hero's: (3,), or
        (3, h, w) where places differ, (3, h, 1) where rows do.
        """
        match, hero, effects = self.match, self.match.hero, self.effects
        gain = np.ones(3, np.float32)
        if effects.exposure:
            gain *= np.float32(2.0 ** (match.stops - match.stops_hero))
        if effects.cast:
            gain *= planck_gain(setup.light_k, setup.white_balance_k)
            gain /= planck_gain(hero.light_k, hero.white_balance_k)
        if effects.flicker and setup.ripple_depth > 0:
            gain = gain[:, None, None] * self._ripple(setup)[None, :, None]
        if effects.vignetting and setup.vignetting_stops:
            gain = gain.reshape(3, -1, 1) * self._vignette(setup)
        return gain

    def _ripple(self, setup: SetUp) -> Image:
        """How bright each row is exposed by lamps on the mains, at this frame."""
        time_s = exposure.exposure_time_s(setup.shutter_angle_deg, setup.capture_fps)
        half = math.pi * 2.0 * setup.mains_hz * time_s
        depth = setup.ripple_depth * math.sin(half) / half
        rows = np.arange(self.shape[0]) + 0.5
        own = (rows / self.k - self.size[1] / 2.0 - self.view.shift_px[1]) / self.gate_px
        at_s = self.frame / setup.capture_fps + own * setup.readout_ms / 1000.0
        bright: Image = (1.0 + depth * np.sin(2.0 * math.pi * 2.0 * setup.mains_hz * at_s)).astype(np.float32)
        return bright

    def _record(self, planes: Image, setup: SetUp) -> None:
        """Colour sampled as the recording samples it, codes as deep as it has them. BT.709 curve and luma."""
        effects = self.effects
        if not effects.chroma and not effects.codes:
            return
        alpha = np.maximum(planes[3], 1e-6)
        signal = bt709_signal(np.clip(planes[:3] / alpha, 0.0, None))
        luma = np.tensordot(LUMA, signal, 1)
        differences = signal - luma
        pitch = PITCH[setup.sampling] * enlargement(setup, self.match.delivery, self.match.resize) * self.k
        if effects.chroma and pitch > 1.0:
            high = pitch if setup.sampling == "4:2:0" else 1.0
            width, height = self.shape[1], self.shape[0]
            small = max(1, round(width / pitch)), max(1, round(height / high))
            differences = np.stack(
                [
                    cv2.resize(
                        cv2.resize(plane, small, interpolation=cv2.INTER_AREA),
                        (width, height),
                        interpolation=cv2.INTER_LINEAR,
                    )
                    for plane in differences
                ]
            )
        if effects.codes:
            steps = 219.0 * 2.0 ** (setup.bit_depth - 8)
            luma, differences = (
                (np.round(values * steps) / steps).astype(np.float32) for values in (luma, differences)
            )
        planes[:3] = bt709_light(luma + differences) * planes[3]
