"""Recordings looked at and measured in a process that may break.

It is asked for one thing after another (:mod:`~jungoptic.app.base.readers`) and knows nothing of Django:
``{"do": "look", "path": …, "into": folder}`` makes the proxy and the strip of a recording and measures all
its frames, decoding once; ``{"do": "measure", "what": …, …}`` measures one row of it.
"""

from __future__ import annotations

import time
from pathlib import Path
from typing import Any

from jungoptic.app.base.readers import answer_all, tell
from jungoptic.app.footage.proxies import Proxy, still_jpeg
from jungoptic.app.rushes.asked import WORKING_PX, Asked, Opened
from jungoptic.app.rushes.of_clip import clip_watch
from jungoptic.app.rushes.rows import measure, thinned, told_of
from jungoptic.core.errors import InputError
from jungoptic.core.measure import Curve

MEMORY_BYTES = 4_000_000_000
_TELLS_EVERY_S = 0.4


class _Going:
    """Says now and then how far it is."""

    def __init__(self) -> None:
        self._next = 0.0

    def at(self, share: float) -> None:
        if time.monotonic() >= self._next:
            self._next = time.monotonic() + _TELLS_EVERY_S
            tell({"at": round(min(1.0, share), 3)})


def curve_of(told: dict[str, Any]) -> Curve | None:
    """The curve that somebody said; None where nobody did. Raises InputError."""
    if not told:
        return None
    return Curve(told["name"], tuple(told.get("log", ())), tuple(tuple(row) for row in told.get("table", ())))


def look(what: dict[str, Any]) -> dict[str, Any]:
    """What a recording says, with the files that were made of it. Raises InputError."""
    asked = Asked(Path(what["path"]), curve=curve_of(what.get("curve", {})), mains_hz=what.get("mains_hz"))
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
        (into / "picture.jpg").write_bytes(
            still_jpeg(footage.picture(0), footage.width_px, footage.height_px)
        )
        return {"says": says, "picture": "picture.jpg"}
    going, watch = _Going(), None
    proxy = Proxy(into / "proxy.mp4", footage.width_px, footage.height_px, footage.rate_fps)
    count = 0
    for picture in footage.pictures():
        codes, bits = picture.codes
        watch = watch or clip_watch(opened, bits)
        watch.add(codes)
        proxy.add(picture)
        count += 1
        going.at(count / (footage.frames or 2 * count))
    proxy.end()
    strip, every = proxy.strip()
    (into / "strip.jpg").write_bytes(strip)
    assert watch is not None
    seen = thinned(told_of("clip", watch.measured(), opened.sized(WORKING_PX), opened))
    says |= {"frames": count, "strip_every": every}
    if footage.frames and count < footage.frames - 1:
        says["remarks"].append(f"It breaks off: {count} of {footage.frames} frames can be read.")
    return {"says": says, "proxy": "proxy.mp4", "strip": "strip.jpg", "clip": seen}


def measured(what: dict[str, Any]) -> dict[str, Any]:
    """What a row comes to. Raises InputError."""
    more = {
        name: what[name]
        for name in ("frame", "mains_hz", "shutter_angle_deg", "view_deg", "kind")
        if what.get(name) is not None
    }
    asked = Asked(
        Path(what["path"]),
        Path(what["against"]) if what.get("against") else None,
        tuple(what["region"]) if what.get("region") else None,
        tuple((x, y) for x, y in what.get("places") or ()),
        curve_of(what.get("curve") or {}),
        tuple(what["delivery"]) if what.get("delivery") else None,
        **more,
    )
    return {"told": measure(what["what"], asked)}


def answer(what: dict[str, Any]) -> dict[str, Any]:
    """One answer; what cannot be read or measured is its fault."""
    try:
        return look(what) if what["do"] == "look" else measured(what)
    except InputError as error:
        return {"fault": str(error)}


def main() -> None:
    """Answer until nobody asks any more."""
    answer_all(answer, MEMORY_BYTES)


if __name__ == "__main__":
    main()
