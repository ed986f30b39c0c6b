"""Jobs as they follow from shots: minutes, needs, order with reasons, what is shared, what is destroyed."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

from jungoptic.core import days as d
from jungoptic.core.example import ACTOR, HERO, MILL, MODEL, STACK
from jungoptic.core.match import Layer, Member, SetUp, Stack

SEA = (
    STACK.members[-1].layer
    if STACK.members[-1].is_hero
    else next(m.layer for m in STACK.members if m.is_hero)
)
HANDS = (
    d.Hand("supervisor", "every"),
    d.Hand("camera", "camera"),
    d.Hand("builder", "model"),
    d.Hand("animator", "animator"),
    d.Hand("sister", "plays", ("Orla", "actor")),
    d.Hand("runner", "none"),
)


def layer(base: Layer = ACTOR, **values: Any) -> Layer:
    return base.model_copy(update=values)


def shot(
    code: str, *rows: tuple[Layer, SetUp | None, int | None, d.Filming | None], **values: Any
) -> d.ShotToFilm:
    members = tuple(Member(own, setup, key, own is SEA) for own, setup, key, _ in rows)
    stack = Stack(STACK.plan, STACK.delivery, STACK.hero, members)
    keys = [key for _, _, key, _ in rows if key is not None]
    return d.ShotToFilm(
        code,
        stack,
        tuple(filming for *_, filming in rows),
        {key: d.StandingSetUp(f"set-up {key}", "Camera A", "35 mm") for key in keys},
        **values,
    )


def filming(rank: int, **values: Any) -> d.Filming:
    return d.Filming(rank, **values)


def derived(*shots: d.ShotToFilm, figures: d.DayFigures | None = None) -> d.Derived:
    return d.jobs_of_shots(shots, figures or d.DayFigures(), HANDS, "boathouse")


MILL_AT_DUSK = shot(
    "TM010",
    (SEA, HERO, 1, filming(0)),
    (MILL, MODEL, 2, filming(1, why="The mill follows the sea.")),
    (layer(name="Sky", kind="stock"), None, None, None),
    place="quay",
)


def test_minutes_are_those_of_the_figures():
    """Judgement: 30 + 30 + 6 × (1 + 3) + 10 = 94."""
    jobs = {job.key: job for job in derived(MILL_AT_DUSK).jobs}
    assert [job.minutes for job in jobs.values()] == [94, 94]
    quick = derived(MILL_AT_DUSK, figures=d.DayFigures(rig_min=10, takes=2, roll_min=2.0)).jobs[0]
    assert quick.minutes == 10 + 30 + 2 * (2 + 3) + 10


def test_a_set_up_knows_its_place_its_model_and_its_people():
    sea, mill = derived(MILL_AT_DUSK).jobs
    assert (sea.place, sea.model, sea.camera, sea.lens) == ("quay", "", "Camera A", "35 mm")
    assert (mill.place, mill.model, mill.table) == ("boathouse", "Mill 1:12", "Mill 1:12")
    assert sea.people == ("supervisor", "camera")
    assert mill.people == ("supervisor", "camera", "builder")
    actor = derived(shot("TM020", (SEA, HERO, 1, filming(0)), (ACTOR, MODEL, 2, filming(1)))).jobs[1]
    assert "sister" in actor.people and "runner" not in actor.people
    assert sea.light == "118° right, 14° up, 5600 K"


def test_the_hero_comes_first_and_it_is_said_why():
    (order,) = derived(MILL_AT_DUSK).order
    assert (order.first, order.then, order.why) == ("1", "2", "The mill follows the sea.")
    turned = shot("TM010", (SEA, HERO, 1, filming(5)), (MILL, MODEL, 2, filming(1)))
    assert derived(turned).order == ()  # the recipe films the mill first: then it is no rule


def test_what_is_filmed_is_no_job_any_more():
    done = shot("TM010", (SEA, HERO, 1, filming(0, done=True)), (MILL, MODEL, 2, filming(1)))
    assert [job.key for job in derived(done).jobs] == ["2"] and derived(done).order == ()
    half = shot(
        "TM010",
        (SEA, HERO, 1, filming(0, done=True)),
        (layer(name="Sea, clean", kind="clean_plate"), HERO, 1, filming(1)),
    )
    (job,) = derived(half).jobs
    assert job.takes_min == 2 * (1 + 3)  # the clean plate of it alone


def test_a_clean_plate_with_a_set_up_of_its_own_comes_straight_after():
    clean = layer(name="Clean", kind="clean_plate", pass_of=SEA.name)
    (order,) = derived(
        shot("TM040", (SEA, HERO, 1, filming(0)), (clean, HERO.but(iso=400), 2, filming(1)))
    ).order
    assert order.straight and (order.first, order.then) == ("1", "2")


def test_what_destroys_a_model_is_last_on_it_and_after_its_clean_plate():
    """Of every shot: the wall is filmed whole for TM050 before it goes in TM060."""
    wall = layer(MILL, name="Wall")
    goes = shot(
        "TM060",
        (SEA, HERO, 1, filming(0, done=True)),
        (wall, MODEL, 2, filming(1, destroys=True)),
        (layer(name="Wall, clean", kind="clean_plate", pass_of="Wall"), MODEL.but(iso=400), 3, filming(2)),
    )
    whole = shot("TM050", (SEA, HERO, 4, filming(0)), (wall, MODEL.but(iso=200), 5, filming(1)))
    told = derived(goes, whole)
    job = next(job for job in told.jobs if job.key == "2")
    assert job.takes_min == 3 * (1 + 60)
    assert {(order.first, order.then) for order in told.order} == {("3", "2"), ("4", "5"), ("5", "2")}
    assert not any(order.straight for order in told.order)
    assert [order.why for order in told.order if order.first == "5"] == [
        "nothing is left of Wall 1:12 after it"
    ]


def test_long_stop_motion_is_parted_into_blocks_that_nothing_interrupts():
    puppet = layer(name="Heron", kind="frame_by_frame")
    long = shot(
        "TM050", (SEA, HERO, 1, filming(0, done=True)), (puppet, MODEL, 2, filming(1)), seconds_per_hour=0.5
    )
    seconds = STACK.plan.length_frames / STACK.delivery.frame_rate_fps
    told = derived(long)
    assert len(told.jobs) == -(-60 * seconds / 0.5 // 240)
    assert sum(job.takes_min for job in told.jobs) >= 60 * seconds / 0.5
    assert told.runs[0].jobs == tuple(job.key for job in told.jobs)
    assert all("animator" in job.people and "camera" not in job.people for job in told.jobs)
    assert [(order.first, order.then) for order in told.order] == [
        (a.key, b.key) for a, b in zip(told.jobs, told.jobs[1:], strict=False)
    ]
    assert told.set_ups == {job.key: (2,) for job in told.jobs}


def test_set_ups_that_are_the_same_are_one_job():
    other = shot("TM011", (SEA, HERO, 7, filming(0)), (MILL, MODEL.but(iso=400), 8, filming(1)), place="quay")
    told = derived(MILL_AT_DUSK, other)
    sea = told.jobs[0]
    assert sea.shots == ("TM010", "TM011") and sea.takes_min == 48 and told.set_ups["1"] == (1, 7)
    assert {(order.first, order.then) for order in told.order} == {("1", "2"), ("1", "8")}
    elsewhere = replace(other, place="yard")
    assert len(derived(MILL_AT_DUSK, elsewhere).jobs) == 4


SUN = {"sun_at": datetime(2027, 10, 23, 15, 0, tzinfo=UTC), "latitude_deg": 54.3, "longitude_deg": -3.2}


def test_outdoors_the_sun_is_the_heros_key_and_a_model_may_be_turned_to_it():
    sunny = HERO.but(**SUN, heading_deg=200.0)
    stack = shot(
        "TM080", (SEA, sunny, 1, filming(0)), (MILL, MODEL.but(**SUN, heading_deg=10.0), 2, filming(1))
    )
    sea, mill = derived(replace(stack, place="quay")).jobs
    assert sea.outdoors and sea.sun is not None and sea.sun.heading_to_deg is None
    assert (sea.sun.azimuth_deg, sea.sun.elevation_deg) == (118.0, 14.0)
    assert mill.sun is not None and mill.sun.heading_to_deg == 9.0 and mill.place == "quay"
    dusk = HERO.but(**{**SUN, "sun_at": datetime(2027, 10, 23, 17, 15, tzinfo=UTC)})
    assert derived(shot("TM010", (SEA, dusk, 1, filming(0)))).jobs[0].hour == "twilight"
    dull = HERO.but(**SUN, sky="overcast", key_azimuth_deg=None, key_elevation_deg=None)
    (job,) = derived(shot("TM010", (SEA, dull, 1, filming(0)))).jobs
    assert job.sun is None and job.hour == "day"


def test_what_follows_from_shots_can_be_planned():
    told = derived(MILL_AT_DUSK)
    shooting = d.Shooting.read(
        {
            "days": ["2027-10-16"],
            "jobs": told.jobs,
            "order": told.order,
            "runs": told.runs,
            "places": [{"key": "quay"}, {"key": "boathouse"}],
            "people": [{"key": hand.key, "hours": [{"start": "08:00", "end": "20:00"}]} for hand in HANDS],
            "changes": d.DayFigures().changes,
        }
    )
    assert [booking.job for booking in d.plan_days(shooting).bookings] == ["1", "2"]
