"""Remedies for toxic ammonia with animals inside: the water change that brings it down, and what goes with it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

from ..basics.measures import litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import counted
from ..judgement.rules.animals import toxic_ammonia
from ..judgement.situation import Situation
from ..planning.work_order import planned_test
from ..science.ammonia import CAUTION_MG_L, Danger, ammonia_danger
from ..science.dilution import even_changes
from ..science.parameters import Parameter
from .remedy import Remedy, RemedyKind

AMMONIA = Parameter.AMMONIA
MAX_AT_ONCE = 0.5
"""More than half of the water at once shocks even where it matches (judgement); the rest follows an hour later."""
RETEST_H = {Danger.EMERGENCY: 2, Danger.ACT: 6, Danger.CAUTION: 24}
"""Hours to the next test (judgement)."""


@dataclass(frozen=True)
class AmmoniaChange:
    """Water changes that bring un-ionised ammonia (mg/L) down to `after`: so many of the same share (0..1) of the net
    volume, with the litres of each."""

    toxic: float
    after: float
    share: float
    times: int
    litres: float

    @property
    def all_l(self) -> float:
        """New water in all."""
        return self.times * self.litres


def ammonia_change(volume_l: float, toxic_mg_l: float, at_most: float = MAX_AT_ONCE) -> AmmoniaChange | None:
    """Changes of clean water of the same pH, salinity and temperature that bring un-ionised NH3 (mg/L) to where it is
    safe, 0.02 mg/L, each of at most a share (0..1) of `volume_l`; None where it is there already.

    >>> found = ammonia_change(200.0, 0.08)
    >>> found.times, round(found.share, 2), round(found.litres)
    (2, 0.5, 100)
    """
    if toxic_mg_l <= CAUTION_MG_L:
        return None
    times, share = even_changes(CAUTION_MG_L / toxic_mg_l, at_most)
    return AmmoniaChange(toxic_mg_l, CAUTION_MG_L, share, times, share * volume_l)


def lowering_ammonia(s: Situation) -> list[Remedy]:
    """The change first, where ammonia is an emergency or near it; else no food, and a test."""
    toxic = toxic_ammonia(s)
    if toxic is None:
        return []
    danger = ammonia_danger(toxic)
    hours = RETEST_H[danger]
    test = planned_test(AMMONIA, s.now.astimezone(s.zone) + timedelta(hours=hours), "and pH with it; work out again")
    again = f"Test again in {counted(hours, 'hour')}."
    care = "Take out what is dead. More air. Feed nothing. Nothing that raises pH."
    look = f"Feed nothing, look for something dead, and test ammonia in {counted(hours, 'hour')}"
    watch = Remedy(
        "watch", RemedyKind.WAIT, look,
        "Do not raise pH meanwhile.", "It is below what calls for a change: most such rises go by themselves.",
        danger == Danger.CAUTION, AMMONIA, None, (test,),
    )  # fmt: skip
    change = ammonia_change(s.system.volume_l, toxic)
    if danger == Danger.CAUTION or change is None:
        return [watch]
    words = f"{show_number(change.share * 100, 0)} % ({litres_words(change.litres, 0)})"
    times = words if change.times == 1 else f"{words}, {counted(change.times, 'time')} an hour apart"
    usual = s.system.methods.largest_fraction
    why = f"It takes toxic ammonia from {show_number(toxic, 3)} to {show_number(CAUTION_MG_L, 2)} mg/L"
    why += f"; your usual maximum of {show_number(usual * 100, 0)} % gives way." if change.share > usual else "."
    left = s.present[AMMONIA].value * CAUTION_MG_L / toxic
    act = Remedy(
        "change_now", RemedyKind.ACT, f"Ammonia: change {times}, now, with matched water", f"{care} {again}", why, True,
        AMMONIA, left, (test,),
        risk="Water of another pH, salinity or temperature does harm of its own; a higher pH makes ammonia more toxic.",
    )  # fmt: skip
    binding = Remedy(
        "binder", RemedyKind.ACT, "Use an ammonia-binding product as its label says", f"{care} {again}",
        "It buys hours until the new water is ready. Many tests read bound ammonia as if it were there.", True, AMMONIA,
        None, (test,),
    )  # fmt: skip
    return [act, binding]
