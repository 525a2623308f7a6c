"""Alarms: what is watched, what was raised and seen, who is told, and a test of it."""

import secrets
import sqlite3
from dataclasses import replace

from fastapi import APIRouter
from pydantic import Field

from salttide.core.alarm.alarm import when_words
from salttide.core.alarm.letter import test_letter
from salttide.core.alarm.telling import check_address
from salttide.core.basics.errors import NotFoundError, SaltTideError
from salttide.core.basics.phrases import phrase, phrases
from salttide.delivery import deliver
from salttide.household.alarm import forget_sensor, make_messages, save_limits
from salttide.store import alarm as alarm_store

from .alarm_body import (
    AlarmLimitBody,
    AlarmSetupBody,
    SignalShown,
    limit_of,
    setup_body,
    setup_of,
    signals_shown,
)
from .alarm_shown import AlarmShown, alarm_shown
from .context import Context, In, Key
from .models import Id, Model, Recorded, RequestModel

router = APIRouter(tags=["alarm"])
PAST = 20


class OpenAlarms(Model):
    """The alarms that are not over; asked for again and again, so that a browser can say so."""

    alarms: list[AlarmShown]


class Alarms(OpenAlarms):
    """The household's alarms. watched: whether anything is · past: those that are over, latest first · cannot: what
    none of this guards against · warnings: what keeps anybody from being told."""

    watched: bool
    past: list[AlarmShown]
    setup: AlarmSetupBody
    warnings: list[str]
    cannot: list[str]


class SystemAlarms(Model):
    """What is watched of a system, and where it comes from. push: the address that a controller sends to, empty while
    there is none · state: in words, when it last gave readings · fault: why it did not."""

    system: str
    signals: list[SignalShown]
    url: str
    push: str
    state: str
    fault: str


class SystemAlarmsBody(RequestModel):
    """What is watched, and the address that is asked for readings; empty: none is."""

    limits: list[AlarmLimitBody] = Field(max_length=40)
    url: str = Field("", max_length=300)


class SeenBody(RequestModel):
    """Who has looked at an alarm; empty: nobody, after all."""

    by: str = Field("", max_length=40)


class SensorBody(RequestModel):
    """A sensor of a system."""

    signal: str = Field(max_length=40)
    sensor: str = Field(max_length=60)


class ContactName(RequestModel):
    """Somebody who is told."""

    contact: str = Field(max_length=40)


class TestResult(Model):
    """How a test went by one way."""

    arrived: bool
    words: str


@router.get("/api/alarms")
def alarms(ctx: In) -> Alarms:
    """The household's alarms, and who is told."""
    ctx.of_this_moment()
    setup = alarm_store.setup(ctx.connection)
    nobody = [] if any(one.channels for one in setup.contacts) else [phrase("alarm.nobody")]
    return Alarms(
        alarms=_open(ctx),
        watched=bool(ctx.stored.watched),
        past=[alarm_shown(ctx, one) for one in alarm_store.past_alarms(ctx.connection, PAST)],
        setup=setup_body(setup),
        warnings=[*nobody, phrase("alarm.nobody_watches")],
        cannot=[*phrases("alarm.cannot").values()],
    )


@router.get("/api/alarms/open")
def open_alarms(ctx: In) -> OpenAlarms:
    """The alarms that are not over."""
    return OpenAlarms(alarms=_open(ctx))


def _open(ctx: Context) -> list[AlarmShown]:
    return [alarm_shown(ctx, one) for one in alarm_store.open_alarms(ctx.connection)]


@router.put("/api/alarms/setup")
def save_setup(body: AlarmSetupBody, ctx: In, key: Key) -> Recorded:
    """Store who is told, and how."""
    setup = setup_of(body)
    return ctx.record_as(key, phrase("alarm.setup_saved"), lambda c: alarm_store.save_setup(c, setup))


@router.post("/api/alarms/test")
def test(body: ContactName, ctx: In) -> list[TestResult]:
    """Send somebody a message that only shows that it arrives, now, by every way."""
    ctx.of_this_moment()
    setup = alarm_store.setup(ctx.connection)
    contact = next((one for one in setup.contacts if one.name == body.contact), None)
    if contact is None:
        raise NotFoundError(phrase("alarm.test_nothing", name=body.contact), field="contact")
    letter, found = test_letter(contact.name, f"{ctx.links}/alarms", secrets.token_hex(4)), []
    for channel in contact.channels:
        name = phrases("alarm.channel")[channel.value]
        try:
            deliver(letter, channel, contact, setup, ctx.mail_password)
        except SaltTideError as error:
            words = phrase("alarm.cannot_reach", channel=name, why=error.message)
            found.append(TestResult(arrived=False, words=words))
        else:
            found.append(TestResult(arrived=True, words=phrase("alarm.arrived", channel=name)))
    return found


@router.post("/api/alarms/{alarm_id}/seen")
def seen(alarm_id: Id, body: SeenBody, ctx: In, key: Key) -> Recorded:
    """Say that somebody has looked: nobody else is told of it any more."""
    if alarm_store.alarm(ctx.connection, alarm_id) is None:
        raise NotFoundError(phrase("alarm.not_there", number=alarm_id))
    by = body.by.strip()

    def act(connection: sqlite3.Connection) -> str:
        alarm_store.see_alarm(connection, alarm_id, ctx.now if by else None, by)
        return phrase("alarm.seen") if by else phrase("alarm.unseen")

    return ctx.record(key, act)


@router.get("/api/systems/{system_id}/alarms")
def system_alarms(system_id: Id, ctx: In) -> SystemAlarms:
    """What is watched of a system, with what its sensors say now."""
    ctx.of_this_moment()
    system = ctx.household.system(system_id)
    kept = alarm_store.controller(ctx.connection, system_id)
    heard = phrase("alarm.controller_never")
    if kept.heard:
        heard = phrase("alarm.controller_heard", day=when_words(kept.heard, ctx.keeper.zone))
    return SystemAlarms(
        system=system.name,
        signals=signals_shown(ctx, system),
        url=kept.url,
        push=f"{ctx.links}/api/push/{kept.token}" if kept.token else "",
        state=heard if kept.url or kept.token else "",
        fault=kept.fault,
    )


@router.put("/api/systems/{system_id}/alarms")
def save_alarms(system_id: Id, body: SystemAlarmsBody, ctx: In, key: Key) -> Recorded:
    """Store what is watched of a system, and where its readings come from."""
    system = ctx.household.system(system_id)
    limits = [limit_of(ctx, one, f"limits.{place}") for place, one in enumerate(body.limits)]
    url = check_address(body.url, "url")

    def act(connection: sqlite3.Connection) -> str:
        save_limits(ctx.household, connection, system_id, limits)
        kept = alarm_store.controller(connection, system_id)
        if kept.url != url:
            alarm_store.save_controller(connection, replace(kept, url=url, asked=None, fault=""))
        make_messages(ctx.household, connection)
        return phrase("alarm.system_saved", system=system.name)

    return ctx.record(key, act)


@router.post("/api/systems/{system_id}/alarms/address", status_code=201)
def new_address(system_id: Id, ctx: In, key: Key) -> Recorded:
    """Make an address that a controller sends to; an earlier one stops working."""
    ctx.household.system(system_id)

    def act(connection: sqlite3.Connection) -> str:
        kept = alarm_store.controller(connection, system_id)
        alarm_store.save_controller(connection, replace(kept, token=secrets.token_urlsafe(24)))
        return phrase("controller.link_made")

    return ctx.record(key, act)


@router.post("/api/systems/{system_id}/alarms/forget")
def forget(system_id: Id, body: SensorBody, ctx: In, key: Key) -> Recorded:
    """Remove a sensor that is no longer there; what it wrote stays."""
    ctx.household.system(system_id)
    words = phrase("alarm.forgotten", sensor=body.sensor)
    return ctx.record_as(key, words, lambda c: forget_sensor(ctx.household, c, system_id, body.signal, body.sensor))
