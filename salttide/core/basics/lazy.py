"""Large libraries, loaded on first use: the app starts without them."""

from __future__ import annotations

from importlib import import_module
from typing import Any


class LazyModule:
    """A module by its name; what was used once is cached, so that using it again costs no more than an attribute.

    >>> LazyModule("math").floor(2.5)
    2
    """

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, attribute: str) -> Any:
        found = getattr(import_module(self._name), attribute)
        setattr(self, attribute, found)
        return found
