"""How many requests the live server is answering: a page that is closed leaves what it asked last still running."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_change = threading.Condition()
_running = 0


def middleware(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    def answer(request: HttpRequest) -> HttpResponse:
        global _running
        with _change:
            _running += 1
        try:
            return get_response(request)
        finally:
            with _change:
                _running -= 1
                _change.notify_all()

    return answer


def wait_until_quiet(timeout_s: float, still_s: float = 0.1) -> bool:
    """Wait until nothing has run for still_s: a request that was sent may not have reached us yet. False after timeout_s."""
    ends = time.monotonic() + timeout_s
    with _change:
        while True:
            if not _change.wait_for(lambda: _running == 0, ends - time.monotonic()):
                return False
            if not _change.wait_for(lambda: _running > 0, still_s):
                return True
