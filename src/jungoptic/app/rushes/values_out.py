"""Mend values of a shot in open formats: a colour correction for each layer (CDL), its numbers and its path
over the frames (CSV), and markers on its frames (OTIO), all in one ZIP.
"""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from xml.etree import ElementTree

import opentimelineio as otio

from jungoptic.app.footage.copying import plain_name
from jungoptic.app.rushes.checking import rushes_that_count
from jungoptic.app.rushes.columns import Told, told_of
from jungoptic.app.rushes.deciding import decisions_of
from jungoptic.app.rushes.models import Rush
from jungoptic.app.shots.models import Shot
from jungoptic.core.rushes import MendValues, mend_values

CDL_NAMESPACE = "urn:ASC:CDL:v1.01"
_SAYS = "Jungoptic: gains in linear light, before any other grade"
_NUMBERS = (
    *("layer", "take", "file", "right_px", "down_px", "turn_deg", "size_pct"),
    *("slope_red", "slope_green", "slope_blue", "soften_px", "grain_of_hero", "spill_of_key"),
)
_COLOURS = {"shows": otio.schema.MarkerColor.RED, "tight": otio.schema.MarkerColor.ORANGE}


@dataclass(frozen=True)
class Layered:
    """A layer with the recording that counts, what was measured of it, and what brings it to its hero."""

    layer_id: int
    name: str
    rush: Rush
    told: Told
    values: MendValues


def layered(shot: Shot) -> list[Layered]:
    """The layers of a shot of which anything was measured, in their order."""
    found = []
    for rush in rushes_that_count(shot.pk).values():
        take = rush.recording.take
        assert take is not None
        told = told_of(rush)
        found.append(Layered(take.layer_id, take.layer.name, rush, told, mend_values(told.rows)))
    return found


def mends_zip(shot: Shot) -> bytes:
    """All of it as one file."""
    rows = layered(shot)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(f"{shot.code}/grades.ccc", cdl(shot, rows))
        packed.writestr(f"{shot.code}/values.csv", numbers(rows))
        packed.writestr(f"{shot.code}/markers.otio", markers(shot, rows))
        for row in rows:
            if path := frames(row.rush):
                packed.writestr(f"{shot.code}/frames/{plain_name(row.name)}.csv", path)
    return out.getvalue()


def cdl(shot: Shot, rows: Iterable[Layered]) -> str:
    """A collection of colour corrections, one a layer of which light or white was measured."""
    root = ElementTree.Element("ColorCorrectionCollection", {"xmlns": CDL_NAMESPACE})
    for row in rows:
        if row.values.slopes is None:
            continue
        correction = ElementTree.SubElement(
            root, "ColorCorrection", {"id": plain_name(f"{shot.code} {row.name}")}
        )
        ElementTree.SubElement(correction, "Description").text = _SAYS
        node = ElementTree.SubElement(correction, "SOPNode")
        ElementTree.SubElement(node, "Slope").text = " ".join(f"{each:.6f}" for each in row.values.slopes)
        ElementTree.SubElement(node, "Offset").text = "0.0 0.0 0.0"
        ElementTree.SubElement(node, "Power").text = "1.0 1.0 1.0"
        saturation = ElementTree.SubElement(correction, "SatNode")
        ElementTree.SubElement(saturation, "Saturation").text = "1.0"
    ElementTree.indent(root)
    return ElementTree.tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def numbers(rows: Iterable[Layered]) -> str:
    """A line for every layer; empty where nothing was measured."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_NUMBERS)
    for row in rows:
        values, take = row.values, row.rush.recording.take
        laid = values.laid
        writer.writerow(
            [
                row.name,
                take.number if take else "",
                row.rush.recording.name,
                *([laid.right_px, laid.down_px, laid.turn_deg, 100.0 * laid.size] if laid else [""] * 4),
                *(values.slopes or [""] * 3),
                *("" if each is None else each for each in (values.soften_px, values.grain, values.spill)),
            ]
        )
    return out.getvalue()


def frames(rush: Rush) -> str:
    """How the camera stands and how light it is in every frame of a clip, in delivered px, degrees and stops;
    empty for a still. Of a long clip one frame of so many stands for all.
    """
    series = {each["name"]: each for each in (rush.clip or {}).get("series", ())}
    named = [series[name] for name in ("right", "down", "turn", "light", "sharpness") if name in series]
    if not named:
        return ""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["frame", *(f"{each['name']}_{_unit(each['unit'])}" for each in named)])
    every = named[0].get("every", 1)
    for place, values in enumerate(zip(*(each["values"] for each in named), strict=True)):
        writer.writerow([place * every, *("" if value is None else value for value in values)])
    return out.getvalue()


def _unit(unit: str) -> str:
    return {"°": "deg", "": "share"}.get(unit, unit.replace(" ", "_"))


def markers(shot: Shot, rows: Iterable[Layered]) -> str:
    """A timeline with a track for every layer: its file, and markers where something stands out or shows."""
    fps = shot.production.frame_rate_fps
    timeline = otio.schema.Timeline(f"{shot.code} {shot.title}")
    for row in rows:
        says: dict[str, Any] = row.rush.says
        rate = says.get("rate_fps") or fps
        span = otio.opentime.TimeRange(
            otio.opentime.RationalTime(0, rate), otio.opentime.RationalTime(says.get("frames", 1), rate)
        )
        clip = otio.schema.Clip(row.rush.recording.name, source_range=span)
        clip.media_reference = otio.schema.ExternalReference(row.rush.recording.path, span)
        clip.metadata["jungoptic"] = {"layer": row.name, "values": list(row.values.lines)}
        for line in (row.rush.clip or {}).get("lines", ()):
            for spot in line["spots"]:
                clip.markers.append(_marker(f"{line['series']}: {spot['text']}", spot, rate))
        decided = decisions_of(row.rush, row.told.columns)
        for column in row.told.columns:
            done = decided.get((column.row.what, column.judged.amount))
            if column.judged.verdict == "holds":
                continue
            what = f"{column.judged.label} {column.judged.size:.3g} {column.judged.unit}"
            text = f"{what}: {done['choice']}, {done['reason']}" if done else what
            whole = {"first": 0, "last": says.get("frames", 1) - 1}
            clip.markers.append(_marker(text, whole, rate, _COLOURS[column.judged.verdict]))
        track = otio.schema.Track(row.name, kind=otio.schema.TrackKind.Video)
        track.append(clip)
        timeline.tracks.append(track)
    return str(otio.adapters.write_to_string(timeline, "otio_json"))


def _marker(text: str, spot: dict[str, Any], rate: float, colour: str = otio.schema.MarkerColor.CYAN) -> Any:
    count = spot["last"] - spot["first"] + 1
    span = otio.opentime.TimeRange(
        otio.opentime.RationalTime(spot["first"], rate), otio.opentime.RationalTime(count, rate)
    )
    return otio.schema.Marker(text, span, colour)
