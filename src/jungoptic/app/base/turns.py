"""Seats that many people want: given by turns of the persons, not of what they ask, and never to so many that
the waiting itself is in the way.
"""

from __future__ import annotations

import math
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

LOOKS_EVERY_S = 0.25  # whether whoever asked still waits
_MOST_REMEMBERED = 500  # who had a turn, while somebody always waits
_LEARNS = 0.2  # how much the last one counts for how long the next will take


@dataclass(frozen=True)
class Asker:
    """Who asks, a person or whatever else has turns, and whether they wait for the answer no more."""

    person: int | str
    gone: Callable[[], bool] = lambda: False


class BusyError(Exception):
    """There is so much to do that this is not even put behind it. ``wait_s``: when to ask again."""

    def __init__(self, wait_s: int, own: bool) -> None:
        self.wait_s = wait_s
        whose = "What you asked for before is still being worked on" if own else "Others are being served"
        super().__init__(f"{whose}: busy, free in about {wait_s} s. Nothing was changed; try again then.")


class GoneError(Exception):
    """Whoever asked does not wait for the answer any more."""


@dataclass(frozen=True)
class _Ticket:
    number: int
    person: int | str


class Turns:
    """``seats``: how many are served at once; ``most``, ``most_of_one``: how many may be served or wait, of
    all and of one person; ``usual_s``: how long one takes, until it is known.
    """

    def __init__(self, seats: int, most: int, most_of_one: int, usual_s: float) -> None:
        self._free = list(range(seats))
        self._seats, self._most, self._most_of_one = seats, most, most_of_one
        self._usual_s = usual_s
        self._changed = threading.Condition()
        self._waiting: list[_Ticket] = []
        self._served: Counter[int | str] = Counter()  # by person
        self._last_turn: dict[int | str, int] = {}
        self._number = 0

    @contextmanager
    def seat(self, asker: Asker) -> Iterator[int]:
        """The number of a seat that is the caller's until the end of the block.

        Raises BusyError at once, and GoneError where nobody waits any more.
        """
        taken = self._wait(self._ticket(asker), asker)
        began = time.monotonic()
        try:
            yield taken
        finally:
            with self._changed:
                self._usual_s += _LEARNS * (time.monotonic() - began - self._usual_s)
                self._served[asker.person] -= 1
                self._free.append(taken)
                self._changed.notify_all()

    def refuse_where_full(self, asker: Asker) -> None:
        """Raise BusyError where there is no room for one more of this asker's."""
        with self._changed:
            own = self._served[asker.person] + sum(one.person == asker.person for one in self._waiting)
            all_of_them = self._seats - len(self._free) + len(self._waiting)
            if own >= self._most_of_one or all_of_them >= self._most:
                before = own if own >= self._most_of_one else all_of_them
                raise BusyError(self._about_s(before), own >= self._most_of_one)

    def _ticket(self, asker: Asker) -> _Ticket:
        with self._changed:
            self.refuse_where_full(asker)
            self._number += 1
            ticket = _Ticket(self._number, asker.person)
            self._waiting.append(ticket)
            return ticket

    def _about_s(self, before: int) -> int:
        return max(1, math.ceil(before * self._usual_s / self._seats))

    def _wait(self, ticket: _Ticket, asker: Asker) -> int:
        with self._changed:
            try:
                while not (self._free and self._next() == ticket):
                    self._changed.wait(LOOKS_EVERY_S)
                    if asker.gone():
                        raise GoneError
            finally:
                self._waiting.remove(ticket)
                self._changed.notify_all()
            self._served[ticket.person] += 1
            self._number += 1
            self._last_turn[ticket.person] = self._number
            if not self._waiting or len(self._last_turn) > _MOST_REMEMBERED:
                self._served = +self._served
                here = {*self._served, *(one.person for one in self._waiting)}
                self._last_turn = {one: turn for one, turn in self._last_turn.items() if one in here}
            return self._free.pop()

    def _next(self) -> _Ticket:
        """Whoever had their last turn longest ago, and of theirs what was asked first."""
        return min(self._waiting, key=lambda one: (self._last_turn.get(one.person, 0), one.number))
