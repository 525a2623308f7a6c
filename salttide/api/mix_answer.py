"""A planned batch as shown: what goes in, what it will hold, its portions, and the salts it could be mixed from."""

from collections.abc import Mapping

from salttide.core.basics.measures import kilograms_words, litres_words
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import listed
from salttide.core.basics.working import Working
from salttide.core.planning.batch import BatchWorkOrder
from salttide.core.planning.batch_plan import Portion, batch_cautions
from salttide.core.science.amount import dose_text
from salttide.core.science.mix import SaltMix
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.salts import Ranked
from salttide.core.science.units import show, unit_of
from salttide.core.system.system import System
from salttide.household.mix import PlannedBatch, bucket_left, salts_for

from .change_tank import Figure, figure
from .context import Context
from .models import Caution, Model, caution_shown, plain, shown, weighed, working_shown


class PortionShown(Model):
    """How a portion is made up for pouring."""

    system_id: int
    name: str
    words: str


class RankedShown(Model):
    """A salt judged for what the batch is for: what had to be added to it, and what it has too much of."""

    name: str
    words: str
    chosen: bool


class HoldsRow(Model):
    """One parameter of the batch: what it will hold, and its target."""

    name: str
    unit: str
    label: str
    planned: str
    aim: str


class MixAnswer(Model):
    """The batch as planned."""

    summary: str
    figures: list[Figure]
    portions: list[PortionShown]
    rows: list[HoldsRow]
    ranking: list[RankedShown]
    cautions: list[Caution]
    stock: str
    filled: float
    headroom: str


def mix_answer(ctx: Context, planned: PlannedBatch, first: System) -> MixAnswer:
    """How a batch planned for a system, and perhaps others, is shown."""
    job = planned.job
    return MixAnswer(
        summary=_summary(ctx, job, planned.portions),
        figures=_figures(ctx, job, planned.working),
        portions=[PortionShown(system_id=p.system_id, name=p.name, words=_portion_words(p)) for p in planned.portions],
        rows=_rows(ctx, job, planned.targets),
        ranking=[_ranked(one, job) for one in salts_for(ctx.household, first, job.salinity)],
        cautions=[caution_shown(key) for key in batch_cautions(job)],
        stock=_stock(ctx, job),
        filled=job.filled(job.litres),
        headroom=phrase("mix_answer.l_stay_free_for_the_pump", litres=litres_words(job.room_l)),
    )


def stock_words(ctx: Context, salt: SaltMix) -> str:
    """What is left of the bucket in use; empty where none was opened."""
    left = bucket_left(ctx.household, salt)
    return left.words if left else ""


def _summary(ctx: Context, job: BatchWorkOrder, portions: tuple[Portion, ...]) -> str:
    for_whom = listed([portion.name for portion in portions])
    salinity = show(Parameter.SALINITY, job.salinity, ctx.keeper.units)
    return phrase(
        "mix_answer.l_at_for_in_l",
        litres=litres_words(job.litres),
        salinity=salinity,
        for_whom=for_whom,
        container_l=litres_words(job.container_l, 0),
    )


def _figures(ctx: Context, job: BatchWorkOrder, working: Mapping[str, Working]) -> list[Figure]:
    grams = weighed(job.mass_g)
    beside = phrase("mix_answer.about", spoons=job.spoons) if job.spoons else ""
    fresh = phrase("mix_answer.water_first", source_water=job.source_water)
    weighed_out = phrase("mix_answer.weighed", salt=job.salt.name, beside=beside)
    found = [
        figure("fresh", plain(job.fresh_l, 1, "L"), fresh, working["fresh"]),
        figure("mass", grams, weighed_out, working["mass"]),
    ]
    for formula, mass in job.doses.items():
        words = phrase("mix_answer.dissolved_on_its_own_ten_minutes")
        steps = working_shown(working.get(f"dose_{formula}", ()))
        found.append(Figure(key=formula, value=plain(mass, 1, "g"), words=f"{formula}, {words}", working=steps))
    warm = shown(Parameter.TEMPERATURE, job.temperature_c, ctx.keeper.units)
    found.append(Figure(key="warmth", value=warm, words=phrase("mix_answer.before_measuring_and_pouring"), working=[]))
    return found


def _portion_words(portion: Portion) -> str:
    if not portion.fresh_l:
        return phrase("mix_answer.l_as_it_is", litres=litres_words(portion.batch_l))
    return phrase(
        "mix_answer.l_of_the_batch_and_l", batch=litres_words(portion.batch_l), fresh=litres_words(portion.fresh_l)
    )


def _rows(ctx: Context, job: BatchWorkOrder, targets: Mapping[Parameter, float]) -> list[HoldsRow]:
    units, label = ctx.keeper.units, job.label_values
    rows = []
    for parameter in (Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.POTASSIUM):
        span = label.get(parameter)
        if span is None:
            continue
        low, high = (shown(parameter, end, units).text for end in (span.low, span.high))
        words = (
            phrase("mix_answer.at_least", low=low)
            if span.high == float("inf")
            else low
            if low == high
            else f"{low} to {high}"
        )
        planned = job.incoming.get(parameter)
        target = targets.get(parameter)
        rows.append(
            HoldsRow(
                name=FACTS[parameter].name,
                unit=unit_of(parameter, units).label,
                label=words,
                planned=shown(parameter, planned, units).text
                if planned is not None
                else phrase("mix_answer.measure_it"),
                aim=shown(parameter, target, units).text if target is not None else "",
            )
        )
    return rows


def _ranked(one: Ranked, job: BatchWorkOrder) -> RankedShown:
    parts = [f"{dose_text(mass, formula=formula)} {formula}" for formula, mass in one.additions_g.items()]
    words = phrase("mix_answer.needs_in_l", parts=listed(parts)) if parts else phrase("mix_answer.needs_nothing_added")
    if one.above:
        words += phrase("mix_answer.above_the_band_in", above=listed([FACTS[p].name.lower() for p in one.above]))
    if one.unknown:
        words += phrase(
            "mix_answer.its_label_gives_no_single_value", unknown=listed([FACTS[p].name.lower() for p in one.unknown])
        )
    return RankedShown(name=one.salt.name, words=words, chosen=one.salt.id == job.salt.id)


def _stock(ctx: Context, job: BatchWorkOrder) -> str:
    left = bucket_left(ctx.household, job.salt)
    if left is None:
        return phrase("mix_answer.open_a_bucket_of_on_the", salt=job.salt.name)
    if short_g := left.short_g(job.mass_g):
        return phrase("mix_answer.the_bucket_is_short_mix_less", short=kilograms_words(short_g))
    return f"{job.salt.name}: {left.words}."
