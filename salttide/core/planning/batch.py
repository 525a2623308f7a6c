"""The life of a batch of new water: planned, mixing, resting, matched, left over, used up. Its events are the record;
how much there is and what it holds follows from them, as with a system's ledger.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from enum import StrEnum
from math import ceil, floor, inf

from ..basics.errors import InputError, RuleError, check_range
from ..science.additives import COMPOUNDS, AlkalinitySource, effects
from ..science.mix import LABEL_SALINITY, MIXING_C, NOT_IN_SALT, SaltMix, scaled_with_salt
from ..science.parameters import FACTS, Parameter, Span
from ..science.salt_calibration import MeasuredBatch, bounded
from ..science.salts import RAISED_BY
from ..science.seawater import absolute_salinity, density_kg_l
from ..science.units import DKH_PER_MEQ_L, UnitChoice
from .change_step import MATCH_SALINITY

MIXING_MIN = 120.0
"""Wait from the last salt to the first measurement (judgement): a cloudy batch reads wrong."""
TIDE_MARK_L = 0.05
"""Less than this, in L, is what clings to a container."""
ORDER = (Parameter.MAGNESIUM, Parameter.POTASSIUM, Parameter.STRONTIUM, Parameter.CALCIUM, Parameter.ALKALINITY)
"""The order in which doses go into a batch."""


class Phase(StrEnum):
    """Where a batch stands in its life."""

    PLANNED = "planned"
    MIXING = "mixing"
    RESTING = "resting"
    MATCHED = "matched"
    LEFT_OVER = "left over"
    USED = "used up"
    THROWN = "thrown away"


class BatchKind(StrEnum):
    """What can happen to a batch."""

    SALTED = "salted"
    RESTING = "resting"
    MEASURED = "measured"
    SALT = "salt"
    FRESH = "fresh"
    DOSED = "dosed"
    OUT = "out"
    MATCHED = "matched"
    USED = "used"
    THROWN = "thrown"

    @property
    def weighed(self) -> bool:
        """Whether its amount is a mass in g; else it is a volume in L."""
        return self in (BatchKind.SALTED, BatchKind.SALT, BatchKind.DOSED)


@dataclass(frozen=True)
class BatchWorkOrder:
    """A batch as planned, frozen when it is saved: what goes in, and what it should hold (canonical units).

    doses: g by formula, in order · incoming: what it should hold after them · by_l: the vessel the fresh water is
    measured with · spoons: the salt's mass in scoops, beside the grams; empty where its density is not known.
    """

    batch_id: int
    name: str
    litres: float
    container_l: float
    by_l: float
    fresh_l: float
    salt: SaltMix
    mass_g: float
    salinity: float
    temperature_c: float
    source: AlkalinitySource
    doses: Mapping[str, float]
    incoming: Mapping[Parameter, float]
    units: UnitChoice = field(default_factory=dict)
    mixing_min: float = MIXING_MIN
    heated: bool = True
    heater_w: float = 0.0
    spoons: str = ""
    source_water: str = "purified"

    def filled(self, litres: float) -> float:
        """The share of its container (0..1) that a volume (L) fills."""
        return min(1.0, litres / self.container_l)

    @property
    def room_l(self) -> float:
        """Litres that stay free in the container."""
        return self.container_l - self.litres

    @property
    def label_values(self) -> dict[Parameter, Span]:
        """What the salt's label gives for water of this salinity (canonical)."""
        scale = self.salinity / LABEL_SALINITY
        return {p: Span(span.low * scale, span.high * scale) for p, span in self.salt.values.items()}


@dataclass(frozen=True)
class BatchEvent:
    """An event of a batch: litres or grams in `amount`, or measured values (canonical). system_id: where the water went
    · item: the formula of a dose, or a note.
    """

    at: datetime
    kind: BatchKind
    amount: float = 0.0
    values: Mapping[Parameter, float] = field(default_factory=dict)
    item: str = ""
    system_id: int = 0
    id: int = 0


MEASURED = (Parameter.SALINITY, Parameter.TEMPERATURE, *reversed(ORDER), Parameter.PH)
"""What is measured of a batch, in order."""


@dataclass(frozen=True)
class BatchState:
    """A batch as it is: phase, litres left, what it holds, salt in g so far, when it was mixed and measured.

    measured: values measured since anything last went in · dosed: the part of `holds` that came with doses, not the
    salt · pure: salt and fresh water as weighed, nothing else since.
    """

    phase: Phase
    litres: float = 0.0
    holds: Mapping[Parameter, float] = field(default_factory=dict)
    measured: frozenset[Parameter] = frozenset()
    dosed: Mapping[Parameter, float] = field(default_factory=dict)
    mass_g: float = 0.0
    mixed_at: datetime | None = None
    measured_at: datetime | None = None
    pure: bool = False

    @property
    def usable(self) -> bool:
        """Whether it holds mixed water."""
        return self.phase not in (Phase.PLANNED, Phase.USED, Phase.THROWN)


def raising(parameter: Parameter, source: AlkalinitySource) -> str:
    """The formula that raises a parameter in a batch: for alkalinity, the keeper's choice."""
    return COMPOUNDS[source].formula if parameter == Parameter.ALKALINITY else RAISED_BY[parameter]


def batch_state(job: BatchWorkOrder, events: Sequence[BatchEvent]) -> BatchState:
    """Fold the events, in order of time, into the state of the batch; an event not saved yet comes last."""
    state = BatchState(Phase.PLANNED)
    for event in sorted(events, key=lambda event: (event.at, event.id or inf)):
        state = _then(job, state, event)
    return state


def _then(job: BatchWorkOrder, state: BatchState, event: BatchEvent) -> BatchState:
    pure = state.pure and event.kind in (BatchKind.RESTING, BatchKind.MEASURED, BatchKind.MATCHED)
    state = replace(state, pure=pure)
    match event.kind:
        case BatchKind.SALTED:
            return _salted(job, event)
        case BatchKind.RESTING:
            return replace(state, phase=Phase.RESTING)
        case BatchKind.MATCHED:
            return replace(state, phase=Phase.MATCHED)
        case BatchKind.MEASURED:
            return _measured(job, state, event)
        case BatchKind.OUT | BatchKind.USED | BatchKind.THROWN:
            return _less(state, event)
    return _added(job, state, event)


def _measured(job: BatchWorkOrder, state: BatchState, event: BatchEvent) -> BatchState:
    """Measured values count; a batch that had matched and measures otherwise no longer does."""
    measured = frozenset(state.measured | set(event.values))
    off = abs(event.values.get(Parameter.SALINITY, job.salinity) - job.salinity) > MATCH_SALINITY
    phase = Phase.RESTING if off and state.phase == Phase.MATCHED else state.phase
    holds = {**_by_its_salinity(state, event), **event.values}
    return replace(state, holds=holds, measured=measured, measured_at=event.at, phase=phase)


def _by_its_salinity(state: BatchState, event: BatchEvent) -> dict[Parameter, float]:
    """What was not measured follows the measured salinity: all that came with the salt scales with it, doses do not."""
    was, now = state.holds.get(Parameter.SALINITY), event.values.get(Parameter.SALINITY)
    if not was or now is None:
        return dict(state.holds)
    return {
        p: value if p in state.measured else _with_salinity(state, p, now / was) for p, value in state.holds.items()
    }


def _with_salinity(state: BatchState, parameter: Parameter, share: float) -> float:
    """What the batch holds of a parameter once its salinity is `share` of what it was."""
    value = state.holds[parameter]
    if parameter in NOT_IN_SALT or not FACTS[parameter].dissolved:
        return value
    return scaled_with_salt(value, share, state.dosed.get(parameter, 0.0))


def _salted(job: BatchWorkOrder, event: BatchEvent) -> BatchState:
    """All the salt is in: as planned, or another mass, whose strength the first measurement will show."""
    share = event.amount / job.mass_g
    salinity = job.salinity * share
    holds = {p: value * share for p, value in undosed(job).items()}
    held = {**holds, Parameter.SALINITY: salinity}
    return BatchState(Phase.MIXING, job.litres, held, mass_g=event.amount, mixed_at=event.at, pure=True)


def undosed(job: BatchWorkOrder) -> dict[Parameter, float]:
    """What came with the salt alone."""
    scale = job.salinity / LABEL_SALINITY
    return {p: span.middle * scale for p, span in bounded(job.salt).values.items()}


def _less(state: BatchState, event: BatchEvent) -> BatchState:
    left = max(0.0, state.litres - event.amount)
    if event.kind == BatchKind.THROWN:
        return replace(state, litres=left, phase=Phase.THROWN if left <= TIDE_MARK_L else state.phase)
    if event.kind == BatchKind.OUT:
        return replace(state, litres=left)
    return replace(state, litres=left, phase=Phase.USED if left <= TIDE_MARK_L else Phase.LEFT_OVER)


def _added(job: BatchWorkOrder, state: BatchState, event: BatchEvent) -> BatchState:
    """Salt (g), fresh water (L) or a dose (g of a formula) was stirred in: the batch has to be measured again."""
    phase = Phase.RESTING if state.phase == Phase.MATCHED else state.phase
    if event.kind == BatchKind.FRESH:
        grown = state.litres + event.amount
        share = state.litres / grown
        holds = {p: value * share if FACTS[p].dissolved else value for p, value in state.holds.items()}
        dosed = {p: value * share for p, value in state.dosed.items()}
        return replace(state, litres=grown, holds=holds, dosed=dosed, measured=frozenset(), phase=phase)
    if event.kind == BatchKind.DOSED:
        raised = effects(event.item, event.amount, state.litres)
        holds = {
            p: value + float(raised.get(p, 0.0)) if p != Parameter.SALINITY else value
            for p, value in state.holds.items()
        }
        dosed = {p: state.dosed.get(p, 0.0) + float(raised.get(p, 0.0)) for p in {*state.dosed, *raised}}
        return replace(state, holds=holds, dosed=dosed, measured=state.measured - set(raised), phase=phase)
    salinity, litres = _strengthened(state, event.amount, job.salt.sea_salt)
    was, mass = state.holds.get(Parameter.SALINITY, 0.0), state.mass_g + event.amount
    holds = {p: _with_salinity(state, p, salinity / was) for p in state.holds} if was else {}
    holds[Parameter.SALINITY] = salinity
    return replace(state, litres=litres, holds=holds, measured=frozenset(), mass_g=mass, phase=phase)


def _strengthened(state: BatchState, mass_g: float, sea_salt: float) -> tuple[float, float]:
    """Salinity and litres after some salt dissolved: (ρ·V·S_R + y·m) over (ρ·V + m)."""
    before = state.holds.get(Parameter.SALINITY, 0.0)
    water_kg = state.litres * density_kg_l(before, MIXING_C)
    dissolved = (water_kg * absolute_salinity(before) + sea_salt * mass_g) / (water_kg + mass_g / 1000)
    salinity = dissolved * LABEL_SALINITY / absolute_salinity(LABEL_SALINITY)
    return salinity, (water_kg + mass_g / 1000) / density_kg_l(salinity, MIXING_C)


_KEEPS = ((8.0, 28), (9.0, 14), (10.0, 7), (11.0, 3), (inf, 1))
"""(dKH, days): up to that alkalinity a covered batch keeps that long (judgement); the more alkaline, the sooner it
precipitates."""


def keeps_days(alkalinity_meq_l: float, temperature_c: float = MIXING_C) -> int:
    """Days a covered batch keeps, by its alkalinity (0 to 20 meq/L); a warm one (from 27 °C) half as long.

    Raises DomainError, also for a temperature outside 0 to 45 °C.

    >>> keeps_days(2.85), keeps_days(3.4), keeps_days(3.4, 28.0)
    (28, 7, 3)
    """
    dkh = check_range("alkalinity", alkalinity_meq_l, "meq/L", 0, 20) * DKH_PER_MEQ_L
    check_range("temperature", temperature_c, "°C", 0, 45)
    days = next(days for bound, days in _KEEPS if dkh <= bound)
    return days if temperature_c < WARM_C else max(1, days // 2)


WARM_C = 27.0
UNKNOWN_MEQ_L = 9.0 / DKH_PER_MEQ_L
"""The alkalinity assumed of a batch where it is not known."""


def keeps_of(holds: Mapping[Parameter, float]) -> int:
    """Days a batch keeps, by what it holds."""
    return keeps_days(holds.get(Parameter.ALKALINITY, UNKNOWN_MEQ_L), holds.get(Parameter.TEMPERATURE, MIXING_C))


def age_words(state: BatchState, now: datetime) -> tuple[str, bool]:
    """How old a batch is and how long it keeps, and whether it has stood too long to be used unmeasured."""
    if state.mixed_at is None or not state.usable:
        return "", False
    days = (now - state.mixed_at) / timedelta(days=1)
    keeps = keeps_of(state.holds)
    age = f"mixed {int(days)} d ago" if days >= 1 else f"mixed {int(days * 24)} h ago"
    if days <= keeps:
        return f"{age}, keeps about {keeps} d covered and moving", False
    return f"{age}, past the {keeps} d it keeps: look for a white film, and measure alkalinity again", True


def check_event(job: BatchWorkOrder, state: BatchState, kind: BatchKind, amount: float, item: str = "") -> None:
    """Refuse an event that cannot happen to the batch now: RuleError, or DomainError and InputError at `amount`,
    `item`."""
    if kind == BatchKind.SALTED:
        if state.phase != Phase.PLANNED:
            raise RuleError("The salt is in already.", field="kind")
        check_range("salt", amount, "g", floor(0.5 * job.mass_g), ceil(1.5 * job.mass_g), field="amount")
        return
    if not state.usable:
        measured = "has no salt in it yet" if state.phase == Phase.PLANNED else f"is {state.phase.value}"
        raise RuleError(f"This batch {measured}.", field="kind")
    if kind in (BatchKind.OUT, BatchKind.USED, BatchKind.THROWN):
        check_range("litres", amount, "L", 0.05, round(state.litres + 0.05, 2), field="amount")
    elif kind == BatchKind.FRESH:
        check_range(
            "fresh water", amount, "L", 0.05, max(0.05, round(job.container_l - state.litres, 2)), field="amount"
        )
    elif kind == BatchKind.SALT:
        check_range("salt", amount, "g", 0.5, 10 * state.litres, field="amount")
    elif kind == BatchKind.DOSED:
        if item not in {raising(p, s) for p in ORDER for s in AlkalinitySource}:
            raise InputError(f"“{item}” does not go into a batch", field="item", accepted="a compound by its formula")
        check_range("dose", amount, "g", 0.05, 5 * state.litres, field="amount")


def lesson(state: BatchState, event: BatchEvent) -> MeasuredBatch | None:
    """What a batch shows of its salt: its measurement as mixed from salt and water alone, taken once something else
    happens to it. None where its salinity was not measured, or it had been corrected already.
    """
    quiet = event.kind in (BatchKind.RESTING, BatchKind.MEASURED, BatchKind.SALTED)
    if quiet or not state.pure or Parameter.SALINITY not in state.measured:
        return None
    held = {p: state.holds[p] for p in state.measured if p in ORDER}
    return MeasuredBatch(state.holds[Parameter.SALINITY], held, state.mass_g, state.litres)
