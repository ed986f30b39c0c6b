"""Nothing runs out of the screen: phone and desk, long names, a shot of many layers, empty shots."""

import pytest
from playwright.sync_api import expect

from jungoptic.app.shots.models import Layer, Shot

from .conftest import OpenPage, at, overflow

pytestmark = pytest.mark.browser
LONG = "The old mill with its quay, both drying sheds and the wheel as seen from the sea wall"[:80]


@pytest.fixture
def crowded(shot: Shot) -> Shot:
    """The demo's shot with a very long title and ten more layers with very long names."""
    Shot.objects.filter(pk=shot.pk).update(title=LONG)
    mill = Layer.objects.get(shot=shot, name="Mill 1:12")
    for n in range(10):
        Layer.objects.create(
            shot=shot,
            place=20 + n,
            name=f"{n} {LONG}"[:80],
            kind="model",
            combine="key",
            key_colour="blue",
            set_up=mill.set_up,
            scale=12,
            near_m=13 + n,
            depth_m=2,
        )
    return shot


@pytest.mark.parametrize(
    ("width", "height", "phone"), [(390, 844, True), (1280, 800, False), (1920, 1080, False)]
)
def test_no_screen_is_wider_than_its_window(
    width: int, height: int, phone: bool, open_page: OpenPage, crowded: Shot
):
    page = open_page("supervisor", width=width, height=height, phone=phone)
    for address, ready in (
        ("/", "TM010"),
        (f"/shots/{crowded.pk}/bench", "Will it show?"),
        (f"/shots/{crowded.pk}/log", "As planned"),
        (f"/shots/{crowded.pk}/rushes", "No footage is filed"),
        (f"/layers/{Layer.objects.filter(name__startswith='9 ')[0].pk}/line-up", "Actor's marks"),
        ("/hand-over", "Make card"),
        ("/production/film", "megapixels"),
        ("/production/people", "Invitations"),
        ("/production/judging", "Finish and style"),
        ("/begin", "Begin it"),
        ("/settings", "Settings of"),
        ("/kept", "What this device has"),
        ("/waiting", "What waits here"),
        ("/pocket/backing_evenness", "Map"),
        ("/pocket/crowd_rows", "Rows"),
        ("/nowhere", "Nothing is kept at this address"),
    ):
        assert overflow(at(page, address, ready)) <= 0, address


def test_a_shot_without_plates_teaches_and_leads_to_a_worked_example(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor")
    empty = Shot.objects.create(
        production=shot.production, code="TM130", title="Not laid out", length_frames=48
    )
    page.goto(f"/#/shots/{empty.pk}/bench")
    expect(page.get_by_role("heading", name="No plates are laid out for TM130 yet")).to_be_visible()
    page.get_by_role("link", name="See a worked example: TM010").click()
    expect(page.get_by_role("heading", name="Will it show?")).to_be_visible()
    page.goto(f"/#/shots/{empty.pk}/log")
    expect(page.get_by_text("No filmed layer in this shot yet")).to_be_visible()


def test_the_phone_reaches_every_phase_by_the_thumb(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera")
    phone.get_by_role("link", name="TM010").or_(phone.get_by_text("TM010")).first.wait_for()
    phone.get_by_role("button", name="Break down").click()
    buttons = phone.get_by_role("dialog").get_by_role("button")
    expect(buttons.first).to_have_text("Log")
    for n in range(buttons.count()):
        box = buttons.nth(n).bounding_box()
        assert box and box["height"] >= 44
    buttons.first.click()
    expect(phone.get_by_text("As planned")).to_be_visible()
    take = phone.get_by_role("button", name="Take 1").bounding_box()
    assert take and take["height"] >= 44 and take["y"] + take["height"] <= 844


def test_reading_the_bench_by_keyboard_alone(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    first = page.get_by_role("button", name="Camera height")
    first.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("0.217 m too high")).to_be_visible()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Resize to 96.8 %")).to_be_visible()
    camera = page.get_by_role("slider", name="Camera")
    camera.focus()
    page.keyboard.press("ArrowDown")
    expect(camera).to_have_attribute(
        "aria-valuetext", "lens 0.345 m high, 1.000 m from the layer; arrow keys move it"
    )
    focus = page.get_by_role("slider", name="Plane of focus")
    focus.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(page.locator("[data-dial=focus_distance_m]")).to_have_attribute("aria-valuenow", "1.05")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
