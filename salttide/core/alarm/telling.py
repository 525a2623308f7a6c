"""Who is told of an alarm, and when: at once or after quiet hours, again, and further people when nobody looked."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, time, timedelta, tzinfo
from enum import StrEnum
from urllib.parse import urlsplit

from ..basics.errors import InputError, check_range

MAX_CONTACTS, MAX_TURN = 12, 3
MAX_ROUNDS = 48
"""An alarm that nobody looks at is told so often, then no more."""
RETRY_MIN = (1, 2, 5, 15, 60)
"""Minutes until a message that could not be delivered is tried again; the last one goes on."""
GIVE_UP = timedelta(hours=24)


class Channel(StrEnum):
    """A way to deliver."""

    WEBHOOK = "webhook"
    EMAIL = "email"


class Occasion(StrEnum):
    """What a message says."""

    BEGAN = "began"
    OVER = "over"
    TEST = "test"


class MailSecurity(StrEnum):
    """How a mail server is spoken to."""

    NONE = "none"
    STARTTLS = "starttls"
    TLS = "tls"


@dataclass(frozen=True)
class Contact:
    """Somebody who is told. turn: 1 at once, 2 and 3 when nobody looked · quiet_from, quiet_to: no messages between
    these times, None for at any time."""

    name: str
    turn: int = 1
    webhook: str = ""
    email: str = ""
    quiet_from: time | None = None
    quiet_to: time | None = None

    @property
    def channels(self) -> tuple[Channel, ...]:
        """The ways it is reached."""
        return tuple(one for one in Channel if getattr(self, one.value))

    def ready(self, at: datetime, zone: tzinfo) -> datetime:
        """The first moment from `at` on outside the quiet hours.

        >>> from datetime import UTC
        >>> night = Contact("Kit", quiet_from=time(22), quiet_to=time(7))
        >>> night.ready(datetime(2026, 11, 24, 23, 30, tzinfo=UTC), UTC).hour
        7
        """
        if self.quiet_from is None or self.quiet_to is None:
            return at
        local = at.astimezone(zone)
        clock, begins, ends = local.time().replace(tzinfo=None), self.quiet_from, self.quiet_to
        quiet = begins <= clock < ends if begins <= ends else clock >= begins or clock < ends
        if not quiet:
            return at
        day = local.date() + timedelta(days=clock >= ends)
        return datetime.combine(day, ends, zone).astimezone(at.tzinfo)


@dataclass(frozen=True)
class AlarmSetup:
    """Who is told and how. look_min: minutes after which an alarm that nobody has looked at goes to the next people ·
    again_min: minutes after which all are told again, 0 for once only · mail_*: the server that sends e-mail."""

    contacts: tuple[Contact, ...] = ()
    look_min: float = 15.0
    again_min: float = 60.0
    mail_host: str = ""
    mail_port: int = 587
    mail_security: MailSecurity = MailSecurity.STARTTLS
    mail_user: str = ""
    mail_from: str = ""


@dataclass(frozen=True)
class Told:
    """An alarm as far as telling goes. seen: when somebody looked · over: when it was over."""

    raised: datetime
    wakes: bool
    seen: datetime | None = None
    over: datetime | None = None


@dataclass(frozen=True)
class Message:
    """Something to deliver. round: 0 for the first time, counted up with each repetition."""

    contact: str
    channel: Channel
    occasion: Occasion
    round: int
    due: datetime


def messages_due(alarm: Told, setup: AlarmSetup, sent: Sequence[Message], now: datetime, zone: tzinfo) -> list[Message]:
    """The messages of an alarm that are due by now and were not made yet. What is already `sent` is never made again;
    once it is seen or over, nobody is told any more that it began; that it is over hears only who was told that.
    """
    made = {(one.contact, one.channel, one.occasion, one.round) for one in sent}
    found = [*_began(alarm, setup, now, zone), *_over(alarm, setup, sent, zone)]
    return [one for one in found if one.due <= now and (one.contact, one.channel, one.occasion, one.round) not in made]


def _began(alarm: Told, setup: AlarmSetup, now: datetime, zone: tzinfo) -> Iterator[Message]:
    if any(at is not None and at <= now for at in (alarm.seen, alarm.over)):
        return
    foremost = min((contact.turn for contact in setup.contacts), default=1)
    ready = (one.ready(alarm.raised, zone) for one in setup.contacts if one.turn == foremost)
    told_at = alarm.raised if alarm.wakes else min(ready, default=alarm.raised)
    for contact in setup.contacts:
        # Nobody can have looked before the foremost were told.
        first = told_at + (contact.turn - foremost) * timedelta(minutes=setup.look_min)
        opening = first if alarm.wakes else contact.ready(first, zone)
        again = timedelta(minutes=setup.again_min)
        for turn in range(MAX_ROUNDS if setup.again_min else 1):
            due = first + turn * again
            if due > now:
                break
            if turn and (due < opening + again or not (alarm.wakes or contact.ready(due, zone) == due)):
                continue  # in quiet hours, or said once at their end
            yield from (
                Message(contact.name, way, Occasion.BEGAN, turn, due if turn else opening) for way in contact.channels
            )


def _over(alarm: Told, setup: AlarmSetup, sent: Sequence[Message], zone: tzinfo) -> Iterator[Message]:
    if alarm.over is None:
        return
    heard = {(one.contact, one.channel) for one in sent if one.occasion == Occasion.BEGAN}
    for contact in setup.contacts:
        due = alarm.over if alarm.wakes else contact.ready(alarm.over, zone)
        for way in contact.channels:
            if (contact.name, way) in heard:
                yield Message(contact.name, way, Occasion.OVER, 0, due)


def next_try(tries: int, first: datetime, now: datetime) -> datetime | None:
    """When a message that failed so many times is tried again; None where it is given up, a day after the first try."""
    at = now + timedelta(minutes=RETRY_MIN[min(tries, len(RETRY_MIN)) - 1])
    return at if at - first <= GIVE_UP else None


def check_setup(setup: AlarmSetup) -> AlarmSetup:
    """Refuse at its field what cannot work: contacts without a name or named twice, addresses that are none, times that
    make no quiet hours, e-mail without a server."""
    check_range("minutes", setup.look_min, "min", 1, 720, field="look_min")
    check_range("minutes", setup.again_min, "min", 0, 1440, field="again_min")
    check_range("port", setup.mail_port, "", 1, 65535, field="mail_port")
    if len(setup.contacts) > MAX_CONTACTS:
        raise InputError("too many people", field="contacts", accepted=f"0 to {MAX_CONTACTS}")
    for place, contact in enumerate(setup.contacts):
        _check_contact(contact, f"contacts.{place}")
    names = [contact.name.casefold() for contact in setup.contacts]
    for place, name in enumerate(names):
        if name in names[:place]:
            raise InputError("this name is there already", field=f"contacts.{place}.name", accepted="another name")
    if any(contact.email for contact in setup.contacts):
        if not setup.mail_host:
            raise InputError(
                "e-mail needs a server that sends it", field="mail_host", accepted="the name of a mail server"
            )
        if not _is_email(setup.mail_from):
            raise InputError("this is no e-mail address", field="mail_from", accepted="name@server")
    return setup


def _check_contact(contact: Contact, field: str) -> None:
    if not contact.name.strip():
        raise InputError("a name is needed", field=f"{field}.name", accepted="1 to 40 characters")
    check_range("turn", contact.turn, "", 1, MAX_TURN, field=f"{field}.turn")
    if not contact.channels:
        raise InputError("it is not said how", field=f"{field}.webhook", accepted="a web address, an e-mail address")
    if contact.webhook and not _is_address(contact.webhook):
        raise InputError(
            "this is no web address", field=f"{field}.webhook", accepted="http:// or https:// and a server"
        )
    if contact.email and not _is_email(contact.email):
        raise InputError("this is no e-mail address", field=f"{field}.email", accepted="name@server")
    begins, ends = contact.quiet_from, contact.quiet_to
    if (begins is None) != (ends is None) or (begins is not None and begins == ends):
        raise InputError(
            "quiet hours need two different times", field=f"{field}.quiet_to", accepted="both times, or none"
        )


def _is_address(text: str) -> bool:
    try:
        parts = urlsplit(text)
        return parts.scheme in ("http", "https") and bool(parts.hostname) and parts.port != 0
    except ValueError:
        return False


def _is_email(text: str) -> bool:
    name, at, server = text.rpartition("@")
    return bool(name and at and server) and not any(sign.isspace() or sign in ",;<>" for sign in text)


def check_address(text: str, field: str) -> str:
    """A web address, stripped. Raises InputError."""
    if text.strip() and not _is_address(text.strip()):
        raise InputError("this is no web address", field=field, accepted="http:// or https:// and a server")
    return text.strip()
