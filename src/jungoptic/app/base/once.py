"""Writes that are safe to send twice: the same key gets the same answer, and the work is done once. The
answer is worked out before anything stands: what cannot be answered is not kept.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from contextvars import ContextVar
from datetime import datetime
from functools import wraps
from typing import Any, TypeVar

from django.db import IntegrityError, transaction
from django.db.models.functions import Length
from django.http import HttpRequest, HttpResponse
from ninja.decorators import decorate_view
from ninja.utils import contribute_operation_callback

from jungoptic.app.base.models import Reply
from jungoptic.core.errors import InputError

HEADER = "Idempotency-Key"
LONGEST_KEY = 80
WRITES = {"x-writes": True}
_KEY: ContextVar[str] = ContextVar("idempotency_key", default="")
_WRITING: ContextVar[bool] = ContextVar("writing", default=False)

View = TypeVar("View", bound=Callable[..., Any])


def is_writing() -> bool:
    """Whether a write is under way. What the database refuses of it may be the same write, sent twice at
    once: that is looked after here.
    """
    return _WRITING.get()


def current_key() -> str:
    """The key of the request that is being answered; "" for one without."""
    return _KEY.get()


def writes(view: View) -> View:
    """Mark an operation (below its ``@router`` line) as one that writes: it is done once for one key, and the
    schema says so.
    """
    decorate_view(_once)(view)
    contribute_operation_callback(
        view,
        lambda operation: setattr(operation, "openapi_extra", {**(operation.openapi_extra or {}), **WRITES}),
    )
    return view


def forget_replies(before: datetime, longer_than: int = 0) -> int:
    """Forget the answers given before a time, or the long ones of them: nobody sends a write again after
    days. Returns how many.
    """
    old = Reply.objects.filter(at__lt=before).annotate(characters=Length("body"))
    return old.filter(characters__gte=longer_than).delete()[0]


def _once(run: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    operation: Any = getattr(run, "__self__", None)

    @wraps(run)
    def once(request: HttpRequest, **path: Any) -> HttpResponse:
        key = request.headers.get(HEADER, "")
        try:
            if not key or not request.user.is_authenticated:
                return _whole(lambda: run(request, **path))
            return _answer(request, key, lambda: run(request, **path))
        except (InputError, IntegrityError) as error:
            refused: HttpResponse = operation.api.on_exception(request, error)
            return refused

    return once


def _whole(work: Callable[[], HttpResponse]) -> HttpResponse:
    """The answer, with everything that was written for it, or nothing of it where it is a refusal."""
    token = _WRITING.set(True)
    try:
        with transaction.atomic():
            response = work()
            if response.status_code >= 400:
                transaction.set_rollback(True)
            return response
    finally:
        _WRITING.reset(token)


def _answer(request: HttpRequest, key: str, work: Callable[[], HttpResponse]) -> HttpResponse:
    if len(key) > LONGEST_KEY:
        raise InputError.at(HEADER, f"{HEADER} must be at most {LONGEST_KEY} characters.")
    assert request.user.pk is not None
    person_id = int(request.user.pk)
    digest = _digest_of(request)
    kept = _kept(person_id, key, digest)
    if kept:
        return kept
    token = _KEY.set(key)
    try:
        return _whole(lambda: _remembered(work(), person_id, key, digest))
    except IntegrityError:
        kept = _kept(person_id, key, digest)  # the same write came in twice at once; the other one won
        if kept:
            return kept
        raise
    finally:
        _KEY.reset(token)


def _remembered(response: HttpResponse, person_id: int, key: str, digest: str) -> HttpResponse:
    if response.status_code < 400:
        body = response.content.decode()
        Reply.objects.create(
            person_id=person_id, key=key, digest=digest, status=response.status_code, body=body
        )
    return response


def _digest_of(request: HttpRequest) -> str:
    """A sum of what is asked. Files are read in pieces, and stay to be read again."""
    summed = hashlib.sha256(f"{request.method} {request.get_full_path()}\n".encode())
    if request.content_type != "multipart/form-data":
        summed.update(request.body)
        return summed.hexdigest()
    for name, values in sorted(request.POST.lists()):
        summed.update(repr((name, values)).encode())
    for name, files in sorted(request.FILES.lists()):
        for file in files:
            summed.update(repr((name, file.name, file.size)).encode())
            for piece in file.chunks():
                summed.update(piece)
            file.seek(0)
    return summed.hexdigest()


def _kept(person_id: int, key: str, digest: str) -> HttpResponse | None:
    reply = Reply.objects.filter(person_id=person_id, key=key).first()
    if reply is None:
        return None
    if reply.digest != digest:
        raise InputError.at(
            HEADER, "This key was used for another write. Send the new one with a key of its own."
        )
    return HttpResponse(reply.body, status=reply.status, content_type="application/json; charset=utf-8")
