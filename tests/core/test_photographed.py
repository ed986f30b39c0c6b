"""A photograph of a house, read by the edges that are found in it by themselves: its lens within 1 %.

The truth is OpenCV's: cv2.projectPoints (Bradski, The OpenCV Library, 2000) puts two walls with windows into
pictures of random cameras; photographed bricks lie on them.
"""

import math

import cv2
import numpy as np
import pytest

from jungoptic.core.rushes import photograph_read
from tests.core.by_opencv import Camera, H, W
from tests.core.filmed import Tried, cases, photograph, recorded, signal

WALL = (600, 800)
"""Of its picture, rows and columns, for 6 m × 10 m."""
FINER = 3
SEEN = (540, 810)
"""What is filmed: W × H, smaller."""


def wall(light: float) -> np.ndarray:
    """Brick with three rows of five windows, each over its sill."""
    picture = 0.45 + 0.3 * cv2.resize(photograph("brick"), WALL[::-1])
    for row in range(3):
        for column in range(5):
            top, left = 60 + 190 * row, 50 + 150 * column
            picture[top : top + 120, left : left + 80] = 0.06
            picture[top + 120 : top + 132, left - 6 : left + 86] = 0.95
    return np.asarray(light * picture, np.float32)


def house(camera: Camera, distance_m: float) -> np.ndarray:
    """As the camera sees it before a grey sky, linear light."""
    turn, share = math.radians(camera.heading_deg), SEEN[1] / W
    assert share == pytest.approx(SEEN[0] / H)
    size = (SEEN[1] * FINER, SEEN[0] * FINER)
    picture = np.full((*size[::-1], 3), 0.5, np.float32)
    for across, away, light in (
        (math.sin(turn), math.cos(turn), 0.6),
        (-math.cos(turn), math.sin(turn), 0.3),
    ):
        rows, columns = WALL
        drawn = np.array([[0, 0], [columns, 0], [columns, rows], [0, rows]]) - 0.5
        ends = [(0, 6), (10, 6), (10, 0), (0, 0)]
        seen = np.array(camera.seen(*((across * u, y, distance_m + away * u) for u, y in ends)))
        onto = cv2.getPerspectiveTransform(np.float32(drawn), np.float32(seen * share * FINER - 0.5))
        there = cv2.warpPerspective(np.ones(WALL, np.float32), onto, size)[..., None]
        picture = picture * (1 - there) + there * cv2.warpPerspective(wall(light), onto, size)
    return cv2.GaussianBlur(cv2.resize(picture, SEEN[::-1], interpolation=cv2.INTER_AREA), (0, 0), 0.6)


def test_the_lens_of_a_photograph_is_read_within_1_percent():
    tried = Tried()
    for index, dice, _, quality in cases(5):
        view, heading = dice.uniform(40, 75), dice.uniform(25, 65)
        camera = Camera(
            view, dice.uniform(-3, 8), dice.uniform(-2, 2), dice.uniform(1.2, 2.5), heading, 0, 30
        )
        seen = recorded(house(camera, dice.uniform(8, 11)), quality, index, 0.02)
        read = photograph_read(signal(seen)).reading.read
        for name, truth in (("view", view), ("tilt", camera.tilt_deg), ("roll", camera.roll_deg)):
            told = read[f"taken_{name}_deg"]
            tried.add(name, told.amount, truth, told.within)
        long = math.tan(math.radians(view / 2)) / math.tan(math.radians(read["taken_view_deg"].amount / 2))
        tried.add("f", long, 1.0, 0.01)
    tried.hold(f=0.01, tilt=0.1, roll=0.1)
