"""A dose of something on the shelf, frozen for the rota."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from ..science.parameters import Parameter
from ..system.additive_amount import rises
from ..system.shelf import Additive
from ..system.system import System
from .work_order import DOSE, DOSE_MINUTES, DoseWorkOrder, PlannedWork, job_words


def dose_order(
    system: System,
    additive: Additive,
    mass_g: float,
    ml: float | None = None,
    before: Mapping[Parameter, float] | None = None,
    made_at: str = "",
    step: float = 0.0,
) -> DoseWorkOrder:
    """A dose of some grams of a compound; its effect follows from the formula. ml: for a solution · before, made_at,
    step: of a correction, as in its work order."""
    amounts = {p: rise * system.volume_l for p, rise in rises(additive, mass_g, system.volume_l).items()}
    return DoseWorkOrder(
        additive.name, mass_g, amounts, before=before or {}, made_at=made_at, step=step, ml=ml or 0.0,
        formula=additive.formula,
    )  # fmt: skip


def dose_work(day: date, order: DoseWorkOrder, parts: int = 1) -> PlannedWork:
    """A dose as work for the rota; parts: the number of times it is dosed in a day.

    >>> dose_work(date(2026, 11, 24), DoseWorkOrder("soda stock", 4.0, {}, ml=40.0), 2).name
    'Dose 40.0 mL soda stock in 2 parts'
    """
    name = f"Dose {job_words(order)}"
    return PlannedWork(day, DOSE, f"{name} in {parts} parts" if parts > 1 else name, DOSE_MINUTES, order)
