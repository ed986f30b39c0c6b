"""What cheats come to where the audience sees it: one by one, and together against the plate, in the shot and
across the cut.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from ..match import CutSide, Layer, Match, SetUp, Tolerance, across_cut, cut_side, resolved, verdict
from ..match.lighting import light_amounts
from ..vocabulary import Verdict
from ..wording import Words, number
from .against import LIMITS
from .cheats import (
    SAID_DEG,
    SAID_MIRED,
    SAID_STOPS,
    Cheat,
    LightMoved,
    as_cheated,
    aslant_stops,
    lamp_held,
    light_moved,
)
from .figure import picture_goes
from .going import Carries

CUT_ITEMS = frozenset({"direction", "colour"})
"""What of a comparison across the cut a cheat can change."""
_PERCENT = 100.0
_SAID_PX, _SAID_SIZE = 0.05, 0.0005


@dataclass(frozen=True, slots=True)
class CheatLine:
    """What is said of all cheats together: against the plate, in the shot, or across the cut before or after
    it; from which frame of the shot on; its verdict.
    """

    where: Literal["plate", "shot", "before", "after"]
    frame: int
    text: str
    verdict: Verdict


def cheat_text(match: Match, cheat: Cheat) -> str:
    """What one cheat comes to by itself.

    Parameters
    ----------
    match : Match
        The layer, measured, its set-up with its lamps.
    cheat : Cheat
        What was moved.

    Returns
    -------
    str
        Its light and its place in the picture, and how they are held; empty where it changes neither.

    References
    ----------
    inverse_square, pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> cheat_text(Match(HERO, MILL, MODEL, DELIVERY), Cheat(kind="figure", name="mill", right_mm=2))
    'In the picture 5.9 px to the right: laid back by that.'
    """
    planned = match.setup
    if planned is None:
        return ""
    return " ".join(
        [
            *_unclear(cheat, planned),
            *_in_picture(match, cheat),
            *_in_light(match.layer, planned, cheat),
        ]
    )


def _unclear(cheat: Cheat, planned: SetUp) -> Iterator[str]:
    if cheat.kind != "lamp":
        return
    count = sum(lamp.name == cheat.name for lamp in planned.lamps)
    if not count:
        yield "No lamp of this name stands in the set-up: place it on the Bench, then its light is checked."
    elif count > 1:
        yield f"{count} lamps have this name, and all of them count as moved: name them apart on the Bench."


def _in_picture(match: Match, cheat: Cheat) -> Iterator[str]:
    if cheat.kind != "figure" or cheat.away:
        return
    ways: dict[Carries, float] = {
        "camera_right": -cheat.right_mm,
        "camera_up": -cheat.up_mm,
        "camera_forward": -cheat.back_mm,
    }
    try:
        goes = picture_goes(match, ways)
    except ValueError:
        yield "It would stand behind the lens."
        return
    ways_px = [
        f"{_rounded(abs(px))} px {more if px > 0 else less}"
        for px, more, less in ((goes.right_px, "to the right", "to the left"), (goes.down_px, "down", "up"))
        if abs(px) > _SAID_PX
    ]
    if abs(goes.size - 1.0) > _SAID_SIZE:
        percent = number(_PERCENT * abs(goes.size - 1.0), 2)
        ways_px.append(f"{percent} % {'larger' if goes.size > 1.0 else 'smaller'}")
    if ways_px:
        yield f"In the picture {', '.join(ways_px)}: laid back by that."


def _in_light(layer: Layer, planned: SetUp, cheat: Cheat) -> Iterator[str]:
    moved = light_moved(layer, planned, as_cheated(layer, planned, [cheat]))
    if not moved.is_seen:
        return
    yield f"On the figure: {_light_text(moved)}."
    held = lamp_held(layer, planned, cheat)
    if held is None or abs(moved.stops) <= LIMITS["light"].holds:
        return
    if held.level > 1.0:
        yield f"To hold its light it would have to give {number(held.level, 2)} times what it can."
    else:
        yield f"Dimmed to {number(_PERCENT * held.level, 2)} % it holds its light."


def _light_text(moved: LightMoved) -> str:
    if moved.turned_deg is None:
        return "a key comes" if moved.stops > 0 else "no key is left"
    parts = []
    if moved.turned_deg > SAID_DEG:
        parts.append(f"key turned by {number(moved.turned_deg, 2)}°")
    if abs(moved.stops) > SAID_STOPS:
        parts.append(f"{number(abs(moved.stops), 2)} stop {'lighter' if moved.stops > 0 else 'darker'}")
    if abs(moved.mired) > SAID_MIRED:
        parts.append(f"{number(abs(moved.mired), 2)} mired {'warmer' if moved.mired > 0 else 'colder'}")
    return ", ".join(parts)


def light_side(match: Match, cheats: Sequence[Cheat], frame: int) -> CutSide | None:
    """The light of what is animated as it is compared across a cut, at a frame of the shot.

    Parameters
    ----------
    match : Match
        The layer, measured, its set-up with its lamps.
    cheats : sequence of Cheat
        Of its sheet.
    frame : int
        The first of the shot, or the last.

    Returns
    -------
    CutSide or None
        Its key over the ground, as the hero's camera stands in the world; None without a set-up.

    References
    ----------
    across_cut

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> light_side(Match(HERO, MILL, MODEL, DELIVERY), [], 1).heading_deg == HERO.heading_deg
    True
    """
    if match.setup is None:
        return None
    standing = [cheat for cheat in cheats if cheat.stands_at(frame)]
    lit = resolved(as_cheated(match.layer, match.setup, standing), match.layer)
    azimuth = lit.key_azimuth_deg
    if azimuth is not None and match.layer.mirrored:
        azimuth = -azimuth
    return cut_side(
        match.hero.model_copy(
            update={
                "key_azimuth_deg": azimuth,
                "key_elevation_deg": lit.key_elevation_deg,
                "light_k": lit.light_k,
                "white_balance_k": lit.white_balance_k,
            }
        )
    )


def cheats_told(
    match: Match,
    cheats: Sequence[Cheat],
    length_frames: int,
    direction: Tolerance,
    before: Sequence[tuple[str, CutSide]] = (),
    after: Sequence[tuple[str, CutSide]] = (),
) -> list[CheatLine]:
    """What the cheats of a sheet come to, where the audience would see it.

    Parameters
    ----------
    match : Match
        The layer, measured, its set-up with its lamps.
    cheats : sequence of Cheat
        All of the sheet.
    length_frames : int
        Of the shot.
    direction : Tolerance
        How far its key may stand from the plate's, degrees.
    before, after : sequence of (str, CutSide), optional
        What it is cut to, by name.

    Returns
    -------
    list of CheatLine
        Against the plate for as long as something stands, at each frame at which the light jumps, and across
        both cuts. Nothing where the light is as planned.

    References
    ----------
    across_cut, tol_cut, tol_frames, lambert, aslant

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> from jungoptic.core.light import PlacedLamp
    >>> spot = PlacedLamp(name="spot", intensity_cd=18000, height_m=0.2, behind_m=-1.0, aim_behind_m=0.05)
    >>> match = Match(HERO, MILL, MODEL.but(lamps=(spot,)), DELIVERY)
    >>> moved = Cheat(kind="lamp", name="spot", right_mm=30, first_frame=49)
    >>> [(line.where, line.frame, line.verdict) for line in cheats_told(match, [moved], 96, Tolerance(7, 20))]
    [('plate', 49, 'shows'), ('shot', 49, 'shows')]
    """
    planned = match.setup
    if planned is None:
        return []
    begins = _changes(cheats, length_frames)
    lit = [
        as_cheated(match.layer, planned, [cheat for cheat in cheats if cheat.stands_at(frame)])
        for frame in begins
    ]
    lines = [
        *_against_plate(match, planned, begins, lit, length_frames, direction),
        *_in_shot(match.layer, begins, lit),
    ]
    if light_moved(match.layer, planned, lit[0]).is_seen:
        lines += _across(match, cheats, 1, before, "before")
    if light_moved(match.layer, planned, lit[-1]).is_seen:
        lines += _across(match, cheats, length_frames, after, "after")
    return lines


def _changes(cheats: Sequence[Cheat], length_frames: int) -> list[int]:
    """The frames of the shot from which on other cheats stand than before, its first among them."""
    ends = (cheat.last_frame + 1 for cheat in cheats if cheat.last_frame is not None)
    frames = {1, *(cheat.first_frame for cheat in cheats), *ends}
    return sorted(frame for frame in frames if frame <= length_frames)


def _against_plate(
    match: Match,
    planned: SetUp,
    begins: Sequence[int],
    lit: Sequence[SetUp],
    length_frames: int,
    limit: Tolerance,
) -> Iterator[CheatLine]:
    as_planned = _off_hero(match, planned)
    for (frame, until), setup in zip(pairwise((*begins, length_frames + 1)), lit, strict=True):
        off = _off_hero(match, setup)
        frames = f"Frames {frame}–{until - 1}"
        if as_planned is None or (off is not None and abs(off - as_planned) <= SAID_DEG):
            continue
        if off is None:
            yield CheatLine("plate", frame, f"{frames}: the plate has a key, and here is none.", "shows")
            continue
        was = number(as_planned, 2)
        text = f"{frames}: the key stands {number(off, 2)}° from the plate's, {was}° as planned."
        yield CheatLine("plate", frame, text, verdict(off, limit))


def _off_hero(match: Match, setup: SetUp) -> float | None:
    return light_amounts(match.hero, match.layer, resolved(setup, match.layer)).get("direction")


def _in_shot(layer: Layer, begins: Sequence[int], lit: Sequence[SetUp]) -> Iterator[CheatLine]:
    for frame, (last, setup) in zip(begins[1:], pairwise(lit), strict=True):
        moved = light_moved(layer, last, setup)
        if not moved.is_seen:
            continue
        jump = abs(moved.stops) + aslant_stops(moved.turned_deg or 0.0)
        word = verdict(jump, LIMITS["light"])
        if moved.turned_deg is None:
            word = "shows"
        text = f"At frame {frame} the light jumps: {_light_text(moved)}."
        if word != "holds":
            text += f" Up to {number(jump, 2)} stop where it falls aslant: move it at a cut, or hide it."
        yield CheatLine("shot", frame, text, word)


def _across(
    match: Match,
    cheats: Sequence[Cheat],
    frame: int,
    others: Sequence[tuple[str, CutSide]],
    where: Literal["before", "after"],
) -> Iterator[CheatLine]:
    here = light_side(match, cheats, frame)
    assert here is not None
    for name, there in others:
        for judged in across_cut(here, there, name, ("", ""), Words()):
            if judged.item in CUT_ITEMS:
                yield CheatLine(where, frame, f"Cut {_WAYS[where]} {name}: {judged.sentence}", judged.verdict)


_WAYS = {"before": "from", "after": "to"}


def _rounded(px: float) -> str:
    return number(round(px, 1), 3)
