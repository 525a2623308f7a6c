"""The answers a step accepts, and the outcome of the work."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from math import ceil

from ..basics.errors import GateError, InputError, RuleError, UnitError, check_range
from ..basics.locale import writing
from ..basics.measures import measure_of
from ..basics.number_text import DecimalSign, parse_number
from ..basics.phrasing import counted, listed
from ..basics.quantities import Habits, Kind, find_unit, split_quantity, to_canonical
from ..planning.match_gate import GateLine, GatePart, unmeasured
from ..science.parameters import FACTS, Parameter
from ..science.units import UnitChoice, show
from .context import RunWork, gate_of
from .steps import (
    OF_THE_WHOLE,
    Answer,
    AnswerKind,
    CountAim,
    Counted,
    Progress,
    Runbook,
    RunbookContext,
    RunbookStepKind,
    StepState,
    progress,
)

SHORTEST_REASON = 3
PAUSING = frozenset({AnswerKind.RESUME, AnswerKind.TROUBLE, AnswerKind.SETTLED, AnswerKind.CLOCK_OFF})
"""Answers accepted while the work pauses: an animal in the air and a burst hose do not wait."""


def gate_lines(work: RunWork, setting: RunbookContext, state: StepState) -> tuple[GateLine, ...]:
    """The lines of a gate, or of a measuring step, for what was measured so far."""
    step = state.step
    if step.gate is not None:
        return gate_of(work, step.gate, state.measured)
    return tuple(
        _limit(setting, parameter, bound, state.measured.get(parameter), work.units)
        for parameter, bound in step.measure.items()
    )


def _limit(
    setting: RunbookContext, parameter: Parameter, bound: str | tuple[float, float] | None, value: float | None,
    units: UnitChoice,
) -> GateLine:  # fmt: skip
    span = setting.bands.get(parameter) if bound == "band" else bound
    if value is None:
        return unmeasured(parameter, GatePart.LIMIT)
    words = show(parameter, value, units)
    if span is None or isinstance(span, str):
        return GateLine(GatePart.LIMIT, parameter, True, words)
    low, high = (show(parameter, end, units) for end in span)
    met = span[0] <= value <= span[1]
    correction = "" if met else f"expected: {low} to {high}"
    return GateLine(GatePart.LIMIT, parameter, met, f"{words}, expected {low} to {high}", correction)


def check_answer(
    book: Runbook, work: RunWork, setting: RunbookContext, answers: Sequence[Answer], answer: Answer, at: datetime
) -> None:
    """Refuse an answer that may not be given now: InputError where it makes no sense, GateError for a gate not met."""
    now = progress(book, setting, answers)
    if answer.kind in OF_THE_WHOLE:
        _check_whole(book, now, answer)
        return
    state = now.of(answer.step)
    if state is None:
        raise InputError(f"there is no step “{answer.step}”", field="step")
    if now.paused and answer.kind not in PAUSING:
        raise RuleError("The work is paused: resume it first.", field="step")
    if answer.kind == AnswerKind.REOPEN:
        return
    if answer.kind in (AnswerKind.CLOCK_ON, AnswerKind.CLOCK_OFF):
        _check_clock(book, answer)
        return
    if state not in now.open:
        first = now.current(at)
        raise GateError(
            f"The step “{state.step.title}” is not the one to do now.",
            (f"do “{first.step.title}” first",) if first else (),
            field="step",
        )
    _check_at_step(work, setting, state, answer, at)


def _check_whole(book: Runbook, now: Progress, answer: Answer) -> None:
    if answer.kind in (AnswerKind.TROUBLE, AnswerKind.SETTLED):
        if answer.item not in {trouble.key for trouble in book.troubles}:
            raise InputError(f"“{answer.item}” is not a trouble of this runbook", field="item")
    elif (answer.kind == AnswerKind.PAUSE) == (now.paused is not None):
        raise RuleError("The work is paused already." if now.paused else "The work is not paused.")


def _check_clock(book: Runbook, answer: Answer) -> None:
    if answer.item not in {clock.key for clock in book.clocks}:
        raise InputError(f"“{answer.item}” is not a clock of this runbook", field="item")


def _check_at_step(work: RunWork, setting: RunbookContext, state: StepState, answer: Answer, at: datetime) -> None:
    step, aim = state.step, setting.counts.get(state.step.count) if state.step.count else None
    match answer.kind:
        case AnswerKind.LITRES:
            if aim is None:
                raise InputError("there is nothing to count in this step", field="step")
            litres = answer.value or 0.0
            check_range("litres", litres, "L", 0.05, aim.most_l, field="value")
            check_range("litres in all", state.total_l + litres, "L", 0.05, aim.most_l, field="value")
        case AnswerKind.OVERRIDE if len(answer.text.strip()) < SHORTEST_REASON:
            raise InputError("say why in a few words; it goes in the record", field="text", accepted="a reason")
        case AnswerKind.MEASURED:
            _check_measured(state, answer)
        case AnswerKind.FOUND if answer.item not in step.finds:
            raise InputError("this was not asked for in this step", field="item", accepted=", ".join(step.finds))
        case AnswerKind.TICK | AnswerKind.UNTICK if answer.item not in setting.items(step):
            raise InputError(f"“{answer.item}” is not on this list", field="item")
        case AnswerKind.TIMER if not setting.timer_min(step):
            raise InputError("this step has no timer", field="step")
        case AnswerKind.DONE:
            _check_done(work, setting, state, at)


def _check_measured(state: StepState, answer: Answer) -> None:
    if state.step.kind not in (RunbookStepKind.GATE, RunbookStepKind.MEASURE):
        raise InputError("nothing is measured in this step", field="step")
    if answer.item not in set(Parameter) or answer.value is None:
        raise InputError("say what was measured, with its value", field="item", accepted="such as temperature 25.3")
    facts = FACTS[Parameter(answer.item)]
    check_range(facts.name, answer.value, "", facts.possible.low, facts.possible.high, field=answer.item)


def _check_done(work: RunWork, setting: RunbookContext, state: StepState, at: datetime) -> None:
    step = state.step
    if step.kind in (RunbookStepKind.GATE, RunbookStepKind.MEASURE) and not state.override:
        lines = gate_lines(work, setting, state)
        missing = tuple(dict.fromkeys(line.correction for line in lines if not line.met))
        if missing:
            whose = "The batch does not match yet." if step.gate else "This is not as it should be yet."
            raise GateError(whose, missing, field="gate")
    if step.kind == RunbookStepKind.TICK and not step.optional:
        names = [item.name for key, item in setting.items(step).items() if key not in state.ticked]
        if names:
            words = f"{counted(len(names), 'item')} not confirmed: {listed(names)}."
            raise GateError(words, tuple(names), field="items")
    if step.kind == RunbookStepKind.COUNT and state.total_l <= 0:
        raise GateError("No water has been counted yet.", ("count the litres",), field="value")
    if step.waits and setting.timer_min(step) and not state.override:
        _check_rung(state, at)


def _check_rung(state: StepState, at: datetime) -> None:
    if state.ends is None:
        raise GateError("Its time has not begun to run.", ("start the timer",), field="timer")
    if at < state.ends:
        left = counted(ceil((state.ends - at) / timedelta(minutes=1)), "minute")
        raise GateError(f"{left} to go.", ("wait for the timer, or say why it cannot wait",), field="timer")


def read_litres(text: str, aim: CountAim, sign: DecimalSign = DecimalSign.POINT) -> float:
    """Litres as typed: "15", "750 ml", "2 gal", or by the fall of the level, "5.9 cm", "2 in"; a bare number is in what
    this keeper reads water in. Raises NumberError, UnitError, AmbiguousError, DomainError.

    >>> read_litres("5.9 cm", CountAim(40.0, 15.0, 5.9, 6.774, 334.0))
    39.9666
    """
    number, unit = split_quantity(text)
    habits = Habits(sign, writing().gallon)
    try:
        kind, key = find_unit(unit or measure_of("L").unit, None, habits)
    except UnitError:
        kind, key = Kind.TIME, ""
    if kind not in ((Kind.VOLUME, Kind.LENGTH) if aim.litres_per_cm else (Kind.VOLUME,)):
        by = ", ml or cm of the level" if aim.litres_per_cm else " or ml"
        raise UnitError(f"“{unit}” is no measure of it here", accepted=f"litres{by}", field="litres")
    measure = to_canonical(parse_number(number, sign), kind, key)
    return measure * aim.litres_per_cm if kind == Kind.LENGTH else measure


@dataclass(frozen=True)
class RunOutcome:
    """What really happened: litres counted, last measurements, ticks, and remarks. found: observations by key ·
    overrides: reasons by title of the step they were given at · clocks: minutes in all and the longest stretch.
    """

    litres: Mapping[Counted, float]
    measured: Mapping[Parameter, float]
    ticked: frozenset[str]
    overrides: Mapping[str, str] = field(default_factory=dict)
    troubles: tuple[str, ...] = ()
    clocks: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    found: Mapping[str, float | str] = field(default_factory=dict)


def outcome(now: Progress) -> RunOutcome:
    """The outcome so far; final once `now.finished`."""
    measured: dict[Parameter, float] = {}
    for state in now.states:
        measured.update(state.measured)
    return RunOutcome(
        {what: now.counted(what) for what in Counted},
        measured,
        frozenset(item for state in now.states for item in state.ticked),
        {state.step.title: state.override for state in now.states if state.override},
        tuple(dict.fromkeys(now.had_trouble)),
        {key: (clock.minutes, clock.longest) for key, clock in now.clocks.items()},
        {key: value for state in now.states for key, value in state.found.items()},
    )
