"""Runbooks: the steps of one task at the tank, folded from the answers given so far.

The answers are the record; where the work stands is computed from them, so that nothing can be half written. The
engine is pure: the same answers give the same place on any device.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum

from .errors import GateError, InputError, check_range
from .job import Job
from .match import match_gate
from .parameters import FACTS, Parameter
from .words import counted, listed


class StepKind(StrEnum):
    """What a step asks for before it is done."""

    CONFIRM = "confirm"
    GATE = "gate"
    OFF = "off"
    DRAIN = "drain"
    REFILL = "refill"
    ON = "on"


class AnswerKind(StrEnum):
    """What can be said at a step."""

    MEASURED = "measured"
    OVERRIDE = "override"
    TICK = "tick"
    UNTICK = "untick"
    LITRES = "litres"
    UNDO = "undo"
    DONE = "done"
    REOPEN = "reopen"


@dataclass(frozen=True)
class RunbookStep:
    """One step. `when` names a number of the job that must not be zero for the step to exist."""

    id: str
    kind: StepKind
    title: str
    text: str
    caution: str = ""
    when: str = ""


@dataclass(frozen=True)
class Runbook:
    """The steps of one task, in order."""

    key: str
    name: str
    steps: tuple[RunbookStep, ...]


@dataclass(frozen=True)
class Answer:
    """One thing said at a step: an item with a value (canonical) or a text."""

    step: str
    kind: AnswerKind
    item: str = ""
    value: float | None = None
    text: str = ""


@dataclass(frozen=True)
class StepState:
    """What the answers say about one step."""

    step: RunbookStep
    done: bool = False
    ticked: frozenset[str] = frozenset()
    litres: tuple[float, ...] = ()
    measured: Mapping[Parameter, float] = field(default_factory=dict)
    override: str = ""

    @property
    def total_l(self) -> float:
        """Litres moved in this step."""
        return sum(self.litres)


@dataclass(frozen=True)
class Progress:
    """Where the work stands. `current` is the first step that is not done, None when all are."""

    states: tuple[StepState, ...]

    @property
    def current(self) -> StepState | None:
        """The step to work on."""
        return next((state for state in self.states if not state.done), None)

    @property
    def number(self) -> int:
        """Its number, from 1; one more than the last when finished."""
        return next((place for place, state in enumerate(self.states, 1) if not state.done), len(self.states) + 1)

    def of(self, kind: StepKind) -> StepState | None:
        """The state of the first step of a kind."""
        return next((state for state in self.states if state.step.kind == kind), None)

    def still_off(self) -> frozenset[str]:
        """Gear that was ticked off and is not ticked on yet."""
        off, on = self.of(StepKind.OFF), self.of(StepKind.ON)
        return (off.ticked if off else frozenset()) - (on.ticked if on else frozenset())


def steps_of(book: Runbook, job: Job) -> tuple[RunbookStep, ...]:
    """The steps that apply to this job."""
    return tuple(step for step in book.steps if not step.when or getattr(job, step.when))


def progress(book: Runbook, job: Job, answers: Sequence[Answer]) -> Progress:
    """Fold the answers, in order, into the state of every step."""
    states = {step.id: StepState(step) for step in steps_of(book, job)}
    for answer in answers:
        if answer.kind == AnswerKind.REOPEN:
            states = _reopened(states, answer.step)
        elif answer.step in states:
            states[answer.step] = _told(states[answer.step], answer)
    return Progress(tuple(states.values()))


def _told(state: StepState, answer: Answer) -> StepState:
    match answer.kind:
        case AnswerKind.DONE:
            return replace(state, done=True)
        case AnswerKind.TICK:
            return replace(state, ticked=state.ticked | {answer.item})
        case AnswerKind.UNTICK:
            return replace(state, ticked=state.ticked - {answer.item})
        case AnswerKind.LITRES:
            return replace(state, litres=(*state.litres, answer.value or 0.0))
        case AnswerKind.UNDO:
            return replace(state, litres=state.litres[:-1])
        case AnswerKind.OVERRIDE:
            return replace(state, override=answer.text)
        case AnswerKind.MEASURED if answer.value is not None:
            # A new measurement is a new question: an override speaks for the old one only.
            return replace(state, measured={**state.measured, Parameter(answer.item): answer.value}, override="")
    return state


def _reopened(states: dict[str, StepState], step_id: str) -> dict[str, StepState]:
    """Open a step and those after it; what was ticked, drained and measured stays."""
    reached, result = False, {}
    for key, state in states.items():
        reached = reached or key == step_id
        result[key] = replace(state, done=state.done and not reached)
    return result


def check_answer(book: Runbook, job: Job, answers: Sequence[Answer], answer: Answer) -> None:
    """Raise if `answer` may not be given now: InputError for what makes no sense, GateError for a gate not met."""
    now = progress(book, job, answers)
    state = next((state for state in now.states if state.step.id == answer.step), None)
    if state is None:
        raise InputError(f"there is no step “{answer.step}”", field="step")
    if answer.kind == AnswerKind.REOPEN:
        return
    if now.current is None or now.current.step.id != answer.step:
        raise GateError(
            f"The step “{state.step.title}” is not the one to do now.",
            (f"do “{now.current.step.title}” first",) if now.current else (),
            field="step",
        )
    if answer.kind == AnswerKind.LITRES:
        check_range("litres", answer.value or 0.0, "L", 0.1, job.volume_l, field="value")
        check_range("litres in all", state.total_l + (answer.value or 0.0), "L", 0.1, job.volume_l, field="value")
    elif answer.kind == AnswerKind.OVERRIDE and len(answer.text.strip()) < 3:
        raise InputError("say why, in a few words: it is kept in the record", field="text", accepted="a reason")
    elif answer.kind == AnswerKind.MEASURED:
        _check_measured(answer)
    elif answer.kind in (AnswerKind.TICK, AnswerKind.UNTICK) and answer.item not in job.items(state.step.kind):
        raise InputError(f"“{answer.item}” is not on this list", field="item")
    elif answer.kind == AnswerKind.DONE:
        _check_done(job, state)


def _check_measured(answer: Answer) -> None:
    if answer.item not in (Parameter.TEMPERATURE, Parameter.SALINITY, Parameter.ALKALINITY) or answer.value is None:
        raise InputError("temperature, salinity or alkalinity of the batch is wanted", field="item")
    facts = FACTS[Parameter(answer.item)]
    check_range(facts.name, answer.value, "", facts.possible.low, facts.possible.high, field=answer.item)


def _check_done(job: Job, state: StepState) -> None:
    kind = state.step.kind
    if kind == StepKind.GATE and not state.override:
        lines = match_gate(job, state.measured)
        missing = tuple(line.correction for line in lines if not line.met)
        if missing:
            raise GateError("The batch does not match yet.", missing, field="gate")
    if kind in (StepKind.OFF, StepKind.ON):
        left = [item for item in job.gear if item not in state.ticked]
        if left:
            names = [job.gear[item] for item in left]
            raise GateError(
                f"{counted(len(left), 'item')} not confirmed: {listed(names)}.", tuple(names), field="items"
            )
    if kind in (StepKind.DRAIN, StepKind.REFILL) and state.total_l <= 0:
        raise GateError("No water has been counted yet.", ("count the litres",), field="value")


@dataclass(frozen=True)
class Outcome:
    """What really happened, for the ledger: litres, the new water as measured or planned, and what was ticked."""

    out_l: float
    in_l: float
    incoming: Mapping[Parameter, float]
    siphoned: bool
    override: str


def outcome(book: Runbook, job: Job, answers: Sequence[Answer]) -> Outcome:
    """The outcome of finished work. Raises GateError while a step is open."""
    now = progress(book, job, answers)
    if now.current:
        raise GateError("The work is not finished.", (f"do “{now.current.step.title}”",))
    drain, refill, gate = now.of(StepKind.DRAIN), now.of(StepKind.REFILL), now.of(StepKind.GATE)
    incoming = dict(job.incoming)
    if gate:
        incoming.update((key, value) for key, value in gate.measured.items() if FACTS[key].dissolved)
    return Outcome(
        drain.total_l if drain else 0.0,
        refill.total_l if refill else 0.0,
        incoming,
        bool(drain and "siphon" in drain.ticked),
        gate.override if gate else "",
    )
