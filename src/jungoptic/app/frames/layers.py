"""The other layers of a shot as they are played beside what is animated: frame by frame, or filmed."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any, cast

from jungoptic.app.base.answers import Json
from jungoptic.app.frames.clips import LAYER, film_answer, seen_films
from jungoptic.app.frames.desks import desk_of, match_of
from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose, SheetClip, in_place
from jungoptic.app.productions.access import Versions
from jungoptic.app.shots.models import Layer
from jungoptic.core.errors import InputError
from jungoptic.core.frames import first_frames
from jungoptic.core.match import Match
from jungoptic.core.plan import laid_as, laid_in_frame
from jungoptic.core.vocabulary import Combine


def refuse_no_layer(sheet: ExposureSheet, recording_id: int) -> int:
    """The layer of the sheet's shot that a recording is a take of. Raises InputError where it is of none."""
    films = seen_films(sheet.layer.shot.production_id)
    others = films.filter(take__layer__shot=sheet.layer.shot_id).exclude(take__layer=sheet.layer_id)
    film = others.filter(pk=recording_id).first()
    if film is None:
        raise InputError.at("recording_id", "This recording is no take of another layer of this shot.")
    return int(film.take.layer_id)


def sheet_colour(layer: Layer) -> str:
    """The colour of the sheet that a layer is keyed from; empty where it is keyed from none."""
    return layer.key_colour if layer.combine == "key" and layer.key_colour in ("green", "blue") else ""


def laid_of(match: Match | None, production: Any) -> list[float]:
    """Where a layer's photographs lie in the delivered frame, px: left, top, width, height."""
    if match is not None and match.setup is not None:
        return [float(side) for side in laid_in_frame(match)]
    return [0.0, 0.0, float(production.delivery_width_px), float(production.delivery_height_px)]


def layer_answers(sheet: ExposureSheet) -> list[Json]:
    """The other layers of a sheet's shot of which there are pictures, over the wire, front first."""
    shot, own = sheet.layer.shot, sheet.layer
    layers = list(Layer.objects.filter(shot=shot, removed=False).exclude(pk=own.pk).order_by("place"))
    if not layers:
        return []
    versions = shot.revision, shot.production.revision
    photographed = _photographed(layers)
    films = _films(shot.production_id, layers)
    chosen = {
        clip.recording.take.layer_id: clip
        for clip in SheetClip.objects.filter(sheet=sheet, use=LAYER, removed=False).select_related(
            "recording__take"
        )
        if clip.recording.take is not None
    }
    told = []
    for layer in layers:
        poses = photographed.get(layer.pk, [])
        clip = None if poses else _clip(chosen.get(layer.pk), films.get(layer.pk, []))
        if not poses and clip is None:
            continue
        told.append(
            {
                **{"layer_id": layer.pk, "name": layer.name, "in_front": layer.place < own.place},
                "laid": laid_as(cast(Combine, layer.combine), bool(sheet_colour(layer))),
                "sheet": sheet_colour(layer),
                "laid_px": laid_of(_match(layer, versions), shot.production),
                **{"poses": poses, "clip": clip},
            }
        )
    return told


def _match(layer: Layer, versions: Versions) -> Match | None:
    desk = desk_of(layer.shot_id, layer.pk, versions)
    return None if desk is None else match_of(desk)


def _photographed(layers: Iterable[Layer]) -> dict[int, list[Json]]:
    """By layer, what is shown of its own sheet: from which frame of the shot, and which exposure."""
    sheets = {
        row.pk: row.layer_id for row in ExposureSheet.objects.filter(layer__in=list(layers), removed=False)
    }
    if not sheets:
        return {}
    poses: dict[int, list[Pose]] = {pk: [] for pk in sheets}
    for pose in Pose.objects.filter(sheet__in=sheets, removed=False).order_by("rank"):
        poses[pose.sheet_id].append(pose)
    shown = Exposure.objects.filter(
        pose__sheet__in=sheets, pose__removed=False, chosen=True, removed=False, light_pass=0
    )
    by_pose = dict(shown.values_list("pose_id", "pk"))
    return {
        sheets[pk]: [
            {"frame": frame, "hold": pose.hold, "exposure_id": by_pose[pose.pk]}
            for pose, frame in zip(lines, first_frames([each.hold for each in lines]), strict=True)
            if pose.pk in by_pose
        ]
        for pk, lines in ((pk, in_place(rows)) for pk, rows in poses.items())
    }


def _films(production_id: int, layers: Iterable[Layer]) -> dict[int, list[Any]]:
    """By layer, its takes of which there is a film: the circled one first, then the newest."""
    films = seen_films(production_id).filter(take__layer__in=list(layers))
    found: dict[int, list[Any]] = {}
    for film in films.order_by("-take__circled", "-take__number", "pk"):
        found.setdefault(film.take.layer_id, []).append(film)
    return found


def _clip(chosen: SheetClip | None, films: Sequence[Any]) -> Json | None:
    """The film of a layer and where it begins: as somebody said, else its best from its first frame on."""
    by_id = {film.pk: film for film in films}
    if chosen is not None and chosen.recording_id in by_id:
        told = {"clip_id": chosen.pk, "version": chosen.version}
        return film_answer(by_id[chosen.recording_id], chosen.first_frame) | told
    return film_answer(films[0], 1) | {"clip_id": None, "version": None} if films else None
