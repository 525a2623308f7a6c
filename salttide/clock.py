"""The clock, passed in wherever "now" is needed: the machine's, or a fixed one for demo and tests."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Protocol


class Clock(Protocol):
    """Anything that tells the time."""

    def now(self) -> datetime:
        """The present moment, in UTC."""
        ...

    def ticks(self) -> datetime:
        """The machine's time, in UTC: timers go by it even where the clock is fixed."""
        ...


class MachineClock:
    """The machine's clock."""

    def now(self) -> datetime:
        """The present moment, in UTC."""
        return self.ticks()

    def ticks(self) -> datetime:
        """The same."""
        return datetime.now(UTC).replace(microsecond=0)


class PinnedClock:
    """A clock that stands still at a moment, or runs on from it."""

    def __init__(self, at: datetime, runs: bool = False) -> None:
        self._at = at.astimezone(UTC)
        self._started = datetime.now(UTC) if runs else None

    def now(self) -> datetime:
        """The pinned moment, plus what has passed since where the clock runs."""
        if self._started is None:
            return self._at
        return (self._at + (datetime.now(UTC) - self._started)).replace(microsecond=0)

    def ticks(self) -> datetime:
        """The machine's moment."""
        return datetime.now(UTC).replace(microsecond=0)
