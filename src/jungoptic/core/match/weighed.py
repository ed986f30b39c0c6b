"""What counts more: the one number by which ways to shoot a layer are put in order.

Lexicographic, and a plain sum over items and layers: how far the items are beyond all bearing, how many show,
how many are tight, and how far all of them are along their ladders. Being a sum, parts that depend on
different dials can be weighed apart and added.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Any

import numpy as np
import numpy.typing as npt

from ..vocabulary import School
from .limits import covers, measured_tolerance, only_informs
from .measure import Match
from .tolerances import ITEMS, Tolerance, ladders

Weights = npt.NDArray[np.int64]

FAR = 4.0
"""Place on the ladder beyond which how far counts more than how many: four times what is tight."""
_EDGE = 1e-9
_TIGHT, _SHOWS, _FAR, _MANY = 1 << 30, 1 << 40, 1 << 50, (1 << 10) - 1
_THOUSANDTHS = 1000.0


def weight_of(place: Any) -> Weights:
    """The weight of one item from its place on the ladder.

    Parameters
    ----------
    place : float or ndarray
        See :func:`~.tolerances.ladder`.

    Returns
    -------
    ndarray of int64
        Doublings beyond :data:`FAR`, begun ones too; whether it shows; whether it is tight; the square of its
        place in thousandths: each in bits of its own, so that sums compare in that order.
    """
    place = np.asarray(place, dtype=float)
    shows = place > 2.0 + _EDGE
    tight = (place > 1.0 + _EDGE) & ~shows
    beyond = np.ceil(np.maximum(place - FAR - _EDGE, 0.0)).astype(np.int64)
    along = np.rint(_THOUSANDTHS * np.minimum(place, 100.0) ** 2).astype(np.int64)
    weights: Weights = beyond * _FAR + shows * _SHOWS + tight * _TIGHT + along
    return weights


def amount_uncovered(match: Match, item: str, amount: Any, school: School, base: Tolerance) -> Any:
    """An amount as if nothing covered it, so that ``base`` judges it as the school does.

    Parameters
    ----------
    match : Match
        The layer, measured: one set-up, or many.
    item : str
        Key of the item.
    amount : float or ndarray
        In the item's unit.
    school : {"measured", "covered"}
        Whether what blur covers counts.
    base : Tolerance
        What judges it where nothing covers it.

    Returns
    -------
    float or ndarray
        Not more than ``amount``.
    """
    if school == "covered" and ITEMS[item].in_pixels:
        for cover_px, _ in covers(match, item):
            amount = np.minimum(amount, amount / np.maximum(cover_px / base.holds, 1.0))
    return amount


def item_weight(
    match: Match, item: str, amount: Any, school: School, custom: Mapping[str, Tolerance]
) -> Weights:
    """The weight of an amount of one item of this layer; 0 where the item only informs.

    Parameters
    ----------
    match : Match
        The layer, measured: one set-up, or many.
    item : str
        Key of the item.
    amount : float or ndarray
        In the item's unit.
    school : {"measured", "covered"}
        Whether what blur covers counts.
    custom : mapping of str to Tolerance
        In place of the items' own, by key.

    Returns
    -------
    ndarray of int64
        As many as there are amounts.
    """
    if only_informs(match, item):
        return np.zeros(np.shape(amount), dtype=np.int64)
    base = measured_tolerance(match, item, custom)
    return weight_of(ladders(amount_uncovered(match, item, amount, school, base), base))


def weighed(
    match: Match,
    school: School,
    custom: Mapping[str, Tolerance],
    but: Collection[str] = (),
    by: Match | None = None,
) -> Weights:
    """The weight of a layer as it is filmed: the sum over its items.

    Parameters
    ----------
    match : Match
        The layer, measured: one set-up, or many.
    school : {"measured", "covered"}
        Whether what blur covers counts.
    custom : mapping of str to Tolerance
        In place of the items' own, by key.
    but : collection of str, optional
        Items that are left out.
    by : Match, optional
        The same layer measured whole, where ``match`` has only some parts: what it is judged by.

    Returns
    -------
    ndarray of int64
        Less is better.

    References
    ----------
    ladder

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> as_it_stands, lower = (
    ...     weighed(Match(HERO, MILL, MODEL.but(lens_height_m=height_m), DELIVERY), "measured", {})
    ...     for height_m in (0.35, 0.133)
    ... )
    >>> bool(lower < as_it_stands)
    True
    """
    total: Weights = np.zeros((), dtype=np.int64)
    for item, amount in match.amounts.items():
        if item not in but:
            total = total + item_weight(by or match, item, amount, school, custom)
    return total


def counts_of(weight: int) -> tuple[int, int, int]:
    """What a weight says: doublings beyond :data:`FAR`, items that show, items that are tight."""
    return weight // _FAR, weight // _SHOWS & _MANY, weight // _TIGHT & _MANY
