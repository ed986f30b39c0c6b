"""What is locked stays as far as it can: where two locked jobs exclude one another, the later gives way."""

from __future__ import annotations

from collections.abc import Mapping

from .checking import plan_breaks
from .records import Booking, Shooting


def settled(shooting: Shooting) -> Shooting:
    """The same with locks that can stand beside one another.

    A locked job may break rules by itself (it runs on after its people should have gone): it stays, and
    planning goes round it. Of locked jobs that break one together the later is not locked any more.

    Parameters
    ----------
    shooting : Shooting
        With what is locked.

    Returns
    -------
    Shooting
        The one that was given where nothing gives way.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> both = [Booking(job=key, date="2027-10-16", start="10:00", locked=True) for key in ("cup", "mill")]
    >>> [own.job for own in settled(EXAMPLE.model_copy(update={"locked": tuple(both)})).locked]
    ['cup']
    """
    locked = {booking.job: booking for booking in shooting.locked}
    while True:
        together = [
            fault.jobs
            for fault in plan_breaks(shooting.model_copy(update={"locked": ()}), tuple(locked.values()))
            if not fault.warns and len(set(fault.jobs)) > 1
        ]
        if not together:
            break
        del locked[max(together[0], key=lambda key: (locked[key].date, locked[key].start, key))]
    if len(locked) == len(shooting.locked):
        return shooting
    return shooting.model_copy(update={"locked": tuple(locked.values())})


def keeps_rules(shooting: Shooting, bookings: Mapping[str, Booking]) -> bool:
    """Whether a plan breaks nothing but what was waived, and what a locked job breaks by itself."""
    locked = {booking.job for booking in shooting.locked}
    return all(
        fault.warns or (len(set(fault.jobs)) == 1 and set(fault.jobs) <= locked)
        for fault in plan_breaks(shooting, tuple(bookings.values()))
    )
