"""A telephone's photograph of the quay as the hero plate of the puppet's shot: made through a camera that
stands where the hero stands, with what somebody has drawn on it since.
"""

from __future__ import annotations

import io
import math
from functools import lru_cache
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image

from jungoptic.core.breakdown import OUTLINES
from jungoptic.core.optics import project

NAME = "the quay.jpg"
WIDTH_PX, HEIGHT_PX = 2000, 1500
EQUIVALENT_MM, FOCAL_MM = 26, 5.4
LENS_M, TILT_DEG, ROLL_DEG = 0.9, 0.0, 0.0
KEY_AZIMUTH_DEG, KEY_ELEVATION_DEG = -99.3, 16.8  # the sun at the hero's time, by the hero's heading
POST_M, POST = 1.1, (2.35, 7.5)  # mooring post: to the right, ahead
LAMP_M, LAMP = 4.2, (-4.2, 13.0)
BARREL = (-1.5, 5.2)
BARN = (-11.0, 24.0)
STICK_M, STICK = 0.3, (0.6, 4.4)
WATER_M = -0.8
_FAR_M = 9000.0
_FOCAL_PX = EQUIVALENT_MM * math.hypot(WIDTH_PX, HEIGHT_PX) / 43.27
_FINE = 4  # bits of a pixel

Place = tuple[float, float, float]
Tone = tuple[float, float, float]


def _seen(*places: Place) -> npt.NDArray[np.float64]:
    """Places (right, up from the quay, forward) in the picture, px."""
    corners = np.array([(x, y - LENS_M, z) for x, y, z in places])
    return project(corners, _FOCAL_PX, WIDTH_PX, HEIGHT_PX, TILT_DEG, ROLL_DEG)


def _shadow(x: float, y: float, z: float) -> Place:
    """Where a point throws its shadow on the quay."""
    long = y / math.tan(math.radians(KEY_ELEVATION_DEG))
    turn = math.radians(KEY_AZIMUTH_DEG)
    return (x - long * math.sin(turn), 0.0, z + long * math.cos(turn))


class _Quay:
    """The quay in late light, tone by tone."""

    def __init__(self) -> None:
        self.random = np.random.default_rng(50)
        self.pixels = np.zeros((HEIGHT_PX, WIDTH_PX, 3), np.float32)
        level = float(_seen((0.0, LENS_M, _FAR_M))[0, 1])
        rows = np.arange(HEIGHT_PX, dtype=np.float32)[:, None]
        up = np.clip((level - rows) / 700.0, 0, 1)
        self.pixels[:] = (np.array([0.93, 0.75, 0.56]) * (1 - up) + np.array([0.42, 0.50, 0.64]) * up)[
            :, None
        ]
        self.grain = self.random.normal(0.0, 1.0, (HEIGHT_PX, WIDTH_PX)).astype(np.float32)

    def face(self, tone: Tone, *places: Place, soft: float = 0.8, covers: float = 1.0) -> None:
        corners = _seen(*places)
        if len(corners) < 3:
            return
        pad = math.ceil(4 * soft)
        left, top = (max(0, int(edge) - pad) for edge in corners.min(axis=0))
        right, bottom = (int(edge) + pad for edge in corners.max(axis=0))
        there = self.pixels[top:bottom, left:right]
        if not there.size:
            return
        mask = np.zeros(there.shape[:2], np.uint8)
        fixed = np.round((corners - (left, top)).clip(-20000, 20000) * (1 << _FINE)).astype(np.int32)
        cv2.fillPoly(mask, [fixed], 255, cv2.LINE_AA, shift=_FINE)
        share = cv2.GaussianBlur(mask, (0, 0), soft).astype(np.float32)[..., None] * (covers / 255.0)
        there += (np.array(tone, np.float32) - there) * share

    def water(self) -> None:
        far = 7000.0
        self.face(
            (0.60, 0.55, 0.50), *((x, WATER_M, z) for x, z in ((-far, 1), (far, 1), (far, far), (-far, far)))
        )
        for z in np.geomspace(6, 900, 60):
            tone = 0.40 + 0.12 * self.random.random()
            x, wide = self.random.uniform(-1, 1) * z, z * self.random.uniform(0.2, 0.9)
            row = (
                (x, WATER_M, z),
                (x + wide, WATER_M, z),
                (x + wide, WATER_M, z * 1.02),
                (x, WATER_M, z * 1.02),
            )
            self.face((tone, tone * 0.98, tone * 0.97), *row, soft=1.6, covers=0.6)

    def stones(self) -> None:
        self.face((0.27, 0.26, 0.25), (-7.6, 0, 0.7), (4.0, 0, 0.7), (4.0, 0, 30), (-7.6, 0, 30))
        for z in np.arange(0.7, 30.0, 0.55):
            for x in np.arange(-7.0, 3.99, 1.1):
                light = 0.40 * (1.0 + self.random.normal(0.0, 0.06))
                left = x + 0.5 * (round(z / 0.55) % 2)
                right = min(left + 1.08, 4.0)
                corners = ((left, 0, z), (right, 0, z), (right, 0, z + 0.53), (left, 0, z + 0.53))
                self.face((light * 1.04, light, light * 0.95), *corners, soft=0.6)
        self.face((0.20, 0.19, 0.19), (4.0, 0, 0.7), (4.0, 0, 30), (4.0, WATER_M, 30), (4.0, WATER_M, 0.7))

    def stands(
        self, name: str, x: float, z: float, high: float, casts: bool = True, base: float = 0.0
    ) -> None:
        """Something of the shelf, so high, with its shadow on the quay."""
        outline = OUTLINES[name]
        wide = high * outline.width_m / outline.height_m
        pieces = sorted(outline.parts, key=lambda piece: -piece.behind)
        upright = [
            (piece, [(x + (across - 0.5) * wide, base + up * high, z) for across, up in piece.points])
            for piece in pieces
        ]
        for _, corners in upright if casts else ():
            self.face((0.17, 0.16, 0.17), *(_shadow(*corner) for corner in corners), soft=2.0, covers=0.75)
        for piece, corners in upright:
            codes = [int(piece.colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]
            self.face((codes[0] * 0.95, codes[1] * 0.86, codes[2] * 0.78), *corners)

    def post(self, x: float, z: float, high: float, thick: float = 0.13) -> None:
        left, right = x - thick, x + thick
        shadow = (_shadow(left, high, z), _shadow(right, high, z))
        self.face(
            (0.17, 0.16, 0.17), (left, 0, z), (right, 0, z), shadow[1], shadow[0], soft=1.5, covers=0.75
        )
        self.face((0.26, 0.19, 0.14), (left, 0, z), (right, 0, z), (right, high, z), (left, high, z))
        lit = left + 0.4 * thick
        self.face((0.52, 0.38, 0.25), (left, 0, z), (lit, 0, z), (lit, high, z), (left, high, z))


@lru_cache(maxsize=1)
def quay_jpeg() -> bytes:
    """The photograph, with its tags."""
    quay = _Quay()
    quay.water()
    quay.stands("cliff", -1500.0, 3800.0, 210.0, casts=False, base=WATER_M)
    quay.stands("lighthouse", 640.0, 1400.0, 34.0, casts=False, base=WATER_M)
    quay.stands("sailing boat", 21.0, 46.0, 8.6, casts=False, base=WATER_M)
    quay.stones()
    quay.stands("barn", *BARN, 6.2, casts=False)
    quay.stands("rowing boat", 6.4, 13.0, 0.8, casts=False, base=WATER_M)
    quay.stands("street lamp", *LAMP, LAMP_M)
    quay.post(*POST, POST_M)
    quay.stands("crate", -3.1, 7.4, 0.6)
    quay.stands("barrel", *BARREL, 0.75)
    quay.post(*STICK, STICK_M, 0.012)
    pixels = cv2.GaussianBlur(quay.pixels, (0, 0), 0.7) + quay.grain[..., None] * 0.012
    image = Image.fromarray((np.clip(pixels, 0, 1) * 255).astype(np.uint8))
    tags = Image.Exif()
    inner = tags.get_ifd(0x8769)
    inner[0x920A], inner[0xA405] = FOCAL_MM, EQUIVALENT_MM
    out = io.BytesIO()
    image.save(out, "JPEG", quality=90, exif=tags)
    return out.getvalue()


def quay_marks() -> list[dict[str, Any]]:
    """What was drawn on it: the horizon, the mooring post whose height is known, a stick's shadow, the lamp,
    the barrel; to the px, as a hand does.
    """
    (x, z), (lamp_x, lamp_z), (barrel_x, barrel_z) = POST, LAMP, BARREL
    stick_x, stick_z = STICK
    drawn: list[tuple[str, tuple[Place, ...]]] = [
        ("horizon", ((-0.4 * _FAR_M, LENS_M, _FAR_M), (0.45 * _FAR_M, LENS_M, _FAR_M))),
        ("height", ((x, 0.0, z), (x, POST_M, z))),
        (
            "shadow",
            ((stick_x, 0.0, stick_z), (stick_x, STICK_M, stick_z), _shadow(stick_x, STICK_M, stick_z)),
        ),
        ("stands", ((lamp_x, 0.0, lamp_z), (lamp_x, LAMP_M, lamp_z))),
        ("foot", ((barrel_x, 0.0, barrel_z),)),
    ]
    return [
        {"kind": kind, "points": [[round(a), round(b)] for a, b in _seen(*places)], "height_m": POST_M}
        for kind, places in drawn
    ]


def under_the_sky() -> list[list[float]]:
    """A loose outline around everything that is not sky: along the horizon, around the lamp and the barn."""
    level = round(float(_seen((0.0, LENS_M, _FAR_M))[0, 1])) + 2
    barn = _seen(
        *((x, y, BARN[1]) for x, y in ((-17.1, 3.43), (-14.9, 6.2), (-7.1, 6.2), (-4.9, 3.43), (-5.3, 3.43)))
    )
    (foot, top), ridge = _seen((LAMP[0], 0.0, LAMP[1]), (LAMP[0], LAMP_M + 0.05, LAMP[1])), float(barn[1, 1])
    wide = 40.0
    lantern = [
        (foot[0] - wide, ridge),
        (foot[0] - wide, top[1]),
        (foot[0] + wide, top[1]),
        (foot[0] + wide, ridge),
    ]
    roof = [tuple(place) for place in barn.tolist()]
    around = [(0.0, roof[0][1]), *roof[:2], *lantern, *roof[2:], (roof[-1][0], level)]
    line = [*around, (WIDTH_PX, level), (WIDTH_PX, HEIGHT_PX), (0.0, HEIGHT_PX)]
    return [[round(min(max(a, 0.0), WIDTH_PX)), round(b)] for a, b in line]
