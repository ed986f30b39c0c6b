"""A whole shot: its hero, its layers with their set-ups, and what the shot itself asks of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

from pydantic import Field

from .. import quantities as q
from ..kit.records import Kit
from ..vocabulary import PASSES
from ..wording import Words
from .board import BoardLine
from .layer import Layer
from .measure import Match
from .records import Delivery, SetUp
from .saying import Explanation


class ShotPlan(q.Record):
    """What belongs to the shot and to no layer. Pixels of the delivered frame."""

    length_frames: q.FrameCount = 96
    split_px: Annotated[
        float | None,
        q.quantity(
            "Split line at", "px", "From the left of the frame; empty = no split.", ge=-1000, le=70000
        ),
    ] = None
    split_feather_px: Annotated[float, q.quantity("Feather of the split", "px", ge=0, le=10000)] = 0.0
    visibility_m: Annotated[
        float | None, q.quantity("Visibility in the place", "m", "Haze, mist; empty = clear.", gt=0, le=1e6)
    ] = None
    recurring: Annotated[tuple[str, ...], Field(title="What recurs in the place")] = ()
    carries: Annotated[tuple[str, ...], Field(title="What of it is in this shot")] = ()
    lines: Annotated[tuple[BoardLine, ...], Field(title="Lines of the board", max_length=200)] = ()


@dataclass(frozen=True, slots=True)
class Member:
    """One layer with its set-up as it stands (lamps and backing in it); ``set_up_key`` tells which layers
    share one.
    """

    layer: Layer
    setup: SetUp | None
    set_up_key: int | None
    is_hero: bool = False


@dataclass(frozen=True, slots=True)
class Finding:
    """An amount of one item that is found by looking at the set or at the whole stack, and what is said
    about it: at once, or by a function where that takes work.
    """

    item: str
    amount: float
    told: Explanation | Callable[[], Explanation]


@dataclass(frozen=True)
class Stack:
    """The shot as it is judged. ``hero`` has its key written out."""

    plan: ShotPlan
    delivery: Delivery
    hero: SetUp
    members: tuple[Member, ...]

    @cached_property
    def kinds(self) -> frozenset[str]:
        """Kinds of all its layers."""
        return frozenset(member.layer.kind for member in self.members)

    def needs_clean_plate(self, member: Member) -> bool:
        """Whether something in a layer must be covered by what stands behind it.

        Parameters
        ----------
        member : Member
            Of this stack.

        Returns
        -------
        bool
            True for rigs, splits, differences and paint-outs.

        Examples
        --------
        >>> from jungoptic.core.example import STACK
        >>> [STACK.needs_clean_plate(member) for member in STACK.members]
        [False, False, False]
        """
        layer = member.layer
        return (
            layer.kind in ("rig", "split")
            or layer.combine == "difference"
            or bool(layer.paint_out)
            or bool(self.painted_out(member))
        )

    def painted_out(self, member: Member) -> tuple[BoardLine, ...]:
        """The paint-outs of the board that are in a layer; those that name none are in the hero.

        Parameters
        ----------
        member : Member
            Of this stack.

        Returns
        -------
        tuple of BoardLine
            In the order of the board.

        Examples
        --------
        >>> from jungoptic.core.example import STACK
        >>> STACK.painted_out(STACK.members[0])
        ()
        """
        return tuple(
            line
            for line in self.plan.lines
            if line.kind == "paint_out"
            and (line.layer == member.layer.name or (not line.layer and member.is_hero))
        )

    @cached_property
    def cleaned(self) -> tuple[Member, ...]:
        """The layers that need a clean plate."""
        return tuple(member for member in self.members if self.needs_clean_plate(member))

    @cached_property
    def first_of_set_up(self) -> frozenset[int]:
        """Positions of the layers that stand for their set-up where something is said once for each
        set-up: the front one, a pass only where nothing else is filmed by it.
        """
        first: dict[int, int] = {}
        for position, member in sorted(
            enumerate(self.members), key=lambda placed: placed[1].layer.kind in PASSES
        ):
            if member.set_up_key is not None:
                first.setdefault(member.set_up_key, position)
        return frozenset(first.values())


Look = Callable[[Stack, int, Match, Words, Kit | None], Finding | None]
"""One look at the member at a position of the stack; None where the item makes no sense."""
