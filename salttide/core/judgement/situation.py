"""A situation: one system at one moment, with everything the rules of judgement need."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta, tzinfo
from functools import cached_property

from ..basics.phrasing import moment_words
from ..estimate.forecast import Course, expect
from ..estimate.rate import BUSY, Rate, rate_of
from ..estimate.unexplained import Question, question
from ..ledger.balance import Present, effect_in, present_water
from ..ledger.entries import Ledger, Moving, Reading
from ..ledger.plan import Plan
from ..ledger.verdict import REAL_SDS, joint_sd
from ..science.additives import AlkalinitySource
from ..science.parameters import FACTS, Parameter, Span, spoken
from ..science.sizing import DayLimit
from ..science.units import UnitChoice, show, show_difference
from ..system.inspection import Event, Sign, VisualCheck
from ..system.system import Stage, System

LOOK_DAYS = 14
"""A visual check older than this no longer says what is there (judgement)."""
FORESIGHT_DAYS = 60
FADED_DAYS = 60
"""A growth seen within this time and gone at the latest check has recently been beaten (judgement)."""


@dataclass(frozen=True)
class Situation:
    """One system, its ledger, and the moment at which it is judged."""

    system: System
    ledger: Ledger
    now: datetime
    zone: tzinfo
    units: UnitChoice = field(default_factory=dict)
    plan: Plan = field(default_factory=Plan)
    source: AlkalinitySource = AlkalinitySource.SODA_ASH

    expired: Mapping[tuple[str, Parameter], date] = field(default_factory=dict)
    """The expiry date of an instrument's reagent, where it has passed."""

    named: frozenset[str] = frozenset()
    """The signs of growths that were found out, by key: a programme fights them for what they are."""

    def method(self, question: str) -> str:
        """The keeper's answer to a question of method; empty where there is none."""
        return self.system.methods.answers.get(question, "")

    @property
    def today(self) -> date:
        """The keeper's date."""
        return self.now.astimezone(self.zone).date()

    @cached_property
    def present(self) -> Mapping[Parameter, Present]:
        """The present value of each parameter."""
        return present_water(self.ledger)

    @cached_property
    def rates(self) -> Mapping[Parameter, Rate | None]:
        """The rate of each dissolved parameter that was measured; None where there are too few readings."""
        return {p: rate_of(self.ledger, p, self.now) for p in self.present if FACTS[p].dissolved}

    @cached_property
    def questions(self) -> Mapping[Parameter, Question]:
        """What the keeper is asked about each parameter that something unrecorded moved."""
        found = {p: question(self.ledger, p, self.now) for p in self.rates if p in BUSY}
        return {p: asked for p, asked in found.items() if asked}

    @cached_property
    def courses(self) -> Mapping[Parameter, Course]:
        """The forecast of each of them for the next two months under the current plan."""
        return expect(self.ledger, self.rates, self.plan, self.now, self.now + timedelta(days=FORESIGHT_DAYS))

    def net(self, parameter: Parameter) -> float:
        """Its daily rate with the daily doses, 0 where its rate is not known."""
        found = self.rates.get(parameter)
        return found.per_day + self.plan.per_day(parameter) / self.ledger.volume_l if found else 0.0

    def moves(self, parameter: Parameter) -> bool:
        """Whether it surely rises or surely falls, with the daily doses counted."""
        found = self.rates.get(parameter)
        return found is not None and found.moves_with(self.net(parameter) - found.per_day)

    def net_use(self, parameter: Parameter) -> float:
        """What is used a day beyond what is given, as far as the readings tell; below 0 where more is given."""
        return -self.net(parameter) if self.moves(parameter) else 0.0

    @property
    def animals_inside(self) -> bool:
        """Whether there is livestock to be harmed."""
        return self.system.stage == Stage.RUNNING

    def value(self, parameter: Parameter) -> float | None:
        """The present value, None where it is not known."""
        known = self.present.get(parameter)
        return known.value if known else None

    def sd(self, parameter: Parameter) -> float:
        """The scatter of the reading that the present value rests on."""
        return self.present[parameter].sd

    def band(self, parameter: Parameter) -> Span | None:
        """The target band."""
        return self.system.bands.get(parameter)

    def gap(self, parameter: Parameter) -> float:
        """How far the present value lies outside its band: below 0 under it, 0 inside, unknown or without a band."""
        value, band = self.value(parameter), self.band(parameter)
        return 0.0 if value is None or band is None else value - band.nearest(value)

    def low(self, parameter: Parameter) -> bool:
        """Under its band by more than the instrument's scatter."""
        return self.gap(parameter) < 0 and -self.gap(parameter) >= self.sd(parameter)

    def high(self, parameter: Parameter) -> bool:
        """Over its band by more than the instrument's scatter."""
        return self.gap(parameter) > 0 and self.gap(parameter) >= self.sd(parameter)

    def limit(self, parameter: Parameter) -> DayLimit:
        """The most it may move in a day."""
        return self.system.limit(parameter)

    def readings(self, parameter: Parameter, days: float) -> list[Reading]:
        """Readings of the last `days` by the instrument used last, oldest first."""
        found = self.ledger.of(parameter)
        since = self.now - timedelta(days=days)
        return [r for r in found if r.instrument == found[-1].instrument and since <= r.at <= self.now]

    def pair(self, parameter: Parameter) -> tuple[Reading, Reading] | None:
        """The last two readings by one instrument, the older first."""
        found = self.readings(parameter, 3660)
        return (found[-2], found[-1]) if len(found) > 1 else None

    def widest_swing(self, parameter: Parameter, days: float) -> tuple[Reading, Reading] | None:
        """The two readings within 24 hours that lie furthest apart, in the last `days`; the earlier first."""
        found = self.readings(parameter, days)
        times = [reading.at for reading in found]
        within = [(bisect_right(times, at), bisect_right(times, at + timedelta(hours=24))) for at in times]
        pairs = [(a, b) for a, (first, end) in zip(found, within, strict=True) for b in found[first:end]]
        return max(pairs, key=lambda pair: abs(pair[1].value - pair[0].value), default=None)

    def between(self, parameter: Parameter, one: Reading, other: Reading) -> list[Moving]:
        """What moved the parameter between two readings."""
        return [e for e in self.ledger.events(parameter) if (one.at, one.id) < (e.at, e.id) < (other.at, other.id)]

    def unexplained(self, parameter: Parameter, before: Reading, after: Reading) -> float:
        """What is left of the difference of two readings once the changes and doses between are taken off."""
        value = before.value
        for event in self.between(parameter, before, after):
            value = effect_in(self.ledger, parameter, event).on(value)
        return after.value - value

    @cached_property
    def look(self) -> VisualCheck | None:
        """The latest visual check, if it is recent enough to count."""
        known = [look for look in self.ledger.sightings if self.days_ago(look.at) <= LOOK_DAYS]
        return known[-1] if known else None

    def seen(self, mark: str) -> tuple[Sign, ...]:
        """What the latest visual check found that carries this mark."""
        return tuple(sign for sign in self.look.signs if mark in sign.kind.marks) if self.look else ()

    def faded(self, mark: str) -> str:
        """The name of a sign with this mark that was there within two months and is gone at the latest check."""
        if self.look is None or self.seen(mark):
            return ""
        earlier = [look for look in self.ledger.sightings if self.days_ago(look.at) <= FADED_DAYS]
        names = [s.kind.name for look in earlier for s in look.signs if mark in s.kind.marks]
        return names[-1] if names else ""

    def happened(self, key: str, days: float) -> Event | None:
        """The latest event of a kind within the last `days`."""
        known = [h for h in self.ledger.happenings if h.kind.key == key and 0 <= self.days_ago(h.at) <= days]
        return known[-1] if known else None

    def days_ago(self, at: datetime) -> float:
        """Days from a moment to now."""
        return (self.now - at) / timedelta(days=1)

    def when(self, at: datetime) -> str:
        """The local date of a moment, in words."""
        return moment_words(at, self.zone)

    def show(self, parameter: Parameter, value: float) -> str:
        """A value in the keeper's unit."""
        return show(parameter, value, self.units)

    def difference(self, parameter: Parameter, size: float) -> str:
        """A difference in the keeper's unit, around the present value."""
        return show_difference(parameter, abs(size), self.value(parameter) or 0.0, self.units)

    def evidence(self, parameter: Parameter) -> str:
        """What is known of a parameter, as evidence in words."""
        known = self.present[parameter]
        how = known.reading.instrument if known.measured else "expected since"
        return f"{spoken(parameter)} {self.show(parameter, known.value)}, {self.when(known.reading.at)}, {how}"

    def saw(self, *marks: str) -> tuple[str, ...]:
        """What was seen with these marks, as evidence in words."""
        if self.look is None:
            return ("no visual check in the last two weeks",)
        found = [sign.words for mark in marks for sign in self.seen(mark)]
        day = self.when(self.look.at)
        return tuple(f"seen {day}: {words}" for words in dict.fromkeys(found)) or (
            f"visual check {day}: none of it seen",
        )


def real(before: Reading, after: Reading, size: float) -> bool:
    """Whether a difference of two readings exceeds twice their joint scatter."""
    return abs(size) > REAL_SDS * joint_sd(before, after)
