"""Who asks for something long, and whether they still wait for it."""

from __future__ import annotations

import select
import socket

from django.http import HttpRequest

from jungoptic.app.base.turns import Asker
from jungoptic.app.people.signed_in import person

_HUNG_UP = select.POLLRDHUP | select.POLLHUP | select.POLLERR | select.POLLNVAL
_LINE = "gunicorn.socket"  # where the web server says on which line a request came


def has_hung_up(line: socket.socket) -> bool:
    """Whether the other end of a line is closed: the page was left, or somebody pressed *Stop*."""
    if line.fileno() < 0:
        return True
    looked = select.poll()
    looked.register(line, select.POLLRDHUP)
    return any(event & _HUNG_UP for _, event in looked.poll(0))


def asker(request: HttpRequest) -> Asker:
    """The person who is signed in, as whoever gives turns knows them."""
    line = request.META.get(_LINE)
    if line is None:
        return Asker(person(request).pk)
    return Asker(person(request).pk, lambda: has_hung_up(line))
