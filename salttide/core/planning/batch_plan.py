"""Planning a batch: salt, fresh water and doses, within its container; one batch for several systems."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..basics.errors import DomainError, PlanError, check_range
from ..basics.measures import litres_words, weight_words
from ..basics.phrasing import listed
from ..basics.working import Working
from ..science.additives import AlkalinitySource, dose_mass_g
from ..science.amount import dose_text
from ..science.mix import MIXING_C, SaltMix, mix_batch
from ..science.parameters import Parameter
from ..science.salt_calibration import bounded
from ..science.units import UnitChoice, show
from .batch import ORDER, BatchWorkOrder, keeps_of, raising
from .change import ELEVATED_ALKALINITY_MEQ_L
from .change_step import MATCH_SALINITY

HEADROOM_SHARE, MIN_HEADROOM_L = 0.05, 1.0
"""The headroom of a container, for the pump's waves and for corrections (judgement)."""


def headroom_l(container_l: float) -> float:
    """The headroom of a container (1 to 10 000 L): a twentieth, at least one litre.

    >>> headroom_l(60.0), headroom_l(10.0)
    (3.0, 1.0)
    """
    return max(
        MIN_HEADROOM_L, HEADROOM_SHARE * check_range("container", container_l, "L", 1, 10_000, field="container_l")
    )


MATCHED_IONS = (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM)
"""Parameters a batch is matched to its systems in, by doses for what its salt lacks."""
USUAL_CONTAINERS_L = (20.0, 30.0, 60.0, 100.0, 200.0)


def container_for(litres: float, last_l: float | None = None) -> float:
    """A container (L) for so many litres with its headroom: the one used last, else the next of the usual sizes.

    >>> container_for(40.0, 60.0), container_for(58.0, 60.0), container_for(500.0)
    (60.0, 100.0, 200.0)
    """
    sizes = ([last_l] if last_l else []) + [*USUAL_CONTAINERS_L]
    return next((size for size in sizes if size - headroom_l(size) >= litres), USUAL_CONTAINERS_L[-1])


def plan_batch(
    salt: SaltMix,
    litres: float,
    container_l: float,
    salinity: float,
    targets: Mapping[Parameter, float] | None = None,
    source: AlkalinitySource = AlkalinitySource.SODA_ASH,
    temperature_c: float = MIXING_C,
    units: UnitChoice | None = None,
) -> tuple[BatchWorkOrder, Mapping[str, Working]]:
    """A batch of finished water (0.5 L to what the container holds) at a salinity, brought up to `targets` by doses.

    What the salt gives above a target stays: nothing takes it out. A parameter the label does not state is not dosed.
    Also returns the working of every number. Raises DomainError at `litres` where the container is too small.

    >>> from ..science.mix import StrengthBasis
    >>> from ..science.parameters import Span
    >>> salt = SaltMix(1, "example", 37.1, StrengthBasis.FINISHED_WATER, {Parameter.CALCIUM: Span(400, 400)})
    >>> job, _ = plan_batch(salt, 45.0, 60.0, 35.0, {Parameter.CALCIUM: 420.0})
    >>> round(job.mass_g, 1), {formula: round(mass, 2) for formula, mass in job.doses.items()}
    (1669.5, {'CaCl2·2H2O': 3.3})
    """
    most = container_l - headroom_l(container_l)
    if not 0.5 <= litres <= most:
        raise DomainError("batch in this container", litres, "L", 0.5, round(most, 1), field="litres")
    made = mix_batch(bounded(salt), litres, salinity)
    holds = {parameter: span.middle for parameter, span in made.holds.items()}
    doses, working = _doses(holds, targets or {}, source, litres)
    holds |= {p: max(holds[p], target) for p, target in (targets or {}).items() if p in holds}
    holds |= {Parameter.SALINITY: salinity, Parameter.NITRATE: 0.0, Parameter.PHOSPHATE: 0.0}
    job = BatchWorkOrder(
        0, "", litres, container_l, 15.0, made.fresh_water_l, salt, made.mass_g, salinity, temperature_c, source, doses,
        holds, units or {},
    )  # fmt: skip
    return job, {"mass": made.working[:-2], "fresh": made.working[-3:], **working}


_ENOUGH = {Parameter.ALKALINITY: 0.02, Parameter.CALCIUM: 2.0, Parameter.MAGNESIUM: 5.0, Parameter.POTASSIUM: 2.0}
"""Differences no kit can show: not worth a dose."""


def _doses(
    holds: Mapping[Parameter, float], targets: Mapping[Parameter, float], source: AlkalinitySource, litres: float
) -> tuple[dict[str, float], dict[str, Working]]:
    doses, working = dict[str, float](), dict[str, Working]()
    for parameter in ORDER:
        if parameter not in targets or parameter not in holds:
            continue
        lacking = targets[parameter] - holds[parameter]
        if lacking > _ENOUGH.get(parameter, 0.5):
            formula = raising(parameter, source)
            mass = dose_mass_g(formula, parameter, lacking, litres)
            doses[formula], working[f"dose_{formula}"] = float(mass), mass.working
    return doses, working


def batch_cautions(job: BatchWorkOrder) -> list[str]:
    """The cautions that go with mixing a batch, by key."""
    keys = ["weight", "salt_in_system"]
    keys += ["caustic"] if job.doses and job.source == AlkalinitySource.SODA_ASH else []
    keys += ["heats"] if any("Cl2" in formula for formula in job.doses) else []
    keys += ["precipitation"] if job.incoming.get(Parameter.ALKALINITY, 0.0) > ELEVATED_ALKALINITY_MEQ_L else []
    return keys


def batch_slots(job: BatchWorkOrder) -> dict[str, str]:
    """The values for the slots of the runbook's texts."""
    alkalinity = job.incoming.get(Parameter.ALKALINITY)
    grams = weight_words(job.mass_g, 3)
    return {
        "litres": litres_words(job.litres),
        "fresh": litres_words(job.fresh_l),
        "container": litres_words(job.container_l, 0),
        "headroom": litres_words(job.container_l - job.litres),
        "salt": job.salt.name,
        "mass": grams,
        "spoons": f" ({job.spoons})" if job.spoons else "",
        "salinity": show(Parameter.SALINITY, job.salinity, job.units),
        "temperature": show(Parameter.TEMPERATURE, job.temperature_c, job.units),
        "alkalinity": show(Parameter.ALKALINITY, alkalinity, job.units) if alkalinity is not None else "not known",
        "source_water": job.source_water,
        "heat": "Heater in, under water all over, then on" if job.heated else "Let it come to the room's warmth",
        "keeps": f"{keeps_of({**job.incoming, Parameter.TEMPERATURE: job.temperature_c})} days",
        "doses": listed([f"{dose_text(mass, formula=formula)} {formula}" for formula, mass in job.doses.items()])
        or "nothing",
    }


@dataclass(frozen=True)
class Portion:
    """One system's portion of a shared batch: litres of finished water at its own salinity; the movement it tolerates.
    batch_l and fresh_l: how it is made up for pouring.
    """

    system_id: int
    name: str
    litres: float
    salinity: float
    fraction: float
    batch_l: float = 0.0
    fresh_l: float = 0.0
    step_id: int = 0

    @property
    def batch_share(self) -> float:
        """The share of what is poured that comes from the batch; the rest is fresh water."""
        return self.batch_l / self.litres


def share_batch(portions: Sequence[Portion]) -> tuple[float, tuple[Portion, ...]]:
    """The salinity of one batch for several systems, and how each portion is made up from it.

    Mixed for the saltiest; a portion that would move its system by more than the gate allows is thinned with fresh
    water as it is poured. Raises PlanError without a portion.

    >>> salinity, made = share_batch([Portion(1, "A", 40, 35.0, 0.1), Portion(2, "B", 20, 33.6, 0.25)])
    >>> salinity, made[0].fresh_l, round(made[1].batch_l, 2), round(made[1].fresh_l, 2)
    (35.0, 0.0, 19.2, 0.8)
    """
    if not portions:
        raise PlanError("Choose what the batch is for.", field="portions")
    salinity = max(portion.salinity for portion in portions)
    return salinity, tuple(_thinned(portion, salinity) for portion in portions)


def _thinned(portion: Portion, salinity: float) -> Portion:
    if (salinity - portion.salinity) * portion.fraction <= MATCH_SALINITY / 2:
        return replace(portion, batch_l=portion.litres, fresh_l=0.0)
    batch = portion.litres * portion.salinity / salinity
    return replace(portion, batch_l=batch, fresh_l=portion.litres - batch)
