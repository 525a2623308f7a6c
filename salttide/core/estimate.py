"""Drift of a parameter: what the system does by itself, read out of scattered readings and events between them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from math import sqrt

from .ledger import Change, Dose, Ledger, Reading
from .parameters import Parameter

WINDOW = timedelta(days=28)
LEAST_READINGS = 4
LEAST_SPAN = timedelta(days=6)


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


@dataclass(frozen=True)
class Carry:
    """A value that is linear in the unknown start and drift: value = known + start_share·C0 + days·r."""

    known: float
    start_share: float
    days: float

    def wait(self, days: float) -> Carry:
        """Let `days` pass."""
        return Carry(self.known, self.start_share, self.days + days)

    def through(self, parameter: Parameter, event: Change | Dose, volume_l: float) -> Carry:
        """Carry through an event; water of unknown content leaves the value as it is."""
        if isinstance(event, Dose):
            return Carry(self.known + event.amounts.get(parameter, 0.0) / volume_l, self.start_share, self.days)
        if parameter not in event.incoming:
            return self
        total = volume_l - event.out_l + event.in_l
        kept = (volume_l - event.out_l) / total
        added = event.incoming[parameter] * event.in_l / total
        return Carry(self.known * kept + added, self.start_share * kept, self.days * kept)


def drift(ledger: Ledger, parameter: Parameter, now: datetime, window: timedelta = WINDOW) -> Drift | None:
    """The drift over the `window` up to `now` (four weeks), by least squares weighted with each reading's scatter.

    Unknown are the value at the first reading (C0) and the daily drift (r). The exact mass balance of the changes
    and doses between the readings makes every reading linear in both: C_i = known_i + share_i·C0 + days_i·r.
    Only readings of the instrument used last count: two instruments are not one series. None where there are fewer
    than four readings or less than six days: too little to tell.
    """
    readings = _series(ledger.of(parameter), now, window)
    if len(readings) < LEAST_READINGS or readings[-1].at - readings[0].at < LEAST_SPAN:
        return None
    rows = _rows(readings, ledger, parameter)
    return _solve(readings, rows)


def _series(readings: list[Reading], now: datetime, window: timedelta) -> list[Reading]:
    if not readings:
        return []
    instrument = readings[-1].instrument
    return [r for r in readings if r.instrument == instrument and now - window <= r.at <= now]


def _rows(readings: list[Reading], ledger: Ledger, parameter: Parameter) -> list[Carry]:
    """Each reading as a linear expression in the start and the drift."""
    moments = sorted(
        [*readings, *(event for event in ledger.events(parameter) if event.at >= readings[0].at)],
        key=lambda moment: (moment.at, moment.id),
    )
    carry, at, rows = Carry(0.0, 1.0, 0.0), readings[0].at, []
    for moment in moments:
        carry, at = carry.wait((moment.at - at).total_seconds() / 86400), moment.at
        if isinstance(moment, Reading):
            rows.append(carry)
        elif rows:
            carry = carry.through(parameter, moment, ledger.volume_at(moment.at))
    return rows


def _solve(readings: list[Reading], rows: list[Carry]) -> Drift | None:
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
