"""A whole crew at once, measured: who drags waits for nobody, whatever others have asked for.

Bounded in time, and on loopback only.
"""

from __future__ import annotations

import http.client
import io
import itertools
import json
import os
import statistics
import subprocess
import time
import uuid
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import ExitStack, contextmanager
from copy import copy
from dataclasses import dataclass, field
from typing import Any

from tools.bench_people import process_of, served

MEASURED_S = 15.0
SHOTS = 200
PICTURE_PX = 8900  # across and down: as many megapixels as may come
FLOOD = 16
PASSWORD = "not the password"
LONGEST_PAUSE_MS = 500


@contextmanager
def working(name: str) -> Iterator[None]:
    """A worker of the start command, on the bench's database."""
    from tests.database_url import database_url

    environment = {
        **os.environ,
        "DATABASE_URL": database_url(),
        "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings",
    }
    worker = subprocess.Popen(["sh", "-c", process_of(name)], env=environment)
    try:
        yield
    finally:
        worker.terminate()
        worker.wait()


@dataclass
class Person:
    """One of the crew, with a line of their own to the server; how long each answer took, ms."""

    port: int
    session: str
    times: list[float] = field(default_factory=list)
    statuses: list[int] = field(default_factory=list)
    address: str = ""

    def __post_init__(self) -> None:
        self.line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=120)

    def ask(self, method: str, path: str, body: str | bytes = "", kind: str = "application/json") -> bytes:
        """One call, and its answer."""
        headers = {
            "Cookie": f"csrftoken={'c' * 32}" + (f"; sessionid={self.session}" if self.session else ""),
            "X-CSRFToken": "c" * 32,
            "Content-Type": kind,
        }
        if self.address:
            headers["X-Forwarded-For"] = self.address
        begun = time.perf_counter()
        self.line.request(method, f"/api{path}", body, headers)
        answer = self.line.getresponse()
        said = answer.read()
        self.times.append(1000 * (time.perf_counter() - begun))
        self.statuses.append(answer.status)
        return said


def crew(count: int) -> list[str]:
    """Sessions of as many supervisors of the demo's production."""
    from tests.sessions import session_of

    from jungoptic.app.people.models import Person as Account
    from jungoptic.app.productions.models import Membership, Production

    for number in range(count):
        account, made = Account.objects.get_or_create(username=f"crew{number}")
        if made:
            Membership.objects.create(
                person=account, production=Production.objects.get(), role=Membership.Role.SUPERVISOR
            )
    return [session_of(f"crew{number}") for number in range(count)]


def two_hundred_shots(shots: int = SHOTS) -> None:
    """The demo's shots again and again, with their set-ups, layers and lamps; no two set-ups are the same."""
    from jungoptic.app.shots.models import Layer, Line, Part, PlacedBacking, PlacedLamp, SetUp, Shot

    def again(row: Any, **values: Any) -> Any:
        row = copy(row)
        row.pk = None
        for name, value in values.items():
            setattr(row, name, value)
        row.save(force_insert=True)
        return row

    known = [(one.pk, one.code) for one in Shot.objects.order_by("position")]
    for number, (pk, code) in zip(range(shots - len(known)), itertools.cycle(known), strict=False):
        shot = again(Shot.objects.get(pk=pk), code=f"{code}-{number}", position=1000 + number)
        set_ups, layers = {}, {}
        for row in SetUp.objects.filter(shot=pk):
            set_ups[row.pk] = again(row, shot=shot, lens_height_m=row.lens_height_m + 1e-4 * number).pk
        for row in Layer.objects.filter(shot=pk):
            layers[row.pk] = again(row, shot=shot, set_up_id=set_ups.get(row.set_up_id)).pk
        for row in Part.objects.filter(layer__in=layers):
            again(row, layer_id=layers[row.layer_id])
        for row in PlacedLamp.objects.filter(set_up__in=set_ups):
            again(row, set_up_id=set_ups[row.set_up_id], only_for_id=layers.get(row.only_for_id))
        for row in PlacedBacking.objects.filter(set_up__in=set_ups):
            again(row, set_up_id=set_ups[row.set_up_id])
        for row in Line.objects.filter(shot=pk):
            again(row, shot=shot, layer_id=layers.get(row.layer_id))


class Load:
    """What everybody does at the same time, each as fast as it is answered."""

    def __init__(self, port: int, sessions: list[str]) -> None:
        from jungoptic.app.shots.models import Layer, Shot

        self.port, self.sessions = port, sessions
        shot = Shot.objects.get(code="TM020")
        self.wheel = Layer.objects.get(shot=shot, name="Wheel 1:8")
        self.shot, self.production = shot.pk, shot.production_id
        self.heights = itertools.count()
        filmed = Layer.objects.filter(removed=False, set_up__isnull=False, is_hero=False)
        shots = filmed.filter(shot__position__lt=1000).order_by("shot__position", "place")
        self.dragged = list({layer.shot_id: layer for layer in reversed(shots)}.values())
        self.mill = Layer.objects.get(name="Mill 1:12", shot__code="TM010")
        self.picture = worst_picture()

    def until(self, over: Callable[[], bool], who: Person, once: Callable[[Person], object]) -> Person:
        while not over():
            once(who)
        return who

    def drag(self, who: Person) -> None:
        """The camera of a shot of their own, as a page asks while a hand moves."""
        layer = self.dragged[self.sessions.index(who.session) % len(self.dragged)]
        tried = {layer.set_up_id: {"lens_height_m": 0.31 + next(self.heights) * 1e-5}}
        body = {"set_ups": tried, "selected": layer.pk, "moving": True}
        who.ask("POST", f"/shots/{layer.shot_id}/trial", json.dumps(body))
        assert who.statuses[-1] == 200, who.statuses[-1]
        # as the page does: web/src/lib/edit/moving.ts
        time.sleep(min(who.times[-1], LONGEST_PAUSE_MS) / 1000)

    def solve(self, who: Person) -> None:
        who.ask("POST", f"/layers/{self.wheel.pk}/solve", "{}")

    def look(self, who: Person) -> None:
        who.ask("POST", f"/shots/{self.shot}/picture", json.dumps({"width_px": 1280}))

    def upload(self, who: Person) -> None:
        """The worst picture for a layer; its version is never seen, so that it is decoded and refused."""
        edge = uuid.uuid4().hex
        head = (
            f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="w.png"\r\n'
            "Content-Type: image/png\r\n\r\n"
        )
        form = head.encode() + self.picture + f"\r\n--{edge}--\r\n".encode()
        who.ask("POST", f"/layers/{self.wheel.pk}/picture", form, f"multipart/form-data; boundary={edge}")

    def book(self, who: Person) -> None:
        version = json.loads(who.ask("GET", f"/productions/{self.production}/wall"))["version"]
        job = who.ask("POST", f"/productions/{self.production}/book", json.dumps({"version": version}))
        assert who.statuses[-1] == 202, job
        self.job = json.loads(job)["id"]

    def knock(self, who: Person) -> None:
        """A wrong password, from another address each time."""
        number, who.session = next(self.heights), ""
        who.address = f"198.18.{number // 250 % 250}.{1 + number % 250}"
        body = {"username": f"crew{number % 32}", "password": PASSWORD}
        who.ask("POST", "/session", json.dumps(body))

    def drag_for(
        self, seconds: float, people: int, meanwhile: dict[str, Callable[[Person], object]] | None = None
    ) -> tuple[list[float], dict[str, Person]]:
        """How long each answer to ``people`` who drag took, ms; and who did what meanwhile."""
        ends = time.monotonic() + seconds
        others = list((meanwhile or {}).items())
        everybody = [Person(self.port, session) for session in self.sessions[: people + len(others)]]

        def over() -> bool:
            return time.monotonic() > ends

        with ThreadPoolExecutor(len(everybody)) as threads:
            beside: dict[str, Future[Person]] = {
                what: threads.submit(self.until, over, who, once)
                for (what, once), who in zip(others, everybody[people:], strict=True)
            }
            drags = [threads.submit(self.until, over, who, self.drag) for who in everybody[:people]]
            times = [time for drag in drags for time in drag.result().times]
            return times, {what: done.result() for what, done in beside.items()}


def worst_picture() -> bytes:
    """A PNG of as many megapixels as may come, with transparency: small to send, and large to read."""
    from PIL import Image

    picture = io.BytesIO()
    Image.new("RGBA", (PICTURE_PX, PICTURE_PX)).save(picture, "PNG")
    return picture.getvalue()


def said(what: str, times: list[float], aim: str) -> None:
    slow = statistics.quantiles(times, n=20)[-1]
    print(
        f"load: {what:62} {len(times):5} answers, median {statistics.median(times):4.0f} ms, 95 %"
        f" {slow:4.0f} ms   {aim}",
        flush=True,
    )


def did(what: str, who: Person) -> str:
    busy = sum(one == 429 for one in who.statuses)
    return f"{what} {len(who.times) - busy} times (median {statistics.median(who.times):.0f} ms), {busy} busy"


def load_numbers() -> None:
    """Eight who drag beside one who solves, one who uploads the worst picture and the book of two hundred
    shots; thirty-two who drag; eight beside a flood of wrong passwords.
    """
    hash_numbers()
    two_hundred_shots()
    sessions = crew(32 + FLOOD)
    os.environ["JUNGOPTIC_PROXIES"] = "127.0.0.1"  # so that the flood comes from many addresses
    with ExitStack() as held:
        port = held.enter_context(served())
        held.enter_context(working("heavy"))
        load = Load(port, sessions)
        load.drag_for(4.0, 8)  # everything is read once
        said("8 drag, each in a shot of their own", load.drag_for(MEASURED_S, 8)[0], "")
        load.dragged = [load.mill]
        said("8 drag", load.drag_for(MEASURED_S, 8)[0], "")
        said("32 drag", load.drag_for(MEASURED_S, 32)[0], "aim: 95 % 450 ms")
        load.book(Person(port, sessions[-1]))
        times, others = load.drag_for(
            2 * MEASURED_S, 8, {"solves": load.solve, "uploads": load.upload, "looks": load.look}
        )
        job = json.loads(Person(port, sessions[-1]).ask("GET", f"/jobs/{load.job}"))
        said("8 drag; one solves, one uploads, one looks, one prints the book", times, "aim: 95 % 150 ms")
        print(f"{'':6}{'; '.join(did(what, who) for what, who in others.items())}")
        print(f"{'':6}the book of {SHOTS} shots: {job['state']}, {job['progress']} %")
        flood = {f"knocks {number}": load.knock for number in range(FLOOD)}
        times, others = load.drag_for(MEASURED_S, 8, flood)
        knocks = [one for who in others.values() for one in who.statuses]
        said(f"8 drag; {FLOOD} loops of wrong passwords", times, "aim: 95 % 150 ms")
        print(
            f"{'':6}{len(knocks)} wrong passwords, {sum(one == 429 for one in knocks)} of them not looked at"
        )


def hash_numbers() -> None:
    """What a password costs."""
    from jungoptic.app.people.hashers import SmallArgon2

    hasher, times = SmallArgon2(), []
    kept = hasher.encode(PASSWORD, hasher.salt())
    for _ in range(20):
        begun = time.perf_counter()
        assert hasher.verify(PASSWORD, kept)
        times.append(1000 * (time.perf_counter() - begun))
    said("a password checked (Argon2id)", times, "")
