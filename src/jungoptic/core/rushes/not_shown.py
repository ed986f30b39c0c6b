"""What the comparison names of a layer and its frames as they are planned do not show."""

from __future__ import annotations

from collections.abc import Iterable

from ..match import Stack, judge_member
from .as_planned import AsPlanned
from .verdicts import ITEM_OF


def not_shown(stack: Stack, position: int, rows: Iterable[AsPlanned]) -> tuple[str, ...]:
    """Items that the comparison names of a layer and that rushes are judged by, of which its frames as they
    are planned showed nothing.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in the stack, from 0.
    rows : iterable of AsPlanned
        What they showed.

    Returns
    -------
    tuple of str
        Keys of items, in order; none of a hero, or of what is not filmed.

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> "brightness" in not_shown(STACK, 1, ())
    True
    """
    member = stack.members[position]
    if member.setup is None or member.is_hero:
        return ()
    judges = {by.item for by in ITEM_OF.values() if not by.pair}
    named = {each.item for each in judge_member(stack, position)[1]}
    return tuple(sorted(named & judges - {row.item for row in rows}))
