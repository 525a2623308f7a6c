"""Drift of a parameter over a stated window: a straight line, for comparing one stretch of time with another.

The system's present own rate is estimated by `rate`.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from math import sqrt

from ..science.parameters import Parameter
from .balance import LinearValue, effect_in
from .entries import Ledger, Reading

WINDOW = timedelta(days=28)
MIN_READINGS = 4
MIN_SPAN = timedelta(days=6)


@dataclass(frozen=True)
class Drift:
    """Change per day (canonical unit/day) with its standard deviation, from `count` readings."""

    per_day: float
    sd: float
    count: int

    @property
    def real(self) -> bool:
        """Whether it exceeds twice its own standard deviation."""
        return abs(self.per_day) > 2 * self.sd


def drift(ledger: Ledger, parameter: Parameter, now: datetime, window: timedelta = WINDOW) -> Drift | None:
    """The drift over the `window` up to `now` (four weeks), by least squares weighted with each reading's scatter.

    Unknown are the value at the first reading (C0) and the daily drift (r). The exact mass balance of the changes
    and doses between the readings makes every reading linear in both: C_i = known_i + share_i·C0 + days_i·r.
    Only readings of the instrument used last count: two instruments are not one series. None where there are fewer
    than four readings or less than six days: too little to tell.
    """
    readings = _series(ledger.of(parameter), now, window)
    if len(readings) < MIN_READINGS or readings[-1].at - readings[0].at < MIN_SPAN:
        return None
    rows = _rows(readings, ledger, parameter)
    return _solve(readings, rows)


def _series(readings: list[Reading], now: datetime, window: timedelta) -> list[Reading]:
    if not readings:
        return []
    instrument = readings[-1].instrument
    return [r for r in readings if r.instrument == instrument and now - window <= r.at <= now]


def _rows(readings: list[Reading], ledger: Ledger, parameter: Parameter) -> list[LinearValue]:
    """Each reading as a linear expression in the start and the drift."""
    moments = sorted(
        [*readings, *(event for event in ledger.events(parameter) if event.at >= readings[0].at)],
        key=lambda moment: (moment.at, moment.id),
    )
    carry, at, rows = LinearValue(), readings[0].at, []
    for moment in moments:
        carry, at = carry.wait((moment.at - at).total_seconds() / 86400), moment.at
        if isinstance(moment, Reading):
            rows.append(carry)
        elif rows:
            carry = carry.through(effect_in(ledger, parameter, moment))
    return rows


def _solve(readings: list[Reading], rows: list[LinearValue]) -> Drift | None:
    """Normal equations of two unknowns; the scatter is the larger of what is stated and what is seen."""
    a = b = c = p = q = 0.0
    for reading, row in zip(readings, rows, strict=True):
        weight = 1 / reading.sd**2
        y = reading.value - row.known
        a += weight * row.start_share**2
        b += weight * row.start_share * row.days
        c += weight * row.days**2
        p += weight * row.start_share * y
        q += weight * row.days * y
    determinant = a * c - b * b
    if determinant <= 1e-12 * a * c:
        return None
    start, rate = (c * p - b * q) / determinant, (a * q - b * p) / determinant
    misfit = sum(
        ((reading.value - row.known - row.start_share * start - row.days * rate) / reading.sd) ** 2
        for reading, row in zip(readings, rows, strict=True)
    )
    stretch = max(1.0, sqrt(misfit / (len(rows) - 2)))
    return Drift(rate, sqrt(a / determinant) * stretch, len(rows))
