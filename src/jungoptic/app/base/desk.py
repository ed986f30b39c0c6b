"""Long computation in processes beside this one: the threads that answer everybody else are not held up.

Every lane has processes of its own, so that nothing light stands behind something heavy: pictures, what is
measured while it is seen, searches, passwords, and the reading of files that came from outside, which may not
take more memory than they are given.
"""

from __future__ import annotations

import logging
import os
import threading
import time
from collections.abc import Callable
from concurrent.futures import CancelledError, Future, ProcessPoolExecutor
from concurrent.futures import TimeoutError as NotYet
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from typing import Any, ParamSpec, TypeVar

from django.conf import settings

from jungoptic.app.base.processes import CONTEXT, TOO_MUCH, die_with_parent, limit_memory
from jungoptic.app.base.turns import LOOKS_EVERY_S, Asker, GoneError, Turns
from jungoptic.core.errors import InputError

CORES = os.cpu_count() or 1
BEGINS_IN_S = 120.0  # where the machine is busy; a process that did not begin by then will not
MEMORY_BYTES = 1_500_000_000  # for what is read from outside, beyond what the process has before
logger = logging.getLogger(__name__)

P = ParamSpec("P")
T = TypeVar("T")


class TooLongError(Exception):
    """The computation did not end in the time that it may take."""


def _begin(nice: int, memory_bytes: int) -> None:
    die_with_parent()
    os.nice(nice)
    if memory_bytes:
        limit_memory(memory_bytes)


class Lane:
    """Processes for one kind of work, begun when they are first needed.

    ``nice``: how far others go first; ``longest_s``: when it is given up, with ``too_long`` said: what it
    takes to begin a process does not count; ``memory_bytes``: how much more a process may take, each of which
    does one thing only then; the rest as :class:`Turns` has it.
    """

    def __init__(
        self,
        *,
        seats: int,
        most: int,
        most_of_one: int,
        usual_s: float,
        nice: int,
        longest_s: float,
        too_long: str,
        memory_bytes: int = 0,
    ) -> None:
        self.nice, self.longest_s, self.memory_bytes = nice, longest_s, memory_bytes
        self._too_long = too_long
        self._turns = Turns(seats, most, most_of_one, usual_s)
        self._pools: list[ProcessPoolExecutor | None] = [None] * seats
        self._begun = list(self._pools)
        self._lock = threading.Lock()

    def run(self, asker: Asker, work: Callable[P, T], *args: P.args, **more: P.kwargs) -> T:
        """``work(*args, **more)``, done beside when its turn comes; what goes there and comes back is copied.

        Raises BusyError, GoneError, TooLongError, InputError for a file that its reader broke at, and what
        ``work`` raises.
        """
        with self._turns.seat(asker) as seat:
            for last in (False, True):
                try:
                    pool = self._ready(asker, seat)
                    return self._result(asker, seat, pool.submit(work, *args, **more), self.longest_s)
                except BrokenProcessPool:
                    logger.warning("a process beside this one ended in %s", work.__name__)
                    self._drop(seat)
                    if self.memory_bytes:
                        raise InputError.at("file", _BROKE) from None
                    if last:
                        raise
                except MemoryError:
                    raise InputError.at("file", TOO_MUCH) from None
        raise AssertionError

    def refuse_where_full(self, asker: Asker) -> None:
        """Raise BusyError where :meth:`run` would, before anything else is done."""
        self._turns.refuse_where_full(asker)

    def hold(self, asker: Asker, seconds: float) -> None:
        """Keep a seat so long when its turn comes, and do nothing. Raises BusyError and GoneError."""
        with self._turns.seat(asker):
            time.sleep(seconds)

    def warm(self) -> None:
        """Have the first process ready before somebody asks."""
        with suppress(BrokenProcessPool, CancelledError):
            self._pool(0).submit(os.getpid).result()

    def _ready(self, asker: Asker, seat: int) -> ProcessPoolExecutor:
        """The process of a seat, which has begun. One that does one thing only begins with it."""
        pool = self._pool(seat)
        if pool is not self._begun[seat] and not self.memory_bytes:
            self._result(asker, seat, pool.submit(os.getpid), BEGINS_IN_S)
            self._begun[seat] = pool
        return pool

    def _pool(self, seat: int) -> ProcessPoolExecutor:
        with self._lock:
            pool = self._pools[seat]
            if pool is None:
                CONTEXT.set_forkserver_preload(settings.BESIDE)
                pool = self._pools[seat] = ProcessPoolExecutor(
                    1,
                    mp_context=CONTEXT,
                    initializer=_begin,
                    initargs=(self.nice, self.memory_bytes),
                    max_tasks_per_child=1 if self.memory_bytes else None,
                )
            return pool

    def _drop(self, seat: int) -> None:
        """End a process, whatever it is doing; the next call begins another."""
        with self._lock:
            pool, self._pools[seat] = self._pools[seat], None
        if pool is None:
            return
        for process in list((pool._processes or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)

    def _result(self, asker: Asker, seat: int, asked: Future[T], longest_s: float) -> T:
        ends = time.monotonic() + longest_s
        while True:
            try:
                return asked.result(LOOKS_EVERY_S)
            except NotYet:
                if asked.done():  # it is what was raised there
                    raise
                if asker.gone():
                    self._drop(seat)
                    raise GoneError from None
                if time.monotonic() > ends:
                    self._drop(seat)
                    raise TooLongError(self._too_long.format(longest_s=longest_s)) from None


_BROKE = "Reading this file broke its reader off: it is damaged, or no file of its kind. Save it anew."
_BESIDE_A_WEB_PROCESS: dict[str, Any] = {"seats": max(1, CORES // settings.WEB_PROCESSES)}

PICTURES = Lane(
    **_BESIDE_A_WEB_PROCESS,
    most=10,
    most_of_one=6,  # of a browser's lines to one server
    usual_s=0.1,
    nice=5,
    longest_s=30.0,
    too_long="This picture took longer than {longest_s:.0f} s and was given up.",
)
LIVE = Lane(
    seats=1,
    most=6,
    most_of_one=3,
    usual_s=0.1,
    nice=0,  # a hand waits for it, at a machine that may show the picture as well
    longest_s=15.0,
    too_long="Measuring this picture took longer than {longest_s:.0f} s and was given up.",
)
SEARCHES = Lane(
    **_BESIDE_A_WEB_PROCESS,
    most=5,
    most_of_one=2,
    usual_s=2.0,
    nice=10,
    longest_s=60.0,
    too_long="This took longer than {longest_s:.0f} s and was given up. Lock more settings, so that there is"
    " less to search, and try again.",
)
FILES = Lane(
    **_BESIDE_A_WEB_PROCESS,
    most=5,
    most_of_one=2,
    usual_s=1.0,
    nice=15,
    longest_s=20.0,
    too_long="This file took longer than {longest_s:.0f} s to read and was given up: save it simpler or"
    " smaller.",
    memory_bytes=MEMORY_BYTES,
)
PASSWORDS = Lane(
    seats=1,
    most=12,
    most_of_one=4,
    usual_s=0.1,
    nice=10,  # whoever signs in waits for whoever works, and not the other way round
    longest_s=10.0,
    too_long="Signing in took longer than {longest_s:.0f} s. Try again.",
)


def warm_up() -> None:
    """Begin the processes that a hand waits for, without waiting for them."""
    for lane in (PICTURES, LIVE):
        threading.Thread(target=lane.warm, daemon=True, name="warms up").start()
