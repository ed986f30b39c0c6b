"""The shot card: both pictures, every layer's settings, verdicts with their reasons, cautions."""

from __future__ import annotations

from typing import Any

from django.template.loader import render_to_string

from jungoptic.app.papers.drawings import lens_svg, side_svg
from jungoptic.app.papers.pdf import fonts
from jungoptic.app.rushes.values_out import layered
from jungoptic.app.safety.cautions import hazards, signatures
from jungoptic.app.takes.table import BASIS_SHOT, BenchTable, Judged, shot_with_everything
from jungoptic.core.cautions import DEFERENCE
from jungoptic.core.match import NOT_SET, SetUp, differences, settings_in_words
from jungoptic.core.vocabulary import VERDICT_WORDS, VERDICTS, School, Units
from jungoptic.core.wording import Words, amount_text, aspect


def _layer(table: BenchTable, judged: Judged) -> dict[str, Any]:
    layer = judged.layer
    source = judged.take or layer.set_up
    faults = [item for item in judged.items if item.verdict != "holds" and not item.informs]
    record = table.set_up_record(layer, judged.take) if source else None
    changed = (
        differences(SetUp.read(judged.take.planned), record, table.words, table.kit(judged.take))
        if judged.take and record
        else []
    )
    return {
        "name": layer.name,
        "kind": layer.kind.replace("_", " "),
        "combine": layer.combine.replace("_", " ") + (f", {layer.key_colour}" if layer.key_colour else ""),
        "hero": layer.is_hero,
        "scale": f"1:{layer.scale:g}",
        "resize": f"{100 * judged.match.layer.resize:.1f} %",
        "note": layer.note,
        "basis": f"as shot, take {judged.take.number}" if judged.take else "as planned",
        "verdict": VERDICT_WORDS[judged.verdict].title,
        "counts": {word: judged.count(word) for word in VERDICTS},
        "settings": (
            [line for line in settings_in_words(record, table.words, table.kit(source)) if line[2] != NOT_SET]
            if record and source
            else []
        ),
        "changed": changed,
        "faults": [
            {
                "label": one.label,
                "where": one.where,
                "amount": f"{amount_text(one.amount)} {one.unit}",
                "verdict": VERDICT_WORDS[one.verdict].title,
                "sentence": one.sentence,
                "accepted": judged.accepted.get(one.item),
            }
            for one in faults
        ],
        "light": _light(record, table.words) if record else [],
        "side": side_svg(table, judged) if record else "",
    }


def _light(record: SetUp, words: Words) -> list[str]:
    """Where every lamp and the backing stand, for whoever puts them there: from the layer's front edge, the
    lens axis and the floor.
    """
    say = words.length
    lines = []
    for lamp in record.lamps:
        side = f"{say(abs(lamp.across_m))} to the {'right' if lamp.across_m >= 0 else 'left'}"
        along = f"{say(abs(lamp.behind_m))} {'behind' if lamp.behind_m >= 0 else 'before'} the front edge"
        lines.append(
            f"{lamp.name} ({lamp.role}), {100 * lamp.level:.0f} %, {lamp.colour_k:g} K: {side},"
            f" {say(lamp.height_m)} high, {along}."
        )
    backing = record.backing
    if backing:
        lines.append(
            f"{backing.name}, {say(backing.width_m)} × {say(backing.height_m)}: {say(backing.behind_m)}"
            " behind the front edge."
        )
    return lines


def card_html(shot_id: int, *, paper: str, units: Units, school: School) -> str:
    """The card as one HTML page for the PDF maker."""
    shot = shot_with_everything(shot_id)
    table = BenchTable(shot, school=school, units=units, basis=BASIS_SHOT)
    mended = {each.layer_id: each.values.lines for each in layered(shot)}
    layers = [{**_layer(table, judged), "mends": mended.get(judged.layer.pk, ())} for judged in table.judged]
    drawn = next(
        (layer for layer in layers if layer["side"] and not layer["hero"]),
        next((layer for layer in layers if layer["side"]), None),
    )
    production = shot.production
    raised, signed = hazards(table), signatures(shot)
    seconds = shot.length_frames / production.frame_rate_fps
    return render_to_string(
        "shot_card.html",
        {
            "shot": shot,
            "production": production,
            "aspect": aspect(production.delivery_width_px, production.delivery_height_px),
            "seconds": f"{seconds:.1f}",
            "paper": "A4" if paper == "a4" else "letter",
            "school": school.capitalize(),
            "hero_basis": table.hero_basis,
            "lens": lens_svg(table) if table.hero else "",
            "drawn": drawn,
            "layers": sorted(layers, key=lambda layer: not layer["hero"]),
            "cautions": [
                {"caution": one.caution, "by": one.by, "signed": signed.get(one.caution.key)}
                for one in raised
            ],
            "open_cautions": sum(one.caution.key not in signed for one in raised),
            "deference": DEFERENCE,
            "fonts": fonts(),
        },
    )
