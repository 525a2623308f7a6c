"""Methods: questions on which keepers differ, and the choices Salt Tide supports."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..basics.errors import InputError
from ..science.parameters import Parameter, Span


@dataclass(frozen=True)
class MethodChoice:
    """One way of doing it: what it demands and risks in one line, and the defaults it sets. sets: fields of a system's
    set-up · bands: target bands, canonical · risk: what a beginner should be told once before choosing it.
    """

    key: str
    name: str
    line: str
    risk: str = ""
    sets: Mapping[str, float] = field(default_factory=dict)
    bands: Mapping[Parameter, Span] = field(default_factory=dict)


@dataclass(frozen=True)
class MethodQuestion:
    """A question on which keepers differ, with its choices."""

    key: str
    name: str
    choices: Mapping[str, MethodChoice]


def check_answers(questions: Mapping[str, MethodQuestion], answers: Mapping[str, str]) -> None:
    """Refuse an unknown question or choice at its field, with what is known."""
    for question, choice in answers.items():
        if question not in questions:
            raise InputError(f"“{question}” is not a question of the methods", field=f"methods.{question}")
        known = questions[question].choices
        if choice not in known:
            raise InputError(f"“{choice}” is not a choice here", field=f"methods.{question}", accepted=", ".join(known))


def new_risks(
    questions: Mapping[str, MethodQuestion], before: Mapping[str, str], after: Mapping[str, str]
) -> tuple[MethodChoice, ...]:
    """Risky choices that are new: mentioned once, then respected."""
    chosen = [questions[key].choices[choice] for key, choice in after.items() if before.get(key) != choice]
    return tuple(choice for choice in chosen if choice.risk)
