"""Workload: minutes needed a week against the minutes given, and what would make it fit."""

from fastapi import APIRouter

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, listed
from salttide.core.upkeep.care import AS_USUAL
from salttide.core.upkeep.workload import Load, Saving, Workload, workload

from .context import Context, In
from .models import Id, Model
from .upkeep import ChoiceBody, choice_body

router = APIRouter(prefix="/api/rota/workload", tags=["workload"])


NAMED = 6


class NeededShown(Model):
    """The minutes a week of one system."""

    system_id: int
    name: str
    minutes: int


class SavingShown(Model):
    """A way to save time: what, why it is done at all, and the choice that does it, with the one before."""

    system_id: Id
    task: str
    words: str
    saves: str
    risk: str
    choice: ChoiceBody
    before: ChoiceBody


class WorkloadShown(Model):
    """Minutes needed and given a week, in words; by system; what is left undone, and ways to save time."""

    words: str
    fits: bool
    needed: int
    given: int
    systems: list[NeededShown]
    undone: str
    savings: list[SavingShown]


@router.get("")
def needed(ctx: In) -> WorkloadShown:
    """The minutes needed a week by every system's tasks, against those the keeper has."""
    systems = ctx.household.systems
    found = workload({one.id: ctx.household.rules(one) for one in systems}, ctx.household.stored.week_minutes)
    return WorkloadShown(
        words=_words(found),
        fits=found.fits,
        needed=round(found.needed),
        given=round(found.given),
        systems=[
            NeededShown(
                system_id=one.id,
                name=one.name,
                minutes=round(sum(load.minutes for load in found.loads if load.system_id == one.id)),
            )
            for one in systems
        ],
        undone=_undone(ctx, found.undone),
        savings=[_saving(ctx, one) for one in found.savings],
    )


def _words(found: Workload) -> str:
    needed, given = show_number(found.needed, 0), show_number(found.given, 0)
    if found.fits:
        return phrase("workload.it_fits", needed=needed, given=given)
    short = show_number(found.needed - found.given, 0)
    return phrase("workload.it_does_not_fit", needed=needed, given=given, short=short)


def _undone(ctx: Context, left: list[Load]) -> str:
    if not left:
        return ""
    system = ctx.stored.system
    names = [phrase("workload.of", name=one.rule.kind.name, system=system(one.system_id).name) for one in left]
    more = [phrase("workload.more", count=len(names) - NAMED)] if len(names) > NAMED else []
    return phrase("workload.left_undone", names=listed([*names[:NAMED], *more]))


def _saving(ctx: Context, one: Saving) -> SavingShown:
    kind, system = one.load.rule.kind, ctx.household.system(one.load.system_id)
    choices = ctx.household.stored.care_choices[system.id]
    before = choice_body(choices.get(kind.key, AS_USUAL))
    change = {"off": True} if one.every_days is None else {"every_days": one.every_days}
    what = (
        phrase("workload.take_off", name=kind.name, system=system.name)
        if one.every_days is None
        else phrase(
            "workload.rarer", name=kind.name, system=system.name, days=counted(one.every_days, "day"),
            now=counted(one.load.rule.every_days, "day"),
        )
    )  # fmt: skip
    return SavingShown(
        system_id=system.id,
        task=kind.key,
        words=what,
        saves=phrase("workload.saves", minutes=show_number(one.minutes, 1)),
        risk=kind.why,
        choice=before.model_copy(update=change),
        before=before,
    )
