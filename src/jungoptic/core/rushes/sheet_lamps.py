"""Which lamp of a sheet gives how much, by a picture of the sheet; and which to lift to even it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from operator import itemgetter

import numpy as np
import numpy.typing as npt
from scipy.optimize import nnls

from ..light import PlacedLamp
from ..match import SetUp, on_backing_lx
from ..measure import TWICE
from ..wording import number
from .measured import with_error
from .sheet_plane import Region, corners_lose, sheet_places

Array = npt.NDArray[np.float64]
_LEAST_PLACES = 12
_COUNTS = 0.03
"""A lamp that gives less than this share of the light everywhere is left out."""
_UNSURE_STOPS = 0.25
_UNTOLD_STOPS = 1.0
_MODEL_STOPS = 0.02
"""Of what a lamp is said to throw on a sheet: its face is shone as some points."""
_TOLD_STOPS = 0.15
"""Farther than that, rms, a picture is not told by its lamps."""
_TURNS = np.arange(-12, 13) / 6.0
_EVEN_STOPS = 1.0 / 3.0
_WORTH_STOPS = 1.0 / 8.0
"""By which a turn evens the sheet at least, or it is left."""
_ALIKE_STOPS = 1.0 / 16.0
_MOST_TURNS = 2
_FULL_OFF = 0.02
_LEAST_GAIN = 1.0 / 64.0


@dataclass(frozen=True, slots=True)
class LampSeen:
    """A lamp of a sheet: how many stops it gives over what its set-up says, against the lamp of the sheet
    that gives most; two deviations.
    """

    name: str
    stops: float
    off: float

    @property
    def differs(self) -> bool:
        """Whether it gives other than the kit says by more than its error."""
        return abs(self.stops) > max(self.off, _UNSURE_STOPS / 2.0)

    @property
    def text(self) -> str:
        """What it gives, in words."""
        if self.off > _UNTOLD_STOPS:
            return "hidden by the others"
        if not self.differs:
            return f"as the kit says, ± {number(self.off, 1)}"
        return f"{with_error(self.stops, self.off)} stop"


@dataclass(frozen=True, slots=True)
class LampTurn:
    """A lamp that is turned so that a sheet is evener: by so many stops; None is off the sheet altogether, by
    a flag before it, because what it lights is not the sheet.
    """

    name: str
    stops: float | None

    @property
    def text(self) -> str:
        """What to do."""
        if self.stops is None:
            return f"flag {self.name} off the sheet"
        way = "lift" if self.stops > 0 else "lower"
        return f"{way} {self.name} by {number(abs(self.stops), 2)} stop"


@dataclass(frozen=True, slots=True)
class LampsSeen:
    """The lamps of a sheet as a picture shows them: how far they are from telling the picture, rms stops; how
    even the sheet was and would be after the ``turns``, stops over what is seen.
    """

    lamps: tuple[LampSeen, ...]
    rms_stops: float
    was_stops: float
    evened_stops: float
    turns: tuple[LampTurn, ...] = ()

    @property
    def tells(self) -> bool:
        """Whether the lamps as they are planned tell the picture."""
        return self.rms_stops <= _TOLD_STOPS

    @property
    def weakest(self) -> LampSeen | None:
        """The lamp that gives least against its set-up, where that is more than the error."""
        low = min(self.lamps, key=_stops_of)
        return low if low.differs and low.stops < 0 else None

    @property
    def to_do(self) -> str:
        """What evens the sheet, in a sentence; "" where it is even."""
        if self.was_stops <= _EVEN_STOPS:
            return ""
        if not self.turns or self.was_stops - self.evened_stops < _EVEN_STOPS / 2.0:
            return "Set its lamps further off, one to each side: turning them does not even it."
        told = " and ".join(turn.text for turn in self.turns)
        return f"{told[:1].upper()}{told[1:]}: the sheet is then within {number(self.evened_stops, 2)} stop."

    @property
    def points_to(self) -> str:
        """What in the kit it points to; "" where the lamps give what they should."""
        if (lamp := self.weakest) is None:
            return ""
        return f"{lamp.name} gives {with_error(-lamp.stops, lamp.off)} stop less than the kit says."


def _stops_of(lamp: LampSeen) -> float:
    return lamp.stops


def lamps_seen(
    setup: SetUp, field: Iterable[Iterable[float]], within: Region | None = None
) -> LampsSeen | None:
    """How much each lamp of a sheet gives, by the light on it in a picture.

    Every lamp where it stands throws a light of its own shape on the sheet; the picture is told by so much of
    each: ``E = Σ gᵢ·Eᵢ``, each place counting by its own light, no gain below 0.

    Parameters
    ----------
    setup : SetUp
        As it was filmed, with its lamps and its sheet.
    field : iterable of iterable of float
        The light on the sheet in stops over any level, by rows of the recorded frame from its top; NaN where
        the sheet is not seen.
    within : tuple of float, optional
        What is to be even, left, top, width and height in shares of the frame; all of the sheet that is seen
        when left out.

    Returns
    -------
    LampsSeen or None
        None where there is no sheet, too little of it is seen, or no lamp lights it.

    References
    ----------
    inverse_square, lambert, pinhole

    Examples
    --------
    >>> from jungoptic.core.example import ON_GREEN
    >>> spots, seen = sheet_places(ON_GREEN, 18, 32)
    >>> bank = ON_GREEN.lamps[-1]
    >>> weak = ON_GREEN.but(lamps=(*ON_GREEN.lamps[:-1], bank.model_copy(update={"level": bank.level / 2})))
    >>> light = np.where(seen, np.log2(on_backing_lx(weak, spots)).reshape(seen.shape), math.nan)
    >>> found = lamps_seen(ON_GREEN, light)
    >>> found.weakest.name == bank.name, round(found.weakest.stops, 2)
    (True, -1.0)
    """
    backing = setup.backing
    map_stops = np.array([list(row) for row in field], np.float64)
    if backing is None or map_stops.ndim != 2 or not map_stops.size:
        return None
    spots, on_it = sheet_places(setup, *map_stops.shape)
    counts = (np.isfinite(map_stops) & on_it).ravel()
    if np.count_nonzero(counts) < _LEAST_PLACES:
        return None
    lost = corners_lose(setup, *map_stops.shape).ravel()[counts]
    spots, light = spots[counts], 2.0 ** (map_stops.ravel()[counts] + lost)
    lamps = [lamp for lamp in setup.lamps if lamp.level > 0]
    dark = setup.model_copy(update={"lamps": ()})
    day = on_backing_lx(dark, spots)
    each = [on_backing_lx(_only(setup, lamp), spots) for lamp in lamps]
    whole = day + sum(each, np.zeros(len(spots)))
    if not lamps or whole.min() <= 0:
        return None
    kept = [place for place, lit in enumerate(each) if float((lit / whole).max()) > _COUNTS]
    parts = [each[place] for place in kept]
    if float((day / whole).max()) > _COUNTS:
        parts.append(day)
    if not kept:
        return None
    design = np.column_stack(parts) / light[:, None]
    gains, _ = nnls(design, np.ones(len(light)))
    if gains.max() <= 0:
        return None
    told = design @ gains
    rms = float(np.std(np.log2(np.maximum(told, 1e-6))))
    off = np.hypot(_deviations(design, gains, told - 1.0), _MODEL_STOPS)
    strongest = int(np.argmax(gains[: len(kept)]))
    stops = np.log2(np.maximum(gains / max(float(gains[strongest]), 1e-12), _LEAST_GAIN))
    off = np.where(np.arange(len(off)) == strongest, off, np.hypot(off, off[strongest]))
    seen = [LampSeen(lamps[place].name, float(stops[nth]), float(off[nth])) for nth, place in enumerate(kept)]
    lit = np.column_stack(parts) * gains * 2.0 ** -lost[:, None]
    inside = _inside(within, map_stops.shape).ravel()[counts]
    if np.count_nonzero(inside) >= _LEAST_PLACES:
        lit = lit[inside]
    was, evened, turns = _evened(lit, [lamps[place] for place in kept], stops)
    return LampsSeen(tuple(seen), rms, was, evened, turns)


def _inside(region: Region | None, shape: tuple[int, ...]) -> npt.NDArray[np.bool_]:
    """Which parts of a frame lie in a region."""
    rows, columns = shape
    if region is None:
        return np.ones(shape, bool)
    left, top, wide, tall = region
    x, y = (np.arange(columns) + 0.5) / columns, (np.arange(rows) + 0.5) / rows
    across, down = (x >= left) & (x <= left + wide), (y >= top) & (y <= top + tall)
    return np.asarray(down[:, None] & across[None, :])


def _only(setup: SetUp, lamp: PlacedLamp) -> SetUp:
    """A set-up by one lamp alone, without the day."""
    return setup.model_copy(update={"lamps": (lamp,), "sun_at": None})


def _deviations(design: Array, gains: Array, rest: Array) -> Array:
    """Two deviations of every gain, stops: by what the lamps leave of the picture, which is alike at places
    that lie together, so that only a tenth of the places count.
    """
    free = max(1.0, len(rest) / 10.0 - len(gains))
    variance = float(rest @ rest) / len(rest) / free
    spread = np.linalg.pinv(design.T @ design / len(rest)) * variance
    deviation = np.sqrt(np.maximum(np.diag(spread), 0.0))
    return np.asarray(TWICE * deviation / np.maximum(gains, 1e-9) / math.log(2.0), np.float64)


def _evened(
    lit: Array, lamps: Sequence[PlacedLamp], stops: Array
) -> tuple[float, float, tuple[LampTurn, ...]]:
    """How even a sheet is, how even it becomes, and by which lamps turned: one after another the one that
    helps most. The sheet's own are lifted no further than they go, or lowered; of the others, which light
    what stands before it, nothing is asked but that they are kept off.
    """
    own = [lamp.role == "backing" for lamp in lamps]
    free = own if any(own) else [True] * len(lamps)
    by = np.ones(lit.shape[1])
    was = now = _spread(lit, by)
    for _ in range(_MOST_TURNS):
        tried = [
            (*_helps(lit, turned, lowers=bool(turned[nth] < 1.0)), nth, turned)
            for nth, lamp in enumerate(lamps)
            for turned in _ways(by, nth, lamp.level * 2.0 ** stops[nth], free[nth])
        ]
        if now <= _EVEN_STOPS or not tried:
            break
        _, _, left, _, turned = min(tried, key=itemgetter(0, 1, 2, 3))
        if left > now - _WORTH_STOPS:
            break
        now, by = left, turned
    turns = tuple(
        LampTurn(lamp.name, float(np.log2(by[nth])) if by[nth] > 0 else None)
        for nth, lamp in enumerate(lamps)
        if by[nth] != 1.0
    )
    return was, now, turns


def _spread(lit: Array, by: Array) -> float:
    low, high = np.percentile((lit * by).sum(axis=1), (2.0, 98.0))
    return float(np.log2(max(high, 1e-9) / max(low, 1e-9)))


def _helps(lit: Array, by: Array, *, lowers: bool) -> tuple[int, bool, float]:
    """In which order turns are taken: of what helps alike lifting comes before lowering."""
    left = _spread(lit, by)
    return round(left / _ALIKE_STOPS), lowers, left


def _ways(by: Array, nth: int, level: float, free: bool) -> Iterator[Array]:
    """How one lamp may be turned: ``level`` is what it gives of all that it can."""
    if by[nth] != 1.0:
        return
    for share in 2.0**_TURNS if free else (0.0,):
        if share != 1.0 and level * share <= 1.0 + _FULL_OFF:
            turned = by.copy()
            turned[nth] = share
            yield turned
