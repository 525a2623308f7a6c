"""What was found with a task, in plain words: "3/4 dark", "2100 l/h", "full"."""

from __future__ import annotations

from functools import partial

from ..system.observations import InputType, ObservationKind, found_kinds
from ..upkeep.task import TaskKind
from .reader import JotError, Reader

_SHARES = {"full": 100.0, "half full": 50.0, "half": 50.0, "empty": 0.0}


def read_observations(reader: Reader, task: TaskKind) -> dict[str, float | str]:
    """The observations that the next words say, by key, of those that the task records."""
    found: dict[str, float | str] = {}
    while not reader.done:
        open_kinds = [found_kinds()[key] for key in task.records if key not in found]
        pair = reader.quietly(partial(_observation, reader, open_kinds))
        if pair is None:
            break
        found[pair[0]] = pair[1]
    return found


def _observation(reader: Reader, kinds: list[ObservationKind]) -> tuple[str, float | str] | None:
    return _choice(reader, kinds) or _number(reader, kinds)


def _choice(reader: Reader, kinds: list[ObservationKind]) -> tuple[str, float | str] | None:
    """One of the words that an observation may be, or the first of them where it says as much."""
    words: dict[str, tuple[str, float | str]] = {}
    for kind in kinds:
        for choice in kind.choices:
            words.setdefault(choice, (kind.key, choice))
            words.setdefault(choice.split()[0].split("-")[0], (kind.key, choice))
        if kind.unit == "%":
            words |= {word: (kind.key, share) for word, share in _SHARES.items()}
    return reader.choose(words, "what was found")


def _number(reader: Reader, kinds: list[ObservationKind]) -> tuple[str, float | str] | None:
    """A number with the unit of an observation; a fraction is a share."""
    start = reader.at
    value = reader.number()
    if value is None:
        return None
    shares = [kind for kind in kinds if kind.unit == "%"]
    if shares and "/" in reader.tokens[reader.at - 1].text and value <= 1:
        return shares[0].key, value * 100
    units = {kind.unit.lower(): kind for kind in kinds if kind.input_type == InputType.NUMBER and kind.unit}
    kind = reader.choose(units, "a unit")
    if kind is None:
        reader.at = start
        return None
    if not kind.low <= value <= kind.high:
        token, accepted = reader.tokens[start], f"{kind.low:g} to {kind.high:g} {kind.unit}"
        raise JotError(f"{kind.name.lower()}: {accepted}", token.start, token.end, accepted)
    return kind.key, value
