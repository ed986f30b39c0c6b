"""How passwords are kept: Argon2id at a cost that a small machine can pay."""

from django.contrib.auth.hashers import Argon2PasswordHasher


class SmallArgon2(Argon2PasswordHasher):
    """19 MiB, two passes, one lane: the least of what the OWASP Password Storage Cheat Sheet (2023)
    recommends for Argon2id (RFC 9106). About 40 ms on one core of a small machine: ``./run bench load``.
    """

    time_cost = 2
    memory_cost = 19_456  # KiB
    parallelism = 1
