"""Costs in the shapes that go over the wire."""

from __future__ import annotations

from jungoptic.app.costs.schemas import OptionOut
from jungoptic.app.vocabulary.own import caution_title
from jungoptic.core.breakdown import Option


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
        cautions=[caution_title(key) for key in option.cautions],
        shows=list(option.shows),
        savings=list(option.savings),
        mended=option.mended,
    )
