"""Points of the figure: how far each is off its spacing, whether a planted foot slides, and walks planned."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from types import MappingProxyType

from ..match import Tolerance, verdict
from ..vocabulary import Verdict
from ..wording import number
from .spacing import STROBES_PX, KeyPose, settles
from .watch import Warned, ways

Place = tuple[float, float]
"""To the right and down, delivered px."""
POINT_LIMITS: Mapping[str, Tolerance] = MappingProxyType(
    {"spacing": Tolerance(2.0, 5.0), "path": Tolerance(5.0, 12.0), "slide": Tolerance(1.0, 2.5)}
)
"""Of a point, delivered px: its step against the planned one, its place against its path, and a foot that
has to stand.
"""


@dataclass(frozen=True, slots=True)
class PointAt:
    """A point at a pose, delivered px: where it is planned to be and where it is seen, None where nothing is
    planned or it was not found.
    """

    planned: Place | None
    seen: Place | None


@dataclass(frozen=True, slots=True)
class Slide:
    """What a foot slid while it had to stand, from the frame ``first`` of the shot to ``last``: the most that
    it was off where it came down, delivered px; None where it is seen at fewer than two poses.
    """

    first: int
    last: int
    px: float | None
    verdict: Verdict | None


@dataclass(frozen=True, slots=True)
class Walk:
    """How one foot walks: it stands at (``x``, ``y``), delivered px, until the frame ``begins`` of the shot;
    a step of one of both feet takes ``step_frames`` and goes by (``right_px``, ``down_px``); of ``steps`` in
    all this foot makes the first, third and so on where it ``leads``, else the second, fourth; in the middle
    of each it is lifted by ``lift_px``.
    """

    x: float
    y: float
    begins: int
    step_frames: int
    steps: int
    right_px: float
    down_px: float = 0.0
    lift_px: float = 0.0
    leads: bool = True


def off_spacing(name: str, here: PointAt, before: PointAt | None, mm_px: float | None) -> tuple[Warned, ...]:
    """What is to be said of a point at a pose, before the next is moved.

    Parameters
    ----------
    name : str
        Of the point.
    here, before : PointAt
        At this pose, and at the one before it; None at the first.
    mm_px : float or None
        How many delivered px a millimetre of the set is, where that is known.

    Returns
    -------
    tuple of Warned
        Its step against the planned one, which is seen as a jerk; and its place against its path, which adds
        up; nothing where both hold.

    References
    ----------
    spacing, tol_spacing

    Examples
    --------
    >>> before, here = PointAt((10.0, 0.0), (10.0, 0.0)), PointAt((20.0, 0.0), (13.0, 0.0))
    >>> [each.text for each in off_spacing("Beak", here, before, 2.0)][0]
    'Beak went 3 px where 10 are planned: 7 px (3.5 mm) off its spacing.'
    """
    if here.planned is None or here.seen is None:
        return ()
    told = []
    if before is not None and before.planned is not None and before.seen is not None:
        went, planned = _from(before.seen, here.seen), _from(before.planned, here.planned)
        off = math.dist(went, planned)
        if (word := verdict(off, POINT_LIMITS["spacing"])) != "holds":
            text = (
                f"{name} went {number(math.hypot(*went), 2)} px where {number(math.hypot(*planned), 2)} are"
                f" planned: {_measured(off, mm_px)} off its spacing."
            )
            told.append(Warned("spacing", "last", off, "px", word, text))
    right, down = _from(here.planned, here.seen)
    if (word := verdict(math.hypot(right, down), POINT_LIMITS["path"])) != "holds":
        off = math.hypot(right, down)
        text = f"{name} stands {_measured(off, mm_px)} off its path: {_ways(right, down)}."
        told.append(Warned("path", "first", off, "px", word, text))
    return tuple(told)


_SAID_PX = 0.5


def _from(place: Place, to: Place) -> Place:
    return to[0] - place[0], to[1] - place[1]


def _measured(px: float, mm_px: float | None) -> str:
    in_mm = "" if not mm_px else f" ({number(px / mm_px, 2)} mm)"
    return f"{number(px, 2)} px{in_mm}"


def step_text(right_px: float, down_px: float, mm_px: float | None) -> str:
    """How far a point goes to the next pose, in words.

    Parameters
    ----------
    right_px, down_px : float
        Delivered px.
    mm_px : float or None
        How many of them a millimetre of the set is, where that is known.

    Returns
    -------
    str
        The step, and its ways.

    References
    ----------
    spacing

    Examples
    --------
    >>> step_text(6.0, -8.0, 2.0)
    '10 px (5 mm): 6 right, 8 up'
    >>> step_text(0.0, 0.1, None)
    'it stands'
    """
    ways = _ways(right_px, down_px)
    return f"{_measured(math.hypot(right_px, down_px), mm_px)}: {ways}" if ways else "it stands"


def _ways(right_px: float, down_px: float) -> str:
    return ", ".join(ways(right_px, down_px, _SAID_PX))


def strobing(places: Sequence[Place]) -> tuple[int, ...]:
    """Poses to which a point goes farther than can be without blur.

    Parameters
    ----------
    places : sequence of (float, float)
        Of the point at each pose, delivered px.

    Returns
    -------
    tuple of int
        Places in the sheet, from 0.

    References
    ----------
    strobe_steps

    Examples
    --------
    >>> strobing([(0.0, 0.0), (20.0, 0.0), (50.0, 0.0)])
    (2,)
    """
    return tuple(
        number for number, (near, far) in enumerate(pairwise(places), 1) if math.dist(near, far) > STROBES_PX
    )


def slides(
    planted: Sequence[tuple[int, int]], frames: Sequence[int], seen: Sequence[Place | None]
) -> tuple[Slide, ...]:
    """How far a foot slides while it has to stand.

    Parameters
    ----------
    planted : sequence of (int, int)
        From which frame of the shot to which, both included, it stands.
    frames : sequence of int
        The first frame of each pose.
    seen : sequence of (float, float) or None
        Where it is seen at each, delivered px.

    Returns
    -------
    tuple of Slide
        For each time that it stands, from where it is first seen in it.

    References
    ----------
    foot_slide, tol_slide

    Examples
    --------
    >>> [slide] = slides([(1, 5)], (1, 3, 5, 7), [(0.0, 0.0), (1.0, 0.0), (3.0, 4.0), (30.0, 0.0)])
    >>> slide.px, slide.verdict
    (5.0, 'shows')
    """
    told = []
    for first, last in planted:
        there = [
            place
            for frame, place in zip(frames, seen, strict=True)
            if first <= frame <= last and place is not None
        ]
        px = max(math.dist(there[0], place) for place in there) if len(there) > 1 else None
        told.append(Slide(first, last, px, None if px is None else verdict(px, POINT_LIMITS["slide"])))
    return tuple(told)


def walked(walk: Walk) -> tuple[tuple[KeyPose, ...], tuple[tuple[int, int], ...]]:
    """A foot's keys through a walk, and when it stands.

    Parameters
    ----------
    walk : Walk
        How it walks.

    Returns
    -------
    tuple of (tuple of KeyPose, tuple of (int, int))
        Where it lifts, is highest and comes down, eased at both ends; and from which frame of the shot to
        which it stands. Its first step is one step long where it leads, all between are two, and the last
        closes up to the other foot where it is the last of all.

    Raises
    ------
    ValueError
        Where a step is shorter than 2 frames or there is none.

    References
    ----------
    walk_steps

    Examples
    --------
    >>> keys, planted = walked(Walk(0.0, 500.0, 1, 12, 3, 40.0, lift_px=8.0))
    >>> [(key.frame, key.x, key.y) for key in keys][:3], planted
    ([(1, 0.0, 500.0), (7, 20.0, 492.0), (13, 40.0, 500.0)], ((1, 1), (13, 25), (37, 37)))
    """
    if walk.step_frames < _SHORTEST_STEP or walk.steps < 1:
        raise ValueError("a walk has a step at least, of 2 frames at least")
    keys: list[KeyPose] = []
    planted: list[tuple[int, int]] = []
    stands, frame = 0, walk.begins
    for count in range(0 if walk.leads else 1, walk.steps, 2):
        lifts, lands = walk.begins + count * walk.step_frames, walk.begins + (count + 1) * walk.step_frames
        goes_to = min(count + 1, walk.steps - 1) if count else 1
        planted.append((frame, lifts))
        middle = (lifts + lands) // 2
        keys += [
            _stands(walk, lifts, stands, eases_out=_EASED),
            _stands(walk, middle, (stands + goes_to) / 2.0, up=walk.lift_px),
            _stands(walk, lands, goes_to, eases_in=_EASED),
        ]
        stands, frame = goes_to, lands
    ends = walk.begins + walk.steps * walk.step_frames
    planted.append((frame, max(frame, ends)))
    return _in_order(keys or [_stands(walk, walk.begins, 0)]), tuple(planted)


_SHORTEST_STEP, _EASED = 2, 0.4


def _stands(
    walk: Walk, frame: int, steps: float, up: float = 0.0, eases_in: float = 0.0, eases_out: float = 0.0
) -> KeyPose:
    x, y = walk.x + steps * walk.right_px, walk.y + steps * walk.down_px - up
    return KeyPose(frame, x, y, eases_in, eases_out)


def _in_order(keys: Sequence[KeyPose]) -> tuple[KeyPose, ...]:
    """Where a foot lands and lifts at one frame, it is one key that does both."""
    kept: dict[int, KeyPose] = {}
    for key in keys:
        there = kept.get(key.frame)
        kept[key.frame] = (
            KeyPose(key.frame, key.x, key.y, there.eases_in, key.eases_out) if there is not None else key
        )
    return tuple(kept[frame] for frame in sorted(kept))


def settled(keys: Sequence[KeyPose], reach_px: float, poses: int, on: int) -> tuple[KeyPose, ...]:
    """A path that goes beyond where it ends, and settles.

    Parameters
    ----------
    keys : sequence of KeyPose
        Two at least.
    reach_px : float
        How far it goes beyond at first, the way it came.
    poses : int
        After which it rests.
    on : int
        Frames a pose.

    Returns
    -------
    tuple of KeyPose
        The keys, and one for each pose of the settling; the last is where it ended before.

    Raises
    ------
    ValueError
        Where there are fewer than two keys, or the last two are at one place.

    References
    ----------
    settle

    Examples
    --------
    >>> keys = settled([KeyPose(1, 0.0, 0.0), KeyPose(13, 30.0, 40.0)], 5.0, 3, 2)
    >>> [(key.frame, round(key.x, 2), round(key.y, 2)) for key in keys[2:]]
    [(15, 33.0, 44.0), (17, 28.5, 38.0), (19, 30.0, 40.0)]
    """
    if len(keys) < 2:
        raise ValueError("what settles comes from somewhere: two keys at least")
    before, last = keys[-2:]
    way = math.hypot(last.x - before.x, last.y - before.y)
    if not way:
        raise ValueError("the last two keys are at one place: there is no way that it came")
    across, down = (last.x - before.x) / way, (last.y - before.y) / way
    more = (
        KeyPose(last.frame + number * on, last.x + across * off, last.y + down * off)
        for number, off in enumerate(settles(reach_px, poses), 1)
    )
    return (*keys, *more)
