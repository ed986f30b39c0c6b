"""A shot as it is planned, for core: what is being tried laid over what is saved."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from django.db.models import Prefetch, Q, QuerySet

from jungoptic.app.kit.reading import kit_of, with_retired
from jungoptic.app.shots import records
from jungoptic.app.shots.camera import CameraSettings
from jungoptic.app.shots.models import Layer, Line, PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.core import light
from jungoptic.core import match as core
from jungoptic.core.kit import Kit
from jungoptic.core.match import BoardLine
from jungoptic.core.plan import Shared

NOT_OF_THE_RECORD = frozenset(
    {"removed", "set_up_id", "note", "key_colour", "picture_id"}
)  # a layer's columns that core does not know
_FROM_FRONT_EDGE = ("behind_m", "aim_behind_m")
_OF_THE_ROW = frozenset({"removed", "only_for_id"})
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

    @property
    def any(self) -> bool:
        """Whether anything is tried."""
        return any((self.set_ups, self.layers, self.lamps, self.backings, self.lines, self.shot))


def _gone(row: Layer | Line | PlacedLamp | PlacedBacking, tried: Changes) -> bool:
    """Whether the row is out of the shot, as tried or else as saved."""
    return bool(tried.get(row.pk, _NONE).get("removed", row.removed))


def _tried(tried: Changes, pk: int) -> dict[str, Any]:
    """What is tried of a row that stands, as core knows it."""
    return {name: value for name, value in tried.get(pk, _NONE).items() if name not in _OF_THE_ROW}


def counted_further(values: Mapping[str, Any], by_m: float) -> dict[str, Any]:
    """What is counted behind a front edge, counted from one that stands so much nearer, metres."""
    return {
        name: value + by_m if name in _FROM_FRONT_EDGE and isinstance(value, int | float) else value
        for name, value in values.items()
    }


def lamp_values(lamp: PlacedLamp) -> dict[str, Any]:
    """A lamp as core knows it."""
    return {name: value for name, value in lamp.values().items() if name not in _OF_THE_ROW}


def neighbours_of(shot: Shot) -> tuple[int | None, int | None]:
    """The shots before and after a shot in the cut, as it is now."""
    codes = list(Shot.in_cut.filter(production=shot.production_id).values_list("pk", flat=True))
    if shot.pk not in codes:
        return None, None
    at = codes.index(shot.pk)
    return (codes[at - 1] if at else None, codes[at + 1] if at + 1 < len(codes) else None)


class PlanTable:
    """A shot as it is planned: its layers, set-ups and lines as core records, with what is being tried."""

    def __init__(self, shot: Shot, draft: Draft | None = None, *, after_finish: bool = True) -> None:
        self.shot, self.draft, self.after_finish = shot, draft or Draft(), after_finish
        self.layers: list[Layer] = [one for one in shot.layers.all() if not _gone(one, self.draft.layers)]
        self.set_ups = {one.pk: one for one in shot.set_ups.all()}
        self.values = records.shot_values(shot) | dict(self.draft.shot.get(shot.pk, _NONE))
        self.lines = [one for one in shot.lines.all() if not _gone(one, self.draft.lines)]
        self.plan, self.move, self.framing = records.shot_records(
            self.values, shot, tuple(self.line_record(one) for one in self.lines)
        )
        self.delivery = records.delivery(shot.production, self.plan, self.move, self.framing, after_finish)
        self._kits: dict[int, Kit] = {}
        self._records: dict[int, core.Layer] = {}
        self._planned: dict[int, core.SetUp] = {}
        self._own: dict[int, core.SetUp] = {}

    @cached_property
    def neighbours(self) -> tuple[int | None, int | None]:
        """The shots before and after in the cut; while something is tried, as they were last read: a hand
        does not wait for what it does not move.
        """
        kept: tuple[int | None, int | None] | None = self.shot.__dict__.get("_neighbours")
        if kept is None or not self.draft.any:
            kept = self.shot.__dict__["_neighbours"] = neighbours_of(self.shot)
        return kept

    @property
    def hero_layer(self) -> Layer | None:
        return next((layer for layer in self.layers if layer.is_hero), None)

    def line_record(self, line: Line) -> BoardLine:
        """Core's line; it speaks of its layer by the name that the layer has now."""
        values = line.values() | _tried(self.draft.lines, line.pk)
        layer_id = values.pop("layer_id")
        layer = next((one for one in self.layers if one.pk == layer_id), None)
        name = self.draft.layers.get(layer.pk, _NONE).get("name", layer.name) if layer else ""
        found: BoardLine = BoardLine.read(values | {"layer": name})
        return found

    def kit(self, set_up: CameraSettings) -> Kit:
        camera_id = set_up.mode.camera_id
        if camera_id not in self._kits:
            self._kits[camera_id] = kit_of(camera_id, self.shot.production)
        return with_retired(self._kits[camera_id], set_up.lens, set_up.mode)

    def lamps_of(self, set_up_id: int) -> list[PlacedLamp]:
        """Every lamp in the set of a set-up."""
        found: list[PlacedLamp] = self.set_ups[set_up_id].standing_lamps  # type: ignore[attr-defined]
        return [one for one in found if not _gone(one, self.draft.lamps)]

    def only_for(self, lamp: PlacedLamp) -> int | None:
        """The pass that a lamp is lit for, as tried or else as saved."""
        value: int | None = self.draft.lamps.get(lamp.pk, _NONE).get("only_for_id", lamp.only_for_id)
        return value

    def lamps_on(self, layer: Layer) -> list[PlacedLamp]:
        """The lamps that burn while a layer is filmed: a pass's own where it has some, else those for all."""
        if layer.set_up_id is None:
            return []
        lamps = self.lamps_of(layer.set_up_id)
        own = [lamp for lamp in lamps if self.only_for(lamp) == layer.pk]
        return own or [lamp for lamp in lamps if self.only_for(lamp) is None]

    def backing_of(self, set_up_id: int) -> PlacedBacking | None:
        found: list[PlacedBacking] = self.set_ups[set_up_id].standing_backings  # type: ignore[attr-defined]
        return next((one for one in found if not _gone(one, self.draft.backings)), None)

    def layer_record(self, layer: Layer) -> core.Layer:
        if layer.pk not in self._records:
            self._records[layer.pk] = self._read_layer(layer)
        return self._records[layer.pk]

    def _read_layer(self, layer: Layer) -> core.Layer:
        changes = {
            name: value
            for name, value in self.draft.layers.get(layer.pk, _NONE).items()
            if name not in NOT_OF_THE_RECORD
        }
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
        """How far behind the nearest layer of its set-up this one lies, metres of the set; 0 for a
        picture.
        """
        if layer.set_up_id is None:
            return 0.0
        place = self.layer_record(layer)
        return (place.near_m - self._nearest_m(layer.set_up_id)) / place.scale

    def set_up_record(self, layer: Layer, settings: CameraSettings | None = None) -> core.SetUp:
        """Core's set-up for one layer, lamps and backing in it: distances are counted to that layer, not to
        the nearest of the set-up.
        """
        if settings is None:
            if layer.pk not in self._planned:
                self._planned[layer.pk] = self._read_set_up(layer, None)
            return self._planned[layer.pk]
        return self._read_set_up(layer, settings)

    def _read_set_up(self, layer: Layer, settings: CameraSettings | None) -> core.SetUp:
        assert layer.set_up is not None and layer.set_up_id is not None
        fact = settings.fact() if settings else None
        if fact is not None:
            return fact
        record = self._without_light(layer.set_up, settings)
        behind = self.behind_m(layer)
        lamps = tuple(
            light.PlacedLamp.read(lamp_values(lamp) | _tried(self.draft.lamps, lamp.pk))
            for lamp in self.lamps_on(layer)
        )
        row = self.backing_of(layer.set_up_id)
        backing = light.Backing.read(row.values() | _tried(self.draft.backings, row.pk)) if row else None
        if not behind and not lamps and backing is None:
            return record
        return record.model_copy(
            update={
                "distance_m": record.distance_m + behind,
                "lamps": (
                    tuple(
                        lamp.model_copy(update=counted_further(lamp.model_dump(), -behind)) for lamp in lamps
                    )
                    if behind
                    else lamps
                ),
                "backing": (
                    backing.model_copy(update={"behind_m": backing.behind_m - behind})
                    if backing and behind
                    else backing
                ),
            }
        )

    def _without_light(self, set_up: SetUp, settings: CameraSettings | None) -> core.SetUp:
        """A set-up's own camera, before what stands in its set; read once for all the layers that it
        films.
        """
        if settings is None and set_up.pk in self._own:
            return self._own[set_up.pk]
        tried = self.draft.set_ups.get(set_up.pk, _NONE)
        source = settings or set_up
        references = tried.get("references", set_up.references)
        values = source.values() | {
            "references": tuple(references) if isinstance(references, list | tuple) else references
        }
        if settings is None and tried:
            values = records.with_kit(self.kit(set_up), {**values, **tried})
        production = self.shot.production
        values |= {
            "mains_hz": production.mains_hz,
            "latitude_deg": production.latitude_deg,
            "longitude_deg": production.longitude_deg,
        }
        record: core.SetUp = core.SetUp.read(values)
        if settings is None:
            self._own[set_up.pk] = record
        return record

    def beside(self, layer: Layer) -> list[Layer]:
        """The other layers that the same set-up films, but for a hero."""
        return [
            other
            for other in self.layers
            if layer.set_up_id is not None
            and other is not layer
            and other.set_up_id == layer.set_up_id
            and not other.is_hero
        ]

    def shared_with(self, layer: Layer) -> list[Shared]:
        """The other layers that the same set-up films, with how far behind this one they lie in the set."""
        others = self.beside(layer)
        own = self.set_up_record(layer).distance_m if others else 0.0
        return [
            Shared(self.layer_record(other), self.set_up_record(other).distance_m - own) for other in others
        ]


def planned(layers: QuerySet[Layer] | None = None, *, removed_too: bool = False) -> QuerySet[Shot]:
    """Shots with layers (those of ``layers``, else all that stand), parts, set-ups, lamps, backings and
    lines, in a fixed number of queries.
    """
    if layers is None:
        layers = standing_layers(removed_too=removed_too)
    standing = Q() if removed_too else Q(removed=False)
    set_ups = SetUp.objects.select_related("lens", "mode__camera").prefetch_related(
        Prefetch("lamps", queryset=PlacedLamp.objects.filter(standing), to_attr="standing_lamps"),
        Prefetch("backings", queryset=PlacedBacking.objects.filter(standing), to_attr="standing_backings"),
    )
    return Shot.objects.select_related("production", "place").prefetch_related(
        Prefetch("layers", queryset=layers),
        Prefetch("set_ups", queryset=set_ups),
        Prefetch("lines", queryset=Line.objects.filter(standing)),
    )


def standing_layers(*, removed_too: bool = False) -> QuerySet[Layer]:
    """The layers of the stack, front first, with their parts."""
    return (
        Layer.objects.filter(Q() if removed_too else Q(removed=False))
        .order_by("shot_id", "place")
        .select_related("picture")
        .prefetch_related("parts")
    )


def with_its_set_ups(shot: Shot) -> Shot:
    """Set-ups are read with the shot, not once more with each layer."""
    set_ups = {one.pk: one for one in shot.set_ups.all()}
    for layer in shot.layers.all():
        if layer.set_up_id in set_ups:
            layer.set_up = set_ups[layer.set_up_id]
    return shot


def planned_shot(shot_id: int) -> Shot:
    """One shot as above, ready to be checked."""
    return with_its_set_ups(planned().get(pk=shot_id))
