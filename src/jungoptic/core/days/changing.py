"""What must be changed between two jobs, and how long it takes."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .records import Changes, Job, Travel

ONLY_WHERE_WANTED = frozenset({"model", "backing", "costume"})
CHANGED = {
    "place": "place",
    "model": "model on the table",
    "light": "light",
    "backing": "backing",
    "position": "camera position",
    "lens": "lens",
    "costume": "costume",
}


@dataclass(frozen=True, slots=True)
class Change:
    """What differs between two jobs, the dearest first, each with its minutes, and what it costs in all."""

    parts: tuple[tuple[str, int], ...]
    minutes: int


class Changing:
    """What a production reckons a change with: the change between any two jobs."""

    def __init__(self, changes: Changes, travel: Sequence[Travel]) -> None:
        self._changes = changes
        self._travel: Mapping[frozenset[str], int] = {
            frozenset(known.places): known.minutes for known in travel
        }

    def travel_min(self, here: str, there: str) -> int:
        """How long it takes from one place to another, with everything.

        Parameters
        ----------
        here, there : str
            Keys of places.

        Returns
        -------
        int
            Minutes, as they were typed, else the figure for a change of place; 0 to the same.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE
        >>> Changing(EXAMPLE.changes, EXAMPLE.travel).travel_min("quay", "boathouse")
        40
        """
        return 0 if here == there else self._travel.get(frozenset((here, there)), self._changes.place_min)

    def least_min(self, kind: str) -> int:
        """The least that a change of one kind costs.

        Parameters
        ----------
        kind : str
            One of ``CHANGED``.

        Returns
        -------
        int
            Minutes.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE
        >>> Changing(EXAMPLE.changes, EXAMPLE.travel).least_min("place")
        40
        """
        usual: int = getattr(self._changes, f"{kind}_min")
        return min([usual, *self._travel.values()]) if kind == "place" else usual

    def between(self, before: Job, after: Job) -> Change:
        """What must be changed after one job for another.

        A model, a backing or a costume counts where the second wants another one; place, light, position and
        lens wherever they differ. The whole is the largest, and a share of the rest.

        Parameters
        ----------
        before, after : Job
            Filmed one straight after the other.

        Returns
        -------
        Change
            Its parts, the dearest first, and the whole, minutes.

        References
        ----------
        days_changes

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE
        >>> sea, cup, clean, mill = EXAMPLE.jobs
        >>> Changing(EXAMPLE.changes, ()).between(clean, mill)
        Change(parts=(('model', 40), ('lens', 5)), minutes=42)
        """
        parts = []
        for kind in CHANGED:
            was, wanted = getattr(before, kind), getattr(after, kind)
            if kind == "lens":
                was, wanted = (before.camera, was), (after.camera, wanted)
            if was == wanted or (kind in ONLY_WHERE_WANTED and not wanted):
                continue
            minutes = (
                self.travel_min(was, wanted) if kind == "place" else getattr(self._changes, f"{kind}_min")
            )
            parts.append((kind, minutes))
        parts.sort(key=lambda part: -part[1])
        costs = [minutes for _, minutes in parts]
        whole = costs[0] + self._changes.rest_share * sum(costs[1:]) if costs else 0.0
        return Change(tuple(parts), math.ceil(whole - 1e-9))
