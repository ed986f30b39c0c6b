"""Names that nobody has yet."""

from __future__ import annotations

from collections.abc import Collection


def free_name(name: str, taken: Collection[str], between: str = "-") -> str:
    """The name, or the first of it with a number behind that is not taken."""
    return next(
        one
        for number in range(1, len(taken) + 3)
        if (one := name if number == 1 else f"{name}{between}{number}") not in taken
    )
