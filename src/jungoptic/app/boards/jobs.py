"""Many boards at once, as a job: kept as they came, read one after the other, placed all together."""

from __future__ import annotations

from pydantic import BaseModel

from jungoptic.app.base.desk import MEMORY_BYTES
from jungoptic.app.boards import keeping
from jungoptic.app.boards.reading import Picture, pictures
from jungoptic.app.files.models import StoredFile
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import WRITES
from jungoptic.app.productions.writing import in_production
from jungoptic.core.errors import InputError

MOST_PICTURES = 300  # as they are kept, together
SAID = 12


class Came(BaseModel):
    """One file as it was given."""

    name: str
    file: int


class Given(BaseModel):
    """The files, in the order in which they were given."""

    files: list[Came]


@job_kind("boards", Given, queue="heavy", longest_s=300.0, memory_bytes=MEMORY_BYTES, asks=WRITES)
def boards(running: Running, given: Given) -> None:
    """Read every picture of every file and give each to its shot, or say why none of them was."""
    found: list[Picture] = []
    for number, came in enumerate(given.files):
        running.advance(number / len(given.files), at=f"“{came.name}”")
        for picture in pictures(came.name, StoredFile.objects.get(pk=came.file).read()):
            found.append(picture)
            if len(found) > MOST_PICTURES:
                raise InputError.at(
                    "files", f"These are more than {MOST_PICTURES} pictures: give them in parts."
                )
            running.advance(number / len(given.files), at=f"“{picture.name}”")
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title = running.job.title
        placed = keeping.match(write, found)
        running.finish(message=_said(placed))


def _said(placed: list[tuple[str, str]]) -> str:
    where = ", ".join(f"{name} → {code}" for name, code in placed[:SAID])
    more = f" and {len(placed) - SAID} more" if len(placed) > SAID else ""
    return f"{len(placed)} board{'' if len(placed) == 1 else 's'} placed: {where}{more}."
