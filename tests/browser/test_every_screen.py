"""Every screen of a production that has grown: two hundred shots, sixty lenses, names as long as they may be,
on a desk and on a telephone; nothing runs out of the window, and axe finds nothing in either theme.
"""

from __future__ import annotations

import pytest
from playwright.sync_api import Page

from jungoptic.app.frames.models import ExposureSheet
from jungoptic.app.kit.models import Lamp, Lens
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.models import Layer, Shot

from .conftest import OpenPage, at, axe, overflow

pytestmark = pytest.mark.browser
LONG = "The old mill with its quay, both drying sheds and the wheel as seen from the sea wall by the boys"


def named(most: int, number: int) -> str:
    return f"{number} {LONG * 2}"[:most]


@pytest.fixture
def grown(shot: Shot) -> Shot:
    production = Production.objects.get(pk=shot.production_id)
    Shot.objects.bulk_create(
        Shot(
            production=production,
            code=f"ZZ{number:03}-{LONG[4:12]}".replace(" ", "x")[:16],
            title=named(120, number),
            description=LONG * 2,
            length_frames=24 + number,
            position=1000 + number,
        )
        for number in range(190)
    )
    Lens.objects.bulk_create(
        Lens(
            production=production,
            name=named(60, number),
            focal_length_mm=10 + number,
            longest_mm=200 + number,
            widest_f_number=2.8,
            smallest_f_number=22,
            closest_focus_m=0.5,
        )
        for number in range(60)
    )
    for row in (*Lamp.objects.filter(production=production), *Layer.objects.filter(shot=shot)):
        row.name = named(60, row.pk)
        row.save(update_fields=["name"])
    for place in Place.objects.filter(production=production):
        Place.objects.filter(pk=place.pk).update(name=named(80, place.pk))
    Shot.objects.filter(pk=shot.pk).update(title=named(120, 0))
    Production.objects.filter(pk=production.pk).update(title=LONG)
    for person in Person.objects.exclude(username="supervisor"):
        Person.objects.filter(pk=person.pk).update(first_name=named(150, person.pk))
    return shot


def screens(shot: Shot) -> list[tuple[str, str]]:
    of_shot = f"/shots/{shot.pk}"
    filmed = shot.layers.filter(set_up__isnull=False)[0]
    return [
        ("/", "ZZ"),
        (f"{of_shot}/plan", "Plates"),
        (f"{of_shot}/bench", "Will it show?"),
        (f"{of_shot}/photograph", "Drop a photograph of the place here"),
        (f"{of_shot}/log", "As planned"),
        (f"/layers/{filmed.pk}/line-up", "Actor's marks"),
        (f"{of_shot}/rushes", "No footage is filed"),
        ("/cards", "No camera at hand?"),
        ("/frames", "Heron 1:4"),
        (f"/frames/{ExposureSheet.objects.all()[0].pk}", "First steps"),
        ("/kit/measure", "Measure your kit"),
        ("/places", "recurs"),
        ("/sets", "Loft"),
        ("/figures", "Rates"),
        ("/history", "History"),
        ("/hand-over", "Make card"),
        ("/days", "Sat 16"),
        ("/days/2027-10-16", "Who is there"),
        ("/kit", "Cameras"),
        ("/kit/can", "What one thing more would open up"),
        ("/production/film", "megapixels"),
        ("/production/people", "Invitations"),
        ("/production/judging", "Finish and style"),
        ("/begin", "Or bring one in"),
        ("/settings", "Settings of"),
        ("/telephone", "serves this machine only"),
        ("/pocket/backing_evenness", "Map"),
    ]


def faults(page: Page, address: str) -> list[str]:
    wide = overflow(page)
    # what scrolls is a part of the page: a window that does leaves a hole at its foot
    high = page.evaluate("document.documentElement.scrollHeight - document.documentElement.clientHeight")
    found = [f"{address}: {one}" for one in axe(page)]
    found += [f"{address}: {px} px too {way}" for px, way in ((wide, "wide"), (high, "high")) if px > 0]
    return found


@pytest.mark.parametrize(("width", "height", "phone"), [(1280, 800, False), (390, 844, True)])
def test_nothing_is_wrong_with_any_screen(
    width: int, height: int, phone: bool, open_page: OpenPage, grown: Shot
):
    page = open_page("supervisor", width=width, height=height, phone=phone)
    found = [
        fault for address, ready in screens(grown) for fault in faults(at(page, address, ready), address)
    ]
    assert found == [], "\n".join(found)
