"""Lamps, figures, walls and pieces that are moved so that a hand reaches, and what of it the audience sees:
the light against the plate, from one frame of the shot to the next, and across the cut.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field

from .. import quantities as q
from ..light import PlacedLamp, colour
from ..match import (
    CutSide,
    Layer,
    Match,
    SetUp,
    Tolerance,
    across_cut,
    cut_side,
    key_of,
    resolved,
    verdict,
    with_lamps,
)
from ..match.lighting import light_amounts, metered_lx, subject_point
from ..vocabulary import Verdict
from ..wording import Words, number
from .against import LIMITS
from .figure import picture_goes
from .going import Carries

Cheated = Literal["lamp", "figure", "wall", "piece"]
CUT_ITEMS = frozenset({"direction", "colour"})
"""What of a comparison across the cut a cheat can change."""
_MM, _PERCENT = 1000.0, 100.0
_ASLANT_DEG, _NEARLY_DARK_DEG = 45.0, 89.0
_SAID_DEG, _SAID_STOPS, _SAID_MIRED, _SAID_PX, _SAID_SIZE = 0.05, 0.0005, 0.05, 0.05, 0.0005
_FAR = {"ge": -20_000, "le": 20_000}


class Cheat(q.Record):
    """Something that stands elsewhere than it is planned, or is ``away`` altogether, from one frame of the
    shot to another (None: to its end); a lamp may be dimmed otherwise meanwhile.
    """

    what: Cheated
    name: Annotated[str, Field(min_length=1, max_length=60)]
    first_frame: Annotated[int, Field(ge=1, le=100_000)] = 1
    last_frame: Annotated[int | None, Field(ge=1, le=100_000)] = None
    right_mm: Annotated[float, q.quantity("To camera right", "mm", **_FAR)] = 0.0
    up_mm: Annotated[float, q.quantity("Up", "mm", **_FAR)] = 0.0
    back_mm: Annotated[float, q.quantity("Back, away from the lens", "mm", **_FAR)] = 0.0
    away: q.YesNo = False
    level: Annotated[float | None, q.quantity("Dimmed to", "", "1 = full.", ge=0, le=1)] = None

    @property
    def moved_m(self) -> tuple[float, float, float]:
        """To the right, up and back, metres of the set."""
        return self.right_mm / _MM, self.up_mm / _MM, self.back_mm / _MM

    def stands_at(self, frame: int) -> bool:
        """Whether it stands so at a frame of the shot."""
        return self.first_frame <= frame and (self.last_frame is None or frame <= self.last_frame)


@dataclass(frozen=True, slots=True)
class LightMoved:
    """How the light on a figure is another: by how far its key turned, degrees (None where there is no key,
    before or after), and how much lighter, stops, and redder, mired, it is.
    """

    turned_deg: float | None
    stops: float
    mired: float

    @property
    def is_seen(self) -> bool:
        """Whether there is anything to be said of it."""
        return (
            self.turned_deg is None
            or self.turned_deg > _SAID_DEG
            or abs(self.stops) > _SAID_STOPS
            or abs(self.mired) > _SAID_MIRED
        )


@dataclass(frozen=True, slots=True)
class LampHeld:
    """What keeps the light on the figure as it was: the level of the lamp where it stands now (over 1 it has
    not enough), and where it would stand as far off on its own ray, mm to the right, up and back of where it
    is planned.
    """

    level: float
    right_mm: float
    up_mm: float
    back_mm: float


@dataclass(frozen=True, slots=True)
class CheatLine:
    """What is said of all cheats together: against the plate, in the shot, or across the cut before or after
    it; from which frame of the shot on; its verdict.
    """

    where: Literal["plate", "shot", "before", "after"]
    frame: int
    text: str
    verdict: Verdict


def as_cheated(layer: Layer, planned: SetUp, cheats: Sequence[Cheat]) -> SetUp:
    """A set-up lit as it is with its cheats.

    Where the figure moved, its light is what it would be had all the lamps moved the other way.

    Parameters
    ----------
    layer : Layer
        What is animated.
    planned : SetUp
        As planned, with its lamps.
    cheats : sequence of Cheat
        Those that stand.

    Returns
    -------
    SetUp
        With its lamps where they are, seen from the figure, and its light and colour changed with them.

    References
    ----------
    inverse_square, mired

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> set_up = MODEL.but(lamps=(PlacedLamp(name="spot", intensity_cd=18000),))
    >>> cheated = as_cheated(MILL, set_up, [Cheat(what="lamp", name="spot", right_mm=250)])
    >>> [lamp.across_m for lamp in cheated.lamps]
    [0.25]
    """
    figure = [sum(ways) for ways in zip((0.0, 0.0, 0.0), *_moves(cheats, "figure"), strict=True)]
    by_name = {cheat.name: cheat for cheat in cheats if cheat.what == "lamp"}
    lamps = tuple(
        _seen_from(_lamp_as(lamp, by_name.get(lamp.name)), figure)
        for lamp in planned.lamps
        if lamp.name not in by_name or not by_name[lamp.name].away
    )
    return with_lamps(layer, planned, lamps)


def _moves(cheats: Sequence[Cheat], what: Cheated) -> list[tuple[float, float, float]]:
    return [cheat.moved_m for cheat in cheats if cheat.what == what]


def _lamp_as(lamp: PlacedLamp, cheat: Cheat | None) -> PlacedLamp:
    """A lamp where it was moved to; it is turned back to what it was aimed at."""
    if cheat is None:
        return lamp
    right, up, back = cheat.moved_m
    return lamp.but(
        across_m=lamp.across_m + right,
        height_m=lamp.height_m + up,
        behind_m=lamp.behind_m + back,
        level=lamp.level if cheat.level is None else cheat.level,
    )


def _seen_from(lamp: PlacedLamp, figure: Sequence[float]) -> PlacedLamp:
    right, up, back = figure
    return lamp.but(
        across_m=lamp.across_m - right,
        height_m=lamp.height_m - up,
        behind_m=lamp.behind_m - back,
        aim_across_m=lamp.aim_across_m - right,
        aim_height_m=lamp.aim_height_m - up,
        aim_behind_m=lamp.aim_behind_m - back,
    )


def light_moved(layer: Layer, before: SetUp, after: SetUp) -> LightMoved:
    """How the light on a figure is another.

    Parameters
    ----------
    layer : Layer
        What is lit.
    before, after : SetUp
        With their lamps.

    Returns
    -------
    LightMoved
        Degrees, stops and mired.

    References
    ----------
    inverse_square, mired

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> set_up = MODEL.but(lamps=(PlacedLamp(name="spot", intensity_cd=18000),))
    >>> dimmed = as_cheated(MILL, set_up, [Cheat(what="lamp", name="spot", level=0.5)])
    >>> off = light_moved(MILL, set_up, dimmed)
    >>> off.turned_deg, round(off.stops, 6)
    (0.0, -1.0)
    """
    keys = [key_of(setup, layer) for setup in (before, after)]
    angles = [angle for key in keys for angle in (key.azimuth_deg, key.elevation_deg)]
    known = all(angle is not None for angle in angles)
    return LightMoved(
        colour.angle_between_deg(*angles) if known else None,  # type: ignore[arg-type]
        math.log2(after.illuminance_lx / before.illuminance_lx),
        colour.mired(after.light_k) - colour.mired(before.light_k),
    )


def aslant_stops(turned_deg: float) -> float:
    """What a turn of the key is worth where it shows most of what is still well lit.

    Parameters
    ----------
    turned_deg : float
        By how far the key turned, degrees.

    Returns
    -------
    float
        Stops, ``log₂(cos 45° / cos(45° + turn))``: of a surface that the key met at 45° and turns away from.

    References
    ----------
    lambert

    Examples
    --------
    >>> round(aslant_stops(1.0), 4), round(aslant_stops(0.3), 4)
    (0.0256, 0.0076)
    """
    from_it = min(_ASLANT_DEG + abs(turned_deg), _NEARLY_DARK_DEG)
    return math.log2(math.cos(math.radians(_ASLANT_DEG)) / math.cos(math.radians(from_it)))


def lamp_held(layer: Layer, planned: SetUp, cheat: Cheat) -> LampHeld | None:
    """What keeps the light of a lamp that was moved as it was.

    Parameters
    ----------
    layer : Layer
        What is lit.
    planned : SetUp
        As planned, with its lamps.
    cheat : Cheat
        Of a lamp.

    Returns
    -------
    LampHeld or None
        None where no such lamp is planned, it is away, or its light does not reach the figure.

    References
    ----------
    inverse_square

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> spot = PlacedLamp(name="spot", intensity_cd=18000, height_m=0.2, behind_m=-1.0, aim_behind_m=0.05)
    >>> held = lamp_held(MILL, MODEL.but(lamps=(spot,)), Cheat(what="lamp", name="spot", right_mm=500))
    >>> round(held.right_mm), round(held.back_mm) < 0
    (0, True)
    """
    lamp = next((each for each in planned.lamps if each.name == cheat.name), None)
    if cheat.what != "lamp" or lamp is None or cheat.away:
        return None
    point = subject_point(layer, planned)
    moved = _lamp_as(lamp, cheat)
    full = metered_lx(moved.but(level=1.0), point)
    there, far = math.dist(lamp.place, point), math.dist(moved.place, point)
    if full <= 0.0 or not there:
        return None
    right, up, back = (
        _MM * (aside - here) * (far / there - 1.0) for aside, here in zip(lamp.place, point, strict=True)
    )
    return LampHeld(metered_lx(lamp, point) / full, right, up, back)


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
    >>> cheat_text(Match(HERO, MILL, MODEL, DELIVERY), Cheat(what="figure", name="mill", right_mm=2))
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
    if cheat.what != "lamp":
        return
    count = sum(lamp.name == cheat.name for lamp in planned.lamps)
    if not count:
        yield "No lamp of this name stands in the set-up: place it on the Bench, then its light is checked."
    elif count > 1:
        yield f"{count} lamps have this name, and all of them count as moved: name them apart on the Bench."


def _in_picture(match: Match, cheat: Cheat) -> Iterator[str]:
    if cheat.what != "figure" or cheat.away:
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
    said = [
        f"{_rounded(abs(px))} px {more if px > 0 else less}"
        for px, more, less in ((goes.right_px, "to the right", "to the left"), (goes.down_px, "down", "up"))
        if abs(px) > _SAID_PX
    ]
    if abs(goes.size - 1.0) > _SAID_SIZE:
        percent = number(_PERCENT * abs(goes.size - 1.0), 2)
        said.append(f"{percent} % {'larger' if goes.size > 1.0 else 'smaller'}")
    if said:
        yield f"In the picture {', '.join(said)}: laid back by that."


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
    said = []
    if moved.turned_deg is None:
        said.append("no key is left")
    elif moved.turned_deg > _SAID_DEG:
        said.append(f"key turned by {number(moved.turned_deg, 2)}°")
    if abs(moved.stops) > _SAID_STOPS:
        said.append(f"{number(abs(moved.stops), 2)} stop {'lighter' if moved.stops > 0 else 'darker'}")
    if abs(moved.mired) > _SAID_MIRED:
        said.append(f"{number(abs(moved.mired), 2)} mired {'warmer' if moved.mired > 0 else 'colder'}")
    return ", ".join(said)


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
    across_cut, tol_cut, tol_frames, lambert

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> spot = PlacedLamp(name="spot", intensity_cd=18000, height_m=0.2, behind_m=-1.0, aim_behind_m=0.05)
    >>> match = Match(HERO, MILL, MODEL.but(lamps=(spot,)), DELIVERY)
    >>> moved = Cheat(what="lamp", name="spot", right_mm=30, first_frame=49)
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
        if off is None or (as_planned is not None and abs(off - as_planned) <= _SAID_DEG):
            continue
        was = "" if as_planned is None else f", {number(as_planned, 2)}° as planned"
        text = f"Frames {frame}–{until - 1}: the key stands {number(off, 2)}° from the plate's{was}."
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
