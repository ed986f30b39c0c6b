"""The simulated stage: the stack as the lens will see it, in simple shaded shapes. Arrays out.

Everything is worked in linear light, back to front: shapes in perspective, shaded by the key, focus blur and
motion blur as set, exposure and colour as they come out, haze by distance, grain of the hero. While it is
worked, a picture is planes, colour first: sums run along whole rows, four times as quick as over three or
four colours at each pixel.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

import cv2
import numpy as np
import numpy.typing as npt

from ..light import planck_gain
from ..match.measure import Match
from ..match.stack import Member, Stack
from ..match.view import START, Moment, layer_view, placed_m
from .backdrop import air_opacity, haze_opacity, match_of, over, sky
from .drawings import horizon_px, parts_of
from .effects import ALL
from .faces import flop_of, is_shaded, key_light
from .painted import fill, seen_faces
from .picture import Image, encoded, grey, linear_rgb, softened
from .sensor import GRAIN_AT_400
from .sheet import sheet_seen
from .sheet_light import sheet_light
from .standing_picture import standing_picture

_GRAIN_TILE = 256
Pictures = Mapping[str, Image]  # pictures of layers, cut out, by the layers' names
_NONE: Pictures = {}
_A_METRE, _MOST_POINTS = 16, 72  # of a sheet's light: enough to see its shadows


def gain_of(match: Match) -> Image:
    """Exposure and cast as they come out against the hero's."""
    if match.setup is None:
        return np.ones(3, np.float32)
    off = match.stops - match.stops_hero
    setup, hero = match.setup, match.hero
    cast = planck_gain(setup.light_k, setup.white_balance_k) / planck_gain(hero.light_k, hero.white_balance_k)
    return np.asarray(cast * 2.0**off, np.float32)


def _layer_picture(
    member: Member,
    match: Match,
    size: tuple[float, float],
    shape: tuple[int, int],
    k: float,
    moment: Moment,
    pictures: Pictures,
) -> tuple[Image, tuple[int, int, int, int]] | None:
    """The layer premultiplied by its own alpha, and the box that it touches.

    Planes of red, green, blue, alpha: 4 × h × w.
    """
    layer = member.layer
    if layer.name in pictures:
        planes = standing_picture(match, pictures[layer.name], size, shape, k, moment)
        if planes is None:
            return None
        if not layer.fills_frame:  # a plate is as its own lens saw it
            planes[:3] *= gain_of(match)[:, None, None]
            planes = softened(planes, blur_of(match, 0.0) * k, _smear_px(match) * k)
        return planes, (0, 0, shape[1], shape[0])
    canvas = np.zeros((4, *shape), np.float32)
    view, come = layer_view(match, moment), placed_m(layer, moment)
    light = None
    if is_shaded(layer, ALL):
        towards, filled = key_light(match)
        light = towards * flop_of(layer, ALL), filled
    boxes, softest = [], 0.0
    for part in sorted(parts_of(layer), key=lambda part: -part.behind_m):
        for face in seen_faces(part, come, view, size, light):
            touched = fill(canvas, face, k)
            if touched:
                boxes.append(touched)
        if not part.lies:
            softest = max(softest, blur_of(match, part.behind_m))
    if not boxes:
        return None
    blur, smear = softest * k, _smear_px(match) * k
    pad = int(blur / 2 + smear / 2) + 2
    left, top = max(0, min(b[0] for b in boxes) - pad), max(0, min(b[1] for b in boxes) - pad)
    right, bottom = (
        min(shape[1], max(b[2] for b in boxes) + pad),
        min(shape[0], max(b[3] for b in boxes) + pad),
    )
    cut = canvas[:, top:bottom, left:right]
    cut[:3] *= gain_of(match)[:, None, None]
    return softened(cut, blur, smear), (left, top, right, bottom)


def _smear_px(match: Match) -> float:
    return match.motion_px if match.setup is not None else 0.0


def blur_of(match: Match, behind_m: float) -> float:
    if match.setup is None:
        return 0.0
    return min(match.blur_at_px(match.setup.distance_m + behind_m / match.layer.scale), 200.0)


def _grain(picture: Image, iso: float, k: float) -> None:
    """Grain of the hero: the same every time, so that two pictures can be compared."""
    amount = GRAIN_AT_400 * math.sqrt(iso / 400.0) * k
    tile = np.random.default_rng(12).standard_normal((_GRAIN_TILE, _GRAIN_TILE)).astype(np.float32) * amount
    height, width = picture.shape[1:]
    noise = np.tile(tile, (height // _GRAIN_TILE + 1, width // _GRAIN_TILE + 1))[:height, :width]
    picture += noise * np.sqrt(np.clip(picture, 0.0, 1.0) + 0.02)


def render(
    stack: Stack,
    width_px: int,
    *,
    moment: Moment = START,
    only: int | None = None,
    after_finish: bool = True,
    pictures: Pictures = _NONE,
) -> npt.NDArray[np.uint8]:
    """A stack through the lens, in simple shaded shapes.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    width_px : int
        Width of the picture; its shape is the delivery's.
    moment : Moment, optional
        Frame of the shot; the first when left out.
    only : int, optional
        Position of one layer, shown as it is filmed: its own sheet with its light behind it, nothing laid in.
    after_finish : bool, default True
        With what is done to the picture at the end.
    pictures : mapping of str to ndarray, optional
        Pictures of layers by the layers' names, from :func:`~jungoptic.core.stage.cut_out`: they stand in
        place of the outlines.

    Returns
    -------
    ndarray of uint8, shape (h, w, 3)
        sRGB codes, red first.

    References
    ----------
    pinhole, srgb, koschmieder

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> render(STACK, 192).shape
    (108, 192, 3)
    """
    picture = _exposed(stack, width_px, moment, only, after_finish, pictures)
    codes: npt.NDArray[np.uint8] = cv2.merge(list(encoded(picture))).astype(np.uint8, copy=False)
    return codes


def _exposed(
    stack: Stack, width_px: int, moment: Moment, only: int | None, after_finish: bool, pictures: Pictures
) -> Image:
    """The picture as planes of linear light."""
    delivery = stack.delivery
    k = width_px / delivery.width_px
    shape = (round(delivery.height_px * k), width_px)
    size = (float(delivery.width_px), float(delivery.height_px))
    if only is not None:
        picture = _as_filmed(stack.members[only], stack, shape, size, k, moment, pictures)
    else:
        picture = sky(stack, shape, horizon_px(stack.hero, delivery, moment) * k)
        veil = picture[
            :, min(max(int(horizon_px(stack.hero, delivery, moment) * k) - 2, 0), shape[0] - 1), :1, None
        ].copy()
        for member in reversed(stack.members):
            _lay(picture, member, stack, shape, size, k, moment, veil, pictures)
    _grain(picture, stack.hero.iso, k)
    if after_finish and delivery.soften_px:
        picture = softened(picture, delivery.soften_px * k)
    if after_finish and delivery.black_and_white:
        picture = grey(picture)
    return picture


def _lay(
    picture: Image,
    member: Member,
    stack: Stack,
    shape: tuple[int, int],
    size: tuple[float, float],
    k: float,
    moment: Moment,
    veil: Image,
    pictures: Pictures,
) -> None:
    layer = member.layer
    if layer.kind in ("clean_plate", "focus_pass"):
        return
    match = match_of(stack, member)
    if layer.kind == "haze":
        opacity = haze_opacity(stack, layer)
        picture *= 1.0 - opacity
        picture += veil * opacity
        return
    laid = _layer_picture(member, match, size, shape, k, moment, pictures)
    if laid is None:
        return
    cut, box = laid
    opacity = air_opacity(stack, layer)
    if opacity:
        cut[:3] = cut[:3] * (1.0 - opacity) + veil * opacity * cut[3:]
    over(picture, cut, box, layer.combine)


def _as_filmed(
    member: Member,
    stack: Stack,
    shape: tuple[int, int],
    size: tuple[float, float],
    k: float,
    moment: Moment,
    pictures: Pictures,
) -> Image:
    picture = np.full((3, *shape), 0.035, np.float32)
    match = match_of(stack, member)
    setup = member.setup
    if setup is not None and setup.backing is not None:
        sheet = sheet_seen(match, setup)
        bright = sheet_light(match, setup, a_metre=_A_METRE, most=_MOST_POINTS) * gain_of(match).mean()
        assert sheet is not None
        edge = np.array(sheet.edge) * k
        left, top = edge.min(axis=0)
        right, bottom = edge.max(axis=0)
        wide, tall = max(1, round(right - left)), max(1, round(bottom - top))
        if wide < 8 * shape[1] and tall < 8 * shape[0]:
            light = cv2.resize(np.asarray(bright, np.float32), (wide, tall), interpolation=cv2.INTER_LINEAR)
            patch = light * linear_rgb(setup.backing.colour)[:, None, None]
            x0, y0 = max(0, round(left)), max(0, round(top))
            x1, y1 = min(shape[1], round(left) + wide), min(shape[0], round(top) + tall)
            if x1 > x0 and y1 > y0:
                picture[:, y0:y1, x0:x1] = patch[
                    :, y0 - round(top) : y1 - round(top), x0 - round(left) : x1 - round(left)
                ]
    laid = _layer_picture(member, match, size, shape, k, moment, pictures)
    if laid is not None:
        over(picture, laid[0], laid[1], "over")
    return picture
