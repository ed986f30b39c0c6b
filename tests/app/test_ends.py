"""At both ends of what any field allows the Bench still judges, draws and solves, or says what cannot be:
never an error of ours.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from typing import Any

import pytest
from pydantic import BaseModel

from jungoptic.app.shots.edit import KINDS
from jungoptic.app.shots.models import Layer, PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.core import light, match
from jungoptic.core.breakdown import RECIPES

from .conftest import Caller

RECORDS: dict[str, type[BaseModel]] = {
    "set_ups": match.SetUp,
    "layers": match.Layer,
    "lamps": light.PlacedLamp,
    "backings": light.Backing,
}
JUST_INSIDE = 1e-9  # of the range: a limit that excludes its own end


def ends_of(record: type[BaseModel], name: str) -> list[float]:
    """The least and the greatest value that a numeric field allows; none for others."""
    limits: dict[str, float] = {}
    for one in record.model_fields[name].metadata:
        limits |= {
            key: getattr(one, key) for key in ("ge", "gt", "le", "lt") if getattr(one, key, None) is not None
        }
    low, high = limits.get("ge", limits.get("gt")), limits.get("le", limits.get("lt"))
    if low is None or high is None:
        return []
    inside = (high - low) * JUST_INSIDE
    return [low + inside if "gt" in limits else low, high - inside if "lt" in limits else high]


def fields_at_their_ends(kind: str) -> Iterator[tuple[str, float]]:
    for name in sorted(KINDS[kind].fields & set(RECORDS[kind].model_fields)):
        yield from ((name, value) for value in ends_of(RECORDS[kind], name))


@pytest.fixture
def rows(production) -> dict[str, tuple[Shot, int]]:
    """A row of each kind, and the shot that it is in: the one with lamps, backing, haze and a model."""
    wheel = Shot.objects.get(code="TM020")
    model = Layer.objects.get(shot=wheel, kind="model")
    lit = PlacedLamp.objects.filter(set_up__shot=wheel).first()
    assert lit
    return {
        "set_ups": (wheel, model.set_up_id or 0),
        "layers": (wheel, model.pk),
        "lamps": (wheel, lit.pk),
        "backings": (wheel, PlacedBacking.objects.get(set_up__shot=wheel).pk),
    }


def answered(caller: Caller, path: str, body: dict[str, Any]) -> dict[str, Any] | None:
    """The answer, or None where the field or the kit says no. Anything else is a fault."""
    status, answer = caller("post", path, body)
    assert status in (200, 422), (path, body, answer)
    if status == 422:
        assert all(one["message"].endswith(".") for one in answer["problems"]), (body, answer)
        return None
    return answer if isinstance(answer, dict) else {}


@pytest.mark.parametrize("kind", sorted(RECORDS))
def test_a_field_at_either_end_is_judged_and_drawn(
    kind: str, supervisor: Caller, rows: dict[str, tuple[Shot, int]]
):
    shot, pk = rows[kind]
    judged = 0
    for name, value in fields_at_their_ends(kind):
        tried = {kind: {pk: {name: value}}}
        bench = answered(supervisor, f"/shots/{shot.pk}/trial", tried)
        answered(supervisor, f"/shots/{shot.pk}/picture", tried | {"width_px": 320})
        if bench is None:
            continue
        judged += 1
        items = [item for layer in bench["layers"] for item in layer["items"]]
        wrong = [
            item["item"]
            for item in items
            if item["amount"] is None or not math.isfinite(item["amount"]) or not item["sentence"]
        ]
        assert not wrong, (name, value, wrong)
        points = [
            point for layer in bench["layers"] for outline in layer["outlines"] for point in outline["points"]
        ]
        assert all(None not in point for point in points), (name, value)
    assert judged > 5, "most ends can be tried"


ONE_LENS = ["focal_length_mm"]  # the other lenses go the same way: a sixth of the time
SOLVED = (
    "distance_m",
    "extraction_width_mm",
    "ground_height_m",
    "illuminance_lx",
    "iso",
    "lens_height_m",
    "light_k",
    "tilt_deg",
    "white_balance_k",
)


@pytest.mark.parametrize("name", SOLVED)
def test_a_set_up_at_either_end_is_solved(name: str, supervisor: Caller, shot: Shot, mill: Layer):
    ends = ends_of(match.SetUp, name)
    assert len(ends) == 2
    for value in ends:
        found = answered(
            supervisor,
            f"/layers/{mill.pk}/solve",
            {"set_ups": {mill.set_up_id: {name: value}}, "locked": ONE_LENS},
        )
        for answer in (found or {"answers": []})["answers"]:
            assert match.SetUp.read({**SetUp.objects.get(pk=mill.set_up_id).values(), **answer["set_up"]})
            assert answer["verdict"] in ("holds", "tight", "shows") and answer["sentences"]


@pytest.mark.parametrize("key", sorted(RECIPES))
def test_a_recipe_at_the_ends_of_what_it_asks_fills_a_shot_that_is_judged(
    key: str, supervisor: Caller, production
):
    asks = RECIPES[key].asks
    for number, end in enumerate(("least", "most")):
        shot = Shot.objects.create(production=production, code=f"E{number}", title="Ends", length_frames=48)
        answers = {ask.name: getattr(ask, end) for ask in asks}
        status, plan = supervisor.planned("post", shot, "recipes", {"key": key, "answers": answers})
        assert status == 201, (answers, plan)
        assert plan["plates"] and all(math.isfinite(one["hours"]) for one in plan["costing"]["options"])
        bench = supervisor.bench(shot)
        assert sum(len(layer["items"]) for layer in bench["layers"])
        for layer in itertools.islice(
            (one for one in bench["layers"] if one["set_up_id"] and not one["is_hero"]), 1
        ):
            answered(supervisor, f"/layers/{layer['id']}/solve", {"locked": ONE_LENS})
        assert supervisor("get", f"/shots/{shot.pk}/small.jpg")[0] == 200
