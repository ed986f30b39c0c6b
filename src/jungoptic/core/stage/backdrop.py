"""What no layer covers, and how one picture is laid over another."""

from __future__ import annotations

import math

import cv2
import numpy as np

from ..light import air
from ..match.layer import Layer
from ..match.lighting import resolved
from ..match.measure import Match
from ..match.stack import Member, Stack
from .picture import Image
from .raster import Box

_HAZE = 0.25  # of a layer of haze where nobody said how far one sees
_INTO_M = 50.0  # air is that of the middle of a layer, of the first of a deep one


def sky(stack: Stack, shape: tuple[int, int], horizon: float) -> Image:
    """Air over ground for what no layer covers: light by how high the key stands, warm when it is low, the
    sun where it is in frame.
    """
    hero = stack.hero
    height, width = shape
    elevation = hero.key_elevation_deg if hero.key_elevation_deg is not None else 35.0
    low = min(max(1.0 - elevation / 30.0, 0.0), 1.0)
    day = np.array([0.16, 0.30, 0.55], np.float32) * (1.0 - 0.6 * low)
    rim = (
        np.array([0.55, 0.60, 0.66], np.float32) * (1.0 - low)
        + np.array([0.75, 0.42, 0.20], np.float32) * low
    )
    rows = np.arange(height, dtype=np.float32)
    up = np.clip((horizon - rows) / max(horizon, 1.0), 0.0, 1.0)[:, None]
    sky = rim * (1.0 - up) + day * up
    ground = np.array([0.09, 0.085, 0.08], np.float32) * (1.0 - 0.4 * low)
    column = np.where((rows < horizon)[:, None], sky, ground).astype(np.float32)
    picture = np.repeat(column.T[:, :, None], width, axis=2)
    return _with_sun(picture, stack, shape, horizon)


def _with_sun(picture: Image, stack: Stack, shape: tuple[int, int], horizon: float) -> Image:
    hero = stack.hero
    if hero.key_azimuth_deg is None or hero.key_elevation_deg is None or abs(hero.key_azimuth_deg) < 100:
        return picture
    k = shape[1] / stack.delivery.width_px
    f = Match(stack.hero, stack.members[0].layer, None, stack.delivery).f_hero_px * k
    aside = math.radians(180.0 - abs(hero.key_azimuth_deg))
    if aside > 1.2:
        return picture
    x = shape[1] / 2 + math.copysign(f * math.tan(aside), hero.key_azimuth_deg)
    y = horizon - f * math.tan(math.radians(hero.key_elevation_deg)) / math.cos(aside)
    radius = max(1.5, f * math.radians(0.53) / 2)
    if -radius < x < shape[1] + radius and -radius < y < shape[0] + radius:
        for plane, bright in zip(picture, (3.0, 2.6, 2.0), strict=True):
            cv2.circle(plane, (round(x), round(y)), round(radius), bright, -1, cv2.LINE_AA)
    return picture


def match_of(stack: Stack, member: Member) -> Match:
    """A layer of the stack against its hero, its key written out."""
    setup = resolved(member.setup, member.layer) if member.setup else None
    return Match(stack.hero, member.layer, setup, stack.delivery)


def haze_opacity(stack: Stack, layer: Layer) -> float:
    """How much a layer of haze hides."""
    seen_m = stack.plan.visibility_m
    return air.veil(seen_m, layer.near_m) if seen_m else _HAZE


def air_opacity(stack: Stack, layer: Layer) -> float:
    """How much the place's own air hides of a layer that stands in it, full size, with no haze laid over."""
    seen_m = stack.plan.visibility_m
    if not seen_m or layer.scale != 1.0 or layer.combine in ("add", "screen") or "haze" in stack.kinds:
        return 0.0
    return air.veil(seen_m, layer.near_m + min(layer.depth_m, _INTO_M) / 2)


def over(picture: Image, cut: Image, box: Box, combine: str) -> None:
    """Lay planes of red, green, blue and alpha over a picture, as the layer is combined."""
    left, top, right, bottom = box
    under = picture[:, top:bottom, left:right]
    colour_of, alpha = cut[:3], cut[3:]
    if combine == "add":
        under += colour_of
    elif combine == "screen":
        under += colour_of * np.clip(1.0 - under, 0.0, 1.0)
    elif combine in ("multiply", "shadow_alpha"):
        under *= 1.0 - alpha * (1.0 - np.clip(colour_of, 0.0, 1.0))
    else:
        under *= 1.0 - alpha
        under += colour_of
