"""Water changes as a remedy: for a nutrient that is too high, or a salinity that is too low for topping off."""

from __future__ import annotations

from collections.abc import Sequence

from ..basics.errors import SaltTideError
from ..basics.measures import litres_words, weight_words
from ..basics.phrasing import counted, day_words, listed
from ..judgement.situation import Situation
from ..planning.change import ChangePlan, level_after, plan_change
from ..planning.change_order import TankWork, work_of_plan
from ..planning.change_request import ChangeRequest, Purpose
from ..planning.change_step import ChangeStepKind
from ..planning.plumbing import Drain, Plumbing
from ..science.parameters import Parameter, spoken
from .remedy import Means, Remedy, RemedyKind, Supply

MAX_CHANGES = 4
"""More water changes than these for one parameter are too much water for it alone (judgement)."""
CHANGE_APART_DAYS, SALTY_APART_DAYS = 7, 2
"""Days between changes (judgement): nutrients bound in rock and sand follow slowly, salinity at once."""


def changes_to(s: Situation, means: Means, parameter: Parameter, goal: float) -> Remedy | None:
    """Changes inside the method's largest size that bring a parameter to its aim; None without a salt to mix."""
    if means.salt is None or s.system.methods.natural_seawater:
        return None
    name = spoken(parameter)
    unknown = [spoken(p) for p in (Parameter.SALINITY, Parameter.ALKALINITY) if p not in s.present]
    if unknown:
        why = f"Test {listed(unknown)} first: without it no new water can be matched."
        return Remedy(
            f"change-{parameter.value}", RemedyKind.CHANGE, f"Water changes for {name}", "", why, False, parameter, goal
        )
    request = _request(s, means, parameter, goal)
    water = {p: known.value for p, known in s.present.items()}
    up = goal > water[parameter]
    try:
        plan = plan_change(s.system, water, request, {parameter: s.net_use(parameter) * -1})
    except SaltTideError as error:
        return Remedy(
            f"change-{parameter.value}",
            RemedyKind.CHANGE,
            f"Water changes for {name}",
            "",
            str(error),
            False,
            parameter,
            goal,
        )
    sizes = [step.volume_l for step in plan.steps if step.kind == ChangeStepKind.CHANGE]
    words, days = f"{counted(len(sizes), 'water change')} of {_sizes(sizes)}", [step.day for step in plan.steps]
    fits = plan.reached and len(sizes) <= MAX_CHANGES
    why = "It takes nutrients out with the water and gives back what is used up."
    if up:
        why = "Saltier water for tank water is quicker than topping off, and needs the work of a change."
    if not fits:
        why = f"It would take {words}: too much water for {name} alone."
    tank = TankWork(Plumbing(), Drain(), s.system.methods.siphons)
    work = work_of_plan(s.system, request, plan, tank, means.rules, s.units) if fits else []
    return Remedy(
        f"change-{parameter.value}", RemedyKind.CHANGE,
        f"{'Raise' if up else 'Lower'} {name} to {s.show(parameter, goal)}: {words}",
        f"From {day_words(days[0])} to {day_words(days[-1])}." if len(days) > 1 else f"On {day_words(days[0])}.",
        why, fits, parameter, goal, tuple(work), None, _salt_of(plan, means),
        "New water that does not match shocks what it meets: the change has its gate for that.",
    )  # fmt: skip


def _request(s: Situation, means: Means, parameter: Parameter, goal: float) -> ChangeRequest:
    """The request for the changes, holding salinity and alkalinity where they are not the point."""
    today = s.now.astimezone(s.zone).date()
    largest = s.system.methods.largest_fraction
    salinity, alkalinity = (
        level_after(s.system, s.present[p], p) if p in s.present else None
        for p in (Parameter.SALINITY, Parameter.ALKALINITY)
    )
    if parameter == Parameter.SALINITY:
        return ChangeRequest(
            largest, means.salt, s.source, today, SALTY_APART_DAYS, goal, None, purpose=Purpose.SALINITY
        )
    return ChangeRequest(
        largest, means.salt, s.source, means.change_day or today, CHANGE_APART_DAYS, salinity, alkalinity,
        purpose=Purpose.BRING, aim=(parameter, goal),
    )  # fmt: skip


def _sizes(litres: Sequence[float]) -> str:
    words = [litres_words(each, 0) for each in litres]
    if len({*words}) == 1:
        return words[0]
    return listed(words) if len(words) <= MAX_CHANGES else f"up to {litres_words(max(litres), 0)}"


def _salt_of(plan: ChangePlan, means: Means) -> tuple[Supply, ...]:
    return (Supply(means.salt.name, weight_words(plan.salt_g)),) if means.salt and plan.salt_g else ()
