"""How much more a card takes."""

from __future__ import annotations

import math


def takes_left(free_bytes: float, bytes_per_s: float, take_s: float) -> int:
    """How many more takes go onto a card, at the rate at which its files were really written.

    Parameters
    ----------
    free_bytes : float
        What is free on it.
    bytes_per_s : float
        Bytes of a second of film.
    take_s : float
        Length of a take, s.

    Returns
    -------
    int
        Whole takes.

    Raises
    ------
    ValueError
        Where the rate or the length is not more than 0.

    References
    ----------
    card_bytes

    Examples
    --------
    >>> takes_left(64e9, 12.5e6, 40.0)
    128
    """
    if not (bytes_per_s > 0 and take_s > 0):
        raise ValueError("a rate and a length are more than 0")
    return math.floor(free_bytes / (bytes_per_s * take_s))
