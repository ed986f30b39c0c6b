"""What is usual: sizes of a delivery and its rates."""

from __future__ import annotations

from jungoptic.app.films.schemas import FilmChoices, RateChoice, SizeChoice
from jungoptic.app.productions.film import JUDGES, zones
from jungoptic.core.kit import exact_rate_fps, rate_name

# Common practice; the cinema's containers and pictures are of SMPTE ST 428-1 (from memory).
_SIZES = (
    (1920, 1080, "HD, 16:9"),
    (3840, 2160, "UHD, 16:9"),
    (1280, 720, "HD, half the pixels"),
    (1998, 1080, "cinema 2K, 1.85"),
    (2048, 858, "cinema 2K, 2.39"),
    (3996, 2160, "cinema 4K, 1.85"),
    (4096, 1716, "cinema 4K, 2.39"),
    (1440, 1080, "4:3"),
    (1080, 1920, "upright, 9:16"),
    (2160, 3840, "upright, 9:16, UHD"),
    (1080, 1350, "upright, 4:5"),
    (1080, 1080, "square"),
)
_RATES = (12, 18, 23.976, 24, 25, 29.97, 30, 48, 50, 59.94, 60)


def choices() -> FilmChoices:
    return FilmChoices(
        sizes=[SizeChoice(width_px=width, height_px=height, name=name) for width, height, name in _SIZES],
        rates=[RateChoice(fps=exact_rate_fps(rate), name=rate_name(exact_rate_fps(rate))) for rate in _RATES],
        mains_hz=[50, 60],
        zones=list(zones()),
        judges=sorted(JUDGES),
    )
