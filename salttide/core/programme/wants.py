"""What the present phase of a programme asks of one system: its tasks, changes and light, what it holds back, and where
it departs from its file, in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time, timedelta

from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import clock_words, counted, listed
from ..science.parameters import Parameter, spoken
from ..system.light import Light
from ..system.livestock import Animal
from ..system.system import Routine, System
from ..upkeep.due import ONCE_DAYS, Rule
from ..upkeep.rota import WATER_CHANGE
from ..upkeep.task import tasks
from .course import EASE_STEP, REVIEW_DAYS, ProgrammeCourse, Stage
from .file import Ask, ChangePace, Phase, PhaseKind, Programme

WEEK_CEILING = 0.30
"""No programme changes more than this share of the water in a week (judgement): more strips nutrients, and moves
salinity and alkalinity with it."""
LEAST_LIGHT_H = 5.0
"""No programme leaves less light a day than this, dark days aside (judgement): corals live from it."""
LIGHT_HOURS = "light_hours"
"""The task of setting the lamps."""
NUTRIENTS = (Parameter.NITRATE, Parameter.PHOSPHATE)


@dataclass(frozen=True)
class ProgrammeFacts:
    """What a programme must know of a system: the lamps' setting before it was opened and now (None: not known), the
    latest tests of nitrate and phosphate, what the keeper wished for, and the other programmes that come first."""

    light_before: Light | None = None
    light: Light | None = None
    nutrients: Mapping[Parameter, float] = field(default_factory=dict)
    wishes: frozenset[str] = frozenset()
    first: str = ""


@dataclass(frozen=True)
class Asked:
    """A task that is asked for from a day on."""

    ask: Ask
    since: date


@dataclass(frozen=True)
class Wants:
    """What a programme asks for now.

    done: single tasks of the phase that are done · light: the lamps' setting that is due, None where it is set already
    · holds: tasks held back, and why · departs: where this system gets something else than the file says, and why.
    """

    asked: tuple[Asked, ...] = ()
    done: tuple[Ask, ...] = ()
    routine: Routine | None = None
    holds: Mapping[str, str] = field(default_factory=dict)
    light: Light | None = None
    food: tuple[str, ...] = ()
    departs: tuple[str, ...] = ()


def asks_of(programme: Programme, phase: Phase) -> tuple[Ask, ...]:
    """The tasks of a phase with the weekly review; a stronger phase goes on with those of the fight."""
    review = Ask(programme.review, "one look a week from the same place shows whether it helps", REVIEW_DAYS)
    fight = programme.fight.asks if phase.kind == PhaseKind.STRONGER else ()
    return (review, *fight, *phase.asks)


def told_tasks(programme: Programme) -> list[str]:
    """The tasks of a programme that say nothing without what was found: its review, and closer looks."""
    asked = {ask.task for phase in programme.phases for ask in asks_of(programme, phase)}
    return sorted(task for task in asked if tasks()[task].needs)


def change_of(programme: Programme, phase: Phase) -> ChangePace | None:
    """The changes of a phase; a stronger phase keeps those of the fight."""
    return phase.change or (programme.fight.change if phase.kind == PhaseKind.STRONGER else None)


def floors(system: System, nutrients: Mapping[Parameter, float]) -> list[Parameter]:
    """The nutrients that are at the floor of their band, or at nothing where there is no band."""
    found = []
    for parameter in NUTRIENTS:
        band, value = system.bands.get(parameter), nutrients.get(parameter)
        if value is not None and value <= (band.low if band else 0.0):
            found.append(parameter)
    return found


def not_for(phase: Phase, animals: Sequence[Animal]) -> list[str]:
    """The animals that do not bear a phase."""
    return [one.name for one in animals if one.count and any(word in one.name.lower() for word in phase.avoid)]


def routine_wanted(system: System, programme: Programme, phase: Phase, low: Sequence[Parameter]) -> Routine | None:
    """The water changes of a phase, within the method's largest and the week's ceiling; of the usual size where a
    nutrient is at its floor. None where a phase leaves them as they are."""
    own = Routine(system.methods.change_fraction, system.methods.change_every_days)
    name = programme.name.lower()
    if WATER_CHANGE in phase.holds:
        return replace(own, because=f"Routine changes are held back against {name}: {phase.hold_why}.", held=True)
    pace = change_of(programme, phase)
    if pace is None or not own.fraction:
        return None
    every = min(own.every_days, pace.every_days)
    per_change = own.fraction * every / own.every_days
    most = min(system.methods.largest_fraction, max(WEEK_CEILING * every / 7, per_change))
    size = min(per_change * (1.0 if low else pace.times), most)
    if every == own.every_days and size <= own.fraction:
        return None
    litres, percent = litres_words(system.litres_of(size)), show_number(size * 100, 0)
    return Routine(size, every, f"{litres} ({percent} %) every {counted(every, 'day')}, against {name}: {pace.why}.")


def light_wanted(course: ProgrammeCourse, facts: ProgrammeFacts, today: date) -> Light | None:
    """The lamps' setting of a day: the hours before, less what is taken off. The lamps come on later, the evening
    stays. None where nothing is taken off, or the hours are not known."""
    before, cut = facts.light_before, course.cut(today)
    given_back = facts.light is not None and before is not None and facts.light.hours < before.hours - NEAR_H
    if before is None or (not cut and not given_back):
        return None
    return light_of(before, cut, today)


def light_of(before: Light, cut: float, day: date) -> Light:
    """A setting of the lamps with some hours less from a day on, never under the least that corals need.

    >>> light_of(Light(date(2026, 1, 1), time(12), time(22)), 2.5, date(2026, 11, 1)).words
    '7.5 h, 14:30 to 22:00'
    """
    hours = max(min(before.hours, LEAST_LIGHT_H), before.hours - cut)
    later = datetime.combine(day, before.on) + timedelta(hours=before.hours - hours)
    on = time(later.hour, later.minute)
    return Light(day, on, before.off, min(before.ramp_minutes, hours * 30), before.spectrum)


NEAR_H = 0.09
"""Hours of light within so much of each other are the same."""


def wants_of(course: ProgrammeCourse, system: System, facts: ProgrammeFacts, today: date) -> Wants:
    """What the present phase asks of a system on a day."""
    programme, stage = course.programme, course.stage
    phase, low = stage.phase, floors(system, facts.nutrients)
    departs = list(_floor_words(programme, phase, system, low))
    harmed = not_for(phase, system.animals)
    meant = [
        ask
        for ask in asks_of(programme, phase)
        if _meant(ask, system, facts) and not (ask.export and low) and not (harmed and ask in phase.asks)
    ]
    done = [ask for ask in meant if ask.every_days is None and _done_since(course, ask, stage)]
    asked = [Asked(ask, _from(course, ask)) for ask in meant if ask not in done]
    if harmed:
        departs.append(f"{phase.name} is left out here: {listed(harmed)} would not bear it.")
    if facts.first:
        departs.append(f"Light and water changes follow {facts.first}, which was begun first: one cause at a time.")
    routine = None if facts.first else routine_wanted(system, programme, phase, low)
    if routine and not routine.held and routine.every_days < system.methods.change_every_days:
        pace = change_of(programme, phase)
        asked.append(Asked(Ask(WATER_CHANGE, pace.why if pace else "", routine.every_days), stage.since))
    light = None if facts.first else _light_due(course, facts, today)
    if light:
        asked.append(Asked(_light_ask(programme, light, phase), _light_since(stage, today)))
    holds = {task: phase.hold_why for task in phase.holds if tasks()[task].suits(system)}
    return Wants(tuple(asked), tuple(done), routine, holds, light, _food_words(phase, system), tuple(departs))


def _from(course: ProgrammeCourse, ask: Ask) -> date:
    """The day from which a task is asked for: with its phase; the first look, a week after it was begun."""
    if ask.task == course.programme.review:
        return course.record.opened + timedelta(days=REVIEW_DAYS)
    return course.stage.since


def _meant(ask: Ask, system: System, facts: ProgrammeFacts) -> bool:
    """Whether a task is meant for this system: its gear is there, and the keeper wants it."""
    gear = not ask.gear or bool({*ask.gear} & {*system.gear})
    return gear and (not ask.wish or ask.task in facts.wishes)


def counted_tasks(programme: Programme, system: System, facts: ProgrammeFacts) -> set[str]:
    """The single tasks that are asked of this system."""
    asks = [ask for phase in programme.phases for ask in phase.asks if ask.every_days is None]
    return {ask.task for ask in asks if _meant(ask, system, facts)}


def _done_since(course: ProgrammeCourse, ask: Ask, stage: Stage) -> bool:
    return any(day >= stage.since for day in course.record.done.get(ask.task, ()))


def _light_due(course: ProgrammeCourse, facts: ProgrammeFacts, today: date) -> Light | None:
    wanted, now = light_wanted(course, facts, today), facts.light or facts.light_before
    if wanted is None or now is None or abs(wanted.hours - now.hours) <= NEAR_H:
        return None
    return wanted


def _light_since(stage: Stage, today: date) -> date:
    """The day from which the present step of the lamps is due."""
    every = (stage.phase.light or EASE_STEP).step_days
    return stage.since + timedelta(days=(today - stage.since).days // every * every)


def _light_ask(programme: Programme, light: Light, phase: Phase) -> Ask:
    times = f"{clock_words(light.on)} to {clock_words(light.off)}, {show_number(light.hours, 1)} h"
    why = "the routine is put back" if phase.kind in (PhaseKind.EASE, PhaseKind.WATCH) else "less light feeds it less"
    return Ask(LIGHT_HOURS, f"{times}: {why}")


def _floor_words(programme: Programme, phase: Phase, system: System, low: Sequence[Parameter]) -> list[str]:
    """What rests while a nutrient is at its floor."""
    if not low:
        return []
    names = listed([spoken(one) for one in low])
    verb = "is" if len(low) == 1 else "are"
    rests = [tasks()[ask.task].name.lower() for ask in asks_of(programme, phase) if ask.export]
    pace = change_of(programme, phase)
    if pace and pace.times > 1:
        rests.append("larger water changes")
    held = f" Until then these rest: {listed(rests)}." if rests else ""
    if phase.kind == PhaseKind.FIND:
        return [
            f"{names} {verb} at the floor: nothing more is taken out, and it is raised once it is known what grows."
        ]
    return [f"{names} {verb} at the floor: raised gently by its own plan, never stripped further.{held}"]


def _food_words(phase: Phase, system: System) -> tuple[str, ...]:
    """How it is fed: the phase's own words, and the fewest portions a day of each species."""
    asks = {ask.task for ask in phase.asks}
    if not phase.food and "feed_portions" not in asks:
        return ()
    least = [
        f"{one.name}: never under {counted(round(one.portions), 'portion')} a day"
        for one in system.animals
        if one.count and one.portions
    ]
    return (*([phase.food] if phase.food else []), *least)


def bent(rules: Sequence[Rule], system: System, wants: Sequence[Wants]) -> list[Rule]:
    """The rules of care as programmes bend them: tasks more often, added, asked for once, or held back."""
    held = {task for one in wants for task in one.holds}
    found = {rule.kind.key: rule for rule in rules if rule.kind.key not in held}
    for one in (asked for each in wants for asked in each.asked):
        task = one.ask.task
        if task not in held:
            found[task] = _asked_rule(found.get(task), one, system)
    return list(found.values())


def _asked_rule(rule: Rule | None, one: Asked, system: System) -> Rule:
    kind, every, why = tasks()[one.ask.task], one.ask.every_days, one.ask.why
    if rule is None:
        rule = Rule(kind, ONCE_DAYS, kind.minutes, zones=kind.zones_for(system))
    if every is None:
        return replace(rule, once=one.since, asked=why)
    if rule.every_days == ONCE_DAYS:
        return replace(rule, every_days=every, since=one.since - timedelta(days=every), asked=why)
    return replace(rule, every_days=every, asked=why) if every < rule.every_days else rule
