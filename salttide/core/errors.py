"""The error tree. Each error has a code and carries its data as attributes.

SaltTideError
├── InputError          what was typed cannot be read, or is refused at its field
│   ├── NumberError     not a number as this keeper writes numbers
│   ├── UnitError       a unit that the quantity does not have
│   └── DomainError     a number outside what physics or the app allows
├── RuleError           readable and possible, but against a rule of the job
│   ├── PlanError       no plan can be made from what is known
│   └── GateError       a step at the tank is not allowed on yet; says what is missing
├── NotFoundError       the thing named does not exist
├── ConflictError       it exists already, or has moved on meanwhile
└── DataError           a packaged data file or the database is not what the program expects
"""

from __future__ import annotations


class SaltTideError(Exception):
    """Root of all errors of Salt Tide; `message` is written for the keeper."""

    code = "error"

    def __init__(self, message: str, *, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class InputError(SaltTideError):
    """What was typed is refused at `field`; `accepted` says what would be taken."""

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


class DomainError(InputError):
    """A value outside its range; names the value, the unit and the range."""

    code = "domain"

    def __init__(self, name: str, value: float, unit: str, low: float, high: float, *, field: str = "") -> None:
        accepted = f"{low:g} to {high:g} {unit}".rstrip()
        super().__init__(
            f"{name} of {value:g} {unit}".rstrip() + f" is not possible here: {accepted} is accepted",
            field=field,
            accepted=accepted,
        )
        self.name, self.value, self.unit, self.low, self.high = name, value, unit, low, high


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


def check_range(name: str, value: float, unit: str, low: float, high: float, *, field: str = "") -> float:
    """Return `value` if low <= value <= high, else raise DomainError (also for NaN).

    >>> check_range("salinity", 35.0, "ppt", 0, 45)
    35.0
    """
    if not low <= value <= high:
        raise DomainError(name, value, unit, low, high, field=field)
    return value
