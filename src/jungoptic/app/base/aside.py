"""Long computation in a process beside this one, at low priority: the threads that answer everybody else are
not held up by it.
"""

from __future__ import annotations

import logging
import os
import threading
from collections.abc import Callable
from concurrent.futures import CancelledError, Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from typing import ParamSpec, TypeVar

from jungoptic.app.base.processes import CONTEXT, die_with_parent

LONGEST_S = 60.0
NICE = 10  # what drags now goes first
_LOADED = ["jungoptic.core.plan.solve", "jungoptic.core.plan.scales"]
logger = logging.getLogger(__name__)

P = ParamSpec("P")
T = TypeVar("T")


class TooLongError(Exception):
    """The computation did not end in the time that it may take."""

    def __init__(self) -> None:
        super().__init__(
            f"This took longer than {LONGEST_S:.0f} s and was given up. Lock more settings, so that there is"
            " less to search, and try again."
        )


def _begin() -> None:
    die_with_parent()
    os.nice(NICE)


class _Aside:
    """One process for all threads of this one, begun when it is first needed."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._pool: ProcessPoolExecutor | None = None

    def _begun(
        self, work: Callable[P, T], *args: P.args, **more: P.kwargs
    ) -> tuple[ProcessPoolExecutor, Future[T]]:
        with self._lock:
            if self._pool is None:
                CONTEXT.set_forkserver_preload(_LOADED)
                self._pool = ProcessPoolExecutor(1, mp_context=CONTEXT, initializer=_begin)
            return self._pool, self._pool.submit(work, *args, **more)

    def _drop(self, pool: ProcessPoolExecutor) -> None:
        """End a process, whatever it is doing; the next call begins another."""
        with self._lock:
            if self._pool is pool:
                self._pool = None
        for process in list((pool._processes or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)

    def run(self, work: Callable[P, T], *args: P.args, **more: P.kwargs) -> T:
        for last in (False, True):
            pool, future = self._begun(work, *args, **more)
            try:
                return future.result(LONGEST_S)
            except (
                BrokenProcessPool,
                CancelledError,
            ):  # it died, or somebody else's took too long: once more, in another
                logger.warning("the process beside this one ended in %s", work.__name__)
                self._drop(pool)
                if last:
                    raise
            except TimeoutError:
                if not future.cancel():  # what has not been begun need not be ended
                    self._drop(pool)
                raise TooLongError from None
        raise AssertionError


_ASIDE = _Aside()


def aside(work: Callable[P, T], *args: P.args, **more: P.kwargs) -> T:
    """``work(*args, **more)``, done beside.

    Everything that goes there and comes back is copied. Raises TooLongError, and what ``work`` raises.
    """
    return _ASIDE.run(work, *args, **more)
