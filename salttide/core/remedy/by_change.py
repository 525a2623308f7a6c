"""Water changes as a remedy: for a nutrient that is too high, or a salinity that is too low for topping off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ..basics.errors import SaltTideError
from ..basics.measures import litres_words, weight_words
from ..basics.phrasing import counted, day_words, listed
from ..judgement.situation import Situation
from ..ledger.verdict import REAL_SDS
from ..planning.change import ChangePlan, level_after, plan_change
from ..planning.change_order import TankWork, work_of_plan
from ..planning.change_request import ChangeRequest, Purpose
from ..planning.change_step import ChangeStepKind
from ..planning.plumbing import Drain
from ..planning.work_order import PlannedWork
from ..science.parameters import Parameter, spoken
from ..system.plumbing import Plumbing
from .remedy import Means, Remedy, RemedyKind, Supply

MAX_CHANGES = 4
"""More water changes than these for one parameter are too much water for it alone (judgement)."""
CHANGE_APART_DAYS, SALTY_APART_DAYS = 7, 2
"""Days between changes (judgement): nutrients bound in rock and sand follow slowly, salinity at once."""


@dataclass(frozen=True)
class PlannedChanges:
    """Changes that bring a parameter to a level: their words, days, work and salt; enough: whether they get there in no
    more than a few."""

    words: str
    days: tuple[date, ...]
    work: tuple[PlannedWork, ...]
    supplies: tuple[Supply, ...]
    enough: bool

    @property
    def span(self) -> str:
        """When they are."""
        first, last = day_words(self.days[0]), day_words(self.days[-1])
        return f"From {first} to {last}" if len(self.days) > 1 else f"On {first}"


def plan_changes(s: Situation, means: Means, parameter: Parameter, level: float) -> PlannedChanges | str:
    """The changes inside the method's largest size that bring a parameter to a level; where they cannot be planned, why
    not."""
    if means.salt is None or s.system.methods.natural_seawater:
        return "No salt is on the shelf to mix new water from."
    unknown = [spoken(p) for p in (Parameter.SALINITY, Parameter.ALKALINITY) if p not in s.present]
    if unknown:
        return f"Test {listed(unknown)} first: without it no new water can be matched."
    request, water = _request(s, means, parameter, level), {p: known.value for p, known in s.present.items()}
    tank = TankWork(Plumbing(), Drain(), s.system.methods.siphons)
    try:
        plan = plan_change(s.system, water, request, {parameter: -s.net_use(parameter)})
        work = work_of_plan(s.system, request, plan, tank, means.rules, s.units)
    except SaltTideError as error:
        return str(error)
    sizes = [step.volume_l for step in plan.steps if step.kind == ChangeStepKind.CHANGE]
    return PlannedChanges(
        f"{counted(len(sizes), 'water change')} of {_sizes(sizes)}",
        tuple(step.day for step in plan.steps),
        tuple(work),
        _salt_of(plan, means),
        plan.reached and len(sizes) <= MAX_CHANGES,
    )


def changes_to(s: Situation, means: Means, parameter: Parameter, goal: float) -> list[Remedy]:
    """Changes that bring a parameter to its aim; where that would take too many, those that bring it into its band."""
    found, name, key = plan_changes(s, means, parameter, goal), spoken(parameter), f"change-{parameter.value}"
    if isinstance(found, str):
        return [Remedy(key, RemedyKind.CHANGE, f"Water changes for {name}", "", found, False, parameter, goal)]
    up = goal > s.present[parameter].value
    way, there = "Raise" if up else "Lower", s.show(parameter, goal)
    if found.enough:
        why = "It takes nutrients out with the water and gives back what is used up."
        if up:
            why = "Saltier water for tank water is quicker than topping off, and needs the work of a change."
        title = f"{way} {name} to {there}: {found.words}"
        return [_changed(key, title, why, parameter, goal, found)]
    too_much = f"It would take {found.words}: too much water for {name} alone."
    full = Remedy(key, RemedyKind.CHANGE, f"{way} {name} to {there}", "", too_much, False, parameter, goal)
    level = inside_band(s, parameter)
    part = plan_changes(s, means, parameter, level) if level is not None and not up else ""
    if isinstance(part, str) or not part.enough:
        return [full]
    title = f"{way} {name} into its band, to {s.show(parameter, level or goal)}: {part.words}"
    why = f"Its aim of {there} would take {found.words}: food and export do the rest."
    return [_changed(f"{key}-part", title, why, parameter, level or goal, part)]


def inside_band(s: Situation, parameter: Parameter) -> float | None:
    """A level that a test surely finds inside the band, coming from above."""
    band = s.band(parameter)
    return max(band.middle, band.high - REAL_SDS * s.sd(parameter)) if band else None


def _changed(key: str, title: str, why: str, parameter: Parameter, goal: float, found: PlannedChanges) -> Remedy:
    return Remedy(
        key, RemedyKind.CHANGE, title, f"{found.span}.", why, True, parameter, goal, found.work, None, found.supplies,
        "New water that does not match shocks what it meets: check it against the tank before you pour.",
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
    if not means.salt or not plan.salt_g:
        return ()
    return (Supply(means.salt.name, weight_words(plan.salt_g), mass_g=plan.salt_g, salt_id=means.salt.id),)
