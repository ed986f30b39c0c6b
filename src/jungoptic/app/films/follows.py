"""What follows from each thing that is said of a film, in a line."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, datetime, timedelta
from math import gcd
from zoneinfo import ZoneInfo

from django.db.models import Sum
from django.utils import timezone

from jungoptic.app.films.schemas import Follows
from jungoptic.app.productions.film import Film
from jungoptic.app.shots.models import Shot
from jungoptic.core.kit import rate_fraction, rate_name
from jungoptic.core.light import clean_angles_deg, sun_up
from jungoptic.core.wording import number

_MOST_SIDE = 40  # of a ratio in whole numbers that anybody says


def follows(film: Film, production_id: int | None) -> list[Follows]:
    """By field."""
    return [Follows(field=field, says=says) for field, says in _all(film, production_id)]


def _all(film: Film, production_id: int | None) -> Iterator[tuple[str, str]]:
    yield "delivery_height_px", _frame(film)
    yield "frame_rate_fps", _rate(film, production_id)
    yield "mains_hz", _mains(film)
    yield "time_zone", f"It is {_now(film):%H:%M} there now."
    if film.latitude_deg is not None and film.longitude_deg is not None:
        yield "longitude_deg", _sun(film, film.latitude_deg, film.longitude_deg, _now(film).date())
    else:
        yield "longitude_deg", "Without a place the sun is not reckoned with, in no set-up."
    if film.stage_length_m and film.stage_width_m:
        yield (
            "stage_width_m",
            f"{number(film.stage_length_m * film.stage_width_m, 3)} m²; what needs more room says so.",
        )


def _now(film: Film) -> datetime:
    return timezone.now().astimezone(ZoneInfo(film.time_zone))


def _frame(film: Film) -> str:
    width, height = film.delivery_width_px, film.delivery_height_px
    way = "wide" if width > height else "upright" if height > width else "square"
    ratio = f"{max(width, height) / min(width, height):.2f}"
    side = gcd(width, height)
    whole = (width // side, height // side)
    said = f"{ratio} : 1, {way}" if width >= height else f"1 : {ratio}, {way}"
    named = f" ({whole[0]}:{whole[1]})" if max(whole) <= _MOST_SIDE else ""
    return f"{said}{named}; {number(width * height / 1e6, 3)} megapixels that everything is judged in."


def _rate(film: Film, production_id: int | None) -> str:
    fps = film.frame_rate_fps
    exact = rate_fraction(fps)
    parts = f"{exact.numerator}/{exact.denominator} frames/s exactly. " if exact.denominator > 1 else ""
    frames = (
        Shot.in_cut.filter(production=production_id).aggregate(all=Sum("length_frames"))["all"] or 0
        if production_id
        else 0
    )
    cut = ""
    if frames:
        minutes, seconds = divmod(frames / fps, 60)
        cut = f"; the shots that are here last {int(minutes)} min {seconds:.0f} s"
    return f"{parts}At 180° a frame is open for 1/{number(2 * fps, 4)} s{cut}."


def _mains(film: Film) -> str:
    angles = [angle for angle in clean_angles_deg(film.mains_hz, film.frame_rate_fps) if angle <= 360]
    named = ", ".join(f"{number(angle, 4)}°" for angle in angles[:4])
    return (
        f"At {rate_name(film.frame_rate_fps)} frames/s lamps on the mains do not flicker at {named}."
        if angles
        else "At this rate every lamp on the mains flickers."
    )


def _sun(film: Film, latitude_deg: float, longitude_deg: float, day: date) -> str:
    rise, sets = sun_up(latitude_deg, longitude_deg, day, ZoneInfo(film.time_zone))
    if rise is None or sets is None:
        return f"On {day:%d %B} the sun neither rises nor sets there."
    return f"On {day.day} {day:%B} the sun is up from {_clock(rise)} to {_clock(sets)}."


def _clock(moment: datetime) -> str:
    return f"{moment + timedelta(seconds=30):%H:%M}"
