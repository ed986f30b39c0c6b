"""Writes that are safe to send twice: the same key gets the same answer, and the work is done once."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from typing import Any

from django.db import IntegrityError, transaction
from django.http import HttpRequest

from jungoptic.app.base.models import Reply
from jungoptic.core.errors import InputError

HEADER = "Idempotency-Key"
LONGEST_KEY = 80


def access_id(request: HttpRequest) -> int:
    assert request.user.pk is not None  # the API refuses anybody who is not signed in
    return int(request.user.pk)


def once(request: HttpRequest, work: Callable[[], tuple[int, Any]]) -> tuple[int, Any]:
    """Do ``work`` (returns status and a JSON body) at most once for the request's key; a repeat gets the kept answer."""
    key = request.headers.get(HEADER, "")
    if not key:
        return work()
    if len(key) > LONGEST_KEY:
        raise InputError.at(HEADER, f"{HEADER} must be at most {LONGEST_KEY} characters.")
    person_id = access_id(request)
    digest = hashlib.sha256(f"{request.method} {request.path}\n".encode() + request.body).hexdigest()
    kept = _kept(person_id, key, digest)
    if kept:
        return kept
    try:
        with transaction.atomic():
            status, body = work()
            Reply.objects.create(person_id=person_id, key=key, digest=digest, status=status, body=body)
            return status, body
    except IntegrityError:
        kept = _kept(person_id, key, digest)  # the same write came in twice at once; the other one won
        if kept:
            return kept
        raise


def _kept(person_id: int, key: str, digest: str) -> tuple[int, Any] | None:
    reply = Reply.objects.filter(person_id=person_id, key=key).first()
    if reply is None:
        return None
    if reply.digest != digest:
        raise InputError.at(HEADER, "This key was used for another write. Send the new one with a key of its own.")
    return reply.status, reply.body
