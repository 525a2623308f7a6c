"""What a batch is asked for: changes that need new water, and the values it should have for them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..basics.errors import check_range
from ..basics.phrases import phrase
from ..basics.refused import refused
from ..ledger.balance import Present
from ..science.additives import AlkalinitySource
from ..science.mix import LABEL_SALINITY
from ..science.parameters import Parameter
from ..system.system import System
from .batch_plan import Portion
from .change import level_after
from .work_order import ChangeWorkOrder, Water

AHEAD_DAYS = 14
"""Changes are offered for that many days ahead."""


@dataclass(frozen=True)
class PortionRequest:
    """What one system takes: litres, salinity, and its planned step; 0 for none."""

    system: System
    litres: float
    salinity: float
    step_id: int = 0


@dataclass(frozen=True)
class BatchRequest:
    """A requested batch. match: the parameters that doses bring to the systems' own values · mixing_h: hours before it
    is measured · heater_w: 0 for none."""

    salt_id: int
    container_l: float
    portions: Sequence[PortionRequest]
    source: AlkalinitySource = AlkalinitySource.SODA_ASH
    match: Sequence[Parameter] = ()
    heater_w: float = 0.0
    mixing_h: float = 2.0


@dataclass(frozen=True)
class WantedWater:
    """A coming change that needs new water: litres, its salinity, and whether salt goes into it."""

    system: System
    litres: float
    salinity: float
    takes_salt: bool
    step_id: int = 0


def check_request(request: BatchRequest) -> list[Portion]:
    """The portions of a request before they are shared. Raises DomainError or InputError at its field."""
    check_range("heater", request.heater_w, "W", 0, 2000, field="heater_w")
    check_range(phrase("mix.mixing_time"), request.mixing_h, "h", 0.1, 48, field="mixing_h")
    if not request.portions:
        raise refused("mix.choose_what_the_batch_is_for", "portions", "mix.one_system_or_more")
    return [_portion(one, number) for number, one in enumerate(request.portions)]


def _portion(one: PortionRequest, number: int) -> Portion:
    system, place = one.system, f"portions.{number}"
    check_range("litres", one.litres, "L", 0.5, system.volume_l, field=f"{place}.litres")
    check_range("salinity", one.salinity, "ppt", 15, 42, field=f"{place}.salinity")
    return Portion(
        system.id, system.name, one.litres, one.salinity, system.share_of(one.litres), step_id=one.step_id
    )  # fmt: skip


def wanted_by_step(system: System, step_id: int, job: ChangeWorkOrder) -> WantedWater | None:
    """The new water of a planned change; None where it has it already."""
    if job.water in (Water.STORED, Water.SYSTEM) or not job.litres:
        return None
    return WantedWater(system, job.litres, job.incoming[Parameter.SALINITY], job.water == Water.MIX, step_id)


def wanted_by_routine(system: System, present: Mapping[Parameter, Present]) -> WantedWater | None:
    """The new water of a routine change, at the salinity it would aim at; None for natural seawater."""
    if system.methods.natural_seawater:
        return None
    known = present.get(Parameter.SALINITY)
    target = level_after(system, known, Parameter.SALINITY) if known else None
    return WantedWater(system, system.change_l, target or LABEL_SALINITY, True)


def batch_temperature(system: System, water: Mapping[Parameter, float]) -> float:
    """The temperature of a batch (°C): that of the system it is for, kept within its band."""
    band, now = system.bands.get(Parameter.TEMPERATURE), water.get(Parameter.TEMPERATURE)
    if now is None:
        return band.middle if band else 25.0
    return band.nearest(now) if band else now


Matched = tuple[System, Mapping[Parameter, Present], ChangeWorkOrder | None]
"""A system that a batch is matched to: its present water, and the planned change it is for."""


def batch_targets(match: Sequence[Parameter], systems: Iterable[Matched]) -> dict[Parameter, float]:
    """The targets of a batch: the lowest of any of its systems, as nothing takes an ion out again. A planned change
    says the alkalinity of its new water."""
    targets: dict[Parameter, float] = {}
    for system, present, job in systems:
        for parameter in match:
            known = present.get(parameter)
            target = job.incoming.get(parameter) if job and parameter == Parameter.ALKALINITY else None
            if target is None and known is not None:
                target = level_after(system, known, parameter)
            if target is not None:
                targets[parameter] = min(target, targets.get(parameter, target))
    return targets
