"""How fast frames really come, and when a shot ends by that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]

BREAK_S = 1200.0
"""A pause of more than this is a break, not animation."""
_LATELY = 24
"""So many frames back counts what comes now."""


@dataclass(frozen=True, slots=True)
class Pace:
    """``frame_s`` is the time that a photographed frame takes, breaks left out; ``s_per_hour`` the seconds of
    film that come in an hour of work; ``lately_s_per_hour`` the same of the last two dozen; ``worked_h`` the
    hours so far without breaks, ``left_h`` those that are still to come at the pace of the whole.
    """

    frame_s: float
    s_per_hour: float
    lately_s_per_hour: float
    worked_h: float
    left_h: float


def pace_of(
    taken_s: Sequence[float], holds: Sequence[int], left: int, rate_fps: float, break_s: float = BREAK_S
) -> Pace | None:
    """The pace of what was photographed so far.

    Parameters
    ----------
    taken_s : sequence of float
        When each frame was taken, seconds from anywhere, in the order in which they were taken.
    holds : sequence of int
        For how many frames of the shot each is held; 0 for one that was shot again and is not shown.
    left : int
        Poses that are still to be photographed.
    rate_fps : float
        Of the delivered shot.
    break_s : float, default 1200
        A pause of more is a break.

    Returns
    -------
    Pace or None
        None before the third frame: nobody knows a pace by less.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> told = pace_of([0.0, 90.0, 180.0, 270.0], [2, 2, 2, 2], 36, 24.0)
    >>> told.frame_s, round(told.s_per_hour, 2), told.left_h
    (90.0, 3.33, 0.9)
    """
    if len(taken_s) < 3:
        return None
    gaps = np.diff(np.asarray(taken_s, np.float64))
    worked = (gaps >= 0) & (gaps <= break_s)
    if not worked.any() or gaps[worked].sum() <= 0:
        return None
    shown = np.asarray(holds[1:], np.float64)
    # what was shot again took its time too, and is not shown twice
    poses = max(int((shown[worked] > 0).sum()), 1)
    each_s = float(gaps[worked].sum()) / poses
    whole = _per_hour(gaps[worked], shown[worked], rate_fps)
    return Pace(
        each_s,
        whole,
        _per_hour(gaps[worked][-_LATELY:], shown[worked][-_LATELY:], rate_fps) or whole,
        float(gaps[worked].sum()) / 3600.0,
        left * each_s / 3600.0,
    )


def _per_hour(gaps: Array, shown: Array, rate_fps: float) -> float:
    """Seconds of film in an hour; 0 where none passed."""
    seconds = float(gaps.sum())
    return 3600.0 * float(shown.sum()) / rate_fps / seconds if seconds > 0 else 0.0


@dataclass(frozen=True, slots=True)
class PaceOfAll:
    """Seconds of film that come in an hour of work over several sheets, None where nobody knows yet; and the
    hours that all of them still take.
    """

    s_per_hour: float | None
    left_h: float


def pace_of_all(sheets: Sequence[tuple[Pace | None, float]], planned_s_per_hour: float) -> PaceOfAll:
    """The pace of everything that is made frame by frame.

    Parameters
    ----------
    sheets : sequence of (Pace or None, float)
        The pace of each, and how many seconds of its film are still to be made.
    planned_s_per_hour : float
        Seconds of film an hour, for what nobody knows a pace of.

    Returns
    -------
    PaceOfAll
        What has a pace goes on at its own, what has none at that of the others together.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> slow, quick = Pace(90.0, 2.0, 2.0, 3.0, 1.0), Pace(60.0, 4.0, 4.0, 1.0, 0.5)
    >>> pace_of_all([(slow, 2.0), (quick, 2.0), (None, 5.0)], 3.0)
    PaceOfAll(s_per_hour=2.5, left_h=3.5)
    >>> pace_of_all([(None, 6.0)], 3.0)
    PaceOfAll(s_per_hour=None, left_h=2.0)
    """
    known = [pace for pace, _ in sheets if pace is not None]
    worked = sum(pace.worked_h for pace in known)
    measured = sum(pace.s_per_hour * pace.worked_h for pace in known) / worked if worked else None
    of_others = measured or planned_s_per_hour
    left = sum(seconds / of_others if pace is None else pace.left_h for pace, seconds in sheets)
    return PaceOfAll(measured, left)


@dataclass(frozen=True, slots=True)
class Stretch:
    """Work without a break: when its first frame was taken, and when it is over unless another comes; seconds
    from where the frames' times are counted.
    """

    began_s: float
    over_s: float


def stretch_of(taken_s: Sequence[float], break_s: float = BREAK_S) -> Stretch | None:
    """The last stretch of work without a break.

    Parameters
    ----------
    taken_s : sequence of float
        When each frame was taken, seconds from anywhere, in any order.
    break_s : float, default 1200
        A pause of more is a break.

    Returns
    -------
    Stretch or None
        None where nothing was taken.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> stretch_of([0.0, 600.0, 3000.0, 3600.0])
    Stretch(began_s=3000.0, over_s=4800.0)
    """
    times = sorted(taken_s)
    if not times:
        return None
    after_breaks = (later for before, later in pairwise(times) if later - before > break_s)
    return Stretch(max(after_breaks, default=times[0]), times[-1] + break_s)
