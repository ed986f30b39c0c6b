"""Cards and their recordings over the wire."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.match import Difference
from jungoptic.core.recordings import By, Sure


class FolderOut(Schema):
    """A folder in which recordings lie. ``card_id`` where it was read before."""

    place: str
    name: str
    recordings: int
    size_bytes: int
    card_id: int | None


class CardLineOut(Schema):
    """A card that was read."""

    id: int
    name: str
    place: str
    here: bool
    read_at: datetime | None
    read_by: str
    recordings: int
    filed: int
    copied: int


class CardsOut(Schema):
    """Cards: what is in the machine now, and what was read.

    ``version`` is the production's, ``looks_in`` is where they appear, ``copies_to`` where footage goes.
    """

    version: int
    looks_in: list[str]
    copies_to: str
    free_bytes: int
    folders: list[FolderOut]
    cards: list[CardLineOut]


class CardIn(Seen):
    """The folder of a card, as this machine calls it; the version is the production's."""

    place: str = Field(min_length=1, max_length=1000)


class DroppedOut(Schema):
    """How many bytes of a file that was dropped have come, and the folder that it lies in."""

    have: int
    place: str


class TakeRef(Schema):
    """A take to choose or to look at."""

    id: int
    shot_id: int
    shot: str
    layer_id: int
    layer: str
    number: int
    slated_as: int | None
    logged_at: datetime


class SlateOut(Schema):
    """What a slate said. ``layer_id`` is there where the production has such a layer, ``take_id`` where its
    take was logged.
    """

    code: str
    shot: str
    layer_id: int | None
    layer: str
    number: int
    take_id: int | None


class RecordingOut(Schema):
    """A file of a card: what it says, what is wrong with it, and whose it is.

    ``sure``, ``by``, ``why`` and ``others`` are as it can be told now; ``filed`` says whether it stands.
    ``began_at`` is by the camera's clock, ``logged_at`` when a take of it would have been logged by the
    telephones', ``differs`` what it says otherwise than its take was logged.
    """

    id: int
    name: str
    here: bool
    fault: str
    size_bytes: int
    length_s: float | None
    began_at: datetime | None
    logged_at: datetime | None
    recorded: str
    timecode: str
    camera: str
    settings: list[str]
    slates: list[SlateOut]
    filed: bool
    sure: Sure
    by: By
    why: str
    take: TakeRef | None
    others: list[TakeRef]
    differs: list[Difference]
    copied_to: str
    sha256: str
    picture: str


class ClockOut(Schema):
    """The camera's clock against the telephones'."""

    behind_s: float
    spread_s: float
    files: int
    text: str


class CardOut(Schema):
    """A card as it is known now. ``room`` says how many takes it still takes; empty where nothing tells."""

    id: int
    version: int
    name: str
    place: str
    here: bool
    read_at: datetime | None
    read_by: str
    others: int
    clock: ClockOut | None
    room: str
    to_copy: int
    to_copy_bytes: int
    recordings: list[RecordingOut]
    left_over: list[TakeRef]
    takes: list[TakeRef]


class FilingIn(Schema):
    """One recording filed to a take, or to none."""

    recording_id: int
    take_id: int | None


class FilingsIn(Seen):
    """What is filed; the version is the card's."""

    filings: list[FilingIn] = Field(min_length=1, max_length=5000)


class FromFileOut(Schema):
    """What a file says of the take that it was filed to, and where in the shot that is."""

    take_id: int
    take_number: int
    layer_id: int
    layer: str
    recording_id: int
    length_s: float | None
    name: str
    card: str
    recorded: str
    settings: list[str]
    differs: list[Difference]
    copied_to: str
    picture: str
