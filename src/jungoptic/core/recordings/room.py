"""How much more a card takes."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class CardRoom:
    """So many takes, of such a length, at the rate at which the card's own files were written."""

    takes: int
    bytes_per_s: float
    take_s: float


def takes_left(free_bytes: float, clips: Sequence[tuple[float, float]]) -> CardRoom | None:
    """How many more takes go onto a card, as long and as large as those that are on it.

    Parameters
    ----------
    free_bytes : float
        What is free on it.
    clips : sequence of tuple of (float, float)
        Bytes and seconds of each clip on it.

    Returns
    -------
    CardRoom or None
        Whole takes of the median length; None where no clip has a length.

    References
    ----------
    card_bytes

    Examples
    --------
    >>> takes_left(64e9, [(500e6, 40.0), (400e6, 32.0), (600e6, 48.0)])
    CardRoom(takes=128, bytes_per_s=12500000.0, take_s=40.0)
    """
    rolled = [(size, length) for size, length in clips if size > 0 and length > 0]
    if not rolled:
        return None
    rate = sum(size for size, _ in rolled) / sum(length for _, length in rolled)
    take_s = statistics.median(length for _, length in rolled)
    return CardRoom(math.floor(free_bytes / (rate * take_s)), rate, take_s)
