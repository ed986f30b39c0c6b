"""Recordings looked at and measured in a process that may break.

It is asked for one thing after another (:mod:`~jungoptic.app.base.readers`) and knows nothing of Django:
``{"do": "look", "path": …, "into": folder}`` makes the proxy and the strip of a recording and measures all
its frames, decoding once; ``{"do": "measure", "what": …, …}`` measures one row of it; ``{"do": "sheet", …}``
reads the photograph of a lit sheet by the set-up that it is of.
"""

from __future__ import annotations

import time
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

import cv2

from jungoptic.app.base.readers import answer_all, tell
from jungoptic.app.footage.pictures import Picture
from jungoptic.app.footage.proxies import Proxy, still_jpeg
from jungoptic.app.rushes.asked import WIDEST_PX, WORKING_PX, Asked, Opened
from jungoptic.app.rushes.of_clip import clip_watch
from jungoptic.app.rushes.of_sheet import sheet_read
from jungoptic.app.rushes.rows import measure, thinned, told_of
from jungoptic.core.errors import InputError
from jungoptic.core.measure import Curve, proposals
from jungoptic.core.recordings import read_codes
from jungoptic.core.rushes import over_frames

MEMORY_BYTES = 4_000_000_000
_TELLS_EVERY_S = 0.4
_LOOKS_FOR_SLATE_S, _SLATE_LONGEST_S = 0.25, 20.0
_CODE_PX = 1920
_ALL_SLATE = "Its slate is in every frame: nothing is measured of them."
_NONE_COUNT = "None of its frames counts: say anew from which to which they do."
_OF_ASKED = (
    *("frame", "begins", "ends", "against_begins", "against_ends"),
    *("mains_hz", "shutter_angle_deg", "view_deg", "kind"),
)


class _Going:
    """Says now and then how far it is."""

    def __init__(self) -> None:
        self._next = 0.0

    def at(self, share: float) -> None:
        if time.monotonic() >= self._next:
            self._next = time.monotonic() + _TELLS_EVERY_S
            tell({"at": round(min(1.0, share), 3)})


class _Slate:
    """Knows when the slate is gone that was held up before a take. ``seen_s`` is when its code was read
    first; None where there was none.
    """

    def __init__(self, seen_s: float | None, rate_fps: float) -> None:
        self._until = 0 if seen_s is None else round(seen_s * rate_fps) + 1
        self._every = max(1, round(_LOOKS_FOR_SLATE_S * rate_fps))
        self._longest = round((seen_s or 0.0) * rate_fps + _SLATE_LONGEST_S * rate_fps)
        self._last = self._until - 1

    def shown(self, picture: Picture) -> bool:
        """Whether the slate is still there, or was a moment ago."""
        if picture.index < self._until:
            return True
        if self._last < 0 or picture.index > self._longest:
            return False
        if not (picture.index - self._until) % self._every and _code_in(picture):
            self._last = picture.index
        if picture.index - self._last <= 2 * self._every:
            return True
        self._last = -1
        return False


def _code_in(picture: Picture) -> bool:
    codes, bits = picture.codes
    share = min(1.0, _CODE_PX / codes.shape[1])
    small = cv2.resize(codes, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
    return bool(read_codes(cv2.convertScaleAbs(small, alpha=2.0 ** (8 - bits))))


def curve_of(told: dict[str, Any]) -> Curve | None:
    """The curve that somebody said; None where nobody did. Raises InputError."""
    if not told:
        return None
    return Curve(told["name"], tuple(told.get("log", ())), tuple(tuple(row) for row in told.get("table", ())))


def delivery_of(what: dict[str, Any], name: str = "delivery") -> tuple[int, int] | None:
    """The delivered frame, px, where it is said."""
    sides = what.get(name)
    return (sides[0], sides[1]) if sides else None


def _region_of(what: dict[str, Any], name: str) -> Any:
    return tuple(what[name]) if what.get(name) else None


def look(what: dict[str, Any]) -> dict[str, Any]:
    """What a recording says, with the files that were made of it. Raises InputError."""
    asked = Asked(
        Path(what["path"]),
        curve=curve_of(what.get("curve", {})),
        mains_hz=what.get("mains_hz"),
        delivery=delivery_of(what),
    )
    opened, into = Opened.of(asked), Path(what["into"])
    footage = opened.footage
    says: dict[str, Any] = {
        **{name: getattr(footage, name) for name in ("kind", "width_px", "height_px", "rate_fps")},
        **{name: getattr(footage.colour, name) for name in ("curve", "matrix", "legal", "bits")},
        "frames": 1,
        "guessed": list(footage.colour.guessed),
        "remarks": list(footage.remarks),
    }
    if footage.kind == "still":
        says["proposed"] = proposals(opened.light(footage.picture(0), WIDEST_PX))
        (into / "picture.jpg").write_bytes(
            still_jpeg(footage.picture(0), footage.width_px, footage.height_px)
        )
        return {"says": says, "picture": "picture.jpg"}
    going, watch, begins = _Going(), None, 0
    first, last = what.get("counts") or (None, None)
    slate = _Slate(what.get("slate_s") if first is None else None, footage.rate_fps)
    proxy = Proxy(into / "proxy.mp4", footage.width_px, footage.height_px, footage.rate_fps)
    count = 0
    for picture in footage.pictures():
        if watch is None and (picture.index < (first or 0) or slate.shown(picture)):
            begins = picture.index + 1
        elif last is None or picture.index <= last:
            codes, bits = picture.codes
            watch = watch or clip_watch(opened, bits)
            watch.add(codes)
        proxy.add(picture)
        count += 1
        if picture.index == (footage.frames or 1) // 2:
            says["proposed"] = proposals(opened.light(picture, WORKING_PX))
        going.at(count / (footage.frames or 2 * count))
    proxy.end()
    strip, every = proxy.strip()
    (into / "strip.jpg").write_bytes(strip)
    says |= {"frames": count, "strip_every": every, "begins": begins if watch else 0}
    if footage.frames and count < footage.frames - 1:
        says["remarks"].append(f"It breaks off: {count} of {footage.frames} frames can be read.")
    made = {"says": says, "proxy": "proxy.mp4", "strip": "strip.jpg"}
    if watch is None:
        says["remarks"].append(_NONE_COUNT if first is not None else _ALL_SLATE)
        return made
    opened = replace(opened, asked=replace(asked, begins=begins))
    result, sized = watch.measured(), opened.sized(WORKING_PX)
    seen = thinned(told_of("clip", result, sized, opened))
    return {**made, "clip": {**seen, "lines": [asdict(line) for line in over_frames(result, sized)]}}


def measured(what: dict[str, Any]) -> dict[str, Any]:
    """What a row comes to. Raises InputError."""
    more = {name: what[name] for name in _OF_ASKED if what.get(name) is not None}
    asked = Asked(
        Path(what["path"]),
        Path(what["against"]) if what.get("against") else None,
        _region_of(what, "region"),
        tuple((x, y) for x, y in what.get("places") or ()),
        curve_of(what.get("curve") or {}),
        delivery_of(what),
        against_region=_region_of(what, "against_region"),
        against_delivery=delivery_of(what, "against_delivery"),
        going=_Going().at,
        **more,
    )
    return {"told": measure(what["what"], asked)}


_DOES = {"look": look, "measure": measured, "sheet": sheet_read}


def answer(what: dict[str, Any]) -> dict[str, Any]:
    """One answer; what cannot be read or measured is its fault."""
    try:
        return _DOES[what["do"]](what)
    except InputError as error:
        return {"fault": str(error)}


def main() -> None:
    """Answer until nobody asks any more."""
    answer_all(answer, MEMORY_BYTES)


if __name__ == "__main__":
    main()
