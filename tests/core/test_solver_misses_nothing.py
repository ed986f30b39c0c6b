"""The solver held against exhaustive search: every combination of a small kit, each measured whole."""

import itertools
import random

import numpy as np
import pytest

from jungoptic.core.kit import Camera, Kit, Lamp, Lens, RecordingMode
from jungoptic.core.match import Delivery, Layer, Match, SetUp
from jungoptic.core.match.camera import focal_px
from jungoptic.core.match.many import Many
from jungoptic.core.match.tolerances import ITEMS, ladder, ladders
from jungoptic.core.match.weighed import counts_of, weighed, weight_of
from jungoptic.core.motion import Move
from jungoptic.core.plan import Answer, Shared, solve
from jungoptic.core.plan.search import Search

FOCUSES, LIGHTS = 20, (60.0, 500.0, 4000.0)


def small_kit(random_: random.Random) -> Kit:
    lenses = tuple(
        Lens(
            name=f"{focal} mm",
            focal_length_mm=focal,
            widest_f_number=random_.choice((4, 5.6)),
            smallest_f_number=random_.choice((8, 11)),
            closest_focus_m=random_.choice((0.2, 0.4, 0.8)),
            focusing=random_.choice(("unit", "constant_view")),
            distortion_pct=random_.choice((0.0, -1.5)),
            vignetting_stops=random_.choice((0.0, 0.8)),
        )
        for focal in random_.sample((18, 25, 35, 50, 85), 2)
    )
    modes = (
        RecordingMode(
            name="whole",
            recorded_width_px=3840,
            recorded_height_px=2160,
            gate_width_mm=23.5,
            gate_height_mm=13.2,
            highest_fps=25,
            readout_ms=16,
        ),
        RecordingMode(
            name="fast",
            recorded_width_px=1920,
            recorded_height_px=1080,
            gate_width_mm=random_.choice((23.5, 12.0)),
            gate_height_mm=6.75,
            highest_fps=48,
            bit_depth=8,
            sampling="4:2:0",
            readout_ms=8,
        ),
    )
    return Kit(
        camera=Camera(name="A", modes=modes, lowest_iso=400, highest_iso=800),
        lenses=lenses,
        lamps=(Lamp(name="spot", intensity_cd=18000, beam_deg=60, warmest_k=3000, coolest_k=6000),),
        shutter_angles_deg=(90.0, 180.0),
        lowest_lens_m=0.3,
    )


def chance(seed: int, hero: SetUp) -> tuple[Layer, SetUp, Kit, Delivery]:
    """A layer, a set-up that stands wrong, and a small kit."""
    random_ = random.Random(seed)
    scale = random_.choice((1, 4, 8, 12, 24))
    layer = Layer(
        name="Thing",
        kind=random_.choice(("model", "live_element")),
        combine=random_.choice(("key", "over")),
        scale=scale,
        near_m=random_.uniform(4, 20),
        depth_m=random_.choice((0.0, random_.uniform(1, 8))),
        width_m=random_.uniform(1, 9),
        height_m=random_.uniform(1, 5),
        driver=random_.choice(("still", "gravity", "set_speed", "fire")),
        speed_m_s=random_.uniform(0.5, 3),
        fills_frame=random_.random() < 0.3,
        brightest_stops=random_.choice((None, 5.5)),
    )
    setup = hero.but(
        distance_m=random_.uniform(0.5, 3),
        focus_distance_m=1.5,
        lens_height_m=0.6,
        capture_fps=25,
        illuminance_lx=700,
        iso=400,
        shutter_angle_deg=180,
        f_number=8,
        light_k=4000,
        ripple_depth=random_.choice((0.0, 0.3)),
    )
    moves = (Move(), Move(kind="pan", amount=8, end_frame=48), Move(kind="push", amount=0.5, end_frame=48))
    return layer, setup, small_kit(random_), Delivery(move=random_.choice(moves))


def exhaustive(search: Search, layer: Layer) -> int:
    """The least that any combination weighs, each compared whole, a lens and a recording at a time."""
    hero, delivery, kit = search.hero, search.delivery, search.kit
    best = None
    for lens, mode in itertools.product(kit.lenses, kit.camera.modes):
        rows = np.array(
            list(
                itertools.product(
                    [exact for _, exact in lens.stops][::2],
                    np.geomspace(max(lens.closest_focus_m, 0.3), 30.0, FOCUSES),
                    [rate for rate in mode.rates_fps if rate in search.rates(mode)],
                    search.angles,
                    kit.camera.iso_steps,
                    [light for light in LIGHTS if light <= search.available_lx],
                )
            )
        ).T
        stop, focus, rate, angle, iso, light = rows
        base = search.template.model_copy(
            update={
                "focal_length_mm": lens.focal_length_mm,
                "focusing": lens.focusing,
                **lens.faults(),
                **mode.settings(),
            }
        )
        varied = {
            "f_number": stop,
            "focus_distance_m": focus,
            "capture_fps": rate,
            "shutter_angle_deg": angle,
            "iso": iso,
            "illuminance_lx": light,
        }
        if layer.driver == "set_speed":
            varied["model_speed_m_s"] = search.speed_m_s(layer, rate)
        film = Many.of(base, 1.0, **varied)
        size = (
            focal_px(hero, delivery)
            * film.distance_m
            / (focal_px(film, delivery) * layer.near_m / layer.scale)
        )
        for resize in (size, np.ones_like(size)):
            whole = Match(hero, layer, film.model_copy(update={"resizes": resize}), delivery)
            least = int(weighed(whole, search.school, {}).min())
            best = least if best is None else min(best, least)
    assert best is not None
    return best


@pytest.mark.parametrize("school", ["measured", "covered"])
@pytest.mark.parametrize("seed", range(7))
def test_no_combination_of_a_small_kit_is_better(seed: int, school, hero: SetUp):
    layer, setup, kit, delivery = chance(seed, hero)
    search = Search(hero, layer, setup, delivery, kit, frozenset(), school, {})
    found = search.candidates(1)[0]
    least = exhaustive(search, layer)
    # what is far, shows or is tight to the last item; how far along their ladders all are to a thousandth
    assert found.weight >> 30 <= least >> 30
    assert found.weight <= least + 0.001 * (least % (1 << 30))
    whole = Match(hero, found.layer, found.setup, delivery)
    assert found.weight == int(weighed(whole, school, {}))


# --- many set-ups at once are what each of them is alone


@pytest.mark.parametrize("kind", ["none", "pan", "push", "zoom"])
def test_many_set_ups_measured_at_once_are_each_as_measured_alone(
    kind, hero: SetUp, model: SetUp, mill: Layer
):
    rng, count = np.random.default_rng(5), 40
    layer = mill.but(combine="key", brightest_stops=5)
    setup = model.but(ripple_depth=0.3, readout_ms=10, distortion_pct=-1, vignetting_stops=1)
    amount = 12.0 if kind in ("pan", "zoom") else 1.0
    delivery = Delivery(move=Move() if kind == "none" else Move(kind=kind, amount=amount, end_frame=48))
    resize = rng.uniform(0.5, 2, count)
    varied = {
        "focal_length_mm": rng.choice([25.0, 35.0, 50.0], count),
        "f_number": rng.choice([4.0, 8.0, 16.0], count),
        "focus_distance_m": rng.uniform(0.5, 2, count),
        "capture_fps": rng.choice([24.0, 60.0], count),
        "shutter_angle_deg": rng.choice([90.0, 180.0], count),
        "iso": rng.choice([200.0, 800.0], count),
        "nd_stops": rng.choice([0.0, 2.0], count),
        "illuminance_lx": rng.uniform(100, 1000, count),
        "distance_m": rng.uniform(0.7, 1.5, count),
        "lens_height_m": rng.uniform(0.1, 0.4, count),
    }
    many = Match(hero, layer, Many.of(setup, resize, **varied), delivery)
    weights = {school: weighed(many, school, {}) for school in ("measured", "covered")}
    for row in range(count):
        settings = {name: float(values[row]) for name, values in varied.items()}
        alone = Match(hero, layer.but(resize=resize[row]), setup.but(**settings), delivery)
        assert alone.amounts.keys() == many.amounts.keys()
        for item, amount in alone.amounts.items():
            there = np.broadcast_to(many.amounts[item], count)[row]
            assert there == pytest.approx(amount, rel=1e-9, abs=1e-9), item
        assert all(int(weighed(alone, school, {})) == weights[school][row] for school in weights)


def test_places_on_the_ladder_are_the_same_for_many():
    for item in ITEMS.values():
        limit = item.tolerance
        amounts = [0.0, 0.3 * limit.holds, limit.holds, 1.2 * limit.holds, limit.tight, 7.0 * limit.tight]
        assert ladders(amounts, limit) == pytest.approx([ladder(amount, limit) for amount in amounts])


def test_far_counts_more_than_how_many_and_showing_more_than_tight():
    far, shows, tight, holds = (int(weight_of(place)) for place in (7.0, 3.9, 1.5, 0.9))
    assert far > 20 * shows > 20 * 40 * tight > 20 * 40 * 40 * holds
    assert counts_of(far + 2 * shows + 3 * tight) == (3, 3, 3)


# --- what else it finds and says


def test_a_filter_takes_the_light_that_cannot_be_dimmed(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    street = mill.but(scale=1, driver="still", speed_m_s=0)
    sunlit = hero.but(illuminance_lx=80000, f_number=8, iso=100)
    answer = solve(hero, street, sunlit, Delivery(), kit, locked=["illuminance_lx", "iso", "f_number"])[0]
    solved = sunlit.but(**answer.set_up)
    assert solved.nd_stops == 4  # 80,000 lx at ISO 100 is 3.4 stops more than the hero's 960 at ISO 800
    assert Match(hero, street, solved, Delivery()).amounts["brightness"] < 0.7


def test_the_white_balance_sees_the_light_as_the_hero_sees_its_own(hero, model, mill, kit):
    cool = model.but(light_k=4000, white_balance_k=3200)
    answer = solve(hero, mill, cool, Delivery(), kit)[0]
    assert answer.set_up["white_balance_k"] == 4000
    kept = solve(hero, mill, cool, Delivery(), kit, locked=["white_balance_k"])[0]
    assert "white_balance_k" not in kept.set_up
    assert any("Colour of light" in sentence for sentence in kept.sentences)


def test_a_model_that_fills_the_frame_is_resized_too(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    backdrop = mill.but(fills_frame=True, driver="still", speed_m_s=0)
    wide = kit.but(lenses=tuple(lens for lens in kit.lenses if lens.focal_length_mm <= 25))
    answer = solve(hero, backdrop, model, Delivery(), wide)[0]
    assert answer.layer["resize"] == pytest.approx(35 / 25, abs=0.06)
    assert next(item for item in answer.judged if item.item == "lens").amount < 0.01


def test_a_layer_that_shares_the_set_up_is_resized_with_it(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    clean = mill.but(name="Clean stage", kind="clean_plate", driver="still", speed_m_s=0, fills_frame=True)
    answer = solve(hero, mill, model, Delivery(), kit, shared=[Shared(clean, 0.0)])[0]
    assert answer.others == (answer.layer,)


def test_a_models_top_stays_under_the_beams(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    tower = mill.but(height_m=24)
    low = kit.but(beams_m=2.1)
    answer = solve(hero, tower, model, Delivery(), low)[0]
    solved = model.but(**answer.set_up)
    assert solved.ground_height_m + 24 / 12 <= 2.1 + 1e-6
    assert any("a support as low as" in sentence for sentence in answer.sentences)


def test_what_does_not_fit_is_said(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    answer = solve(hero, mill.but(width_m=180), model, Delivery(), kit.but(stage_width_m=7))[0]
    assert "It does not fit: 15 m wide in 7 m." in answer.sentences


def mended(answer: Answer) -> list[str]:
    return [sentence for sentence in answer.sentences if sentence.startswith("With ")]


def test_which_other_kit_would_mend_it_is_said(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    dim = kit.but(lamps=kit.lamps[:1])
    (lamps,) = mended(solve(hero, mill, model, Delivery(), dim)[0])
    assert lamps.startswith("With lamps for ") and lamps.endswith(": everything holds.")
    wanted = [lens for lens in kit.lenses if lens.focal_length_mm >= 85]
    lens = mended(solve(hero, mill, model, Delivery(), kit.but(lenses=wanted))[0])
    assert any(sentence.startswith("With a lens of ") for sentence in lens)
    slow = kit.but(camera=kit.camera.but(modes=(kit.camera.modes[0].but(highest_fps=25),)))
    rate = mended(solve(hero, mill, model, Delivery(), slow)[0])
    assert any("a camera that records 84 frames/s" in sentence for sentence in rate)
    assert mended(solve(hero, mill, model, Delivery(), kit)[0]) == []


def test_that_other_kit_truly_mends_it(hero: SetUp, model: SetUp, mill: Layer, kit: Kit):
    """What is said to be left is what a search with it finds."""
    dim = kit.but(lamps=kit.lamps[:1])
    (said,) = mended(solve(hero, mill, model, Delivery(), dim)[0])
    stops = float(said.split("(")[1].split(" ")[0])
    lamp = kit.lamps[0]
    more = dim.but(lamps=(lamp.but(intensity_cd=lamp.intensity_cd * 2.0 ** (stops + 0.05)),))
    assert solve(hero, mill, model, Delivery(), more)[0].verdict == "holds"
