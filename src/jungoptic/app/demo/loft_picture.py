"""A photograph of the bare loft, over which its rafters are painted: made through a camera, with the lines
that somebody has drawn on it since to read that camera.
"""

from __future__ import annotations

import io
from functools import lru_cache
from typing import Any

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

from jungoptic.core.optics import focal_length_px, project

NAME = "bare loft.jpg"
WIDTH_PX, HEIGHT_PX = 1600, 1000
GATE_MM, LENS_MM = 23.5, 21.0
LENS_M, TILT_DEG, ROLL_DEG, PAN_DEG = 1.55, -3.0, 0.8, 24.0
LEFT_M, RIGHT_M, BACK_M, EAVES_M = -3.2, 4.6, 8.5, 3.4
TO_LIGHT = (-0.9, 1.0, 0.35)  # the window in the left wall: right, up and forward of the room's axis
LADDER_M = 2.0
_FOCAL_PX = focal_length_px(LENS_MM, GATE_MM, WIDTH_PX)

Place = tuple[float, float, float]


def _seen(*places: Place) -> list[tuple[float, float]]:
    """Places of the room (right, up from the floor, forward) in the picture, px."""
    corners = np.array([(x, y - LENS_M, z) for x, y, z in places])
    seen = project(corners, _FOCAL_PX, WIDTH_PX, HEIGHT_PX, TILT_DEG, ROLL_DEG, PAN_DEG)
    return [(float(x), float(y)) for x, y in seen]


def _shadow(x: float, y: float, z: float) -> Place:
    """Where a point throws its shadow on the floor."""
    return (x - y * TO_LIGHT[0] / TO_LIGHT[1], 0.0, z - y * TO_LIGHT[2] / TO_LIGHT[1])


class _Room:
    """The loft on paper, tone by tone."""

    def __init__(self) -> None:
        self.image = Image.new("RGB", (WIDTH_PX, HEIGHT_PX), "#241f1b")
        self.draw = ImageDraw.Draw(self.image)
        self.random = np.random.default_rng(120)

    def face(self, tone: tuple[int, int, int], *places: Place) -> None:
        seen = _seen(*places)
        if len(seen) > 2:
            self.draw.polygon(seen, fill=tone)

    def wood(self, light: float) -> tuple[int, int, int]:
        """Boards are never alike."""
        tone = light * (1.0 + self.random.normal(0.0, 0.07))
        return (int(150 * tone), int(122 * tone), int(92 * tone))

    def floor(self) -> None:
        for x in np.arange(LEFT_M, RIGHT_M - 0.01, 0.26):
            self.face(self.wood(0.95), (x, 0, 0.2), (x + 0.25, 0, 0.2), (x + 0.25, 0, BACK_M), (x, 0, BACK_M))

    def walls(self) -> None:
        for y in np.arange(0.0, EAVES_M - 0.01, 0.2):
            top = y + 0.19
            self.face(
                self.wood(0.62),
                (LEFT_M, y, BACK_M),
                (RIGHT_M, y, BACK_M),
                (RIGHT_M, top, BACK_M),
                (LEFT_M, top, BACK_M),
            )
            for x, light in ((LEFT_M, 0.3), (RIGHT_M, 0.8)):
                self.face(self.wood(light), (x, y, 0.2), (x, y, BACK_M), (x, top, BACK_M), (x, top, 0.2))
        window = ((1.1, 5.2), (2.3, 5.2), (2.3, 6.4), (1.1, 6.4))
        self.face((214, 216, 208), *((LEFT_M, y, z) for y, z in window))

    def beams(self) -> None:
        for z in np.arange(1.6, BACK_M, 1.7):
            self.face(
                self.wood(0.34),
                (LEFT_M, EAVES_M, z),
                (RIGHT_M, EAVES_M, z),
                (RIGHT_M, EAVES_M - 0.24, z),
                (LEFT_M, EAVES_M - 0.24, z),
            )
            self.face(
                self.wood(0.22),
                (LEFT_M, EAVES_M - 0.24, z),
                (RIGHT_M, EAVES_M - 0.24, z),
                (RIGHT_M, EAVES_M - 0.24, z + 0.2),
                (LEFT_M, EAVES_M - 0.24, z + 0.2),
            )

    def stands(self, x: float, z: float, high: float, wide: float, light: float, casts: bool) -> None:
        """A post or a rail, square, with its shadow on the floor."""
        if casts:
            left, right = (x, 0.0, z), (x + wide, 0.0, z)
            tips = _shadow(x + wide, min(high, 1.7), z), _shadow(x, min(high, 1.7), z)
            self.face((62, 50, 39), left, right, *tips)
        self.face(self.wood(light), (x, 0, z), (x + wide, 0, z), (x + wide, high, z), (x, high, z))

    def ladder(self) -> None:
        for x in (2.4, 2.85):
            self.stands(x, 5.2, LADDER_M, 0.07, 1.25, True)
        for y in np.arange(0.3, LADDER_M, 0.32):
            self.face(
                self.wood(1.2), (2.4, y, 5.2), (2.9, y, 5.2), (2.9, y + 0.05, 5.2), (2.4, y + 0.05, 5.2)
            )


@lru_cache(maxsize=1)
def loft_jpeg() -> bytes:
    """The photograph."""
    room = _Room()
    room.floor()
    room.walls()
    room.beams()
    for x, z in ((3.6, 7.0), (0.4, 6.6)):
        room.stands(x, z, EAVES_M - 0.24, 0.18, 0.7, False)
    room.stands(0.9, 4.4, 1.2, 0.12, 1.1, True)
    room.ladder()
    grain = room.random.normal(0.0, 3.0, (HEIGHT_PX, WIDTH_PX, 1))
    pixels = np.asarray(room.image.filter(ImageFilter.GaussianBlur(0.8)), dtype=np.float64) + grain
    out = io.BytesIO()
    Image.fromarray(np.clip(pixels, 0, 255).astype(np.uint8)).save(out, "JPEG", quality=90)
    return out.getvalue()


def loft_marks() -> list[dict[str, Any]]:
    """What was drawn on it: seams of the floor, planks of the back wall, posts, the ladder, a short post and
    its shadow; to the px, as a hand does.
    """
    seams = [LEFT_M + 0.26 * n for n in (14, 25)]
    drawn: list[tuple[str, tuple[Place, ...]]] = [
        *(("away", ((x, 0.0, 4.3), (x, 0.0, BACK_M))) for x in seams),
        ("away", ((RIGHT_M, 2.4, 5.0), (RIGHT_M, 2.4, BACK_M))),
        *(("across", ((-0.2, y, BACK_M), (RIGHT_M, y, BACK_M))) for y in (0.0, 2.8)),
        ("upright", ((3.6, 0.0, 7.0), (3.6, 3.0, 7.0))),
        ("upright", ((RIGHT_M, 0.0, BACK_M), (RIGHT_M, 3.2, BACK_M))),
        ("height", ((2.4, 0.0, 5.2), (2.4, LADDER_M, 5.2))),
        ("shadow", ((0.9, 0.0, 4.4), (0.9, 1.2, 4.4), _shadow(0.9, 1.2, 4.4))),
    ]
    return [
        {"kind": kind, "points": [[round(x), round(y)] for x, y in _seen(*places)], "height_m": LADDER_M}
        for kind, places in drawn
    ]
