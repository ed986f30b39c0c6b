"""One shot broken down: board, recipes, plates in filming order with their checks, what it costs each way,
cautions.
"""

from __future__ import annotations

from jungoptic.app.boards.models import Board
from jungoptic.app.boards.schemas import BoardOut
from jungoptic.app.breakdown.schemas import PlanOut
from jungoptic.app.costs import costing
from jungoptic.app.costs.answers import option_out
from jungoptic.app.costs.models import JOB_FIELDS, Costing
from jungoptic.app.costs.schemas import CostingOut
from jungoptic.app.productions import access
from jungoptic.app.recipes.answers import chosen_answer
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.recipes.plates import plates
from jungoptic.app.recipes.schemas import OwnRecipeOut
from jungoptic.app.safety import cautions as safety
from jungoptic.app.safety.ready import shown
from jungoptic.app.safety.schemas import HazardOut, KeyTitle, SignedOut
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable
from jungoptic.app.vocabulary.own import book
from jungoptic.core.breakdown import CRAFTS, HABITS, Job
from jungoptic.core.cautions import DEFERENCE
from jungoptic.core.handbook import record_fields
from jungoptic.core.vocabulary import IN_SHOT


def broken_down(table: BenchTable, role: access.Role) -> PlanOut:
    """Everything that the break-down page of a shot shows beside its board."""
    shot = table.shot
    board = Board.objects.filter(shot=shot, current=True).first()
    costs: Costing | None = getattr(shot, "costing", None)
    signed = safety.signatures(shot)
    every = safety.hazards(table)
    rows = (
        ShotRecipe.objects.filter(shot=shot, removed=False).select_related("own").prefetch_related("answers")
    )
    own = Shot.objects.filter(production=shot.production_id, template=True, removed=False)
    open_count = sum(one.caution.key not in signed for one in every)
    fields = {one.name: one for one in record_fields(Job)}
    return PlanOut(
        shot_id=shot.pk,
        version=shot.version,
        revision=shot.revision,
        role=role.value,
        production_id=shot.production_id,
        ready=shot.ready and not open_count and not shown(table),
        board=(
            BoardOut(id=board.pk, name=board.name, width_px=board.width_px, height_px=board.height_px)
            if board
            else None
        ),
        recipes=[chosen_answer(row) for row in rows],
        own_recipes=[OwnRecipeOut(id=one.pk, title=one.title, description=one.description) for one in own],
        plates=plates(table),
        habits=list(HABITS),
        costing=CostingOut(
            version=costs.version if costs else 1,
            chosen=costs.chosen if costs else "",
            job=costing.job_of(table),
            derived=costing.derived_job(table),
            said=[name for name in JOB_FIELDS if costs and getattr(costs, name) not in (None, "")],
            options=(
                [option_out(one, costs.chosen if costs else "") for one in costing.priced(table)]
                if table.layers
                else []
            ),
            fields=[fields[name] for name in JOB_FIELDS],
            crafts=list(CRAFTS),
            fitting=list(costing.recipe_ways(shot)),
            hours_spent=shot.hours_spent,
        ),
        hazards=[
            HazardOut(
                key=one.caution.key,
                title=one.caution.title,
                text=one.caution.text,
                ask=one.caution.ask,
                safer=one.caution.safer,
                by=list(one.by),
                signed=(
                    SignedOut(
                        by=signed[one.caution.key].person.shown_name,
                        at=signed[one.caution.key].at,
                        note=signed[one.caution.key].note,
                    )
                    if one.caution.key in signed
                    else None
                ),
            )
            for one in every
        ],
        cautions_by_hand=list(shot.cautions),
        who=list(shot.who),
        in_shot=[KeyTitle(key=key, title=title) for key, title in IN_SHOT.items()],
        all_cautions=[KeyTitle(key=key, title=one.title) for key, one in book().cautions.items()],
        deference=DEFERENCE,
    )
