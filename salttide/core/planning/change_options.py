"""The purposes a change can have, the defaults of each, and the first request."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from ..basics.errors import RuleError
from ..judgement.cycling import BreakingIn, missing_for_the_end
from ..ledger.balance import Present
from ..ledger.entries import Ledger
from ..ledger.verdict import Verdict
from ..science.parameters import FACTS, Parameter
from ..science.sizing import FIRST_NITRATE_MG_L, LARGEST_FIRST_CHANGE
from ..science.units import UnitChoice, show
from ..system.system import Stage, System
from .change import LARGEST_FRACTION_EVER, level_after
from .change_request import Purpose
from .work_order import Water

AIMED = frozenset({Purpose.BRING, Purpose.RESTORE, Purpose.FIRST})
"""Purposes that bring one parameter to a level."""
TARGETED = (Parameter.SALINITY, Parameter.ALKALINITY)
"""Parameters every change may bring to a target."""
AIMABLE = (
    Parameter.NITRATE, Parameter.PHOSPHATE, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM,
    Parameter.STRONTIUM, Parameter.ALKALINITY, Parameter.SILICATE,
)  # fmt: skip
PURPOSE_FRACTION = 0.25
NEAR_TOTAL_CHANGE = 0.9
LEFT_OF_A_CONTAMINATION = 0.25
EVERY_DAYS = 2
"""The defaults of each purpose until the keeper says otherwise (all judgement)."""
_FIRST_PARAMETER = {
    Purpose.BRING: Parameter.NITRATE,
    Purpose.RESTORE: Parameter.CALCIUM,
    Purpose.FIRST: Parameter.NITRATE,
}


@dataclass(frozen=True)
class PurposeDefaults:
    """The defaults of a purpose: fraction of the net volume (0..1), first day, share of a contamination that may
    remain, and the parameter with its level (canonical) where the purpose has one; None where it has none."""

    purpose: Purpose
    fraction: float
    start: date
    left: float | None = None
    parameter: Parameter | None = None
    target: float | None = None


@dataclass(frozen=True)
class FirstRequest:
    """The first request: its purpose's defaults, targets (canonical), where the new water comes from, and the day a
    routine change would start."""

    defaults: PurposeDefaults
    every_days: int
    salinity: float | None
    alkalinity_meq_l: float | None
    siphon: bool
    water: Water
    water_salinity: float | None
    usual_start: date


def purposes_of(system: System) -> list[Purpose]:
    """The purposes this system can have; the first change and the near-total one only where they apply."""
    hidden = {Purpose.NEAR_TOTAL} if system.methods.largest_fraction <= LARGEST_FRACTION_EVER else set()
    if system.stage != Stage.BREAKING_IN and (system.animals or system.methods.answers):
        hidden.add(Purpose.FIRST)
    return [purpose for purpose in Purpose if purpose not in hidden]


def aimable(present: Mapping[Parameter, Present]) -> list[Parameter]:
    """Known parameters that a change can bring to a level."""
    return [p for p in present if FACTS[p].dissolved and p in AIMABLE]


def level_to_aim_at(system: System, present: Mapping[Parameter, Present], parameter: Parameter) -> float:
    """The system's aim, else what it is now (canonical)."""
    goal = system.aim(parameter)
    return present[parameter].value if goal is None else goal


def defaults_of(
    system: System, present: Mapping[Parameter, Present], purpose: Purpose, usual_start: date, today: date
) -> PurposeDefaults:
    """The defaults of a purpose. usual_start: the day of the next routine change, used where nothing is urgent."""
    usual = system.routine.fraction
    if purpose == Purpose.ROUTINE:
        return PurposeDefaults(purpose, usual, usual_start)
    fraction = max(usual, min(PURPOSE_FRACTION, system.methods.largest_fraction))
    fraction = {Purpose.NEAR_TOTAL: NEAR_TOTAL_CHANGE, Purpose.FIRST: LARGEST_FIRST_CHANGE}.get(purpose, fraction)
    left = LEFT_OF_A_CONTAMINATION if purpose == Purpose.DILUTE else None
    parameter, target = _aim_of(system, present, purpose)
    return PurposeDefaults(purpose, fraction, today, left, parameter, target)


def _aim_of(
    system: System, present: Mapping[Parameter, Present], purpose: Purpose
) -> tuple[Parameter | None, float | None]:
    """The parameter a purpose brings to a level, and the level; another known one where the usual is not known."""
    if purpose == Purpose.FIRST:
        return Parameter.NITRATE, FIRST_NITRATE_MG_L
    known, wanted = aimable(present), _FIRST_PARAMETER.get(purpose)
    if wanted is None or not known:
        return None, None
    parameter = wanted if wanted in known else known[0]
    return parameter, level_to_aim_at(system, present, parameter)


def first_request(
    system: System,
    present: Mapping[Parameter, Present],
    verdicts: tuple[Verdict, ...],
    due: date | None,
    today: date,
    cycle: BreakingIn | None,
) -> FirstRequest:
    """The first request: a routine change to the aims, today where something is out of band, else
    on its due day; for a system that has just cycled, its first change."""
    out = any(one.position.out for one in verdicts if one.parameter in TARGETED)
    purpose = Purpose.FIRST if cycle is not None and cycle.change_fraction else Purpose.ROUTINE
    start = today if out or due is None else due
    salinity, alkalinity = (level_after(system, present[p], p) for p in TARGETED)
    natural = system.methods.natural_seawater
    return FirstRequest(
        defaults_of(system, present, purpose, start, today),
        EVERY_DAYS,
        salinity,
        alkalinity,
        system.methods.siphons,
        Water.NATURAL if natural else Water.MIX,
        salinity if natural else None,
        start,
    )


def held_words(system: System, present: Mapping[Parameter, Present], units: UnitChoice) -> list[str]:
    """Where the first request departs from the usual routine, or from an aim inside the band, and why."""
    found = [system.routine.because] if system.routine.because else []
    for parameter in TARGETED:
        known, goal = present.get(parameter), system.aim(parameter)
        after = level_after(system, known, parameter) if known else None
        if (
            known is None
            or after is None
            or goal is None
            or show(parameter, after, units) == show(parameter, goal, units)
        ):
            continue
        name, there, aim = FACTS[parameter].name, show(parameter, after, units), show(parameter, goal, units)
        if after == known.value:
            words = f"{name} is held at {there}: it is inside its band, so a change does not have to move it to the aim"
        else:
            words = f"{name} goes to {there}, as far as one change of the usual size brings it towards the aim"
        found.append(f"{words} of {aim}.")
    return found


def missing_for_a_change(system: System, present: Mapping[Parameter, Present], salt: bool) -> list[str]:
    """What must be known before a change can be planned. salt: whether there is one on the shelf."""
    missing = [FACTS[p].name for p in TARGETED if p not in present]
    return missing if salt or system.methods.natural_seawater else [*missing, "a salt on the Shelf"]


def check_first_change(system: System, ledger: Ledger, cycle: BreakingIn | None) -> None:
    """The first change of a new system waits for the proof that it is ready, and for nothing to live in it yet.
    Raises RuleError at `purpose`. cycle: None for a system that is not cycling."""
    if any(animal.count for animal in system.animals):
        raise RuleError(f"Animals live in {system.name}: choose another purpose.", field="purpose")
    if cycle is None and ledger.changes:
        raise RuleError(f"{system.name} had its first change already.", field="purpose")
    missing = missing_for_the_end(cycle) if cycle else ""
    if missing:
        raise RuleError(f"Not yet: {missing}", field="purpose")
