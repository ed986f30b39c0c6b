"""What a file says of shots, before anything is written: candidates with where they stand in the file, and
what is wrong with it.
"""

from __future__ import annotations

from dataclasses import dataclass, field

MOST_CHARACTERS = 4_000_000
MOST_SHOTS = 20_000


@dataclass(frozen=True, slots=True)
class Fault:
    """Something in the file that cannot be read: ``line`` from 1 (0 = the whole file), ``column`` by its name
    or number.
    """

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True)
class Candidate:
    """A shot as a file tells it.

    None = the file says nothing of it. ``line`` is where it stands in the file.
    """

    line: int
    code: str | None = None
    title: str | None = None
    description: str | None = None
    length_frames: int | None = None
    place: str | None = None
    position: int | None = None


@dataclass(frozen=True, slots=True)
class Read:
    """Everything that was read of a file, and as what."""

    kind: str
    candidates: tuple[Candidate, ...] = ()
    faults: tuple[Fault, ...] = field(default=())
    notes: tuple[str, ...] = ()
