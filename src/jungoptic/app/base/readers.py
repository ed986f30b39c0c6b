"""A reader of files beside this process: begun anew when a file breaks it, or when it says nothing too long.

It is a module that reads what it is asked a line (JSON) and writes lines: how far it is as ``{"at": share}``,
as often as it likes, and at last its answer.
"""

from __future__ import annotations

import json
import os
import resource
import select
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from types import TracebackType
from typing import Any, Self

LONGEST_S = 90.0
_LOOKS_EVERY_S = 0.5
_PARENT_EVERY_S = 0.5
_BROKE = "Reading it broke its reader off: it is damaged, or no file of its kind."
_TOO_LONG = "Reading it took longer than {longest_s:.0f} s and was given up: it may be damaged."
_TOO_MUCH = "Reading it takes more memory than a file may."


class GoneError(Exception):
    """The file cannot be reached any more: it was removed, or its card was pulled."""


class Reader:
    """Asks a module about one file after another, and always has an answer to each."""

    def __init__(self, module: str, longest_s: float = LONGEST_S) -> None:
        self._module, self._longest_s = module, longest_s
        self._process: subprocess.Popen[bytes] | None = None
        self._pieces = b""

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._end()

    def ask(self, what: Any, waiting: Callable[[float], None] | None = None) -> dict[str, Any]:
        """The answer, with a ``fault`` where it broke its reader.

        ``waiting`` is called now and then meanwhile with how far it is; what it raises ends the reading.
        Raises GoneError.
        """
        process = self._process or self._begin()
        assert process.stdin and process.stdout
        try:
            process.stdin.write(json.dumps(what).encode() + b"\n")
            process.stdin.flush()
            told = self._answer(process, waiting)
        except (BrokenPipeError, EOFError):
            self._end()
            return {"fault": _BROKE}
        except TimeoutError:
            self._end()
            return {"fault": _TOO_LONG.format(longest_s=self._longest_s)}
        except BaseException:
            self._end()
            raise
        if "gone" in told:
            raise GoneError(told["gone"])
        return told

    def _begin(self) -> subprocess.Popen[bytes]:
        self._pieces = b""
        self._process = subprocess.Popen(
            [sys.executable, "-m", self._module],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env={**os.environ, "PYTHONPATH": os.pathsep.join(filter(None, sys.path))},
            bufsize=0,
        )
        return self._process

    def _answer(
        self, process: subprocess.Popen[bytes], waiting: Callable[[float], None] | None
    ) -> dict[str, Any]:
        share = 0.0
        while True:
            told: dict[str, Any] = json.loads(self._line(process, share, waiting))
            if "at" not in told:
                return told
            share = float(told["at"])
            if waiting:
                waiting(share)

    def _line(
        self, process: subprocess.Popen[bytes], share: float, waiting: Callable[[float], None] | None
    ) -> bytes:
        assert process.stdout
        ends = time.monotonic() + self._longest_s
        while b"\n" not in self._pieces:
            if time.monotonic() > ends:
                raise TimeoutError
            if not select.select([process.stdout], [], [], _LOOKS_EVERY_S)[0]:
                if waiting:
                    waiting(share)
                continue
            piece = process.stdout.read(1 << 16)
            if not piece:
                raise EOFError
            self._pieces += piece
        line, _, self._pieces = self._pieces.partition(b"\n")
        return line

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            process.communicate()


def answer_all(answer: Callable[[Any], dict[str, Any]], memory_bytes: int) -> None:
    """What such a module does: answer until nobody asks any more, in no more memory than it is given.

    The log of av stays off, as it comes: with any level set, a thread that decodes waits to log for whoever
    closes its file and waits for it.
    """
    resource.setrlimit(resource.RLIMIT_AS, (memory_bytes, memory_bytes))
    threading.Thread(target=_end_with, args=(os.getppid(),), daemon=True).start()
    for line in sys.stdin:
        try:
            told = answer(json.loads(line))
        except OSError as error:
            told = {"gone": str(error.strerror or error)}
        except MemoryError:
            told = {"fault": _TOO_MUCH}
        tell(told)


def tell(told: dict[str, Any]) -> None:
    """Write a line to whoever asked."""
    print(json.dumps(told), flush=True)


def _end_with(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(_PARENT_EVERY_S)
    os._exit(1)
