"""Papers over the wire."""

from __future__ import annotations

from datetime import date

from jungoptic.app.base.schemas import Seen
from jungoptic.app.papers.jobs import Printing


class PaperIn(Printing, Seen):
    """``version`` is that of the shot, of the production for the book."""


class CallSheetIn(PaperIn):
    """The day that is called for; ``version`` is the production's."""

    day: date
