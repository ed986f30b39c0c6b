"""Everything that one look at a set and one at the whole stack tells about a layer."""

from __future__ import annotations

from collections.abc import Iterable

from ..kit.records import Kit
from ..wording import Words
from .complete import COMPLETE
from .measure import Match
from .passes import PASS_LOOKS
from .plate import PLATE
from .stack import Finding, Look, Stack
from .taken import TAKEN


def all_findings(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None = None
) -> Iterable[Finding]:
    """What is found about the member at a position, in the order of the looks; ``match`` is its own."""
    return _seen((*PLATE, *PASS_LOOKS, *TAKEN, *COMPLETE), stack, position, match, words, kit)


def own_findings(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None = None
) -> Iterable[Finding]:
    """What is found about it in its own set alone."""
    return _seen((*PLATE, *TAKEN), stack, position, match, words, kit)


def _seen(
    looks: Iterable[Look], stack: Stack, position: int, match: Match, words: Words, kit: Kit | None
) -> Iterable[Finding]:
    for look in looks:
        finding = look(stack, position, match, words, kit)
        if finding is not None:
            yield finding
