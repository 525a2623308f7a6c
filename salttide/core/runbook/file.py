"""The data files of runbooks, read once: validated by their schema and their references; errors name file and line."""

from __future__ import annotations

import json
import re
import string
import tomllib
from collections.abc import Callable, Iterator, Mapping
from functools import cache
from importlib import resources
from typing import Any

from ..basics.errors import DataError, InputError
from ..planning.match_gate import GateKind
from ..science.parameters import Parameter
from ..science.units import parse_measurement, unit_of
from ..system.catalogue import cautions, event_kinds, gear_kinds, kit_items, rule_kinds
from ..system.observations import found_kinds
from ..upkeep.task import tasks
from .steps import AirClock, Counted, Emergency, FollowUp, Runbook, RunbookStep, RunbookStepKind, Subject, Trouble
from .terms import FLAGS, LISTS, SLOTS, TIMES

MINUTES = {"min": 1.0, "h": 60.0, "d": 1440.0}
"""Units of time that a runbook may name."""
_LIST = re.compile(r"^\s*\[\[\s*(\w+)\s*\]\]")


def runbook(key: str) -> Runbook:
    """One runbook. Raises DataError if there is none of that name, or with file and line where it is wrong."""
    if key not in runbook_keys():
        raise DataError(f"there is no runbook “{key}”: {', '.join(runbook_keys())}")
    return _packaged(key)


@cache
def _packaged(key: str) -> Runbook:
    return read_runbook(key, _folder().joinpath(f"{key}.toml").read_text("utf-8"))


@cache
def runbook_keys() -> tuple[str, ...]:
    """The keys of all runbooks, by name of their files."""
    return tuple(sorted(entry.name[:-5] for entry in _folder().iterdir() if entry.name.endswith(".toml")))


def _folder() -> Any:
    return resources.files("salttide.core") / "data" / "runbooks"


@cache
def _validator() -> Callable[[Any], Any]:
    import fastjsonschema

    schema = json.loads(_folder().joinpath("schema.json").read_text("utf-8"))
    compiled: Callable[[Any], Any] = fastjsonschema.compile(schema)
    return compiled


def read_runbook(key: str, text: str) -> Runbook:
    """A runbook from the text of its file. Raises DataError that names the file and the line."""
    import fastjsonschema

    try:
        table = tomllib.loads(text)
        if "emergency" in table:
            table.setdefault("trouble", _in_every_emergency([row["id"] for row in table.get("step", [])]))
        _validator()(table)
    except tomllib.TOMLDecodeError as error:
        raise DataError(f"runbooks/{key}.toml: {error}") from error
    except fastjsonschema.JsonSchemaValueException as error:
        raise _wrong(key, text, error.path[1:], error.message.replace("data.", "")) from error
    for path, what in _faults(Subject(table["subject"]), table):
        raise _wrong(key, text, path, what)
    return Runbook(
        key, table["name"], Subject(table["subject"]), table["about"],
        tuple(_step(row) for row in table["step"]),
        tuple(Trouble(**{**row, "during": tuple(row["during"])}) for row in table.get("trouble", [])),
        tuple(AirClock(**row) for row in table.get("clock", [])),
        tuple(
            FollowUp(_minutes(row["after"]), row["name"], row["why"], row.get("when", ""))
            for row in table.get("follow_up", [])
        ),
        table.get("task", ""),
        table.get("happening", ""),
        _emergency(table["emergency"]) if "emergency" in table else None,
    )  # fmt: skip


def _in_every_emergency(steps: list[str]) -> list[dict[str, Any]]:
    """What can go wrong in any emergency, at any of its steps."""
    text = (resources.files("salttide.core") / "data" / "emergency_troubles.toml").read_text("utf-8")
    return [{**row, "during": steps} for row in tomllib.loads(text)["trouble"]]


def _wrong(key: str, text: str, path: list[str], what: str) -> DataError:
    return DataError(f"runbooks/{key}.toml, line {line_of(text, path)}: {what}")


def line_of(text: str, path: list[str]) -> int:
    """The line (from 1) of what a path names in a TOML text: ["step", "3", "timer"] is `timer` of the fourth [[step]].

    The header of its table where the key itself is not written there.

    >>> line_of('name = "x"\\n[[step]]\\nid = "a"\\n[[step]]\\nid = "b"', ["step", "1", "id"])
    5
    """
    lines, found, start, key = text.splitlines(), -1, 0, path[0] if path else ""
    if len(path) > 1 and path[1].isdigit():
        for number, line in enumerate(lines):
            header = _LIST.match(line)
            if header and header.group(1) == path[0]:
                found += 1
                start = number if found == int(path[1]) else start
        key = path[2] if len(path) > 2 else ""
    for number in range(start + 1 if start else 0, len(lines)):
        if start and _LIST.match(lines[number]):
            break
        if key and re.match(rf"^\s*{re.escape(key)}\s*=", lines[number]):
            return number + 1
    return start + 1


def _faults(subject: Subject, table: Mapping[str, Any]) -> Iterator[tuple[list[str], str]]:
    """References of a file to things that do not exist, in the order of the file."""
    ids = [row["id"] for row in table["step"]]
    clocks = {row["key"] for row in table.get("clock", [])}
    if table.get("task", "water_change") not in tasks():
        yield ["task"], f"“{table['task']}” is not a care task"
    if table.get("happening", "other") not in event_kinds():
        yield ["happening"], f"“{table['happening']}” is not an event: {', '.join(event_kinds())}"
    if "emergency" in table:
        yield from _emergency_faults(subject, table["emergency"])
    for number, row in enumerate(table["step"]):
        for name, what in _step_faults(subject, row, ids[:number], clocks):
            yield ["step", str(number), name], what
    for number, row in enumerate(table.get("trouble", [])):
        unknown = [step for step in row["during"] if step not in ids]
        if unknown:
            yield ["trouble", str(number), "during"], f"there is no step “{unknown[0]}”"
        for name, what in _text_faults(subject, row):
            yield ["trouble", str(number), name], what
    for number, row in enumerate(table.get("follow_up", [])):
        for name, what in _text_faults(subject, row):
            yield ["follow_up", str(number), name], what


def _emergency(row: Mapping[str, Any]) -> Emergency:
    found: dict[str, Any] = {name: tuple(value) if isinstance(value, list) else value for name, value in row.items()}
    return Emergency(**found)


def _emergency_faults(subject: Subject, row: Mapping[str, Any]) -> Iterator[tuple[list[str], str]]:
    for key in row.get("holds", []):
        if key not in tasks():
            yield ["holds"], f"“{key}” is not a care task"
    for key in row.get("rules", []):
        if key not in rule_kinds():
            yield ["rules"], f"“{key}” is not a rule of judgement"
    for name, what in _text_faults(subject, {**row, "never": " ".join(row["never"])}):
        yield [name], what


def _step_faults(
    subject: Subject, row: Mapping[str, Any], before: list[str], clocks: set[str]
) -> Iterator[tuple[str, str]]:
    if row["id"] in before:
        yield "id", f"there are two steps “{row['id']}”"
    for key in row.get("gear", []):
        if key not in gear_kinds():
            yield "gear", f"“{key}” is not a kind of gear: {', '.join(gear_kinds())}"
    for key in row.get("needs", []):
        if key not in kit_items():
            yield "needs", f"“{key}” is not in the kit: {', '.join(kit_items())}"
    for key in row.get("finds", []):
        if key not in found_kinds():
            yield "finds", f"“{key}” is not something that is found: {', '.join(found_kinds())}"
    if row.get("list") and row["list"] not in LISTS[subject]:
        yield "list", f"there is no list “{row['list']}” here: {', '.join(sorted(LISTS[subject]))}"
    if row.get("clock") and row["clock"] not in clocks:
        yield "clock", f"there is no clock “{row['clock']}”"
    for name, bound in row.get("measure", {}).items():
        try:
            _bound(name, bound)
        except InputError as error:
            yield "measure", error.message
    yield from _text_faults(subject, row)


def _text_faults(subject: Subject, row: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    """Slots, conditions, times and cautions, wherever they stand."""
    for name, value in row.items():
        if isinstance(value, str) and name != "timer":
            unknown = {slot for _, slot, _, _ in string.Formatter().parse(value) if slot} - SLOTS[subject]
            if unknown:
                yield name, f"nothing fills {{{sorted(unknown)[0]}}} here: {', '.join(sorted(SLOTS[subject]))}"
    if row.get("when", "").removeprefix("not ") not in FLAGS[subject] | {""}:
        yield "when", f"“{row['when']}” is nothing that can hold: {', '.join(sorted(FLAGS[subject]))}"
    if row.get("caution", "electricity") not in cautions():
        yield "caution", f"there is no caution “{row['caution']}”"
    for name in ("timer", "after"):
        if name in row:
            try:
                _timer(subject, row[name])
            except InputError as error:
                yield name, error.message


def _timer(subject: Subject, text: str) -> float | str:
    if not text.startswith("{"):
        return _minutes(text)
    if text[1:-1] not in TIMES[subject]:
        raise InputError(f"there is no time {text} here: {', '.join(sorted(TIMES[subject])) or 'none'}")
    return text[1:-1]


def _minutes(text: str) -> float:
    number, unit = text.split(" ", 1)
    if unit not in MINUTES:
        raise InputError(f"“{unit}” is not a unit of time: {', '.join(MINUTES)}")
    return float(number) * MINUTES[unit]


def _bound(name: str, text: str) -> str | tuple[float, float] | None:
    """ "any", "band", or an interval with its unit: "24 to 26.5 °C"."""
    if name not in set(Parameter):
        raise InputError(f"“{name}” is not measured here: {', '.join(Parameter)}")
    parameter = Parameter(name)
    if text in ("any", "band"):
        return None if text == "any" else text
    found = re.fullmatch(r"([\d.]+) to ([\d.]+) ?(.*)", text)
    if not found:
        raise InputError(f"“{text}” is no interval", accepted="any, band, or such as 24 to 26.5 °C")
    usual = unit_of(parameter, {}).key
    low, high = (parse_measurement(parameter, f"{end} {found[3]}".strip(), usual) for end in (found[1], found[2]))
    return low, high


def _step(row: Mapping[str, Any]) -> RunbookStep:
    """A step from a validated file."""
    plain = {name: row[name] for name in _PLAIN if name in row}
    timer = row.get("timer")
    return RunbookStep(
        kind=RunbookStepKind(row["kind"]),
        timer=timer[1:-1] if timer and timer.startswith("{") else _minutes(timer) if timer else None,
        tick_list=row.get("list", ""),
        gear=tuple(row.get("gear", ())),
        turns=row.get("turns", row["list"] if row.get("list") in ("off", "on") else ""),
        count=Counted(row["count"]) if "count" in row else None,
        gate=GateKind(row["gate"]) if "gate" in row else None,
        measure={Parameter(name): _bound(name, bound) for name, bound in row.get("measure", {}).items()},
        needs=tuple(row.get("needs", ())),
        finds=tuple(row.get("finds", ())),
        **plain,
    )


_PLAIN = (
    "id", "title", "text", "done", "caution", "when", "group", "meanwhile", "reminder", "waits", "optional", "clock",
    "marks", "entry",
)  # fmt: skip
