"""The kit over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema

from jungoptic.app.base.schemas import Changes, Seen
from jungoptic.core.handbook import CardField


class Used(Schema):
    """``shots``: the first few codes."""

    set_ups: int
    takes: int
    shots: list[str]


class KitRow(Schema):
    id: int
    version: int
    removed: bool
    values: Changes
    used: Used


class GateName(Schema):
    key: str
    name: str


class StartName(Schema):
    key: str
    title: str


class KitOut(Schema):
    """Everything that the production owns, retired things too, by kind; what can be said of each kind.
    ``new_mode``: what a new recording begins with.
    """

    version: int
    fields: dict[str, list[CardField]]
    rows: dict[str, list[KitRow]]
    gates: list[GateName]
    starts: list[StartName]
    new_mode: Changes


class KitIn(Seen):
    """Something new; ``version`` is the production's."""

    fields: Changes


class KitChange(Seen):
    changes: Changes


class StartIn(Seen):
    start: str


class KitTable(Seen):
    """The kit as a table, CSV."""

    text: str


class KitTakenIn(Schema):
    write: int
    id: int
    version: int
    added: int
    changed: int
