"""A layer photographed as it is planned, and measured as its rushes are: whether the frames show what the
comparison said.

The simulated camera films a grey card, a slanted edge, a ball and the empty sheet where the layer stands,
through the set-up of the layer and through the hero's; what comes of them goes the way of every recording.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np
import numpy.typing as npt

from ..match import Layer, Member, Part, SetUp, Stack, judge_member
from ..match.backing import crossed
from ..match.measure import Match
from ..measure import (
    Curve,
    Flicker,
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
from ..stage.faces import key_light
from .fine import SHARP_PX, EdgeBeside, GrainBeside
from .lights import BallLit, GreyBeside
from .measured import Sized, as_measurement
from .shaded_ball import CIRCLE_PX, shaded_ball
from .verdicts import judged

Array = npt.NDArray[np.float64]
Image = npt.NDArray[np.float32]
WIDTH_PX = 1920
"""Of the pictures."""
_FRAMES = 8
_FLICKERS, _TAKES, _SMALL_PX = 96, 4, 480
_AGREES = 0.05
_CARD_SHARE = 0.12
"""Of the distance: half the side of a card that is held where the layer stands."""
_CROP_PX = 60
_COVERED = 0.7
"""Of every pixel of a crop: where two parts meet both cover it partly."""
_AWAY_M = 1000.0
_PASSES = ("light_pass", "shadow_pass")
_SQUARE = ((-1.0, -1.0), (-1.0, 1.0), (1.0, 1.0), (1.0, -1.0))
_SLANT = 0.05
_STEP, _STEPS = 0.01, 4
_DISC_PX, _MOST_LARGE = 24.0, 50.0
"""A blur disc is drawn so large, or as many times as large at most: its own pixels are small beside it."""
_NOTHING = 1e-6
"""Of rounding, where a measurement states no error."""


@dataclass(frozen=True, slots=True)
class AsPlanned:
    """An item of a layer as the comparison says it and as its frames show it, in the item's unit; ``off`` is
    two deviations of what was measured, as the measurement states it; None where it states none.
    """

    item: str
    label: str
    unit: str
    foretold: float
    measured: float
    off: float | None

    @property
    def agrees(self) -> bool:
        """Within 5 % of what was foretold, or the error of the measurement."""
        within = max(_AGREES * abs(self.foretold), self.off or 0.0, _NOTHING)
        return abs(self.measured - self.foretold) <= within


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
                label = labels.get(each.item, each.label)
                rows.append(AsPlanned(each.item, label, each.unit, planned, each.size, each.off))
    return tuple(rows)


@dataclass(frozen=True, slots=True)
class _Filmed:
    """A layer with its match."""

    stack: Stack
    member: Member
    match: Match

    def by_own(self, parts: Sequence[Part], larger: float = 1.0) -> Match:
        """Something held where the layer stands, as its camera films it."""
        hero, setup = (_closer(each, larger) for each in (self.match.hero, self.setup))
        return Match(hero, self._held(parts), setup, self.match.delivery)

    def by_hero(self, parts: Sequence[Part], larger: float = 1.0) -> Match:
        """Something held there as the hero's camera would film it, full size."""
        return as_wanted(_closer(self.match.hero, larger), self._held(parts), self.match.delivery)

    def _held(self, parts: Sequence[Part]) -> Layer:
        own = self.match.layer
        place = {name: getattr(own, name) for name in ("scale", "near_m", "width_m", "height_m", "resize")}
        return chart(*parts, **place)

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

    def seen_from(self, own: bool, behind_m: float = 0.0, larger: float = 1.0) -> Callable[..., Part]:
        """Makes flat parts in the middle of what a camera sees where the layer stands, or behind it; corners
        are in half sides of the card.
        """
        half = _CARD_SHARE * self.match.layer.near_m
        probe = [Part(name="Probe", points=_SQUARE, behind_m=behind_m)]
        across, up = _middle((self.by_own if own else self.by_hero)(probe, larger), behind_m)

        def part(name: str, colour: str, *corners: tuple[float, float]) -> Part:
            points = tuple((across + half * x, up + half * y) for x, y in corners)
            return Part(name=name, points=points, colour=colour, behind_m=behind_m)

        return part


def _middle(match: Match, behind_m: float) -> tuple[float, float]:
    """Where a plane behind a layer's front edge is in the middle of the frame, by steps of Newton's."""
    camera = Camera(match, 0.0, WIDTH_PX, Effects.only())
    wanted = np.array(camera.size) / 2.0
    place, step = np.array([0.0, match.hero.lens_height_m]), _STEP * match.layer.near_m
    for _ in range(_STEPS):
        near = place + step * np.array([(0.0, 0.0), (1.0, 0.0), (0.0, 1.0)])
        points = np.column_stack([near, np.full(3, behind_m)]) + camera.come
        here, right, above = camera.view.seen(points, *camera.size)
        turn = np.column_stack([right - here, above - here]) / step
        place = place + np.linalg.solve(turn, wanted - here)
    return float(place[0]), float(place[1])


def _closer(setup: SetUp, larger: float) -> SetUp:
    """A set-up of whose gate so much less is used."""
    return setup.but(extraction_width_mm=setup.extracted_mm / larger) if larger != 1.0 else setup


Came = tuple[Any, Sized]


def _crop(match: Match, effects: Effects, frame: float = 0.0, width_px: int = WIDTH_PX) -> Image | None:
    """The middle of what is held, linear light (h, w, 3); None where it is not seen."""
    camera = Camera(match, frame, width_px, effects)
    outlines = [part.outline + camera.come for part in match.layer.parts]
    x, y = camera.view.project(outlines[:1], *camera.size)[0].mean(axis=0) * camera.k
    planes = camera.film()
    height, width = planes.shape[1:]
    reach = _CROP_PX * width_px // WIDTH_PX
    if not (reach < x < width - reach and reach < y < height - reach):
        return None
    box = planes[:, round(y) - reach : round(y) + reach, round(x) - reach : round(x) + reach]
    if float(box[3].min()) < _COVERED:
        return None
    return np.ascontiguousarray(box[:3].transpose(1, 2, 0), np.float32)


_GREY = "#767676"  # 18 % of white


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
    """A grey card in the middle of what the layer's camera sees, and one before the hero's."""
    own, hero = (filmed.seen_from(own)("Card", _GREY, *_SQUARE) for own in (True, False))
    return filmed.by_own([own]), filmed.by_hero([hero])


def _grain(filmed: _Filmed) -> Came | None:
    told = []
    for match in _cards(filmed):
        frames = _whole(_crop(match, Effects.only("grain", seed=seed)) for seed in range(_FRAMES))
        if not frames:
            return None
        told.append(grain_of_frames([each[..., 1] for each in frames]))
    return GrainBeside(*told), filmed.sized


def _whole(crops: Iterable[Image | None]) -> list[Image]:
    """All of them; none where one is missing."""
    every = list(crops)
    there = [each for each in every if each is not None]
    return there if len(there) == len(every) else []


def _edge(filmed: _Filmed) -> Came | None:
    """A slanted edge through both lenses, where the end of the layer is that differs most; so large in the
    picture that its own pixels are small beside the blur.
    """
    match, layer = filmed.match, filmed.match.layer
    there_m = max(0.0, (match.soft_near_m - filmed.setup.distance_m) * layer.scale)
    most_px = max(match.blur_near_px, match.blur_hero_near_px) / filmed.sized.delivered
    larger = min(_MOST_LARGE, max(1.0, _DISC_PX / max(most_px, _NOTHING)))
    own, hero = (_slanted(filmed.seen_from(own, there_m, larger)) for own in (True, False))
    by_own = filmed.by_own(own, larger)
    edges = []
    for seen_by, on in ((by_own, ()), (by_own, ("focus",)), (filmed.by_hero(hero, larger), ("focus",))):
        seen = _crop(seen_by, Effects.only(*on))
        if seen is None:
            return None
        try:
            edge = edge_of(seen[..., 1])
        except ValueError:  # softer than what is cut out of the picture
            return None
        # no disc can be told that is smaller than a pixel of the picture
        edges.append(edge if most_px * larger >= 1.0 else replace(edge, off_px=edge.off_px + 1.0))
    sharp, soft, soft_hero = edges
    # as if it were recorded with pixels in which a sharp edge is as wide as in a recording
    times = SHARP_PX / sharp.spread_px
    sized = replace(filmed.sized, delivered=filmed.sized.delivered / larger / times)
    return EdgeBeside(soft.enlarged(times), soft_hero.enlarged(times)), sized


def _slanted(part: Callable[..., Part]) -> list[Part]:
    """One half of an edge lies behind the other, or what is behind both is seen through their soft join."""
    corners = ((-_SLANT, -1.0), (_SLANT, 1.0), (1.0, 1.0), (1.0, -1.0))
    return [part("Whole", "#d0d0d0", *_SQUARE), part("Half", "#404040", *corners)]


def _flicker(filmed: _Filmed) -> Came | None:
    """A card under rippling light; of some takes that begin at other moments of the ripple the worst, as the
    comparison says what it is at worst.
    """
    setup = filmed.setup
    if not setup.ripple_depth:
        return None
    match, _ = _cards(filmed)
    worst: Flicker | None = None
    for take in range(_TAKES):
        moments = np.arange(_FLICKERS) + take / _TAKES
        frames = _whole(_crop(match, Effects.only("flicker"), float(each), _SMALL_PX) for each in moments)
        if not frames:
            return None
        light = np.array([[float(each.mean())] for each in frames])
        seen = flicker_of_frames(light, (1, 1), setup.capture_fps, setup.mains_hz)
        if worst is None or seen.peak_to_peak > worst.peak_to_peak:
            worst = seen
    return worst, filmed.sized


def _ball(filmed: _Filmed) -> Came | None:
    """A grey ball in the light of the layer and in that of the hero."""
    if filmed.member.layer.kind in _PASSES:  # they are judged by where their light falls in the shot
        return None
    told = []
    for match, mirrored in zip(_cards(filmed), (filmed.member.layer.mirrored, False), strict=True):
        towards, fill = key_light(match)
        seen = shaded_ball(towards, fill)
        try:
            told.append(grey_ball_light(seen[:, ::-1] if mirrored else seen, CIRCLE_PX))
        except ValueError:  # lit evenly
            return None
    own, hero = told
    lit = BallLit(CIRCLE_PX, (own.key,), own.key_fill_stops, hero.key, hero.key_fill_stops)
    return lit, filmed.sized


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
    ("grey", partial(_card, effect="exposure"), "colour"),
    ("grey", partial(_card, effect="cast"), "brightness"),
    ("grain", _grain, ""),
    ("edge", _edge, ""),
)
"""The row that measures it, what is held before the camera or filmed, and an item that this does not show."""
