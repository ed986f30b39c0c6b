"""Every recipe, freshly filled at several scales and distances, lies right from the start: what shows is what
the kit cannot do, and that is said.
"""

import itertools

import pytest

from jungoptic.core.breakdown import RECIPES, Recipe, expand
from jungoptic.core.breakdown.outlines import OUTLINES, outline_parts
from jungoptic.core.kit import Kit
from jungoptic.core.light import Backing
from jungoptic.core.match import Delivery, Layer, Member, SetUp, ShotPlan, Stack, judge_member
from jungoptic.core.plan import Started, started
from jungoptic.core.vocabulary import PICTURES, SHEETS

SCALES, DISTANCES = (2.0, 6.0, 12.0, 24.0), (0.5, 1.0, 3.0)
HOW_FAR = ("distance_m", "actor_m", "near_m", "line_m", "room_m")
KITS = {"focus_near", "focus_far", "diffraction", "grain", "brightness", "time", "motion_blur", "sharpness"}
"""What glass, light and recording decide; everything else is a matter of putting things where they belong."""


def laid_out(recipe: Recipe, answers: dict[str, float], hero: SetUp) -> Stack:
    """The shot as a recipe lays it out: every set-up a copy of the hero's, before each layer at its place."""
    planned = expand(recipe, answers)
    front = next(plate.layer for plate in planned if plate.hero)
    own = {place.name: place for place in recipe.set_ups}
    before = hero.but(
        distance_m=front.near_m / front.scale,
        focus_distance_m=front.near_m / front.scale,
        f_number=8,
        iso=400,
        illuminance_lx=1920,
    )
    keys: dict[str, int] = {}
    members = []
    filmed: dict[str, SetUp] = {}
    for plate in sorted(planned, key=lambda each: not each.hero):
        layer = plate.layer
        if layer.kind in PICTURES:
            members.append(Member(layer, None, None))
            continue
        place = own.get(plate.set_up)
        if plate.set_up not in filmed:
            setup = before.but(**place.values) if place else before
            if plate.hero:
                before = setup
            sheet = Backing(colour=SHEETS[place.backing]) if place and place.backing else None
            filmed[plate.set_up] = setup.but(backing=sheet)
        setup = filmed[plate.set_up].but(distance_m=layer.near_m / layer.scale)
        key = keys.setdefault(plate.set_up, len(keys) + 1)
        members.append(Member(layer, setup, key, plate.hero))
    return Stack(ShotPlan(length_frames=96), Delivery(length_frames=96), before, tuple(members))


def fresh(recipe: Recipe, answers: dict[str, float], hero: SetUp, kit: Kit) -> Started:
    stack = laid_out(recipe, answers, hero)
    return started(stack, {member.set_up_key: kit for member in stack.members if member.set_up_key})


def tried(recipe: Recipe) -> list[dict[str, float]]:
    """The answers that are tried: every scale and distance, as far as the recipe asks for them."""
    asks = {ask.name: ask for ask in recipe.asks}
    far = next((asks[name] for name in HOW_FAR if name in asks), None)
    every = set()
    for scale, times in itertools.product(SCALES, DISTANCES):
        answers = {}
        if "scale" in asks:
            answers["scale"] = min(max(scale, asks["scale"].least), asks["scale"].most)
        if far:
            answers[far.name] = min(max(far.default * times, far.least), far.most)
        every.add(tuple(sorted(answers.items())))
    return [dict(answers) for answers in sorted(every)]


@pytest.mark.parametrize("recipe", RECIPES.values(), ids=lambda recipe: recipe.key)
def test_only_what_the_kit_cannot_do_shows(recipe: Recipe, hero: SetUp, kit: Kit):
    tall = kit.but(highest_lens_m=2.2)
    for answers in tried(recipe):
        start = fresh(recipe, answers, hero, tall)
        assert start.stack is not None
        for position, member in enumerate(start.stack.members):
            _, judged = judge_member(start.stack, position, kit=tall)
            shows = {item.item: item for item in judged if item.verdict == "shows" and not item.informs}
            assert shows.keys() <= KITS, (answers, member.layer.name, [i.sentence for i in shows.values()])
            if start.fronts.get(member.set_up_key or 0) == position:
                told = " ".join(start.left[member.set_up_key or 0])
                assert all(f"{item.label} shows" in told for item in shows.values()), (answers, told)


def test_a_fresh_event_is_resized_with_its_clean_stage(hero: SetUp, kit: Kit):
    start = fresh(RECIPES["event"], {}, hero, kit)
    assert start.stack is not None
    event, clean = (
        next(member for member in start.stack.members if member.layer.kind == kind)
        for kind in ("model", "clean_plate")
    )
    assert clean.layer.scale == event.layer.scale == 6
    assert clean.layer.resize == pytest.approx(event.layer.resize, rel=0.01)


def test_a_sheet_stands_behind_all_that_is_done_before_it(hero: SetUp, kit: Kit):
    start = fresh(RECIPES["rolling_road"], {}, hero, kit)
    (sheet,) = start.backings.values()
    assert sheet["width_m"] >= 5.2  # a vehicle 3 m wide that moves 1.6 m to either side, seen past itself


def test_what_is_done_in_camera_keeps_the_heros_dials(hero: SetUp, kit: Kit):
    start = fresh(RECIPES["hanging"], {}, hero, kit)
    assert start.stack is not None
    hung = next(member for member in start.stack.members if member.layer.combine == "in_camera")
    (changed,) = start.set_ups.values()
    assert changed.keys() <= {"distance_m", "ground_height_m"}
    assert hung.setup is not None and hung.layer.resize == 1.0
    # common practice: a hanging model's ground lies below the lens by the hero's height ÷ s
    assert hung.setup.lens_height_m - hung.setup.ground_height_m == pytest.approx(1.6 / 12, abs=1e-4)


def test_a_picture_is_wide_enough(hero: SetUp, kit: Kit):
    start = fresh(RECIPES["falling"], {}, hero, kit)
    assert start.stack is not None
    cloud = next(member.layer for member in start.stack.members if member.layer.name == "Cloud in front")
    assert cloud.picture_width_px == 4900  # it spans 4,822 px of the delivery


# --- outlines


@pytest.mark.parametrize("name", OUTLINES)
def test_an_outline_fits_the_layer(name: str):
    layer = Layer(name="Thing", near_m=9, width_m=6.0, height_m=2.0, depth_m=3.0)
    parts = outline_parts(name, layer)
    across = [x for part in parts for x, _ in part.points]
    up = [y for part in parts for _, y in part.points]
    assert -3.0 <= min(across) < -2.0 and 2.0 < max(across) <= 3.0
    assert 0.0 <= min(up) < 0.5 and 1.3 < max(up) <= 2.0
    assert all(0.0 <= part.behind_m <= 3.0 for part in parts)


def test_every_layer_that_does_not_fill_the_frame_starts_with_an_outline():
    for recipe in RECIPES.values():
        for plate in recipe.plates:
            assert bool(plate.outline) != bool(plate.layer.get("fills_frame")), (recipe.key, plate.name)
