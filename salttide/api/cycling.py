"""Cycling: the phase of a new system, what to test next, and its end."""

import sqlite3
from dataclasses import replace

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import ConflictError, PlanError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import day_words, listed
from salttide.core.basics.refused import refused
from salttide.core.judgement.cycling import BreakingIn, Phase, breaking_in, first_change_words, missing_for_the_end
from salttide.core.judgement.situation import Situation
from salttide.core.science.parameters import spoken
from salttide.core.system.catalogue import event_kind, presets
from salttide.core.system.inspection import Event
from salttide.core.system.system import Stage, System
from salttide.store import ledger as ledger_store
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import Id, Model, Recorded, RequestModel, Shown, plain

router = APIRouter(prefix="/api/systems/{system_id}/cycling", tags=["cycling"])


class PhaseShown(Model):
    """One phase on the way; `state` is done, now or ahead."""

    key: str
    name: str
    state: str


class StageShown(Model):
    """One stage of stocking, with the days of its ammonia watch."""

    what: str
    from_day: str
    watch: list[str]


class BreakingInShown(Model):
    """How far a new system has come."""

    day: int
    phases: list[PhaseShown]
    words: str
    reason: str
    test: str
    why_no_change: str
    proof: str
    toxic: Shown | None
    alkalinity: str
    finished: bool
    first_change: str
    stages: list[StageShown]
    presets: dict[str, str]


class EndBody(RequestModel):
    """The end of cycling: the bands to keep the system by from now on, and the reason where the proof is incomplete."""

    preset: str = Field(max_length=40)
    although: str = Field(default="", max_length=300)


@router.get("")
def get_cycling(system_id: Id, ctx: In) -> BreakingInShown:
    """The phase, its reason, what to test and when, and how much is proved."""
    system = _system(ctx, system_id)
    state = _state(ctx, system)
    order = list(Phase)
    at = order.index(state.phase)
    names = listed([spoken(parameter) for parameter in state.tests])
    today = state.test_on <= ctx.today
    return BreakingInShown(
        day=state.day,
        phases=[
            PhaseShown(
                key=phase,
                name=phrase(f"cycling.phase.{phase}"),
                state="done" if i < at else "now" if i == at else "ahead",
            )
            for i, phase in enumerate(order)
        ],
        words=state.words,
        reason=state.reason,
        test=phrase("cycling.test", names=names, when="today" if today else f"on {day_words(state.test_on)}"),
        why_no_change=state.why_no_change,
        proof=f"{state.proof.words}.",
        toxic=None if state.toxic_mg_l is None else plain(state.toxic_mg_l, 3, "mg/L"),
        alkalinity=state.alkalinity_words,
        finished=state.phase == Phase.FINISHED,
        first_change=first_change_words(system, state),
        stages=[
            StageShown(what=s.what, from_day=day_words(s.from_day), watch=[day_words(day) for day in s.watch])
            for s in state.stages
        ],
        presets={key: preset.name for key, preset in presets().items() if key != "breaking_in"},
    )


def _system(ctx: Context, system_id: int) -> System:
    system = ctx.household.system(system_id)
    if system.stage != Stage.BREAKING_IN:
        raise ConflictError(phrase("cycling.is_not_cycling_any_more", system=system.name))
    return system


def _state(ctx: Context, system: System) -> BreakingIn:
    ledger = ctx.household.recorded(system)
    return breaking_in(Situation(system, ledger, ctx.now, ctx.keeper.zone, ctx.keeper.units))


@router.post("/end")
def end(system_id: Id, body: EndBody, ctx: In, key: Key) -> Recorded:
    """End cycling: from now on the system is kept by the bands of a preset. Asks why where the proof is missing."""
    system = _system(ctx, system_id)
    known = {name: preset for name, preset in presets().items() if name != "breaking_in"}
    if body.preset not in known:
        raise refused("cycling.is_not_a_preset", "preset", takes=", ".join(known), preset=body.preset)
    missing = missing_for_the_end(_state(ctx, system))
    if missing and not body.although.strip():
        raise PlanError(phrase("cycling.not_proved_yet_to_end_it", missing=missing), field="although")
    note = phrase("cycling.cycling_ended", why=": " + body.although.strip() if body.although.strip() else "")

    def act(connection: sqlite3.Connection) -> str:
        running = replace(system, stage=Stage.RUNNING, bands=known[body.preset].bands)
        system_store.remember_setup(connection, system.id, key)
        system_store.change_system(connection, running, ctx.now)
        ledger_store.record(connection, system.id, [Event(ctx.now, event_kind("other"), note)], key, ctx.now)
        return phrase("cycling.has_finished_cycling", system=system.name)

    return ctx.record(key, act)
