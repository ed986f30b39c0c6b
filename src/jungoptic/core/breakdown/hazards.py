"""What raises a caution: the recipe, the kit, the place, the plan itself, or somebody by hand.

Nothing is lost by saying it twice.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..cautions import CAUTIONS, Caution
from ..match.pace import FIRE_DRIVER
from ..match.stack import Member, Stack
from ..vocabulary import CHOICES

HIGH_LAMP_M = 2.5
RAISED_TABLE_M = 1.3
SHORT_FLASH_S = 0.5
WHIP_DEG_S = 90.0
FALL = 0.3  # m, or m/s, downwards
PEOPLE = frozenset({"live", "live_element", "split"})
FRAME_BY_FRAME = ("long_work", "under_the_set")
"""What a layer raises that is made frame by frame. Kind: common practice."""
RIGGED = frozenset({"rig", "frame_by_frame"})


@dataclass(frozen=True, slots=True)
class Raised:
    """A caution and everything that raises it, in words."""

    caution: Caution
    by: tuple[str, ...]


def plan_reasons(stack: Stack | None) -> list[tuple[str, str]]:
    """What one look at lamps, tables and passes tells of hazards.

    A lamp over 2.5 m wants a ladder; a table over 1.3 m can tip; light that comes and goes within half a
    second strobes; fire drives a layer; haze is filmed; something falls, or is lit where the ground is wet;
    a sheet or a cloth stands outdoors; the camera cranes, whips or walks; a puppet takes nights.

    Parameters
    ----------
    stack : Stack or None
        The shot; None for one that has no hero yet.

    Returns
    -------
    list of tuple of str
        Key of a caution, and what raises it, in words.

    References
    ----------
    plan_hazards

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> plan_reasons(STACK)
    [('heights', 'spot at 3.4 m')]
    """
    if stack is None:
        return []
    reasons = _of_the_move(stack)
    for member in stack.members:
        reasons += _of_the_layer(stack, member)
        reasons += _of_the_set(member)
    return reasons


def _of_the_move(stack: Stack) -> list[tuple[str, str]]:
    move = stack.delivery.move
    reasons = []
    seconds = max(move.end_frame - move.start_frame, 1) / stack.delivery.frame_rate_fps
    if move.kind == "boom":
        reasons.append(("moving_camera", "the camera cranes"))
    elif move.kind in ("pan", "tilt", "roll") and abs(move.amount) / seconds >= WHIP_DEG_S:
        reasons.append(("moving_camera", f"a {move.kind} of {abs(move.amount) / seconds:.0f}° in a second"))
    elif move.kind in ("slide", "push", "arc") and move.shake_px > 0:
        reasons.append(("walking", "the camera is walked by hand"))
    return reasons


def _of_the_layer(stack: Stack, member: Member) -> list[tuple[str, str]]:
    layer, filmed = member.layer, member.setup is not None
    reasons = []
    cue_s = (layer.cue_frames or math.inf) / stack.delivery.frame_rate_fps
    if layer.kind == "light_pass" and (seen_s := min(layer.seen_s or math.inf, cue_s)) <= SHORT_FLASH_S:
        reasons.append(("strobe", f"{layer.name}, light for {seen_s:.2g} s"))
    if layer.driver == FIRE_DRIVER and filmed:
        reasons.append(("flame", f"{layer.name} is driven by fire"))
    if layer.kind == "haze" and filmed:
        reasons += [("aerosols", f"{layer.name} is filmed"), ("cold_fog", f"{layer.name} is filmed")]
    elif stack.plan.visibility_m and layer.scale > 1 and filmed:
        reasons.append(("aerosols", f"smoke in the room round {layer.name}"))
    if layer.kind in PEOPLE and filmed and min(layer.speed_up_m_s, layer.travel_up_m) < -FALL:
        reasons.append(("falls", f"{layer.name} comes down"))
    if layer.kind == "frame_by_frame":
        reasons += [(key, f"{layer.name}, frame by frame") for key in FRAME_BY_FRAME]
    return reasons


def _of_the_set(member: Member) -> list[tuple[str, str]]:
    layer, setup = member.layer, member.setup
    if setup is None:
        return []
    reasons = [
        ("heights", f"{lamp.name} at {lamp.height_m:g} m")
        for lamp in setup.lamps
        if lamp.height_m > HIGH_LAMP_M
    ]
    if setup.ground_height_m > RAISED_TABLE_M and layer.scale > 1:
        reasons.append(("overhead_load", f"{layer.name} on a table of {setup.ground_height_m:g} m"))
    if layer.contact == "wet_ground" and (setup.lamps or layer.kind in RIGGED):
        reasons.append(("wet_electrics", f"{layer.name} on {CHOICES['wet_ground']}"))
    if setup.sun_at is not None and (setup.backing or setup.diffusion_stops or setup.lamps):
        sail = setup.backing.name if setup.backing else "cloth" if setup.diffusion_stops else "stands"
        reasons.append(("wind", f"{sail} outdoors"))
    return reasons


WHO: dict[str, tuple[str, str]] = {
    "children": ("children_animals", "children are in the shot"),
    "animals": ("children_animals", "animals are in the shot"),
    "frail": ("frail", "frail guests are in the shot"),
}


def may_have_people(stack: Stack) -> bool:
    """Whether somebody could be in front of the lens: it must be said who.

    Parameters
    ----------
    stack : Stack
        The shot.

    Returns
    -------
    bool
        True where a live plate or element is filmed.

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> may_have_people(STACK)
    True
    """
    return any(member.layer.kind in PEOPLE and member.setup is not None for member in stack.members)


def who_reasons(who: Iterable[str]) -> list[tuple[str, str]]:
    """What those who are in a shot raise.

    Parameters
    ----------
    who : iterable of str
        Of ``children``, ``animals``, ``frail``, ``grown``, ``nobody``.

    Returns
    -------
    list of tuple of str
        Key of a caution, and what raises it, in words.

    Examples
    --------
    >>> who_reasons(["grown", "frail"])
    [('frail', 'frail guests are in the shot')]
    """
    return [WHO[key] for key in who if key in WHO]


def word_reasons(
    texts: Mapping[str, str], cautions: Mapping[str, Caution] = CAUTIONS
) -> list[tuple[str, str]]:
    """What the words of a shot raise: whole words of its own texts.

    Parameters
    ----------
    texts : mapping of str to str
        What each text is called, and the text.
    cautions : mapping of str to Caution, optional
        Those of common practice when left out.

    Returns
    -------
    list of tuple of str
        Key of a caution, and what raises it, in words.

    Examples
    --------
    >>> word_reasons({"title": "The sword on the roof"})
    [('weapons', '“sword” in the title'), ('edges', '“roof” in the title')]
    """
    reasons = []
    for key, caution in cautions.items():
        for word in caution.words:
            whole = re.compile(rf"\b{re.escape(word)}s?\b", re.IGNORECASE)
            where = [name for name, text in texts.items() if whole.search(text)]
            if where:
                reasons.append((key, f"“{word}” in the {' and the '.join(where)}"))
    return reasons


def raised_cautions(
    reasons: Iterable[tuple[str, str]], cautions: Mapping[str, Caution] = CAUTIONS
) -> tuple[Raised, ...]:
    """Every caution once, in the order of the list, with all that raises it.

    Parameters
    ----------
    reasons : iterable of tuple of str
        Key of a caution and what raises it; unknown keys are left out.
    cautions : mapping of str to Caution, optional
        Those of common practice when left out.

    Returns
    -------
    tuple of Raised
        Nothing is lost by saying it twice.

    Examples
    --------
    >>> [(row.caution.key, row.by) for row in raised_cautions([("heights", "spot at 3.4 m")])]
    [('heights', ('spot at 3.4 m',))]
    """
    by: dict[str, list[str]] = {}
    for key, why in reasons:
        if key in cautions and why not in by.setdefault(key, []):
            by[key].append(why)
    return tuple(Raised(cautions[key], tuple(by[key])) for key in cautions if key in by)


def open_cautions(hazards: Iterable[Raised], signed: Mapping[str, object]) -> tuple[Raised, ...]:
    """Those that nobody has signed off.

    Parameters
    ----------
    hazards : iterable of Raised
        What is raised in the shot.
    signed : mapping of str to object
        Signatures by key of the caution.

    Returns
    -------
    tuple of Raised
        In the same order.

    Examples
    --------
    >>> open_cautions(raised_cautions([("heights", "spot at 3.4 m")]), {"heights": "A. Person"})
    ()
    """
    return tuple(hazard for hazard in hazards if hazard.caution.key not in signed)
