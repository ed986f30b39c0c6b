"""What raises a caution: the recipe, the kit, the place, the plan itself, or somebody by hand.

Nothing is lost by saying it twice.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..cautions import CAUTIONS, Caution
from ..match.stack import Stack

HIGH_LAMP_M = 2.5
RAISED_TABLE_M = 1.3
SHORT_FLASH_S = 0.5


@dataclass(frozen=True, slots=True)
class Raised:
    """A caution and everything that raises it, in words."""

    caution: Caution
    by: tuple[str, ...]


def plan_reasons(stack: Stack | None) -> list[tuple[str, str]]:
    """What one look at lamps, tables and passes tells of hazards.

    A lamp over 2.5 m wants a ladder; a table over 1.3 m can tip; light that comes and goes within half a
    second strobes.

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
    reasons = []
    for member in stack.members:
        layer, setup = member.layer, member.setup
        if layer.kind == "light_pass" and layer.seen_s is not None and layer.seen_s <= SHORT_FLASH_S:
            reasons.append(("strobe", f"{layer.name}, light for {layer.seen_s:g} s"))
        if setup is None:
            continue
        reasons += [
            ("heights", f"{lamp.name} at {lamp.height_m:g} m")
            for lamp in setup.lamps
            if lamp.height_m > HIGH_LAMP_M
        ]
        if setup.ground_height_m > RAISED_TABLE_M and layer.scale > 1:
            reasons.append(("overhead_load", f"{layer.name} on a table of {setup.ground_height_m:g} m"))
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
