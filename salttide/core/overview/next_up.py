"""Next: the short ordered list of what to do now in one system, each with its number, reason, minutes and how."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, tzinfo
from enum import StrEnum

from ..basics.measures import kilograms_words, litres_words
from ..basics.phrasing import capital, counted, day_words, listed, moment_words
from ..judgement.cycling import BreakingIn, first_change_words
from ..judgement.findings import Judgement
from ..judgement.retest import TEST_MINUTES, Retest
from ..ledger.entries import Care, Ledger
from ..ledger.verdict import Position, Verdict
from ..planning.correction import OffCourse
from ..planning.delivery import REFILL, Diagnosis
from ..planning.work_order import ChangeWorkOrder
from ..programme.underway import is_programme, programme_of
from ..programme.wants import told_tasks
from ..remedy.case import FollowedCase
from ..remedy.cause import PLAIN, Cause
from ..remedy.ions import PUMP_FIRST
from ..science.parameters import Parameter, spoken
from ..system.catalogue import rule_kinds
from ..system.finding import Advice, Finding
from ..system.system import Stage, System
from ..upkeep.rota import WATER_CHANGE, Occurrence, Planned
from .pressing import Pressing

NOT_LOOKED = "not_looked"
"""The rule that asks for a visual check: listed last, after the work that is due."""


class Action(StrEnum):
    """What the entry's main button does."""

    PLAN_CHANGE = "plan_change"
    TEST = "test"
    RUN = "run"
    RECORD = "record"
    SEE = "see"
    COMPLETE = "complete"
    LOOK = "look"
    MIX = "mix"
    CONTAINER = "container"
    CORRECTION = "correction"
    DOSING = "dosing"
    REMEDY = "remedy"
    EMERGENCY = "emergency"
    ALARM = "alarm"
    PROGRAMME = "programme"


@dataclass(frozen=True)
class NextItem:
    """One entry: title with its number, reason, minutes, how to do it, and what it refers to."""

    way: Action
    title: str
    reason: str
    minutes: float
    urgent: bool
    task: str = ""
    due: str = ""
    step_id: int | None = None
    cause: str = ""


@dataclass(frozen=True)
class DosingState:
    """The state of dosing in words: faulty pumps, a correction that a test disagrees with, and a daily dose that no
    longer fits the uptake."""

    wrong: Sequence[Diagnosis] = ()
    off: OffCourse | None = None
    unfit: str = ""


NO_DOSING = DosingState()


def next_up(
    system: System,
    ledger: Ledger,
    tests: Sequence[Retest],
    causes: Sequence[Cause],
    occurrences: Sequence[Occurrence],
    now: datetime,
    zone: tzinfo,
    to_mix: Sequence[tuple[Planned, ChangeWorkOrder]] = (),
    dosing: DosingState = NO_DOSING,
    cycle: BreakingIn | None = None,
    incomplete: Sequence[Care] = (),
    cases: Sequence[FollowedCase] = (),
    pressing: Sequence[Pressing] = (),
) -> list[NextItem]:
    """In order: what presses (emergencies and alarms), the first cause that nothing is done about yet, cases that need
    the keeper, a correction that a test disagrees with, water to mix for today and tomorrow, late and due work with
    planned steps first, a faulty pump or daily dose, overdue tests, and the next change."""
    today = now.astimezone(zone).date()
    followed = {one.case.key for one in cases if one.standing.live}
    stopped = "dose" if dosing.off else ""
    looks = review_pages(cases)
    due = [_task(item, today, looks) for item in occurrences if item.day <= today and item.task != stopped]
    ahead = [item for item in occurrences if item.day > today and item.step_id is not None]
    planned = any(item.step_id is not None for item in occurrences)
    items = [*_pressing(pressing), *_first_step(causes, followed, system.stage == Stage.BREAKING_IN, planned)]
    items += _cases(cases)
    items += _first_change(system, cycle) if cycle and not planned else []
    items += _missing(ledger.missing_at(now), system)
    items += _incomplete(incomplete, zone)
    told = {one.case.parameter for one in cases if one.standing.to_do}
    items += [_off(dosing.off)] if dosing.off and dosing.off.parameter not in told else []
    items += [_mix(step, job) for step, job in to_mix]
    items += sorted(due, key=lambda item: (not item.urgent, item.step_id is None))
    items += _pumps(dosing.wrong, causes)
    if dosing.unfit and not any(one.finding.about[:1] == (Parameter.ALKALINITY,) for one in causes):
        items.append(NextItem(Action.DOSING, "Adjust the daily dose", dosing.unfit, 5, False))
    items += [*_tests(tests, ledger, today, zone), *_not_looked(causes)]
    return items + [_task(item, today, looks) for item in ahead[:1]]


def _not_looked(causes: Sequence[Cause]) -> list[NextItem]:
    asked = [one.finding for one in causes if one.finding.rule == NOT_LOOKED]
    return [NextItem(Action.LOOK, finding.words, finding.reason, 2, False) for finding in asked]


def _pressing(found: Sequence[Pressing]) -> list[NextItem]:
    return [
        NextItem(
            Action.EMERGENCY if one.emergency else Action.ALARM, one.title, one.reason, one.minutes, one.urgent,
            cause=one.emergency,
        )
        for one in found
    ]  # fmt: skip


def _first_change(system: System, cycle: BreakingIn) -> list[NextItem]:
    """The first change after cycling, in the words of the cycling page."""
    if not cycle.change_fraction:
        return []
    return [NextItem(Action.PLAN_CHANGE, "Plan the first change", first_change_words(system, cycle), 2, False)]


MISSING_SHARE, MISSING_L = 0.02, 1.0
"""A level short by less than this is an ordinary evening's evaporation (judgement)."""


def _missing(litres: float, system: System) -> list[NextItem]:
    """Water taken out or evaporated and not yet put back."""
    if litres < max(MISSING_L, MISSING_SHARE * system.volume_l):
        return []
    return [NextItem(
        Action.SEE, f"{litres_words(litres)} are missing", "More went out than came back. Evaporated: top it off with "
        "fresh water. "
        f"Taken out: refill it with new salt water, in the quick entry “refilled {litres_words(litres)}”.", 10, False,
    )]  # fmt: skip


def _incomplete(ticked: Sequence[Care], zone: tzinfo) -> list[NextItem]:
    """Water changes whose water was never recorded: asked for, never invented."""
    if not ticked:
        return []
    days = listed([moment_words(care.at, zone) for care in ticked[-3:]])
    count = counted(len(ticked), "water change")
    return [NextItem(
        Action.COMPLETE, f"{count.capitalize()} without litres", f"Ticked off, but the water was not recorded, so the "
        f"balance does not know of it: {'the last on ' if len(ticked) > 3 else ''}{days}.", 2, False,
    )]  # fmt: skip


def _off(off: OffCourse) -> NextItem:
    """A correction stopped by a test that disagrees."""
    return NextItem(
        Action.CORRECTION, f"Stop the correction of {spoken(off.parameter)}",
        "A test disagrees with it by more than test error. Test again, then make a new plan from the result.", 10, True,
    )  # fmt: skip


def _mix(step: Planned, job: ChangeWorkOrder) -> NextItem:
    """New water to mix: it takes hours, so it starts before the change."""
    salt = f"{kilograms_words(job.mass_g)} {job.salt.name}" if job.salt else "salt"
    return NextItem(
        Action.MIX, f"Mix {litres_words(job.litres)} for {day_words(step.day)}",
        f"It has to mix, warm and match for hours before the change: {salt}.", MIX_MINUTES, False, step_id=step.step_id,
    )  # fmt: skip


MIX_MINUTES = 20.0
"""Minutes of hands-on work, from the fresh water to the label."""


def _pumps(wrong: Sequence[Diagnosis], causes: Sequence[Cause]) -> list[NextItem]:
    """Faulty pumps, but for those that a cause names already."""
    told = {one.why for cause in causes for one in cause.remedies if one.title.startswith(PUMP_FIRST)}
    return [NextItem(Action.CONTAINER, one.title, one.reason, 10, False) for one in wrong if one.reason not in told]


def _cases(cases: Sequence[FollowedCase]) -> list[NextItem]:
    """Cases whose latest test is not what was expected, and those that are done with steps left."""
    return [_case(one) for one in cases if one.standing.to_do]


def _case(one: FollowedCase) -> NextItem:
    words, to_do = one.standing.words.rstrip("."), one.standing.to_do
    if is_programme(one.case):
        title = f"{programme_of(one.case).name}: {words[:1].lower()}{words[1:]}"
        return NextItem(Action.PROGRAMME, title, to_do, 5, False, cause=one.case.chosen.key)
    return NextItem(Action.REMEDY, words, to_do, 5, one.urgent, cause=one.case.key)


def _first_step(causes: Sequence[Cause], followed: Collection[str], breaking_in: bool, planned: bool) -> list[NextItem]:
    """The first cause for which there is something to do. No change is advised while cycling; a plan under way yields
    only to what is urgent, and what a case already sees to is not advised again."""
    for cause in causes:
        finding, remedy = cause.finding, cause.first
        way = _way_of(cause)
        no_plan = breaking_in or (planned and finding.step != Advice.ACT)
        if way is None or cause.key in followed or finding.rule == NOT_LOOKED or (way in PLANNED and no_plan):
            continue
        if planned and not urgent(finding):
            continue
        if remedy is None or remedy.key == PLAIN:
            return [NextItem(way, finding.to_do or finding.words, finding.advice, 2, urgent(finding), cause=cause.key)]
        reason = f"{_sentences(finding)} {remedy.how}".strip()
        return [NextItem(way, remedy.title, reason, max(2, remedy.minutes), urgent(finding), cause=cause.key)]
    return []


PLANNED = (Action.PLAN_CHANGE, Action.REMEDY)
"""What is not advised while a system cycles, nor, unless urgent, beside a plan that is under way."""

_WAYS: Mapping[Advice, Action | None] = {
    Advice.ACT: Action.PLAN_CHANGE,
    Advice.TEST_AGAIN: Action.TEST,
    Advice.TEST: Action.TEST,
    Advice.LOOK: Action.LOOK,
    Advice.IDENTIFY: Action.LOOK,
    Advice.LEAVE: None,
    Advice.CORRECT: Action.SEE,
    Advice.DOSE: Action.SEE,
    Advice.CHANGE: Action.SEE,
    Advice.EXPORT: Action.SEE,
    Advice.FEED: Action.SEE,
    Advice.AIR: Action.SEE,
}
"""Where each kind of step is done; None: nothing to do."""


def _way_of(cause: Cause) -> Action | None:
    """Where a cause is seen to: its remedies, where it has any of its own."""
    remedy = cause.first
    if remedy is not None and remedy.key != PLAIN:
        return Action.REMEDY
    return _WAYS[cause.finding.step]


def urgent(finding: Finding) -> bool:
    """Whether it is urgent today, by its rule and its parameters."""
    return bool(rule_kinds()[finding.rule].urgent_for & {*finding.about})


def review_pages(cases: Sequence[FollowedCase]) -> dict[str, str]:
    """The programmes that are followed, by their reviews and closer looks: what was found is said on the programme's
    own page."""
    live = [one.case for one in reversed(cases) if is_programme(one.case) and one.case.closed is None]
    return {task: case.chosen.key for case in live for task in told_tasks(programme_of(case))}


def _task(item: Occurrence, today: date, looks: Mapping[str, str]) -> NextItem:
    """A task of the rota; a programme's review is done on its own page. looks: programmes by their reviews."""
    late = f", {counted(item.late_days, 'day')} late" if item.late_days else ""
    planned = item.step_id is not None
    ahead = f"{day_words(item.day)}: " if item.day > today else ""
    way = Action.RUN if planned and item.task == WATER_CHANGE else Action.PLAN_CHANGE
    if item.task != WATER_CHANGE:
        way = Action.RECORD
    if item.task in looks:
        way = Action.PROGRAMME
    if item.task == REFILL:
        way = Action.CONTAINER
    if ahead:
        way = Action.SEE
    return NextItem(
        way, f"{ahead}{item.name}{late}", _sentence(item.why), item.minutes, item.late_days > 0, item.task,
        item.due.isoformat(), item.step_id, looks.get(item.task, ""),
    )  # fmt: skip


def _sentence(words: str) -> str:
    return words[:1].upper() + words[1:] + "."


def _tests(tests: Sequence[Retest], ledger: Ledger, today: date, zone: tzinfo) -> list[NextItem]:
    due = [test for test in tests if test.due <= today]
    if not due:
        return []
    names = listed([spoken(test.parameter) for test in due])
    known = [last.at for test in due if (last := ledger.last(test.parameter))]
    since = f"The oldest result is from {moment_words(min(known), zone)}." if known else "Never measured so far."
    reasons = [f"{spoken(test.parameter)}: {test.why}" for test in due if test.why and ledger.last(test.parameter)]
    why = f"{since} {capital(listed(reasons))}." if reasons else since
    return [NextItem(Action.TEST, f"Test {names}", why, TEST_MINUTES * len(due), False)]


def together(lists: Sequence[tuple[System, Sequence[NextItem]]]) -> list[tuple[System, NextItem]]:
    """Next over several systems: urgent entries first, then planned work, work that is due today, tests and visual
    checks, each in the order of the systems. What lies ahead is left to each system's own list."""
    found = [(system, item) for system, items in lists for item in items if item.way != Action.SEE or item.urgent]
    return sorted(found, key=lambda pair: (not pair[1].urgent, 0 if pair[1].step_id else _TURN[pair[1].way]))


_TURN: Mapping[Action, int] = {
    Action.PLAN_CHANGE: 0,
    Action.MIX: 0,
    Action.CONTAINER: 1,
    Action.CORRECTION: 0,
    Action.DOSING: 1,
    Action.REMEDY: 0,
    Action.EMERGENCY: -1,
    Action.ALARM: -1,
    Action.PROGRAMME: 1,
    Action.RUN: 0,
    Action.RECORD: 1,
    Action.TEST: 2,
    Action.LOOK: 3,
    Action.SEE: 4,
    Action.COMPLETE: 4,
}


class Standing(StrEnum):
    """A system's verdict in words, as its tide staff shows it."""

    ACT = "act today"
    WATCH = "act this week"
    WAIT = "cycling, wait"
    UNKNOWN = "test first"
    NO_BANDS = "no bands set"
    WELL = "all in band"

    @property
    def urgent(self) -> bool:
        """Whether something has to be done today."""
        return self == Standing.ACT


@dataclass(frozen=True)
class Summary:
    """The state of a system in a few words, and why in one sentence."""

    standing: Standing
    reason: str


def summary(
    verdicts: Sequence[Verdict],
    judgement: Judgement,
    occurrences: Sequence[Occurrence],
    fought: Sequence[str] = (),
    pressing: Sequence[Pressing] = (),
) -> Summary:
    """What presses urgently, then an urgent finding: act today. Another, a programme under way (how it stands, in
    words) or late work: this week. Nothing measured: test."""
    today = [finding for finding in judgement.findings if urgent(finding)]
    now = [one for one in pressing if one.urgent]
    if now:
        return Summary(Standing.ACT, f"{now[0].title}.")
    if not verdicts:
        return Summary(Standing.UNKNOWN, "Nothing has been measured yet.")
    if all(verdict.position == Position.NO_BAND for verdict in verdicts):
        return Summary(Standing.NO_BANDS, "Nothing says what is right for it: set target bands in Set-up.")
    if today:
        return Summary(Standing.ACT, _sentences(today[0]))
    to_do = [f for f in judgement.findings if f.step != Advice.LEAVE and f.rule != NOT_LOOKED]
    if to_do:
        return Summary(Standing.WATCH, _sentences(to_do[0]))
    if fought:
        return Summary(Standing.WATCH, fought[0])
    late = [item for item in occurrences if item.late_days]
    if late:
        return Summary(Standing.WATCH, f"{late[0].name} is {counted(late[0].late_days, 'day')} late.")
    if judgement.findings:
        return Summary(Standing.WELL, _sentences(judgement.findings[0]))
    return Summary(Standing.WELL, "Every result is inside its band.")


def _sentences(finding: Finding) -> str:
    """A finding and the first sentence of its reason."""
    return f"{finding.words}. {finding.reason.split('. ')[0].rstrip('.')}."
