"""How many requests the live server is answering: a page that is closed leaves what it asked last still running.

``LATE_ANSWERS_S=0.8 ./run test tests/browser`` holds every answer back that long after it is worked out, a reading up to that
long: what is stored is then well ahead of what is on the screen, as it is over a bad line, and what does not wait shows itself.
"""

from __future__ import annotations

import os
import random
import threading
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_change = threading.Condition()
_running = 0
LATE_S = float(os.environ.get("LATE_ANSWERS_S", "0"))


def middleware(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    def answering(request: HttpRequest) -> HttpResponse:
        global _running
        with _change:
            _running += 1
        try:
            answer = get_response(request)
            if LATE_S and request.path.startswith("/api/"):
                time.sleep(LATE_S * (random.random() if request.method == "GET" else 1))
            return answer
        finally:
            with _change:
                _running -= 1
                _change.notify_all()

    return answering


def wait_until_quiet(timeout_s: float, still_s: float = 0.1) -> bool:
    """Wait until nothing has run for still_s: a request that was sent may not have reached us yet. False after timeout_s."""
    ends = time.monotonic() + timeout_s
    with _change:
        while True:
            if not _change.wait_for(lambda: _running == 0, ends - time.monotonic()):
                return False
            if not _change.wait_for(lambda: _running > 0, still_s):
                return True
