"""A small shooting to try things with: one scene at a table, one plate at the quay."""

from __future__ import annotations

from datetime import date

from .records import Hours, Job, Order, Person, Place, Shooting, SunKey, Travel

EXAMPLE = Shooting(
    days=(date(2027, 10, 16), date(2027, 10, 17)),
    time_zone="Europe/London",
    jobs=(
        Job(
            key="sea",
            name="Sea, hero",
            place="quay",
            lens="35 mm",
            people=("supervisor",),
            outdoors=True,
            sun=SunKey(azimuth_deg=-110.0, elevation_deg=18.0, heading_deg=280.0),
        ),
        Job(
            key="cup",
            name="The cup, both halves",
            place="boathouse",
            lens="50 mm",
            light="lamps",
            people=("supervisor", "orla"),
        ),
        Job(
            key="clean",
            name="Clean plate",
            place="boathouse",
            lens="50 mm",
            light="lamps",
            people=("supervisor",),
            before_min=0,
            takes_min=5,
            after_min=5,
        ),
        Job(
            key="mill",
            name="Mill 1:12",
            place="boathouse",
            lens="35 mm",
            light="lamps",
            model="mill",
            people=("supervisor",),
        ),
    ),
    people=(
        Person(key="supervisor", name="Supervisor", hours=(Hours(start=480, end=1140),)),
        Person(key="orla", name="Orla", hours=(Hours(weekdays=("sat",), start=600, end=990),), most_min=240),
    ),
    places=(
        Place(key="boathouse", name="Boathouse"),
        Place(key="quay", name="The quay", latitude_deg=54.3, longitude_deg=-3.2),
    ),
    travel=(Travel(places=("boathouse", "quay"), minutes=40),),
    order=(
        Order(first="sea", then="mill", why="the mill is lit and framed to the sea as it was filmed"),
        Order(first="cup", then="clean", why="a clean plate straight after its action", straight=True),
    ),
)
