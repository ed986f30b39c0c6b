"""What the tests have done in another process."""

import os
import signal
import time

from jungoptic.core.errors import InputError


def who() -> tuple[int, int]:
    """The process, and how much it lets others go first."""
    return os.getpid(), os.nice(0)


def begin_slowly(*_: int) -> None:
    time.sleep(1.0)


def refuse() -> None:
    raise InputError.at("locked", "Nothing called that.")


def take_memory(count: int) -> int:
    """So many bytes, written to."""
    return len(b"\x01" * count)


def break_off() -> None:
    """As a reader that a damaged file breaks."""
    os.kill(os.getpid(), signal.SIGSEGV)
