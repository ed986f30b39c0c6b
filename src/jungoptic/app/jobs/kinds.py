"""The kinds of jobs.

A room that has one describes it here: what it does, in which queue, and how long it may take.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import READS, Role
from jungoptic.core.errors import InputError

Queue = Literal["light", "heavy"]  # a heavy job never stands before a light one: each has workers of its own


@dataclass(frozen=True)
class Kind:
    """``work`` is called in a process of its own with the job and its arguments; whatever it raises fails the
    job. Once it is stopped it has ``rests_s`` to come to rest by itself.
    """

    name: str
    queue: Queue
    arguments: type[BaseModel]
    work: Callable[[Running, Any], None]
    longest_s: float
    memory_bytes: int = 0  # more than its process has when it begins; 0 for as much as it wants
    asks: frozenset[Role] = READS  # who may have it done
    rests_s: float = 0.0


_KINDS: dict[str, Kind] = {}


def job_kind(
    name: str,
    arguments: type[BaseModel],
    *,
    queue: Queue = "light",
    longest_s: float = 120.0,
    memory_bytes: int = 0,
    asks: frozenset[Role] = READS,
    rests_s: float = 0.0,
) -> Callable[[Callable[[Running, Any], None]], Kind]:
    """Make a function the work of a kind of job."""

    def register(work: Callable[[Running, Any], None]) -> Kind:
        _KINDS[name] = Kind(name, queue, arguments, work, longest_s, memory_bytes, asks, rests_s)
        return _KINDS[name]

    return register


def kinds_of(queue: Queue) -> list[str]:
    """The names of what is done in a queue."""
    return sorted(name for name, kind in _KINDS.items() if kind.queue == queue)


def kind_of(name: str) -> Kind:
    """What is known of a kind of jobs. Raises InputError for one that this server does not do any more."""
    if name not in _KINDS:
        raise InputError.at("kind", "This server does not do this any more.")
    return _KINDS[name]
