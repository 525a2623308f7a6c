"""What leaves and enters by the network: alarm messages by webhook and e-mail, and the question to a controller."""

from __future__ import annotations

import json
import smtplib
import ssl
import urllib.error
import urllib.request
from email.message import EmailMessage
from email.utils import make_msgid
from http.client import HTTPException
from typing import Any

from salttide.core.alarm.letter import Letter
from salttide.core.alarm.telling import AlarmSetup, Channel, Contact, MailSecurity
from salttide.core.basics.errors import DataError
from salttide.core.basics.phrases import phrase

PATIENCE_S = 10.0
MAX_ANSWER = 2_000_000


class _NoRedirect(urllib.request.HTTPRedirectHandler):
    """An address that moved is not followed: a message would turn into a question."""

    def redirect_request(self, *_: object, **__: object) -> None:
        return None


_OPENER = urllib.request.build_opener(_NoRedirect)


def deliver(letter: Letter, channel: Channel, contact: Contact, setup: AlarmSetup, password: str) -> None:
    """Deliver a message by one way. Raises DataError that says why it did not arrive."""
    try:
        if channel == Channel.WEBHOOK:
            _post(letter, contact.webhook)
        else:
            _mail(letter, contact.email, setup, password)
    except DataError:
        raise
    except urllib.error.HTTPError as error:
        raise DataError(phrase("controller.wrong_status", status=error.code)) from error
    except (OSError, ValueError, HTTPException, smtplib.SMTPException) as error:
        raise DataError(phrase("controller.no_answer", why=_why(error))) from error


def _why(error: Exception) -> str:
    """The reason in the system's own words, short."""
    reason = getattr(error, "reason", None) or error
    return str(reason)[:200] or type(error).__name__


def _post(letter: Letter, address: str) -> None:
    said = {"id": letter.key, "title": letter.title, "words": letter.words, **letter.facts}
    body = json.dumps(said, ensure_ascii=False).encode()
    headers = {"Content-Type": "application/json", "User-Agent": "Salt Tide"}
    with _OPENER.open(urllib.request.Request(address, body, headers), timeout=PATIENCE_S) as answer:
        answer.read(1)


def _mail(letter: Letter, address: str, setup: AlarmSetup, password: str) -> None:
    mail = EmailMessage()
    mail["Subject"], mail["From"], mail["To"] = letter.title, setup.mail_from, address
    # Its own key as its identity: a mail program shows one that was sent twice only once.
    mail["Message-ID"] = f"<{letter.key}@{setup.mail_from.rpartition('@')[2] or make_msgid()}>"
    mail.set_content(letter.words)
    with _server(setup) as server:
        if setup.mail_security == MailSecurity.STARTTLS:
            server.starttls(context=ssl.create_default_context())
        if setup.mail_user:
            server.login(setup.mail_user, password)
        server.send_message(mail)


def _server(setup: AlarmSetup) -> smtplib.SMTP:
    if setup.mail_security == MailSecurity.TLS:
        context = ssl.create_default_context()
        return smtplib.SMTP_SSL(setup.mail_host, setup.mail_port, timeout=PATIENCE_S, context=context)
    return smtplib.SMTP(setup.mail_host, setup.mail_port, timeout=PATIENCE_S)


def ask(address: str) -> Any:
    """What a controller answers, as JSON. Raises DataError that says why there is nothing."""
    try:
        with _OPENER.open(address, timeout=PATIENCE_S) as answer:
            body = answer.read(MAX_ANSWER + 1)
    except urllib.error.HTTPError as error:
        raise DataError(phrase("controller.wrong_status", status=error.code)) from error
    except (OSError, ValueError, HTTPException) as error:
        raise DataError(phrase("controller.no_answer", why=_why(error))) from error
    if len(body) > MAX_ANSWER:
        raise DataError(phrase("controller.too_long", count=MAX_ANSWER))
    try:
        return json.loads(body)
    except ValueError as error:
        raise DataError(phrase("controller.not_json", why=str(error)[:200])) from error
