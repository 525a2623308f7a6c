"""What happens when something fails: its sizes with their working, how long it takes, how bad it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..basics.number_text import show_number
from ..basics.phrasing import counted
from ..basics.working import Working
from .usual import Harm, harm_of


@dataclass(frozen=True)
class Effect:
    """One size of what happens. key: what it is, a key of the names on the screen · text: as the keeper reads it."""

    key: str
    value: float
    text: str
    working: Working = ()


@dataclass(frozen=True)
class Outcome:
    """What happens in this system. subject: what of several it is about · after_h: hours until harm begins, None where
    there is none or it begins at once · missing: what has to be measured for it, empty where all is known."""

    words: str
    effects: tuple[Effect, ...] = ()
    harm: Harm = Harm.NONE
    after_h: float | None = None
    missing: tuple[str, ...] = ()
    subject: str = ""

    def about(self, subject: str) -> Outcome:
        """The same for one of several."""
        return replace(self, subject=subject)


def unknown(*missing: str) -> Outcome:
    """Nothing can be said before these are measured."""
    return Outcome("", missing=missing)


def needed(**values: object) -> tuple[str, ...]:
    """The names of what is not known.

    >>> needed(rim_cm=None, fall_cm=1.0)
    ('rim_cm',)
    """
    return tuple(name for name, value in values.items() if value is None)


def worst(*sizes: tuple[str, float], alive: bool = True) -> Harm:
    """The worst of several sizes. Where nothing lives, what the water does is a nuisance at most.

    >>> worst(("floor_l", 3.0), ("salinity", 5.0)).name, worst(("salinity", 5.0), alive=False).name
    ('GRAVE', 'NUISANCE')
    """
    found = [Harm.NONE]
    for kind, size in sizes:
        harm = harm_of(kind, size)
        found.append(harm if alive or kind == "floor_l" else min(harm, Harm.NUISANCE))
    return max(found)


def hours_words(hours: float) -> str:
    """A time in words: minutes, hours, days.

    >>> hours_words(0.05), hours_words(1.0), hours_words(30.0), hours_words(100.0)
    ('3 minutes', '60 minutes', '30 hours', '4 days')
    """
    if hours < 2:
        return counted(max(1, round(hours * 60)), "minute")
    if hours < 48:
        return counted(round(hours), "hour")
    return counted(round(hours / 24), "day")


def soonest(hours: Sequence[float | None]) -> float | None:
    """The first of several times, None for none."""
    return min((each for each in hours if each is not None), default=None)


def percent_words(share: float) -> str:
    """A share in whole percent."""
    return f"{show_number(share * 100, 0)} %"
