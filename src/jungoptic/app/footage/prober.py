"""What the files of a card say of themselves, read beside this process."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from jungoptic.app.base.readers import LONGEST_S, Reader


class Prober(Reader):
    """Reads files of a card, one after another, and always says something of each."""

    def __init__(self) -> None:
        super().__init__("jungoptic.app.footage.probe", LONGEST_S)

    def read(self, path: Path, waiting: Callable[[], None] | None = None) -> dict[str, Any]:
        """What a file says (:class:`probe.Says` as JSON), with a ``fault`` where it broke its reader.

        ``waiting`` is called now and then meanwhile; what it raises ends the reading. Raises GoneError.
        """
        return self.ask(str(path), (lambda _: waiting()) if waiting else None)
