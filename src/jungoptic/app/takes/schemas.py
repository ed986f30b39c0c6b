"""The Log over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Changes, Role, Seen
from jungoptic.core.match import Difference
from jungoptic.core.plan import Mark, ProtocolStep, SlateReach
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import Quantity, School, Units, Verdict

LONGEST_ROLL_S = 86_400.0


class TakeMark(Schema):
    """Something good by chance, or an event: touched while the camera rolled, and at which step."""

    at_s: float = Field(ge=0, le=LONGEST_ROLL_S)
    step: str = Field("", max_length=80)


class TakeIn(Schema):
    """A take as it comes from the camera: every value that the card showed or that was set on it, by the
    fields of the card, and ``shown``, the log's own.

    ``slate_code`` is the random id that the slate showed to the camera, ``slate_number`` the take that it
    said.

    Without ``shown`` the rest is filled from the plan as it stands when the take arrives, and the take says
    so. ``in_it``: who was in it; ``rolled_s``: how long the steps rolled.
    """

    actual: Changes = {}
    shown: int | None = Field(None, ge=0, lt=2**63)
    slate_code: str = Field("", pattern="^([0-9A-Z]{8})?$")
    slate_number: int | None = Field(None, ge=1, le=32767)
    note: str = Field("", max_length=2000)
    in_it: str = Field("", max_length=80)
    rolled_s: float | None = Field(None, ge=0, le=LONGEST_ROLL_S)
    marks: list[TakeMark] = Field([], max_length=200)
    circled: YesNo = False
    recorded_at: datetime | None = None
    units: Units = "metric"
    school: School = "measured"


class CircleIn(Seen):
    circled: YesNo
    units: Units = "metric"
    school: School = "measured"


class TakeItemOut(Schema):
    """An item of a verdict; ``to_do`` is what would mend it, as which lamp to move where, "" where nothing
    does by itself.
    """

    item: str
    label: str
    where: str
    amount_text: str
    unit: str
    verdict: Verdict
    sentence: str
    to_do: str


class TakeOut(Schema):
    """A take as it was recorded, with its verdicts as they were given. ``filled``: from which plan the
    settings are that nobody sent.
    """

    id: int
    layer_id: int
    layer_name: str
    number: int
    slate: str
    slate_code: str
    slate_number: int | None
    circled: bool
    note: str
    in_it: str
    rolled_s: float | None
    marks: list[TakeMark]
    recorded_at: datetime
    recorded_by: str
    version: int
    filled: Literal["", "plan", "later"]
    judged_at: datetime
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    against: str
    differences: list[Difference]
    items: list[TakeItemOut]


class TakesOut(Schema):
    """A page of takes of a layer, newest first."""

    takes: list[TakeOut]
    more: bool


class TakeNowOut(Schema):
    """A take against the shot as it stands now."""

    take_id: int
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    against: str
    items: list[TakeItemOut]


class VerdictOut(Schema):
    """A verdict, and what of it does not hold."""

    verdict: Verdict
    shows: int
    tight: int
    holds: int
    items: list[TakeItemOut]


class ForetoldPointOut(VerdictOut):
    """The verdict with one setting at another value; of a lamp, ``field`` is as on the card."""

    field: str
    value: float


class ForetoldOut(Schema):
    """What likely takes of a layer would be given: exact at these points, nothing said between them.

    Where the ``sun`` is its light, it stands as planned; a take has it where it stood.
    """

    layer_id: int
    sun: bool
    planned: VerdictOut
    points: list[ForetoldPointOut]


class SettingOut(Schema):
    """One line of the set-up card at the camera."""

    field: str
    label: str
    text: str
    value: float | None
    unit: str
    quantity: Quantity
    choices: list[Mark]
    under: str


class LogLayerOut(TakesOut):
    """A layer with its card and takes. ``plan`` is the same as long as nothing of its plan is another."""

    id: int
    name: str
    kind: str
    is_hero: bool
    acted: bool
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    next_take: int
    settings: list[SettingOut]
    steps: list[ProtocolStep]
    plan: str
    reaches: list[SlateReach]


class LogOut(Schema):
    shot_id: int
    code: str
    title: str
    production_id: int
    role: Role
    shown: int
    previous_id: int | None
    next_id: int | None
    hero_basis: str
    slate_says: str
    layers: list[LogLayerOut]
