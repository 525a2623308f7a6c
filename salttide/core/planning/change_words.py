"""What is said of a change beside its numbers: its summary, what to switch off, which tolerances it passes, and where
its values come from."""

from __future__ import annotations

from dataclasses import dataclass
from zoneinfo import ZoneInfo

from ..basics.measures import length_words, litres_words
from ..basics.number_text import percent, show_number
from ..basics.phrases import phrase
from ..basics.phrasing import capital, moment_words
from ..ledger.balance import Present
from ..science.draining import exposed_gear
from ..science.parameters import FACTS, Parameter, Span, spoken
from ..science.units import UnitChoice, show_difference
from ..system.catalogue import gear_kinds
from ..system.system import GearPlace, System, limit_setters
from ..system.volume import display_chamber
from .change import ChangePlan, summary_words
from .change_step import ChangeStepKind, PlanStep
from .plumbing import TankSide


def plan_words(system: System, plan: ChangePlan, units: UnitChoice) -> str:
    """A plan in a few sentences; where it has several steps, the old water left and the animals that set its rate."""
    said = [summary_words(plan, units)]
    if len(plan.steps) > 1:
        said.append(phrase("change_answer.of_the_old_water_is_left", left=show_number(percent(plan.left), 0)))
        said += _slowest(system, plan, units)
    return " ".join(said)


def _slowest(system: System, plan: ChangePlan, units: UnitChoice) -> list[str]:
    setters, before = limit_setters(system.own_limits, system.animals), plan.steps[0].before
    return [
        phrase(
            "change_answer.may_move_by_at_most_a",
            parameter=capital(spoken(parameter)),
            limit=show_difference(parameter, limit, before[parameter], units),
            animal=animal,
        )
        for parameter, (animal, limit) in setters.items()
        if parameter in before
    ]


@dataclass(frozen=True)
class SwitchedOff:
    """Gear to switch off for a change, and why. kind: its key."""

    kind: str
    name: str
    why: str


def switched_off(system: System, plan: ChangePlan) -> list[SwitchedOff]:
    """Gear to switch off, with the fall in cm at which the level uncovers it where it does."""
    drained = max((step.volume_l for step in plan.steps), default=0.0)
    depths = {
        key: one.cover_cm
        for key, one in system.placed.items()
        if one.where == GearPlace.DISPLAY and one.cover_cm is not None
    }
    bare = {item.name for item in exposed_gear(depths, drained, float(display_chamber(system.geometry).surface))}
    kinds = sorted((gear_kinds()[key] for key in system.gear), key=lambda kind: kind.order)
    return [
        SwitchedOff(kind.key, kind.name, _why(kind.off_why, depths[kind.key] if kind.key in bare else None))
        for kind in kinds
        if kind.off_why
    ]


def _why(off_why: str, depth_cm: float | None) -> str:
    if depth_cm is None:
        return off_why
    return phrase("change_answer.out_of_the_water_once_the", why=off_why, depth=length_words(depth_cm, 0))


@dataclass(frozen=True)
class LimitPassed:
    """The end of what the animals tolerate (canonical), and whether a change goes beyond it."""

    value: float
    words: str
    passed: bool


def limits_passed(system: System, parameter: Parameter, after: Span) -> list[LimitPassed]:
    """The animals' tolerances, the tightest at either end; none where no animal has one."""
    spans = [(a.tolerances[parameter], a.name) for a in system.animals if a.count and parameter in a.tolerances]
    if not spans:
        return []
    low, lowest = max(((span.low, name) for span, name in spans), key=lambda pair: pair[0])
    high, highest = min(((span.high, name) for span, name in spans), key=lambda pair: pair[0])
    return [
        LimitPassed(low, phrase("change_answer.lowest_for_the", animal=lowest), after.low < low),
        LimitPassed(high, phrase("change_answer.highest_for_the", animal=highest), after.high > high),
    ]


def known_from(known: Present, zone: ZoneInfo) -> str:
    """Where a present value comes from: its instrument and when, or the reading it was estimated from."""
    when = moment_words(known.reading.at, zone)
    if known.measured:
        return f"{known.reading.instrument}, {when}"
    return phrase("change_answer.estimated_from", when=when)


def row_remark(step: PlanStep, parameter: Parameter) -> str:
    """What is to be known of a parameter after a step; empty where nothing is."""
    if parameter == Parameter.PH:
        return phrase("change_answer.follows_the_room_air_measure_an")
    if parameter == Parameter.TEMPERATURE:
        return phrase("change_answer.held_by_the_heater")
    if step.kind == ChangeStepKind.CHANGE and step.after.get(parameter) is None and FACTS[parameter].dissolved:
        return phrase("change_answer.the_salt_label_does_not_say")
    return ""


def sump_warnings(side: TankSide) -> list[str]:
    """Warnings of what the sump cannot hold."""
    said = []
    if side.holds_back is False and side.back is not None and side.room is not None:
        more = litres_words(side.over_l(side.back))
        said.append(phrase("change_tank.the_sump_overflows_by_l_when", more=more))
    if side.holds_broken is False and side.broken is not None and side.room is not None:
        more = litres_words(side.over_l(side.broken))
        said.append(phrase("change_tank.if_the_siphon_break_fails_l", more=more))
    return said


def mark_words(side: TankSide) -> str:
    """Where to put the tape; marked as an estimate where rock stands in the way, and as rough without dimensions."""
    if side.rough:
        return phrase("change_tank.roughly_below_the_pumps_off_level")
    estimate = phrase("change_tank.an_estimate_rock_spread_evenly") if side.mark.working[1:] else ""
    return phrase("change_tank.below_the_pumps_off_level_put", estimate=estimate)
