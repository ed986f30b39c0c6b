"""What comes out of planning: bookings, what they cost, what is proven, and what stands in the way."""

from __future__ import annotations

from dataclasses import dataclass

from .broken import Costs
from .opening import Rule
from .records import Booking


@dataclass(frozen=True, slots=True)
class Clash:
    """Rules that cannot all be kept, and those of them without any of which all jobs around can be placed."""

    rules: tuple[Rule, ...]
    mends: tuple[Rule, ...]


@dataclass(frozen=True, slots=True)
class Progress:
    """How far planning is (0 … 1), the best plan so far, and the fewest days that are proven."""

    share: float
    bookings: tuple[Booking, ...]
    costs: Costs
    fewest_days: int


@dataclass(frozen=True, slots=True)
class Plan:
    """Bookings in order of time, what they cost, what is proven, and what could not be placed, with why.

    ``fewest_days`` and ``fewest_people_days`` are proven: no plan needs fewer (people-days: none of so few
    days). ``best`` says that nothing better is possible at all, by what counts.
    """

    bookings: tuple[Booking, ...]
    left_out: tuple[str, ...]
    costs: Costs
    fewest_days: int
    fewest_people_days: int
    best: bool
    stopped: bool
    clash: Clash | None = None
