"""Taking frames out as a job: pictures, an edit and a table in one ZIP."""

from __future__ import annotations

from tempfile import TemporaryFile

from django.utils.text import slugify
from pydantic import BaseModel

from jungoptic.app.frames.taking_out import Format, Line, Sheet, pack
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running

_ZIP = frozenset({"application/zip"})
_MEMORY_BYTES = 2_000_000_000


class TakingOut(BaseModel):
    """Which sheet, as what, and whether a picture stands for every frame of the shot."""

    sheet: int
    format: Format = "png"
    expanded: bool = True


@job_kind("frames", TakingOut, queue="heavy", longest_s=3600.0, memory_bytes=_MEMORY_BYTES)
def frames_out(running: Running, how: TakingOut) -> None:
    """The photographed frames of a sheet."""
    from jungoptic.app.files.keeping import room_bytes

    sheet = sheet_out(how.sheet)
    with TemporaryFile() as target:
        pack(sheet, how.format, how.expanded, target, lambda done: running.advance(0.95 * done), room_bytes)
        target.seek(0)
        ends = "frames" if how.expanded else "poses"
        running.finish(running.keep(f"{sheet.name}-{how.format}-{ends}.zip", target, _ZIP))


def sheet_out(sheet_id: int) -> Sheet:
    """A sheet as it goes out."""
    from jungoptic.app.frames.cheats import cheat_rows
    from jungoptic.app.frames.desks import desk_of
    from jungoptic.app.frames.models import COLUMNS, in_place
    from jungoptic.app.frames.reading import sheet_with_everything
    from jungoptic.core.frames import blocks_of, first_frames

    row = sheet_with_everything(sheet_id)
    poses = in_place(row.poses.all())
    begins = first_frames([pose.hold for pose in poses])
    blocks = blocks_of([pose.begins_block for pose in poses])
    folders = [f"pass{number}_{slugify(name)}" for number, name in enumerate(row.passes, 1)]
    lines = []
    for pose, frame, block in zip(poses, begins, blocks, strict=True):
        by_pass = {each.light_pass: each for each in pose.exposures.all() if each.chosen}
        shown = by_pass.pop(0, None)
        taken = ("", "", "")
        if shown is not None:
            said = " ".join(each["text"] for each in (shown.watched or {}).get("warnings", ()))
            taken = (f"{shown.taken_at:%Y-%m-%d %H:%M:%S}", shown.person.shown_name, said)
        lines.append(
            Line(
                place=pose.place,
                frame=frame,
                hold=pose.hold,
                key=pose.key,
                block=block,
                written=tuple(getattr(pose, column) for column in COLUMNS),
                taken=taken,
                read=shown.file.read if shown else None,
                more={folders[number]: each.file.read for number, each in by_pass.items()},
            )
        )
    shot = row.layer.shot
    name = f"{shot.code}_{slugify(row.layer.name) or row.layer_id}"
    desk = desk_of(shot.pk, row.layer_id, (shot.revision, shot.production.revision))
    return Sheet(name, float(shot.production.frame_rate_fps), lines, cheat_rows(row, desk))
