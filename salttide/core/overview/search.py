"""Find: what the household has, by the words of its name; the nearest first."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum


class Found(StrEnum):
    """What something found is."""

    SYSTEM = "system"
    PARAMETER = "parameter"
    TASK = "task"
    ANIMAL = "animal"
    SALT = "salt"
    ADDITIVE = "additive"
    FOOD = "food"
    INSTRUMENT = "instrument"
    ENTRY = "entry"


@dataclass(frozen=True)
class Hit:
    """Something that can be found. title: its name · detail: what tells it from others · key: its number or key ·
    system_id: where it is, 0 for the household's · also: other words it is known by."""

    kind: Found
    title: str
    detail: str = ""
    key: str = ""
    system_id: int = 0
    also: str = ""


def folded(text: str) -> str:
    """Lower case, without accents and signs.

    >>> folded("Stöckhardt's β-8")
    "stockhardt's β-8"
    """
    plain = unicodedata.normalize("NFKD", text.lower())
    return "".join(sign for sign in plain if not unicodedata.combining(sign))


def found_among(text: str, hits: Iterable[Hit], current: int = 0) -> list[Hit]:
    """The hits that have every word of a text at the beginning of a word of theirs; the nearest first: whose name it
    is, whose name begins with it, what belongs to the current system, then in the order given.

    >>> [hit.title for hit in found_among("bea", [Hit(Found.TASK, "Baste", "Beacon"), Hit(Found.SYSTEM, "Beacon")])]
    ['Beacon', 'Baste']
    """
    words = folded(text).split()
    if not words:
        return []
    known = [hit for hit in hits if _has(hit, words)]
    return sorted(known, key=lambda hit: _distance(hit, " ".join(words), current))


def _has(hit: Hit, words: list[str]) -> bool:
    held = folded(f"{hit.title} {hit.detail} {hit.also}").replace("-", " ").split()
    return all(any(one.startswith(word) for one in held) for word in words)


def _distance(hit: Hit, text: str, current: int) -> tuple[int, int]:
    title = folded(hit.title)
    near = 0 if title == text else 1 if title.startswith(text) else 2 if f" {text}" in title else 3
    return near, int(hit.system_id not in (0, current))
