"""How sure the estimates are: each test beside what was expected of it, what is believed to have happened, what the
instruments do, and what another test would tell."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta, tzinfo
from math import sqrt

from ..basics.number_text import show_number
from ..basics.phrasing import capital, either, moment_words
from ..ledger.entries import Ledger, Reading
from ..ledger.verdict import EXPECTED_SDS, REAL_SDS, expected_range, mean
from ..science.parameters import FACTS, Parameter, Span
from ..science.units import UnitChoice, show, show_difference, signed_difference
from .budget import speed_words
from .forecast import foreseen
from .rate import SURE_UNRECORDED, Account, Rate

WORTH_SAYING = 0.15
"""What is less likely than this is not said to be believed (judgement)."""
CHECK_DAYS = 90.0
"""So long a check against a standard holds (judgement)."""
OUTLIER_SHARE = 0.5
"""From this probability a test counts as one that went wrong (judgement)."""


@dataclass(frozen=True)
class TestSeen:
    """A test beside what was expected of it (canonical), with the deviation of what it might have read, and the
    probability that it went wrong."""

    reading: Reading
    expected: float
    sd: float
    wrong: float

    @property
    def between(self) -> tuple[float, float]:
        """What it was expected to read in eight of ten cases; nothing is below zero."""
        return max(0.0, self.expected - EXPECTED_SDS * self.sd), self.expected + EXPECTED_SDS * self.sd


@dataclass(frozen=True)
class InstrumentSeen:
    """What an instrument did: how many tests, its stated scatter and that which it showed (canonical), and by how much
    it reads above the one used last, with its standard deviation."""

    name: str
    count: int
    stated: float
    scatter: float
    above: tuple[float, float] | None


def tests_seen(rate: Rate) -> list[TestSeen]:
    """Every test that the rate rests on but the first, of which nothing was expected, oldest first."""
    account = _account(rate)
    rows = zip(account.readings, account.foretold, account.outliers, strict=True)
    return [TestSeen(reading, foretold.value, foretold.sd, wrong) for reading, foretold, wrong in rows][1:]


def _account(rate: Rate) -> Account:
    assert rate.account
    return rate.account


def instruments_seen(rate: Rate) -> list[InstrumentSeen]:
    """Every instrument, the one used last first; tests that went wrong do not count. The scatter that it showed is the
    stated one times how far tests lie from what was expected of them, in the deviations that were expected of that."""
    tests, account = tests_seen(rate), _account(rate)
    found = []
    for name in dict.fromkeys(reading.instrument for reading in reversed(account.readings)):
        sound = [test for test in tests if test.reading.instrument == name and _sound(test, account)]
        if sound:
            stated = mean(test.reading.sd for test in sound)
            times = sqrt(mean(((test.reading.value - test.expected) / test.sd) ** 2 for test in sound))
            found.append(InstrumentSeen(name, len(sound), stated, times * stated, account.offsets.get(name)))
    return found


@dataclass(frozen=True)
class InstrumentRecord:
    """What an instrument did in all systems: how many sound tests since when, its stated scatter and that which it
    showed (canonical); and beside which other instrument it was best compared: its name, by how much this one reads
    above it, and the standard deviation of that."""

    count: int
    since: datetime
    stated: float
    scatter: float
    beside: tuple[str, float, float] | None


def instrument_record(name: str, rates: Sequence[Rate]) -> InstrumentRecord | None:
    """An instrument in the rates of one parameter, of every system; None where it has no part in them."""
    seen = [(rate, one) for rate in rates for one in instruments_seen(rate) if one.name == name]
    if not seen:
        return None
    count = sum(one.count for _, one in seen)
    stated = sum(one.count * one.stated for _, one in seen) / count
    scatter = sqrt(sum(one.count * one.scatter**2 for _, one in seen) / count)
    tests = [test.reading.at for rate, _ in seen for test in tests_seen(rate) if test.reading.instrument == name]
    beside = [pair for rate, _ in seen for pair in _beside(name, rate)]
    return InstrumentRecord(count, min(tests), stated, scatter, min(beside, key=lambda pair: pair[2], default=None))


def _beside(name: str, rate: Rate) -> list[tuple[str, float, float]]:
    """By how much it reads above others in one system: above the one used last, or where it is that, above each."""
    account = _account(rate)
    last = account.readings[-1].instrument
    if name != last:
        return [(last, *account.offsets[name])]
    return [(other, -above, sd) for other, (above, sd) in account.offsets.items()]


def check_due(record: InstrumentRecord | None, checked: datetime | None, now: datetime) -> bool:
    """Whether an instrument is to be checked against a standard: the last check is long ago, or it surely reads other
    than another one since; never where it was not used."""
    if record is None:
        return False
    differs = record.beside is not None and abs(record.beside[1]) > REAL_SDS * max(record.beside[2], record.scatter / 2)
    long_ago = checked is None or now - checked > timedelta(days=CHECK_DAYS)
    return long_ago or (differs and checked is not None and checked < record.since)


def _sound(test: TestSeen, account: Account) -> bool:
    """Whether a test tells of its instrument: it did not go wrong, and was not the first after something unrecorded."""
    came = account.unrecorded
    surprised = came is not None and came.share >= SURE_UNRECORDED and test.reading is came.until
    return test.wrong < OUTLIER_SHARE and not surprised


def sd_after(rate: Rate, days: float, test_sd: float) -> float:
    """The standard deviation of the rate (canonical a day) after one more test, so many days after the last one, by an
    instrument of that scatter.

    Source: the variance of one of two jointly normal unknowns once the other is measured.

    >>> from math import inf
    >>> rate = Rate(-0.1, 0.02, 0, 0, 3.0, 0.03, 0.0, 0.0, None, 8, datetime(2026, 1, 1), datetime(2026, 1, 1))
    >>> round(sd_after(rate, 5.0, inf), 3), round(sd_after(rate, 5.0, 0.03), 4)
    (0.02, 0.0078)
    """
    leans = rate.together + days * rate.sd**2
    spread = rate.ahead(days)[1] ** 2 + test_sd**2
    return sqrt(max(0.0, rate.sd**2 - leans**2 / spread))


def narrowed_percent(rate: Rate, days: float, test_sd: float) -> float:
    """By how many percent such a test narrows the range of the rate."""
    return 100 * (1 - sd_after(rate, days, test_sd) / rate.sd) if rate.sd else 0.0


def beliefs(parameter: Parameter, rate: Rate, zone: tzinfo, units: UnitChoice) -> list[str]:
    """What is believed of the rate and the readings, in sentences with their probabilities."""
    account = _account(rate)
    said = [_goes_on(account)]
    if rate.step >= WORTH_SAYING and rate.stepped_at:
        said.append(f"It took a step about {moment_words(rate.stepped_at, zone)}: {_percent(rate.step)} likely.")
    came = account.unrecorded
    if came and came.share >= WORTH_SAYING:
        size = signed_difference(parameter, came.size, came.since.value, units)
        between = f"between {moment_words(came.since.at, zone)} and {moment_words(came.until.at, zone)}"
        said.append(f"Something of {size} came {between} that is not recorded: {_percent(came.share)} likely.")
    for test in tests_seen(rate):
        if test.wrong >= OUTLIER_SHARE:
            shown, at = show(parameter, test.reading.value, units), moment_words(test.reading.at, zone)
            said.append(f"The test of {at}, {shown}, went wrong: {_percent(test.wrong)} likely.")
    for name, above in account.offsets.items():
        said.append(f"{capital(name)} reads {above_words(parameter, above, units)} {account.readings[-1].instrument}.")
    return said


def above_words(parameter: Parameter, above: tuple[float, float], units: UnitChoice) -> str:
    """By how much an instrument reads above another (canonical, with the standard deviation), in words.

    >>> above_words(Parameter.CALCIUM, (-12.0, 4.0), {})
    '12 mg/L (± 5 mg/L) below'
    """
    around, (size, sd) = FACTS[parameter].likely.middle, above
    by, wide = (show_difference(parameter, each, around, units) for each in (abs(size), EXPECTED_SDS * sd))
    return f"{by} (± {wide}) {'above' if size > 0 else 'below'}"


def _goes_on(account: Account) -> str:
    """How the rate goes on, the likeliest first."""
    ways = sorted(account.ways.items(), key=lambda way: -way[1])
    words = [f"{name} ({_percent(share)})" for name, share in ways if share >= WORTH_SAYING]
    return f"The rate {either(words)}."


def _percent(share: float) -> str:
    return "more than 99 %" if share > 0.99 else f"{show_number(100 * share, 0)} %"


def test_expected(ledger: Ledger, parameter: Parameter, now: datetime) -> Span | None:
    """Between what a test now should read (canonical): the range that the Bench holds a result against. None without a
    rate."""
    expected, last = foreseen(ledger, parameter, now), ledger.last(parameter)
    if expected is None or last is None:
        return None
    return expected_range(expected, sqrt(expected.sd**2 + last.sd**2))


def sure_words(parameter: Parameter, rate: Rate, units: UnitChoice) -> str:
    """What a parameter does by itself, with the interval, in words.

    >>> at = datetime(2026, 1, 1)
    >>> sure_words(Parameter.CALCIUM, Rate(-4.0, 0.4, -4.5, -3.5, 420, 3, 0.0, 0.0, None, 8, at, at), {})
    'falls 4.0 mg/L a day (3.5 to 4.5)'
    """
    low, high = sorted((-rate.low, -rate.high)) if rate.per_day < 0 else (rate.low, rate.high)
    way = "falls" if rate.per_day < 0 else "rises"
    size = speed_words(parameter, abs(rate.per_day), units)
    between = f"{speed_words(parameter, low, units, False)} to {speed_words(parameter, high, units, False)}"
    return f"{way} {size} a day ({between})"
