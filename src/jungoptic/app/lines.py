"""The lines that a web server's processes keep open between two answers (a configuration of Gunicorn)."""

from __future__ import annotations

from typing import Any

MOST_IDLE = 2


def post_worker_init(worker: Any) -> None:
    """Keep few idle lines in each process: the next question on any other begins a line, and whichever
    process is free takes it. Kept lines stay where they began: of eight hands seven may have come to one.
    """
    worker.max_keepalived = MOST_IDLE
