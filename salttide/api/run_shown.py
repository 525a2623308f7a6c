"""Work at the tank as shown: its open steps, timers, clocks, and what can go wrong now."""

from datetime import datetime

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.measures import length_words, litres_words
from salttide.core.basics.phrases import phrase
from salttide.core.planning.match_gate import GatePart
from salttide.core.runbook.answer import gate_lines, outcome
from salttide.core.runbook.context import RunWork, entry_of, filled, setting_of
from salttide.core.runbook.counting import counting_of
from salttide.core.runbook.file import runbook
from salttide.core.runbook.finish import difference_words, finds_of
from salttide.core.runbook.steps import (
    Counted,
    Progress,
    Runbook,
    RunbookContext,
    RunbookStep,
    RunbookStepKind,
    StepState,
    Trouble,
    progress,
)
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import UnitChoice, unit_of
from salttide.core.system.observations import found_text
from salttide.household.emergency import work_now
from salttide.store import batch as batch_store
from salttide.store import change as change_store
from salttide.store import runbook as run_store

from .context import Context
from .models import Caution, Model, caution_shown, name_of, shown
from .rota_shown import FoundAsked, found_asked


class StepLine(Model):
    """A step in the list of all."""

    id: str
    title: str
    done: bool
    open: bool
    waiting: bool


class Item(Model):
    """Something to tick."""

    key: str
    name: str
    words: str
    ticked: bool


class GateWords(Model):
    """One line of a gate."""

    part: GatePart
    met: bool
    words: str


class Measure(Model):
    """A value to measure, and the gate's lines on it."""

    parameter: str
    name: str
    unit: str
    text: str
    met: bool
    parts: list[GateWords]
    correction: str


class Litres(Model):
    """Litres counted so far in this step. mark: the fall of the level in cm, empty where nothing falls; bucket: what
    the large button counts, all that is left where it runs straight to the drain."""

    what: Counted
    total: float
    total_text: str
    target: float
    target_words: str
    bucket: float
    bucket_words: str
    count: int
    mark: str
    straight: bool


class Timer(Model):
    """A timer: minutes, and when it rings by the clock of `now`; null where not started."""

    step: str
    title: str
    minutes: float
    reminder: str
    ends_at: str | None
    waits: bool


class AirClockShown(Model):
    """How long animals are out of the water: when the clock started, minutes before that, the limit and whose it is."""

    key: str
    title: str
    since: str | None
    minutes: float
    bound_min: float
    bound_for: str
    starts: str
    stops: str


class TroubleShown(Model):
    """What to do when something goes wrong."""

    key: str
    title: str
    first: str
    meanwhile: str
    time_left: str
    then: str
    caution: Caution | None


class OpenStep(Model):
    """A step that can be worked on now."""

    id: str
    kind: RunbookStepKind
    number: int
    title: str
    text: str
    done_words: str
    meanwhile: str
    caution: Caution | None
    caution_known: bool
    items: list[Item]
    optional: bool
    gate: list[Measure]
    finds: list[FoundAsked]
    found: dict[str, str]
    litres: Litres | None
    timer: Timer | None
    clock: str
    ready: bool
    entry: str


class RunAnswer(Model):
    """Where the work stands. seen: how many answers it rests on; now: the clock of the timers."""

    id: int
    system_id: int | None
    batch_id: int | None
    name: str
    number: int
    count: int
    steps: list[StepLine]
    current: str
    open: list[OpenStep]
    timers: list[Timer]
    clocks: list[AirClockShown]
    troubles: list[TroubleShown]
    troubles_on: list[str]
    paused: bool
    still_off: list[str]
    ended: bool
    abandoned: str
    command: str
    result: list[str]
    seen: int
    now: str


def run_shown(ctx: Context, run_id: int) -> RunAnswer:
    """Where a run stands, from its answers."""
    run = run_store.run(ctx.connection, run_id)
    book, said = runbook(run.runbook), run_store.answers(ctx.connection, run_id)
    setting, at = setting_of(book, work_now(ctx.household, run, said)), ctx.ticks
    now = progress(book, setting, said)
    current = now.current(at)
    open_steps = () if run.ended_at else now.open
    finished = run.ended_at is not None and not run.abandoned_because
    clocks = _clocks(book, setting, now)
    return RunAnswer(
        id=run.id,
        system_id=run.system_id or None,
        batch_id=run.batch_id or None,
        name=run_name(ctx, book, run),
        number=now.number(current.step.id) if current else len(now.states),
        count=len(now.states),
        steps=[_line(state, now, at) for state in now.states],
        current=current.step.id if current and not run.ended_at else "",
        open=[_open(book, run.work, setting, now, state, at) for state in open_steps],
        timers=[] if run.ended_at else [_timer(setting, s) for s in now.states if s.ends and not s.done],
        clocks=[] if run.ended_at else clocks,
        troubles=[] if run.ended_at else _troubles(book, setting, now),
        troubles_on=list(now.troubles),
        paused=now.paused is not None,
        still_off=[setting.gear[key] for key in setting.gear if key in now.still_off()],
        ended=run.ended_at is not None,
        abandoned=run.abandoned_because,
        command=_command_of(ctx, run),
        result=difference_words(run.work, book, outcome(now)) if finished else [],
        seen=len(said),
        now=at.isoformat(),
    )


def _command_of(ctx: Context, run: run_store.Run) -> str:
    return (change_store.step(ctx.connection, run.step_id).done_command or "") if run.step_id else ""


def run_name(ctx: Context, book: Runbook, run: run_store.Run) -> str:
    """The runbook and what it is worked on."""
    try:
        if run.batch_id:
            return f"{book.name}: {batch_store.batch(ctx.connection, run.batch_id).name}"
        return f"{book.name}, {ctx.household.system(run.system_id).name}"
    except NotFoundError:
        return book.name


def open_work(ctx: Context) -> list[tuple[run_store.Run, str]]:
    """Unfinished work, with its name."""
    return [(run, run_name(ctx, runbook(run.runbook), run)) for run in ctx.stored.open_runs]


def _line(state: StepState, now: Progress, at: datetime) -> StepLine:
    return StepLine(
        id=state.step.id, title=state.step.title, done=state.done, open=state in now.open, waiting=state.waiting(at)
    )


def _open(
    book: Runbook, work: RunWork, setting: RunbookContext, now: Progress, state: StepState, at: datetime
) -> OpenStep:
    step = state.step
    gate = _gate(work, setting, state)
    litres = _litres(setting, state, now) if step.count else None
    items = [
        Item(key=key, name=item.name, words=item.words.format(**setting.slots), ticked=key in state.ticked)
        for key, item in setting.items(step).items()
    ]
    earlier = {s.step.caution for s in now.states[: now.number(step.id) - 1]}
    return OpenStep(
        id=step.id,
        kind=step.kind,
        number=now.number(step.id),
        title=step.title,
        text=filled(step.text, setting.slots),
        done_words=step.done,
        meanwhile=step.meanwhile,
        caution=caution_shown(step.caution) if step.caution else None,
        caution_known=step.caution in earlier,
        items=items,
        optional=step.optional,
        entry=entry_of(setting, step),
        gate=gate,
        finds=found_asked(finds_of(book, work, step)),
        found={key: found_text(key, value) for key, value in state.found.items()},
        litres=litres,
        timer=_timer(setting, state) if setting.timer_min(step) else None,
        clock=step.clock,
        ready=_ready(step, state, items, gate, litres, at),
    )


def _ready(
    step: RunbookStep, state: StepState, items: list[Item], gate: list[Measure], litres: Litres | None, at: datetime
) -> bool:
    """Whether going on is the natural next tap; the core alone decides whether it is allowed."""
    if step.waits and (state.ends is None or at < state.ends):
        return False
    if litres is not None:
        return state.counted_up(litres.target)
    return all(line.met for line in gate) and (step.optional or all(item.ticked for item in items))


def _timer(setting: RunbookContext, state: StepState) -> Timer:
    step = state.step
    return Timer(
        step=step.id,
        title=step.title,
        minutes=setting.timer_min(step),
        reminder=step.reminder,
        ends_at=state.ends.isoformat() if state.ends else None,
        waits=step.waits,
    )


def _clocks(book: Runbook, setting: RunbookContext, now: Progress) -> list[AirClockShown]:
    """The running clocks, and those an open step asks for."""
    asked = {state.step.clock for state in now.open}
    found = []
    for clock in book.clocks:
        state = now.clocks.get(clock.key)
        if clock.key not in asked and not (state and state.since):
            continue
        bound, whose = setting.clocks.get(clock.key, (20.0, "corals"))
        found.append(
            AirClockShown(
                key=clock.key,
                title=clock.title,
                since=state.since.isoformat() if state and state.since else None,
                minutes=state.minutes if state else 0.0,
                bound_min=bound,
                bound_for=whose,
                starts=clock.starts,
                stops=clock.stops,
            )
        )
    return found


def _troubles(book: Runbook, setting: RunbookContext, now: Progress) -> list[TroubleShown]:
    """What can go wrong in the open steps, and what has."""
    here = {state.step.id for state in now.open}
    return [_trouble(t, setting) for t in book.troubles if here & {*t.during} or t.key in now.troubles]


def _trouble(trouble: Trouble, setting: RunbookContext) -> TroubleShown:
    texts = {
        name: getattr(trouble, name).format(**setting.slots) for name in ("first", "meanwhile", "time_left", "then")
    }
    return TroubleShown(
        key=trouble.key,
        title=trouble.title,
        caution=caution_shown(trouble.caution) if trouble.caution else None,
        **texts,
    )


def _gate(work: RunWork, setting: RunbookContext, state: StepState) -> list[Measure]:
    if state.step.kind not in (RunbookStepKind.GATE, RunbookStepKind.MEASURE):
        return []
    found: dict[Parameter, Measure] = {}
    units = work.units
    for line in gate_lines(work, setting, state):
        one = found.setdefault(line.parameter, _measure(line.parameter, state, units))
        one.parts.append(GateWords(part=line.part, met=line.met, words=line.words))
        one.met = one.met and line.met
        one.correction = one.correction or line.correction
    if state.step.gate and Parameter.ALKALINITY not in found:
        one = found.setdefault(Parameter.ALKALINITY, _measure(Parameter.ALKALINITY, state, units))
        one.parts.append(
            GateWords(part=GatePart.SYSTEM, met=True, words=phrase("run_shown.not_needed_the_batch_was_not"))
        )
    return list(found.values())


def _measure(parameter: Parameter, state: StepState, units: UnitChoice) -> Measure:
    value = state.measured.get(parameter)
    return Measure(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit_of(parameter, units).label,
        text=shown(parameter, value, units).text if value is not None else "",
        met=True,
        parts=[],
        correction="",
    )


def _litres(setting: RunbookContext, state: StepState, now: Progress) -> Litres:
    counting = counting_of(setting, state, now)
    aim, target, bucket = counting.aim, counting.target_l, counting.next_l
    return Litres(
        what=state.step.count or Counted.OUT,
        total=state.total_l,
        total_text=litres_words(state.total_l).split()[0],
        target=target,
        target_words=litres_words(target),
        bucket=round(bucket, 1),
        bucket_words=litres_words(bucket),
        count=len(state.litres),
        mark=length_words(aim.mark_cm) if aim.mark_cm and state.step.count == Counted.OUT else "",
        straight=counting.straight,
    )
