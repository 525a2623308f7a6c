"""Day and night: pH over the day as the probe has it, and under other spreads of the doses."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime, time, timedelta

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import time_of
from salttide.core.basics.errors import PlanError, SaltTideError, check_range
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import clock_words, day_words
from salttide.core.basics.refused import refused
from salttide.core.estimate.day_words import gain_words, limits_of_dosing
from salttide.core.estimate.dose_times import Slot
from salttide.core.estimate.dose_timing import Spread, flattest
from salttide.core.estimate.gas_exchange import (
    HOURS,
    MEAN_OF_DAYS,
    NEEDED,
    PARTS,
    GasExchange,
    MeanWater,
    PhDay,
    even_doses,
    gas_exchange_of,
    hourly_means,
    mean_day,
    outdoor_gain,
)
from salttide.core.estimate.supplementation import ALKALINITY
from salttide.core.planning.container import Container
from salttide.core.planning.pump_setting import (
    alkalinity_by_hour,
    holds_alkalinity,
    least_dose_meq_l,
    minutes_to_calcium,
    slots_for,
    spread_event,
)
from salttide.core.science.parameters import Parameter
from salttide.household.uptake import UptakeContext
from salttide.store import container as container_store
from salttide.store import light as light_store
from salttide.store import probe as probe_store

from .context import Context, In, Key
from .models import Choice, Id, Model, Recorded, RequestModel
from .uptake import uptake_of

router = APIRouter(prefix="/api/systems/{system_id}/dosing/day", tags=["daynight"])


class DayBody(RequestModel):
    """What to spread: the alkalinity containers that may be used · hour: when it is dosed where no pump has a schedule
    · ppm: carbon dioxide of the room's air, where measured."""

    container_ids: list[Id] = Field(default_factory=list, max_length=2)
    hour: int = Field(18, ge=0, le=23)
    ppm: float | None = None


class DayOffer(Model):
    """What can be spread over the day, or what is missing for it."""

    missing: list[str]
    containers: list[Choice]
    body: DayBody
    lights: list[float]
    by_hand: bool


class Curve(Model):
    """pH over a day in equal steps from midnight on."""

    key: str
    name: str
    ph: list[float]
    lowest: str
    highest: str
    swing: str


class HourDose(Model):
    """What one container gives at a time of the day."""

    time: str
    amounts: list[str]


class DayAnswer(Model):
    """The measured day, the predicted days, the best spread, and what no spread can improve."""

    measured: Curve
    curves: list[Curve]
    columns: list[str]
    doses: list[HourDose]
    gain: str
    words: list[str]
    apart: str


@router.get("")
def options(system_id: Id, ctx: In) -> DayOffer:
    """What can be spread over the day."""
    uptake = uptake_of(ctx, system_id)
    held = _alkalinity(ctx.stored.containers(system_id))
    missing = [phrase("common.a_reading_of_parameter", parameter=p.value) for p in NEEDED if p not in uptake.view.water]
    if uptake.rates[ALKALINITY] is None:
        missing.append(phrase("daynight.four_tests_of_alkalinity_over_a"))
    if not _series(ctx, system_id):
        missing.append(phrase("daynight.a_ph_probe_that_records_day"))
    if not held:
        missing.append(phrase("daynight.a_container_of_an_alkalinity"))
    kept = container_store.dosing_routine(ctx.connection, system_id)
    body = DayBody(container_ids=[one.id for one in held][:2], ppm=kept.get("ppm"), hour=18)
    return DayOffer(
        missing=missing,
        containers=[Choice(key=str(one.id), name=one.name, remark=one.additive.formula) for one in held],
        body=body,
        lights=_lights(uptake),
        by_hand=not any(setting.slots for one in held if (setting := one.setting_at(ctx.now))),
    )


def _lights(uptake: UptakeContext) -> list[float]:
    """First and last hour of light, where the lamps' setting is known."""
    known = light_store.lights(uptake.household.stored.reading(), uptake.system.id)
    if not known:
        return []
    return list(known[-1].hours_lit)


def _alkalinity(held: Sequence[Container]) -> list[Container]:
    return [one for one in held if holds_alkalinity(one)]


def _series(ctx: Context, system_id: int) -> list[probe_store.ProbeSeries]:
    return [one for one in probe_store.probe_series(ctx.connection, system_id) if one.parameter == Parameter.PH]


def _hours(ctx: Context, system_id: int) -> tuple[dict[int, float], list[float]]:
    """Hourly means of pH by hours since a local midnight, two weeks of them, and their means by hour of the day."""
    series = _series(ctx, system_id)
    if not series:
        raise PlanError(phrase("daynight.no_ph_probe_records_day_and"), field="body")
    zone = ctx.keeper.zone
    midnight = datetime.combine(ctx.today - timedelta(days=MEAN_OF_DAYS), time(), zone)
    start, end = int(midnight.timestamp()), int(ctx.now.timestamp())
    found = probe_store.stretch(ctx.connection, series[-1], start, end, MEAN_OF_DAYS * HOURS)
    hours = hourly_means(found.at, found.mean, start)
    return hours, mean_day(hours)


def _chosen(ctx: Context, system_id: int, body: DayBody) -> list[Container]:
    held = {one.id: one for one in _alkalinity(ctx.stored.containers(system_id))}
    for place, number in enumerate(body.container_ids):
        if number not in held:
            raise refused(
                "daynight.this_container_holds_no_alkalinity",
                f"container_ids.{place}",
                "daynight.one_that_holds_alkalinity",
            )
    if not body.container_ids:
        raise refused("daynight.choose_a_container", "container_ids", "daynight.one_or_two_that_hold_alkalinity")
    return [held[number] for number in dict.fromkeys(body.container_ids)]


class _Day:
    """What previewing and adopting a spread have in common."""

    def __init__(self, ctx: Context, system_id: int, body: DayBody) -> None:
        self.uptake, self.body = uptake_of(ctx, system_id), body
        self.volume_l = self.uptake.system.volume_l
        self.containers = _chosen(ctx, system_id, body)
        rate = self.uptake.rates[ALKALINITY]
        water = self.uptake.view.water
        if rate is None or any(p not in water for p in NEEDED):
            raise PlanError(phrase("daynight.test_alkalinity_salinity_and_temperature"), field="body")
        if body.ppm is not None:
            check_range(phrase("daynight.the_room_carbon_dioxide"), body.ppm, "ppm", 250, 5000, field="ppm")
        held = _alkalinity(ctx.stored.containers(system_id))
        uptake = max(0.0, -rate.per_day)
        dosed = self.uptake.dosed or uptake
        self.now = alkalinity_by_hour(held, self.volume_l, ctx.now, body.hour, dosed)
        self.total = sum(one.total for one in self.now)
        if not self.total:
            raise PlanError(phrase("daynight.nothing_is_dosed_yet_set_the"), field="body")
        alkalinity, salinity, warm = (water[p] for p in NEEDED)
        still = MeanWater(alkalinity, salinity, warm, uptake)
        hours, self.measured = _hours(ctx, system_id)
        self.gas_exchange: GasExchange = gas_exchange_of(hours, still, self.now)
        self.best: Spread = self._best()

    def _best(self) -> Spread:
        least = least_dose_meq_l(self.containers, self.volume_l)
        try:
            return flattest(
                self.gas_exchange,
                [one.additive.formula for one in self.containers],
                self.total,
                self.uptake.system.limits.alkalinity_meq_l,
                least,
            )
        except SaltTideError as error:
            error.field = error.field or "container_ids"
            raise

    def slots(self) -> list[tuple[Container, tuple[Slot, ...]]]:
        """The best spread as the pumps' own steps."""
        pairs = zip(self.containers, self.best.doses, strict=True)
        return [(container, slots_for(container, doses, self.volume_l)) for container, doses in pairs]


@router.post("/preview")
def preview(system_id: Id, body: DayBody, ctx: In) -> DayAnswer:
    """The measured day beside the days that other spreads would give, without effect."""
    day = _Day(ctx, system_id, body)
    now, outdoors, room = outdoor_gain(day.gas_exchange, day.now, body.ppm)
    even = day.gas_exchange.day([even_doses(day.containers[0].additive.formula, day.total)])
    best = day.best.day
    curves = [
        _curve("now", phrase("daynight.as_dosed_now"), now),
        _curve("even", phrase("daynight.spread_evenly"), even),
    ]
    curves += [
        _curve("best", phrase("daynight.the_flattest_spread"), best),
        _curve("outdoors", phrase("daynight.as_now_in_outdoor_air"), outdoors),
    ]
    slots = day.slots()
    return DayAnswer(
        measured=_measured(day.measured),
        curves=curves,
        columns=[f"{one.name}, mL" for one, _ in slots],
        doses=_hour_doses(slots),
        gain=gain_words(now, best),
        words=limits_of_dosing(day.gas_exchange, now, best, outdoors, room, body.ppm is not None),
        apart=_apart(ctx, system_id, slots),
    )


def _curve(key: str, name: str, day: PhDay) -> Curve:
    return Curve(
        key=key, name=name, ph=[round(ph, 4) for ph in day.ph], lowest=_at(day.lowest, day.hour_of(day.lowest)),
        highest=_at(day.highest, day.hour_of(day.highest)), swing=show_number(day.swing, 2),
    )  # fmt: skip


def _measured(by_hour: Sequence[float]) -> Curve:
    """The probe's own mean day, in quarters of an hour so that all curves have one axis."""
    day = PhDay(tuple(ph for ph in by_hour for _ in range(PARTS)), ())
    return _curve("measured", phrase("daynight.measured_mean_of_days", days=MEAN_OF_DAYS), day)


def _at(ph: float, hour: float) -> str:
    return f"{show_number(ph, 2)} at {clock_words(time_of(int(hour * 60)))}"


def _hour_doses(slots: Sequence[tuple[Container, tuple[Slot, ...]]]) -> list[HourDose]:
    minutes = sorted({slot.minute for _, mine in slots for slot in mine})
    by = [{slot.minute: slot.ml for slot in mine} for _, mine in slots]
    return [
        HourDose(
            time=clock_words(time_of(minute)),
            amounts=[show_number(mine[minute], 1) if minute in mine else "" for mine in by],
        )
        for minute in minutes
    ]


def _apart(ctx: Context, system_id: int, slots: Sequence[tuple[Container, tuple[Slot, ...]]]) -> str:
    """How far apart calcium and alkalinity doses stay."""
    gap = minutes_to_calcium(ctx.stored.containers(system_id), slots, ctx.now)
    return "" if gap is None else phrase("daynight.calcium_stays_at_least_minutes", gap=gap)


@router.post("", status_code=201)
def adopt(system_id: Id, body: DayBody, ctx: In, key: Key) -> Recorded:
    """Set the pumps to the flattest spread; the day's amount stays as it is."""
    day = _Day(ctx, system_id, body)
    slots = day.slots()
    if not all(one.pump for one, _ in slots):
        raise PlanError(phrase("daynight.there_is_no_pump_to_set"), field="body")
    chosen = {one.id for one, _ in slots}
    idle = [
        one.id for one in _alkalinity(ctx.stored.containers(system_id)) if one.id not in chosen and one.set_at(ctx.now)
    ]

    def act(connection: sqlite3.Connection) -> str:
        for container, own in slots:
            container_store.add_container_events(connection, container.id, [spread_event(own, ctx.now)], key)
        for number in idle:
            container_store.add_container_events(connection, number, [spread_event((), ctx.now)], key)
        kept = container_store.dosing_routine(connection, system_id)
        container_store.save_dosing_routine(connection, system_id, {**kept, "ppm": body.ppm}, key)
        return phrase("daynight.new_pump_times_from", day=day_words(ctx.today))

    return ctx.record(key, act)
