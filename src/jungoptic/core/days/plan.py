"""What comes out of planning: bookings, what they cost, what is proven, and what stands in the way."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from .broken import Costs
from .opening import Rule
from .records import Booking, Shooting


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


def plan_days(
    shooting: Shooting,
    told: Callable[[Progress], object] | None = None,
    stop: Callable[[], bool] | None = None,
    effort: float = 1.0,
    now: tuple[date, int] | None = None,
) -> Plan:
    """Order jobs into days: fewest days, then fewest people-days, least changing, least waiting, earliest.

    Few jobs are solved whole, to the end. Of more, a first plan is made by putting jobs in one by one and
    taking some out again; the solver then makes any two of its days as good as they can be, until none gets
    better, and proves by a relaxation how few days any plan needs. The same shooting gives the same plan.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    told : callable, optional
        Called with a :class:`Progress` whenever there is a better plan, and now and then.
    stop : callable, optional
        Asked now and then; where it says yes, the best plan so far is what comes out.
    effort : float, default 1
        How long to look, against the usual.
    now : tuple of date and int, optional
        A day and a minute of it: nothing but what is locked begins earlier.

    Returns
    -------
    Plan
        It keeps every rule; where not all jobs can be placed, it holds those that can, and says which rules
        together keep out the rest.

    Raises
    ------
    InputError
        What no plan can be made from, at its place: see :func:`plan_faults`.

    References
    ----------
    cp_sat, ruin_recreate, days_order

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> plan = plan_days(EXAMPLE)
    >>> plan.costs.days, plan.fewest_days, plan.left_out
    (1, 1, ())
    """
    from .faults import refuse_faults
    from .search import Search  # the solver takes a second to load: only where it is wanted

    refuse_faults(shooting)
    return Search(shooting, told or (lambda _: None), stop or (lambda: False), effort, now).plan()
