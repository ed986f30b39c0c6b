"""What the tests have done in another process."""

import os

from jungoptic.core.errors import InputError


def who() -> tuple[int, int]:
    """The process, and how much it lets others go first."""
    return os.getpid(), os.nice(0)


def refuse() -> None:
    raise InputError.at("locked", "Nothing called that.")
