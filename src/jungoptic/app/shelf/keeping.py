"""The kit entered, changed, retired. What a set-up or a take stands on is never lost."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.kit.models import Lens
from jungoptic.app.shelf.rows import KINDS, Kind
from jungoptic.app.shots.models import SetUp
from jungoptic.core import kit as core
from jungoptic.core.errors import FieldProblem, InputError

_OF_THE_LENS = tuple(name for name in core.Lens.model_fields if name != "name")
_PUT_ON = ("dioptres", "tube_mm", "converter")
_NAMED = 6
# What a thing belongs to, which set-ups reckon with.
_STAYS = {"mode": {"camera_id": "camera it records with"}, "lens": {"on_id": "it is put on"}}


def kind_of(key: str) -> Kind:
    """Raises InputError."""
    if key not in KINDS:
        raise InputError.at("kind", f"There is no kind of kit called “{key}”: {', '.join(KINDS)}.")
    return KINDS[key]


def row_in(production_id: int, key: str, pk: Any) -> Any:
    """A row of the production's kit, retired ones too. Raises InputError."""
    kind = kind_of(key)
    where = {kind.to_production: production_id, "pk": pk if isinstance(pk, int) else 0}
    row = kind.model._default_manager.filter(**where).first()
    if row is None:
        raise InputError.at(key, f"The kit has no such {kind.word}.")
    return row


def add(write: Writing, key: str, fields: Mapping[str, Any]) -> Any:
    """A new thing in the kit. Raises InputError at every field that is wrong."""
    kind = kind_of(key)
    values = _checked(write, key, {}, fields)
    _refuse_taken(write, key, values, 0)
    if key != "mode":
        values["production_id"] = write.production_id
    row = kind.model._default_manager.create(**values)
    write.made(key, row)
    return row


def change(write: Writing, key: str, pk: int, version: int, changes: Mapping[str, Any]) -> Any:
    """Change a thing, retire it, bring it back. Raises InputError or ConflictError."""
    row = row_in(write.production_id, key, pk)
    write.refuse_unseen(key, row, version)
    fields = dict(changes)
    removed = fields.pop("removed", row.removed)
    if not isinstance(removed, bool):
        raise InputError.at("removed", "Say yes or no.")
    for name, what in _STAYS.get(key, {}).items():
        if fields.get(name, getattr(row, name)) != getattr(row, name):
            raise InputError.at(name, f"What {what} stays: enter another one.")
    values = _checked(write, key, KINDS[key].values(row), fields) if fields else {}
    if not removed:
        _refuse_taken(write, key, {**KINDS[key].values(row), **values}, row.pk)
    if key == "lens":
        _set_ups_follow(row, values)
    now = KINDS[key].values(row) | {"removed": row.removed}
    write.save(key, row, {n: v for n, v in {**values, "removed": removed}.items() if now[n] != v})
    if key == "lens" and values:
        for fitted in Lens.objects.filter(on=row):
            again = _checked(write, "lens", KINDS["lens"].values(fitted), {})
            _set_ups_follow(fitted, again)
            write.save("lens", fitted, {n: again[n] for n in _OF_THE_LENS if getattr(fitted, n) != again[n]})
    return row


def _plain(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


def _checked(
    write: Writing, key: str, before: Mapping[str, Any], fields: Mapping[str, Any]
) -> dict[str, Any]:
    """Every column as core reads it, and what follows from what was said."""
    kind = KINDS[key]
    said = {**before, **fields}
    if key == "mode":
        said = _with_gate(said)
    if key == "lens" and said.get("on_id") is not None:
        said = _put_on(write, said)
    record: Any = kind.record.read(said)
    values = {name: _plain(getattr(record, name)) for name in kind.columns}
    if not values["name"].strip():
        raise InputError.at("name", f"Give the {kind.word} a name.")
    values["name"] = values["name"].strip()
    for name in ("camera_id", "on_id"):
        if values.get(name) is not None:
            row_in(write.production_id, "camera" if name == "camera_id" else "lens", values[name])
    if key == "lamp" and record.reading_lx is not None:
        intensity, beam = core.lamp_of_reading(record.reading_lx, record.reading_m, record.half_off_m)
        values |= {"intensity_cd": intensity} | ({"beam_deg": beam} if beam is not None else {})
    return values


def _with_gate(said: Mapping[str, Any]) -> dict[str, Any]:
    """The gate by its generic name, or as a photograph told it, and the part of it that the mode uses."""
    values = dict(said)
    name, crop = values.pop("gate", None), values.pop("crop", None)
    own = values.pop("whole_gate_mm", None)
    if name is None and crop is None and own is None:
        return values
    problems = []
    whole = core.GATES[name][1:] if name in core.GATES else own
    if not (
        isinstance(whole, tuple | list)
        and len(whole) == 2
        and all(isinstance(side, int | float) and 0 < side <= 100 for side in whole)
    ):
        problems.append(FieldProblem("gate", f"A gate is one of {', '.join(core.GATES)}."))
    if crop is not None and (
        isinstance(crop, bool) or not isinstance(crop, int | float) or not 0.5 <= crop <= 20
    ):
        problems.append(FieldProblem("crop", f"A crop lies between 0.5 and 20; {crop!r} was given."))
    across, down = values.get("recorded_width_px"), values.get("recorded_height_px")
    if not all(isinstance(side, int | float) and side > 0 for side in (across, down)):
        problems.append(FieldProblem("recorded_width_px", "Say first how many pixels are recorded."))
    if problems:
        raise InputError(*problems)
    width, height = map(float, whole)
    aspect = float(across or 0.0) / float(down or 1.0)
    used = core.recorded_gate_mm(width, height, aspect, float(crop or 1.0))
    return values | {"gate_width_mm": round(used[0], 3), "gate_height_mm": round(used[1], 3)}


def _put_on(write: Writing, said: Mapping[str, Any]) -> dict[str, Any]:
    """A lens with something put on: all of it follows but its name."""
    base = row_in(write.production_id, "lens", said["on_id"])
    if base.on_id is not None:
        raise InputError.at("on_id", "Something is put on this one already: choose the bare lens.")
    amounts = {name: said.get(name) for name in _PUT_ON if said.get(name) is not None}
    wrong = [
        FieldProblem(name, f"{value!r} is no number more than 0.")
        for name, value in amounts.items()
        if isinstance(value, bool) or not isinstance(value, int | float) or not 0 < value < 1000
    ]
    if not amounts:
        wrong.append(FieldProblem("dioptres", "Say what is put on: a close-up lens, a tube or a converter."))
    if wrong:
        raise InputError(*wrong)
    lens = base.record()
    for name, put in (
        ("converter", core.with_converter),
        ("tube_mm", core.with_tube),
        ("dioptres", core.with_close_up),
    ):
        if name in amounts:
            lens = put(lens, float(amounts[name] or 0.0))
    follows = {name: getattr(lens, name) for name in _OF_THE_LENS}
    return {**said, **follows, "name": said.get("name") or lens.name[:60], "camera_id": base.camera_id}


def _refuse_taken(write: Writing, key: str, values: Mapping[str, Any], pk: int) -> None:
    """Two things of a kind need two names: people ask for them by those."""
    kind = KINDS[key]
    where: dict[str, Any] = (
        {"camera_id": values["camera_id"]} if key == "mode" else {kind.to_production: write.production_id}
    )
    same = kind.model._default_manager.filter(**where, name=values["name"], removed=False).exclude(pk=pk)
    if same.exists():
        raise InputError.at("name", f"There is a {kind.word} called “{values['name']}” already.")


def _set_ups_follow(lens: Lens, values: Mapping[str, Any]) -> None:
    """Set-ups stand where they stood when a prime turns out to be a zoom; a zoom whose ends no longer reach
    them is refused.
    """
    if not values:
        return
    ends = values["focal_length_mm"], values["longest_mm"]
    standing = SetUp.objects.filter(lens=lens).select_related("shot")
    if lens.longest_mm is None and ends[1] is not None:
        standing.filter(zoomed_mm=None).update(zoomed_mm=lens.focal_length_mm)
    if lens.longest_mm is None and ends[1] is None:
        return
    low, high = ends[0], ends[1] or ends[0]
    beyond = [
        one
        for one in standing
        if one.zoomed_mm and not low * (1 - 1e-6) <= one.zoomed_mm <= high * (1 + 1e-6)
    ]
    if beyond:
        codes = sorted({f"{one.shot.code} at {one.zoomed_mm:g} mm" for one in beyond})
        more = " …" if len(codes) > _NAMED else ""
        raise InputError.at(
            "longest_mm" if ends[1] else "focal_length_mm",
            f"Set-ups stand outside of that ({', '.join(codes[:_NAMED])}{more}): turn them first.",
        )
    if ends[1] is None:
        standing.update(zoomed_mm=None)


@takes_back(*KINDS)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    """Things as they were; what follows from something else follows again by itself."""
    by_kind: dict[str, list[Change]] = {}
    for one in changes:
        by_kind.setdefault(one.kind, []).append(one)
    for key, some in by_kind.items():
        for pk, fields in as_before(some).items():
            row = row_in(write.production_id, key, pk)
            follows = _OF_THE_LENS if key == "lens" and row.on_id is not None else ()
            own = {name: value for name, value in fields.items() if name not in follows}
            if own:
                change(write, key, pk, row.version, own)
