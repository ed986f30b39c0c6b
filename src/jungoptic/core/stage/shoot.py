"""A shot through the simulated camera: every layer as its set-up records it, laid together."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ..match.measure import Match
from ..match.records import SetUp
from ..match.stack import Member, Stack
from ..match.view import Moment
from .backdrop import air_opacity, haze_opacity, match_of, over, sky
from .camera import Camera
from .drawings import horizon_px
from .effects import ALL, Effects
from .picture import Image, grey, linear_rgb
from .raster import airy_spread, disc, spread
from .sensor import add_grain
from .sheet import sheet_corners_m
from .sheet_light import sheet_in_picture, sheet_light

_SURROUND = 0.035
_LEAST_BLUR_PX = 0.1


def photograph(
    stack: Stack,
    width_px: int,
    *,
    frame: float = 0.0,
    only: int | None = None,
    after_finish: bool = True,
    effects: Effects = ALL,
) -> npt.NDArray[np.float32]:
    """A stack, or one of its layers as it is filmed, by a camera with all its faults.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    width_px : int
        Width of the picture; its shape is the delivery's.
    frame : float, default 0
        Of the shot.
    only : int, optional
        Position of one layer, shown as it is filmed: its own sheet with its light behind it, nothing laid in.
    after_finish : bool, default True
        With what is done to the picture at the end.
    effects : Effects, optional
        What the camera does; everything when left out.

    Returns
    -------
    ndarray of float32, shape (h, w, 3)
        Linear light, red first; sRGB primaries, 1 is diffuse white, more is possible.

    References
    ----------
    pinhole, thin_lens, shutter, airy, photon_noise, bt709_codes

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> photograph(STACK, 192, effects=Effects.only("focus")).shape
    (108, 192, 3)
    """
    delivery = stack.delivery
    k = width_px / delivery.width_px
    shape = (round(delivery.height_px * k), width_px)
    if only is not None:
        picture = _as_filmed(stack, stack.members[only], shape, frame, effects)
    else:
        picture = _together(stack, shape, frame, effects)
    if after_finish and delivery.soften_px:
        picture = spread(picture, disc(round(delivery.soften_px * k, 2)))
    if after_finish and delivery.black_and_white:
        picture = grey(picture)
    return np.ascontiguousarray(picture.transpose(1, 2, 0), dtype=np.float32)


def _together(stack: Stack, shape: tuple[int, int], frame: float, effects: Effects) -> Image:
    delivery = stack.delivery
    k = shape[1] / delivery.width_px
    length = delivery.length_frames or stack.plan.length_frames
    horizon = horizon_px(stack.hero, delivery, Moment.at(frame, length, delivery.move)) * k
    behind = sky(stack, shape, horizon)
    veil = behind[:, min(max(int(horizon) - 2, 0), shape[0] - 1), :1, None].copy()
    if effects.grain:
        whole = np.concatenate([behind, np.ones((1, *shape), np.float32)])
        add_grain(whole, stack.hero, k, (effects.seed, round(frame)))
        behind = whole[:3]
    whole_box = (0, 0, shape[1], shape[0])
    for member in reversed(stack.members):
        layer = member.layer
        if layer.kind in ("clean_plate", "focus_pass"):
            continue
        if layer.kind == "haze":
            opacity = haze_opacity(stack, layer)
            behind = behind * (1.0 - opacity) + veil * opacity
            continue
        match = match_of(stack, member)
        planes = Camera(match, frame, shape[1], effects, _filmed_with(stack, member)).film()
        opacity = air_opacity(stack, layer)
        if opacity:
            planes[:3] = planes[:3] * (1.0 - opacity) + veil * opacity * planes[3]
        over(behind, planes, whole_box, layer.combine)
    return behind


def _filmed_with(stack: Stack, member: Member) -> list[Match]:
    """What stands in the same exposure: the hero, and what is put before its lens in camera."""
    together = [
        standing for standing in stack.members if standing.is_hero or standing.layer.combine == "in_camera"
    ]
    if member not in together:
        return []
    return [match_of(stack, other) for other in together if other is not member]


def _as_filmed(stack: Stack, member: Member, shape: tuple[int, int], frame: float, effects: Effects) -> Image:
    match = match_of(stack, member)
    camera = Camera(match, frame, shape[1], effects, _filmed_with(stack, member))
    picture = np.full((3, *shape), _SURROUND, np.float32)
    setup = member.setup
    if setup is not None and setup.backing is not None:
        _lay_sheet(picture, camera, setup, effects)
    over(picture, camera.film(), (0, 0, shape[1], shape[0]), "over")
    return picture


def _lay_sheet(picture: Image, camera: Camera, setup: SetUp, effects: Effects) -> None:
    """The sheet through the lens, in perspective, as soft as it lies far behind."""
    backing, layer = setup.backing, camera.match.layer
    assert backing is not None
    lit = sheet_light(camera.match, setup, shadows=effects.shadows)
    corners, s = sheet_corners_m(setup), layer.scale
    seen = camera.view.project([corners * s], *camera.size)[0] * camera.k
    laid = sheet_in_picture(lit, seen, camera.shape)
    if laid is None:
        return
    light, cover = laid
    planes = np.concatenate([light * linear_rgb(backing.colour)[:, None, None] * cover, cover[None]])
    blur = camera.blur_px(np.array([0.0, corners[2, 1], backing.behind_m * s]))
    if blur * camera.k >= _LEAST_BLUR_PX:
        planes = spread(planes, disc(round(blur * camera.k, 2)))
    if effects.diffraction:
        planes = airy_spread(planes, camera.match.airy_px * camera.k)
    gain = camera.gain(setup)
    planes[:3] *= gain if gain.ndim == 3 else gain[:, None, None]
    if effects.grain:
        add_grain(planes, setup, camera.match.resize * camera.k, (effects.seed, round(camera.frame), 1))
    picture *= 1.0 - planes[3]
    picture += planes[:3]
