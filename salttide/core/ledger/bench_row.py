"""Reading a row of the bench: a value, counted drops, a diluted sample, a second reading."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from ..basics.errors import DomainError, NumberError, UnitError
from ..basics.number_text import DecimalSign, parse_number
from ..basics.quantities import split_quantity
from ..science.instruments import correct_reading, instrument_line
from ..science.parameters import FACTS, Parameter, spoken
from ..science.units import UnitChoice, parse_measurement, show, show_difference
from .verdict import REAL_SDS, mean

MAX_READINGS = 4
LARGEST_DILUTION = 50
_SECOND = re.compile(r"\s+/\s+|;|(?<=\d)/(?=\d)")
_DILUTED = re.compile(r"^(.*?)\s*(?:[x×]\s*(\d+)|\b1\s*:\s*(\d+)\s*)$")
_BELOW = re.compile(r"^\s*(?:[<≤]|below|under|less than)\s*([^<≤]+)$", re.IGNORECASE)
COUNTED = "drops"
"""The unit of a row whose instrument counts; a bare number is then a count."""
_COUNTS = {COUNTED, "drop", "count", "counts", "division", "divisions"}


@dataclass(frozen=True)
class Instrument:
    """An instrument on the shelf for one parameter, all values canonical.

    sd: its scatter, one standard deviation · per_count: the value of one drop or division, 0 where it does not count ·
    checks: (standard, reading).
    """

    name: str
    parameter: Parameter
    sd: float
    per_count: float = 0.0
    checks: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Entry:
    """A row as read: the corrected value, the raw mean, its scatter, how it was obtained, and any doubt to ask
    about."""

    value: float
    raw: float
    sd: float
    how: str
    doubts: tuple[str, ...] = ()


def read_entry(
    text: str, instrument: Instrument, unit_key: str, units: UnitChoice, sign: DecimalSign = DecimalSign.POINT
) -> Entry:
    """The value behind what was typed for an instrument's parameter.

    "8.2" · "8.2 / 8.4" (a second reading, averaged) · "0.42 x2" or "0.42 1:1" (a sample diluted one to one) ·
    "19 drops" (counted) · "19 drops 1:1 / 20 drops 1:1" · "<5" (below the test's lowest mark). Then the line through
    the instrument's checks is applied.
    Raises NumberError, UnitError, AmbiguousError, or DomainError outside what is possible.

    >>> kit = Instrument("kit", Parameter.NITRATE, 1.0, per_count=0.5)
    >>> read_entry("19 drops 1:1", kit, "mg/L", {}).value
    19.0
    """
    parameter = instrument.parameter
    if lowest := _BELOW.match(text):
        return _below(read_entry(lowest.group(1), instrument, unit_key, units, sign), instrument, units)
    parts = [part.strip() for part in _SECOND.split(text) if part.strip()]
    if not parts:
        raise NumberError("nothing is typed", accepted="a number such as 8.2")
    if len(parts) > MAX_READINGS:
        raise NumberError(f"{len(parts)} readings of one sample", accepted=f"at most {MAX_READINGS}, such as 8.2 / 8.4")
    single = [_single(part, instrument, unit_key, sign) for part in parts]
    values, factor = [value for value, _, _ in single], max(factor for _, factor, _ in single)
    raw, sd = mean(values), instrument.sd * factor / sqrt(len(values))
    corrected, line = raw, ""
    if instrument.checks:
        corrected = float(correct_reading(raw, instrument.checks))
        sd *= instrument_line(instrument.checks)[1]
        line = f"{show(parameter, raw, units)} as shown, corrected by the checks of {instrument.name}"
    possible = FACTS[parameter].possible
    corrected = _inside(parameter, corrected, sd)
    if not possible.holds(corrected):
        raise DomainError(spoken(parameter), corrected, "", possible.low, possible.high)
    how = [words for _, _, words in single[:1] if words]
    if len(values) > 1:
        how.insert(0, f"mean of {' and '.join(show(parameter, value, units) for value in values)}")
    return Entry(
        corrected, raw, sd, "; ".join([*how, line] if line else how), _apart(instrument, values, factor, units)
    )


def below_limit(limit: float) -> tuple[float, float]:
    """The value and the scatter of what a test shows as below a limit: it lies anywhere between nothing and the limit.

    Source: mean and standard deviation of a uniform distribution, L / 2 and L / √12.
    """
    return limit / 2, limit / sqrt(12)


def _below(limit: Entry, instrument: Instrument, units: UnitChoice) -> Entry:
    parameter = instrument.parameter
    if not _can_be_diluted(parameter):
        raise UnitError(f"{spoken(parameter)} “below” something cannot be judged", accepted="the value itself")
    value, sd = below_limit(limit.value)
    how = f"below {show(parameter, limit.value, units)}, counted as half of that"
    return Entry(value, limit.raw, max(sd, limit.sd), how)


def _inside(parameter: Parameter, value: float, sd: float) -> float:
    """A correction may take a reading of zero slightly below zero: that counts as zero."""
    low = FACTS[parameter].possible.low
    return low if low - 2 * sd <= value < low else value


def _single(text: str, instrument: Instrument, unit_key: str, sign: DecimalSign) -> tuple[float, int, str]:
    """One reading: its value, the dilution factor, and both in words."""
    found = _DILUTED.match(text)
    factor, words = 1, []
    if found:
        text = found.group(1)
        factor = int(found.group(2)) if found.group(2) else 1 + int(found.group(3))
        if not 2 <= factor <= LARGEST_DILUTION or not _can_be_diluted(instrument.parameter):
            what = f"{spoken(instrument.parameter)} of a diluted sample" if factor > 1 else "dilution"
            raise UnitError(f"{what} cannot be read", accepted=f"x2 to x{LARGEST_DILUTION}, not for salinity or pH")
        words.append(f"sample diluted 1:{factor - 1}")
    number, unit = split_quantity(text)
    unit = unit or (COUNTED if unit_key == COUNTED else "")
    if unit.lower() in _COUNTS:
        if not instrument.per_count:
            raise UnitError(
                f"{instrument.name} counts nothing: say on the Shelf what one drop is worth",
                accepted="a number such as 8.2",
            )
        count = parse_number(number, sign)
        words.insert(0, f"{number.strip()} {unit}")
        if count < 0:
            raise NumberError("a count is not below zero", accepted="0 or more")
        return count * instrument.per_count * factor, factor, ", ".join(words)
    value = parse_measurement(instrument.parameter, text, unit_key, sign)
    return value * factor, factor, ", ".join(words)


def _can_be_diluted(parameter: Parameter) -> bool:
    return FACTS[parameter].dissolved and parameter != Parameter.SALINITY


def _apart(instrument: Instrument, values: Sequence[float], factor: int, units: UnitChoice) -> tuple[str, ...]:
    """The doubt where readings of one sample lie further apart than the instrument's scatter."""
    spread = max(values) - min(values)
    if len(values) == 1 or spread <= REAL_SDS * sqrt(2) * instrument.sd * factor:
        return ()
    shown = show_difference(instrument.parameter, spread, mean(values), units)
    bound = show_difference(instrument.parameter, REAL_SDS * sqrt(2) * instrument.sd * factor, mean(values), units)
    return (f"These readings of one sample differ by {shown}, more than {bound}: a further one would decide.",)
