"""What goes over the wire everywhere. The TypeScript types are generated from the rooms' schemas."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel as Schema

from jungoptic.core.quantities import YesNo

Theme = Literal["stage", "daylight"]
Dates = Literal[
    "en-GB", "en-US", "cs", "da", "nl", "fr", "de", "it", "ja", "nb", "pl", "pt", "es", "sv", "iso"
]
WeekStart = Literal["monday", "saturday", "sunday"]
Role = Literal["supervisor", "crew", "guest"]
Basis = Literal["planned", "shot"]
Points = list[list[float]]
Changes = dict[str, Any]


class ProblemOut(Schema):
    field: str
    message: str


class Problems(Schema):
    problems: list[ProblemOut]


class Seen(Schema):
    """Every write says which version it has seen: of the row that it changes, or of the shot or production
    that it adds to.
    """

    version: int


class Removed(Seen):
    """Take something out of the production, or bring it back."""

    removed: YesNo


class Written(Schema):
    """What a write did: its entry in the history, and the row that it made or changed, with that row's
    version since.
    """

    write: int
    id: int
    version: int
