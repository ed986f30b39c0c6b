"""Whether what was measured shows: judged by the tolerances of the ladder."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..match import ITEMS, Tolerance, ladder, verdict
from ..vocabulary import Verdict

ITEM_OF: dict[tuple[str, str], str] = {
    ("evenness", "evenness"): "evenness",
    ("still", "moved"): "split_line",
    ("change", "there"): "brightness",
    ("change", "white"): "colour",
    ("change", "focus"): "focus_near",
    ("flicker", "flicker"): "flicker",
    ("clip", "flicker"): "flicker",
    ("ball", "direction"): "direction",
}
"""The item of the ladder that judges an amount of a row. Two pictures of a camera that was locked meet along
a line, whether they are halves or a plate and what cleans it: how far the one moved is judged as that line.
"""


@dataclass(frozen=True, slots=True)
class AmountJudged:
    """An amount of a row as an item of the ladder: its verdict, and where it lies in multiples of what holds
    and shows.
    """

    amount: str
    item: str
    label: str
    verdict: Verdict
    ladder: float


def judged(
    what: str, amounts: Mapping[str, float], tolerances: Mapping[str, Tolerance]
) -> tuple[AmountJudged, ...]:
    """The verdicts of a row, the worst first.

    Parameters
    ----------
    what : str
        The row.
    amounts : mapping of str to float
        What it came to, by name, in their units.
    tolerances : mapping of str to Tolerance
        Those that the production says, by item.

    Returns
    -------
    tuple of AmountJudged
        Of those amounts that an item of the ladder judges.

    Examples
    --------
    >>> [(each.item, each.verdict) for each in judged("still", {"moved": 2.3, "right": 2.0}, {})]
    [('split_line', 'tight')]
    >>> judged("still", {"moved": 2.3}, {"split_line": Tolerance(3.0, 5.0)})[0].verdict
    'holds'
    """
    told = []
    for name, value in amounts.items():
        if (key := ITEM_OF.get((what, name))) is None:
            continue
        item = ITEMS[key]
        by = tolerances.get(key, item.tolerance)
        size = abs(value)
        told.append(AmountJudged(name, key, item.label, verdict(size, by), float(ladder(size, by))))
    return tuple(sorted(told, key=_place))


def _place(row: AmountJudged) -> float:
    return -row.ladder
