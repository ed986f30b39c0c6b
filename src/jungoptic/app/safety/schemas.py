"""Cautions over the wire."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.quantities import YesNo


class SignedOut(Schema):
    by: str
    at: datetime
    note: str


class HazardOut(Schema):
    key: str
    title: str
    text: str
    ask: str
    safer: str
    by: list[str]
    signed: SignedOut | None


class KeyTitle(Schema):
    key: str
    title: str


class SignOffIn(Seen):
    caution: str = Field(max_length=24)
    note: str = Field("", max_length=300)
    withdraw: YesNo = False


class CautionsIn(Seen):
    cautions: list[str] = Field(max_length=40)


class WhoIn(Seen):
    """Who is in the shot: of ``grown``, ``children``, ``animals``, ``frail``, or ``nobody`` alone."""

    who: list[str] = Field(max_length=8)
