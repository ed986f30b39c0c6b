"""A set that is built up again: what of the live picture is off the frame by which it was left, and which way
it goes back.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import chain

from ..measure import HeldAgainst, SetFrame
from ..vocabulary import Verdict
from ..wording import number
from .against import Against, Box, What, against_of, comparison, word_of
from .watch import WatchedFor, ways

_SAID_PX, _SAID_DEG, _SAID_SIZE = 0.1, 0.005, 0.0001
"""What is less is not said of a way back."""
_PERCENT = 100.0
_NOT_THE_SAME = "This is not the same picture: bring the camera there by the onion skin, and give it light."


@dataclass(frozen=True, slots=True)
class BuiltLine:
    """What has to be as it was: its name, how far it is off in words, its verdict, the way back in words
    (empty where it holds), and where in the old frame it stands, where that can be said.
    """

    what: What
    name: str
    off: str
    verdict: Verdict
    way: str
    box: Box | None = None


@dataclass(frozen=True, slots=True)
class BuiltUp:
    """A set against the frame by which it was left: None where the two do not show the same; and everything
    that has to be as it was, in the order in which it is mended.
    """

    against: Against | None
    lines: tuple[BuiltLine, ...]

    @property
    def holds(self) -> bool:
        """Whether all of it does."""
        return all(line.verdict == "holds" for line in self.lines)


def built_up(live: SetFrame, left: SetFrame, to: WatchedFor, mm_px: float | None = None) -> BuiltUp:
    """How a set stands against the frame by which it was left.

    Parameters
    ----------
    live, left : SetFrame
        As it is now, and as it was.
    to : WatchedFor
        The pieces that have to stand; the figure's boxes do not count.
    mm_px : float, optional
        How many delivered px a millimetre of the set is, where that is known.

    Returns
    -------
    BuiltUp
        Camera first, for all else lies where it is by it; then light and focus, then the pieces, which are
        measured beside the camera.

    References
    ----------
    lucas_kanade, exposure_meter, tol_frames

    Examples
    --------
    >>> import cv2
    >>> import numpy as np
    >>> dice = np.random.default_rng(3)
    >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
    >>> now, then = SetFrame(0.9 * np.roll(board, 2, axis=1)), SetFrame(board)
    >>> [(line.off, line.way) for line in built_up(now, then, WatchedFor()).lines[:2]]
    [('2 px', 'pan right by 2 px'), ('0.15 stop', 'give it 0.15 stop more')]
    """
    seen = comparison(live, left)
    if seen is None:
        lost = BuiltLine("lost", "Picture", "not the same", "shows", _NOT_THE_SAME)
        return BuiltUp(None, (lost,))
    against = against_of(seen, (), to.delivered, live.size_px)
    lines = chain(
        [_camera(against, seen), *_light(against)], _focus(against), _pieces(live, left, seen, to, mm_px)
    )
    return BuiltUp(against, tuple(lines))


def _camera(seen: Against, held_by: HeldAgainst) -> BuiltLine:
    """What the picture shows too far to the right comes back where the camera pans to the right."""
    word = word_of("camera", seen.camera_px)
    back = [
        f"{more if amount > 0 else less} by {number(abs(amount), 2)}{unit}"
        for amount, least, unit, more, less in (
            (seen.right_px, _SAID_PX, " px", "pan right", "pan left"),
            (seen.down_px, _SAID_PX, " px", "tilt down", "tilt up"),
            (seen.turn_deg, _SAID_DEG, "°", "roll clockwise", "roll anticlockwise"),
        )
        if abs(amount) > least
    ]
    grown = held_by.moved.size - 1.0
    if abs(grown) > max(held_by.moved.size_off, _SAID_SIZE):
        percent = number(_PERCENT * abs(grown), 2)
        back.append(f"{'back' if grown > 0 else 'nearer'} by {percent} % of the distance")
    return BuiltLine("camera", "Camera", f"{_rounded(seen.camera_px)} px", word, _way(word, back))


def _light(seen: Against) -> Iterator[BuiltLine]:
    word = word_of("light", seen.stops)
    way = f"{'take' if seen.stops > 0 else 'give it'} {number(abs(seen.stops), 2)} stop"
    back = [f"{way} {'off' if seen.stops > 0 else 'more'}"]
    yield BuiltLine("light", "Light", f"{_rounded(abs(seen.stops))} stop", word, _way(word, back))
    if seen.side and (word := word_of("side", seen.side_stops)) != "holds":
        more = "lighter" if seen.side_stops > 0 else "darker"
        off = f"{number(abs(seen.side_stops), 2)} stop {more}"
        yield BuiltLine("side", f"Light, {seen.side}", off, word, "look at the lamp of that side")


def _focus(seen: Against) -> Iterator[BuiltLine]:
    if seen.softer_px is None:
        return
    word = word_of("focus", seen.softer_px)
    off = f"{_rounded(abs(seen.softer_px))} px {'softer' if seen.softer_px > 0 else 'sharper'}"
    yield BuiltLine("focus", "Focus", off, word, _way(word, ["focus again, and look at the stop"]))


def _pieces(
    live: SetFrame, left: SetFrame, seen: HeldAgainst, to: WatchedFor, mm_px: float | None
) -> Iterator[BuiltLine]:
    for piece in to.pieces:
        right, down, off = live.piece_off(left, piece.box, seen.moved.transform)
        if math.isnan(right):
            way = "put it back to where its box is"
            yield BuiltLine("piece", piece.name, "not found", "shows", way, piece.box)
            continue
        px = to.delivered * math.hypot(right, down)
        word = word_of("piece", px) if px > to.delivered * off else "holds"
        mm = f" ({number(px / mm_px, 2)} mm)" if mm_px else ""
        way = ", ".join(ways(-to.delivered * right, -to.delivered * down, _SAID_PX)) + mm
        yield BuiltLine("piece", piece.name, f"{_rounded(px)} px", word, _way(word, [way]), piece.box)


def _way(word: Verdict, back: list[str]) -> str:
    return "" if word == "holds" else ", ".join(back)


def _rounded(amount: float) -> str:
    """To what can be told apart: a thousandth of a stop or of a px is nothing."""
    return number(round(amount, 3), 2)
