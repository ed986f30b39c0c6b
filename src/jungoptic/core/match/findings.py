"""Everything that one look at a set and one at the whole stack tells about a layer."""

from __future__ import annotations

from collections.abc import Iterable

from ..kit.records import Kit
from ..wording import Words
from .complete import COMPLETE
from .measure import Match
from .passes import PASS_LOOKS
from .plate import PLATE
from .stack import Finding, Stack


def all_findings(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None = None
) -> Iterable[Finding]:
    """What is found about the member at a position, in the order of the looks; ``match`` is its own."""
    for look in (*PLATE, *PASS_LOOKS, *COMPLETE):
        finding = look(stack, position, match, words, kit)
        if finding is not None:
            yield finding
