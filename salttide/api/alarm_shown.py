"""An alarm as it is shown: what it is, who looked, and who was told."""

import sqlite3
from datetime import datetime

from salttide.core.alarm.alarm import Alarm, over_words, title_of, when_words, words_of
from salttide.core.alarm.telling import Occasion
from salttide.core.basics.phrases import phrase, phrases
from salttide.store import alarm as alarm_store

from .context import Context
from .models import Model


class MessageShown(Model):
    """A message of an alarm: to whom, by which way, and how it went."""

    contact: str
    channel: str
    words: str
    arrived: bool


class AlarmShown(Model):
    """An alarm. is_over: whether it is, over: why, where its words do not say so ·
    sheet: the emergency to open, empty for none · seen: by whom and when, in words."""

    id: int
    system_id: int
    system: str
    signal: str
    sensor: str
    title: str
    words: str
    over: str
    seen: str
    urgent: bool
    is_over: bool
    sheet: str
    raised: datetime
    messages: list[MessageShown]


def alarm_shown(ctx: Context, alarm: Alarm) -> AlarmShown:
    """An alarm in the keeper's words."""
    units, zone = ctx.keeper.units, ctx.keeper.zone
    seen = phrase("alarm.seen_by", name=alarm.seen_by, day=when_words(alarm.seen, zone)) if alarm.seen else ""
    return AlarmShown(
        id=alarm.id,
        system_id=alarm.system_id,
        system=ctx.stored.every_system[alarm.system_id].name,
        signal=alarm.signal,
        sensor=alarm.sensor,
        title=title_of(alarm, units),
        words=words_of(alarm, units, zone),
        over=over_words(alarm, zone),
        seen=seen,
        urgent=alarm.wakes,
        is_over=alarm.over is not None,
        sheet=alarm.sheet,
        raised=alarm.raised,
        messages=_messages(ctx, alarm_store.messages(ctx.connection, alarm.id)),
    )


def _messages(ctx: Context, rows: list[sqlite3.Row]) -> list[MessageShown]:
    """One line for each contact and way."""
    grouped: dict[tuple[str, str], list[sqlite3.Row]] = {}
    for row in rows:
        grouped.setdefault((row["contact"], row["channel"]), []).append(row)
    return [
        MessageShown(
            contact=contact,
            channel=phrases("alarm.channel")[channel],
            words=_how(ctx, ways),
            arrived=ways[-1]["sent_at"] is not None,
        )
        for (contact, channel), ways in grouped.items()
    ]


def _how(ctx: Context, rows: list[sqlite3.Row]) -> str:
    """How often it was told and when first, and what became of the last message where that did not arrive."""
    arrived = [row for row in rows if row["sent_at"] and row["occasion"] == Occasion.BEGAN]
    parts = []
    if arrived:
        first = when_words(datetime.fromisoformat(arrived[0]["sent_at"]), ctx.keeper.zone)
        times = phrase("alarm.told_times", count=len(arrived)) if len(arrived) > 1 else phrase("alarm.told_once")
        parts.append(f"{times} {first}")
    last = rows[-1]
    if last["sent_at"] and last["occasion"] == Occasion.OVER:
        parts.append(phrase("alarm.told_over"))
    elif not last["sent_at"] and last["next_at"] is None:
        parts.append(phrase("alarm.given_up", why=last["fault"]))
    elif not last["sent_at"]:
        parts.append(phrase("alarm.trying", why=last["fault"]) if last["tries"] else phrase("alarm.not_yet"))
    return "; ".join(parts)
