"""Any value from any unit that the app knows to any other of the same quantity."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from ..basics.errors import AmbiguousError, InputError, UnitError, check_choice, check_range
from ..basics.quantities import (
    PLAIN_HABITS,
    Habits,
    Kind,
    find_unit,
    from_canonical,
    to_canonical,
    unchecked_to_canonical,
)
from ..basics.working import Formula, FormulaInput, Result
from .parameters import Parameter, spoken
from .units import Unit, unit_named
from .units import to_canonical as parameter_to_canonical

STRAIGHT = Formula("y", "converted", "k * (x - z)", "", "definition of the units")


def convert(
    value: float, from_unit: str, to_unit: str, parameter: Parameter | None = None, habits: Habits = PLAIN_HABITS
) -> Result:
    """A number in one unit as a number in another of the same quantity, with its working.

    Ordinary units (L, US gal, g, lb, °F, …) and those of the water: dKH, meq/L, mg/L CaCO3; ppt, SG 25/25 (20/20,
    60/60F, 25/4), mS/cm at 25 °C; mg/L NO3, NO3-N, PO4, PO4-P, µg/L P, NH3-N, NO2-N. `parameter` is needed only where
    two of them share both units and differ. Raises UnitError for units that do not belong together or measure two
    substances, AmbiguousError for a bare "gal", for "mg/L N" of what is not said and for ppb of phosphate, DomainError
    outside what is possible.

    >>> round(convert(8.0, "dKH", "meq/L"), 4), round(convert(78, "F", "C"), 2)
    (2.8532, 25.56)
    """
    check_range("value", value, str(from_unit), -1e12, 1e12)
    parameter = check_choice(Parameter, parameter) if parameter else None
    answers = {round(float(found), 12): found for found in _readings(value, from_unit, to_unit, parameter, habits)}
    if len(answers) == 1:
        return next(iter(answers.values()))
    if answers:
        names = tuple(spoken(each) for each in Parameter if _pair(each, from_unit, to_unit))
        raise AmbiguousError(f"{from_unit} to {to_unit} depends on what is measured", names)
    raise UnitError(f"{from_unit} cannot be turned into {to_unit}: they measure different things")


def _readings(
    value: float, from_unit: str, to_unit: str, parameter: Parameter | None, habits: Habits
) -> Iterator[Result]:
    ordinary = parameter is None and _ordinary(from_unit, to_unit, habits)
    if ordinary:
        kind, source, target = ordinary
        to_canonical(value, kind, source)
        yield _straight(value, source, target, lambda x: _both(x, kind, source, target))
        return
    refusal: InputError | None = None
    answered = False
    for each in [parameter] if parameter else Parameter:
        try:
            pair = _pair(each, from_unit, to_unit)
            if pair:
                canonical = parameter_to_canonical(each, value, pair[0])
                answered = True
                yield _of_parameter(value, canonical, *pair)
        except AmbiguousError:
            raise
        except InputError as error:
            refusal = error
    if refusal and not answered:
        raise refusal


def _both(value: float, kind: Kind, source: str, target: str) -> float:
    """From unit to unit without a look at what is possible: the two points of the line may lie outside."""
    return from_canonical(unchecked_to_canonical(value, kind, source), kind, target)


LONG = 1e6
"""Far enough along a line that its slope keeps all its digits."""


def _straight(value: float, source: str, target: str, line: Callable[[float], float]) -> Result:
    offset = line(0.0)
    slope = (line(LONG) - offset) / LONG
    zero = round(-offset / slope, 9)
    step = STRAIGHT.compute(
        k=FormulaInput(slope, f"{target} per {source}"),
        x=FormulaInput(value, source),
        z=FormulaInput(zero + 0.0, source, f"0 {target}"),
    )
    return Result((replace(step, unit=target),))


def _of_parameter(value: float, canonical: float, source: Unit, target: Unit) -> Result:
    """By a line where both units are one; else through the canonical value by the units' own equations."""
    if not source.source and not target.source:
        return _straight(value, source.label, target.label, lambda x: target.from_canonical(source.to_canonical(x)))
    steps = []
    if source.source:
        formula = Formula("S", "salinity", "salinity(x)", "ppt", source.source, {"salinity": source.to_canonical})
        steps.append(formula.compute(x=FormulaInput(value, source.label)))
    if target.source or not steps:
        formula = Formula("y", "converted", "unit(S)", target.label, target.source, {"unit": target.from_canonical})
        steps.append(formula.compute(S=FormulaInput(canonical, "ppt")))
    return Result(tuple(steps))


def _ordinary(from_unit: str, to_unit: str, habits: Habits) -> tuple[Kind, str, str] | None:
    try:
        kind, source = find_unit(from_unit, None, habits)
        return kind, source, find_unit(to_unit, kind, habits)[1]
    except UnitError:
        return None


def _pair(parameter: Parameter, from_unit: str, to_unit: str) -> tuple[Unit, Unit] | None:
    """Both units of a parameter, None where it does not have both. A doubtful one is asked back only where the other
    is this parameter's."""
    found, doubt = [], None
    for name in (from_unit, to_unit):
        try:
            found.append(unit_named(parameter, name))
        except AmbiguousError as error:
            doubt = error
        except UnitError:
            return None
    if doubt is not None:
        raise doubt
    return found[0], found[1]
