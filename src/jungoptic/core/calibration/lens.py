"""What a lens really does, from pictures of a board: focal length, centre, distortion."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

FEWEST_PICTURES = 8
_FEWEST_CORNERS = 12
DICTIONARY = cv2.aruco.DICT_4X4_50
_MARKER_SHARE = 0.75
_TWICE = 2.0
"""Errors are told as two deviations: 95 of 100 lie within."""
_TURNED_LEAST = 0.15
"""Tilted so far, as a tangent, that focal length and distance tell themselves apart."""
_FLAGS = cv2.CALIB_FIX_K3 | cv2.CALIB_ZERO_TANGENT_DIST
_LOOKS = 60
_WINDOW_PX, _WINDOW_SHARE = 5, 6.0
"""What is looked at around a corner: a wider window reaches the next one where the board is foreshortened."""


@dataclass(frozen=True, slots=True)
class Board:
    """A chessboard with markers: so many squares across and down, each so wide on paper. The usual one fills
    an A4 sheet.
    """

    columns: int = 11
    rows: int = 8
    square_mm: float = 24.0

    @property
    def width_m(self) -> float:
        """How wide all squares are, m."""
        return self.columns * self.square_mm / 1000.0

    def picture(self, square_px: int = 64) -> npt.NDArray[np.uint8]:
        """The board as it is printed, without a border.

        Parameters
        ----------
        square_px : int, default 64
            Pixels to a square.

        Returns
        -------
        ndarray of uint8, shape (h, w)
            Black and white.

        References
        ----------
        charuco

        Examples
        --------
        >>> Board().picture(20).shape
        (160, 220)
        """
        size = (self.columns * square_px, self.rows * square_px)
        return np.asarray(_board(self).generateImage(size), np.uint8)


@lru_cache(maxsize=8)
def _board(board: Board) -> cv2.aruco.CharucoBoard:
    side = board.square_mm / 1000.0
    return cv2.aruco.CharucoBoard(
        (board.columns, board.rows),
        side,
        side * _MARKER_SHARE,
        cv2.aruco.getPredefinedDictionary(DICTIONARY),
    )


@dataclass(frozen=True, slots=True)
class BoardSeen:
    """The corners of a board in one picture: ``px`` of shape (n, 2), ``metres`` on the board (n, 3)."""

    px: npt.NDArray[np.float32]
    metres: npt.NDArray[np.float32]
    size_px: tuple[int, int]


@dataclass(frozen=True, slots=True)
class LensMeasured:
    """A lens as it was measured, in recorded px; ``off`` are two deviations.

    ``k1`` and ``k2`` bend a point by 1 + k1·r² + k2·r⁴, r from the axis as a tangent; ``corner_px`` is how
    far that moves the corner of the frame outwards. ``rms_px`` is what is left at the corners of the board.
    """

    f_px: float
    f_off_px: float
    centre_px: tuple[float, float]
    k1: float
    k2: float
    corner_px: float
    corner_off_px: float
    rms_px: float
    pictures: int


def board_seen(picture: npt.ArrayLike, board: Board) -> BoardSeen | None:
    """Where the corners of a board lie in a picture, to a fraction of a pixel.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w)
        Codes of 8 bits.
    board : Board
        What was printed.

    Returns
    -------
    BoardSeen or None
        None where fewer than twelve corners are seen.

    References
    ----------
    charuco

    Examples
    --------
    >>> board_seen(np.full((60, 80), 128, np.uint8), Board()) is None
    True
    """
    frame = np.ascontiguousarray(picture, np.uint8)
    corners, numbers, _, _ = cv2.aruco.CharucoDetector(_board(board)).detectBoard(frame)
    if corners is None or numbers is None or len(numbers) < _FEWEST_CORNERS:
        return None
    px = np.asarray(corners, np.float32).reshape(-1, 1, 2)
    reach = max(2, min(_WINDOW_PX, int(_reach_px(px.reshape(-1, 2)) / _WINDOW_SHARE)))
    stop = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_MAX_ITER, _LOOKS, 1e-4)
    refined = cv2.cornerSubPix(frame, px, (reach, reach), (-1, -1), stop)
    metres = np.asarray(_board(board).getChessboardCorners(), np.float32)[np.asarray(numbers).ravel()]
    height, width = frame.shape[:2]
    return BoardSeen(np.asarray(refined, np.float32).reshape(-1, 2), metres, (width, height))


def _reach_px(px: npt.NDArray[np.float32]) -> float:
    """How far the nearest neighbours lie apart."""
    apart = np.linalg.norm(px[:, None] - px[None], axis=2)
    apart[apart == 0] = math.inf
    return float(np.median(apart.min(axis=1)))


def lens_of_boards(seen: Sequence[BoardSeen]) -> LensMeasured:
    """Focal length, centre and distortion from pictures of one board, held otherwise in each.

    Parameters
    ----------
    seen : sequence of BoardSeen
        Eight or more, all of one size; twelve are better.

    Returns
    -------
    LensMeasured
        In recorded pixels.

    Raises
    ------
    ValueError
        Where there are too few, or of several sizes, or the board was never tilted: its distance cannot be
        told from the focal length then.

    References
    ----------
    zhang

    Examples
    --------
    >>> lens_of_boards([])
    Traceback (most recent call last):
    ...
    ValueError: 0 pictures show the board, 8 are needed: photograph it tilted to all sides and in all corners
    """
    if len(seen) < FEWEST_PICTURES:
        raise ValueError(
            f"{len(seen)} pictures show the board, {FEWEST_PICTURES} are needed: photograph it tilted to all"
            " sides and in all corners"
        )
    size = seen[0].size_px
    if any(each.size_px != size for each in seen):
        raise ValueError("the pictures are of several sizes: take all with one recording")
    try:
        rms, matrix, bent, turns, _, deviations, _, _ = cv2.calibrateCameraExtended(
            [each.metres for each in seen],
            [each.px for each in seen],
            size,
            np.eye(3),
            np.zeros(5),
            flags=_FLAGS | cv2.CALIB_FIX_ASPECT_RATIO,
        )
    except cv2.error:
        raise ValueError(
            "these pictures do not fit each other: take them again, the whole board sharp in each"
        ) from None
    if _most_turned(turns) < _TURNED_LEAST:
        raise ValueError(
            "the board was held square in all pictures, so that focal length and distance cannot be told"
            " apart: tilt it to all sides, by a third of a right angle"
        )
    f_px = float(matrix[1, 1])
    k1, k2 = (float(each) for each in np.ravel(bent)[:2])
    deviation = np.ravel(deviations)
    corner = math.hypot(*size) / 2.0
    r = corner / f_px
    return LensMeasured(
        f_px=f_px,
        f_off_px=_TWICE * float(deviation[1]),
        centre_px=(float(matrix[0, 2]) + 0.5, float(matrix[1, 2]) + 0.5),
        k1=k1,
        k2=k2,
        corner_px=corner * (k1 * r**2 + k2 * r**4),
        corner_off_px=_TWICE * corner * math.hypot(deviation[4] * r**2, deviation[5] * r**4),
        rms_px=float(rms),
        pictures=len(seen),
    )


def _most_turned(turns: Sequence[Any]) -> float:
    """How far apart two of the boards are tilted, as a tangent."""
    normals = np.array([cv2.Rodrigues(turn)[0][:, 2] for turn in turns])
    return float(np.sqrt(np.maximum(0.0, 1.0 - (normals @ normals.T) ** 2)).max())
