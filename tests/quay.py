"""A photograph of a quay with its tags, and what one draws on it: by a camera that is known (OpenCV's)."""

from __future__ import annotations

import io
import math

from PIL import Image

from tests.core.by_opencv import PERSON_M, Camera, H, W

EQUIVALENT_MM = 26
FOCAL_MM = 5.4
# 43.27 mm is the diagonal of 36 × 24 [published: EXIF 2.32, tag 0xA405]
VIEW_DEG = 2 * math.degrees(math.atan(W / 2 / (EQUIVALENT_MM * math.hypot(W, H) / 43.27)))
TOOK = Camera(VIEW_DEG, -3.0, 1.2, 1.55, 0.0, 0.0, 30.0)
LAMP_M, LAMP_AHEAD_M, LAMP_ASIDE_M = 4.2, 12.0, 3.4


def quay_photograph() -> bytes:
    """A JPEG that says its focal length and what that is on 35 mm."""
    tags = Image.Exif()
    inner = tags.get_ifd(0x8769)
    inner[0x920A], inner[0xA405] = FOCAL_MM, EQUIVALENT_MM
    out = io.BytesIO()
    Image.new("RGB", (W, H), "#8a8070").save(out, "JPEG", exif=tags)
    return out.getvalue()


def quay_marks() -> list[dict[str, object]]:
    """Horizon, a person, a lamp post whose height is asked for, the foot of a barrel."""
    left, right = (TOOK.seen((side * 0.5e7, TOOK.height_m, 1e7))[0] for side in (-1, 1))
    drawn = (
        ("horizon", [left, right]),
        ("height", TOOK.seen((-1.3, 0.0, 6.0), (-1.3, PERSON_M, 6.0))),
        (
            "stands",
            TOOK.seen((LAMP_ASIDE_M, 0.0, LAMP_AHEAD_M), (LAMP_ASIDE_M, LAMP_M, LAMP_AHEAD_M)),
        ),
        ("foot", TOOK.seen((1.6, 0.0, 5.0))),
    )
    return [{"kind": kind, "points": points, "height_m": PERSON_M} for kind, points in drawn]
