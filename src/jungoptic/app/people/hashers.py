"""How passwords are kept: Argon2id at a cost that a small machine can pay, and beside whoever is answered."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from django.contrib.auth.hashers import Argon2PasswordHasher

from jungoptic.app.base.desk import PASSWORDS
from jungoptic.app.base.turns import Asker

_ASKER: ContextVar[Asker | None] = ContextVar("who has a password checked", default=None)


@contextmanager
def beside(asker: Asker) -> Iterator[None]:
    """Passwords are worked on in a process beside this one until the end of the block, by turns.

    Raises BusyError at once where there is no room, and what a :class:`~jungoptic.app.base.desk.Lane` raises.
    """
    PASSWORDS.refuse_where_full(asker)
    token = _ASKER.set(asker)
    try:
        yield
    finally:
        _ASKER.reset(token)


class SmallArgon2(Argon2PasswordHasher):
    """19 MiB, two passes, one lane: the least of what the OWASP Password Storage Cheat Sheet (2023)
    recommends for Argon2id (RFC 9106). About 50 ms on one core of a small machine: ``./run bench --load``.
    """

    time_cost = 2
    memory_cost = 19_456  # KiB
    parallelism = 1

    def encode(self, password: str, salt: str) -> str:
        asker = _ASKER.get()
        if asker is None:
            return str(super().encode(password, salt))
        return PASSWORDS.run(asker, encoded, password, salt)

    def verify(self, password: str, encoded: str) -> bool:
        asker = _ASKER.get()
        if asker is None:
            return bool(super().verify(password, encoded))
        return PASSWORDS.run(asker, verified, password, encoded)


def encoded(password: str, salt: str) -> str:
    """The password as it is kept, worked out here."""
    return SmallArgon2().encode(password, salt)


def verified(password: str, kept: str) -> bool:
    """Whether it is that password, worked out here."""
    return SmallArgon2().verify(password, kept)
