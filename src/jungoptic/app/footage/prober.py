"""The reader of files beside this process: begun anew when a file breaks it, or when one takes too long."""

from __future__ import annotations

import json
import os
import select
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import Any

LONGEST_S = 90.0
_LOOKS_EVERY_S = 0.5
_BROKE = "Reading it broke its reader off: it is damaged, or no file of its kind."
_TOO_LONG = "Reading it took longer than {longest_s:.0f} s and was given up: it may be damaged."
_PROBE = "jungoptic.app.footage.probe"


class GoneError(Exception):
    """The file cannot be reached any more: it was removed, or its card was pulled."""


class Prober:
    """Reads files of a card, one after another, and always says something of each."""

    def __init__(self, longest_s: float = LONGEST_S) -> None:
        self._longest_s = longest_s
        self._process: subprocess.Popen[bytes] | None = None

    def __enter__(self) -> Prober:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._end()

    def read(self, path: Path, waiting: Callable[[], None] | None = None) -> dict[str, Any]:
        """What a file says (:class:`probe.Says` as JSON), with a ``fault`` where it broke its reader.

        ``waiting`` is called now and then meanwhile; what it raises ends the reading. Raises GoneError.
        """
        process = self._process or self._begin()
        assert process.stdin and process.stdout
        try:
            process.stdin.write(json.dumps(str(path)).encode() + b"\n")
            process.stdin.flush()
            line = self._line(process, waiting)
        except (BrokenPipeError, EOFError):
            self._end()
            return {"fault": _BROKE}
        except TimeoutError:
            self._end()
            return {"fault": _TOO_LONG.format(longest_s=self._longest_s)}
        except BaseException:
            self._end()
            raise
        told: dict[str, Any] = json.loads(line)
        if "gone" in told:
            raise GoneError(told["gone"])
        return told

    def _begin(self) -> subprocess.Popen[bytes]:
        self._process = subprocess.Popen(
            [sys.executable, "-m", _PROBE],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env={**os.environ, "PYTHONPATH": os.pathsep.join(filter(None, sys.path))},
            bufsize=0,
        )
        return self._process

    def _line(self, process: subprocess.Popen[bytes], waiting: Callable[[], None] | None) -> bytes:
        assert process.stdout
        ends = time.monotonic() + self._longest_s
        line = b""
        while not line.endswith(b"\n"):
            if time.monotonic() > ends:
                raise TimeoutError
            if not select.select([process.stdout], [], [], _LOOKS_EVERY_S)[0]:
                if waiting:
                    waiting()
                continue
            piece = process.stdout.read(1 << 16)
            if not piece:
                raise EOFError
            line += piece
        return line

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            process.communicate()
