"""A fresh shot brought to its hero: every set-up solved, sheets that reach, pictures wide enough."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from ..kit.records import Kit
from ..match.compare import judge_member
from ..match.lighting import resolved
from ..match.measure import Match
from ..match.stack import Member, Stack
from ..vocabulary import PASSES
from .scope import Shared
from .solve import SOLVABLE, solve

_OWN_IN_CAMERA = frozenset({"distance_m", "ground_height_m"})  # one camera, one light
_STEP_PX = 100
_MOST_PX = 100_000
_MOST_TRIES = 4


@dataclass(frozen=True)
class Started:
    """What to change so that a fresh shot lies right: fields of set-ups and of their sheets by the key of the
    set-up, fields of layers by their position. ``fronts`` says which layer of a set-up was solved, ``left``
    what the kit cannot do, in sentences.
    """

    set_ups: dict[int, dict[str, Any]] = field(default_factory=dict)
    backings: dict[int, dict[str, Any]] = field(default_factory=dict)
    layers: dict[int, dict[str, Any]] = field(default_factory=dict)
    fronts: dict[int, int] = field(default_factory=dict)
    left: dict[int, tuple[str, ...]] = field(default_factory=dict)
    stack: Stack | None = None


def started(stack: Stack, kits: Mapping[int, Kit]) -> Started:
    """Solve every set-up of a shot to its hero.

    The front layer of a set-up is solved, the others that it films count as much; the hero's own stays.
    What is done in camera keeps the hero's dials: only its place and its table are free.

    Parameters
    ----------
    stack : Stack
        The shot as it was laid out.
    kits : mapping of int to Kit
        What each set-up can draw on, by its key.

    Returns
    -------
    Started
        What to change, and the shot as it is then.

    Examples
    --------
    >>> from jungoptic.core.example import KIT, STACK
    >>> fresh = started(STACK, {2: KIT, 3: KIT})
    >>> fresh.set_ups[2]["f_number"], fresh.backings
    (16.0, {})
    """
    result = Started()
    members = list(stack.members)
    kept = {member.set_up_key for member in members if member.is_hero}
    for key in dict.fromkeys(member.set_up_key for member in members):
        if key is None or key in kept or key not in kits:
            continue
        _solve(stack, members, key, kits[key], result)
    for position, member in enumerate(members):
        wide = _wide_enough(stack, member)
        if wide:
            result.layers.setdefault(position, {})["picture_width_px"] = wide
            members[position] = replace(member, layer=member.layer.but(picture_width_px=wide))
    for key in dict.fromkeys(member.set_up_key for member in members):
        if key is not None:
            _reach(stack, members, key, result)
    for position in range(len(members)):
        _build(stack, members, position, result)
    return replace(result, stack=replace(stack, members=tuple(members)))


def _solve(stack: Stack, members: list[Member], key: int, kit: Kit, result: Started) -> None:
    places = [place for place, member in enumerate(members) if member.set_up_key == key]
    aside = ("clean_plate", *PASSES)
    first = min(places, key=lambda place: (members[place].layer.kind in aside, members[place].layer.near_m))
    others = [place for place in places if place != first]
    front = members[first]
    assert front.setup is not None
    setup = resolved(front.setup, front.layer)
    behind = {place: _distance_m(members[place]) - _distance_m(front) for place in others}
    locked = [name for name in SOLVABLE if name not in _OWN_IN_CAMERA]
    ways = solve(
        stack.hero,
        front.layer,
        setup,
        stack.delivery,
        kit,
        locked=locked if front.layer.combine == "in_camera" else _given(front),
        shared=[Shared(members[place].layer, behind[place]) for place in others],
        most=1,
    )
    if not ways:
        return
    way = ways[0]
    result.set_ups[key] = dict(way.set_up)
    result.fronts[key], result.left[key] = first, way.sentences
    for place, changes in zip([first, *others], [way.layer, *way.others], strict=True):
        if changes:
            result.layers.setdefault(place, {}).update(changes)
        member = members[place]
        assert member.setup is not None
        there = front.setup.but(**way.set_up)
        there = there.but(distance_m=there.distance_m + behind.get(place, 0.0))
        members[place] = replace(member, layer=member.layer.but(**changes), setup=there)


def _given(member: Member) -> list[str]:
    """What lamps and sun give is not solved."""
    assert member.setup is not None
    return ["key"] if member.setup.lamps or member.setup.sun_at else []


def _distance_m(member: Member) -> float:
    assert member.setup is not None
    return member.setup.distance_m


def _wide_enough(stack: Stack, member: Member) -> int | None:
    """How wide a picture must be so that it is not enlarged, px; None where it is."""
    layer = member.layer
    if member.setup is not None or not layer.picture_width_px:
        return None
    enlarged = Match(stack.hero, layer, None, stack.delivery).amounts["sharpness"]
    if enlarged <= 0:
        return None
    wanted = layer.picture_width_px * (1.0 + enlarged / 100.0)
    return min(math.ceil(wanted / _STEP_PX) * _STEP_PX, _MOST_PX)


def _build(stack: Stack, members: list[Member], position: int, result: Started) -> None:
    """A set as wide and high as the frame needs."""
    for _ in range(_MOST_TRIES):
        _, judged = judge_member(replace(stack, members=tuple(members)), position)
        short = next((item for item in judged if item.item == "set_edge" and item.amount > 0), None)
        if short is None or not short.fixes:
            return
        changes = short.fixes[0].changes
        result.layers.setdefault(position, {}).update(changes)
        members[position] = replace(members[position], layer=members[position].layer.but(**changes))


def _reach(stack: Stack, members: list[Member], key: int, result: Started) -> None:
    """A sheet that stands behind all that is done before it, as far as sheets go."""
    places = [place for place, member in enumerate(members) if member.set_up_key == key]
    for place in places * _MOST_TRIES:
        whole = replace(stack, members=tuple(members))
        setup = members[place].setup
        if setup is None or setup.backing is None:
            return
        _, judged = judge_member(whole, place)
        short = next((item for item in judged if item.item == "backing_edge" and item.amount > 0), None)
        wider = [fix for fix in short.fixes if "width_m" in fix.changes] if short else []
        if not wider:
            continue
        sheet, wants = setup.backing, wider[0].changes
        left = min(sheet.across_m - sheet.width_m / 2.0, wants["across_m"] - wants["width_m"] / 2.0)
        right = max(sheet.across_m + sheet.width_m / 2.0, wants["across_m"] + wants["width_m"] / 2.0)
        changes = {
            "width_m": math.ceil(10.0 * (right - left) - 1e-6) / 10.0,
            "across_m": round((left + right) / 2.0, 2),
            "height_m": max(sheet.height_m, wants["height_m"]),
        }
        result.backings.setdefault(key, {}).update(changes)
        for every in places:
            member = members[every]
            if member.setup is not None and member.setup.backing is not None:
                there = member.setup.backing.but(**changes)
                members[every] = replace(member, setup=member.setup.but(backing=there))
