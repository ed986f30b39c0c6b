"""Which file is which take: by the code on its slate, else by time, else by what it was recorded with."""

from __future__ import annotations

import math
import statistics
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

Sure = Literal["matched", "likely", "unknown"]
By = Literal["code", "time", "settings", "hand", ""]
_LEAST_WINDOW_S = 10.0
"""A take is logged by hand: nobody is quicker than this."""
_MOST_WINDOW_S = 600.0
_SPREADS = 3.0
_TO_DEVIATION = 1.4826
"""Of a median absolute deviation, for what is spread as a normal distribution."""
_CLEARLY = 2.0
"""The next take, or the next file, must be so many times as far away."""
_RATE_OFF = 0.002
"""Between 23.976 and 24 lies 0.001: cameras write either for both."""
_SETTING_OFF = 0.06
"""Less than a sixth of a stop, which is how finely tags are rounded."""
_MOST_OTHERS = 4


@dataclass(frozen=True, slots=True)
class Clip:
    """What a file tells that could say whose it is.

    ``codes`` are those of the takes that its slates name. ``began_s`` is what the camera's own clock said
    (seconds since 1970, as if it were right). ``ends`` is a digest of its bytes at both ends. ``settings``
    are by their fields in a set-up.
    """

    name: str
    codes: tuple[str, ...] = ()
    began_s: float | None = None
    length_s: float | None = None
    width_px: int | None = None
    rate_fps: float | None = None
    ends: str = ""
    settings: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class LoggedTake:
    """A take as it was logged: ``logged_s`` by the clock of the telephone, seconds since 1970; ``least_s`` is
    how long it must have rolled at least.
    """

    key: int
    code: str = ""
    logged_s: float = 0.0
    least_s: float = 0.0
    width_px: int | None = None
    rate_fps: float | None = None
    settings: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class CameraClock:
    """How far the camera's clock is behind the telephones': ``behind_s`` is added to what it says.

    ``spread_s`` is the deviation of a single file, from ``files`` of them. ``from_end``: takes are logged
    nearer to when a file ends than to when it begins.
    """

    behind_s: float
    spread_s: float
    files: int
    from_end: bool

    def moment_s(self, clip: Clip) -> float | None:
        """When a take of this file would have been logged.

        Parameters
        ----------
        clip : Clip
            What the file tells.

        Returns
        -------
        float or None
            Seconds since 1970; None where the file says no time.

        Examples
        --------
        >>> CameraClock(60.0, 5.0, 3, False).moment_s(Clip("A", began_s=100.0))
        160.0
        """
        moment = _moment_s(clip, self.from_end)
        return None if moment is None else moment + self.behind_s

    def window_s(self, clip: Clip) -> float:
        """How far from it a take may have been logged that is still this file's.

        Parameters
        ----------
        clip : Clip
            What the file tells.

        Returns
        -------
        float
            Its length, or three deviations of the others where that is more, s.

        References
        ----------
        file_of_take

        Examples
        --------
        >>> CameraClock(60.0, 5.0, 3, False).window_s(Clip("A", length_s=40.0))
        40.0
        """
        return min(max(clip.length_s or 0.0, _SPREADS * self.spread_s, _LEAST_WINDOW_S), _MOST_WINDOW_S)


@dataclass(frozen=True, slots=True)
class Placed:
    """Whose a file is, as far as it can be told: ``why`` in words, ``others`` are takes that it could be as
    well.
    """

    take: int | None
    sure: Sure
    by: By
    why: str
    others: tuple[int, ...] = ()


def camera_clock(pairs: Sequence[tuple[Clip, LoggedTake]]) -> CameraClock | None:
    """How far a camera's clock is off, from files whose takes are known.

    Parameters
    ----------
    pairs : sequence of tuple of (Clip, LoggedTake)
        Matched by their codes or by a person; those without a time say nothing.

    Returns
    -------
    CameraClock or None
        The median, against the beginning or the end of the files, whichever they agree on better; None where
        no file says a time.

    References
    ----------
    file_of_take, median_deviation

    Examples
    --------
    >>> clips = [Clip(str(n), began_s=100.0 * n, length_s=5.0) for n in range(3)]
    >>> takes = [LoggedTake(n, logged_s=100.0 * n + 2220.0) for n in range(3)]
    >>> camera_clock(list(zip(clips, takes, strict=True))).behind_s
    2220.0
    """
    clocks = []
    for from_end in (False, True):
        off = [
            take.logged_s - moment
            for clip, take in pairs
            if (moment := _moment_s(clip, from_end)) is not None
        ]
        if off:
            median = statistics.median(off)
            spread = _TO_DEVIATION * statistics.median(abs(each - median) for each in off)
            clocks.append(CameraClock(median, spread, len(off), from_end))
    return min(clocks, key=lambda clock: clock.spread_s, default=None)


def place_clips(
    clips: Sequence[Clip], takes: Sequence[LoggedTake], by_hand: Mapping[int, int] | None = None
) -> tuple[list[Placed], CameraClock | None]:
    """Whose each file is: nothing is guessed in silence.

    Parameters
    ----------
    clips : sequence of Clip
        The files of one camera.
    takes : sequence of LoggedTake
        All that could be meant.
    by_hand : mapping of int to int, optional
        The take of a file (by its place in ``clips``) that a person has said.

    Returns
    -------
    list of Placed
        One a file. *matched* by a code that no other file shows, or by hand; *likely* where one take is
        nearest by far; else *unknown*, with what it could be.
    CameraClock or None
        What time was read by.

    References
    ----------
    file_of_take, median_deviation

    Examples
    --------
    >>> placed, _ = place_clips([Clip("A", ("7F3K9Q2W",)), Clip("B")], [LoggedTake(1, "7F3K9Q2W")])
    >>> [(each.take, each.sure) for each in placed]
    [(1, 'matched'), (None, 'unknown')]
    """
    work = _Placing(clips, takes, by_hand or {})
    return work.placed(), work.clock


def _moment_s(clip: Clip, from_end: bool) -> float | None:
    if clip.began_s is None:
        return None
    return clip.began_s + (clip.length_s or 0.0 if from_end else 0.0)


class _Placing:
    def __init__(
        self, clips: Sequence[Clip], takes: Sequence[LoggedTake], by_hand: Mapping[int, int]
    ) -> None:
        self.clips, self.takes = clips, {take.key: take for take in takes}
        self.whose: dict[int, Placed] = {
            index: Placed(key, "matched", "hand", "Said by hand.")
            for index, key in by_hand.items()
            if key in self.takes
        }
        self.shown: dict[int, list[int]] = defaultdict(list)  # the files that show the code of a take
        of_code = {take.code: take.key for take in takes if take.code}
        for index, clip in enumerate(clips):
            for code in clip.codes:
                if code in of_code and by_hand.get(index, of_code[code]) == of_code[code]:
                    self.shown[of_code[code]].append(index)
        for index, each in self.whose.items():  # one that was given to a take counts as showing its slate
            if each.take is not None and index not in self.shown[each.take]:
                self.shown[each.take].append(index)
        self.named: dict[int, list[int]] = defaultdict(list)  # the takes that a file names
        for key, files in self.shown.items():
            for index in files:
                self.named[index].append(key)
        self._by_their_codes()
        pairs = [
            (clips[index], self.takes[each.take])
            for index, each in self.whose.items()
            if each.sure == "matched" and each.take is not None
        ]
        self.clock = camera_clock(pairs)
        self.free = set(self.takes) - {each.take for each in self.whose.values() if each.sure == "matched"}

    def placed(self) -> list[Placed]:
        self._doubles()
        self._by_time()
        self._by_settings()
        nothing = Placed(None, "unknown", "", "It shows no slate, and nothing else says whose it is.")
        return [self.whose.get(index, nothing) for index in range(len(self.clips))]

    def _by_their_codes(self) -> None:
        said_by_hand = set(self.whose)
        for index, clip in enumerate(self.clips):
            known = self.named[index]
            if index in said_by_hand or not clip.codes:
                continue
            if not known:
                self.whose[index] = Placed(
                    None, "unknown", "code", "Nobody has logged the take on its slate."
                )
            elif len(known) > 1 or len(clip.codes) > 1:
                why = f"It shows {len(clip.codes)} slates: the camera rolled on from one take into the next."
                self.whose[index] = Placed(known[0], "likely", "code", why, tuple(known[1:]))
            elif self.shown[known[0]] == [index]:
                self.whose[index] = Placed(known[0], "matched", "code", "Its slate says so.")

    def _doubles(self) -> None:
        """Several files that show the slate of one take."""
        for key, files in self.shown.items():
            alone = [index for index in files if index not in self.whose and self.named[index] == [key]]
            for index in alone:
                same = [self.clips[other].name for other in files if self._copies(index, other)]
                nearer = self._nearer_by_time(index, key)
                if same:
                    why = f"The same bytes as {same[0]}: one of them is a copy."
                    self.whose[index] = Placed(key, "likely", "code", why)
                elif nearer is not None:
                    why = (
                        f"Its slate was shown to {len(files)} files; by time it is another take, logged"
                        " without a slate of its own."
                    )
                    self.whose[index] = Placed(None, "unknown", "code", why, (key, nearer))
                else:
                    shown = ", ".join(self.clips[other].name for other in files if other != index)
                    why = f"{shown} is of the same take: the camera was started more than once."
                    self.whose[index] = Placed(key, "likely", "code", why)

    def _copies(self, index: int, other: int) -> bool:
        return (
            index != other
            and bool(self.clips[index].ends)
            and self.clips[index].ends == self.clips[other].ends
        )

    def _away_s(self, index: int) -> dict[int, float]:
        """Every take that its recording allows, by how far away in time it was logged."""
        clip = self.clips[index]
        moment = self.clock.moment_s(clip) if self.clock else None
        if moment is None:
            return {}
        return {key: abs(take.logged_s - moment) for key, take in self.takes.items() if _allows(clip, take)}

    def _nearer_by_time(self, index: int, key: int) -> int | None:
        """A take without a file that was logged nearer to this file than the one on its slate."""
        away = self._away_s(index)
        nearest = min(away, key=lambda other: away[other], default=key)
        if nearest == key or nearest not in self.free or self.shown.get(nearest):
            return None
        assert self.clock
        return nearest if away[nearest] <= self.clock.window_s(self.clips[index]) else None

    def _by_time(self) -> None:
        if self.clock is None:
            return
        away = {
            index: self._away_s(index)
            for index, clip in enumerate(self.clips)
            if index not in self.whose and clip.began_s is not None
        }
        for index, takes in away.items():
            window = self.clock.window_s(self.clips[index])
            near = sorted((key for key in takes if takes[key] <= window), key=lambda key: takes[key])
            if not near:
                self.whose[index] = Placed(None, "unknown", "time", "No take was logged at its time.")
                continue
            first = near[0]
            others = tuple(near[1 : 1 + _MOST_OTHERS])
            if first not in self.free or self.shown.get(first):
                why = "The take that was logged nearest to it has a file already."
                self.whose[index] = Placed(None, "unknown", "time", why, tuple(near[:_MOST_OTHERS]))
                continue
            rivals = [
                files[first]
                for other, files in away.items()
                if other != index and files.get(first, math.inf) <= self.clock.window_s(self.clips[other])
            ]
            clear = _CLEARLY * max(takes[first], self.clock.spread_s)
            if any(takes[key] < clear for key in others) or any(rival < clear for rival in rivals):
                why = "By time it could be one take as well as another, or another file's."
                self.whose[index] = Placed(None, "unknown", "time", why, tuple(near[:_MOST_OTHERS]))
            else:
                why = f"Logged {takes[first]:.0f} s from its time by the camera's clock, put right."
                self.whose[index] = Placed(first, "likely", "time", why, others)

    def _by_settings(self) -> None:
        """What neither slate nor clock can tell: only where one take and one file are left for each other."""
        taken = {each.take for each in self.whose.values()}
        free = [self.takes[key] for key in sorted(self.free - taken)]
        left = [index for index in range(len(self.clips)) if index not in self.whose]
        fits = {
            index: [take.key for take in free if _allows(self.clips[index], take, closely=True)]
            for index in left
        }
        for index, keys in fits.items():
            alike = [other for other in left if set(fits[other]) & set(keys)]
            if len(keys) == 1 and alike == [index]:
                why = "It was recorded as this take was set, as no other is that has no file."
                self.whose[index] = Placed(keys[0], "likely", "settings", why)
            elif keys:
                why = "It shows no slate and no time that helps; it was recorded as these takes were set."
                self.whose[index] = Placed(None, "unknown", "settings", why, tuple(keys[:_MOST_OTHERS]))


def _allows(clip: Clip, take: LoggedTake, *, closely: bool = False) -> bool:
    """Whether a file could be of this take by size and rate; ``closely``: it must say both, be long enough,
    and its settings must be the take's.
    """
    if closely and (clip.width_px is None or clip.rate_fps is None):
        return False
    if clip.width_px and take.width_px and clip.width_px != take.width_px:
        return False
    if clip.rate_fps and take.rate_fps and abs(clip.rate_fps / take.rate_fps - 1) > _RATE_OFF:
        return False
    if closely and clip.length_s is not None and clip.length_s < take.least_s:
        return False
    return not closely or all(
        abs(value / take.settings[name] - 1) <= _SETTING_OFF
        for name, value in clip.settings.items()
        if take.settings.get(name)
    )
