"""Costs in the shapes that go over the wire."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from jungoptic.core.breakdown.costs import Option
from jungoptic.core.cautions import CAUTIONS


def option_out(option: Option, chosen: str) -> dict[str, Any]:
    return {
        "key": option.key, "name": option.name, "school": option.school, "layers": list(option.layers), "hours": option.hours, "days": option.days, "chosen": option.key == chosen,
        "crafts": [asdict(one) for one in option.crafts], "wanted": [asdict(one) for one in option.wanted], "cautions": [CAUTIONS[key].title for key in option.cautions],
        "shows": list(option.shows), "savings": [asdict(one) for one in option.savings],
    }  # fmt: skip
