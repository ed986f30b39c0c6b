"""What a lens does to every point of a layer: how soft it is there, how far it is bent, how dark.

Each is looked at in the delivered frame, where the hero wants the point, as far as the recorded picture goes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from ..optics import focus
from .pose import Array, Number
from .records import Delivery, SetUp

LEAST_DEPTH_M = 1e-4  # of the set: before the front of any lens


def _corner_px(setup: SetUp, delivery: Delivery, resize: Number, gate_mm: Number) -> Number:
    """From the middle to the corner of a gate of that width, delivered px."""
    tall = setup.gate_height_mm / setup.gate_width_mm
    corner: Number = gate_mm / 2.0 * np.hypot(1.0, tall) * delivery.width_px / setup.extracted_mm * resize
    return corner


def off_middle(picture: Array, setup: SetUp, delivery: Delivery, resize: Number = 1.0) -> tuple[Array, Array]:
    """How far points lie from the middle of the lens's own picture.

    Parameters
    ----------
    picture : ndarray, shape (2, v, t, n)
        To the right and under the middle of its own frame, delivered px as resized.
    setup : SetUp
        Whose lens.
    delivery : Delivery
        The finished frame.
    resize : float or ndarray, shape (v,), default 1
        In the composite.

    Returns
    -------
    place_px : ndarray, shape (2, v, t, n)
        The same, but nothing further out than the recorded picture goes.
    share : ndarray, shape (v, t, n)
        Of the way to the corner in which the lens was measured.

    References
    ----------
    distortion_scale
    """
    far: Array = np.sqrt((picture * picture).sum(axis=0))
    edge = np.reshape(_corner_px(setup, delivery, resize, setup.gate_width_mm), (-1, 1, 1))
    measured = np.reshape(_corner_px(setup, delivery, resize, setup.measured_on_mm), (-1, 1, 1))
    inside = np.minimum(1.0, edge / np.maximum(far, 1e-9))
    return picture * inside, far * inside / measured


@dataclass(frozen=True, slots=True)
class Fault:
    """A fault of two lenses: the greatest difference of any point (v,), and the greatest of each lens; the
    hero's is one, or one for each layer.
    """

    apart: Array
    here: Array
    hero: Array


def _peak(values: Array) -> Array:
    peak: Array = np.abs(values).max(axis=(-2, -1))
    return peak


def bent(own: tuple[Array, Array], setup: SetUp, wanted: tuple[Array, Array], hero: SetUp) -> Fault:
    """Distortion: every point is displaced by ``k·share²`` of its distance from the middle, px.

    Parameters
    ----------
    own, wanted : tuple of ndarray
        Where the points lie in each picture; see :func:`off_middle`.
    setup, hero : SetUp
        The two lenses.

    Returns
    -------
    Fault
        Delivered px.

    References
    ----------
    distortion_scale
    """
    here, there = (
        place * share**2 * np.reshape(np.asarray(setup_of.distortion_pct) / 100.0, (-1, 1, 1))
        for (place, share), setup_of in ((own, setup), (wanted, hero))
    )
    lengths = [np.sqrt((bends * bends).sum(axis=0)) for bends in (here - there, here, there)]
    return Fault(_peak(lengths[0]), _peak(lengths[1]), _peak(lengths[2]))


def darkened(own: tuple[Array, Array], setup: SetUp, wanted: tuple[Array, Array], hero: SetUp) -> Fault:
    """Vignetting: every point is darker by ``V·N_widest/N·share²``, stops.

    Parameters
    ----------
    own, wanted : tuple of ndarray
        Where the points lie in each picture; see :func:`off_middle`.
    setup, hero : SetUp
        The two lenses.

    Returns
    -------
    Fault
        Stops.

    References
    ----------
    vignetting_guess
    """
    here, there = (
        share**2
        * np.reshape(
            setup_of.vignetting_stops * np.minimum(1.0, setup_of.widest_f_number / setup_of.f_number),
            (-1, 1, 1),
        )
        for (_, share), setup_of in ((own, setup), (wanted, hero))
    )
    return Fault(_peak(here - there), _peak(here), _peak(there))


@dataclass(frozen=True, slots=True)
class Softness:
    """Blur discs at one end of a layer, where they differ most: this layer's, the hero's, delivered px (v,);
    and how far from the lens that is, metres of the set (v,).
    """

    here_px: Array
    hero_px: Array
    distance_m: Array


def softness(blur_px: Array, hero_px: Array, depth_m: Array, these: Array) -> Softness:
    """The end of a layer (the points that count) where its blur differs most from the hero's.

    Parameters
    ----------
    blur_px, depth_m : ndarray, shape (v, t, n)
        Blur of every point, and how far from the lens along its axis, metres of the set.
    hero_px : ndarray, shape (1, t, n) or (v, t, n)
        The hero's blur there.
    these : ndarray, shape (t, n) or (v, t, n)
        Which points count; at least one.

    Returns
    -------
    Softness
        Arrays, shape (v,).

    References
    ----------
    thin_lens
    """
    count = len(blur_px)
    off = np.where(these, np.abs(blur_px - hero_px), -1.0).reshape(count, -1)
    worst = off.argmax(axis=1)
    rows = np.arange(count)
    hero_all = np.broadcast_to(hero_px, blur_px.shape).reshape(count, -1)
    depths = np.broadcast_to(depth_m, blur_px.shape).reshape(count, -1)
    return Softness(blur_px.reshape(count, -1)[rows, worst], hero_all[rows, worst], depths[rows, worst])


def blur_px(setup: SetUp, depth_m: Array, delivery: Delivery, resize: Number = 1.0) -> Array:
    """Blur disc of points so far from the lens along its axis, as the composite resizes it.

    Parameters
    ----------
    setup : SetUp
        Lens, stop, focus.
    depth_m : ndarray, shape (v, t, n)
        Metres of the set.
    delivery : Delivery
        The finished frame.
    resize : float or ndarray, shape (v,), default 1
        In the composite.

    Returns
    -------
    ndarray, shape (v, t, n)
        Diameter, delivered px.

    References
    ----------
    thin_lens
    """
    far_m: Any = np.maximum(depth_m, LEAST_DEPTH_M)
    lens: list[Any] = [setup.focal_length_mm, setup.f_number, setup.focus_distance_m, far_m, setup.focusing]
    many: list[Any] = [np.reshape(value, (-1, 1, 1)) if np.ndim(value) == 1 else value for value in lens]
    px: Array = focus.blur_disc_mm(*many) * np.reshape(
        delivery.width_px / setup.extracted_mm * resize, (-1, 1, 1)
    )
    return px
