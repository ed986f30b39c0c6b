"""Every operation of the API called from its own schema, with good and bad values: no answer of 500, none
that the schema does not allow.

The values are schemathesis' own, dealt at random. What they name is of the demo, so that more than "there is
no such thing" is answered. ``EVERY_EDGE=1 ./run test tests/app/test_schema.py`` goes through each edge of
each schema one by one as well: some minutes.
"""

from __future__ import annotations

import os
import zlib
from typing import Any

import pytest
import schemathesis
from django.conf import settings
from hypothesis import HealthCheck
from hypothesis import settings as how
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from jungoptic.app.api.main import api
from jungoptic.app.builds.models import Build
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.shots.edit import KINDS
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.stock.models import StockItem
from jungoptic.core.calculation import CALCULATIONS
from tests.app.seen import version_seen
from tests.live import Live
from tests.sessions import session_of

EVERY_EDGE = os.environ.get("EVERY_EDGE") == "1"
DEALT = int(os.environ.get("FUZZ_DEALT", "60" if EVERY_EDGE else "5"))
REAL = {
    "production_id": Production.objects.all,
    "shot_id": Shot.in_cut.all,
    "layer_id": Layer.objects.all,
    "place_id": Place.objects.all,
    "build_id": Build.objects.all,
    "item_id": StockItem.objects.all,
    "recipe_id": ShotRecipe.objects.all,
}
HOLD = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
schema = schemathesis.openapi.from_dict(api.get_openapi_schema())
schema.config.phases.coverage.enabled = EVERY_EDGE


@pytest.fixture
def signed_in(server: Live, stored: None) -> dict[str, Any]:
    """How to call as the supervisor."""
    token = "c" * 32
    cookies = {settings.SESSION_COOKIE_NAME: session_of("supervisor"), settings.CSRF_COOKIE_NAME: token}
    return {"base_url": server.url, "cookies": cookies, "headers": {"X-CSRFToken": token}}


# --- what is named, of the demo


def dealt(among: list[Any], by: object) -> Any:
    """Always the same one for the same value."""
    return among[zlib.crc32(repr(by).encode()) % len(among)]


def of_the_demo(path: dict[str, Any]) -> dict[str, Any]:
    """Three of four numbers and names in an address made real."""

    def real(name: str, value: Any) -> Any:
        if dealt([True, True, True, False], value):
            if name in REAL:
                return dealt(list(REAL[name]().order_by("pk").values_list("pk", flat=True)), value)
            if name == "name":
                return dealt(sorted(CALCULATIONS), value)
        return value

    return {name: real(name, value) for name, value in path.items()}


def with_known_fields(operation: str, path: dict[str, Any], body: Any) -> Any:
    """Objects of any keys (a row's changes, a calculation's inputs) with keys that mean something; every
    value stays as it was dealt.
    """
    if not isinstance(body, dict):
        return body
    if operation == "POST /api/calculations/{name}" and path["name"] in CALCULATIONS:
        return _named(body, sorted(CALCULATIONS[path["name"]].inputs.model_fields))
    if isinstance(body.get("actual"), dict):
        return {**body, "actual": _named(body["actual"], sorted(KINDS["set_ups"].fields))}
    seen = (
        version_seen(operation.partition(" ")[2].removeprefix("/api").format(**path), body)
        if dealt([True, True, True, False], path)
        else None
    )
    return {key: _rows(key, path, value) if key in KINDS else value for key, value in body.items()} | (
        {"version": seen} if seen and "version" in body else {}
    )


def _named(fields: dict[str, Any], names: list[str]) -> dict[str, Any]:
    return {dealt(names, key): value for key, value in fields.items()}


def _rows(kind: str, path: dict[str, Any], rows: Any) -> Any:
    shot_id = path.get("shot_id")
    shot = (
        Shot.objects.filter(pk=shot_id).first()
        if isinstance(rows, dict) and isinstance(shot_id, int)
        else None
    )
    known = list(KINDS[kind].rows(shot)) if shot else []
    if not known:
        return rows
    found = {}
    for key, fields in rows.items():
        row = dealt(known, key)
        names = sorted(KINDS[kind].fields)
        if isinstance(fields, dict) and isinstance(fields.get("changes"), dict):
            found[str(row.pk)] = {"version": row.version, "changes": _named(fields["changes"], names)}
        else:
            found[str(row.pk)] = _named(fields, names) if isinstance(fields, dict) else fields
    return found


@schema.parametrize()
@how(max_examples=DEALT, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_every_operation_answers_as_its_schema_says(case: schemathesis.Case, signed_in: dict[str, Any]):
    case.path_parameters = of_the_demo(case.path_parameters or {})
    case.body = with_known_fields(case.operation.label, case.path_parameters, case.body)
    case.call_and_validate(checks=HOLD, **signed_in)
