"""A geared rig by whole marks of its crank: where it stands at each pose, and how it is turned there.

A crank has so many marks a turn; a position is a count of marks from where the rig stood when it was set to
nothing. Positions are rounded, not steps: whatever the ease, the marks of a move sum up to its whole exactly.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from pydantic import model_validator

from .. import quantities as q
from ..errors import refuse
from ..motion import Move
from .going import Carries
from .spacing import eased_share

_PARTS = {
    2: ("half", "halves"),
    3: ("third", "thirds"),
    4: ("quarter", "quarters"),
    5: ("fifth", "fifths"),
    8: ("eighth", "eighths"),
    10: ("tenth", "tenths"),
    12: ("twelfth", "twelfths"),
}
_MARKS = ("mark", "marks")
_MM = 1000.0
_CARRIED: dict[str, Carries] = {
    "slide": "camera_right",
    "boom": "camera_up",
    "push": "camera_forward",
}


@dataclass(frozen=True, slots=True)
class Turning:
    """How the crank goes to the next position: to which count of marks, by how many (less than 0: back), and
    how far it first goes beyond, so that it always comes to rest from the same side.
    """

    to: int
    by: int
    beyond: int

    @property
    def parts(self) -> tuple[int, ...]:
        """Marks of each stretch in which it is turned one way, one after the other."""
        return tuple(marks for marks in (self.by - self.beyond, self.beyond) if marks)

    def text(self, marks: int) -> str:
        """How it is spoken at the crank.

        Parameters
        ----------
        marks : int
            Of the crank, a turn.

        Returns
        -------
        str
            What goes back is said as it is turned: beyond, then forwards.

        References
        ----------
        backlash

        Examples
        --------
        >>> Turning(7, -5, 5).text(10), Turning(12, 12, 0).text(10)
        ('1 turn back, then 5 tenths forwards', '1 turn and 2 tenths')
        """
        if not self.beyond:
            return counted(self.by, marks)
        return f"{counted(self.by - self.beyond, marks)}, then {counted(self.beyond, marks)} forwards"


@dataclass(frozen=True, slots=True)
class RigMove:
    """A rig over the poses of a sheet: the counts of marks at which it stands at each, the most that rounding
    to marks is off, and its longest step, mm in the set.
    """

    positions: tuple[int, ...]
    off_mm: float
    longest_mm: float


def mm_per_turn(lead_mm: float, pairs: Iterable[tuple[int, int]] = ()) -> float:
    """How far a rig goes by one turn of its crank.

    Parameters
    ----------
    lead_mm : float
        Of its screw, a turn; of a rack its pitch times the pinion's teeth.
    pairs : iterable of tuple of (int, int)
        Gears between crank and screw: teeth of the one that drives, teeth of the one that is driven.

    Returns
    -------
    float
        mm.

    Raises
    ------
    ValueError
        Where a gear has no teeth, or the screw no lead.

    References
    ----------
    gear_train

    Examples
    --------
    >>> mm_per_turn(2.0, [(12, 60)])
    0.4
    """
    chain = list(pairs)
    if not lead_mm > 0 or any(min(pair) < 1 for pair in chain):
        raise ValueError("a gear has a tooth at least, and a screw goes forward")
    return lead_mm * math.prod(driver / driven for driver, driven in chain)


class Leg(q.Record):
    """One way of a rig, eased: from which frame of the shot to which, and how far in the set."""

    mm: Annotated[float, q.quantity("Goes", "mm", "In the set; less than 0 goes back.", ge=-1e5, le=1e5)]
    start_frame: Annotated[int, q.quantity("From frame", "", ge=1, le=1_000_000)] = 1
    end_frame: Annotated[int, q.quantity("To frame", "", ge=2, le=1_000_000)] = 25
    ease_in_frames: Annotated[int, q.quantity("Eases in over", "frames", ge=0, le=1_000_000)] = 0
    ease_out_frames: Annotated[int, q.quantity("Eases out over", "frames", ge=0, le=1_000_000)] = 0

    @model_validator(mode="after")
    def _fits(self) -> Leg:
        long = self.end_frame - self.start_frame
        if long < 1:
            raise refuse(
                "end_frame",
                f"It must end after frame {self.start_frame}, where it begins; {self.end_frame} was given.",
            )
        if self.ease_in_frames + self.ease_out_frames > long:
            raise refuse("ease_out_frames", f"Both eases together must fit in its {long} frames.")
        return self

    def done_mm(self, frame: int) -> float:
        """How far it has come at a frame.

        Parameters
        ----------
        frame : int
            Of the shot, from 1.

        Returns
        -------
        float
            mm.

        References
        ----------
        eased

        Examples
        --------
        >>> Leg(mm=80, start_frame=1, end_frame=9).done_mm(5)
        40.0
        """
        long = self.end_frame - self.start_frame
        done = eased_share(
            (frame - self.start_frame) / long, self.ease_in_frames / long, self.ease_out_frames / long
        )
        return self.mm * done


def leg_of(move: Move, scale: float) -> Leg | None:
    """A live plate's move, as a rig repeats it in a set that is 1:s as large.

    Parameters
    ----------
    move : Move
        Of the plate's camera.
    scale : float
        s.

    Returns
    -------
    Leg or None
        The same frames and eases, mm of the set; None where it stands, turns, zooms or goes round: a rig that
        goes does not make that.

    References
    ----------
    eased, pinhole

    Examples
    --------
    >>> leg_of(Move(kind="slide", amount=0.4, end_frame=4), 4).mm
    100.0
    """
    if move.still or move.kind not in _CARRIED:
        return None
    return Leg(
        mm=_MM * move.amount / scale,
        start_frame=move.start_frame + 1,
        end_frame=move.end_frame + 1,
        ease_in_frames=move.ease_in_frames,
        ease_out_frames=move.ease_out_frames,
    )


def carried_by(move: Move) -> Carries:
    """Which way a rig carries its camera that repeats a live plate's move.

    Parameters
    ----------
    move : Move
        Of the plate's camera; one that a rig repeats.

    Returns
    -------
    str
        The camera, to the right, up or forward.

    Raises
    ------
    KeyError
        Where no rig repeats it.

    Examples
    --------
    >>> carried_by(Move(kind="boom", amount=0.4, end_frame=4))
    'camera_up'
    """
    return _CARRIED[move.kind]


def planned_mm(legs: Sequence[Leg], frames: Sequence[int]) -> tuple[float, ...]:
    """Where a rig should stand at the frames of a shot.

    Parameters
    ----------
    legs : sequence of Leg
        One after the other, or at once: they add up.
    frames : sequence of int
        Of the shot, from 1: the first of each pose.

    Returns
    -------
    tuple of float
        mm in the set, from where it stood before all of them.

    References
    ----------
    eased

    Examples
    --------
    >>> planned_mm([Leg(mm=10, end_frame=3), Leg(mm=20, start_frame=5, end_frame=9)], (1, 3, 5, 7, 9))
    (0.0, 10.0, 10.0, 20.0, 30.0)
    """
    return tuple(math.fsum(leg.done_mm(frame) for leg in legs) for frame in frames)


def rig_positions(wanted_mm: Sequence[float], turn_mm: float, marks: int) -> tuple[int, ...]:
    """The marks at which the rig stands at each pose.

    Parameters
    ----------
    wanted_mm : sequence of float
        Where it should stand.
    turn_mm : float
        How far it goes by one turn.
    marks : int
        Of the crank, a turn.

    Returns
    -------
    tuple of int
        Counts of marks, never off by more than half of one.

    References
    ----------
    ease

    Examples
    --------
    >>> rig_positions((0.0, 0.1, 0.3, 0.4), 0.4, 10)
    (0, 3, 8, 10)
    """
    return tuple(math.floor(mm / turn_mm * marks + 0.5 + 1e-9) for mm in wanted_mm)


def rig_move(legs: Sequence[Leg], frames: Sequence[int], turn_mm: float, marks: int) -> RigMove:
    """A rig's ways over the poses of a sheet.

    Parameters
    ----------
    legs : sequence of Leg
        Its ways.
    frames : sequence of int
        Of the shot, from 1: the first of each pose.
    turn_mm : float
        How far it goes by one turn.
    marks : int
        Of the crank, a turn.

    Returns
    -------
    RigMove
        By whole marks.

    References
    ----------
    ease, eased

    Examples
    --------
    >>> move = rig_move([Leg(mm=1.0, end_frame=9)], (1, 3, 5, 7, 9), 0.4, 10)
    >>> move.positions, round(move.off_mm, 3), round(move.longest_mm, 2)
    ((0, 6, 13, 19, 25), 0.02, 0.28)
    """
    wanted = planned_mm(legs, frames)
    positions = rig_positions(wanted, turn_mm, marks)
    mark_mm = turn_mm / marks
    off = max((abs(count * mark_mm - mm) for count, mm in zip(positions, wanted, strict=True)), default=0.0)
    steps = (abs(there - here) for here, there in pairwise(positions))
    return RigMove(positions, off, mark_mm * max(steps, default=0))


def turnings(positions: Sequence[int], take_up: int) -> tuple[Turning, ...]:
    """How the crank is turned from each position to the next, slack taken up.

    Parameters
    ----------
    positions : sequence of int
        Counts of marks, the first of them where it stands.
    take_up : int
        Marks by which it goes beyond where it goes back, more than its slack.

    Returns
    -------
    tuple of Turning
        One less than the positions. The rig comes to rest forwards each time: where it goes back, it goes
        beyond and returns.

    References
    ----------
    backlash

    Examples
    --------
    >>> [(each.by, each.beyond) for each in turnings((0, 12, 7, 7), 5)]
    [(12, 0), (-5, 5), (0, 0)]
    """
    return tuple(
        Turning(there, there - here, take_up if there < here else 0) for here, there in pairwise(positions)
    )


def counted(count: int, marks: int) -> str:
    """Marks as they are spoken at the crank.

    Parameters
    ----------
    count : int
        Of marks; less than 0 is back.
    marks : int
        Of the crank, a turn.

    Returns
    -------
    str
        Whole turns, and what is left in parts of one.

    References
    ----------
    exposure_sheet

    Examples
    --------
    >>> counted(34, 10), counted(-10, 10), counted(3, 10), counted(0, 10)
    ('3 turns and 4 tenths', '1 turn back', '3 tenths', 'no turn')
    """
    turns, rest = divmod(abs(count), marks)
    parts = [f"{turns} turn{'' if turns == 1 else 's'}"] if turns else []
    if rest:
        part, several = _PARTS.get(marks, _MARKS)
        parts.append(f"{rest} {part if rest == 1 else several}")
    return (" and ".join(parts) or "no turn") + (" back" if count < 0 else "")
