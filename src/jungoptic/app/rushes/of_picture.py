"""What is measured of single pictures: a still, or one frame of a clip."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from jungoptic.app.rushes.asked import WIDEST_PX, Asked, Image, Mask, Opened, cut
from jungoptic.core.errors import InputError
from jungoptic.core.measure import (
    Edge,
    GreyMeasured,
    backing_seen,
    brightness,
    changed,
    chart_matrix,
    chart_patches,
    edge_of,
    evenness_of,
    found_ball,
    grey_ball_light,
    grey_of,
    keyed,
    laid_back,
    mirror_ball_lights,
    moved,
)
from jungoptic.core.rushes import BallLit, EdgeBeside, GreyBeside, Sized, photograph_read

Circle = tuple[float, float, float]
Came = tuple[Any, Sized, Opened]
_CORNERS = 4
CROSSED = "crossed"
_CROSSED = "Over what is seen against it, as it is planned."
_SIDE, _LOW = 0.08, 0.7  # of the frame: the strips at its sides in which a backing is looked for


def evenness(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WIDEST_PX)
    signal = opened.signal(opened.look(), WIDEST_PX)
    light = opened.curve.light(signal)
    inside = opened.inside(sized)
    if asked.kind != CROSSED or inside is None:
        return evenness_of(light, backing_seen(light, inside), signal), sized, opened
    seen = backing_seen(light)
    whole = evenness_of(light, seen, signal)
    try:
        part = evenness_of(light, seen & inside, signal)
    except ValueError:  # whoever stands there hides it
        return whole, sized, opened
    opened.assumes.append(_CROSSED)
    return replace(part, field=whole.field, contours=whole.contours, burnt=whole.burnt), sized, opened


def key(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WIDEST_PX)
    light = opened.light(opened.look(), WIDEST_PX)
    marked = opened.inside(sized)
    if marked is None:
        opened.assumes.append("The sides of the frame are backing.")
        marked = np.zeros(light.shape[:2], bool)
        wide, low = round(_SIDE * sized.width), round(_LOW * sized.height)
        marked[:low, :wide] = marked[:low, -wide:] = True
    clean = None
    if asked.against is not None:
        plate = Opened.of(asked, asked.against)
        behind = plate.light(plate.look(), WIDEST_PX)
        clean = _laid(light, behind)
    return keyed(light, backing_seen(light, marked), clean=clean), sized, opened


def _laid(light: Image, behind: Image) -> Image:
    """A clean plate laid onto its action; where it has nothing the action's own."""
    laid = laid_back(behind, moved(brightness(light), brightness(behind)))
    return np.asarray(np.where(np.isfinite(laid), laid, light), np.float32)


def _pair(asked: Asked) -> tuple[Image, Image, Opened, Sized, Mask | None]:
    """The two pictures that are held against each other: of one clip its first and its last."""
    opened = Opened.of(asked)
    sized = opened.sized(WIDEST_PX)
    if asked.against is not None:
        other = Opened.of(asked, asked.against)
        # what is asked about is held against the reference
        first, second = other.light(other.look(), WIDEST_PX), opened.light(opened.look(), WIDEST_PX)
        if first.shape != second.shape:
            raise InputError.at(
                "against",
                f"Both must be of one size: {opened.footage.width_px} × {opened.footage.height_px} px and"
                f" {other.footage.width_px} × {other.footage.height_px} px were given.",
            )
    else:
        if opened.footage.kind == "still":
            raise InputError.at("against", "Name a second picture to hold it against.")
        last = 1 << 30 if opened.ends is None else opened.ends
        first, second = (opened.light(opened.look(frame), WIDEST_PX) for frame in (opened.begins, last))
        opened.assumes.append("The first frame against the last.")
    inside = opened.inside(sized)
    return first, second, opened, sized, None if inside is None else ~inside


def still(asked: Asked) -> Came:
    first, second, opened, sized, away = _pair(asked)
    return moved(brightness(first), brightness(second), away), sized, opened


def change(asked: Asked) -> Came:
    first, second, opened, sized, away = _pair(asked)
    return changed(first, second, away), sized, opened


def _edge(opened: Opened) -> tuple[Edge, Sized]:
    sized = opened.sized(WIDEST_PX)
    box = opened.box(sized)
    if box is None:
        raise InputError.at("region", "Mark the edge: --region left,top,width,height around one edge.")
    light = brightness(opened.light(opened.look(), WIDEST_PX))
    return edge_of(cut(light, box)), sized


def edge(asked: Asked) -> Came:
    opened = Opened.of(asked)
    own, sized = _edge(opened)
    if asked.against is None:
        return own, sized, opened
    hero, other = _edge(Opened.of(asked, asked.against))
    larger = other.delivered / sized.delivered
    if asked.delivery is None and abs(larger - 1.0) > 1e-6:
        raise InputError.at("delivery", "The two are of different sizes: give --delivery, to which both go.")
    return EdgeBeside(own, hero.enlarged(larger)), sized, opened


def _circle(opened: Opened, sized: Sized, light: Image) -> Circle:
    box = opened.box(sized)
    if box is not None:
        x, y, w, h = box
        return x + (w - 1) / 2.0, y + (h - 1) / 2.0, min(w, h) / 2.0
    circle = found_ball(light)
    if circle is None:
        raise InputError.at("region", "No ball was found: mark it with --region, close around it.")
    opened.assumes.append("The ball was found by itself: check its circle.")
    return circle


def _ball(opened: Opened, kind: str) -> tuple[BallLit, Sized]:
    sized = opened.sized(WIDEST_PX)
    light = opened.light(opened.look(), WIDEST_PX)
    circle = _circle(opened, sized, light)
    if kind == "grey":
        fit = grey_ball_light(light, circle)
        return BallLit(circle, (fit.key,), fit.key_fill_stops), sized
    return BallLit(circle, mirror_ball_lights(light, circle)), sized


def ball(asked: Asked) -> Came:
    opened = Opened.of(asked)
    kind = asked.kind or "mirror"
    own, sized = _ball(opened, kind)
    if asked.against is None:
        return own, sized, opened
    hero, _ = _ball(Opened.of(asked, asked.against), kind)
    beside = replace(own, hero=hero.lights[0], hero_key_fill_stops=hero.key_fill_stops)
    return beside, sized, opened


def _grey(opened: Opened) -> tuple[GreyMeasured, Sized]:
    sized = opened.sized(WIDEST_PX)
    inside = opened.inside(sized)
    if inside is None:
        raise InputError.at("region", "Mark the grey card: --region left,top,width,height within it.")
    return grey_of(opened.light(opened.look(), WIDEST_PX), inside), sized


def grey(asked: Asked) -> Came:
    opened = Opened.of(asked)
    if len(asked.places) == _CORNERS:
        sized = opened.sized(WIDEST_PX)
        corners = tuple((x * sized.width, y * sized.height) for x, y in opened.shares())
        return chart_matrix(chart_patches(opened.light(opened.look(), WIDEST_PX), corners)), sized, opened
    own, sized = _grey(opened)
    if asked.against is None:
        return own, sized, opened
    return GreyBeside(own, _grey(Opened.of(asked, asked.against))[0]), sized, opened


def photograph(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WIDEST_PX)
    signal = opened.signal(opened.look(), WIDEST_PX)
    return photograph_read(signal, known_view_deg=asked.view_deg), sized, opened
