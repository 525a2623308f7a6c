"""Amounts out of all proportion to their system: recorded once confirmed, never without a question."""

from __future__ import annotations

from collections.abc import Sequence

from ..ledger.entries import Feed
from ..system.system import System
from .answer import JotContext, litres

MUCH_TOP_OFF, MUCH_HARVEST_G_L, MUCH_FOOD, MUCH_ANIMALS = 0.05, 5.0, 12.0, 50
"""Above these the keeper is asked (judgement): a system's water at once, macroalgae, portions, animals."""


def much_water(system: System, volume: float, share: float, jot: JotContext) -> tuple[str, ...]:
    """A doubt about a volume that is out of all proportion to the system."""
    if volume <= share * system.volume_l:
        return ()
    percent = jot.number(volume / system.volume_l * 100, 0)
    return (f"That is {percent} % of {system.name}'s {litres(system.volume_l)}. Is it right?",)


def much_food(feeds: Sequence[Feed], food: str, portions: float, jot: JotContext) -> tuple[str, ...]:
    """A doubt about a feed that is many times what was given before, or many portions where none was."""
    before = [feed.portions for feed in feeds if feed.food == food][-20:]
    most = 3 * max(before) if before else MUCH_FOOD
    if portions <= max(most, 3.0):
        return ()
    usual = f"; at most {jot.digits(max(before), 3)} before" if before else ""
    return (f"{jot.digits(portions, 3)} portions at once{usual}. Is it right?",)
