"""Limits and people of the alarms as bodies: values in the keeper's units."""

from dataclasses import asdict
from datetime import time
from typing import Any

from pydantic import Field

from salttide.core.alarm.alarm import when_words
from salttide.core.alarm.follow import beyond
from salttide.core.alarm.signals import AlarmLimit, Signal, check_limit, signals, usual_limit
from salttide.core.alarm.telling import AlarmSetup, Contact, MailSecurity, check_setup
from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import capital
from salttide.core.basics.refused import refused
from salttide.core.science.units import difference_canonical, difference_shown, show, unit_of
from salttide.core.system.system import System
from salttide.store import alarm as alarm_store
from salttide.store.alarm import Sensor

from .context import Context
from .models import Model, RequestModel


class AlarmLimitBody(RequestModel):
    """What is watched: limits and the way back in the keeper's unit; a contact has none."""

    signal: str = Field(max_length=40)
    low: float | None = None
    high: float | None = None
    back: float = 0
    hold_min: float = 0
    wakes: bool = True


class AlarmContactBody(RequestModel):
    """Somebody who is told. turn: 1 at once, 2 and 3 when nobody looked · quiet hours: null for none."""

    name: str = Field(max_length=40)
    turn: int = 1
    webhook: str = Field("", max_length=300)
    email: str = Field("", max_length=200)
    quiet_from: time | None = None
    quiet_to: time | None = None


class AlarmSetupBody(RequestModel):
    """Who is told, and the server that sends e-mail."""

    contacts: list[AlarmContactBody] = Field(max_length=40)
    look_min: float = 15
    again_min: float = 60
    mail_host: str = Field("", max_length=200)
    mail_port: int = 587
    mail_security: MailSecurity = MailSecurity.STARTTLS
    mail_user: str = Field("", max_length=200)
    mail_from: str = Field("", max_length=200)


class SensorShown(Model):
    """A sensor that was heard: what it says, and whether that is beyond its limit."""

    sensor: str
    words: str
    beyond: bool


class SignalShown(Model):
    """Something that can be watched. contact: on or off, without limits · on: whether it is watched · limit: as stored,
    or as suggested."""

    signal: str
    name: str
    unit: str
    contact: bool
    on: bool
    limit: AlarmLimitBody
    sensors: list[SensorShown]
    nothing: str


def limit_of(ctx: Context, body: AlarmLimitBody, field: str) -> AlarmLimit:
    """A limit from its body, canonical. Raises at its field."""
    signal = signals().get(body.signal)
    if signal is None:
        raise refused("controller.no_such_signal", f"{field}.signal", signal=body.signal)
    parameter = signal.parameter
    low = high = None
    back = body.back
    if parameter is not None:
        low = None if body.low is None else ctx.canonical(parameter, body.low, f"{field}.low")
        high = None if body.high is None else ctx.canonical(parameter, body.high, f"{field}.high")
        back = difference_canonical(parameter, body.back, ctx.keeper.units)
    limit = AlarmLimit(signal.key, low, high, back, body.hold_min, body.wakes)
    try:
        return check_limit(limit)
    except SaltTideError as error:
        error.field = f"{field}.{error.field}"
        raise


def signals_shown(ctx: Context, system: System) -> list[SignalShown]:
    """Everything that can be watched of a system: first what is, then what is heard."""
    kept = alarm_store.limits(ctx.connection, system.id)
    heard = alarm_store.sensors(ctx.connection, system.id)
    found = [
        _signal(ctx, one, kept.get(one.key) or usual_limit(one, system), one.key in kept, heard)
        for one in signals().values()
    ]
    return sorted(found, key=lambda one: (not one.on, not one.sensors))


def _signal(ctx: Context, signal: Signal, limit: AlarmLimit, on: bool, heard: list[Sensor]) -> SignalShown:
    parameter = signal.parameter
    sensors = [_sensor(ctx, signal, limit, one) for one in heard if one.signal == signal.key]
    never = phrase("alarm.never_heard_contact") if parameter is None else phrase("alarm.never_heard")
    return SignalShown(
        signal=signal.key,
        name=capital(signal.name),
        unit="" if parameter is None else unit_of(parameter, ctx.keeper.units).label,
        contact=signal.contact,
        on=on,
        limit=_limit_body(ctx, signal, limit),
        sensors=sensors,
        nothing="" if sensors else never,
    )


def _limit_body(ctx: Context, signal: Signal, limit: AlarmLimit) -> AlarmLimitBody:
    parameter = signal.parameter
    if parameter is None:
        return AlarmLimitBody(signal=signal.key, hold_min=limit.hold_min, wakes=limit.wakes)
    low, high = (None if end is None else ctx.shown(parameter, end, finer=True) for end in (limit.low, limit.high))
    back = round(difference_shown(parameter, limit.back, ctx.keeper.units), 4)
    return AlarmLimitBody(signal=signal.key, low=low, high=high, back=back, hold_min=limit.hold_min, wakes=limit.wakes)


def _sensor(ctx: Context, signal: Signal, limit: AlarmLimit, one: Sensor) -> SensorShown:
    last = one.stands.last
    if last is None:
        return SensorShown(sensor=one.name, words="", beyond=False)
    value = _on_words(last.value) if signal.parameter is None else show(signal.parameter, last.value, ctx.keeper.units)
    words = phrase("alarm.heard", value=value, sensor=one.name, day=when_words(last.at, ctx.keeper.zone))
    return SensorShown(sensor=one.name, words=words, beyond=beyond(limit, last.value) is not None)


def _on_words(value: float) -> str:
    return phrase("alarm.on") if value else phrase("alarm.off")


def setup_body(setup: AlarmSetup) -> AlarmSetupBody:
    """Who is told, as a body."""
    row = asdict(setup)
    return AlarmSetupBody(**{**row, "contacts": [AlarmContactBody(**one) for one in row["contacts"]]})


def setup_of(body: AlarmSetupBody) -> AlarmSetup:
    """Who is told, checked. Raises at its field."""
    row: dict[str, Any] = {name: _stripped(value) for name, value in body.model_dump().items()}
    people = [{name: _stripped(value) for name, value in one.items()} for one in row.pop("contacts")]
    return check_setup(AlarmSetup(tuple(Contact(**one) for one in people), **row))


def _stripped(value: Any) -> Any:
    """Without spaces around, and a time without seconds and zone."""
    if isinstance(value, time):
        return value.replace(second=0, microsecond=0, tzinfo=None)
    return value.strip() if isinstance(value, str) and not isinstance(value, MailSecurity) else value
