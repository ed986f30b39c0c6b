"""The Log's set-up cards and takes, in the shapes that go over the wire."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from zlib import crc32

from django.db.models import F, Window
from django.db.models.functions import RowNumber

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.plan import lamp_values
from jungoptic.app.takes.log import judge_take
from jungoptic.app.takes.models import Judging, Take, TakeVerdict
from jungoptic.app.takes.table import BenchTable, Judged
from jungoptic.core.kit import Kit
from jungoptic.core.light import PlacedLamp
from jungoptic.core.match import Judgement, SetUp, differences, worst
from jungoptic.core.plan import SLATE, CardSetting, card_lamps, card_settings, dials, protocol, slate_reaches
from jungoptic.core.vocabulary import ACTED, VERDICTS, School, Units
from jungoptic.core.wording import Words, amount_text

PAGE = 10
NO_TAKES: Json = {"takes": [], "more": False}
_TAKE = (
    *("id", "layer_id", "number", "slate", "slate_code", "slate_number"),
    *("circled", "note", "in_it", "rolled_s", "marks", "recorded_at", "version", "filled"),
)
_READ = (
    *_TAKE,
    "layer__name",
    "filmed",
    "planned",
    "recorded_by__first_name",
    "recorded_by__last_name",
    "recorded_by__username",
)
_SAID_NOW = ("item", "label", "where", "unit", "verdict", "sentence", "to_do")
_SAID = ("item", "label", "amount", "unit", "verdict", "covered_verdict", "counts")


@dataclass(frozen=True)
class Reader:
    """For whom takes are answered: units, school, and the kit that names what was planned and filmed."""

    units: Units
    school: School
    kit: Kit


def takes_of(layers: Iterable[int], *, before: int | None = None) -> dict[int, list[Json]]:
    """The newest takes of each layer, newest first, one more than a page: plain rows, for a list of fifty is
    read while somebody waits.
    """
    rows = Take.objects.filter(layer__in=list(layers))
    if before is not None:
        rows = rows.filter(number__lt=before)
    newest = Window(RowNumber(), partition_by="layer", order_by="-number")
    found: dict[int, list[Json]] = defaultdict(list)
    for row in rows.annotate(nth=newest).filter(nth__lte=PAGE + 1).order_by("-number").values(*_READ):
        found[row["layer_id"]].append(row)
    return found


def pages(takes: Mapping[int, list[Json]], readers: Mapping[int, Reader]) -> dict[int, Json]:
    """A page of takes by layer, and whether there are earlier ones."""
    if not takes:
        return {}
    shown = {layer: rows[:PAGE] for layer, rows in takes.items()}
    units = readers[next(iter(takes))].units
    judged = _judged([row["id"] for rows in shown.values() for row in rows], units)
    return {
        layer: {
            "takes": [_answer(row, judged[row["id"]], readers[layer]) for row in rows],
            "more": len(takes[layer]) > PAGE,
        }
        for layer, rows in shown.items()
    }


def one_take(take_id: int, reader: Reader) -> Json:
    """One take as in a page."""
    return _answer(
        Take.objects.filter(pk=take_id).values(*_READ)[0], _judged([take_id], reader.units)[take_id], reader
    )


def _judged(takes: list[int], units: Units) -> dict[int, tuple[Json, list[Json]]]:
    """The judging that stands of each take, with its verdicts."""
    last = (
        Judging.objects.filter(take__in=takes)
        .order_by("take_id", "-pk")
        .distinct("take_id")
        .values("id", "take_id", "at", "against__number")
    )
    judgings: dict[int, Json] = {one["id"]: dict(one) for one in last}
    verdicts: dict[int, list[Json]] = defaultdict(list)
    texts = {"where": F(f"where_{units}"), "sentence": F(f"sentence_{units}"), "to_do": F(f"to_do_{units}")}
    for row in (
        TakeVerdict.objects.filter(judging__in=list(judgings))
        .order_by("id")
        .values("judging_id", *_SAID, **texts)
    ):
        verdicts[row["judging_id"]].append(row)
    return {one["take_id"]: (one, verdicts[pk]) for pk, one in judgings.items()}


def _answer(take: Json, judged: tuple[Json, list[Json]], reader: Reader) -> Json:
    """A take as it was recorded, with the verdicts as they were given; nothing of it is worked out anew."""
    judging, given = judged
    verdict = "covered_verdict" if reader.school == "covered" else "verdict"
    changed = take["planned"] != take["filmed"]
    told = (
        differences(SetUp.read(take["planned"]), SetUp.read(take["filmed"]), Words(reader.units), reader.kit)
        if changed
        else ()
    )
    person = (
        f"{take['recorded_by__first_name']} {take['recorded_by__last_name']}".strip()
        or take["recorded_by__username"]
    )
    return {
        **{name: take[name] for name in _TAKE},
        "layer_name": take["layer__name"],
        "recorded_by": person,
        "judged_at": judging["at"],
        "against": _against(judging["against__number"]),
        **counted(Counter(one[verdict] for one in given if one["counts"])),
        "differences": [fields_of(one) for one in told],
        "items": [
            {
                "item": one["item"],
                "label": one["label"],
                "amount_text": amount_text(one["amount"]),
                "unit": one["unit"],
                "verdict": one[verdict],
                "where": one["where"],
                "sentence": one["sentence"],
                "to_do": one["to_do"],
            }
            for one in given
        ],
    }


def counted(counts: Mapping[str, int]) -> Json:
    """How many items have each verdict, and the worst."""
    return {"verdict": worst(counts), **{word: counts.get(word, 0) for word in VERDICTS}}


def _against(hero_take: int | None) -> str:
    return f"hero take {hero_take}" if hero_take else "the plan"


def judged_now(table: BenchTable, take: Take) -> Json:
    """The same take against the shot, the kit and the limits as they stand now."""
    judged = judge_take(table, take)
    hero_take = None if judged.layer.is_hero else table.hero_take
    return {
        "take_id": take.pk,
        "against": _against(hero_take.number if hero_take else None),
        **counted(judged.counts),
        "items": [item_of(item) for item in judged.items],
    }


def item_of(item: Judgement) -> Json:
    """One item as it is given now."""
    return {
        **{name: getattr(item, name) for name in _SAID_NOW},
        "amount_text": amount_text(item.amount),
    }


def card_of(table: BenchTable, layer: Layer, plan: Judged) -> list[CardSetting]:
    """The set-up card of a filmed layer: its camera, and the lamps that burn for it."""
    assert layer.set_up is not None
    kit = table.kit(layer.set_up)
    turned = dials(plan.match, plan.items, (), kit, table.words, table.focus_band_m(plan))
    burning = [(row.pk, PlacedLamp.read(lamp_values(row))) for row in table.lamps_on(layer)]
    return [
        *card_settings(SetUp.read(layer.set_up.values()), turned, kit, table.words),
        *card_lamps(burning, table.words),
    ]


def _digest(card: list[CardSetting], plan: Judged) -> str:
    """The same as long as nothing of a layer's plan, its hero and its limits is another: takes leave it."""
    judged = [(item.item, item.amount, item.holds, item.tight) for item in plan.items]
    return f"{crc32(repr((card, judged, sorted(plan.accepted))).encode()):08x}"


def log_answer(table: BenchTable, role: str, shown: int) -> Json:
    """Everything that the Log shows at the camera."""
    previous, following = table.neighbours
    layers = []
    filmed = [layer for layer in table.layers if layer.set_up is not None] if table.hero else []
    everything = takes_of(layer.pk for layer in filmed)
    readers = {
        layer.pk: Reader(table.words.units, table.school, table.kit(layer.set_up))
        for layer in filmed
        if layer.set_up
    }
    shown_takes = pages(everything, readers)
    for layer in filmed:
        assert layer.set_up is not None
        plan = table.judge(layer)
        takes = everything.get(layer.pk)
        layers.append(
            {
                "id": layer.pk,
                "name": layer.name,
                "kind": layer.kind,
                "is_hero": layer.is_hero,
                "acted": layer.kind in ACTED,
                **counted(plan.counts),
                "next_take": takes[0]["number"] + 1 if takes else 1,
                "settings": (card := card_of(table, layer, plan)),
                "plan": _digest(card, plan),
                "steps": protocol(table.stack, table.layers.index(layer)),
                "reaches": slate_reaches(table.set_up_record(layer), table.words),
                **shown_takes.get(layer.pk, NO_TAKES),
            }
        )
    return {
        "shot_id": table.shot.pk,
        "code": table.shot.code,
        "title": table.shot.title,
        "production_id": table.shot.production_id,
        "role": role,
        "shown": shown,
        "previous_id": previous,
        "next_id": following,
        "hero_basis": table.hero_basis,
        "slate_says": SLATE,
        "layers": sorted(layers, key=lambda line: not line["is_hero"]),
    }
