"""The vocabulary of quantities: each with its label, unit and range, described once.

Records and calculations annotate their fields with these; the API schema, the command line, the screens and
the documentation read label, unit and limits from here.
"""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, Strict, ValidationError
from pydantic.fields import FieldInfo

from .errors import readable, refuse
from .limits import EARLIEST_YEAR, LATEST_YEAR, LEAST, MOST_FRAMES, OUR_TIME, in_our_time
from .vocabulary import Driver, Focusing

__all__ = [
    "LEAST",
    "MOST_FRAMES",
    "OUR_TIME",
    "AngleDeg",
    "BlurPx",
    "CircleOfConfusionMm",
    "ColourK",
    "Day",
    "DistanceM",
    "Driver",
    "DurationS",
    "FNumber",
    "FocalLengthMm",
    "FocalLengthPx",
    "FocusDistanceM",
    "Focusing",
    "FrameCount",
    "FramesPerS",
    "GateHeightMm",
    "GateWidthMm",
    "HeightM",
    "HeightPx",
    "IlluminanceLx",
    "ImageSpeedPx",
    "IntensityCd",
    "Iso",
    "LengthM",
    "Magnification",
    "NdStops",
    "PlaceM",
    "PupilRatio",
    "Record",
    "Sampling",
    "Scale",
    "ShutterAngleDeg",
    "SpeedMS",
    "TravelM",
    "WidthPx",
    "YesNo",
    "in_our_time",
    "is_vocabulary",
    "name_in_words",
    "quantity",
]


def quantity(title: str, unit: str = "", description: str = "", *, engraved: str = "", **limits: Any) -> Any:
    """A field for a finite number with label, unit and limits.

    Parameters
    ----------
    title : str
        Label.
    unit : str
        Unit, "" for none.
    description : str
        What else must be known to fill it in.
    engraved : str
        Names the trade's own steps that it has: "stop", "iso", "frame_rate" and the like.
    **limits : float
        ``gt``, ``ge``, ``lt``, ``le``. What must be more than 0 is also at least its unit's in ``LEAST``.

    Returns
    -------
    FieldInfo
        To stand in an ``Annotated``.

    Raises
    ------
    KeyError
        More than 0, of a unit that ``LEAST`` does not know.

    Examples
    --------
    >>> quantity("Stop", "f/", gt=0).title
    'Stop'
    """
    if limits.get("gt") == 0:
        limits.setdefault("ge", LEAST[unit])
    extra: dict[str, Any] = {"unit": unit, "engraved": engraved} if engraved else {"unit": unit}
    return Field(
        title=title, description=description or None, allow_inf_nan=False, json_schema_extra=extra, **limits
    )


def _in_our_years(day: date) -> date:
    if not EARLIEST_YEAR <= day.year <= LATEST_YEAR:
        raise refuse(
            "", f"A day lies between {EARLIEST_YEAR} and {LATEST_YEAR}; {day.isoformat()} was given."
        )
    return day


class Record(BaseModel):
    """A frozen, checked record that refuses fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    @classmethod
    def read(cls, values: Any) -> Self:
        """Check values and build the record.

        Parameters
        ----------
        values : mapping
            By field, as they were typed or read.

        Returns
        -------
        Record
            Frozen.

        Raises
        ------
        InputError
            Naming every field at fault, with its limit.

        Examples
        --------
        >>> from jungoptic.core.motion import Move
        >>> Move.read({"kind": "pan", "amount": 12}).amount
        12.0
        """
        try:
            return cls.model_validate(values)
        except ValidationError as error:
            raise readable(error, cls) from None

    @classmethod
    def within(cls, **values: Any) -> Self:
        """The record of values that were worked out: each number brought to the nearest that is allowed.

        Parameters
        ----------
        **values : object
            By field.

        Returns
        -------
        Record
            Frozen.

        Raises
        ------
        InputError
            For what no limit can mend.

        Examples
        --------
        >>> from jungoptic.core.motion import Move
        >>> Move.within(kind="pan", amount=5000.0).amount
        1000.0
        """
        return cls.read(
            {name: _nearest(value, cls.model_fields[name].metadata) for name, value in values.items()}
        )

    def but(self, **changes: Any) -> Self:
        """A copy with some fields changed, checked again.

        Parameters
        ----------
        **changes : object
            By field.

        Returns
        -------
        Record
            Frozen.

        Raises
        ------
        InputError
            Naming every field at fault.

        Examples
        --------
        >>> from jungoptic.core.example import HERO
        >>> HERO.but(f_number=11).f_number
        11.0
        """
        return type(self).read({**{name: getattr(self, name) for name in type(self).model_fields}, **changes})


def _nearest(value: Any, limits: list[Any]) -> Any:
    """The value within the limits that include their end (ge, le); what is no number as it is."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        return value
    for limit in limits:
        value = max(value, getattr(limit, "ge", value))
        value = min(value, getattr(limit, "le", value))
    return value


FocalLengthMm = Annotated[float, quantity("Focal length", "mm", engraved="focal_length", gt=0, le=2000)]
GateWidthMm = Annotated[
    float, quantity("Gate width", "mm", "Width of the part of the sensor that is recorded.", gt=0, le=100)
]
GateHeightMm = Annotated[float, quantity("Gate height", "mm", gt=0, le=100)]
FNumber = Annotated[float, quantity("Stop", "f/", engraved="stop", gt=0, le=1000)]
CircleOfConfusionMm = Annotated[
    float, quantity("Circle of confusion", "mm", "Largest blur disc still called sharp.", gt=0, le=1)
]
FocusDistanceM = Annotated[float, quantity("Focus distance", "m", "From the entrance pupil.", gt=0, le=1e6)]
DistanceM = Annotated[float, quantity("Distance", "m", "From the entrance pupil.", gt=0, le=1e7)]
HeightM = Annotated[float, quantity("Height", "m", ge=-1e5, le=1e5)]
TravelM = Annotated[float, quantity("Camera travel", "m", ge=-1e5, le=1e5)]
Scale = Annotated[
    float,
    quantity(
        "Scale 1:",
        "",
        "The model is this many times smaller than the thing; 1 is full size.",
        engraved="scale",
        gt=0,
        le=10000,
    ),
]
WidthPx = Annotated[int, quantity("Width", "px", ge=1, le=32768)]
HeightPx = Annotated[int, quantity("Height", "px", ge=1, le=32768)]
BlurPx = Annotated[float, quantity("Blur", "px", gt=0, le=10000)]
FramesPerS = Annotated[float, quantity("Frame rate", "frames/s", engraved="frame_rate", gt=0, le=100000)]
ShutterAngleDeg = Annotated[float, quantity("Shutter angle", "°", engraved="shutter_angle", gt=0, le=360)]
Iso = Annotated[float, quantity("ISO", "", "Exposure index.", engraved="iso", gt=0, le=1e7)]
NoisePct = Annotated[
    float | None,
    quantity("Noise at mid grey", "%", "Of white, of a pixel; empty = never measured.", ge=1e-4, le=100),
]
NoiseIso = Annotated[float | None, quantity("Noise measured at ISO", "", gt=0, le=1e7)]
NdStops = Annotated[float, quantity("ND", "stops", ge=0, le=20)]
ColourK = Annotated[float, quantity("Colour of light", "K", ge=1000, le=40000)]
SpeedMS = Annotated[
    float, quantity("Speed of the thing", "m/s", "Across the line of sight, full size.", ge=0, le=1e5)
]
Magnification = Annotated[float, quantity("Magnification", "×", ge=0, le=100)]
PupilRatio = Annotated[
    float, quantity("Pupil ratio", "", "Exit pupil over entrance pupil; 1 when unknown.", gt=0, le=10)
]
ImageSpeedPx = Annotated[float, quantity("Image speed", "px/frame", ge=0, le=1e6)]

AngleDeg = Annotated[float, quantity("Angle", "°", ge=-360, le=360)]
LengthM = Annotated[float, quantity("Length", "m", gt=0, le=1e6)]
PlaceM = Annotated[float, quantity("Place", "m", ge=-1e6, le=1e6)]
IlluminanceLx = Annotated[float, quantity("Illuminance", "lx", ge=0, le=1e7)]
IntensityCd = Annotated[float, quantity("Intensity", "cd", gt=0, le=1e8)]
FocalLengthPx = Annotated[float, quantity("Focal length in delivered pixels", "px", gt=0, le=1e6)]
DurationS = Annotated[float, quantity("Length", "s", gt=0, le=1e6)]
FrameCount = Annotated[int, quantity("Frames", "", ge=1, le=MOST_FRAMES)]
Sampling = Literal["4:4:4", "4:2:2", "4:2:0"]
Day = Annotated[date, AfterValidator(_in_our_years)]
YesNo = Annotated[bool, Strict()]  # and no word or number that could be taken for one


# Names that a field's own name does not say well; the others are read off the name: far_m is "Far", path_m
# "Path".
_NAMED = {
    "f_number": "Stop",
    "iso": "ISO",
    "reference_iso": "Reference ISO",
    "scale": "Scale 1:",
    "nd_stops": "ND",
    "delivery_fps": "Delivery rate",
    "capture_fps": "Capture rate",
    "camera_fps": "Camera's rate",
    "fps": "Frame rate",
    "near_m": "Front edge",
    "far_m": "Back edge",
    "max_blur_px": "Blur allowed",
    "from_k": "From",
    "to_k": "To",
    "full_size_speed_m_s": "Full-size speed",
    "full_size_distance_m": "Full-size distance",
    "full_size_height_m": "Full-size height",
    "shutter_angle_deg": "Shutter angle",
    "magnification": "Magnification",
    "sun_lx": "From the sun",
    "sky_lx": "From the sky",
    "travel_m": "Camera travel",
    "image_speed_px_per_frame": "Image speed",
    "focal_length_px": "Focal length in delivered px",
    "head_y_px": "Head, y",
    "foot_y_px": "Foot, y",
    "horizon_y_px": "Horizon, y",
    "x": "Across the ball",
    "y": "Up the ball",
    "actor_xyz_m": "Actor's eyes at x, y, z",
    "target_xyz_m": "Looks at x, y, z",
    "stick_m": "Stick",
    "shadow_m": "Shadow",
}
_UNIT_ENDINGS = ("_m_s", "_mm", "_px", "_deg", "_lx", "_cd", "_hz", "_fps", "_m", "_s", "_k", "_h")


def name_in_words(name: str) -> str:
    """A field's name as a label: the unit at its end left off.

    Parameters
    ----------
    name : str
        Name of a field.

    Returns
    -------
    str
        Label.

    Examples
    --------
    >>> name_in_words("focal_length_mm"), name_in_words("f_number")
    ('Focal length', 'Stop')
    """
    if name in _NAMED:
        return _NAMED[name]
    plain = next((name.removesuffix(ending) for ending in _UNIT_ENDINGS if name.endswith(ending)), name)
    return plain.replace("_", " ").capitalize()


_VOCABULARY = frozenset(
    id(value.__metadata__[0])
    for value in list(globals().values())
    if isinstance(getattr(value, "__metadata__", (None,))[0], FieldInfo)
)


def is_vocabulary(annotation: Any) -> bool:
    """Whether an annotation is one of this module's quantities, perhaps "or nothing".

    Parameters
    ----------
    annotation : object
        Of a field or an argument.

    Returns
    -------
    bool
        False for one that a calculation describes itself.

    Examples
    --------
    >>> is_vocabulary(FNumber), is_vocabulary(float)
    (True, False)
    """
    if any(id(part) in _VOCABULARY for part in getattr(annotation, "__metadata__", ())):
        return True
    return any(
        is_vocabulary(part) for part in getattr(annotation, "__args__", ()) if hasattr(part, "__metadata__")
    )
