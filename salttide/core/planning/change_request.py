"""A keeper's request for a water change, and the new water it is made with."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from ..basics.errors import PlanError
from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..science.additives import AlkalinitySource
from ..science.mix import LABEL_SALINITY, NOT_IN_SALT, Batch, SaltMix, mix_batch
from ..science.parameters import Parameter, Span, spoken
from ..science.salt_calibration import bounded
from ..science.sizing import Bound, BoundKind
from ..system.system import System
from .work_order import Water


class Emergency(StrEnum):
    """Why a system that is still cycling would need a change."""

    AMMONIA = "ammonia"
    FAILED_GEAR = "failed_gear"
    POISON = "poison"


class Purpose(StrEnum):
    """What a change is for."""

    ROUTINE = "routine"
    BRING = "bring"
    SALINITY = "salinity"
    RESTORE = "restore"
    DILUTE = "dilute"
    FIRST = "first"
    NEAR_TOTAL = "near_total"


@dataclass(frozen=True)
class NewWater:
    """New water that is not mixed for the change: natural, stored, or from another system. holds: its composition as
    far as known, salinity always · litres: how much there is, None for enough.
    """

    kind: Water
    name: str
    holds: Mapping[Parameter, Span]
    litres: float | None = None
    batch_id: int = 0
    source_id: int = 0


@dataclass(frozen=True)
class ChangeRequest:
    """What the keeper wants: targets (None: leave it), size, salt, additive, first day and spacing in days.

    fraction: of each change, or the largest one where the purpose has an aim of its own · aim: the parameter the
    purpose brings to a level · left: the share (0..1) of a contamination that may remain · water: used in place of a
    mix · salt_left_g: left in the bucket, None where not known.
    """

    fraction: float
    salt: SaltMix | None
    source: AlkalinitySource
    start: date
    every_days: int
    salinity: float | None = None
    alkalinity_meq_l: float | None = None
    emergency: Emergency | None = None
    purpose: Purpose = Purpose.ROUTINE
    aim: tuple[Parameter, float] | None = None
    left: float | None = None
    water: NewWater | None = None
    salt_left_g: float | None = None

    @property
    def water_name(self) -> str:
        """The new water in a few words."""
        return self.water.name if self.water else self.salt.name if self.salt else "new water"


def level_of_new(request: ChangeRequest, parameter: Parameter, salinity: float) -> float:
    """The level of a parameter in the new water: for a mix, by its label and salinity. PlanError where it is not
    known."""
    if request.water is not None:
        known = request.water.holds.get(parameter)
        if known is None:
            raise PlanError(f"Measure {spoken(parameter)} of {request.water.name} first.", field="water")
        return known.middle
    if parameter in NOT_IN_SALT:
        return 0.0
    span = bounded(request.salt).values.get(parameter) if request.salt else None
    if span is None:
        message = f"{request.water_name} says nothing of {spoken(parameter)}: choose another water."
        raise PlanError(message, field="salt_id")
    return span.middle * salinity / LABEL_SALINITY


def water_for(request: ChangeRequest, litres: float, salinity: float) -> Batch:
    """A batch mixed for the change, or water that is already at hand."""
    if request.water is not None:
        holds: dict[Parameter, Span] = dict(request.water.holds)
        holds.pop(Parameter.SALINITY)
        return Batch(litres, salinity, 0.0, 0.0, holds, ())
    if request.salt is None:
        raise PlanError("Choose a salt, or water that is there.", field="salt_id")
    return mix_batch(bounded(request.salt), litres, salinity)


def cut_words(share: float) -> str:
    """The words for a change made smaller, with its size."""
    return f"Cut to {show_number(share * 100, 1)} %"


def of_what_is_there(
    system: System, state: Mapping[Parameter, float], water: NewWater, fraction: float
) -> tuple[float, tuple[str, ...], tuple[Bound, ...]]:
    """The change limited by the water at hand, which cannot be mixed again, and by salinity; with what cut it."""
    remarks: list[str] = []
    bounds: tuple[Bound, ...] = ()
    if water.litres is not None and water.litres < fraction * system.volume_l - 0.05:
        fraction = water.litres / system.volume_l
        bounds = (Bound(BoundKind.SUPPLY, water.litres),)
        remarks.append(f"{cut_words(fraction)}: there are {litres_words(water.litres)} of {water.name}.")
    gap = abs(water.holds[Parameter.SALINITY].middle - state[Parameter.SALINITY])
    if gap * fraction > system.limits.salinity + 1e-9:
        fraction = system.limits.salinity / gap
        bounds = (Bound(BoundKind.LIMIT, system.limits.salinity, Parameter.SALINITY),)
        remarks.append(
            f"{cut_words(fraction)}: the salinity of {water.name} is so far away that more would move it past the "
            "daily limit. Bring it nearer first, with salt or fresh water in its container."
        )
    return fraction, tuple(remarks), bounds
