"""The table of troubles: the questions and answers of the key, and how often each answer goes with each trouble."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib import resources
from typing import Any

from ..basics.errors import DataError
from ..system.catalogue import cautions

OFTEN: Mapping[str, float] = {"always": 0.9, "often": 0.6, "sometimes": 0.3, "rarely": 0.08, "never": 0.01}
"""How often, in the words of the table, as a probability (judgement)."""
UNSAID = 0.03
"""An answer that a trouble's table does not name (judgement)."""


@dataclass(frozen=True)
class Question:
    """A question of the key. asks: answered by a tap; else a closer look, with how it is done · signs: the finding of a
    visual check that answers it."""

    key: str
    text: str
    answers: Mapping[str, str]
    asks: bool = True
    how: str = ""
    signs: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class TroubleKind:
    """A trouble: its name, what is done first, how often it is met, and for each question how often each answer goes
    with it (a table of probabilities that sum to 1); facts: how often what the record shows goes with it."""

    key: str
    name: str
    about: str
    first: str
    caution: str
    prior: float
    answers: Mapping[str, Mapping[str, float]]
    facts: Mapping[str, float]


@cache
def questions() -> dict[str, Question]:
    """The questions of the key, in the order they are asked where all tell the same."""
    found = tomllib.loads(_folder().joinpath("trouble_questions.toml").read_text("utf-8"))
    return {key: Question(key, **row) for key, row in found.items()}


@cache
def troubles() -> dict[str, TroubleKind]:
    """The troubles, from one file each. Raises DataError that names the file."""
    folder = _folder() / "troubles"
    files = sorted(entry.name for entry in folder.iterdir() if entry.name.endswith(".toml"))
    return {name[:-5]: read_trouble(name[:-5], folder.joinpath(name).read_text("utf-8")) for name in files}


def _folder() -> Any:
    return resources.files("salttide.core") / "data"


def read_trouble(key: str, text: str) -> TroubleKind:
    """A trouble from the text of its file. Raises DataError for a question, answer, fact or word that is not known."""
    table = tomllib.loads(text)
    answers = {}
    for name, row in table.items():
        if name in _OWN:
            continue
        if name not in questions():
            raise DataError(f"troubles/{key}.toml: there is no question “{name}”")
        if unknown := {*row} - {*questions()[name].answers}:
            raise DataError(f"troubles/{key}.toml: “{name}” has no answer “{sorted(unknown)[0]}”")
        answers[name] = _shares(key, row, questions()[name])
    facts = {name: _often(key, word) for name, word in table.get("facts", {}).items()}
    if unknown := {*facts} - {*FACTS}:
        raise DataError(f"troubles/{key}.toml: “{sorted(unknown)[0]}” is nothing that the record shows")
    caution = table.get("caution", "")
    if caution and caution not in cautions():
        raise DataError(f"troubles/{key}.toml: there is no caution “{caution}”")
    prior = _often(key, table["prior"])
    return TroubleKind(key, table["name"], table["about"], table["first"], caution, prior, answers, facts)


_OWN = ("name", "prior", "about", "first", "caution", "facts")
"""What a file says of the trouble itself; all else are questions."""


def _shares(key: str, row: Mapping[str, str], question: Question) -> dict[str, float]:
    """What each answer has of the whole."""
    weights = {name: _often(key, row[name]) if name in row else UNSAID for name in question.answers}
    whole = sum(weights.values())
    return {name: weight / whole for name, weight in weights.items()}


def _often(key: str, word: str) -> float:
    if word not in OFTEN:
        raise DataError(f"troubles/{key}.toml: “{word}” is not one of {', '.join(OFTEN)}")
    return OFTEN[word]


@dataclass(frozen=True)
class RecordedFact:
    """Something the record may show: in words where it holds and where it does not, and how often it holds where a
    trouble does not name it (judgement)."""

    holds: str
    fails: str
    usual: float


FACTS: Mapping[str, RecordedFact] = {
    "no3_zero": RecordedFact("nitrate is at nothing", "nitrate is not at nothing", 0.15),
    "po4_zero": RecordedFact("phosphate is at nothing", "phosphate is not at nothing", 0.15),
    "one_zero": RecordedFact(
        "one of nitrate and phosphate is at nothing, the other is not", "nitrate and phosphate go together", 0.05
    ),
    "no3_high": RecordedFact("nitrate is over its band", "nitrate is not over its band", 0.2),
    "po4_high": RecordedFact("phosphate is over its band", "phosphate is not over its band", 0.2),
    "young": RecordedFact("the tank is under four months old", "the tank is over four months old", 0.15),
    "algae_beaten": RecordedFact("growth that was there has gone", "no growth has gone lately", 0.08),
    "growth_now": RecordedFact("something grows that takes nutrients up", "nothing grows that takes nutrients up", 0.3),
    "still_spots": RecordedFact("detritus gathers where the water stands", "no still corners were seen", 0.2),
    "source_unpurified": RecordedFact("the fresh water is not purified", "the fresh water is purified", 0.1),
    "carbon_dosed": RecordedFact("carbon is dosed", "no carbon is dosed", 0.05),
    "dosed": RecordedFact("alkalinity or calcium was dosed within a day", "nothing was dosed within a day", 0.15),
    "snow_seen": RecordedFact("white flakes or scale were seen", "no white flakes were seen", 0.03),
    "salinity_off": RecordedFact("salinity is out of its band", "salinity is in its band", 0.1),
    "ph_low": RecordedFact("pH is under its band", "pH is not low", 0.1),
    "ph_swings": RecordedFact("pH swings far between day and night", "pH does not swing far", 0.05),
    "hot": RecordedFact("the water is too warm", "the water is not too warm", 0.04),
    "cold": RecordedFact("the water is too cold", "the water is not too cold", 0.04),
    "ammonia": RecordedFact("there is ammonia", "there is no ammonia", 0.04),
}
"""What the record may show."""
