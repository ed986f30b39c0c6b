"""The API, put together from the rooms; and how it says no."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import SuspiciousOperation
from django.db import IntegrityError, InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse
from django.http.request import RawPostDataException
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError
from numpy.linalg import LinAlgError
from pydantic import ValidationError as RecordError
from shapely.errors import ShapelyError

from jungoptic.app.base import once, refused
from jungoptic.app.base.desk import TooLongError
from jungoptic.app.base.edits import ConflictError
from jungoptic.app.base.parsing import ONLY_JSON, BodyParser
from jungoptic.app.base.turns import BusyError, GoneError
from jungoptic.app.bench import api as bench
from jungoptic.app.boards import api as boards
from jungoptic.app.breakdown import api as breakdown
from jungoptic.app.builds import api as builds
from jungoptic.app.calculations import api as calculations
from jungoptic.app.costs import api as costs
from jungoptic.app.days import api as days
from jungoptic.app.exchange import api as exchange
from jungoptic.app.files import api as files
from jungoptic.app.files.models import LostFileError
from jungoptic.app.films import api as films
from jungoptic.app.footage import api as footage
from jungoptic.app.frames import api as frames
from jungoptic.app.frames import building, cheats_api, clips_api, hyper_api, points_api
from jungoptic.app.history import api as history
from jungoptic.app.jobs import api as jobs
from jungoptic.app.kit import api as kit
from jungoptic.app.lan import api as lan
from jungoptic.app.line_up import api as line_up
from jungoptic.app.looks import api as looks
from jungoptic.app.measuring import api as measuring
from jungoptic.app.moving import api as moving
from jungoptic.app.papers import api as papers
from jungoptic.app.people import api as people
from jungoptic.app.people.doors import KnockedTooOftenError
from jungoptic.app.people.signed_in import OtherPersonError, SignedIn
from jungoptic.app.photographs import api as photographs
from jungoptic.app.places import api as places
from jungoptic.app.productions import api as productions
from jungoptic.app.productions import people_api
from jungoptic.app.recipes import api as recipes
from jungoptic.app.rushes import api as rushes
from jungoptic.app.safety import api as safety
from jungoptic.app.shelf import api as shelf
from jungoptic.app.stills import api as stills
from jungoptic.app.stock import api as stock
from jungoptic.app.takes import api as takes
from jungoptic.app.vocabulary import api as vocabulary
from jungoptic.core.errors import FieldProblem, InputError, readable

logger = logging.getLogger(__name__)
ANSWER = "NinjaResponseSchema"  # what the framework calls the record of an answer
ROOMS = (
    people,
    productions,
    people_api,
    lan,
    films,
    photographs,
    kit,
    shelf,
    history,
    bench,
    takes,
    footage,
    measuring,
    stills,
    frames,
    points_api,
    hyper_api,
    clips_api,
    cheats_api,
    building,
    line_up,
    boards,
    looks,
    recipes,
    breakdown,
    costs,
    safety,
    stock,
    places,
    builds,
    days,
    rushes,
    exchange,
    moving,
    papers,
    jobs,
    files,
    calculations,
    vocabulary,
)


class Api(NinjaAPI):
    def get_openapi_schema(self, **how: Any) -> Any:
        """The schema, with what every operation may answer when it says no."""
        schema = super().get_openapi_schema(**how)
        refused = {
            "description": "What is wrong, and where",
            "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Problems"}}},
        }
        for operations in schema["paths"].values():
            for operation in operations.values():
                operation["responses"].setdefault("4XX", refused)
        return schema


api = Api(
    title="Jungoptic", version="1", auth=SignedIn(), docs_url=None, urls_namespace="api", parser=BodyParser()
)
for _room in ROOMS:
    api.add_router("", _room.router)


def _problems(request: HttpRequest, status: int, problems: tuple[FieldProblem, ...]) -> HttpResponse:
    return api.create_response(
        request, {"problems": [{"field": p.field, "message": p.message} for p in problems]}, status=status
    )


@api.exception_handler(InputError)
def _input_error(request: HttpRequest, error: InputError) -> HttpResponse:
    return _problems(request, 422, error.problems)


@api.exception_handler(OtherPersonError)
def _other_person(request: HttpRequest, error: OtherPersonError) -> HttpResponse:
    return _problems(request, 401, (FieldProblem("person", str(error)),))


def _later(request: HttpRequest, wait_s: int, *problems: FieldProblem) -> HttpResponse:
    answer = _problems(request, 429, problems)
    answer["Retry-After"] = str(wait_s)
    return answer


@api.exception_handler(KnockedTooOftenError)
def _knocked(request: HttpRequest, error: KnockedTooOftenError) -> HttpResponse:
    return _later(request, error.wait_s, *error.problems)


@api.exception_handler(BusyError)
def _busy(request: HttpRequest, error: BusyError) -> HttpResponse:
    return _later(request, error.wait_s, FieldProblem("", str(error)))


@api.exception_handler(GoneError)
def _gone(request: HttpRequest, error: GoneError) -> HttpResponse:
    return _problems(request, 408, (FieldProblem("", "Stopped: nobody waits for the answer."),))


@api.exception_handler(ConflictError)
def _conflict(request: HttpRequest, error: ConflictError) -> HttpResponse:
    return _problems(request, 409, (FieldProblem("version", str(error)),))


@api.exception_handler(TooLongError)
def _too_long(request: HttpRequest, error: TooLongError) -> HttpResponse:
    return _problems(request, 422, (FieldProblem("", str(error)),))


@api.exception_handler(LostFileError)
def _lost_file(request: HttpRequest, error: LostFileError) -> HttpResponse:
    return _problems(request, 404, (FieldProblem("", str(error)),))


@api.exception_handler(HttpError)
def _http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
    cause = error.__cause__  # found while the body was read
    if isinstance(cause, InputError):
        return _problems(request, 422, cause.problems)
    said = cause if isinstance(cause, HttpError) else error
    return _problems(request, said.status_code, (FieldProblem("", str(said)),))


def _beyond_numbers(request: HttpRequest, error: Any) -> HttpResponse:
    """Arithmetic that leads out of the numbers: the fields that were sent are at fault, or what stands."""
    logger.error("%s %s", request.method, request.path, exc_info=error)
    return _problems(request, 422, refused.beyond_numbers(request))


for _kind in (ArithmeticError, ShapelyError, LinAlgError):
    api.add_exception_handler(_kind, _beyond_numbers)


@api.exception_handler(IntegrityError)
def _taken(request: HttpRequest, error: IntegrityError) -> HttpResponse:
    if once.is_writing():
        raise error
    logger.warning("%s %s: %s", request.method, request.path, error)
    return _problems(request, 409, refused.taken(error))


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
def _no_database(request: HttpRequest, error: Any) -> HttpResponse:
    logger.error("%s %s: %s", request.method, request.path, error)
    return refused.away(request)


@api.exception_handler(RawPostDataException)
def _form_for_json(request: HttpRequest, error: RawPostDataException) -> HttpResponse:
    return _problems(request, 415, (FieldProblem("", ONLY_JSON),))


@api.exception_handler(SuspiciousOperation)
def _suspicious(request: HttpRequest, error: SuspiciousOperation) -> HttpResponse:
    return refused.bad_request(request, error)


@api.exception_handler(RecordError)
def _record_error(request: HttpRequest, error: RecordError) -> HttpResponse:
    """A value that is in its own limits, and out of those of what it is made into. An answer that is not as
    its schema says is our fault, and nobody's who asks.
    """
    if error.title == ANSWER:
        raise error
    return _problems(request, 422, readable(error).problems)


@api.exception_handler(ValidationError)
def _validation_error(request: HttpRequest, error: ValidationError) -> HttpResponse:
    problems = []
    for one in error.errors:
        field = ".".join(str(step) for step in one["loc"] if step not in ("body", "payload", "query", "path"))
        refused = one.get("ctx", {}) if one["type"] == "refused" else {}  # by a record of core, at its field
        if refused:
            at = ".".join(each for each in (field, str(refused["field"])) if each)
            problems.append(FieldProblem(at, str(refused["message"])))
        else:
            problems.append(FieldProblem(field, f"{field or 'The request'}: {one['msg'].lower()}."))
    return _problems(request, 422, tuple(problems))
