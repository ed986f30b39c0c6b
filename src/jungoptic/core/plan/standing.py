"""Where the camera stands and what follows from the hero in closed form: place, heights, angles, key, white
balance, within the stage, the support and the beams.
"""

from __future__ import annotations

import math
from typing import Any

from ..kit.records import Kit
from ..light import colour
from ..match.camera import camera_height_m
from ..match.layer import Layer
from ..match.records import Delivery, SetUp

LEAST_DISTANCE_M = 0.1  # no nearer: lens, matte box and hood stand before the entrance pupil, common practice
_WHITE_K = (2000.0, 10000.0)  # what cameras can be set to, common practice
_WHITE_STEP_K = 10.0


def stood(
    hero: SetUp, layer: Layer, setup: SetUp, delivery: Delivery, kit: Kit, locked: frozenset[str]
) -> SetUp:
    """The set-up with everything that does not depend on the lens where it marries, as far as it can.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        What is filmed.
    setup : SetUp
        As it stands, metres of the set.
    delivery : Delivery
        The finished frame, with the move.
    kit : Kit
        Stage, beams and support.
    locked : frozenset of str
        Fields of :data:`~.solve.SOLVABLE` that keep their value.

    Returns
    -------
    SetUp
        Lens, stop, focus, recording, time and light as they were.
    """

    def free(field: str) -> bool:
        return field not in locked

    changes: dict[str, Any] = {}
    s = layer.scale
    if free("distance_m"):
        wants = layer.near_m / s
        if kit.stage_length_m is not None:  # the model's back edge must stand inside the walls
            wants = min(wants, kit.stage_length_m - layer.depth_m / s)
        changes["distance_m"] = round(max(wants, LEAST_DISTANCE_M), 5)
    changes |= _heights(hero, layer, setup, kit, free("lens_height_m"), free("ground_height_m"))
    changes |= {key: getattr(hero, key) for key in ("tilt_deg", "roll_deg") if free(key)}
    if free("key") and hero.key_azimuth_deg is not None:
        azimuth = -hero.key_azimuth_deg if layer.mirrored else hero.key_azimuth_deg
        changes |= {"key_azimuth_deg": azimuth, "key_elevation_deg": hero.key_elevation_deg}
        changes |= {
            key: getattr(hero, key)
            for key in ("key_size_deg", "key_to_fill_stops")
            if getattr(setup, key) is not None and getattr(hero, key) is not None
        }
    if free("white_balance_k"):
        changes["white_balance_k"] = _white_balance_k(hero, layer, setup)
    if free("travel_m") and setup.travel_m is not None and setup.follows_move and delivery.move.shows_depth:
        changes["travel_m"] = None  # the hero's at this scale
    return setup.model_copy(update=changes)


def _heights(
    hero: SetUp, layer: Layer, setup: SetUp, kit: Kit, free_lens: bool, free_ground: bool
) -> dict[str, float]:
    """Lens and table: the table is raised where the tripod does not go low enough, the model's top stays
    under the beams.
    """
    ideal = (camera_height_m(hero) - layer.base_m) / layer.scale
    height, ground = setup.lens_height_m, setup.ground_height_m
    beams = math.inf if kit.beams_m is None else kit.beams_m
    highest_ground = max(beams - layer.height_m / layer.scale, 0.0)
    if free_ground:
        ground = min(ground, highest_ground)
    if free_lens:
        height = min(max(ground + ideal, kit.lowest_lens_m), kit.highest_lens_m, beams)
    if free_ground and abs(height - ground - ideal) > 1e-9:
        ground = min(max(0.0, height - ideal), highest_ground)
    return {"lens_height_m": round(height, 5), "ground_height_m": round(ground, 5)}


def _white_balance_k(hero: SetUp, layer: Layer, setup: SetUp) -> float:
    """The white balance that sees this light as the hero's sees its own; the one that is set where the
    difference is nothing.
    """
    if layer.kind == "light_pass":
        return hero.white_balance_k
    warmer = colour.mired_shift(hero.white_balance_k, hero.light_k)
    here = colour.mired_shift(setup.white_balance_k, setup.light_k)
    if abs(warmer - here) < 0.5:
        return setup.white_balance_k
    wanted = colour.mired(setup.light_k) - warmer
    low, high = _WHITE_K
    kelvin = high if wanted <= 0 else 1e6 / wanted
    return _WHITE_STEP_K * round(min(max(kelvin, low), high) / _WHITE_STEP_K)
