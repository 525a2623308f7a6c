"""Runbooks: the steps of one task at the tank, and the progress folded from the answers given so far. The answers are
the record, so nothing can be half written. The engine is pure and knows no task: the same answers give the same
progress on any device, and what a step needs comes from its data file and its `RunbookContext`.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import takewhile

from ..planning.match_gate import GateKind
from ..science.parameters import Parameter


class RunbookStepKind(StrEnum):
    """What a step needs before it is done."""

    CONFIRM = "confirm"
    TICK = "tick"
    COUNT = "count"
    GATE = "gate"
    MEASURE = "measure"


class Counted(StrEnum):
    """What a step counts in litres: water out of the system, new water in, fresh water for a batch."""

    OUT = "out"
    IN = "in"
    FRESH = "fresh"


class Subject(StrEnum):
    """The subject of a runbook."""

    CHANGE = "change"
    BATCH = "batch"
    SYSTEM = "system"


class AnswerKind(StrEnum):
    """The kinds of answers, at a step or for the work as a whole."""

    MEASURED = "measured"
    OVERRIDE = "override"
    TICK = "tick"
    UNTICK = "untick"
    LITRES = "litres"
    UNDO = "undo"
    TIMER = "timer"
    CLOCK_ON = "clock_on"
    CLOCK_OFF = "clock_off"
    DONE = "done"
    REOPEN = "reopen"
    TROUBLE = "trouble"
    SETTLED = "settled"
    PAUSE = "pause"
    RESUME = "resume"
    FOUND = "found"


OF_THE_WHOLE = frozenset({AnswerKind.PAUSE, AnswerKind.RESUME, AnswerKind.TROUBLE, AnswerKind.SETTLED})
"""Kinds of answers that belong to no step."""


@dataclass(frozen=True)
class RunbookStep:
    """One step. `when`: a flag of the setting that must hold ("not x": must not) for the step to exist.

    tick_list: the list of the setting to tick, or `gear` the keys of gear to tick where the system has them; turns:
    "off" or "on" where ticking means that · group:
    steps of one group, side by side in the file, are open together · timer: minutes, or the name of a time of the
    setting; waits: not done before it rang · measure: parameters to measure, each with the interval it should lie in
    (None: any; "band": the system's own) · finds: observations it may record · marks: the event it causes in the batch
    · entry: the quick entry that records what was done in it.
    """

    id: str
    kind: RunbookStepKind
    title: str
    text: str
    done: str = "Done"
    caution: str = ""
    when: str = ""
    group: str = ""
    meanwhile: str = ""
    timer: float | str | None = None
    reminder: str = ""
    waits: bool = False
    tick_list: str = ""
    optional: bool = False
    gear: tuple[str, ...] = ()
    turns: str = ""
    count: Counted | None = None
    gate: GateKind | None = None
    measure: Mapping[Parameter, str | tuple[float, float] | None] = field(default_factory=dict)
    clock: str = ""
    needs: tuple[str, ...] = ()
    finds: tuple[str, ...] = ()
    marks: str = ""
    entry: str = ""


@dataclass(frozen=True)
class Trouble:
    """Something that can go wrong: what to stop first, what to do meanwhile, how long there is, how to go on."""

    key: str
    title: str
    during: tuple[str, ...]
    first: str
    meanwhile: str
    time_left: str
    then: str
    caution: str = ""


@dataclass(frozen=True)
class AirClock:
    """A clock that is started and stopped by hand: how long animals are out of the water."""

    key: str
    title: str
    starts: str
    stops: str


@dataclass(frozen=True)
class FollowUp:
    """A check to come back for, minutes after the work is finished."""

    after_min: float
    name: str
    why: str
    when: str = ""


@dataclass(frozen=True)
class Emergency:
    """What makes a runbook an emergency's: its place in the list, how it shows, the rules of judgement that see it,
    what not to do, how long the animals bear it, when to stop, whom to call, the care tasks that are held back until it
    is over, and what to look into afterwards.
    """

    order: int
    signs: tuple[str, ...]
    never: tuple[str, ...]
    bears: str
    stop: str
    call: str
    afterwards: str
    rules: tuple[str, ...] = ()
    holds: tuple[str, ...] = ()


@dataclass(frozen=True)
class Runbook:
    """The steps of one task in order, what can go wrong, its clocks and follow-ups. task: the care task, and happening:
    the event, that it records once finished · emergency: where it is an emergency's.
    """

    key: str
    name: str
    subject: Subject
    about: str
    steps: tuple[RunbookStep, ...]
    troubles: tuple[Trouble, ...] = ()
    clocks: tuple[AirClock, ...] = ()
    follow_ups: tuple[FollowUp, ...] = ()
    task: str = ""
    happening: str = ""
    emergency: Emergency | None = None


@dataclass(frozen=True)
class TickItem:
    """Something to tick: its name, and what to look at."""

    name: str
    words: str = ""


NEXT_TO_NOTHING_L = 0.05
"""The precision of a bucket's scale, L."""


@dataclass(frozen=True)
class CountAim:
    """Litres to count: how many, by which container, the mark on the glass in cm (0: none) and litres in a cm of it;
    most_l: more than can be meant."""

    litres: float
    by_l: float
    mark_cm: float = 0.0
    litres_per_cm: float = 0.0
    most_l: float = 0.0


@dataclass(frozen=True)
class RunbookContext:
    """What one piece of work fills a runbook with: texts, flags, lists, litres, minutes, and limits of clocks. slots:
    values for the names in braces in its texts · flags: conditions that hold · minutes: named times of timers · clocks:
    minutes each clock may run at a stretch, and the animals that set them.
    """

    slots: Mapping[str, str] = field(default_factory=dict)
    flags: frozenset[str] = frozenset()
    lists: Mapping[str, Mapping[str, TickItem]] = field(default_factory=dict)
    counts: Mapping[Counted, CountAim] = field(default_factory=dict)
    minutes: Mapping[str, float] = field(default_factory=dict)
    clocks: Mapping[str, tuple[float, str]] = field(default_factory=dict)
    bands: Mapping[Parameter, tuple[float, float]] = field(default_factory=dict)
    gear: Mapping[str, str] = field(default_factory=dict)

    def holds(self, condition: str) -> bool:
        """Whether a condition of a data file is met: a flag, or "not" and a flag; an empty one always is."""
        name = condition.removeprefix("not ")
        return not condition or (name in self.flags) != condition.startswith("not ")

    def items(self, step: RunbookStep) -> Mapping[str, TickItem]:
        """The items to tick in a step."""
        if step.gear:
            return {key: TickItem(self.gear[key]) for key in step.gear if key in self.gear}
        return self.lists.get(step.tick_list, {})

    def timer_min(self, step: RunbookStep) -> float:
        """Minutes of a step's timer, 0 without one."""
        if isinstance(step.timer, str):
            return self.minutes.get(step.timer, 0.0)
        return step.timer or 0.0


@dataclass(frozen=True)
class Answer:
    """One answer at a step: an item with a value (canonical) or a text. at: by the clock of the timers."""

    step: str
    kind: AnswerKind
    item: str = ""
    value: float | None = None
    text: str = ""
    at: datetime | None = None


@dataclass(frozen=True)
class StepState:
    """The state of one step by the answers. ends: when its timer rings."""

    step: RunbookStep
    done: bool = False
    ticked: frozenset[str] = frozenset()
    litres: tuple[float, ...] = ()
    measured: Mapping[Parameter, float] = field(default_factory=dict)
    found: Mapping[str, float | str] = field(default_factory=dict)
    override: str = ""
    ends: datetime | None = None

    @property
    def total_l(self) -> float:
        """Litres moved in this step."""
        return sum(self.litres)

    def counted_up(self, target_l: float) -> bool:
        """Whether this many litres were counted, to the precision of a bucket."""
        return self.total_l >= target_l - NEXT_TO_NOTHING_L

    def waiting(self, at: datetime) -> bool:
        """Whether the step is only waited for: its timer runs, and it may not be done before."""
        return not self.done and self.step.waits and self.ends is not None and at < self.ends


@dataclass(frozen=True)
class ClockState:
    """A clock: since when it runs (None: stopped), and the minutes of earlier stretches, with the longest."""

    since: datetime | None = None
    minutes: float = 0.0
    longest: float = 0.0


@dataclass(frozen=True)
class Progress:
    """The progress of the work: every existing step, the clocks, troubles under way, and whether it is paused."""

    states: tuple[StepState, ...]
    clocks: Mapping[str, ClockState] = field(default_factory=dict)
    troubles: tuple[str, ...] = ()
    had_trouble: tuple[str, ...] = ()
    paused: datetime | None = None

    @property
    def open(self) -> tuple[StepState, ...]:
        """The steps that may be worked on now: the first undone one, and the rest of its group."""
        left = [state for state in self.states if not state.done]
        if not left:
            return ()
        group = left[0].step.group
        return (left[0],) if not group else tuple(takewhile(lambda state: state.step.group == group, left))

    def current(self, at: datetime) -> StepState | None:
        """The step to work on at a moment: the first open one not merely waiting, else the first waiting one."""
        return next((state for state in self.open if not state.waiting(at)), next(iter(self.open), None))

    @property
    def finished(self) -> bool:
        """Whether every step is done."""
        return all(state.done for state in self.states)

    def number(self, step_id: str) -> int:
        """The place of a step in the order, from 1."""
        return next(place for place, state in enumerate(self.states, 1) if state.step.id == step_id)

    def of(self, step_id: str) -> StepState | None:
        """The state of a step, None where it does not exist in this work."""
        return next((state for state in self.states if state.step.id == step_id), None)

    def counted(self, what: Counted) -> float:
        """Litres counted of something in all steps together."""
        return sum(state.total_l for state in self.states if state.step.count == what)

    def turned(self, way: str) -> frozenset[str]:
        """Gear that was ticked as off, or as on."""
        return frozenset(item for state in self.states if state.step.turns == way for item in state.ticked)

    def still_off(self) -> frozenset[str]:
        """Gear that was ticked off and is not ticked on yet."""
        return self.turned("off") - self.turned("on")


def steps_of(book: Runbook, setting: RunbookContext) -> tuple[RunbookStep, ...]:
    """The steps that exist in this work. A list with nothing to tick is no step."""
    found = (step for step in book.steps if setting.holds(step.when))
    return tuple(step for step in found if step.kind != RunbookStepKind.TICK or setting.items(step))


def progress(book: Runbook, setting: RunbookContext, answers: Sequence[Answer]) -> Progress:
    """Fold the answers, in order, into the progress of the work."""
    now = Progress(tuple(StepState(step) for step in steps_of(book, setting)))
    for answer in answers:
        now = _answered_for_all(now, answer) if answer.kind in OF_THE_WHOLE else _answered_at_step(now, setting, answer)
    return now


def _answered_for_all(now: Progress, answer: Answer) -> Progress:
    if answer.kind == AnswerKind.PAUSE:
        return replace(now, paused=answer.at)
    if answer.kind == AnswerKind.RESUME:
        return replace(now, paused=None)
    on = tuple(key for key in now.troubles if key != answer.item)
    if answer.kind == AnswerKind.TROUBLE:
        return replace(now, troubles=(*on, answer.item), had_trouble=(*now.had_trouble, answer.item))
    return replace(now, troubles=on)


def _answered_at_step(now: Progress, setting: RunbookContext, answer: Answer) -> Progress:
    if answer.kind == AnswerKind.REOPEN:
        return replace(now, states=_reopened(now.states, answer.step))
    if answer.kind in (AnswerKind.CLOCK_ON, AnswerKind.CLOCK_OFF):
        return replace(now, clocks={**now.clocks, answer.item: _turned(now.clocks.get(answer.item), answer)})
    answered = tuple(_answered(s, setting, answer) if s.step.id == answer.step else s for s in now.states)
    return replace(now, states=answered)


def _answered(state: StepState, setting: RunbookContext, answer: Answer) -> StepState:
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
        case AnswerKind.TIMER if answer.at is not None:
            return replace(state, ends=answer.at + timedelta(minutes=setting.timer_min(state.step)))
        case AnswerKind.FOUND:
            return replace(state, found=_found(state, answer))
        case AnswerKind.MEASURED if answer.value is not None:
            # A new measurement reopens the question: an override holds for the old one only.
            return replace(state, measured={**state.measured, Parameter(answer.item): answer.value}, override="")
    return state


def _found(state: StepState, answer: Answer) -> dict[str, float | str]:
    """The observations with one added, replaced, or taken back."""
    left = {key: answered for key, answered in state.found.items() if key != answer.item}
    answered = answer.text.strip() if answer.value is None else answer.value
    return left if answered == "" else {**left, answer.item: answered}


def _turned(clock: ClockState | None, answer: Answer) -> ClockState:
    """A clock started, or stopped with its stretch added."""
    clock = clock or ClockState()
    if answer.kind == AnswerKind.CLOCK_ON:
        return clock if clock.since else replace(clock, since=answer.at)
    if clock.since is None or answer.at is None:
        return clock
    stretch = (answer.at - clock.since) / timedelta(minutes=1)
    return ClockState(None, clock.minutes + stretch, max(clock.longest, stretch))


def _reopened(states: Sequence[StepState], step_id: str) -> tuple[StepState, ...]:
    """Open a step and those after it; what was ticked, drained, measured and timed stays."""
    reached, result = False, []
    for state in states:
        reached = reached or state.step.id == step_id
        result.append(replace(state, done=state.done and not reached))
    return tuple(result)
