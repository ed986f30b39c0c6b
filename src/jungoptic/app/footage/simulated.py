"""The simulated camera records what was logged: a card to try everything with, its clock 37 minutes off."""

from __future__ import annotations

import random
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt
from django.conf import settings
from pydantic import BaseModel

from jungoptic.app.base.qr import modules
from jungoptic.app.devices.simulated_card import Written, write_clip
from jungoptic.app.footage import keeping
from jungoptic.app.footage.jobs import read_all
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import LOGS
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError
from jungoptic.core.kit import stop_name
from jungoptic.core.light import exposure_time_s
from jungoptic.core.match import Facts, Match, Off, SetUp
from jungoptic.core.plan import SLATE, slate_reaches
from jungoptic.core.stage import LiveCamera, photograph_flat, recorded_codes
from jungoptic.core.wording import Words

BEHIND = timedelta(minutes=37)  # its clock
MOST_TAKES = 60
_CODE_MM = 150
_QUIET = 4
_DARK, _LIGHT = 0.04, 0.9
_SLATE_S, _ROLLS_S = 1.6, 1.4
_VIEW_PX = 1280
_RECORDED = 0.75  # of the whole job; the rest is reading
_SURROUND = 46
_LATER_S = (4.0, 12.0)  # a take is logged so long after its cut
_FASTEST_FPS = 30.0  # what is filmed faster is kept to be played at the film's own rate


class Nothing(BaseModel):
    """Nothing is asked for."""


@job_kind("simulated_card", Nothing, queue="heavy", longest_s=1800.0, asks=LOGS)
def simulated_card(running: Running, _: Nothing) -> None:
    """Record the newest takes with the simulated camera, and have its card read."""
    production = Production.objects.get(pk=running.job.production_id)
    takes = list(
        Take.objects.filter(layer__shot__production=production, facts__isnull=False)
        .select_related("layer__shot", "mode", "lens")
        .order_by("-recorded_at", "-pk")[:MOST_TAKES]
    )
    if not takes:
        raise InputError.at("place", "Nothing was logged yet: log a take, then the camera has one to record.")
    folder = _empty(Path(settings.SIMULATED_CARDS) / f"{production.slug}-A" / "CLIPS")
    dice = random.Random(len(takes))
    for number, take in enumerate(reversed(takes), 1):
        share = _RECORDED * (number - 1) / len(takes)
        running.advance(share, at=f"{take.slate}, {take.layer.name}, take {take.number}")
        _record(folder / f"CLIP{number:04d}.MP4", take, production.frame_rate_fps, dice)
    with in_production(running.job.asked_by, production.pk) as write:
        card = keeping.card_at(write, folder.parent.resolve())
        write.title, write.stays = f"{card.name} recorded", True
        write.note(keeping.CARD, card.pk, card.name, "recorded", None, len(takes))
    read_all(running, card, Path(card.place), _RECORDED)


def _empty(folder: Path) -> Path:
    """The folder, without the clips of before: this card is the camera's own."""
    folder.mkdir(parents=True, exist_ok=True)
    for old in folder.glob("CLIP*.MP4"):
        old.unlink()
    return folder


def _record(path: Path, take: Take, delivered_fps: float, dice: random.Random) -> None:
    facts = Facts.from_json(take.facts)
    rate = rate_of(take, delivered_fps)
    length_s = _ROLLS_S + (_SLATE_S if take.slate_code else 0.0)
    began = take.recorded_at - BEHIND - timedelta(seconds=length_s + dice.uniform(*_LATER_S))
    write_clip(path, _frames(take, facts, rate, dice.randrange(1 << 16)), written(facts, rate, began))


def rate_of(take: Take, delivered_fps: float) -> float:
    """How many pictures a second the file of a take has: what is filmed faster is kept to be played."""
    return take.capture_fps if take.capture_fps <= _FASTEST_FPS else delivered_fps


def written(facts: Facts, rate_fps: float, began: datetime) -> Written:
    """What the camera writes into the file of a take."""
    setup = facts.filmed
    told = {
        "PhotographicSensitivity": setup.iso,
        "FNumber": float(stop_name(setup.f_number)),
        "ExposureTime": exposure_time_s(setup.shutter_angle_deg, setup.capture_fps),
        "FocalLength": setup.focal_length_mm,
    }
    return Written(rate_fps, began, told)


def _frames(take: Take, facts: Facts, rate: float, number: int) -> Iterator[npt.NDArray[np.uint8]]:
    setup = facts.filmed
    size = (setup.recorded_width_px, setup.recorded_height_px)
    if take.slate_code:
        slate = _slate(take, setup, size)
        for _ in range(round(_SLATE_S * rate)):
            yield slate
    stack = facts.stack
    match = Match(stack.hero, stack.members[facts.position].layer, setup, stack.delivery)
    seen = LiveCamera(match, min(_VIEW_PX, size[0])).picture(Off(), number)
    view = cv2.resize(seen, size, interpolation=cv2.INTER_CUBIC)
    for _ in range(round(_ROLLS_S * rate)):
        yield np.asarray(view, np.uint8)


def _slate(take: Take, setup: SetUp, size: tuple[int, int]) -> npt.NDArray[np.uint8]:
    """The slate held where the set-up reads it; where it reads none, at its focus, as somebody would."""
    number = take.slate_number or take.number
    text = SLATE.format(code=take.slate_code, shot=take.slate, layer=take.layer_id, take=number)
    code = np.pad(modules(text), _QUIET)
    reach = next(one for one in slate_reaches(setup, Words()) if one.code_mm == _CODE_MM)
    away_m = (
        (reach.near_m + min(reach.far_m, 2 * setup.focus_distance_m)) / 2
        if reach.reads
        else setup.focus_distance_m
    )
    width_m = _CODE_MM / 1000.0 * code.shape[0] / (code.shape[0] - 2 * _QUIET)
    window = (min(size[0], 2 * size[1] // 3 * 2), size[1])
    light = photograph_flat(np.where(code, _DARK, _LIGHT), width_m, away_m, setup, window_px=window)
    frame = np.full((size[1], size[0], 3), _SURROUND, np.uint8)
    left = (size[0] - window[0]) // 2
    frame[:, left : left + window[0]] = recorded_codes(light)[:, :, None]
    return frame
