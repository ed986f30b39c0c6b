"""The animator's desk in the real interface: taken, watched, shot again, played; a camera of the browser, and
one that cannot reach the server.
"""

from __future__ import annotations

import re
import zipfile
from collections.abc import Iterator

import pytest
from django.conf import settings
from playwright.sync_api import Browser, BrowserType, Page, expect

from jungoptic.app.frames.models import Exposure, ExposureSheet
from jungoptic.app.jobs.models import Job
from jungoptic.app.shots.models import Shot
from tests.sessions import session_of

from .conftest import OpenPage, Windows, axe, choose, overflow, saved, work_off_the_queue
from .test_main_path import offline

pytestmark = pytest.mark.browser
TO_COME = 60_000
MOVED = re.compile(r"The camera stands 0\.[78]\d? px off the last frame")
PLAYS_TO = """(wanted) => new Promise((done) => {
  const began = performance.now();
  const look = () => {
    const frame = Number(document.querySelector("[data-frame]")?.dataset.frame ?? 0);
    if (frame >= wanted || performance.now() - began > 20_000) done(frame);
    else requestAnimationFrame(look);
  };
  look();
})"""
"""The frame that is played once one so far on is seen: each is shown for a moment only."""
FAKE_CAMERA = ("--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream")


def sheet() -> ExposureSheet:
    return ExposureSheet.objects.get(layer__name="Heron 1:4")


def taken() -> list[int]:
    """The places of the poses that were taken, in the order in which they were."""
    return [row.pose.place for row in Exposure.objects.order_by("taken_at", "pk").select_related("pose")]


def said(page: Page, text: str | re.Pattern[str]) -> None:
    expect(page.get_by_role("complementary", name="Desk")).to_contain_text(text, timeout=TO_COME)


def take(page: Page, number: int) -> None:
    page.get_by_role("button", name=f"Take {number}", exact=True).click()
    saved(lambda: number - 1 in taken(), True, TO_COME / 1000)
    expect(page.get_by_role("button", name=re.compile(f"^Frame {number}, taken"))).to_be_visible()


def test_a_nudge_is_said_before_the_next_move_and_the_frame_shot_again(open_page: OpenPage, shot: Shot):
    page = open_page("camera", "/frames", "Heron 1:4")
    page.get_by_role("link", name="Open the desk").click()
    said(page, "Nothing is taken yet")
    assert axe(page) == [] and overflow(page) <= 0
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    take(page, 1)
    said(page, "First of its block")
    take(page, 2)
    said(page, "All holds")
    page.get_by_label("a nudge").check()
    take(page, 3)
    said(page, MOVED)
    expect(page.get_by_role("button", name="Frame 3, taken, shows")).to_be_visible()
    page.get_by_label("a nudge").uncheck()
    page.keyboard.press("a")
    saved(lambda: taken().count(2), 2)
    said(page, "All holds")
    choose(page.get_by_label("Camera", exact=True).first, "no camera")
    # back by key, to the one that was shot again: the other can be shown
    page.get_by_role("heading", name="First steps").click()
    page.keyboard.press("ArrowLeft")
    said(page, "Exposures of frame 3")
    page.get_by_role("button", name="show", exact=True).click()
    said(page, MOVED)
    page.get_by_role("button", name=re.compile("^Undo: show another")).click()
    said(page, "All holds")
    assert axe(page) == []
    page.keyboard.press("Space")
    expect(page.get_by_role("img", name="The picture: plays the last 2 s")).to_be_visible()
    assert page.evaluate(PLAYS_TO, 5) >= 5, "three poses on twos are six frames"
    page.keyboard.press("Space")
    assert taken() == [0, 1, 2, 2]


def test_a_line_of_the_sheet_is_written_and_goes_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", f"/frames/{sheet().pk}", "First steps")
    page.get_by_role("button", name="Frame 4, not taken").click()
    line = page.get_by_role("region", name="Line 4 of the sheet")
    line.get_by_label("Figure").fill("looks up")
    line.get_by_label("held").fill("4")
    line.get_by_label("held").press("Enter")
    pose = sheet().poses.all()[3]
    saved(lambda: list(sheet().poses.filter(pk=pose.pk).values_list("figure", "hold")), [("looks up", 4)])
    expect(page.get_by_text("sheet 170, shot 168 frames")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo: frame 4")).click()
    expect(page.get_by_text("sheet 170, shot 168 frames")).to_have_count(0)
    assert overflow(page) <= 0


@pytest.fixture
def with_camera(
    browser_type: BrowserType, browser_type_launch_args: dict, windows: Windows
) -> Iterator[Page]:
    """A window of a browser that has a camera, signed in."""
    args = {**browser_type_launch_args, "args": [*browser_type_launch_args["args"], *FAKE_CAMERA]}
    browser: Browser = browser_type.launch(**args)
    context = browser.new_context(base_url=windows.server.url, service_workers="block")
    cookie = {"name": settings.SESSION_COOKIE_NAME, "value": session_of("camera"), "url": windows.server.url}
    context.add_cookies([cookie])
    context.add_init_script(path=str(__file__).replace("test_frames.py", "asked.js"))
    yield context.new_page()
    browser.close()


def test_a_camera_of_the_browser_loses_nothing_and_doubles_nothing(shot: Shot, with_camera: Page):
    page = with_camera
    address = f"/#/frames/{sheet().pk}"
    page.goto(address)

    def filming(window: Page) -> None:
        choose(window.get_by_label("Camera", exact=True).first, "a camera of this device")
        expect(window.get_by_role("img", name=re.compile("^The picture: live"))).to_be_visible()

    filming(page)
    for number in range(1, 6):
        take(page, number)
    # the server is away: frames wait here, also when the page is read anew
    page.route("**/api/**", offline)
    for number in (6, 7):
        page.get_by_role("button", name=f"Take {number}", exact=True).click()
        expect(page.get_by_role("button", name=f"Take {number + 1}", exact=True)).to_be_visible()
        expect(page.get_by_role("button", name=f"Frame {number}, on its way")).to_be_visible()
    assert taken() == [0, 1, 2, 3, 4]
    page.unroute("**/api/**")
    page.reload()
    saved(taken, [0, 1, 2, 3, 4, 5, 6])
    # a second window goes on from there
    second = page.context.new_page()
    second.goto(address)
    filming(second)
    take(second, 8)
    expect(page.get_by_role("button", name="Take 9", exact=True)).to_be_visible(timeout=TO_COME)
    assert taken() == [*range(8)]
    sizes = set(Exposure.objects.values_list("width_px", "height_px"))
    [(width, height)] = sizes
    assert width / height == pytest.approx(23.5 / 13.2, rel=0.01)


FOLDER = """async () => {
    const root = await navigator.storage.getDirectory();
    const folder = await root.getDirectoryHandle("tether", { create: true });
    window.showDirectoryPicker = async () => folder;
    window.written = async (name, shade) => {
        const canvas = Object.assign(document.createElement("canvas"), { width: 640, height: 360 });
        const on = canvas.getContext("2d");
        for (let i = 0; i < 60; i++) {
            on.fillStyle = `hsl(${(i * 47) % 360} 40% ${30 + ((i * 13) % 40) + shade}%)`;
            on.fillRect((i % 10) * 64, Math.floor(i / 10) * 60, 64, 60);
        }
        const picture = await new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.95));
        const file = await (await folder.getFileHandle(name, { create: true })).createWritable();
        await file.write(picture);
        await file.close();
    };
}"""


def test_what_another_program_writes_into_a_folder_is_the_next_frame(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    page.evaluate(FOLDER)
    for name in ("img_2.jpg", "img_10.jpg"):
        page.evaluate("name => window.written(name, 0)", name)
    choose(page.get_by_label("Camera", exact=True).first, "a folder that is written into")
    said(page, "Looks into tether: its next picture is frame 1.")
    page.evaluate("window.written('img_11.jpg', 0)")
    saved(taken, [0])
    said(page, "its next picture is frame 2.")
    page.get_by_role("button", name="Take in the 2 that lie there").click()
    saved(taken, [0, 1, 2])
    said(page, "All holds")
    # the last of them once more: what is written next is that frame, and the one before it is kept
    page.keyboard.press("a")
    said(page, "The next picture is of frame 3, again.")
    page.evaluate("window.written('img_12.jpg', 2)")
    saved(taken, [0, 1, 2, 2])
    said(page, "The whole frame is")
    choose(page.get_by_label("Camera", exact=True).first, "no camera")


def test_a_span_on_ones_pieces_that_stand_and_frames_out(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    page.get_by_role("button", name="Frame 3, not taken").click()
    page.get_by_role("button", name="Frame 6, not taken").click(modifiers=["Shift"])
    lines = page.get_by_role("region", name="Chosen lines")
    expect(lines).to_contain_text("3–6")
    lines.get_by_role("button", name="on ones").click()
    saved(lambda: [pose.hold for pose in sheet().poses.filter(removed=False)[:11]], [2, 2, *[1] * 8, 2])
    page.get_by_role("button", name="Undo: lines 3 to 6 on ones").click()
    saved(lambda: sheet().poses.filter(removed=False, hold=1).count(), 0)
    lines.get_by_role("button", name="New line before 3").click()
    saved(lambda: sheet().poses.filter(removed=False).count(), 85)
    expect(page.get_by_text("sheet 170, shot 168 frames")).to_be_visible()
    lines.get_by_role("button", name="Leave it out").click()
    saved(lambda: sheet().poses.filter(removed=False).count(), 84)
    # a piece is drawn over the picture, named, and typed where no mouse is
    pieces = page.get_by_role("region", name="Pieces that have to stand")
    pieces.get_by_role("button", name="Mark one").click()
    canvas = page.locator("canvas").bounding_box()
    assert canvas is not None
    for share, step in ((0.25, page.mouse.down), (0.5, page.mouse.up)):
        page.mouse.move(canvas["x"] + share * canvas["width"], canvas["y"] + share * canvas["height"])
        step()
    pieces.get_by_label("Name of Piece 1").fill("The post")
    pieces.get_by_label("Name of Piece 1").press("Enter")
    pieces.get_by_label("The post, right, % of the frame").fill("60")
    pieces.get_by_label("The post, right, % of the frame").press("Enter")
    saved(lambda: [(piece.name, *piece.box[2:]) for piece in sheet().pieces.all()], [("The post", 0.6, 0.5)])
    [box] = [piece.box for piece in sheet().pieces.all()]
    assert box[:2] == pytest.approx([0.25, 0.25], abs=0.01)
    assert axe(page) == [] and overflow(page) <= 0
    # four exposures make one, and what was taken goes out
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    page.get_by_role("group", name="Exposures averaged").get_by_text("4", exact=True).click()
    take(page, 1)
    out = page.get_by_role("region", name="Frames out")
    out.get_by_role("button", name="Pack").click()
    saved(lambda: Job.objects.filter(kind="frames").count(), 1)
    work_off_the_queue()
    with page.expect_download() as download:
        out.get_by_role("link", name="Save the ZIP").click()
    with zipfile.ZipFile(download.value.path()) as packed:
        names = [name.rpartition("/")[2] for name in packed.namelist()]
    assert names == [
        *("TM050_heron-14.0001.png", "TM050_heron-14.0002.png"),
        *("TM050_heron-14.otio", "TM050_heron-14.csv", "TM050_heron-14_cheats.csv"),
    ]


def test_two_passes_a_pose_are_taken_in_turn_and_seen_apart(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    passes = page.get_by_role("region", name="Passes")
    passes.get_by_role("button", name="Take two").click()
    passes.get_by_label("Pass 2").fill("matte")
    passes.get_by_label("Pass 2").press("Enter")
    passes.get_by_label("every other pose backwards").check()
    saved(lambda: (sheet().passes, sheet().passes_alternate), (["front light", "matte"], True))
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    page.get_by_role("heading", name="First steps").click()
    for due in ("front light of frame 1", "matte of frame 1", "matte of frame 2", "front light of frame 2"):
        said(page, f"Now: {due}")
        page.keyboard.press("t")
    said(page, "Now: front light of frame 3")
    saved(lambda: len(taken()), 4)
    order = Exposure.objects.order_by("taken_at").values_list("light_pass", flat=True)
    assert (taken(), list(order)) == ([0, 0, 1, 1], [0, 1, 1, 0])
    expect(page.get_by_text("2 of 84 poses")).to_be_visible()
    assert axe(page) == [] and overflow(page) <= 0


def test_on_a_telephone_the_desk_is_in_reach(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/frames/{sheet().pk}", "First steps")
    expect(phone.get_by_role("button", name="Take 1", exact=True)).to_be_visible()
    assert axe(phone) == [] and overflow(phone) <= 0


def test_the_track_is_turned_and_stands_where_it_was_left(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    track = page.get_by_role("region", name="Track under the Heron")
    expect(track).to_contain_text("Stands for frame 1: at no turn.")
    expect(track).to_contain_text("0.400 mm a turn")
    track.get_by_text("Gears and ways").click()
    track.get_by_label("Stands at, turns").fill("2.5")
    track.get_by_label("Stands at, turns").press("Enter")
    expect(track).to_contain_text("3 turns back, then 5 tenths forwards")
    # it is spoken when it is another one
    page.evaluate(
        "window.spoken = []; window.speechSynthesis.speak = (one) => window.spoken.push(one.text); 0"
    )
    page.get_by_label("the next turn of a rig spoken").check()
    track.get_by_label("Stands at, turns").fill("-1")
    track.get_by_label("Stands at, turns").press("Enter")
    saved(
        lambda: page.evaluate("window.spoken"),
        ["3 turns back, then 5 tenths forwards", "1 turn"],
    )
    page.get_by_role("heading", name="First steps").click()
    page.keyboard.press("r")
    expect(track).to_contain_text("Stands for frame 1: at no turn.")
    track.get_by_label("Gears, teeth").fill("12:60, 1:2")
    track.get_by_label("Gears, teeth").press("Enter")
    expect(track).to_contain_text("0.200 mm a turn")
    page.get_by_role("button", name=re.compile("^Undo: Track")).click()
    expect(track).to_contain_text("0.400 mm a turn")
    assert sheet().rigs.get().stands == 0
    assert axe(page) == []
