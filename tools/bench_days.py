"""How quickly days are planned: until the first plan, until the end, and what is proven."""

from __future__ import annotations

import time
from datetime import date, timedelta

from jungoptic.core.days import Progress, Shooting, plan_breaks, plan_days

SIZES = ((12, 6), (60, 20), (200, 60))  # jobs, possible days
RUNS = 3


def made_up(jobs: int, days: int, seed: int) -> Shooting:
    """Shots of four set-ups, as a production has them: a place, a light and a backing to a shot, every hero
    first, every third shot with a guest, some of those outdoors in the sun; dealt by a fixed rule.
    """
    rows, order = [], []
    for number in range(jobs):
        shot, nth = divmod(number, 4)
        deal = (shot * 7 + seed * 5) % 10
        place = "quay" if deal in (2, 5, 8) else "yard" if deal == 9 else "boathouse"
        model = "" if place != "boathouse" or nth == 0 else ("mill", "heron", "wall")[(shot + seed) % 3]
        sun = {"azimuth_deg": -40, "elevation_deg": 18, "heading_deg": 0, "heading_to_deg": 300}
        rows.append(
            {
                "key": f"j{number}",
                "shots": [f"S{shot + 1:03d}"],
                "before_min": (40, 60, 60, 80)[(number + seed) % 4],
                "takes_min": (24, 24, 30, 60)[(number * 3 + seed) % 4],
                "place": place,
                "lens": ("25 mm", "35 mm")[(number + shot) % 2],
                "model": model,
                "light": f"light {(shot + seed) % 3}",
                "backing": ("green", "blue", "")[shot % 3] if place == "boathouse" and not model else "",
                "position": f"{shot}.{nth % 3}",
                "people": [
                    "supervisor",
                    "camera",
                    *(["model"] if model else ["orla"] if shot % 3 == 0 else []),
                ],
                "outdoors": place != "boathouse",
                "hour": "day" if place != "boathouse" else "any",
                "sun": sun if place != "boathouse" and nth == 0 and deal != 9 else None,
            }
        )
        if nth:
            order.append({"first": f"j{4 * shot}", "then": f"j{number}", "why": "hero first"})
    return Shooting.read(
        {
            "days": [date(2027, 10, 16) + timedelta(days=day) for day in range(days)],
            "time_zone": "Europe/London",
            "jobs": rows,
            "order": order,
            "people": [
                {"key": "supervisor", "hours": [{"start": "08:00", "end": "19:00"}]},
                {"key": "camera", "hours": [{"start": "08:00", "end": "19:00"}]},
                {"key": "model", "hours": [{"start": "09:00", "end": "18:00"}]},
                {"key": "orla", "hours": [{"start": "10:00", "end": "16:00"}]},
            ],
            "places": [
                {"key": "boathouse"},
                {"key": "quay", "latitude_deg": 54.3, "longitude_deg": -3.2},
                {"key": "yard", "latitude_deg": 54.3, "longitude_deg": -3.2},
            ],
        }
    )


def days_numbers() -> None:
    """Seconds to the first plan, to the days that it ends with, and to the end; what is proven."""
    plan_days(made_up(4, 2, 0))  # the solver is loaded
    print("\nplanning days                first valid   those days    the end   days   proven   changing")
    for jobs, days in SIZES:
        for seed in range(RUNS):
            planned_once(jobs, days, made_up(jobs, days, seed))


def demo_days_numbers() -> None:
    """The demo's jobs on its own days, and on twenty: what the plan costs after 5 s and after 60 s."""
    from jungoptic.app.days.reading import DaysOf
    from jungoptic.app.productions.models import Production

    shooting = DaysOf(Production.objects.get()).shooting
    first = shooting.days[0]
    twenty = tuple(
        day
        for k in range(70)
        if (day := first + timedelta(days=k)).weekday() >= 5  # its crew's weekends
    )[:20]
    print("\nplanning the demo                        days   people-days   changing   waiting   proven")
    for days in (shooting.days, twenty):
        told: list[tuple[float, Progress]] = []
        begun = time.perf_counter()

        def keep(progress: Progress, told: list[tuple[float, Progress]] = told, begun: float = begun) -> None:
            told.append((time.perf_counter() - begun, progress))

        def late(begun: float = begun) -> bool:
            return time.perf_counter() - begun > 60.0

        own = shooting.model_copy(update={"days": days, "locked": ()})
        plan = plan_days(own, keep, late, effort=8.0)
        whole = [(at, p) for at, p in told if len(p.bookings) == len(own.jobs)]
        end = time.perf_counter() - begun
        for name, costs in (
            *((f"after {at:.1f} s", p.costs) for at, p in [one for one in whole if one[0] <= 5.0][-1:]),
            (f"after {end:.0f} s", plan.costs),
        ):
            print(
                f"{len(own.jobs)} jobs on {len(days):2} days, {name:14}{costs.days:10}{costs.people_days:14}"
                f"{costs.changing_min:11}{costs.waiting_min:10}{plan.fewest_days:9}"
            )


def planned_once(jobs: int, days: int, shooting: Shooting) -> None:
    told: list[tuple[float, Progress]] = []
    begun = time.perf_counter()
    plan = plan_days(shooting, lambda progress: told.append((time.perf_counter() - begun, progress)))
    end = time.perf_counter() - begun
    assert not plan_breaks(shooting, plan.bookings)
    whole = [(at, own.costs) for at, own in told if len(own.bookings) == jobs]
    first = whole[0][0] if whole else float("nan")
    few = next((at for at, costs in whole if costs.days == plan.costs.days), float("nan"))
    early = [costs.changing_min for at, costs in whole if at <= 5.0]
    after_5_s = f"{early[-1]} min after 5 s, " if early else ""
    print(
        f"{jobs:4} jobs on {days:2} possible days {first:9.2f} s {few:10.2f} s {end:8.1f} s"
        f"{plan.costs.days:7}{plan.fewest_days:9}   {after_5_s}{plan.costs.changing_min}"
    )
