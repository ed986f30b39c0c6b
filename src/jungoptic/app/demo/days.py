"""The days of the demo: who can come when, where, and the plan that was made of it."""

from __future__ import annotations

from datetime import datetime
from hashlib import sha256
from typing import Any
from zoneinfo import ZoneInfo

from jungoptic.app.base.edits import Writing
from jungoptic.app.days.fields import KINDS
from jungoptic.app.days.jobs import Asked, keep_ordered, ordered
from jungoptic.app.days.keeping import add_row, change_row
from jungoptic.app.days.models import ShootingDay
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.people.models import Person
from jungoptic.app.places.keeping import save_place
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.models import SetUp, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take

DAYS = ("2027-10-16", "2027-10-17", "2027-10-23", "2027-10-24", "2027-10-30", "2027-10-31")
WEEKEND = ["sat", "sun"]
STAGE = "Boathouse"
# Where scenes play that nobody has named a place for, and in what light.
OUTDOORS = {
    "TM010": ("The quay", "golden"),
    "TM060": ("The quay", "day"),
    "TM080": ("The mill pond", "golden"),
    "TM090": ("The causeway", "day"),
    "TM100": ("The sands", "day"),
}
TRAVEL = {
    (STAGE, "Inside the mill"): 10,  # a set in the boathouse
    (STAGE, "The quay"): 40,
    ("Inside the mill", "The quay"): 40,
    ("The quay", "The causeway"): 30,
    ("The quay", "The sands"): 30,
    ("The quay", "The mill pond"): 20,
    ("The causeway", "The sands"): 30,
}
SLIPPED = {"Sands": ("11:40", "12:05", "13:10"), "Sands, empty": ("15:20", "15:30")}
_LETTERS = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
AT_THE_STAGE = ("Mill on the table", "Water tank 1:6", "Rows on blue")


def _hours(start: str, end: str, **when: Any) -> dict[str, Any]:
    return {"start": start, "end": end, **when}


PEOPLE: tuple[dict[str, Any], ...] = (
    {"name": "Supervisor", "duty": "every", "hours": [_hours("08:00", "19:00")]},
    {"name": "Camera", "duty": "camera", "hours": [_hours("08:30", "18:30", weekdays=WEEKEND)]},
    {"name": "Model", "duty": "model", "hours": [_hours("09:00", "18:00", weekdays=WEEKEND)]},
    {
        "name": "Sister",
        "role": "plays Orla and Wren",
        "duty": "plays",
        "plays": ["Orla", "Wren"],
        "hours": [_hours("10:00", "17:00", weekdays=WEEKEND)],
    },
    {
        "name": "Nine friends",
        "role": "the crowd on the causeway",
        "duty": "plays",
        "plays": ["row"],
        "hours": [_hours("11:00", "17:00", weekdays=["sat"])],
        "most_min": 240,
    },
)


def _place(write: Writing, name: str) -> Place:
    there = Place.objects.filter(production=write.production_id, name=name).first()
    return there or save_place(write, None, 0, name, [], [])


def make_days(production: Production, supervisor: Person) -> None:
    """Days, people and places said, and the jobs planned, as somebody would do it on the board."""
    with in_production(supervisor, production.pk) as write:
        stage = _place(write, STAGE)
        add_row(write, KINDS["figures"], {"stage_id": stage.pk})
        for day in DAYS:
            add_row(write, KINDS["day"], {"date": day})
        for person in PEOPLE:
            add_row(write, KINDS["person"], person)
        for code, (name, hour) in OUTDOORS.items():
            place = _place(write, name)
            for set_up in SetUp.objects.filter(
                shot__in=Shot.in_cut.filter(production=production, code=code)
            ).exclude(name__in=AT_THE_STAGE):
                said = {"set_up_id": set_up.pk, "place_id": place.pk, "outdoors": True, "hour": hour}
                add_row(write, KINDS["job"], said)
        places = {place.name: place.pk for place in Place.objects.filter(production=production)}
        for (here, there), minutes in TRAVEL.items():
            way = {"here_id": places[here], "there_id": places[there], "minutes": minutes}
            add_row(write, KINDS["travel"], way)
    _plan(production, supervisor, Asked())


def _slate_code(layer_id: int, number: int) -> str:
    """What the slate of a take showed; nobody held it up before the second takes."""
    summed = sha256(f"{layer_id} {number}".encode()).digest()
    return "" if number == 2 else "".join(_LETTERS[each % len(_LETTERS)] for each in summed[:8])


def _plan(production: Production, supervisor: Person, asked: Asked) -> None:
    days = DaysOf(Production.objects.get(pk=production.pk))
    plan = ordered(days, asked, effort=0.1)
    with in_production(supervisor, production.pk) as write:
        keep_ordered(write, days, asked, plan)


def film_days(production: Production, supervisor: Person, camera: Person) -> None:
    """The first Saturday slips: what it films comes late, the rest waits for other days. On the Sunday it
    rains, and what is outdoors is put elsewhere.
    """
    for name, times in SLIPPED.items():
        set_up = SetUp.objects.get(shot__production=production, shot__removed=False, name=name)
        for number, clock in enumerate(times, 1):
            at = datetime.fromisoformat(f"{DAYS[0]}T{clock}:00").replace(
                tzinfo=ZoneInfo(production.time_zone)
            )
            for layer in set_up.layers.filter(removed=False):
                with in_shot(camera, set_up.shot_id) as write:
                    said = Said(
                        recorded_at=at,
                        circled=number == len(times),
                        slate_code=_slate_code(layer.pk, number),
                        slate_number=number,
                    )
                    record_take(write, layer.pk, said)
    with in_production(supervisor, production.pk) as write:
        day = ShootingDay.objects.get(production=production, date=DAYS[0])
        change_row(write, KINDS["day"], day.pk, day.version, {"wrapped": True})
    _plan(production, supervisor, Asked(again=True))
    _plan(production, supervisor, Asked(again=True, rains_on=DAYS[1]))
