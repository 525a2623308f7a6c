"""The front door: arguments of public functions are checked against their signatures, and refused by name.

Inside, the modules call each other directly and check ranges where they know them. From `salttide.core` every argument
is read against its annotation first: choices may come as their text and whole numbers as 7.0; what is not finite, too
large to be of this world, or of another type is an InputError at its field.
"""

from __future__ import annotations

import types
from collections.abc import Callable, Collection, Hashable, Mapping, Sequence
from dataclasses import fields, is_dataclass, replace
from datetime import date, datetime
from enum import Enum
from functools import cache, wraps
from inspect import Parameter as Argument
from inspect import signature
from math import inf, isfinite
from numbers import Real
from typing import Annotated, Any, Union, cast, get_args, get_origin, get_type_hints

from .errors import InputError, NumberError, SaltTideError, check_choice

LARGEST = 1e12
"""No volume, mass, time or count of a home aquarium comes near it."""
Boundless = Annotated[float, "or infinity"]
"""A limit; infinity stands for none."""


def held(function: Callable[..., Any]) -> Callable[..., Any]:
    """The same function, with its arguments checked against its annotations."""
    shape = signature(function)

    @wraps(function)
    def door(*args: Any, **named: Any) -> Any:
        hints = _hints(function)
        try:
            bound = shape.bind(*args, **named)
        except TypeError as error:
            raise InputError(f"{function.__name__}: {error}") from None
        for name, value in bound.arguments.items():
            kind = hints.get(name, Any)
            match shape.parameters[name].kind:
                case Argument.VAR_POSITIONAL:
                    bound.arguments[name] = tuple(fitted(each, kind, name) for each in value)
                case Argument.VAR_KEYWORD:
                    bound.arguments[name] = {key: fitted(each, kind, key) for key, each in value.items()}
                case _:
                    bound.arguments[name] = fitted(value, kind, name)
        try:
            return function(*bound.args, **bound.kwargs)
        except SaltTideError:
            raise
        except (ArithmeticError, ValueError) as error:
            text = f"{function.__name__}: with these numbers together there is nothing that can be computed"
            raise InputError(text) from error

    return door


class Held:
    """Base of a frozen dataclass whose fields are checked against their annotations on creation."""

    def __post_init__(self) -> None:
        for name, hint in _hints(cast(Hashable, self.__class__)).items():
            object.__setattr__(self, name, fitted(getattr(self, name), hint, name))


def fitted(value: Any, kind: Any, name: str) -> Any:
    """`value` as `kind` asks for it.

    Raises:
        InputError: at the field `name`, when it is of another type or not finite.

    >>> fitted(7.0, int, "days")
    7
    """
    origin = get_origin(kind)
    if kind is Any or kind is object:
        return value
    if kind is Boundless and value == inf:
        return value
    if origin is Annotated:
        return fitted(value, get_args(kind)[0], name)
    if origin in (Union, types.UnionType):
        return _one_of(value, get_args(kind), name)
    if origin is not None:
        return _many(value, origin, get_args(kind), name)
    if not isinstance(kind, type):
        return value
    if kind in (float, int):
        return _number(value, kind, name)
    if issubclass(kind, Enum):
        return check_choice(kind, value, name)
    if (kind is date and isinstance(value, datetime)) or not isinstance(value, kind):
        raise InputError(f"{name} must be {_called(kind)}, not {_short(value)}", field=name, accepted=_called(kind))
    return _record(value, name) if is_dataclass(kind) else value


def _number(value: Any, kind: type, name: str) -> Any:
    accepted = "a whole number" if kind is int else "a number"
    real = isinstance(value, Real) and not isinstance(value, bool)
    if not real or (kind is int and abs(value) <= LARGEST and value != int(value)):
        raise NumberError(f"{name} must be {accepted}, not {_short(value)}", field=name, accepted=accepted)
    if not abs(value) <= LARGEST:
        raise NumberError(f"{name} of {_short(value)} is out of this world", field=name, accepted=accepted)
    return int(value) if kind is int else value


def _one_of(value: Any, kinds: tuple[Any, ...], name: str) -> Any:
    if value is None and type(None) in kinds:
        return None
    refused: InputError | None = None
    for kind in (kind for kind in kinds if kind is not type(None)):
        try:
            return fitted(value, kind, name)
        except InputError as error:
            refused = refused or error
    raise refused or InputError(f"{name} must be left out, not {_short(value)}", field=name)


def _many(value: Any, origin: Any, kinds: tuple[Any, ...], name: str) -> Any:
    if issubclass(origin, Mapping):
        if not isinstance(value, Mapping):
            raise InputError(f"{name} must be a mapping, not {_short(value)}", field=name, accepted="a mapping")
        return {fitted(key, kinds[0], name): fitted(each, kinds[1], name) for key, each in value.items()}
    if not issubclass(origin, (Sequence, Collection)):
        return value
    if isinstance(value, str | bytes) or not isinstance(value, Collection):
        raise InputError(f"{name} must be a sequence, not {_short(value)}", field=name, accepted="a sequence")
    if origin is tuple and kinds[-1] is not Ellipsis:
        if len(value) != len(kinds):
            raise InputError(f"{name} must have {len(kinds)} parts, not {len(value)}", field=name)
        return tuple(fitted(each, kind, name) for each, kind in zip(value, kinds, strict=True))
    read = [fitted(each, kinds[0], name) for each in value]
    return read if isinstance(value, list) else tuple(read) if isinstance(value, tuple) else type(value)(read)  # type: ignore[call-arg]


def _record(value: Any, name: str) -> Any:
    hints = _hints(value.__class__)
    changed = {}
    for field in fields(value):
        given = getattr(value, field.name)
        if given is field.default:
            continue
        read = fitted(given, hints.get(field.name, Any), f"{name}.{field.name}")
        if (read is not given and read != given) or type(read) is not type(given):
            changed[field.name] = read
    return replace(value, **changed) if changed else value


@cache
def _hints(of: Any) -> dict[str, Any]:
    try:
        return get_type_hints(of, include_extras=True)
    except NameError:
        return {}


def _called(kind: type) -> str:
    named = {str: "text", bool: "yes or no (True or False)", datetime: "a moment", date: "a date"}
    return named.get(kind, f"a {kind.__name__}")


def _short(value: Any) -> str:
    if isinstance(value, int) and abs(value) > LARGEST:
        return "a number of " + f"{len(hex(value)) * 1.2:.0f} digits or so"
    if isinstance(value, float) and not isfinite(value):
        return str(value)
    text = repr(value)
    return text if len(text) <= 40 else text[:37] + "…"
