"""Jobs from shots: every set-up that is not yet filmed, what it needs, what must come before it and why."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from ..match import Layer, Member, SetUp, key_of, resolved
from ..match.lighting import day_over
from ..vocabulary import PASSES
from .filming import DayFigures, Filming, Hand, ShotToFilm, StandingSetUp
from .records import Job, Light, Order, Run, SunKey

OF_THE_STAGE = frozenset({"live_element", "model", "frame_by_frame", "black_element", "shadow_pass"})
_FULL_TURN = 359.0
_TWILIGHT, _SUNRISE, _GOLDEN = -6.0, 0.0, 6.0


@dataclass(frozen=True, slots=True)
class Derived:
    """Jobs with their order and runs, as they follow from the shots; ``set_ups`` says which set-ups (keys of
    the stacks' members) each job films.
    """

    jobs: tuple[Job, ...] = ()
    order: tuple[Order, ...] = ()
    runs: tuple[Run, ...] = ()
    set_ups: dict[str, tuple[int, ...]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class _Plate:
    member: Member
    filming: Filming


def jobs_of_shots(
    shots: Sequence[ShotToFilm], figures: DayFigures, hands: Sequence[Hand] = (), stage: str = "stage"
) -> Derived:
    """Every set-up that is not yet filmed as a job by itself.

    Minutes: rig + light + takes × (roll + reset) + strike, its plates together; frame by frame as long as the
    animator takes, in blocks that nothing interrupts. Models, elements and stop motion are filmed at the
    stage, the rest where the scene plays. Set-ups that are the same in everything are one job.

    Parameters
    ----------
    shots : sequence of ShotToFilm
        As they stand on the bench.
    figures : DayFigures
        What the production reckons with.
    hands : sequence of Hand
        Who there is.
    stage : str
        Key of the place of models and elements.

    Returns
    -------
    Derived
        Jobs, order with reasons, and runs; the key of a job is that of its (first) set-up.

    References
    ----------
    days_minutes, days_physics

    Examples
    --------
    >>> from jungoptic.core.days import DayFigures, Filming, ShotToFilm, StandingSetUp
    >>> from jungoptic.core.example import STACK
    >>> names = {key: StandingSetUp(f"set-up {key}") for key in (1, 2, 3)}
    >>> filming = tuple(Filming(rank) for rank, _ in enumerate(STACK.members))
    >>> derived = jobs_of_shots([ShotToFilm("TM010", STACK, filming, names)], DayFigures())
    >>> [(job.name, job.minutes) for job in derived.jobs]
    [('set-up 1', 94), ('set-up 2', 94), ('set-up 3', 94)]
    """
    parts = [_of_shot(shot, figures, hands, stage) for shot in shots]
    jobs = [job for part in parts for job in part.jobs]
    same = _same(shots, jobs, parts)
    order = _renamed((order for part in parts for order in part.order), same)
    merged = _merged(jobs, same)
    return Derived(
        jobs=tuple(merged),
        order=tuple(dict.fromkeys([*order, *_last_on_its_model(shots, merged, same, order)])),
        runs=tuple(run for part in parts for run in part.runs),
        set_ups=_set_ups(parts, same),
    )


# --- one shot


def _of_shot(shot: ShotToFilm, figures: DayFigures, hands: Sequence[Hand], stage: str) -> Derived:
    by_set_up: dict[int, list[_Plate]] = defaultdict(list)
    for member, filming in zip(shot.stack.members, shot.filming, strict=True):
        if filming is not None and member.setup is not None and member.set_up_key is not None:
            by_set_up[member.set_up_key].append(_Plate(member, filming))
    open_keys = {
        key: plates for key, plates in by_set_up.items() if not all(plate.filming.done for plate in plates)
    }
    ranked = sorted(open_keys, key=lambda key: min(plate.filming.rank for plate in open_keys[key]))
    jobs: list[Job] = []
    runs: list[Run] = []
    blocks: dict[int, list[Job]] = {}
    for key in ranked:
        plates = [plate for plate in open_keys[key] if not plate.filming.done]
        job = _job(shot, key, plates, figures, hands, stage)
        blocks[key] = _blocks(job, plates, shot, figures)
        jobs += blocks[key]
        if len(blocks[key]) > 1:
            keys = tuple(block.key for block in blocks[key])
            runs.append(Run(jobs=keys, why=f"{job.title} is moved frame by frame: nothing else on its table"))
    return Derived(
        tuple(jobs),
        tuple(_order(ranked, open_keys, blocks)),
        tuple(runs),
        {block.key: (key,) for key, own in blocks.items() for block in own},
    )


def _job(
    shot: ShotToFilm,
    key: int,
    plates: Sequence[_Plate],
    figures: DayFigures,
    hands: Sequence[Hand],
    stage: str,
) -> Job:
    standing = shot.set_ups.get(key, StandingSetUp(str(key)))
    layers = [plate.member.layer for plate in plates]
    main = next((layer for layer in layers if layer.kind not in PASSES), layers[0])
    setup = plates[0].member.setup
    assert setup is not None
    model = _model(layers)
    outdoors = setup.sun_at is not None
    hour, sun = _daylight(shot, setup, plates)
    at_stage = not outdoors and any(layer.kind in OF_THE_STAGE for layer in layers)
    return Job(
        key=str(key),
        name=standing.name[:120],
        shots=(shot.code,),
        before_min=round(figures.rig_min + figures.light_min),
        takes_min=max(1, round(_takes_min(plates, figures))),
        after_min=round(figures.strike_min),
        place=stage if at_stage or not shot.place else shot.place,
        camera=standing.camera,
        lens=standing.lens,
        model=model,
        table=model,
        light="the sun" if sun or outdoors else _light(setup, main),
        backing=setup.backing.name if setup.backing else "",
        position=_position(setup, model or shot.code),
        people=_people(layers, hands),
        outdoors=outdoors,
        hour=hour,
        sun=sun,
    )


def _model(layers: Iterable[Layer]) -> str:
    """What stands on the table: the first model or puppet, with its scale."""
    for layer in layers:
        if layer.kind in ("model", "frame_by_frame"):
            scale = f"1:{layer.scale:g}"
            return layer.name if layer.scale == 1 or scale in layer.name else f"{layer.name} {scale}"
    return ""


def _takes_min(plates: Sequence[_Plate], figures: DayFigures) -> float:
    minutes = 0.0
    for plate in plates:
        reset, takes = figures.reset_min, figures.takes
        if plate.filming.destroys:
            reset, takes = figures.destroyed_reset_min, figures.destroyed_takes
        elif plate.member.layer.kind in PASSES:
            takes = figures.pass_takes
        if plate.member.layer.kind != "frame_by_frame":
            minutes += takes * (figures.roll_min + reset)
    return minutes


def _blocks(job: Job, plates: Sequence[_Plate], shot: ShotToFilm, figures: DayFigures) -> list[Job]:
    """The job, or its blocks where what is moved frame by frame takes longer than one."""
    seconds = shot.stack.plan.length_frames / shot.stack.delivery.frame_rate_fps
    moved = sum(plate.member.layer.kind == "frame_by_frame" for plate in plates)
    if not moved:
        return [job]
    minutes = job.takes_min * (moved < len(plates)) + 60.0 * moved * seconds / shot.seconds_per_hour
    count = max(1, math.ceil(minutes / figures.block_min))
    each = math.ceil(minutes / count)
    told = []
    for number in range(count):
        told.append(
            job.model_copy(
                update={
                    "key": job.key if count == 1 else f"{job.key}.{number + 1}",
                    "name": job.name if count == 1 else f"{job.name}, block {number + 1} of {count}",
                    "before_min": job.before_min if number == 0 else 10,
                    "takes_min": each,
                    "after_min": job.after_min if number == count - 1 else 0,
                }
            )
        )
    return told


def _light(setup: SetUp, layer: Layer) -> str:
    """How the light stands, as somebody would read it off; the same words mean the same light."""
    key = key_of(resolved(setup, layer), layer)
    if key.azimuth_deg is None or key.elevation_deg is None:
        return f"{setup.light_k:.0f} K"
    side = "left" if key.azimuth_deg < 0 else "right"
    return f"{abs(key.azimuth_deg):.0f}° {side}, {key.elevation_deg:.0f}° up, {setup.light_k:.0f} K"


def _position(setup: SetUp, beside: str) -> str:
    return f"{setup.distance_m:.2f} m from {beside}, {setup.lens_height_m:.2f} m high, {setup.tilt_deg:+.0f}°"


def _daylight(shot: ShotToFilm, setup: SetUp, plates: Sequence[_Plate]) -> tuple[Light, SunKey | None]:
    """The light wanted outdoors: the sun as the hero's key, or an hour where it is too low to be one. A model
    outdoors can be turned; a place cannot.
    """
    day = day_over(setup)
    if day is None:
        return "any", None
    if day.elevation_deg <= _SUNRISE:
        return ("twilight" if day.elevation_deg > _TWILIGHT else "dark"), None
    hero = next((member for member in shot.stack.members if member.is_hero), plates[0].member)
    key = key_of(shot.stack.hero, hero.layer)
    if setup.sky == "overcast" or key.azimuth_deg is None or key.elevation_deg is None:
        return ("golden" if day.elevation_deg < _GOLDEN else "day"), None
    turns = _model(plate.member.layer for plate in plates) != ""
    heading = setup.heading_deg % 360.0
    return "any", SunKey(
        azimuth_deg=key.azimuth_deg,
        elevation_deg=key.elevation_deg,
        heading_deg=heading,
        heading_to_deg=(heading + _FULL_TURN) % 360.0 if turns else None,
    )


def _people(layers: Sequence[Layer], hands: Sequence[Hand]) -> tuple[str, ...]:
    model = any(layer.scale > 1 and layer.kind in ("model", "rig") for layer in layers)
    moved = any(layer.kind == "frame_by_frame" for layer in layers)
    rolls = any(layer.kind != "frame_by_frame" for layer in layers)
    wanted = {"every": True, "camera": rolls, "model": model, "animator": moved}
    names = " ".join(layer.name for layer in layers).casefold()
    return tuple(
        hand.key
        for hand in hands
        if wanted.get(hand.duty, False)
        or (hand.duty == "plays" and any(word.casefold() in names for word in hand.plays if word.strip()))
    )


# --- what comes before what


def _order(
    ranked: Sequence[int], plates: dict[int, list[_Plate]], blocks: dict[int, list[Job]]
) -> Iterable[Order]:
    """Within a shot: blocks one after the other; the hero before what comes after it and is solved to it; a
    clean plate straight after its action, or before it where nothing is left of that.
    """
    for own in blocks.values():
        for earlier, later_block in pairwise(own):
            yield Order(first=earlier.key, then=later_block.key, why="one block after the other")
    for place, key in enumerate(ranked):
        for later in ranked[place + 1 :]:
            reason = _reason(plates[key], plates[later])
            if reason:
                first, then, straight = blocks[key][-1].key, blocks[later][0].key, False
                if _only_clean(plates[later]):
                    straight = True
                    if any(plate.filming.destroys for plate in plates[key]):
                        first, then, straight = blocks[later][-1].key, blocks[key][0].key, False
                        reason = "a clean plate before nothing is left of it"
                yield Order(first=first, then=then, why=reason[:300], straight=straight)


def _only_clean(plates: Sequence[_Plate]) -> bool:
    return all(plate.member.layer.kind == "clean_plate" for plate in plates)


def _reason(before: Sequence[_Plate], after: Sequence[_Plate]) -> str:
    """Why one set-up of a shot must be filmed before another; "" where it need not."""
    own = {plate.member.layer.name for plate in before}
    if _only_clean(after):
        action = [plate for plate in after if plate.member.layer.pass_of in own]
        hero = any(plate.member.is_hero for plate in before)
        if action or (hero and not any(plate.member.layer.pass_of for plate in after)):
            return f"{after[0].member.layer.name}: a clean plate straight after its action"
        return ""
    if any(plate.member.is_hero for plate in before):
        why = next((plate.filming.why for plate in after if plate.filming.why), "")
        return why or f"{after[0].member.layer.name} is lit and framed to the hero as it was filmed"
    passes = [plate for plate in after if plate.member.layer.pass_of in own]
    return f"{passes[0].member.layer.name} belongs to {passes[0].member.layer.pass_of}" if passes else ""


def _last_on_its_model(
    shots: Sequence[ShotToFilm], jobs: Sequence[Job], same: dict[str, str], order: Sequence[Order]
) -> Iterable[Order]:
    """What destroys a model comes after everything else on it, but for what must follow it anyhow."""
    after = {(own.first, own.then) for own in order}
    destroys = {
        same.get(str(member.set_up_key), str(member.set_up_key))
        for shot in shots
        for member, filming in zip(shot.stack.members, shot.filming, strict=True)
        if filming is not None and filming.destroys and not filming.done
    }
    for last in jobs:
        if last.key in destroys and last.model:
            for job in jobs:
                if job.model == last.model and job.key not in destroys and (last.key, job.key) not in after:
                    yield Order(first=job.key, then=last.key, why=f"nothing is left of {last.model} after it")


# --- set-ups that are the same


def _same(shots: Sequence[ShotToFilm], jobs: Sequence[Job], parts: Sequence[Derived]) -> dict[str, str]:
    """For each job that films the same as one before it, that one's key."""
    setups: dict[int, SetUp] = {
        member.set_up_key: member.setup
        for shot in shots
        for member in shot.stack.members
        if member.set_up_key is not None and member.setup is not None
    }
    of_job = {key: own[0] for part in parts for key, own in part.set_ups.items()}
    known: dict[tuple[object, ...], str] = {}
    told: dict[str, str] = {}
    for job in jobs:
        setup = setups[of_job[job.key]]
        stands = job.place, job.camera, job.lens, job.model, job.people, setup.model_dump_json()
        if "." in job.key:
            continue
        if stands in known:
            told[job.key] = known[stands]
        else:
            known[stands] = job.key
    return told


def _merged(jobs: Sequence[Job], same: dict[str, str]) -> list[Job]:
    by_key = {job.key: job for job in jobs if job.key not in same}
    for job in jobs:
        if job.key in same:
            first = by_key[same[job.key]]
            by_key[first.key] = first.model_copy(
                update={
                    "shots": tuple(dict.fromkeys((*first.shots, *job.shots))),
                    "takes_min": first.takes_min + job.takes_min,
                }
            )
    return list(by_key.values())


def _renamed(order: Iterable[Order], same: dict[str, str]) -> list[Order]:
    told = []
    for own in order:
        first, then = same.get(own.first, own.first), same.get(own.then, own.then)
        if first != then:
            told.append(own.model_copy(update={"first": first, "then": then}))
    return told


def _set_ups(parts: Sequence[Derived], same: dict[str, str]) -> dict[str, tuple[int, ...]]:
    told: dict[str, tuple[int, ...]] = {}
    for part in parts:
        for key, own in part.set_ups.items():
            first = same.get(key, key)
            told[first] = (*told.get(first, ()), *own)
    return told
