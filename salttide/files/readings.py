"""Readings in a table: our own columns, and any other table once its columns are mapped."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, tzinfo
from functools import lru_cache
from typing import NamedTuple

from salttide.core.basics.errors import GRAVITY_HIGH, GRAVITY_LOW, InputError, SaltTideError
from salttide.core.basics.number_text import DecimalSign, parse_number
from salttide.core.ledger.bench_row import below_limit
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import UNITS, Unit, unit_named

from .table import Line, unguarded

COLUMNS = ("at", "system", "parameter", "value", "unit", "instrument", "scatter", "note")
"""Our own columns: moment (ISO 8601), system's name, parameter, value in the unit beside it, instrument, one standard
deviation in the same unit, note."""
PARAMETERS = frozenset(parameter.value for parameter in Parameter)
ROLES = (*COLUMNS, "date", "time")
DATE_FORMATS = {"iso": "2026-11-24", "dmy": "24.11.2026", "mdy": "11/24/2026"}
FIRST_YEAR = 1980
MAX_KINDS = 10_000


@dataclass(frozen=True)
class ColumnMap:
    """A mapping of a table's columns. columns: name → one of ROLES, or the key of the parameter whose values the column
    holds · units: name → unit of that parameter's column · system, instrument, parameter, unit: for all rows where no
    column says it.
    """

    columns: Mapping[str, str]
    units: Mapping[str, str] = field(default_factory=dict)
    dates: str = "iso"
    decimal: DecimalSign = DecimalSign.POINT
    system: str = ""
    instrument: str = ""
    parameter: str = ""
    unit: str = ""


@dataclass(frozen=True)
class Known:
    """What rows may refer to: systems by folded name, the scatter of instruments, the keeper's zone, and now."""

    systems: Mapping[str, int]
    scatter: Mapping[tuple[str, Parameter], float]
    zone: tzinfo
    now: datetime


class Row(NamedTuple):
    """One reading from a table; `at` as stored, value and sd canonical."""

    system_id: int
    at: str
    parameter: str
    value: float
    sd: float
    instrument: str
    note: str


class RejectedRow(NamedTuple):
    """A rejected row, with its line and the reason."""

    line: int
    reason: str


def guess(header: Sequence[str]) -> ColumnMap:
    """A guess at the mapping from the names of the columns."""
    if set(header) <= set(COLUMNS) and {"at", "parameter", "value"} <= set(header):
        return ColumnMap({name: name for name in header})
    columns: dict[str, str] = {}
    units: dict[str, str] = {}
    for name in header:
        role, unit = _guess_one(name)
        if role and role not in columns.values():
            columns[name] = role
            if unit:
                units[name] = unit
    return ColumnMap(columns, units)


_ROLE_WORDS = {
    "date": "date", "day": "date", "datetime": "at", "timestamp": "at", "at": "at", "time": "time", "tank": "system",
    "system": "system", "aquarium": "system", "parameter": "parameter", "test": "parameter", "value": "value",
    "result": "value", "reading": "value", "unit": "unit", "units": "unit", "instrument": "instrument",
    "kit": "instrument", "method": "instrument", "note": "note", "notes": "note", "comment": "note",
    "scatter": "scatter",
}  # fmt: skip


def _guess_one(name: str) -> tuple[str, str]:
    words = name.strip().lower()
    if words in _ROLE_WORDS:
        return _ROLE_WORDS[words], ""
    plain, _, unit = words.replace("[", "(").replace("]", ")").partition("(")
    try:
        parameter = parameter_named(plain.strip())
    except InputError:
        return "", ""
    try:
        return parameter.value, unit_named(parameter, unit.strip(" )")).key if unit else implied_unit(plain)
    except InputError:
        return parameter.value, ""


def implied_unit(name: str) -> str:
    """The unit implied by a parameter's abbreviation: SG is not ppt, and NH4 counts another mass than NH3.

    >>> implied_unit("SG"), implied_unit("NH4"), implied_unit("Ca")
    ('SG 25/25', 'mg/L NH4', '')
    """
    return _IMPLIED.get(name.strip().lower(), "")


_IMPLIED = {"sg": "SG 25/25", "specific gravity": "SG 25/25", "nh4": "mg/L NH4"}


_SHORT = {
    "temp": Parameter.TEMPERATURE, "sal": Parameter.SALINITY, "sg": Parameter.SALINITY, "alk": Parameter.ALKALINITY,
    "kh": Parameter.ALKALINITY, "dkh": Parameter.ALKALINITY, "ca": Parameter.CALCIUM, "mg": Parameter.MAGNESIUM,
    "no3": Parameter.NITRATE, "po4": Parameter.PHOSPHATE, "nh3": Parameter.AMMONIA, "nh4": Parameter.AMMONIA,
    "specific gravity": Parameter.SALINITY,
    "no2": Parameter.NITRITE, "k": Parameter.POTASSIUM, "sr": Parameter.STRONTIUM, "i": Parameter.IODINE,
    "si": Parameter.SILICATE, "b": Parameter.BORON, "redox": Parameter.ORP,
}  # fmt: skip


@lru_cache(maxsize=4096)
def parameter_named(text: str) -> Parameter:
    """A parameter by its key, name or usual abbreviation. Raises InputError that lists what is known."""
    words = " ".join(text.lower().split())
    for parameter in Parameter:
        if words in (parameter.value, FACTS[parameter].name.lower()):
            return parameter
    if words in _SHORT:
        return _SHORT[words]
    raise InputError(f"“{text}” is not a parameter", accepted=", ".join(spoken(p) for p in Parameter))


def check_map(columns: ColumnMap, header: Sequence[str]) -> None:
    """Refuse a mapping that cannot work, at its field."""
    roles = list(columns.columns.values())
    for name, role in columns.columns.items():
        if name not in header:
            raise InputError(f"there is no column “{name}”", field="columns", accepted=", ".join(header))
        if role not in ROLES and role not in PARAMETERS:
            raise InputError(f"“{role}” is nothing a column can be", field="columns", accepted=", ".join(ROLES))
        if roles.count(role) > 1:
            raise InputError(f"two columns are {role}", field="columns", accepted="each once")
    if "at" not in roles and "date" not in roles:
        raise InputError("no column says when", field="columns", accepted="a column for at, or for date")
    wide = [role for role in roles if role in PARAMETERS]
    if not wide and "value" not in roles:
        raise InputError("no column holds values", field="columns", accepted="value, or a parameter")
    if wide and "value" in roles:
        raise InputError("either one column of values, or one for each parameter", field="columns", accepted="one way")
    if not wide and "parameter" not in roles and not columns.parameter:
        raise InputError("nothing says which parameter", field="parameter", accepted="a column, or one for all rows")
    if "system" not in roles and not columns.system:
        raise InputError("nothing says which system", field="system", accepted="a column, or one for all rows")
    if columns.dates not in DATE_FORMATS:
        raise InputError("dates are written in another way", field="dates", accepted=", ".join(DATE_FORMATS))


def rows_of(
    lines: Iterator[Line], header: Sequence[str], columns: ColumnMap, known: Known
) -> Iterator[Row | RejectedRow]:
    """Every reading of a table, or why a line gives none; empty cells of a parameter's column are no reading."""
    check_map(columns, header)
    place = {role: list(header).index(name) for name, role in columns.columns.items()}
    moment = _moments(place, columns, known)
    system = _systems(place, columns, known)
    wide = [
        (Parameter(role), at, columns.units.get(header[at], "")) for role, at in place.items() if role in PARAMETERS
    ]
    number = _numbers(columns.decimal)
    take = _Taker(place, columns, known, number)
    for number_of_line, cells, wrong in lines:
        if wrong:
            yield RejectedRow(number_of_line, wrong)
            continue
        try:
            at, system_id = moment(cells), system(cells)
            if not wide:
                yield take.long(cells, at, system_id)
                continue
            if not any(cells[column].strip() for _, column, _ in wide):
                yield RejectedRow(number_of_line, "there is no value on this line")
            for parameter, column, unit in wide:
                if cells[column].strip():
                    yield _cell(take, cells, (at, system_id, number_of_line), (parameter, column, unit))
        except SaltTideError as error:
            yield RejectedRow(number_of_line, error.message)


def _cell(
    take: _Taker, cells: list[str], row: tuple[str, int, int], column: tuple[Parameter, int, str]
) -> Row | RejectedRow:
    """The reading of one cell of a parameter's column; a wrong one does not hide the others of its line."""
    at, system_id, number = row
    parameter, place, unit = column
    try:
        return take.one(cells, at, system_id, parameter.value, cells[place], unit)
    except SaltTideError as error:
        return RejectedRow(number, f"{spoken(parameter)}: {error.message}")


class _Kind(NamedTuple):
    """Everything that follows from a row's names: parameter, unit and instrument."""

    parameter: str
    to_canonical: Callable[[float], float]
    low: float
    high: float
    sd: float
    instrument: str
    words: str
    ppt: bool


class _Taker:
    """Makes readings from cells; what depends only on names is resolved once for each set of names."""

    def __init__(
        self, place: Mapping[str, int], columns: ColumnMap, known: Known, number: Callable[[str], float]
    ) -> None:
        self.columns, self.known, self.number = columns, known, number
        self.value, self.parameter = place.get("value", -1), place.get("parameter", -1)
        self.unit, self.instrument = place.get("unit", -1), place.get("instrument", -1)
        self.scatter, self.note = place.get("scatter", -1), place.get("note", -1)
        self.kinds: dict[tuple[str, str, str], _Kind] = {}

    def long(self, cells: list[str], at: str, system_id: int) -> Row:
        """The reading of a row that names its parameter."""
        name = cells[self.parameter] if self.parameter >= 0 else self.columns.parameter
        unit = cells[self.unit] if self.unit >= 0 else self.columns.unit
        return self.one(cells, at, system_id, name, cells[self.value], unit)

    def one(self, cells: list[str], at: str, system_id: int, name: str, text: str, unit: str) -> Row:
        """One reading of a parameter."""
        instrument = cells[self.instrument] if self.instrument >= 0 else ""
        kind = self.kinds.get((name, unit, instrument)) or self._kind(name, unit, instrument)
        try:
            shown = float(text) if self.columns.decimal == DecimalSign.POINT else self.number(text)
        except ValueError:
            shown = self.number(text.lstrip().removeprefix("<"))
        if not kind.low <= shown <= kind.high:
            raise InputError(f"{kind.words} {text.strip()} is not possible: {self._range(kind, unit)}")
        if kind.ppt and GRAVITY_LOW <= shown <= GRAVITY_HIGH:
            raise InputError(f"{text.strip()} looks like a specific gravity: choose SG as the unit of this column")
        value = kind.to_canonical(shown)
        sd, note = kind.sd, ""
        if "<" in text:
            value, spread = below_limit(value)
            sd = max(sd, spread)
        if self.scatter >= 0 and cells[self.scatter]:
            size = self.number(cells[self.scatter])
            sd = (size > 0 and abs(kind.to_canonical(min(shown + size, kind.high)) - value)) or sd
        if self.note >= 0 and cells[self.note]:
            note = unguarded(cells[self.note].strip())[:500]
        if "<" in text:
            note = f"reported as {text.strip()}; {note}".rstrip("; ")
        return Row(system_id, at, kind.parameter, value, sd, kind.instrument, note)

    def _kind(self, name: str, unit: str, instrument: str) -> _Kind:
        parameter = parameter_named(name)
        chosen, low, high = _unit(parameter, unit or implied_unit(name))
        called = (unguarded(instrument.strip()) or self.columns.instrument or "imported")[:60]
        sd = self.known.scatter.get((called, parameter), FACTS[parameter].sd)
        ppt = parameter == Parameter.SALINITY and chosen.key == "ppt"
        kind = _Kind(parameter.value, chosen.to_canonical, low, high, sd, called, spoken(parameter), ppt)
        if len(self.kinds) < MAX_KINDS:
            self.kinds[name, unit, instrument] = kind
        return kind

    @staticmethod
    def _range(kind: _Kind, unit: str) -> str:
        label = _unit(Parameter(kind.parameter), unit)[0].label
        return f"{kind.low:.6g} to {kind.high:.6g} {label}".rstrip()


def _unit(parameter: Parameter, text: str) -> tuple[Unit, float, float]:
    """The unit with the ends of what is possible in it."""
    unit = unit_named(parameter, text.strip()) if text.strip() else UNITS[parameter][0]
    ends = sorted(unit.from_canonical(end) for end in (FACTS[parameter].possible.low, FACTS[parameter].possible.high))
    return unit, ends[0], ends[1]


def _numbers(sign: DecimalSign) -> Callable[[str], float]:
    plain = re.compile(r"\s*[+-]?\d+(?:\.\d+)?\s*").fullmatch

    def number(text: str) -> float:
        written = text.replace(",", ".") if sign == DecimalSign.COMMA and "." not in text else text
        if plain(written) and not (sign == DecimalSign.POINT and "," in text):
            return float(written)
        return parse_number(text, sign)

    return number


def _systems(place: Mapping[str, int], columns: ColumnMap, known: Known) -> Callable[[list[str]], int]:
    column = place.get("system", -1)
    names = {name.strip().casefold(): key for name, key in known.systems.items()}

    as_written: dict[str, int] = {}

    def system(cells: list[str]) -> int:
        name = (cells[column] if column >= 0 else "") or columns.system
        if name in as_written:
            return as_written[name]
        found = names.get(name.strip().casefold())
        if found is not None:
            as_written[name] = found
        if found is None:
            raise InputError(f"there is no system “{name.strip()}” (there are {', '.join(known.systems)})")
        return found

    return system


def _moments(place: Mapping[str, int], columns: ColumnMap, known: Known) -> Callable[[list[str]], str]:
    """The moment of a row as stored, in UTC; local time without a zone is the keeper's."""
    at, day, time = place.get("at", -1), place.get("date", -1), place.get("time", -1)
    now = known.now.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")

    def moment(cells: list[str]) -> str:
        text = cells[at] if at >= 0 else cells[day]
        if time >= 0 and cells[time].strip():
            text = f"{text.strip()} {cells[time].strip()}"
        stored = _stored(text, columns.dates, known.zone)
        if stored > now:
            raise InputError(f"{text.strip()} lies in the future")
        return stored

    return moment


_STORED = re.compile(r"\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ").fullmatch
_WRITTEN = re.compile(
    r"\s*(\d{1,4})[./-](\d{1,2})[./-](\d{2,4})(?:[ T]+(\d{1,2})[:.](\d\d)(?:[:.](\d\d))?)?\s*"
).fullmatch


def _stored(text: str, dates: str, zone: tzinfo) -> str:
    """A written moment as stored; a day alone counts as noon."""
    try:
        if _STORED(text):
            moment = datetime.fromisoformat(text)
            if moment.year >= FIRST_YEAR:
                return text
        elif dates == "iso":
            moment = datetime.fromisoformat(text.strip().replace(" UTC", "+00:00"))
            if len(text.strip()) == 10:
                moment = moment.replace(hour=12)
        else:
            moment = _written(text, dates)
    except ValueError:
        wanted = DATE_FORMATS[dates]
        raise InputError(f"“{text.strip()}” is not a moment such as {wanted} or {wanted} 18:30") from None
    if moment.year < FIRST_YEAR:
        raise InputError(f"{text.strip()} lies before {FIRST_YEAR}")
    local = moment if moment.tzinfo else _in_zone(moment, zone, text)
    return local.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def _in_zone(moment: datetime, zone: tzinfo, text: str) -> datetime:
    """A local time with its zone. Hours that a clock change skips or repeats are refused as ambiguous."""
    first, second = (moment.replace(tzinfo=zone, fold=fold) for fold in (0, 1))
    if first.utcoffset() != second.utcoffset():
        there = first.astimezone(UTC).astimezone(zone).replace(tzinfo=None) == moment
        problem = "there twice" if there else "not there at all"
        raise InputError(
            f"{text.strip()} is {problem} on that day, as the clock is changed:"
            " write it with its offset, such as +01:00"
        )
    return first


def _written(text: str, dates: str) -> datetime:
    found = _WRITTEN(text)
    if not found:
        raise ValueError(text)
    first, second, year = int(found[1]), int(found[2]), int(found[3])
    day, month = (first, second) if dates == "dmy" else (second, first)
    year += 2000 if year < 100 else 0
    hour, minute, second = (int(part) if part else None for part in (found[4], found[5], found[6]))  # type: ignore[assignment]
    return datetime(year, month, day, 12 if hour is None else hour, minute or 0, second or 0)
