"""One's own kit measured through the application: filmed, dropped, taken into the kit, taken back."""

from __future__ import annotations

import io
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdfium2 import PdfDocument

from jungoptic.app.devices.simulated_card import Written, write_clip
from jungoptic.app.kit.models import Lens, RecordingMode
from jungoptic.app.measuring.models import Measurement
from jungoptic.app.measuring.simulated import truth_of
from jungoptic.app.shots.models import SetUp
from jungoptic.core.calibration import Asked, Board, board_seen, marks_seen
from jungoptic.core.stage import film_kit
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import Caller


def begun(caller: Caller, production: Any, kind: str, lens: str = "35 mm", **asked: Any) -> int:
    kit = caller("get", f"/productions/{production.pk}/measuring")[1]
    camera = next(each["id"] for each in kit["cameras"] if each["name"] == "Camera A")
    body = {
        "kind": kind,
        "mode_id": next(each["id"] for each in kit["modes"] if each["camera_id"] == camera),
        "lens_id": next(each["id"] for each in kit["lenses"] if each["name"] == lens),
        "lamp_id": kit["lamps"][0]["id"],
        "asked": asked,
    }
    status, made = caller("post", f"/productions/{production.pk}/measurements", body)
    assert status == 201, made
    return int(made["id"])


def simulated(caller: Caller, pk: int) -> dict[str, Any]:
    status, job = caller("post", f"/measurements/{pk}/simulated", {})
    assert status == 202 and done(job["id"]).state == "ready"
    return shown(caller, pk)


def shown(caller: Caller, pk: int) -> dict[str, Any]:
    found: dict[str, Any] = caller("get", f"/measurements/{pk}")[1]
    return found


def dropped(caller: Caller, pk: int, *files: SimpleUploadedFile, **more: Any) -> tuple[int, Any]:
    version = Measurement.objects.get(pk=pk).version
    body = {"version": version, "files": list(files), **more}
    answer = caller.client.post(f"/api/measurements/{pk}/pictures", body)
    return answer.status_code, answer.json()


def png(codes: np.ndarray[Any, Any], name: str = "still.png") -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.fromarray(codes).save(out, "PNG")
    return SimpleUploadedFile(name, out.getvalue())


def value(answer: dict[str, Any], title: str) -> float:
    text = next(each["text"] for each in answer["values"] if each["title"] == title)
    return float(text.split()[0].replace("−", "-"))


def test_a_lens_measured_goes_into_the_kit_and_everything_is_planned_with_it(supervisor, production, shot):
    pk = begun(supervisor, production, "lens")
    assert shown(supervisor, pk)["missing"] == "12 more pictures, at least."
    assert supervisor("post", f"/measurements/{pk}/accept", {})[0] == 422
    came = simulated(supervisor, pk)
    true = truth_of(Measurement.objects.get(pk=pk)).setup
    assert abs(value(came, "Focal length") / true.focal_length_mm - 1) < 0.003
    assert value(came, "Distortion at the corner") == pytest.approx(true.distortion_pct, abs=0.1)
    assert "in the frame than planned" in came["says"] and len(came["pictures"][0]["px"]) > 40
    changes = supervisor("get", f"/measurements/{pk}/effects")[1]
    mill = next(line for line in changes["lines"] if line["layer"] == "Mill 1:12")
    assert mill["planned"] != mill["really"] and changes["shots"] > 3
    before = supervisor.bench(shot)["layers"]

    assert supervisor("post", f"/measurements/{pk}/accept", {})[0] == 200
    lens = Lens.objects.get(production=production, name="35 mm")
    assert lens.focal_length_mm == value(came, "Focal length")
    again = supervisor("get", f"/measurements/{pk}/effects")[1]
    assert again["lines"] == changes["lines"]  # what it changed stays told
    assert supervisor.bench(shot)["layers"] != before
    assert supervisor("post", f"/measurements/{pk}/accept", {})[1]["problems"][0]["message"].startswith(
        "It is in the kit already"
    )
    # measured once more, the simulated camera is what it was, and the kit says so now
    other = begun(supervisor, production, "lens")
    assert simulated(supervisor, other)["says"] == "It is what it says."

    history = supervisor("get", f"/productions/{production.pk}/history")[1]["writes"]
    write = next(each["id"] for each in history if each["title"].endswith("into the kit"))
    taken = supervisor("post", f"/productions/{production.pk}/take-back", {"write": write, "key": ""})
    assert taken[0] == 200
    lens.refresh_from_db()
    assert lens.focal_length_mm == 35 and shown(supervisor, pk)["kept_at"] is None
    assert supervisor.bench(shot)["layers"] == before


def test_measured_noise_goes_into_the_kit_and_grain_is_judged_by_it(supervisor, production, shot):
    pk = begun(supervisor, production, "noise")
    came = simulated(supervisor, pk)
    mode = Measurement.objects.get(pk=pk).mode
    another = RecordingMode.objects.get(pk=mode.pk)
    another.pk, another.name, another.noise_pct, another.noise_iso = None, "Another", 0.1, 400
    another.save()
    SetUp.objects.filter(layers__shot=shot, layers__is_hero=True).update(mode=another)
    lines = supervisor("get", f"/measurements/{pk}/effects")[1]["lines"]
    mill = next(line for line in lines if line["item"] == "Grain" and line["layer"] == "Mill 1:12")
    measured = value(came, "At mid grey, of white, ISO 400")
    assert mill["planned"] == "0 ×"
    # both are read to two figures
    assert float(mill["really"].removesuffix(" ×")) == pytest.approx(measured / 0.1 - 1, abs=0.1)
    assert supervisor("post", f"/measurements/{pk}/accept", {})[0] == 200
    mode.refresh_from_db()
    assert (mode.noise_pct, mode.noise_iso) == (measured, 400)
    told = next(each for each in supervisor.bench(shot)["layers"] if each["name"] == "Mill 1:12")
    grain = next(item for item in told["items"] if item["item"] == "grain")
    assert "as both were measured" in grain["sentence"]


def test_pictures_that_are_dropped_tell_what_those_of_the_simulated_camera_do(
    supervisor, production, tmp_path
):
    pk = begun(supervisor, production, "noise")
    truth = truth_of(Measurement.objects.get(pk=pk))
    pairs = [each.frames for each in film_kit("noise", truth, Asked(), 5)]
    for number, (first, second) in enumerate(pairs):
        status, said = dropped(supervisor, pk, png(first, f"{number}a.png"), png(second, f"{number}b.png"))
        assert status == 200, said
    by_hand = value(shown(supervisor, pk), "At mid grey, of white, ISO 400")
    other = begun(supervisor, production, "noise")
    assert value(simulated(supervisor, other), "At mid grey, of white, ISO 400") == pytest.approx(
        by_hand, rel=0.05
    )
    # a clip, compressed as cameras do
    bands = begun(supervisor, production, "rows")
    truth = truth_of(Measurement.objects.get(pk=bands))
    (film,) = film_kit("rows", truth, Asked(), 5)
    path = Path(tmp_path) / "bands.mp4"
    frames = (np.repeat(frame[:, :, None], 3, 2) for frame in film.frames)
    write_clip(path, frames, Written(24.0, datetime(2027, 10, 16, tzinfo=UTC)))
    status, said = dropped(supervisor, bands, SimpleUploadedFile("bands.mp4", path.read_bytes()))
    assert status == 200, said
    assert value(shown(supervisor, bands), "Readout of the frame") == pytest.approx(
        truth.setup.readout_ms, rel=0.05
    )


def test_a_file_that_tells_nothing_says_so_and_nothing_is_kept(supervisor, production):
    pk = begun(supervisor, production, "lens")
    frame = np.full((180, 320), 128, np.uint8)
    for file, words in (
        (SimpleUploadedFile("a.png", b"no picture"), "is no picture and no film"),
        (SimpleUploadedFile("a.mp4", b"\0\0\0\x18ftypmp42" + bytes(99)), "is no picture and no film"),
        (SimpleUploadedFile("empty.jpg", b""), "is no picture and no film"),
        (png(frame), "The board is not seen"),
        (png(frame[:, :240]), "another part of the gate"),
    ):
        status, said = dropped(supervisor, pk, file)
        assert status == 422 and words in said["problems"][0]["message"], said
    assert dropped(supervisor, pk)[0] == 422
    assert shown(supervisor, pk)["pictures"] == []
    noise = begun(supervisor, production, "noise")
    assert "two photographs" in dropped(supervisor, noise, png(frame))[1]["problems"][0]["message"]
    for body, field in (
        ({"kind": "none", "mode_id": 1}, "kind"),
        ({"kind": "lens", "mode_id": 2**40}, "mode"),
        ({"kind": "noise", "mode_id": Measurement.objects.get(pk=pk).mode_id, "asked": {"iso": -1}}, "iso"),
    ):
        status, said = supervisor("post", f"/productions/{production.pk}/measurements", body)
        assert status == 422 and said["problems"][0]["field"] == field, said


def test_steps_of_a_series_are_said_and_a_picture_is_dropped(supervisor, production):
    pk = begun(supervisor, production, "curve")
    came = simulated(supervisor, pk)
    true = truth_of(Measurement.objects.get(pk=pk)).setup.headroom_stops
    assert value(came, "Highlight latitude over mid-grey") == pytest.approx(true, abs=0.2)
    grey = next(each for each in came["pictures"] if each["stops"] == 0)
    path = f"/measurements/{pk}/pictures/{grey['id']}"
    assert supervisor("patch", path, {"stops": 0.2})[0] == 200
    assert "as metered" in shown(supervisor, pk)["missing"]
    assert supervisor("patch", path, {"stops": 0, "dropped": True})[0] == 200
    assert len(shown(supervisor, pk)["pictures"]) == len(came["pictures"]) - 1


@pytest.mark.parametrize(("kind", "field"), [("rows", "readout_ms"), ("ripple", "ripple_depth")])
def test_a_recording_and_a_lamp_are_measured_into_the_kit_too(supervisor, production, kind, field):
    pk = begun(supervisor, production, kind)
    came = simulated(supervisor, pk)
    assert supervisor("post", f"/measurements/{pk}/accept", {})[0] == 200
    row = Measurement.objects.get(pk=pk)
    (kept,) = [each for each in came["values"] if each["kept"]]
    thing = row.mode if kind == "rows" else row.lamp
    assert getattr(thing, field) == float(kept["text"].split()[0])


@pytest.mark.parametrize(("name", "pages"), [("board", 1), ("marks", 2), ("disc", 1)])
def test_a_chart_is_printed_at_its_true_size(guest, name, pages):
    """The sheets, rendered by another program at a known scale, hold what is looked for, as large as it is
    said.
    """
    status, pdf = guest("get", f"/charts/{name}.pdf")
    sheets = pages_of(pdf)
    assert status == 200 and len(sheets) == pages and all("100 mm" in each.text for each in sheets)
    seen = [np.asarray(page.render(scale=100 / 72, grayscale=True).to_numpy()) for page in PdfDocument(pdf)]
    codes = [each.reshape(each.shape[:2]) for each in seen]
    if name == "board":
        board = board_seen(codes[0], Board())
        assert board is not None and len(board.px) == 70
        px, metres = (each[9] - each[0] for each in (board.px, board.metres))
        assert np.linalg.norm(px) / np.linalg.norm(metres) == pytest.approx(100 / 0.0254, rel=0.002)
    if name == "marks":
        assert marks_seen(np.hstack(codes)) is not None
    assert guest("get", "/charts/none.pdf")[0] == 422
