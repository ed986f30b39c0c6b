"""The demo production in the database, and people signed in to the API."""

from __future__ import annotations

import itertools
import json
from datetime import date
from typing import Any

import pytest
from django.conf import settings
from django.test import Client

from jungoptic.app.bench.schemas import BenchOut
from jungoptic.app.breakdown.schemas import WallOut
from jungoptic.app.demo.production import SLUG
from jungoptic.app.files.models import StoredFile
from jungoptic.app.jobs.models import Job
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take
from jungoptic.app.takes.models import Take
from tests.app.seen import version_seen
from tests.kept import forget_everything
from tests.sessions import session_of

_keys = itertools.count()

SATURDAY = date(2027, 10, 16)


class Caller:
    """A person's session with the API; JSON in and out. A write that says no version has seen what stands."""

    def __init__(self, username: str) -> None:
        self.client = Client()
        self.client.cookies[settings.SESSION_COOKIE_NAME] = session_of(username)

    def __call__(
        self, method: str, path: str, body: Any = None, *, key: str | None = None
    ) -> tuple[int, Any]:
        headers = {"Idempotency-Key": key} if key else {}
        if method == "delete" and "version=" not in path and (version := version_seen(path, {})) is not None:
            path += f"?version={version}"
        elif (
            method in ("post", "put", "patch")
            and isinstance(body, dict)
            and "version" not in body
            and (version := version_seen(path, body)) is not None
        ):
            body = {**body, "version": version}
        data = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        answer = getattr(self.client, method)(f"/api{path}", headers=headers, **data)
        is_json = answer.headers["Content-Type"].startswith("application/json")
        return answer.status_code, answer.json() if is_json else answer.getvalue()

    def bench(self, shot: Shot, **query: Any) -> dict[str, Any]:
        status, body = self(
            "get", f"/shots/{shot.pk}/bench?" + "&".join(f"{k}={v}" for k, v in query.items())
        )
        assert status == 200, body
        BenchOut.model_validate(body, strict=False, extra="forbid")
        return body  # type: ignore[no-any-return]

    def plan(self, shot: Shot) -> dict[str, Any]:
        """The shot broken down."""
        status, body = self("get", f"/shots/{shot.pk}/plan")
        assert status == 200, body
        return body  # type: ignore[no-any-return]

    def planned(self, method: str, shot: Shot, path: str, body: Any = None, **more: Any) -> tuple[int, Any]:
        """A write of the shot's plan, and the plan as it is then; what was refused is answered as it is."""
        status, answer = self(method, f"/shots/{shot.pk}/{path}", body, **more)
        return (status, answer) if status >= 400 else (status, self.plan(shot))

    def accept_all(self, shot: Shot) -> None:
        """Everything that shows, accepted with a reason."""
        for layer in self.bench(shot)["layers"]:
            for item in layer["items"]:
                if item["verdict"] == "shows" and not item["informs"] and not item["accepted"]:
                    said = {"layer_id": layer["id"], "item": item["item"], "reason": "The cut hides it."}
                    status, answer = self("post", f"/shots/{shot.pk}/accept", {**said, "basis": "shot"})
                    assert status == 200, answer

    def take(self, layer: Layer, **said: Any) -> dict[str, Any]:
        """A take logged at the camera, as the telephone sends it."""
        status, body = self("post", f"/layers/{layer.pk}/takes", said)
        assert status == 201, body
        return body  # type: ignore[no-any-return]

    def wall(self, production: Production, **query: str) -> dict[str, Any]:
        """The wall once every shot is judged: a slow machine leaves some for the next time it is asked."""
        pending: int | None = None
        body: Any = None
        while pending != 0:
            status, body = self(
                "get", f"/productions/{production.pk}/wall?" + "&".join(f"{k}={v}" for k, v in query.items())
            )
            assert status == 200, body
            assert pending is None or body["pending"] < pending, "asked again, and no shot more was judged"
            pending = body["pending"]
        WallOut.model_validate(body, strict=False, extra="forbid")
        return body  # type: ignore[no-any-return]


@pytest.fixture(autouse=True)
def _nothing_kept_of_other_tests() -> None:
    forget_everything()


@pytest.fixture
def production(db: None) -> Production:
    return Production.objects.get(slug=SLUG)


@pytest.fixture
def shot(production: Production) -> Shot:
    return Shot.objects.get(code="TM010")


@pytest.fixture
def empty(production: Production) -> Shot:
    """A shot that nobody has planned yet."""
    return Shot.objects.create(
        production=production, code="TM900", title="Something new", length_frames=48, position=900
    )


@pytest.fixture
def mill(shot: Shot) -> Layer:
    return Layer.objects.get(shot=shot, name="Mill 1:12")


@pytest.fixture
def sea(shot: Shot) -> Layer:
    return Layer.objects.get(shot=shot, is_hero=True)


@pytest.fixture
def supervisor(production: Production) -> Caller:
    return Caller("supervisor")


@pytest.fixture
def crew(production: Production) -> Caller:
    return Caller("camera")


@pytest.fixture
def guest(production: Production) -> Caller:
    return Caller("runner")


@pytest.fixture
def stranger(production: Production) -> Caller:
    return Caller("stranger")


@pytest.fixture
def take(shot, mill) -> Take:
    with in_shot(Person.objects.get(username="camera"), mill.shot_id) as write:
        return record_take(write, mill.pk, Said())


@pytest.fixture
def card(shot) -> Job:
    """A shot card that is printed."""
    job_id = Caller("supervisor")("post", f"/shots/{shot.pk}/cards", {})[1]["id"]
    picture = StoredFile.objects.all()[0]
    Job.objects.filter(pk=job_id).update(state="ready", progress=100, file=picture)
    return Job.objects.get(pk=job_id)


def edit(version: int, **changes: Any) -> dict[str, Any]:
    return {"version": version, "changes": changes}


def a_key() -> str:
    return f"key-{next(_keys)}"


@pytest.fixture
def wheel_shot(production) -> Shot:
    return Shot.objects.get(code="TM020")


@pytest.fixture
def orla(wheel_shot: Shot) -> Layer:
    return Layer.objects.get(shot=wheel_shot, name="Orla")
