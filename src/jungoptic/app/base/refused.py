"""How Django's own refusals are answered: to the page as it understands them, a problem with a sentence."""

from __future__ import annotations

import json
import sys
from typing import Any

from django.core.exceptions import DisallowedHost, RequestDataTooBig
from django.db import IntegrityError, InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.request import RawPostDataException

from jungoptic.core.errors import FieldProblem

TOO_LARGE = "This is more than can be sent at once: send it in parts."
AWAY = "The database is away and is being started again. What you typed is still here: it is sent by itself."
MOST_FIELDS = 12
_NOT_REASONS = {"", "version", "selected", "frame", "layer_id", "shown"}
BROKEN = (
    "Something went wrong on the server. What you typed is still here: try again, and if it fails again, tell"
    " whoever runs it."
)


def _said(request: HttpRequest, status: int, message: str) -> HttpResponse:
    if request.path.startswith("/api/"):
        return JsonResponse({"problems": [{"field": "", "message": message}]}, status=status)
    return HttpResponse(message, status=status, content_type="text/plain; charset=utf-8")


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """A request that is none: too large, for another host, with a damaged form."""
    if isinstance(exception, RequestDataTooBig):
        return _said(request, 413, TOO_LARGE)
    if isinstance(exception, DisallowedHost):
        return _said(request, 400, "This server does not answer under that name.")
    return _said(request, 400, "This request cannot be read: load the page again, and try again.")


def forbidden(request: HttpRequest, exception: Exception) -> HttpResponse:
    """A page of somebody else's."""
    return _said(request, 403, "This was not sent from our own page: load the page again.")


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """No such address."""
    return _said(request, 404, "There is no such thing here, or it is not yours to see.")


def away(request: HttpRequest) -> HttpResponse:
    """The database does not answer: the page asks again by itself."""
    answer = _said(request, 503, AWAY)
    answer["Retry-After"] = "2"
    return answer


def taken(error: IntegrityError) -> tuple[FieldProblem, ...]:
    """What to say where two wrote the same at the same moment and the database let one of them."""
    name = getattr(getattr(error.__cause__, "diag", None), "constraint_name", None) or ""
    for ending, field in (("_of_a_name", "name"), ("_of_a_code", "code")):
        if name.endswith(ending):
            return (FieldProblem(field, f"Somebody used this {field} at the same moment: choose another."),)
    return (FieldProblem("", "Somebody wrote the same at the same moment. Load the page again, then save."),)


def broken(request: HttpRequest) -> HttpResponse:
    """Something that nobody foresaw, or a database that is away."""
    if isinstance(sys.exc_info()[1], OperationalError | InterfaceError):
        return away(request)
    return _said(request, 500, BROKEN)


def beyond_numbers(request: HttpRequest) -> tuple[FieldProblem, ...]:
    """What to say where arithmetic leads out of the numbers: at each field that was sent."""
    fields = _numbers_sent(request)
    if not fields:
        why = (
            "What stands here leads out of the numbers, so that it cannot be shown. Take its last change back"
            " in the history."
        )
        return (FieldProblem("", why),)
    says = "With this, nothing can be reckoned any more: choose a value nearer to what is usual."
    return tuple(FieldProblem(field, says) for field in fields[:MOST_FIELDS])


def _numbers_sent(request: HttpRequest) -> list[str]:
    """The fields of the body that hold a number, by the last step of where they stand."""
    try:
        waiting: list[tuple[str, Any]] = [("", json.loads(request.body))]
    except (ValueError, RawPostDataException):
        return []
    found: dict[str, None] = {}
    while waiting:
        field, value = waiting.pop(0)
        if isinstance(value, dict):
            waiting.extend(value.items())
        elif isinstance(value, list):
            waiting.extend((field, one) for one in value)
        elif isinstance(value, int | float) and not isinstance(value, bool) and field not in _NOT_REASONS:
            found.setdefault(field)
    return list(found)
