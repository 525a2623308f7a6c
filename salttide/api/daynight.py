"""Day and night: pH over the day as the probe has it, and under other spreads of the doses."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime, time, timedelta
from typing import Any

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.errors import InputError, PlanError, SaltTideError, check_range
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrasing import clock_words, day_words
from salttide.core.estimate.dose_times import Slot, nearest_minutes, slots_of
from salttide.core.estimate.dose_timing import Spread, flattest
from salttide.core.estimate.gas_exchange import (
    HOURS,
    PARTS,
    DayDoses,
    GasExchange,
    MeanWater,
    PhDay,
    breath_of,
    even_doses,
    outdoor_gain,
)
from salttide.core.estimate.supplementation import ALKALINITY
from salttide.core.planning.container import Container, ContainerEvent, ContainerKind
from salttide.core.science.additives import amount_per_gram, brought_per_mole
from salttide.core.science.air import OUTDOOR_PPM
from salttide.core.science.parameters import Parameter
from salttide.store import container as container_store
from salttide.store import light as light_store
from salttide.store import probe as probe_store

from .context import Context, In, Key
from .dosing_told import Told, told_of
from .models import Choice, Id, Model, Recorded, RequestModel
from .pumps import minute_of

router = APIRouter(prefix="/api/systems/{system_id}/dosing/day", tags=["daynight"])
DAYS = 14
NEEDED = (Parameter.ALKALINITY, Parameter.SALINITY, Parameter.TEMPERATURE)


class DayBody(RequestModel):
    """What is spread: the containers of alkalinity that may be used · hour: when it is given where no pump has a
    schedule · ppm: carbon dioxide of the room's air, where it was measured."""

    container_ids: list[Id] = Field(default_factory=list, max_length=2)
    hour: int = Field(18, ge=0, le=23)
    ppm: float | None = None


class DayOffer(Model):
    """What can be spread, and what is missing for it."""

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
    """The measured day, the predicted days, the best spread, and what it cannot mend."""

    measured: Curve
    curves: list[Curve]
    columns: list[str]
    doses: list[HourDose]
    gain: str
    words: list[str]
    apart: str


@router.get("")
def offer(system_id: Id, ctx: In) -> DayOffer:
    """What there is to spread."""
    told = told_of(ctx, system_id)
    held = _alkalinity(ctx.stored.containers(system_id))
    missing = [f"a reading of {p.value}" for p in NEEDED if p not in told.view.water]
    if told.paces[ALKALINITY] is None:
        missing.append("four tests of alkalinity over a week")
    if not _series(ctx, system_id):
        missing.append("a pH probe that writes day and night: import what it kept, or let it send")
    if not held:
        missing.append("a container of an alkalinity solution")
    kept = container_store.wish(ctx.connection, system_id)
    body = DayBody(container_ids=[one.id for one in held][:2], ppm=kept.get("ppm"), hour=18)
    return DayOffer(
        missing=missing,
        containers=[Choice(key=str(one.id), name=one.name, remark=one.additive.formula) for one in held],
        body=body,
        lights=_lights(told),
        by_hand=not any(setting.slots for one in held if (setting := one.setting_at(ctx.now))),
    )


def _lights(told: Told) -> list[float]:
    """First and last hour of light, where a setting is known."""
    known = light_store.lights(told.ctx.connection, told.system.id)
    if not known:
        return []
    last = known[-1]
    begin = last.on.hour + last.on.minute / 60
    return [begin, (begin + last.hours) % 24]


def _alkalinity(held: Sequence[Container]) -> list[Container]:
    return [one for one in held if brought_per_mole(one.additive.formula).get(ALKALINITY, 0) > 0]


def _series(ctx: Context, system_id: int) -> list[probe_store.ProbeSeries]:
    return [one for one in probe_store.probe_series(ctx.connection, system_id) if one.parameter == Parameter.PH]


def _hours(ctx: Context, system_id: int) -> tuple[dict[int, float], list[float]]:
    """Hourly means of pH by hours since a local midnight, two weeks of them, and their means by hour of the day."""
    series = _series(ctx, system_id)
    if not series:
        raise PlanError("There is no pH probe that writes day and night.", field="body")
    zone = ctx.keeper.zone
    midnight = datetime.combine(ctx.today - timedelta(days=DAYS), time(), zone)
    start, end = int(midnight.timestamp()), int(ctx.now.timestamp())
    found = probe_store.stretch(ctx.connection, series[-1], start, end, DAYS * HOURS)
    sums: dict[int, list[float]] = {}
    for at, mean in zip(found.at, found.mean, strict=True):
        sums.setdefault((at - start) // 3600, []).append(mean)
    hours = {hour: sum(each) / len(each) for hour, each in sums.items() if hour >= 0}
    by_hour = [[ph for hour, ph in hours.items() if hour % HOURS == each] for each in range(HOURS)]
    if not all(by_hour):
        raise PlanError("The probe has not written through whole days yet.", field="body")
    return hours, [sum(each) / len(each) for each in by_hour]


def _chosen(ctx: Context, system_id: int, body: DayBody) -> list[Container]:
    held = {one.id: one for one in _alkalinity(ctx.stored.containers(system_id))}
    for place, number in enumerate(body.container_ids):
        if number not in held:
            raise InputError(
                "this container holds no alkalinity", field=f"container_ids.{place}", accepted="one that does"
            )
    if not body.container_ids:
        raise InputError("choose a container", field="container_ids", accepted="one or two that hold alkalinity")
    return [held[number] for number in dict.fromkeys(body.container_ids)]


def _meq_per_ml(container: Container, volume_l: float) -> float:
    """What a mL raises the system by, meq/L."""
    additive = container.additive
    per_gram = amount_per_gram(additive.formula, ALKALINITY, additive.purity)
    return per_gram * (additive.strength_g_l or 0.0) / 1000 / volume_l


def _now(told: Told, held: Sequence[Container], hour: int, total: float) -> list[DayDoses]:
    """How alkalinity is dosed now: by the pumps' schedules, or all at one hour by hand."""
    found = []
    for one in held:
        setting = one.setting_at(told.ctx.now)
        hours = [0.0] * HOURS
        for slot in setting.slots if setting else ():
            hours[slot.minute // 60] += slot.ml * _meq_per_ml(one, told.system.volume_l)
        if sum(hours):
            found.append(DayDoses(one.additive.formula, tuple(hours)))
    if found or not held:
        return found
    once = tuple(total if each == hour else 0.0 for each in range(HOURS))
    return [DayDoses(held[0].additive.formula, once)]


class _Day:
    """Everything that the preview and the adoption of a spread share."""

    def __init__(self, ctx: Context, system_id: int, body: DayBody) -> None:
        self.told, self.body = told_of(ctx, system_id), body
        self.containers = _chosen(ctx, system_id, body)
        pace = self.told.paces[ALKALINITY]
        water = self.told.view.water
        if pace is None or any(p not in water for p in NEEDED):
            raise PlanError(
                "Alkalinity, salinity and temperature have to be known, and what is used a day.", field="body"
            )
        if body.ppm is not None:
            check_range("carbon dioxide of the room", body.ppm, "ppm", 250, 5000, field="ppm")
        held = _alkalinity(ctx.stored.containers(system_id))
        uptake = max(0.0, -pace.per_day)
        self.now = _now(self.told, held, body.hour, self.told.dosed or uptake)
        self.total = sum(one.total for one in self.now)
        if not self.total:
            raise PlanError("Nothing is dosed yet: set the routine first, then spread it over the day.", field="body")
        alkalinity, salinity, warm = (water[p] for p in NEEDED)
        still = MeanWater(alkalinity, salinity, warm, uptake)
        hours, self.measured = _hours(ctx, system_id)
        self.breath: GasExchange = breath_of(hours, still, self.now)
        self.best: Spread = self._best()

    def _best(self) -> Spread:
        least = max(one.least_ml * _meq_per_ml(one, self.told.system.volume_l) for one in self.containers)
        try:
            return flattest(
                self.breath,
                [one.additive.formula for one in self.containers],
                self.total,
                self.told.system.limits.alkalinity_meq_l,
                least,
            )
        except SaltTideError as error:
            error.field = error.field or "container_ids"
            raise

    def slots(self) -> list[tuple[Container, tuple[Slot, ...]]]:
        """The best spread as the pumps' own steps."""
        found = []
        for container, doses in zip(self.containers, self.best.doses, strict=True):
            ml = doses.total / _meq_per_ml(container, self.told.system.volume_l)
            found.append((container, slots_of(doses.meq_l, ml, minute_of(container), container.step_ml)))
        return found


@router.post("/preview")
def preview(system_id: Id, body: DayBody, ctx: In) -> DayAnswer:
    """The measured day beside the days that other spreads would give, without effect."""
    day = _Day(ctx, system_id, body)
    now, outdoors, room = outdoor_gain(day.breath, day.now, body.ppm)
    even = day.breath.day([even_doses(day.containers[0].additive.formula, day.total)])
    best = day.best.day
    curves = [_curve("now", "as it is dosed now", now), _curve("even", "spread evenly", even)]
    curves += [_curve("best", "the flattest spread", best), _curve("outdoors", "as now, in outdoor air", outdoors)]
    slots = day.slots()
    return DayAnswer(
        measured=_measured(day.measured),
        curves=curves,
        columns=[f"{one.name}, mL" for one, _ in slots],
        doses=_hour_doses(slots),
        gain=_gain(now, best),
        words=_words(day.breath, now, best, outdoors, room, body.ppm is not None),
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
    return _curve("measured", f"measured, mean of {DAYS} days", day)


def _at(ph: float, hour: float) -> str:
    return f"{show_number(ph, 2)} at {clock_words(time(int(hour) % 24, int(hour * 60) % 60))}"


def _hour_doses(slots: Sequence[tuple[Container, tuple[Slot, ...]]]) -> list[HourDose]:
    minutes = sorted({slot.minute for _, mine in slots for slot in mine})
    by = [{slot.minute: slot.ml for slot in mine} for _, mine in slots]
    return [
        HourDose(
            time=clock_words(time(minute // 60, minute % 60)),
            amounts=[show_number(mine[minute], 1) if minute in mine else "" for mine in by],
        )
        for minute in minutes
    ]


def _gain(now: PhDay, best: PhDay) -> str:
    less = now.swing - best.swing
    if less < 0.01:
        return "The doses lie well already: another spread would flatten pH by less than 0.01."
    return f"It would take {show_number(less, 2)} off a swing of {show_number(now.swing, 2)}."


def _words(breath: GasExchange, now: PhDay, best: PhDay, outdoors: PhDay, room: float, measured: bool) -> list[str]:
    """What dosing cannot mend, and how sure this is."""
    lift = outdoors.mean - now.mean
    how = "measured" if measured else "taken from the water's own mean, so this is the most that air can do"
    words = [
        f"Of the swing {show_number(best.swing, 2)} stay whatever is dosed: lamps and animals make them.",
        f"Dosing hardly moves the mean ({show_number(now.mean, 2)}): the room's air sets it. The room holds about "
        f"{show_number(room, 0)} ppm ({how}); with outdoor air ({show_number(OUTDOOR_PPM, 0)} ppm) the mean "
        f"would be {show_number(lift, 2)} {'higher' if lift >= 0 else 'lower'}.",
    ]
    sure = "told from the probe" if breath.surely else "little is told of it by the probe, so it is taken as usual"
    words.append(
        f"Exchange with the air: {show_number(breath.exchange, 1)} an hour ({show_number(breath.exchange_low, 1)} to "
        f"{show_number(breath.exchange_high, 1)}; {sure}), from {breath.days} days of pH."
    )
    return words


def _apart(ctx: Context, system_id: int, slots: Sequence[tuple[Container, tuple[Slot, ...]]]) -> str:
    """How far the doses of calcium stay from those of alkalinity."""
    mine = {one.id for one, _ in slots}
    others = [one for one in ctx.stored.containers(system_id) if one.id not in mine]
    calcium = [one for one in others if Parameter.CALCIUM in brought_per_mole(one.additive.formula)]
    gaps = [
        nearest_minutes(own, setting.slots)
        for one in calcium
        if (setting := one.setting_at(ctx.now)) and setting.slots
        for _, own in slots
    ]
    return f"Calcium stays at least {min(gaps)} minutes away." if gaps else ""


@router.post("", status_code=201)
def adopt(system_id: Id, body: DayBody, ctx: In, key: Key) -> Recorded:
    """Set the pumps to the flattest spread; the day's amount stays as it is."""
    day = _Day(ctx, system_id, body)
    slots = day.slots()
    if not all(one.pump for one, _ in slots):
        raise PlanError(
            "Without a pump there is nothing to set: dose by hand at the hours that are shown.", field="body"
        )
    chosen = {one.id for one, _ in slots}
    idle = [
        one.id for one in _alkalinity(ctx.stored.containers(system_id)) if one.id not in chosen and one.set_at(ctx.now)
    ]

    def act(connection: sqlite3.Connection) -> dict[str, Any]:
        for container, own in slots:
            event = ContainerEvent(ctx.now, ContainerKind.SET, sum(slot.ml for slot in own), slots=own)
            container_store.add_container_events(connection, container.id, [event], key)
        for number in idle:
            container_store.add_container_events(connection, number, [ContainerEvent(ctx.now, ContainerKind.SET)], key)
        kept = container_store.wish(connection, system_id)
        container_store.keep_wish(connection, system_id, {**kept, "ppm": body.ppm}, key)
        return {"command": key, "words": f"the pumps are spread anew from {day_words(ctx.today)} on"}

    return Recorded(**ctx.command(key, act))
