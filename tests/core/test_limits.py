"""Every number that is asked of anybody has an end at both sides, and none can be next to nothing."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest

from jungoptic.core.calculation import find
from jungoptic.core.errors import InputError
from jungoptic.core.handbook import CHECKS
from jungoptic.core.kit import Lamp, Lens
from jungoptic.core.light import Backing, PlacedLamp
from jungoptic.core.limits import LEAST
from jungoptic.core.match import Layer, SetUp
from jungoptic.core.motion import Move
from jungoptic.core.quantities import Record, quantity

ASKED: tuple[type[Record], ...] = (
    Layer,
    SetUp,
    Move,
    PlacedLamp,
    Backing,
    Lens,
    Lamp,
    *(find(name).inputs for name in CHECKS),
)


def numbers(schema: dict[str, Any]) -> Iterator[dict[str, Any]]:
    for inner in schema.get("anyOf", ()):
        yield from numbers({**{key: one for key, one in schema.items() if key != "anyOf"}, **inner})
    if schema.get("type") in ("number", "integer"):
        yield schema


@pytest.mark.parametrize("record", ASKED, ids=lambda record: record.__name__)
def test_every_number_has_both_ends(record: type[Record]):
    for name, schema in record.model_json_schema()["properties"].items():
        for one in numbers(schema):
            assert "maximum" in one or "exclusiveMaximum" in one, name
            low = one.get("minimum", one.get("exclusiveMinimum"))
            assert low is not None, name
            if one.get("exclusiveMinimum") == 0:
                assert one["minimum"] >= min(LEAST.values()), name


def test_what_must_be_more_than_nothing_is_more_than_next_to_nothing():
    with pytest.raises(InputError, match=r"at least 0\.001 mm; 1e-30 was given"):
        find("angle_of_view").inputs.read(
            {"focal_length_mm": 1e-30, "gate_width_mm": 36, "gate_height_mm": 24}
        )
    with pytest.raises(KeyError):
        quantity("Weight", "kg", gt=0)
