"""A message as it is sent: a title, plain words, and the same as facts for a program that reads it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import tzinfo

from ..science.units import UnitChoice
from .alarm import LIMIT, Alarm, over_words, title_of, words_of
from .telling import Message, Occasion


@dataclass(frozen=True)
class Letter:
    """key: the same whenever it is sent again, so that who gets it twice can tell · facts: for a webhook."""

    key: str
    title: str
    words: str
    facts: Mapping[str, str] = field(default_factory=dict)


def letter_of(alarm: Alarm, message: Message, system: str, link: str, units: UnitChoice, zone: tzinfo) -> Letter:
    """What is sent of an alarm. link: where it is looked at, left out where it is empty."""
    title = f"{system}: {title_of(alarm, units)}"
    words = words_of(alarm, units, zone)
    if message.occasion == Occasion.OVER:
        title, words = f"Over: {title}", f"{words} {over_words(alarm, zone)}".strip()
    elif message.round:
        title = f"Still: {title}"
    where = f"\n\nLook at it, and say that you have: {link}" if link else ""
    facts = {
        "occasion": message.occasion.value,
        "system": system,
        "signal": alarm.signal,
        "sensor": alarm.sensor,
        "kind": alarm.kind if alarm.kind != LIMIT else alarm.side.value,
        "since": alarm.began.isoformat(),
        "link": link,
    }
    return Letter(f"alarm-{alarm.id}-{message.occasion.value}-{message.round}", title, words + where, facts)


def test_letter(contact: str, link: str, number: str) -> Letter:
    """A message that only shows that it arrives. number: different each time."""
    words = f"This is a test. If {contact} can read it, alarms of Salt Tide arrive here."
    where = f"\n\n{link}" if link else ""
    facts = {"occasion": Occasion.TEST.value, "link": link}
    return Letter(f"test-{number}", "Salt Tide: a test of the alarms", words + where, facts)
