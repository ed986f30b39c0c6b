"""The history over the wire."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Written
from jungoptic.core.vocabulary import Units


class ChangeOut(Schema):
    """One field of one row, as it was and as it is since, in words; what happened to a whole row has no
    ``field`` and no ``before``.
    """

    kind: str
    name: str
    field: str
    before: str
    after: str


class WriteOut(Schema):
    """What one request did. ``can_go_back``: it can be taken back by whoever asks, as far as the history
    knows.
    """

    id: int
    key: str
    at: datetime
    by: str
    mine: bool
    title: str
    shot_id: int | None
    code: str
    changes: list[ChangeOut]
    more: int
    takes_back: int | None
    taken_back: bool
    can_go_back: bool


class HistoryOut(Schema):
    """Newest first; ``next`` is what to ask for ``before`` to go on, None at the end."""

    writes: list[WriteOut]
    next: int | None


class TakeBackIn(Schema):
    """Which write: by its number in the history, or by the key under which one sent it oneself."""

    write: int | None = None
    key: str = Field("", max_length=80)


class TakenBack(Written):
    """What taking back did; ``versions`` are those of every row that it changed, since, by kind and id."""

    versions: dict[str, dict[int, int]]


class HistoryQuery(Schema):
    """Of one ``shot`` or of everything; of some kinds of rows (with commas between), or one ``row`` of them;
    only one's own; only what stands and could be taken back; from which entry on.
    """

    shot: int | None = None
    kinds: str = Field("", max_length=200)
    row: int | None = None
    mine: bool = False
    standing: bool = False
    before: int | None = None
    limit: int = Field(50, ge=1, le=200)
    units: Units = "metric"
