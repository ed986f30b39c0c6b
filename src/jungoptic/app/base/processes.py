"""Processes beside this one: forked from a server that has the application loaded, and gone when this one
is.
"""

from __future__ import annotations

import multiprocessing
import multiprocessing.connection
import os
import resource
import threading
from pathlib import Path

TOO_MUCH = "This takes more memory than reading a file may: save it smaller."
CONTEXT = multiprocessing.get_context("forkserver")
# As many work at a time as there are cores, so each multiplies matrices on one: what they are forked from
# reads this before numpy is there.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")


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


def limit_memory(more_bytes: int) -> None:
    """Called in a child: it may take so much more than it has now; beyond that Python raises MemoryError."""
    pages = int(Path("/proc/self/statm").read_text().split()[0])
    most = pages * os.sysconf("SC_PAGE_SIZE") + more_bytes
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
