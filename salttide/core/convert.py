"""Any value from any unit that the app knows to any other of the same quantity."""

from __future__ import annotations

from collections.abc import Iterator

from .errors import AmbiguousError, InputError, UnitError, check_range
from .parameters import Parameter, spoken
from .quantities import PLAIN_HABITS, Habits, Kind, find_unit, from_canonical, to_canonical
from .units import Unit, unit_named
from .units import to_canonical as parameter_to_canonical


def convert(
    value: float, from_unit: str, to_unit: str, parameter: Parameter | None = None, habits: Habits = PLAIN_HABITS
) -> float:
    """A number in one unit as a number in another of the same quantity.

    Ordinary units (L, US gal, g, lb, °F, …) and those of the water: dKH, meq/L, mg/L CaCO3; ppt, SG 25/25 (20/20,
    60/60F, 25/4), mS/cm at 25 °C; mg/L NO3, NO3-N, PO4, PO4-P, µg/L P, NH3-N, NO2-N. `parameter` is needed only where
    two of them share both units and differ. Raises UnitError for units that do not belong together,
    AmbiguousError for a bare "gal", DomainError outside what is possible.

    >>> round(convert(8.0, "dKH", "meq/L"), 4), round(convert(78, "F", "C"), 2)
    (2.8532, 25.56)
    """
    check_range("value", value, from_unit, -1e12, 1e12)
    answers = {round(found, 12): found for found in _readings(value, from_unit, to_unit, parameter, habits)}
    if len(answers) == 1:
        return next(iter(answers.values()))
    if answers:
        names = tuple(spoken(each) for each in Parameter if _pair(each, from_unit, to_unit))
        raise AmbiguousError(f"{from_unit} to {to_unit} depends on what is measured", names)
    raise UnitError(f"{from_unit} cannot be turned into {to_unit}: they measure different things")


def _readings(
    value: float, from_unit: str, to_unit: str, parameter: Parameter | None, habits: Habits
) -> Iterator[float]:
    refusal: InputError | None = None
    ordinary = parameter is None and _ordinary(from_unit, to_unit, habits)
    if ordinary:
        kind, source, target = ordinary
        yield from_canonical(to_canonical(value, kind, source), kind, target)
        return
    answered = False
    for each in [parameter] if parameter else Parameter:
        pair = _pair(each, from_unit, to_unit)
        if pair:
            try:
                yield pair[1].from_canonical(parameter_to_canonical(each, value, pair[0]))
                answered = True
            except InputError as error:
                refusal = error
    if refusal and not answered:
        raise refusal


def _ordinary(from_unit: str, to_unit: str, habits: Habits) -> tuple[Kind, str, str] | None:
    try:
        kind, source = find_unit(from_unit, None, habits)
        return kind, source, find_unit(to_unit, kind, habits)[1]
    except UnitError:
        return None


def _pair(parameter: Parameter, from_unit: str, to_unit: str) -> tuple[Unit, Unit] | None:
    try:
        return unit_named(parameter, from_unit), unit_named(parameter, to_unit)
    except UnitError:
        return None
