"""A cache of system states: what has not changed is not computed again."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Any

from salttide.core.ledger.entries import Ledger
from salttide.core.overview.state import SystemState


def minute_of(moment: datetime) -> datetime:
    """The minute of a moment: a household is good for one minute."""
    return moment.replace(second=0, microsecond=0)


class States:
    """One state for each system and number of days ahead. It is good while its ledger is the identical object and
    everything else it depends on is equal."""

    def __init__(self) -> None:
        self.kept: dict[tuple[int, int], tuple[Ledger, tuple[Any, ...], SystemState]] = {}

    def of(
        self,
        system_id: int,
        days: int,
        ledger: Ledger,
        rest: tuple[Any, ...],
        assemble: Callable[[], SystemState],
    ) -> SystemState:
        """The state of a system, by its ledger and everything else it depends on."""
        kept = self.kept.get((system_id, days))
        if kept is not None and kept[0] is ledger and kept[1] == rest:
            return kept[2]
        state = assemble()
        self.kept[system_id, days] = (ledger, rest, state)
        return state
