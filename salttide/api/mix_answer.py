"""How a planned batch is shown: what goes in, what it will hold, how it is shared, and the salts it could be of."""

from collections.abc import Mapping

from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import listed
from salttide.core.basics.working import Working
from salttide.core.ledger.stock import salt_a_week_g, salt_left
from salttide.core.planning.batch import BatchWorkOrder
from salttide.core.planning.batch_plan import Portion
from salttide.core.planning.change import ELEVATED_ALKALINITY_MEQ_L
from salttide.core.planning.work_order import routine_change
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.amount import dose_text
from salttide.core.science.mix import LABEL_SALINITY
from salttide.core.science.parameters import FACTS, Parameter, Span
from salttide.core.science.salts import Ranked, rank_salts
from salttide.core.science.units import show, unit_of
from salttide.store import batch as batch_store
from salttide.store import shelf

from .change_tank import Figure
from .context import Context
from .models import Caution, Model, caution_shown, plain, shown, working_shown


class PortionShown(Model):
    """How a portion is made up when it is poured."""

    system_id: int
    name: str
    words: str


class RankedShown(Model):
    """A salt judged for what the batch is for: what had to be added to it, and what it has too much of."""

    name: str
    words: str
    chosen: bool


class HoldsRow(Model):
    """What the batch will hold of a parameter, and what it is aimed at."""

    name: str
    unit: str
    label: str
    planned: str
    aim: str


class MixAnswer(Model):
    """The batch as it would be made."""

    summary: str
    figures: list[Figure]
    portions: list[PortionShown]
    rows: list[HoldsRow]
    ranking: list[RankedShown]
    cautions: list[Caution]
    stock: str
    filled: float
    headroom: str


def mix_answer(
    ctx: Context,
    job: BatchWorkOrder,
    portions: tuple[Portion, ...],
    working: Mapping[str, Working],
    targets: Mapping[Parameter, float],
    bands: Mapping[Parameter, Span],
) -> MixAnswer:
    """How a planned batch is shown."""
    salts = ctx.stored.salts
    cautions = ["weight", "salt_in_system"]
    cautions += ["caustic"] if job.doses and job.source == AlkalinitySource.SODA_ASH else []
    cautions += ["heats"] if any("Cl2" in formula for formula in job.doses) else []
    cautions += ["precipitation"] if job.incoming.get(Parameter.ALKALINITY, 0.0) > ELEVATED_ALKALINITY_MEQ_L else []
    return MixAnswer(
        summary=_summary(ctx, job, portions),
        figures=_figures(ctx, job, working),
        portions=[PortionShown(system_id=p.system_id, name=p.name, words=_portion_words(p)) for p in portions],
        rows=_rows(ctx, job, targets),
        ranking=[_ranked(ctx, one, job) for one in rank_salts(salts, bands, job.salinity)] if bands else [],
        cautions=[caution_shown(key) for key in cautions],
        stock=_stock(ctx, job),
        filled=job.litres / job.container_l,
        headroom=f"{show_number(job.container_l - job.litres, 1)} L stay free for the pump's waves and for corrections",
    )


def stock_words(ctx: Context, salt_id: int) -> str:
    """What is left of the bucket in use; empty where none was opened."""
    opened = shelf.buckets(ctx.connection, salt_id)
    if not opened:
        return ""
    salt = shelf.salt(ctx.connection, salt_id)
    told = ctx.household.each(lambda system: (routine_change(system, salt, ctx.now), system))
    routine = [
        (change, system.schools.change_every_days)
        for change, system in told.values()
        if not system.schools.answers.get("new_water", "").startswith("natural")
    ]
    week = (
        salt_a_week_g(salt, routine)
        if ctx.stored.usual_salt is not None and salt_id == ctx.stored.usual_salt.id
        else 0.0
    )
    used = batch_store.salt_used_g(ctx.connection, salt_id, opened[0].opened_on)
    return salt_left(opened[0].mass_g, used, week, ctx.today).words


def _summary(ctx: Context, job: BatchWorkOrder, portions: tuple[Portion, ...]) -> str:
    for_whom = listed([portion.name for portion in portions])
    salinity = show(Parameter.SALINITY, job.salinity, ctx.keeper.units)
    return f"{show_number(job.litres, 1)} L at {salinity} for {for_whom}, in {show_number(job.container_l, 0)} L."


def _figures(ctx: Context, job: BatchWorkOrder, working: Mapping[str, Working]) -> list[Figure]:
    grams = plain(job.mass_g / 1000, 3, "kg") if job.mass_g >= 1000 else plain(job.mass_g, 0, "g")
    beside = f"; a guess by the spoon: {job.spoons}" if job.spoons else ""
    found = [
        Figure(
            key="fresh", value=plain(job.fresh_l, 1, "L"), words=f"{job.source_water} water, first",
            working=working_shown(working["fresh"]),
        ),
        Figure(
            key="mass", value=grams, words=f"{job.salt.name}, weighed{beside}", working=working_shown(working["mass"])
        ),
    ]  # fmt: skip
    for formula, mass in job.doses.items():
        words = "dissolved on its own, ten minutes after the last"
        steps = working_shown(working.get(f"dose_{formula}", ()))
        found.append(Figure(key=formula, value=plain(mass, 1, "g"), words=f"{formula}, {words}", working=steps))
    warm = shown(Parameter.TEMPERATURE, job.temperature_c, ctx.keeper.units)
    found.append(Figure(key="warmth", value=warm, words="before it is measured and poured", working=[]))
    return found


def _portion_words(portion: Portion) -> str:
    if not portion.fresh_l:
        return f"{show_number(portion.batch_l, 1)} L as it is"
    return (
        f"{show_number(portion.batch_l, 1)} L of the batch and {show_number(portion.fresh_l, 1)} L fresh water, "
        f"stirred together before they go in"
    )


def _rows(ctx: Context, job: BatchWorkOrder, targets: Mapping[Parameter, float]) -> list[HoldsRow]:
    units, scale = ctx.keeper.units, job.salinity / LABEL_SALINITY
    rows = []
    for parameter in (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM):
        span = job.salt.values.get(parameter)
        if span is None:
            continue
        low, high = (shown(parameter, end * scale, units).text for end in (span.low, span.high))
        label = f"at least {low}" if span.high == float("inf") else low if low == high else f"{low} to {high}"
        planned = job.incoming.get(parameter)
        target = targets.get(parameter)
        rows.append(
            HoldsRow(
                name=FACTS[parameter].name,
                unit=unit_of(parameter, units).label,
                label=label,
                planned=shown(parameter, planned, units).text if planned is not None else "measure it",
                aim=shown(parameter, target, units).text if target is not None else "",
            )
        )
    return rows


def _ranked(ctx: Context, one: Ranked, job: BatchWorkOrder) -> RankedShown:
    parts = [f"{dose_text(mass, formula=formula)} {formula}" for formula, mass in one.additions_g.items()]
    words = f"wants {listed(parts)} in 100 L" if parts else "wants nothing added"
    if one.above:
        words += f"; above the band in {listed([FACTS[p].name.lower() for p in one.above])}"
    if one.unknown:
        words += f"; says no single value of {listed([FACTS[p].name.lower() for p in one.unknown])}"
    return RankedShown(name=one.salt.name, words=words, chosen=one.salt.id == job.salt.id)


def _stock(ctx: Context, job: BatchWorkOrder) -> str:
    opened = shelf.buckets(ctx.connection, job.salt.id)
    if not opened:
        return f"Open a bucket of {job.salt.name} on the Shelf to see what is left of it."
    used = batch_store.salt_used_g(ctx.connection, job.salt.id, opened[0].opened_on)
    left = opened[0].mass_g - used
    if left < job.mass_g:
        short = show_number((job.mass_g - max(0.0, left)) / 1000, 2)
        return f"The bucket runs out: {short} kg are missing. Less water, or another bucket."
    return f"{job.salt.name}: {stock_words(ctx, job.salt.id)}."
