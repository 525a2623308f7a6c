"""Remedies for alkalinity, calcium, magnesium, potassium and nutrients that are too low: doses by each additive on the
shelf, the daily dose, and a water change."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from ..basics.errors import SaltTideError
from ..basics.number_text import show_number
from ..basics.phrasing import capital, counted, day_words, listed
from ..judgement.situation import Situation
from ..ledger.verdict import REAL_SDS
from ..planning.correction import Aim, Correction, CorrectionStep, DoseShare, plan_correction, water_now
from ..planning.correction_work import additives_for, correction_work, side_words
from ..planning.daily_fit import DailyFit, DailySupply, fitting_daily, supply_of
from ..planning.work_order import PlannedWork, usual_salinity
from ..science.amount import dose_text
from ..science.parameters import Parameter, spoken
from ..science.recipe import name_of_formula
from ..science.salt_calibration import mixed_water
from ..system.shelf import Additive
from .remedy import Means, Remedy, RemedyKind, Supply

USUAL_FORMULA = {
    Parameter.ALKALINITY: "Na2CO3",
    Parameter.CALCIUM: "CaCl2·2H2O",
    Parameter.MAGNESIUM: "MgCl2·6H2O",
    Parameter.POTASSIUM: "KCl",
    Parameter.NITRATE: "KNO3",
    Parameter.PHOSPHATE: "KH2PO4",
}
"""What is proposed to buy where nothing on the shelf raises a parameter."""
HOURS_OF_DOSES = 12
PUMP_FIRST = "See to the pump first"
DUE_SOON = timedelta(days=2)
"""A routine change due within this time is a remedy that costs no further work (judgement)."""
RE_TEST_DAYS = 4
"""A changed daily dose shows in a test after so many days (judgement)."""


def supply(s: Situation, means: Means) -> DailySupply:
    """What the system gets and uses a day."""
    return supply_of(s.system, s.rates, s.plan.daily, means.changes, means.additives, means.faults)


def raising(s: Situation, means: Means, parameter: Parameter) -> list[Remedy]:
    """Every way to raise a parameter that is below its aim, the mildest sufficient first."""
    goal, value = s.system.aim(parameter), s.value(parameter)
    if goal is None or value is None or value >= goal:
        return []
    shelved = additives_for(parameter, means.additives, s.source)
    found = [_dosed(s, means, parameter, one, place == 0) for place, one in enumerate(shelved)]
    if not shelved:
        found = [
            _dosed(s, means, parameter, Additive(0, name_of_formula(f), f), True) for f in [USUAL_FORMULA[parameter]]
        ]
    ways = [*_pump_first(means, parameter), *_by_change(s, means, parameter, goal, value), *found]
    return sorted(ways, key=lambda one: not one.fits)


def _pump_first(means: Means, parameter: Parameter) -> list[Remedy]:
    """A pump that does not deliver what it is set to is seen to before anything else."""
    fault = means.faults.get(parameter)
    if fault is None:
        return []
    title = f"{PUMP_FIRST}: {fault.title[:1].lower()}{fault.title[1:]}"
    return [Remedy("pump", RemedyKind.ACT, title, " ".join(fault.steps), fault.reason, True, parameter)]


def _dosed(s: Situation, means: Means, parameter: Parameter, additive: Additive, first: bool) -> Remedy:
    """Doses of one additive within the daily limits, and the daily dose that holds what they reach."""
    fit = fitting_daily(supply(s, means), parameter, additive)
    key, goal = f"dose-{parameter.value}-{additive.id}", s.system.aim(parameter)
    assert goal is not None
    aim = aim_of(s, parameter, goal, additive, fit)
    try:
        plan = plan_correction([aim], water_now(_water(s)), s.system.volume_l, HOURS_OF_DOSES, means.busy)
    except SaltTideError as error:
        title = f"Raise {spoken(parameter)} with {additive.name}"
        return Remedy(key, RemedyKind.DOSE, title, "", str(error), False, parameter, goal, additive_id=additive.id)
    work = correction_work(s.system, [aim], plan, s.now, s.zone, s.units)
    return dosed_remedy(s, aim, plan, work, fit, _why_dosed(s, parameter, first, additive))


def dosed_remedy(
    s: Situation, aim: Aim, plan: Correction, work: Sequence[PlannedWork], fit: DailyFit | None, why: str = ""
) -> Remedy:
    """The remedy that a correction is, for one of the parameters it raises."""
    parameter, additive = aim.parameter, aim.additive
    return Remedy(
        f"dose-{parameter.value}-{additive.id}",
        RemedyKind.DOSE,
        f"Raise {spoken(parameter)} to {s.show(parameter, aim.target)}: {doses_words(plan, parameter)}",
        _directions(s, plan, parameter, fit),
        why,
        True,
        parameter,
        aim.target,
        tuple(work),
        fit.daily if fit else None,
        (_supply(plan, additive),),
        _risk(parameter, plan),
        additive_id=additive.id,
    )


def aim_of(s: Situation, parameter: Parameter, goal: float, additive: Additive, fit: DailyFit | None) -> Aim:
    """What a correction has to bring, on top of what is used beyond the daily dose: the new one where that is
    adjusted."""
    net_use = fit.net_use if fit else s.net_use(parameter)
    return Aim(parameter, s.present[parameter].value, goal, additive, net_use, s.limit(parameter))


def doses_words(plan: Correction, parameter: Parameter) -> str:
    """What a correction doses of one parameter, in a few words: the amount of each day, and on how many days."""
    days = [mine for step in plan.steps if (mine := _portions_of(step, parameter))]
    sizes = [_size([one.mass_g for one in mine], [one.ml for one in mine]) for mine in days]
    name = days[0][0].additive.name
    if len({*sizes}) == 1:
        each = f"{sizes[0]} {name}"
        return f"{each} once" if len(days) == 1 else f"{each} a day for {counted(len(days), 'day')}"
    return f"{listed(sizes)} {name} on {counted(len(days), 'day')}"


def _portions_of(step: CorrectionStep, parameter: Parameter) -> list[DoseShare]:
    return [one for one in step.portions if one.parameter == parameter]


def _size(grams: Sequence[float], mls: Sequence[float | None]) -> str:
    known = [ml for ml in mls if ml is not None]
    return dose_text(sum(grams), sum(known) if known else None, "")


def _directions(s: Situation, plan: Correction, parameter: Parameter, fit: DailyFit | None) -> str:
    """How the doses are given, when to test, and the daily dose from now on."""
    parts = max(len(_portions_of(step, parameter)) for step in plan.steps)
    today = s.now.astimezone(s.zone).date()
    tests = [today + timedelta(days=step.day) for step in plan.steps if parameter in step.tests]
    words = [f"In {parts} parts a day, well apart, into strong flow." if parts > 1 else "Into strong flow."]
    if tests:
        words.append(f"Test on {listed([day_words(day) for day in tests])}.")
    if fit:
        words.append(f"From now on {fit.words}, or it falls again.")
    return " ".join(words)


def _why_dosed(s: Situation, parameter: Parameter, first: bool, additive: Additive) -> str:
    short = f"It is {s.difference(parameter, s.gap(parameter))} under its band"
    if not s.gap(parameter):
        short = "It is near the lower end of its band and falling"
    if not additive.id:
        return f"{short}, and nothing on the shelf raises it: this has to be bought."
    return f"{short}, and a dose raises it and little else." if first else f"The same with {additive.name}."


def _supply(plan: Correction, additive: Additive) -> Supply:
    doses = [one for step in plan.steps for one in step.portions if one.additive == additive]
    grams = [one.mass_g for one in doses]
    size = _size(grams, [one.ml for one in doses])
    return Supply(additive.name, size, bool(additive.id), sum(grams), additive.formula)


def _risk(parameter: Parameter, plan: Correction) -> str:
    side = side_words(plan)
    if parameter == Parameter.ALKALINITY:
        return f"Too much at once drives pH up and carbonate out of the water. {side}".strip()
    return side


def _water(s: Situation) -> dict[Parameter, float]:
    return {parameter: known.value for parameter, known in s.present.items()}


def _by_change(s: Situation, means: Means, parameter: Parameter, goal: float, value: float) -> list[Remedy]:
    """A water change, where the salt holds the parameter: first where one is due anyway and enough, else with the share
    that it would need."""
    if means.salt is None:
        return []
    new = mixed_water(means.salt, usual_salinity(s.system)).get(parameter)
    if new is None:
        return []
    today = s.now.astimezone(s.zone).date()
    name, due = spoken(parameter), means.change_day
    title = f"Leave {name} to a water change"
    if new <= value:
        held = s.show(parameter, new)
        why = f"New water holds {held}: a change would not raise it."
        return [Remedy(f"change-{parameter.value}", RemedyKind.CHANGE, title, "", why, False, parameter, goal)]
    share = (goal - value) / (new - value)
    usual = s.system.routine.fraction
    if share <= usual and due is not None and due <= today + DUE_SOON:
        after = s.show(parameter, value + usual * (new - value))
        return [_due(s, parameter, goal, due, after)]
    needs = f"{show_number(min(share, 9.99) * 100, 0)} %"
    why = f"A water change would need {needs} for this: too much for {name} alone."
    if share <= s.system.methods.largest_fraction:
        why = f"A water change of {needs} would do it, but it moves everything else too."
    return [Remedy(f"change-{parameter.value}", RemedyKind.CHANGE, title, "", why, False, parameter, goal)]


def _due(s: Situation, parameter: Parameter, goal: float, due: date, after: str) -> Remedy:
    name = spoken(parameter)
    return Remedy(
        f"change-{parameter.value}",
        RemedyKind.CHANGE,
        f"Leave {name} to the water change on {day_words(due)}",
        f"The usual change brings it to {after}. Test {name} the day after.",
        "A change is due anyway, and it is enough.",
        True,
        parameter,
        goal,
    )


def holding(s: Situation, means: Means, parameter: Parameter) -> list[Remedy]:
    """Ways to keep a falling parameter inside its band: the daily dose; near its edge it is raised as well."""
    shelved = additives_for(parameter, means.additives, s.source)
    if parameter in means.faults:
        return _pump_first(means, parameter)
    fit = fitting_daily(supply(s, means), parameter, shelved[0] if shelved else None)
    today, name, edge = s.now.astimezone(s.zone).date(), spoken(parameter), at_the_edge(s, parameter)
    raised = raising(s, means, parameter) if edge else []
    if fit is None:
        return raised
    test = day_words(today + timedelta(days=RE_TEST_DAYS))
    why = f"{capital(name)} is in its band but on its way out: what is used is more than what comes in."
    daily = Remedy(
        "daily",
        RemedyKind.DAILY,
        f"Adjust the daily dose: {fit.words}",
        f"Nothing else is needed: it is still in its band. Test {name} on {test}.",
        "It would only hold it at the edge of its band, where tests may find it outside." if edge else why,
        not edge,
        parameter,
        s.system.aim(parameter),
        daily=None if edge else fit.daily,
        supplies=(Supply(fit.after.additive, _size([fit.after.mass_g], [fit.after.ml or None]) + " a day"),),
    )
    return [*raised, daily]


def at_the_edge(s: Situation, parameter: Parameter, sds: float = REAL_SDS) -> bool:
    """Whether a level that falls, or rises, is so near that end of its band that a test may find it outside: by so
    many of its deviations."""
    band, value = s.band(parameter), s.value(parameter)
    if band is None or value is None:
        return False
    left = value - band.low if s.net(parameter) <= 0 else band.high - value
    return left < sds * s.sd(parameter)
