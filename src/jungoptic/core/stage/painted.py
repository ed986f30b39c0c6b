"""Simple shaded shapes in planes of linear light: what a picture is drawn of while a hand drags."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from ..match.layer import Part
from ..match.view import View
from .faces import tone_of
from .picture import Image, linear_rgb

_SUBPIXEL = 4
_BOX_CORNERS = 14


@dataclass(frozen=True, slots=True)
class Face:
    """One side of a part in the picture: its outline, delivered px, its colour at the top and at the foot in
    linear light, how far behind the layer's front edge it lies; its corners and the direction that it faces,
    in the set, full-size metres.
    """

    points: npt.NDArray[np.float64]
    high: Image
    low: Image
    far: float
    corners: npt.NDArray[np.float64]
    faces: npt.NDArray[np.float64]


def seen_faces(
    part: Part,
    come: npt.NDArray[np.float64],
    view: View,
    size: tuple[float, float],
    light: tuple[npt.NDArray[np.float64], float] | None,
) -> list[Face]:
    """The front of a part and, of a solid one, the sides that face the lens, far ones first."""
    front = part.outline + come
    high, low = linear_rgb(part.colour), linear_rgb(part.colour_low or part.colour)

    def shade(normal: tuple[float, float, float]) -> float:
        return 1.0 if light is None else tone_of(normal, *light)

    seen: list[Face] = []
    upright = not part.lies and part.thickness_m > 0 and len(front) <= _BOX_CORNERS
    if upright:
        back = front + np.array([0.0, 0.0, part.thickness_m])
        turning = (
            1.0
            if float(np.sum(front[:, 0] * np.roll(front[:, 1], -1) - np.roll(front[:, 0], -1) * front[:, 1]))
            > 0
            else -1.0
        )
        eye = view.eye
        for i in range(len(front)):
            j = (i + 1) % len(front)
            edge = front[j] - front[i]
            normal = np.array([edge[1], -edge[0], 0.0]) * turning
            long = float(np.linalg.norm(normal))
            if long < 1e-9 or float(np.dot(normal, eye - front[i])) <= 0:
                continue
            normal /= long
            tone = shade((normal[0], normal[1], 0.0))
            quad = np.array([front[i], front[j], back[j], back[i]])
            drawn = view.project([quad], *size)[0]
            if len(drawn) >= 3:
                seen.append(Face(drawn, high * tone, low * tone, float(quad[:, 2].mean()), quad, normal))
        seen.sort(key=lambda face: -face.far)
    facing = (0.0, 1.0, 0.0) if part.lies else (0.0, 0.0, -1.0)
    tone = shade(facing)
    drawn = view.project([front], *size)[0]
    if len(drawn) >= 3:
        seen.append(Face(drawn, high * tone, low * tone, float(front[:, 2].min()), front, np.array(facing)))
    return seen


def fill(canvas: Image, face: Face, k: float) -> tuple[int, int, int, int] | None:
    """Draw one face into planes of red, green, blue and alpha, graded from its top to its foot; returns the
    box that it touched.
    """
    height, width = canvas.shape[1:]
    points = np.clip(face.points * k, -4 * width, 5 * width)
    left, top = (max(0, int(v) - 1) for v in points.min(axis=0))
    right, bottom = min(width, int(points[:, 0].max()) + 2), min(height, int(points[:, 1].max()) + 2)
    if right <= left or bottom <= top:
        return None
    mask = np.zeros((bottom - top, right - left), np.uint8)
    # what draws counts from the middle of a pixel, we from its corner
    fixed = np.round((points - (left + 0.5, top + 0.5)) * (1 << _SUBPIXEL)).astype(np.int32)
    cv2.fillPoly(mask, [fixed], 255, lineType=cv2.LINE_AA, shift=_SUBPIXEL)
    cover = mask.astype(np.float32)
    cover /= 255.0
    low, high = points[:, 1].max(), points[:, 1].min()
    down = np.clip((np.arange(top, bottom, dtype=np.float32) + 0.5 - high) / max(low - high, 1e-6), 0.0, 1.0)[
        :, None
    ]
    bare = 1.0 - cover
    for plane, above, below in zip(canvas, (*face.high, 1.0), (*face.low, 1.0), strict=True):
        here = plane[top:bottom, left:right]
        here *= bare
        here += (above * (1.0 - down) + below * down).astype(np.float32) * cover
    return left, top, right, bottom
