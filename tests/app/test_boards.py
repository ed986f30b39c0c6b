"""Boards: pictures and PDFs opened in limits, given to shots, shown."""

from __future__ import annotations

import io

import pypdfium2
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image, ImageFile

from jungoptic.app.base.desk import FILES
from jungoptic.app.base.turns import Asker
from jungoptic.app.boards import jobs
from jungoptic.app.boards import reading as boards
from jungoptic.app.boards.models import Board
from jungoptic.app.exchange.edit_list import read_otio, write_otio
from jungoptic.core.errors import InputError
from tests.jobs import done
from tests.wall import wall_line

from .conftest import Caller

# --- boards


def picture(kind: str, size: tuple[int, int] = (320, 180), mode: str = "RGB") -> bytes:
    out = io.BytesIO()
    Image.new(mode, size, "#808080").save(out, kind)
    return out.getvalue()


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF"])
def test_a_board_is_read_by_what_it_contains(kind):
    found = list(boards.pictures("whatever.bin", picture(kind)))
    assert len(found) == 1 and (found[0].width_px, found[0].height_px) == (320, 180)
    assert Image.open(io.BytesIO(found[0].data)).format == "JPEG"


def test_pages_of_a_pdf_and_of_a_tiff_are_boards_each():
    document = pypdfium2.PdfDocument.new()
    for _ in range(3):
        document.new_page(480, 270)
    out = io.BytesIO()
    document.save(out)
    pages = list(boards.pictures("boards.pdf", out.getvalue()))
    assert [page.name for page in pages] == ["boards.pdf, page 1", "boards.pdf, page 2", "boards.pdf, page 3"]
    assert pages[0].width_px == boards.KEPT_PX and pages[0].height_px == boards.KEPT_PX * 270 // 480
    extra = Image.new("L", (320, 180), 40)
    out = io.BytesIO()
    Image.new("L", (320, 180), 200).save(out, "TIFF", save_all=True, append_images=[extra])
    assert len(list(boards.pictures("two.tif", out.getvalue()))) == 2


def test_a_deep_grey_tiff_keeps_its_tones_and_a_transparent_png_lies_on_white():
    out = io.BytesIO()
    Image.new("I;16", (8, 8), 32896).save(out, "TIFF")
    shown = Image.open(io.BytesIO(next(iter(boards.pictures("deep.tif", out.getvalue()))).data))
    assert shown.getpixel((4, 4))[0] == pytest.approx(128, abs=2)
    out = io.BytesIO()
    Image.new("RGBA", (8, 8), (0, 0, 0, 0)).save(out, "PNG")
    shown = Image.open(io.BytesIO(next(iter(boards.pictures("clear.png", out.getvalue()))).data))
    assert min(shown.getpixel((4, 4))) > 250


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"GIF89a" + b"\x00" * 40, "could not be read"),
        (picture("PNG")[:60], "could not be read"),
        (b"%PDF-1.7 nothing", "could not be opened as a PDF"),
        (b"", "could not be read"),
        (picture("PNG", (9100, 8900), "1"), "megapixels"),
        (picture("PNG", (12000, 8000), "1"), "megapixels"),
    ],
    ids=["another kind", "cut short", "a broken PDF", "empty", "large", "a bomb"],
)
def test_what_is_no_board_is_refused_with_its_name(data, said, monkeypatch):
    monkeypatch.setattr(ImageFile, "LOAD_TRUNCATED_IMAGES", True)  # as the PDF maker leaves it in the process
    with pytest.raises(InputError) as refused:
        list(boards.pictures("sketch.png", data))
    assert said in refused.value.problems[0].message and "sketch.png" in refused.value.problems[0].message


def test_boards_find_their_shots_by_name_and_else_by_order(
    supervisor: Caller, production, shot, monkeypatch: pytest.MonkeyPatch
):
    Board.objects.filter(shot__production=production).exclude(shot__code="TM010").update(current=False)

    def send(*names: str, **damaged: bytes):
        files = [SimpleUploadedFile(name, picture("PNG")) for name in names]
        files += [SimpleUploadedFile(f"{name}.png", data) for name, data in damaged.items()]
        answer = supervisor.client.post(
            f"/api/productions/{production.pk}/boards", {"version": production.version, "files": files}
        )
        said = answer.json()
        if answer.status_code != 202:
            return answer.status_code, said["problems"][0]["message"]
        job = done(said["id"])
        return job.state, job.message

    assert send("board_tm040_v2.png", "loose.png", "tm-010.png") == (
        "ready",
        "3 boards placed: board_tm040_v2.png → TM040, tm-010.png → TM010, loose.png → TM020.",
    )
    assert supervisor("get", f"/productions/{production.pk}/history")[1]["writes"][0]["title"] == (
        "Boards out of 3 files"
    )
    # the board before is kept and no longer shown
    assert (
        Board.objects.filter(shot=shot).count() == 2
        and Board.objects.filter(shot=shot, current=True).count() == 1
    )
    state, said = send(*(f"loose {n}.png" for n in range(30)))
    assert state == "failed" and "30 pictures name no shot and 9 shots have no board" in said
    status, said = send("tm050.png", broken=b"x")
    assert status == 422 and "“broken.png” could not be read" in said, "what is no picture is refused at once"
    state, said = send("tm050.png", broken=picture("PNG")[:60])
    assert state == "failed" and "“broken.png” could not be read" in said
    assert not Board.objects.filter(shot__code="TM050", current=True).exists(), "all or nothing"
    monkeypatch.setattr(jobs, "MOST_PICTURES", 2)
    assert send("tm050.png", "tm060.png", "tm070.png")[1].startswith("These are more than 2 pictures")
    assert (
        supervisor.client.post(
            f"/api/productions/{production.pk}/boards", {"version": production.version}
        ).status_code
        == 422
    )


def test_the_largest_picture_is_read_in_the_memory_that_a_file_may_take():
    data = picture("PNG", (8900, 8900), "RGBA")
    read, view_deg = FILES.run(Asker(1), boards.first_with_its_view, "large.png", data)
    assert (read.came_px, max(read.width_px, read.height_px), view_deg) == (
        (8900, 8900),
        boards.KEPT_PX,
        None,
    )


def test_one_board_up_shown_and_taken_down(
    supervisor: Caller, guest: Caller, stranger: Caller, production, shot
):
    given = SimpleUploadedFile("a.jpg", picture("JPEG", (1600, 900)))
    answer = supervisor.client.post(f"/api/shots/{shot.pk}/board", {"version": shot.version, "file": given})
    made = answer.json()
    assert (answer.status_code, made["width_px"]) == (200, 1600)
    small = guest("get", f"/boards/{made['id']}.jpg?width=400")[1]
    assert Image.open(io.BytesIO(small)).size == (400, 225)
    assert stranger("get", f"/boards/{made['id']}.jpg")[0] == 404
    assert supervisor("get", f"/shots/{shot.pk}/plan")[1]["board"]["id"] == made["id"]
    assert supervisor("delete", f"/shots/{shot.pk}/board")[0] == 200
    assert supervisor("get", f"/shots/{shot.pk}/plan")[1]["board"] is None
    assert Image.open(io.BytesIO(guest("get", f"/shots/{shot.pk}/small.jpg")[1])).size == (400, 225)


def test_a_timeline_s_writer_takes_any_line():
    assert read_otio(write_otio("p", 25, [wall_line(length_frames=5)]), 25).candidates[0].length_frames == 5
