"""Hostile and unusual files looked at in one job by the real reader: a word at each, the rest measured."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
import pytest

from jungoptic.app.rushes.models import Rush
from tests.core.filmed import laid, noised, photograph, write
from tests.jobs import done

from .test_measure_files import png_that_claims
from .test_rushes_come import card, filed, looked_at  # noqa: F401

SIZE = (320, 180)


def frames(count: int, size: tuple[int, int] = SIZE) -> list[np.ndarray]:
    """A place that stands still, 8-bit codes."""
    light = 0.5 * laid(photograph("coffee"))
    codes = np.uint8(255 * np.clip(light, 0, 1) ** (1 / 2.2))
    whole = cv2.resize(codes, size, interpolation=cv2.INTER_AREA)
    dice = np.random.default_rng(3)
    return [np.uint8(np.clip(whole + dice.normal(0, 2, whole.shape), 0, 255)) for _ in range(count)]


def clip(
    path: Path,
    pictures: list[np.ndarray],
    *,
    codec: str = "libx264",
    pixels: str = "yuv420p",
    times: list[int] | None = None,
    format: str = "rgb24",
    **options: str,
) -> None:
    """A film; ``times`` are those of its frames, thousandths of a second."""
    with av.open(str(path), "w", options={"movflags": "faststart"}) as container:
        stream = container.add_stream(codec, rate=24)
        stream.height, stream.width = pictures[0].shape[:2]
        stream.pix_fmt, stream.options = pixels, options
        if times is not None:
            stream.codec_context.time_base = Fraction(1, 1000)
        for nth, picture in enumerate(pictures):
            frame = av.VideoFrame.from_ndarray(picture, format=format)
            if times is not None:
                frame.pts, frame.time_base = times[nth], Fraction(1, 1000)
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


def sound_only(path: Path) -> None:
    with av.open(str(path), "w") as container:
        stream = container.add_stream("aac", rate=48000)
        frame = av.AudioFrame.from_ndarray(np.zeros((1, 1024), np.float32), format="fltp", layout="mono")
        frame.sample_rate = 48000
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


def nothing_in_it(path: Path) -> None:
    """A container with a track of pictures and no picture."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=24)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        container.start_encoding()


def made(folder: Path) -> dict[str, str]:
    """Files with a word of what is wrong with each; "" where nothing is."""
    few = frames(8)
    clip(folder / "whole.mp4", few)
    whole = (folder / "whole.mp4").read_bytes()
    clip(folder / "streamed.mp4", frames(40), g="6")
    streamed = (folder / "streamed.mp4").read_bytes()
    (folder / "streamed.mp4").write_bytes(streamed[: int(0.6 * len(streamed))])
    (folder / "cut.mp4").write_bytes(whole[: len(whole) // 2])
    (folder / "text.mov").write_text("a list of shots, called a film\n" * 50)
    (folder / "nothing.mp4").write_bytes(b"")
    nothing_in_it(folder / "no_frames.mp4")
    sound_only(folder / "sound.mp4")
    (folder / "huge.png").write_bytes(png_that_claims(100_000, 100_000))
    (folder / "film_called.png").write_bytes(whole)
    cv2.imwrite(str(folder / "picture.jpg"), few[0][..., ::-1])
    (folder / "picture.jpg").rename(folder / "picture_called.mov")
    clip(folder / "uneven.mp4", few, times=[0, 41, 83, 300, 341, 383, 700, 741])
    clip(folder / "upright.mp4", frames(6, (180, 320)))
    clip(folder / "large.mp4", frames(2, (7680, 4320)), preset="ultrafast")
    see_through = [np.dstack([each, np.full(each.shape[:2], 128, np.uint8)]) for each in few]
    clip(folder / "see_through.mov", see_through, codec="prores_ks", pixels="yuva444p10le", format="rgba")
    return {
        "whole.mp4": "",
        "streamed.mp4": "",
        "cut.mp4": "damaged",
        "text.mov": "text is in it",
        "nothing.mp4": "0 bytes",
        "no_frames.mp4": "no picture",
        "sound.mp4": "no picture",
        "huge.png": "100000 × 100000",
        "film_called.png": "",
        "picture_called.mov": "",
        "uneven.mp4": "",
        "upright.mp4": "",
        "large.mp4": "",
        "see_through.mov": "",
    }


def test_every_file_has_its_word_and_the_reader_goes_on(crew: Any, production, card, take):  # noqa: F811
    wanted = made(Path(card.place))
    rows = {name: filed(card, take, name) for name in wanted}
    ended = looked_at(crew, production)
    assert ended.state == "ready", ended.message
    rushes = {rush.recording.name: rush for rush in Rush.objects.select_related("recording")}
    told = {name: rushes[name].fault if name in rushes else "not looked at" for name in wanted}
    wrong = {
        name: told[name]
        for name, word in wanted.items()
        if (word not in told[name] if word else told[name] != "")
    }
    assert wrong == {}
    says = {name: rushes[name].says for name in wanted}
    assert any("breaks off" in each for each in says["streamed.mp4"]["remarks"])
    assert 0 < says["streamed.mp4"]["frames"] < 40
    assert (says["upright.mp4"]["width_px"], says["upright.mp4"]["height_px"]) == (180, 320)
    assert (says["large.mp4"]["width_px"], says["large.mp4"]["frames"]) == (7680, 2)
    assert says["picture_called.mov"]["kind"] == "still" and says["film_called.png"]["kind"] == "clip"
    assert any("rate" in each for each in says["uneven.mp4"]["remarks"])
    assert any("alpha" in each for each in says["see_through.mov"]["remarks"])
    for name, word in wanted.items():
        if word or says[name]["kind"] == "still":
            continue
        rush = crew("get", f"/recordings/{rows[name].pk}/rush")[1]
        assert rush["proxy"] and {each["name"] for each in rush["clip"]["series"]} >= {"light"}, name
    # each of them answers whoever measures it by hand
    for name, word in wanted.items():
        status, job = crew("post", f"/recordings/{rows[name].pk}/measures", {"what": "evenness"})
        assert (status == 422) is bool(word), name
        if status == 202:
            assert done(job["id"]).state in ("ready", "failed"), name


@pytest.mark.parametrize("frames_apart", [(0, 0), (2, 1)])
def test_a_clip_against_one_of_another_size_says_so(crew, production, card, take, frames_apart):  # noqa: F811
    folder = Path(card.place)
    write(str(folder / "a.mp4"), [noised(0.5 * laid(photograph("coffee")), 0.02, n) for n in range(3)], 14)
    clip(folder / "b.mp4", frames(3))
    first, second = (filed(card, take, name) for name in ("a.mp4", "b.mp4"))
    looked_at(crew, production)
    asked = {"what": "change", "against_id": second.pk, "frame": frames_apart[0]}
    ended = done(crew("post", f"/recordings/{first.pk}/measures", asked)[1]["id"])
    assert ended.state == "failed" and "of one size" in ended.message
