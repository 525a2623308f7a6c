"""What a rule of judgement says: the finding, how sure it is, its evidence, and the one step it advises."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..science.parameters import Parameter


class Certainty(StrEnum):
    """How sure a finding is, in words."""

    CERTAIN = "certain"
    LIKELY = "likely"
    POSSIBLE = "possible"


class Advice(StrEnum):
    """The kind of step that is advised."""

    ACT = "act now"
    TEST_AGAIN = "test again"
    TEST = "test"
    LOOK = "look"
    IDENTIFY = "identify"
    LEAVE = "leave alone"
    CORRECT = "correct"
    DOSE = "dose"
    CHANGE = "change water"
    EXPORT = "export"
    FEED = "raise gently"
    AIR = "air"


@dataclass(frozen=True)
class RuleKind:
    """A rule for the keeper: its name, what it looks for, the kind of step it advises, its place in the order. Its
    finding waits while a rule in `waits_for` has one on the same parameter: one cause at a time. It is urgent where it
    is about one of `urgent_for`, and it is the cause of what the rules in `explains` find on its parameter.
    """

    key: str
    name: str
    about: str
    move: Advice
    rank: int
    waits_for: tuple[str, ...]
    urgent_for: frozenset[Parameter] = frozenset()
    explains: tuple[str, ...] = ()


@dataclass(frozen=True)
class Finding:
    """What one rule found.

    words: the finding in a few words · reason: why, with the numbers · advice: the smallest sufficient step ·
    unless: what would change its mind · looked_at: the readings, signs and events it rests on · move: where it is
    not that of its rule · to_do: the step in a few words, for a list of what to do; empty: the finding's own words.
    """

    words: str
    reason: str
    advice: str
    unless: str
    looked_at: tuple[str, ...]
    certainty: Certainty
    about: tuple[Parameter, ...] = ()
    cautions: tuple[str, ...] = ()
    move: Advice | None = None
    rule: str = ""
    to_do: str = ""

    @property
    def step(self) -> Advice:
        """The kind of step it advises; a finding from `judge_situation` always has one."""
        assert self.move
        return self.move
