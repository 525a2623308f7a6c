"""States of systems as they were last assembled: what has not changed of a system is not worked out again."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from salttide.core.ledger.entries import Ledger
from salttide.core.overview.state import SystemState


class States:
    """One state for each system and reach. It holds while all that it follows from is the same: its ledger is the very
    same one, everything else is equal."""

    def __init__(self) -> None:
        self._kept: dict[tuple[int, int], tuple[Ledger, tuple[Any, ...], SystemState]] = {}

    def of(
        self,
        system_id: int,
        days: int,
        ledger: Ledger,
        rest: tuple[Any, ...],
        assemble: Callable[[], SystemState],
    ) -> SystemState:
        """The state of a system so many days ahead, by its ledger and the rest that it follows from."""
        kept = self._kept.get((system_id, days))
        if kept is not None and kept[0] is ledger and kept[1] == rest:
            return kept[2]
        state = assemble()
        self._kept[system_id, days] = (ledger, rest, state)
        return state
