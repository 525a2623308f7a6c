"""The error tree. Each error has a code and carries its data as attributes.

SaltTideError
├── InputError          what was typed cannot be read, or is refused at its field
│   ├── NumberError     not a number as this keeper writes numbers
│   ├── UnitError       a unit that the quantity does not have
│   ├── ScaleError      a value on one scale given where another is meant
│   ├── AmbiguousError  can be read in more than one way; asked back, never guessed
│   └── DomainError     a number outside what physics or the app allows
├── RuleError           readable and possible, but against a rule of the job
│   ├── PlanError       no plan can be made from what is known
│   └── GateError       a step at the tank is not allowed on yet; says what is missing
├── NotFoundError       the thing named does not exist
├── ConflictError       it exists already, or has moved on meanwhile
└── DataError           a packaged data file or the database is not what the program expects
    └── DamagedError    the database is damaged: it can be read from, not written to
"""

from __future__ import annotations

from collections.abc import Callable
from enum import Enum
from math import ceil, floor, inf, isfinite, log10
from numbers import Real
from typing import Any, TypeVar

from .locale import signed
from .measures import measure_of

Choice = TypeVar("Choice", bound=Enum)
Told = TypeVar("Told")


class SaltTideError(Exception):
    """Root of all errors of Salt Tide; `message` is written for the keeper."""

    code = "error"

    def __init__(self, message: str, *, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class InputError(SaltTideError, ValueError):
    """What was typed is refused at `field`; `accepted` says what would be taken. A ValueError to plain Python."""

    code = "input"

    def __init__(self, message: str, *, field: str = "", accepted: str = "") -> None:
        super().__init__(message, field=field)
        self.accepted = accepted


class NumberError(InputError):
    """The text is not a number as this keeper writes numbers."""

    code = "number"


class UnitError(InputError):
    """The unit does not belong to the quantity."""

    code = "unit"


class ScaleError(InputError):
    """A value on one scale where another is expected: pH on the total scale in place of NBS."""

    code = "scale"


class AmbiguousError(InputError):
    """It can be read in more than one way; `readings` are those ways, as one would type them unambiguously."""

    code = "ambiguous"

    def __init__(self, message: str, readings: tuple[str, ...], *, field: str = "") -> None:
        super().__init__(message, field=field, accepted=" or ".join(readings))
        self.readings = readings


def _plainly(value: float, decimals: int) -> str:
    text = f"{value:.{decimals}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def _decimals(value: float) -> int:
    """The decimals that show four significant digits."""
    return 0 if value == 0 or abs(value) >= 1e15 else max(0, 3 - floor(log10(abs(value))))


def _bound(value: float, up: bool, decimals: int | None = None) -> str:
    """An end of a range, rounded into the range: what is shown as accepted is accepted."""
    decimals = _decimals(value) if decimals is None else decimals
    if abs(value) >= 1e15 or decimals > 12:
        return f"{value:g}"
    scaled = value * 10**decimals
    whole = round(scaled) if abs(scaled - round(scaled)) < 1e-6 else (ceil(scaled) if up else floor(scaled))
    return _plainly(whole / 10**decimals, decimals)


def _beside(value: float, low: float, high: float, least: int | None) -> str:
    """A value outside low to high, with enough digits to show that it is."""
    try:
        if not isfinite(value) or abs(value) >= 1e15:
            return f"{value:g}"
    except OverflowError:
        return "more digits than any number here has"
    first = _decimals(value) if least is None else least
    for decimals in range(first, first + 12):
        text = _plainly(value, decimals)
        if not low <= float(text) <= high:
            return text
    return f"{value:g}"


def _accepted(low: float, high: float, unit: str, decimals: int | None) -> str:
    """What a range takes, in words."""
    first = "more than 0," if 0 < low < 1e-5 else signed(_bound(low, True, decimals))
    if high < inf:
        return f"{first}{' up' * first.endswith(',')} to {signed(_bound(high, False, decimals))} {unit}".rstrip()
    return f"{first} {unit} or more".replace("  ", " ")


class DomainError(InputError):
    """A value outside its range; names the value, the unit and the range. decimals: as an instrument shows them, else
    four significant digits, and more where needed to show that the value lies outside."""

    code = "domain"

    def __init__(
        self,
        name: str,
        value: float,
        unit: str,
        low: float,
        high: float,
        *,
        field: str = "",
        decimals: int | None = None,
    ) -> None:
        self.name, self.value, self.unit, self.low, self.high = name, value, unit, low, high
        how = measure_of(unit)
        given, least, most = (one if how.unit == unit else one / how.per for one in (value, low, high))
        accepted = _accepted(least, most, how.unit, decimals)
        super().__init__(
            f"{name} of {signed(_beside(given, least, most, decimals))} {how.unit}".rstrip()
            + f" is not possible here: {accepted} is accepted",
            field=field,
            accepted=accepted,
        )


class RuleError(SaltTideError):
    """Readable and possible, but against a rule of the job."""

    code = "rule"


class PlanError(RuleError):
    """No plan can be made from what is known; the message says what would help."""

    code = "plan"


class GateError(RuleError):
    """A gate is not met; `missing` lists what would open it, in order."""

    code = "gate"

    def __init__(self, message: str, missing: tuple[str, ...], *, field: str = "") -> None:
        super().__init__(message, field=field)
        self.missing = missing


class NotFoundError(SaltTideError):
    """The thing named does not exist."""

    code = "not-found"


class ConflictError(SaltTideError):
    """It exists already, or has moved on meanwhile."""

    code = "conflict"


class DataError(SaltTideError):
    """A packaged data file, or the database, is not what the program expects."""

    code = "data"


class DamagedError(DataError):
    """The database is damaged: what is readable can be taken out, nothing is written."""

    code = "damaged"


def at_field(field: str, act: Callable[[], Told]) -> Told:
    """What `act` returns; an InputError of it is moved to `field`.

    >>> at_field("litres", lambda: check_range("volume", 7, "L", 10, 20))
    Traceback (most recent call last):
    salttide.core.basics.errors.DomainError: volume of 7 L is not possible here: 10 to 20 L is accepted
    """
    try:
        return act()
    except InputError as error:
        error.field = field
        raise


def check_range(name: str, value: float, unit: str, low: float, high: float, *, field: str = "") -> float:
    """Return `value` if low <= value <= high, else raise DomainError (also for NaN); NumberError if it is no number.

    A salinity in ppt that looks like a specific gravity is asked back: AmbiguousError.

    >>> check_range("salinity", 35.0, "ppt", 0, 45)
    35.0
    """
    given: object = value
    if isinstance(given, bool) or not isinstance(given, Real):
        accepted = f"{signed(_bound(low, True))} to {signed(_bound(high, False))} {unit}".rstrip()
        raise NumberError(f"{name} must be a number, not {given!r}", field=field, accepted=accepted)
    if not low <= value <= high:
        raise DomainError(name, value, unit, low, high, field=field)
    if unit == "ppt" and "salinity" in name and GRAVITY_LOW <= value <= GRAVITY_HIGH:
        raise gravity_doubt(name, value, field)
    return value


GRAVITY_LOW, GRAVITY_HIGH = 1.01, 1.04
"""Specific gravities of any water that sea animals live in; as ppt these would be nearly fresh water."""


def gravity_doubt(name: str, value: float, field: str = "") -> AmbiguousError:
    """A specific gravity given where ppt is expected: asked back, never guessed."""
    message = (
        f"{name} of {signed(_plainly(value, 4))} ppt looks like a specific gravity: give ppt, about 35 for seawater"
    )
    return AmbiguousError(message, (f"SG {signed(_plainly(value, 4))}", "a salinity in ppt such as 35"), field=field)


def check_choice(kind: type[Choice], value: object, name: str = "") -> Choice:
    """The member of an enumeration that `value` is, or is the text of; else UnitError that lists what is taken.

    >>> from salttide.core.science.parameters import Parameter
    >>> check_choice(Parameter, "calcium")
    <Parameter.CALCIUM: 'calcium'>
    """
    try:
        return kind(value)
    except ValueError:
        accepted = ", ".join(str(member.value) for member in kind)
        raise UnitError(f"“{value}” is not a {name or kind.__name__}: {accepted}", accepted=accepted) from None


def check_ranges(name: str, values: Any, unit: str, low: float, high: float) -> Any:
    """As `check_range`, for a number or every number of an array; the first out of range is named."""
    if not hasattr(values, "__array__") or getattr(values, "ndim", 0) == 0:
        return check_range(name, values, unit, low, high)
    wrong = ~((values >= low) & (values <= high))
    if wrong.any():
        raise DomainError(name, float(values[wrong].flat[0]), unit, low, high)
    return values
