"""Measure a file from the command line: measure.py WHAT FILE [--against FILE] [--region x,y,w,h] …

Prints JSON; exits 2 where a file or an option cannot be worked with. No database.
"""

import argparse
import json
import sys
from pathlib import Path

from jungoptic.app.rushes.asked import Asked
from jungoptic.app.rushes.rows import ROWS, measure
from jungoptic.core.errors import InputError
from jungoptic.core.measure import CURVES, Curve


def numbers(text: str, count: int | None, option: str) -> tuple[float, ...]:
    """Numbers with commas between. Raises InputError."""
    try:
        values = tuple(float(each) for each in text.split(","))
    except ValueError:
        values = ()
    if not values or (count is not None and len(values) != count):
        wanted = f"{count} numbers" if count else "numbers"
        raise InputError.at(option, f"--{option} wants {wanted} with commas between; “{text}” was given.")
    return values


def curve_of(text: str) -> Curve:
    """A curve by name; log:a,b,c,d,cut; table:FILE with a signal and a light a line. Raises InputError."""
    name, _, rest = text.partition(":")
    if name == "log":
        return Curve("log", log=numbers(rest, None, "curve"))
    if name == "table":
        try:
            lines = Path(rest).read_text().splitlines()
        except (OSError, UnicodeDecodeError) as error:
            raise InputError.at("curve", f"The table “{rest}” cannot be read.") from error
        rows = [
            numbers(line.replace(";", ",").replace("\t", ","), 2, "curve") for line in lines if line.strip()
        ]
        return Curve("table", table=tuple((a, b) for a, b in rows))
    for known in CURVES:
        if name == known:
            return Curve(known)
    raise InputError.at("curve", f"A curve is one of {', '.join(CURVES)}; “{text}” was given.")


def delivery_of(text: str) -> tuple[int, int]:
    """WxH. Raises InputError."""
    try:
        width, height = (int(each) for each in text.lower().replace("×", "x").split("x"))
        if width < 16 or height < 16:
            raise ValueError
    except ValueError as error:
        raise InputError.at("delivery", f"--delivery wants WxH, as 1920x1080; “{text}” was given.") from error
    return width, height


def asked_of(words: argparse.Namespace) -> Asked:
    """What is asked, checked. Raises InputError."""
    region = numbers(words.region, 4, "region") if words.region else None
    places = numbers(words.places, None, "places") if words.places else ()
    if len(places) % 2:
        raise InputError.at("places", "--places wants pairs: x1,y1,x2,y2,…")
    return Asked(
        Path(words.file),
        Path(words.against) if words.against else None,
        (region[0], region[1], region[2], region[3]) if region else None,
        tuple(zip(places[::2], places[1::2], strict=True)),
        curve_of(words.curve) if words.curve else None,
        delivery_of(words.delivery) if words.delivery else None,
        words.frame,
        words.rate,
        words.mains,
        words.shutter,
        words.view,
        words.kind,
    )


def parser() -> argparse.ArgumentParser:
    told = argparse.ArgumentParser("./run measure", description="Measure a picture or a clip; prints JSON.")
    told.add_argument("what", choices=list(ROWS), metavar="WHAT", help=", ".join(ROWS))
    told.add_argument("file", metavar="FILE", help="a still, a clip, or a folder of numbered stills")
    told.add_argument("--against", help="what it is held against: hero, clean plate, other half")
    told.add_argument("--region", help="left,top,width,height: px, or shares of the frame")
    told.add_argument("--places", help="x1,y1,x2,y2,…: a line, a zone, the four corners of a chart")
    told.add_argument("--curve", help="bt709, srgb, linear, log:a,b,c,d,cut, table:FILE; else as it says")
    told.add_argument("--delivery", help="WxH: lengths are told in its px")
    told.add_argument("--frame", type=int, help="which frame, from 0")
    told.add_argument("--rate", type=float, help="frames a second of stills")
    told.add_argument("--mains", type=float, help="Hz of the place")
    told.add_argument("--shutter", type=float, default=180.0, help="degrees")
    told.add_argument("--view", type=float, help="angle of view of a photograph, degrees")
    told.add_argument("--kind", default="", choices=["", "mirror", "grey", "zone"], help="of ball or places")
    return told


def main(words: list[str]) -> int:
    try:
        asked = parser().parse_args(words)
        print(json.dumps(measure(asked.what, asked_of(asked)), indent=2, ensure_ascii=False))
    except InputError as error:
        print("\n".join(f"{each.field}: {each.message}" for each in error.problems), file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
