"""A sheet's rigs as they are read: where they stand, where they should, and how the crank is turned."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence

from pydantic import TypeAdapter

from jungoptic.app.base.answers import Json
from jungoptic.app.frames.models import Rig
from jungoptic.app.frames.turning import last_turn
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.core.frames import (
    STROBES_PX,
    Carries,
    Leg,
    RigMove,
    carried_by,
    counted,
    leg_of,
    mm_per_turn,
    px_of_mm,
    rig_move,
    turnings,
)
from jungoptic.core.match import Match, Off

_PLAIN = ("name", "carries", "lead_mm", "gears", "marks", "take_up", "legs", "stands", "driven", "version")
_MM = 1000.0
CARRIES: TypeAdapter[Carries] = TypeAdapter(Carries)


def turn_mm_of(rig: Rig) -> float:
    """How far a rig goes by one turn, mm."""
    return mm_per_turn(rig.lead_mm, [(pair[0], pair[1]) for pair in rig.gears])


def move_of(rig: Rig, frames: Sequence[int]) -> RigMove:
    """A rig over poses, whose first ``frames`` are given."""
    return rig_move([Leg.model_validate(leg) for leg in rig.legs], frames, turn_mm_of(rig), rig.marks)


def camera_went_mm(
    rigs: Iterable[Rig], frames: Sequence[int], since: int, until: int
) -> dict[Carries, float]:
    """How far a sheet's rigs should take its camera from one pose to another (their places), mm of the set,
    each way.
    """
    went: defaultdict[Carries, float] = defaultdict(float)
    for rig in rigs:
        positions = move_of(rig, frames).positions
        went[carries(rig)] += (positions[until] - positions[since]) * turn_mm_of(rig) / rig.marks
    return went


def camera_stands(rigs: Iterable[Rig]) -> Off:
    """Where the camera stands by what its rigs were turned."""
    stands: defaultdict[Carries, float] = defaultdict(float)
    for rig in rigs:
        stands[carries(rig)] += rig.stands * turn_mm_of(rig) / rig.marks / _MM
    return Off(aside=stands["camera_right"], up=stands["camera_up"], forward=stands["camera_forward"])


def carries(rig: Rig) -> Carries:
    """What a rig carries. Raises ValueError for what core does not know."""
    return CARRIES.validate_python(rig.carries)


def rig_answer(rig: Rig, frames: Sequence[int], upcoming: int, match: Match | None) -> Json:
    """A rig over the wire: ``frames`` are the poses' first, ``upcoming`` the place of the one that is taken
    next.
    """
    move = move_of(rig, frames)
    px = px_of_mm(match) if match else None
    turn = last_turn(rig) if rig.driven else None
    longest = None if px is None else px * move.longest_mm
    return {
        "id": rig.pk,
        **{name: getattr(rig, name) for name in _PLAIN},
        "stands_text": counted(rig.stands, rig.marks),
        "mm_per_turn": turn_mm_of(rig),
        "positions": move.positions,
        "off_px": None if px is None else px * move.off_mm,
        "fastest_px": longest,
        "strobes": longest is not None and longest > STROBES_PX,
        "next": _next(rig, move.positions, upcoming),
        "turn": JobOut.of(turn) if turn else None,
    }


def _next(rig: Rig, positions: Sequence[int], upcoming: int) -> Json | None:
    if not positions or positions[upcoming] == rig.stands:
        return None
    [turning] = turnings((rig.stands, positions[upcoming]), rig.take_up)
    return {
        "place": upcoming,
        "to": turning.to,
        "by": turning.by,
        "beyond": turning.beyond,
        "text": turning.text(rig.marks),
        "stands_text": counted(turning.to, rig.marks),
    }


def plate_answer(match: Match | None) -> Json:
    """The live plate's move as a rig of this set repeats it, where one does, over the wire."""
    leg = match and leg_of(match.delivery.move, match.layer.scale)
    return {
        "plate_leg": leg or None,
        "plate_carries": carried_by(match.delivery.move) if match and leg else None,
    }
