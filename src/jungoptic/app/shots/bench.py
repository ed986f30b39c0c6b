"""One shot laid out: reads it from the database in a fixed number of queries and has core judge every layer."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from threading import Lock
from typing import Any

from django.db.models import Count, Prefetch, QuerySet

from jungoptic.app.kit.models import kit_of
from jungoptic.app.productions.models import Production
from jungoptic.app.shots import read
from jungoptic.app.shots.models import Acceptance, Layer, Line, PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.kit.records import Kit
from jungoptic.core.light import placed
from jungoptic.core.match import records as core
from jungoptic.core.match.board import BoardLine
from jungoptic.core.match.compare import Judgement, PlacingErrors, judge_match, judge_member
from jungoptic.core.match.explain import focus_band_m, own_depth_m
from jungoptic.core.match.lighting import resolved
from jungoptic.core.match.measure import Match
from jungoptic.core.match.stack import Member, Stack
from jungoptic.core.match.tolerances import School, Tolerance
from jungoptic.core.plan.solve import Shared
from jungoptic.core.stage.moment import Moment
from jungoptic.core.wording import Units, Words

NOT_OF_THE_RECORD = frozenset({"removed", "set_up_id", "note", "key_colour"})  # a layer's columns that core does not know
BASIS_SHOT = "shot"


Changes = Mapping[int, Mapping[str, Any]]
_NONE: Mapping[str, Any] = {}


@dataclass(frozen=True)
class Draft:
    """Changes that are being tried and not yet saved: fields by id, for every kind of row."""

    set_ups: Changes = field(default_factory=dict)
    layers: Changes = field(default_factory=dict)
    lamps: Changes = field(default_factory=dict)
    backings: Changes = field(default_factory=dict)
    lines: Changes = field(default_factory=dict)
    shot: Changes = field(default_factory=dict)


@dataclass(frozen=True)
class Judged:
    """One layer held against the hero, as planned or as shot; ``accepted`` by item, where somebody said why it may stay."""

    layer: Layer
    match: Match
    items: tuple[Judgement, ...]
    take: Take | None
    accepted: Mapping[str, Acceptance] = field(default_factory=dict)

    def count(self, verdict: str) -> int:
        return sum(item.verdict == verdict and item.item not in self.accepted and not item.informs for item in self.items)

    @property
    def verdict(self) -> str:
        return next((word for word in ("shows", "tight") if self.count(word)), "holds")

    @property
    def worst(self) -> Judgement | None:
        """What to look at first: the worst item that nobody accepted."""
        return next((item for item in self.items if item.item not in self.accepted and not item.informs), None)


def _with_everything() -> QuerySet[Shot]:
    circled = Take.objects.filter(circled=True).prefetch_related("lens", "mode__camera", "recorded_by")
    layers = (
        Layer.objects.filter(removed=False)
        .annotate(take_count=Count("takes"))
        .order_by("shot_id", "place")  # the order of layers, which counting drops
        .prefetch_related(
            "parts",
            Prefetch("takes", queryset=circled, to_attr="circled_takes"),
            Prefetch("acceptances", queryset=Acceptance.objects.filter(withdrawn=False).select_related("person"), to_attr="accepted"),
        )
    )
    set_ups = SetUp.objects.select_related("lens", "mode__camera").prefetch_related(
        Prefetch("lamps", queryset=PlacedLamp.objects.filter(removed=False), to_attr="standing_lamps"),
        Prefetch("backings", queryset=PlacedBacking.objects.filter(removed=False), to_attr="standing_backings"),
    )
    return Shot.objects.select_related("production__figures", "place", "costing").prefetch_related(
        Prefetch("layers", queryset=layers),
        Prefetch("set_ups", queryset=set_ups),
        Prefetch("lines", queryset=Line.objects.filter(removed=False)),
        "production__tolerances",
    )


def shot_with_everything(shot_id: int) -> Shot:
    """The shot with layers, parts, set-ups, lamps, backings, acceptances and circled takes, ready to judge."""
    return _with_its_set_ups(_with_everything().get(pk=shot_id))


def shots_with_everything(production: Production, shot_ids: Iterable[int]) -> list[Shot]:
    """Shots of a production as above: a dozen together cost little more than one. What is gone meanwhile is left out."""
    shots = list(_with_everything().filter(production=production, pk__in=shot_ids))
    for shot in shots:
        shot.production = shots[0].production  # so that what is kept with it is looked up once
    return [_with_its_set_ups(shot) for shot in shots]


def _with_its_set_ups(shot: Shot) -> Shot:
    """Set-ups are read with the shot, not once more with each layer."""
    set_ups = {one.pk: one for one in shot.set_ups.all()}
    for layer in shot.layers.all():
        if layer.set_up_id in set_ups:
            layer.set_up = set_ups[layer.set_up_id]
    return shot


Versions = tuple[int, int]  # how often the shot, and what its production judges by, have changed
_KEPT: OrderedDict[int, tuple[Versions, Shot]] = OrderedDict()
_MOST_KEPT = 32
_LOCK = Lock()


def shot_to_look_at(shot_id: int, versions: Versions | None = None) -> Shot:
    """The shot for reading, from this process's memory when nothing of it has changed since: a drag reads it many times.

    The database is asked for the versions every time, here or just before by who calls, so a change made anywhere is seen.
    Never write to what this returns.
    """
    if versions is None:
        versions = Shot.objects.values_list("version", "production__revision").get(pk=shot_id)
    with _LOCK:
        kept = _KEPT.get(shot_id)
    if kept and kept[0] == versions:
        return kept[1]
    shot = shot_with_everything(shot_id)
    with _LOCK:
        _KEPT[shot_id] = ((shot.version, shot.production.revision), shot)
        _KEPT.move_to_end(shot_id)
        while len(_KEPT) > _MOST_KEPT:
            _KEPT.popitem(last=False)
    return shot


def take_count(layer: Layer) -> int:
    """Takes that were logged of the layer, circled or not."""
    found: int = layer.take_count  # type: ignore[attr-defined]
    return found


SAME_AMOUNT = 0.01  # a verdict that was accepted stays accepted while its amount is within this share


class BenchTable:
    """A shot on the bench: its hero reference, its layers as core records, and their judgements."""

    def __init__(
        self,
        shot: Shot,
        *,
        school: School,
        units: Units,
        draft: Draft | None = None,
        basis: str = BASIS_SHOT,
        after_finish: bool = True,
        frame: int = 0,
    ) -> None:
        self.shot, self.school, self.words, self.basis, self.after_finish = shot, school, Words(units), basis, after_finish
        self.draft = draft or Draft()
        self.layers: list[Layer] = [one for one in shot.layers.all() if not self.draft.layers.get(one.pk, _NONE).get("removed")]
        self.set_ups = {one.pk: one for one in shot.set_ups.all()}
        self.values = read.shot_values(shot) | dict(self.draft.shot.get(shot.pk, _NONE))
        self.lines = [one for one in shot.lines.all() if not self.draft.lines.get(one.pk, _NONE).get("removed")]
        self.plan, self.move, self.framing = read.shot_records(self.values, shot, tuple(self.line_record(one) for one in self.lines))
        self.frame = min(max(frame, 0), self.plan.length_frames - 1)
        self.moment = Moment.at(self.frame, self.plan.length_frames, self.move)
        self.delivery = read.delivery(shot.production, self.move, self.framing, after_finish)
        production = shot.production
        self.errors = PlacingErrors(production.tape_error_m, production.level_error_deg)
        self.tolerances = {change.item: Tolerance(change.holds, change.tight) for change in production.tolerances.all()}
        self._kits: dict[int, Kit] = {}
        self._records: dict[int, core.Layer] = {}
        self._planned: dict[int, core.SetUp] = {}

    @cached_property
    def neighbours(self) -> tuple[int | None, int | None]:
        """The shots before and after in the cut."""
        codes = list(Shot.in_cut.filter(production=self.shot.production_id).values_list("pk", flat=True))
        if self.shot.pk not in codes:
            return None, None
        at = codes.index(self.shot.pk)
        return (codes[at - 1] if at else None, codes[at + 1] if at + 1 < len(codes) else None)

    @property
    def hero_layer(self) -> Layer | None:
        return next((layer for layer in self.layers if layer.is_hero), None)

    def circled(self, layer: Layer) -> Take | None:
        found: list[Take] = layer.circled_takes  # type: ignore[attr-defined]
        return found[0] if found else None

    def line_record(self, line: Line) -> BoardLine:
        """Core's line; it speaks of its layer by the name that the layer has now."""
        values = line.values() | dict(self.draft.lines.get(line.pk, _NONE))
        values.pop("removed", None)
        layer_id = values.pop("layer_id")
        layer = next((one for one in self.layers if one.pk == layer_id), None)
        name = self.draft.layers.get(layer.pk, _NONE).get("name", layer.name) if layer else ""
        found: BoardLine = BoardLine.read(values | {"layer": name})
        return found

    def kit(self, set_up: SetUp | Take) -> Kit:
        camera_id = set_up.mode.camera_id
        if camera_id not in self._kits:
            self._kits[camera_id] = kit_of(camera_id, self.shot.production)
        return self._kits[camera_id]

    def lamps_of(self, set_up_id: int) -> list[PlacedLamp]:
        found: list[PlacedLamp] = self.set_ups[set_up_id].standing_lamps  # type: ignore[attr-defined]
        return [one for one in found if not self.draft.lamps.get(one.pk, _NONE).get("removed")]

    def backing_of(self, set_up_id: int) -> PlacedBacking | None:
        found: list[PlacedBacking] = self.set_ups[set_up_id].standing_backings  # type: ignore[attr-defined]
        return next((one for one in found if not self.draft.backings.get(one.pk, _NONE).get("removed")), None)

    def layer_record(self, layer: Layer) -> core.Layer:
        if layer.pk not in self._records:
            self._records[layer.pk] = self._read_layer(layer)
        return self._records[layer.pk]

    def _read_layer(self, layer: Layer) -> core.Layer:
        changes = {name: value for name, value in self.draft.layers.get(layer.pk, _NONE).items() if name not in NOT_OF_THE_RECORD}
        if changes:
            return core.Layer.read({**layer.values(), **changes})
        # A shot that is kept for reading keeps its records too, with the corners that they have worked out.
        kept: core.Layer | None = layer.__dict__.get("_record")
        if kept is None:
            kept = layer.__dict__["_record"] = core.Layer.read(layer.values())
        return kept

    def _nearest_m(self, set_up_id: int) -> float:
        return min(self.layer_record(layer).near_m for layer in self.layers if layer.set_up_id == set_up_id)

    def behind_m(self, layer: Layer) -> float:
        """How far behind the nearest layer of its set-up this one lies, metres of the set; 0 for a picture."""
        if layer.set_up_id is None:
            return 0.0
        place = self.layer_record(layer)
        return (place.near_m - self._nearest_m(layer.set_up_id)) / place.scale

    def set_up_record(self, layer: Layer, settings: SetUp | Take | None = None) -> core.SetUp:
        """Core's set-up for one layer, lamps and backing in it: distances are counted to that layer, not to the nearest of the set-up."""
        if settings is None:
            if layer.pk not in self._planned:
                self._planned[layer.pk] = self._read_set_up(layer, None)
            return self._planned[layer.pk]
        return self._read_set_up(layer, settings)

    def _read_set_up(self, layer: Layer, settings: SetUp | Take | None) -> core.SetUp:
        assert layer.set_up is not None and layer.set_up_id is not None
        source = settings or layer.set_up
        values = source.values() | {"references": tuple(layer.set_up.references)}
        if settings is None:
            values |= self.draft.set_ups.get(layer.set_up_id, _NONE)
            if self.draft.set_ups.get(layer.set_up_id):
                values = read.with_kit(self.kit(layer.set_up), values)
        production = self.shot.production
        values |= {"mains_hz": production.mains_hz, "latitude_deg": production.latitude_deg, "longitude_deg": production.longitude_deg}
        record: core.SetUp = core.SetUp.read(values)
        behind = self.behind_m(layer)
        lamps = tuple(placed.PlacedLamp.read(lamp.values() | dict(self.draft.lamps.get(lamp.pk, _NONE))) for lamp in self.lamps_of(layer.set_up_id))
        row = self.backing_of(layer.set_up_id)
        backing = placed.Backing.read(row.values() | dict(self.draft.backings.get(row.pk, _NONE))) if row else None
        if not behind and not lamps and backing is None:
            return record
        return record.model_copy(
            update={
                "distance_m": record.distance_m + behind,
                "lamps": tuple(
                    lamp.model_copy(update={"behind_m": lamp.behind_m - behind, "aim_behind_m": lamp.aim_behind_m - behind}) for lamp in lamps
                ) if behind else lamps,
                "backing": backing.model_copy(update={"behind_m": backing.behind_m - behind}) if backing and behind else backing,
            }
        )  # fmt: skip

    @cached_property
    def hero_take(self) -> Take | None:
        return self.circled(self.hero_layer) if self.hero_layer else None

    @cached_property
    def hero(self) -> core.SetUp | None:
        """The reference, its key written out: what was really shot once a hero take is circled, the plan before."""
        if self.hero_layer is None:
            return None
        return resolved(self.set_up_record(self.hero_layer, self.hero_take), self.layer_record(self.hero_layer))

    @property
    def hero_basis(self) -> str:
        return f"take {self.hero_take.number}" if self.hero_take else "plan"

    def match(self, layer: Layer, settings: SetUp | Take | None = None) -> Match:
        assert self.hero is not None
        record = self.layer_record(layer)
        setup = resolved(self.set_up_record(layer, settings), record) if layer.set_up_id else None
        return Match(self.hero, record, setup, self.delivery)

    def stack_with(self, layer: Layer | None = None, settings: Take | None = None) -> Stack:
        """The whole shot for core; one layer by a take's settings instead of its plan."""
        assert self.hero is not None
        by_take = self.basis == BASIS_SHOT
        members = []
        for one in self.layers:
            take = settings if one is layer else self.circled(one) if by_take else None
            members.append(Member(self.layer_record(one), self.set_up_record(one, take) if one.set_up_id else None, one.set_up_id, one.is_hero))
        return Stack(self.plan, self.delivery, self.hero, tuple(members))

    @cached_property
    def stack(self) -> Stack:
        return self.stack_with()

    def judge(self, layer: Layer, settings: Take | None = None) -> Judged:
        """Judge one layer by the plan, or by a take's settings."""
        kit = self.kit(settings or layer.set_up) if layer.set_up else None
        as_it_stands = self.circled(layer) if self.basis == BASIS_SHOT else None
        stack = self.stack if settings is as_it_stands else self.stack_with(layer, settings)
        match, items = judge_member(
            stack, self.layers.index(layer), school=self.school, tolerances=self.tolerances, kit=kit, units=self.words.units, errors=self.errors
        )
        return Judged(layer, match, items, settings, accepted_of(layer, items))

    def compare(self, layer: Layer, take: Take) -> Judged:
        """A take against the reference, item by item, whatever its layer is: a hero take is held against the hero's plan."""
        match = self.match(layer, take)
        items = judge_match(match, school=self.school, tolerances=self.tolerances, kit=self.kit(take), units=self.words.units, errors=self.errors)
        return Judged(layer, match, items, take, {})

    @cached_property
    def judged(self) -> list[Judged]:
        """Every layer, front first: as shot when a take is circled and the bench shows what was shot, else as planned."""
        if self.hero is None:
            return []
        return [self.judge(layer, self.circled(layer) if self.basis == BASIS_SHOT else None) for layer in self.layers]

    def focus_band_m(self, judged: Judged) -> tuple[float, float]:
        """From where to where the set-up holds focus by the tolerance that judges it; a hero by its own depth of field."""
        match = judged.match
        limit = match.tolerance("focus_far" if match.layer.depth_m else "focus_near", self.school, self.tolerances)[0]
        return own_depth_m(match, limit.holds) if judged.layer.is_hero else focus_band_m(match, limit.holds)

    def shared_with(self, layer: Layer) -> list[Shared]:
        """The other layers that the same set-up films, with how far behind this one they lie in the set."""
        if layer.set_up_id is None:
            return []
        own = self.set_up_record(layer).distance_m
        return [
            Shared(self.layer_record(other), self.set_up_record(other).distance_m - own)
            for other in self.layers
            if other is not layer and other.set_up_id == layer.set_up_id and not other.is_hero
        ]


def accepted_of(layer: Layer, items: tuple[Judgement, ...]) -> dict[str, Acceptance]:
    """The acceptances that still stand: for an item that is not Holds, with the amount that was seen then."""
    rows: list[Acceptance] = getattr(layer, "accepted", [])
    if not rows:
        return {}
    now = {item.item: item for item in items if item.verdict != "holds"}
    return {
        row.item: row
        for row in rows
        if row.item in now and abs(now[row.item].amount - row.amount) <= SAME_AMOUNT * max(abs(row.amount), now[row.item].holds)
    }
