"""Whose the recordings of a card are, as core tells it from what they say and what was logged."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.takes.models import Take
from jungoptic.core.light import exposure_time_s
from jungoptic.core.plan import Slated, slated
from jungoptic.core.recordings import CameraClock, Clip, LoggedTake, Placed, place_clips

_FILED_ELSEWHERE = "{card} has a file of this take already: {file}."


@dataclass(frozen=True)
class Match:
    """A recording with the take that it is filed to, or could be filed to, and what its slates say."""

    recording: Recording
    placed: Placed
    slates: tuple[Slated, ...]


@dataclass(frozen=True)
class Matched:
    """A card as it is known: ``takes`` are all that could be meant, by id."""

    matches: list[Match]
    takes: dict[int, Take]
    clock: CameraClock | None

    def left_over(self) -> list[Take]:
        """Takes of the time of this card, and of its camera, that no file was found for."""
        found = {each.placed.take for each in self.matches} | {
            other for each in self.matches for other in each.placed.others
        }
        sure = [
            self.takes[each.placed.take]
            for each in self.matches
            if each.placed.take is not None and each.placed.sure == "matched"
        ]
        if not sure:
            return []
        first, last = min(take.recorded_at for take in sure), max(take.recorded_at for take in sure)
        cameras = {take.mode.camera_id for take in sure}
        return [
            take
            for take in self.takes.values()
            if take.pk not in found and first <= take.recorded_at <= last and take.mode.camera_id in cameras
        ]


def slates_of(recording: Recording) -> tuple[Slated, ...]:
    """What the slates of a recording say; codes that are none of ours are left out."""
    told = (slated(each["text"]) for each in recording.says.get("codes", ()))
    return tuple(each for each in told if each is not None)


def match(card: Card, recordings: Sequence[Recording] | None = None) -> Matched:
    """Whose each recording of a card is: filed ones as they are filed, others as far as it can be told."""
    rows = list(card.recordings.all()) if recordings is None else list(recordings)
    takes = {
        take.pk: take
        for take in Take.objects.filter(layer__shot__production=card.production_id)
        .select_related("layer__shot", "mode__camera", "lens")
        .defer("facts", "planned")  # megabytes, and nothing here asks for them
        .order_by("pk")
    }
    elsewhere = {
        row.take_id: row
        for row in Recording.objects.filter(card__production=card.production_id, take__isnull=False)
        .exclude(card=card, here=True)
        .select_related("card")
    }
    whole = [row for row in rows if row.here and not row.fault]
    clips = [clip_of(row) for row in whole]
    by_hand = {index: row.take_id for index, row in enumerate(whole) if row.take_id is not None}
    logged = [
        _logged(take, card.production.frame_rate_fps) for take in _meant(takes.values(), elsewhere, clips)
    ]
    placed, clock = place_clips(clips, logged, by_hand)
    told = dict(zip((row.pk for row in whole), placed, strict=True))
    matches = [Match(row, _of_card(row, told.get(row.pk), elsewhere), slates_of(row)) for row in rows]
    return Matched(matches, takes, clock)


def _meant(
    takes: Iterable[Take], elsewhere: dict[int | None, Recording], clips: Sequence[Clip]
) -> list[Take]:
    """The takes that could be meant: not those that have a file on another card, but where a slate here names
    one all the same.
    """
    shown = {code for clip in clips for code in clip.codes}
    return [take for take in takes if take.pk not in elsewhere or take.slate_code in shown]


def _of_card(row: Recording, placed: Placed | None, elsewhere: dict[int | None, Recording]) -> Placed:
    if placed is None:
        return Placed(row.take_id, "matched" if row.take_id else "unknown", "", row.fault)
    there = elsewhere.get(placed.take)
    if row.take_id is None and there is not None and placed.sure == "matched":
        why = _FILED_ELSEWHERE.format(card=there.card.name, file=there.name)
        return replace(placed, sure="likely", why=why)
    return placed


def clip_of(row: Recording) -> Clip:
    """What a recording tells core."""
    says = row.says
    return Clip(
        name=row.name,
        codes=tuple(dict.fromkeys(each.code for each in slates_of(row))),
        began_s=says.get("began"),
        length_s=says.get("length_s"),
        width_px=says.get("width_px"),
        rate_fps=says.get("rate_fps"),
        ends=says.get("ends", ""),
        settings=says.get("settings", {}),
    )


def _logged(take: Take, delivered_fps: float) -> LoggedTake:
    """A take for core. What was filmed faster than it is delivered may be kept at either rate."""
    shot = take.layer.shot
    return LoggedTake(
        key=take.pk,
        code=take.slate_code,
        logged_s=take.recorded_at.timestamp(),
        least_s=shot.length_frames / delivered_fps,
        width_px=take.mode.recorded_width_px,
        rate_fps=take.capture_fps if take.capture_fps == delivered_fps else None,
        settings={
            "iso": take.iso,
            "f_number": take.f_number,
            "focal_length_mm": take.focal_length_mm,
            "exposure_s": exposure_time_s(take.shutter_angle_deg, take.capture_fps),
        },
    )
