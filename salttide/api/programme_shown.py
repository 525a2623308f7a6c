"""Programmes as they are shown: their phases with what they ask of a system, its numbers, and the looks so far."""

from datetime import date

from pydantic import Field

from salttide.core.basics.measures import litres_words, weight_words
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital, clock_words, counted, day_words, listed
from salttide.core.overview.state import SystemState
from salttide.core.planning.variant import salt_mass_of
from salttide.core.planning.work_order import routine_change
from salttide.core.programme.course import Coverage, ProgrammeCourse, ProgrammeRecord, course_of
from salttide.core.programme.file import Ask, Phase, Programme, against
from salttide.core.programme.proposed import coverage_seen, seen_of
from salttide.core.programme.sheet import effects_of, in_phase, minutes_a_week, minutes_once
from salttide.core.programme.underway import Underway
from salttide.core.programme.wants import NUTRIENTS, ProgrammeFacts, Wants, bent, light_of, not_for, wants_of
from salttide.core.science.units import show
from salttide.core.system.system import System
from salttide.core.trouble.table import troubles
from salttide.core.upkeep.rota import WATER_CHANGE
from salttide.core.upkeep.task import tasks
from salttide.household import programme as acts
from salttide.household.underway import nutrients_of
from salttide.store import picture as picture_store

from .context import Context
from .models import Caution, Choice, Model, caution_shown, name_of
from .rota_shown import FoundAsked, found_asked


class ProgrammeLine(Model):
    """A programme in the list. seen: how much of it the latest visual check saw, if any · words: how it stands."""

    key: str
    name: str
    school: str
    about: str
    trouble: str
    seen: str
    live: bool
    words: str


class ProgrammeTask(Model):
    """A task of a phase: how often, and why. done: of one that is asked for once · found: what it has to say, where it
    stands on the rota · due: the day it is due there."""

    task: str
    name: str
    often: str
    why: str
    minutes: int
    done: bool = False
    due: str = ""
    found: list[FoundAsked] = Field(default_factory=list)


class ProgrammePhase(Model):
    """A phase with what it asks of this system. now: whether it is the present one · since: when it began, of one that
    was · choose: whether it can be chosen."""

    key: str
    name: str
    kind: str
    words: str
    now: bool
    since: str
    tasks: list[ProgrammeTask]
    changes: str
    light: str
    food: list[str]
    holds: str
    departs: list[str]
    caution: Caution | None
    choose: bool
    until: str


class ProgrammeReview(Model):
    """A review: how much there was (0 none to 3 much), the water's nutrients then, and its picture."""

    day: str
    coverage: str
    level: int
    values: list[str]
    picture: str
    thumb: str


class ProgrammeEffectRow(Model):
    """What four weeks of the programme's changes do to a parameter, beside the usual ones."""

    name: str
    now: str
    usual: str
    after: str


class ProgrammeSheet(ProgrammeLine):
    """A programme for one system: its phases, its numbers, and where it is under way its reviews."""

    system: str
    case_id: int | None
    state: str
    to_do: str
    weeks: str
    paused: bool
    over: bool
    phases: list[ProgrammePhase]
    effects: list[ProgrammeEffectRow]
    minutes: str
    salt: str
    buy: list[str]
    reviews: list[ProgrammeReview]
    review_due: str
    subject: str
    frame: str
    coverages: list[Choice]
    wishes: list[Choice]
    after: str
    last_resort: str
    before_that: str
    lasting: ProgrammeTask
    lasting_days: int
    lasting_kept: bool
    schools: list[Choice]
    caution: Caution | None


def sheet_of(ctx: Context, system: System, one: Programme) -> ProgrammeSheet:
    """One programme with a system's numbers."""
    view, found = ctx.household.outlook(system), acts.underway(ctx.household, system, one.key)
    course = found.course if found else _not_begun(ctx, one)
    facts = found.facts if found else _facts(ctx, system)
    fight = wants_of(in_phase(course, one.fight), system, facts, ctx.today)
    standing = found.standing(ctx.today, ctx.keeper.zone) if found else None
    reviews = _reviews(ctx, system, course)
    return ProgrammeSheet(
        **line_of(ctx, view, one).model_dump(),
        system=system.name,
        case_id=found.case.id if found else None,
        state=standing.state if standing else "",
        to_do=standing.to_do if standing else "",
        weeks=phrase("programme.weeks", weeks=one.weeks, clean=one.clean),
        paused=bool(found and found.case.paused),
        over=course.over,
        phases=[_phase(ctx, view, course, facts, phase, bool(found)) for phase in one.phases],
        effects=_effects(ctx, view, fight),
        minutes=_minutes(ctx, system, fight),
        salt=_salt(ctx, system, fight),
        buy=list(one.buy),
        reviews=reviews,
        review_due=day_words(course.review_due()) if found else "",
        subject=phrase("programme.subject", name=one.name.lower()),
        frame=next((each.picture for each in reversed(reviews) if each.picture), ""),
        coverages=[Choice(key=each, name=_coverage_words(each)) for each in Coverage],
        wishes=_wishes(one),
        after=one.after,
        last_resort=one.last_resort,
        before_that=_before_that(one, found),
        lasting=_task(one.lasting.task, one.lasting.every_days, one.lasting.why),
        lasting_days=one.lasting.every_days,
        lasting_kept=acts.lasting_kept(ctx.household, system, one),
        schools=[Choice(key=each.key, name=each.school) for each in against(one.trouble) if each.sign == one.sign],
        caution=caution_shown(one.caution) if one.caution else None,
    )


def _before_that(one: Programme, found: Underway | None) -> str:
    """What has to be tried before chemicals are thought of; empty where all of it was."""
    left = found.left_to_try if found else [phase.name for phase in one.stronger]
    if found and not left:
        return ""
    return phrase("programme.before_that", phases=listed([one.fight.name, *left]))


def line_of(ctx: Context, view: SystemState, one: Programme) -> ProgrammeLine:
    """A programme in the list."""
    sign = seen_of(one, view.basis.situation)
    found = acts.underway(ctx.household, view.system, one.key)
    return ProgrammeLine(
        key=one.key,
        name=one.name,
        school=one.school,
        about=one.about,
        trouble=troubles()[one.trouble].name,
        seen=coverage_seen(sign) if sign else "",
        live=found is not None,
        words=found.standing(ctx.today, ctx.keeper.zone).words if found else "",
    )


def _not_begun(ctx: Context, one: Programme) -> ProgrammeCourse:
    """The course that a programme would begin with today."""
    return course_of(one, ProgrammeRecord(ctx.today, Coverage.MUCH))


def _facts(ctx: Context, system: System) -> ProgrammeFacts:
    lights = ctx.stored.lights[system.id]
    now = lights[-1] if lights else None
    return ProgrammeFacts(now, now, nutrients_of(ctx.household.ledger(system)))


def _coverage_words(one: Coverage) -> str:
    return phrase(f"programme.coverage.{one.replace(' ', '_')}")


def _phase(
    ctx: Context, view: SystemState, course: ProgrammeCourse, facts: ProgrammeFacts, phase: Phase, begun: bool
) -> ProgrammePhase:
    system = view.system
    lived = [stage for stage in course.stages if stage.phase == phase]
    now = course.stage.phase == phase and begun
    wants = wants_of(in_phase(course, phase), system, facts, ctx.today)
    borne = not not_for(phase, system.animals)
    return ProgrammePhase(
        key=phase.key,
        name=phase.name,
        kind=phase.kind,
        words=phase.words,
        now=now,
        since=day_words(lived[-1].since) if lived and begun else "",
        tasks=[
            *(_task(one.task, None, one.why).model_copy(update={"done": True}) for one in wants.done),
            *(_asked(view, course.programme, one.ask, now) for one in wants.asked if one.ask.task != WATER_CHANGE),
        ],
        changes=wants.routine.because if wants.routine else "",
        light=_light(course, facts, phase),
        food=list(wants.food),
        holds=_holds(wants),
        departs=[capital(one) for one in wants.departs],
        caution=caution_shown(phase.caution) if phase.caution not in ("", course.programme.caution) else None,
        choose=begun and not now and borne,
        until=_until(course.programme, phase),
    )


def _task(task: str, every: int | None, why: str) -> ProgrammeTask:
    kind = tasks()[task]
    often = phrase("programme.once") if every is None else phrase("programme.every", days=counted(every, "day"))
    return ProgrammeTask(task=task, name=kind.name, often=often, why=why, minutes=round(kind.minutes))


def _asked(view: SystemState, programme: Programme, ask: Ask, now: bool) -> ProgrammeTask:
    """A task that is asked for; of the present phase, what it has to say when it is done."""
    shown = _task(ask.task, ask.every_days, ask.why)
    on_rota = next((item.due for item in view.occurrences if item.task == ask.task), None)
    told = tasks()[ask.task].needs
    if not now or not told or on_rota is None or ask.task == programme.review:
        return shown
    return shown.model_copy(update={"due": on_rota.isoformat(), "found": found_asked(told)})


def _holds(wants: Wants) -> str:
    if not wants.holds:
        return ""
    names = listed([tasks()[task].name.lower() for task in wants.holds])
    return phrase("programme.holds", tasks=names, why=next(iter(wants.holds.values())))


def _light(course: ProgrammeCourse, facts: ProgrammeFacts, phase: Phase) -> str:
    """The hours of light that a phase comes to."""
    if phase.light is None or facts.light_before is None:
        return ""
    least = light_of(facts.light_before, phase.light.hours, facts.light_before.since)
    return phrase(
        "programme.light",
        before=show_number(facts.light_before.hours, 1),
        after=show_number(least.hours, 1),
        step=show_number(phase.light.step_hours, 1),
        days=counted(phase.light.step_days, "day"),
        times=phrase("programme.times", on=clock_words(least.on), off=clock_words(least.off)),
    )


def _until(programme: Programme, phase: Phase) -> str:
    return phrase(f"programme.until.{phase.kind}", clean=programme.clean, weeks=phase.weeks)


def _effects(ctx: Context, view: SystemState, fight: Wants) -> list[ProgrammeEffectRow]:
    units = ctx.keeper.units
    found = effects_of(view.basis.situation, ctx.stored.usual_salt, fight.routine)
    return [
        ProgrammeEffectRow(
            name=name_of(one.parameter),
            now=show(one.parameter, one.now, units),
            usual=show(one.parameter, one.usual, units),
            after=show(one.parameter, one.after, units),
        )
        for one in found
    ]


def _minutes(ctx: Context, system: System, fight: Wants) -> str:
    """The minutes a week while it is fought, beside what all systems need and the keeper has."""
    household = ctx.household
    own = household.own_rules(system)
    rules, given = bent(own, system, [fight]), show_number(sum(ctx.stored.week_minutes), 0)
    more = minutes_a_week(rules) - minutes_a_week(own)
    everywhere = sum(minutes_a_week(household.own_rules(one)) for one in ctx.household.systems) + max(0.0, more)
    needed = show_number(everywhere, 0)
    words = phrase("programme.minutes_alike", all=needed, given=given)
    if round(more) > 0:
        words = phrase("programme.minutes", more=show_number(more, 0), all=needed, given=given)
    once = minutes_once(rules)
    return f"{words}; {phrase('programme.minutes_once', once=show_number(once, 0))}" if once else words


def _salt(ctx: Context, system: System, fight: Wants) -> str:
    """The salt of one change while it is fought."""
    salt, routine = ctx.stored.usual_salt, fight.routine
    if salt is None or routine is None or routine.held:
        return ""
    change = routine_change(system, salt, ctx.now, routine.fraction)
    return phrase(
        "programme.salt",
        grams=weight_words(salt_mass_of(salt, change)),
        salt=salt.name,
        litres=litres_words(change.in_l),
    )


def _wishes(one: Programme) -> list[Choice]:
    asks = [ask for phase in one.phases for ask in phase.asks if ask.wish]
    return [Choice(key=ask.task, name=tasks()[ask.task].name) for ask in asks]


def _reviews(ctx: Context, system: System, course: ProgrammeCourse) -> list[ProgrammeReview]:
    found = course.record.reviews
    pictures = picture_store.picture_of(ctx.connection, [one.entry for one in found])
    return [
        ProgrammeReview(
            day=day_words(one.day),
            coverage=one.coverage,
            level=one.coverage.level,
            values=_values(ctx, system, one.day),
            picture=f"/api/pictures/{pictures[one.entry]}/file" if one.entry in pictures else "",
            thumb=f"/api/pictures/{pictures[one.entry]}/thumb" if one.entry in pictures else "",
        )
        for one in found
    ]


def _values(ctx: Context, system: System, day: date) -> list[str]:
    """Nitrate and phosphate as last tested by a day."""
    units, zone = ctx.keeper.units, ctx.keeper.zone
    found = []
    for parameter in NUTRIENTS:
        tests = [one for one in ctx.household.ledger(system).of(parameter) if one.at.astimezone(zone).date() <= day]
        if tests:
            found.append(f"{name_of(parameter)} {show(parameter, tests[-1].value, units)}")
    return found
