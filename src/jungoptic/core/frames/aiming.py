"""How photographs of a hyperlapse are aimed: how far each is off the guide mark, the spare that is left, and
which are worth taking again; how they are made steady, and what that costs.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..match import ITEMS, Tolerance, verdict
from ..measure import steady_path
from ..vocabulary import Verdict
from ..wording import number
from .hyperlapse import SteadyOn
from .watch import Warned, ways

Array = npt.NDArray[np.float64]
AIM_HOLDS = 0.5
"""Of the spare margin: an aim that is off by more is worth taking again while the camera stands there."""
_FEWEST = 5
_MOST_MARGIN = 0.45


@dataclass(frozen=True, slots=True)
class Aimed:
    """How well photographs were aimed, delivered px: by photograph to the right of the guide mark and below
    it (n, 2); the most of them; what is left of the spare at the sides, and at top and bottom; and which are
    worth taking again, from 1.
    """

    off_px: Array
    most_px: float
    spare_px: tuple[float, float]
    again: tuple[int, ...]


def aimed(
    points: npt.ArrayLike,
    mark: tuple[float, float],
    photo_px: tuple[float, float],
    needed_px: tuple[float, float],
) -> Aimed:
    """What photographs of a hyperlapse leave over.

    Parameters
    ----------
    points : ndarray of float, shape (n, 2)
        Where the reference point is in each, px; NaN where it was not found.
    mark : tuple of (float, float)
        Where it should be.
    photo_px, needed_px : tuple of (float, float)
        Width and height of a photograph, and of what of it is delivered.

    Returns
    -------
    Aimed
        Photographs in which it was not found are worth taking again too.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> told = aimed([(100, 50), (130, 50), (100, 48)], (100, 50), (400, 200), (320, 160))
    >>> told.most_px, told.spare_px, told.again
    (30.0, (10.0, 18.0), (2,))
    """
    off = np.asarray(points, np.float64).reshape(-1, 2) - np.asarray(mark, np.float64)
    rooms = _rooms(photo_px, needed_px)
    room = (np.asarray(photo_px, np.float64) - np.asarray(needed_px, np.float64)) / 2.0
    size = np.abs(off)
    known = np.isfinite(off).all(axis=1)
    most = size[known].max(axis=0) if known.any() else np.zeros(2)
    again = [
        not np.isfinite(row).all() or _judged((float(row[0]), float(row[1])), rooms) != "holds" for row in off
    ]
    return Aimed(
        off,
        float(np.hypot(*off[known].T).max()) if known.any() else 0.0,
        (float(room[0] - most[0]), float(room[1] - most[1])),
        tuple(int(number) + 1 for number in np.flatnonzero(again)),
    )


def aim_told(
    name: str,
    off_px: tuple[float, float] | None,
    photo_px: tuple[float, float],
    needed_px: tuple[float, float],
) -> tuple[Warned, ...]:
    """What is to be said of a photograph's aim, while the camera still stands there.

    Parameters
    ----------
    name : str
        Of the reference point.
    off_px : tuple of (float, float) or None
        How far it is to the right of the guide mark and below it, delivered px; None where it was not found.
    photo_px, needed_px : tuple of (float, float)
        Width and height of the photograph, and of what of it is delivered, delivered px.

    Returns
    -------
    tuple of Warned
        Nothing where it takes less than half of the spare.

    References
    ----------
    hyperlapse, tol_aim

    Examples
    --------
    >>> [each.text for each in aim_told("chimney", (60.0, 0.0), (2133.0, 1200.0), (1920.0, 1080.0))]
    ['Chimney is 60 px off its mark, 60 right: 46 px of the margin are left. Take it again.']
    """
    if off_px is None:
        text = f"{_capital(name)} is not found: mark it in the photograph, or take it again."
        return (Warned("aim", "first", math.nan, "px", "tight", text),)
    rooms = _rooms(photo_px, needed_px)
    word, left = _judged(off_px, rooms), min(rooms[side] - abs(off_px[side]) for side in (0, 1))
    if word == "holds":
        return ()
    far, where = math.hypot(*off_px), ", ".join(ways(*off_px, _SAID_PX))
    rest = f"{number(left, 2)} px of the margin are left" if left > 0 else "that is beyond the margin"
    text = f"{_capital(name)} is {number(far, 2)} px off its mark, {where}: {rest}. Take it again."
    return (Warned("aim", "first", far, "px", word, text),)


_SAID_PX = 0.5


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _rooms(photo_px: tuple[float, float], needed_px: tuple[float, float]) -> tuple[float, float]:
    width, height = ((photo - needed) / 2.0 for photo, needed in zip(photo_px, needed_px, strict=True))
    return max(width, 0.0), max(height, 0.0)


def _judged(off_px: tuple[float, float], rooms: tuple[float, float]) -> Verdict:
    words = [
        verdict(abs(off), Tolerance(AIM_HOLDS * room, room)) for off, room in zip(off_px, rooms, strict=True)
    ]
    return max(words, key=_WORDS.index)


_WORDS: tuple[Verdict, ...] = ("holds", "tight", "shows")


@dataclass(frozen=True, slots=True)
class Steadied:
    """A hyperlapse made steady: by how much each photograph is laid to the right and down (n, 2), delivered
    px; what that takes off every side, what of the width is left, and what of it is delivered, shares of it;
    by how much what was recorded is enlarged then, 1 is not at all; and what is said of that.
    """

    shift_px: Array
    margin: float
    crop: float
    kept: float
    enlarged: float
    verdict: Verdict


def steadied(
    points: npt.ArrayLike,
    mark: tuple[float, float],
    on: SteadyOn,
    photo_px: tuple[float, float],
    needed_px: tuple[float, float],
    recorded_px: float,
) -> Steadied:
    """What makes a hyperlapse steady, and what that costs.

    Parameters
    ----------
    points : ndarray of float, shape (n, 2)
        Where the reference point is in each photograph, delivered px; NaN where it was not found: it is
        taken to lie between where it is before and after.
    mark : tuple of (float, float)
        Where it was to be.
    on : {"mark", "path"}
        What it stands on then: the mark, which makes it stand still; or its own path, smoothed over 8
        photographs to each side, which costs less.
    photo_px, needed_px : tuple of (float, float)
        Width and height of the photographs, and of what of them is delivered, delivered px.
    recorded_px : float
        Width of the photographs, px.

    Returns
    -------
    Steadied
        Judged as a final framing.

    Raises
    ------
    ValueError
        Where the point is found in fewer than 5.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> points = [(100, 50), (130, 50), (100, 48), (100, 50), (100, 50)]
    >>> told = steadied(points, (100, 50), "mark", (400, 200), (320, 160), 800)
    >>> told.shift_px[1].tolist(), told.crop, told.enlarged
    ([-30.0, 0.0], 0.85, 1.0)
    """
    places = _filled(np.asarray(points, np.float64).reshape(-1, 2))
    goal = (
        np.broadcast_to(np.asarray(mark, np.float64), places.shape) if on == "mark" else steady_path(places)
    )
    shift = goal - places
    width, height = photo_px
    margin = min(float((np.abs(shift) / (width, height)).max()), _MOST_MARGIN)
    crop = 1.0 - 2.0 * margin
    # where less is left than is needed, all of what is delivered is made of that
    taken = min(needed_px[0], width * crop, height * crop * needed_px[0] / needed_px[1])
    enlarged = max(1.0, needed_px[0] / (taken * recorded_px / width))
    word = verdict(100.0 * (enlarged - 1.0), ITEMS["final_framing"].tolerance)
    return Steadied(shift + 0.0, margin, crop, taken / width, enlarged, word)


def _filled(places: Array) -> Array:
    known = np.isfinite(places).all(axis=1)
    if known.sum() < _FEWEST:
        raise ValueError(f"the point is found in {known.sum()} photographs: {_FEWEST} at least")
    number = np.arange(len(places))
    return np.stack([np.interp(number, number[known], axis[known]) for axis in places.T], axis=1)


def transforms_csv(points: Sequence[Sequence[float]], steady: Sequence[Sequence[float]]) -> str:
    """What lays each photograph where the steady path has it, as a table.

    Parameters
    ----------
    points, steady : sequence of sequence of float
        Where the reference point is in each photograph, and where it should be; (n, 2), px.

    Returns
    -------
    str
        CSV of RFC 4180: photograph from 1, right_px, down_px.

    References
    ----------
    csv_rfc

    Examples
    --------
    >>> print(transforms_csv([(10, 10), (12, 9)], [(10, 10), (11, 10)]).replace(chr(13), ""))
    photograph,right_px,down_px
    1,0.000,0.000
    2,-1.000,1.000
    <BLANKLINE>
    """
    rows = ["photograph,right_px,down_px"]
    for photograph, (here, there) in enumerate(zip(points, steady, strict=True), 1):
        rows.append(f"{photograph},{there[0] - here[0] + 0.0:.3f},{there[1] - here[1] + 0.0:.3f}")
    return "\r\n".join([*rows, ""])
