"""Recordings that lie beside a sheet or beneath it: a stand-in's performance, the live plate."""

from __future__ import annotations

from typing import Any

from jungoptic.app.base.answers import Json
from jungoptic.app.footage.models import Recording
from jungoptic.app.frames.models import ExposureSheet, SheetClip
from jungoptic.core.errors import InputError

LAYER = "layer"
"""The use of a clip that is a take of another layer of the shot."""


def seen_films(production_id: int) -> Any:
    """Recordings of a production of which there is a film that every frame of can be gone to."""
    films = Recording.objects.filter(card__production=production_id, rush__proxy__isnull=False)
    return films.exclude(rush__says__kind="still").select_related("rush", "take__layer__shot").order_by("pk")


def refuse_no_film(production_id: int, recording_id: int) -> None:
    """Raise InputError where a recording is none of the production's, or cannot be gone through."""
    if not seen_films(production_id).filter(pk=recording_id).exists():
        raise InputError.at(
            "recording_id", "There is no film of this recording here: have it looked at in Rushes first."
        )


def clip_answers(sheet: ExposureSheet) -> Json:
    """What lies beside a sheet and beneath it, over the wire, and what else could."""
    films = list(seen_films(sheet.layer.shot.production_id))
    by_id = {film.pk: film for film in films}
    return {
        "clips": [
            film_answer(by_id[clip.recording_id], clip.first_frame)
            | {"id": clip.pk, "use": clip.use, "version": clip.version}
            for clip in SheetClip.objects.filter(sheet=sheet, removed=False).exclude(use=LAYER)
            if clip.recording_id in by_id
        ],
        "films": [
            {"recording_id": film.pk, "name": _named(film), "frames": _says(film)["frames"]} for film in films
        ],
    }


def _says(film: Any) -> Json:
    return dict(film.rush.says)


def _named(film: Recording) -> str:
    take = film.take
    return film.name if take is None else f"{take.layer.shot.code} {take.layer.name}, take {take.number}"


def film_answer(film: Recording, first_frame: int) -> Json:
    """A recording that is seen beside a sheet, over the wire."""
    says = _says(film)
    return {
        **{"recording_id": film.pk, "name": _named(film), "first_frame": first_frame},
        "aspect": says["width_px"] / max(says["height_px"], 1),
        "strip_every": says.get("strip_every", 1),
        **{name: says[name] for name in ("frames", "rate_fps")},
    }
