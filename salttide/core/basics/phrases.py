"""The program's texts by key: the English of routers and screens is in data files, one for each capability."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib import resources
from typing import Any


def phrase(key: str, /, **parts: object) -> str:
    """A text by its key, the file's name first, with its parts put in. Raises KeyError for one that does not exist.

    >>> phrase("change_answer.of_the_old_water_is_left", left="29")
    '29 % of the old water is left.'
    """
    text = _found(key)
    if not isinstance(text, str):
        raise KeyError(key)
    return text.format_map(parts)


def phrases(key: str) -> Mapping[str, str]:
    """A table of names by its key, in their order.

    >>> phrases("change.water")["mix"]
    'a fresh mix'
    """
    table = _found(key)
    if not isinstance(table, dict):
        raise KeyError(key)
    return table


def _found(key: str) -> Any:
    name, *path = key.split(".")
    found: Any = texts(name)
    for part in path:
        found = found[part]
    return found


@cache
def texts(name: str) -> Mapping[str, Any]:
    """All texts of a file."""
    return tomllib.loads((resources.files("salttide.core") / "data" / "phrases" / f"{name}.toml").read_text("utf-8"))
