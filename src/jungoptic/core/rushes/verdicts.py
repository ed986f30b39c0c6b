"""Whether what was measured shows: judged by the tolerances of the ladder."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..match import ITEMS, Tolerance, ladder, verdict
from ..measure import Amount
from ..vocabulary import Verdict


@dataclass(frozen=True, slots=True)
class JudgedBy:
    """The item of the ladder that judges a measured amount. ``pair`` says that it is measured between two
    recordings of one set-up, or two frames of one, which are planned alike; ``locked`` that it is so of a
    camera that is to stand still; ``more`` that the item counts what is over 1.
    """

    item: str
    pair: bool = False
    more: bool = False
    locked: bool = False


ITEM_OF: dict[tuple[str, str], JudgedBy] = {
    ("evenness", "evenness"): JudgedBy("evenness"),
    ("key", "spill"): JudgedBy("spill"),
    ("still", "moved"): JudgedBy("split_line", pair=True),
    ("still", "parallax"): JudgedBy("split_line", pair=True),
    ("change", "there"): JudgedBy("brightness", pair=True),
    ("change", "white"): JudgedBy("colour", pair=True),
    ("change", "focus"): JudgedBy("focus_near", pair=True),
    ("flicker", "flicker"): JudgedBy("flicker"),
    ("clip", "flicker"): JudgedBy("flicker"),
    ("clip", "changed"): JudgedBy("brightness", pair=True, locked=True),
    ("clip", "camera"): JudgedBy("split_line", pair=True, locked=True),
    ("ball", "direction"): JudgedBy("direction"),
    ("ball", "hardness"): JudgedBy("hardness"),
    ("ball", "key_fill_apart"): JudgedBy("key_fill"),
    ("grey", "over_hero"): JudgedBy("brightness"),
    ("grey", "white_apart"): JudgedBy("colour"),
    ("grain", "ratio"): JudgedBy("grain", more=True),
    ("edge", "blur"): JudgedBy("focus_near"),
    ("black", "black"): JudgedBy("black"),
    ("wobble", "enlarged"): JudgedBy("final_framing", pair=True, more=True),
}
"""What judges an amount of a row. Two pictures of a camera that was locked meet along a line, whether they
are halves or a plate and what cleans it: how far the one moved is judged as that line. What steadying
enlarges is judged as a final framing does.
"""


@dataclass(frozen=True, slots=True)
class AmountJudged:
    """An amount of a row as an item of the ladder: ``size`` in the item's unit with its error, its verdict,
    and where it lies in multiples of what holds and shows. ``pair`` as in :class:`JudgedBy`.
    """

    amount: str
    item: str
    label: str
    unit: str
    size: float
    off: float | None
    verdict: Verdict
    ladder: float
    pair: bool


_PERCENT = 100.0


def judged(
    what: str, amounts: Iterable[Amount], tolerances: Mapping[str, Tolerance]
) -> tuple[AmountJudged, ...]:
    """The verdicts of a row, the worst first.

    Parameters
    ----------
    what : str
        The row.
    amounts : iterable of Amount
        What it came to.
    tolerances : mapping of str to Tolerance
        In place of the items' own, by item.

    Returns
    -------
    tuple of AmountJudged
        Of those amounts that an item of the ladder judges.

    Examples
    --------
    >>> moved = Amount("moved", "Camera moved", 2.3, 0.1, "px")
    >>> [(each.item, each.verdict) for each in judged("still", [moved], {})]
    [('split_line', 'tight')]
    >>> judged("still", [moved], {"split_line": Tolerance(3.0, 5.0)})[0].verdict
    'holds'
    >>> round(judged("grain", [Amount("ratio", "Against the hero", 0.5, 0.1, "×")], {})[0].size, 2)
    1.0
    """
    told = []
    for amount in amounts:
        if (by := ITEM_OF.get((what, amount.name))) is None:
            continue
        item = ITEMS[by.item]
        size, off = _size(by, amount, item.unit)
        limit = tolerances.get(by.item, item.tolerance)
        # of two recordings it is said what changed: the item's own name is that of a layer against the hero
        label = amount.title if by.pair else item.label
        place = float(ladder(size, limit))
        told.append(
            AmountJudged(
                amount.name, by.item, label, item.unit, size, off, verdict(size, limit), place, by.pair
            )
        )
    return tuple(sorted(told, key=_place))


def _size(by: JudgedBy, amount: Amount, unit: str) -> tuple[float, float | None]:
    """An amount as its item counts: without a sign; what is over 1 times, either way."""
    if not by.more:
        return abs(amount.value), amount.off
    times = max(amount.value, 1e-6)
    more = max(times, 1.0 / times)
    scale = _PERCENT if unit == "%" else 1.0
    # an error of the ratio weighs as the square of its inverse where it is turned over
    off = None if amount.off is None else scale * amount.off * (more / times)
    return scale * (more - 1.0), off


def _place(row: AmountJudged) -> float:
    return -row.ladder
