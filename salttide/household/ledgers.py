"""Ledgers for estimates: a system's entries, what its pumps delivered, planned daily doses, and water from other
systems. Ledgers are cached between requests, each until something in it changes."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, time, timedelta

from salttide.core.ledger.daily import by_day, with_delivered, with_planned
from salttide.core.ledger.entries import Dose, Ledger
from salttide.core.ledger.transfers import fill_linked
from salttide.core.planning.delivery import delivered_doses
from salttide.core.system.system import System
from salttide.store.ledger_rows import entries_of, is_dense

from .stored import Stored

SOURCE_KNOWN = timedelta(days=90)
"""How far back readings of another system say what its water held."""
EVER = datetime(2000, 1, 1, tzinfo=UTC)


def recorded(stored: Stored, system: System, since: datetime | None = None) -> Ledger:
    """The entries of a system, oldest first, from a moment on or all; the doses of a day as one."""
    own = _entries(stored, system, since)
    if not any(change.source for change in own.changes):
        return own
    earlier = since - SOURCE_KNOWN if since else None
    others = (one for one in stored.every_system.values() if one.id != system.id)
    found = {one.id: _entries(stored, one, earlier) for one in others}
    return fill_linked({**found, system.id: own})[system.id]


def complete(stored: Stored, system: System, ledger: Ledger, since: datetime | None, now: datetime) -> Ledger:
    """A recorded ledger with what pumps delivered up to now, and planned daily doses that were not written down."""
    found = with_delivered(ledger, _delivered(stored, system, since or EVER, now))
    return with_planned(found, stored.daily_plans[system.id], now, stored.keeper.zone)


def _entries(stored: Stored, system: System, since: datetime | None) -> Ledger:
    found = entries_of(stored.reading(), system, since, stored.earlier_volumes[system.id])
    return by_day(found, stored.keeper.zone)


def _delivered(stored: Stored, system: System, since: datetime, now: datetime) -> list[Dose]:
    """What the containers of a system delivered, day by day; archived ones until they were archived."""
    return [
        dose
        for one in stored.every_container[system.id]
        for dose in delivered_doses(one.container, since, min(now, one.away_at or now), stored.keeper.zone)
    ]


@dataclass(frozen=True)
class Kept:
    """A cached ledger: what it depends on, the moment it begins at, its entries, and these with daily doses."""

    stamp: tuple[object, ...]
    begins: datetime
    recorded: Ledger
    complete: Ledger


class Ledgers:
    """A cache of ledgers, by system."""

    def __init__(self) -> None:
        self.kept: dict[int, Kept] = {}

    def recent(self, stored: Stored, system: System, now: datetime, days: int) -> Kept:
        """The ledger of the last `days`, read again only when something in it, or the day, changes."""
        today = now.astimezone(stored.keeper.zone).date()
        stamp = self._stamp(stored, system, today)
        kept = self.kept.get(system.id)
        if kept is None or kept.stamp != stamp:
            begins = datetime.combine(today - timedelta(days=days), time(), stored.keeper.zone)
            entries = recorded(stored, system, begins)
            kept = Kept(stamp, begins, entries, complete(stored, system, entries, begins, now))
            self.kept[system.id] = kept
        return kept

    def since(self, stored: Stored, system: System, now: datetime, days: int, moment: datetime) -> Ledger:
        """The entries from a moment on: of the cached ledger, where it reaches back so far and holds every reading."""
        kept = self.recent(stored, system, now, days)
        if moment < kept.begins or is_dense(stored.reading(), system.id, kept.begins):
            return recorded(stored, system, moment)
        return kept.recorded.since(moment)

    def _stamp(self, stored: Stored, system: System, today: object) -> tuple[object, ...]:
        """Everything the ledger depends on; where water came from other systems, their entries too."""
        kept = self.kept.get(system.id)
        linked = kept is not None and any(change.source for change in kept.complete.changes)
        return (
            today,
            stored.keeper.zone,
            system.volume_l,
            stored.earlier_volumes[system.id],
            stored.entries_until.get(system.id),
            tuple(stored.daily_plans[system.id]),
            tuple(stored.every_container[system.id]),
            tuple(stored.entries_until.items()) if linked else None,
        )
