"""Instruments on the shelf: scatter, value of a drop, and checks against standards."""

from collections.abc import Sequence
from datetime import date, datetime

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import typed_day
from salttide.core.basics.errors import DomainError, NotFoundError, at_field
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import counted, date_words, moment_words
from salttide.core.basics.refused import refused
from salttide.core.estimate.confidence import InstrumentRecord, above_words, check_due, instrument_record
from salttide.core.estimate.rate import Rate
from salttide.core.ledger.bench_row import Instrument
from salttide.core.science.instruments import instrument_line
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import (
    difference_canonical,
    difference_shown,
    show,
    show_difference,
    unit_of,
)
from salttide.store import instrument as instrument_store

from .context import Context, In, Key
from .models import Id, Model, Recorded, RequestModel, name_of

router = APIRouter(prefix="/api/instruments", tags=["instruments"])


class CheckShown(Model):
    """One check against a standard."""

    id: int
    day: str
    standard: str
    reading: str


class InstrumentShown(Model):
    """An instrument, in the keeper's unit. `line`: how its checks correct a reading; `seen`: what it did by its own
    readings; `check`: when it was last checked and whether that is due."""

    name: str
    parameter: str
    parameter_name: str
    unit: str
    scatter: str
    counts: str
    line: str
    reagent: str
    expired: bool
    seen: str
    check: str
    check_due: bool
    checks: list[CheckShown]


class ParameterChoice(Model):
    """What can be measured, with the keeper's unit and a common scatter in it."""

    key: str
    name: str
    unit: str
    scatter: float


class Instruments(Model):
    """All instruments, and what a new one could measure."""

    instruments: list[InstrumentShown]
    parameters: list[ParameterChoice]


class InstrumentBody(RequestModel):
    """A new instrument; scatter and the value of one drop in the keeper's unit."""

    name: str = Field(min_length=1, max_length=60)
    parameter: Parameter
    scatter: float
    per_count: float = 0


class CheckBody(RequestModel):
    """A check as typed, in the keeper's unit or with a unit of its own."""

    name: str = Field(max_length=60)
    parameter: Parameter
    standard: str = Field(max_length=40)
    reading: str = Field(max_length=40)


class ReagentBody(RequestModel):
    """A newly opened reagent or buffer of an instrument, and the day it is to be used up by."""

    name: str = Field(max_length=60)
    parameter: Parameter
    expires_on: str
    lot: str = Field(default="", max_length=40)


class NamedBody(RequestModel):
    """One instrument."""

    name: str = Field(max_length=60)
    parameter: Parameter


@router.get("")
def instruments(ctx: In) -> Instruments:
    """The instruments on the shelf."""
    rates = ctx.household.rates_by_parameter({item.parameter for item in ctx.stored.instruments})
    return Instruments(
        instruments=[_shown(ctx, item, rates.get(item.parameter, [])) for item in ctx.stored.instruments],
        parameters=[
            ParameterChoice(
                key=parameter,
                name=name_of(parameter),
                unit=unit_of(parameter, ctx.keeper.units).label,
                scatter=float(f"{difference_shown(parameter, FACTS[parameter].sd, ctx.keeper.units):.2g}"),
            )
            for parameter in Parameter
        ],
    )


def _shown(ctx: Context, item: Instrument, rates: Sequence[Rate]) -> InstrumentShown:
    parameter, units = item.parameter, ctx.keeper.units
    around = FACTS[parameter].likely.middle
    kept = instrument_store.checks(ctx.connection, item.name, parameter)
    record, checked = instrument_record(item.name, rates), max((check.at for check in kept), default=None)
    due = check_due(record, checked, ctx.now)
    used = next(iter(instrument_store.reagents(ctx.connection, item.name, parameter)), None)
    return InstrumentShown(
        name=item.name,
        parameter=parameter,
        parameter_name=name_of(parameter),
        unit=unit_of(parameter, units).label,
        scatter=f"± {show_difference(parameter, item.sd, around, units)}",
        counts=phrase("instrument.drop", parameter=show_difference(parameter, item.per_count, around, units))
        if item.per_count
        else "",
        line=_line_words(ctx, item),
        reagent=_reagent_words(used) if used else "",
        expired=used is not None and used.expires_on < ctx.today.isoformat(),
        seen=_seen_words(ctx, parameter, record) if record else "",
        check=_check_words(ctx, checked, due),
        check_due=due,
        checks=[
            CheckShown(
                id=check.id,
                day=moment_words(check.at, ctx.keeper.zone),
                standard=show(parameter, check.standard, units),
                reading=show(parameter, check.reading, units),
            )
            for check in reversed(kept)
        ],
    )


def _seen_words(ctx: Context, parameter: Parameter, record: InstrumentRecord) -> str:
    units, around = ctx.keeper.units, FACTS[parameter].likely.middle
    scatter = show_difference(parameter, record.scatter, around, units)
    since = moment_words(record.since, ctx.keeper.zone)
    seen = phrase("instrument.scattered", scatter=scatter, tests=counted(record.count, "test"), day=since)
    if record.beside is None:
        return seen
    other, above, sd = record.beside
    return seen + phrase("instrument.reads_beside", above=above_words(parameter, (above, sd), units), other=other)


def _check_words(ctx: Context, checked: datetime | None, due: bool) -> str:
    if checked is None:
        return phrase("instrument.check_it") if due else ""
    day = moment_words(checked, ctx.keeper.zone)
    return phrase("instrument.check_again", day=day) if due else phrase("instrument.checked", day=day)


def _reagent_words(used: instrument_store.Reagent) -> str:
    lot = phrase("common.lot_lot", lot=used.lot) if used.lot else ""
    opened, until = (date_words(date.fromisoformat(day)) for day in (used.opened_on, used.expires_on))
    return phrase("instrument.reagent_opened_good_until", opened=opened, until=until, lot=lot)


def _line_words(ctx: Context, item: Instrument) -> str:
    """How the checks in force correct a typical reading, in words."""
    if not item.checks:
        return phrase("instrument.never_checked_readings_taken_as")
    line = instrument_line(item.checks)
    slope, shift = line[1], _shift(item.parameter, line)
    around = FACTS[item.parameter].likely.middle
    size = show_difference(item.parameter, abs(shift), around, ctx.keeper.units)
    way = "low" if shift > 0 else "high"
    return phrase(
        "instrument.reads_by_readings_are_corrected",
        size=size,
        way=way,
        standards=counted(len(item.checks), "standard"),
    ) + (phrase("instrument.slope", slope=show_number(slope, 3)) if len(item.checks) > 1 else "")


def _shift(parameter: Parameter, line: tuple[float, float]) -> float:
    """What the line through the checks adds to a typical reading, canonical."""
    return line[0] + (line[1] - 1) * FACTS[parameter].likely.middle


@router.post("", status_code=201)
def add_instrument(body: InstrumentBody, ctx: In, key: Key) -> Recorded:
    """Put an instrument on the shelf."""
    name, label = body.name.strip(), unit_of(body.parameter, ctx.keeper.units).label
    if not name:
        raise refused("instrument.enter_a_name", "name", "instrument.such_as_titration_kit_t")
    widest = difference_shown(body.parameter, FACTS[body.parameter].likely.width / 2, ctx.keeper.units)
    least = widest / 1e3
    if not least <= body.scatter <= widest:
        raise DomainError("scatter", body.scatter, label, float(f"{least:.1g}"), round(widest, 3), field="scatter")
    if body.per_count and not least <= body.per_count <= widest:
        raise DomainError(phrase("instrument.one_drop"), body.per_count, label, 0, round(widest, 3), field="per_count")
    item = Instrument(
        name,
        body.parameter,
        difference_canonical(body.parameter, body.scatter, ctx.keeper.units),
        difference_canonical(body.parameter, body.per_count, ctx.keeper.units) if body.per_count else 0.0,
    )

    return ctx.record_as(
        key, phrase("common.name_is_on_the_shelf", name=name), lambda c: instrument_store.add_instrument(c, item)
    )


@router.post("/checks", status_code=201)
def add_check(body: CheckBody, ctx: In, key: Key) -> Recorded:
    """Save a check against a standard; the latest for each standard counts."""
    item = _named(ctx, body)
    values = {field: ctx.typed(body.parameter, getattr(body, field), field) for field in ("standard", "reading")}
    latest = {**dict(item.checks), values["standard"]: values["reading"]}
    line = at_field("reading", lambda: instrument_line(sorted(latest.items())))
    if abs(_shift(item.parameter, line)) > FACTS[item.parameter].likely.width / 4:
        shown, true = (show(item.parameter, values[name], ctx.keeper.units) for name in ("reading", "standard"))
        raise refused(
            "instrument.this_far_off_for_it_is",
            "reading",
            "instrument.what_the_instrument_read_in_the",
            shown=shown,
            true=true,
        )

    return ctx.record_as(
        key,
        phrase("instrument.checked_for", name=item.name, parameter=spoken(item.parameter)),
        lambda c: instrument_store.add_check(c, item, ctx.now, values["standard"], values["reading"]),
    )


@router.post("/reagents", status_code=201)
def add_reagent(body: ReagentBody, ctx: In, key: Key) -> Recorded:
    """Save a newly opened reagent. Results of an expired one are doubted."""
    item = _named(ctx, body)
    until = typed_day(body.expires_on, "expires_on")
    reagent = instrument_store.Reagent(ctx.today.isoformat(), until.isoformat(), body.lot.strip())

    return ctx.record_as(
        key, f"{item.name}: {_reagent_words(reagent)}", lambda c: instrument_store.add_reagent(c, item, reagent, key)
    )


def _named(ctx: Context, body: CheckBody | NamedBody | ReagentBody) -> Instrument:
    for item in ctx.stored.instruments:
        if item.name == body.name and item.parameter == body.parameter:
            return item
    raise NotFoundError(
        phrase("instrument.for_is_not_on_the_shelf", name=body.name, parameter=spoken(body.parameter)), field="name"
    )


@router.post("/checks/{check_id}/undo")
def undo_check(check_id: Id, ctx: In, key: Key) -> Recorded:
    """Undo a check; readings it corrected meanwhile stay as saved, with their raw values."""

    return ctx.record_as(key, phrase("instrument.check_undone"), lambda c: instrument_store.void_check(c, check_id))


@router.post("/archive")
def archive(body: NamedBody, ctx: In, key: Key) -> Recorded:
    """Take an instrument off the bench; what it measured stays, and adding it again brings it back."""

    return ctx.record_as(
        key,
        phrase("instrument.archived", name=body.name),
        lambda c: instrument_store.set_archived(c, body.name, body.parameter),
    )
