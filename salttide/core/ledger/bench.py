"""A test session at the bench: typed rows to readings, each with its verdict, its doubts or its error."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, tzinfo

from ..basics.errors import InputError
from ..basics.number_text import DecimalSign
from ..science.parameters import FACTS, Parameter, spoken
from ..science.units import UnitChoice, unit_named
from ..system.system import System
from .bench_row import COUNTED, Instrument, read_entry
from .entries import UNNAMED, Ledger, Reading
from .verdict import Expected, Verdict, doubts, judge

Foreseen = Callable[[Ledger, Parameter, datetime], Expected | None]
"""What a test is expected to read (`estimate.forecast.foreseen`)."""


@dataclass(frozen=True)
class Row:
    """One row as typed. `confirmed`: the keeper was asked about a doubtful result and says it is right."""

    parameter: Parameter
    text: str
    unit: str = ""
    instrument: str = ""
    note: str = ""
    confirmed: bool = False


@dataclass(frozen=True)
class Examined:
    """A row as understood: a reading with verdict and doubts, or an error; all None for an empty row."""

    row: Row
    reading: Reading | None = None
    verdict: Verdict | None = None
    doubts: tuple[str, ...] = ()
    error: InputError | None = None


def examine(
    rows: Sequence[Row],
    system: System,
    ledger: Ledger,
    instruments: Sequence[Instrument],
    foreseen: Foreseen,
    at: datetime,
    units: UnitChoice,
    zone: tzinfo,
    sign: DecimalSign = DecimalSign.POINT,
) -> list[Examined]:
    """Read every row on its own: a wrong one does not hide the others. What was measured earlier is held against the
    record as it was then."""
    ledger = ledger.until(at)
    return [_examine(row, system, ledger, instruments, foreseen, at, units, zone, sign) for row in rows]


def _examine(
    row: Row, system: System, ledger: Ledger, instruments: Sequence[Instrument], foreseen: Foreseen, at: datetime,
    units: UnitChoice, zone: tzinfo, sign: DecimalSign,
) -> Examined:  # fmt: skip
    if not row.text.strip():
        return Examined(row)
    try:
        own = row.unit not in ("", COUNTED)
        chosen = {**units, row.parameter: unit_named(row.parameter, row.unit).key} if own else dict(units)
        instrument = _instrument(row, instruments)
        entry = read_entry(row.text, instrument, row.unit, chosen, sign)
    except InputError as error:
        error.field = row.parameter.value
        return Examined(row, error=error)
    value = entry.value
    reading = Reading(
        at,
        row.parameter,
        value,
        entry.sd,
        instrument.name,
        note=row.note,
        raw=entry.raw if entry.raw != value else None,
        how=entry.how,
    )
    before = last_on(ledger, row.parameter, instrument.name)
    verdict = judge(reading, before, system.bands.get(row.parameter), chosen, zone)
    expected = foreseen(ledger, row.parameter, at)
    asked = [*entry.doubts, *doubts(reading, before, expected, chosen, zone)]
    return Examined(row, reading, verdict, tuple(asked))


def last_on(ledger: Ledger, parameter: Parameter, instrument: str) -> Reading | None:
    """The last reading by this instrument, or else the last by any."""
    readings = ledger.of(parameter)
    same = [reading for reading in readings if reading.instrument == instrument]
    fitting = same or readings
    return fitting[-1] if fitting else None


def _instrument(row: Row, instruments: Sequence[Instrument]) -> Instrument:
    able = [instrument for instrument in instruments if instrument.parameter == row.parameter]
    if not row.instrument:
        return Instrument(UNNAMED, row.parameter, FACTS[row.parameter].sd)
    for instrument in able:
        if instrument.name == row.instrument:
            return instrument
    names = ", ".join(instrument.name for instrument in able)
    raise InputError(f"“{row.instrument}” does not measure {spoken(row.parameter)}", accepted=names)


def accept(examined: Sequence[Examined]) -> list[Reading]:
    """The readings to keep. Raises InputError where nothing was entered, a row is wrong or a doubt is unanswered."""
    for row in examined:
        if row.error:
            raise row.error
    for row in examined:
        if row.doubts and not row.row.confirmed:
            raise InputError(row.doubts[0], field=row.row.parameter.value, accepted="confirm that it is right")
    readings = [row.reading for row in examined if row.reading]
    if not readings:
        raise InputError("Nothing is entered yet: one result is enough.", field="rows", accepted="at least one result")
    return readings


def usual_instruments(
    ledger: Ledger, instruments: Sequence[Instrument], parameters: Sequence[Parameter]
) -> Mapping[Parameter, str]:
    """The instrument to offer for each parameter: the one used last, else the first on the shelf, else none."""
    usual = {}
    for parameter in parameters:
        last = ledger.last(parameter)
        able = [instrument.name for instrument in instruments if instrument.parameter == parameter]
        usual[parameter] = last.instrument if last and last.instrument in able else (able or [""])[0]
    return usual
