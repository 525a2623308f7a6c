"""Shapes that several routers share. Values are in the keeper's units, with their text. Small ones that an answer holds
by the hundred are plain dataclasses, which are far cheaper to make.
"""

import warnings
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Annotated, Any, get_args

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic.warnings import UnsupportedFieldAttributeWarning

from salttide.core.basics.errors import InputError
from salttide.core.basics.measures import measure_of, measure_words, measured, weight_measured
from salttide.core.basics.number_text import show_number, significant
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.basics.working import FormulaInput, Step
from salttide.core.ledger.verdict import Verdict
from salttide.core.overview.next_up import NextItem
from salttide.core.science import units
from salttide.core.science.parameters import FACTS, Parameter, Span
from salttide.core.science.units import UnitChoice
from salttide.core.system import catalogue

from .typed import number_typed

Id = Annotated[int, Field(ge=1, le=2**53)]
"""A number that the database can hold and JavaScript can say."""


class Model(BaseModel):
    """A response. Built when first used: building them all would slow the start."""

    model_config = ConfigDict(defer_build=True)


# FastAPI names a body by an alias, which is lost once the body is built on first use.
warnings.filterwarnings("ignore", "The 'alias' attribute with value 'body'", UnsupportedFieldAttributeWarning)


class RequestModel(BaseModel):
    """A request body: unknown fields are refused, not dropped. Built when first used, as above."""

    model_config = ConfigDict(extra="forbid", defer_build=True)

    @model_validator(mode="before")
    @classmethod
    def _of_this_world(cls, given: Any) -> Any:
        """Refuses what no field can hold: a NUL, half a surrogate pair, infinity, 400 digits."""
        for place, leaf in _leaves(given):
            if isinstance(leaf, str) and any(sign == "\0" or "\ud800" <= sign <= "\udfff" for sign in leaf):
                raise ValueError(
                    phrase("models.contains_characters_that_cannot_be", place=place or phrase("models.the_text"))
                )
            if isinstance(leaf, int | float) and not abs(leaf) <= LARGEST:
                raise ValueError(phrase("models.is_far_out_of_range", place=place or phrase("models.the_number")))
        return given

    @model_validator(mode="before")
    @classmethod
    def _as_typed(cls, given: Any) -> Any:
        """Numbers that were sent as text, as this keeper types them; what cannot be read is refused at its field."""
        if not isinstance(given, dict):
            return given
        return {name: _number(name, value) if name in cls._numbers() else value for name, value in given.items()}

    @classmethod
    def _numbers(cls) -> set[str]:
        """The fields that hold a number and no text."""
        return {name for name, field in cls.model_fields.items() if _is_number(field.annotation)}


def _is_number(annotation: Any) -> bool:
    """Whether a field takes a decimal number, or that and nothing."""
    return annotation is float or {*get_args(annotation)} == {float, type(None)}


def _number(field: str, value: Any) -> Any:
    if not isinstance(value, str) or not value.strip():
        return value
    try:
        return number_typed(value, field)
    except InputError:
        return value


LARGEST = 10**15
"""The largest of any number in a body; each field states its own range."""


def _leaves(given: Any, place: str = "") -> Iterator[tuple[str, Any]]:
    """Every text and number in a body, with its field."""
    if isinstance(given, dict):
        for key, value in given.items():
            yield place, str(key)
            yield from _leaves(value, f"{place}.{key}".strip("."))
    elif isinstance(given, list):
        for number, value in enumerate(given):
            yield from _leaves(value, f"{place}.{number}".strip("."))
    else:
        yield place, given


@dataclass(frozen=True, slots=True)
class Shown:
    """A value as the keeper reads it."""

    value: float
    text: str
    unit: str


class BandShown(Model):
    """A target band in the keeper's unit."""

    low: Shown
    high: Shown


@dataclass(frozen=True, slots=True)
class WorkingInput:
    """One input of a formula."""

    symbol: str
    value: str
    unit: str
    note: str


@dataclass(frozen=True, slots=True)
class WorkingStep:
    """One line of a derivation."""

    symbol: str
    name: str
    formula: str
    inputs: list[WorkingInput]
    value: str
    unit: str
    source: str


class VerdictShown(Model):
    """A verdict in words, with its reasons."""

    position: str
    movement: str
    words: str
    out: bool
    reasons: list[str]


class Choice(Model):
    """An entry of a list to choose from."""

    key: str
    name: str
    remark: str = ""


def named(table: str, remarks: bool = False) -> list[Choice]:
    """A list to choose from: names from a table of phrases, with remarks from the table beside it."""
    beside = phrases(f"{table}_remark") if remarks else {}
    return [Choice(key=key, name=name, remark=beside.get(key, "")) for key, name in phrases(table).items()]


class Caution(Model):
    """A caution with its reason."""

    key: str
    title: str
    text: str


def caution_shown(key: str) -> Caution:
    """A caution by its key."""
    found = catalogue.cautions()[key]
    return Caution(key=found.key, title=found.title, text=found.text)


class LabelLine(Model):
    """A line of a label to print."""

    name: str
    value: str


class Recorded(Model):
    """What a command recorded: its key undoes it."""

    command: str
    words: str


def shown(parameter: Parameter, value: float, choice: UnitChoice) -> Shown:
    """A canonical value in the keeper's unit."""
    unit = units.unit_of(parameter, choice)
    converted = unit.from_canonical(value)
    return Shown(value=converted, text=show_number(converted, unit.decimals), unit=unit.label)


def plain(value: float, decimals: int, unit: str) -> Shown:
    """A value of an ordinary quantity, as this keeper reads it."""
    return read_as(*measured(value, unit, decimals))


def weighed(grams: float) -> Shown:
    """A mass as it is weighed out."""
    return read_as(*weight_measured(grams))


def read_as(number: float, decimals: int, unit: str) -> Shown:
    """A number with its decimals in the unit it is read in."""
    return Shown(value=number, text=show_number(number, decimals), unit=unit)


def band_shown(parameter: Parameter, band: Span | None, choice: UnitChoice) -> BandShown | None:
    """A band in the keeper's unit."""
    if band is None:
        return None
    return BandShown(low=shown(parameter, band.low, choice), high=shown(parameter, band.high, choice))


def name_of(parameter: Parameter) -> str:
    """The name of a parameter."""
    return FACTS[parameter].name


def verdict_shown(verdict: Verdict) -> VerdictShown:
    """A verdict for the screen."""
    return VerdictShown(
        position=verdict.position,
        movement=verdict.movement,
        words=verdict.words,
        out=verdict.position.out,
        reasons=list(verdict.reasons),
    )


def working_shown(steps: Iterable[Step]) -> list[WorkingStep]:
    """A derivation for the screen; numbers with five significant digits, as on paper."""
    return [
        WorkingStep(
            symbol=step.symbol,
            name=step.name,
            formula=step.formula,
            inputs=[_input(symbol, given) for symbol, given in step.inputs],
            value=significant(step.value),
            unit=_both(step.value, step.unit),
            source=step.source,
        )
        for step in steps
    ]


def _input(symbol: str, given: FormulaInput) -> WorkingInput:
    return WorkingInput(
        symbol=symbol, value=significant(given.value), unit=_both(given.value, given.unit), note=given.note
    )


def _both(value: float, unit: str) -> str:
    """The unit that a derivation computes in, with the same in what this keeper reads."""
    read = measure_words(value, unit, 2) if measure_of(unit).unit != unit else ""
    return f"{unit} ({read})" if read and not read.endswith(f" {unit}") else unit


class NextShown(Model):
    """An entry of Next."""

    way: str
    title: str
    reason: str
    minutes: int
    urgent: bool
    task: str
    due: str
    step_id: int | None
    cause: str


def next_shown(item: NextItem) -> NextShown:
    """An entry of Next for the screen."""
    return NextShown(
        way=item.way,
        title=item.title,
        reason=item.reason,
        minutes=round(item.minutes),
        urgent=item.urgent,
        task=item.task,
        due=item.due,
        step_id=item.step_id,
        cause=item.cause,
    )
