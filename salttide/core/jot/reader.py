"""A reader for one line of plain words: tokens with their places, and what was expected where it fails."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import NoReturn, TypeVar

from ..basics.errors import AmbiguousError, InputError, SaltTideError
from ..basics.number_text import parse_number
from ..basics.phrasing import either
from ..basics.quantities import Habits, Kind, find_unit, spelled_units, to_canonical
from ..science.parameters import Parameter
from ..science.units import DOUBTFUL, UNITS, Unit, unit_named

T = TypeVar("T")
LONGEST_PHRASE = 6


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


_TOKENS = re.compile(
    r"\d{4}-\d\d-\d\d(?!\d)|\d{1,2}:\d\d(?!\d)|\d+/\d+[fF]?|[<≤]|[+\-−]?(?:\d[\d.,]*|[.,]\d+)|[x×](?=\s*\d)|%|="
    r"|[^\s\d%=<≤][^\s=%]*"
)
_NUMBER = re.compile(r"[+\-−]?[\d.,]*\d[\d.,]*|\d+/\d+")
_ARTICLES = ("the", "a", "an", "my", "our")
"""Words that name nothing: a phrase is the same with and without."""
_COUNTS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


class Reader:
    """A cursor over the tokens of a line. Whatever was tried and not found is remembered as expected there."""

    def __init__(self, text: str, habits: Habits) -> None:
        self.text, self.habits = text, habits
        self.tokens = [token for match in _TOKENS.finditer(text) if (token := _trimmed(match)).text]
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

    def quietly(self, act: Callable[[], T]) -> T:
        """Try something that need not be there: it is not listed as expected where something else fails."""
        kept = self._furthest, list(self._expected)
        found = act()
        if not found:
            self._furthest, self._expected = kept
        return found

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
        return self.quietly(lambda: self.take(*words))

    def need(self, *words: str) -> None:
        """As `take`, but the line is refused without it."""
        if not self.take(*words):
            self.fail()

    def choose(self, choices: Mapping[str, T], named: str) -> T | None:
        """The value of the longest phrase of `choices` (lower case) that comes next."""
        self._offer(choices)
        known: dict[str, T] = {_bare(phrase.split()): value for phrase, value in [*choices.items()][::-1]}
        left = [token.text.lower() for token in self.tokens[self.at : self.at + LONGEST_PHRASE]]
        for length in range(len(left), 0, -1):
            phrase = _bare(left[:length])
            if phrase in known and left[length - 1] not in _ARTICLES:
                self.at += length
                return known[phrase]
        self.expect(named)
        return None

    def _offer(self, phrases: Iterable[str]) -> None:
        """Remember what could be written here, when completing."""
        if self.offers is not None:
            self.offers.setdefault(self.at, []).extend(phrases)

    def number(self, named: str = "a number") -> float | None:
        """The next number as this keeper writes it. An ambiguous one is asked about at its place."""
        token = self.tokens[self.at] if not self.done else None
        if token and token.text.lower() in _COUNTS:
            self.at += 1
            return float(_COUNTS.index(token.text.lower()) + 1)
        if token is None or not _NUMBER.fullmatch(token.text):
            self.expect(named)
            return None
        length = self._digits_from(self.at)
        written = " ".join(each.text for each in self.tokens[self.at : self.at + length])
        value = self.placed(lambda: parse_number(written, self.habits.sign), self.at)
        self.at += length
        return value

    def _digits_from(self, at: int) -> int:
        """How many tokens one number is written in: "1 000" and "1 1/2" are two."""
        first, *rest = [token.text for token in self.tokens[at : at + 3]]
        if not re.fullmatch(r"[+\-−]?\d{1,3}", first):
            return 1
        if rest and re.fullmatch(r"\d+/\d+", rest[0]):
            return 2
        thousands = [bool(re.fullmatch(r"\d{3}(?:[.,]\d+)?", text)) for text in rest]
        return 1 + (thousands.index(False) if False in thousands else len(thousands))

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
            raise JotError(f"Expected next: {accepted}", end, end, accepted)
        token = self.tokens[at]
        wanted = f". Expected: {accepted}" if accepted and at == self._furthest else " after the end"
        raise JotError(f"I can't read “{token.text}”{wanted}", token.start, token.end, accepted)


def _trimmed(match: re.Match[str]) -> Token:
    """A token without the punctuation that may end it; empty where it is nothing else."""
    text = match.group().rstrip(".,;:?!")
    return Token(text, match.start(), match.start() + len(text))


def _bare(words: Sequence[str]) -> str:
    """A phrase without articles."""
    return " ".join(word for word in words if word not in _ARTICLES)


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
    Kind.VOLUME: "a unit such as L, mL or US gal",
    Kind.MASS: "a unit such as g, kg, oz or lb",
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
