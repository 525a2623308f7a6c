"""A simple model of what grows on surfaces: film, hair algae and dinoflagellates. Its own, and shares nothing with the
core: growth by light, nutrients and flow, grazing, removal by hand, and competition for the same surface.

It is made to tell whether acts follow one another sensibly, not how fast a real tank clears: nothing of it is measured.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from random import Random


class GrowthKind(StrEnum):
    """What grows."""

    FILM = "film"
    HAIR = "hair"
    STRANDS = "strands"


@dataclass(frozen=True)
class Way:
    """How a kind grows.

    rate: a day at best · light_h: hours at which it grows half as fast · nitrate, phosphate: mg/L at which it does ·
    still: how much of its growth needs still water (0..1) · muck: how much of it detritus alone feeds · crowded: how
    much of its growth others take that live on nutrients (0..1).
    """

    rate: float
    light_h: float
    nitrate: float
    phosphate: float
    still: float = 0.0
    muck: float = 0.0
    crowded: float = 0.0


WAYS: Mapping[GrowthKind, Way] = {
    GrowthKind.FILM: Way(0.42, 3.0, 1.0, 0.01, still=0.6, muck=0.7),
    GrowthKind.HAIR: Way(0.22, 5.0, 1.5, 0.02),
    GrowthKind.STRANDS: Way(0.30, 4.0, 0.1, 0.002, crowded=0.9),
}
HANDS: Mapping[GrowthKind, tuple[float, float]] = {
    GrowthKind.FILM: (0.4, 0.75),
    GrowthKind.HAIR: (0.3, 0.6),
    GrowthKind.STRANDS: (0.3, 0.6),
}
"""What a hand takes out at a time, from and to, as a share: film comes off in sheets, hair holds on."""
SEED = 0.002
"""The share of the surface that spores and remains cover at least: nothing is ever wiped out."""
EATEN_NO3, EATEN_PO4 = 5.0, 0.06
"""mg/L that a whole surface takes up while it grows once over, and gives back where it dies and stays."""


@dataclass
class Surface:
    """A tank's surface with one growth on it, and its water. cover, others: shares of the surface · still, muck: 0..1 ·
    nitrate, phosphate: mg/L · fed: portions a day, each with its own nitrate and phosphate · grazers: how fast they eat
    it (a day) · hand: the share that one lifting or pulling takes out."""

    kind: GrowthKind
    cover: float
    nitrate: float
    phosphate: float
    light_h: float = 10.0
    still: float = 1.0
    muck: float = 0.6
    fed: float = 6.0
    grazers: float = 0.0
    others: float = 0.1
    way: Way | None = None
    swims: float = 0.0
    steriliser: bool = False
    dark_days: int = 0
    exports: float = 0.02
    portion: tuple[float, float] = (0.035, 0.0012)
    hand: float = 0.5

    def __post_init__(self) -> None:
        self.way = self.way or WAYS[self.kind]

    @property
    def speed(self) -> float:
        """How fast it grows now, a day."""
        assert self.way
        way, light = self.way, 0.0 if self.dark_days else self.light_h
        lit = light / (light + way.light_h)
        food = min(self.nitrate / (self.nitrate + way.nitrate), self.phosphate / (self.phosphate + way.phosphate))
        food = max(food, way.muck * self.muck)
        place = 1 - way.still * (1 - self.still)
        return way.rate * lit * food * place * (1 - way.crowded * self.others)

    def live(self) -> None:
        """One day."""
        free = max(0.0, 1 - self.cover - 0.5 * self.others)
        grown = self.speed * self.cover * free
        lost = (0.02 + self.grazers + (0.16 if self.dark_days else 0.0)) * self.cover
        if self.steriliser:
            lost += 0.22 * self.swims * self.cover
        self.cover = min(1.0, max(SEED, self.cover + grown - lost))
        self.nitrate += self.fed * self.portion[0] + EATEN_NO3 * (0.5 * lost - grown)
        self.phosphate += self.fed * self.portion[1] + EATEN_PO4 * (0.5 * lost - grown)
        self._others()
        self.muck = min(1.0, self.muck + 0.004 * self.fed)
        for name in ("nitrate", "phosphate"):
            setattr(self, name, max(0.0, getattr(self, name) * (1 - self.exports)))
        self.dark_days = max(0, self.dark_days - 1)

    def _others(self) -> None:
        """What lives beside it: more of it where there are nutrients, none where they are at the floor."""
        room = min(self.nitrate / (self.nitrate + 1.0), self.phosphate / (self.phosphate + 0.015))
        self.others += 0.06 * (room - self.others)

    def lift(self, drained: bool = True) -> None:
        """Take out by hand what a hand takes, with what it holds. drained: the muck below it goes too."""
        self.cover = max(SEED, self.cover * (1 - self.hand))
        if drained:
            self.muck *= 0.75

    def take_out(self, share: float) -> None:
        """Take a share (0..1) of the nutrients out: by a change for clean water, a harvest or media."""
        self.nitrate *= 1 - share
        self.phosphate *= 1 - share

    def dose(self, nitrate: float, phosphate: float) -> None:
        """Raise nutrients, mg/L."""
        self.nitrate += nitrate
        self.phosphate += phosphate

    def overgrown(self, chance: Random) -> float:
        """The share that a keeper sees, who estimates: off by a fifth or so."""
        return max(0.0, min(1.0, self.cover * chance.lognormvariate(0, 0.2)))


def drawn(kind: GrowthKind, chance: Random) -> Surface:
    """A tank drawn by lot, with its growth at half the surface and its own ways."""
    base = WAYS[kind]
    way = Way(
        base.rate * chance.uniform(0.7, 1.5), base.light_h, base.nitrate, base.phosphate, base.still, base.muck,
        base.crowded,
    )  # fmt: skip
    rich = kind != GrowthKind.STRANDS
    return Surface(
        kind, chance.uniform(0.3, 0.6), chance.uniform(6, 14) if rich else chance.uniform(0.2, 1.0),
        chance.uniform(0.06, 0.14) if rich else chance.uniform(0.0, 0.015), chance.uniform(9, 11),
        muck=chance.uniform(0.4, 0.8), fed=chance.uniform(5, 8), way=way, others=0.3 if rich else 0.05,
        swims=chance.uniform(0.6, 1.0), hand=chance.uniform(*HANDS[kind]),
    )  # fmt: skip
