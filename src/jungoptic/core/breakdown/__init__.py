"""Breaking a shot down: recipes, what they cost, what can hurt somebody, what can be used again."""

from .costs import building_hours, crossings, layer_matte_hours, paint_out_hours, storage_gb
from .figures import CRAFTS, ON_SET, Figures, Hours, Job, Option, Owned, Saving, Wanted
from .filming import CHECKS, FILMED_FIRST, UNSAID, WHY, WHY_PICTURE
from .guide import Suggestion, guide
from .hazards import (
    FRAME_BY_FRAME,
    Raised,
    may_have_people,
    open_cautions,
    plan_reasons,
    raised_cautions,
    who_reasons,
    word_reasons,
)
from .mends import Again, Mend, MendCost, TakeToMend, break_even, mending_pays, mends
from .outlines import OUTLINES, Outline, Piece, fitted_parts
from .recipe import Ask, Planned, Plate, Recipe, answers_of, expand
from .recipes import HABITS, RECIPES, read_recipe
from .reuse import Aspect, Fit, Footage, fitting_footage, words_of
from .ways import WAYS, priced_ways

__all__ = [
    "CHECKS",
    "CRAFTS",
    "FILMED_FIRST",
    "FRAME_BY_FRAME",
    "HABITS",
    "ON_SET",
    "OUTLINES",
    "RECIPES",
    "UNSAID",
    "WAYS",
    "WHY",
    "WHY_PICTURE",
    "Again",
    "Ask",
    "Aspect",
    "Figures",
    "Fit",
    "Footage",
    "Hours",
    "Job",
    "Mend",
    "MendCost",
    "Option",
    "Outline",
    "Owned",
    "Piece",
    "Planned",
    "Plate",
    "Raised",
    "Recipe",
    "Saving",
    "Suggestion",
    "TakeToMend",
    "Wanted",
    "answers_of",
    "break_even",
    "building_hours",
    "crossings",
    "expand",
    "fitted_parts",
    "fitting_footage",
    "guide",
    "layer_matte_hours",
    "may_have_people",
    "mending_pays",
    "mends",
    "open_cautions",
    "paint_out_hours",
    "plan_reasons",
    "priced_ways",
    "raised_cautions",
    "read_recipe",
    "storage_gb",
    "who_reasons",
    "word_reasons",
    "words_of",
]
