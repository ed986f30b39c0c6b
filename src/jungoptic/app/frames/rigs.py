"""A sheet's rigs as they are read: where they stand, where they should, and how the crank is turned."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.answers import Json
from jungoptic.app.frames.models import Rig
from jungoptic.core.frames import (
    STROBES_PX,
    Leg,
    counted,
    leg_of,
    mm_per_turn,
    planned_mm,
    px_of_mm,
    rig_positions,
    turnings,
)
from jungoptic.core.match import Match

_PLAIN = ("name", "lead_mm", "gears", "marks", "take_up", "legs", "stands", "version")


def rig_answer(rig: Rig, frames: Sequence[int], upcoming: int, match: Match | None) -> Json:
    """A rig over the wire: ``frames`` are the poses' first, ``upcoming`` the place of the one that is taken
    next.
    """
    turn_mm = mm_per_turn(rig.lead_mm, [(pair[0], pair[1]) for pair in rig.gears])
    wanted = planned_mm([Leg.model_validate(leg) for leg in rig.legs], frames)
    positions = rig_positions(wanted, turn_mm, rig.marks)
    off = max(
        (abs(at * turn_mm / rig.marks - mm) for at, mm in zip(positions, wanted, strict=True)), default=0.0
    )
    fastest = max((abs(each.by) for each in turnings(positions, 0)), default=0) * turn_mm / rig.marks
    px = px_of_mm(match) if match else None
    return {
        "id": rig.pk,
        **{name: getattr(rig, name) for name in _PLAIN},
        "stands_text": counted(rig.stands, rig.marks),
        "mm_per_turn": turn_mm,
        "positions": positions,
        "off_px": None if px is None else off * px,
        "fastest_px": None if px is None else fastest * px,
        "strobes": px is not None and fastest * px > STROBES_PX,
        "next": _next(rig, positions, upcoming),
    }


def _next(rig: Rig, positions: Sequence[int], upcoming: int) -> Json | None:
    if not positions or positions[upcoming] == rig.stands:
        return None
    [turning] = turnings((rig.stands, positions[upcoming]), rig.take_up)
    text = counted(turning.by, rig.marks)
    if turning.beyond:
        beyond = counted(-(abs(turning.by) + turning.beyond), rig.marks)
        text = f"{beyond}, then {counted(turning.beyond, rig.marks)} forwards"
    return {
        "place": upcoming,
        "to": turning.to,
        "by": turning.by,
        "beyond": turning.beyond,
        "text": text,
        "stands_text": counted(turning.to, rig.marks),
    }


def plate_leg(match: Match | None) -> Leg | None:
    """The live plate's move as a rig of this set repeats it; None where the plate stands, turns or zooms."""
    if match is None or not match.delivery.move.shows_depth or match.delivery.move.kind == "arc":
        return None
    return leg_of(match.delivery.move, match.layer.scale)
