"""Cards and recordings, in the shapes that go over the wire."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db.models import Count, Q

from jungoptic.app.base.answers import Json
from jungoptic.app.footage import copying, folders
from jungoptic.app.footage.jobs import rows_to_copy
from jungoptic.app.footage.matching import Matched, clip_of, match
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take
from jungoptic.core.kit import rate_name
from jungoptic.core.match import Difference, file_differences, stopped_early
from jungoptic.core.plan import Slated
from jungoptic.core.recordings import CameraClock, takes_left
from jungoptic.core.vocabulary import Units
from jungoptic.core.wording import Words, number

_GIGA = 1e9
_MINUTE_S, _HOUR_S = 60, 3600
_STEADY_S = 1.0
_MANY = 999
_OF_THE_FILE = ("name", "recorded", "settings", "copied_to", "picture", "length_s")


def cards_answer(production: Production) -> Json:
    """What is in this machine now, and what was read of the production's cards."""
    footage = folders.footage_of(production.slug)
    rows = Card.objects.filter(production=production).select_related("read_by")
    counted = rows.annotate(
        count=Count("recordings"),
        filed=Count("recordings", filter=Q(recordings__take__isnull=False)),
        copied=Count("recordings", filter=~Q(recordings__copied_to="")),
    )
    by_place = {card.place: card.pk for card in rows}
    return {
        "version": production.version,
        "looks_in": [str(root) for root in settings.CARDS],
        "copies_to": str(footage),
        "free_bytes": folders.free_bytes(footage),
        "folders": [
            {
                "place": one.place,
                "name": one.name,
                "recordings": one.recordings,
                "size_bytes": one.size_bytes,
                "card_id": by_place.get(one.place),
            }
            for one in folders.cards()
        ],
        "cards": [
            {
                "id": card.pk,
                "name": card.name,
                "place": card.place,
                "here": Path(card.place).is_dir(),
                "read_at": card.read_at,
                "read_by": card.read_by.shown_name,
                "recordings": card.count,
                "filed": card.filed,
                "copied": card.copied,
            }
            for card in counted
        ],
    }


def card_answer(card: Card, units: Units) -> Json:
    """A card with its recordings, whose they are, and what it still takes."""
    rows = list(card.recordings.select_related("picture"))
    matched = match(card, rows)
    layers = _layers(card, matched)
    by_code = {take.slate_code: take.pk for take in matched.takes.values() if take.slate_code}
    here, to_copy = Path(card.place).is_dir(), rows_to_copy(card)
    return {
        "id": card.pk,
        "version": card.version,
        "name": card.name,
        "place": card.place,
        "here": here,
        "read_at": card.read_at,
        "read_by": card.read_by.shown_name,
        "others": card.others,
        "clock": _clock(matched.clock),
        "room": _room(card, rows) if here else "",
        "to_copy": sum(not copying.is_there(row) for row in to_copy),
        "to_copy_bytes": copying.wanted_bytes(to_copy),
        "recordings": [
            {
                **_recording(one.recording),
                "logged_at": _logged_at(one.recording, matched.clock),
                "slates": [_slate(each, layers, by_code) for each in one.slates],
                "filed": one.recording.take_id is not None,
                "sure": one.placed.sure,
                "by": one.recording.filed_by or one.placed.by,
                "why": "" if one.recording.take_id is not None else one.placed.why,
                "take": _take(matched, one.placed.take),
                "others": [_take(matched, other) for other in one.placed.others],
                "differs": _differs(matched.takes.get(one.placed.take or 0), one.recording, units),
            }
            for one in matched.matches
        ],
        "left_over": [_take(matched, take.pk) for take in matched.left_over()],
        "takes": [_take(matched, take) for take in matched.takes],
    }


def from_files(shot_id: int, units: Units) -> list[Json]:
    """What files say of the takes of a shot."""
    rows = (
        Recording.objects.filter(take__layer__shot=shot_id)
        .select_related("card", "picture", "take__lens", "take__mode", "take__layer__shot__production")
        .order_by("take_id", "pk")
    )
    told = []
    for row in rows:
        assert row.take is not None
        recording = _recording(row)
        told.append(
            {name: recording[name] for name in _OF_THE_FILE}
            | {
                "take_id": row.take_id,
                "take_number": row.take.number,
                "layer_id": row.take.layer_id,
                "layer": row.take.layer.name,
                "recording_id": row.pk,
                "card": row.card.name,
                "differs": _differs(row.take, row, units),
            }
        )
    return told


def _recording(row: Recording) -> Json:
    says = row.says
    began = says.get("began")
    return {
        "id": row.pk,
        "name": row.name,
        "here": row.here,
        "fault": row.fault,
        "size_bytes": row.size_bytes,
        "length_s": says.get("length_s"),
        "began_at": datetime.fromtimestamp(began, UTC) if began is not None else None,
        "recorded": _recorded(says),
        "timecode": says.get("timecode", ""),
        "camera": says.get("camera", ""),
        "settings": _settings(says),
        "copied_to": row.copied_to,
        "sha256": row.sha256,
        "picture": f"/api/recordings/{row.pk}.jpg" if row.picture_id else "",
    }


def _logged_at(row: Recording, clock: CameraClock | None) -> datetime | None:
    """When its take would have been logged, by the camera's clock, put right."""
    moment = clock.moment_s(clip_of(row)) if clock else None
    return None if moment is None else datetime.fromtimestamp(moment, UTC)


def _recorded(says: dict[str, Any]) -> str:
    """Size, rate and way of keeping, in a line."""
    parts = []
    if says.get("width_px"):
        parts.append(f"{says['width_px']} × {says['height_px']}")
    if says.get("rate_fps"):
        parts.append(f"{rate_name(round(says['rate_fps'], 3))} frames/s")
    if says.get("codec"):
        parts.append(str(says["codec"]).upper())
    return ", ".join(parts)


def _settings(says: dict[str, Any]) -> list[str]:
    """What it was recorded with, each in words."""
    told = says.get("settings", {})
    parts = []
    if value := told.get("focal_length_mm"):
        parts.append(f"{value:g} mm")
    if value := told.get("f_number"):
        parts.append(f"f/{value:g}")
    if value := told.get("exposure_s"):
        parts.append(f"1/{1 / value:.0f} s" if value < 0.5 else f"{value:g} s")
    if value := told.get("iso"):
        parts.append(f"ISO {value:g}")
    return parts


def _differs(take: Take | None, row: Recording, units: Units) -> list[Difference]:
    """What a file says otherwise than its take was logged."""
    fact = take.fact() if take else None
    if take is None or fact is None or row.fault:
        return []
    names = {"rate_fps": "capture_fps", "width_px": "recorded_width_px", "height_px": "recorded_height_px"}
    told = {name: row.says[said] for said, name in names.items() if row.says.get(said)}
    delivered = take.layer.shot.production.frame_rate_fps
    found = file_differences(fact, {**told, **row.says.get("settings", {})}, delivered, Words(units))
    length_s, rate = row.says.get("length_s"), row.says.get("rate_fps")
    if take.rolled_s and length_s and rate:
        short = stopped_early(take.rolled_s, length_s, rate, take.capture_fps)
        found += [short] if short else []
    return found


def _layers(card: Card, matched: Matched) -> dict[int, Layer]:
    wanted = {each.layer for one in matched.matches for each in one.slates}
    of_it = Layer.objects.filter(pk__in=wanted, shot__production=card.production_id)
    return of_it.select_related("shot").in_bulk()


def _slate(each: Slated, layers: dict[int, Layer], by_code: dict[str, int]) -> Json:
    layer = layers.get(each.layer)
    mine = layer is not None and each.shot in ("", layer.shot.code)  # a long code is left out of a slate
    return {
        "code": each.code,
        "shot": layer.shot.code if layer is not None and mine else each.shot,
        "layer_id": each.layer if mine else None,
        "layer": layer.name if layer is not None and mine else "",
        "number": each.take,
        "take_id": by_code.get(each.code),
    }


def _take(matched: Matched, take_id: int | None) -> Json | None:
    take = matched.takes.get(take_id or 0)
    if take is None:
        return None
    return {
        "id": take.pk,
        "shot_id": take.layer.shot_id,
        "shot": take.slate,
        "layer_id": take.layer_id,
        "layer": take.layer.name,
        "number": take.number,
        "slated_as": take.slate_number,
        "logged_at": take.recorded_at,
    }


def _clock(clock: CameraClock | None) -> Json | None:
    if clock is None:
        return None
    off = abs(clock.behind_s)
    side = "behind" if clock.behind_s > 0 else "ahead of"
    files = f"{clock.files} file{'' if clock.files == 1 else 's'}"
    about = f", give or take {_span(clock.spread_s)}" if clock.spread_s >= _STEADY_S else ""
    text = (
        f"The camera's clock agrees with the log, by {files}{about}."
        if off < max(_STEADY_S, clock.spread_s)
        else f"The camera's clock is {_span(off)} {side} the log, by {files}{about}."
    )
    return {"behind_s": clock.behind_s, "spread_s": clock.spread_s, "files": clock.files, "text": text}


def _span(seconds: float) -> str:
    whole = round(seconds)
    hours, rest = divmod(whole, _HOUR_S)
    minutes, left = divmod(rest, _MINUTE_S)
    parts = ((hours, "h"), (minutes, "min"), (left, "s"))
    return " ".join(f"{count} {unit}" for count, unit in parts if count)[:40] or "0 s"


def _room(card: Card, rows: Iterable[Recording]) -> str:
    """How many takes it still takes."""
    clips = [(row.size_bytes, row.says.get("length_s") or 0.0) for row in rows if row.here and not row.fault]
    free = folders.free_bytes(Path(card.place))
    left = takes_left(free, clips)
    if left is None:
        return ""
    takes = f"in {left.takes} take{'' if left.takes == 1 else 's'}"
    if not left.takes:
        takes = "now, not one more take goes onto it"
    elif left.takes > _MANY:
        takes = f"in more than {_MANY} takes"
    rate = f"{left.bytes_per_s / 1e6:.3g} MB a second"
    return f"Card full {takes}: {number(free / _GIGA)} GB free, {rate}, {_span(left.take_s)} a take."
