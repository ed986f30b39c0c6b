"""A sheet's rigs as they are read: where they stand, where they should, and how the crank is turned."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.answers import Json
from jungoptic.app.frames.models import Rig
from jungoptic.core.frames import (
    STROBES_PX,
    Leg,
    RigMove,
    counted,
    leg_of,
    mm_per_turn,
    px_of_mm,
    rig_move,
    turnings,
)
from jungoptic.core.match import Match

_PLAIN = ("name", "lead_mm", "gears", "marks", "take_up", "legs", "stands", "version")


def turn_mm_of(rig: Rig) -> float:
    """How far a rig goes by one turn, mm."""
    return mm_per_turn(rig.lead_mm, [(pair[0], pair[1]) for pair in rig.gears])


def move_of(rig: Rig, frames: Sequence[int]) -> RigMove:
    """A rig over poses, whose first ``frames`` are given."""
    return rig_move([Leg.model_validate(leg) for leg in rig.legs], frames, turn_mm_of(rig), rig.marks)


def rig_answer(rig: Rig, frames: Sequence[int], upcoming: int, match: Match | None) -> Json:
    """A rig over the wire: ``frames`` are the poses' first, ``upcoming`` the place of the one that is taken
    next.
    """
    move = move_of(rig, frames)
    px = px_of_mm(match) if match else None
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


def plate_leg(match: Match | None) -> Leg | None:
    """The live plate's move as a rig of this set repeats it, where it does."""
    return None if match is None else leg_of(match.delivery.move, match.layer.scale)
