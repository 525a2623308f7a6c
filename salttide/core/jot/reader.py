"""A reader for one line of plain words: tokens with their places, and what was expected where it fails."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import NoReturn, TypeVar

from ..basics.errors import AmbiguousError, InputError, SaltTideError
from ..basics.number_text import parse_number
from ..basics.phrasing import either
from ..basics.quantities import Habits, Kind, find_unit, spelled_units, to_canonical
from ..science.parameters import Parameter
from ..science.units import DOUBTFUL, UNITS, Unit, unit_named

T = TypeVar("T")
LONGEST_PHRASE = 4


class JotError(InputError):
    """A line that is not understood; `start` and `end` are the place of the word in the text."""

    code = "jot"

    def __init__(self, message: str, start: int, end: int, accepted: str = "") -> None:
        super().__init__(message, field="text", accepted=accepted)
        self.start, self.end = start, end


@dataclass(frozen=True)
class Token:
    """A word or number of the line, with its place."""

    text: str
    start: int
    end: int


_TOKENS = re.compile(r"\d+/\d+[fF]?|[+\-−]?(?:\d[\d.,]*|[.,]\d+)|[x×](?=\s*\d)|%|=|[^\s\d%=][^\s=%]*")


class Reader:
    """A cursor over the tokens of a line. Whatever was tried and not found is remembered as expected there."""

    def __init__(self, text: str, habits: Habits) -> None:
        self.text, self.habits = text, habits
        self.tokens = [_trimmed(match) for match in _TOKENS.finditer(text)]
        self.at = 0
        self._furthest = 0
        self._expected: list[str] = []
        self.offers: dict[int, list[str]] | None = None

    @property
    def done(self) -> bool:
        """Whether the whole line was read."""
        return self.at >= len(self.tokens)

    def expect(self, *what: str) -> None:
        """Remember what would have been accepted here."""
        if self.at > self._furthest:
            self._furthest, self._expected = self.at, []
        if self.at == self._furthest:
            self._expected += [each for each in what if each not in self._expected]

    def take(self, *words: str) -> bool:
        """Take the next words if they are these; one alternative may hold several words."""
        self._offer(words)
        for phrase in words:
            length = len(phrase.split())
            if " ".join(token.text.lower() for token in self.tokens[self.at : self.at + length]) == phrase:
                self.at += length
                return True
        self.expect(words[0])
        return False

    def may(self, *words: str) -> bool:
        """As `take`, for optional words: they are not listed as expected where something else fails."""
        kept = self._furthest, list(self._expected)
        if self.take(*words):
            return True
        self._furthest, self._expected = kept
        return False

    def need(self, *words: str) -> None:
        """As `take`, but the line is refused without it."""
        if not self.take(*words):
            self.fail()

    def choose(self, choices: Mapping[str, T], named: str) -> T | None:
        """The value of the longest phrase of `choices` (lower case) that comes next."""
        self._offer(choices)
        for length in range(LONGEST_PHRASE, 0, -1):
            phrase = " ".join(token.text.lower() for token in self.tokens[self.at : self.at + length])
            if len(self.tokens) - self.at >= length and phrase in choices:
                self.at += length
                return choices[phrase]
        self.expect(named)
        return None

    def _offer(self, phrases: Iterable[str]) -> None:
        """Remember what could be written here, when completing."""
        if self.offers is not None:
            self.offers.setdefault(self.at, []).extend(phrases)

    def number(self, named: str = "a number") -> float | None:
        """The next number as this keeper writes it. An ambiguous one is asked about at its place."""
        token = self.tokens[self.at] if not self.done else None
        if token is None or not re.fullmatch(r"[+\-−]?[\d.,]*\d[\d.,]*", token.text):
            self.expect(named)
            return None
        value = self.placed(lambda: parse_number(token.text, self.habits.sign), self.at)
        self.at += 1
        return value

    def ordinary_unit(self, kind: Kind | None = None) -> tuple[Kind, str] | None:
        """The next words as an ordinary unit, of a kind if given."""
        known = dict.fromkeys((*spelled_units(), *_GALLONS))
        start = self.at
        phrase = self.choose({spelling: spelling for spelling in known}, "a unit" if kind is None else _UNIT_OF[kind])
        if phrase is None:
            return None
        found = self.placed(lambda: find_unit(phrase, None, self.habits), start)
        if kind is not None and found[0] != kind:
            self.at = start
            self.expect(_UNIT_OF[kind])
            return None
        return found

    def unit_of(self, parameter: Parameter) -> Unit | None:
        """The next words as a unit of a parameter."""
        spellings = [spelling for unit in UNITS[parameter] for spelling in unit.spellings]
        known = {spelling: spelling for spelling in (*spellings, *DOUBTFUL.get(parameter, ()))}
        start = self.at
        found = self.choose(known, either([unit.label for unit in UNITS[parameter] if unit.label]) or "no unit")
        return None if found is None else self.placed(lambda: unit_named(parameter, found), start)

    def quantity(self, kind: Kind, unit: str = "") -> float | None:
        """The next number with a unit of a kind, canonical; where no unit follows, `unit` is taken, if given."""
        start = self.at
        value = self.number(f"a {kind.value}, such as {_EXAMPLES[kind]}")
        if value is None:
            return None
        number_at = self.at
        found = self.ordinary_unit(kind) or ((kind, unit) if unit else None)
        if found is None:
            self.at = start
            self.tokens_expected_at(number_at, _UNIT_OF[kind])
            return None
        return self.placed(lambda: to_canonical(value, *found), start)

    def tokens_expected_at(self, at: int, what: str) -> None:
        """Remember an expectation at another place than the cursor's."""
        here, self.at = self.at, at
        self.expect(what)
        self.at = here

    def placed(self, act: Callable[[], T], at: int) -> T:
        """Do something with the token at a place; errors point at that place."""
        try:
            return act()
        except AmbiguousError as error:
            token = self.tokens[at]
            raise JotError(error.message, token.start, token.end, either(error.readings)) from error
        except SaltTideError as error:
            token = self.tokens[min(at, len(self.tokens) - 1)]
            accepted = error.accepted if isinstance(error, InputError) else ""
            raise JotError(error.message, token.start, token.end, accepted) from error

    def end(self) -> None:
        """The line must end here; what is left is pointed at."""
        if not self.done:
            self.fail()

    def fail(self) -> NoReturn:
        """Point at the furthest word that was not understood, with what would be accepted."""
        at = max(self._furthest, self.at)
        accepted = either(self._expected)
        if at >= len(self.tokens):
            end = len(self.text.rstrip())
            raise JotError(f"here goes {accepted}", end, end, accepted)
        token = self.tokens[at]
        wanted = f": here goes {accepted}" if accepted and at == self._furthest else " after the end of the sum"
        raise JotError(f"“{token.text}” is not understood{wanted}", token.start, token.end, accepted)


def _trimmed(match: re.Match[str]) -> Token:
    """A token without the comma or full stop that may end it."""
    text = match.group().rstrip(".,?!") or match.group()
    return Token(text, match.start(), match.start() + len(text))


def spelled(names: Iterable[tuple[str, T]], any_word: bool = False) -> dict[str, T]:
    """Phrases in lower case to what they name, also by their first word (or any) where it is unique.

    >>> spelled([("frozen mysids", 1), ("frozen krill", 2)], any_word=True)
    {'frozen mysids': 1, 'frozen krill': 2, 'mysids': 1, 'krill': 2}
    """
    pairs = [(" ".join(name.lower().split()), value) for name, value in names]
    found = dict(pairs)
    words = [(word, value) for name, value in pairs for word in name.split()[: None if any_word else 1]]
    known = [word for word, _ in words]
    for word, value in words:
        if known.count(word) == 1:
            found.setdefault(word, value)
    return found


_GALLONS = ("gal", "gallon", "gallons", "qt", "quart", "quarts", "pt", "pint", "pints", "fl oz", "floz", "gph", "gal/h")
_UNIT_OF = {
    Kind.VOLUME: "a volume's unit (L, mL, US gal)",
    Kind.MASS: "a mass's unit (g, kg, oz, lb)",
    Kind.TEMPERATURE: "°C or °F",
    Kind.LENGTH: "cm, mm, m or in",
    Kind.TIME: "min, h or days",
    Kind.FLOW: "L/h or L/min",
}
_EXAMPLES = {
    Kind.VOLUME: "60 l",
    Kind.MASS: "50 g",
    Kind.TEMPERATURE: "25 C",
    Kind.LENGTH: "44 cm",
    Kind.TIME: "7 days",
    Kind.FLOW: "600 l/h",
}
