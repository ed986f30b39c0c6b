"""Answers that come late, or not before a test lets them.

``LATE_ANSWERS_S=0.8 ./run test browser`` holds every answer back that long after it is worked out, a reading
up to that long: what is stored is then well ahead of what is on the screen, as it is over a bad line, and
what does not wait shows itself. A single test holds back what it is about: ``with held("/changes"): …``.
"""

from __future__ import annotations

import os
import random
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.http import HttpRequest, HttpResponse

LATE_S = float(os.environ.get("LATE_ANSWERS_S", "0"))
LONGEST_HELD_S = 60.0  # a test that died must not leave a thread behind for ever
_held: list[tuple[str, threading.Event]] = []


def middleware(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    def answering(request: HttpRequest) -> HttpResponse:
        answer = get_response(request)
        if LATE_S and request.path.startswith("/api/"):
            time.sleep(LATE_S * (random.random() if request.method == "GET" else 1))
        for part, let_go in list(_held):
            if part in request.path:
                let_go.wait(LONGEST_HELD_S)
        return answer

    return answering


@contextmanager
def held(part: str) -> Iterator[None]:
    """What is asked at an address with this in it is worked out and stored, but nobody hears of it before the
    block ends.
    """
    one = (part, threading.Event())
    _held.append(one)
    try:
        yield
    finally:
        _held.remove(one)
        one[1].set()
