"""New water already at hand for a change: natural, stored, or from another system."""

from __future__ import annotations

from collections.abc import Mapping

from ..basics.errors import InputError, PlanError, check_range
from ..ledger.balance import Present
from ..science.parameters import FACTS, Parameter, Span
from ..science.salts import natural_seawater
from ..system.system import System
from .batch import BatchState
from .change_request import NewWater
from .work_order import Water

KNOWN_OF_THE_SEA = (
    Parameter.SALINITY, Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM,
    Parameter.STRONTIUM,
)  # fmt: skip
"""Parameters in constant proportion in the open sea; nutrients and traces are not."""
FREE_OF_NUTRIENTS = {Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0}
"""Levels of these in a fresh mix."""


def natural_water(salinity: float | None, alkalinity_meq_l: float | None) -> NewWater:
    """Natural seawater as measured (ppt, 20 to 42; meq/L, 1 to 6); unmeasured ions as in the sea of that salinity.
    Raises InputError, DomainError at `water_salinity` or `water_alkalinity`."""
    if salinity is None:
        raise InputError("measure its salinity", field="water_salinity", accepted="a number such as 34.5")
    check_range("salinity", salinity, "ppt", 20, 42, field="water_salinity")
    known = {p: value for p, value in natural_seawater(salinity).items() if p in KNOWN_OF_THE_SEA}
    if alkalinity_meq_l is not None:
        check_range("alkalinity", alkalinity_meq_l, "meq/L", 1, 6, field="water_alkalinity")
        known[Parameter.ALKALINITY] = alkalinity_meq_l
    return NewWater(Water.NATURAL, "natural seawater", _exactly(known))


def stored_water(batch_id: int, name: str, state: BatchState) -> NewWater:
    """The rest of a mixed batch. Raises InputError at `batch_id` for one not mixed, or used up."""
    if not state.usable:
        raise InputError(f"{name} is {state.phase.value}", field="batch_id", accepted="one that is mixed")
    holds = {p: value for p, value in state.holds.items() if FACTS[p].dissolved}
    return NewWater(Water.STORED, name, _exactly(holds | FREE_OF_NUTRIENTS), state.litres, batch_id=batch_id)


def water_of_system(other: System, present: Mapping[Parameter, Present]) -> NewWater:
    """Water taken out of another system. Raises PlanError at `source_id` where its salinity is not known."""
    if Parameter.SALINITY not in present:
        raise PlanError(f"Test the salinity of {other.name} first.", field="source_id")
    holds = {p: known.value for p, known in present.items() if FACTS[p].dissolved}
    return NewWater(Water.SYSTEM, f"water of {other.name}", _exactly(holds), source_id=other.id)


def _exactly(known: Mapping[Parameter, float]) -> dict[Parameter, Span]:
    return {parameter: Span(value, value) for parameter, value in known.items()}
