"""In which order plates are looked at before the set is struck: what cannot be had again first."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from ..match import Layer, SetUp
from ..vocabulary import ACTED, Verdict
from .columns import Column

Loss = Literal["destroyed", "light", "people", "set"]
LOSSES: dict[Loss, str] = {
    "destroyed": "nothing is left of it",
    "light": "its hour goes by",
    "people": "whoever is in it goes home",
    "set": "it stands until the set is struck",
}
"""Why a plate cannot be had again, the worst first."""
_WORST: dict[Verdict, int] = {"shows": 0, "tight": 1, "holds": 2}


@dataclass(frozen=True, slots=True)
class PlateSeen:
    """A plate as it is looked at: why it cannot be had again, whether it is filmed and was measured, and what
    was measured of it that nobody has decided on, the worst first; how much was decided.
    """

    key: int
    loss: Loss
    filmed: bool
    measured: bool
    left: tuple[Column, ...] = ()
    decided: int = 0

    @property
    def verdict(self) -> Verdict | None:
        """The worst that nobody has decided on; None where nothing was measured."""
        if not self.measured:
            return None
        return self.left[0].judged.verdict if self.left else "holds"

    @property
    def done(self) -> bool:
        """Whether it can be struck."""
        return self.verdict == "holds"


def loss_of(layer: Layer, setup: SetUp, destroyed: bool = False) -> Loss:
    """Why a plate cannot be had again.

    Parameters
    ----------
    layer : Layer
        What is filmed.
    setup : SetUp
        How.
    destroyed : bool, default False
        Whether filming it leaves nothing of it.

    Returns
    -------
    str
        A key of :data:`LOSSES`.

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, MILL, MODEL, ON_GREEN
    >>> loss_of(ACTOR, ON_GREEN), loss_of(MILL, MODEL), loss_of(MILL, MODEL, destroyed=True)
    ('people', 'set', 'destroyed')
    """
    if destroyed and layer.scale > 1:
        return "destroyed"
    if setup.sun_at is not None:
        return "light"
    return "people" if layer.kind in ACTED else "set"


def before_struck(plates: Iterable[PlateSeen]) -> tuple[PlateSeen, ...]:
    """The plates in the order in which they are looked at.

    What cannot be had again first; of those what shows, then what was not measured, then what is tight.

    Parameters
    ----------
    plates : iterable of PlateSeen
        Those of a shot, in filming order.

    Returns
    -------
    tuple of PlateSeen
        All of them.

    Examples
    --------
    >>> plates = [PlateSeen(1, "set", True, False), PlateSeen(2, "light", True, True)]
    >>> [plate.key for plate in before_struck(plates)]
    [2, 1]
    """
    return tuple(sorted(plates, key=_when))


def _when(plate: PlateSeen) -> tuple[int, float]:
    verdict = plate.verdict
    return list(LOSSES).index(plate.loss), 0.5 if verdict is None else _WORST[verdict]
