"""Costs in the shapes that go over the wire."""

from __future__ import annotations

from jungoptic.app.costs.schemas import OptionOut
from jungoptic.core.breakdown.costs import Option
from jungoptic.core.cautions import CAUTIONS


def option_out(option: Option, chosen: str) -> OptionOut:
    return OptionOut(
        key=option.key,
        name=option.name,
        school=option.school,
        layers=list(option.layers),
        hours=option.hours,
        days=option.days,
        chosen=option.key == chosen,
        crafts=list(option.crafts),
        wanted=list(option.wanted),
        cautions=[CAUTIONS[key].title for key in option.cautions],
        shows=list(option.shows),
        savings=list(option.savings),
    )
