"""One layer from the command line: one_layer.py judge|solve FILE.json, one_layer.py picture FILE.json OUT.

FILE may be "-" for standard input. Prints JSON; exits 2 on bad input, with field, limit and reason.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Annotated, Any

import cv2
import numpy as np
import OpenEXR
from pydantic import Field

from jungoptic.core.errors import InputError
from jungoptic.core.kit import Kit
from jungoptic.core.match import Delivery, Judgement, Layer, Member, SetUp, ShotPlan, Stack, judge_in_set
from jungoptic.core.motion import Move
from jungoptic.core.plan import SOLVABLE, solve
from jungoptic.core.quantities import Record
from jungoptic.core.stage import encoded, photograph
from jungoptic.core.vocabulary import School, Units

USAGE = "judge FILE.json | solve FILE.json | picture FILE.json OUT.png|OUT.exr (FILE may be - )"
_FORMATS = (".png", ".exr")


class Question(Record):
    """What is asked: names and units are those of core's records."""

    hero: SetUp
    layer: Layer
    setup: SetUp | None = None
    delivery: Delivery = Delivery()
    move: Move | None = None
    school: School = "measured"
    units: Units = "metric"
    kit: Kit | None = None
    locked: Annotated[tuple[str, ...], Field(title="Locked")] = ()

    @property
    def shown(self) -> Delivery:
        """The delivery with the move that stands beside it."""
        return self.delivery if self.move is None else self.delivery.but(move=self.move)

    @property
    def filmed(self) -> SetUp:
        """The set-up, which must be there."""
        if self.setup is None:
            raise InputError.at("setup", "A set-up is needed: what films the layer.")
        return self.setup


def _items(judged: tuple[Judgement, ...]) -> list[dict[str, Any]]:
    return [
        {
            "item": item.item,
            "amount": item.amount,
            "unit": item.unit,
            "verdict": item.verdict,
            "sentence": item.sentence,
        }
        for item in judged
    ]


def judged(asked: Question) -> dict[str, Any]:
    """The layer against the hero, worst first."""
    items = judge_in_set(
        asked.hero,
        asked.layer,
        asked.setup,
        asked.shown,
        school=asked.school,
        kit=asked.kit,
        units=asked.units,
    )
    return {"items": _items(items)}


def solved(asked: Question) -> dict[str, Any]:
    """The way that shows least, and the other ways."""
    if asked.kit is None:
        raise InputError.at("kit", "A kit is needed: what the solver may use.")
    ways = solve(
        asked.hero,
        asked.layer,
        asked.filmed,
        asked.shown,
        asked.kit,
        locked=asked.locked,
        school=asked.school,
        units=asked.units,
    )
    if not ways:
        raise InputError.at(
            "locked", f"What is locked excludes all that the kit has; solved for are {', '.join(SOLVABLE)}."
        )
    told = [
        {
            "set_up": way.set_up,
            "layer": way.layer,
            "verdict": way.verdict,
            "sentences": list(way.sentences),
            "items": _items(way.judged),
        }
        for way in ways
    ]
    return {**told[0], "other_ways": told[1:]}


def pictured(asked: Question, out: Path) -> dict[str, Any]:
    """The layer as its set-up films it, in a file."""
    if out.suffix.lower() not in _FORMATS:
        raise InputError.at("OUT", f"The picture can be {' or '.join(_FORMATS)}; {out.name!r} was given.")
    delivery = asked.shown
    stack = Stack(ShotPlan(), delivery, asked.hero, (Member(asked.layer, asked.filmed, 1),))
    light = photograph(stack, delivery.width_px, only=0)
    if out.suffix.lower() == ".exr":
        header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
        with OpenEXR.File(header, {"RGB": light}) as file:
            file.write(str(out))
    else:
        codes = encoded(light)
        done, data = cv2.imencode(".png", np.ascontiguousarray(codes[..., ::-1]))
        assert done
        out.write_bytes(data.tobytes())
    return {"picture": str(out), "width_px": delivery.width_px, "height_px": delivery.height_px}


def main(words: list[str]) -> int:
    """Run one of the commands; 0, or 2 for what cannot be."""
    wanted = {"judge": 2, "solve": 2, "picture": 3}
    if not words or wanted.get(words[0]) != len(words):
        print(USAGE, file=sys.stderr)
        return 2
    try:
        text = sys.stdin.read() if words[1] == "-" else Path(words[1]).read_text("utf-8")
        values = json.loads(text)
        if not isinstance(values, dict):
            raise InputError.at(
                "", "The file must hold one object: hero, layer, setup and what else is said."
            )
        asked = Question.read(values)
        if words[0] == "picture":
            answer = pictured(asked, Path(words[2]))
        else:
            answer = {"judge": judged, "solve": solved}[words[0]](asked)
    except json.JSONDecodeError as error:
        print(f"The input is not JSON: {error.msg} at character {error.pos + 1}.", file=sys.stderr)
        return 2
    except (OSError, UnicodeDecodeError) as error:
        print(f"{words[1]} cannot be read or written: {error}", file=sys.stderr)
        return 2
    except InputError as error:
        told = (f"{each.field}: {each.message}" if each.field else each.message for each in error.problems)
        print("\n".join(told), file=sys.stderr)
        return 2
    print(json.dumps(answer, indent=2, ensure_ascii=False))
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
