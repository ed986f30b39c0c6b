"""Medians and 95th percentiles of what must feel immediate, printed and never asserted: machines differ.

Run with `./run bench`, or `./run bench drag` for a part: the names are in `main` (also as --load).
"""

from __future__ import annotations

import json
import os
import statistics
import sys
import time
from collections.abc import Callable
from itertools import count
from typing import Any

import django

os.environ["DJANGO_SETTINGS_MODULE"] = "tests.settings"
sys.path.insert(0, os.getcwd())
django.setup()

from django.db import connection  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.utils import setup_test_environment  # noqa: E402
from tools.bench_board import board_numbers  # noqa: E402
from tools.bench_days import days_numbers, demo_days_numbers  # noqa: E402
from tools.bench_drag import drag_numbers  # noqa: E402
from tools.bench_frames import frames_numbers  # noqa: E402
from tools.bench_line_up import line_up_numbers  # noqa: E402
from tools.bench_list import list_numbers  # noqa: E402
from tools.bench_load import load_numbers  # noqa: E402
from tools.bench_people import people_numbers  # noqa: E402
from tools.bench_rushes import rushes_numbers  # noqa: E402

Work = tuple[str, Callable[[], object], str]


def timed(label: str, work: Callable[[], object], runs: int, aim: str = "") -> float:
    """Print how long the work takes; the median, ms."""
    return timed_in_turn([(label, work, aim)], runs)[0]


def timed_in_turn(works: list[Work], runs: int) -> list[float]:
    """Print how long each work takes, all of them in turn, so that a machine that slows down slows all of
    them; the medians, ms.
    """
    times: list[list[float]] = [[] for _ in works]
    for run in range(-max(3, runs // 20), runs):
        for (_, work, _), taken in zip(works, times, strict=True):
            start = time.perf_counter()
            work()
            if run >= 0:
                taken.append(1000.0 * (time.perf_counter() - start))
    medians = [statistics.median(taken) for taken in times]
    for (label, _, aim), taken, median in zip(works, times, medians, strict=True):
        p95 = statistics.quantiles(taken, n=20)[-1]
        print(f"{label:58} median {median:8.2f} ms   95 % {p95:8.2f} ms   {aim}")
    return medians


def core_numbers() -> None:
    from jungoptic.core.example import DELIVERY, HERO, MODEL
    from jungoptic.core.match import Layer, Member, ShotPlan, Stack, judge, judge_member, measured_members
    from jungoptic.core.motion import Move

    layers = [
        Layer(
            name=f"Layer {n}",
            kind="model",
            scale=12,
            near_m=12 + n / 10,
            depth_m=6,
            driver="gravity",
            speed_m_s=2,
        )
        for n in range(12)
    ]
    heights = count()

    def stack(move: Move) -> Stack:
        setup = MODEL.but(lens_height_m=0.13 + next(heights) * 1e-5)  # a hand drags the camera
        members = tuple(Member(layer, setup, 1, n == 0) for n, layer in enumerate(layers))
        return Stack(ShotPlan(length_frames=120), DELIVERY.but(move=move), HERO, members)

    def judged(move: Move) -> None:
        whole = stack(move)
        for at, match in enumerate(measured_members(whole)):
            judge_member(whole, at, match=match)

    still, push = Move(), Move(kind="push", amount=2, end_frame=48)
    timed("core: 12 layers measured", lambda: measured_members(stack(still)), 300)
    timed(
        "core: 12 layers judged, one by one",
        lambda: [judge(HERO, layer, MODEL, DELIVERY) for layer in layers],
        300,
    )
    for label, move in (("the camera stands", still), ("a push over 48 frames", push)):
        timed(
            f"core: 12 layers as a whole stack, {label}",
            lambda move=move: judged(move),
            300,
            "aim: median 4 ms",
        )
    solver_numbers()


def solver_numbers() -> None:
    """Ten thousand candidates measured at once, and six layers solved over the whole kit."""
    import numpy as np

    from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
    from jungoptic.core.match import Many, Match, weighed
    from jungoptic.core.motion import Move
    from jungoptic.core.plan import choose_scale, solve

    rng, count = np.random.default_rng(1), 10_000
    many = Many.of(
        MODEL.but(ripple_depth=0.3, readout_ms=10, distortion_pct=-1, vignetting_stops=1),
        rng.uniform(0.5, 2.0, count),
        focal_length_mm=rng.choice([25.0, 35.0, 50.0], count),
        f_number=rng.choice([4.0, 8.0, 16.0], count),
        focus_distance_m=rng.uniform(0.5, 2.0, count),
        capture_fps=rng.choice([24.0, 60.0], count),
        distance_m=rng.uniform(0.7, 1.5, count),
        lens_height_m=rng.uniform(0.1, 0.4, count),
    )
    pushed = DELIVERY.but(move=Move(kind="push", amount=2, end_frame=48))
    for label, delivery in (("camera stands", DELIVERY), ("push over 48 frames", pushed)):
        timed(
            f"core: 10,000 candidates weighed, {label}",
            lambda delivery=delivery: weighed(Match(HERO, MILL, many, delivery), "measured", {}),
            10,
            "aim: 500 ms",
        )
    layers = [MILL.but(name=f"Mill {n}", near_m=10 + 2 * n, scale=6 + 2 * n) for n in range(6)]
    timed(
        "core: 6 layers solved over the whole kit",
        lambda: [solve(HERO, layer, MODEL, DELIVERY, KIT) for layer in layers],
        8,
        "aim: 600 ms",
    )
    timed("core: the common scales side by side", lambda: choose_scale(HERO, MILL, MODEL, DELIVERY, KIT), 5)


def http_numbers() -> None:
    from jungoptic.app.people.models import Person
    from jungoptic.app.shots.models import Layer, Shot

    shot = Shot.objects.get(code="TM010")
    mill = Layer.objects.get(shot=shot, name="Mill 1:12")
    for n in range(7):
        Layer.objects.create(
            shot=shot,
            place=20 + n,
            name=f"Model {n}",
            kind="model",
            combine="key",
            set_up=mill.set_up,
            scale=12,
            near_m=13 + n,
            depth_m=3,
        )
    client = Client()
    client.force_login(
        Person.objects.get(username="supervisor"), backend="django.contrib.auth.backends.ModelBackend"
    )
    heights = count()

    def drag() -> None:
        height_m = 0.3 + next(heights) * 1e-4  # a hand is never at the same place twice
        tried = {"set_ups": {mill.set_up_id: {"lens_height_m": height_m}}}
        trial = json.dumps({**tried, "selected": mill.pk, "moving": True})
        answer = client.post(f"/api/shots/{shot.pk}/trial", data=trial, content_type="application/json")
        assert answer.status_code == 200, answer.content

    def calculation() -> None:
        answer = client.post(
            "/api/calculations/angle_of_view",
            data='{"focal_length_mm": 35, "gate_width_mm": 23.5, "gate_height_mm": 13.2}',
            content_type="application/json",
        )
        assert answer.status_code == 200, answer.content

    def solve() -> None:
        assert (
            client.post(
                f"/api/layers/{mill.pk}/solve", data="{}", content_type="application/json"
            ).status_code
            == 200
        )

    print(
        f"{'':4}(the shot has {shot.layers.count()} layers,"
        f" {shot.layers.filter(set_up__isnull=False).count()} of them filmed)"
    )
    floor, dragged = timed_in_turn(
        [
            ("HTTP: one calculation, the floor of all", calculation, ""),
            ("HTTP: a drag of the camera judged and drawn, 12 layers", drag, "aim: 95 % 30 ms"),
        ],
        200,
    )
    print(f"{'':4}(a drag takes {dragged / floor:.1f} times as long as one calculation; aim: 3)")
    log_numbers(client, mill)
    picture_numbers()
    calculation_numbers(client)
    break_down_numbers(client, shot.production_id, shot.pk)
    timed("HTTP: the mill solved over the whole kit", solve, 10)

    def solve_six() -> None:
        six = Shot.objects.get(code="TM020")
        wheel = Layer.objects.get(shot=six, name="Wheel 1:8")
        assert (
            client.post(
                f"/api/layers/{wheel.pk}/solve", data="{}", content_type="application/json"
            ).status_code
            == 200
        )

    timed("HTTP: a shot of five layers with lamps and haze solved", solve_six, 5, "aim: 1.5 s")
    timed(
        "HTTP: the scales side by side",
        lambda: client.post(f"/api/layers/{mill.pk}/scales", data="{}", content_type="application/json"),
        5,
    )


def log_numbers(client: Client, layer: Any) -> None:
    """A take logged, and the log of a layer with fifty of them."""
    path = f"/api/layers/{layer.pk}/takes"

    def take() -> None:
        answer = client.post(
            path, data=json.dumps({"actual": {"f_number": 11}}), content_type="application/json"
        )
        assert answer.status_code == 201, answer.content

    timed("HTTP: a take logged, judged and kept with its facts", take, 47)
    timed(
        "HTTP: the log of a shot, a layer with 50 takes",
        lambda: client.get(f"/api/shots/{layer.shot_id}/log"),
        50,
        "aim: median 40 ms",
    )


def break_down_numbers(client: Client, production: int, shot: int) -> None:
    """The wall, a shot broken down, the set in plan, and a table of 5,000 lines taken in."""
    from django.db import transaction

    from jungoptic.app.breakdown.models import Summary
    from jungoptic.app.builds.models import Build
    from jungoptic.app.productions.models import Production

    def ask(path: str) -> None:
        assert client.get(f"/api{path}").status_code == 200

    def wall_anew() -> None:
        Summary.objects.all().delete()
        while client.get(f"/api/productions/{production}/wall").json()["pending"]:
            pass

    def table(work: str, lines: int) -> None:
        rows = "".join(
            f'X{n:05d},"Shot {n}, from a table",{24 + n % 200},Place {n % 20},{n}\n' for n in range(lines)
        )
        version = Production.objects.get(pk=production).version
        body = json.dumps(
            {"version": version, "name": "shots.csv", "text": "shot,title,frames,place,order\n" + rows}
        )
        with transaction.atomic():
            answer = client.post(
                f"/api/productions/{production}/{work}", data=body, content_type="application/json"
            )
            assert answer.status_code == 200, answer.content
            transaction.set_rollback(True)

    timed("HTTP: the wall of 12 shots, nothing known of them yet", wall_anew, 5)
    timed("HTTP: the wall of 12 shots, as it stands", lambda: ask(f"/productions/{production}/wall"), 30)
    timed("HTTP: a shot broken down", lambda: ask(f"/shots/{shot}/plan"), 30)
    timed(
        "HTTP: a set in plan: seen by three cameras, cut",
        lambda: ask(f"/builds/{Build.objects.get().pk}"),
        10,
    )
    timed("HTTP: a CSV of 5,000 lines looked into", lambda: table("preview", 5000), 3, "aim: 3 s")
    timed("HTTP: a CSV of 5,000 lines taken in", lambda: table("take-in", 5000), 3, "aim: 3 s")
    with transaction.atomic():
        table_rows = [
            {"code": f"Y{n:03d}", "title": f"Shot {n}", "length_frames": 48, "position": n}
            for n in range(188)
        ]
        from jungoptic.app.shots.models import Shot

        Shot.objects.bulk_create(Shot(production_id=production, **row) for row in table_rows)
        wall_anew()
        timed("HTTP: the wall of 200 shots, as it stands", lambda: ask(f"/productions/{production}/wall"), 20)
        transaction.set_rollback(True)


def picture_numbers() -> None:
    """The view through the lens of every shot of the demo: coarse and fine."""
    from jungoptic.app.shots.models import Shot
    from jungoptic.app.takes.table import BenchTable, shot_with_everything
    from jungoptic.core.stage import render

    stacks = [
        BenchTable(shot_with_everything(one.pk), school="measured", units="metric").stack
        for one in Shot.objects.all()
    ]
    for width, aim in ((640, "aim: 60 ms"), (1280, "aim: 400 ms")):
        times = []
        for stack in stacks:
            begun = time.perf_counter()
            render(stack, width)
            times.append(1000 * (time.perf_counter() - begun))
        print(
            f"core: view through the lens, {width} wide, {len(stacks)} shots: median"
            f" {statistics.median(times):.0f} ms, worst {max(times):.0f} ms   {aim}"
        )


def calculation_numbers(client: Client | None) -> None:
    """Every calculation at its worked example: calls a second in core, and the median over HTTP when there is
    a client.
    """
    from jungoptic.core import handbook
    from jungoptic.core.calculation import CALCULATIONS
    from jungoptic.core.handbook import example_of

    assert handbook
    quick = 0
    print(f"{'calculation':34}{'calls/s in core':>16}{'ms a call':>12}{'median over HTTP, ms':>24}")
    for name, entry in sorted(CALCULATIONS.items()):
        inputs, runs = example_of(entry), 0
        start = time.perf_counter()
        while runs < 200 and time.perf_counter() - start < 0.25:
            entry.run(inputs)
            runs += 1
        each = (time.perf_counter() - start) / runs
        quick += each < 1e-3
        times = []
        for _ in range(9 if client else 0):
            begun = time.perf_counter()
            answer = client.post(
                f"/api/calculations/{name}", data=json.dumps(inputs), content_type="application/json"
            )  # type: ignore[union-attr]
            times.append(1000 * (time.perf_counter() - begun))
            assert answer.status_code == 200, answer.content
        print(f"{name:34}{1 / each:16.0f}{1000 * each:12.3f}{statistics.median(times) if times else 0:24.2f}")
    print(f"{quick} of {len(CALCULATIONS)} under 1 ms in core   aim: 95 %, evenness and sun in 50 ms")


def main() -> None:
    setup_test_environment()
    from jungoptic.app.demo.production import make_demo
    from jungoptic.app.wsgi import application

    assert application  # and with it the collector's settings of the real server
    parts = {
        "core": core_numbers,
        "http": http_numbers,
        "people": people_numbers,
        "drag": drag_numbers,
        "line-up": lambda: line_up_numbers(timed),
        "frames": lambda: frames_numbers(timed),
        "list": list_numbers,
        "load": load_numbers,
        "days": days_numbers,
        "demo-days": demo_days_numbers,
        "board": board_numbers,
        "rushes": rushes_numbers,
    }
    wanted = [one.removeprefix("--") for one in sys.argv[1:]] or list(parts)
    if unknown := [name for name in wanted if name not in parts]:
        sys.exit(f"bench: there is no part called {unknown[0]}; there are {', '.join(parts)}")
    alone = [name for name in wanted if name in ("core", "days")]
    for name in alone:
        parts[name]()
    if alone == wanted:
        return
    old_name = connection.settings_dict["NAME"]
    connection.creation.create_test_db(verbosity=0, autoclobber=True)
    try:
        make_demo(filmed=False)
        for name in wanted:
            if name not in alone:
                parts[name]()
    finally:
        with connection.cursor() as cursor:  # a process beside a server that has ended may hold on a moment
            cursor.execute(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
                " WHERE datname = current_database() AND pid <> pg_backend_pid()"
            )
        connection.creation.destroy_test_db(old_name, verbosity=0)


if __name__ == "__main__":
    main()
