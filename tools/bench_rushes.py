"""Rushes, measured: all that is measured of every frame against decoding alone, what an hour takes of memory
beside a minute, and how many pictures a second one scrubs through in Chromium.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from playwright.sync_api import sync_playwright
from tools.bench_people import served

WIDTH, HEIGHT, RATE, FRAMES = 1920, 1080, 24, 120
RUNS, HOUR_S = 5, 3600
CODECS = {
    "H.264, 8 bit": ("libx264", "yuv420p", {"crf": "18", "preset": "veryfast"}, "mp4"),
    "ProRes, 10 bit": ("prores_ks", "yuv422p10le", {"profile": "3"}, "mov"),
}
_LOOK = """
import resource, sys
from pathlib import Path
from jungoptic.app.rushes.asked import Asked
from jungoptic.app.rushes.rows import measure
measure("clip", Asked(Path(sys.argv[1])))
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024)
"""


def noisy(width: int, height: int, frames: int) -> Iterator[np.ndarray]:
    """A wall with something that goes across it, and the noise of a camera on it."""
    dice = np.random.default_rng(17)
    y, x = np.mgrid[:height, :width]
    wall = 110 + 30 * np.sin(x / 37.0) * np.sin(y / 23.0) + 25 * np.sin(x / 190.0)
    for frame in range(frames):
        seen = wall + dice.normal(0, 2.5, wall.shape)
        left = (6 * frame) % (width - width // 8)
        seen[height // 4 : height // 2, left : left + width // 8] -= 60
        yield np.repeat(np.clip(seen, 0, 255).astype(np.uint8)[..., None], 3, 2)


def written(path: Path, codec: str, pix_fmt: str, options: dict[str, str], size: tuple[int, int]) -> Path:
    """A clip of that."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=RATE, options=options)
        stream.width, stream.height, stream.pix_fmt = *size, pix_fmt
        for picture in noisy(*size, FRAMES):
            container.mux(stream.encode(av.VideoFrame.from_ndarray(picture, format="rgb24")))
        container.mux(stream.encode(None))
    return path


def lasting(source: Path, path: Path, seconds: int) -> Path:
    """The same over and over, so long: packets copied, nothing encoded."""
    with av.open(str(source)) as read, av.open(str(path), "w") as container:
        packets = [packet for packet in read.demux(video=0) if packet.dts is not None]
        stream = container.add_stream_from_template(read.streams.video[0])
        a_frame = round(1 / (RATE * packets[0].time_base))
        kept = [(packet.pts, packet.dts, bytes(packet), packet.is_keyframe) for packet in packets]
        for turn in range(seconds * RATE // len(kept)):
            for pts, dts, data, key in kept:
                packet = av.Packet(data)
                packet.stream, packet.time_base = stream, Fraction(packets[0].time_base)
                packet.pts, packet.dts = pts + turn * len(kept) * a_frame, dts + turn * len(kept) * a_frame
                packet.is_keyframe = key
                container.mux(packet)
    return path


def against_decoding(folder: Path) -> None:
    """In turn, so that a machine that slows down slows both; also by the processor, which others cannot."""
    from jungoptic.app.rushes.asked import Asked, Opened
    from jungoptic.app.rushes.of_clip import clip

    for name, (codec, pix_fmt, options, ending) in CODECS.items():
        path = written(folder / f"clip.{ending}", codec, pix_fmt, options, (WIDTH, HEIGHT))
        took: list[list[tuple[float, float]]] = [[], []]
        for _ in range(RUNS):
            for which, work in enumerate(
                (
                    lambda path=path: [None for _ in Opened.of(Asked(path)).footage.pictures()],
                    lambda path=path: clip(Asked(path)),
                )
            ):
                began, used = time.perf_counter(), time.process_time()
                work()
                took[which].append((time.perf_counter() - began, time.process_time() - used))
        alone, measured = (np.median(each, axis=0) / FRAMES * 1000 for each in took)
        print(
            f"rushes: {name:15} decoded {alone[0]:5.1f} ms a frame, all measured {measured[0]:5.1f}:"
            f" {measured[0] / alone[0]:.2f} × (processor {measured[1] / alone[1]:.2f} ×)   aim: 1.4 ×"
        )


def memory(folder: Path) -> None:
    """What is taken at most, in a process of its own."""
    codec, pix_fmt, options, ending = CODECS["H.264, 8 bit"]
    short = written(folder / f"short.{ending}", codec, pix_fmt, options, (320, 180))
    for name, seconds in (("a minute", 60), ("an hour", HOUR_S)):
        path = lasting(short, folder / f"lasting.{ending}", seconds)
        began = time.monotonic()
        told = subprocess.run(
            [sys.executable, "-c", _LOOK, str(path)], capture_output=True, text=True, check=True
        )
        print(
            f"rushes: {name} of 320 × 180 measured in {time.monotonic() - began:.0f} s:"
            f" {int(told.stdout)} MB at most   aim: the same"
        )


def scrubbing(folder: Path) -> None:
    """A hand that goes to and fro over the lines: pictures a second that the proxy shows."""
    from tests.sessions import session_of

    from jungoptic.app.files.keeping import keep
    from jungoptic.app.footage.models import Card, Recording
    from jungoptic.app.people.models import Person
    from jungoptic.app.rushes.models import Rush
    from jungoptic.app.rushes.reading import answer
    from jungoptic.app.shots.models import Layer
    from jungoptic.app.shots.writing import in_shot
    from jungoptic.app.takes.log import Said, record_take

    layer = Layer.objects.select_related("shot").get(shot__code="TM010", name="Mill 1:12")
    who = Person.objects.get(username="supervisor")
    with in_shot(who, layer.shot_id) as write:
        take = record_take(write, layer.pk, Said())
    with open(os.devnull, "w") as nowhere:  # it says how far it is
        out, sys.stdout = sys.stdout, nowhere
        told = answer({"do": "look", "path": str(folder / "clip.mp4"), "into": str(folder)})
        sys.stdout = out
    card = Card.objects.create(production=layer.shot.production, place=str(folder), name="B", read_by=who)
    row = Recording.objects.create(card=card, path="clip.mp4", size_bytes=1, modified=0, take=take)
    kinds = frozenset({"video/mp4", "image/jpeg"})
    kept = {
        name: keep(card.production_id, name, (folder / told[name]).read_bytes(), kinds)
        for name in ("proxy", "strip")
    }
    Rush.objects.create(recording=row, says=told["says"], clip=told["clip"], **kept)
    session = session_of("supervisor")
    with served() as port, sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium-headless-shell"),
            args=["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
        )
        url = f"http://127.0.0.1:{port}"
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
        context.add_cookies([{"name": "sessionid", "value": session, "url": url}])
        page = context.new_page()
        page.goto(f"/#/shots/{layer.shot_id}/rushes/{row.pk}")
        page.get_by_role("slider", name="Frame").wait_for()
        page.wait_for_timeout(2000)
        page.evaluate(
            "() => { window.shown = 0; const film = document.querySelector('video');"
            " film.addEventListener('seeked', () => window.shown++) }"
        )
        lines = page.get_by_role("group", name="Frames").bounding_box()
        assert lines
        page.mouse.move(lines["x"] + 20, lines["y"] + 60)
        page.mouse.down()
        began, step = time.monotonic(), 0
        while time.monotonic() - began < 6.0:
            step += 1
            place = abs((step * 7) % 2000 - 1000) / 1000
            page.mouse.move(lines["x"] + 20 + place * (lines["width"] - 40), lines["y"] + 60)
        shown = page.evaluate("window.shown") / (time.monotonic() - began)
        browser.close()
    print(f"Chromium: scrubbing a proxy, {shown:5.1f} pictures a second   aim: 24")


def rushes_numbers() -> None:
    """All of it."""
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        against_decoding(folder)
        scrubbing(folder)
        memory(folder)
