"""Which points of one picture are where in another of the same thing."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Grey = npt.NDArray[np.uint8]

FEWEST_POINTS = 12
_MOST_POINTS, _CHOSEN_OF = 220, 3
_FIELDS = 10
"""Across a picture; each is as high as it is wide."""
_EVENED_PX = 31
"""Light that changes over more than this is evened out."""
_NOISE_CODES = 5.0
_MIDDLE, _SPREAD = 128.0, 40.0
_WINDOW_PX, _FAR_LEVELS, _NEAR_LEVELS = 17, 4, 1
_COMES_BACK_PX = 0.35
"""A point that is followed there and back comes back to its place."""
_ALIKE = 0.55
"""Correlation of the pieces around a point in both pictures."""
_PIECE_PX = 15
_ROUGHLY_PX = 5.0
_ENOUGH_POINTS, _MOST_AGREE = 120, 0.5
_BORDER_PX = 6
_WHOLE = 255


@dataclass(frozen=True, slots=True)
class Textured:
    """A picture made ready to be found again: its light evened out, the same half as large, and its points
    with texture (n, 2), the best first.
    """

    picture: Grey
    small: Grey
    points: Array


@dataclass(frozen=True, slots=True)
class Registered:
    """``which`` points of the reference are where ``here`` (n, 2) in the other picture, px."""

    which: npt.NDArray[np.intp]
    here: Array


def _evened(picture: Grey, covered: Grey, over_px: int = _EVENED_PX) -> Grey:
    """Local mean taken away, local contrast made alike, as far as it is more than noise."""
    size = (over_px, over_px)
    mean = cv2.boxFilter(picture, cv2.CV_32F, size)
    square = cv2.sqrBoxFilter(picture, cv2.CV_32F, size)
    contrast = cv2.sqrt(np.maximum(square - mean * mean, 0.0)) + np.float32(_NOISE_CODES)
    even = cv2.divide(picture.astype(np.float32) - mean, contrast, scale=_SPREAD) + np.float32(_MIDDLE)
    even[covered == 0] = _MIDDLE
    codes: Grey = np.clip(even, 0.0, 255.0, out=even).astype(np.uint8)
    return codes


def textured(picture: npt.NDArray[np.uint8], covered: npt.NDArray[np.uint8] | None = None) -> Textured:
    """A picture made ready to be found again.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w)
        Grey codes.
    covered : ndarray of uint8, shape (h, w), optional
        0 where there is no picture; all of it when left out.

    Returns
    -------
    Textured
        With its corners, at most 220.

    References
    ----------
    good_features

    Examples
    --------
    >>> board = np.kron(np.indices((8, 8)).sum(axis=0) % 2 * 200, np.ones((20, 20))).astype(np.uint8)
    >>> len(textured(board).points)
    49
    """
    whole = np.full(picture.shape, _WHOLE, np.uint8) if covered is None else covered.astype(np.uint8)
    even = _evened(picture, whole)
    inside = cv2.erode(
        whole, np.ones((2 * _BORDER_PX + 1,) * 2, np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0
    )
    corners = cv2.goodFeaturesToTrack(
        even, _CHOSEN_OF * _MOST_POINTS, 0.02, _BORDER_PX, mask=inside, blockSize=7
    )
    points = np.zeros((0, 2)) if corners is None else corners.reshape(-1, 2).astype(np.float64)
    small = _evened(_half(picture), _half(whole), _EVENED_PX // 2)
    return Textured(even, small, _spread_out(points, picture.shape[1]))


def _spread_out(points: Array, width_px: int) -> Array:
    """Of points, the best first, as many as are wanted: the best of every field of the picture, the second
    best of every field, and so on; what is far counts as much as what is near and full of texture.
    """
    fields = (points // (width_px / _FIELDS)).astype(int) @ (1, _FIELDS)
    rank = np.zeros(len(points), int)
    for each in np.unique(fields):
        rank[fields == each] = np.arange(np.count_nonzero(fields == each))
    return points[np.argsort(rank, kind="stable")[:_MOST_POINTS]]


def _followed(
    before: Grey, after: Grey, points: Array, first: Array, levels: int
) -> tuple[Array, npt.NDArray[np.bool_]]:
    """Where points have gone, and of which of them that is known."""
    there, begins = (places.astype(np.float32).reshape(-1, 1, 2) for places in (points, first))
    gone, known, _ = cv2.calcOpticalFlowPyrLK(
        before,
        after,
        there,
        begins.copy(),
        winSize=(_WINDOW_PX, _WINDOW_PX),
        maxLevel=levels,
        flags=cv2.OPTFLOW_USE_INITIAL_FLOW,
    )
    return gone.reshape(-1, 2).astype(np.float64), known.ravel() > 0


def _come_back(before: Grey, after: Grey, points: Array, levels: int) -> tuple[Array, npt.NDArray[np.bool_]]:
    """Where points have gone, and which of them come back to their places when they are followed back."""
    gone, known = _followed(before, after, points, points, levels)
    back, known_back = _followed(after, before, gone, points, levels)
    off = np.hypot(*(back - points).T)
    return gone, known & known_back & (off < _COMES_BACK_PX)


def _half(picture: Grey) -> Grey:
    return np.asarray(cv2.resize(picture, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA), np.uint8)


def _shift_of_all(reference: Grey, picture: Grey) -> Array:
    """The one shift by which two pictures, half as large, agree best, px of the whole ones."""
    planes = [each.astype(np.float32) - np.float32(_MIDDLE) for each in (reference, picture)]
    window = cv2.createHanningWindow(planes[0].shape[::-1], cv2.CV_32F)
    (across, down), _ = cv2.phaseCorrelate(planes[0], planes[1], window)
    return np.array([across, down]) * 2.0


def _roughly(reference: Textured, small: Grey, first: Array) -> tuple[Array | None, int]:
    """The turn, size and shift that most points agree with roughly, 2 × 3, and how many do."""
    points = reference.points[:_ENOUGH_POINTS]
    gone, good = _followed(reference.small, small, points / 2.0, (points + first) / 2.0, _FAR_LEVELS)
    if good.sum() < FEWEST_POINTS:
        return None, 0
    turn, agree = cv2.estimateAffinePartial2D(
        points[good], gone[good] * 2.0, ransacReprojThreshold=_ROUGHLY_PX, maxIters=400
    )
    return (None, 0) if turn is None else (np.asarray(turn, np.float64), int(agree.sum()))


def _pieces(picture: Grey, points: Array) -> npt.NDArray[np.float32]:
    """The square around each point (n, px), its mean taken away."""
    reach = np.arange(_PIECE_PX) - _PIECE_PX // 2
    across = np.tile(reach, _PIECE_PX) + points[:, :1]
    down = np.repeat(reach, _PIECE_PX) + points[:, 1:]
    cut = cv2.remap(picture, across.astype(np.float32), down.astype(np.float32), cv2.INTER_LINEAR)
    pieces = np.asarray(cut, np.float32)
    return np.asarray(pieces - pieces.mean(axis=1, keepdims=True), np.float32)


def _alike(reference: Grey, picture: Grey, points: Array, gone: Array) -> npt.NDArray[np.bool_]:
    """Whether the pieces around points look alike in both pictures."""
    if not len(points):
        return np.zeros(0, bool)
    there, here = _pieces(reference, points), _pieces(picture, gone)
    both = np.sqrt((there * there).sum(axis=1) * (here * here).sum(axis=1))
    alike: npt.NDArray[np.bool_] = (there * here).sum(axis=1) > _ALIKE * np.maximum(both, 1e-6)
    return alike


def registered(
    reference: Textured,
    picture: npt.NDArray[np.uint8],
    covered: npt.NDArray[np.uint8] | None = None,
) -> Registered:
    """Where the points of a reference are in another picture of the same thing.

    Parameters
    ----------
    reference : Textured
        From :func:`textured`.
    picture : ndarray of uint8, shape (h, w)
        Grey codes, as large as the reference.
    covered : ndarray of uint8, shape (h, w), optional
        0 where there is no picture; all of it when left out.

    Returns
    -------
    Registered
        Points that are followed there and back and look alike in both; few or none where both show
        different things.

    Raises
    ------
    ValueError
        Where the pictures are not of one size.

    References
    ----------
    lucas_kanade, phase_correlation

    Examples
    --------
    >>> board = np.kron(np.indices((8, 8)).sum(axis=0) % 2 * 200, np.ones((20, 20))).astype(np.uint8)
    >>> reference = textured(board)
    >>> same = registered(reference, np.roll(board, 3, axis=1))
    >>> (np.median(same.here - reference.points[same.which], axis=0).round(1) + 0.0).tolist()
    [3.0, 0.0]
    """
    if picture.shape != reference.picture.shape:
        raise ValueError(f"a picture of {picture.shape[::-1]} px is not as large as its reference")
    whole = np.full(picture.shape, _WHOLE, np.uint8) if covered is None else covered.astype(np.uint8)
    nothing = Registered(np.zeros(0, np.intp), np.zeros((0, 2)))
    if len(reference.points) < FEWEST_POINTS:
        return nothing
    small = _evened(_half(picture), _half(whole), _EVENED_PX // 2)
    turn, agree = _roughly(reference, small, np.zeros(2))
    if agree < _MOST_AGREE * min(len(reference.points), _ENOUGH_POINTS):
        shifted = _roughly(reference, small, _shift_of_all(reference.small, small))
        turn, agree = max((turn, agree), shifted, key=lambda way: way[1])
    if turn is None or agree < FEWEST_POINTS:
        return nothing
    # The picture is laid back onto the reference, so that only little is left to be followed.
    size = picture.shape[::-1]
    back = cv2.WARP_INVERSE_MAP
    laid = cv2.warpAffine(picture, turn, size, flags=cv2.INTER_CUBIC | back, borderMode=cv2.BORDER_REPLICATE)
    there = np.asarray(cv2.warpAffine(whole, turn, size, flags=cv2.INTER_NEAREST | back), np.uint8)
    near = _evened(np.asarray(laid, np.uint8), there)
    gone, good = _come_back(reference.picture, near, reference.points, _NEAR_LEVELS)
    spots = np.clip(np.rint(gone).astype(int), 0, np.array(size) - 1)
    good &= there[spots[:, 1], spots[:, 0]] > 0
    good[good] = _alike(reference.picture, near, reference.points[good], gone[good])
    here = gone[good] @ turn[:, :2].T + turn[:, 2]
    return Registered(np.flatnonzero(good), here)
