"""The animator's desk, measured: a frame held against two others, from the shutter to what is said of it in
Chromium, and a strip of 2,880 frames that is rolled and played.
"""

from __future__ import annotations

import statistics
import tempfile
import time
from collections.abc import Callable
from itertools import cycle
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright
from tools.bench_people import served

WIDTH_PX = 1920
TAKEN = 24
LONG = 2880
ROLLS_S = 4.0
# how long each picture of the screen takes while the strip is rolled from end to end
_ROLLED = """async (seconds) => {
  const strip = document.querySelector('[aria-label="Frames of the shot"]');
  const took = [];
  const began = performance.now();
  let last = began;
  for (;;) {
    const now = await new Promise(requestAnimationFrame);
    took.push(now - last);
    last = now;
    const share = (now - began) / 1000 / seconds;
    if (share >= 1) return took.slice(1);
    strip.scrollLeft = share * (strip.scrollWidth - strip.clientWidth);
  }
}"""
# which frames of the shot were shown while everything was played
_PLAYED = """async (seconds) => {
  const shown = new Set();
  const began = performance.now();
  while (performance.now() - began < 1000 * seconds) {
    await new Promise(requestAnimationFrame);
    const frame = document.querySelector('[data-frame]')?.dataset.frame;
    if (frame) shown.add(frame);
  }
  return shown.size;
}"""

Timed = Callable[..., float]


def _photographs() -> list[bytes]:
    """Of the Heron's desk, nothing of which moves: only noise is another in each."""
    from jungoptic.app.demo.animated import CODE, LAYER
    from jungoptic.app.frames import beside
    from jungoptic.app.frames.desks import desk_of
    from jungoptic.app.shots.models import Layer, Shot
    from jungoptic.core.stage import DeskCamera, jpeg

    layer = Layer.objects.get(shot__code=CODE, name=LAYER)
    versions = Shot.objects.values_list("revision", "production__revision").get(pk=layer.shot_id)
    desk = desk_of(layer.shot_id, layer.pk, versions)
    assert desk is not None
    camera = DeskCamera(desk.stack, desk.position, WIDTH_PX)
    return [jpeg(camera.photograph(1, number), beside.QUALITY) for number in range(8)]


def _alone(timed: Timed, photographs: list[bytes]) -> None:
    from jungoptic.app.frames import beside
    from jungoptic.core.frames import WatchedFor

    held = [beside.Held.of(data) for data in photographs[:2]]
    again = cycle(photographs[2:])
    sought = [beside.Sought(1, held[1], (0.39, 0.88), (0.0, 0.0))]
    timed(
        f"frames: one of {WIDTH_PX} × 1080 held against two, a point found",
        lambda: beside.taken(next(again), held[1], held[0], WatchedFor(2.0), sought),
        20,
    )


def _answered(page: Page, sheet: int) -> None:
    """From the shutter to what is said of the frame, with a camera of the browser."""
    page.goto(f"/#/frames/{sheet}")
    page.get_by_label("Camera", exact=True).first.click()
    page.get_by_role("option", name="a camera of this device").click()
    times = []
    for number in range(1, TAKEN + 1):
        button = page.get_by_role("button", name=f"Take {number}", exact=True)
        button.wait_for()
        begun = time.perf_counter()
        button.click()
        words = "First of its block" if number == 1 else f"Frame {number}: move on."
        page.get_by_text(words).wait_for()
        times.append(1000.0 * (time.perf_counter() - begun))
    later = times[2:]
    p95 = statistics.quantiles(later, n=20)[-1]
    median = statistics.median(later)
    print(f"{'Chromium: from the shutter to what is said':58} median {median:8.2f} ms   95 % {p95:8.2f} ms")


def _lengthened(sheet_id: int) -> None:
    """The sheet on ones, 2,880 of them, all photographed: by the photograph that is there."""
    from jungoptic.app.frames.models import RANKS_APART, Exposure, ExposureSheet, Pose

    sheet = ExposureSheet.objects.get(pk=sheet_id)
    sheet.poses.update(hold=1)
    there = sheet.poses.count()
    last = sheet.poses.order_by("-rank")[0].rank
    Pose.objects.bulk_create(
        Pose(sheet=sheet, rank=last + number * RANKS_APART) for number in range(1, LONG - there + 1)
    )
    one: Any = Exposure.objects.filter(pose__sheet=sheet)[0]
    fields = {
        field.attname: getattr(one, field.attname)
        for field in Exposure._meta.concrete_fields
        if field.attname not in ("id", "pose_id")
    }
    bare = sheet.poses.exclude(exposures__isnull=False)
    Exposure.objects.bulk_create(Exposure(pose=pose, **fields) for pose in bare)


def _strip(page: Page) -> None:
    page.reload()
    page.get_by_text(f"{LONG} of {LONG} poses").wait_for()
    took = page.evaluate(_ROLLED, ROLLS_S)
    p95 = statistics.quantiles(took, n=20)[-1]
    median = statistics.median(took)
    print(f"{f'Chromium: a strip of {LONG} frames rolled':58} median {median:8.2f} ms   95 % {p95:8.2f} ms")
    page.get_by_role("radio", name="all", exact=True).click()
    page.get_by_role("button", name="Play everything").click()
    page.locator("[data-frame]").wait_for()
    shown = page.evaluate(_PLAYED, ROLLS_S)
    print(f"Chromium: played, {shown / ROLLS_S:.1f} frames a second   aim: 24")


def frames_numbers(timed: Timed) -> None:
    from tests.sessions import session_of

    from jungoptic.app.demo.animated import CODE
    from jungoptic.app.frames.models import ExposureSheet

    photographs = _photographs()
    _alone(timed, photographs)
    sheet = ExposureSheet.objects.get(layer__shot__code=CODE, removed=False).pk
    with tempfile.TemporaryDirectory() as kept, served() as port, sync_playwright() as playwright:
        filmed = Path(kept) / "desk.mjpeg"
        filmed.write_bytes(b"".join(photographs))
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=[
                *("--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"),
                *("--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream"),
                f"--use-file-for-fake-video-capture={filmed}",
            ],
        )
        url = f"http://127.0.0.1:{port}"
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
        context.add_cookies([{"name": "sessionid", "value": session_of("supervisor"), "url": url}])
        page = context.new_page()
        _answered(page, sheet)
        _lengthened(sheet)
        _strip(page)
        browser.close()
