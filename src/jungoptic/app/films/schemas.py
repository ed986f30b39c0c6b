"""A film over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Changes, Seen
from jungoptic.app.films.copying import What
from jungoptic.core.vocabulary import School


class Follows(Schema):
    field: str
    says: str


class FilmOut(Schema):
    """What is said of a production, and what follows from it."""

    id: int
    version: int
    title: str
    delivery_width_px: int
    delivery_height_px: int
    frame_rate_fps: float
    rate: str
    mains_hz: int
    time_zone: str
    latitude_deg: float | None
    longitude_deg: float | None
    backings: int
    stage_length_m: float | None
    stage_width_m: float | None
    beams_m: float | None
    put_away: bool
    follows: list[Follows]


class FilmIn(Schema):
    """A film to begin: what it is, and what of another production comes with it."""

    values: Changes
    source: int | None = None
    what: list[What] = Field(["kit", "recipes", "figures", "judging"], max_length=4)


class FilmChange(Seen):
    changes: Changes


class FilmTrial(Schema):
    """``start``: the number of the first shot of the cut that is looked at."""

    changes: Changes
    school: School = "measured"
    start: int = Field(0, ge=0, le=1_000_000)


class TriedShot(Schema):
    id: int
    code: str
    title: str
    before: dict[str, int]
    after: dict[str, int]
    worst_before: str
    worst_after: str


class TriedFilm(Schema):
    """Shots that would be judged otherwise; ``next``: from where to ask on."""

    shots: list[TriedShot]
    looked_at: int
    next: int | None


class FilmSaid(Schema):
    """A film that nobody has begun yet, as it was understood, and what follows from it."""

    values: Changes
    follows: list[Follows]


class FilmAsked(Schema):
    values: Changes


class SizeChoice(Schema):
    width_px: int
    height_px: int
    name: str


class RateChoice(Schema):
    fps: float
    name: str


class FilmChoices(Schema):
    """What is usual, to choose from; ``judges``: the fields that verdicts hang on."""

    sizes: list[SizeChoice]
    rates: list[RateChoice]
    mains_hz: list[int]
    zones: list[str]
    judges: list[str]
