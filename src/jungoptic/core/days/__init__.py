"""Days: the set-ups of a production ordered into shooting days, with the sun, the people and the places."""

from .broken import Break, Costs
from .changing import CHANGED, Change, Changing
from .checking import plan_breaks, plan_costs
from .clock import WEEKDAY_NAMES, WEEKDAYS, Clock, Weekday, clock_text, duration_text, weekday_of
from .example import EXAMPLE
from .faults import plan_faults
from .opening import Rule, hours_on
from .plan import Clash, Plan, Progress, plan_days
from .records import (
    LIGHTS,
    Booking,
    Changes,
    Condition,
    HorizonPoint,
    Hours,
    Job,
    Light,
    Order,
    Person,
    Place,
    Run,
    Shooting,
    SunKey,
    Travel,
)
from .saying import Words, day_text
from .sunlight import (
    SunWindow,
    heading_for,
    horizon_deg,
    light_spans,
    off_key_deg,
    sun_course,
    sun_windows,
)
from .timetable import Call, DayTable, Slot, timetable

__all__ = [
    "CHANGED",
    "EXAMPLE",
    "LIGHTS",
    "WEEKDAYS",
    "WEEKDAY_NAMES",
    "Booking",
    "Break",
    "Call",
    "Change",
    "Changes",
    "Changing",
    "Clash",
    "Clock",
    "Condition",
    "Costs",
    "DayTable",
    "HorizonPoint",
    "Hours",
    "Job",
    "Light",
    "Order",
    "Person",
    "Place",
    "Plan",
    "Progress",
    "Rule",
    "Run",
    "Shooting",
    "Slot",
    "SunKey",
    "SunWindow",
    "Travel",
    "Weekday",
    "Words",
    "clock_text",
    "day_text",
    "duration_text",
    "heading_for",
    "horizon_deg",
    "hours_on",
    "light_spans",
    "off_key_deg",
    "plan_breaks",
    "plan_costs",
    "plan_days",
    "plan_faults",
    "sun_course",
    "sun_windows",
    "timetable",
    "weekday_of",
]
