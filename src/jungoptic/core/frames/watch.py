"""What is said of a frame before the next one is moved: camera, light, focus, pieces, what was left there."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from ..measure import Differs, HeldAgainst, SetFrame
from ..vocabulary import Verdict
from ..wording import number
from .against import Against, Box, What, against_of, comparison, word_of
from .going import STANDS, Array, Goes

Since = Literal["last", "first"]


_AROUND, _MARGIN = 0.4, 0.03
"""How far the figure may go from where it changed before: of its own size, and of the frame."""
_SINCE: dict[Since, str] = {"last": "the last frame", "first": "the block's first frame"}
_PERCENT = 100.0
_GONE_PX = 2.0
"""Delivered px: where the camera's way took the picture farther since the block's first frame, that frame is
held against for its light and focus alone.
"""
_STOOD, _STOOD_UNSEEN = 0.25, 0.05
"""Of the camera's way, as it was seen and as it is planned: who went less far did not go. What is far behind
goes a small part of what is planned.
"""
_PARTED = 10.0
"""Times how far the picture goes: what differs in narrower strips is an edge that parts from its behind."""
_SOFT_SHARE = 0.25
"""Of how far the picture goes: so much softer or sharper are edges of what parts from what is behind it."""
_SAID_PX, _SAID_DEG = 0.05, 0.005
"""What is less is not said of how a camera went."""


@dataclass(frozen=True, slots=True)
class MarkedPiece:
    """Something that belongs to the set and has to stand: its name, and its box in the block's first frame
    (left, top, right, bottom, shares of the frame).
    """

    name: str
    box: Box


@dataclass(frozen=True, slots=True)
class WatchedFor:
    """``delivered`` is how many delivered px one of the frames' is. ``figure`` are boxes in which something
    is animated: where it was seen to change before, or what somebody marked; none when nobody knows yet, and
    then only what reaches in from outside is told. ``pieces`` have to stand. ``since_last`` and
    ``since_first`` say where the camera's own way takes the picture meanwhile.
    """

    delivered: float = 1.0
    figure: tuple[Box, ...] = ()
    pieces: tuple[MarkedPiece, ...] = ()
    since_last: Goes = STANDS
    since_first: Goes = STANDS

    def goes(self, since: Since) -> Goes:
        """Where the camera's own way takes the picture since a frame.

        Parameters
        ----------
        since : str
            The last frame, or the block's first.

        Returns
        -------
        Goes
            Delivered px.

        Examples
        --------
        >>> WatchedFor(since_last=Goes(-4.0)).goes("last").right_px
        -4.0
        """
        return self.since_last if since == "last" else self.since_first


@dataclass(frozen=True, slots=True)
class Warned:
    """Something to look at before the next move: what, since which frame, by how much, its verdict, in words,
    and where in the frame, where that can be said.
    """

    what: What
    since: Since
    amount: float
    unit: str
    verdict: Verdict
    text: str
    box: Box | None = None


@dataclass(frozen=True, slots=True)
class Watched:
    """A frame against the last and the block's first, None for one that is not there or not the same thing;
    and what is to be said, the worst first; nothing where all holds.
    """

    last: Against | None
    first: Against | None
    warnings: tuple[Warned, ...]


def watched(frame: SetFrame, last: SetFrame | None, first: SetFrame | None, to: WatchedFor) -> Watched:
    """What is to be said of a frame before the next one is moved.

    Parameters
    ----------
    frame : SetFrame
        As it was just taken.
    last, first : SetFrame or None
        The one before it, and the first of its block; the same object where they are the same frame.
    to : WatchedFor
        What belongs to the set, and what is animated.

    Returns
    -------
    Watched
        What shows against the last frame is not said once more against the first; what only goes back to how
        it was in the first is not said.

    References
    ----------
    lucas_kanade, exposure_meter, tol_frames

    Examples
    --------
    >>> import cv2
    >>> import numpy as np
    >>> dice = np.random.default_rng(3)
    >>> board = 0.1 + 0.5 * cv2.GaussianBlur(dice.random((270, 480, 3), np.float32), (0, 0), 2.0)
    >>> first, lit = SetFrame(board), SetFrame(1.02 * board)
    >>> [each.text for each in watched(lit, first, first, WatchedFor()).warnings]
    ['The whole frame is 0.029 stop lighter than the last frame.']
    """
    since_last = comparison(frame, last, None, _near(frame, to, "last"))
    since_first = since_last if first is last else comparison(frame, first, last, _near(frame, to, "first"))
    told: list[Warned] = []
    seen: dict[Since, Against | None] = {"last": None, "first": None}
    pairs: tuple[tuple[Since, SetFrame | None, HeldAgainst | None], ...] = (
        ("last", last, since_last),
        ("first", first, since_first),
    )
    for since, other, held in pairs:
        if other is None:
            continue
        gone = to.goes(since).px(frame.size_px, to.delivered) > _GONE_PX and since == "first"
        if held is None:
            told += [] if gone else [_lost(since)]
            continue
        # what is animated differs from the first frame at all times: only the last is asked for it
        differs = frame.differs_from(other) if since == "last" else ()
        seen[since] = against = against_of(held, differs, to.delivered, frame.size_px, to.goes(since))
        told += (whole := _of(against, since, to.goes(since).open_share, gone))
        # near and far part where the camera went too far: their edges are nothing that was left there
        parts = against.goes_px > 0.0 and any(each.what == "camera" for each in whole)
        if since == "last":
            told += [] if parts else _left(differs, to, frame.size_px, _PARTED * against.goes_px)
        elif not gone:
            told += _pieces(frame, other, held, to)
    if last is not None and first is not None and first is not last and since_first is not None:
        told = _without_returns(told, (frame, last, first), since_first, to)
    return Watched(seen["last"], seen["first"], _once(told))


def _without_returns(
    told: list[Warned], frames: tuple[SetFrame, SetFrame, SetFrame], now: HeldAgainst, to: WatchedFor
) -> list[Warned]:
    """Without what only goes back: the last of the frames (this one, the last, the first) was off the
    block's first, and this one is not.
    """
    if not any(each.since == "last" for each in told):
        return told
    frame, last, first = frames
    before = comparison(last, first)
    if before is None:
        return told
    was, there = (
        {each.what for each in _of(against_of(held, (), to.delivered, frame.size_px), "first")}
        for held in (before, now)
    )
    if to.since_first != STANDS:
        was -= {"camera"}
    left = any(each.what == "left" for each in told)
    differs = [each.box for each in frame.differs_from(first)] if left else []

    def returns(each: Warned) -> bool:
        if each.since == "first":
            return False
        if each.what == "left":
            return each.box is not None and not any(_overlap(each.box, box) for box in differs)
        return each.what in was - there

    return [each for each in told if not returns(each)]


def _overlap(box: Box, other: Box) -> bool:
    left, top, right, bottom = box
    return left < other[2] and other[0] < right and top < other[3] and other[1] < bottom


def _lost(since: Since) -> Warned:
    text = f"This is not the picture of {_SINCE[since]}: is the camera where it was, and is there light?"
    return Warned("lost", since, math.inf, "", "shows", text)


def _near(frame: SetFrame, to: WatchedFor, since: Since) -> Array | None:
    goes = to.goes(since)
    return None if goes == STANDS else goes.transform(frame.size_px, to.delivered)


def _of(seen: Against, since: Since, open_share: float = 0.0, gone: bool = False) -> list[Warned]:
    """What the whole of a frame says; not of the camera where it has ``gone`` on."""
    told = []
    beyond = max(0.0, seen.camera_px - open_share * seen.goes_px)
    word = word_of("camera", seen.camera_px if _stood(seen, open_share) else beyond)
    if not gone and word != "holds":
        told.append(
            Warned("camera", since, seen.camera_px, "px", word, _camera_text(seen, since, open_share))
        )
    if (word := word_of("light", seen.stops)) != "holds":
        text = f"The whole frame is {_stops(seen.stops)} than {_SINCE[since]}."
        told.append(Warned("light", since, seen.stops, "stop", word, text))
    if seen.side and (word := word_of("side", seen.side_stops)) != "holds":
        text = (
            f"The {_third(seen.side)} is {_stops(seen.side_stops)} than the rest since {_SINCE[since]}:"
            " somebody stands in the way of the light, or throws it back."
        )
        told.append(Warned("side", since, seen.side_stops, "stop", word, text, _THIRDS[seen.side]))
    softer = max(0.0, abs(seen.softer_px or 0.0) - _SOFT_SHARE * seen.goes_px)
    if seen.softer_px is not None and (word := word_of("focus", softer)) != "holds":
        way = "softer" if seen.softer_px > 0 else "sharper"
        text = (
            f"Edges are {number(abs(seen.softer_px), 2)} px {way} than in {_SINCE[since]}: the focus changed."
        )
        told.append(Warned("focus", since, seen.softer_px, "px", word, text))
    return told


def _stood(seen: Against, open_share: float) -> bool:
    """Whether a camera that should have gone on did not."""
    least = _STOOD if open_share < 1.0 else _STOOD_UNSEEN
    return seen.went is not None and seen.went_share is not None and seen.went_share < least


def _camera_text(seen: Against, since: Since, open_share: float) -> str:
    if not seen.goes_px:
        return f"The camera stands {number(seen.camera_px, 2)} px off {_SINCE[since]}: {_ways(seen)}."
    planned = number(seen.goes_px, 2)
    if _stood(seen, open_share):
        return f"The camera should have gone on by {planned} px since {_SINCE[since]}: was its crank turned?"
    return (
        f"The camera should have gone on by {planned} px, and is {number(seen.camera_px, 2)} px off that:"
        f" {_ways(seen)}. Count the turns of its crank again."
    )


_THIRDS: dict[str, Box] = {
    "left third": (0.0, 0.0, 1 / 3, 1.0),
    "middle across": (1 / 3, 0.0, 2 / 3, 1.0),
    "right third": (2 / 3, 0.0, 1.0, 1.0),
    "top third": (0.0, 0.0, 1.0, 1 / 3),
    "middle down": (0.0, 1 / 3, 1.0, 2 / 3),
    "bottom third": (0.0, 2 / 3, 1.0, 1.0),
}


def _third(side: str) -> str:
    return {"middle across": "middle", "middle down": "middle, halfway up,"}.get(side, side)


def _stops(stops: float) -> str:
    return f"{number(abs(stops), 2)} stop {'lighter' if stops > 0 else 'darker'}"


def ways(right_px: float, down_px: float, least_px: float) -> list[str]:
    """How far something went to each side, in words; what is no more than the least is not said."""
    return [
        f"{number(abs(px), 2)} {more if px > 0 else less}"
        for px, more, less in ((right_px, "right", "left"), (down_px, "down", "up"))
        if abs(px) > least_px
    ]


def _ways(seen: Against) -> str:
    told = ways(seen.right_px, seen.down_px, _SAID_PX)
    if abs(seen.turn_deg) > _SAID_DEG:
        told.append(f"turned by {number(abs(seen.turn_deg), 2)}°")
    return ", ".join(told) or "its picture grew or shrank"


def _left(
    differs: Iterable[Differs], to: WatchedFor, size_px: tuple[int, int], thinnest_px: float
) -> list[Warned]:
    """What is in the frame and was not, or is gone, where nothing is animated; what is thinner is an edge."""
    told = []
    for each in differs:
        if any(_near_to(each, box) for box in to.figure) or not (to.figure or each.reaches_in):
            continue
        left, top, right, bottom = each.box
        size = [to.delivered * (right - left) * size_px[0], to.delivered * (bottom - top) * size_px[1]]
        if min(size) < thinnest_px:
            continue
        where = (
            f"{round(_PERCENT * (left + right) / 2)} % across, {round(_PERCENT * (top + bottom) / 2)} % down"
        )
        about = f"{number(size[0], 2)} × {number(size[1], 2)} px"
        text = (
            f"Something {'reaches in' if each.reaches_in else 'is not as it was'}, {where}, {about}:"
            " a hand, a tool, a wire, or a piece that was knocked?"
        )
        told.append(Warned("left", "last", max(size), "px", "shows", text, each.box))
    return told


def _near_to(differs: Differs, box: Box) -> bool:
    """Whether what differs lies where something is animated, or goes on from there."""
    across = _MARGIN + _AROUND * (box[2] - box[0])
    down = _MARGIN + _AROUND * (box[3] - box[1])
    left, top, right, bottom = differs.box
    middle = (left + right) / 2.0, (top + bottom) / 2.0
    return box[0] - across <= middle[0] <= box[2] + across and box[1] - down <= middle[1] <= box[3] + down


def _pieces(frame: SetFrame, first: SetFrame, held: HeldAgainst, to: WatchedFor) -> list[Warned]:
    """Marked pieces that moved since the block's first frame, beside the camera."""
    told = []
    for piece in to.pieces:
        right, down, off = frame.piece_off(first, piece.box, held.moved.transform)
        if math.isnan(right):
            text = f"{piece.name} is not seen where it was marked: it is covered, or it is gone."
            told.append(Warned("piece", "first", math.inf, "px", "tight", text, piece.box))
            continue
        px = to.delivered * math.hypot(right, down)
        word = word_of("piece", px)
        if word != "holds" and px > to.delivered * off:
            text = f"{piece.name} moved by {number(px, 2)} px since {_SINCE['first']}."
            told.append(Warned("piece", "first", px, "px", word, text, piece.box))
    return told


def _once(told: Iterable[Warned]) -> tuple[Warned, ...]:
    """Each thing once: what is said against the last frame is not said again of the first."""
    kept: dict[tuple[What, Box | None], Warned] = {}
    for each in told:
        kept.setdefault((each.what, each.box if each.what in {"piece", "left"} else None), each)
    return tuple(sorted(kept.values(), key=lambda each: (each.verdict != "shows", each.since != "last")))
