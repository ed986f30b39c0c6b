"""Set pieces that serve as several: the fewest that must be built, and where each stands for every view."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from .seen import SeenPart

ALIKE = 0.15
_MOST_STEPS = 20_000  # of the search; beyond it the best that was met is taken


@dataclass(frozen=True, slots=True)
class Reused:
    """One piece on wheels that is built once and serves as several: their names, the largest first, the area
    that is spared, m², and as which of them it stands for each view.
    """

    names: tuple[str, ...]
    saves_m2: float
    stands: tuple[tuple[str, str], ...]


def _interchangeable(first: SeenPart, second: SeenPart) -> bool:
    """Never in one frame, and alike in what must be made of them."""
    own, its = first.made_box_m(), second.made_box_m()
    if own is None or its is None or set(first.by) & set(second.by):
        return False
    (wide, tall), (its_wide, its_tall) = ((box_m[2] - box_m[0], box_m[3] - box_m[1]) for box_m in (own, its))
    return max(wide / its_wide, its_wide / wide, tall / its_tall, its_tall / tall) <= 1.0 + ALIKE


def fewest_colours(conflicts: Sequence[frozenset[int]]) -> list[int]:
    """Colours for the nodes of a graph so that no two that conflict are alike, as few as can be.

    The node with the most colours round it goes next, with each colour that is free and one new one; what
    cannot come under the best so far is left.

    Parameters
    ----------
    conflicts : sequence of frozenset of int
        For each node those that it conflicts with.

    Returns
    -------
    list of int
        A colour for each node, from 0. Fewest where the search came to its end, which for some dozens of
        pieces it does.

    References
    ----------
    graph_colouring

    Examples
    --------
    >>> fewest_colours([frozenset({1}), frozenset({0, 2}), frozenset({1})])
    [1, 0, 1]
    """
    count = len(conflicts)
    best, fewest, steps = list(range(count)), count, 0

    def colour(given: dict[int, int], used: int) -> None:
        nonlocal best, fewest, steps
        steps += 1
        if used >= fewest or steps > _MOST_STEPS:
            return
        if len(given) == count:
            best, fewest = [given[node] for node in range(count)], used
            return
        node = max(
            (node for node in range(count) if node not in given),
            key=lambda node: (
                len({given[other] for other in conflicts[node] if other in given}),
                len(conflicts[node]),
                -node,
            ),
        )
        taken = {given[other] for other in conflicts[node] if other in given}
        for shade in (*(free for free in range(used) if free not in taken), used):
            colour({**given, node: shade}, max(used, shade + 1))

    colour({}, 0)
    return best


def fewest_pieces(parts: Sequence[SeenPart]) -> tuple[Reused, ...]:
    """Pieces on wheels that serve as several, so that the fewest must be built.

    Two conflict where some view sees both, or where they are not alike; pieces of one colour are one piece.

    Parameters
    ----------
    parts : sequence of SeenPart
        As :func:`seen_parts` gave them.

    Returns
    -------
    tuple of Reused
        Those that serve as more than one, with where they stand.

    References
    ----------
    alike_pieces, graph_colouring

    Examples
    --------
    >>> from jungoptic.core.plan import Piece, View, seen_parts
    >>> flats = [Piece(name=name, x_m=x, z_m=6, width_m=2, wheels=True) for name, x in (("A", -3), ("B", 3))]
    >>> views = [
    ...     View(name=f"{x}", x_m=x, height_m=1.2, f_px=2860, width_px=1920, height_px=1080) for x in (-3, 3)
    ... ]
    >>> only = fewest_pieces(seen_parts(flats, views))[0]
    >>> only.names, only.stands
    (('A', 'B'), (('-3', 'A'), ('3', 'B')))
    """
    wheeled = [
        part
        for part in parts
        if part.piece.wheels and part.piece.made == "built" and part.made_box_m() is not None
    ]
    conflicts = [
        frozenset(
            other for other, its in enumerate(wheeled) if other != place and not _interchangeable(part, its)
        )
        for place, part in enumerate(wheeled)
    ]
    shades = fewest_colours(conflicts)
    reused = []
    for shade in sorted(set(shades)):
        own = [part for part, other in zip(wheeled, shades, strict=True) if other == shade]
        if len(own) < 2:
            continue
        own.sort(key=lambda part: -_made_m2(part))
        stands = tuple((view, part.piece.name) for part in own for view in dict.fromkeys(part.by))
        spared = sum(_made_m2(part) for part in own[1:])
        reused.append(Reused(tuple(part.piece.name for part in own), spared, tuple(sorted(stands))))
    return tuple(reused)


def _made_m2(part: SeenPart) -> float:
    box_m = part.made_box_m()
    return (box_m[2] - box_m[0]) * (box_m[3] - box_m[1]) if box_m else 0.0
