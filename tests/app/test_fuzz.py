"""Malformed calls of every operation: none breaks anything, every answer is as the schema says, and what
stands can be read after each batch.

``./run test --fuzz`` makes ten thousand; the ordinary tests a part of them. ``FUZZ_SEED`` deals others.
"""

from __future__ import annotations

import json
import os
import re
import traceback
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from urllib.parse import quote, urlencode

import jsonschema_rs
import pytest
from django.core.signals import got_request_exception
from django.db import connection, transaction

from jungoptic.app.api.main import api
from jungoptic.app.shots.models import Shot
from tests.kept import forget_everything

from .conftest import Caller
from .malformed import Malformer
from .said import Call, every_call

PARTS = 4
CALLS = int(os.environ.get("FUZZ_CALLS", "400")) // PARTS
SEED = int(os.environ.get("FUZZ_SEED", "14"))
BATCH = 100


# --- what an answer may be


class Schema:
    """The API's own schema: which operation a path is of, and whether an answer is as it says."""

    def __init__(self) -> None:
        self.schema = json.loads(json.dumps(api.get_openapi_schema()))
        self.operations = [
            (method, re.compile(re.sub(r"{\w+}", r"[^/]+", path)), operation["responses"])
            for path, methods in sorted(self.schema["paths"].items(), key=lambda one: one[0].count("{"))
            for method, operation in methods.items()
        ]
        self.kept: dict[str, Any] = {}

    def responses(self, method: str, path: str) -> dict[str, Any] | None:
        at = f"/api{path}"
        return next(
            (said for one, address, said in self.operations if one == method and address.fullmatch(at)), None
        )

    def complaint(self, method: str, path: str, answer: Any) -> str:
        """What is wrong with an answer; "" for nothing."""
        status, kind = answer.status_code, answer.headers.get("Content-Type", "")
        if status >= 400 and not kind.startswith("application/json") and status != 405:
            return f"{status} as {kind}"
        if status >= 500:
            return f"{status}"
        said = self.responses(method, path)
        if said is None:
            return "" if status in (200, 304, 400, 401, 404, 405, 422) else f"{status} from no operation"
        if str(status) in said:
            content = said[str(status)].get("content")
        elif status >= 400:
            content = said["4XX"]["content"]
        else:
            return f"{status} is not in the schema"
        if not content or "application/json" not in content:
            return ""
        if not kind.startswith("application/json"):
            return f"{status} as {kind}"
        try:
            value = json.loads(answer.content, parse_constant=_no_number)
        except ValueError as error:
            return f"{status} is no JSON: {error}"
        wrong = next(self._validator(content["application/json"]["schema"]).iter_errors(value), None)
        return f"{status} against its schema: {str(wrong.message)[:200]}" if wrong else ""

    def _validator(self, schema: dict[str, Any]) -> Any:
        key = json.dumps(schema)
        if key not in self.kept:
            whole = {**schema, "components": self.schema["components"]}
            self.kept[key] = jsonschema_rs.validator_for(whole)
        return self.kept[key]


def _no_number(name: str) -> None:
    raise ValueError(f"{name} is no JSON")


# --- asking


class Asked:
    """Sends calls as one person, and keeps what went wrong."""

    def __init__(self) -> None:
        self.sign_in()
        self.schema = Schema()
        self.wrong: dict[str, list[str]] = defaultdict(list)
        self.statuses: dict[int, int] = defaultdict(int)

    def sign_in(self) -> None:
        """Anew: a call may have signed out, or changed the password."""
        self.client = Caller("supervisor").client
        self.client.raise_request_exception = False

    def send(self, call: Call, how: dict[str, Any]) -> None:
        path = quote(call.path, safe="/%+")
        asked = urlencode({name: str(value).encode("utf-8", "replace") for name, value in call.query.items()})
        raised: list[str] = []

        def note(sender: Any, **more: Any) -> None:
            raised.append(_where(traceback.format_exc()))

        got_request_exception.connect(note)
        try:
            at = f"/api{path}{'?' + asked if asked else ''}"
            with transaction.atomic():
                if isinstance(how.get("data"), dict):
                    answer = self.client.post(at, **how)
                else:  # the bytes as they are
                    answer = self.client.generic(call.method.upper(), at, **how)
                connection.check_constraints()
        except Exception:
            self._keep(f"raised {_where(traceback.format_exc())}", call, how)
            return
        finally:
            got_request_exception.disconnect(note)
        self.statuses[answer.status_code] += 1
        complaint = self.schema.complaint(call.method, call.path, answer)
        if complaint:
            self._keep(f"{complaint} {' '.join(raised)}", call, how)

    def _keep(self, what: str, call: Call, how: dict[str, Any]) -> None:
        data = how.get("data")
        shown = data[:2000] if isinstance(data, bytes) else str(data)[:300]
        self.wrong[what].append(
            f"{call.method} {call.path} {dict(call.query)} {shown!r} {how.get('headers')}"
        )

    def report(self) -> str:
        lines = []
        for what, calls in sorted(self.wrong.items(), key=lambda one: -len(one[1])):
            lines.append(f"{len(calls)} × {what}\n      {min(calls, key=len)[:1500]}")
        return "\n".join(lines)


def _where(trace: str) -> str:
    """The innermost line of ours, and what was raised."""
    ours = re.findall(r'File "[^"]*/(src/jungoptic/[^"]+)", line (\d+)', trace)
    last = trace.strip().splitlines()[-1][:160]
    return f"{ours[-1][0]}:{ours[-1][1]} {last}" if ours else last


def still_answers(asked: Asked, shots: list[int], production_id: int) -> None:
    """Bench, plan, log, wall and export, after whatever was stored."""
    forget_everything()
    for path in [
        *(f"/shots/{pk}/{what}" for pk in shots for what in ("bench", "plan", "log")),
        *(
            f"/productions/{production_id}/{what}"
            for what in ("wall", "shots.csv", "shots.otio", "kit", "history")
        ),
    ]:
        before = len(asked.wrong)
        asked.send(Call("get", path), {})
        if len(asked.wrong) > before:
            asked.wrong[f"AFTER A BATCH {path}"].append("")


@contextmanager
def undone() -> Iterator[None]:
    """What happens inside is taken back at its end."""
    with transaction.atomic():
        point = transaction.savepoint()
        yield
        transaction.savepoint_rollback(point)
    forget_everything()


@pytest.mark.parametrize("part", range(PARTS))
def test_no_malformed_call_breaks_anything(part: int, production, take, card):
    asked = Asked()
    malformed = Malformer(SEED * 1000 + part, every_call(take, card))
    shots = list(Shot.objects.filter(code__in=("TM010", "TM020")).values_list("pk", flat=True))
    for start in range(0, CALLS, BATCH):
        with undone():
            asked.sign_in()
            for _ in range(min(BATCH, CALLS - start)):
                asked.send(*malformed.call())
            asked.sign_in()
            still_answers(asked, shots, production.pk)
    print(dict(asked.statuses))
    assert not asked.wrong, asked.report()
