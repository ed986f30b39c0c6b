"""One shot laid out with what was shot of it: read in a fixed number of queries, every layer judged by
core.
"""

from __future__ import annotations

import threading
from collections import Counter, OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from django.db.models import Count, Prefetch, QuerySet

from jungoptic.app.productions.access import Versions
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.camera import CameraSettings
from jungoptic.app.shots.models import Acceptance, Layer, Shot
from jungoptic.app.shots.plan import Draft, PlanTable, planned, standing_layers, with_its_set_ups
from jungoptic.app.takes.models import Take
from jungoptic.core import match as core
from jungoptic.core.match import (
    Judgement,
    Match,
    Member,
    Moment,
    PlacingErrors,
    Stack,
    Tolerance,
    focus_band_m,
    judge_match,
    judge_member,
    measured_members,
    own_depth_m,
    resolved,
    tolerance_of,
    worst,
)
from jungoptic.core.rushes import as_measured
from jungoptic.core.vocabulary import VERDICTS, School, Units
from jungoptic.core.wording import Words

BASIS_SHOT = "shot"


@dataclass(frozen=True)
class Judged:
    """One layer held against the hero, as planned or as shot; ``accepted`` by item, where somebody said why
    it may stay.
    """

    layer: Layer
    match: Match
    items: tuple[Judgement, ...]
    take: Take | None
    accepted: Mapping[str, Acceptance] = field(default_factory=dict)

    def count(self, verdict: str) -> int:
        return self.counts[verdict]

    @cached_property
    def counts(self) -> dict[str, int]:
        """How many items have each verdict, worst first."""
        counted = Counter(
            item.verdict for item in self.items if item.item not in self.accepted and not item.informs
        )
        return {word: counted[word] for word in VERDICTS}

    @property
    def verdict(self) -> str:
        return worst(self.counts)

    @property
    def worst(self) -> Judgement | None:
        """What to look at first: the worst item that nobody accepted."""
        return next(
            (item for item in self.items if item.item not in self.accepted and not item.informs), None
        )


class BenchTable(PlanTable):
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
        super().__init__(shot, draft, after_finish=after_finish)
        self.school, self.words, self.basis = school, Words(units), basis
        self.frame = min(max(frame, 0), self.plan.length_frames - 1)
        self.moment = Moment.at(self.frame, self.plan.length_frames, self.move)
        production = shot.production
        self.errors = PlacingErrors(production.tape_error_m, production.level_error_deg)
        self.tolerances = {
            change.item: Tolerance(change.holds, change.tight) for change in production.tolerances.all()
        }

    def circled(self, layer: Layer) -> Take | None:
        found: list[Take] = layer.circled_takes  # type: ignore[attr-defined]
        return found[0] if found else None

    @cached_property
    def hero_take(self) -> Take | None:
        return self.circled(self.hero_layer) if self.hero_layer else None

    @cached_property
    def hero(self) -> core.SetUp | None:
        """The reference, its key written out: what was really shot once a hero take is circled, and measured
        where its frames were taken for it; the plan before.
        """
        if self.hero_layer is None:
            return None
        record = self.set_up_record(self.hero_layer, self.hero_take)
        if self.hero_take and self.hero_take.measured:
            record = as_measured(record, self.hero_take.measured)
        return resolved(record, self.layer_record(self.hero_layer))

    @property
    def hero_basis(self) -> str:
        if self.hero_take is None:
            return "plan"
        return f"take {self.hero_take.number}{', measured' if self.hero_take.measured else ''}"

    def match(self, layer: Layer, settings: CameraSettings | None = None) -> Match:
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
            members.append(
                Member(
                    self.layer_record(one),
                    self.set_up_record(one, take) if one.set_up_id else None,
                    one.set_up_id,
                    one.is_hero,
                )
            )
        return Stack(self.plan, self.delivery, self.hero, tuple(members))

    @cached_property
    def stack(self) -> Stack:
        return self.stack_with()

    def judge(self, layer: Layer, settings: Take | None = None, match: Match | None = None) -> Judged:
        """Judge one layer by the plan, or by a take's settings; ``match`` where it is measured already."""
        kit = self.kit(settings or layer.set_up) if layer.set_up else None
        as_it_stands = self.circled(layer) if self.basis == BASIS_SHOT else None
        stack = self.stack if settings is as_it_stands else self.stack_with(layer, settings)
        match, items = judge_member(
            stack,
            self.layers.index(layer),
            school=self.school,
            tolerances=self.tolerances,
            kit=kit,
            units=self.words.units,
            errors=self.errors,
            match=match,
        )
        return Judged(layer, match, items, settings, accepted_of(layer, items))

    def before_any_hero_take(self) -> BenchTable:
        """The same shot with the hero's plan as the reference: nothing else stands before a hero's own
        takes.
        """
        table = BenchTable(
            self.shot, school=self.school, units=self.words.units, draft=self.draft, basis=self.basis
        )
        table.__dict__["hero_take"] = None
        return table

    def compare(self, layer: Layer, take: Take) -> Judged:
        """A take against the reference, item by item, whatever its layer is: a hero take is held against the
        hero's plan.
        """
        match = self.match(layer, take)
        items = judge_match(
            match,
            school=self.school,
            tolerances=self.tolerances,
            kit=self.kit(take),
            units=self.words.units,
            errors=self.errors,
        )
        return Judged(layer, match, items, take, {})

    @cached_property
    def judged(self) -> list[Judged]:
        """Every layer, front first: as shot when a take is circled and the bench shows what was shot, else
        as planned.
        """
        if self.hero is None:
            return []
        return [
            self.judge(layer, self.circled(layer) if self.basis == BASIS_SHOT else None, match)
            for layer, match in zip(self.layers, measured_members(self.stack), strict=True)
        ]

    def focus_band_m(self, judged: Judged) -> tuple[float, float]:
        """From where to where the set-up holds focus by the tolerance that judges it; a hero by its own
        depth of field.
        """
        match = judged.match
        item = "focus_far" if match.layer.depth_m else "focus_near"
        limit = tolerance_of(match, item, self.school, self.tolerances)[0]
        return own_depth_m(match, limit.holds) if judged.layer.is_hero else focus_band_m(match, limit.holds)


def accepted_of(layer: Layer, items: tuple[Judgement, ...]) -> dict[str, Acceptance]:
    """The acceptances that still stand: for an item that is not Holds, with the amount that was seen
    then.
    """
    rows: list[Acceptance] = getattr(layer, "accepted", [])
    if not rows:
        return {}
    now = {item.item: item for item in items if item.verdict != "holds"}
    return {
        row.item: row
        for row in rows
        if row.item in now
        and abs(now[row.item].amount - row.amount) <= SAME_AMOUNT * max(abs(row.amount), now[row.item].holds)
    }


SAME_AMOUNT = 0.01  # a verdict that was accepted stays accepted while its amount is within this share


def _with_everything(*, removed_too: bool = False) -> QuerySet[Shot]:
    circled = (
        Take.objects.filter(circled=True)
        .defer("facts")
        .prefetch_related("lens", "mode__camera", "recorded_by")
    )
    layers = (
        standing_layers(removed_too=removed_too)
        .annotate(take_count=Count("takes"))
        .order_by("shot_id", "place")  # the order of layers, which counting drops
        .prefetch_related(
            Prefetch("takes", queryset=circled, to_attr="circled_takes"),
            Prefetch(
                "acceptances",
                queryset=Acceptance.objects.filter(withdrawn=False).select_related("person"),
                to_attr="accepted",
            ),
        )
    )
    # Figures and costing are joined here, so that whoever reckons hours asks no more for each shot.
    return (
        planned(layers, removed_too=removed_too)
        .select_related("production__figures", "costing")
        .prefetch_related("production__tolerances")
    )


def shot_with_everything(shot_id: int, *, removed_too: bool = False) -> Shot:
    """The shot with layers, parts, set-ups, lamps, backings, acceptances and circled takes, ready to
    judge.
    """
    return with_its_set_ups(_with_everything(removed_too=removed_too).get(pk=shot_id))


def shots_with_everything(production: Production, shot_ids: Iterable[int]) -> list[Shot]:
    """Shots of a production as above: a dozen together cost little more than one.

    What is gone meanwhile is left out.
    """
    shots = list(_with_everything().filter(production=production, pk__in=shot_ids))
    for shot in shots:
        shot.production = shots[0].production  # so that what is kept with it is looked up once
    return [with_its_set_ups(shot) for shot in shots]


_MOST_KEPT = 64  # by each process: a crew at as many shots, with their neighbours in the cut


class _Kept:
    """Shots that were read, for all threads: whoever reads one never writes to it."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._shots: OrderedDict[int, tuple[Versions, Shot]] = OrderedDict()

    def get(self, shot_id: int, versions: Versions) -> Shot | None:
        with self._lock:
            kept = self._shots.get(shot_id)
            if kept is None or kept[0] != versions:
                return None
            self._shots.move_to_end(shot_id)
            return kept[1]

    def put(self, shot: Shot) -> None:
        with self._lock:
            self._shots[shot.pk] = ((shot.revision, shot.production.revision), shot)
            self._shots.move_to_end(shot.pk)
            while len(self._shots) > _MOST_KEPT:
                self._shots.popitem(last=False)

    def forget_all(self) -> None:
        with self._lock:
            self._shots.clear()


_KEPT = _Kept()


def forget_all() -> None:
    """Nothing that is kept stands any more: the database was put back to what it was."""
    _KEPT.forget_all()


def shot_to_look_at(shot_id: int, versions: Versions | None = None) -> Shot:
    """The shot for reading, from this process's memory when nothing of it has changed since: a drag reads it
    many times.

    The database is asked for the versions every time, here or just before by who calls, so a change made
    anywhere is seen. Never write to what this returns.
    """
    if versions is None:
        versions = Shot.objects.values_list("revision", "production__revision").get(pk=shot_id)
    shot = _KEPT.get(shot_id, versions)
    if shot is None:
        shot = shot_with_everything(shot_id)
        _KEPT.put(shot)
    return shot


def take_count(layer: Layer) -> int:
    """Takes that were logged of the layer, circled or not."""
    found: int = layer.take_count  # type: ignore[attr-defined]
    return found
