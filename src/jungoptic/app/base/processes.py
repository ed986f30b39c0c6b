"""Processes beside this one: forked from a server that has the application loaded, and gone when this one
is.
"""

from __future__ import annotations

import multiprocessing
import multiprocessing.connection
import os
import threading

CONTEXT = multiprocessing.get_context("forkserver")


def die_with_parent() -> None:
    """Called in a child: it ends at once when the process that asked for it is gone, also when that was
    killed.
    """
    parent = multiprocessing.parent_process()
    assert parent is not None

    def watch() -> None:
        multiprocessing.connection.wait([parent.sentinel])
        os._exit(1)

    threading.Thread(target=watch, daemon=True, name="dies with its parent").start()
