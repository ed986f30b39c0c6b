"""An exposure sheet's time: for how many frames of the shot each pose is held."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from itertools import accumulate

PHOTOGRAPHED = 8
"""Of weights of :func:`regrouped`: from here on a pose is not left out."""


def holds_on(length_frames: int, on: int) -> tuple[int, ...]:
    """A shot on ones, twos, threes.

    Parameters
    ----------
    length_frames : int
        Of the shot.
    on : int
        For how many frames each pose is held.

    Returns
    -------
    tuple of int
        The holds, which sum up to the length: the last is shorter where it must be.

    Raises
    ------
    ValueError
        Where either is less than 1.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> holds_on(7, 2)
    (2, 2, 2, 1)
    """
    if length_frames < 1 or on < 1:
        raise ValueError(f"a shot has a frame at least, held for one at least: {length_frames} on {on}s")
    whole, rest = divmod(length_frames, on)
    return (on,) * whole + ((rest,) if rest else ())


def first_frames(holds: Sequence[int]) -> tuple[int, ...]:
    """The frame of the shot from which each pose is shown.

    Parameters
    ----------
    holds : sequence of int
        Of the poses.

    Returns
    -------
    tuple of int
        Counted from 1, as the crew counts.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> first_frames((2, 2, 1))
    (1, 3, 5)
    """
    return tuple(accumulate((1, *holds[:-1]))) if holds else ()


def blocks_of(begins: Sequence[bool]) -> tuple[int, ...]:
    """The place of the first pose of the block that each pose belongs to.

    Parameters
    ----------
    begins : sequence of bool
        Whether a block begins with it; the first pose begins one anyway.

    Returns
    -------
    tuple of int
        Counted from 0.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> blocks_of((False, False, True, False))
    (0, 0, 2, 2)
    """
    return tuple(accumulate((place if here else 0 for place, here in enumerate(begins)), max))


def regrouped(holds: Sequence[int], weights: Sequence[int], on: int) -> tuple[tuple[int | None, int], ...]:
    """A span of a sheet on ones, twos, threes, as long as it was.

    Parameters
    ----------
    holds : sequence of int
        Of its poses.
    weights : sequence of int
        How much each counts: of those that would be shown at once, the one that counts most is left, of
        equals the first. From ``PHOTOGRAPHED`` on it may not be left out.
    on : int
        For how many frames each is held from now on.

    Returns
    -------
    tuple of tuple of (int or None, int)
        The place in the span of the pose that is held, None for a new one, and its hold.

    Raises
    ------
    ValueError
        Where two that are photographed would be shown at once, or the span or hold is less than a frame.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> regrouped((2, 2), (0, 0), 1)
    ((0, 1), (None, 1), (1, 1), (None, 1))
    >>> regrouped((1, 1, 1), (0, 1, 0), 2)
    ((1, 2), (2, 1))
    """
    lines: list[tuple[int | None, int]] = []
    begins = first_frames(holds)
    frame = 1
    for hold in holds_on(sum(holds), on):
        there = [place for place, begin in enumerate(begins) if frame <= begin < frame + hold]
        if sum(weights[place] >= PHOTOGRAPHED for place in there) > 1:
            raise ValueError("two photographed poses would be shown at once: hold them, or leave one out")
        lines.append((max(there, key=lambda place: weights[place], default=None), hold))
        frame += hold
    return tuple(lines)


def next_pose(there: Sequence[int], passes: int) -> int:
    """The pose that is photographed next: behind the last that was, once all its passes are.

    Parameters
    ----------
    there : sequence of int
        How many passes of each pose are photographed.
    passes : int
        Of each pose, one at least.

    Returns
    -------
    int
        Its place; the last one's where all are there, -1 of a sheet without poses.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> next_pose((2, 1, 0), 2), next_pose((2, 2, 0), 2), next_pose((1, 0, 1), 1)
    (1, 2, 2)
    """
    last = max((place for place, count in enumerate(there) if count), default=-1)
    if last >= 0 and there[last] < passes:
        return last
    return min(last + 1, len(there) - 1)


def pose_at(holds: Sequence[int], frame: int) -> int | None:
    """The pose that is shown at a frame of the shot.

    Parameters
    ----------
    holds : sequence of int
        Of the poses.
    frame : int
        Counted from 1.

    Returns
    -------
    int or None
        Its place, counted from 0; None before the first frame and after the last.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> pose_at((2, 2, 1), 4), pose_at((2, 2, 1), 6)
    (1, None)
    """
    if not 1 <= frame <= sum(holds):
        return None
    return bisect_right(first_frames(holds), frame) - 1
