"""Days: the set-ups of a production ordered into shooting days, with the sun, the people and the places."""

from .broken import Break, Costs
from .changing import CHANGED, Change, Changing
from .checking import plan_breaks, plan_costs
from .clock import LATEST_MIN, WEEKDAY_NAMES, WEEKDAYS, Clock, Weekday, clock_text, duration_text, weekday_of
from .deriving import Derived, jobs_of_shots
from .example import EXAMPLE
from .faults import plan_faults
from .filming import DUTIES, DayFigures, Duty, Filming, Hand, ShotToFilm, StandingSetUp
from .forecast import Outlook, outlook, pace_draws
from .on_the_day import DayAsItGoes, Dropped, Expected, Filler, FilmedToday, day_as_it_goes, fillers
from .opening import Rule, hours_on
from .plan import Clash, Plan, Progress, plan_days
from .planned import Planned, plan_file
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
from .replanning import Moved, in_rain, moved_jobs, plan_again
from .saying import Words, day_text
from .sheet import CalledJob, CalledPerson, Sheet, sheet_changes, sheet_of
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
    "DUTIES",
    "EXAMPLE",
    "LATEST_MIN",
    "LIGHTS",
    "WEEKDAYS",
    "WEEKDAY_NAMES",
    "Booking",
    "Break",
    "Call",
    "CalledJob",
    "CalledPerson",
    "Change",
    "Changes",
    "Changing",
    "Clash",
    "Clock",
    "Condition",
    "Costs",
    "DayAsItGoes",
    "DayFigures",
    "DayTable",
    "Derived",
    "Dropped",
    "Duty",
    "Expected",
    "Filler",
    "FilmedToday",
    "Filming",
    "Hand",
    "HorizonPoint",
    "Hours",
    "Job",
    "Light",
    "Moved",
    "Order",
    "Outlook",
    "Person",
    "Place",
    "Plan",
    "Planned",
    "Progress",
    "Rule",
    "Run",
    "Sheet",
    "Shooting",
    "ShotToFilm",
    "Slot",
    "StandingSetUp",
    "SunKey",
    "SunWindow",
    "Travel",
    "Weekday",
    "Words",
    "clock_text",
    "day_as_it_goes",
    "day_text",
    "duration_text",
    "fillers",
    "heading_for",
    "horizon_deg",
    "hours_on",
    "in_rain",
    "jobs_of_shots",
    "light_spans",
    "moved_jobs",
    "off_key_deg",
    "outlook",
    "pace_draws",
    "plan_again",
    "plan_breaks",
    "plan_costs",
    "plan_days",
    "plan_faults",
    "plan_file",
    "sheet_changes",
    "sheet_of",
    "sun_course",
    "sun_windows",
    "timetable",
    "weekday_of",
]
