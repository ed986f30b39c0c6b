"""Layers that are added, removed and renamed leave everything else where it was."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.shots.models import Layer, PlacedBacking, PlacedLamp, SetUp

from .conftest import Caller, edit


def save(caller: Caller, layer: Layer, **fields: Any) -> int:
    layer.refresh_from_db()
    body = {"layers": {layer.pk: edit(layer.version, **fields)}}
    status, answer = caller("post", f"/shots/{layer.shot_id}/changes", body)
    assert status == 200, answer
    return status


def take_back(caller: Caller, layer: Layer) -> None:
    production = layer.shot.production_id
    newest = caller("get", f"/productions/{production}/history")[1]["writes"][0]
    assert caller("post", f"/productions/{production}/take-back", {"write": newest["id"]})[0] == 200


def standing(set_up: int) -> tuple[float, list[float], list[float]]:
    """How far the camera, the lamps and the sheets of a set-up are from what stands at the mill's front edge:
    in metres of the set, counted from the camera.
    """
    distance = SetUp.objects.get(pk=set_up).distance_m
    return (
        distance,
        [distance + lamp.behind_m for lamp in PlacedLamp.objects.filter(set_up=set_up).order_by("pk")],
        [distance + sheet.behind_m for sheet in PlacedBacking.objects.filter(set_up=set_up).order_by("pk")],
    )


@pytest.fixture
def sheet(mill: Layer) -> PlacedBacking:
    return PlacedBacking.objects.create(set_up=mill.set_up, name="Sheet", behind_m=2.0)


def test_a_nearer_layer_comes_and_goes_and_the_camera_stays(
    supervisor: Caller, mill: Layer, sheet: PlacedBacking
):
    set_up = mill.set_up_id
    assert set_up is not None
    before = standing(set_up)
    nearer_m = 2.4 / mill.scale
    body = {
        "version": mill.shot.version,
        "what": "layer",
        "fields": {"name": "Gate", "kind": "model", "near_m": mill.near_m - 2.4, "scale": mill.scale},
        "like_set_up": set_up,
    }
    status, answer = supervisor("post", f"/shots/{mill.shot_id}/add", body)
    assert status == 201, answer
    gate = Layer.objects.get(pk=answer["id"])
    assert gate.set_up_id == set_up
    distance, lamps, sheets = standing(set_up)
    assert distance == pytest.approx(before[0] - nearer_m)  # to the gate: the camera has not moved
    assert lamps == pytest.approx(before[1]) and sheets == pytest.approx(before[2])
    save(supervisor, gate, removed=True)
    distance, lamps, sheets = standing(set_up)
    assert (distance, lamps, sheets) == (
        pytest.approx(before[0]),
        pytest.approx(before[1]),
        pytest.approx(before[2]),
    )
    take_back(supervisor, gate)
    assert standing(set_up)[0] == pytest.approx(before[0] - nearer_m)


def test_passes_follow_a_layer_that_is_called_otherwise(supervisor: Caller, production):
    sparks = Layer.objects.get(shot__production=production, name="Sparks on black", removed=False)
    of_it = Layer.objects.get(shot=sparks.shot, pass_of="Sparks on black")
    save(supervisor, sparks, name="Sparks, second burst")
    of_it.refresh_from_db()
    assert of_it.pass_of == "Sparks, second burst"
    take_back(supervisor, sparks)
    of_it.refresh_from_db()
    sparks.refresh_from_db()
    assert (sparks.name, of_it.pass_of) == ("Sparks on black", "Sparks on black")


def test_a_pass_keeps_what_is_said_of_it_in_the_same_save(supervisor: Caller, production):
    sparks = Layer.objects.get(shot__production=production, name="Sparks on black", removed=False)
    of_it = Layer.objects.get(shot=sparks.shot, pass_of="Sparks on black")
    body = {
        "layers": {
            sparks.pk: edit(sparks.version, name="Embers"),
            of_it.pk: edit(of_it.version, pass_of=""),
        }
    }
    assert supervisor("post", f"/shots/{sparks.shot_id}/changes", body)[0] == 200
    of_it.refresh_from_db()
    assert of_it.pass_of == ""
