"""Water moved between systems: what came over is what the other system held at that moment."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from ..science.parameters import FACTS, Parameter
from .balance import present_water
from .entries import Change, Ledger


def fill_linked(ledgers: Mapping[int, Ledger]) -> dict[int, Ledger]:
    """The ledgers with the content of water from other systems filled in, by system number. In order of time, so that
    chains are followed; two systems that swap water at one moment each get what the other held before. Water of a
    system not among them stays unknown. Correcting the other's readings thus corrects what came over.

    >>> from datetime import datetime, timedelta
    >>> from salttide.core.ledger.entries import Reading
    >>> noon = datetime(2026, 11, 24, 12)
    >>> first = Ledger(100.0, [Reading(noon, Parameter.CALCIUM, 420.0, 8.0, "kit")])
    >>> second = Ledger(100.0, changes=[Change(noon + timedelta(days=1), 20, 20, {}, source=1)])
    >>> fill_linked({1: first, 2: second})[2].changes[0].incoming[Parameter.CALCIUM]
    420.0
    """
    open_changes = [(change, key) for key, ledger in ledgers.items() for change in ledger.changes if change.source]
    found = dict(ledgers)
    for at in sorted({change.at for change, _ in open_changes}):
        before = dict(found)
        for change, key in (pair for pair in open_changes if pair[0].at == at):
            if change.source in before:
                held = _held(before[change.source], change)
                found[key] = _with(found[key], change, held)
    return found


def _held(ledger: Ledger, change: Change) -> dict[Parameter, float]:
    """The composition of the other system's water just before the change."""
    earlier = replace(ledger, changes=[own for own in ledger.changes if own.at < change.at])
    water = present_water(earlier, change.at)
    return {parameter: known.value for parameter, known in water.items() if FACTS[parameter].dissolved}


def _with(ledger: Ledger, change: Change, held: dict[Parameter, float]) -> Ledger:
    filled = replace(change, incoming={**held, **change.incoming})
    return replace(ledger, changes=[filled if own is change else own for own in ledger.changes])
