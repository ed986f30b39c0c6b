"""Photographs of lit sheets over the wire."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Points
from jungoptic.app.rushes.schemas import OverlayOut, Pair
from jungoptic.core.vocabulary import Verdict


class LitSheetLineOut(Schema):
    """An amount of a photographed sheet as an item of the ladder judges it, beside what is planned."""

    amount: str
    label: str
    unit: str
    planned_text: str
    measured_text: str
    error_text: str
    verdict: Verdict


class LitSheetLampOut(Schema):
    """A lamp of a sheet: what it gives over what the kit says, in words, whether that is more than the error,
    and how it is to be turned; "" where it is left.
    """

    name: str
    text: str
    differs: bool
    to_do: str


class LitSheetOut(Schema):
    """The newest photograph of a layer's lit sheet and what it tells; no ``still_id`` where there is none.
    ``has_sheet``: its set-up has one; ``reads``: it is being read; ``fault``: why it tells nothing; ``says``
    what to do; ``keys`` and ``light`` what the key and a ball say; ``found``: the corners were found, not
    marked.
    """

    layer_id: int
    has_sheet: bool
    still_id: int | None
    reads: bool
    fault: str
    says: str
    lines: list[LitSheetLineOut]
    lamps: list[LitSheetLampOut]
    keys: str
    light: str
    corners: Points
    found: bool
    ball: Points
    overlays: list[OverlayOut]
    assumptions: list[str]
    width_px: int
    height_px: int
    by: str
    at: datetime | None


class LitSheetIn(Schema):
    """What is marked on the photograph of a sheet, shares of it: the corners of the sheet from its top left
    clockwise, the middle of a grey ball and a place on its rim; empty where it is left to be found.
    """

    corners: list[Pair] = Field(default_factory=list)
    ball: list[Pair] = Field(default_factory=list)
