"""Numbers as a crew member says them, metric or imperial."""

from __future__ import annotations

import math
from dataclasses import dataclass

from .kit.steps import stop_name
from .vocabulary import LUX_PER_FOOTCANDLE, METRES_PER_FOOT, MM_PER_INCH, Units

__all__ = [
    "Words",
    "amount_text",
    "aspect",
    "finish_text",
    "number",
]


def number(value: float, digits: int = 3) -> str:
    """A number in significant figures, no exponent, thousands spaced.

    Parameters
    ----------
    value : float
        Any; infinite ones become ∞.
    digits : int, default 3
        Significant figures.

    Returns
    -------
    str
        Such as 11 100, 0.133, 27.

    Examples
    --------
    >>> number(0.13333), number(-27.04, 2)
    ('0.133', '−27')
    """
    size = abs(value)
    if not math.isfinite(size):
        return "∞"
    if size < 1e-9:
        return "0"
    text = "%.*g" % (digits, size)
    if "e" in text:
        text = f"{float(text):.12f}".rstrip("0").rstrip(".")
    if size >= 9999.5:
        whole, _, rest = text.partition(".")
        text = f"{int(whole):,}".replace(",", "\u2009") + ("." + rest if rest else "")
    return text if value > 0 else "−" + text


def amount_text(amount: float) -> str:
    """An amount as it stands on the ladder.

    Parameters
    ----------
    amount : float
        In the unit of its item, 0 or more.

    Returns
    -------
    str
        Two figures under ten, whole numbers above; under a hundredth is nothing.

    Examples
    --------
    >>> amount_text(0.004), amount_text(1.26), amount_text(213.4)
    ('0', '1.3', '213')
    """
    if amount < 0.01:
        return "0"
    return number(amount, 2) if amount < 9.95 else f"{amount:.0f}"


def finish_text(*, black_and_white: bool, soften_px: float, grain_added: float, shows_models: bool) -> str:
    """What is done at the end and how it is judged, in a few words.

    Parameters
    ----------
    black_and_white : bool
        Whether colour is taken away.
    soften_px : float
        Diameter of the blur that is added, delivered px.
    grain_added : float
        Grain that is added, in grains of the hero.
    shows_models : bool
        Whether the production shows its models openly.

    Returns
    -------
    str
        "" for nothing.

    Examples
    --------
    >>> finish_text(black_and_white=True, soften_px=1.5, grain_added=0.0, shows_models=False)
    'black and white, softened 1.5 px'
    """
    words = ["black and white"] if black_and_white else []
    words += [f"softened {number(soften_px, 2)} px"] if soften_px else []
    words += ["grain added"] if grain_added else []
    words += ["shows its models"] if shows_models else []
    return ", ".join(words)


def aspect(width_px: int, height_px: int) -> str:
    """The shape of a frame as it is written.

    Parameters
    ----------
    width_px, height_px : int
        Sides, px.

    Returns
    -------
    str
        Width to one.

    Examples
    --------
    >>> aspect(1920, 1080)
    '1.78:1'
    """
    return f"{width_px / height_px:.2f}:1"


@dataclass(frozen=True, slots=True)
class Words:
    """Lengths and stops in the reader's units."""

    units: Units = "metric"

    def length(self, metres: float) -> str:
        """A length in the reader's units.

        Parameters
        ----------
        metres : float
            Length, metres.

        Returns
        -------
        str
            4 mm, 0.133 m, 12 m; or 5 1/4 in, 39 ft 4 in.

        References
        ----------
        foot

        Examples
        --------
        >>> Words().length(0.1333), Words("imperial").length(0.1333)
        ('0.133 m', '5 1/4 in')
        """
        if self.units == "metric":
            if 0 < abs(metres) < 0.0995:
                return number(1000 * metres, 2) + " mm"
            places = 3 if abs(metres) < 10 else 2 if abs(metres) < 100 else 0
            text = "%.*f" % (places, abs(metres))
            text = text.rstrip("0").rstrip(".") if places else text
            return f"−{text} m" if metres < 0 else f"{text or 0} m"
        sixteenths = round(abs(metres) * 1000.0 / MM_PER_INCH * 16)
        sign = "−" if metres < 0 and sixteenths else ""
        if sixteenths >= 12 * 16 * 3:
            feet, inches = divmod(round(abs(metres) * 1000.0 / MM_PER_INCH), 12)
            return f"{sign}{feet} ft" + (f" {inches} in" if inches else "")
        whole, part = divmod(sixteenths, 16)
        if sixteenths == 0 and metres:
            return f"{number(abs(metres) * 1000 / MM_PER_INCH, 1)} in"
        if not part:
            return f"{sign}{whole} in"
        base = 16
        while part % 2 == 0:
            part, base = part // 2, base // 2
        return f"{sign}{whole} {part}/{base} in" if whole else f"{sign}{part}/{base} in"

    def area(self, square_metres: float) -> str:
        """An area in the reader's units.

        Parameters
        ----------
        square_metres : float
            Area, m².

        Returns
        -------
        str
            With its unit.

        References
        ----------
        foot

        Examples
        --------
        >>> Words().area(0.5), Words("imperial").area(0.5)
        ('0.5 m²', '5.38 sq ft')
        """
        if self.units == "metric":
            return f"{number(square_metres)} m²"
        return f"{number(square_metres / METRES_PER_FOOT**2)} sq ft"

    def speed(self, metres_per_s: float) -> str:
        """A speed in the reader's units.

        Parameters
        ----------
        metres_per_s : float
            Speed, m/s.

        Returns
        -------
        str
            With its unit.

        References
        ----------
        foot

        Examples
        --------
        >>> Words("imperial").speed(0.3048)
        '1 ft/s'
        """
        return (
            f"{number(metres_per_s)} m/s"
            if self.units == "metric"
            else f"{number(metres_per_s / METRES_PER_FOOT)} ft/s"
        )

    def light(self, lux: float) -> str:
        """An illuminance in the reader's units.

        Parameters
        ----------
        lux : float
            Illuminance, lux.

        Returns
        -------
        str
            With its unit.

        References
        ----------
        footcandle

        Examples
        --------
        >>> Words().light(1050), Words("imperial").light(1076.391)
        ('1050 lx', '100 fc')
        """
        return f"{number(lux)} lx" if self.units == "metric" else f"{number(lux / LUX_PER_FOOTCANDLE)} fc"

    @staticmethod
    def stop(f_number: float) -> str:
        """A stop by its engraved name.

        Parameters
        ----------
        f_number : float
            Exact f-number.

        Returns
        -------
        str
            With f/ before it.

        Examples
        --------
        >>> Words.stop(22.627)
        'f/22'
        """
        return f"f/{stop_name(f_number)}"

    @staticmethod
    def px(pixels: float) -> str:
        """Pixels.

        Parameters
        ----------
        pixels : float
            Delivered px.

        Returns
        -------
        str
            Two figures under ten, three above.

        Examples
        --------
        >>> Words.px(3.14159)
        '3.1 px'
        """
        return f"{number(pixels, 2 if pixels < 10 else 3)} px"
