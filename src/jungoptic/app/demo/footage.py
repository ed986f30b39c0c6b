"""The footage of the demo: the simulated camera films what was logged, with faults that are known, and all of
it is read, filed, looked at, measured and partly decided, as a crew would.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any
from zlib import crc32

import cv2
import numpy as np
from django.conf import settings
from django.db.models import QuerySet
from pydantic import BaseModel

from jungoptic.app.boards.reading import first_picture
from jungoptic.app.demo.animated import LAYER, animate
from jungoptic.app.demo.filmed import PLATES, film_before
from jungoptic.app.demo.hyperlapse import carry
from jungoptic.app.devices.simulated_card import write_clip
from jungoptic.app.footage import keeping as cards
from jungoptic.app.footage.jobs import card_read, read_files
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.footage.simulated import BEHIND, rate_of, written
from jungoptic.app.jobs.asking import ask_by_itself
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.people.models import Person
from jungoptic.app.productions.access import LOGS
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.rushes import keeping as marks
from jungoptic.app.rushes.columns import told_of
from jungoptic.app.rushes.deciding import decide
from jungoptic.app.rushes.jobs import Measuring, keep_row, look_through, measured_row
from jungoptic.app.rushes.keeping import waiting
from jungoptic.app.rushes.models import Rush
from jungoptic.app.rushes.sheets import SHEET, SheetAsked, keep_read, title_of, what_it_tells
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stills.keeping import keep as keep_still
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError
from jungoptic.core.match import Facts, Match
from jungoptic.core.stage import NO_FAULTS, FilmFaults, film, jpeg, sheet_by_telephone

WIDTH_PX, HEIGHT_PX = 1280, 720
FRAMES = 60
_QUALITY = 18
_FILMED, _READ, _SEEN, _ANIMATES, _CARRIES = 0.28, 0.34, 0.5, 0.62, 0.75  # of the whole job

FAULTS: dict[tuple[str, str], FilmFaults] = {
    ("TM020", "Orla"): FilmFaults(lamps=(("soft panel 2", -0.5),)),
    ("TM030", "Wren, right half"): FilmFaults(jolt_px=(1.2, 0.5)),
    ("TM040", "Rope on a line"): FilmFaults(jolt_px=(2.2, 0.9), jolt_deg=0.02, jolt_at=34),
    ("TM060", "Wall and water 1:6"): FilmFaults(flicker_stops=0.12, flicker_hz=4.0),
    ("TM070", "Flash on the room"): FilmFaults(flash_stops=1.6, flash_at=20),
    ("TM080", "Pond"): FilmFaults(wobble_px=7.0),
    ("TM100", "Wren"): FilmFaults(drift_stops=0.3, left_stops=0.15),
}
"""What goes wrong where, by shot and layer; nothing in all others."""


@dataclass(frozen=True)
class ToMeasure:
    """A row that somebody measures: of the circled take of a layer, against another layer's, with a mark."""

    code: str
    layer: str
    what: str
    against: str = ""
    mark: tuple[str, tuple[tuple[float, float], ...]] | None = None


MEASURED = (
    ToMeasure("TM020", "Orla", "evenness"),
    ToMeasure("TM020", "Orla", "key"),
    ToMeasure("TM030", "Orla, left half", "still", "Wren, right half"),
    ToMeasure("TM030", "Orla, left half", "seam", "Wren, right half"),
    ToMeasure("TM030", "Wren, right half", "still", "Orla, left half"),
    ToMeasure("TM060", "Wall and water 1:6", "flicker"),
    ToMeasure("TM070", "Flash on the room", "light", mark=("light", ((0.3, 0.2), (0.7, 0.6)))),
    ToMeasure("TM080", "Pond", "wobble", mark=("point", ((0.42, 0.42), (0.62, 0.6)))),
)
SHEET_OF = ("TM020", "Orla")
BEFORE_TAKE = timedelta(minutes=25)
KEPT_BECAUSE = "The join lies in the dark of the wall, and the whole shot gets a pixel of shake."
MENDED_BECAUSE = "The tide was in by then: the sands will not look so again."


class Nothing(BaseModel):
    """Nothing is asked for."""


@job_kind("demo_footage", Nothing, queue="heavy", longest_s=3600.0, asks=LOGS)
def demo_footage(running: Running, _: Nothing) -> None:
    """Film the demo, and do with its footage what a crew does."""
    production = Production.objects.get(pk=running.job.production_id)
    folder = Path(settings.SIMULATED_CARDS) / f"{production.slug}-evenings" / "CLIPS"
    folder.mkdir(parents=True, exist_ok=True)
    film_before(production, running.job.asked_by, PLATES)
    takes = _takes(production)
    files: dict[str, int] = {}
    for number, take in enumerate(takes, 1):
        name = f"A{number:03d}.MP4"
        running.advance(_FILMED * (number - 1) / len(takes), f"{take.name}, {number} of {len(takes)}")
        if not (folder / name).exists():
            _film(folder / name, take, production.frame_rate_fps)
        files[name] = take.pk
    card = _read(running, production, folder, files)
    rows = list(waiting(production.pk).filter(card=card))
    look_through(running, rows, _READ, _SEEN)
    _measure(running, production)
    _decide(production)
    _photograph_sheet(running, production)
    animate(
        production,
        running.job.asked_by,
        lambda done: running.advance(_ANIMATES + (_CARRIES - _ANIMATES) * done, LAYER),
    )
    carry(
        production,
        running.job.asked_by,
        lambda done: running.advance(_CARRIES + (1.0 - _CARRIES) * done, "the hyperlapse round the pond"),
    )
    with in_production(running.job.asked_by, production.pk) as write:
        write.title, write.stays = "Footage of the demo", True
        running.finish(message=f"{len(takes)} takes filmed, looked at and measured.")


def ask_for_footage(production: Production) -> None:
    """Have the demo filmed once, when it is begun: nobody waits for it."""
    if not Card.objects.filter(production=production).exists():
        camera = Person.objects.get(username="camera")
        ask_by_itself(production.pk, camera.pk, demo_footage, "Footage of the demo", Nothing())


def _takes(production: Production) -> list[Take]:
    """The circled takes of what was filmed, in the order in which they were."""
    return list(_circled(production).order_by("recorded_at", "pk"))


def _circled(production: Production) -> QuerySet[Take]:
    circled = Take.objects.filter(layer__shot__production=production, circled=True, facts__isnull=False)
    return circled.select_related("layer__shot", "layer__set_up")


def _film(path: Path, take: Take, delivered_fps: float) -> None:
    facts = Facts.from_json(take.facts)
    faults = FAULTS.get((take.layer.shot.code, take.layer.name), NO_FAULTS)
    rate = rate_of(take, delivered_fps)
    began = take.recorded_at - BEHIND - timedelta(seconds=FRAMES / rate + 6.0)
    seen = film(facts.stack, facts.position, WIDTH_PX, FRAMES, faults, *_numbers(take))
    size = (WIDTH_PX, HEIGHT_PX)
    pictures = (np.asarray(cv2.resize(each, size, interpolation=cv2.INTER_AREA), np.uint8) for each in seen)
    whole = path.with_suffix(".part")
    write_clip(whole, pictures, written(facts, rate, began), _QUALITY)
    whole.rename(path)


def _numbers(take: Take) -> tuple[int, int]:
    """By what the place and the noise of a take are made: the same in every demo."""
    code = take.layer.shot.code
    return crc32(code.encode()) % 1000, crc32(f"{code} {take.name}".encode()) % 100_000


def _read(running: Running, production: Production, folder: Path, files: dict[str, int]) -> Card:
    """Read the card, and file what is on it by hand."""
    with in_production(running.job.asked_by, production.pk) as write:
        card = cards.card_at(write, folder.parent.resolve())
    seen, others = read_files(running, card, Path(card.place), _FILMED, _READ)
    with in_production(running.job.asked_by, production.pk) as write:
        write.title, write.stays = f"{card.name} read", True
        card_read(write, card, seen, others)
        wanted = {row.pk: files.get(row.name) for row in card.recordings.filter(take__isnull=True)}
        cards.file_recordings(write, card, card.version, {row: take for row, take in wanted.items() if take})
    return card


def _recording(production: Production, code: str, layer: str) -> Recording | None:
    rows = Recording.objects.filter(
        take__layer__shot__production=production,
        take__layer__shot__code=code,
        take__layer__name=layer,
        rush__isnull=False,
    )
    return rows.select_related("take__layer__set_up", "take__layer__shot").order_by("-pk").first()


def _measure(running: Running, production: Production) -> None:
    for number, asked in enumerate(MEASURED):
        share = _SEEN + (_ANIMATES - _SEEN) * number / len(MEASURED)
        row = _recording(production, asked.code, asked.layer)
        other = _recording(production, asked.code, asked.against) if asked.against else None
        if row is None or (asked.against and other is None):
            continue
        more: dict[str, Any] = {"against_id": other.pk} if other else {}
        if asked.mark is not None:
            kind, places = asked.mark
            assert row.take is not None and row.take.layer.set_up is not None
            with in_shot(running.job.asked_by, row.take.layer.shot_id) as write:
                marks.mark(write, row.take.layer.set_up, kind, [list(place) for place in places])
            more["region"] = marks.region_marked(row, (kind,))

        def going(_: float, at: str, share: float = share) -> None:
            running.advance(share, at)

        wanted = Measuring(recording=row.pk, what=asked.what, **more)
        try:
            told = measured_row(running, wanted, going)
        except InputError:
            continue  # whoever measures it on the table hears why
        keep_row(running, wanted, told)


def _photograph_sheet(running: Running, production: Production) -> None:
    """The sheet, photographed by telephone when its lamps were set, and read."""
    code, name = SHEET_OF
    take = _circled(production).filter(layer__shot__code=code, layer__name=name).first()
    if take is None or Still.objects.filter(layer=take.layer, of=SHEET).exists():
        return
    facts = Facts.from_json(take.facts)
    member = facts.stack.members[facts.position]
    match = Match(facts.stack.hero, member.layer, member.setup, facts.stack.delivery)
    seen = sheet_by_telephone(match, FAULTS[SHEET_OF], seed=_numbers(take)[0])
    picture = first_picture("sheet.jpg", jpeg(seen))
    with in_shot(running.job.asked_by, take.layer.shot_id) as write:
        write.title, write.stays = f"The lit sheet of {name}, photographed", True
        still = keep_still(write, take.layer, picture, SHEET, at=take.recorded_at - BEFORE_TAKE)
    asked = SheetAsked(still=still.pk)
    told = what_it_tells(running, still, asked)
    with in_production(running.job.asked_by, production.pk) as write:
        write.title, write.stays = title_of(still), True
        keep_read(still, asked, told)


def _decide(production: Production) -> None:
    """Two shots are finished: what does not hold in them is kept or mended, with the reason."""
    supervisor = Person.objects.get(username="supervisor")
    for code, choice, reason in (("TM030", "keep", KEPT_BECAUSE), ("TM100", "mend", MENDED_BECAUSE)):
        rows = Rush.objects.filter(
            recording__take__layer__shot__production=production,
            recording__take__layer__shot__code=code,
            fault="",
        )
        for rush in rows.select_related("recording__card__production", "recording__take__layer"):
            _decide_all(rush, supervisor, choice, reason)


def _decide_all(rush: Rush, supervisor: Person, choice: str, reason: str) -> None:
    take = rush.recording.take
    assert take is not None
    for column in told_of(rush).columns:
        if column.judged.verdict == "holds":
            continue
        said = {"what": column.row.what, "amount": column.judged.amount, "way": "", "reason": reason}
        for way in (choice, "keep"):  # what no composite mends is kept
            try:
                with in_shot(supervisor, take.layer.shot_id) as write:
                    rush.refresh_from_db(fields=["version"])
                    decide(write, rush, rush.version, told_of(rush), {**said, "choice": way})
                break
            except InputError:
                continue
