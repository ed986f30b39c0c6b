"""A layer photographed as it is planned, and measured as its rushes are: whether the frames show what the
comparison said.

The simulated camera films a grey card, a slanted edge, a ball and the empty sheet where the layer stands,
through the set-up of the layer and through the hero's; what comes of them goes the way of every recording.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import numpy.typing as npt

from ..match import Member, Part, SetUp, Stack, judge_member
from ..match.backing import crossed
from ..match.measure import Match
from ..measure import (
    Curve,
    backing_seen,
    brightness,
    edge_of,
    evenness_of,
    flicker_of_frames,
    grain_of_frames,
    grey_ball_light,
    grey_of,
    moved,
)
from ..stage import Effects, film, photograph
from ..stage.backdrop import match_of
from ..stage.camera import Camera
from ..stage.charts import as_wanted, chart
from ..stage.faces import key_light, tone_of
from .fine import SHARP_PX, EdgeBeside, GrainBeside
from .lights import BallLit, GreyBeside
from .measured import Sized, as_measurement
from .verdicts import judged

Array = npt.NDArray[np.float64]
Image = npt.NDArray[np.float32]
WIDTH_PX = 1920
"""Of the pictures."""
_FRAMES = 8
_FLICKERS = 48
_AGREES = 0.05
_CARD_SHARE = 0.12
"""Of the distance: half the side of a card that is held where the layer stands."""
_CROP_PX = 60
_COVERED = 0.7
"""Of every pixel of a crop: where two parts meet both cover it partly."""
_AWAY_M = 1000.0
_BALL_PX = 80
_PASSES = ("light_pass", "shadow_pass")
_LARGE, _SLANT = 6.0, 0.05
_LEAST_OFF = {"px": 0.1, "stop": 0.02, "mired": 1.0, "°": 2.0, "×": 0.02}
"""What a measurement of that unit is held to itself: an error that it says may be smaller."""


@dataclass(frozen=True, slots=True)
class AsPlanned:
    """An item of a layer as the comparison says it and as its frames show it, in the item's unit; ``off`` is
    two deviations of what was measured.
    """

    item: str
    label: str
    unit: str
    foretold: float
    measured: float
    off: float

    @property
    def agrees(self) -> bool:
        """Within 5 % of what was foretold, or the error of the measurement."""
        return abs(self.measured - self.foretold) <= max(_AGREES * abs(self.foretold), self.off)


def as_planned(stack: Stack, position: int) -> tuple[AsPlanned, ...]:
    """A layer of a shot, photographed as it is planned and measured.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in the stack, from 0.

    Returns
    -------
    tuple of AsPlanned
        Of every item that the comparison names and a picture shows by itself; none of a hero, or of what is
        not filmed.

    References
    ----------
    noise_mask, photon_transfer, edge_spread, lambert

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> {row.item: row.agrees for row in as_planned(STACK, 1)}["brightness"]
    True
    """
    member = stack.members[position]
    if member.setup is None or member.is_hero:
        return ()
    match, items = judge_member(stack, position)
    filmed = _Filmed(stack, member, match_of(stack, member))
    foretold = {each.item: match.amounts.get(each.item, each.amount) for each in items}
    labels = {each.item: each.label for each in items}
    rows: list[AsPlanned] = []
    for what, shows, without in _SHOWS:
        if (came := shows(filmed)) is None:
            continue
        result, sized = came
        for each in judged(what, as_measurement(result, sized).amounts, {}):
            if each.item == without:
                continue
            planned = 0.0 if each.pair else foretold.get(each.item)
            if planned is not None:
                off = max(each.off or 0.0, _LEAST_OFF.get(each.unit, 0.0))
                label = labels.get(each.item, each.label)
                rows.append(AsPlanned(each.item, label, each.unit, planned, each.size, off))
    return tuple(rows)


@dataclass(frozen=True, slots=True)
class _Filmed:
    """A layer with its match; ``like_hero`` is the same thing full size before the hero's camera."""

    stack: Stack
    member: Member
    match: Match

    def held(self, *parts: Part, larger: float = 1.0) -> tuple[Match, Match]:
        """Something held where the layer stands, as its camera films it and as the hero's would; so many
        times as large where less of their gates is used.
        """
        own = self.match.layer
        place = {name: getattr(own, name) for name in ("scale", "near_m", "width_m", "height_m", "resize")}
        layer = chart(*parts, **place)
        hero, setup = (
            each.but(extraction_width_mm=each.extracted_mm / larger) if larger != 1.0 else each
            for each in (self.match.hero, self.setup)
        )
        delivery = self.match.delivery
        return Match(hero, layer, setup, delivery), as_wanted(hero, layer, delivery)

    @property
    def setup(self) -> SetUp:
        """Of the layer, its key written out."""
        assert self.match.setup is not None
        return self.match.setup

    @property
    def sized(self) -> Sized:
        """Of its pictures."""
        delivery = self.match.delivery
        height = round(WIDTH_PX * delivery.height_px / delivery.width_px)
        return Sized(WIDTH_PX, height, delivery.width_px / WIDTH_PX, self.setup.capture_fps)

    def patch(self, name: str, colour: str, *corners: tuple[float, float], behind_m: float = 0.0) -> Part:
        """A flat part in the middle of what the hero sees there; corners in half sides of the card."""
        half = _CARD_SHARE * self.match.layer.near_m
        hero, near = self.match.hero, self.match.layer.near_m
        high = max(hero.lens_height_m + near * math.tan(math.radians(hero.tilt_deg)), half)
        points = tuple((half * x, high + half * y) for x, y in corners)
        return Part(name=name, points=points, colour=colour, behind_m=behind_m)


Came = tuple[Any, Sized]


def _crop(match: Match, effects: Effects, frame: float = 0.0) -> Image | None:
    """The middle of what is held, linear light (h, w, 3); None where it is not seen."""
    camera = Camera(match, frame, WIDTH_PX, effects)
    outlines = [part.outline + camera.come for part in match.layer.parts]
    x, y = camera.view.project(outlines[:1], *camera.size)[0].mean(axis=0) * camera.k
    planes = camera.film()
    height, width = planes.shape[1:]
    if not (_CROP_PX < x < width - _CROP_PX and _CROP_PX < y < height - _CROP_PX):
        return None
    box = planes[:, round(y) - _CROP_PX : round(y) + _CROP_PX, round(x) - _CROP_PX : round(x) + _CROP_PX]
    if float(box[3].min()) < _COVERED:
        return None
    return np.ascontiguousarray(box[:3].transpose(1, 2, 0), np.float32)


_SQUARE = ((-1.0, -1.0), (-1.0, 1.0), (1.0, 1.0), (1.0, -1.0))
_GREY = "#767676"  # 18 % of white


def _exposed(filmed: _Filmed) -> Came | None:
    return _card(filmed, "exposure")


def _white(filmed: _Filmed) -> Came | None:
    return _card(filmed, "cast")


def _card(filmed: _Filmed, effect: str) -> Came | None:
    """A grey card with its exposure or its colour alone: a warm card is lighter too."""
    crops = [_crop(each, Effects.only(effect)) for each in _cards(filmed)]
    if crops[0] is None or crops[1] is None:
        return None
    inside = np.ones(crops[0].shape[:2], bool)
    try:
        return GreyBeside(grey_of(crops[0], inside), grey_of(crops[1], inside)), filmed.sized
    except ValueError:  # so dark or so light that no card is told
        return None


def _cards(filmed: _Filmed) -> tuple[Match, Match]:
    return filmed.held(filmed.patch("Card", _GREY, *_SQUARE))


def _grain(filmed: _Filmed) -> Came | None:
    told = []
    for match in _cards(filmed):
        frames = [_crop(match, Effects.only("grain", seed=seed)) for seed in range(_FRAMES)]
        if any(each is None for each in frames):
            return None
        told.append(grain_of_frames([each[..., 1] for each in frames if each is not None]))
    return GrainBeside(*told), filmed.sized


def _edge(filmed: _Filmed) -> Came | None:
    """A slanted edge through both lenses, in a picture so large that its own pixels are small beside blur."""
    # one of both lies behind the other, or what is behind both would be seen through their soft join
    there_m = max(0.0, (filmed.match.soft_near_m - filmed.setup.distance_m) * filmed.match.layer.scale)
    left = filmed.patch("Left", "#d0d0d0", *_SQUARE, behind_m=there_m)
    slanted = ((-_SLANT, -1.0), (_SLANT, 1.0), (1.0, 1.0), (1.0, -1.0))
    right = filmed.patch("Right", "#404040", *slanted, behind_m=there_m)
    edges = []
    both = filmed.held(left, right, larger=_LARGE)
    for match, on in ((both[0], ()), (both[0], ("focus",)), (both[1], ("focus",))):
        seen = _crop(match, Effects.only(*on))
        if seen is None:
            return None
        try:
            edges.append(edge_of(seen[..., 1]))
        except ValueError:  # softer than what is cut out of the picture
            return None
    sharp, own, hero = edges
    # as if it were recorded with pixels in which a sharp edge is as wide as in a recording
    times = SHARP_PX / sharp.spread_px
    sized = replace(filmed.sized, delivered=filmed.sized.delivered / _LARGE / times)
    return EdgeBeside(own.enlarged(times), hero.enlarged(times)), sized


def _flicker(filmed: _Filmed) -> Came | None:
    setup = filmed.setup
    if not setup.ripple_depth:
        return None
    match, _ = _cards(filmed)
    frames = [_crop(match, Effects.only("flicker"), float(frame)) for frame in range(_FLICKERS)]
    if any(each is None for each in frames):
        return None
    light = np.array([[float(each.mean())] for each in frames if each is not None])
    return flicker_of_frames(light, (1, 1), setup.capture_fps, setup.mains_hz), filmed.sized


def _ball(filmed: _Filmed) -> Came | None:
    """A grey ball in the light of the layer and in that of the hero."""
    if filmed.member.layer.kind in _PASSES:  # they are judged by where their light falls in the shot
        return None
    told = []
    for match, mirrored in zip(_cards(filmed), (filmed.member.layer.mirrored, False), strict=True):
        towards, fill = key_light(match)
        seen = _shaded(towards, fill)
        try:
            told.append(grey_ball_light(seen[:, ::-1] if mirrored else seen, _CIRCLE))
        except ValueError:  # lit evenly
            return None
    own, hero = told
    lit = BallLit(_CIRCLE, (own.key,), own.key_fill_stops, hero.key, hero.key_fill_stops)
    return lit, filmed.sized


_CIRCLE = (_BALL_PX + 9.5, _BALL_PX + 9.5, float(_BALL_PX))


def _shaded(towards: Array, fill: float) -> Image:
    side = 2 * (_BALL_PX + 10)
    down, across = (np.indices((side, side)) - _CIRCLE[0]) / _BALL_PX
    out = np.sqrt(np.maximum(0.0, 1.0 - across**2 - down**2))
    light = np.zeros((side, side), np.float32)
    for row, column in zip(*np.nonzero(out > 0), strict=True):
        normal = (float(across[row, column]), float(-down[row, column]), float(-out[row, column]))
        light[row, column] = 0.18 * tone_of(normal, towards, fill)
    return light


def _sheet(filmed: _Filmed) -> Came | None:
    """The lit sheet without anybody before it, where the layer is seen against it."""
    setup = filmed.member.setup
    if setup is None or setup.backing is None or not setup.lamps:
        return None
    away = Part(name="Away", points=tuple((_AWAY_M + x, y) for x, y in _SQUARE), colour=_GREY)
    empty = Member(filmed.match.layer.but(parts=(away,)), setup, filmed.member.set_up_key)
    place = filmed.stack.members.index(filmed.member)
    members = tuple(empty if nth == place else each for nth, each in enumerate(filmed.stack.members))
    stack = replace(filmed.stack, members=members)
    light = photograph(stack, WIDTH_PX // 2, only=place, effects=Effects.only("lamps"))
    camera = Camera(filmed.match, 0.0, light.shape[1], Effects.only())
    left, right, low, high = crossed(filmed.match, setup, setup.backing)
    low, high = low - setup.ground_height_m, high - setup.ground_height_m
    corners = np.array([(x, y, setup.backing.behind_m) for x, y in ((left, high), (right, low))])
    (x0, y0), (x1, y1) = camera.view.project([corners * filmed.match.layer.scale], *camera.size)[0] * camera.k
    inside = np.zeros(light.shape[:2], bool)
    inside[max(0, round(y0)) : max(0, round(y1)), max(0, round(x0)) : max(0, round(x1))] = True
    try:
        return evenness_of(light, backing_seen(light, inside)), filmed.sized
    except ValueError:  # nothing of it is in the frame, or it is dark
        return None


def _stands(filmed: _Filmed) -> Came | None:
    """Two takes of what stands still, one after the other."""
    if not filmed.match.delivery.move.still:
        return None
    place = filmed.stack.members.index(filmed.member)
    takes = [next(iter(film(filmed.stack, place, WIDTH_PX // 2, 1, begins=begins))) for begins in (0, 900)]
    curve = Curve("bt709")
    first, second = (brightness(curve.light(each.astype(np.float32) / 255.0)) for each in takes)
    sized = filmed.sized
    half = Sized(first.shape[1], first.shape[0], 2.0 * sized.delivered)
    try:
        return moved(first, second), half
    except ValueError:  # there is nothing to hold on to
        return None


_SHOWS: tuple[tuple[str, Callable[[_Filmed], Came | None], str], ...] = (
    ("evenness", _sheet, ""),
    ("still", _stands, ""),
    ("flicker", _flicker, ""),
    ("ball", _ball, ""),
    ("grey", _exposed, "colour"),
    ("grey", _white, "brightness"),
    ("grain", _grain, ""),
    ("edge", _edge, ""),
)
"""The row that measures it, what is held before the camera or filmed, and an item that this does not show."""
