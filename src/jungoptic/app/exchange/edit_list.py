"""Lengths and order from OpenTimelineIO and CMX 3600 edit lists, and the production out to OpenTimelineIO."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable
from typing import TYPE_CHECKING, Any

import opentimelineio as otio

from jungoptic.core.kit import rate_name

from .candidates import Candidate, Fault, Read

if TYPE_CHECKING:
    from jungoptic.app.breakdown.schemas import WallLine

_QUOTED = re.compile(r'"(?:[^"\\]|\\.)*"')
DEEPEST = 200
_CLIP_CODE = re.compile(r"[A-Za-z]{1,6}[_\-]?\d{2,5}[A-Za-z]?(?=$|[^A-Za-z0-9])")
_EVENT = re.compile(r"^\s*(\d{3,6})\s+(\S+)\s+(\S+)\s+(\S+)\s")
_TIMECODE = re.compile(r"\b(\d{2})[:;](\d{2})[:;](\d{2})[:;](\d{2})\b")


def _codes(name: str) -> str:
    """The shot's code at the beginning or inside of a clip's name: TM010_v003 is TM010."""
    found = _CLIP_CODE.search(name.replace("_", " ").strip()) or _CLIP_CODE.search(name)
    return found.group(0) if found else name.strip()[:16]


def _timeline_candidates(
    timeline: Any, delivery_fps: float, lines: list[int] | None = None
) -> tuple[tuple[Candidate, ...], list[Fault], list[str]]:
    tracks = [track for track in timeline.tracks if track.kind == otio.schema.TrackKind.Video] or list(
        timeline.tracks
    )
    clips = [clip for track in tracks[:1] for clip in track.find_clips()]
    found: list[Candidate] = []
    faults: list[Fault] = []
    seen: dict[str, int] = {}
    rates = set()
    for at, clip in enumerate(clips):
        line = lines[at] if lines and at < len(lines) else at + 1
        try:
            length = clip.trimmed_range().duration
        except otio.exceptions.OTIOError as error:
            faults.append(Fault(line, "", f"“{clip.name}” has no length: {str(error).splitlines()[0]}"))
            continue
        if round(length.rate) == round(delivery_fps):  # 24 on a list is 23.976 on the film: frame for frame
            frames = round(length.value)
        else:
            rates.add(round(length.rate, 3))
            frames = round(length.to_seconds() * delivery_fps)
        if frames < 1:
            faults.append(Fault(line, "length", f"“{clip.name}” is {frames:,} frames long."))
            continue
        code = _codes(clip.name or f"{at + 1:03d}")
        if code in seen:
            first = found[seen[code]]
            found[seen[code]] = Candidate(
                first.line,
                code,
                first.title,
                first.description,
                (first.length_frames or 0) + frames,
                first.place,
                first.position,
            )
            continue
        seen[code] = len(found)
        own = clip.metadata.get("jungoptic", {}) if hasattr(clip.metadata, "get") else {}
        title = str(own.get("title") or "") or None
        comments = [str(one) for one in clip.metadata.get("cmx_3600", {}).get("comments", [])]
        marks = [str(marker.name) for marker in clip.markers if marker.name]
        said = str(own.get("description") or "") or "; ".join([*comments, *marks]) or None
        found.append(
            Candidate(line, code, title, said, frames, str(own.get("place") or "") or None, len(found) + 1)
        )
    other = sorted(rates)
    notes = (
        [
            f"Lengths at {', '.join(map(rate_name, other))} frames/s are counted anew at"
            f" {rate_name(delivery_fps)}."
        ]
        if other
        else []
    )
    skipped = max(len(tracks) - 1, 0)
    notes += [f"Only the first video track is read; {skipped} more left out."] if skipped else []
    return tuple(found), faults, notes


def read_otio(text: str, delivery_fps: float) -> Read:
    """Shots of a timeline written by OpenTimelineIO, in their order."""
    try:
        if nesting(text) > DEEPEST:
            return Read(
                "otio",
                faults=(
                    Fault(0, "", "Its lists and objects lie deeper in one another than a timeline's do."),
                ),
            )
        json.loads(text)
    except json.JSONDecodeError as error:
        return Read(
            "otio", faults=(Fault(error.lineno, str(error.colno), f"This is not whole JSON: {error.msg}."),)
        )
    try:
        timeline = otio.adapters.read_from_string(text, "otio_json")
    except Exception as error:  # the library raises many kinds; the file is at fault
        return Read(
            "otio",
            faults=(Fault(0, "", f"OpenTimelineIO cannot read it: {str(error).splitlines()[0][:200]}"),),
        )
    if isinstance(timeline, otio.schema.SerializableCollection):
        timeline = next((one for one in timeline if isinstance(one, otio.schema.Timeline)), None)
    if not isinstance(timeline, otio.schema.Timeline):
        return Read("otio", faults=(Fault(0, "", "There is no timeline in this file."),))
    try:
        found, faults, notes = _timeline_candidates(timeline, delivery_fps)
    except Exception as error:  # no tracks, a rate of 0, what is no number: what the library lets in
        said = (str(error) or type(error).__name__).splitlines()[0][:200]
        return Read("otio", faults=(Fault(0, "", f"This timeline cannot be worked with: {said}."),))
    return Read("otio", found, tuple(faults), tuple(notes))


def nesting(text: str) -> int:
    """How deep lists and objects lie in one another in a text of JSON."""
    depth = deepest = 0
    for bracket in re.findall(r"[\[\]{}]", _QUOTED.sub("", text)):
        depth += 1 if bracket in "[{" else -1
        deepest = max(deepest, depth)
    return deepest


def read_edl(text: str, delivery_fps: float) -> Read:
    """Events of a CMX 3600 edit list, in their order; lengths from the source timecodes."""
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    faults: list[Fault] = []
    events = []
    for number, line in enumerate(lines, 1):
        if not _EVENT.match(line):
            continue
        times = list(_TIMECODE.finditer(line))
        if len(times) != 4:
            faults.append(
                Fault(
                    number,
                    "timecode",
                    f"An event has four timecodes like 01:00:00:00; {len(times)} can be read here.",
                )
            )
            continue
        wrong = next(
            (
                one.group(0)
                for one in times
                if int(one.group(2)) > 59
                or int(one.group(3)) > 59
                or int(one.group(4)) >= max(delivery_fps, 30)
            ),
            None,
        )
        if wrong:
            faults.append(
                Fault(
                    number,
                    "timecode",
                    f"“{wrong}” is no time: minutes and seconds go to 59, frames to the rate.",
                )
            )
        events.append(number)
    if not events and not faults:
        return Read(
            "edl",
            faults=(Fault(1, "", "There is no event in this edit list: an event begins with its number."),),
        )
    if faults:
        return Read("edl", faults=tuple(faults))
    try:
        timeline = otio.adapters.read_from_string(
            "\n".join(lines), "cmx_3600", rate=round(delivery_fps), ignore_timecode_mismatch=True
        )
    except Exception as error:  # as above
        said = str(error).splitlines()[0][:200]
        bad = next((n for n in events if lines[n - 1].split()[0] in said), events[0])
        return Read("edl", faults=(Fault(bad, "", f"The edit list cannot be read: {said}"),))
    found, more, notes = _timeline_candidates(timeline, delivery_fps, events)
    return Read("edl", found, tuple(more), tuple(notes))


def write_otio(title: str, delivery_fps: float, lines: Iterable[WallLine]) -> str:
    """The wall as a timeline: one clip a shot in the order of the cut, its break-down as metadata, cautions
    as markers.
    """
    timeline = otio.schema.Timeline(title)
    track = otio.schema.Track("Shots", kind=otio.schema.TrackKind.Video)
    timeline.tracks.append(track)
    for one in lines:
        span = otio.opentime.TimeRange(
            otio.opentime.RationalTime(0, delivery_fps),
            otio.opentime.RationalTime(one.length_frames, delivery_fps),
        )
        clip = otio.schema.Clip(one.code, source_range=span)
        clip.metadata["jungoptic"] = {
            "title": one.title,
            "description": one.description,
            "place": one.place,
            "recipes": list(one.recipes),
            "verdict": one.verdict or "",
            "hours": round(one.hours, 2),
            "layers": one.layers,
            "shows": one.shows,
            "tight": one.tight,
            "holds": one.holds,
        }
        for caution in one.open_hazards:
            clip.markers.append(
                otio.schema.Marker(f"Open caution: {caution}", span, otio.schema.MarkerColor.RED)
            )
        track.append(clip)
    return str(otio.adapters.write_to_string(timeline, "otio_json"))
